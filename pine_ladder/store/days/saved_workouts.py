"""Saved workouts and pieces, by name."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.store.models import BankedBoard, KeptPiece


def boards(db: Session) -> list[BankedBoard]:
    """The boards the gym keeps, by name."""
    return list(db.scalars(select(BankedBoard).order_by(BankedBoard.name)))


def board_names(db: Session) -> tuple[str, ...]:
    """The names of the boards the gym keeps, in order."""
    return tuple(db.scalars(select(BankedBoard.name).order_by(BankedBoard.name)))


def pieces(db: Session) -> list[KeptPiece]:
    """The pieces the gym keeps, by name."""
    return list(db.scalars(select(KeptPiece).order_by(KeptPiece.name)))
