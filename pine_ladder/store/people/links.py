"""One-time links: an invitation to someone new, or a way back for who forgot their password.

Only a hash of the link is kept. A new one for the same person ends the one before.
"""

from __future__ import annotations

import datetime as dt

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import CalendarLink, OneTimeLink, Person
from pine_ladder.store.people.people import token_digest

LASTS = dt.timedelta(days=7)


def person_of(db: Session, token: str) -> Person | None:
    """Whose link it is; None for one that is over, was used or never was."""
    query = (
        select(Person)
        .join(OneTimeLink, OneTimeLink.person_id == Person.id)
        .where(
            OneTimeLink.token_hash == token_digest(token),
            OneTimeLink.expires_at > func.now(),
            Person.active,
            Person.email.is_not(None),
        )
    )
    return db.scalars(query).unique().one_or_none()


def calendar_since(db: Session, person: Person) -> dt.datetime | None:
    """Since when somebody has a calendar address, None where they have none."""
    return db.scalar(select(CalendarLink.made_at).where(CalendarLink.person_id == person.id))


def calendar_of(db: Session, token: str) -> Person | None:
    """Whose calendar a secret opens; None for one that was withdrawn or of somebody who left."""
    query = (
        select(Person)
        .join(CalendarLink, CalendarLink.person_id == Person.id)
        .where(CalendarLink.token_hash == token_digest(token), Person.active)
    )
    return db.scalars(query).unique().one_or_none()
