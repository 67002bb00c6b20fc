"""Days: reading a board, saving it without ever overwriting somebody else's."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache

from sqlalchemy import func, or_, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library
from pine_ladder.core.week.balance import on_date, uses
from pine_ladder.store.boards.pieces import ASIDE, keys_of, read_board, settle
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    BankedBoard,
    Day,
    GymClass,
    KeptPiece,
    Person,
    Programme,
    ScoreRow,
)

_PARTS = re.compile(r"[^\W_]+")


class Stale(Exception):
    """The day has been saved by someone else since it was read; holds the newer one, if any."""

    def __init__(self, newer: Day | None) -> None:
        super().__init__("saved by someone else in the meantime")
        self.newer = newer


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


def save_day(
    db: Session,
    date: dt.date,
    text: str,
    version: int,
    person: Person | None,
    answers: Mapping[str, int] | None = None,
) -> Day:
    """Save a board read at `version` (0 for a new day).

    `answers` say where pieces went that scores or jots hang on (`store.boards.pieces.settle`).
    Raises Stale when the day is no longer at that version, Asked when an answer is missing.
    """
    programme = gym_of(db).programme
    day = _locked(db, date, programme)
    if (day.version if day else 0) != version:
        raise Stale(day)
    if day is None:
        made = insert(Day).values(
            programme_id=programme.id,
            date=date,
            text="",
            version=0,
            saved_by_id=person.id if person else None,
        )
        db.execute(made.on_conflict_do_nothing(index_elements=["programme_id", "date"]))
        day = _locked(db, date, programme)
        assert day is not None
        if day.version:
            raise Stale(day)
    day.text, day.version = text, version + 1
    day.saved_by, day.saved_at = person, func.now()
    settle(db, day, answers or {}, asks=True)
    db.flush()
    tell(db, what="day", date=date.isoformat())
    db.refresh(day)
    return day


def _locked(db: Session, date: dt.date, programme: Programme) -> Day | None:
    query = (
        select(Day)
        .where(Day.date == date, Day.programme_id == programme.id)
        .with_for_update(of=Day)
        .execution_options(populate_existing=True)
    )
    return db.scalars(query).unique().one_or_none()


def publish(db: Session, day: Day, published: bool, version: int) -> None:
    """Show a day to the athletes or take it back; raises Stale when it is not at that version."""
    db.refresh(day, with_for_update={"of": Day})
    if day.version != version:
        raise Stale(day)
    day.published = published
    db.flush()
    tell(db, what="day", date=day.date.isoformat())


def has_scores(db: Session, day: Day) -> bool:
    """True when any score has been kept for the day."""
    return (
        db.scalars(select(ScoreRow.id).where(ScoreRow.day_id == day.id).limit(1)).first()
        is not None
    )


def clear_day(
    db: Session, date: dt.date, version: int, person: Person | None, aside: bool = False
) -> Day:
    """Empty a day's board; raises Stale, and Asked where scores or jots hang on its pieces.

    With `aside` those pieces are set aside with all that hangs on them.
    """
    day = find_day(db, date)
    answers = dict.fromkeys(keys_of(db, day), ASIDE) if day and aside else {}
    return save_day(db, date, "", version, person, answers)


class Taken(Exception):
    """The day to move to has been written, scored or visited already."""


def move_day(db: Session, day: Day, to: dt.date, version: int, person: Person | None) -> Day:
    """Move a day with everything that hangs on it to a date that holds nothing; the day there.

    `version` is the one read of the date moved to. Raises Stale and Taken.
    """
    programme = gym_of(db).programme
    # In the order of the dates, so that two moves across each other do not wait for ever.
    first, second = sorted((day.date, to))
    found = {date: _locked(db, date, programme) for date in (first, second)}
    there = found[to]
    if (there.version if there else 0) != version:
        raise Stale(there)
    if there is not None:
        visited = select(GymClass.id).join(Attendance).where(GymClass.day_id == there.id).limit(1)
        if there.text.strip() or has_scores(db, there) or db.execute(visited).first():
            raise Taken
        db.delete(there)
        db.flush()
    keys = keys_of(db, day)
    left = Day(programme_id=programme.id, date=day.date, text="", saved_by=person)
    # Versions of a date never begin again, neither here nor there.
    left.version, day.version = day.version + 1, max(day.version, version) + 1
    day.date, day.text = to, on_date(day.text, to)
    day.saved_by, day.saved_at = person, func.now()
    db.flush()
    db.add(left)
    settle(db, day, {key: place for place, key in enumerate(keys)})
    db.refresh(day)
    return day


def place_board(db: Session, text: str, to: dt.date, version: int, person: Person | None) -> Day:
    """Write a board's text on an empty day, with its date line changed; may raise Stale.

    A day that holds a board is never written over: raises FileExistsError.
    """
    target = find_day(db, to)
    if target is not None and target.text.strip():
        raise FileExistsError
    return save_day(db, to, on_date(text, to), version, person)


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


def keep_piece(db: Session, name: str, text: str) -> KeptPiece | None:
    """Keep a piece under a name; None where one of that name, however it is spelled, is kept."""
    said = select(KeptPiece.id).where(func.lower(KeptPiece.name) == name.lower())
    if db.scalars(said).first() is not None:
        return None
    made = insert(KeptPiece).values(name=name, text=text).on_conflict_do_nothing()
    number = db.scalars(made.returning(KeptPiece.id)).first()
    return db.get_one(KeptPiece, number) if number else None


def bank(db: Session, name: str, text: str) -> BankedBoard | None:
    """Keep a board under a name; None where the bank has one of that name."""
    made = insert(BankedBoard).values(name=name, text=text).on_conflict_do_nothing()
    number = db.scalars(made.returning(BankedBoard.id)).first()
    return db.get_one(BankedBoard, number) if number else None


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
