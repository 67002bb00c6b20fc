"""Letters to members: what they say, and that a subject stays one line."""

from __future__ import annotations

import datetime as dt

from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.day.letters import (
    ClassTold,
    DayAhead,
    class_letter,
    link_letter,
    one_line,
    question_letter,
    told_letter,
    week_letter,
)

DATE = dt.date(2026, 11, 30)


@given(st.text())
def test_a_subject_is_one_line_whatever_is_written_into_it(text):
    line = one_line(text)
    assert len(line.splitlines()) <= 1
    assert len(line) <= 150
    letter = question_letter("Skua Hall", "Anna", text, DATE, text, "5", "", "https://gym.example")
    assert len(letter.subject.splitlines()) == 1


def test_a_week_names_days_pieces_kit_and_classes_in_order():
    day = DayAhead(DATE, "", "Slack Water", ["Conditioning: AMRAP 20:00"], ["rope"], [dt.time(18)])
    lifts = DayAhead(DATE, "Barbell Club", "Capstan", [], [], [])
    letter = week_letter("Skua Hall", "Anna", [day, lifts], "https://gym.example")
    assert letter.subject == "Skua Hall: the days from Monday 30 November"
    assert letter.body.split("\n\n") == [
        "Hello Anna,",
        "Monday 30 November: Slack Water\n  Conditioning: AMRAP 20:00\n  Kit: rope\n"
        "  Classes: 18:00",
        "Monday 30 November: Capstan (Barbell Club)",
        "https://gym.example\n",
    ]


def test_a_class_is_told_off_on_again_or_with_a_word():
    def told(cancelled: bool, word: str) -> tuple[str, str]:
        letter = class_letter("Skua Hall", "Anna", ClassTold(DATE, dt.time(18), cancelled, word))
        return letter.subject, letter.body

    off = told(True, "the boiler")
    assert off[0] == "Skua Hall: class on Monday 30 November, 18:00 cancelled"
    assert "is cancelled.\n\nthe boiler" in off[1]
    assert "is held after all." in told(False, "")[1]
    assert "bring a rope" in told(False, "bring a rope")[1]


def test_a_link_says_how_long_it_lasts_and_that_it_may_be_left():
    letter = link_letter("Skua Hall", "Anna", "https://gym.example/join/x", DATE, new=True)
    assert "choose a password here:\n\nhttps://gym.example/join/x\n" in letter.body
    assert "once, until Monday 30 November" in letter.body


def test_a_word_to_the_class_carries_board_and_results_where_they_are_wanted():
    letter = told_letter("Skua Hall", "Anna", "Maren", DATE, "Well done.", "# Ebb\n", ["Ebb:"])
    assert letter.body == "Hello Anna,\n\nWell done.\n\n# Ebb\n\nEbb:\n\nMaren\n"
    assert told_letter("H", "Anna", "M", DATE, "Well done.", "", []).body.count("\n\n") == 2


def test_a_moved_class_tells_its_time_and_the_coachs_word():
    told = ClassTold(dt.date(2026, 6, 4), dt.time(18), False, "bring shoes", dt.time(19))
    letter = class_letter("Hall", "Ada", told)
    assert "19:00" in letter.subject
    assert "bring shoes" in letter.body
    assert "held at 19:00 instead" in letter.body
