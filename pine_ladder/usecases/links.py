"""Links: made, used once, withdrawn."""

from __future__ import annotations

import datetime as dt
import secrets

from sqlalchemy import delete, func
from sqlalchemy.orm import Session

from pine_ladder.store.models import CalendarLink, OneTimeLink, Person
from pine_ladder.store.people.links import LASTS, person_of
from pine_ladder.store.people.people import token_digest


def make_link(db: Session, person: Person, by: Person) -> tuple[str, dt.datetime]:
    """A link for a person: its secret and when it ends."""
    db.execute(delete(OneTimeLink).where(OneTimeLink.person_id == person.id))
    token = secrets.token_urlsafe(32)
    row = OneTimeLink(
        token_hash=token_digest(token),
        person_id=person.id,
        made_by_id=by.id,
        expires_at=func.now() + LASTS,
    )
    db.add(row)
    db.flush()
    db.refresh(row)
    return token, row.expires_at


def use_link(db: Session, token: str) -> Person | None:
    """Take a link: whose it was, once; None for everybody after."""
    person = person_of(db, token)
    gone = delete(OneTimeLink).where(OneTimeLink.token_hash == token_digest(token))
    taken = db.execute(gone.returning(OneTimeLink.person_id)).first()
    return person if taken is not None else None


def make_calendar(db: Session, person: Person) -> str:
    """A new secret for somebody's calendar; the one before it is over."""
    withdraw_calendar(db, person)
    token = secrets.token_urlsafe(32)
    db.add(CalendarLink(person_id=person.id, token_hash=token_digest(token)))
    db.flush()
    return token


def withdraw_calendar(db: Session, person: Person) -> None:
    """End somebody's calendar address."""
    db.execute(delete(CalendarLink).where(CalendarLink.person_id == person.id))
