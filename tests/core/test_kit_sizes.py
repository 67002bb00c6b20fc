"""Loads and heights that the gym's kit has not, with the nearest that it has."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.checks.registry import check
from pine_ladder.core.checks.traversal import Ground
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.edits import apply

KIT = {
    "dumbbell 15 kg": 8, "dumbbell 20 kg": 8, "kettlebell 16 kg": 6, "kettlebell 24 kg": 6,
    "box 50 cm": 8, "box 60 cm": 8,
}  # fmt: skip
PLATES = {20.0: 8, 10.0: 8, 5.0: 8, 2.5: 8, 1.25: 8}


def told(line: str, kit=KIT, plates=PLATES):
    session = parse(f"## Conditioning: AMRAP 10:00\n{line}").session
    ground = Ground(library(), kit=kit, plates=plates)
    return [one for one in check(session, ground) if one.code == "kit-size"]


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("10 dumbbell snatch @ 22.5 kg", "no dumbbell 22.5 kg. Nearest: 20 kg"),
        ("10 dumbbell snatch @ 17.5 kg", "Nearest: 15 and 20 kg"),
        ("10 kettlebell swing @ 20/16 kg", "no kettlebell 20 kg. Nearest: 16 and 24 kg"),
        ("10 box jump @ 30 in", "no box 30 in. Nearest: 24 in"),
        ("10 deadlift @ 97 lb", "no bar loaded to 97 lb"),
    ],
)
def test_a_size_that_is_not_there_is_told_with_the_nearest(line, words):
    (one,) = told(line)
    assert words in one.message
    assert one.severity == "hint"


@pytest.mark.parametrize(
    "line",
    [
        "10 kettlebell swing @ 53/35 lb",
        "10 kettlebell swing @ 24/16 kg",
        "10 dumbbell snatch @ 20/15 kg",
        "10 box jump @ 60/50 cm",
        "10 box jump @ 24/20 in",
        "10 thruster @ 43/30 kg",
        "10 wall ball @ 9/6 kg",
        "10 deadlift @ 70%",
        "10 burpee",
    ],
)
def test_what_is_there_or_is_not_listed_by_size_is_not_asked_for(line):
    assert told(line) == []


def test_without_a_gym_nothing_is_said():
    assert told("10 dumbbell snatch @ 22.5 kg", kit=None, plates=None) == []
    assert told("10 deadlift @ 97 lb", plates=None) == []


@given(st.sampled_from([12.5, 17.5, 18, 22, 22.5, 30]))
def test_each_repair_writes_a_size_that_is_there(load):
    board = f"## Conditioning: AMRAP 10:00\n10 dumbbell snatch @ {load:g} kg"
    (one,) = told(board.splitlines()[1])
    for repair in one.repairs:
        after = print_session(parse(apply(board, repair.edits)).session)
        assert told(after.splitlines()[-1]) == []
