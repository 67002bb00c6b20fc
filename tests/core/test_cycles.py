"""Cycles as the boards tell them: weeks by their number, planned and held."""

from __future__ import annotations

import datetime as dt

from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.week.cycles import CycleBoard, cycles_of

MONDAY = dt.date(2026, 3, 2)


def board(days: int, held: bool, header: str = "cycle: Spring, week 1 of 4\n") -> CycleBoard:
    text = f"# Ebb\n{header}\n## Strength: 5 sets\n5 back squat @ 80%\n"
    return CycleBoard(MONDAY + dt.timedelta(days=days), parse(text, library()).session, held)


def test_what_is_held_is_the_part_of_what_is_planned_that_was_held():
    ((week,),) = (one.weeks for one in cycles_of([board(0, True), board(2, False)], library()))
    assert (week.days, week.held_days) == (2, 1)
    assert abs(week.planned - 2 * week.held) <= 1
    assert week.held > 0
    assert week.monday == MONDAY


def test_boards_of_no_cycle_belong_to_none():
    assert cycles_of([board(0, True, header="")], library()) == []


def test_weeks_come_in_order_and_the_cycle_begun_last_first():
    later = "cycle: Summer, week 1 of 6\n"
    second = "cycle: Spring, week 2 of 4\ntheme: deload\n"
    found = cycles_of([board(14, False, later), board(7, False, second), board(0, True)], library())
    assert [(one.name, one.of) for one in found] == [("Summer", 6), ("Spring", 4)]
    assert [(week.week, week.theme) for week in found[1].weeks] == [(1, None), (2, "deload")]


def test_the_order_in_which_boards_are_given_changes_nothing():
    boards = [board(n, n % 2 == 0) for n in range(6)]
    assert cycles_of(boards, library()) == cycles_of(boards[::-1], library())
