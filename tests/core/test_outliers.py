"""Slips of data in the library stand out against their neighbours."""

from __future__ import annotations

import pytest
from calibration.bounds import EXCEPTIONS, absurd
from calibration.neighbours import FAR, neighbours, outliers, upside_down

from pine_ladder.core.movements import Library, library


def slipped(name: str, **values: float) -> Library:
    found = [
        one.model_copy(update=values) if one.name == name else one for one in library().movements
    ]
    return Library(found, library().ladders, library().swaps)


@pytest.mark.parametrize("name", ["thruster", "front squat", "push-up", "bench press"])
@pytest.mark.parametrize(("field", "told"), [("seconds", "seconds"), ("in_a_row", "in a row")])
def test_a_number_with_a_slip_of_the_pen_is_told(name, field, told):
    """A decimal point that went astray: ten times too much."""
    before = {one.name for one in outliers(library()) if one.field == told}
    assert name not in before
    usual = library().find(name)
    value = 10 * (usual.seconds if field == "seconds" else usual.in_a_row or 20)
    (found,) = [
        one
        for one in outliers(slipped(name, **{field: value}))
        if (one.name, one.field) == (name, told)
    ]
    assert found.times > FAR
    assert found.value == pytest.approx(value, rel=0.01)
    assert found.usual < value / 3


def test_neighbours_are_of_the_same_kind():
    for name in ("thruster", "pull-up", "plank", "farmer carry"):
        movement = library().find(name)
        near = neighbours(movement, library())
        assert near
        assert all(one.measure == movement.measure for one in near)
        assert name not in [one.name for one in near]


def test_a_harder_rung_with_longer_sets_is_told():
    assert ("ring row", "band pull-up") not in upside_down(library())
    turned = upside_down(slipped("pull-up", in_a_row=60.0))
    assert any(upper == "pull-up" for _, upper in turned)


def test_no_rung_of_the_library_stands_upside_down():
    assert upside_down(library()) == []


def test_no_prediction_over_the_whole_library_is_absurd():
    assert len(EXCEPTIONS) <= 10
    assert list(absurd(library())) == []
