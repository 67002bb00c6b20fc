"""Words to the class below the work of a piece are told and plan nothing."""

from __future__ import annotations

import pytest

from tests import spoken
from tests.core.test_said_at_random import meant

WORDS = (
    "Focus on speed today",
    "- keep the chest up",
    "* no dropping empty bars",
    "Coach: watch the knees",
    "Log your weights please",
    "goal is sub 10 minutes",
    "aim for 5+ rounds",
    "Stimulus: fast and light",
    "RPE 8 for the last two sets",
    "Warm up the shoulders well",
    "If your wrist hurts use dumbbells",
    "Rest 1-2 min before the workout",
    "2 people per rower",
    "Rower damper 5-6",
    "No double dipping on rowers",
    "first 5 minutes easy",
    "post times on the board",
    "Hook grip!",
    "think 80% effort",
    "See you Thursday at 5:30",
)
"""Common practice, no source."""


@pytest.mark.parametrize("words", WORDS)
def test_words_below_the_last_piece_plan_nothing(words):
    days = [spoken.day(seed)[0] for seed in range(20)]
    assert [day for day in days if meant(f"{day}\n{words}") != meant(day)] == []


@pytest.mark.parametrize("words", WORDS)
def test_words_below_the_piece_before_the_last_plan_nothing(words):
    days = [spoken.day(seed)[0].split("\n\n") for seed in range(30)]
    several = [day for day in days if len(day) > 1 and "\n" in day[-2]]
    differ = [
        before
        for *others, before, last in several
        if meant("\n\n".join([*others, f"{before}\n{words}", last]))
        != meant("\n\n".join([*others, before, last]))
    ]
    assert len(several) > 10
    assert differ == []


def test_easier_work_for_a_movement_above_adds_no_work():
    board = "5 rounds for time\n10 pull-ups\n10 box jumps"
    for words in ("Pull-ups: banded or ring rows", "Box jumps: step ups"):
        assert meant(f"{board}\n{words}") == meant(board)
