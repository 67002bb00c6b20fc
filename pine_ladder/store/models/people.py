"""Members and coaches, and what is known of them."""

from __future__ import annotations

import datetime as dt
from typing import Any

from sqlalchemy import CheckConstraint, ForeignKey, Index, String, false, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from pine_ladder.store.models.base import Base
from pine_ladder.store.models.gym import Tier, Track


def _trains(context: Any) -> bool:
    return bool(context.get_current_parameters().get("role") == "athlete")


class Person(Base):
    """A coach or an athlete, with the sign-in if they have one."""

    __tablename__ = "person"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    email: Mapped[str | None] = mapped_column(String(200))
    password_hash: Mapped[str | None] = mapped_column(String(200))
    role: Mapped[str] = mapped_column(String(10))
    tier_id: Mapped[int] = mapped_column(ForeignKey("tier.id"))
    track_id: Mapped[int] = mapped_column(ForeignKey("track.id"))
    active: Mapped[bool] = mapped_column(default=True)
    trains: Mapped[bool] = mapped_column(server_default=false(), default=_trains)
    """On sheets, floor and standings: every athlete, and a coach who trains too."""
    erase_asked_at: Mapped[dt.datetime | None]
    tier: Mapped[Tier] = relationship(lazy="joined")
    track: Mapped[Track] = relationship(lazy="joined")
    __table_args__ = (
        CheckConstraint("role in ('coach', 'athlete')", name="person_role"),
        Index("person_address", func.lower(email), unique=True),
    )


class ProfileRow(Base):
    """What is known of an athlete: bests, rungs, limits. For coaches and the athlete."""

    __tablename__ = "profile"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    record: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class OverrideRow(Base):
    """A coach's own version of a movement for one athlete, remembered from day to day."""

    __tablename__ = "scaling_override"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    movement: Mapped[str] = mapped_column(String(60), primary_key=True)
    text: Mapped[str] = mapped_column(String(200))
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class Belief(Base):
    """What the scores say of an athlete's pace, by capacity (1 typical, less is faster)."""

    __tablename__ = "belief"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    factors: Mapped[dict[str, Any]]
    scores: Mapped[int]
    bests: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    learned_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class Learning(Base):
    """The newest fit of the gym's pace: factors on movements' seconds, and how well it predicts."""

    __tablename__ = "learning"
    id: Mapped[int] = mapped_column(primary_key=True)
    medians: Mapped[dict[str, Any]]
    report: Mapped[dict[str, Any]]
    learned_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
