"""Is a score likely? What nobody honest does is kept, but marked to verify, with the numbers.

What the clock rules out is refused when it is read (`pine_ladder.core.scores.shorthand`). Here a
score is held against the fastest honest pace of its movements (`Movement.floor_s`), against what
a member far quicker than any would keep up to the end, and against the best the athlete has on
record.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from functools import lru_cache

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, athletes
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import Capacity
from pine_ladder.core.pace.runs import run
from pine_ladder.core.pace.testrun import result_words
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import (
    Interval,
    Score,
    counted_intervals,
    own_rounds,
    reps_in_round,
)
from pine_ladder.core.units import clock_text, number_text

LOAD_JUMP = 1.15
"""A best is seldom beaten by more at once (common practice, no source)."""
CALORIE_FLOOR_S = 1.0
"""A calorie a second is more than a strong rower holds (common practice, no source)."""

VERY_FAST, VERY_STRONG = 0.5, 1.6
"""Seconds a rep and strength, against the gym's middle, that no member goes beyond (judgement)."""
VERY_SLOW, VERY_WEAK = 3.0, 0.5
"""Seconds a rep and strength below which a score is rather cut short than slow (judgement)."""
LEAST_STAMINA = 0.55
"""However slow, a member's sets are not taken to be shorter than this much stamina makes them."""
LONG_S = 300
"""Pieces from this long are held against it; shorter ones against single reps alone."""


def _rep_floor(exercise: plan.Exercise, library: Library) -> float:
    """The fastest honest rep, metre or second of an exercise, in seconds; 0 when not known."""
    if exercise.parts:
        return sum(_count(part, 1, 0, 0) * _rep_floor(part, library) for part in exercise.parts)
    movement = library.find(exercise.movement)
    return movement.floor_s if movement else 0.0


def _count(exercise: plan.Exercise, round_: int, grow: int, track: int) -> float:
    """Reps, metres or seconds of an exercise in a round; 0 where as many as possible."""
    sides = 2 if exercise.side is plan.Side.EACH else 1
    match exercise.amount:
        case plan.Reps(low=low, grow=own):
            return sides * max(0, low + (own + grow) * (round_ - 1))
        case plan.Scheme(values=values):
            return sides * values[min(round_, len(values)) - 1]
        case plan.Distance(metres=metres):
            return sides * metres[min(track, len(metres) - 1)]
        case plan.Duration(seconds=seconds, grow_s=more):
            return sides * (seconds + more * (round_ - 1))
        case plan.Calories(calories=calories):
            return calories[min(track, len(calories) - 1)]
    return 0


def _task_floor(exercise: plan.Exercise, count: float, library: Library) -> float:
    """The fewest seconds a task can honestly take; a hold takes its own time."""
    amount = exercise.amount
    if isinstance(amount, plan.Duration) or (
        isinstance(amount, plan.Scheme) and amount.unit == "s"
    ):
        return count
    if isinstance(amount, plan.Calories):
        return count * CALORIE_FLOOR_S
    return count * _rep_floor(exercise, library)


def _versions(lines: Iterable[plan.Line], tier: int) -> list[plan.Exercise]:
    return [task.version(tier) for line in lines for task in line.tasks]


def round_floor(piece: plan.Piece, round_: int, library: Library, tier: int, track: int) -> float:
    """The fewest seconds in which a round can honestly be done."""
    grow = piece.grow_reps or 0
    return sum(
        _task_floor(x, _count(x, round_, grow, track), library)
        for x in _versions(piece.lines, tier)
    )


def _partial_floor(
    piece: plan.Piece, round_: int, reps: int, library: Library, tier: int, track: int
) -> float:
    """The fewest seconds for the first reps of a round, in the order of its lines."""
    spent, left = 0.0, reps
    for x in _versions(piece.lines, tier):
        count = _count(x, round_, piece.grow_reps or 0, track)
        counted = count if isinstance(x.amount, plan.Reps | plan.Scheme | plan.Calories) else 1
        if left < counted:
            share = left / counted if counted else 0
            return spent + share * _task_floor(x, count, library)
        spent += _task_floor(x, count, library)
        left -= round(counted)
    return spent


def _for_time_floor(piece: plan.Piece, library: Library, tier: int, track: int) -> float:
    assert isinstance(piece.format, plan.ForTime)
    ends = sum(
        _task_floor(x, _count(x, 1, 0, track), library)
        for x in _versions((*piece.buy_in, *piece.cash_out), tier)
    )
    scheme = piece.format.scheme
    total = ends
    for round_ in range(1, (len(scheme) or piece.format.rounds or own_rounds(piece)) + 1):
        for x in _versions(piece.lines, tier):
            if x.amount is None and scheme:
                sides = 2 if x.side is plan.Side.EACH else 1
                total += sides * scheme[round_ - 1] * _rep_floor(x, library)
            else:
                count = _count(x, round_, piece.grow_reps or 0, track)
                total += _task_floor(x, count, library)
    return total


