"""What the weeks of a programme are about."""

from __future__ import annotations

import datetime as dt

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.store.models import WeekTheme


class StaleTheme(Exception):
    """Somebody else changed the theme since it was read."""


def monday_of(date: dt.date) -> dt.date:
    """The Monday of a date's week."""
    return date - dt.timedelta(days=date.weekday())


def theme_of(db: Session, programme: int, date: dt.date) -> tuple[str, int]:
    """The theme of a date's week and its version; nothing at version 0 where none was said."""
    row = db.get(WeekTheme, (programme, monday_of(date)))
    return (row.text, row.version) if row else ("", 0)


def keep_theme(db: Session, programme: int, date: dt.date, text: str, version: int) -> int:
    """Keep a theme over the version that was read; raises StaleTheme."""
    key = {"programme_id": programme, "monday": monday_of(date)}
    values = {"text": text, "version": version + 1}
    made = insert(WeekTheme).values(**key, **values)
    if version:
        keep = made.on_conflict_do_update(
            index_elements=list(key), set_=values, where=WeekTheme.version == version
        )
    else:
        keep = made.on_conflict_do_nothing()
    if db.execute(keep.returning(WeekTheme.version)).first() is None:
        raise StaleTheme
    # What was read before this write is not what is kept now.
    db.expire_all()
    return db.scalars(select(WeekTheme.version).filter_by(**key)).one()
