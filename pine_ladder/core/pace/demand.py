"""What a line asks of each athlete, and what a calorie, a metre and a trip of it take."""

from __future__ import annotations

import tomllib
from dataclasses import replace
from functools import cache
from importlib import resources

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.movements import Movement, Pattern
from pine_ladder.core.movements.library import fold
from pine_ladder.core.pace.rep_times import (
    CALORIE_DEMAND,
    CALORIE_S,
    CALORIE_TRACK,
    OTHER_CALORIE_S,
    TRACK_CYCLIC,
    Array,
    Athletes,
    Capacity,
    Rep,
)

NEVER = np.inf
TURN_S = 1.5
"""Turning round at the end of a trip, or handing over to a partner."""


def asked(
    exercise: plan.Exercise, athletes: Athletes, round_: int, reps: int | None, grow: int
) -> Array:
    """How many reps, metres, seconds or calories an exercise asks of each athlete in a round.

    `reps` are those of its piece's scheme, `grow` how many its piece adds each round.
    """
    sides = 2 if exercise.side is plan.Side.EACH else 1
    every = np.ones(athletes.count)
    match exercise.amount:
        case plan.Reps(low=low, high=None, grow=more):
            return every * (sides * max(0, low + (more + grow) * (round_ - 1)))
        case plan.Reps(low=low, high=high, grow=more):
            spread = np.round(low + athletes.choice * ((high or low) - low))
            return sides * np.maximum(0.0, spread + (more + grow) * (round_ - 1))
        case plan.Scheme(values=values):
            return every * sides * values[min(round_, len(values)) - 1]
        case plan.Duration(seconds=seconds, grow_s=longer):
            return every * sides * (seconds + longer * (round_ - 1))
        case plan.Distance(metres=metres):
            return sides * np.array(metres)[np.minimum(athletes.track, len(metres) - 1)]
        case plan.Calories(calories=calories):
            own = np.array(calories)[np.minimum(athletes.track, len(calories) - 1)]
            return sides * own.astype(float)
        case plan.Max() | plan.Trips():
            return every * NEVER
    return every * (sides * reps if reps else NEVER)


def machines(movement: Movement) -> bool:
    """Whether a movement is done on something that counts calories."""
    return (
        Pattern.ENGINE in movement.patterns
        and bool(movement.kit)
        and movement.measure == "distance"
    )


def machine(rep: Rep, athletes: Athletes, length_s: Array) -> Rep:
    """A calorie on a machine: by its kind, and slower for who has less power.

    `length_s` are the seconds of hard work that the calories are part of. A bike with a fan pays
    for a sprint as no other machine does: its calories go by the power that can be held so long.
    """
    power = np.array(CALORIE_TRACK)[np.minimum(athletes.track, 1)]
    power = power * np.array(TRACK_CYCLIC)[np.minimum(athletes.track, 1)]
    own = athletes.pace[Capacity.CYCLIC] * power
    if rep.name in FANS:
        # The length is in it already: neither fatigue nor a short window changes it again.
        seconds, slow, floor_s = own * fan_calorie_s(length_s), 0.0, NEVER
    else:
        seconds, slow, floor_s = own * CALORIE_S.get(rep.name, OTHER_CALORIE_S), rep.slow, 0.0
    endless = np.full(athletes.count, NEVER)
    return Rep(rep.name, seconds, slow, CALORIE_DEMAND, endless, None, floor_s=floor_s)


FANS = ("bike",)
CRITICAL_W, RESERVE_J, SHORTEST_S = 70.0, 15_000.0, 25.0
"""Watts an ordinary member can go on with on a bike with a fan, and joules above it (Monod and
Scherrer 1965; the values from memory and judgement), and the shortest sprint they are told for.
"""
HOUR_CALORIES, CALORIES_A_WATT = 300.0, 3.44
"""Calories an hour that a machine shows at rest and for each watt (the commonly published formula
`300 + 4 · 0.8604 · watts`, from memory).
"""


def fan_calorie_s(length_s: Array) -> Array:
    """Seconds a calorie takes an ordinary member who goes all out for so many seconds.

    >>> round(float(fan_calorie_s(np.array(60.0))), 1)
    2.6
    """
    watts = CRITICAL_W + RESERVE_J / np.maximum(length_s, SHORTEST_S)
    each: Array = 3600 / (HOUR_CALORIES + CALORIES_A_WATT * watts)
    return each


@cache
def _steps() -> dict[str, dict[str, float]]:
    """The tables of steps.toml, their words folded."""
    text = (resources.files("pine_ladder.core.movements") / "steps.toml").read_text("utf-8")
    tables = tomllib.loads(text).items()
    return {name: {fold(word): value for word, value in table.items()} for name, table in tables}


@cache
def metres_a_rep(movement: Movement) -> float:
    """Metres that a rep (second) of a movement covers, where it is counted in reps (seconds) and
    asked over a distance.
    """
    tables = _steps()
    if movement.measure == "time":
        return tables["speed"].get(fold(movement.name), tables["speed"]["other"])
    words, patterns = tables["words"], tables["pattern"]
    padded = f" {fold(movement.name)} "
    fitting = [word for word in words if f" {word} " in padded]
    if fitting:
        return words[max(fitting, key=len)]
    return next((patterns[p] for p in movement.patterns if p in patterns), patterns["other"])


def metre(rep: Rep, movement: Movement) -> Rep:
    """A metre of what is counted in metres, or of what is counted in reps and goes that far."""
    if movement.measure == "distance":
        return rep
    step = metres_a_rep(movement)
    each = replace(rep, seconds=rep.seconds / step, unbroken=rep.unbroken * step)
    return replace(each, landings=rep.landings / step, strain=rep.strain / step)


def trip(rep: Rep, movement: Movement, metres: float) -> Rep:
    """A trip over a distance with the turn at its end."""
    one = metre(rep, movement)
    seconds = one.seconds * metres + TURN_S
    return replace(one, seconds=seconds, unbroken=one.unbroken / metres, strain=one.strain * metres)
