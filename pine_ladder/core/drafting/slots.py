"""The slots of a day, and pieces for them: told, held before, or of the gym's own boards."""

from __future__ import annotations

import random
from collections.abc import Sequence

from pine_ladder.core import plan
from pine_ladder.core.drafting.builder import Builder, Slot
from pine_ladder.core.drafting.conditioning import conditioning
from pine_ladder.core.drafting.constraints import minutes_of
from pine_ladder.core.drafting.edges import loads_most
from pine_ladder.core.drafting.fitting import CHANGE_MIN
from pine_ladder.core.drafting.material import Material, Own
from pine_ladder.core.drafting.strength import MAKERS
from pine_ladder.core.drafting.wishes import FAMILIES, Wish
from pine_ladder.core.movements import Movement

EXPLAIN_MIN = 0.5
"""Minutes to explain a piece (common practice, no source)."""


def slots_of(material: Material, rng: random.Random) -> list[tuple[Slot, Wish | None]]:
    """The slots of the day with their minutes: those wished for, else by the purpose."""
    prompt = material.prompt
    edges = 13.0 if prompt.minutes >= 40 else 6.0
    room = max(8.0, prompt.minutes - edges)
    if prompt.pieces:
        wishes = [
            piece
            for piece in prompt.pieces
            if piece.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN)
        ]
        room -= (CHANGE_MIN + EXPLAIN_MIN) * len(wishes)
        told = [_told_minutes(wish, material) for wish in wishes]
        each = max(4.0, (room - sum(told)) / max(1, told.count(0.0)))
        return [
            (Slot(wish.role, minutes or each, wish.family, prompt.purpose), wish)
            for wish, minutes in zip(wishes, told, strict=True)
        ]
    room -= 3.0
    roles = plan.Role
    shapes: dict[plan.Purpose | None, list[list[tuple[plan.Role, float]]]] = {
        None: [
            [(roles.STRENGTH, 0.5), (roles.CONDITIONING, 0.4)],
            [(roles.CONDITIONING, 0.4), (roles.CONDITIONING, 0.4)],
            [(roles.SKILL, 0.25), (roles.CONDITIONING, 0.55)],
        ],
        plan.Purpose.POWER: [
            [(roles.POWER, 0.3), (roles.POWER, 0.3), (roles.POWER, 0.3)],
            [(roles.POWER, 0.4), (roles.POWER, 0.4)],
        ],
        plan.Purpose.STRENGTH: [
            [(roles.STRENGTH, 0.55), (roles.STRENGTH, 0.35)],
            [(roles.STRENGTH, 0.6), (roles.CONDITIONING, 0.25)],
        ],
        plan.Purpose.SKILL: [[(roles.SKILL, 0.4), (roles.CONDITIONING, 0.4)]],
        plan.Purpose.HARD_ENGINE: [
            [(roles.CONDITIONING, 0.75)],
            [(roles.CONDITIONING, 0.4), (roles.CONDITIONING, 0.4)],
        ],
        plan.Purpose.EASY_ENGINE: [[(roles.CONDITIONING, 0.8)]],
        plan.Purpose.GRUNT: [
            [(roles.CONDITIONING, 0.8)],
            [(roles.CONDITIONING, 0.4), (roles.CONDITIONING, 0.4)],
        ],
        plan.Purpose.SAME_PATTERN: [[(roles.STRENGTH, 0.45), (roles.CONDITIONING, 0.45)]],
    }
    usual = shapes[prompt.purpose]
    if prompt.teams > 1 and prompt.purpose is None:
        usual = [one for one in usual if all(role is roles.CONDITIONING for role, _ in one)]
    shape = rng.choice(usual)
    if room < 18 and len(shape) > 1:
        shape = shape[-1:]
        shape = [(shape[0][0], 0.85)]
    return [(Slot(role, max(4.0, share * room), "", prompt.purpose), None) for role, share in shape]


def _told_minutes(wish: Wish, material: Material) -> float:
    """The minutes of a wish, by its number or by its own work; 0 where neither was told."""
    if wish.minutes:
        return wish.minutes
    if wish.piece is None or not wish.whole:
        return 0.0
    return minutes_of(plan.Session(pieces=(wish.piece,)), material).p90


def held_again(slot: Slot, material: Material, out: Sequence[plan.Piece]) -> plan.Piece | None:
    """The piece of a day before that is of a lift which is asked for again, with its tempo kept and
    one step on: a little more load, else a rep more; None where there is none.
    """
    if slot.role is not plan.Role.STRENGTH or not material.prompt.want or out:
        return None
    for before in reversed(material.prompt.recent):
        for piece in before.session.pieces:
            if piece.role is not plan.Role.STRENGTH or not piece.lines:
                continue
            first = piece.lines[0].tasks[0].versions[0]
            movement = material.library.find(first.movement)
            if movement is None or not material.wanted(movement) or not material.may_come(movement):
                continue
            return _step_on(piece, first)
    return None


STEP_PERCENT, MOST_PERCENT = 2.5, 90.0


