"""A few members wear straps: who, and how long their hearts were where over the weeks."""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.heart import Target, asked
from pine_ladder.core.athletes.members import Profile
from pine_ladder.core.clock import clock
from pine_ladder.core.movements import library
from pine_ladder.demo import people as cast
from pine_ladder.store.days.pieces import held_by
from pine_ladder.store.models import Attendance, Day, GymClass, Person, Strap
from pine_ladder.usecases.hearts import add_seconds

SEED = 1861
USUAL_S = 480
"""Seconds of a piece that has no length of its own."""
WARMS_UP_S = 90
SPREAD = 5.0
"""Beats a minute a heart strays within a piece."""


def straps(db: Session, people: Sequence[Person]) -> None:
    """Who wears which strap."""
    numbers = {person.name: person.id for person in people}
    for number, name in enumerate(cast.STRAPPED, start=1):
        db.add(Strap(number=number, person_id=numbers[name]))


def seconds_of_weeks(db: Session, people: Sequence[Person], but: Day | None) -> None:
    """The seconds kept of every day but one, of those who wore their strap to class."""
    profiles = {
        person.id: Profile.model_validate(cast.told(person.name))
        for person in people
        if person.name in cast.STRAPPED
    }
    shelf = library()
    for day in db.scalars(select(Day).where(Day.published).order_by(Day.date)).all():
        here = db.scalars(
            select(Attendance.person_id)
            .join(GymClass, GymClass.id == Attendance.class_id)
            .where(GymClass.day_id == day.id, Attendance.person_id.in_(profiles))
        ).all()
        if day is but or not here:
            continue
        for held in held_by(db, day, shelf):
            if held.piece is None:
                continue
            length = clock(held.piece).total_s or USUAL_S
            for person in here:
                known = profiles[person]
                range_ = asked(held.piece, shelf, known.heart, known.born, day.date.year)
                if range_ is not None:
                    chance = random.Random(f"{SEED}/{held.key}/{person}")
                    add_seconds(db, {(person, held.row.id): _beats(range_, length, chance)})


def _beats(range_: Target, length_s: int, chance: random.Random) -> Counter[int]:
    """Seconds at each rate: up from below the range, then about a rate that is not always in it."""
    middle = (range_.low + range_.high) / 2
    holds = chance.gauss(middle + (8 if range_.effort == "easy" else 0), 8)
    begins, found = range_.low - 25, Counter[int]()
    for second in range(length_s):
        risen = min(1.0, second / WARMS_UP_S)
        found[round(begins + (holds - begins) * risen + chance.gauss(0, SPREAD))] += 1
    return found
