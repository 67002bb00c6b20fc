"""Strength: one-rep max from reps, percentages, and loads the gym can make."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from statistics import median
from typing import Literal, NamedTuple

from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import WeightUnit, lb_to_kg, number_text

WATER_KG_PER_L = 0.998
"""Density of water at 20 °C (CRC Handbook of Chemistry and Physics)."""
MOST_REPS = 20
"""Beyond this many reps the formulas say little about a maximum."""


class OneRepMax(Frozen):
    """A maximum in kg by each published formula, their middle and how far they lie apart."""

    by_formula: dict[str, float]
    middle_kg: float
    low_kg: float
    high_kg: float


class Loading(Frozen):
    """A load the gym can make: what it weighs, and what to put on each side or take off the rack.

    `short_kg` is how much less it is than what was asked for.
    """

    kg: float
    words: str
    per_side: tuple[float, ...] = ()
    short_kg: float = 0.0


FORMULAS: dict[str, Callable[[float, int], float]] = {
    "Epley 1985": lambda w, r: w if r == 1 else w * (1 + r / 30),
    "Brzycki 1993": lambda w, r: 36 * w / (37 - r),
    "Lombardi 1989": lambda w, r: w * math.pow(r, 0.10),
    "Mayhew 1992": lambda w, r: w if r == 1 else 100 * w / (52.2 + 41.9 * math.exp(-0.055 * r)),
    "Wathen 1994": lambda w, r: w if r == 1 else 100 * w / (48.8 + 53.8 * math.exp(-0.075 * r)),
    "O'Conner 1989": lambda w, r: w if r == 1 else w * (1 + 0.025 * r),
}
"""One-rep maximum from weight w in kg lifted r times; each with its author and year.

Those fitted to sets of several reps are not used for a single, which is its own maximum.
"""


def one_rep_max(weight_kg: float, reps: int) -> OneRepMax:
    """The maximum behind a set of `reps` at `weight_kg`; ValueError outside 1 to 20 reps."""
    if not 1 <= reps <= MOST_REPS:
        raise ValueError(f"a maximum can be estimated from 1 to {MOST_REPS} reps, not {reps}")
    if weight_kg <= 0:
        raise ValueError("a load is heavier than nothing")
    found = {name: round(formula(weight_kg, reps), 1) for name, formula in FORMULAS.items()}
    return OneRepMax(
        by_formula=found,
        middle_kg=round(median(found.values()), 1),
        low_kg=min(found.values()),
        high_kg=max(found.values()),
    )


def percent_for(reps: int) -> float:
    """The percentage of the maximum that most can lift for so many reps, by the formulas' middle.

    >>> round(percent_for(5))
    87
    """
    return 100 / median(formula(1.0, reps) for formula in FORMULAS.values())


STEPS_KG = (2.5, 5.0, 10.0)
"""Steps of a load where the gym's plates are not known."""


class UsualRack(NamedTuple):
    """Plates by their mark with how many there are, and bars by their mark."""

    plates: Mapping[str, int]
    bars: tuple[str, ...]


USUAL_RACKS: Mapping[WeightUnit, UsualRack] = {
    "kg": UsualRack(
        {"25": 2, "20": 8, "15": 8, "10": 12, "5": 12, "2.5": 12, "1.25": 8}, ("20", "15")
    ),
    "lb": UsualRack(
        {
            "45 lb": 8, "35 lb": 4, "25 lb": 8, "15 lb": 8, "10 lb": 12, "5 lb": 12, "2.5 lb": 12,
        },
        ("45 lb", "35 lb"),
    ),
}  # fmt: skip
"""The plates and bars of a gym that has not said which it has, by its unit (common practice)."""


def load_steps(plates: Mapping[float, int]) -> tuple[float, ...]:
    """The three smallest steps in kg that a pair of the gym's plates makes on a bar.

    >>> load_steps({20: 8, 1.25: 2, 5: 6, 2.5: 1, 10: 4})
    (2.5, 10, 20)
    """
    pairs = sorted(2 * kg for kg, count in plates.items() if count > 1)
    return tuple(pairs[: len(STEPS_KG)]) or STEPS_KG


