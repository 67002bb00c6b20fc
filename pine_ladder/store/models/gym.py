"""The gym: its tiers, programmes, classes of the week, kit, movements and displays."""

from __future__ import annotations

import datetime as dt
from typing import Any

from sqlalchemy import ForeignKey, String, func
from sqlalchemy.orm import Mapped, mapped_column

from pine_ladder.store.models.base import Base


class Gym(Base):
    """The gym: settings that hold for all its programmes. Lengths in minutes and seconds."""

    __tablename__ = "gym"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    class_min: Mapped[int] = mapped_column(default=60)
    change_s: Mapped[int] = mapped_column(default=60)
    class_size: Mapped[int] = mapped_column(default=12, server_default="12")
    demo: Mapped[bool] = mapped_column(default=False)
    settings: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    settings_version: Mapped[int] = mapped_column(default=1, server_default="1")
    zone: Mapped[str] = mapped_column(String(60), default="UTC", server_default="UTC")
    """Where the gym is, as the IANA names time zones: its days are the days there."""


class Tier(Base):
    """A version of the session; `position` 0 is as written."""

    __tablename__ = "tier"
    id: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(unique=True)
    name: Mapped[str] = mapped_column(String(40), unique=True)


class Track(Base):
    """A load column of pairs such as 24/16 kg; `position` 0 is the first number."""

    __tablename__ = "track"
    id: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(unique=True)
    name: Mapped[str] = mapped_column(String(40), unique=True)


class Programme(Base):
    """A named line of sessions, with classes of its own; the first one is everybody's."""

    __tablename__ = "programme"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)


class Follow(Base):
    """A programme that somebody follows; who follows none by name follows the first."""

    __tablename__ = "follow"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    programme_id: Mapped[int] = mapped_column(
        ForeignKey("programme.id", ondelete="CASCADE"), primary_key=True
    )


class ClassTime(Base):
    """A class that is held every week; weekday 0 is Monday."""

    __tablename__ = "class_time"
    id: Mapped[int] = mapped_column(primary_key=True)
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"))
    weekday: Mapped[int]
    start: Mapped[dt.time]
    minutes: Mapped[int | None]
    """How long it lasts, and how many fit, where it is not as the gym has it."""
    size: Mapped[int | None]
    place: Mapped[str] = mapped_column(String(40), default="", server_default="")


class Kit(Base):
    """Equipment the gym owns."""

    __tablename__ = "kit"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    count: Mapped[int]


class OwnMovementRow(Base):
    """A movement of the gym's own, or its version of one that ships with the library."""

    __tablename__ = "own_movement"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    record: Mapped[dict[str, Any]]
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class WallLink(Base):
    """A display link: whoever has it sees board and clock, and nothing else.

    Without a programme of its own it shows whichever is on the clock.
    """

    __tablename__ = "wall_link"
    token: Mapped[str] = mapped_column(String(60), primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    programme_id: Mapped[int | None] = mapped_column(ForeignKey("programme.id", ondelete="CASCADE"))
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
