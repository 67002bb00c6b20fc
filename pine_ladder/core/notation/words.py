"""The notation's fixed words: spelling, other spellings, and the nearest one to a slip."""

from collections.abc import Iterable

from rapidfuzz import fuzz, process

from pine_ladder.core.plan import Role, ScoreKind

ROLE_TITLES = {role: role.value.capitalize() for role in Role}

FORMAT_WORDS = (
    "rounds",
    "sets",
    "AMRAP",
    "every",
    "EMOM",
    "intervals",
    "Tabata",
    "for time",
    "accumulate",
    "continuous",
)
MODIFIER_WORDS = (
    "rest",
    "cap",
    "build",
    "for quality",
    "score",
    "tie-break",
    "pace steady",
    "pace hard",
    "target",
    "work",
    "aim",
    "until missed",
    "teams of",
    "alternate",
    "share",
    "together",
    "heats",
)
DETAIL_WORDS = (
    "each side",
    "alternating",
    "left",
    "right",
    "one arm",
    "unbroken",
    "switch every",
    "tempo",
    "pause",
    "sets",
)
LOAD_PAIRS = (
    "24/16 kg",
    "16/12 kg",
    "12/8 kg",
    "60/40 kg",
    "52.5/37.5 kg",
    "42.5/30 kg",
    "20/15 kg",
    "115/85 lb",
    "95/65 lb",
    "53/35 lb",
    "2 x 22.5/15 kg",
    "60/50 cm",
    "24/20 in",
)
"""Usual steps of bars, bells and boxes for the two tracks (common practice, no source)."""
LOAD_WORDS = ("60%", "70%", "75%", "80%", "85%", "0.5 bw", "RPE 7", "RPE 8", "heavy", "light")
HEADER_WORDS = ("date", "class", "track", "note", "theme", "cycle")
THEMES = ("build", "deload", "test")

_ROLE_SPELLINGS = {
    "warmup": Role.WARM_UP,
    "cooldown": Role.COOL_DOWN,
    **{role.value.replace("-", ""): role for role in Role},
}
_SCORE_SPELLINGS = {
    "round": ScoreKind.ROUNDS,
    "rounds and reps": ScoreKind.ROUNDS,
    "reps": ScoreKind.TOTAL_REPS,
    "total": ScoreKind.TOTAL_REPS,
    "lowest": ScoreKind.LOWEST_INTERVAL,
    "weight": ScoreKind.LOAD,
    "highest step": ScoreKind.STEP,
    "put downs": ScoreKind.PUT_DOWNS,
    **{kind.value: kind for kind in ScoreKind},
}


def nearest(word: str, choices: Iterable[str], cutoff: float = 60) -> str | None:
    """The choice closest to a misspelt word, or None when none is close."""
    found = process.extractOne(
        word, list(choices), scorer=fuzz.ratio, processor=str.lower, score_cutoff=cutoff
    )
    return found[0] if found else None


def role_named(text: str) -> Role | None:
    """The role a heading names, however it is hyphenated, or None."""
    return _ROLE_SPELLINGS.get("".join(text.lower().replace("-", " ").split()))


def score_named(text: str) -> ScoreKind | None:
    """The score kind a modifier names, or None."""
    return _SCORE_SPELLINGS.get(" ".join(text.lower().split()))
