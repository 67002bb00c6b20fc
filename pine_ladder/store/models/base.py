"""What all tables share."""

from __future__ import annotations

import datetime as dt
from typing import Any

from sqlalchemy import DateTime, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Session

MARK = 16
"""Letters of a sign-in's hash that its live streams are known by."""


class Base(DeclarativeBase):
    """Declarative base: JSON is stored as JSONB, moments with their zone."""

    type_annotation_map = {  # noqa: RUF012 - SQLAlchemy reads it from the class
        dict[str, Any]: JSONB,
        dt.datetime: DateTime(timezone=True),
    }


def empty_every_table(db: Session) -> None:
    """Forget everything, whatever it is."""
    names = ", ".join(table.name for table in Base.metadata.sorted_tables)
    db.execute(text(f"truncate {names} restart identity cascade"))