def _movements(piece: plan.Piece, tier: int) -> str:
    names = list(dict.fromkeys(x.movement for x in _versions(piece.lines, tier) if x.movement))
    return names[0] if len(names) == 1 else "reps"


def _too_fast(reps: int, what: str, seconds: float, floor: float) -> str:
    """The reason in numbers: the pace that was told, and the fastest that is expected."""
    told = f"{reps} {what} in {clock_text(seconds)} is {seconds / reps:.2f} s each"
    kind = "rep" if what != "reps" else "average over these movements"
    return f"{told}; the fastest full-standard {kind} we expect is {floor / reps:.2f} s"


def _interval_doubt(
    counts: Iterable[float], held: Iterable[Interval], tier: int, library: Library, size: int
) -> str | None:
    for number, (count, interval) in enumerate(zip(counts, held, strict=False), start=1):
        exercises = _versions(interval.lines, tier)
        filling = [x for x in exercises if not _count(x, 1, 0, 0)]
        if not count or not filling:
            continue
        before = sum(_task_floor(x, _count(x, 1, 0, 0), library) for x in exercises)
        floor = _rep_floor(filling[-1], library)
        if isinstance(filling[-1].amount, plan.Trips):
            floor *= filling[-1].amount.distance_m
        room = interval.length_s * size - before
        if floor * count > room:
            return f"interval {number}: " + _too_fast(
                int(count), filling[-1].movement, max(room, 0.0), floor * count
            )
    return None


@lru_cache(maxsize=512)
def _most(piece: plan.Piece, library: Library, tier: int, track: int) -> float:
    """What a member far quicker and stronger than any would score, in the kind's number."""
    return _result_of(piece, library, tier, track, VERY_FAST, VERY_STRONG)


@lru_cache(maxsize=512)
def _least(piece: plan.Piece, library: Library, tier: int, track: int) -> float:
    """What a member far slower and weaker than any would score, in the kind's number."""
    return _result_of(piece, library, tier, track, VERY_SLOW, VERY_WEAK)


def _result_of(
    piece: plan.Piece, library: Library, tier: int, track: int, pace: float, strength: float
) -> float:
    member = Member(id=0, name="", tier=tier, track=track, factors=dict.fromkeys(Capacity, pace))
    one = athletes([member], library)
    strong, sets = one.strength * strength, np.maximum(one.stamina, LEAST_STAMINA)
    done = run(piece, replace(one, strength=strong, stamina=sets), library, tier)
    return float(done.result[0])


def _beyond_anybody(
    piece: plan.Piece, score: Score, library: Library, tier: int, track: int
) -> str | None:
    """Why a whole score is more than anybody keeps up; None where it is not, or for teams."""
    match score.kind:
        case ScoreKind.ROUNDS if isinstance(piece.format, plan.Amrap):
            size = reps_in_round(piece, int(score.value["rounds"]) + 1, tier, track)
            number = score.value["rounds"] + (score.value["reps"] / size if size else 0)
            most, length = _most(piece, library, tier, track), piece.format.length_s
            ahead = number > most
        case ScoreKind.TIME if isinstance(piece.format, plan.ForTime):
            number = float(score.value.get("seconds", 0))
            most = _most(piece, library, tier, track)
            length, ahead = round(most), number < most
        case _:
            return None
    if piece.teams or not number or not most or length < LONG_S or not ahead:
        return None
    return (
        f"{score.display} is beyond the {result_words(score.kind, most)} that we expect of a "
        "member twice as quick as most of the gym"
    )


def _one_task_an_interval(piece: plan.Piece) -> bool:
    """Whether each interval counts one movement: of several, what an entry counts is not sure."""
    held = counted_intervals(piece)
    return bool(held) and all(len(_versions(one.lines, 0)) == 1 for one in held)


def _cut_short(
    piece: plan.Piece, score: Score, library: Library, tier: int, track: int
) -> str | None:
    """Why a score is less than anybody who did the whole piece; None where it is not."""
    if piece.teams:
        return None
    match score.kind:
        case ScoreKind.ROUNDS if isinstance(piece.format, plan.Amrap):
            size = reps_in_round(piece, int(score.value["rounds"]) + 1, tier, track)
            number = score.value["rounds"] + (score.value["reps"] / size if size else 0)
        case ScoreKind.TOTAL_REPS if _one_task_an_interval(piece):
            number = float(score.total_reps or 0)
        case _:
            return None
    least = _least(piece, library, tier, track)
    if not number < least:
        return None
    return (
        f"{score.display} is below the {result_words(score.kind, least)} that we expect of a "
        "member three times as slow as most of the gym: was the whole piece done?"
    )


