"""Movements chosen for the pieces of a draft, with their numbers and the reason of each."""

from __future__ import annotations

import random
import re
from collections.abc import Callable, Sequence
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.dose import Region
from pine_ladder.core.dose.regions import regions_of
from pine_ladder.core.drafting.material import Material
from pine_ladder.core.movements import Movement, Pattern
from pine_ladder.core.pace.rep_times import constants, in_a_row

NICE = (3, 4, 5, 6, 8, 10, 12, 15, 18, 20, 24, 30)
LENGTHS_M = (100, 150, 200, 250, 300, 400, 500)
TASK_S = 30.0
"""Seconds that a task of a round is meant to take (judgement)."""
MUSCLES = (Region.SQUAT, Region.HINGE, Region.PRESS, Region.PULL)
STRENGTH_PATTERNS = (Pattern.SQUAT, Pattern.HINGE, Pattern.PRESS, Pattern.PULL, Pattern.LUNGE)
PUSH, PULL = (Pattern.PRESS,), (Pattern.PULL,)


MOST_NEW, EASY_TO_LEARN = 2, 0.3
"""Movements of a day that the gym's boards do not know, of those that ask something of anybody."""


class Slot(NamedTuple):
    """A piece to be made: its role, about how many minutes, the family of format ("" for any), what
    it is for, and the regions that it should leave alone.
    """

    role: plan.Role
    minutes: float
    family: str = ""
    purpose: plan.Purpose | None = None
    spare: frozenset[Region] = frozenset()


class Chosen(NamedTuple):
    """Movements with the reason that each was chosen for."""

    movement: Movement
    reason: str


class Builder:
    """Makes pieces of some material, by one source of chance."""

    def __init__(self, material: Material, rng: random.Random) -> None:
        self.material, self.rng = material, rng
        self.reasons: dict[str, str] = {}
        self.chosen: list[str] = []
        self.kinds: list[str] = []
        self.taken: set[int] = set()

    def pick(
        self,
        count: int,
        fits: Callable[[Movement], bool],
        spare: frozenset[Region] = frozenset(),
        apart: bool = True,
        shared: bool = False,
        pairs: bool = False,
    ) -> list[Movement]:
        """Movements that fit, each of another region where they are to be `apart`; as many as there
        are. Where the work is `shared` in teams, kit for one of each is enough; in `pairs`, two
        take turns with it.
        """
        pool = [
            pair
            for pair in (self.material.allowed_in_pairs if pairs else self.material.allowed)
            if fits(pair)
            and (shared or pairs or self.material.for_all(pair))
            and self.material.rested(pair)
            and not _loads(pair, spare)
        ]
        weights = {
            movement.name: self.material.weight(movement, self.rng, self.chosen)
            for movement in pool
        }
        pool.sort(key=lambda movement: (-weights[movement.name], movement.name))
        out: list[Movement] = []
        seen: set[object] = set()
        for one in pool:
            key = _kind(one)
            if (apart and key in seen) or not self._known_enough(one):
                continue
            seen.add(key)
            out.append(one)
            self.note(one)
            if len(out) == count:
                break
        return out

    def _known_enough(self, movement: Movement) -> bool:
        """Whether a movement is known here, or one more that is new may still come today."""
        used = self.material.used
        if not used or used[movement.name] or movement.demand <= EASY_TO_LEARN:
            return True
        new = {
            name for name in self.chosen if not used[name] and self._demand(name) > EASY_TO_LEARN
        }
        return movement.name in new or len(new) < MOST_NEW

    def _demand(self, name: str) -> float:
        movement = self.material.library.find(name)
        return movement.demand if movement else 0.0

    def note(self, movement: Movement) -> None:
        """Keep that a movement was chosen, and the reason it came for."""
        self.chosen.append(movement.name)
        ago = self.material.days_since.get(movement.name)
        kind = movement.patterns[0].value
        if self.material.wanted(movement):
            reason = "asked for"
        elif ago is None and self.material.prompt.recent:
            reason = f"{kind} that did not come in the last days"
        elif ago is not None:
            reason = f"{kind}, last done {ago} days of training ago"
        elif movement.kit and self.material.kit is not None:
            reason = f"{kind} with kit that is there: {movement.kit[0]}"
        else:
            reason = f"{kind} for the balance of the piece"
        self.reasons[movement.name] = reason

    def reps(self, movement: Movement, seconds: float = TASK_S) -> int:
        """A usual number of reps that takes about so long: fewer the harder the movement is."""
        most = max(3.0, 0.7 * in_a_row(movement, constants()))
        wanted = min(seconds / movement.seconds, most)
        number = min(NICE, key=lambda nice: abs(nice - wanted))
        alternating = movement.sides == "alternating"
        return number + number % 2 if alternating else number

    def exercise(
        self, movement: Movement, seconds: float = TASK_S, share: float = 1.0
    ) -> plan.Exercise:
        """A task of about so many seconds."""
        amount: plan.Amount
        if movement.measure == "time":
            amount = plan.Duration(seconds=5 * max(3, round(seconds / 5)))
        elif movement.measure == "distance":
            wanted = seconds / movement.seconds
            if movement.patterns[0] is Pattern.ENGINE:
                metres = min(LENGTHS_M, key=lambda one: abs(one - wanted))
            else:
                metres = max(10, 10 * round(min(wanted, 60) / 10))
            amount = plan.Distance(metres=(float(metres),))
        else:
            amount = plan.Reps(low=self.reps(movement, seconds))
        side = plan.Side.ALTERNATING if _one_armed(movement) else None
        return plan.Exercise(
            amount=amount,
            movement=movement.name,
            load=self.material.load(movement, share),
            side=side,
        )

    def windowed(self, movement: Movement) -> plan.Exercise:
        """As many as possible of a movement in a window."""
        if movement.measure == "time":
            return self.exercise(movement, 30.0)
        side = plan.Side.ALTERNATING if _one_armed(movement) else None
        load = self.material.load(movement, 0.9)
        return plan.Exercise(amount=plan.Max(), movement=movement.name, load=load, side=side)


