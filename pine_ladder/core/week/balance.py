"""A week of sessions side by side: which patterns each day loads, and where it is lopsided."""

from __future__ import annotations

import datetime as dt
import re
from collections import defaultdict
from collections.abc import Mapping, Sequence
from itertools import pairwise
from statistics import median

from pine_ladder.core import plan
from pine_ladder.core.clock import TABATA_INTERVALS
from pine_ladder.core.movements import Library, Movement, Pattern
from pine_ladder.core.pace.estimate import CHANGE_S, FATIGUE, amount_seconds
from pine_ladder.core.plan import Frozen

HARD_ROLES = (plan.Role.STRENGTH, plan.Role.POWER, plan.Role.CONDITIONING)
HARD_SECONDS = 150
"""Seconds of work times demand from which a pattern counts as hard (common practice, no source)."""
SOME_SECONDS = 20
"""Seconds of work times demand below which a pattern was hardly touched."""
MANY_LANDINGS = 200
"""Landings a day above which most members notice their calves (common practice, no source)."""
WEEKLY = tuple(p for p in Pattern if p is not Pattern.MOBILITY)
FULL_WEEK = 4
"""Days written before a missing pattern is worth a word."""


class Volume(Frozen):
    """What one line adds up to over its piece. `work` is seconds times demand; `tension` where
    muscles do not let go while it lasts.
    """

    movement: str
    patterns: tuple[Pattern, ...]
    seconds: float
    work: float
    landings: float
    hard: bool
    tension: bool


class DayLoad(Frozen):
    """A day's load: work by pattern (seconds × demand), patterns that get some of it and those
    that get it hard, hard movements, landings.
    """

    work: dict[Pattern, float]
    some: tuple[Pattern, ...]
    hard: tuple[Pattern, ...]
    hard_movements: tuple[str, ...]
    landings: int
    tension_s: float
    """Seconds of slow lifts, holds and carries, in which muscles do not let go."""


class PatternBalance(Frozen):
    """One pattern through a week: seconds of work times demand on each of its dates and together,
    what is usual of a whole week (None while there is nothing to tell it by), and the dates on
    which it came hard for the second day in a row.
    """

    pattern: Pattern
    daily: tuple[float, ...]
    whole: float
    usual: float | None
    in_a_row: tuple[dt.date, ...]


class Remark(Frozen):
    """Where the week is lopsided: on these dates, in words."""

    code: str
    dates: tuple[dt.date, ...]
    message: str


def _flat(exercise: plan.Exercise) -> tuple[plan.Exercise, ...]:
    return exercise.units


def _once(exercise: plan.Exercise, window_s: float, reps: int | None, library: Library) -> float:
    """Seconds of a line once; a `max` fills its window."""
    if isinstance(exercise.amount, plan.Max | plan.Trips) or (
        exercise.amount is None and reps is None
    ):
        return window_s
    return amount_seconds(exercise, reps, library)


def _passes(piece: plan.Piece, fresh_s: float, lines: int) -> float:
    """How often the list is gone through: its rounds, or for an AMRAP what the clock allows."""
    match piece.format:
        case plan.Amrap(length_s=length):
            blocks = max(1, len(piece.blocks))
            return max(1.0, blocks * length / (fresh_s * FATIGUE + lines * CHANGE_S))
        case plan.ForTime(rounds=rounds, scheme=scheme):
            return rounds or len(scheme) or 1
        case plan.Rounds(low=low, high=high) | plan.Sets(low=low, high=high):
            return (low + (high or low)) / 2
        case plan.Every(rounds=rounds):
            return rounds or 1
        case plan.Intervals(rounds=rounds):
            return rounds
        case plan.Emom(length_s=length):
            stations = sum(len(b.lines) if b.numbered else 1 for b in piece.blocks)
            return max(1.0, length / 60 / max(1, stations))
        case plan.Tabata():
            return TABATA_INTERVALS * len(piece.blocks) / max(1, len(piece.lines))
    return 1


def volumes(piece: plan.Piece, library: Library) -> list[Volume]:
    """What each line of a piece adds up to, as written.

    Every format runs its rounds; an AMRAP as many as the pace of its lines allows. `seconds` are
    of fresh work.
    """
    form = piece.format
    scheme = form.scheme if isinstance(form, plan.ForTime) else ()
    reps = round(sum(scheme) / len(scheme)) if scheme else None
    window = 30.0
    if isinstance(form, plan.Every):
        window = piece.work_s or form.interval_s
    elif isinstance(form, plan.Emom):
        window = piece.work_s or 60
    elif isinstance(form, plan.Intervals):
        window = form.work_s
    elif isinstance(form, plan.Tabata):
        window = 20
    exercises = [
        part for line in piece.lines for task in line.tasks for part in _flat(task.versions[0])
    ]
    seconds = [_once(exercise, window, reps, library) for exercise in exercises]
    total = sum(seconds)
    if not total:
        return []
    passes = _passes(piece, total, len(exercises))
    hard = piece.role in HARD_ROLES and not piece.for_quality
    out = []
    for exercise, once in zip(exercises, seconds, strict=True):
        movement = library.find(exercise.movement)
        if movement is None:
            continue
        by_rep = movement.measure == "reps"
        spent = once * passes
        out.append(
            Volume(
                movement=movement.name,
                patterns=movement.patterns,
                seconds=spent,
                work=spent * movement.demand,
                landings=movement.landings * spent / movement.seconds if by_rep else 0,
                hard=hard,
                tension=_under_tension(exercise, movement),
            )
        )
    return out


