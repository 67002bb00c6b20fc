"""Days on which the gym is closed, and seasons with other classes: a day, a span, or every year."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Sequence
from typing import ClassVar

from pydantic import Field, field_validator, model_validator

from pine_ladder.core.day.calendar import Slot, read_classes, read_week
from pine_ladder.core.plan import Frozen

NO_REASON = "closing day"
MOST_DAYS, MOST_DAYS_OF_A_SEASON = 92, 300
"""Days that one closing, and one season, may last."""


class Span(Frozen):
    """Days from `first` to `last`."""

    first: dt.date
    last: dt.date
    yearly: bool = False
    """Every year on the same days; the year of `first` says when it begins."""
    longest: ClassVar[int] = MOST_DAYS
    called: ClassVar[str] = "closing"

    @model_validator(mode="after")
    def _in_order(self) -> Span:
        if self.last < self.first:
            raise ValueError(
                f"The {self.called} until {self.last} ends before it begins ({self.first})."
            )
        if (self.last - self.first).days >= self.longest:
            raise ValueError(f"One {self.called} lasts at most {self.longest} days. Enter two.")
        return self

    def holds_on(self, date: dt.date) -> bool:
        """Whether a date is one of its days.

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


class Closing(Span):
    """Days from `first` to `last` on which no class of the week is held, with the reason."""

    reason: str = Field(default="", max_length=60)


class ClassSeason(Span):
    """Days from `first` to `last` on which other classes are held than in the rest of the year:
    a text a weekday, from Monday on, as `18:00, 19:15 75 min`.
    """

    longest: ClassVar[int] = MOST_DAYS_OF_A_SEASON
    called: ClassVar[str] = "season"
    name: str = Field(min_length=1, max_length=40)
    classes: tuple[str, ...] = Field(min_length=7, max_length=7)

    @field_validator("classes")
    @classmethod
    def _readable(cls, classes: tuple[str, ...]) -> tuple[str, ...]:
        read_week(classes)
        return classes

    def slots(self, weekday: int) -> tuple[Slot, ...]:
        """Its classes of a weekday (0 is Monday), in order."""
        return read_classes(self.classes[weekday])


def season_on(date: dt.date, seasons: Sequence[ClassSeason]) -> ClassSeason | None:
    """The season of a date, the first where several hold; None for the usual week."""
    return next((season for season in seasons if season.holds_on(date)), None)


def _in_year(date: dt.date, year: int) -> dt.date:
    """The same day of another year; 29 February is 1 March where there is none."""
    try:
        return date.replace(year=year)
    except ValueError:
        return dt.date(year, 3, 1)


def closed_on(date: dt.date, closings: Iterable[Closing]) -> Closing | None:
    """The closing that holds on a date, or None."""
    return next((closing for closing in closings if closing.holds_on(date)), None)


def why_closed(date: dt.date, closings: Iterable[Closing]) -> str | None:
    """Why the gym is closed on a date, `NO_REASON` where none is told; None where it is open."""
    closing = closed_on(date, closings)
    return None if closing is None else closing.reason or NO_REASON
