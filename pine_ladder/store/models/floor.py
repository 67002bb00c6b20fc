"""Classes that are held: who comes, what is pressed and noted."""

from __future__ import annotations

import datetime as dt
from typing import Any

from sqlalchemy import (
    BigInteger,
    ForeignKey,
    Identity,
    Index,
    String,
    UniqueConstraint,
    false,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from pine_ladder.store.models.base import Base
from pine_ladder.store.models.people import Person


class GymClass(Base):
    """One holding of a session: date, start, coach."""

    __tablename__ = "gym_class"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    start: Mapped[dt.time]
    coach_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    coach: Mapped[Person | None] = relationship(lazy="joined")
    attendance: Mapped[list[Attendance]] = relationship(cascade="all, delete-orphan")
    __table_args__ = (UniqueConstraint("day_id", "start"),)


class SignUp(Base):
    """Somebody says that they come to a class; who signed up first has the lower id."""

    __tablename__ = "sign_up"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"))
    date: Mapped[dt.date]
    start: Mapped[dt.time]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    signed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    moved_up_at: Mapped[dt.datetime | None]
    """The moment of moving up from the waiting list; None with a place at once or while waiting."""
    __table_args__ = (UniqueConstraint("programme_id", "date", "start", "person_id"),)


class LateCancel(Base):
    """A place in a class that somebody gave up later than the gym asks for."""

    __tablename__ = "late_cancel"
    programme_id: Mapped[int] = mapped_column(
        ForeignKey("programme.id", ondelete="CASCADE"), primary_key=True
    )
    date: Mapped[dt.date] = mapped_column(primary_key=True)
    start: Mapped[dt.time] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    cancelled_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class ClassPlan(Base):
    """A class of a date that differs from the week's, or is held beside them."""

    __tablename__ = "class_plan"
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"), primary_key=True)
    date: Mapped[dt.date] = mapped_column(primary_key=True)
    start: Mapped[dt.time] = mapped_column(primary_key=True)
    size: Mapped[int | None]
    minutes: Mapped[int | None]
    cancelled: Mapped[bool] = mapped_column(default=False, server_default=false())
    word: Mapped[str] = mapped_column(String(200), default="", server_default="")
    place: Mapped[str] = mapped_column(String(40), default="", server_default="")
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class GroupsRow(Base):
    """Heats or teams of a class on a piece, set by hand: lists of people; empty is the proposal."""

    __tablename__ = "groups"
    class_id: Mapped[int] = mapped_column(
        ForeignKey("gym_class.id", ondelete="CASCADE"), primary_key=True
    )
    piece_id: Mapped[int] = mapped_column(
        ForeignKey("piece.id", ondelete="CASCADE"), primary_key=True
    )
    what: Mapped[str] = mapped_column(String(10), primary_key=True)
    groups: Mapped[list[list[int]]] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(default=1)


class Attendance(Base):
    """Who came to a class."""

    __tablename__ = "attendance"
    class_id: Mapped[int] = mapped_column(
        ForeignKey("gym_class.id", ondelete="CASCADE"), primary_key=True
    )
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )


class ClockStep(Base):
    """A press of the remote and the clock's state after it; the newest of a class holds."""

    __tablename__ = "clock_step"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("gym_class.id", ondelete="CASCADE"))
    press: Mapped[str] = mapped_column(String(20))
    state: Mapped[dict[str, Any]]
    by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    undone: Mapped[bool] = mapped_column(default=False, server_default=false())
    """Taken back, and there to be brought back until the next press."""
    __table_args__ = (Index("clock_step_newest", "class_id", "id"),)


class Jot(Base):
    """What was noted of one round on the floor; `key` is given by the device that noted it."""

    __tablename__ = "jot"
    by_id: Mapped[int] = mapped_column(ForeignKey("person.id"), primary_key=True)
    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id"))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    round: Mapped[int]
    number: Mapped[float | None]
    noted_at: Mapped[dt.datetime]
    landed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    arrived: Mapped[int] = mapped_column(BigInteger, Identity())
    """Counts the notes in the order in which they arrived."""
    __table_args__ = (Index("jot_of_piece", "piece_id", "person_id"),)


class EffortRow(Base):
    """How hard a session was for an athlete (CR-10), how long, and their note."""

    __tablename__ = "effort"
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), primary_key=True)
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    effort: Mapped[float]
    minutes: Mapped[int]
    note: Mapped[str] = mapped_column(String(1000), default="")
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
