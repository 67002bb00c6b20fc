"""Progress in plain words: what a week, a trend and a change are told as."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.history import (
    better_by,
    change_words,
    drift,
    retest,
    trend,
    week_load,
    wobble_of,
)
from pine_ladder.core.scores.standings import (
    Entry,
    number_words,
    rank_of,
    ranks,
    standings,
    strip_positions,
)

MONDAY = dt.date(2026, 6, 1)
USUAL = [1000.0, 1100.0, 900.0]


@pytest.mark.parametrize(
    ("daily", "before", "words"),
    [
        ([0] * 7, USUAL, "Nothing noted this week."),
        ([300, 0, 350, 0, 350, 0, 0], USUAL, "About as much as your weeks before."),
        ([500, 0, 600, 0, 700, 0, 0], USUAL, "80% more than your weeks before: plan something"),
        ([200, 0, 200, 0, 0, 0, 0], USUAL, "60% less than your weeks before."),
        ([150, 140, 150, 140, 150, 140, 150], USUAL, "The days were much alike"),
        ([300, 0, 350, 0, 350, 0, 0], USUAL[:1], "Hard and easy days took turns."),
        ([300, 0, 350, 0, 350, 0, 0], [0.0, 0.0, 900.0], "Hard and easy days took turns."),
    ],
)
def test_a_week_is_told_beside_ones_own_weeks(daily, before, words):
    assert words in week_load(MONDAY, [float(x) for x in daily], before).words


def test_a_week_that_is_not_over_is_not_compared():
    assert week_load(MONDAY, [900.0] + [0.0] * 6, USUAL, over=False).words == (
        "The week is not over yet."
    )


def test_a_week_has_seven_days():
    with pytest.raises(ValueError, match="seven days, not 5"):
        week_load(MONDAY, [100.0] * 5)


def every(days: int, *numbers: float) -> list[tuple[dt.date, float]]:
    return [(MONDAY + dt.timedelta(days=days * n), value) for n, value in enumerate(numbers)]


@pytest.mark.parametrize(
    ("kind", "points", "words"),
    [
        (ScoreKind.LOAD, every(14, 80), "done once so far"),
        (ScoreKind.LOAD, every(14, 80, 80), "as the first over 2 times; too few"),
        (ScoreKind.LOAD, every(14, 80, 84), "5% better over 2 times; too few"),
        (ScoreKind.TIME, every(14, 600, 540), "11% better over 2 times; too few"),
        (ScoreKind.TIME, every(14, 540, 600), "10% below the first over 2 times"),
        (ScoreKind.LOAD, every(30, *(80 * 1.05**n for n in range(5))), "rising about 5.0% a"),
        (ScoreKind.TIME, every(30, *(540 * 1.04**n for n in range(5))), "falling about 3.8%"),
        (ScoreKind.LOAD, every(30, 80, 90, 78, 88, 80), "level: no clear direction"),
    ],
)
def test_a_trend_is_told_in_plain_words(kind, points, words):
    assert words in trend(kind, points).words


@given(st.floats(1, 1e5), st.floats(1, 1e5), st.sampled_from(list(ScoreKind)))
def test_a_change_there_and_back_is_no_change(before, after, kind):
    assert better_by(kind, before, after) == pytest.approx(-better_by(kind, after, before))


def test_less_is_better_only_for_times_and_put_downs():
    less = {kind for kind in ScoreKind if better_by(kind, 10, 9) > 0}
    assert less == {ScoreKind.TIME, ScoreKind.PUT_DOWNS}


@given(st.lists(st.floats(-0.5, 0.5), max_size=60))
def test_a_usual_day_is_never_nothing_and_few_pairs_stay_near_the_usual(changes):
    wobble = wobble_of(changes)
    assert wobble > 0
    if len(changes) < 6:
        assert wobble == 0.04


def test_a_retest_without_anybody_twice_says_nothing():
    assert retest(ScoreKind.TIME, {1: 300.0}, {2: 290.0}) == ((), None)
    each, gym = retest(ScoreKind.TIME, {1: 300.0}, {1: 290.0})
    assert len(each) == 1
    assert gym and gym.low is None and "one pair says nothing" in gym.words


@pytest.mark.parametrize(
    ("kind", "number", "words"),
    [
        (ScoreKind.TIME, 703.4, "11:43"),
        (ScoreKind.LOAD, 82.5, "82.5 kg"),
        (ScoreKind.DISTANCE, 1500.2, "1500 m"),
        (ScoreKind.CALORIES, 48, "48 cal"),
        (ScoreKind.STEP, 12.5, "step 12.5"),
        (ScoreKind.PUT_DOWNS, 3, "3 put-downs"),
        (ScoreKind.TOTAL_REPS, 162, "162 reps"),
    ],
)
def test_a_middle_result_is_told_in_its_kind(kind, number, words):
    assert number_words(kind, number) == words


def entry(number: int, key: float, tier: int = 0, reps: int | None = None) -> Entry:
    return Entry(
        athlete_id=number, name=f"{number:03}", tier=tier, track=0, display=f"{key:g}",
        order_key=key, reps=reps,
    )  # fmt: skip


@given(st.lists(st.integers(0, 30), min_size=1, max_size=40), st.integers(-5, 40))
def test_the_rank_a_score_would_take_is_the_rank_it_gets(keys, new):
    others = [entry(n, float(key)) for n, key in enumerate(keys)]
    would = rank_of(float(new), 0, others)
    (section,) = standings([*others, entry(999, float(new))])
    assert would == next(p.rank for p in section.places if p.entry.athlete_id == 999)


@given(st.lists(st.floats(-1e4, 1e4), min_size=1, max_size=40))
def test_the_best_lies_at_the_end_of_the_strip_and_nobody_beyond(keys):
    places = strip_positions(keys)
    assert all(0 <= place <= 1 for place in places)
    order = sorted(zip(keys, places, strict=True))
    assert [place for _, place in order] == sorted(places)


@given(st.lists(st.tuples(st.integers(0, 20), st.integers(0, 2)), min_size=1, max_size=30))
def test_the_schools_rank_everybody_and_differ_only_in_order(pairs):
    entries = [entry(n, float(k), tier, reps=k * 10) for n, (k, tier) in enumerate(pairs)]
    apart = standings(entries)
    assert [section.tier for section in apart] == sorted({tier for _, tier in pairs})
    for school in ("tier order", "total work"):
        (one,) = standings(entries, school=school)
        assert one.tier is None
        assert sorted(p.entry.athlete_id for p in one.places) == list(range(len(pairs)))
    (by_tier,) = standings(entries, school="tier order")
    tiers = [p.entry.tier for p in by_tier.places]
    assert tiers == sorted(tiers)
    (by_work,) = standings(entries, school="total work")
    work = [float(p.entry.reps or 0) for p in by_work.places]
    assert [p.rank for p in by_work.places] == ranks(work)


def test_a_doubted_score_has_a_place_but_no_part_in_the_middle():
    entries = [entry(n, float(key)) for n, key in enumerate((300, 310, 320, 330))]
    doubted = entry(9, 900.0).model_copy(update={"to_verify": "beyond anybody"})
    (section,) = standings([*entries, doubted])
    assert section.places[0].entry.athlete_id == 9
    assert section.spread and (section.spread.count, section.spread.middle) == (4, 315)


def test_a_drift_is_told_where_it_is_more_than_chance():
    low, high = [0.1, 0.2, 0.25, 0.3, 0.2], [0.7, 0.8, 0.9, 0.75]
    assert drift(low, high) == "rising"
    assert drift(high, low) == "fading"
    assert drift(low, low) is None
    assert drift(low, high[:3]) is None, "too few"
    # A clear but small move is none that a coach would speak of.
    assert drift([0.50, 0.51, 0.52, 0.53], [0.55, 0.56, 0.57, 0.58]) is None


@given(st.lists(st.floats(0, 1), max_size=9), st.lists(st.floats(0, 1), max_size=9))
def test_a_drift_turned_round_is_the_other(before, after):
    other = {"rising": "fading", "fading": "rising", None: None}
    assert drift(after, before) == other[drift(before, after)]


def test_a_change_is_told_in_the_unit_of_its_kind():
    assert change_words(ScoreKind.TIME, 614, 600) == "0:14 quicker"
    assert change_words(ScoreKind.TIME, 600, 661) == "1:01 slower"
    assert change_words(ScoreKind.LOAD, 80, 82.5) == "+2.5 kg"
    assert change_words(ScoreKind.ROUNDS, 370, 364) == "−6 reps"
    assert change_words(ScoreKind.STEP, 9, 9) == "as last time"
