"""Days: reading a board, saving it without ever overwriting somebody else's."""

from __future__ import annotations

import datetime as dt
from functools import lru_cache

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse
from pine_ladder.core.outline import piece_keys
from pine_ladder.core.scoring import Score, score_kind
from pine_ladder.core.shorthand import read_score
from pine_ladder.core.week import on_date, uses
from pine_ladder.store.models import Day, Gym, GymClass, Person, Programme, ScoreRow


class Stale(Exception):
    """The day has been saved by someone else since it was read; holds the newer one, if any."""

    def __init__(self, newer: Day | None) -> None:
        super().__init__("saved by someone else in the meantime")
        self.newer = newer


def the_gym(db: Session) -> Gym:
    """The gym; LookupError before one is set up."""
    gym = db.scalars(select(Gym)).first()
    if gym is None:
        raise LookupError("no gym yet: run pine-ladder gym init")
    return gym


def main_programme(db: Session) -> Programme:
    """The gym's first programme."""
    return db.scalars(select(Programme).order_by(Programme.id)).first() or _no_programme()


def _no_programme() -> Programme:
    raise LookupError("no programme yet: run pine-ladder gym init")


def find_day(db: Session, date: dt.date, programme: Programme | None = None) -> Day | None:
    """The day of a programme (the main one if none is named), or None."""
    programme = programme or main_programme(db)
    query = select(Day).where(Day.date == date, Day.programme_id == programme.id)
    return db.scalars(query).unique().one_or_none()


def days_between(db: Session, first: dt.date, last: dt.date) -> list[Day]:
    """The main programme's days from `first` to `last`, both included, in order."""
    query = (
        select(Day)
        .where(Day.date.between(first, last), Day.programme_id == main_programme(db).id)
        .order_by(Day.date)
    )
    return list(db.scalars(query).unique())


def save_day(db: Session, date: dt.date, text: str, version: int, person: Person | None) -> Day:
    """Save a board read at `version` (0 for a new day); raises Stale when it is no longer that."""
    programme = main_programme(db)
    query = (
        select(Day)
        .where(Day.date == date, Day.programme_id == programme.id)
        .with_for_update(of=Day)
        .execution_options(populate_existing=True)
    )
    day = db.scalars(query).unique().one_or_none()
    if (day.version if day else 0) != version:
        raise Stale(day)
    if day is None:
        day = Day(programme_id=programme.id, date=date, text=text, saved_by=person)
        db.add(day)
        try:
            db.flush()
        except IntegrityError:
            db.rollback()
            raise Stale(find_day(db, date)) from None
        return day
    before, day.text = day.text, text
    day.version = version + 1
    day.saved_by, day.saved_at = person, func.now()
    db.flush()
    _carry_scores(db, day, before)
    db.refresh(day)
    return day


def _scored_keys(text: str) -> list[str]:
    session = parse(text).session
    return [
        key
        for key, piece in zip(piece_keys(session), session.pieces, strict=True)
        if score_kind(piece) is not None
    ]


def _carry_scores(db: Session, day: Day, before: str) -> None:
    """Keep scores with their piece when it is renamed, and read them by the new board."""
    rows = list(db.scalars(select(ScoreRow).where(ScoreRow.day_id == day.id)).unique())
    if not rows:
        return
    old, new = _scored_keys(before), _scored_keys(day.text)
    renamed = {}
    if len(old) == len(new):
        renamed = {a: b for a, b in zip(old, new, strict=True) if a not in new and b not in old}
    session = parse(day.text).session
    pieces = dict(zip(piece_keys(session), session.pieces, strict=True))
    for row in rows:
        row.piece_key = renamed.get(row.piece_key, row.piece_key)
        piece = pieces.get(row.piece_key)
        if piece is None:
            continue
        fill(row, read_score(row.entered, piece, row.tier.position, row.track.position))
    db.flush()


def fill(row: ScoreRow, score: Score) -> None:
    """Put what was understood of an entry into its row."""
    row.kind, row.value, row.display = score.kind.value, score.value, score.display
    row.order_key, row.reps = score.order_key, score.total_reps
    row.rounds = score.rounds.model_dump(mode="json") if score.rounds else None


def has_scores(db: Session, day: Day) -> bool:
    """True when any score has been kept for the day."""
    return (
        db.scalars(select(ScoreRow.id).where(ScoreRow.day_id == day.id).limit(1)).first()
        is not None
    )


class Scored(Exception):
    """The day holds scores, so its board is not moved or cleared away from under them."""


def clear_day(db: Session, date: dt.date, version: int, person: Person | None) -> Day:
    """Empty a day's board; raises Scored or Stale."""
    day = find_day(db, date)
    if day is not None and has_scores(db, day):
        raise Scored
    return save_day(db, date, "", version, person)


def place_board(db: Session, text: str, to: dt.date, version: int, person: Person | None) -> Day:
    """Write a board's text on an empty day, with its date line changed; may raise Stale.

    A day that holds a board is never written over: raises FileExistsError.
    """
    target = find_day(db, to)
    if target is not None and target.text.strip():
        raise FileExistsError
    return save_day(db, to, on_date(text, to), version, person)


def classes_of(db: Session, day: Day) -> list[GymClass]:
    """The day's classes by start time."""
    query = select(GymClass).where(GymClass.day_id == day.id).order_by(GymClass.start)
    return list(db.scalars(query).unique())


@lru_cache(maxsize=4096)
def _uses(text: str, shelf: Library) -> frozenset[str]:
    return frozenset(uses(parse(text, shelf).session, shelf))


def known_movements(db: Session, shelf: Library, before: dt.date) -> frozenset[str]:
    """Movements on any board published before a date."""
    texts = db.scalars(select(Day.text).where(Day.published, Day.date < before))
    return frozenset().union(*(_uses(text, shelf) for text in texts))
