"""Weeks seen together: what came how often, what has not, loads that step up, boards to retest."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import lb_to_kg
from pine_ladder.core.week.balance import HARD_ROLES, WEEKLY, day_load, on_board

DUE_WEEKS = 8
"""Weeks after which a saved day is worth a retest (common practice, no source)."""
LIFTED = (plan.Role.STRENGTH, plan.Role.POWER)


class WeekOfPattern(Frozen):
    """On how many days of a week a pattern came, and on how many of them hard."""

    monday: dt.date
    some: int
    hard: int


class PatternWeeks(Frozen):
    """A pattern, week by week."""

    pattern: Pattern
    weeks: tuple[WeekOfPattern, ...]


class Came(Frozen):
    """A movement, on how many days it came, and on which one last."""

    movement: str
    days: int
    last: dt.date


class Gone(Frozen):
    """A movement that came before these weeks and not in them."""

    movement: str
    last: dt.date


class LoadOf(Frozen):
    """A day's heaviest load of a movement in kg, as written (the first number)."""

    date: dt.date
    kg: float


class Lifted(Frozen):
    """The loads that a movement was written with, day by day."""

    movement: str
    points: tuple[LoadOf, ...]


class Due(Frozen):
    """A saved day that was not held for long; `last` is None for never."""

    title: str
    last: dt.date | None


class Season(Frozen):
    """Some weeks of a programme, from the Monday `first` on."""

    first: dt.date
    written: int
    patterns: tuple[PatternWeeks, ...]
    often: tuple[Came, ...]
    gone: tuple[Gone, ...]
    lifted: tuple[Lifted, ...]
    due: tuple[Due, ...]


def _loads(session: plan.Session, library: Library) -> dict[str, float]:
    """The heaviest load of each movement of the strength pieces, in kg, as written."""
    found: dict[str, float] = {}
    for piece in session.pieces:
        if piece.role not in LIFTED:
            continue
        for line in piece.lines:
            for task in line.tasks:
                first = task.versions[0]
                movement = library.find(first.movement)
                if movement is None or not isinstance(first.load, plan.Weight):
                    continue
                value = first.load.values[0]
                kg = lb_to_kg(value) if first.load.unit == "lb" else value
                found[movement.name] = max(found.get(movement.name, 0.0), round(kg, 1))
    return found


def _worked(session: plan.Session, library: Library) -> set[str]:
    """Movements of the pieces that are worked at: warm-ups come every day."""
    hard = tuple(piece for piece in session.pieces if piece.role in HARD_ROLES)
    return on_board(session.model_copy(update={"pieces": hard}), library)


def season(
    days: Mapping[dt.date, plan.Session],
    first: dt.date,
    weeks: int,
    saved: Sequence[tuple[str, dt.date | None]],
    library: Library,
) -> Season:
    """`weeks` weeks from the Monday `first` on; earlier `days` tell what came before.

    `saved` are the titles of saved days, each with the day it was last held.
    """
    end = first + dt.timedelta(weeks=weeks)
    within = {date: session for date, session in sorted(days.items()) if first <= date < end}
    loads = {date: day_load(session, library) for date, session in within.items()}
    came: Counter[str] = Counter()
    last: dict[str, dt.date] = {}
    lifted: dict[str, list[LoadOf]] = {}
    for date, session in within.items():
        for name in _worked(session, library):
            came[name] += 1
            last[name] = date
        for name, kg in _loads(session, library).items():
            lifted.setdefault(name, []).append(LoadOf(date=date, kg=kg))
    before: dict[str, dt.date] = {}
    for date, session in sorted(days.items()):
        if date < first:
            before |= dict.fromkeys(_worked(session, library), date)
    mondays = [first + dt.timedelta(weeks=n) for n in range(weeks)]

    def of(pattern: Pattern, monday: dt.date) -> WeekOfPattern:
        own = [load for date, load in loads.items() if 0 <= (date - monday).days < 7]
        return WeekOfPattern(
            monday=monday,
            some=sum(pattern in load.some for load in own),
            hard=sum(pattern in load.hard for load in own),
        )

    often = sorted(came, key=lambda name: (-came[name], name))
    gone = sorted(before.keys() - came.keys(), key=lambda name: (before[name], name))
    return Season(
        first=first,
        written=len(within),
        patterns=tuple(
            PatternWeeks(pattern=one, weeks=tuple(of(one, monday) for monday in mondays))
            for one in WEEKLY
        ),
        often=tuple(Came(movement=name, days=came[name], last=last[name]) for name in often),
        gone=tuple(Gone(movement=name, last=before[name]) for name in gone),
        lifted=tuple(
            Lifted(movement=name, points=tuple(points))
            for name, points in sorted(lifted.items())
            if len(points) > 1
        ),
        due=tuple(_due(saved, end)),
    )


def _due(saved: Iterable[tuple[str, dt.date | None]], end: dt.date) -> list[Due]:
    """Saved days that were not held for long, those never held last."""
    long_ago = end - dt.timedelta(weeks=DUE_WEEKS)
    found = [Due(title=title, last=held) for title, held in saved if not held or held < long_ago]
    return sorted(found, key=lambda one: (one.last or dt.date.max, one.title))
