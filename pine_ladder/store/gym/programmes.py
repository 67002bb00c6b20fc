"""Programmes: the lines of sessions a gym writes beside each other, and who follows which."""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import ColumnElement, delete, exists, func, or_, select
from sqlalchemy.orm import Session

from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    ClassPlan,
    ClassTime,
    Day,
    Follow,
    GymClass,
    Person,
    Programme,
    ScoreRow,
    SignUp,
)

MOST = 12
"""Programmes a gym may have at once."""


class StillUsed(Exception):
    """The programme has boards, scores or people who signed up: it cannot go."""


def programmes_of(db: Session) -> list[Programme]:
    """The gym's programmes, the first one first."""
    return list(db.scalars(select(Programme).order_by(Programme.id)))


def name_of(db: Session, said: str, own: int | None = None) -> str:
    """The name of a programme as it is to be kept; ValueError where it cannot be.

    `own` is the programme that is being renamed.
    """
    name = " ".join(said.split())
    if not name:
        raise ValueError("a programme has a name")
    if len(name) > Programme.name.type.length:
        raise ValueError(f"{name[:20]}… is too long for a name")
    same = select(Programme.id).where(func.lower(Programme.name) == name.lower())
    if db.scalar(same.where(Programme.id != (own or 0))) is not None:
        raise ValueError(f"there is a programme {name} already")
    return name


def add_programme(db: Session, said: str) -> Programme:
    """A new programme after the others; ValueError for its name, or for one too many."""
    if len(programmes_of(db)) >= MOST:
        raise ValueError(f"a gym has {MOST} programmes at most")
    made = Programme(name=name_of(db, said))
    db.add(made)
    db.flush()
    tell(db, what="again")
    return made


def rename(db: Session, programme: Programme, said: str) -> None:
    """Give a programme another name; ValueError where it cannot have it."""
    programme.name = name_of(db, said, programme.id)
    db.flush()
    tell(db, what="again")


def remove(db: Session, programme: Programme) -> None:
    """Take away a programme that holds nothing; raises StillUsed for any other, and the first."""
    first = programmes_of(db)[0]
    own = (
        select(Day.id).where(Day.programme_id == programme.id, Day.text != "").limit(1),
        select(ScoreRow.id).join(Day).where(Day.programme_id == programme.id).limit(1),
        select(SignUp.id).where(SignUp.programme_id == programme.id).limit(1),
    )
    if programme.id == first.id or any(db.scalar(query) is not None for query in own):
        raise StillUsed
    for table in (ClassTime, ClassPlan, Day):
        db.execute(delete(table).where(table.programme_id == programme.id))
    db.delete(programme)
    db.flush()
    tell(db, what="again")


def follow(db: Session, person: Person, programmes: Iterable[int]) -> None:
    """Have somebody follow these; ValueError for none, or for one that there is not."""
    wanted = set(programmes)
    known = {one.id for one in programmes_of(db)}
    if not wanted:
        raise ValueError("everybody follows a programme")
    if not wanted <= known:
        raise ValueError("that is no programme of this gym")
    db.execute(delete(Follow).where(Follow.person_id == person.id))
    db.add_all(Follow(person_id=person.id, programme_id=one) for one in sorted(wanted))
    db.flush()


def followed(db: Session) -> dict[int, list[int]]:
    """The programmes of everybody who follows some by name, by person."""
    out: dict[int, list[int]] = {}
    for person, programme in db.execute(
        select(Follow.person_id, Follow.programme_id).order_by(Follow.programme_id)
    ):
        out.setdefault(person, []).append(programme)
    return out


def followed_by(db: Session, person: Person) -> list[Programme]:
    """The programmes that somebody follows; the gym's first where none is named."""
    named = select(Follow.programme_id).where(Follow.person_id == person.id)
    found = db.scalars(select(Programme).where(Programme.id.in_(named)).order_by(Programme.id))
    return list(found) or programmes_of(db)[:1]


def _follows(db: Session) -> ColumnElement[bool]:
    line = gym_of(db).programme
    named = exists().where(Follow.person_id == Person.id)
    mine = exists().where(Follow.person_id == Person.id, Follow.programme_id == line.id)
    first = line.id == programmes_of(db)[0].id
    return or_(mine, ~named) if first else mine


def followers(db: Session, day: Day | None = None) -> list[Person]:
    """The active athletes who follow the programme, by name; with a day, all of its guests too:
    who signed up, was there, or has a score.
    """
    guest: list[ColumnElement[bool]] = []
    if day is not None:
        came = (
            select(Attendance.person_id)
            .join(GymClass, GymClass.id == Attendance.class_id)
            .where(GymClass.day_id == day.id)
        )
        scored = select(ScoreRow.person_id).where(ScoreRow.day_id == day.id)
        signed = select(SignUp.person_id).where(
            SignUp.date == day.date, SignUp.programme_id == day.programme_id
        )
        guest = [Person.id.in_(query) for query in (came, scored, signed)]
    query = select(Person).where(Person.trains, Person.active, or_(_follows(db), *guest))
    return list(db.scalars(query.order_by(Person.name)).unique())
