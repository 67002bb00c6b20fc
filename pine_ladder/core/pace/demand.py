"""What a line asks of each athlete, and what a calorie, a metre and a trip of it take."""

from __future__ import annotations

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.movements import Movement, Pattern
from pine_ladder.core.pace.rep_times import (
    CALORIE_DEMAND,
    CALORIE_S,
    CALORIE_TRACK,
    METRE_S,
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


def machine(rep: Rep, athletes: Athletes) -> Rep:
    """A calorie on a machine: by its kind, and slower for who has less power."""
    power = np.array(CALORIE_TRACK)[np.minimum(athletes.track, 1)]
    power = power * np.array(TRACK_CYCLIC)[np.minimum(athletes.track, 1)]
    seconds = athletes.pace[Capacity.CYCLIC] * CALORIE_S.get(rep.name, OTHER_CALORIE_S) * power
    return Rep(rep.name, seconds, rep.slow, CALORIE_DEMAND, np.full(athletes.count, NEVER), None)


def metre(rep: Rep, movement: Movement, athletes: Athletes) -> Rep:
    """A metre of what is counted in metres, or of anything else that is asked over a distance."""
    if movement.measure == "distance":
        return rep
    pace = athletes.pace[Capacity.CYCLIC] * METRE_S
    return Rep(rep.name, pace, rep.slow, rep.demand, np.full(athletes.count, NEVER), rep.kg)


def trip(rep: Rep, movement: Movement, athletes: Athletes, metres: float) -> Rep:
    """A trip over a distance with the turn at its end."""
    one = metre(rep, movement, athletes)
    seconds = one.seconds * metres + TURN_S
    return Rep(one.name, seconds, one.slow, one.demand, np.full(athletes.count, NEVER), one.kg)
