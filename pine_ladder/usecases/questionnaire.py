"""Tables of bests, class times and kit taken into the gym."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.questionnaire import (
    Best,
    IntakeLine,
    Rows,
    read_bests,
    read_class_times,
    read_kit,
)
from pine_ladder.store.athletes.members import profile_of
from pine_ladder.store.floor.classes import weekly_starts
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import ClassTime, Kit, Person, ProfileRow
from pine_ladder.usecases.profiles import save_profile

Table = tuple[Sequence[str], Rows]


def take_in(db: Session, name: str, table: Table, by: Person, keep: bool) -> list[IntakeLine]:
    """A table of `bests`, `classes` or `kit` line by line, and kept where `keep` says so.

    ValueError for a table without its columns.
    """
    if name == "kit":
        return _kit(db, table, keep)
    return _classes(db, table, keep) if name == "classes" else _bests(db, table, by, keep)


def _kit(db: Session, table: Table, keep: bool) -> list[IntakeLine]:
    owned = {kit.name: kit for kit in db.scalars(select(Kit))}
    lines, found = read_kit(*table, {name: kit.count for name, kit in owned.items()})
    for name, count in found.items() if keep else ():
        if name in owned:
            owned[name].count = count
        else:
            db.add(Kit(name=name, count=count))
    db.flush()
    return lines


def _classes(db: Session, table: Table, keep: bool) -> list[IntakeLine]:
    weekly: list[list[dt.time]] = [weekly_starts(db, weekday) for weekday in range(7)]
    lines, found = read_class_times(*table, weekly)
    if keep:
        line = gym_of(db).programme.id
        db.add_all(
            ClassTime(programme_id=line, weekday=day, **slot._asdict()) for day, slot in found
        )
        db.flush()
    return lines


def _bests(db: Session, table: Table, by: Person, keep: bool) -> list[IntakeLine]:
    people = [(n, name) for n, name in db.execute(select(Person.id, Person.name))]
    known: dict[tuple[int, str, bool], float] = {}
    for row in db.scalars(select(ProfileRow)):
        for field, loaded in (("bests", True), ("longest", False)):
            for movement, number in (row.record.get(field) or {}).items():
                known[row.person_id, movement, loaded] = number
    lines, found = read_bests(*table, people, known, gym_of(db).movements_as_written)
    of: dict[int, list[Best]] = {}
    for best in found if keep else ():
        of.setdefault(best.person, []).append(best)
    for person, own in of.items():
        profile, version = profile_of(db, person)
        loads = {best.movement: best.number for best in own if best.loaded}
        sets = {best.movement: best.number for best in own if not best.loaded}
        record = profile.model_dump(mode="json") | {
            "bests": {**profile.bests, **loads},
            "longest": {**profile.longest, **sets},
        }
        save_profile(db, person, type(profile).model_validate(record), version, by)
    return lines
