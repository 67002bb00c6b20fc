"""Progress against sources outside the project, each named beside its check."""

import datetime as dt
import math
import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pandas import Series
from plans import pieces
from scipy import stats

from pine_ladder.core import plan
from pine_ladder.core.athletes import loads
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.history import retest, session_load, trend, week_load
from pine_ladder.core.scores.kinds import CAPPED_KEY, score_kind
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.scores.standings import Entry, ranks, standings

MONDAY = dt.date(2026, 6, 1)
ENTRIES = st.one_of(
    st.tuples(st.integers(0, 30), st.integers(0, 30)).map(lambda p: f"{p[0]}+{p[1]}"),
    st.tuples(st.integers(0, 59), st.integers(0, 59)).map(lambda p: f"{p[0]}:{p[1]:02d}"),
    st.integers(1, 400).map(str),
    st.integers(0, 60).map(lambda n: f"cap+{n}"),
    st.just("done"),
)


@given(pieces(), st.lists(ENTRIES, min_size=1, max_size=40))
def test_scores_of_every_kind_rank_as_in_scipy_and_pandas(one: plan.Piece, entered: list[str]):
    keys = [key for text in entered if (key := read_score(text, one).order_key) is not None]
    if keys:
        # scipy.stats.rankdata(method="min") and pandas' rank, of the keys turned round.
        assert ranks(keys) == list(stats.rankdata([-key for key in keys], method="min"))
        assert ranks(keys) == list(Series(keys).rank(method="min", ascending=False).astype(int))


@given(st.lists(st.integers(100, 2000), min_size=3, max_size=60))
def test_quartiles_are_those_of_numpy_and_the_standard_library(seconds: list[int]):
    made = [
        Entry(athlete_id=n, name=str(n), tier=0, track=0, display="", order_key=-float(s))
        for n, s in enumerate(seconds)
    ]
    capped = Entry(
        athlete_id=-1, name="c", tier=0, track=0, display="cap+3", order_key=CAPPED_KEY - 3
    )
    (section,) = standings([*made, capped], kind=ScoreKind.TIME)
    assert section.spread and section.spread.count == len(seconds)
    told = (section.spread.three_quarters, section.spread.middle, section.spread.quarter)
    assert told == pytest.approx(tuple(np.quantile(seconds, (0.25, 0.5, 0.75))))
    # Hyndman & Fan's type 7 is the standard library's "inclusive".
    assert told == pytest.approx(tuple(statistics.quantiles(seconds, n=4, method="inclusive")))


def test_fosters_load_monotony_and_strain():
    # Foster, Med Sci Sports Exerc 30 (1998) 1164: load = effort × minutes; monotony = mean of the
    # daily loads / their standard deviation; strain = weekly load × monotony. Arithmetic by hand.
    daily = [session_load(5, 60), 0, session_load(7, 50), 0, session_load(4, 60), 0, 0]
    assert daily == [300, 0, 350, 0, 240, 0, 0]
    week = week_load(MONDAY, daily)
    mean = 890 / 7
    spread = math.sqrt(sum((x - mean) ** 2 for x in daily) / 6)
    assert week.load == 890
    assert (
        week.monotony
        == pytest.approx(mean / spread)
        == pytest.approx(np.mean(daily) / np.std(daily, ddof=1))
    )
    assert week.strain == pytest.approx(890 * mean / spread)


def test_a_week_of_equal_days_has_no_monotony_to_tell():
    assert week_load(MONDAY, [300.0] * 7).monotony is None
    assert week_load(MONDAY, [0.0] * 7).words == "Nothing noted this week."


def test_the_words_on_load_never_diagnose():
    heavy = week_load(MONDAY, [500, 0, 600, 0, 700, 0, 0], [900, 1000, 950])
    assert "more than your weeks before" in heavy.words
    for word in ("injur", "overtrain", "ill", "risk"):
        assert word not in heavy.words.lower()


