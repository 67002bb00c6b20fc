"""People and sign-in: passwords, sessions, the limits on guessing."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets
from typing import NamedTuple

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import ColumnElement, delete, func, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session
from zxcvbn import zxcvbn

from pine_ladder.store.floor.clock import tell
from pine_ladder.store.models import MARK, FailedSignIn, Gym, KnownDevice, Person, SignIn

SESSION_DAYS = 14
"""How long a sign-in lasts that is not used, where the gym says nothing else."""
COOKIE_LENGTH = dt.timedelta(days=400)
"""How long a browser keeps the cookie (the most that browsers do); the database decides."""
SEEN_EVERY = dt.timedelta(hours=1)
DEVICE_LENGTH = dt.timedelta(days=365)
GUESS_WINDOW = dt.timedelta(minutes=15)
MIN_PASSWORD, MAX_PASSWORD = 10, 200
ESTIMATED = 25
"""Characters the strength estimate looks at: its time grows with the cube of the length."""
LONG_DISTINCT = 8
"""Different characters from which a longer password is a pass-phrase, and not a repeated key."""
OWN_PART = 4
"""Characters that a password has beside its owner's name, address and gym."""
KNOWN_WORDS = 20
"""Words of a name, an address and a gym that the estimate is given."""
STRONG = 3
"""The estimate (0 to 4) from which a password withstands guessing at this door."""
LEFT = "left"
"""What is told when sign-ins end: their live streams end with them."""

_hasher = PasswordHasher()
_DECOY = _hasher.hash(secrets.token_hex())


def hash_password(password: str) -> str:
    """Argon2id hash with its parameters and salt."""
    return _hasher.hash(password)


def weakness(password: str, *known: str) -> str | None:
    """Why a password is too easy to guess, in a sentence; None where it is not.

    `known` are words that whoever guesses would try first: names, the address, the gym. The
    estimate is that of zxcvbn (Wheeler 2016, USENIX Security 25).
    """
    if len(password) < MIN_PASSWORD:
        return f"a password has at least {MIN_PASSWORD} characters"
    words = [part for word in known for part in (word, *word.replace("@", " ").split()) if part]
    own = _own_part(password, words)
    if len(own) > ESTIMATED and len(set(own)) >= LONG_DISTINCT:
        return None
    if len(own.replace(" ", "")) < OWN_PART:
        return "this password is easily guessed: it is your name, address or gym; add three words"
    estimate = zxcvbn(password[:ESTIMATED], user_inputs=words[:KNOWN_WORDS])
    if estimate["score"] >= STRONG:
        return None
    warning = estimate["feedback"]["warning"].rstrip(".").lower()
    why = f": {warning}" if warning else ""
    return f"this password is easily guessed{why}; three or four unrelated words make a good one"


def _own_part(password: str, known: list[str]) -> str:
    """What is left of a password without the words a guesser knows, in small letters."""
    rest = password.casefold()
    for word in sorted(known, key=len, reverse=True):
        if len(word) > 2:
            rest = rest.replace(word.casefold(), "")
    return rest


def stored_password(person: Person | None) -> str:
    """The hash to hold a password against: a decoy for who does not exist or has none."""
    return person.password_hash if person and person.password_hash else _DECOY


def hash_fits(stored: str, password: str) -> bool:
    """True when a password is that of a hash; takes as long for a decoy."""
    try:
        fits = _hasher.verify(stored, password)
    except (VerificationError, InvalidHashError):
        return False
    return fits and stored is not _DECOY


def address_of(email: str) -> str:
    """An e-mail address as it is looked up and counted: no spaces around it, small letters."""
    return email.strip().lower()


def person_by_email(db: Session, email: str) -> Person | None:
    """The active person with that address, whatever its case."""
    query = select(Person).where(func.lower(Person.email) == address_of(email), Person.active)
    return db.scalars(query).unique().one_or_none()


class Limit:
    """How many tries are free in a quarter of an hour, and how they are slowed down after."""

    def __init__(self, free: int, longest_s: int) -> None:
        self.free, self.longest_s = free, longest_s

    def gap_s(self, tries: int) -> int:
        """Seconds between tries after so many: two, four, eight, and so on."""
        return 0 if tries < self.free else min(2 ** min(tries - self.free + 1, 10), self.longest_s)


PER_PAIR, PER_ACCOUNT, PER_ADDRESS = Limit(8, 60), Limit(30, 15), Limit(60, 4)
"""For one account from one network address; for an account from anywhere; for an address."""
PER_DEVICE = Limit(8, 60)
"""For an account from devices it is known by: nobody else's guesses count there."""


NEWCOMER_GAP_S, NEWCOMER_WAIT_S = 1.0, 8.0
"""For an account that is guessed at: seconds between tries from addresses that have not failed
there, and how long one of them is let wait for its turn. A password of strength 3 takes some
10^8 guesses (Wheeler 2016): years at one a second.
"""


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


def knows_device(db: Session, person: Person | None, token: str | None) -> bool:
    """Whether somebody has signed in from this browser before."""
    if person is None or not token:
        return False
    since = func.now() - DEVICE_LENGTH
    query = select(KnownDevice.person_id).where(
        KnownDevice.token_hash == _digest(token),
        KnownDevice.person_id == person.id,
        KnownDevice.seen_at > since,
    )
    return db.scalar(query) is not None


