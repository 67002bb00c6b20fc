"""The floor: classes of a day, who is here, heats and teams, what was jotted, how hard it was."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import Slot, classes_text
from pine_ladder.core.day.closing import ClassSeason, Closing, closed_on, season_on
from pine_ladder.store.days.pieces import id_of
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
)

AWAY = dt.timedelta(weeks=4)
"""After so long without a class an athlete is returning."""


def weekly_slots(db: Session, weekday: int) -> list[Slot]:
    """The programme's classes of every such weekday (0 is Monday), in order."""
    query = select(ClassTime).where(
        ClassTime.weekday == weekday, ClassTime.programme_id == gym_of(db).programme.id
    )
    found = db.scalars(query.order_by(ClassTime.start))
    return [Slot(one.start, one.minutes, one.size, one.place) for one in found]


CLOSED = "closed"
"""The setting that holds the days on which the gym is closed."""


def closings(db: Session) -> list[Closing]:
    """The days on which the gym is closed."""
    return [Closing.model_validate(one) for one in gym_of(db).row.settings.get(CLOSED, ())]


SEASONS = "seasons"
"""The setting that holds each programme's seasons, by the programme's id."""


def seasons(db: Session) -> list[ClassSeason]:
    """The programme's seasons of other classes."""
    gym = gym_of(db)
    kept = gym.row.settings.get(SEASONS, {}).get(str(gym.programme.id), ())
    return [ClassSeason.model_validate(one) for one in kept]


def keep_seasons(db: Session, wanted: Iterable[ClassSeason]) -> None:
    """Keep the programme's seasons in place of those it had."""
    gym = gym_of(db)
    own = {str(gym.programme.id): [season.model_dump(mode="json") for season in wanted]}
    gym.row.settings = {**gym.row.settings, SEASONS: {**gym.row.settings.get(SEASONS, {}), **own}}


def slots_on(db: Session, date: dt.date) -> list[Slot]:
    """The programme's classes of the week that are held on a date, those of a season in it: none
    where the gym is closed.
    """
    if closed_on(date, closings(db)):
        return []
    season = season_on(date, seasons(db))
    return list(season.slots(date.weekday())) if season else weekly_slots(db, date.weekday())


def weekly_starts(db: Session, weekday: int) -> list[dt.time]:
    """The starts of the programme's classes of every such weekday."""
    return [slot.start for slot in weekly_slots(db, weekday)]


def planned_starts(db: Session, date: dt.date) -> list[dt.time]:
    """The class times of a date: the week's but for those cancelled, and those beside them."""
    line = gym_of(db).programme.id
    weekly = {slot.start for slot in slots_on(db, date)}
    own = select(ClassPlan).where(ClassPlan.date == date, ClassPlan.programme_id == line)
    for plan in db.scalars(own):
        weekly = weekly - {plan.start} if plan.cancelled else weekly | {plan.start}
    return sorted(weekly)


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


Groups = list[list[int]]


def groups_of(db: Session, class_: GymClass, key: str, what: str) -> tuple[Groups, int]:
    """Heats or teams of a class on a piece as set by hand (none: as proposed), and the version."""
    row = db.get(GroupsRow, (class_.id, id_of(key), what))
    return (row.groups, row.version) if row else ([], 0)


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


def jots_of(db: Session, piece_key: str) -> dict[int, dict[int, float]]:
    """What stands jotted of a piece: by athlete and round, the note of each that arrived last.

    The order of arrival decides, not the clocks of the devices, which differ.
    """
    last = (
        select(Jot.person_id, Jot.round, Jot.number)
        .where(Jot.piece_id == id_of(piece_key))
        .ext(distinct_on(Jot.person_id, Jot.round))
        .order_by(Jot.person_id, Jot.round, Jot.arrived.desc())
    )
    out: dict[int, dict[int, float]] = {}
    for person, round_, number in db.execute(last):
        if number is not None:
            out.setdefault(person, {})[round_] = number
    return out


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


def class_times(db: Session) -> list[ClassTime]:
    """The programme's weekly times in order."""
    own = ClassTime.programme_id == gym_of(db).programme.id
    query = select(ClassTime).where(own).order_by(ClassTime.weekday, ClassTime.start)
    return list(db.scalars(query))
