"""Days on which the gym is closed."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.day.closing import MOST_DAYS, Closing, closed_on

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
