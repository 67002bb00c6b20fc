"""Programmes: the lines of sessions a gym writes beside each other, and who follows which."""

from __future__ import annotations

from sqlalchemy import ColumnElement, exists, or_, select
from sqlalchemy.orm import Session

from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
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


def programmes_of(db: Session) -> list[Programme]:
    """The gym's programmes, the first one first."""
    return list(db.scalars(select(Programme).order_by(Programme.id)))


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