@given(
    st.lists(
        st.tuples(st.floats(300, 900), st.floats(300, 900)), min_size=3, max_size=30, unique=True
    )
)
def test_the_gyms_change_is_a_paired_t_interval(pairs: list[tuple[float, float]]):
    before = {n: a for n, (a, _) in enumerate(pairs)}
    after = {n: b for n, (_, b) in enumerate(pairs)}
    logs = [math.log(a / b) for a, b in pairs]
    each, gym = retest(ScoreKind.TIME, before, after)
    assert gym is not None and gym.low is not None and gym.high is not None
    assert len(each) == len(pairs)
    if np.std(logs) > 1e-6:
        # scipy's paired test of the logarithms of the times, before against after.
        found = stats.ttest_rel(
            np.log([a for a, _ in pairs]), np.log([b for _, b in pairs])
        ).confidence_interval(0.95)
        assert (gym.low, gym.high) == pytest.approx(
            (math.expm1(found.low), math.expm1(found.high)), abs=1e-9
        )


def test_a_change_within_a_usual_day_is_told_as_such():
    each, gym = retest(ScoreKind.ROUNDS, {1: 100, 2: 100}, {1: 102, 2: 130})
    assert [(one.athlete_id, one.sure) for one in each] == [(2, "clear"), (1, "within a usual day")]
    assert gym and "it may be nothing" in gym.words


def test_one_slip_of_the_pen_does_not_hide_the_changes_of_others():
    before = dict.fromkeys(range(20), 300.0)
    after = {n: 300.0 * (1 + 0.02 * (-1) ** n) for n in before} | {3: 270.0}
    clean = retest(ScoreKind.ROUNDS, before, after)[1]
    slipped, gym = retest(ScoreKind.ROUNDS, before, after | {19: 900.0})
    assert clean and gym and gym.wobble == pytest.approx(clean.wobble, rel=0.15)
    assert {one.athlete_id: one.sure for one in slipped}[3] == "clear"


def test_a_trend_is_theil_and_sens_slope():
    # Sen 1968: the median of the slopes of all pairs, here worked out one by one.
    days, seconds = (0, 30, 60, 120), (600, 580, 585, 540)
    points = [(MONDAY + dt.timedelta(days=d), float(s)) for d, s in zip(days, seconds, strict=True)]
    logs = [-math.log(s / 600) for s in seconds]
    slopes = [(logs[j] - logs[i]) / ((days[j] - days[i]) / 30) for j in range(4) for i in range(j)]
    found = trend(ScoreKind.TIME, points)
    assert found.monthly == pytest.approx(math.expm1(statistics.median(slopes)))
    assert "10% better" in found.words or "11% better" in found.words
    assert trend(ScoreKind.TIME, points[:1]).words == "done once so far"
    assert "too few" in trend(ScoreKind.TIME, points[:2]).words


def test_the_strength_coefficient():
    # DOTS (T. Konertz, 2019). The coefficients, and these values of the coefficient at bodyweights
    # of 100 kg (men, 0.6156) and 60 kg (women, 1.1084), from memory of the published table.
    assert loads.across_bodyweights(1, 100, "men") == pytest.approx(0.6156, abs=5e-4)
    assert loads.across_bodyweights(1, 60, "women") == pytest.approx(1.1084, abs=1e-3)
    assert loads.across_bodyweights(100, 60, "men") > loads.across_bodyweights(100, 90, "men")
    assert loads.across_bodyweights(100, 30, "women") == loads.across_bodyweights(100, 40, "women")


def test_every_kind_has_a_score_that_ranks():
    board = {
        ScoreKind.ROUNDS: "5+2",
        ScoreKind.TIME: "9:31",
        ScoreKind.TOTAL_REPS: "40",
        ScoreKind.LOWEST_INTERVAL: "9",
        ScoreKind.LOAD: "80",
        ScoreKind.STEP: "7",
        ScoreKind.PUT_DOWNS: "2 9:31",
        ScoreKind.DISTANCE: "800",
        ScoreKind.CALORIES: "40",
        ScoreKind.DONE: "done",
    }
    assert set(board) == set(ScoreKind)
    for kind, entry in board.items():
        one = plan.Piece(role=plan.Role.CONDITIONING, format=plan.ForTime(rounds=7), score=kind)
        assert score_kind(one) is kind
        assert read_score(entry, one).order_key is not None, kind
