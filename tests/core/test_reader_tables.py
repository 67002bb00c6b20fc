"""Tables on a board: a week of days, of which one is read and the others are asked about."""

from __future__ import annotations

import pytest

from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.edits import apply

WEEK = (
    "| | Monday | Wednesday | Friday |\n|---|---|---|---|\n"
    "| Warm-up | 500 m row | 400 m run | 2 min bike |\n"
    "| Strength | Deadlift 5x3 | Press 5x5 | Front squat 4x3 |\n"
    "| WOD | AMRAP 12: 10 burpees, 15 sit-ups | 3 RFT: 400 m run, 21 pull-ups | 100 wall balls |"
)
LIFTS = {"Monday": "3 deadlift", "Wednesday": "5 strict press", "Friday": "3 front squat"}


def planned(text: str) -> str:
    return "\n".join(
        line
        for line in print_session(parse(text).session).splitlines()
        if not line.startswith(("#", ">", "note:"))
    )


def asked(text: str):
    return [one for one in parse(text).findings if one.code == "which-day"]


def test_each_reading_of_a_week_holds_its_own_day_alone():
    (question,) = asked(WEEK)
    assert [one.label for one in question.repairs] == list(LIFTS)
    for repair in question.repairs:
        read = planned(apply(WEEK, repair.edits))
        assert [lift in read for lift in LIFTS.values()] == [
            day == repair.label for day in LIFTS
        ], read
        assert asked(apply(WEEK, repair.edits)) == []
    assert planned(WEEK) == planned(apply(WEEK, question.repairs[0].edits))


@pytest.mark.parametrize("day", list(LIFTS))
def test_a_day_that_is_named_above_its_week_is_not_asked_about(day: str):
    text = f"{day} at the hall\n\n{WEEK}"
    assert asked(text) == []
    assert LIFTS[day] in planned(text)


def test_a_table_pasted_with_tabs_is_a_week_as_well():
    text = "Week 3\tMon\tTue\nStrength\tBS 4x6 @ 72%\tBench 5x5"
    (question,) = asked(text)
    assert "6 back squat @ 72%" in planned(text)
    assert "5 bench press" in planned(apply(text, question.repairs[1].edits))
