"""Versions of a line: for tiers that need an easier one, for people with a limit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from pine_ladder.core import plan
from pine_ladder.core.dose.regions import regions_of
from pine_ladder.core.drafting.material import Material, nearest
from pine_ladder.core.movements import Movement
from pine_ladder.core.movements.library import stresses
from pine_ladder.core.pace.rep_times import constants, in_a_row

LIGHTER = (0.75, 0.55)
HARD_TO_DO = 12
"""Reps in a row under which the last tier needs an easier version (judgement)."""


def for_levels(
    exercise: plan.Exercise, material: Material, tiers: int
) -> tuple[plan.Exercise, ...]:
    """The versions of an exercise by tier, the first as it is; one where all can do it."""
    movement = material.library.find(exercise.movement)
    if movement is None or tiers < 2:
        return (exercise,)
    load = exercise.load
    if isinstance(load, plan.Weight):
        out = [exercise]
        for share in LIGHTER[: tiers - 1]:
            values = tuple(_lighter(kg, share, movement, material) for kg in load.values)
            lighter = load.model_copy(update={"values": values})
            if values != out[-1].load.values if isinstance(out[-1].load, plan.Weight) else True:
                out.append(exercise.model_copy(update={"load": lighter}))
        return tuple(out)
    if (
        isinstance(load, plan.Percent | plan.Effort)
        or in_a_row(movement, constants()) >= HARD_TO_DO
    ):
        return (exercise,)
    rungs = _rungs_below(movement, material)
    out = [exercise]
    for rung in rungs[: tiers - 1]:
        out.append(exercise.model_copy(update={"movement": rung.name, "load": None}))
    return tuple(out)


def _lighter(kg: float, share: float, movement: Movement, material: Material) -> float:
    sizes = material.sizes(movement.kit[0]) if movement.kit else []
    if sizes:
        return max((size for size in sizes if size <= kg * share), default=sizes[0])
    return min(kg, nearest(kg * share)) if kg >= 6 else max(1.0, round(kg * share))


def _rungs_below(movement: Movement, material: Material) -> list[Movement]:
    """Easier rungs of the same measure that may come, the nearest first."""
    ladder = material.library.ladder_of(movement.name)
    if ladder is None:
        return []
    at = ladder.rungs.index(movement.name)
    found = (material.library.find(rung) for rung in reversed(ladder.rungs[:at]))
    return [
        one
        for one in found
        if one is not None
        and one.measure == movement.measure
        and one.reference_kg is None
        and material.may_come(one)
        and in_a_row(one, constants()) > in_a_row(movement, constants())
    ][:2]


def for_limits(
    exercise: plan.Exercise, limits: Sequence[str], material: Material
) -> tuple[plan.Exercise, ...]:
    """What those with a limit do instead, so that every limit has a version; () where none asks.

    By the swaps of the library first, then what loads the same region without asking of the limit,
    then what is nearest to it in how hard it is.
    """
    movement = material.library.find(exercise.movement)
    if movement is None:
        return ()
    asking = [limit for limit in limits if stresses(limit, movement.name)]
    if not asking:
        return ()
    other = _instead(movement, asking, limits, material)
    if other is None:
        return ()
    swap, ratio = other
    return (_as_much(exercise, movement, swap, ratio, material),)


def _instead(
    movement: Movement, asking: Sequence[str], limits: Sequence[str], material: Material
) -> tuple[Movement, float] | None:
    """A movement that asks nothing of any of the limits, and how many of it stand for one."""
    library = material.library

    def fine(movement: Movement) -> bool:
        return not any(stresses(limit, movement.name) for limit in limits) and material.may_come(
            movement
        )

    for swap in library.swaps_for(movement.name):
        found = library.find(swap.instead)
        if swap.because in asking and found is not None and fine(found):
            return found, swap.ratio
    own = regions_of(movement)
    pool = [
        one
        for one in material.allowed
        if one.measure in ("reps", movement.measure)
        and one.demand >= 0.2
        and fine(one)
        and one.name != movement.name
    ]
    if not pool:
        return None

    def away(one: Movement) -> tuple[float, str]:
        shares = regions_of(one)
        apart = sum(abs(shares.get(r, 0.0) - own.get(r, 0.0)) for r in {*shares, *own})
        return apart + 2 * abs(one.demand - movement.demand), one.name

    best = min(pool, key=away)
    return best, 1.0


def _as_much(
    exercise: plan.Exercise,
    movement: Movement,
    swap: Movement,
    ratio: float,
    material: Material,
) -> plan.Exercise:
    """As much of a swap as of what it stands for: by the ratio, else by the seconds it takes."""
    amount = exercise.amount
    if isinstance(amount, plan.Reps) and swap.measure == "reps":
        low = max(1, round(amount.low * ratio))
        amount = plan.Reps(low=low)
    elif isinstance(amount, plan.Distance | plan.Duration) and swap.measure == "reps":
        seconds = (
            amount.seconds
            if isinstance(amount, plan.Duration)
            else amount.metres[0] * movement.seconds
        )
        amount = plan.Reps(low=max(4, 2 * round(seconds / swap.seconds / 2)))
    elif isinstance(amount, plan.Reps) and swap.measure == "time":
        amount = plan.Duration(seconds=5 * max(3, round(amount.low * movement.seconds / 5)))
    return plan.Exercise(
        amount=amount, movement=swap.name, load=material.load(swap, 0.9), side=None
    )


def with_versions(
    piece: plan.Piece, material: Material, levels: Mapping[str, int], limits: Sequence[str]
) -> plan.Piece:
    """A piece with a version in each line for the tiers that are there and for each limit."""
    tiers = _tiers(levels)

    def line(one: plan.Line) -> plan.Line:
        made = []
        for task in one.tasks:
            first = task.versions[0]
            if first.parts:
                made.append(task)
                continue
            versions = (
                for_levels(first, material, tiers) if len(task.versions) == 1 else task.versions
            )
            instead = for_limits(first, limits, material)
            if instead:
                versions = (
                    tuple(v.model_copy(update={"instead": instead}) for v in versions[:1])
                    + versions[1:]
                )
            made.append(task.model_copy(update={"versions": versions}))
        return one.model_copy(update={"tasks": tuple(made)})

    blocks = tuple(
        block.model_copy(update={"lines": tuple(line(one) for one in block.lines)})
        for block in piece.blocks
    )
    return piece.model_copy(update={"blocks": blocks})


def _tiers(levels: Mapping[str, int]) -> int:
    """Return the number of tiers that need a version: three with beginners, two with others."""
    if not levels:
        return 1
    low = " ".join(levels)
    return 3 if any(word in low for word in ("start", "begin", "new")) else 2
