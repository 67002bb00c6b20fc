"""Heart rate: published formulas, and ranges that never contradict each other."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.athletes.heart import Heart, effort_of, highest, target
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse


@pytest.mark.parametrize(("age", "bpm"), [(20, 194), (30, 187), (40, 180), (60, 166)])
def test_the_highest_rate_by_age_is_tanakas(age: int, bpm: int):
    """208 − 0.7 × age: Tanaka, Monahan & Seals, J Am Coll Cardiol 37 (2001) 153."""
    found = highest(Heart(), age)
    assert found is not None
    assert (found.bpm, found.measured) == (bpm, False)


def test_what_was_measured_comes_before_what_age_says():
    found = highest(Heart(highest=201), 40)
    assert found is not None
    assert (found.bpm, found.measured) == (201, True)
    assert highest(Heart(), None) is None
    assert target("easy", Heart(), None) is None


def test_a_known_resting_rate_makes_the_range_one_of_the_reserve():
    """Karvonen 1957 with Garber et al. 2011: moderate ends at 59 % of the reserve."""
    found = target("easy", Heart(highest=190, resting=50), None)
    assert found is not None
    assert (found.low, found.high) == (round(50 + 0.30 * 140), round(50 + 0.59 * 140))
    assert "measured" in found.words
    by_age = target("easy", Heart(), 40)
    assert by_age is not None
    assert (by_age.low, by_age.high) == (103, 137)
    assert "by age" in by_age.words


@given(st.integers(10, 95), st.integers(30, 110) | st.none(), st.integers(120, 230) | st.none())
def test_easy_ends_where_hard_begins_and_nothing_passes_the_highest(age, resting, measured):
    heart = Heart(highest=measured, resting=resting)
    easy, hard, top = target("easy", heart, age), target("hard", heart, age), highest(heart, age)
    assert easy is not None
    assert hard is not None
    assert top is not None
    assert easy.low < easy.high < hard.low + 1 <= hard.high < top.bpm


@pytest.mark.parametrize(
    ("board", "effort"),
    [
        ("## Cool-down: continuous 6:00\n3:00 easy run\n3:00 walk", "easy"),
        ("## Conditioning: continuous 20:00, pace steady\nrun", "easy"),
        ("## Conditioning: intervals 0:30/1:30 x 6, pace hard\nbike", "hard"),
        ("## Conditioning: AMRAP 9:00\n9 burpee", "hard"),
        ("## Strength: 5 sets\n5 back squat", None),
        ("## Warm-up: 2 rounds\n10 air squat", None),
    ],
)
def test_a_piece_says_what_it_asks_of_the_heart(board, effort):
    assert effort_of(parse(board).session.pieces[0], library()) == effort


@pytest.mark.parametrize(
    ("lines", "effort"),
    [
        ("3:00 easy row", "easy"),
        ("3:00 easy row\n10 thruster", "hard"),
        ("3:00 easy row\n5 [1 clean + 1 front squat]", "hard"),
        ("10 thruster\n3:00 easy row", "hard"),
    ],
)
def test_easy_work_beside_hard_work_is_hard(lines, effort):
    (piece,) = parse(f"## Conditioning: AMRAP 20:00\n{lines}").session.pieces
    assert effort_of(piece, library()) == effort