def barbell(
    wanted_kg: float,
    plates: Mapping[float, int],
    bars: Sequence[float] = (20.0, 15.0),
    labels: Mapping[float, str] | None = None,
) -> Loading | None:
    """The heaviest load up to `wanted_kg` that bars and plates make; None under the lightest bar.

    `plates` counts plates by their kg; only even pairs go on. The heavier bar is taken where it
    comes as close. `labels` tells what is marked in pounds, by its kg.
    """
    labels = labels or {}
    best: Loading | None = None
    for bar in sorted(bars, reverse=True):
        if bar > wanted_kg + 1e-9:
            continue
        side = _side((wanted_kg - bar) / 2, plates)
        kg = bar + 2 * sum(side)
        if best is None or kg > best.kg + 1e-9:
            told = " + ".join(labels.get(plate, number_text(plate)) for plate in side)
            named = labels.get(bar, f"{number_text(bar)} kg")
            words = f"{named} bar" + (f", {told} a side" if side else " alone")
            best = Loading(kg=kg, words=words, per_side=side, short_kg=wanted_kg - kg)
    return best


def _side(wanted: float, plates: Mapping[float, int]) -> tuple[float, ...]:
    """Plates of one side: the most that is not too much, in as few plates, by grams exactly."""
    target = round(wanted * 1000)
    # reach[g] is the shortest list of plates that weighs g grams.
    reach: dict[int, tuple[float, ...]] = {0: ()}
    for plate, count in sorted(plates.items(), reverse=True):
        grams = round(plate * 1000)
        for weight, used in list(reach.items()):
            for extra in range(1, count // 2 + 1):
                total = weight + extra * grams
                if total > target:
                    break
                chosen = used + (plate,) * extra
                if total not in reach or _neater(chosen, reach[total]):
                    reach[total] = chosen
    return tuple(sorted(reach[max(reach)], reverse=True))


def _neater(one: tuple[float, ...], other: tuple[float, ...]) -> bool:
    """Fewer plates, and of as many those with the heaviest first."""
    return (len(one), [-plate for plate in one]) < (len(other), [-plate for plate in other])


def weight_kg(mark: str) -> float:
    """What a plate or a bar weighs by its mark: `20` (kg) or `45 lb`; ValueError for another."""
    match = re.fullmatch(r"(\d+(?:\.\d+)?)\s*(kg|lb)?", mark.strip())
    if not match or float(match[1]) <= 0:
        raise ValueError(f"{mark}: write a weight such as 20 or 45 lb")
    value = float(match[1])
    return lb_to_kg(value) if match[2] == "lb" else value


def from_rack(wanted_kg: float, owned: Iterable[float], what: str) -> Loading | None:
    """The heaviest dumbbell or bell up to `wanted_kg`; the lightest where all are heavier."""
    sizes = sorted(set(owned))
    if not sizes:
        return None
    kg = max((size for size in sizes if size <= wanted_kg + 1e-9), default=sizes[0])
    return Loading(kg=kg, words=f"{number_text(kg)} kg {what}", short_kg=wanted_kg - kg)


def improvised(wanted_kg: float) -> str:
    """What weighs about as much at home: bottles or a pack of water.

    >>> improvised(10)
    'a pack with 10 litres of water'
    """
    litres = wanted_kg / WATER_KG_PER_L
    if litres <= 2:
        return f"a bottle with {number_text(round(litres * 2) / 2 or 0.5)} litres of water"
    return f"a pack with {round(litres)} litres of water"


Reference = Literal["men", "women"]
DOTS: dict[Reference, tuple[float, ...]] = {
    "men": (-307.75076, 24.0900756, -0.1918759221, 0.0007391293, -0.000001093),
    "women": (-57.96288, 13.6175032, -0.1126655495, 0.0005158568, -0.0000010706),
}
DOTS_RANGE_KG: dict[Reference, tuple[float, float]] = {"men": (40, 210), "women": (40, 150)}


def across_bodyweights(kg: float, body_kg: float, reference: Reference) -> float:
    """A lift made comparable across bodyweights: the DOTS coefficient times the load.

    `500 / (a + b w + c w² + d w³ + e w⁴)` with bodyweight w in kg, held inside the range it was
    fitted on (T. Konertz, 2019; the coefficients from memory). `reference` is the group of lifters
    that the athlete chose to be compared by.
    """
    low, high = DOTS_RANGE_KG[reference]
    weight = min(max(body_kg, low), high)
    return kg * 500 / sum(c * weight**power for power, c in enumerate(DOTS[reference]))
