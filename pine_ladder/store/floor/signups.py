"""Signing up for classes: who comes, who waits, and classes of a date that differ from the week's.

A place is never given twice: who has one follows from the order of signing up alone.
"""

from __future__ import annotations

import datetime as dt
from typing import NamedTuple

from sqlalchemy import ColumnElement, delete, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot
from pine_ladder.core.floor.places import Places, places
from pine_ladder.store.floor.classes import weekly_slots
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Attendance, ClassPlan, Day, GymClass, Person, SignUp


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
    gym = gym_of(db).row
    weekly = {slot.start: slot for slot in weekly_slots(db, date.weekday())}
    plans = select(ClassPlan).where(
        ClassPlan.date == date, ClassPlan.programme_id == gym_of(db).programme.id
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
                place=(plan and plan.place) or slot.place,
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
    line = gym_of(db).programme.id
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


class Taken(Exception):
    """A class is held at that time already."""


def hold(db: Session, date: dt.date, alone: bool) -> None:
    """Keep the classes of a date from moving while somebody signs up, and the other way round."""
    key = f"classes/{gym_of(db).programme.id}/{date}"
    take = "pg_advisory_xact_lock" if alone else "pg_advisory_xact_lock_shared"
    db.execute(text(f"select {take}(hashtextextended(:key, 0))"), {"key": key})


def move(db: Session, date: dt.date, one: Planned, to: dt.time) -> None:
    """Hold a class of a date at another time: those who signed up, who waits and who is marked as
    here come along in their order; at the old time it is cancelled, and says where it went.

    Raises Taken where one is held at that time, StalePlan where the class has changed.
    """
    hold(db, date, alone=True)
    if planned_at(db, date, one.start) != one:
        raise StalePlan
    there = planned_at(db, date, to)
    if there is not None and not there.cancelled:
        raise Taken
    line = gym_of(db).programme.id
    for start, cancelled, word in (
        (one.start, True, f"moved to {to:%H:%M}"),
        (to, False, one.word),
    ):
        plan = db.get(ClassPlan, (line, date, start), populate_existing=True)
        if plan is None:
            plan = ClassPlan(programme_id=line, date=date, start=start, version=0)
            db.add(plan)
        plan.size, plan.minutes, plan.place = one.size, one.minutes, one.place
        plan.cancelled, plan.word, plan.version = cancelled, word, plan.version + 1
    # Who had signed up there before it was cancelled stands first, and once.
    twice = select(SignUp.person_id).where(*_class(db, date, to)).scalar_subquery()
    db.execute(
        delete(SignUp)
        .where(*_class(db, date, one.start), SignUp.person_id.in_(twice))
        .execution_options(synchronize_session=False)
    )
    db.execute(update(SignUp).where(*_class(db, date, one.start)).values(start=to))
    day = select(Day.id).where(Day.date == date, Day.programme_id == line).scalar_subquery()
    held = select(GymClass.id).where(GymClass.day_id == day, GymClass.start == to)
    if db.scalar(held) is None:
        old = (GymClass.day_id == day, GymClass.start == one.start)
        db.execute(update(GymClass).where(*old).values(start=to))
    db.flush()
    db.expire_all()
    tell(db, what="day", date=date.isoformat())


def _class(db: Session, date: dt.date, start: dt.time) -> tuple[ColumnElement[bool], ...]:
    line = gym_of(db).programme.id
    return (SignUp.programme_id == line, SignUp.date == date, SignUp.start == start)


def signed(db: Session, date: dt.date, start: dt.time, size: int) -> Places:
    """Who has a place in a class and who waits; who has left the gym has neither.

    The one number of a class that every screen shows: who is checked in has a place as well.
    """
    booked = (
        select(SignUp.person_id)
        .join(Person)
        .where(*_class(db, date, start), Person.active)
        .order_by(SignUp.id)
    )
    present = (
        select(Attendance.person_id)
        .join(GymClass, GymClass.id == Attendance.class_id)
        .join(Day, Day.id == GymClass.day_id)
        .join(Person, Person.id == Attendance.person_id)
        .where(
            Day.programme_id == gym_of(db).programme.id,
            Day.date == date,
            GymClass.start == start,
            Person.active,
        )
        .order_by(Attendance.person_id)
    )
    return places(list(db.scalars(booked)), size, list(db.scalars(present)))


def sign_up(db: Session, date: dt.date, start: dt.time, person: Person, coming: bool) -> None:
    """Say that somebody comes, or does not; twice is as good as once.

    Who comes back after saying no is at the end of the line.
    """
    if coming:
        one = {"programme_id": gym_of(db).programme.id, "date": date, "start": start}
        row = insert(SignUp).values(**one, person_id=person.id)
        db.execute(row.on_conflict_do_nothing(index_elements=[*one, "person_id"]))
    else:
        mine = SignUp.person_id == person.id
        db.execute(delete(SignUp).where(*_class(db, date, start), mine))
    db.flush()
    tell(db, what="day", date=date.isoformat())