def _step_on(piece: plan.Piece, first: plan.Exercise) -> plan.Piece:
    """A strength piece one step on, everything else kept."""
    if isinstance(first.load, plan.Percent) and first.load.low + STEP_PERCENT <= MOST_PERCENT:
        more = first.model_copy(update={"load": plan.Percent(low=first.load.low + STEP_PERCENT)})
    elif isinstance(first.amount, plan.Reps) and first.amount.low < 12:
        more = first.model_copy(update={"amount": plan.Reps(low=first.amount.low + 1)})
    else:
        more = first
    line = piece.blocks[0].lines[0]
    task = line.tasks[0].model_copy(update={"versions": (more,)})
    again = line.model_copy(update={"tasks": (task, *line.tasks[1:])})
    block = piece.blocks[0].model_copy(update={"lines": (again, *piece.blocks[0].lines[1:])})
    return piece.model_copy(update={"blocks": (block, *piece.blocks[1:]), "notes": ()})


def wished(builder: Builder, slot: Slot, wish: Wish) -> plan.Piece | None:
    """A piece whose format, or work, was told; its work made anew where only the format was."""
    told = wish.piece
    if told is None:
        return None
    if told.lines:
        return told.model_copy(update={"role": wish.role})
    maker = MAKERS.get(slot.role, conditioning)
    made = maker(builder, slot)
    if made is None:
        return None
    kept = {
        field: getattr(told, field)
        for field in ("rest", "cap_s", "score", "teams", "grow_reps", "pace", "target")
        if getattr(told, field)
    }
    blocks = made.blocks
    if not isinstance(told.format, plan.Emom | plan.Every):
        blocks = tuple(block.model_copy(update={"numbered": False}) for block in blocks)
    changes = {"format": told.format, "blocks": blocks, "name": told.name, "aim_s": None, **kept}
    return made.model_copy(update=changes)


def own_piece(slot: Slot, material: Material, builder: Builder, rng: random.Random) -> Own | None:
    """A piece of the gym's boards for a slot, with what is not allowed exchanged for what is."""
    kind = FAMILIES.get(slot.family)
    pool = [
        one
        for one in material.own
        if id(one.piece) not in builder.taken
        and one.piece.role is slot.role
        and (kind is None or isinstance(one.piece.format, kind))
        and len(one.piece.blocks) == 1
        and not one.piece.buy_in
        and not one.piece.cash_out
        and (one.piece.teams.size if one.piece.teams else 1) == material.prompt.teams
        and slot.purpose in (None, plan.Purpose.HARD_ENGINE)
    ]
    rng.shuffle(pool)
    for own in pool[:4]:
        piece = _exchanged(own.piece, builder)
        if piece is not None and not slot.spare & set(loads_most(piece, material.library)):
            builder.taken.add(id(own.piece))
            cleared = piece.model_copy(update={"name": None, "notes": (), "target": None})
            return Own(cleared, own.source)
    return None


def _exchanged(piece: plan.Piece, builder: Builder) -> plan.Piece | None:
    """A piece with another movement where one may not come, or one changed where all may, so that
    no piece is a copy; None where nothing stands for a movement.
    """
    material = builder.material
    lines = []
    changed = False
    count = sum(len(line.tasks) for line in piece.lines)
    must = builder.rng.randrange(max(1, count))
    at = 0
    for line in piece.blocks[0].lines:
        tasks = []
        for task in line.tasks:
            first = task.versions[0]
            movement = material.library.find(first.movement)
            if movement is None or first.parts:
                return None
            there = material.may_come if piece.teams else material.for_all
            fine = there(movement) and material.rested(movement)
            if isinstance(first.load, plan.Percent) and not material.best_of(movement):
                first = first.model_copy(update={"load": plan.Effort(rpe=7)})
            first = _at_hand(first, movement, material)
            if not fine or (at == must and not changed):
                others = builder.pick(
                    1,
                    lambda one, was=movement: (
                        one.patterns[0] is was.patterns[0]  # type: ignore[misc]
                        and one.measure == was.measure
                        and one.name != was.name
                        and (one.reference_kg is None) == (was.reference_kg is None)
                        and ("barbell" in one.kit) == ("barbell" in was.kit)
                        and abs(one.demand - was.demand) <= 0.25
                    ),
                )
                if others:
                    changed = True
                    load = material.load(others[0], 0.95) if first.load else None
                    if isinstance(first.load, plan.Percent | plan.Effort):
                        load = first.load
                    first = first.model_copy(
                        update={"movement": others[0].name, "load": load, "instead": ()}
                    )
                elif not fine:
                    return None
            tasks.append(plan.Task(versions=(first.model_copy(update={"instead": ()}),)))
            at += 1
        lines.append(line.model_copy(update={"tasks": tuple(tasks)}))
    block = piece.blocks[0].model_copy(update={"lines": tuple(lines)})
    return piece.model_copy(update={"blocks": (block,)}) if changed else None


def _at_hand(exercise: plan.Exercise, movement: Movement, material: Material) -> plan.Exercise:
    """An exercise with a weight that is there, where the kit is told and its own is not; without a
    weight where nothing stands for it.
    """
    if material.kit is None or not isinstance(exercise.load, plan.Weight):
        return exercise
    needs = movement.kit or ("dumbbell or kettlebell",)
    sizes = [kg for need in needs for kg in material.sizes(need)]
    if not sizes:
        listed = any(material.count(need.split(" or ")) for need in needs)
        return exercise if listed else exercise.model_copy(update={"load": None})
    values = tuple(_nearest(sizes, value) for value in exercise.load.values)
    pair = values if len(set(values)) > 1 else values[:1]
    return exercise.model_copy(update={"load": exercise.load.model_copy(update={"values": pair})})


def _nearest(sizes: Sequence[float], kg: float) -> float:
    """The size that is nearest to a weight."""
    return min(sizes, key=lambda size: abs(size - kg))
