"""The gym's now: the database's clock, read where the gym is.

The one place that says what day it is. Tests move it (`move_to`), so that they pass on any day.
"""

from __future__ import annotations

import datetime as dt
from zoneinfo import ZoneInfo

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import begins, day_of, zone_of
from pine_ladder.store.boards.days import the_gym

_moved = dt.timedelta(0)


def move_to(moment: dt.datetime) -> None:
    """Have it be this moment now, and time go on from it. For tests alone."""
    global _moved  # noqa: PLW0603
    _moved = moment - dt.datetime.now(dt.UTC)


def gym_zone(db: Session) -> ZoneInfo:
    """The time zone the gym is in."""
    return zone_of(the_gym(db).zone)


def now(db: Session) -> dt.datetime:
    """This moment, by the one clock that all processes share."""
    return stamped_now(db) + _moved


def stamped_now(db: Session) -> dt.datetime:
    """This moment as the database stamps its rows, to hold against them."""
    moment = db.scalar(select(func.clock_timestamp()))
    assert isinstance(moment, dt.datetime)
    return moment


def gym_today(db: Session) -> dt.date:
    """The gym's day now."""
    return day_of(now(db), gym_zone(db))


def today_began(db: Session) -> dt.datetime:
    """The moment the gym's day began, as the database stamps its rows."""
    return begins(gym_today(db), gym_zone(db)) - _moved
