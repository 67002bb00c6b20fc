"""Conditioning made anew: a format by what a slot is for, movements that go together."""

from __future__ import annotations

from collections.abc import Callable

from pine_ladder.core import plan
from pine_ladder.core.drafting.builder import Builder, Slot, block, in_a_workout, whole_minutes
from pine_ladder.core.drafting.material import lands, runs, technical
from pine_ladder.core.movements import Movement, Pattern


def conditioning(builder: Builder, slot: Slot) -> plan.Piece | None:
    """A conditioning piece: a format by chance, or of the family that is wished for."""
    makers: dict[str, Callable[[Builder, Slot], plan.Piece | None]] = {
        "amrap": _amrap,
        "emom": _emom,
        "for time": _for_time,
        "ladder": _ladder,
        "chipper": _chipper,
        "intervals": _intervals,
        "every": _every,
        "tabata": _tabata,
        "continuous": _continuous,
        "stations": _stations,
    }
    in_teams = ("amrap", "for time", "every")
    usual = {
        plan.Purpose.HARD_ENGINE: ("intervals", "every", "amrap", "emom", "for time"),
        plan.Purpose.EASY_ENGINE: ("stations", "stations", "continuous", "amrap"),
        plan.Purpose.GRUNT: ("every", "emom", "intervals"),
    }
    families = usual.get(slot.purpose, tuple(makers)[:8]) if slot.purpose else tuple(makers)[:8]
    if builder.material.prompt.teams > 1:
        families = tuple(family for family in families if family in in_teams) or in_teams
    family = slot.family if slot.family in makers else builder.rng.choice(families)
    made = makers[family](builder, slot)
    easy = slot.purpose is plan.Purpose.EASY_ENGINE and not slot.family
    if easy and (made is None or not _trains_engine(made, builder)):
        made = _stations(builder, slot) or made
    return made and _with(made, purpose=slot.purpose, teams=_teams(builder))


def _trains_engine(piece: plan.Piece, builder: Builder) -> bool:
    """Whether a piece has work on a machine, running or with a rope in it."""
    find = builder.material.library.find
    moves = [
        find(task.versions[0].movement)
        for line in piece.lines
        for task in line.tasks
        if task.versions
    ]
    return any(
        move is not None and Pattern.ENGINE in move.patterns and (move.kit or runs(move))
        for move in moves
    )


def _with(piece: plan.Piece, **changes: object) -> plan.Piece:
    told = {field: value for field, value in changes.items() if value is not None}
    return piece.model_copy(update=told)


def _teams(builder: Builder) -> plan.Teams | None:
    size = builder.material.prompt.teams
    return plan.Teams(size=size, how="alternate") if size > 1 else None


def _movements(builder: Builder, slot: Slot, count: int) -> list[Movement]:
    easy = slot.purpose is plan.Purpose.EASY_ENGINE
    grunt = slot.purpose is plan.Purpose.GRUNT

    def fits(movement: Movement) -> bool:
        if easy:
            return (movement.easy and Pattern.MOBILITY not in movement.patterns) or (
                movement.patterns[0] in (Pattern.ENGINE, Pattern.CARRY, Pattern.BRACE)
                and movement.demand <= 0.6
            )
        if slot.role is plan.Role.CORE:
            return movement.patterns[0] is Pattern.BRACE and not lands(movement)
        if grunt and (movement.patterns[0] is Pattern.JUMP or technical(movement)):
            return False
        return in_a_workout(movement)

    teams = builder.material.prompt.teams > 1
    core = slot.role is plan.Role.CORE
    out = builder.pick(count, fits, slot.spare, apart=not core, shared=teams)
    if grunt and not core and not any(Pattern.CARRY in one.patterns for one in out):
        carries = builder.pick(
            1, lambda one: one.patterns[0] is Pattern.CARRY and bool(one.kit), slot.spare
        )
        out = [*out[: count - len(carries)], *carries]
    return out


