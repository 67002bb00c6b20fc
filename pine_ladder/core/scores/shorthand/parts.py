"""Parts of an entry that several kinds share: numbers, times, splits and the deciding split."""

from __future__ import annotations

import re
from typing import Any, NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.plan import Seconds
from pine_ladder.core.scores.kinds import (
    Refused,
    Rounds,
    reps_in_round,
)
from pine_ladder.core.units import clock_text

FASTEST_REP_S = 0.25
"""No counted rep of any movement is faster (common practice, no source)."""
FASTEST_M_PER_S = 12.5
"""No human has run faster (about 12.4 m/s, the fastest stretch of a sprint; from memory)."""
MAX_LOAD_KG = 600
MAX_REPS = 20_000
DAY_S = 86_400
PUT_DOWN_KEY = 100_000
"""Seconds that weigh less than one put-down."""
MAX_ENTRY = 200
LONGEST_H = 9
"""Hours beyond which a time of three figures was meant as minutes, seconds and hundredths."""


class Context(NamedTuple):
    """What an entry is read against: the piece, and whose version of it."""

    piece: plan.Piece
    tier: int
    track: int

    def reps(self, round_: int) -> int:
        """Reps of a round in that version."""
        return reps_in_round(self.piece, round_, self.tier, self.track)


class Extras(NamedTuple):
    """What follows the score itself: the deciding split, and the rounds' times, in seconds."""

    tie_s: Seconds | None = None
    splits: tuple[Seconds, ...] = ()


def number_of(text: str) -> float:
    """A number with a point or a comma."""
    return float(text.replace(",", "."))


IN_WORDS = re.compile(
    r"(?:(?P<h>\d{1,2})\s*(?:h|hrs?|hours?)\.?\s*)?"
    r"(?:(?P<m>\d{1,3})\s*(?:m|mins?|minutes?|')\.?\s*(?:and\s+)?)?"
    r"(?:(?P<s>\d{1,4})\s*(?P<unit>s|secs?|seconds?|\"|'')?\.?)?"
)
TIME = (
    r"(?:\d{1,3}[:.]\d{2}|\d{1,3}\s*(?:min(?:ute)?s?|m)\.?(?:\s*(?:and\s+)?\d{1,2}"
    r"(?:\s*s(?:ec(?:ond)?s?)?)?)?|\d{1,4}\s*s(?:ec(?:ond)?s?)?)(?![\w:.])"
)
"""A time in figures or in words, as part of a pattern."""


def _in_words(text: str) -> Seconds | None:
    """`10 min`, `5 min 45`, `5 minutes and 45 seconds`, `45 s`; None for anything else."""
    match = IN_WORDS.fullmatch(text)
    if not match or not (match["h"] or match["m"] or match["unit"]):
        return None
    alone = not (match["h"] or match["m"])
    seconds = int(match["s"] or 0)
    if seconds > (5999 if alone else 59):
        return None
    return int(match["h"] or 0) * 3600 + int(match["m"] or 0) * 60 + seconds


def seconds_of(text: str) -> Seconds:
    """A time: `12:43`, `12.43`, `1:02:03`, `12 min`, `5 min 45`; raises Refused."""
    if (worded := _in_words(text.strip())) is not None:
        return worded
    if re.fullmatch(r"\d{1,3}", text.strip()):
        bare = text.strip()
        raise Refused(
            f"“{bare}”: minutes or seconds? Write {bare}:00 or {clock_text(int(bare))}, "
            "as minutes:seconds"
        )
    match = re.fullmatch(
        r"(?:(\d{1,2})[:h]\s*)?(\d{1,3})\s*[:.'m]\s*(\d{2})\s*(?:\"|''|s)?", text.strip()
    )
    if not match or int(match[3]) > 59:
        raise Refused(f"“{text.strip()}”: write the time as minutes:seconds, 12:43")
    if int(match[1] or 0) > LONGEST_H:
        raise Refused(
            f"“{text.strip()}” is {match[1]} hours: write minutes:seconds, {match[1]}:{match[2]}"
        )
    return int(match[1] or 0) * 3600 + int(match[2]) * 60 + int(match[3])


def times_of(text: str) -> tuple[Seconds, ...]:
    """Several times one after the other."""
    return tuple(seconds_of(part) for part in re.split(r"[\s,;]+", text.strip()) if part)


_TIMES_BY_SLASH = re.compile(r"\d{1,3}:\d\d(?:\s*/\s*\d{1,3}:\d\d){2,}")


def extras_of(text: str) -> tuple[str, Extras]:
    """The score itself, and what follows it."""
    if _TIMES_BY_SLASH.fullmatch(text.strip()):
        text = text.replace("/", " ")  # The times of the rounds.
    body, _, told = text.partition("splits")
    splits = times_of(told) if told.strip() else ()
    match = re.fullmatch(r"(.*?)\s*(?:\btb\b|\btie\b|@|/)\s*(\d+[:.]\d\d)\s*", body)
    if match and match[1]:
        return match[1].strip(), Extras(seconds_of(match[2]), splits)
    return body.strip(), Extras(None, splits)


def extra_words(extras: Extras, tie: bool) -> str:
    """The deciding split as it is shown."""
    return f" tb {clock_text(extras.tie_s)}" if tie and extras.tie_s is not None else ""


def tie_of(extras: Extras, piece: plan.Piece, full: int) -> tuple[Extras, float]:
    """The split at the last full round, and what it adds to the order (less than one rep)."""
    if not piece.tie_break:
        if extras.tie_s is not None:
            raise Refused("this piece has no tie-break: write the score alone")
        return extras, 0.0
    tie = extras.tie_s
    if tie is None and extras.splits:
        tie = sum(extras.splits[:full]) or None
    if tie is None:
        return extras, 0.0
    longest = piece.format.length_s if isinstance(piece.format, plan.Amrap) else piece.cap_s
    if longest and tie > longest:
        raise Refused(f"the split {clock_text(tie)} is after the end at {clock_text(longest)}")
    return extras._replace(tie_s=tie), 0.5 * (1 - tie / DAY_S)


def told_splits(extras: Extras) -> dict[str, Any]:
    """What followed the score, as it is kept."""
    out: dict[str, Any] = {}
    if extras.splits:
        out["splits"] = list(extras.splits)
    if extras.tie_s is not None:
        out["tie_s"] = extras.tie_s
    return out


def split_rounds(extras: Extras) -> Rounds | None:
    """The splits as rounds."""
    return Rounds(unit="s", numbers=tuple(map(float, extras.splits))) if extras.splits else None


def check_fits(reps: int, length_s: float, text: str) -> None:
    """Refuse more reps than anybody's body can do in a time."""
    if reps * FASTEST_REP_S > length_s:
        raise Refused(
            f"“{text}”: {reps} reps in {clock_text(length_s)} cannot be: "
            f"that is {length_s / reps:.2f} s each"
        )
