"""A day drafted: many days by chance from the material, those that keep every constraint, and of
these some that differ. A seed gives the same drafts again.
"""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.drafting.builders import (
    MAKERS,
    Builder,
    Slot,
    conditioning,
    slow_and_fast,
)
from pine_ladder.core.drafting.constraints import (
    Constraint,
    Minutes,
    broken,
    constraints_of,
    minutes_of,
)
from pine_ladder.core.drafting.edges import cool_down, loads_most, warm_up
from pine_ladder.core.drafting.material import Material, Own
from pine_ladder.core.drafting.prompt import Prompt
from pine_ladder.core.drafting.versions import with_versions
from pine_ladder.core.drafting.wishes import FAMILIES, Wish
from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.pace.rep_times import sample
from pine_ladder.core.pace.runs import run
from pine_ladder.core.plan import Frozen

TRIES, ENOUGH = 60, 4
"""Days that are tried, at most, and days that keep everything for each draft that is asked for."""
FROM_BOARDS = 0.45
"""Share of slots filled from the gym's own boards, where one fits."""
UNLIKE = 0.5
"""Two drafts share at most this part of their movements."""
CHANGE_MIN, EXPLAIN_MIN = 1.0, 0.5
EVEN = 1.2
"""Largest ratio of rounds between blocks of one length."""


class Reason(Frozen):
    """Why a line of a draft is as it is, and the board it comes from."""

    line: int
    reason: str
    source: str


class Draft(Frozen):
    """A day as it is proposed: an ordinary board, a reason for each line, and what it keeps."""

    text: str
    reasons: tuple[Reason, ...]
    constraints: tuple[Constraint, ...]
    minutes: Minutes


class Refused(Exception):
    """No day keeps everything that is asked for; the message says which constraint, and why."""


def draft_day(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    seed: int = 1,
    count: int = 3,
) -> list[Draft]:
    """Some drafts that differ; raises Refused where none keeps every constraint."""
    material = Material(prompt, library, boards)
    _possible(prompt, material)
    out: list[Draft] = []
    kept: list[Draft] = []
    failed: dict[str, tuple[int, Constraint]] = {}
    for number in range(TRIES):
        if len(out) == count or len(kept) >= ENOUGH * count:
            break
        rng = random.Random(f"{seed}:{number}")
        made = _one(material, rng)
        if made is None:
            continue
        wrong = broken(made.constraints)
        for one in wrong:
            failed[one.name] = (failed.get(one.name, (0, one))[0] + 1, one)
        if not wrong:
            kept.append(made)
            if all(_differ(made, other, material, UNLIKE) for other in out):
                out.append(made)
    # Where little may come, drafts are nearer to each other.
    for share in (0.65, 0.85):
        for made in kept:
            if len(out) < count and all(_differ(made, other, material, share) for other in out):
                out.append(made)
    if not out:
        raise Refused(_why(failed, material))
    return out


def _why(failed: Mapping[str, tuple[int, Constraint]], material: Material) -> str:
    if not failed:
        allowed = len(material.allowed)
        return f"movements: only {allowed} movements are left, too few for a day"
    _, one = max(failed.values(), key=lambda each: each[0])
    return f"{one.name}: {one.value} where {one.bound} is asked for"


def _possible(prompt: Prompt, material: Material) -> None:
    """Raise Refused where the pieces that are wished for do not fit into the time by themselves."""
    told, parts = 0.0, []
    for wish in prompt.pieces:
        least = _least_minutes(wish, material)
        told += least + CHANGE_MIN + EXPLAIN_MIN
        parts.append(f"{wish.said or wish.role.value} takes {least:.0f} min")
    if prompt.pieces and told - CHANGE_MIN > prompt.minutes:
        raise Refused(
            f"minutes: {', '.join(parts)}, with explaining and changing over {told:.0f} min, "
            f"more than {prompt.minutes}"
        )
    for word in prompt.want:
        if not any(material.is_meant(word, one) for one in material.allowed):
            raise Refused(f"wanted: “{word}” may not come: kit, avoid or landings forbid it")


def _least_minutes(wish: Wish, material: Material) -> float:
    """The minutes that a wished piece takes at least."""
    if wish.piece is None:
        return wish.minutes or 0.0
    piece = wish.piece
    match piece.format:
        case (
            plan.Amrap(length_s=length)
            | plan.Emom(length_s=length)
            | plan.Continuous(length_s=length)
        ):
            return length / 60
        case plan.Every(interval_s=interval, rounds=int(rounds)):
            return interval * rounds / 60
        case plan.Intervals(work_s=work, rest_s=rest, rounds=rounds):
            return (work + rest) * rounds * max(1, len(piece.lines)) / 60
        case plan.Sets(low=sets) | plan.Rounds(low=sets) if piece.rest:
            return ((sets - 1) * piece.rest.low_s + sets * 20) / 60
    return wish.minutes or (piece.cap_s or 0) / 60


