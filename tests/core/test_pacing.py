"""Pacing: rounds made comparable, and judged by what the piece asks."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.notation import parse
from pine_ladder.core.scores.kinds import Rounds, reps_in_all, reps_of_round
from pine_ladder.core.scores.pacing import Series, comparable, lap_verdict, paced, pacing
from pine_ladder.core.scores.shorthand import read_score


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


@pytest.mark.parametrize(
    ("numbers", "unit", "pace", "verdict"),
    [
        ((18, 18, 17, 18), "reps", "steady", "steady"),
        ((18, 17, 15, 15), "reps", "steady", "falling"),
        ((20, 16, 12, 10), "reps", "steady", "collapsed"),
        ((10, 12, 14), "reps", "steady", "rising"),
        ((20, 16, 12, 10), "reps", "hard", "all out"),
        ((12, 16, 16, 15), "reps", "hard", "held back"),
        ((180, 181, 185), "s", None, "steady"),
        ((180, 220, 260), "s", None, "collapsed"),
    ],
)
def test_pacing_is_judged_by_what_the_piece_asks(numbers, unit, pace, verdict):
    # Common practice, no source: steady pieces keep the number, short hard ones go all out.
    found = pacing(Series(unit, numbers), pace)
    assert found is not None and found.verdict == verdict


def series(one: plan.Piece, entered: str) -> Series | None:
    rounds = read_score(entered, one).rounds
    assert rounds is not None
    return comparable(one, rounds)


def test_movements_that_take_turns_count_each_against_its_own_mean():
    turns = piece("every 1:00 x 3, score total reps", "1) max burpee", "2) max sit-up")
    found = series(turns, "10 30 10 30 10 30")
    assert found == Series("share", (1.0,) * 6)
    falling = paced(turns, read_score("12 33 10 30 8 24", turns).rounds)
    assert falling is not None and falling.verdict == "collapsed"
    assert "each movement against its own mean" in falling.words


def test_movements_done_once_or_twice_have_no_pace_to_tell():
    once = piece("every 1:00 x 1, score total reps", "1) max burpee", "2) max sit-up", "3) max dip")
    assert series(once, "10 30 12") is None


def test_rounds_of_falling_size_count_by_the_rep():
    chipper = piece("21-15-9 for time", "thruster", "pull-up")
    assert [reps_of_round(chipper, n) for n in (1, 2, 3)] == [42, 30, 18]
    assert series(chipper, "2:06 1:30 0:54") == Series("s a rep", (3.0, 3.0, 3.0))
    even = paced(chipper, read_score("2:06 1:30 0:54", chipper).rounds)
    assert even is not None and even.verdict == "steady"


def test_a_ladder_inside_an_amrap_counts_by_the_rep():
    ladder = piece("AMRAP 8:00, +2 reps each round", "2 burpee")
    found = series(ladder, "3 splits 0:06 0:12 0:18")
    assert found == Series("s a rep", (3.0, 3.0, 3.0))


def test_blocks_of_falling_reps_count_by_their_own_rounds():
    blocks = piece("AMRAP 7:00, rest 1:00", "10 burpee", "--", "8 burpee", "--", "4 burpee")
    assert series(blocks, "50 40 20 reps") == Series("rounds", (5.0, 5.0, 5.0))


def test_equal_rounds_stay_as_they_were_told():
    amrap = piece("AMRAP 20:00", "10 burpee")
    assert series(amrap, "3 splits 1:40 1:50 2:00") == Series("s", (100, 110, 120))
    assert comparable(amrap, Rounds(unit="kg", numbers=(60, 70, 80))) is None


@given(
    pieces(), st.lists(st.integers(0, 300), min_size=1, max_size=20), st.sampled_from(["s", "reps"])
)
def test_no_rounds_break_the_reading_of_a_pace(one: plan.Piece, numbers: list[int], unit):
    found = paced(one, Rounds(unit=unit, numbers=tuple(map(float, numbers))))
    assert found is None or found.words


@given(pieces())
def test_a_piece_for_time_is_the_sum_of_its_rounds_and_ends(one: plan.Piece):
    whole = reps_in_all(one)
    if isinstance(one.format, plan.ForTime) and one.format.scheme:
        bare = one.model_copy(update={"buy_in": (), "cash_out": ()})
        rounds = range(1, len(one.format.scheme) + 1)
        assert reps_in_all(bare) == sum(reps_of_round(bare, n) for n in rounds)
        assert whole is not None and whole >= (reps_in_all(bare) or 0)


def test_two_rounds_tell_no_pace_and_three_do():
    assert pacing(Series("s", (60, 70)), None) is None
    told = pacing(Series("s", (60, 70, 80)), None)
    assert told is not None
    assert told.verdict == "collapsed"


def test_windows_of_different_length_count_by_the_minute():
    lines = ("1:00 burpee", "0:30 burpee", "0:20 burpee")
    falling = piece("continuous 1:50, score total reps", *lines)
    assert series(falling, "20 10 6") == Series("reps a minute", (20.0, 20.0, 18.0))


def test_the_words_give_how_far_the_pace_fell_and_the_ends():
    told = pacing(Series("s", (60, 60, 80)), None)
    assert told is not None
    # 80 s are a third more than 60 s.
    assert told.drop == pytest.approx(1 / 3)
    assert told.words.startswith("collapsed: 33% slower (1:00 at first, 1:20 at the end)")
    assert told.spread == pytest.approx(0.1414, abs=1e-4)


def test_what_was_held_back_is_told_from_a_twentieth_on():
    shy = pacing(Series("reps", (40, 40, 41)), "hard")
    held_back = pacing(Series("reps", (40, 40, 43)), "hard")
    assert shy is not None
    assert held_back is not None
    assert (shy.verdict, held_back.verdict) == ("all out", "held back")


def test_one_block_is_no_row_of_blocks():
    one = piece("AMRAP 8:00, score total reps", "10 burpee")
    assert comparable(one, Rounds(unit="reps", numbers=(30, 28, 26))) == Series(
        "reps", (30, 28, 26)
    )


def test_a_block_counts_by_its_first_round_where_rounds_grow():
    grow = piece("AMRAP 5:00, rest 1:00, +2 reps each round", "4 burpee", "--", "2 dip")
    assert comparable(grow, Rounds(unit="reps", numbers=(8, 8))) == Series("rounds", (2.0, 4.0))


def test_a_round_counts_both_sides_and_the_calories_of_its_track():
    scheme = piece("21-15-9 for time", "lunge, each side", "burpee")
    assert [reps_of_round(scheme, n) for n in (1, 2, 3, 4)] == [63, 45, 27, 27]
    rows = piece("3 rounds for time", "60/30 cal row", "10 burpee", "400 m run")
    # A stretch of running counts as one.
    assert [reps_of_round(rows, 1), reps_of_round(rows, 1, track=1)] == [71, 41]
    assert reps_of_round(rows, 1, track=5) == 41
    own = piece("3 rounds for time", "10-8-6 lunge, each side")
    assert [reps_of_round(own, n) for n in (1, 2, 3, 9)] == [20, 16, 12, 12]


NUMBERS = re.compile(r"(\d+):(\d\d)|(\d+(?:\.\d+)?)(?!%)")


def told_numbers(words: str) -> tuple[float, float]:
    """The two numbers that stand in the brackets."""
    inside = words[words.index("(") + 1 : words.index(")")]
    inside = re.sub(r"(first|last) \d+", r"\1", inside)
    found = [
        60 * float(m[1]) + float(m[2]) if m[1] else float(m[3]) for m in NUMBERS.finditer(inside)
    ]
    return found[0], found[1]


@given(
    st.sampled_from(["s", "reps", "rounds"]),
    st.lists(st.integers(30, 300), min_size=3, max_size=12),
    st.sampled_from([None, "steady", "hard"]),
)
def test_the_share_is_that_of_the_numbers_in_the_brackets(unit, numbers, pace):
    told = pacing(Series(unit, tuple(float(n) for n in numbers)), pace)
    assert told is not None
    first, last = told_numbers(told.words)
    share = last / first - 1 if unit == "s" else 1 - last / first
    # Both are told rounded: to a second, or to a tenth of a rep.
    assert told.drop == pytest.approx(share, abs=0.03)
    if (said := re.search(r"(\d+)%", told.words)) and told.verdict != "held back":
        assert int(said[1]) / 100 == pytest.approx(max(abs(told.drop), 0.0), abs=0.011)


@pytest.mark.parametrize(
    ("seconds", "verdict"),
    [([90, 101, 101], "falling"), ([90, 92, 99], "steady"), ([90, 100, 120], "collapsed"),
     ([100, 95, 89], "rising"), ([90, 95], None), ([0, 0, 90], None)],
)  # fmt: skip
def test_laps_are_judged_by_the_thresholds_of_a_score(seconds, verdict):
    assert lap_verdict(seconds) == verdict
    if verdict:
        told = pacing(Series("s", tuple(map(float, seconds))), None)
        assert told is not None
        assert told.verdict == verdict
