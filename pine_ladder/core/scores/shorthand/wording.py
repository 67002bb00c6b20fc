"""Entries as people write them, in the words and marks that the readers of each kind take.

Number words, dashes and quotes are those of boards (`notation.reader.layout`); what is common to a
kind (`tc 2+14`, `70-75-80-f`, `lowest: 12`, `made 14`) is common practice, no source.
"""

from __future__ import annotations

import re

from pine_ladder.core.notation.reader.layout import plain_text
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.units import clock_text

_AHEAD = re.compile(
    r"^(?:~|≈|about|approx\.?|around|roughly|score|result|total|time|done in|finished in|finished"
    r"|got|got to|got through|made it in|completed in)\s*:?\s*(?=\d)"
)
"""Words before a number that say nothing of it."""
_LISTED = re.compile(
    r"(?<![\d.:])\d{1,4}(?:\.\d{1,2})?(?:\s*-\s*(?:\d{1,4}(?:\.\d{1,2})?|[fx]\b)){2,}"
)
"""Three and more numbers joined by dashes: `70-75-80-80`."""
_CAP = re.compile(r"\b(?:t\.?c\.?|time\s?cap(?:ped)?|timed\s?out|capped|c(?=\s*\+))(?![a-z])\.?")
_REACHED = re.compile(r"^(?:reached|got to|made|made it to|up to|min(?:ute)?)\s*:?\s*(?=\d)")
_OUT = re.compile(
    r"^(?:out|failed|died|missed)\s+(?:in|on|at)\s+(?:min(?:ute)?|round|step)?\s*(\d+)$"
)
_LOWEST = re.compile(r"^(?:lowest|low|min(?:imum)?|worst|slowest)\s*:?\s*(?=\d)")
_LOWEST_BEHIND = re.compile(r"(?<=\d)\s*\(?(?:lowest|low|min|worst)\)?$")
_DONE = frozenset(
    ("all", "completed", "complete", "finished", "did it", "made it", "all done", "all rounds",
     "all minutes", "full", "yep", "✓", "✔", "☑", "👍")
)  # fmt: skip
_LOAD = r"\d{1,4}(?:[.,]\d{1,2})?\s*(?:kgs?|lbs?)?"
_FAILED_AFTER = re.compile(
    r"\d{1,4}(?:[.,]\d{1,2})?(?:kgs?|lbs?)?(?:\s?\(\s*(?:f|x|fail(?:ed)?|miss(?:ed)?)\s*\)|f\b)"
)
_FAILED_BEFORE = re.compile(rf"\(?\b(?:f|fail(?:ed)?|miss(?:ed)?)\s*(?:at|@)?\s*{_LOAD}\)?")


def plainly(text: str, kind: ScoreKind, cap_s: int | None = None) -> str:
    """An entry in lower case, in the marks that the reader of its kind takes.

    >>> plainly("TC 2+14", ScoreKind.TIME), plainly("70-75-80-f", ScoreKind.LOAD)
    ('cap 2+14', '70 75 80 f')
    """
    if kind is ScoreKind.DONE and text.strip().lower() in _DONE:
        return "done"
    said = " ".join(plain_text(text).lower().split())
    said = _AHEAD.sub("", said).rstrip(" !.")
    said = _LISTED.sub(lambda match: re.sub(r"\s*-\s*", " ", match[0]), said)
    return _OF_KIND.get(kind, _as_it_is)(said, cap_s)


def _as_it_is(said: str, _cap_s: int | None) -> str:
    return said


def _time(said: str, cap_s: int | None) -> str:
    said = _CAP.sub("cap", said)
    said = re.sub(r"^cap\s*\((\d+)\)$", r"cap \1", said)
    said = re.sub(r"^cap\s*(?:at|with|:|,|-)\s*", "cap ", said)
    if cap_s and (match := re.fullmatch(rf"{clock_text(cap_s)}\s*\+\s*(\d+)", said)):
        return f"cap+{match[1]}"
    if match := re.fullmatch(r"cap\s+(\d{1,2}\s*(?:rounds?|rds?))\s+(\d{1,5})(?:\s*reps?)?", said):
        return f"cap {match[1]} + {match[2]}"
    return re.sub(r"^(?:reached|held)\s+(?=\d)", "", said)


def _load(said: str, _cap_s: int | None) -> str:
    said = _FAILED_BEFORE.sub(" f ", said)
    said = _FAILED_AFTER.sub(" f ", said)
    said = re.sub(r"[/,;\s]+x(?=\s*$|\s*[/,;])", " f", said)
    said = re.sub(r"^\d{1,2}\s?rm\s*:?\s*(?=\d)|^all\s+(?:sets\s+)?(?:at|@)\s*", "", said)
    said = re.sub(rf"^(\d{{1,2}}\s*[x×]\s*\d{{1,2}})\s+(?={_LOAD}$)", r"\1@", said)
    return _reps_first(said).strip(" ,;/")


def _reps_first(said: str) -> str:
    """`3x120`: more than could be reps, so three reps of it; `3x5` stays sets of reps."""

    def turned(match: re.Match[str]) -> str:
        heavy = float(match[2].replace(",", ".")) > MOST_REPS or bool(match[3])
        return f"{match[1]}@{match[2]}{match[3] or ''}" if heavy else match[0]

    return re.sub(
        r"(?<![\d@x×.])(\d{1,2})\s*[x×]\s*(\d{1,4}(?:[.,]\d{1,2})?)\s*(kgs?|lbs?)?(?!\s*[\d@x×.,])",
        turned,
        said,
    )


MOST_REPS = 30
"""A number behind an x beyond this is a load, not reps."""


def _lowest(said: str, _cap_s: int | None) -> str:
    return _LOWEST_BEHIND.sub("", _LOWEST.sub("", said))


def _step(said: str, _cap_s: int | None) -> str:
    if match := _OUT.fullmatch(said):
        return str(int(match[1]) - 1)
    said = _REACHED.sub("", said)
    return (
        re.sub(r"(?<=\d)\s*(?:rounds?|steps?|min(?:ute)?s?)\s*(?=\+|and\b|$)", " ", said)
        .replace(" and ", " + ")
        .strip()
    )


def _put_downs(said: str, _cap_s: int | None) -> str:
    said = re.sub(r"(?<=\d)\s*put[ -]?downs?\b", " put-downs", said)
    return re.sub(r"^(\d{1,4})\s*x(?=$|\s)", r"\1", said)


def _calories(said: str, _cap_s: int | None) -> str:
    return re.sub(r"(?<=\d)\s*(?:c|kcals?)\b", " cal", said)


def _rounds(said: str, _cap_s: int | None) -> str:
    said = re.sub(
        r"(?<=\d)\s*(?:full|whole)(?:\s+rounds?)?$|(?<=rounds)\s+(?:exactly|flat|dead)$", "", said
    )
    return re.sub(r"\s+(?:exactly|flat)$", "", said)


_OF_KIND = {
    ScoreKind.TIME: _time,
    ScoreKind.LOAD: _load,
    ScoreKind.LOWEST_INTERVAL: _lowest,
    ScoreKind.STEP: _step,
    ScoreKind.PUT_DOWNS: _put_downs,
    ScoreKind.CALORIES: _calories,
    ScoreKind.ROUNDS: _rounds,
}