def remember_device(db: Session, person: Person, token: str | None) -> str:
    """Know this browser from now on; its token, a new one where it had none."""
    token = token or secrets.token_urlsafe(32)
    row = insert(KnownDevice).values(token_hash=_digest(token), person_id=person.id)
    db.execute(
        row.on_conflict_do_update(
            index_elements=["token_hash", "person_id"], set_={"seen_at": func.now()}
        )
    )
    return token


def _digest(token: str) -> bytes:
    return hashlib.sha256(token.encode()).digest()


def session_length(db: Session) -> dt.timedelta:
    """How long a sign-in lasts without being used, as the gym has it."""
    settings = db.scalar(select(Gym.settings)) or {}
    return dt.timedelta(days=int(settings.get("sign_in_days", SESSION_DAYS)))


_SYSTEMS = (
    ("iPhone", "iPhone"), ("iPad", "iPad"), ("Android", "Android"), ("Windows", "Windows"),
    ("Mac OS X", "Mac"), ("CrOS", "ChromeOS"), ("Linux", "Linux"),
)  # fmt: skip
_BROWSERS = (
    ("Firefox/", "Firefox"), ("Edg/", "Edge"), ("OPR/", "Opera"), ("Chrome/", "Chrome"),
    ("Safari/", "Safari"),
)  # fmt: skip


def device_of(agent: str) -> str:
    """The kind of browser that says this of itself, as people know it.

    >>> device_of("Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0")
    'Firefox on Linux'
    """
    browser = next((name for mark, name in _BROWSERS if mark in agent), "a browser")
    system = next((name for mark, name in _SYSTEMS if mark in agent), "")
    return f"{browser} on {system}" if system else browser


def open_session(db: Session, person: Person, device: str = "") -> tuple[str, SignIn]:
    """A new signed-in session: its secret token for the cookie, and its row."""
    db.execute(delete(SignIn).where(SignIn.expires_at < func.now()))
    token = secrets.token_urlsafe(32)
    row = SignIn(
        token_hash=_digest(token),
        person_id=person.id,
        guard=secrets.token_urlsafe(24),
        expires_at=func.now() + session_length(db),
        device=device[:80],
    )
    db.add(row)
    db.flush()
    return token, row


def session_of(db: Session, token: str) -> SignIn | None:
    """The live session of a token, its person active, or None."""
    query = (
        select(SignIn, SignIn.used_at < func.now() - SEEN_EVERY)
        .join(Person)
        .where(SignIn.token_hash == _digest(token), SignIn.expires_at > func.now(), Person.active)
    )
    found = db.execute(query).unique().one_or_none()
    if found is None:
        return None
    row, long_ago = found
    if long_ago:
        # It lasts as long as it is used; that it is used is written once an hour.
        row.used_at, row.expires_at = func.now(), func.now() + session_length(db)
        db.flush()
    return row


def sign_ins_of(db: Session, person: Person) -> list[SignIn]:
    """Where somebody is signed in, the newest use first."""
    query = select(SignIn).where(SignIn.person_id == person.id, SignIn.expires_at > func.now())
    return list(db.scalars(query.order_by(SignIn.used_at.desc())).unique())


def end_sign_in(db: Session, person: Person, mark: str) -> bool:
    """End one of somebody's sign-ins; False when it is over already."""
    found = next((row for row in sign_ins_of(db, person) if row.mark == mark), None)
    if found is not None:
        _end(db, SignIn.token_hash == found.token_hash)
    return found is not None


def _end(db: Session, which: ColumnElement[bool]) -> None:
    """End sign-ins for good, and the live streams they opened."""
    gone = db.execute(delete(SignIn).where(which).returning(SignIn.token_hash)).scalars().all()
    marks = [token_hash.hex()[:MARK] for token_hash in gone]
    for start in range(0, len(marks), 100):
        tell(db, what=LEFT, marks=marks[start : start + 100])


def close_session(db: Session, token: str) -> None:
    """Forget a session."""
    _end(db, SignIn.token_hash == _digest(token))


def deactivate(db: Session, person: Person) -> None:
    """Nobody signs in as this person any more, and who is signed in no longer is."""
    person.active = False
    db.flush()
    _end(db, SignIn.person_id == person.id)


def change_password(db: Session, sign_in: SignIn, password_hash: str) -> None:
    """Set a new password and end the person's other sessions; other devices are strangers again."""
    sign_in.person.password_hash = password_hash
    db.execute(delete(KnownDevice).where(KnownDevice.person_id == sign_in.person_id))
    _end(
        db,
        (SignIn.person_id == sign_in.person_id) & (SignIn.token_hash != sign_in.token_hash),
    )


def forgot_password(db: Session, person: Person, password_hash: str) -> None:
    """Set a new password for someone who has lost theirs; every sign-in and device is forgotten."""
    person.password_hash = password_hash
    db.flush()
    db.execute(delete(KnownDevice).where(KnownDevice.person_id == person.id))
    _end(db, SignIn.person_id == person.id)
