"""What a coach may choose for an athlete instead: other loads, other rungs, other movements."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import load_steps
from pine_ladder.core.athletes.members import Member, Rack, athletes
from pine_ladder.core.athletes.scaling import (
    allowed,
    loaded_for,
    made_of,
    recommend,
    rung_ratio,
    swap_ratio,
    swapped,
)
from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.notation.printer import exercise_text
from pine_ladder.core.pace.rep_times import kilograms
from pine_ladder.core.plan import Frozen, for_track

EACH_WAY = 4
"""Loads offered below and above the recommended one."""
EASIER, HARDER = 3, 1
"""Rungs offered below and above the one on the board."""


class Choice(Frozen):
    """One choice: the board text it sets, what to load for it, why it is offered."""

    text: str
    movement: str
    loading: str = ""
    why: str = ""


class Choices(Frozen):
    """All that is offered for one line: `loads` from the lightest, the recommended one being at
    `at`; rungs from the easiest; what else stands in for the movement.
    """

    loads: tuple[Choice, ...] = ()
    at: int = 0
    rungs: tuple[Choice, ...] = ()
    swaps: tuple[Choice, ...] = ()


def choices(
    task: plan.Task,
    member: Member,
    library: Library,
    rack: Rack,
    schools: Mapping[str, str] | None = None,
) -> Choices:
    """What a coach may choose for an athlete on a task; nothing for a complex of several parts."""
    written = for_track(task.version(member.tier), member.track)
    movement = library.find(written.movement)
    if movement is None or written.parts:
        return Choices()
    current = recommend(task, member, library, rack, schools).exercise
    loads, at = _loads(current, member, library, rack)
    return Choices(
        loads=loads,
        at=at,
        rungs=tuple(_rungs(written, movement, member, library, rack, schools or {})),
        swaps=tuple(_swaps(written, movement, member, library, rack, schools or {})),
    )


def _loads(
    exercise: plan.Exercise, member: Member, library: Library, rack: Rack
) -> tuple[tuple[Choice, ...], int]:
    """The loads the gym makes around this one, and the place of this one among them."""
    movement = library.find(exercise.movement)
    told = kilograms(exercise, athletes([member], library), library)
    made = made_of(movement, float(told[0]), rack) if movement and told is not None else None
    if movement is None or made is None:
        return (), 0
    sizes = {made.kg: made}
    below, above = made.kg, made.kg
    step = load_steps(rack.plates)[0]
    for _ in range(EACH_WAY):
        less = made_of(movement, below - 0.01, rack)
        if less is not None and less.kg > below - 0.02:
            # Whatever is found at home weighs anything: it goes down in steps of plates.
            less = made_of(movement, below - step, rack) if below > step else None
        if less is not None and less.kg < below:
            sizes[less.kg], below = less, less.kg
    # A rack has gaps: the next size up may be several steps away.
    wanted, found = above, 0
    while found < EACH_WAY and wanted < above + 2 * EACH_WAY * step:
        wanted += step
        more = made_of(movement, wanted + 0.01, rack)
        if more is not None and more.kg > above and more.kg not in sizes:
            sizes[more.kg], found = more, found + 1
    count = exercise.load.count if isinstance(exercise.load, plan.Weight) else 1
    told_as = [
        Choice(
            text=exercise_text(
                exercise.model_copy(
                    update={"load": plan.Weight(values=(round(kg, 2),), count=count)}
                )
            ),
            movement=exercise.movement,
            loading=sizes[kg].words,
        )
        for kg in sorted(sizes)
    ]
    return tuple(told_as), sorted(sizes).index(made.kg)


def _rungs(
    written: plan.Exercise,
    movement: Movement,
    member: Member,
    library: Library,
    rack: Rack,
    schools: Mapping[str, str],
) -> Iterator[Choice]:
    """The rungs around the written one, the easiest first; none that a limit speaks against."""
    ladder = library.ladder_of(movement.name)
    if ladder is None:
        return
    at = ladder.rungs.index(movement.name)
    for place, name in enumerate(ladder.rungs):
        rung = library.find(name)
        if rung is None or not at - EASIER <= place <= at + HARDER or not allowed(name, member):
            continue
        if place == at:
            own = written
        else:
            ratio = rung_ratio(movement, rung, library, schools) if place < at else 1.0
            own = swapped(written, movement, rung, ratio)
        why = "easier" if place < at else "harder" if place > at else "as the tier"
        yield _choice(own, why, member, library, rack)


def _swaps(
    written: plan.Exercise,
    movement: Movement,
    member: Member,
    library: Library,
    rack: Rack,
    schools: Mapping[str, str],
) -> Iterator[Choice]:
    """What stands in for the movement, each once: for a limit, for missing kit, by the coach."""
    ladder = library.ladder_of(movement.name)
    seen = set(ladder.rungs if ladder else ())
    for other in written.instead:
        own = other.model_copy(update={"amount": other.amount or written.amount, "instead": ()})
        if other.movement not in seen and allowed(other.movement, member):
            seen.add(other.movement)
            yield _choice(own, "on the board", member, library, rack)
    for swap in library.swaps_for(movement.name):
        instead = library.find(swap.instead)
        if instead is None or instead.name in seen or not allowed(instead.name, member):
            continue
        if not all(rack.has(kit) for kit in instead.kit):
            continue
        seen.add(instead.name)
        own = swapped(written, movement, instead, swap_ratio(swap, schools))
        yield _choice(own, swap.because, member, library, rack)


def _choice(
    exercise: plan.Exercise, why: str, member: Member, library: Library, rack: Rack
) -> Choice:
    own, loading, _ = loaded_for(exercise, member, library, rack)
    return Choice(text=exercise_text(own), movement=own.movement, loading=loading, why=why)
