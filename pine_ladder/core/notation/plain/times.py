"""Times, counts and lengths as they are said: `12 min`, `90s`, `a mile`, `1/2 mile`, `50 ft`."""

from __future__ import annotations

import re

from pine_ladder.core.units import M_PER_FT, M_PER_MILE, M_PER_YD, clock_text, number_text

MAX_SAID = 160
"""Characters of a line that may be read as plain writing."""
UNIT_OF_TIME = (
    r"minutes?|mins?\.?|m(?![a-z])|['’′](?!['’′])|seconds?|secs?\.?|s(?![a-z])|[\"”″]|['’′]{2}"
)
TIME = rf"(?:\d+:[0-5]\d(?!\d)|\d+(?:[.,]\d+)?\s*-?\s*(?:{UNIT_OF_TIME}))"
BARE = r"\d+(?:[.,]\d+)?"
DASH = r"\s*(?:-|–|to)\s*"
SPAN = rf"(?:{TIME}{DASH}{TIME}|{BARE}{DASH}{TIME}|{TIME})"
"""A time, or the shorter and the longer; the unit may stand once, at the end."""
SPAN_OR_BARE = rf"(?:{SPAN}|{BARE}{DASH}{BARE}|{BARE})"
LENGTH_UNIT = (
    r"kilomet(?:re|er)s?|km|k(?![a-z\d])|met(?:re|er)s?|m(?![a-z\d])|miles?|mi(?![a-z\d])"
    r"|yards?|yds?|feet|foot|ft"
)
LENGTH = (
    rf"(?:\d+\s+\d/\d|\d/\d|\d+(?:[.,]\d+)?|an?(?:\s+half)?|half\s+an?)\s*-?\s*(?:{LENGTH_UNIT})"
)
_METRES = {"k": 1000.0, "mi": M_PER_MILE, "y": M_PER_YD, "f": M_PER_FT, "m": 1.0}


def seconds(text: str, unit: str = "min") -> int:
    """Seconds of a time as said; a bare number is in `unit` (`min` or `s`)."""
    text = text.strip().lower()
    if ":" in text:
        minutes, rest = text.split(":")
        return int(minutes) * 60 + int(rest)
    found = re.match(r"\d+(?:[.,]\d+)?", text)
    assert found is not None, text
    said = text[found.end() :].strip(" -") or unit
    in_minutes = said.startswith("m") or (said[0] in "'’′" and len(said) == 1)
    return round(float(found[0].replace(",", ".")) * (60 if in_minutes else 1))


def clock(text: str, unit: str = "min") -> str:
    """A time as said, as `m:ss`."""
    return clock_text(seconds(text, unit))


def span(text: str, unit: str = "min") -> str:
    """A time or a range of times as said, as `m:ss` or `m:ss-m:ss`."""
    parts = re.split(DASH + r"(?=\d)", text.strip().lower())
    if len(parts) == 1:
        return clock(parts[0], unit)
    said = re.search(rf"(?:{UNIT_OF_TIME})\s*$", parts[1])
    first = parts[0] if ":" in parts[0] or not said else parts[0].rstrip(said[0]) + said[0]
    if ":" in parts[1] and re.fullmatch(BARE, parts[0]):
        first = f"{parts[0]}:00"
    return f"{clock(first, unit)}-{clock(parts[1], unit)}"


def metres(text: str) -> str:
    """A length as said, in metres exactly: `1 mile` is 1609.344."""
    found = re.fullmatch(rf"(.*?)\s*-?\s*({LENGTH_UNIT})", text.strip().lower())
    assert found is not None, text
    count, unit = found[1], found[2]
    factor = next(value for key, value in _METRES.items() if unit.startswith(key))
    return number_text(round(_count(count) * factor, 3))


def _count(text: str) -> float:
    text = text.strip().replace(",", ".")
    if "half" in text:
        return 0.5
    if text in ("a", "an"):
        return 1.0
    total = 0.0
    for part in text.split():
        above, _, below = part.partition("/")
        total += float(above) / float(below) if below else float(above)
    return total
