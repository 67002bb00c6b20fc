"""The gym's now: the database's clock, read where the gym is.

The one place that says what day it is. Tests move it (`move_to`), so that they pass on any day.
"""

from __future__ import annotations

import datetime as dt

from sqlalchemy import func, select
from sqlalchemy.orm import Session

_moved = dt.timedelta(0)


def move_to(moment: dt.datetime) -> None:
    """Have it be this moment now, and time go on from it. For tests alone."""
    global _moved  # noqa: PLW0603
    _moved = moment - dt.datetime.now(dt.UTC)


def now(db: Session) -> dt.datetime:
    """This moment, by the one clock that all processes share."""
    return stamped_now(db) + _moved


def stamped_now(db: Session) -> dt.datetime:
    """This moment as the database stamps its rows, to hold against them."""
    moment = db.scalar(select(func.clock_timestamp()))
    assert isinstance(moment, dt.datetime)
    return moment


def as_stamped(moment: dt.datetime) -> dt.datetime:
    """A moment of this clock as the database stamps it on rows."""
    return moment - _moved
