"""Beginning a board: from an earlier day or piece, or with a piece the gym keeps by name."""

from __future__ import annotations

import datetime as dt
import re
from itertools import islice
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.days.days import hour_of
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id
from pine_ladder.core.day.hour_ruler import Outline
from pine_ladder.core.notation.reader.lexicon import spellings
from pine_ladder.core.notation.tokens import MAX_TEXT
from pine_ladder.core.week.balance import on_date
from pine_ladder.core.week.earlier import EarlierBoard, earlier_board, holds, pieces_of
from pine_ladder.store.days import days
from pine_ladder.store.days import saved_workouts as bank
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.gym.programmes import programmes_of
from pine_ladder.store.models import KeptPiece
from pine_ladder.usecases.days import keep_piece

coaches = router("coach", "earlier")

MOST = 12
"""Days told at once, the newest first."""
LOOKED_AT = 80
"""Days read at most for a movement: its letters may stand in a board that does not use it."""


class EarlierDay(BaseModel):
    """An earlier day to start from; `board` is dated on the day it is wanted for."""

    date: dt.date
    programme: str
    outline: Outline
    board: EarlierBoard


class KeepPiece(Form):
    """A piece to keep: the name it is called by and its text."""

    name: str = Field(min_length=1, max_length=60)
    text: str = Field(max_length=MAX_TEXT)


class Kept(BaseModel):
    """A piece the gym keeps by name."""

    id: int
    name: str
    text: str


Said = Annotated[str, Query(max_length=120)]


@coaches.get("/earlier")
def find_earlier(
    db: Database,
    shelf: Shelf,
    to: GymDate,
    words: Said = "",
    movement: Said = "",
    programme: Said = "",
    since: GymDate | None = None,
    until: GymDate | None = None,
) -> list[EarlierDay]:
    """Days to start from, the newest first, by words, a movement in any of its names, programme
    and date. A day still to come, or the one wanted, counts like any other but itself.
    """
    known = shelf.find(movement) if movement else None
    spelled = spellings(known) if known else (movement,) if movement else ()
    found = days.earlier_days(db, words.split(), spelled, programme or None, since, until)
    names = {each.id: each.name for each in programmes_of(db)}
    holding = (
        day
        for day in islice(found, LOOKED_AT)
        if day.date != to
        and (not movement or holds(read_board(day.text, shelf).session, shelf, movement))
    )
    return [
        EarlierDay(
            date=day.date,
            programme=names[day.programme_id],
            outline=hour_of(db, day.text),
            board=earlier_board(on_date(day.text, to), shelf, words, movement or None),
        )
        for day in islice(holding, MOST)
    ]


@coaches.get("/pieces")
def kept_pieces(db: Database) -> list[Kept]:
    """The pieces the gym keeps, by name."""
    return [Kept(id=row.id, name=row.name, text=row.text) for row in bank.pieces(db)]


@coaches.post(
    "/pieces", status_code=201, responses={409: {"model": Problem}, 422: {"model": Problem}}
)
def post_kept_piece(form: KeepPiece, db: Database, shelf: Shelf) -> Kept:
    """Keep one piece under a name of the gym's own."""
    name = re.sub(r"\s+", " ", form.name).strip()
    if not name or not name.isprintable():
        raise ApiError(422, "give the piece a name, for instance Harbour warm-up")
    texts = pieces_of(form.text, shelf)
    if len(texts) != 1:
        raise ApiError(422, "one piece is kept under a name: a heading and its lines")
    row = keep_piece(db, name, texts[0])
    if row is None:
        raise ApiError(409, f"a piece called {name} is kept already")
    return Kept(id=row.id, name=row.name, text=row.text)


@coaches.delete("/pieces/{piece_id}", status_code=204, responses={404: {"model": Problem}})
def forget_piece(piece_id: Id, db: Database) -> None:
    """Keep a piece no longer; boards that hold it stay as they are."""
    row = db.get(KeptPiece, piece_id)
    if row is None:
        raise not_found("such piece kept")
    db.delete(row)
