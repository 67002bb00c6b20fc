"""Scores as other tables hold them, in the shorthand that the score sheet reads."""

from __future__ import annotations

import re
from typing import Literal, NamedTuple

Shape = Literal["time", "rounds", "load", "reps", "distance", "calories", "number", "absent", "cap"]

NOTHING = frozenset(
    (
        "",
        "-",
        "--",
        "–",
        "—",
        "n/a",
        "na",
        "none",
        "null",
        "x",
        "?",
        "tbd",
        "no score",
        "kein ergebnis",
    )
)
"""Cells that say that there is no score."""
_ABSENT = {
    "dnf": "DNF",
    "did not finish": "DNF",
    "nf": "DNF",
    "incomplete": "DNF",
    "dns": "DNS",
    "did not start": "DNS",
    "sick": "DNS",
    "absent": "DNS",
}
_TIERS = re.compile(
    r"[\s,;(\[/]*\b(rx'?d?\+?|as rx'?d?|prescribed|sc(?:aled)?|scal|beg(?:inner)?"
    r"|int(?:ermediate)?|foundations?|starter|masters?)\b[\s)\].]*$"
)
_NUMBER = r"\d+(?:\.\d+)?"
_TIME = re.compile(r"(?:(\d{1,2}):)?(\d{1,3}):(\d{2})(?:\.(\d+))?")
_WORDED_TIME = re.compile(
    r"(?:(\d+)\s*h(?:rs?|ours?)?\s*)?(?:(\d+)\s*(?:m|min|mins|minutes?|')\s*)?(?:(\d+(?:\.\d+)?)\s*(?:s|sec|secs|seconds?|''|\")?)?\.?"
)
_ROUNDS = re.compile(
    r"(\d+)\s*(?:rounds?|rds?|rnds?|r|runden|rondas|tours?)?\s*(?:\+|and|&)\s*(\d+)\s*(?:reps?|wdh)?"
)
_WHOLE_ROUNDS = re.compile(r"(\d+)\s*(?:rounds?|rds?|rnds?|runden|rondas|tours?)")
_LOAD = re.compile(rf"({_NUMBER})\s*(kgs?|kilos?|kilograms?|lbs?|pounds?|#)")
_REPS = re.compile(r"(\d+)\s*(?:total\s*)?(?:reps?|repetitions?|wdh|wiederholungen|repeticiones)")
_DISTANCE = re.compile(rf"({_NUMBER})\s*(m|km|meters?|metres?|mi|miles?)")
_CALORIES = re.compile(r"(\d+)\s*(?:cals?|kcal|calories?)")
_CAP = re.compile(r"(?:cap|tc|time\s*cap|capped|c)\s*(?:\+\s*(\d+)|\(\s*(\d+)\s*\))?(?:\s*reps?)?")
_COMMA = re.compile(r"(?<=\d),(?=\d{1,2}(?!\d))")
_METRES = {"km": 1000.0, "mi": 1609.344, "mile": 1609.344, "miles": 1609.344}


class Entry(NamedTuple):
    """An entry as the sheet reads it, its shape, the tier that it names itself ("" for none), and
    the number it is (seconds, reps, kilograms as told) for telling shapes apart.
    """

    text: str
    shape: Shape
    tier: str = ""
    value: float = 0.0


def read_entry(cell: str, unit: str = "") -> Entry | None:
    """An entry of another table; None where it says that there is no score.

    An entry that is none of the known ones comes back as it is, with the shape `number` where it is
    one and else an empty text: then it is listed, not guessed.

    >>> read_entry("12'34''").text, read_entry("102,5 kg").text, read_entry("5 rds + 12").text
    ('12:34', '102.5 kg', '5+12')
    """
    said = " ".join(cell.split()).strip(" .;")
    low = said.lower().replace("’", "'").replace("′", "'").replace("″", '"').replace("”", '"')
    if low in NOTHING:
        return None
    tier = ""
    if (match := _TIERS.search(low)) and match.start() > 0:
        tier, low = match[1], low[: match.start()].strip()
    if low in _ABSENT:
        return Entry(_ABSENT[low], "absent", tier)
    low = _COMMA.sub(".", low)
    for shape in (_as_cap, _as_time, _as_rounds, _as_amount):
        made = shape(low)
        if made is not None:
            return made._replace(tier=tier)
    if re.fullmatch(_NUMBER, low):
        told = f"{low} {unit}".strip() if unit else low
        if unit:
            other = read_entry(told)
            if other is not None and other.text:
                return other._replace(tier=tier)
        return Entry(low, "number", tier, float(low))
    return Entry("", "number", tier)


def _as_cap(low: str) -> Entry | None:
    match = _CAP.fullmatch(low)
    if not match:
        return None
    left = match[1] or match[2]
    return Entry(f"cap+{left}" if left else "cap", "cap", value=float(left or 0))


def _as_time(low: str) -> Entry | None:
    if match := _TIME.fullmatch(low):
        hours, minutes, seconds = int(match[1] or 0), int(match[2]), int(match[3])
        if match[1] is None and minutes >= 100:
            return None
        total = 3600 * hours + 60 * minutes + seconds
        return Entry(f"{total // 60}:{total % 60:02d}", "time", value=float(total))
    if not re.search(r"\d\s*(?:h|m(?!\w)|min|'|s\b|sec)", low):
        return None
    if (match := _WORDED_TIME.fullmatch(low)) and (match[1] or match[2] or match[3]):
        if not match[1] and not match[2] and not re.search(r"s|\"|''", low):
            return None
        if match[1] and not match[2] and low.endswith(tuple("0123456789")):
            # `1h02` are hours and minutes.
            return Entry(f"{60 * int(match[1]) + int(match[3])}:00", "time")
        total = round(3600 * int(match[1] or 0) + 60 * int(match[2] or 0) + float(match[3] or 0))
        return Entry(f"{total // 60}:{total % 60:02d}", "time", value=float(total))
    return None


def _as_rounds(low: str) -> Entry | None:
    if match := _ROUNDS.fullmatch(low):
        return Entry(f"{int(match[1])}+{int(match[2])}", "rounds", value=float(match[1]))
    if match := _WHOLE_ROUNDS.fullmatch(low):
        return Entry(f"{int(match[1])}+0", "rounds", value=float(match[1]))
    return None


def _as_amount(low: str) -> Entry | None:
    if match := _LOAD.fullmatch(low):
        unit = "kg" if match[2].startswith("k") else "lb"
        return Entry(f"{float(match[1]):g} {unit}", "load", value=float(match[1]))
    if match := _REPS.fullmatch(low):
        return Entry(str(int(match[1])), "reps", value=float(match[1]))
    if match := _CALORIES.fullmatch(low):
        return Entry(f"{int(match[1])} cal", "calories", value=float(match[1]))
    if match := _DISTANCE.fullmatch(low):
        metres = float(match[1]) * _METRES.get(match[2], 1.0)
        return Entry(f"{metres:g} m", "distance", value=metres)
    return None


def looks_like_entry(cell: str) -> bool:
    """Whether a cell may be a score: anything that reads as one, or says that there is none."""
    if re.fullmatch(r"(?:19|20)\d{2}|\d{5,}", cell.strip()):
        return False
    read = read_entry(cell)
    return read is None or bool(read.text)
