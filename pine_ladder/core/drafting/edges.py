"""The warm-up and the cool-down of a day, made for the work that stands between them."""

from __future__ import annotations

import random
from collections.abc import Iterable, Sequence

from pine_ladder.core import plan
from pine_ladder.core.dose import Region, dose_of_piece, dose_of_session
from pine_ladder.core.drafting.builder import block
from pine_ladder.core.drafting.material import Material, lands
from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.pace.day import losses
from pine_ladder.core.pace.rep_times import constants, in_a_row

RAISERS = (
    "easy row",
    "easy bike",
    "easy skip",
    "step jack",
    "jumping jack",
    "run in place",
    "easy run",
    "walk",
)
LONGEST_WARM_UP_MIN = 6.0
"""An AMRAP to get warm lasts so long at most (judgement)."""
MOST_OF_A_SET = 0.3
"""Warming up takes at most this part of what people do in one go (judgement)."""
MOST_LOSS = 1.02
"""The first round of the day may take at most so many times its fresh time after a warm-up."""
RAMP_FROM = 70
"""Percentage of the best from which a lift is ramped up to."""
STRETCHES: dict[Region, tuple[str, ...]] = {
    Region.SQUAT: ("couch stretch", "quad stretch", "hip flexor stretch"),
    Region.HINGE: ("hamstring stretch", "figure-four stretch", "pigeon stretch"),
    Region.PRESS: ("chest stretch", "child's pose", "lat stretch"),
    Region.PULL: ("lat stretch", "child's pose", "chest stretch"),
    Region.TRUNK: ("cobra stretch", "child's pose", "lat stretch"),
    Region.LANDING: ("calf stretch", "down dog", "quad stretch"),
    Region.ENGINE: ("hip flexor stretch", "forward fold", "calf stretch"),
}
PREPARES: dict[Region, tuple[str, ...]] = {
    Region.SQUAT: ("ankle rock", "deep squat sit", "hip switch"),
    Region.HINGE: ("cat-camel", "good morning", "hip circle"),
    Region.PRESS: ("shoulder pass-through", "wall slide", "arm circle"),
    Region.PULL: ("band pull-apart", "scapular push-up", "arm circle"),
    Region.TRUNK: ("dead bug", "bird dog", "cat-camel"),
    Region.LANDING: ("ankle circle", "ankle rock", "pogo hop"),
    Region.ENGINE: ("leg swing", "hip circle", "world's greatest stretch"),
}


def hardest(session: plan.Session, library: Library, count: int = 2) -> list[Region]:
    """The regions that a day is hardest on, the hardest first."""
    dose = dose_of_session(session, library)
    body: list[Region] = [region for region in Region if region is not Region.ENGINE]
    return sorted(body, key=lambda region: -dose.of(region))[:count]


def movements_of(pieces: Iterable[plan.Piece], library: Library) -> list[Movement]:
    """The movements of some pieces as written, each once, in the order of the board."""
    names = (
        unit.movement
        for piece in pieces
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out)
        for task in line.tasks
        for unit in task.versions[0].units
    )
    found = (library.find(name) for name in names)
    return list(dict.fromkeys(one for one in found if one is not None))


