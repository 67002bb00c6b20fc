"""Booking: places, waiting lists, classes moved and called off."""

from __future__ import annotations

import datetime as dt

from sqlalchemy import delete, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.floor.capacity import Places, is_late, moved_up
from pine_ladder.store.floor.bookings import Planned, moved_up_at, of_class, planned_at, signed
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import ClassPlan, Day, GymClass, LateCancel, Person, SignUp


class StalePlan(Exception):
    """Somebody has changed the class since it was read."""


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


def hold(db: Session, date: dt.date) -> None:
    """Let one change at a time reach the classes of a date and the places in them, so that each
    place that becomes free moves up one athlete, who is told once.
    """
    key = f"classes/{gym_of(db).programme.id}/{date}"
    db.execute(text("select pg_advisory_xact_lock(hashtextextended(:key, 0))"), {"key": key})


def move(db: Session, date: dt.date, planned: Planned, to: dt.time) -> None:
    """Hold a class of a date at another time: those who signed up, who waits and who is marked as
    here come along in their order; at the old time it is cancelled, and says where it went.

    Raises Taken where one is held at that time, StalePlan where the class has changed.
    """
    hold(db, date)
    if planned_at(db, date, planned.start) != planned:
        raise StalePlan
    there = planned_at(db, date, to)
    if there is not None and not there.cancelled:
        raise Taken
    line = gym_of(db).programme.id
    for start, cancelled, word in (
        (planned.start, True, f"moved to {to:%H:%M}"),
        (to, False, planned.word),
    ):
        plan = db.get(ClassPlan, (line, date, start), populate_existing=True)
        if plan is None:
            plan = ClassPlan(programme_id=line, date=date, start=start, version=0)
            db.add(plan)
        plan.size, plan.minutes, plan.place = planned.size, planned.minutes, planned.place
        plan.cancelled, plan.word, plan.version = cancelled, word, plan.version + 1
    # Who had signed up there before it was cancelled stands first, and once.
    twice = select(SignUp.person_id).where(*of_class(db, date, to)).scalar_subquery()
    db.execute(
        delete(SignUp)
        .where(*of_class(db, date, planned.start), SignUp.person_id.in_(twice))
        .execution_options(synchronize_session=False)
    )
    db.execute(update(SignUp).where(*of_class(db, date, planned.start)).values(start=to))
    day = select(Day.id).where(Day.date == date, Day.programme_id == line).scalar_subquery()
    held = select(GymClass.id).where(GymClass.day_id == day, GymClass.start == to)
    if db.scalar(held) is None:
        old = (GymClass.day_id == day, GymClass.start == planned.start)
        db.execute(update(GymClass).where(*old).values(start=to))
    db.flush()
    db.expire_all()
    tell(db, what="day", date=date.isoformat())


def sign_up(
    db: Session, date: dt.date, planned: Planned, person: Person, coming: bool
) -> tuple[int, ...]:
    """Book somebody into a class, or take them off; the ids of those who move up by it.

    Twice is as good as once. Who comes back after cancelling is at the end of the list, and no
    longer noted as late.
    """
    start = planned.start
    before = signed(db, date, start, planned.size)
    if coming:
        one = {"programme_id": gym_of(db).programme.id, "date": date, "start": start}
        row = insert(SignUp).values(**one, person_id=person.id)
        db.execute(row.on_conflict_do_nothing(index_elements=[*one, "person_id"]))
        again = (LateCancel.date == date, LateCancel.start == start)
        line = LateCancel.programme_id == one["programme_id"]
        db.execute(delete(LateCancel).where(line, *again, LateCancel.person_id == person.id))
    else:
        mine = SignUp.person_id == person.id
        db.execute(delete(SignUp).where(*of_class(db, date, start), mine))
    db.flush()
    tell(db, what="day", date=date.isoformat())
    return move_up(db, date, planned, before)


def move_up(db: Session, date: dt.date, now_planned: Planned, before: Places) -> tuple[int, ...]:
    """Note who has a place now and waited before; their ids, in order."""
    after = signed(db, date, now_planned.start, now_planned.size)
    found = moved_up(before, after)
    if found:
        db.execute(
            update(SignUp)
            .where(*of_class(db, date, now_planned.start), SignUp.person_id.in_(found))
            .values(moved_up_at=now(db))
        )
    return found


def late_to_cancel(db: Session, date: dt.date, start: dt.time, person: Person, limit: int) -> bool:
    """Whether somebody who gives up a place now is late, by the gym's limit in minutes."""
    begins = dt.datetime.combine(date, start, gym_of(db).zone)
    return is_late(begins, now(db), limit, moved_up_at(db, date, start, person.id))


def note_late(db: Session, date: dt.date, start: dt.time, person: Person) -> None:
    """Note that somebody gave up a place late; once is enough."""
    row = insert(LateCancel).values(
        programme_id=gym_of(db).programme.id, date=date, start=start, person_id=person.id
    )
    db.execute(row.on_conflict_do_nothing())
