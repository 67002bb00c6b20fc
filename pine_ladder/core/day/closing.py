"""Days on which the gym is closed: one day, a span, or the same every year."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable

from pydantic import Field, model_validator

from pine_ladder.core.plan import Frozen

MOST_DAYS = 92
"""Days that one closing may last."""


class Closing(Frozen):
    """Days from `first` to `last` on which no class of the week is held, with the reason."""

    first: dt.date
    last: dt.date
    reason: str = Field(default="", max_length=60)
    yearly: bool = False
    """Every year on the same days; the year of `first` says when it begins."""

    @model_validator(mode="after")
    def _in_order(self) -> Closing:
        if self.last < self.first:
            raise ValueError(f"Closed until {self.last} ends before it begins ({self.first}).")
        if (self.last - self.first).days >= MOST_DAYS:
            raise ValueError(f"One closing lasts at most {MOST_DAYS} days. Enter two.")
        return self

    def holds_on(self, date: dt.date) -> bool:
        """Whether the gym is closed on a date.

        >>> newyear = Closing(first="2025-12-31", last="2026-01-01", yearly=True)
        >>> [newyear.holds_on(dt.date(*day)) for day in ((2027, 1, 1), (2027, 1, 2))]
        [True, False]
        """
        if not self.yearly:
            return self.first <= date <= self.last
        length = self.last - self.first
        for year in (date.year - 1, date.year):
            begins = _in_year(self.first, year)
            if begins >= self.first and begins <= date <= begins + length:
                return True
        return False


def _in_year(date: dt.date, year: int) -> dt.date:
    """The same day of another year; 29 February is 1 March where there is none."""
    try:
        return date.replace(year=year)
    except ValueError:
        return dt.date(year, 3, 1)


def closed_on(date: dt.date, closings: Iterable[Closing]) -> Closing | None:
    """The closing that holds on a date, or None."""
    return next((one for one in closings if one.holds_on(date)), None)


def why_closed(date: dt.date, closings: Iterable[Closing]) -> str | None:
    """Why the gym is closed on a date, "Closed" where no reason is told; None where it is open."""
    closing = closed_on(date, closings)
    return None if closing is None else closing.reason or "Closed"
