"""Units of the gym floor: kilograms and pounds, centimetres and inches, minutes and seconds."""

import re
from typing import Literal

WeightUnit = Literal["kg", "lb"]
"""What weights are told in."""
KG_PER_LB = 0.45359237
"""Exact: international avoirdupois pound, 1959 (NIST SP 811)."""
CM_PER_IN = 2.54
"""Exact: international inch, 1959 (NIST SP 811)."""
M_PER_FT = 0.3048
"""Exact: international foot, 1959 (NIST SP 811)."""

M_PER_YD = 0.9144
"""Exact: international yard, 1959 (NIST SP 811)."""
M_PER_MILE = 1609.344
"""Exact: international mile, 1959 (NIST SP 811)."""

_CLOCK = re.compile(r"(\d+):(\d\d)")


def lb_to_kg(pounds: float) -> float:
    """Kilograms for a weight in pounds."""
    return pounds * KG_PER_LB


def kg_to_lb(kilograms: float) -> float:
    """Pounds for a weight in kilograms."""
    return kilograms / KG_PER_LB


def in_to_cm(inches: float) -> float:
    """Centimetres for a length in inches."""
    return inches * CM_PER_IN


def ft_to_m(feet: float) -> float:
    """Metres for a length in feet."""
    return feet * M_PER_FT


def clock_text(seconds: float) -> str:
    """`m:ss` for a number of seconds, minutes running past the hour: 2160 gives `36:00`.

    >>> clock_text(7)
    '0:07'
    """
    whole = round(seconds)
    return f"{whole // 60}:{whole % 60:02d}"


def clock_seconds(text: str) -> int:
    """Seconds for `m:ss`; ValueError unless the text is a whole `m:ss` with seconds under 60."""
    match = _CLOCK.fullmatch(text.strip())
    if not match or int(match[2]) > 59:
        raise ValueError(f"{text!r} is not a time; write minutes:seconds, as in 2:30")
    return int(match[1]) * 60 + int(match[2])


def number_text(value: float) -> str:
    """A number as a coach writes it: no trailing zeros, `22.5`, `24`."""
    return str(int(value)) if float(value).is_integer() else repr(float(value))
