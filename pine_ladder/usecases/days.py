"""Days: saving a board without ever overwriting somebody else's, showing, moving, keeping it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.week.balance import on_date
from pine_ladder.store.days.days import find_day, has_scores
from pine_ladder.store.days.pieces import ASIDE, keys_of
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
)
from pine_ladder.usecases.piece_matching import settle


class Stale(Exception):
    """The day has been saved by someone else since it was read; holds the newer one, if any."""

    def __init__(self, newer: Day | None) -> None:
        super().__init__("saved by someone else in the meantime")
        self.newer = newer


def save_day(
    db: Session,
    date: dt.date,
    text: str,
    version: int,
    person: Person | None,
    answers: Mapping[str, int] | None = None,
) -> Day:
    """Save a board read at `version` (0 for a new day).

    `answers` say where pieces went that scores or jots hang on (`usecases.settling`).
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


def publish(db: Session, day: Day, published: bool, version: int) -> None:
    """Show a day to the athletes or take it back; raises Stale when it is not at that version."""
    db.refresh(day, with_for_update={"of": Day})
    if day.version != version:
        raise Stale(day)
    day.published = published
    db.flush()
    tell(db, what="day", date=day.date.isoformat())


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


def keep_piece(db: Session, name: str, text: str) -> KeptPiece | None:
    """Keep a piece under a name; None where one of that name, however it is spelled, is kept."""
    said = select(KeptPiece.id).where(func.lower(KeptPiece.name) == name.lower())
    if db.scalars(said).first() is not None:
        return None
    made = insert(KeptPiece).values(name=name, text=text).on_conflict_do_nothing()
    number = db.scalars(made.returning(KeptPiece.id)).first()
    return db.get_one(KeptPiece, number) if number else None


def keep_board(db: Session, name: str, text: str) -> BankedBoard | None:
    """Keep a board under a name; None where the bank has one of that name."""
    made = insert(BankedBoard).values(name=name, text=text).on_conflict_do_nothing()
    number = db.scalars(made.returning(BankedBoard.id)).first()
    return db.get_one(BankedBoard, number) if number else None


def _locked(db: Session, date: dt.date, programme: Programme) -> Day | None:
    query = (
        select(Day)
        .where(Day.date == date, Day.programme_id == programme.id)
        .with_for_update(of=Day)
        .execution_options(populate_existing=True)
    )
    return db.scalars(query).unique().one_or_none()
