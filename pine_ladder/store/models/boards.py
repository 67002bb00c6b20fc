"""Days, their pieces, and boards that are kept."""

from __future__ import annotations

import datetime as dt

from sqlalchemy import ForeignKey, String, UniqueConstraint, false, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from pine_ladder.store.models.base import Base
from pine_ladder.store.models.people import Person


class Day(Base):
    """A session: one programme's board on one date. The text is the source of everything."""

    __tablename__ = "day"
    id: Mapped[int] = mapped_column(primary_key=True)
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"))
    date: Mapped[dt.date] = mapped_column(index=True)
    text: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)
    published: Mapped[bool] = mapped_column(default=False, server_default=false())
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    reader: Mapped[int] = mapped_column(default=0, server_default="0")
    """The version of the reader that its pieces were read with (`core.notation.READER`)."""
    saved_by: Mapped[Person | None] = relationship(lazy="joined")
    __table_args__ = (UniqueConstraint("programme_id", "date"),)


class WeekTheme(Base):
    """What a programme's week is about, in a coach's words."""

    __tablename__ = "week_theme"
    programme_id: Mapped[int] = mapped_column(
        ForeignKey("programme.id", ondelete="CASCADE"), primary_key=True
    )
    monday: Mapped[dt.date] = mapped_column(primary_key=True)
    text: Mapped[str] = mapped_column(String(300))
    version: Mapped[int] = mapped_column(default=1)


class PieceRow(Base):
    """A piece of a saved day, the same for ever: whatever becomes of its name, place and wording.

    `position` is its place on the board, None once the board has it no longer; `text` is how it
    stands there, or stood there last. `fingerprint` is equal for pieces that are the same, on any
    day; `board` is the title of the board it stands on, or stood on last.
    """

    __tablename__ = "piece"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    position: Mapped[int | None]
    title: Mapped[str] = mapped_column(String(200))
    text: Mapped[str]
    fingerprint: Mapped[str] = mapped_column(String(32), default="", server_default="", index=True)
    board: Mapped[str] = mapped_column(String(200), default="", server_default="", index=True)


class BankedBoard(Base):
    """A named board the gym keeps, to repeat as a retest."""

    __tablename__ = "banked_board"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)
    text: Mapped[str]
    kept_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class KeptPiece(Base):
    """A piece the gym keeps under a name, to put into any board: a warm-up, a walk-out."""

    __tablename__ = "kept_piece"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    text: Mapped[str]
    kept_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