def warm_up(
    pieces: Sequence[plan.Piece], material: Material, rng: random.Random, minutes: float = 8.0
) -> list[plan.Piece]:
    """A warm-up for the pieces that follow: two or three minutes that raise, the day's joints and
    patterns by easier rungs, and sets up to the working weight where the day begins heavy. It is
    made shorter until it costs the first round nothing that counts.
    """
    library = material.library
    day = plan.Session(pieces=tuple(pieces))
    raise_s = 120 if minutes < 7 else 150
    exercises: list[plan.Exercise] = []
    raiser = _first(RAISERS, material, rng)
    if raiser is not None:
        amount: plan.Amount = plan.Duration(seconds=raise_s // 2)
        exercises.append(plan.Exercise(amount=amount, movement=raiser.name))
    for region in hardest(day, library):
        joint = _first(PREPARES[region], material, rng)
        if joint is not None and joint.name not in {exercise.movement for exercise in exercises}:
            exercises.append(_gently(joint, 20.0))
    for movement in movements_of(pieces, library):
        rung = easier_rung(movement, material)
        if rung is not None and rung.name not in {exercise.movement for exercise in exercises}:
            exercises.append(_gently(rung, 15.0))
        if len(exercises) >= 5:
            break
    form: plan.Format = plan.Rounds(low=2, high=None)
    if material.prompt.style.warm_up == "AMRAP":
        form = plan.Amrap(length_s=60 * max(3, round(min(minutes, LONGEST_WARM_UP_MIN))))
    made = [plan.Piece(role=plan.Role.WARM_UP, format=form, blocks=(block(exercises),))]
    ramp = _ramp(pieces, library)
    while len(exercises) > 3 and first_round_loss([*made, *ramp], pieces, library) > MOST_LOSS:
        exercises.pop()
        made = [made[0].model_copy(update={"blocks": (block(exercises),)})]
    return [*made, *ramp]


def first_round_loss(
    before: Sequence[plan.Piece], pieces: Sequence[plan.Piece], library: Library
) -> float:
    """Return the time of the day's first round after a warm-up, over its fresh time."""
    if not pieces:
        return 1.0
    day = plan.Session(pieces=(*before, pieces[0]))
    return losses(day, library)[-1].first_round


def _ramp(pieces: Sequence[plan.Piece], library: Library) -> list[plan.Piece]:
    """Sets up to the first lift's working weight, where it is a heavy one."""
    first = next((piece for piece in pieces if piece.lines), None)
    if first is None or first.role not in (plan.Role.STRENGTH, plan.Role.POWER):
        return []
    exercise = first.lines[0].tasks[0].versions[0]
    load = exercise.load
    heavy = isinstance(load, plan.Effort) or (
        isinstance(load, plan.Percent) and (load.high or load.low) >= RAMP_FROM
    )
    movement = library.find(exercise.movement)
    if not heavy or movement is None or "barbell" not in movement.kit:
        return []
    steps: list[tuple[int, plan.Load]]
    if isinstance(load, plan.Percent):
        steps = [(5, plan.Percent(low=40)), (3, plan.Percent(low=55)), (2, plan.Percent(low=65))]
    else:
        steps = [(5, plan.Effort(rpe=3)), (3, plan.Effort(rpe=5))]
    exercises = [
        plan.Exercise(amount=plan.Reps(low=reps), movement=movement.name, load=step)
        for reps, step in steps
    ]
    return [
        plan.Piece(
            role=plan.Role.WARM_UP,
            format=plan.Rounds(low=1, high=None),
            blocks=(block(exercises),),
        )
    ]


def easier_rung(movement: Movement, material: Material) -> Movement | None:
    """A rung or two below a movement that is no work any more; the movement itself where it is easy
    enough and without a load; None where there is none.
    """
    ladder = material.library.ladder_of(movement.name)
    below: list[Movement] = []
    if ladder is not None:
        at = ladder.rungs.index(movement.name)
        found = (material.library.find(rung) for rung in reversed(ladder.rungs[:at]))
        below = [one for one in found if one is not None]
    same = [movement] if movement.reference_kg is None else []
    for one in (*below, *same):
        if one.demand <= 0.45 and one.reference_kg is None and material.for_all(one):
            return one
    return None


def _gently(movement: Movement, seconds: float) -> plan.Exercise:
    """A little of a movement: well under what people do in one go."""
    if movement.measure == "time":
        return plan.Exercise(amount=plan.Duration(seconds=20), movement=movement.name)
    if movement.measure == "distance":
        metres = max(10.0, 10.0 * round(seconds / movement.seconds / 10))
        return plan.Exercise(amount=plan.Distance(metres=(metres,)), movement=movement.name)
    most = MOST_OF_A_SET * in_a_row(movement, constants())
    reps = max(4, min(10, int(min(seconds / movement.seconds, most))))
    reps += reps % 2
    return plan.Exercise(amount=plan.Reps(low=reps), movement=movement.name)


def _first(names: Sequence[str], material: Material, rng: random.Random) -> Movement | None:
    """One of some movements that may come, those named first the likelier."""
    found = [
        one for name in names if (one := material.library.find(name)) and material.for_all(one)
    ]
    return rng.choice(found[:2]) if found else None


def cool_down(
    pieces: Sequence[plan.Piece], material: Material, rng: random.Random, minutes: int = 5
) -> plan.Piece:
    """Easy moving, then long holds for what was loaded hardest."""
    day = plan.Session(pieces=tuple(pieces))
    exercises = []
    mover = _first(("walk", "easy bike", "easy row", "step jack"), material, rng)
    if mover is not None and not lands(mover):
        exercises.append(plan.Exercise(amount=plan.Duration(seconds=120), movement=mover.name))
    room = 60 * minutes - 120
    for region in hardest(day, material.library, 3):
        stretch = _first(STRETCHES[region], material, rng)
        if stretch is None or stretch.name in {exercise.movement for exercise in exercises}:
            continue
        sided = stretch.name not in ("child's pose", "cobra stretch", "forward fold", "down dog")
        seconds = 45 if sided else 60
        if room < seconds * (2 if sided else 1):
            break
        room -= seconds * (2 if sided else 1)
        exercises.append(
            plan.Exercise(
                amount=plan.Duration(seconds=seconds),
                movement=stretch.name,
                side=plan.Side.EACH if sided else None,
            )
        )
    return plan.Piece(
        role=plan.Role.COOL_DOWN, format=plan.Rounds(low=1, high=None), blocks=(block(exercises),)
    )


HARD, LOADED = 35, 20
"""Doses of a region from which other work is hard on it, and strength work (judgement)."""


def loads_most(piece: plan.Piece, library: Library) -> frozenset[Region]:
    """Regions that a piece is hard on; of strength work, also those it loads less hard."""
    dose = dose_of_piece(piece, library)
    least = LOADED if piece.role is plan.Role.STRENGTH else HARD
    return frozenset(r for r in Region if r is not Region.ENGINE and dose.of(r) >= least)
