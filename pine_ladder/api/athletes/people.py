"""The gym, its people and its movements."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable

from pydantic import BaseModel, Field
from sqlalchemy import func, select

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.core.notation import words
from pine_ladder.core.notation.templates import TEMPLATES, Template
from pine_ladder.store import people
from pine_ladder.store.days import the_gym
from pine_ladder.store.models import ClassTime, Kit, Person, Programme, Tier, Track

members = router("member", "gym")
coaches = router("coach", "athletes")


class ClassTimeOut(BaseModel):
    """A weekly class; weekday 0 is Monday."""

    weekday: int
    start: dt.time


class KitOut(BaseModel):
    """Equipment and how much of it."""

    name: str
    count: int


class GymOut(BaseModel):
    """What every screen needs to know of the gym. Tiers and tracks are told by position."""

    name: str
    today: dt.date
    tiers: list[str]
    tracks: list[str]
    programmes: list[str]
    class_min: int
    class_times: list[ClassTimeOut]
    kit: list[KitOut]


class Athlete(BaseModel):
    """A member with default tier and track (positions in the gym's lists)."""

    id: int
    name: str
    email: str | None
    role: str
    tier: int
    track: int
    active: bool


class AthleteChange(BaseModel):
    """What to change of a member; what is left out stays."""

    tier: int | None = None
    track: int | None = None
    active: bool | None = None


class NewAthlete(BaseModel):
    """A new member. With an address and a first password they can sign in."""

    name: str = Field(min_length=1, max_length=80, examples=["Ada Quill"])
    email: str | None = Field(default=None, max_length=200)
    password: str | None = Field(default=None, max_length=200)
    tier: int = 0
    track: int = 0


class MovementName(BaseModel):
    """A movement as completion offers it."""

    name: str
    aliases: tuple[str, ...]
    patterns: tuple[str, ...]


class BoardWords(BaseModel):
    """The words of the notation, for completion and highlighting."""

    roles: list[str]
    formats: tuple[str, ...]
    modifiers: tuple[str, ...]
    details: tuple[str, ...]
    movements: list[MovementName]
    loads: list[str]
    templates: tuple[Template, ...]


@members.get("/gym")
def gym(db: Database) -> GymOut:
    """The gym's settings."""
    found = the_gym(db)
    times = db.scalars(select(ClassTime).order_by(ClassTime.weekday, ClassTime.start))
    kit = db.scalars(select(Kit).order_by(Kit.name))
    return GymOut(
        name=found.name,
        today=dt.date.today(),
        tiers=list(db.scalars(select(Tier.name).order_by(Tier.position))),
        tracks=list(db.scalars(select(Track.name).order_by(Track.position))),
        programmes=list(db.scalars(select(Programme.name).order_by(Programme.id))),
        class_min=found.class_min,
        class_times=[ClassTimeOut(weekday=t.weekday, start=t.start) for t in times],
        kit=[KitOut(name=k.name, count=k.count) for k in kit],
    )


def _loads(names: Iterable[str]) -> list[str]:
    """Loads to offer after @: the trade's pairs, the gym's own implements, and the other ways."""
    owned = {found[0] for name in names if (found := re.search(r"[\d.]+ kg$", name))}
    kilos = sorted(owned, key=lambda text: float(text.split()[0]))
    return [*words.LOAD_PAIRS, *kilos, *words.LOAD_WORDS]


@members.get("/words")
def board_words(db: Database, shelf: Shelf) -> BoardWords:
    """Words of the notation, loads, and names of movements."""
    return BoardWords(
        roles=list(words.ROLE_TITLES.values()),
        formats=words.FORMAT_WORDS,
        modifiers=words.MODIFIER_WORDS,
        details=words.DETAIL_WORDS,
        movements=[
            MovementName(name=m.name, aliases=m.aliases, patterns=m.patterns)
            for m in shelf.movements
        ],
        loads=_loads(db.scalars(select(Kit.name))),
        templates=TEMPLATES,
    )


def _athlete(person: Person) -> Athlete:
    return Athlete(
        id=person.id,
        name=person.name,
        email=person.email,
        role=person.role,
        tier=person.tier.position,
        track=person.track.position,
        active=person.active,
    )


def tier_at(db: Database, position: int) -> Tier:
    """The tier at a position, or a 422."""
    found = db.scalars(select(Tier).where(Tier.position == position)).one_or_none()
    if found is None:
        raise ApiError(422, f"there is no tier {position}")
    return found


def track_at(db: Database, position: int) -> Track:
    """The track at a position, or a 422."""
    found = db.scalars(select(Track).where(Track.position == position)).one_or_none()
    if found is None:
        raise ApiError(422, f"there is no track {position}")
    return found


@coaches.get("/athletes")
def athletes(db: Database) -> list[Athlete]:
    """All members, active first, by name."""
    query = select(Person).where(Person.role == "athlete")
    found = db.scalars(query.order_by(Person.active.desc(), Person.name)).unique()
    return [_athlete(person) for person in found]


@coaches.post("/athletes", status_code=201, responses={409: {"model": Problem}})
def add_athlete(form: NewAthlete, db: Database) -> Athlete:
    """Add a member."""
    email = form.email.strip().lower() if form.email and form.email.strip() else None
    if form.password and not email:
        raise ApiError(422, "signing in needs an e-mail address as well")
    if form.password and len(form.password) < people.MIN_PASSWORD:
        raise ApiError(422, f"a password has at least {people.MIN_PASSWORD} characters")
    taken = select(Person).where(func.lower(Person.email) == email)
    if email and db.scalars(taken).first():
        raise ApiError(409, f"{email} is already somebody's address")
    person = Person(
        name=" ".join(form.name.split()),
        email=email,
        password_hash=people.hash_password(form.password) if form.password else None,
        role="athlete",
        tier=tier_at(db, form.tier),
        track=track_at(db, form.track),
    )
    db.add(person)
    db.flush()
    return _athlete(person)


@coaches.patch("/athletes/{athlete_id}", responses={404: {"model": Problem}})
def change_athlete(athlete_id: int, form: AthleteChange, db: Database) -> Athlete:
    """Change a member's default tier or track, or whether they are active."""
    person = db.get(Person, athlete_id)
    if person is None or person.role != "athlete":
        raise not_found("such athlete")
    if form.tier is not None:
        person.tier = tier_at(db, form.tier)
    if form.track is not None:
        person.track = track_at(db, form.track)
    if form.active is not None:
        person.active = form.active
    db.flush()
    return _athlete(person)
