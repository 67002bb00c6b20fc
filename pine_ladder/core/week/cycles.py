"""Cycles of weeks as the boards tell them: what each week was planned to be, and what was held."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.dose import Region, dose_of_session
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Frozen
from pine_ladder.core.week.balance import HARD_DOSE, day_load


class CycleBoard(NamedTuple):
    """A day's board that belongs to a cycle; `held` where somebody came or has a score."""

    date: dt.date
    session: plan.Session
    held: bool


class CycleWeekDone(Frozen):
    """A week of a cycle: its number from 1, the Monday of its first day, and what it loads.

    `planned` and `held` are doses summed over regions, of all its boards and of those that were
    held; `hard_days` are days on which a region gets a hard dose.
    """

    week: int
    monday: dt.date
    theme: plan.Theme | None
    days: int
    held_days: int
    planned: float
    held: float
    landings: int
    hard_days: int


class CycleDone(Frozen):
    """A cycle that boards belong to, by its name; `of` is how many weeks it is to have."""

    name: str
    of: int
    weeks: tuple[CycleWeekDone, ...]


def cycles_of(boards: Iterable[CycleBoard], library: Library) -> list[CycleDone]:
    """The cycles that some boards belong to, the one begun last first."""
    found: dict[str, dict[int, list[CycleBoard]]] = {}
    for board in sorted(boards, key=lambda board: board.date):
        if (cycle := board.session.cycle) is not None:
            found.setdefault(cycle.name, {}).setdefault(cycle.week, []).append(board)
    out = []
    for name, weeks in found.items():
        told = [board.session.cycle for week in weeks.values() for board in week]
        out.append(
            CycleDone(
                name=name,
                of=max(cycle.weeks for cycle in told if cycle is not None),
                weeks=tuple(_week(number, weeks[number], library) for number in sorted(weeks)),
            )
        )
    return sorted(out, key=lambda one: one.weeks[0].monday, reverse=True)


def _week(number: int, boards: list[CycleBoard], library: Library) -> CycleWeekDone:
    first = boards[0].date
    planned = held = 0.0
    landings = hard = 0
    for board in boards:
        dose = dose_of_session(board.session, library)
        whole = sum(dose.of(region) for region in Region)
        planned += whole
        held += whole if board.held else 0.0
        landings += day_load(board.session, library).landings
        hard += any(
            dose.of(region) >= HARD_DOSE for region in Region if region is not Region.ENGINE
        )
    return CycleWeekDone(
        week=number,
        monday=first - dt.timedelta(days=first.weekday()),
        theme=next((board.session.theme for board in boards if board.session.theme), None),
        days=len(boards),
        held_days=sum(board.held for board in boards),
        planned=round(planned),
        held=round(held),
        landings=landings,
        hard_days=hard,
    )
