"""Pieces of saved days: each has an identity of its own, and everything kept hangs on it.

A key is that identity as text. When a board is saved, its pieces are matched to those of before
(`core.day.pieces`); where scores or jots hang on a piece whose fate is not certain, the coach is
asked before anything is saved.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.day.piece_matching import match
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import Parsed, parse
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Day,
    PieceRow,
)

ASIDE = -1
"""The answer that sets a piece aside: its scores stay with it as it was."""
LONGEST_KEY = 10

Why = Literal["gone", "doubt", "unreadable"]


@lru_cache(maxsize=4096)
def read_board(board: str, shelf: Library) -> Parsed:
    """A board's text as this gym reads it; the same text is read once.

    Holds a year of three programmes, and the pieces of it that stand alone.
    """
    return parse(board, shelf)


class Held(NamedTuple):
    """A piece of a day with its row; `piece` is None where its text holds none."""

    row: PieceRow
    piece: plan.Piece | None

    @property
    def key(self) -> str:
        """The identity as text."""
        return str(self.row.id)


def held_by(db: Session, day: Day, shelf: Library | None = None) -> list[Held]:
    """All pieces of a day: those on the board in its order, then those that are set aside."""
    return held_by_all(db, [day], shelf)[day.id]


def held_by_all(
    db: Session, days: Iterable[Day], shelf: Library | None = None
) -> dict[int, list[Held]]:
    """All pieces of several days, by day."""
    days, shelf = list(days), shelf or gym_of(db).movements_as_written
    rows: dict[int, list[PieceRow]] = {day.id: [] for day in days}
    query = select(PieceRow).where(PieceRow.day_id.in_(rows))
    for row in db.scalars(query.order_by(PieceRow.position, PieceRow.id)):
        rows[row.day_id].append(row)
    return {day.id: _paired(day, rows[day.id], shelf) for day in days}


def _paired(day: Day, rows: list[PieceRow], shelf: Library) -> list[Held]:
    """The rows of a day with their pieces. Nothing is written: a board that is read into another
    number of pieces than when it was saved is shown by its rows, each read alone, until it is
    saved or read again (`usecases.rereading`).
    """
    pieces: Sequence[plan.Piece | None] = read_board(day.text, shelf).session.pieces
    standing = [row for row in rows if row.position is not None]
    if len(standing) != len(pieces):
        pieces = [read_alone(row.text, shelf) for row in standing]
    aside = [row for row in rows if row.position is None]
    return [
        *(Held(row, piece) for row, piece in zip(standing, pieces, strict=True)),
        *(Held(row, read_alone(row.text, shelf)) for row in aside),
    ]


def on_board(db: Session, day: Day, shelf: Library | None = None) -> dict[str, plan.Piece]:
    """The pieces on a day's board by key, in its order."""
    return {
        one.key: one.piece
        for one in held_by(db, day, shelf)
        if one.row.position is not None and one.piece is not None
    }


def keys_of(db: Session, day: Day) -> tuple[str, ...]:
    """The keys of the pieces on a day's board, in its order, a key each.

    Where the board is read into other pieces than when it was saved, those without a row are
    named as new ones are.
    """
    shelf = gym_of(db).movements_as_written
    keys = tuple(on_board(db, day, shelf))
    session = read_board(day.text, shelf).session
    return keys if len(keys) == len(session.pieces) else keys_while_writing(db, day, session)


def piece_of(db: Session, day: Day, key: str, shelf: Library | None = None) -> plan.Piece | None:
    """The piece of a day with that key, on the board or set aside; None where there is none."""
    return next((one.piece for one in held_by(db, day, shelf) if one.key == key), None)


def id_of(key: str) -> int:
    """The identity of a key; LookupError for text that is none."""
    if not (key.isascii() and key.isdigit() and len(key) < LONGEST_KEY):
        raise LookupError(key)
    return int(key)


def keys_while_writing(db: Session, day: Day | None, session: plan.Session) -> tuple[str, ...]:
    """Keys for a board as it stands in the editor: saved pieces keep theirs, new ones are named."""
    fresh = [f"new-{number}" for number in range(1, len(session.pieces) + 1)]
    if day is None:
        return tuple(fresh)
    old = [one for one in held_by(db, day) if one.row.position is not None]
    found = match([one.piece for one in old if one.piece], session.pieces)
    return tuple(fresh[j] if i is None else old[i].key for j, i in enumerate(found.of_new))


def text_of(board: str, session: plan.Session, place: int) -> str:
    """The lines of a piece as they stand on the board."""
    lines = board.splitlines()
    ends = [*(piece.line - 1 for piece in session.pieces[place + 1 :]), len(lines)]
    return "\n".join(lines[session.pieces[place].line - 1 : ends[0]]).strip()


def read_alone(board: str, shelf: Library) -> plan.Piece | None:
    """The first piece of a board by itself; None where it has none."""
    pieces = read_board(board, shelf).session.pieces
    return pieces[0] if pieces else None


def rows_newest_first(db: Session, ids: Iterable[int], most: int) -> list[tuple[PieceRow, dt.date]]:
    """Rows of pieces with their dates, the newest day and its last piece first."""
    query = (
        select(PieceRow, Day.date)
        .join(Day, Day.id == PieceRow.day_id)
        .where(PieceRow.id.in_(set(ids)))
        .order_by(Day.date.desc(), PieceRow.position.desc(), PieceRow.id)
        .limit(most)
    )
    return [(row, date) for row, date in db.execute(query)]