def _amrap(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 3, 4)))
    if not chosen:
        return None
    form = plan.Amrap(length_s=60 * whole_minutes(slot.minutes))
    exercises = [
        builder.exercise(movement, builder.rng.choice((20.0, 30.0))) for movement in chosen
    ]
    pace = "steady" if slot.purpose is plan.Purpose.EASY_ENGINE else None
    piece = plan.Piece(role=slot.role, format=form, blocks=(block(exercises),), pace=pace)
    return piece


def _emom(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 4)))
    if not chosen:
        return None
    minutes = max(len(chosen), len(chosen) * round(slot.minutes / len(chosen)))
    if minutes > slot.minutes + 1:
        minutes -= len(chosen)
    form = plan.Emom(length_s=60 * max(minutes, len(chosen)))
    exercises = [builder.exercise(movement, 36.0) for movement in chosen]
    return plan.Piece(
        role=slot.role, format=form, blocks=(block(exercises, numbered=True),), aim_s=40
    )


def _for_time(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 4)))
    if not chosen:
        return None
    rounds = builder.rng.choice((3, 4, 5))
    each = 60 * slot.minutes * 0.7 / rounds / len(chosen)
    exercises = [builder.exercise(movement, min(each, 75.0)) for movement in chosen]
    piece = plan.Piece(
        role=slot.role,
        format=plan.ForTime(rounds=rounds),
        blocks=(block(exercises),),
        cap_s=60 * whole_minutes(slot.minutes, 3),
    )
    return piece


LADDERS = (
    (21, 15, 9), (10, 8, 6, 4, 2), (12, 9, 6, 3), (15, 12, 9, 6), (30, 20, 10), (27, 21, 15, 9),
    (40, 30, 20, 10), (50, 40, 30, 20, 10), (10, 9, 8, 7, 6, 5, 4, 3, 2, 1),
)  # fmt: skip
"""Usual ladders that fall (common practice, no source)."""


def _ladder(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = [movement for movement in _movements(builder, slot, 4) if movement.measure == "reps"][
        :2
    ]
    if len(chosen) < 2:
        return None
    each = sum(movement.seconds for movement in chosen) * 1.3
    near = sorted(LADDERS, key=lambda one: abs(sum(one) * each - 45 * slot.minutes))
    scheme = builder.rng.choice(near[:2])
    exercises = [
        plan.Exercise(movement=one.name, load=builder.material.load(one, 0.9)) for one in chosen
    ]
    return plan.Piece(
        role=slot.role,
        format=plan.ForTime(scheme=scheme),
        blocks=(block(exercises),),
        cap_s=60 * whole_minutes(slot.minutes, 3),
    )


def _chipper(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((4, 5)))
    if len(chosen) < 3:
        return None
    each = min(60 * slot.minutes * 0.7 / len(chosen), 110.0)
    exercises = [builder.exercise(movement, each) for movement in chosen]
    return plan.Piece(
        role=slot.role,
        format=plan.ForTime(),
        blocks=(block(exercises),),
        cap_s=60 * whole_minutes(slot.minutes, 3),
    )


def _intervals(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 4)))
    if not chosen:
        return None
    work, rest = builder.rng.choice(((40, 20), (30, 30), (45, 15), (60, 30)))
    rounds = max(1, round(60 * slot.minutes / ((work + rest) * len(chosen))))
    return plan.Piece(
        role=slot.role,
        format=plan.Intervals(work_s=work, rest_s=rest, rounds=rounds),
        blocks=(block([builder.windowed(movement) for movement in chosen]),),
        score=plan.ScoreKind.TOTAL_REPS,
    )


def _every(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3)))
    if not chosen:
        return None
    interval = builder.rng.choice((90, 120, 150, 180))
    rounds = max(1, round(60 * slot.minutes / interval))
    if slot.purpose is plan.Purpose.GRUNT:
        exercises = [_many(builder, movement) for movement in chosen]
        rounds = max(1, round(60 * slot.minutes / interval / len(exercises)))
        numbered = True
    else:
        share = interval * 0.6 / len(chosen)
        exercises, numbered = [builder.exercise(movement, share) for movement in chosen], False
    return plan.Piece(
        role=slot.role,
        format=plan.Every(interval_s=interval, rounds=rounds),
        blocks=(block(exercises, numbered=numbered),),
    )


