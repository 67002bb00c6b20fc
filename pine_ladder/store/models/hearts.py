"""Heart rate: straps that are worn, and what they said."""

from __future__ import annotations

from sqlalchemy import ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from pine_ladder.store.models.base import Base


class Strap(Base):
    """A strap and who wears it; nobody wears two, and none is worn by two."""

    __tablename__ = "strap"
    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), unique=True)


class HeartRow(Base):
    """Seconds that somebody's heart beat at each rate while a piece ran. For themselves alone."""

    __tablename__ = "heart_rate"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    piece_id: Mapped[int] = mapped_column(
        ForeignKey("piece.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    seconds: Mapped[dict[str, int]] = mapped_column(JSONB)
