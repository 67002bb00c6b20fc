"""People and sign-in: passwords, sessions, the limit on guessing."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import FailedSignIn, Person, SignIn, Tier

SESSION_LENGTH = dt.timedelta(days=14)
GUESS_WINDOW = dt.timedelta(minutes=15)
GUESSES_PER_EMAIL = 8
GUESSES_PER_ADDRESS = 40
MIN_PASSWORD = 10

_hasher = PasswordHasher()
_DECOY = _hasher.hash(secrets.token_hex())


def hash_password(password: str) -> str:
    """Argon2id hash with its parameters and salt."""
    return _hasher.hash(password)


def password_fits(person: Person | None, password: str) -> bool:
    """True when the password is that person's; takes as long for someone who does not exist."""
    stored = person.password_hash if person and person.password_hash else _DECOY
    try:
        fits = _hasher.verify(stored, password)
    except (VerificationError, InvalidHashError):
        return False
    return fits and stored is not _DECOY


def person_by_email(db: Session, email: str) -> Person | None:
    """The active person with that address, whatever its case."""
    query = select(Person).where(func.lower(Person.email) == email.strip().lower(), Person.active)
    return db.scalars(query).unique().one_or_none()


def too_many_guesses(db: Session, email: str, address: str) -> bool:
    """True when this address or this account has failed too often of late."""
    since = func.now() - GUESS_WINDOW
    recent = select(
        func.count().filter(FailedSignIn.email == email.lower()),
        func.count().filter(FailedSignIn.address == address),
    ).where(FailedSignIn.at > since)
    by_email, by_address = db.execute(recent).one()
    return bool(by_email >= GUESSES_PER_EMAIL or by_address >= GUESSES_PER_ADDRESS)


def note_failure(db: Session, email: str, address: str) -> None:
    """Remember a failed sign-in and forget old ones."""
    db.add(FailedSignIn(email=email.lower()[:200], address=address))
    db.execute(delete(FailedSignIn).where(FailedSignIn.at < func.now() - GUESS_WINDOW))


def _digest(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


def open_session(db: Session, person: Person) -> tuple[str, SignIn]:
    """A new signed-in session: its secret token for the cookie, and its row."""
    db.execute(delete(SignIn).where(SignIn.expires_at < func.now()))
    token = secrets.token_urlsafe(32)
    row = SignIn(
        token_hash=_digest(token),
        person_id=person.id,
        guard=secrets.token_urlsafe(24),
        expires_at=dt.datetime.now(dt.UTC) + SESSION_LENGTH,
    )
    db.add(row)
    db.flush()
    return token, row


def session_of(db: Session, token: str) -> SignIn | None:
    """The live session of a token, its person active, or None."""
    query = (
        select(SignIn)
        .join(Person)
        .where(SignIn.token_hash == _digest(token), SignIn.expires_at > func.now(), Person.active)
    )
    return db.scalars(query).unique().one_or_none()


def close_session(db: Session, token: str) -> None:
    """Forget a session."""
    db.execute(delete(SignIn).where(SignIn.token_hash == _digest(token)))


def change_password(db: Session, sign_in: SignIn, password: str) -> None:
    """Set a new password and end the person's other sessions."""
    sign_in.person.password_hash = hash_password(password)
    db.execute(
        delete(SignIn).where(
            SignIn.person_id == sign_in.person_id, SignIn.token_hash != sign_in.token_hash
        )
    )


def tier_names(db: Session) -> list[str]:
    """The gym's tiers in order, as written first."""
    return list(db.scalars(select(Tier.name).order_by(Tier.position)))
