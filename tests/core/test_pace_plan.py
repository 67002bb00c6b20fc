"""A pace plan: the prediction of one athlete told as a plan where an even pace is asked for."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.athletes.members import Member
from pine_ladder.core.athletes.pace_plan import IN_HAND, pace_plan, parts_of
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse

STEADY = "## Conditioning: {form}, pace steady\n{work}\n"
ANNA = Member(id=1, name="Anna", tier=0, track=0)


def planned(form: str, work: str = "10 push press @ 40/30 kg\n200 m run", pace: bool = True):
    text = STEADY.format(form=form, work=work)
    text = text if pace else text.replace(", pace steady", "")
    return pace_plan(parse(text, library()).session.pieces[0], ANNA, library())


@given(st.integers(1, 100), st.floats(0.5, 200.0))
def test_parts_are_the_whole_set_and_none_is_near_its_end(reps: int, in_one_go: float):
    parts = parts_of(reps, in_one_go)
    assert sum(parts) == reps
    assert max(parts) <= max(1.0, IN_HAND * in_one_go)
    assert max(parts) - min(parts) <= 1
    assert list(parts) == sorted(parts, reverse=True)


@given(st.integers(1, 100), st.floats(0.5, 100.0))
def test_who_does_more_in_one_go_breaks_no_oftener(reps: int, in_one_go: float):
    assert len(parts_of(reps, 2 * in_one_go)) <= len(parts_of(reps, in_one_go))


@pytest.mark.parametrize("form", ["AMRAP 15:00", "4 rounds for time, cap 20:00"])
def test_a_plan_tells_the_time_of_a_round(form: str):
    told = re.match(r"(\d+):(\d\d) a round", planned(form) or "")
    assert told is not None
    assert 60 <= 60 * int(told[1]) + int(told[2]) <= 300


def test_long_sets_are_told_in_parts_with_a_rep_in_hand():
    told = planned("AMRAP 15:00", "15 pull-up\n200 m run")
    assert told is not None
    assert "pull-up in " in told
    assert told.endswith("stop a rep before you have to.")


@pytest.mark.parametrize(
    "form", ["every 3:00 x 5", "EMOM 12:00", "21-15-9 for time", "AMRAP 10:00, teams of 2"]
)
def test_what_has_no_rounds_of_ones_own_has_no_plan(form: str):
    assert planned(form) is None


def test_a_piece_that_asks_for_no_even_pace_has_no_plan():
    assert planned("AMRAP 15:00", pace=False) is None


def test_the_longer_the_piece_the_slower_the_round():
    def seconds(minutes: int) -> int:
        told = re.match(r"(\d+):(\d\d)", planned(f"AMRAP {minutes}:00") or "")
        assert told is not None
        return 60 * int(told[1]) + int(told[2])

    assert seconds(8) <= seconds(16) <= seconds(30)
