"""Signing up for classes: who comes, who waits, and classes of a date that differ from the week's.

A place is never given twice: who has one follows from the order of signing up alone.
"""

from __future__ import annotations

import datetime as dt
from typing import NamedTuple

from sqlalchemy import ColumnElement, delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot
from pine_ladder.core.floor.places import Places, places
from pine_ladder.store.boards.days import the_gym, the_programme
from pine_ladder.store.floor.classes import weekly_slots
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.models import ClassPlan, Person, SignUp


class StalePlan(Exception):
    """Somebody has changed the class since it was read."""


class Planned(NamedTuple):
    """A class of a date: its minutes where they are its own, how many fit, where it is held,
    whether it is off, the coach's word, and its version (0 where it is as the week has it).
    """

    start: dt.time
    minutes: int | None
    size: int
    place: str
    cancelled: bool
    word: str
    weekly: bool
    version: int


def planned(db: Session, date: dt.date) -> list[Planned]:
    """The classes of a date: the week's, and those that a coach has put beside them."""
    gym = the_gym(db)
    weekly = {slot.start: slot for slot in weekly_slots(db, date.weekday())}
    plans = select(ClassPlan).where(
        ClassPlan.date == date, ClassPlan.programme_id == the_programme(db).id
    )
    own = {plan.start: plan for plan in db.scalars(plans)}
    out = []
    for start in sorted({*weekly, *own}):
        plan, slot = own.get(start), weekly.get(start, Slot(start))
        out.append(
            Planned(
                start=start,
                minutes=(plan and plan.minutes) or slot.minutes,
                size=(plan and plan.size) or slot.size or gym.class_size,
                place=slot.place,
                cancelled=bool(plan and plan.cancelled),
                word=plan.word if plan else "",
                weekly=start in weekly,
                version=plan.version if plan else 0,
            )
        )
    return out


def planned_at(db: Session, date: dt.date, start: dt.time) -> Planned | None:
    """The class of a date at a time, or None."""
    return next((one for one in planned(db, date) if one.start == start), None)


def change_plan(
    db: Session,
    date: dt.date,
    start: dt.time,
    version: int,
    *,
    size: int | None,
    minutes: int | None,
    cancelled: bool,
    word: str,
) -> None:
    """Hold a class of a date otherwise than the week has it, or one beside the week's.

    Raises StalePlan when it is not at the version that was read.
    """
    values = {
        "size": size,
        "minutes": minutes,
        "cancelled": cancelled,
        "word": word,
        "version": version + 1,
    }
    line = the_programme(db).id
    made = insert(ClassPlan).values(programme_id=line, date=date, start=start, **values)
    keep = (
        made.on_conflict_do_update(
            index_elements=["programme_id", "date", "start"],
            set_=values,
            where=ClassPlan.version == version,
        )
        if version
        else made.on_conflict_do_nothing()
    )
    if db.execute(keep.returning(ClassPlan.version)).first() is None:
        raise StalePlan
    db.expire_all()
    tell(db, what="day", date=date.isoformat())


def _class(db: Session, date: dt.date, start: dt.time) -> tuple[ColumnElement[bool], ...]:
    line = the_programme(db).id
    return (SignUp.programme_id == line, SignUp.date == date, SignUp.start == start)


def signed(db: Session, date: dt.date, start: dt.time, size: int) -> Places:
    """Who has a place in a class and who waits; who has left the gym has neither."""
    query = (
        select(SignUp.person_id)
        .join(Person)
        .where(*_class(db, date, start), Person.active)
        .order_by(SignUp.id)
    )
    return places(list(db.scalars(query)), size)


def sign_up(db: Session, date: dt.date, start: dt.time, person: Person, coming: bool) -> None:
    """Say that somebody comes, or does not; twice is as good as once.

    Who comes back after saying no is at the end of the line.
    """
    if coming:
        one = {"programme_id": the_programme(db).id, "date": date, "start": start}
        row = insert(SignUp).values(**one, person_id=person.id)
        db.execute(row.on_conflict_do_nothing(index_elements=[*one, "person_id"]))
    else:
        mine = SignUp.person_id == person.id
        db.execute(delete(SignUp).where(*_class(db, date, start), mine))
    db.flush()
    tell(db, what="day", date=date.isoformat())
