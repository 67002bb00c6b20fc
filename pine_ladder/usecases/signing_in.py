"""Signing in: tries admitted in turn, sessions opened and ended, passwords changed."""

from __future__ import annotations

import datetime as dt
import secrets
from typing import NamedTuple

from sqlalchemy import delete, func, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.store.models import FailedSignIn, KnownDevice, Person, SignIn
from pine_ladder.store.people.people import (
    end_sessions,
    session_length,
    sign_ins_of,
    token_digest,
)


class Limit:
    """How many tries are free in a quarter of an hour, and how they are slowed down after."""

    def __init__(self, free: int, longest_s: int) -> None:
        self.free, self.longest_s = free, longest_s

    def gap_s(self, tries: int) -> int:
        """Seconds between tries after so many: two, four, eight, and so on."""
        return 0 if tries < self.free else min(2 ** min(tries - self.free + 1, 10), self.longest_s)


class Admission(NamedTuple):
    """Whether a password may be tried: refused for `refused_s` seconds (0 is admitted), or after
    `delay_s`; `attempt` is the id of the try that was noted.
    """

    refused_s: int
    delay_s: float
    attempt: int


def admit(db: Session, subject: str, address: str, device: bool) -> Admission:
    """Note that a password is about to be tried, and say when it may be.

    Tries are counted before they are looked at, one at a time for an account and an address, so
    that a burst is held as well. Guesses slow an account down but never shut it: a device the
    person is known by (`device`) is slowed by its own tries alone, and a network address that has
    not failed on this account waits in the order of arrival instead of being refused.
    """
    for lock in sorted({f"try/{subject}", f"try from/{address}"}):
        db.execute(text("select pg_advisory_xact_lock(hashtextextended(:lock, 0))"), {"lock": lock})
    mine = FailedSignIn.email == subject[:200]
    here = FailedSignIn.address == address
    known = FailedSignIn.device
    groups = [(PER_DEVICE, mine & known)] if device else [
        (PER_PAIR, mine & here & ~known), (PER_ACCOUNT, mine & ~known), (PER_ADDRESS, here & ~known)
    ]  # fmt: skip
    recent = FailedSignIn.at > func.clock_timestamp() - GUESS_WINDOW
    refused_s = delay_s = 0.0
    newcomer = False
    for limit, group in groups:
        since = func.extract("epoch", func.clock_timestamp() - func.max(FailedSignIn.at))
        tries, ago = db.execute(select(func.count(), since).where(group, recent)).one()
        if limit is PER_PAIR:
            newcomer = tries == 0
        if ago is None:
            continue
        gap_s = limit.gap_s(tries)
        if limit is PER_ACCOUNT and newcomer and gap_s:
            delay_s = max(0.0, NEWCOMER_GAP_S - float(ago))
        else:
            refused_s = max(refused_s, gap_s - float(ago))
    if delay_s > NEWCOMER_WAIT_S:
        refused_s = max(refused_s, delay_s - NEWCOMER_WAIT_S)
    if refused_s > 0:
        return Admission(int(refused_s) + 1, 0.0, 0)
    # Who waits for a turn holds it from now on: the next newcomer comes after.
    turn = func.clock_timestamp() + dt.timedelta(seconds=delay_s)
    row = FailedSignIn(email=subject[:200], address=address[:60], device=device, at=turn)
    db.add(row)
    db.execute(delete(FailedSignIn).where(FailedSignIn.at < func.now() - GUESS_WINDOW))
    db.flush()
    return Admission(0, delay_s, row.id)


def proved_right(db: Session, tried: int) -> None:
    """The password that was tried was the right one: the try does not count."""
    db.execute(delete(FailedSignIn).where(FailedSignIn.id == tried))


def remember_device(db: Session, person: Person, token: str | None) -> str:
    """Know this browser from now on; its token, a new one where it had none."""
    token = token or secrets.token_urlsafe(32)
    row = insert(KnownDevice).values(token_hash=token_digest(token), person_id=person.id)
    db.execute(
        row.on_conflict_do_update(
            index_elements=["token_hash", "person_id"], set_={"seen_at": func.now()}
        )
    )
    return token


def open_session(db: Session, person: Person, device: str = "") -> tuple[str, SignIn]:
    """A new signed-in session: its secret token for the cookie, and its row."""
    db.execute(delete(SignIn).where(SignIn.expires_at < func.now()))
    token = secrets.token_urlsafe(32)
    row = SignIn(
        token_hash=token_digest(token),
        person_id=person.id,
        guard=secrets.token_urlsafe(24),
        expires_at=func.now() + session_length(db),
        device=device[:80],
    )
    db.add(row)
    db.flush()
    return token, row


def end_sign_in(db: Session, person: Person, mark: str) -> bool:
    """End one of somebody's sign-ins; False when it is over already."""
    found = next((row for row in sign_ins_of(db, person) if row.mark == mark), None)
    if found is not None:
        end_sessions(db, SignIn.token_hash == found.token_hash)
    return found is not None


def close_session(db: Session, token: str) -> None:
    """Forget a session."""
    end_sessions(db, SignIn.token_hash == token_digest(token))


def deactivate(db: Session, person: Person) -> None:
    """Nobody signs in as this person any more, and who is signed in no longer is."""
    person.active = False
    db.flush()
    end_sessions(db, SignIn.person_id == person.id)


def change_password(db: Session, sign_in: SignIn, password_hash: str) -> None:
    """Set a new password and end the person's other sessions; other devices are strangers again."""
    sign_in.person.password_hash = password_hash
    db.execute(delete(KnownDevice).where(KnownDevice.person_id == sign_in.person_id))
    end_sessions(
        db,
        (SignIn.person_id == sign_in.person_id) & (SignIn.token_hash != sign_in.token_hash),
    )


def forgot_password(db: Session, person: Person, password_hash: str) -> None:
    """Set a new password for someone who has lost theirs; every sign-in and device is forgotten."""
    person.password_hash = password_hash
    db.flush()
    db.execute(delete(KnownDevice).where(KnownDevice.person_id == person.id))
    end_sessions(db, SignIn.person_id == person.id)


GUESS_WINDOW = dt.timedelta(minutes=15)


PER_PAIR, PER_ACCOUNT, PER_ADDRESS = Limit(8, 60), Limit(30, 15), Limit(60, 4)
"""For one account from one network address; for an account from anywhere; for an address."""


PER_DEVICE = Limit(8, 60)
"""For an account from devices it is known by: nobody else's guesses count there."""


NEWCOMER_GAP_S, NEWCOMER_WAIT_S = 1.0, 8.0
"""For an account that is guessed at: seconds between tries from addresses that have not failed
there, and how long one of them is let wait for its turn. A password of strength 3 takes some
10^8 guesses (Wheeler 2016): years at one a second.
"""
