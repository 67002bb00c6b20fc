"""Next time: from how a piece went to the one change it asks for."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.notation import parse
from pine_ladder.core.week.next_time import FEWEST, MOST_CHANGE, Result, advice, next_time
from pine_ladder.core.week.progression import steps, take

ROUNDS = "## Conditioning: AMRAP 12:00, target 6-8 rounds\n10 push-up\n8 sit-up\n"
TIME = "## Conditioning: 4 rounds for time, cap 15:00\n400 m run\n20 air squat\n"
EMOM = "## Conditioning: EMOM 12:00, score done\n10 burpee\n"


def change(board: str, results: list[Result]):
    return next_time(parse(board).session.pieces[0], results)


def six(done: float | None, drop: float | None = None, capped: bool = False) -> list[Result]:
    return [Result(done, drop, capped)] * FEWEST


@pytest.mark.parametrize(
    ("board", "results", "label"),
    [
        (ROUNDS, six(4.9), "10 → 7 push-up, 8 → 6 sit-up: most did 4.9 rounds, aim 6-8"),
        (ROUNDS, six(10.5), "10 → 15 push-up, 8 → 12 sit-up: most did 10.5 rounds, aim 6-8"),
        (ROUNDS, six(7.0), "10 → 12 push-up: everybody inside the target"),
        (
            TIME,
            six(800, 0.3),
            "4 rounds for time, cap 15:00 → 3 rounds for time, cap 15:00: "
            "the last rounds were 30% slower than the first",
        ),
        (
            TIME,
            six(800, 0.04),
            "4 rounds for time, cap 15:00 → 5 rounds for time, cap 15:00: the pace held to the end",
        ),
        (TIME, six(None, None, capped=True), "20 → 12 air squat: the cap stopped 100% of 6"),
    ],
)
def test_each_way_it_went_asks_for_one_change(board: str, results: list[Result], label: str):
    found = change(board, results)
    assert found is not None
    assert found.label == label


@pytest.mark.parametrize(
    ("board", "results"),
    [
        (ROUNDS, six(4.9)[:-1]),  # Too few say it.
        (TIME, six(800, 0.15)),  # Neither held nor gone.
        (EMOM, six(None)),  # Nothing was told of its rounds.
        ("## Strength: 5 sets\n5 back squat @ 75%\n", six(100.0)),
    ],
)
def test_what_says_nothing_changes_nothing(board: str, results: list[Result]):
    assert change(board, results) is None


def test_a_change_is_offered_as_a_step_and_taken_as_one():
    session = parse(ROUNDS).session
    went = {0: six(4.9)}
    (step,) = steps(session, results=went)
    assert take(ROUNDS, [step.key], results=went) == (
        "## Conditioning: AMRAP 12:00, target 6-8 rounds\n7 push-up\n6 sit-up\n"
    )


def test_a_retest_stays_as_it_is():
    board = "theme: test\n\n" + ROUNDS
    assert steps(parse(board).session, results={0: six(4.9)}) == []


@given(st.floats(0.5, 40), st.integers(FEWEST, 40))
def test_the_further_from_the_aim_the_larger_the_change_within_bounds(done: float, count: int):
    found = change(ROUNDS, [Result(done)] * count)
    assert found is not None
    (line, text), *_ = found.lines
    assert line == 2
    reps = int(text.split()[0])
    assert round(10 * MOST_CHANGE) <= reps <= round(10 / MOST_CHANGE) + 1
    if done < 6:
        assert reps < 10
    if done > 8:
        assert reps > 10


MARCH = dt.date(2026, 3, 2)


def told(board: str, results: list[Result], *, weeks: tuple[int, ...] = (0,), theme=None):
    dates = [MARCH + dt.timedelta(weeks=week) for week in weeks]
    return advice(parse(board).session.pieces[0], results, theme, dates)


def test_a_piece_grows_only_where_nearly_all_were_inside_its_target():
    some = [Result(done) for done in (7.0,) * 7 + (9.0,) * 3]
    assert change(ROUNDS, some) is None
    most = [Result(done) for done in (7.0,) * 9 + (9.0,)]
    grown = change(ROUNDS, most)
    assert grown is not None
    assert grown.label.endswith("90% inside the target")


def test_the_advice_names_the_step_that_the_day_offers():
    found = told(ROUNDS, six(4.9))
    session = parse(ROUNDS).session
    (step,) = [one for one in steps(session, results={0: six(4.9)}) if one.key == found.step]
    assert step.label == found.told


@pytest.mark.parametrize(
    ("kept", "words"),
    [
        (told(ROUNDS, six(4.9)[:-1]), "Too few scores"),
        (told(ROUNDS, six(4.9), theme="test"), "test stays"),
        (told(ROUNDS, six(4.9), weeks=(0, 3, 6)), "Held 3 times since 2 March"),
        (told(TIME, six(800, 0.15)), "no change"),
    ],
)
def test_what_is_kept_says_why_and_changes_nothing(kept, words: str):
    assert words in kept.told
    assert kept.step is None


def test_twice_in_six_weeks_and_often_in_five_is_not_long_enough():
    for weeks in ((0, 6), (0, 1, 2, 3, 5)):
        assert told(ROUNDS, six(4.9), weeks=weeks).step is not None


def test_a_warm_up_has_no_next_time():
    assert told("## Warm-up: 2 rounds\n10 air squat\n", six(4.9)) is None
