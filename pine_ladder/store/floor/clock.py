"""The class clock kept: every press of the remote is a row, the newest state holds.

Undo sets the newest row aside, so the clock stands as if the press had not been; redo brings it
back, until another press is made. All moments come from the database's clock, which every process
shares: a clock that was undone by a slip shows, once brought back, the time it would show.
"""

from __future__ import annotations

import datetime as dt
import json
from typing import Any, NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core.floor.remote import Running
from pine_ladder.store.models import ClockStep, Day, GymClass

CHANNEL = "pine_live"
MOST_STEPS = 400
"""Presses kept of a class; older ones can no longer be undone."""


class Stood(NamedTuple):
    """Where a class's clock stands, by which press."""

    step: int
    press: str
    state: Running


def moment(db: Session) -> float:
    """Now on the database's clock, in seconds since the epoch."""
    return float(db.scalar(text("select extract(epoch from clock_timestamp())")) or 0.0)


def pressed_at(db: Session, step: int) -> float:
    """The moment a press counts from, in seconds since the epoch; 0 for one that is gone."""
    query = select(func.extract("epoch", ClockStep.made_at)).where(ClockStep.id == step)
    return float(db.scalar(query) or 0.0)


def tell(db: Session, **message: Any) -> None:
    """Tell every process, once this transaction stands."""
    db.execute(select(func.pg_notify(CHANNEL, json.dumps(message))))


def stands(db: Session, class_id: int) -> Stood | None:
    """Where the clock of a class stands; None before a piece was loaded."""
    query = select(ClockStep).where(ClockStep.class_id == class_id, ~ClockStep.undone)
    row = db.scalars(query.order_by(ClockStep.id.desc()).limit(1)).first()
    return Stood(row.id, row.press, Running.model_validate(row.state)) if row else None


def undone(db: Session, class_id: int) -> str | None:
    """The press that redo would bring back; None where none was undone since the newest press."""
    row = first_undone(db, class_id)
    return row.press if row else None


def on_the_wall(db: Session, since: dt.datetime, programme: int | None = None) -> GymClass | None:
    """The class whose clock was pressed last since the day began, of one programme or of any; None
    where none was.
    """
    query = (
        select(ClockStep.class_id)
        .where(ClockStep.made_at >= since, ~ClockStep.undone)
        .order_by(ClockStep.id.desc())
    )
    if programme is not None:
        query = query.join(GymClass, GymClass.id == ClockStep.class_id).join(
            Day, Day.id == GymClass.day_id
        )
        query = query.where(Day.programme_id == programme)
    found = db.scalars(query.limit(1)).first()
    return db.get(GymClass, found) if found else None


def first_undone(db: Session, class_id: int) -> ClockStep | None:
    """The oldest press that was undone since the newest that stands, if any."""
    query = select(ClockStep).where(ClockStep.class_id == class_id, ClockStep.undone)
    return db.scalars(query.order_by(ClockStep.id).limit(1)).first()
