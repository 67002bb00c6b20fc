"""Scores as coaches jot them: shorthand read, normalised, ordered and shown.

What is shown reads back as the same score. An entry may end with the split at its last full round
(`tb 9:31`) and with the time of each round (`splits 1:40 1:52 …`).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from pine_ladder.core import plan
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import ABSENT, Refused, Score, score_kind
from pine_ladder.core.scores.shorthand import counted, measured
from pine_ladder.core.scores.shorthand.parts import MAX_ENTRY, Context
from pine_ladder.core.scores.shorthand.qualifiers import tier_told
from pine_ladder.core.scores.shorthand.wording import plainly
from pine_ladder.core.tiers import DEFAULT_TIERS

_READERS: dict[ScoreKind, Callable[[str, Context], Score]] = {
    ScoreKind.ROUNDS: counted.rounds,
    ScoreKind.TIME: measured.time,
    ScoreKind.TOTAL_REPS: counted.total,
    ScoreKind.LOWEST_INTERVAL: counted.lowest,
    ScoreKind.LOAD: measured.load,
    ScoreKind.STEP: counted.step,
    ScoreKind.PUT_DOWNS: measured.put_downs,
    ScoreKind.DISTANCE: measured.distance,
    ScoreKind.CALORIES: measured.calories,
    ScoreKind.DONE: measured.done,
}


def read_score(
    text: str,
    piece: plan.Piece,
    tier: int = 0,
    track: int = 0,
    tiers: Sequence[str] = DEFAULT_TIERS,
) -> Score:
    """Understand an entry as the piece's score kind. Never raises: refusals are `problems`.

    `tier` and `track` are indexes (0 is as written, the heavier column). An entry that names one
    of `tiers` is of that tier. `dns` and `dnf` stand for any kind and have no place.
    """
    told, rest = tier_told(text, tiers)
    if told is None or told == tier:
        score = _read(rest, piece, tier, track)
        return score if told is None else score.model_copy(update={"tier": told})
    score = _read(rest, piece, told, track)
    reading = f"{tiers[told]}: {score.reading or score.display}"
    return score.model_copy(update={"tier": told, "reading": reading})


def _read(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    kind = score_kind(piece)
    shown = text.strip()[:MAX_ENTRY]
    if kind is None:
        problem = "no score is kept for this piece"
        return _refused(ScoreKind.DONE, shown, problem)
    cleaned = " ".join(text.lower().split())
    if (absent := _absent(cleaned)) is not None:
        word, why = absent
        return Score(
            kind=kind,
            value={"absent": word},
            display=word.upper(),
            order_key=None,
            reading=f"{ABSENT[word]}: {why}" if why else ABSENT[word],
        )
    try:
        if not cleaned:
            raise Refused("nothing is written")
        score = _READERS[kind](plainly(cleaned, kind, piece.cap_s), Context(piece, tier, track))
    except Refused as refusal:
        return _refused(kind, shown, str(refusal))
    if score.reading is None and _otherwise(cleaned, score.display):
        return score.model_copy(update={"reading": f"read as {score.display}"})
    return score


def _absent(said: str) -> tuple[str, str] | None:
    """The word and the reason of an athlete who did not start or finish: `dnf knee`, `injured`."""
    match = re.fullmatch(r"([a-z]{3})\b[\s:,(-]*([a-z][a-z' ]*)?\)?", said)
    if match and match[1] in ABSENT:
        return match[1], (match[2] or "").strip()
    return ("dnf", said) if said in _HURT else None


_HURT = ("inj", "injured", "hurt", "stopped")


def _otherwise(entered: str, shown: str) -> bool:
    """Whether an entry is shown in other words or numbers than it was said in."""
    if "splits" in entered:
        return False
    worded = bool(re.search(r"[a-z]{2}", entered))
    same = entered.replace(" ", "") == shown.lower().replace(" ", "")
    return (worded and not same) or re.findall(r"\d+", entered) != re.findall(r"\d+", shown)


def _refused(kind: ScoreKind, shown: str, problem: str) -> Score:
    return Score(kind=kind, value={}, display=shown, order_key=None, problems=(problem,))
