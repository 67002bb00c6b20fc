"""Bests that sets speak for: what a load lifted for so many reps says of one rep's best."""

from __future__ import annotations

from collections.abc import Iterable

from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import MOST_REPS, one_rep_max
from pine_ladder.core.movements import Library

Lifted = tuple[int, plan.Piece, int, float]
"""A score in kg: athlete, piece, tier and the heaviest set."""
STEPS_KG = 0.5


def set_of(piece: plan.Piece, tier: int, library: Library) -> tuple[str, int] | None:
    """The lift and the reps that a score in kg of a piece is about; None where it says nothing of
    strength: with a prescribed load who lifts it has only done as told.
    """
    for line in piece.lines:
        for task in line.tasks:
            exercise = task.version(tier)
            movement = library.find(exercise.movement)
            if movement is None or not movement.reference_kg:
                continue
            prescribed = isinstance(exercise.load, plan.Weight | plan.Percent | plan.Bodyweight)
            if prescribed and not piece.build:
                return None
            if exercise.tempo or exercise.pause_s:
                return None
            match exercise.amount:
                case plan.Reps(low=reps, grow=0):
                    return movement.name, reps
                case plan.Scheme(values=values):
                    return movement.name, min(values)
                case plan.Max():
                    return None
            return movement.name, 1
    return None


def bests_from(lifted: Iterable[Lifted], library: Library) -> dict[int, dict[str, float]]:
    """The best in kg of each athlete's lifts by what they have lifted: the highest that any of
    their sets speaks for, by the middle of the published formulas.

    A set cannot say more than was lifted for so many reps; one that was easy says less than there
    is, so that the highest is the nearest.
    """
    out: dict[int, dict[str, float]] = {}
    for athlete, piece, tier, kg in lifted:
        found = set_of(piece, tier, library)
        if found is None or kg <= 0 or not 1 <= found[1] <= MOST_REPS:
            continue
        lift, reps = found
        best = round(one_rep_max(kg, reps).middle_kg / STEPS_KG) * STEPS_KG
        own = out.setdefault(athlete, {})
        own[lift] = max(own.get(lift, 0.0), best)
    return out
