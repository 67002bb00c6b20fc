"""Standings in numbers: quantiles against NumPy's definition, words of each kind, ages, places."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from scipy.stats import rankdata

from pine_ladder.core.notation import parse
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.chart_scale import APART, axis_of, ticks
from pine_ladder.core.scores.kinds import CAPPED_KEY, Rounds
from pine_ladder.core.scores.standings import (
    AGE_BANDS,
    Entry,
    Spread,
    born_in,
    by_lowest,
    is_tabata,
    keys_on_line,
    number_words,
    rank_of,
    ranks,
    standings,
    strip_positions,
)


def entry(number: int, key: float, **other: object) -> Entry:
    fields = {"tier": 0, "track": 0, "display": f"{key:g}", "name": f"Athlete {number:02d}"}
    return Entry(athlete_id=number, order_key=key, **{**fields, **other})


def spread_of(keys: list[float], kind: ScoreKind, **other: object) -> Spread | None:
    (section,) = standings([entry(n, key, **other) for n, key in enumerate(keys)], kind=kind)
    return section.spread


@given(st.lists(st.integers(0, 30), min_size=1))
def test_ranks_are_those_of_scipy(keys: list[int]):
    assert ranks(keys) == rankdata([-key for key in keys], "min").tolist()


# All but one alike, at either end of the line.
@example([0, 1, 1, 1, 1, 1])
@example([1, 1, 1, 1, 1, 9])
@given(st.lists(st.integers(-900, 900), min_size=3, max_size=30))
def test_places_spread_and_strip_hold_for_every_list(keys: list[int]):
    (section,) = standings([entry(n, key) for n, key in enumerate(keys)])
    placed = [(p.rank, p.entry.order_key) for p in section.places]
    assert [key for _, key in placed] == sorted(keys, reverse=True)
    assert all(p.tied == (keys.count(p.entry.order_key) > 1) for p in section.places)
    strip = [place.strip for place in section.places]
    assert strip == sorted(strip, reverse=True)
    if max(keys) > min(keys):
        assert (strip[0], strip[-1]) == pytest.approx((1, 0))
    # Where nobody stands far apart, the strip is to scale.
    if axis_of(keys).cut is None:
        for place in section.places:
            wide = max(keys) - min(keys)
            at = (place.entry.order_key - min(keys)) / wide if wide else 0.5
            assert place.strip == pytest.approx(at)
    assert section.spread is not None
    told = (section.spread.quarter, section.spread.middle, section.spread.three_quarters)
    assert told == pytest.approx(np.abs(np.quantile(keys, (0.25, 0.5, 0.75))).tolist())
    assert section.spread.count == len(keys)


def test_the_spread_is_told_in_the_words_of_its_kind():
    seen = spread_of([-600, -660, -720, -780, -840], ScoreKind.TIME)
    assert seen is not None
    assert seen.words == "typically 12:00; half are between 13:00 and 11:00"
    assert seen.strip == pytest.approx((0.25, 0.5, 0.75))
    assert spread_of([5, 5, 5], ScoreKind.LOAD).strip == (0.5, 0.5, 0.5)  # type: ignore[union-attr]


def test_capped_results_and_those_to_verify_are_no_part_of_the_spread():
    capped = CAPPED_KEY - 14
    seen = spread_of([-600, -660, -720, capped], ScoreKind.TIME)
    assert seen is not None
    assert (seen.count, seen.middle) == (3, 660)
    assert spread_of([-600, -660, capped], ScoreKind.TIME) is None, "two are no spread"
    doubted = [entry(1, 40), entry(2, 50), entry(3, 60), entry(4, 900, to_verify="too many")]
    (section,) = standings(doubted)
    assert section.spread is not None
    assert section.spread.middle == 50
    assert spread_of([1, 1, 1], ScoreKind.DONE) is None
    assert spread_of([1, 2, 3], ScoreKind.PUT_DOWNS) is None


def test_what_a_tie_break_adds_is_less_than_a_rep():
    seen = spread_of([100.9, 110.9, 120.9], ScoreKind.ROUNDS)
    assert seen is not None
    assert seen.middle == 110


def test_the_strip_stands_in_the_middle_where_all_are_equal():
    assert strip_positions([7, 7]) == [0.5, 0.5]
    assert strip_positions([CAPPED_KEY - 1, CAPPED_KEY - 9]) == [0.5, 0.5]
    assert strip_positions([-600, -600, CAPPED_KEY - 3]) == [0.5, 0.5, 0.0]


@pytest.mark.parametrize(
    ("kind", "number", "words"),
    [
        (ScoreKind.TIME, 703, "11:43"),
        (ScoreKind.LOAD, 82.54, "82.5 kg"),
        (ScoreKind.LOAD, 82.0, "82 kg"),
        (ScoreKind.DISTANCE, 1999.6, "2000 m"),
        (ScoreKind.CALORIES, 41.2, "41 cal"),
        (ScoreKind.STEP, 7.46, "step 7.5"),
        (ScoreKind.PUT_DOWNS, 3, "3 put-downs"),
        (ScoreKind.TOTAL_REPS, 162, "162 reps"),
        (ScoreKind.ROUNDS, 162, "162 reps"),
    ],
)
def test_one_result_is_told_in_the_words_of_its_kind(kind: ScoreKind, number: float, words: str):
    assert number_words(kind, number) == words


def test_an_age_is_the_one_reached_in_the_year():
    assert born_in("35 to 49", 2026) == (1977, 1991)
    assert born_in("under 35", 2026) == (1992, 2026)
    years = {age: born_in(age, 2026) for age in AGE_BANDS}
    born = [year for first, last in years.values() for year in range(first, last + 1)]
    assert len(born) == len(set(born)), "nobody is of two bands"


def test_a_rank_counts_only_what_is_better_in_the_same_tier():
    others = [entry(1, 10), entry(2, 20), entry(3, 30, tier=1)]
    assert [rank_of(key, 0, others) for key in (5, 10, 15, 20, 25)] == [3, 2, 2, 1, 1]
    assert rank_of(25, 1, others) == 2
    assert rank_of(25, 2, others) == 1


def test_work_that_is_not_known_comes_after_all_that_is():
    made = [entry(1, 900), entry(2, 50, reps=50), entry(3, 60, reps=50)]
    (section,) = standings(made, school="total work")
    assert [p.entry.athlete_id for p in section.places] == [3, 2, 1]
    assert section.tier is None


def test_the_lowest_interval_is_told_with_the_total():
    rounds = Rounds(unit="reps", numbers=(20, 12, 11))
    timed = Rounds(unit="s", numbers=(60, 70))
    low, untouched = by_lowest(
        [entry(1, 43, rounds=rounds, display="43"), entry(2, 44, rounds=timed)]
    )
    assert low.display == "11 (lowest; 43 in all)"
    assert untouched.order_key == 44


def test_the_gyms_way_with_a_tabata_yields_to_what_the_board_says():
    def piece(heading: str):
        return parse(f"## Core: {heading}\nsit-up").session.pieces[0]

    assert is_tabata(piece("Tabata"))
    assert not is_tabata(piece("Tabata, score total reps"))
    assert not is_tabata(piece("intervals 0:20/0:10 x 8"))


def test_one_far_ahead_does_not_push_the_others_together():
    near = [300.0, 310, 320, 330, 340, 350, 360]
    axis = axis_of([*near, 722.0])
    assert axis.cut == (360, 722)
    assert [round(axis.place(key), 2) for key in (300, 330, 360, 722)] == [0.0, 0.43, 0.86, 1.0]
    behind = axis_of([20.0, *near])
    assert (behind.cut, behind.few_above) == ((20, 300), False)
    assert behind.place(300) < 0.2
    # Two halves far from each other are two halves.
    assert axis_of([1.0, 2, 3, 90, 91, 92]).cut is None


@given(st.lists(st.integers(-3000, -1), min_size=1, max_size=40))
def test_the_line_keeps_the_order_and_breaks_only_where_few_are_far(keys: list[int]):
    axis = axis_of(keys)
    places = [axis.place(key) for key in sorted(keys)]
    assert places == sorted(places)
    assert all(0 <= at <= 1 for at in places)
    if axis.cut:
        assert axis.cut[1] - axis.cut[0] >= APART * (max(keys) - min(keys))
        assert not any(axis.cut[0] < key < axis.cut[1] for key in keys)
    told = ticks(axis, ScoreKind.TIME)
    assert [one.at for one in told] == sorted(one.at for one in told)
    assert len(told) <= 9


@pytest.mark.parametrize(
    ("kind", "keys", "round_reps", "told"),
    [
        (ScoreKind.ROUNDS, [310, 340, 402], 30, ["11 rounds", "12 rounds", "13 rounds"]),
        (ScoreKind.TIME, [-600, -540, -430], 0, ["10:00", "9:30", "9:00", "8:30", "8:00", "7:30"]),
        (ScoreKind.LOAD, [60, 75, 102.5], 0, ["60 kg", "70 kg", "80 kg", "90 kg", "100 kg"]),
        (ScoreKind.TOTAL_REPS, [7, 9, 11], 0, ["7 reps", "8 reps", "9 reps", "10 reps", "11 reps"]),
        (ScoreKind.DONE, [1, 2], 0, []),
        (ScoreKind.LOAD, [80, 80], 0, []),
    ],
)
def test_ticks_are_round_numbers_of_the_kind(kind, keys, round_reps, told):
    assert [one.words for one in ticks(axis_of(keys), kind, round_reps)] == told


def test_the_middle_of_a_tier_is_told_in_its_rounds_as_the_results_beside_it_are():
    entries = [
        Entry(
            athlete_id=at, name=f"A{at}", tier=0, track=0, display=f"{reps // 30}+{reps % 30}",
            order_key=float(reps), reps=reps,
        )
        for at, reps in enumerate((310, 337, 360))
    ]  # fmt: skip
    (section,) = standings(entries, kind=ScoreKind.ROUNDS, round_reps={0: 30})
    assert section.spread is not None
    assert section.spread.words == "typically 11+7; half are between 10+24 and 11+18"
    (without,) = standings(entries, kind=ScoreKind.ROUNDS)
    assert without.spread is not None
    assert without.spread.words.startswith("typically 337 reps")


@given(
    rounds=st.lists(st.integers(min_value=1, max_value=20), min_size=2, max_size=8),
    sizes=st.tuples(st.integers(5, 60), st.integers(5, 60)),
)
def test_as_many_rounds_lie_at_the_same_place_in_every_tier(rounds, sizes):
    entries = [
        Entry(
            athlete_id=10 * tier + at, name=f"A{at}", tier=tier, track=0, display=f"{done}",
            order_key=float(done * sizes[tier]), reps=done * sizes[tier],
        )
        for tier in (0, 1)
        for at, done in enumerate(rounds)
    ]  # fmt: skip
    sections = standings(entries, kind=ScoreKind.ROUNDS, round_reps=dict(enumerate(sizes)))
    places = [{p.entry.athlete_id % 10: p.strip for p in one.places} for one in sections]
    assert places[0] == pytest.approx(places[1])


def test_rounds_of_unlike_size_within_a_tier_stay_in_reps():
    entries = [
        Entry(athlete_id=at, name=f"A{at}", tier=at, track=0, display="", order_key=60.0, reps=60)
        for at in (0, 1)
    ]
    assert keys_on_line(entries, ScoreKind.ROUNDS, {0: 30}) == ([60.0, 60.0], False)
    assert keys_on_line(entries, ScoreKind.ROUNDS, {0: 30, 1: 20}) == ([2.0, 3.0], True)
    assert keys_on_line(entries, ScoreKind.TIME, {0: 30, 1: 20})[1] is False
