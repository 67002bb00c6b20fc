"""Reading saved boards again: after an upgrade of the reader, and when the gym's words change."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from typing import NamedTuple

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from pine_ladder.core.notation import READER
from pine_ladder.store.models import Day, PieceRow, ScoreRow
from pine_ladder.usecases.piece_matching import settle


class Reread(NamedTuple):
    """A day that reads otherwise than before: its pieces' titles, and how many scores changed."""

    date: dt.date
    before: tuple[str, ...]
    after: tuple[str, ...]
    scores: int


def reread_boards(db: Session) -> list[Reread]:
    """Read every board that an older reader read; the days that changed, oldest first.

    Scores are read again by their pieces as they are now. A piece that a board no longer has is
    set aside with its scores.
    """
    old = select(Day).where(Day.reader < READER).order_by(Day.date, Day.id)
    return _reread(db, db.scalars(old).unique().all())


def reread_mentioning(db: Session, names: Iterable[str]) -> list[Reread]:
    """Read the boards that name one of these movements again, as their meaning has changed."""
    mentioned = [Day.text.icontains(name.split()[-1], autoescape=True) for name in names if name]
    if not mentioned:
        return []
    query = select(Day).where(or_(*mentioned)).order_by(Day.date, Day.id)
    return _reread(db, db.scalars(query).unique().all())


def _reread(db: Session, days: Iterable[Day]) -> list[Reread]:
    changed = []
    for day in days:
        before, scores = _titles(db, day), _displays(db, day)
        settle(db, day, {})
        after, now = _titles(db, day), _displays(db, day)
        different = sum(1 for number, shown in now.items() if scores.get(number) != shown)
        if before != after or different:
            changed.append(Reread(day.date, before, after, different))
    return changed


def _titles(db: Session, day: Day) -> tuple[str, ...]:
    query = select(PieceRow.title).where(PieceRow.day_id == day.id, PieceRow.position.is_not(None))
    return tuple(db.scalars(query.order_by(PieceRow.position)))


def _displays(db: Session, day: Day) -> dict[int, str]:
    query = select(ScoreRow.id, ScoreRow.display).where(ScoreRow.day_id == day.id)
    return {number: display for number, display in db.execute(query)}