def _one(material: Material, rng: random.Random) -> Draft | None:
    """One day by chance, with all that it keeps and breaks."""
    builder = Builder(material, rng)
    sources: dict[int, str] = {}
    work = _work(material, builder, rng, sources)
    if not work:
        return None
    prompt = material.prompt
    limits = tuple(prompt.limits)
    work = [with_versions(piece, material, prompt.levels, limits) for piece in work]
    room = prompt.minutes - sum(_length(piece, material) for piece in work) - 2
    before: list[plan.Piece] = []
    wished = {wish.role for wish in prompt.pieces}
    if room >= 4 or plan.Role.WARM_UP in wished:
        before = warm_up(work, material, rng, min(10.0, room - 3))
        before = [with_versions(piece, material, {}, limits) for piece in before]
    after: list[plan.Piece] = []
    if (prompt.minutes >= 40 and room >= 10) or plan.Role.COOL_DOWN in wished:
        after = [with_versions(cool_down(work, material, rng), material, {}, limits)]
    session = _session([*before, *work, *after], material, rng)
    if session is None:
        return None
    reasons = _reasons(session, builder, sources, len(before), material)
    return Draft(
        text=print_session(session),
        reasons=tuple(reasons),
        constraints=tuple(constraints_of(session, material)),
        minutes=minutes_of(session, material),
    )


def _length(piece: plan.Piece, material: Material) -> float:
    """Minutes of a piece at the slow end, with changing over and explaining."""
    alone = plan.Session(pieces=(piece,))
    return minutes_of(alone, material).p90 + CHANGE_MIN


def _session(
    pieces: Sequence[plan.Piece], material: Material, rng: random.Random
) -> plan.Session | None:
    """The day as it reads back from its own text: its lines stand where they are said to."""
    prompt = material.prompt
    made = plan.Session(
        title=rng.choice(TITLES),
        class_s=60 * prompt.minutes,
        theme=prompt.theme,
        pieces=tuple(pieces),
    )
    text = print_session(made)
    read = parse(text, material.library)
    if any(one.severity == "error" for one in read.findings):
        return None
    return read.session


TITLES = (
    "Ebb", "Flood", "Lee Shore", "Long Swell", "Fair Wind", "Cross Sea", "High Water", "Low Water",
    "Head Wind", "Following Sea", "Ground Swell", "Offshore", "Landfall", "Mooring", "Windward",
    "Leeward", "Anchor Watch", "Short Sea", "Spring Range", "Neap Range",
)  # fmt: skip


def _work(
    material: Material, builder: Builder, rng: random.Random, sources: dict[int, str]
) -> list[plan.Piece]:
    """The pieces between warm-up and cool-down."""
    prompt = material.prompt
    slots = _slots(material, rng)
    if prompt.purpose is plan.Purpose.SAME_PATTERN and not prompt.pieces:
        pair = slow_and_fast(
            builder, Slot(plan.Role.CONDITIONING, sum(s.minutes for s, _ in slots))
        )
        if pair:
            return pair
    out: list[plan.Piece] = []
    for slot, wish in slots:
        spare = frozenset(region for piece in out for region in loads_most(piece, material.library))
        apart = slot._replace(spare=spare if len(slots) <= 3 else frozenset())
        piece = _wished(builder, apart, wish) if wish else _again(slot, material, out)
        if piece is None and rng.random() < FROM_BOARDS:
            own = _own(apart, material, builder, rng)
            if own is not None and own.piece.lines not in [one.lines for one in out]:
                piece = own.piece
                sources[len(out)] = own.source
        if piece is None:
            maker = MAKERS.get(slot.role, conditioning)
            piece = maker(builder, apart) or maker(builder, slot)
        if piece is not None:
            told = wish is not None and wish.whole
            out.append(piece if told else _fitted(piece, slot.minutes, material))
    return _even(out, material) if len(out) > 2 else out


def _slots(material: Material, rng: random.Random) -> list[tuple[Slot, Wish | None]]:
    """The slots of the day with their minutes: those wished for, else by the purpose."""
    prompt = material.prompt
    edges = 13.0 if prompt.minutes >= 40 else 6.0
    room = max(8.0, prompt.minutes - edges)
    if prompt.pieces:
        wishes = [
            one for one in prompt.pieces if one.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN)
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


