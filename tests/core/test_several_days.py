"""A board that tells several days is asked about: each answer keeps one of them."""

from __future__ import annotations

import pytest

from pine_ladder.core.notation import parse
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.notation.several_days import CODE, day_named

WEEK = "Monday\n5x5 squat\n\nTuesday\nAMRAP 12: 10 burpees, 10 swings\n\nThursday 4/12:\nRun 5k"


def questions(text: str):
    return [finding for finding in parse(text).findings if finding.code == CODE]


def test_a_week_on_one_board_is_asked_about_where_its_second_day_begins():
    [question] = questions(WEEK)
    assert (question.severity, question.line) == ("question", 4)
    assert [repair.label for repair in question.repairs] == [
        "Monday alone",
        "Tuesday alone",
        "Thursday alone",
    ]


@pytest.mark.parametrize(("answer", "movement"), [(0, "back squat"), (1, "burpee"), (2, "run")])
def test_each_answer_keeps_its_own_day_alone(answer, movement):
    [question] = questions(WEEK)
    text = apply(WEEK, question.repairs[answer].edits)
    [piece] = parse(text).session.pieces
    assert piece.blocks[0].lines[0].tasks[0].versions[0].movement == movement
    assert questions(text) == []


def test_the_days_of_a_week_share_no_piece():
    first, second, third = parse(WEEK).session.pieces
    assert [piece.line for piece in (first, second, third)] == [2, 5, 8]


@pytest.mark.parametrize(
    "text",
    [
        "Monday\n5x5 squat",
        "Monday\n5x5 squat\n\nAMRAP 12\n10 burpees\nTuesday's class has its own warm-up",
        "Saturday\n30 min run\n\nSunday long run: 10 km easy",
    ],
)
def test_one_day_is_asked_about_nothing(text):
    assert questions(text) == []


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("WED", "Wednesday"),
        ("*Thurs*", "Thursday"),
        ("Fri: rest day", "Friday"),
        ("sat 12.12.", "Saturday"),
        ("Sunday long run", ""),
        ("sunset", ""),
        ("Monthly test", ""),
    ],
)
def test_a_line_that_names_a_day_and_no_more(text, day):
    assert day_named(text) == day
