"""Displays: a link for each, made and withdrawn."""

from __future__ import annotations

import secrets

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from pine_ladder.store.floor.clock import tell
from pine_ladder.store.models import WallLink


def links_of(db: Session) -> list[WallLink]:
    """The gym's display links in the order they were made."""
    return list(db.scalars(select(WallLink).order_by(WallLink.made_at)))


def make_link(db: Session, name: str, programme_id: int | None) -> WallLink:
    """A link that opens board and clock and nothing else, of one programme or of all."""
    token = secrets.token_urlsafe(12)
    row = WallLink(token=token, name=" ".join(name.split()), programme_id=programme_id)
    db.add(row)
    db.flush()
    return row


def withdraw(db: Session, token: str) -> None:
    """Withdraw a link: displays that use it go dark."""
    gone = delete(WallLink).where(WallLink.token == token).returning(WallLink.token)
    if db.execute(gone).first() is not None:
        tell(db, what="again")
