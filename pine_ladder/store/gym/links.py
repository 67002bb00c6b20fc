"""One-time links: an invitation to someone new, or a way back for who forgot their password.

Only a hash of the link is kept. A new one for the same person ends the one before.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import CalendarLink, OneTimeLink, Person

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


def make_calendar(db: Session, person: Person) -> str:
    """A new secret for somebody's calendar; the one before it is over."""
    withdraw_calendar(db, person)
    token = secrets.token_urlsafe(32)
    db.add(CalendarLink(person_id=person.id, token_hash=_digest(token)))
    db.flush()
    return token


def withdraw_calendar(db: Session, person: Person) -> None:
    """End somebody's calendar address."""
    db.execute(delete(CalendarLink).where(CalendarLink.person_id == person.id))


def calendar_since(db: Session, person: Person) -> dt.datetime | None:
    """Since when somebody has a calendar address, None where they have none."""
    return db.scalar(select(CalendarLink.made_at).where(CalendarLink.person_id == person.id))


def calendar_of(db: Session, token: str) -> Person | None:
    """Whose calendar a secret opens; None for one that was withdrawn or of somebody who left."""
    query = (
        select(Person)
        .join(CalendarLink, CalendarLink.person_id == Person.id)
        .where(CalendarLink.token_hash == _digest(token), Person.active)
    )
    return db.scalars(query).unique().one_or_none()
