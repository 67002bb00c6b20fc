"""Easing a task where other numbers will not do: a lighter load the gym owns, an easier rung.

Each way is run again before it is offered, and told with what it is before and after.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple, TypeVar

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.notation.edits import numbered_text, rewrite
from pine_ladder.core.notation.printer import load_text

LIGHTER = (0.85, 0.75, 0.65, 0.5)
"""Shares of a load that are tried; under half of it the piece is another one (judgement)."""
RUNGS = 2
"""Rungs down a ladder that are tried."""
STEP_KG, SMALL_KG, SMALL_STEP_KG = 2.5, 10.0, 1.0

Way = TypeVar("Way")


class Wanted(NamedTuple):
    """What a measure should lie in, ends included."""

    low: float
    high: float

    def holds(self, value: float) -> bool:
        """Whether a value lies in it."""
        return self.low <= value <= self.high


class Place(NamedTuple):
    """A task of a piece: its block, line and place in the line (all from 0)."""

    block: int
    line: int
    task: int


class Eased(NamedTuple):
    """A piece with one task eased in a tier, and what that does."""

    words: str
    piece: plan.Piece
    place: Place


def places_of(piece: plan.Piece, station: int | None = None) -> Iterator[Place]:
    """The tasks of a piece, or of one of its stations (from 1)."""
    for b, block in enumerate(piece.blocks):
        for n, line in enumerate(block.lines):
            if station is not None and block.numbered and n != station - 1:
                continue
            for t, _task in enumerate(line.tasks):
                yield Place(b, n, t)


def exercise_at(piece: plan.Piece, place: Place, tier: int) -> plan.Exercise:
    """A tier's version of a task."""
    return piece.blocks[place.block].lines[place.line].tasks[place.task].version(tier)


def with_exercise(
    piece: plan.Piece, place: Place, tier: int, exercise: plan.Exercise
) -> plan.Piece:
    """The piece with a tier's version of a task exchanged; later tiers keep their own."""
    block = piece.blocks[place.block]
    line = block.lines[place.line]
    task = line.tasks[place.task]
    versions = list(task.versions)
    while len(versions) <= tier:
        versions.append(versions[-1])
    versions[tier] = exercise
    tasks = list(line.tasks)
    tasks[place.task] = task.model_copy(update={"versions": tuple(versions)})
    lines = list(block.lines)
    lines[place.line] = line.model_copy(update={"tasks": tuple(tasks)})
    blocks = list(piece.blocks)
    blocks[place.block] = block.model_copy(update={"lines": tuple(lines)})
    return piece.model_copy(update={"blocks": tuple(blocks)})


def owned_kg(movement: Movement | None, kit: Mapping[str, int] | None) -> tuple[float, ...]:
    """Sizes in kg that the gym owns of what a movement is done with; none where it is a bar's."""
    if movement is None or kit is None:
        return ()
    asked = {word for need in movement.kit for word in need.split(" or ")}
    found = (re.fullmatch(r"(.+?) (\d+(?:\.\d+)?) kg", name) for name, n in kit.items() if n > 0)
    return tuple(sorted(float(one[2]) for one in found if one and one[1] in asked))


def _lighter(values: Iterable[float], share: float, owned: tuple[float, ...]) -> tuple[float, ...]:
    """Loads near a share of those written, of the gym's own sizes where it has any."""
    out = []
    for value in values:
        wanted = value * share
        fitting = [one for one in owned if one <= wanted + 0.01]
        if fitting:
            out.append(fitting[-1])
        elif wanted >= SMALL_KG:
            out.append(STEP_KG * round(wanted / STEP_KG))
        else:
            out.append(max(SMALL_STEP_KG, SMALL_STEP_KG * round(wanted / SMALL_STEP_KG)))
    return tuple(out)


