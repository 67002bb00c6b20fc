"""People and sign-in: passwords, sessions, the limits on guessing."""

from __future__ import annotations

import datetime as dt
import hashlib
import secrets
from collections.abc import Iterable

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import ColumnElement, delete, func, select
from sqlalchemy.orm import Session
from zxcvbn import zxcvbn

from pine_ladder.store.floor.clock import tell
from pine_ladder.store.models import MARK, Gym, KnownDevice, Person, SignIn

SESSION_DAYS = 14
"""How long a sign-in lasts that is not used, where the gym says nothing else."""
COOKIE_LENGTH = dt.timedelta(days=400)
"""How long a browser keeps the cookie (the most that browsers do); the database decides."""
SEEN_EVERY = dt.timedelta(hours=1)
DEVICE_LENGTH = dt.timedelta(days=365)
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


def knows_device(db: Session, person: Person | None, token: str | None) -> bool:
    """Whether somebody has signed in from this browser before."""
    if person is None or not token:
        return False
    since = func.now() - DEVICE_LENGTH
    query = select(KnownDevice.person_id).where(
        KnownDevice.token_hash == token_digest(token),
        KnownDevice.person_id == person.id,
        KnownDevice.seen_at > since,
    )
    return db.scalar(query) is not None


def token_digest(token: str) -> bytes:
    """Return the SHA-256 digest under which a token is stored."""
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


def session_of(db: Session, token: str) -> SignIn | None:
    """The live session of a token, its person active, or None."""
    query = (
        select(SignIn, SignIn.used_at < func.now() - SEEN_EVERY)
        .join(Person)
        .where(
            SignIn.token_hash == token_digest(token), SignIn.expires_at > func.now(), Person.active
        )
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


def end_sessions(db: Session, which: ColumnElement[bool]) -> None:
    """End sign-ins for good, and the live streams they opened."""
    gone = db.execute(delete(SignIn).where(which).returning(SignIn.token_hash)).scalars().all()
    marks = [token_hash.hex()[:MARK] for token_hash in gone]
    for start in range(0, len(marks), 100):
        tell(db, what=LEFT, marks=marks[start : start + 100])


def names_of(db: Session, ids: Iterable[int]) -> dict[int, str]:
    """Names by id of those who are somebody's."""
    query = select(Person.id, Person.name).where(Person.id.in_(set(ids)))
    return {number: name for number, name in db.execute(query)}


def everybody(db: Session) -> list[Person]:
    """Coaches first, those who have left last, by name."""
    order = (Person.active.desc(), Person.role.desc(), func.lower(Person.name), Person.id)
    return list(db.scalars(select(Person).order_by(*order)).unique())


def active_people(db: Session, ids: Iterable[int]) -> list[Person]:
    """Those of some people who have not left, by name."""
    query = select(Person).where(Person.id.in_(set(ids)), Person.active).order_by(Person.name)
    return list(db.scalars(query).unique())


def everybody_who_trains(db: Session) -> list[Person]:
    """Athletes, and coaches who train: those who have left last, by name."""
    query = select(Person).where(Person.trains).order_by(Person.active.desc(), Person.name)
    return list(db.scalars(query).unique())


def who_can_sign_in(db: Session) -> list[Person]:
    """Active people with an e-mail address, in the order they joined."""
    query = select(Person).where(Person.active, Person.email.is_not(None)).order_by(Person.id)
    return list(db.scalars(query).unique())


def lock_coaches(db: Session) -> set[int]:
    """Ids of the active coaches, held until the transaction ends."""
    query = select(Person.id).where(Person.role == "coach", Person.active).with_for_update()
    return set(db.scalars(query))
