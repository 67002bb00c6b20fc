"""Checks against sources outside the project, each named beside its check."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pandas import DataFrame
from scipy.stats import rankdata
from sklearn.datasets import load_linnerud

from pine_ladder.core import units
from pine_ladder.core.scores.standings import ranks


@given(st.lists(st.integers(-30, 30).map(float), min_size=1, max_size=80))
def test_ranks_are_those_of_scipy(keys: list[float]):
    # scipy.stats.rankdata(method="min") is standard competition ranking.
    assert ranks(keys) == list(rankdata([-key for key in keys], method="min"))


def test_units_are_exact():
    # International yard and pound agreement, 1959; NIST SP 811, appendix B.8.
    assert units.lb_to_kg(1) == 0.45359237
    assert units.in_to_cm(1) == 2.54
    assert units.ft_to_m(1) == 0.3048
    assert units.ft_to_m(3) == pytest.approx(0.9144, abs=1e-15)
    assert units.kg_to_lb(units.lb_to_kg(53)) == pytest.approx(53)


def test_trade_bells_are_nominal_kilograms():
    # Common practice, no source: 53/35, 35/26, 26/18 lb are sold as 24/16, 16/12, 12/8 kg.
    for pounds, kilograms in ((53, 24), (35, 16), (26, 12), (18, 8)):
        assert units.lb_to_kg(pounds) == pytest.approx(kilograms, abs=0.25)


@pytest.mark.parametrize("exercise", ["Chins", "Situps", "Jumps"])
def test_linnerud_scores_rank_as_in_pandas(exercise: str):
    # Linnerud's 20 men of a fitness club, shipped with scikit-learn.
    frame: DataFrame = load_linnerud(as_frame=True).data
    expected = frame[exercise].rank(method="min", ascending=False).astype(int)
    assert ranks(list(frame[exercise])) == list(expected)


@given(st.integers(0, 100_000))
def test_clock_text_reads_back(seconds: int):
    assert units.clock_seconds(units.clock_text(seconds)) == seconds