def lighter(
    piece: plan.Piece, place: Place, tier: int, library: Library, kit: Mapping[str, int] | None
) -> Iterator[Eased]:
    """The piece with a task's load lighter, step by step."""
    exercise = exercise_at(piece, place, tier)
    load = exercise.load
    if not isinstance(load, plan.Weight):
        return
    owned = owned_kg(library.find(exercise.movement), kit) if load.unit == "kg" else ()
    seen = {load.values}
    for share in LIGHTER:
        values = _lighter(load.values, share, owned)
        pairs = list(zip(values, load.values, strict=True))
        if values in seen or any(not LIGHTER[-1] * was - 0.01 <= now <= was for now, was in pairs):
            continue
        seen.add(values)
        less = load.model_copy(update={"values": values})
        light = exercise.model_copy(update={"load": less})
        words = f"{load_text(load)} → {load_text(less)} {exercise.movement}"
        yield Eased(words, with_exercise(piece, place, tier, light), place)


def easier(piece: plan.Piece, place: Place, tier: int, library: Library) -> Iterator[Eased]:
    """The piece with a task some rungs further down its ladder, without its load."""
    exercise = exercise_at(piece, place, tier)
    movement = library.find(exercise.movement)
    ladder = library.ladder_of(movement.name) if movement else None
    if movement is None or ladder is None:
        return
    at = ladder.rungs.index(movement.name)
    for rung in reversed(ladder.rungs[max(0, at - RUNGS) : at]):
        other = library.find(rung)
        if other is None or other.measure != movement.measure:
            continue
        keeps = other.reference_kg is not None and movement.reference_kg is not None
        changes = {"movement": rung, "load": exercise.load if keeps else None}
        eased = exercise.model_copy(update=changes)
        yield Eased(
            f"{exercise.movement} → {rung}", with_exercise(piece, place, tier, eased), place
        )


def first_within(
    ways: Sequence[Way], measured: Callable[[Way], float], wanted: Wanted, before: float
) -> tuple[Way, float] | None:
    """The first of some ways that brings a measure from `before` to what is wanted, and the measure
    then; each way goes further than the one before it. None where all fall short, or go past it.
    """

    def short(value: float) -> bool:
        return value > wanted.high if before > wanted.high else value < wanted.low

    # Where the last falls short all of them do; else the first that does not is found by halving.
    if not ways or short(found := measured(ways[-1])):
        return None
    low, high = 0, len(ways) - 1
    while low < high:
        at = (low + high) // 2
        value = measured(ways[at])
        if short(value):
            low = at + 1
        else:
            high, found = at, value
    return (ways[high], found) if wanted.holds(found) else None


def ease(
    piece: plan.Piece,
    library: Library,
    tier: int,
    places: Iterable[Place],
    measure: Callable[[plan.Piece], float],
    wanted: Wanted,
    show: Callable[[float], str],
    kit: Mapping[str, int] | None = None,
) -> list[plan.Repair]:
    """The first lighter load and the first easier rung with which a piece measures as wanted."""

    def measured(way: Eased) -> float:
        return measure(way.piece)

    before = measure(piece)
    everywhere = list(places)
    loads = (
        first_within(list(lighter(piece, place, tier, library, kit)), measured, wanted, before)
        for place in everywhere
    )
    # An easier rung may well take longer: each is tried by itself.
    rungs = (
        first_within([way], measured, wanted, before)
        for place in everywhere
        for way in easier(piece, place, tier, library)
    )
    found = (next(filter(None, loads), None), next(filter(None, rungs), None))
    return [_repair(piece, *each, before, show) for each in found if each]


def _repair(
    piece: plan.Piece, way: Eased, after: float, before: float, show: Callable[[float], str]
) -> plan.Repair:
    block = piece.blocks[way.place.block]
    line = way.piece.blocks[way.place.block].lines[way.place.line]
    text = numbered_text(block, block.lines[way.place.line], line)
    label = f"{way.words}: {show(before)} → {show(after)}"
    edit = rewrite(block.lines[way.place.line].line, text)
    return plan.Repair(label=label, edits=(edit,))
