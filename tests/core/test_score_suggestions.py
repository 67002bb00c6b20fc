"""What was meant by an entry that cannot be: one slip undone, never a good one touched."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.notation import parse
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.scores.shorthand.suggestions import meant

AMRAP = parse("## Conditioning: AMRAP 20:00\n10 burpee\n10 sit-up\n10 box jump").session.pieces[0]
TIMED = parse("## Conditioning: for time, cap 20:00\n100 burpee").session.pieces[0]
LIFT = parse("## Strength: 5 sets, score load\n5 back squat").session.pieces[0]


def of(piece, text: str) -> str | None:
    return meant(read_score(text, piece), text, piece)


@pytest.mark.parametrize(
    ("piece", "typed", "asked"),
    [
        (AMRAP, "11+244", "11+24"),
        (AMRAP, "1124", "11+24"),
        (AMRAP, "11,24", "11+24"),
        (AMRAP, "11+2 4", "11+24"),
        (TIMED, "924", "9:24"),
        (TIMED, "9,24", "9:24"),
        (TIMED, "9:244", "9:24"),
        (TIMED, "1234", "12:34"),
        # What was read off a clock stands, and so does what nothing near makes any better.
        (TIMED, "25:00", None),
        (AMRAP, "abc", None),
        (AMRAP, "", None),
        (LIFT, "1000", None),
    ],
)
def test_a_slip_is_asked_about(piece, typed, asked):
    assert of(piece, typed) == asked


def test_more_reps_than_a_round_are_counted_on_and_those_of_several_rounds_doubted():
    assert read_score("5+55", AMRAP).doubt is None
    assert "8 rounds more" in (read_score("11+244", AMRAP).doubt or "")


@given(st.integers(0, 40), st.integers(0, 29))
def test_a_good_entry_is_never_asked_about(rounds, reps):
    assert of(AMRAP, f"{rounds}+{reps}") is None


@given(st.integers(3, 19), st.integers(10, 29))
def test_a_key_that_stuck_or_was_missed_is_undone(rounds, reps):
    right = f"{rounds}+{reps}"
    stuck = f"{right}{reps % 10}"
    assert of(AMRAP, stuck) == right
    if rounds > 9:
        assert of(AMRAP, right.replace("+", "")) == right


@given(st.text("0123456789+:., r", max_size=14))
def test_what_is_asked_always_reads_cleanly(typed):
    for piece in (AMRAP, TIMED):
        asked = of(piece, typed)
        if asked is not None:
            read = read_score(asked, piece)
            assert (read.problems, read.doubt) == ((), None)
            assert asked != typed
