"""The unit of a board's loads, where some of them have one."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.units import WeightUnit, lb_to_kg

POUNDS_FROM = 200
"""A load without a unit from which on it is in pounds: few prescribe as many kilograms to all."""


BEYOND_ALL, BEYOND_ALL_OF_A_BAR = 2.2, 2.6
"""Times a movement's usual load from which on nobody means kilograms: it is more than the strongest
ordinary member's best (the usual load is about six tenths of a best, and the strong have a third
more than the middle); a bar is trained nearer to the best than a bell or a ball.
"""


def in_its_unit(said: Sequence[Row], library: Library) -> Library:
    """The library with the unit of a board's loads: that of those that have one, else the gym's."""
    units: set[WeightUnit] = set()
    lines = [tokens(row.text, library) for row in said]
    named = {str(one.value) for line in lines for one in line if one.kind == "movement"}
    lifts = [Token("movement", one, 0, 0) for one in named if _weighted(one, library)]
    for line in lines:
        # A pair in a heading is the load of the lift below it.
        alone = len(lifts) == 1 and not any(one.kind == "movement" for one in line)
        found = (*line, *lifts) if alone else line
        units |= {one.value[1] for one in found if one.kind == "weight"}
        for before, one in pairwise(found):
            lifted = before.kind in ("movement", "open", "at") and one.kind == "pair"
            if lifted and POUNDS_FROM <= max(one.value) < POUNDS_FROM * 3:
                units.add("lb")
        if library.unit == "kg" and _beyond_all(found, library):
            units.add("lb")
    return _in_unit(library, units.pop()) if len(units) == 1 else library


def _weighted(name: str, library: Library) -> bool:
    movement = library.find(name)
    return movement is not None and movement.reference_kg is not None


def _beyond_all(found: Sequence[Token], library: Library) -> bool:
    """Whether a pair of a row is too much in kilograms for its movement, and usual in pounds."""
    named = [at for at, token in enumerate(found) if token.kind == "movement"]
    placed = [at for at, token in enumerate(found) if token.kind == "pair"]
    if len(named) != 1 or len(placed) != 1:
        return False
    first, last = sorted((named[0], placed[0]))
    if any(token.kind in ("comma", "semicolon") for token in found[first:last]):
        return False  # `beginner: 60/40, DB press`: the load of another lift.
    movement = library.find(str(found[named[0]].value))
    pairs = [max(found[placed[0]].value)]
    if movement is None or movement.reference_kg is None:
        return False
    times = BEYOND_ALL_OF_A_BAR if "barbell" in movement.kit else BEYOND_ALL
    most = times * movement.reference_kg
    return pairs[0] > most and lb_to_kg(pairs[0]) <= most


@lru_cache(maxsize=64)
def _in_unit(library: Library, unit: WeightUnit) -> Library:
    return library if library.unit == unit else library.in_unit(unit)
