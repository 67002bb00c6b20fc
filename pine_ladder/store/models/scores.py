"""Scores, what became of them, and writes that were heard before."""

from __future__ import annotations

import datetime as dt
from typing import Any

from sqlalchemy import BigInteger, ForeignKey, Index, String, UniqueConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from pine_ladder.store.models.base import Base
from pine_ladder.store.models.gym import Tier, Track
from pine_ladder.store.models.people import Person


class ScoreRow(Base):
    """An athlete's score on a piece: what was entered, and what was understood of it."""

    __tablename__ = "score"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id"))
    origin_id: Mapped[int | None] = mapped_column(ForeignKey("piece.id"), index=True)
    """The piece it was entered on, where a coach has put it onto another."""
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    tier_id: Mapped[int] = mapped_column(ForeignKey("tier.id"))
    track_id: Mapped[int] = mapped_column(ForeignKey("track.id"))
    entered: Mapped[str] = mapped_column(String(200))
    kind: Mapped[str] = mapped_column(String(20))
    value: Mapped[dict[str, Any]]
    display: Mapped[str] = mapped_column(String(200))
    order_key: Mapped[float | None]
    reps: Mapped[int | None]
    rounds: Mapped[dict[str, Any] | None]
    doubt: Mapped[str | None] = mapped_column(String(300))
    standing: Mapped[str] = mapped_column(String(10), default="fine", server_default="fine")
    """`fine`; `doubted` until a coach looks; `asked`, `answered` by the athlete; `verified`."""
    team: Mapped[list[int] | None] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(default=1)
    source: Mapped[str] = mapped_column(String(10), default="", server_default="")
    """`jots` or `finish` where it was kept from the floor; such a score is theirs to replace."""
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    person: Mapped[Person] = relationship(lazy="joined")
    tier: Mapped[Tier] = relationship(lazy="joined")
    track: Mapped[Track] = relationship(lazy="joined")
    __table_args__ = (
        UniqueConstraint("piece_id", "person_id"),
        Index("score_ranking", "piece_id", "tier_id", "order_key"),
    )


class ScoreTrail(Base):
    """Who changed which score, when, from what to what. Kept when the score is gone."""

    __tablename__ = "score_trail"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id"))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    changed_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    changed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    before: Mapped[dict[str, Any] | None]
    after: Mapped[dict[str, Any] | None]
    __table_args__ = (Index("score_trail_of_cell", "piece_id", "person_id"),)


class ScoreImport(Base):
    """Scores that were brought in from a table: the ids of what was made, to be taken back."""

    __tablename__ = "score_import"
    id: Mapped[int] = mapped_column(primary_key=True)
    made: Mapped[dict[str, Any]]
    by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id", ondelete="SET NULL"))
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class RequestRow(Base):
    """A write of a score that has landed: whose key, for which cell, with what content."""

    __tablename__ = "request"
    by_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id", ondelete="CASCADE"), index=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    digest: Mapped[str] = mapped_column(String(64))
    landed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