def _again(slot: Slot, material: Material, out: Sequence[plan.Piece]) -> plan.Piece | None:
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


def _wished(builder: Builder, slot: Slot, wish: Wish) -> plan.Piece | None:
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
        blocks = tuple(one.model_copy(update={"numbered": False}) for one in blocks)
    changes = {"format": told.format, "blocks": blocks, "name": told.name, "aim_s": None, **kept}
    return made.model_copy(update=changes)


def _own(slot: Slot, material: Material, builder: Builder, rng: random.Random) -> Own | None:
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
    values = tuple(_nearest(sizes, said) for said in exercise.load.values)
    pair = values if len(set(values)) > 1 else values[:1]
    return exercise.model_copy(update={"load": exercise.load.model_copy(update={"values": pair})})


def _nearest(sizes: Sequence[float], kg: float) -> float:
    """The size that is nearest to a weight."""
    return min(sizes, key=lambda size: abs(size - kg))


def _fitted(piece: plan.Piece, minutes: float, material: Material) -> plan.Piece:
    """A piece brought to about so many minutes by its length or its rounds."""
    form = piece.format
    seconds = 60 * minutes
    match form:
        case plan.Amrap():
            return piece.model_copy(update={"format": plan.Amrap(length_s=60 * round(minutes))})
        case plan.Every(interval_s=interval) if form.rounds:
            stations = max((len(b.lines) if b.numbered else 1) for b in piece.blocks)
            rounds = max(1, int(seconds / interval / stations))
            return piece.model_copy(
                update={
                    "format": form.model_copy(
                        update={
                            "rounds": min(form.rounds, rounds) if rounds < form.rounds else rounds,
                            "high": None,
                        }
                    )
                }
            )
        case plan.Sets(low=sets):
            while sets > 2 and _length(piece, material) - 1.5 > minutes:
                sets -= 1
                piece = piece.model_copy(update={"format": plan.Sets(low=sets, high=None)})
        case plan.ForTime():
            return _for_so_long(piece, seconds, material)
    return piece


FILLS = 0.75
"""The middle of a class is through in this part of a cap (judgement)."""
MOST_SCALED = (0.5, 2.5)


def _for_so_long(piece: plan.Piece, seconds: float, material: Material) -> plan.Piece:
    """Work for time whose middle is through in about three quarters of so many seconds."""
    free = piece.model_copy(update={"cap_s": None})
    for _ in range(3):
        done = run(free, sample(24, 0), material.library)
        factor = FILLS * seconds / max(20.0, float(np.median(done.time_s[done.able])))
        form = free.format
        if 0.85 <= factor <= 1.2 or not isinstance(form, plan.ForTime) or form.scheme:
            break
        factor = min(MOST_SCALED[1], max(MOST_SCALED[0], factor))
        rounds = form.rounds or 1
        fewer, more_of_them = factor < 0.7 and rounds > 2, factor > 1.4 and rounds < 8
        if form.rounds and (fewer or more_of_them):
            more = max(2, min(8, round(rounds * factor)))
            free = free.model_copy(update={"format": plan.ForTime(rounds=more)})
        else:
            free = _scaled(free, min(1.6, factor))
    cap = min(seconds, max(180.0, float(np.quantile(done.time_s[done.able], 0.85))))
    return free.model_copy(update={"cap_s": 60 * max(3, round(cap / 60))})


def _even(pieces: list[plan.Piece], material: Material) -> list[plan.Piece]:
    """AMRAPs of one length brought to about the same rounds, by their reps."""
    own = [at for at, one in enumerate(pieces) if isinstance(one.format, plan.Amrap)]
    if len(own) < 3:
        return pieces
    rounds = [_rounds(pieces[at], material) for at in own]
    for _ in range(8):
        middle = float(np.median(rounds))
        furthest = max(range(len(own)), key=lambda i: abs(np.log(rounds[i] / middle)))
        if max(rounds) <= EVEN * 0.92 * min(rounds) or max(rounds) <= 1.08 * min(rounds):
            break
        at = own[furthest]
        pieces[at] = _scaled(pieces[at], rounds[furthest] / middle)
        rounds[furthest] = _rounds(pieces[at], material)
    return pieces


def _rounds(piece: plan.Piece, material: Material) -> float:
    done = run(piece, sample(24, 0), material.library)
    return max(0.2, float(np.median(done.result)))


