"""Signing up for classes: who comes, who waits, and classes of a date that differ from the week's.

A place is never given twice: who has one follows from the order of signing up alone.
"""

from __future__ import annotations

import datetime as dt
from typing import NamedTuple

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot
from pine_ladder.core.floor.capacity import Places, places
from pine_ladder.store.floor.classes import slots_on
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    ClassPlan,
    Day,
    Gym,
    GymClass,
    LateCancel,
    Person,
    SignUp,
)

LATE_CANCEL = "late_cancel_min"
"""The setting of the minutes before a class within which a cancellation is late."""


def late_cancel_min(gym: Gym) -> int:
    """Minutes before a class within which a cancellation is late; 0 where the gym sets no limit."""
    return int(gym.settings.get(LATE_CANCEL, 0))


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
    weekly = {slot.start: slot for slot in slots_on(db, date)}
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


def signed(db: Session, date: dt.date, start: dt.time, size: int) -> Places:
    """Who has a place in a class and who waits; who has left the gym has neither.

    The one number of a class that every screen shows: who is checked in has a place as well.
    """
    booked = (
        select(SignUp.person_id)
        .join(Person)
        .where(*of_class(db, date, start), Person.active)
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


def of_class(db: Session, date: dt.date, start: dt.time) -> tuple[ColumnElement[bool], ...]:
    """Conditions that select the sign-ups of one class of the current programme."""
    line = gym_of(db).programme.id
    return (SignUp.programme_id == line, SignUp.date == date, SignUp.start == start)


def booked_elsewhere(db: Session, date: dt.date, start: dt.time, person_id: int) -> list[dt.time]:
    """The starts of the other classes of a date that somebody is booked for or waits for."""
    query = select(SignUp.start).where(
        SignUp.programme_id == gym_of(db).programme.id,
        SignUp.date == date,
        SignUp.start != start,
        SignUp.person_id == person_id,
    )
    held = {one.start for one in planned(db, date) if not one.cancelled}
    return sorted(scalar for scalar in db.scalars(query) if scalar in held)


def moved_up_at(db: Session, date: dt.date, start: dt.time, person_id: int) -> dt.datetime | None:
    """The moment somebody moved up from a class's waiting list; None where they did not."""
    return db.scalar(
        select(SignUp.moved_up_at).where(*of_class(db, date, start), SignUp.person_id == person_id)
    )


def cancelled_late(db: Session, date: dt.date, start: dt.time) -> list[int]:
    """The ids of those who gave up a place in a class later than the gym asks for."""
    query = select(LateCancel.person_id).where(
        LateCancel.programme_id == gym_of(db).programme.id,
        LateCancel.date == date,
        LateCancel.start == start,
    )
    return list(db.scalars(query.order_by(LateCancel.cancelled_at)))


def no_shows(db: Session, date: dt.date, start: dt.time) -> list[int]:
    """The ids of those who had booked a class and were not checked in; empty where nobody was."""
    held = (
        select(GymClass.id)
        .join(Day, Day.id == GymClass.day_id)
        .where(
            Day.programme_id == gym_of(db).programme.id,
            Day.date == date,
            GymClass.start == start,
        )
    )
    present = select(Attendance.person_id).where(Attendance.class_id.in_(held))
    here = set(db.scalars(present))
    if not here:
        return []
    size = planned_at(db, date, start)
    booked = signed(db, date, start, size.size if size else 0).coming
    return [one for one in booked if one not in here]
