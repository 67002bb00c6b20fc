"""A week of sessions side by side: which patterns each day loads, and where it is lopsided."""

from __future__ import annotations

import datetime as dt
import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import partial
from itertools import pairwise
from statistics import median

from pine_ladder.core import plan
from pine_ladder.core.clock import TABATA_INTERVALS
from pine_ladder.core.dose import Dose, dose_of_session
from pine_ladder.core.dose.regions import REGION_OF, Region
from pine_ladder.core.movements import Library, Movement, Pattern
from pine_ladder.core.pace.estimate import CHANGE_S, FATIGUE, amount_seconds
from pine_ladder.core.plan import Frozen

HARD_ROLES = (plan.Role.STRENGTH, plan.Role.POWER, plan.Role.CONDITIONING)
HARD_SECONDS = 150
"""Seconds of work times demand from which a movement counts as hard (common practice)."""
HARD_DOSE = 60
"""The dose of a region from which its patterns came hard (judgement)."""
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
    """A day's load: its dose by region, work by pattern (seconds × demand), patterns that get some
    of it and those that get it hard (by the dose of their region), hard movements, landings.
    """

    dose: Dose
    work: dict[Pattern, float]
    some: tuple[Pattern, ...]
    hard: tuple[Pattern, ...]
    hard_movements: tuple[str, ...]
    landings: int
    tension_s: float
    """Seconds of slow lifts, holds and carries, in which muscles do not let go."""


class PatternBalance(Frozen):
    """One pattern through a week: seconds of work times demand on each of its dates and together,
    what is usual of the same days of a week (None while there is nothing to tell it by), and the
    dates on which it came hard for the second day in a row.
    """

    pattern: Pattern
    region: Region
    daily: tuple[float, ...]
    whole: float
    usual: float | None
    in_a_row: tuple[dt.date, ...]


class RegionBalance(Frozen):
    """One region through a week: its dose (0 to 100) on each of its dates, their sum, what is usual
    of the same days of a week (None while there is nothing to tell it by), the dates on which it
    came hard, and those on which it did for the second day in a row.
    """

    region: Region
    daily: tuple[float, ...]
    whole: float
    usual: float | None
    hard: tuple[dt.date, ...]
    in_a_row: tuple[dt.date, ...]


class Remark(Frozen):
    """Where the week is lopsided: on these dates, in words."""

    code: str
    dates: tuple[dt.date, ...]
    message: str


def _times(exercise: plan.Exercise) -> float:
    """How often the parts of a complex are done in a round; 1 for anything else."""
    amount = exercise.amount
    if not exercise.parts or not isinstance(amount, plan.Reps):
        return 1.0
    return (amount.low + (amount.high or amount.low)) / 2


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
    rounds = list(_worked(piece.lines))
    around = list(_worked((*piece.buy_in, *piece.cash_out)))
    seconds = [times * _once(one, window, reps, library) for one, times in rounds]
    total = sum(seconds)
    passes = _passes(piece, total, len(rounds)) if total else 1.0
    done = [(one, once * passes) for (one, _), once in zip(rounds, seconds, strict=True)]
    done += [(one, times * amount_seconds(one, None, library)) for one, times in around]
    hard = piece.role in HARD_ROLES and not piece.for_quality
    out = []
    for exercise, spent in done:
        movement = library.find(exercise.movement)
        if movement is None or not spent:
            continue
        by_rep = movement.measure == "reps"
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


def _worked(lines: Iterable[plan.Line]) -> Iterator[tuple[plan.Exercise, float]]:
    """What some lines ask for as written, the parts of a complex each, and how often."""
    for line in lines:
        for task in line.tasks:
            first = task.versions[0]
            for unit in first.units:
                yield unit, _times(first)


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
    dose = dose_of_session(session, library)
    return DayLoad(
        dose=dose,
        work={pattern: round(work[pattern], 1) for pattern in WEEKLY if work[pattern]},
        some=tuple(p for p in WEEKLY if work[p] >= SOME_SECONDS),
        hard=tuple(
            p
            for p in WEEKLY
            if p is not Pattern.ENGINE
            and hard[p] >= SOME_SECONDS
            and dose.of(REGION_OF[p]) >= HARD_DOSE
        ),
        hard_movements=tuple(sorted(m for m in heavy if heavy[m] >= HARD_SECONDS / 2)),
        landings=round(landings),
        tension_s=round(tension),
    )


Weekdays = Mapping[int, DayLoad]
"""The written days of a week, by weekday (Monday 0)."""