def _kind(movement: Movement) -> object:
    """Return the main region of a movement, or its pattern: two of a piece should differ."""
    shares = {r: s for r, s in regions_of(movement).items() if r in MUSCLES}
    top = max(shares, key=lambda region: shares[region], default=None)
    return movement.patterns[0] if top is None or shares[top] < 0.5 else top


def _loads(movement: Movement, regions: frozenset[Region]) -> bool:
    shares = regions_of(movement)
    return any(shares.get(region, 0.0) > 0.5 for region in regions)


def _one_armed(movement: Movement) -> bool:
    """Whether a movement is done with one implement in turn."""
    single = movement.name in ("dumbbell snatch", "kettlebell snatch", "one-arm kettlebell swing")
    return single or movement.sides == "alternating"


def lines(exercises: Sequence[plan.Exercise]) -> tuple[plan.Line, ...]:
    """A line for each exercise."""
    return tuple(plan.Line(tasks=(plan.Task(versions=(exercise,)),)) for exercise in exercises)


def block(exercises: Sequence[plan.Exercise], numbered: bool = False) -> plan.Block:
    """A block of a line for each exercise."""
    return plan.Block(lines=lines(exercises), numbered=numbered)


_FEW_REPS = re.compile(r"few reps", re.IGNORECASE)
"""A caution that begins so: no movement for as many reps as fit."""


def in_a_workout(movement: Movement) -> bool:
    """Whether a movement is done for many reps, and is no stretch and no plain walk."""
    return (
        movement.patterns[0] is not Pattern.MOBILITY
        and not movement.easy
        and movement.name != "sprint"
        and movement.demand >= 0.35
        and movement.seconds <= 8
        and not any(_FEW_REPS.match(caution) for caution in movement.cautions)
        and (movement.measure != "time" or movement.demand >= 0.5)
    )


def is_lift(movement: Movement) -> bool:
    """Whether a movement is trained heavy in sets of few reps."""
    return (
        movement.reference_kg is not None
        and movement.patterns[0] in STRENGTH_PATTERNS
        and movement.measure == "reps"
        and bool({"barbell", "trap bar", "dumbbell", "kettlebell"} & set(movement.kit))
    )


def is_heavy_lift(movement: Movement) -> bool:
    """Whether a movement is trained heavy with a barbell."""
    return is_lift(movement) and "barbell" in movement.kit


def whole_minutes(minutes: float, least: int = 1) -> int:
    """Minutes as a whole number, `least` at least."""
    return max(least, round(minutes))
