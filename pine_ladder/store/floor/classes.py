"""The floor: classes of a day, who is here, heats and teams, what was jotted, how hard it was."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot, classes_text
from pine_ladder.store.boards.pieces import id_of
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    ClassPlan,
    ClassTime,
    Day,
    EffortRow,
    GroupsRow,
    GymClass,
    Jot,
    Person,
)

AWAY = dt.timedelta(weeks=4)
"""After so long without a class an athlete is returning."""


def open_class(db: Session, day: Day, start: dt.time, coach: Person | None) -> GymClass:
    """The day's class at a time, made when it is not there yet."""
    db.execute(
        insert(GymClass)
        .values(day_id=day.id, start=start, coach_id=coach.id if coach else None)
        .on_conflict_do_nothing(index_elements=["day_id", "start"])
    )
    query = select(GymClass).where(GymClass.day_id == day.id, GymClass.start == start)
    return db.scalars(query).unique().one()


def weekly_slots(db: Session, weekday: int) -> list[Slot]:
    """The programme's classes of every such weekday (0 is Monday), in order."""
    query = select(ClassTime).where(
        ClassTime.weekday == weekday, ClassTime.programme_id == gym_of(db).programme.id
    )
    found = db.scalars(query.order_by(ClassTime.start))
    return [Slot(one.start, one.minutes, one.size, one.place) for one in found]


def weekly_starts(db: Session, weekday: int) -> list[dt.time]:
    """The starts of the programme's classes of every such weekday."""
    return [slot.start for slot in weekly_slots(db, weekday)]


def planned_starts(db: Session, date: dt.date) -> list[dt.time]:
    """The class times of a date: the week's but for those cancelled, and those beside them."""
    line = gym_of(db).programme.id
    weekly = set(weekly_starts(db, date.weekday()))
    own = select(ClassPlan).where(ClassPlan.date == date, ClassPlan.programme_id == line)
    for plan in db.scalars(own):
        weekly = weekly - {plan.start} if plan.cancelled else weekly | {plan.start}
    return sorted(weekly)


def set_here(db: Session, held: GymClass, person_id: int, here: bool) -> None:
    """Mark somebody as here or not; twice is as good as once."""
    if here:
        row = insert(Attendance).values(class_id=held.id, person_id=person_id)
        db.execute(row.on_conflict_do_nothing())
    else:
        gone = delete(Attendance).where(
            Attendance.class_id == held.id, Attendance.person_id == person_id
        )
        db.execute(gone)
    db.flush()
    db.refresh(held)
    tell(db, what="class", class_id=held.id)


def last_seen(db: Session, before: dt.date) -> dict[int, dt.date]:
    """When each athlete was last in a class before a date."""
    query = (
        select(Attendance.person_id, func.max(Day.date))
        .join(GymClass, GymClass.id == Attendance.class_id)
        .join(Day, Day.id == GymClass.day_id)
        .where(Day.date < before)
        .group_by(Attendance.person_id)
    )
    return {person: date for person, date in db.execute(query)}


class StaleGroups(Exception):
    """Somebody has set the heats or teams since they were read."""


Groups = list[list[int]]


def groups_of(db: Session, held: GymClass, key: str, what: str) -> tuple[Groups, int]:
    """Heats or teams of a class on a piece as set by hand (none: as proposed), and the version."""
    row = db.get(GroupsRow, (held.id, id_of(key), what))
    return (row.groups, row.version) if row else ([], 0)


def set_groups(
    db: Session, held: GymClass, key: str, what: str, groups: Groups, version: int
) -> None:
    """Keep heats or teams as set by hand; an empty list goes back to the proposal.

    Raises StaleGroups when they are no longer at the version that was read.
    """
    made = insert(GroupsRow).values(
        class_id=held.id, piece_id=id_of(key), what=what, groups=groups, version=version + 1
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
    tell(db, what="class", class_id=held.id)


def team_of(db: Session, key: str, person_id: int) -> list[int]:
    """The team an athlete is in on a piece, by any class of the day; empty where in none."""
    query = select(GroupsRow.groups).where(
        GroupsRow.piece_id == id_of(key), GroupsRow.what == "teams"
    )
    for groups in db.scalars(query.order_by(GroupsRow.class_id)):
        for team in groups:
            if person_id in team:
                return [int(one) for one in team]
    return []


class Noted(NamedTuple):
    """A jot as a device sends it; `number` None takes the round's back."""

    key: str
    person_id: int
    round: int
    number: float | None
    noted_at: dt.datetime


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


def jots_of(db: Session, piece_key: str) -> dict[int, dict[int, float]]:
    """What stands jotted of a piece: by athlete and round, the note of each that arrived last.

    The order of arrival decides, not the clocks of the devices, which differ.
    """
    query = select(Jot).where(Jot.piece_id == id_of(piece_key))
    out: dict[int, dict[int, float]] = {}
    for jot in db.scalars(query.order_by(Jot.arrived)):
        rounds = out.setdefault(jot.person_id, {})
        if jot.number is None:
            rounds.pop(jot.round, None)
        else:
            rounds[jot.round] = jot.number
    return {person: rounds for person, rounds in out.items() if rounds}


def note_effort(
    db: Session, day: Day, person: Person, effort: float, minutes: int, note: str
) -> EffortRow:
    """Keep how hard a session was for somebody; the newest note holds."""
    values = {"effort": effort, "minutes": minutes, "note": note, "saved_at": func.now()}
    row = insert(EffortRow).values(day_id=day.id, person_id=person.id, **values)
    db.execute(row.on_conflict_do_update(index_elements=["day_id", "person_id"], set_=values))
    return db.get_one(EffortRow, (day.id, person.id), populate_existing=True)


def loads_of(db: Session, person_id: int, first: dt.date) -> dict[dt.date, float]:
    """Session loads of an athlete (effort times minutes) by date since `first`."""
    query = (
        select(Day.date, func.sum(EffortRow.effort * EffortRow.minutes))
        .join(Day, Day.id == EffortRow.day_id)
        .where(EffortRow.person_id == person_id, Day.date >= first)
        .group_by(Day.date)
    )
    return {date: float(load) for date, load in db.execute(query)}


def classes_of(db: Session) -> list[str]:
    """The weekly classes from Monday on, a text a day."""
    return [classes_text(weekly_slots(db, weekday)) for weekday in range(7)]


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
