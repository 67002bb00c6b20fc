"""The gym's now: the database's clock, read where the gym is."""

from __future__ import annotations

import datetime as dt
from zoneinfo import ZoneInfo

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import day_of, zone_of
from pine_ladder.store.boards.days import the_gym


def gym_zone(db: Session) -> ZoneInfo:
    """The time zone the gym is in."""
    return zone_of(the_gym(db).zone)


def now(db: Session) -> dt.datetime:
    """This moment, by the one clock that all processes share."""
    moment = db.scalar(select(func.clock_timestamp()))
    assert isinstance(moment, dt.datetime)
    return moment


def gym_today(db: Session) -> dt.date:
    """The gym's day now."""
    return day_of(now(db), gym_zone(db))
