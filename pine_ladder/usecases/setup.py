"""Opening a gym in an empty database: its set-up code, its first coach, what is still to do."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Sequence
from typing import NamedTuple

from sqlalchemy import delete, func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot
from pine_ladder.core.units import WeightUnit
from pine_ladder.store.catalogue.movements import UNIT
from pine_ladder.store.models import (
    ClassTime,
    Day,
    Gym,
    Kit,
    Person,
    Programme,
    ScoreImport,
    SetupCode,
    Tier,
    Track,
)
from pine_ladder.store.people.people import address_of
from pine_ladder.usecases.classes import keep_classes

LETTERS = "ACDEFHJKLMNPQRTUVWXY3479"
"""No two that are taken for each other when read from a screen."""
GROUPS, GROUP = 3, 4
_OPENING = 7410228


class AlreadyOpen(Exception):
    """The database holds a gym."""


class NewGym(NamedTuple):
    """What a gym is opened with; `weekly` are its classes from Monday on."""

    name: str
    zone: str
    coach: str
    email: str
    password_hash: str
    unit: WeightUnit = "kg"
    tiers: Sequence[str] = ()
    tracks: Sequence[str] = ()
    programme: str = "Daily"
    weekly: Sequence[Sequence[Slot]] = ()


class Step(NamedTuple):
    """Something a gym wants before its first class; `key` is known to the screens."""

    key: str
    done: bool


def is_open(db: Session) -> bool:
    """Whether the database holds a gym."""
    return db.scalar(select(Gym.id).limit(1)) is not None


def new_code(db: Session) -> str:
    """A set-up code in place of any before it, as `KTWQ-3H7P-ADLX`; AlreadyOpen where there is a
    gym.
    """
    _alone(db)
    code = "-".join("".join(secrets.choice(LETTERS) for _ in range(GROUP)) for _ in range(GROUPS))
    db.execute(delete(SetupCode))
    db.add(SetupCode(code_hash=_digest(code)))
    db.flush()
    return code


def code_to_open(db: Session, last: str) -> str:
    """The set-up code: the `last` one while it opens this database, otherwise a new one.
    AlreadyOpen where there is a gym.
    """
    _alone(db)
    return last if last and code_fits(db, last) else new_code(db)


def code_fits(db: Session, code: str) -> bool:
    """Whether a code opens this database; spaces, dashes and case do not count."""
    kept = db.scalars(select(SetupCode.code_hash)).all()
    return any(secrets.compare_digest(one, _digest(code)) for one in kept)


def _digest(code: str) -> bytes:
    plain = "".join(letter for letter in code.upper() if letter.isalnum())
    return hashlib.sha256(plain.encode()).digest()


def _alone(db: Session) -> None:
    """One process at a time; AlreadyOpen where a gym is there by then."""
    db.execute(text("select pg_advisory_xact_lock(:lock)"), {"lock": _OPENING})
    if is_open(db):
        raise AlreadyOpen


def open_gym(db: Session, new: NewGym) -> Person:
    """Set a gym up; its first coach. The set-up code is over then. AlreadyOpen where one is."""
    _alone(db)
    tiers = [Tier(position=i, name=name) for i, name in enumerate(new.tiers)]
    tracks = [Track(position=i, name=name) for i, name in enumerate(new.tracks)]
    gym = Gym(name=new.name, zone=new.zone, settings={UNIT: new.unit})
    db.add_all([gym, Programme(name=new.programme), *tiers, *tracks])
    coach = Person(
        name=new.coach,
        email=address_of(new.email),
        password_hash=new.password_hash,
        role="coach",
        tier=tiers[0],
        track=tracks[0],
    )
    db.add(coach)
    db.flush()
    keep_classes(db, new.weekly)
    db.execute(delete(SetupCode))
    return coach


def still_open(db: Session) -> list[Step]:
    """What a gym wants before its first class, and whether it is there."""

    def some(query: object) -> bool:
        return bool(db.scalar(query))  # type: ignore[call-overload]

    athletes = select(func.count()).where(Person.trains, Person.active)
    # Days that a table of old scores brought in are no first day.
    old = {day for made in db.scalars(select(ScoreImport.made)) for day in made.get("days", ())}
    own = Day.id.not_in(old)
    return [
        Step("classes", some(select(func.count(ClassTime.id)))),
        Step("kit", some(select(func.count(Kit.id)))),
        Step("people", some(athletes)),
        Step("first day", some(select(func.count(Day.id)).where(Day.text != "", own))),
        Step("published", some(select(func.count(Day.id)).where(Day.published, own))),
    ]