def doubt(
    piece: plan.Piece,
    score: Score,
    library: Library,
    tier: int = 0,
    track: int = 0,
    bests: Mapping[str, float] | None = None,
) -> str | None:
    """Why a score is unlikely, in numbers; None where it is not.

    `bests` are the athlete's bests in kg by movement. Partners who share the work may be as fast
    as all of them together.
    """
    if score.order_key is None or score.problems:
        return None
    return (
        _too_quick(piece, score, library, tier, track, bests or {})
        or _beyond_anybody(piece, score, library, tier, track)
        or _cut_short(piece, score, library, tier, track)
    )


def _too_quick(
    piece: plan.Piece,
    score: Score,
    library: Library,
    tier: int,
    track: int,
    bests: Mapping[str, float],
) -> str | None:
    """Why reps are faster than anybody's, or a load far above the athlete's best."""
    teams = piece.teams
    size = teams.size if teams and teams.how != "together" else 1
    match score.kind:
        case ScoreKind.ROUNDS if isinstance(piece.format, plan.Amrap):
            rounds, extra = int(score.value["rounds"]), int(score.value["reps"])
            floor = sum(
                round_floor(piece, n, library, tier, track) for n in range(1, rounds + 1)
            ) + _partial_floor(piece, rounds + 1, extra, library, tier, track)
            room = piece.format.length_s * size
            reps = score.total_reps or 0
            if floor > room and reps:
                return _too_fast(reps, _movements(piece, tier), room, floor)
        case ScoreKind.TIME if isinstance(piece.format, plan.ForTime):
            floor = _for_time_floor(piece, library, tier, track)
            seconds = float(score.value.get("seconds", 0)) * size
            if seconds and floor > seconds and score.total_reps:
                return _too_fast(score.total_reps, _movements(piece, tier), seconds, floor)
        case ScoreKind.TOTAL_REPS | ScoreKind.LOWEST_INTERVAL:
            return _counts_doubt(piece, score, library, tier, track, size)
        case ScoreKind.STEP if isinstance(piece.format, plan.Every):
            step = int(score.value["number"])
            floor = round_floor(piece, step, library, tier, track)
            reps = reps_in_round(piece, step, tier, track)
            window_s = piece.work_s or piece.format.interval_s
            if floor > window_s and reps:
                return f"step {step}: " + _too_fast(reps, _movements(piece, tier), window_s, floor)
        case ScoreKind.LOAD:
            return _load_doubt(piece, float(score.value["kg"]), bests, library)
    return None


def _counts_doubt(
    piece: plan.Piece, score: Score, library: Library, tier: int, track: int, size: int
) -> str | None:
    held = counted_intervals(piece)
    told = score.rounds.numbers if score.rounds else ()
    if len(piece.blocks) > 1 and isinstance(piece.format, plan.Amrap):
        for number, (reps, block) in enumerate(zip(told, piece.blocks, strict=False), start=1):
            one = piece.model_copy(update={"blocks": (block,)})
            a_round = reps_in_round(one, 1, tier, track)
            floor = round_floor(one, 1, library, tier, track)
            if a_round and reps and floor * reps / a_round > piece.format.length_s * size:
                return f"block {number}: " + _too_fast(
                    int(reps), "reps", piece.format.length_s * size, floor * reps / a_round
                )
        return None
    if told and not piece.teams:
        return _interval_doubt(told, held, tier, library, 1)
    if score.kind is ScoreKind.LOWEST_INTERVAL:
        return _interval_doubt([score.value["reps"]] * len(held), held, tier, library, 1)
    labels = {one.label for one in held}
    if len(labels) == 1 and held and score.total_reps:
        whole = Interval(sum(one.length_s for one in held), held[0].lines)
        found = _interval_doubt([score.total_reps], [whole], tier, library, size)
        return found.removeprefix("interval 1: ") if found else None
    return None


def _load_doubt(
    piece: plan.Piece, kg: float, bests: Mapping[str, float], library: Library
) -> str | None:
    for exercise in _versions(piece.lines, 0):
        movement = library.find(exercise.movement)
        if movement is None:
            continue
        best = bests.get(movement.name) or bests.get(movement.parent or "")
        if best and kg > best * LOAD_JUMP:
            name = movement.name if movement.name in bests else movement.parent
            return (
                f"{number_text(kg)} kg is {kg / best - 1:.0%} above the {name} on record, "
                f"{number_text(best)} kg"
            )
        return None
    return None
