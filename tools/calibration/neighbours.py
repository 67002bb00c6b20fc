"""Movements whose seconds or sets lie far from those of their neighbours: slips of data, or news.

Neighbours share the first pattern, the measure and whether a weight is held, and ask about as much;
on a ladder the rungs beside it count as well.
"""

from __future__ import annotations

import math
from statistics import median
from typing import Literal

import numpy as np

from pine_ladder.core.movements import Library, Movement, Pattern
from pine_ladder.core.pace.rep_times import Constants, capacity_of, constants, in_a_row
from pine_ladder.core.plan import Frozen

Field = Literal["seconds", "in a row"]
NEIGHBOURS = 6
"""So many of the nearest by demand are looked at."""
FEWEST = 3
"""With fewer there is nothing to compare with."""
FAR = 2.5
"""Further from the neighbours' middle than so many times the usual distance is told."""


class Outlier(Frozen):
    """A movement, what of it stands apart, its value and its neighbours' middle.

    `times` is how many times the usual distance (in log) it lies off.
    """

    name: str
    field: Field
    value: float
    usual: float
    times: float
    neighbours: tuple[str, ...]


def _value(movement: Movement, field: Field, model: Constants) -> float | None:
    if field == "seconds":
        return None if movement.measure == "time" else movement.seconds
    # Nothing ends a set of running, rowing or rope but its length.
    return None if movement.patterns[0] is Pattern.ENGINE else in_a_row(movement, model)


def neighbours(movement: Movement, library: Library) -> list[Movement]:
    """The movements most like one, the nearest by demand first; rungs beside it among them."""
    ladder = library.ladder_of(movement.name)
    beside: list[Movement] = []
    if ladder is not None:
        at = ladder.rungs.index(movement.name)
        rungs = (*ladder.rungs[max(0, at - 1) : at], *ladder.rungs[at + 1 : at + 2])
        found = (library.find(rung) for rung in rungs)
        beside = [one for one in found if one is not None and one.measure == movement.measure]
    alike = sorted(
        (
            one
            for one in library.movements
            if one.name != movement.name
            and one not in beside
            and one.patterns[0] == movement.patterns[0]
            and one.measure == movement.measure
            and (one.reference_kg is None) == (movement.reference_kg is None)
        ),
        key=lambda one: (abs(one.demand - movement.demand), one.name),
    )
    return [*beside, *alike][:NEIGHBOURS]


def outliers(library: Library, model: Constants | None = None) -> list[Outlier]:
    """What stands apart, the furthest first."""
    model = model or constants()
    found: list[Outlier] = []
    for field in ("seconds", "in a row"):
        apart: list[tuple[float, Movement, float, float, list[Movement]]] = []
        for movement in library.movements:
            value = _value(movement, field, model)
            near = neighbours(movement, library)
            others = [v for one in near if (v := _value(one, field, model)) is not None]
            if value is None or len(others) < FEWEST:
                continue
            usual = math.exp(median(math.log(other) for other in others))
            apart.append((math.log(value / usual), movement, value, usual, near))
        width = median(abs(off) for off, *_ in apart) if apart else 0.0
        found += [
            Outlier(
                name=movement.name,
                field=field,
                value=round(value, 2),
                usual=round(usual, 2),
                times=round(off / width, 1),
                neighbours=tuple(one.name for one in near),
            )
            for off, movement, value, usual, near in apart
            if width and abs(off) > FAR * width
        ]
    return sorted(found, key=lambda one: -abs(one.times))


def upside_down(library: Library, model: Constants | None = None) -> list[tuple[str, str]]:
    """Rungs with longer sets than an easier rung of the same ladder right below them."""
    model = model or constants()
    out = []
    for ladder in library.ladders:
        for lower, upper in zip(ladder.rungs, ladder.rungs[1:], strict=False):
            below, above = library.find(lower), library.find(upper)
            if below is None or above is None or below.measure != above.measure:
                continue
            held = (below.reference_kg is None) != (above.reference_kg is None)
            if held or below.seconds > SLOWER * above.seconds:
                continue  # Another load, or reps let down slowly: no fewer for being easier.
            if in_a_row(above, model) > in_a_row(below, model) * (1 + SLACK):
                out.append((lower, upper))
    return out


SLACK = 0.3
"""Sets of neighbouring rungs are known no nearer than this (judgement)."""
SLOWER = 1.3


def from_neighbours(name: str, library: Library) -> float:
    """Seconds a rep of a movement as its neighbours would have it, itself left out.

    The weighted median over movements of the same measure: near rungs of its ladder count most,
    those of its pattern that are called alike (`kettlebell swing`, `dumbbell swing`), then those
    which tire alike. A mean would follow the few that are thrown or carried over a shoulder.
    """
    own = library.find(name)
    assert own is not None, name
    ladder = library.ladder_of(own.name)
    weights, logs = [], []
    for other in library.movements:
        if other.name == own.name or other.measure != own.measure:
            continue
        weight = 0.0
        if ladder and other.name in ladder.rungs:
            apart = abs(ladder.rungs.index(other.name) - ladder.rungs.index(own.name))
            weight += math.exp(1 - apart)
        if other.patterns[0] == own.patterns[0] and capacity_of(other) == capacity_of(own):
            weight += 0.3 * math.exp(-(((other.demand - own.demand) / 0.15) ** 2))
        called_alike = other.name.split()[-1] == own.name.split()[-1]
        if other.patterns[0] == own.patterns[0] and called_alike:
            weight += 1.0
        if weight:
            weights.append(weight)
            logs.append(math.log(other.seconds))
    order = np.argsort(logs)
    share = np.array(weights)[order]
    middle = np.cumsum(share) - share / 2
    return math.exp(float(np.interp(share.sum() / 2, middle, np.array(logs)[order])))