def _under_tension(exercise: plan.Exercise, movement: Movement) -> bool:
    """A lift at a tempo or with a pause, a hold, a carry; not a stretch, and nothing steady."""
    if exercise.tempo or exercise.pause_s:
        return True
    resting = movement.patterns[0] in (Pattern.MOBILITY, Pattern.ENGINE)
    holds = movement.measure == "time" and not resting
    return holds or Pattern.CARRY in movement.patterns


def day_load(session: plan.Session, library: Library) -> DayLoad:
    """A day's load over all its pieces; a movement's first pattern counts full, others half."""
    work: defaultdict[Pattern, float] = defaultdict(float)
    hard: defaultdict[Pattern, float] = defaultdict(float)
    heavy: defaultdict[str, float] = defaultdict(float)
    landings = tension = 0.0
    for piece in session.pieces:
        for volume in volumes(piece, library):
            landings += volume.landings
            tension += volume.seconds if volume.tension else 0
            for place, pattern in enumerate(volume.patterns):
                share = volume.work if place == 0 else volume.work / 2
                work[pattern] += share
                if volume.hard:
                    hard[pattern] += share
            if volume.hard:
                heavy[volume.movement] += volume.work
    return DayLoad(
        work={pattern: round(work[pattern], 1) for pattern in WEEKLY if work[pattern]},
        some=tuple(p for p in WEEKLY if work[p] >= SOME_SECONDS),
        hard=tuple(p for p in WEEKLY if hard[p] >= HARD_SECONDS and p is not Pattern.ENGINE),
        hard_movements=tuple(sorted(m for m in heavy if heavy[m] >= HARD_SECONDS / 2)),
        landings=round(landings),
        tension_s=round(tension),
    )


def balance(
    dates: Sequence[dt.date],
    days: Mapping[dt.date, DayLoad],
    before: Sequence[Sequence[DayLoad]],
) -> tuple[PatternBalance, ...]:
    """Every pattern of a week against the median of the weeks before it that were full."""
    full = [week for week in before if len(week) >= FULL_WEEK]

    def of(pattern: Pattern, load: DayLoad | None) -> float:
        return load.work.get(pattern, 0.0) if load else 0.0

    out = []
    for pattern in WEEKLY:
        daily = tuple(of(pattern, days.get(date)) for date in dates)
        hard = [date for date in dates if date in days and pattern in days[date].hard]
        sums = [sum(of(pattern, load) for load in week) for week in full]
        out.append(
            PatternBalance(
                pattern=pattern,
                daily=daily,
                whole=round(sum(daily), 1),
                usual=round(median(sums), 1) if sums else None,
                in_a_row=tuple(b for a, b in pairwise(hard) if (b - a).days == 1),
            )
        )
    return tuple(out)


def remarks(days: Mapping[dt.date, DayLoad]) -> list[Remark]:
    """The plain rules of a balanced week, over the days that are written."""
    found = []
    dates = sorted(days)
    for before, after in pairwise(dates):
        if (after - before).days != 1:
            continue
        same = sorted(set(days[before].hard_movements) & set(days[after].hard_movements))
        both = (before, after)
        names = f"{before:%A} and {after:%A}"
        if same:
            found.append(
                Remark(
                    code="same-movement", dates=both, message=f"{', '.join(same)} hard on {names}"
                )
            )
        patterns = [p for p in days[before].hard if p in days[after].hard]
        if patterns:
            words = ", ".join(patterns)
            found.append(
                Remark(code="same-pattern", dates=both, message=f"{words} hard on {names}")
            )
    for date in dates:
        if days[date].landings > MANY_LANDINGS:
            found.append(
                Remark(
                    code="landings",
                    dates=(date,),
                    message=f"about {days[date].landings} landings on {date:%A}",
                )
            )
    if len(dates) >= FULL_WEEK:
        missing = [p for p in WEEKLY if not any(p in day.some for day in days.values())]
        if missing:
            words = ", ".join(missing)
            found.append(Remark(code="missing-pattern", dates=(), message=f"no {words} all week"))
    return found


def uses(session: plan.Session, library: Library) -> set[str]:
    """Names of all library movements a session uses, in any tier or alternative."""
    found = set()
    for piece in session.pieces:
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                for version in task.versions:
                    for exercise in (*_flat(version), *version.instead):
                        if movement := library.find(exercise.movement):
                            found.add(movement.name)
    return found


def on_board(session: plan.Session, library: Library) -> set[str]:
    """Names of the library movements that a session is written with, as written."""
    return {
        movement.name
        for piece in session.pieces
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out)
        for task in line.tasks
        for exercise in _flat(task.versions[0])
        if (movement := library.find(exercise.movement))
    }


def on_date(text: str, date: dt.date) -> str:
    """A board's text for another day: its date line, if it has one, names that day."""
    return re.sub(r"(?mi)^([ \t]*date[ \t]*:[ \t]*).*$", rf"\g<1>{date.isoformat()}", text, count=1)
