"""A plain sum of movement paces: what a line costs, for the load of a week."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.movements import Library

UNKNOWN_MOVEMENT_S = 2.5
CALORIE_S = 3.6
CHANGE_S = 5
"""Walking to the next line and picking it up."""
FATIGUE = 1.2
"""Working reps are slower than fresh ones."""


def rep_seconds(exercise: plan.Exercise, library: Library) -> float:
    """Seconds of one fresh rep (or metre) with its tempo and pause."""
    if exercise.parts:
        return sum(amount_seconds(part, None, library) for part in exercise.parts)
    movement = library.find(exercise.movement)
    seconds = movement.seconds if movement else UNKNOWN_MOVEMENT_S
    if exercise.tempo:
        seconds = max(seconds, sum(1 if c == "X" else int(c) for c in exercise.tempo))
    return seconds + (exercise.pause_s or 0)


def amount_seconds(
    exercise: plan.Exercise, round_reps: int | None, library: Library, round_: int = 1
) -> float:
    """Seconds of one line once in a round; `round_reps` where the piece's scheme counts."""
    sides = 2 if exercise.side is plan.Side.EACH else 1
    match exercise.amount:
        case plan.Duration(seconds=seconds, grow_s=grow):
            return sides * (seconds + grow * (round_ - 1))
        case plan.Distance(metres=metres):
            movement = library.find(exercise.movement)
            by_metre = movement is not None and movement.measure == "distance"
            pace = movement.seconds if movement and by_metre else 0.4
            return sides * metres[0] * pace
        case plan.Calories(calories=calories):
            return calories[0] * CALORIE_S
        case plan.Scheme(values=values, unit=unit):
            value = values[min(round_, len(values)) - 1]
            per = {"s": 1.0, "m": 0.4, "cal": CALORIE_S}.get(unit, rep_seconds(exercise, library))
            return sides * value * per
        case plan.Reps(low=low, high=high, grow=grow):
            reps = (low + (high or low)) / 2 + grow * (round_ - 1)
            return sides * reps * rep_seconds(exercise, library)
        case None if round_reps:
            return sides * round_reps * rep_seconds(exercise, library)
    return 30.0