def balance(
    dates: Sequence[dt.date],
    days: Mapping[dt.date, DayLoad],
    before: Sequence[Weekdays],
) -> tuple[PatternBalance, ...]:
    """Every pattern of a week against the median of the weeks before it that were full; a week that
    is half written is held against the same days of those.
    """

    def of(pattern: Pattern, load: DayLoad | None) -> float:
        return load.work.get(pattern, 0.0) if load else 0.0

    out = []
    for pattern in WEEKLY:
        daily = tuple(of(pattern, days.get(date)) for date in dates)
        hard = [date for date in dates if date in days and pattern in days[date].hard]
        usual = _usual(days, before, partial(of, pattern))
        out.append(
            PatternBalance(
                pattern=pattern,
                region=REGION_OF[pattern],
                daily=daily,
                whole=round(sum(daily), 1),
                usual=usual,
                in_a_row=_in_a_row(hard),
            )
        )
    return tuple(out)


def regions(
    dates: Sequence[dt.date],
    days: Mapping[dt.date, DayLoad],
    before: Sequence[Weekdays],
) -> tuple[RegionBalance, ...]:
    """The dose of every region through a week, against the same days of the weeks before it."""
    out = []
    for region in Region:
        daily = tuple(days[date].dose.of(region) if date in days else 0.0 for date in dates)
        hard = [date for date, dose in zip(dates, daily, strict=True) if dose >= HARD_DOSE]
        out.append(
            RegionBalance(
                region=region,
                daily=daily,
                whole=round(sum(daily), 1),
                usual=_usual(days, before, partial(_dose_of, region)),
                hard=tuple(hard),
                in_a_row=_in_a_row(hard),
            )
        )
    return tuple(out)


def _dose_of(region: Region, load: DayLoad) -> float:
    return load.dose.of(region)


def _usual(
    days: Mapping[dt.date, DayLoad],
    before: Sequence[Weekdays],
    of: Callable[[DayLoad], float],
) -> float | None:
    """The median of what the same weekdays of full weeks summed up to; None without any."""
    written = {date.weekday() for date in days}
    full = [week for week in before if len(week) >= FULL_WEEK]
    sums = [sum(of(load) for at, load in week.items() if at in written) for week in full]
    return round(median(sums), 1) if sums else None


def _in_a_row(hard: Sequence[dt.date]) -> tuple[dt.date, ...]:
    """The dates whose day before is one of them as well."""
    return tuple(b for a, b in pairwise(hard) if (b - a).days == 1)


RAMP, RAMP_LEAST = 1.5, 60.0
"""A week's dose of a region above so many times the usual one is told, from this dose on."""
DELOAD_SHARE = 0.7
"""A lighter week asks for at most this part of the usual dose (common practice, no source)."""


def ramps(
    dates: Sequence[dt.date],
    days: Mapping[dt.date, DayLoad],
    before: Sequence[Weekdays],
    deload: bool = False,
) -> list[Remark]:
    """Regions that a week loads well above what members have done in the weeks before it; in a
    lighter week those that it does not spare.
    """
    found = []
    for one in regions(dates, days, before):
        if not one.usual or one.whole < RAMP_LEAST:
            continue
        times = one.whole / one.usual
        if times > RAMP:
            message = (
                f"{one.region.value} is {times:.1f} times the usual week's: add a little at a time"
            )
            found.append(Remark(code="ramp", dates=(), message=message))
        elif deload and times > DELOAD_SHARE:
            message = f"{one.region.value} is {times:.0%} of the usual in a lighter week"
            found.append(Remark(code="deload", dates=(), message=message))
    return found


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
        both_hard = [
            region
            for region in (Region.SQUAT, Region.HINGE, Region.PRESS, Region.PULL)
            if min(days[day].dose.of(region) for day in (before, after)) >= HARD_DOSE
        ]
        if both_hard:
            words = ", ".join(both_hard)
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
            message = f"no {', '.join(missing)} on the {len(dates)} days written"
            found.append(Remark(code="missing-pattern", dates=(), message=message))
    return found


def uses(session: plan.Session, library: Library) -> set[str]:
    """Names of all library movements a session uses, in any tier or alternative."""
    found = set()
    for piece in session.pieces:
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                for version in task.versions:
                    for exercise in (*version.units, *version.instead):
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
        for exercise in task.versions[0].units
        if (movement := library.find(exercise.movement))
    }


def on_date(text: str, date: dt.date) -> str:
    """A board's text for another day: its date line, if it has one, names that day."""
    return re.sub(r"(?mi)^([ \t]*date[ \t]*:[ \t]*).*$", rf"\g<1>{date.isoformat()}", text, count=1)
