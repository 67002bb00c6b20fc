"""Holding a class: who is here, heats and teams, notes of the floor."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Sequence

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot
from pine_ladder.store.days.pieces import id_of
from pine_ladder.store.floor.classes import Groups, Noted
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    ClassTime,
    Day,
    EffortRow,
    GroupsRow,
    GymClass,
    Jot,
    Person,
)


def open_class(db: Session, day: Day, start: dt.time, coach: Person | None) -> GymClass:
    """The day's class at a time, made when it is not there yet."""
    db.execute(
        insert(GymClass)
        .values(day_id=day.id, start=start, coach_id=coach.id if coach else None)
        .on_conflict_do_nothing(index_elements=["day_id", "start"])
    )
    query = select(GymClass).where(GymClass.day_id == day.id, GymClass.start == start)
    return db.scalars(query).unique().one()


def set_here(db: Session, class_: GymClass, person_id: int, here: bool) -> None:
    """Mark somebody as here or not; twice is as good as once."""
    if here:
        row = insert(Attendance).values(class_id=class_.id, person_id=person_id)
        db.execute(row.on_conflict_do_nothing())
    else:
        gone = delete(Attendance).where(
            Attendance.class_id == class_.id, Attendance.person_id == person_id
        )
        db.execute(gone)
    db.flush()
    db.refresh(class_)
    tell(db, what="class", class_id=class_.id)


class StaleGroups(Exception):
    """Somebody has set the heats or teams since they were read."""


def set_groups(
    db: Session, class_: GymClass, key: str, what: str, groups: Groups, version: int
) -> None:
    """Keep heats or teams as set by hand; an empty list goes back to the proposal.

    Raises StaleGroups when they are no longer at the version that was read.
    """
    made = insert(GroupsRow).values(
        class_id=class_.id, piece_id=id_of(key), what=what, groups=groups, version=version + 1
    )
    if version:
        keep = made.on_conflict_do_update(
            index_elements=["class_id", "piece_id", "what"],
            set_={"groups": groups, "version": version + 1},
            where=GroupsRow.version == version,
        )
    else:
        keep = made.on_conflict_do_nothing()
    if db.execute(keep.returning(GroupsRow.version)).first() is None:
        raise StaleGroups
    db.expire_all()
    tell(db, what="class", class_id=class_.id)


class JotKeyTaken(Exception):
    """A key that this person's device gave to another note."""


def land(db: Session, day: Day, piece_key: str, jots: Iterable[Noted], by: Person) -> int:
    """Keep jots, each key once however often it is sent; how many were new.

    A key belongs to who notes: it meets nobody else's. Raises JotKeyTaken when the same person
    sends it again with another content. A note that is dated after its arrival, by a device whose
    clock is fast, is dated at its arrival.
    """
    new, piece_id = 0, id_of(piece_key)
    arrival = db.scalar(select(func.clock_timestamp()))
    assert arrival is not None
    # What a device sends at once arrives in the order in which it was noted.
    for sent in sorted(jots, key=lambda jot: jot.noted_at):
        jot = sent._replace(noted_at=min(sent.noted_at, arrival))
        row = insert(Jot).values(piece_id=piece_id, by_id=by.id, **jot._asdict())
        landed = db.execute(row.on_conflict_do_nothing().returning(Jot.key)).first()
        new += landed is not None
        if landed is None:
            kept = db.get_one(Jot, (by.id, jot.key))
            same = (kept.piece_id, kept.person_id, kept.round, kept.number)
            if same != (piece_id, jot.person_id, jot.round, jot.number):
                raise JotKeyTaken(jot.key)
    if new:
        tell(db, what="jots", date=day.date.isoformat(), piece=piece_key)
    return new


def note_effort(
    db: Session, day: Day, person: Person, effort: float, minutes: int, note: str
) -> EffortRow:
    """Keep how hard a session was for somebody; the newest note holds."""
    values = {"effort": effort, "minutes": minutes, "note": note, "saved_at": func.now()}
    row = insert(EffortRow).values(day_id=day.id, person_id=person.id, **values)
    db.execute(row.on_conflict_do_update(index_elements=["day_id", "person_id"], set_=values))
    return db.get_one(EffortRow, (day.id, person.id), populate_existing=True)


def keep_classes(db: Session, weekly: Sequence[Iterable[Slot]]) -> None:
    """Have the weekly classes be these; classes that were held stay."""
    line = gym_of(db).programme.id
    db.execute(delete(ClassTime).where(ClassTime.programme_id == line))
    db.add_all(
        ClassTime(programme_id=line, weekday=day, **slot._asdict())
        for day, own in enumerate(weekly)
        for slot in own
    )
    db.flush()
