"""Days on which the gym is closed."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.day.closing import MOST_DAYS, ClassSeason, Closing, closed_on, season_on

DATES = st.dates(dt.date(2020, 1, 1), dt.date(2035, 12, 31))


def closing(first, last, yearly=False):
    return Closing(first=first, last=last, reason="Holiday", yearly=yearly)


@given(DATES, st.integers(0, MOST_DAYS - 1), DATES)
def test_a_span_holds_on_its_own_days_alone(first, days, date):
    last = first + dt.timedelta(days=days)
    assert closing(first, last).holds_on(date) == (first <= date <= last)


@given(DATES, st.integers(0, 30), st.integers(0, 30))
def test_a_yearly_closing_holds_as_long_every_year(first, days, later):
    one = closing(first, first + dt.timedelta(days=days), yearly=True)
    held = [one.holds_on(first + dt.timedelta(days=n)) for n in range(days + 1)]
    assert all(held)
    next_year = dt.date(first.year + 1, first.month, min(first.day, 28))
    if first.day <= 28:
        assert one.holds_on(next_year + dt.timedelta(days=min(later, days)))
    assert not one.holds_on(first - dt.timedelta(days=1))


@pytest.mark.parametrize(
    ("first", "last"), [("2026-12-26", "2026-12-24"), ("2026-01-01", "2026-12-31")]
)
def test_a_closing_that_ends_before_it_begins_or_lasts_too_long_is_refused(first, last):
    with pytest.raises(ValueError, match=r"(?i)clos"):
        closing(first, last)


def test_the_first_closing_that_holds_is_told():
    both = [closing("2026-12-24", "2026-12-26"), closing("2026-12-25", "2027-01-01")]
    assert closed_on(dt.date(2026, 12, 25), both) is both[0]
    assert closed_on(dt.date(2026, 12, 23), both) is None


WEEK = ("18:00", "18:00", "", "18:00 75 min", "17:30", "", "")


def test_a_season_has_its_own_classes_for_as_long_as_it_lasts():
    summer = ClassSeason(
        name="Summer", first="2026-06-21", last="2026-08-31", yearly=True, classes=WEEK
    )
    assert [slot.start for slot in summer.slots(4)] == [dt.time(17, 30)]
    assert summer.slots(3)[0].minutes == 75
    assert summer.slots(2) == ()
    assert season_on(dt.date(2027, 7, 1), [summer]) is summer
    assert season_on(dt.date(2027, 9, 1), [summer]) is None


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"classes": ("25:00",) + ("",) * 6}, "Monday"),
        ({"classes": ("18:00",) * 6}, "7"),
        ({"last": "2026-06-01"}, "season until 2026-06-01 ends before"),
        ({"last": "2027-12-01"}, "at most 300 days"),
        ({"name": ""}, "1 character"),
    ],
)
def test_a_season_that_cannot_be_is_refused_with_the_reason(change, said):
    with pytest.raises(ValueError, match=said):
        ClassSeason.model_validate(
            {"name": "Summer", "first": "2026-06-21", "last": "2026-08-31", "classes": WEEK}
            | change
        )