def round_number(wanted: float) -> int:
    """The number of reps nearest to one that coaches write: all up to ten, then even ones, tens.

    >>> round_number(31.2), round_number(7.4), round_number(17.0)
    (30, 7, 16)
    """
    if wanted <= 10:
        return max(2, round(wanted))
    if wanted <= 24:
        return 2 * round(wanted / 2)
    return min(MOST_REPS, 5 * round(wanted / 5))


MOST_REPS = 60
"""More of one movement in a row is asked of nobody (judgement)."""


def _scaled(piece: plan.Piece, factor: float) -> plan.Piece:
    """A piece with so many times the reps, metres and seconds, by the nearest single steps."""

    def scaled(one: plan.Exercise) -> plan.Exercise:
        match one.amount:
            case plan.Reps(low=low):
                more = round_number(low * factor)
                even = one.side is plan.Side.ALTERNATING
                return one.model_copy(
                    update={"amount": plan.Reps(low=more + (more % 2 if even else 0))}
                )
            case plan.Distance(metres=metres):
                step = 10 if metres[0] < 100 else 50
                values = tuple(max(step, step * round(m * factor / step)) for m in metres)
                return one.model_copy(
                    update={"amount": plan.Distance(metres=tuple(float(v) for v in values))}
                )
            case plan.Duration(seconds=seconds):
                return one.model_copy(
                    update={
                        "amount": plan.Duration(seconds=max(10, 5 * round(seconds * factor / 5)))
                    }
                )
        return one

    blocks = tuple(
        block.model_copy(
            update={
                "lines": tuple(
                    line.model_copy(
                        update={
                            "tasks": tuple(
                                task.model_copy(
                                    update={"versions": tuple(map(scaled, task.versions))}
                                )
                                for task in line.tasks
                            )
                        }
                    )
                    for line in block.lines
                )
            }
        )
        for block in piece.blocks
    )
    return piece.model_copy(update={"blocks": blocks})


def _reasons(
    session: plan.Session,
    builder: Builder,
    sources: Mapping[int, str],
    before: int,
    material: Material,
) -> list[Reason]:
    """A reason for each line of work, and for each piece."""
    out = []
    spared = _spared(material)
    for number, piece in enumerate(session.pieces):
        source = sources.get(number - before, "formats and library")
        what = {
            plan.Role.WARM_UP: "raises, and prepares the day's joints and patterns by easier rungs",
            plan.Role.COOL_DOWN: "easy moving, and long holds for what was loaded hardest",
        }.get(piece.role, _why_piece(piece, material, spared))
        out.append(Reason(line=piece.line, reason=what, source=source))
        for line in piece.lines:
            for task in line.tasks:
                name = task.versions[0].movement
                reason = builder.reasons.get(name, "prepares or eases what the day loads")
                if task.versions[0].instead:
                    reason += "; a version for those with a limit"
                if len(task.versions) > 1:
                    reason += "; an easier version for who needs it"
                out.append(Reason(line=line.line, reason=reason, source=source))
    return out


def _spared(material: Material) -> list[str]:
    """Sentences on the regions that are left alone for the day before and the day after."""
    return [
        f"{', '.join(sorted(regions))} {told} and is left alone"
        for regions, told in (
            (material.hard_yesterday, "came hard the day before"),
            (material.hard_tomorrow, "comes hard the day after"),
        )
        if regions
    ]


def _why_piece(piece: plan.Piece, material: Material, spared: list[str]) -> str:
    words = []
    if piece.purpose:
        words.append(f"for {piece.purpose.value}")
    elif piece.role is plan.Role.STRENGTH:
        words.append("strength first, while everybody is fresh")
    else:
        words.append("work for heart and lungs that leaves the lift fresh")
    words += spared
    if piece.teams:
        words.append(f"teams of {piece.teams.size} share the kit and rest in turn")
    if material.prompt.theme == "deload":
        words.append("a lighter week")
    return "; ".join(words)


def _differ(one: Draft, other: Draft, material: Material, share: float) -> bool:
    """Whether two drafts share at most a part of their movements, and differ in their formats where
    these are free.
    """
    mine, theirs = (_features(draft, material) for draft in (one, other))
    same = len(mine[0] & theirs[0]) / max(1, min(len(mine[0]), len(theirs[0])))
    free = not material.prompt.pieces
    return same <= share and (mine[1] != theirs[1] or not free)


def _features(draft: Draft, material: Material) -> tuple[set[str], tuple[str, ...]]:
    session = parse(draft.text, material.library).session
    hard = [p for p in session.pieces if p.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN)]
    names = {
        task.versions[0].movement for piece in hard for line in piece.lines for task in line.tasks
    }
    return names, tuple(f"{piece.role.value} {piece.format}" for piece in hard)
