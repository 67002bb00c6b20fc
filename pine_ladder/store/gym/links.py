"""One-time links: an invitation to someone new, or a way back for who forgot their password.

Only a hash of the link is kept. A new one for the same person ends the one before.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import OneTimeLink, Person

LASTS = dt.timedelta(days=7)


def _digest(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


def make_link(db: Session, person: Person, by: Person) -> tuple[str, dt.datetime]:
    """A link for a person: its secret and when it ends."""
    db.execute(delete(OneTimeLink).where(OneTimeLink.person_id == person.id))
    token = secrets.token_urlsafe(32)
    row = OneTimeLink(
        token_hash=_digest(token),
        person_id=person.id,
        made_by_id=by.id,
        expires_at=func.now() + LASTS,
    )
    db.add(row)
    db.flush()
    db.refresh(row)
    return token, row.expires_at


def person_of(db: Session, token: str) -> Person | None:
    """Whose link it is; None for one that is over, was used or never was."""
    query = (
        select(Person)
        .join(OneTimeLink, OneTimeLink.person_id == Person.id)
        .where(
            OneTimeLink.token_hash == _digest(token),
            OneTimeLink.expires_at > func.now(),
            Person.active,
            Person.email.is_not(None),
        )
    )
    return db.scalars(query).unique().one_or_none()


def use_link(db: Session, token: str) -> Person | None:
    """Take a link: whose it was, once; None for everybody after."""
    person = person_of(db, token)
    gone = delete(OneTimeLink).where(OneTimeLink.token_hash == _digest(token))
    taken = db.execute(gone.returning(OneTimeLink.person_id)).first()
    return person if taken is not None else None
