"""Days: reading a board, saving it without ever overwriting somebody else's."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache

from sqlalchemy import func, or_, select
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library
from pine_ladder.core.week.balance import uses
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    Day,
    GymClass,
    Programme,
    ScoreRow,
)

_PARTS = re.compile(r"[^\W_]+")


def find_day(db: Session, date: dt.date) -> Day | None:
    """The programme's day of a date, or None."""
    said = gym_of(db).programme_id
    own = said if said is not None else select(func.min(Programme.id)).scalar_subquery()
    query = select(Day).where(Day.date == date, Day.programme_id == own)
    return db.scalars(query).unique().one_or_none()


def days_between(db: Session, first: dt.date, last: dt.date) -> list[Day]:
    """The programme's days from `first` to `last`, both included, in order."""
    query = (
        select(Day)
        .where(Day.date.between(first, last), Day.programme_id == gym_of(db).programme.id)
        .order_by(Day.date)
    )
    return list(db.scalars(query).unique())


def has_scores(db: Session, day: Day) -> bool:
    """True when any score has been kept for the day."""
    return (
        db.scalars(select(ScoreRow.id).where(ScoreRow.day_id == day.id).limit(1)).first()
        is not None
    )


def held_among(db: Session, days: Sequence[Day]) -> set[dt.date]:
    """The dates of those of some days that somebody came to or has a score on."""
    ids = [day.id for day in days]
    scored = select(ScoreRow.day_id).where(ScoreRow.day_id.in_(ids))
    came = select(GymClass.day_id).join(Attendance).where(GymClass.day_id.in_(ids))
    held = set(db.scalars(scored.union(came)))
    return {day.date for day in days if day.id in held}


def earlier_days(
    db: Session,
    words: Iterable[str] = (),
    spelled: Iterable[str] = (),
    programme: str | None = None,
    since: dt.date | None = None,
    until: dt.date | None = None,
) -> Iterator[Day]:
    """Written days, the newest first, whose text holds all `words` and any of `spelled`.

    Between the words of a name anything may stand: push-up is found as push ups as well.
    """
    query = select(Day).where(Day.text != "").order_by(Day.date.desc(), Day.programme_id)
    for word in words:
        query = query.where(Day.text.icontains(word, autoescape=True))
    if any_of := [Day.text.ilike(f"%{'%'.join(_PARTS.findall(name))}%") for name in spelled]:
        query = query.where(or_(*any_of))
    if programme is not None:
        query = query.join(Programme).where(Programme.name == programme)
    if since is not None:
        query = query.where(Day.date >= since)
    if until is not None:
        query = query.where(Day.date <= until)
    yield from db.scalars(query.execution_options(yield_per=20))


def classes_of(db: Session, day: Day) -> list[GymClass]:
    """The day's classes by start time."""
    query = select(GymClass).where(GymClass.day_id == day.id).order_by(GymClass.start)
    return list(db.scalars(query).unique())


@lru_cache(maxsize=4096)
def _uses(text: str, shelf: Library) -> frozenset[str]:
    return frozenset(uses(read_board(text, shelf).session, shelf))


LATELY = dt.timedelta(weeks=12)
"""How long a movement stays known without being on a board: longer ago it is explained again."""


def known_movements(
    db: Session, shelf: Library, before: dt.date, since: dt.date = dt.date.min
) -> frozenset[str]:
    """Movements on any board published before a date, and not before another."""
    held = Day.date.between(since, before - dt.timedelta(days=1))
    texts = db.scalars(select(Day.text).where(Day.published, held))
    return frozenset().union(*(_uses(text, shelf) for text in texts))


def published_texts(db: Session, until: dt.date) -> list[str]:
    """The boards that athletes could see on or before a date, of all programmes."""
    return list(db.scalars(select(Day.text).where(Day.published, Day.date <= until)))


def written_by_programme(db: Session) -> dict[int, int]:
    """How many days with a board each programme has, by its id."""
    query = select(Day.programme_id, func.count(Day.id)).where(Day.text != "")
    return {one: count for one, count in db.execute(query.group_by(Day.programme_id))}
