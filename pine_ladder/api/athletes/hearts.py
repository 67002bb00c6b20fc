"""Hearts: which strap somebody wears, and how long they were where a piece asked them to be."""

from __future__ import annotations

import datetime as dt

from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, Id
from pine_ladder.core.athletes.heart import TimeIn, asked, time_in
from pine_ladder.core.athletes.straps import MOST_STRAPS
from pine_ladder.store.athletes.members import profile_of
from pine_ladder.store.days.pieces import read_board, rows_newest_first
from pine_ladder.store.floor import hearts
from pine_ladder.store.models import Person
from pine_ladder.usecases.hearts import StrapTaken, forget_hearts, give_strap

members = router("member", "hearts")
coaches = router("coach", "hearts")

MOST_TOLD = 60
"""Pieces of a history, the newest first."""


class StrapOut(BaseModel):
    """The strap somebody wears; `heard` is whether this gym listens to straps at all."""

    number: int | None
    heard: bool


class StrapForm(Form):
    """The strap somebody wears from now on; None for none."""

    number: int | None = Field(ge=1, le=MOST_STRAPS)


class HeartTime(BaseModel):
    """A piece that was done with a strap on: how long the heart was where it was asked to be,
    beats a minute.
    """

    date: dt.date
    piece: str
    effort: str
    low: int
    high: int
    time: TimeIn


def _strap(request: Request, db: Session, person_id: int) -> StrapOut:
    heard = request.app.state.straps.receiver is not None
    return StrapOut(number=hearts.strap_of(db, person_id), heard=heard)


def _give(request: Request, db: Session, person_id: int, number: int | None) -> StrapOut:
    try:
        give_strap(db, person_id, number)
    except StrapTaken:
        raise ApiError(409, f"strap {number} is somebody else's: a coach can free it") from None
    return _strap(request, db, person_id)


@members.get("/me/strap")
def my_strap(request: Request, db: Database, me: Myself) -> StrapOut:
    """The strap I wear."""
    return _strap(request, db, me.id)


@members.put("/me/strap", responses={409: {"model": Problem}})
def wear_strap(form: StrapForm, request: Request, db: Database, me: Myself) -> StrapOut:
    """The strap I wear from now on."""
    return _give(request, db, me.id, form.number)


@coaches.get("/athletes/{athlete_id}/strap", responses={404: {"model": Problem}})
def read_strap(athlete_id: Id, request: Request, db: Database) -> StrapOut:
    """The strap an athlete wears."""
    return _strap(request, db, _athlete(db, athlete_id))


@coaches.put(
    "/athletes/{athlete_id}/strap", responses={404: {"model": Problem}, 409: {"model": Problem}}
)
def hand_strap(athlete_id: Id, form: StrapForm, request: Request, db: Database) -> StrapOut:
    """Hand an athlete a strap, or take it back."""
    return _give(request, db, _athlete(db, athlete_id), form.number)


def _athlete(db: Session, athlete_id: int) -> int:
    if db.get(Person, athlete_id) is None:
        raise not_found("such athlete")
    return athlete_id


@members.get("/me/hearts")
def my_hearts(db: Database, me: Myself, shelf: Shelf) -> list[HeartTime]:
    """How long my heart was where pieces asked it to be, the newest first; of those with a range,
    by what is known of me today.
    """
    kept, (profile, _) = hearts.kept_of(db, me.id), profile_of(db, me.id)
    times: list[HeartTime] = []
    for row, date in rows_newest_first(db, kept, MOST_TOLD):
        pieces = read_board(row.text, shelf).session.pieces
        known = (profile.heart, profile.born, date.year)
        range_ = asked(pieces[0], shelf, *known) if pieces else None
        if range_ is not None:
            times.append(
                HeartTime(
                    date=date,
                    piece=row.title,
                    effort=range_.effort,
                    low=range_.low,
                    high=range_.high,
                    time=time_in(range_, kept[row.id]),
                )
            )
    return times


@members.delete("/me/hearts", status_code=204)
def forget_my_hearts(db: Database, me: Myself) -> None:
    """Forget all that is kept of my heart."""
    forget_hearts(db, me.id)
