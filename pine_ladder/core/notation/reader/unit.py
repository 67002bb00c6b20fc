"""The unit of a board's loads, where some of them have one."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.units import WeightUnit

POUNDS_FROM = 200
"""A load without a unit from which on it is in pounds: few prescribe as many kilograms to all."""


def in_its_unit(said: Sequence[Row], library: Library) -> Library:
    """The library with the unit of a board's loads: that of those that have one, else the gym's."""
    units: set[WeightUnit] = set()
    for row in said:
        found = tokens(row.text, library)
        units |= {one.value[1] for one in found if one.kind == "weight"}
        for before, one in pairwise(found):
            lifted = before.kind in ("movement", "open", "at") and one.kind == "pair"
            if lifted and POUNDS_FROM <= max(one.value) < POUNDS_FROM * 3:
                units.add("lb")
    return _in_unit(library, units.pop()) if len(units) == 1 else library


@lru_cache(maxsize=64)
def _in_unit(library: Library, unit: WeightUnit) -> Library:
    return library if library.unit == unit else library.in_unit(unit)
