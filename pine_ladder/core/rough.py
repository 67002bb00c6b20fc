"""A plain sum of movement paces: a rough length for pieces that have no clock of their own."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.clock import clock
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Frozen, Seconds

UNKNOWN_MOVEMENT_S = 2.5
CALORIE_S = 3.6
CHANGE_S = 5
"""Walking to the next line and picking it up."""
FATIGUE = 1.2
"""Working reps are slower than fresh ones."""
SPREAD = 0.15


class Length(Frozen):
    """A planned length in seconds between two bounds; `rough` when it is only an estimate."""

    low_s: Seconds
    high_s: Seconds
    rough: bool


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


def _pass_seconds(
    lines: tuple[plan.Line, ...], round_: int, reps: int | None, library: Library
) -> float:
    return sum(
        FATIGUE * amount_seconds(task.versions[0], reps, library, round_) + CHANGE_S
        for line in lines
        for task in line.tasks
        if (task.versions[0].sets or round_) >= round_
    )


def planned_length(piece: plan.Piece, library: Library) -> Length:
    """How long a piece takes on the class clock: exact where it has one, rough where not."""
    timed = clock(piece)
    if timed.total_s is not None:
        return Length(low_s=timed.total_s, high_s=timed.total_s, rough=False)
    low, high = _open_seconds(piece, library)
    low, high = low * (1 - SPREAD), high * (1 + SPREAD)
    if timed.at_least_s:
        low, high = max(low, timed.at_least_s), max(high, 2 * timed.at_least_s)
    if timed.cap_s:
        low, high = min(low, timed.cap_s), min(high, timed.cap_s)
    return Length(low_s=round(low), high_s=round(max(low, high)), rough=True)


def _open_seconds(piece: plan.Piece, library: Library) -> tuple[float, float]:
    form = piece.format
    extra = _pass_seconds((*piece.buy_in, *piece.cash_out), 1, None, library)
    if isinstance(form, plan.ForTime):
        schemes = [
            len(task.versions[0].amount.values)
            for line in piece.lines
            for task in line.tasks
            if isinstance(task.versions[0].amount, plan.Scheme)
        ]
        rounds = form.rounds or len(form.scheme) or max(schemes, default=1)
        low = high = rounds
    elif isinstance(form, plan.Rounds | plan.Sets):
        low, high = form.low, form.high or form.low
    else:
        low = high = 1
    scheme = form.scheme if isinstance(form, plan.ForTime) else ()
    totals = []
    for rounds, rest in ((low, _rest(piece, False)), (high, _rest(piece, True))):
        work = sum(
            _pass_seconds(block.lines, r, scheme[r - 1] if scheme else None, library)
            for block in piece.blocks
            for r in range(1, rounds + 1)
        )
        gaps = len(piece.blocks) - 1 if len(piece.blocks) > 1 else rounds - 1
        totals.append(extra + work + rest * gaps)
    return totals[0], totals[1]


def _rest(piece: plan.Piece, longer: bool) -> Seconds:
    if piece.rest is None:
        return 0
    return (piece.rest.high_s or piece.rest.low_s) if longer else piece.rest.low_s
