"""Numbers with what they measure: kilograms, metres, minutes, calories, sides, schemes."""

from __future__ import annotations

import re
from typing import Any

from pine_ladder.core.units import M_PER_FT, M_PER_MILE, M_PER_YD

NUMBER = r"(?:\d{1,2}[.,]\d{3}(?=\s*m\b)|\d+[.,]\d+|\d+\s+1/2|\d+|½|1/2(?=\s*(?:mi|k)))"
"""A decimal number, a half, or a thousand with its mark."""


def decimal(text: str) -> float:
    """A number as it was written: with a comma, a half, or a mark of thousands."""
    text = text.strip()
    if text in ("½", "1/2"):
        return 0.5
    if " " in text and text.endswith("1/2"):
        return float(text.split()[0]) + 0.5
    if re.fullmatch(r"\d{1,2}[.,]\d{3}", text):
        return float(re.sub("[.,]", "", text))
    return min(MOST, float(text.replace(",", ".")))


MOST = 1e9
"""More than any number that is meant on a board."""


def clock(text: str) -> int:
    """Seconds of `m:ss`; a number alone is minutes."""
    if ":" not in text:
        return 60 * int(text)  # `1-1:30`
    minutes, seconds = text.strip().split(":")
    return 60 * int(minutes or 0) + int(seconds)


_METRES = {"k": 1000.0, "m": 1.0, "mi": M_PER_MILE, "f": M_PER_FT, "y": M_PER_YD}


def metres(value: float, unit: str) -> float:
    """Metres of a distance in a unit that begins with its letter: k, m, mi, f, y."""
    key = "mi" if unit.startswith("mi") else unit[0]
    return round(value * _METRES[key], 3)


def quantity(found: re.Match[str]) -> tuple[str, Any]:
    """The kind and value of a number with its unit."""
    text, unit = found["num"], (found["unit"] or "").lower()
    if found["ord"]:
        return "word", text
    joint = "/" if "/" in text and not re.match(r"\d+\s+1/2|1/2", text) else "-"
    if joint != "/" and re.search(r"[a-z]", re.sub(r"\b(?:to|or)\b", "", text.lower())):
        numbers = [decimal(one) for one in re.findall(NUMBER, text)]
        return "scheme", (tuple(int(n) for n in numbers), False)
    parts = [
        one
        for one in re.split(r"\s*/\s*|\s*-\s*|\bto\b|\bor\b|,\s+|,(?=\d+,)", text)
        if one.strip()
    ]
    if re.fullmatch(r"\d+(?: +\d+){2,}", text):
        parts, joint = text.split(), "-"
    if "," in text and re.fullmatch(r"\d+(?:\s*,\s*\d+){2,}", text):
        parts = re.split(r"\s*,\s*", text)
        joint = "-"
    values = [decimal(part) for part in parts]
    if found["ell"] and len(values) > 1 and joint == "-":
        return "scheme", steps([int(value) for value in values], found["till"])
    several = tuple(values)
    whole = all(v == int(v) for v in values)
    if unit in ("%", "percent", "per cent"):
        return "percent", several
    if unit in ("kg", "kgs", "#") or (
        unit.startswith(("kilo", "lb", "pound")) and not unit.startswith("kilom")
    ):
        return "weight", (several, "kg" if unit.startswith("k") else "lb", joint)
    if unit in ("bw", "bodyweight"):
        return "bodyweight", values[0]
    if unit.startswith(("cal", "kcal")):
        return "cal", (several, joint)
    if unit == "cm" or unit.startswith("in"):
        return "height", (several, "cm" if unit == "cm" else "in")
    if unit in ('"', "''"):
        if joint == "/" and len(values) > 1:
            return "height", (several, "in")
        return "seconds or inches", several
    if unit == "'":
        return "prime", (several, joint)
    if (
        joint == "/"
        and len(values) > 1
        and (unit in ("s", "sec", "secs") or unit.startswith("second"))
    ):
        return "pair", several
    if unit in ("s", "sec", "secs") or unit.startswith("second"):
        return "time", tuple(round(v) for v in several)
    if unit.startswith("min"):
        return "time", tuple(round(60 * v) for v in several)
    if unit == "h":
        return "number", values[0]
    if unit == "m" and len(values) == 1 and values[0] <= 3 and joint != "/":
        return "time", (round(60 * values[0]),)
    if unit:
        return "distance", (tuple(metres(v, unit) for v in several), joint)
    if len(values) > 2 and joint == "-" and whole:
        return "scheme", (tuple(int(v) for v in values), False)
    if len(values) > 1 and joint == "/":
        return "pair", several
    if len(values) == 2 and whole:
        low, high = int(values[0]), int(values[1])
        return ("range", (low, high)) if high > low else ("scheme", ((low, high), False))
    if len(values) == 2:
        return "range", several
    return "number", values[0]


MOST_STEPS = 60


def steps(first: list[int], till: str | None) -> tuple[tuple[int, ...], bool]:
    """A scheme whose middle is left out, `1-2-3-…-10`, or that has no end."""
    step = first[1] - first[0]
    if till is None or not step or not 0 < (int(till) - first[0]) / step <= MOST_STEPS:
        return tuple(first), True
    return tuple(range(first[0], int(till) + (1 if step > 0 else -1), step)), False