def _many(builder: Builder, movement: Movement) -> plan.Exercise:
    """Fifteen to twenty plain reps, for hard simple work."""
    one = builder.exercise(movement, 45.0)
    if isinstance(one.amount, plan.Reps):
        one = one.model_copy(update={"amount": plan.Reps(low=min(20, max(16, one.amount.low)))})
    return one


def _tabata(builder: Builder, slot: Slot) -> plan.Piece | None:
    count = max(1, min(4, round(slot.minutes / 5)))
    chosen = [movement for movement in _movements(builder, slot, 6) if movement.measure == "reps"][
        :count
    ]
    if not chosen:
        return None
    blocks = tuple(
        block([plan.Exercise(movement=one.name, load=builder.material.load(one, 0.7))])
        for one in chosen
    )
    rest = plan.Span(low_s=60, high_s=None) if len(blocks) > 1 else None
    return plan.Piece(role=slot.role, format=plan.Tabata(), blocks=blocks, rest=rest)


def _continuous(builder: Builder, slot: Slot) -> plan.Piece | None:
    inside = builder.material.prompt.no_running
    chosen = builder.pick(
        builder.rng.choice((1, 2)),
        lambda move: (
            move.easy
            and move.measure == "time"
            and Pattern.ENGINE in move.patterns
            and not (inside and move.name == "walk")
        ),
        apart=False,
    )
    if not chosen:
        return _amrap(builder, slot)
    length = 60 * whole_minutes(slot.minutes) // len(chosen)
    exercises = [
        plan.Exercise(amount=plan.Duration(seconds=length), movement=move.name) for move in chosen
    ]
    return plan.Piece(
        role=slot.role,
        format=plan.Continuous(length_s=length * len(chosen)),
        blocks=(block(exercises),),
        pace="steady",
    )


STATIONS = (3, 4)
STATION_S, CHANGE_S = 150, 30
"""Work at a station and the way to the next (common practice, no source)."""
SHORTEST_S, LONGEST_S, STEP_S = 120, 300, 30
"""Seconds of a station with the way to the next, and the steps they come in (judgement)."""


def _stations(builder: Builder, slot: Slot) -> plan.Piece | None:
    """Easy work by stations: machines and a run, so that a few of each are enough for a class."""
    material = builder.material
    count = builder.rng.choice(STATIONS)
    at_each = -(-material.prompt.people // count)
    pool = [
        movement
        for movement in material.library.movements
        if Pattern.ENGINE in movement.patterns
        and movement.measure == "distance"
        and (movement.kit or runs(movement))
        and material.may_come(movement, at_each)
        and material.rested(movement)
    ]
    weights = {
        movement.name: material.weight(movement, builder.rng, builder.chosen) for movement in pool
    }
    chosen = sorted(pool, key=lambda movement: (-weights[movement.name], movement.name))[
        : count - 1
    ]
    if not chosen:
        return None
    easy = builder.pick(
        count - len(chosen),
        lambda one: one.patterns[0] in (Pattern.CARRY, Pattern.BRACE) and one.demand <= 0.5,
        slot.spare,
    )
    for movement in chosen:
        builder.note(movement)
    at_all = len(chosen) + len(easy)
    rounds = max(1, round(60 * slot.minutes / (STATION_S + CHANGE_S) / at_all))
    fills_s = STEP_S * int(60 * slot.minutes / rounds / at_all / STEP_S)
    window_s = max(SHORTEST_S, min(LONGEST_S, fills_s))
    exercises = [
        plan.Exercise(amount=plan.Duration(seconds=window_s - CHANGE_S), movement=movement.name)
        for movement in chosen
    ] + [builder.exercise(movement, 60.0, 0.8) for movement in easy]
    return plan.Piece(
        role=slot.role,
        format=plan.Every(interval_s=window_s, rounds=rounds),
        blocks=(block(exercises, numbered=True),),
        pace="steady",
    )
