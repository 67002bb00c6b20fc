"""The gym's programmes: lines of sessions beside each other, each with its own classes."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, Id
from pine_ladder.store.days.days import written_by_programme
from pine_ladder.store.gym import programmes as store
from pine_ladder.store.models import Programme
from pine_ladder.usecases.programmes import (
    StillUsed,
    add_programme,
    follow,
    remove_programme,
    rename_programme,
)

members = router("member", "programmes")
coaches = router("coach", "programmes")

Programmes = Annotated[list[Id], Field(min_length=1, max_length=store.MOST)]


class ProgrammeForm(Form):
    """The name of a programme."""

    name: str = Field(max_length=200, examples=["Barbell Club"])


class ProgrammeHeld(BaseModel):
    """A programme, and how many days it has written."""

    id: int
    name: str
    days: int
    first: bool


class FollowForm(Form):
    """The programmes that somebody follows."""

    programmes: Programmes


class Following(BaseModel):
    """The programmes I follow, by id."""

    programmes: list[int]


@coaches.get("/programmes")
def list_programmes(db: Database) -> list[ProgrammeHeld]:
    """The gym's programmes with what they hold."""
    written = written_by_programme(db)
    return [
        ProgrammeHeld(id=one.id, name=one.name, days=written.get(one.id, 0), first=place == 0)
        for place, one in enumerate(store.programmes_of(db))
    ]


def _found(db: Database, number: int) -> Programme:
    found = db.get(Programme, number)
    if found is None:
        raise not_found("such programme")
    return found


@coaches.post("/programmes", status_code=201, responses={422: {"model": Problem}})
def post_programme(form: ProgrammeForm, db: Database) -> list[ProgrammeHeld]:
    """A new programme after the others."""
    try:
        add_programme(db, form.name)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return list_programmes(db)


@coaches.put(
    "/programmes/{programme_id}", responses={404: {"model": Problem}, 422: {"model": Problem}}
)
def put_programme(programme_id: Id, form: ProgrammeForm, db: Database) -> list[ProgrammeHeld]:
    """Give a programme another name."""
    try:
        rename_programme(db, _found(db, programme_id), form.name)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return list_programmes(db)


@coaches.delete(
    "/programmes/{programme_id}", responses={404: {"model": Problem}, 409: {"model": Problem}}
)
def delete_programme(programme_id: Id, db: Database) -> list[ProgrammeHeld]:
    """Take away a programme that holds nothing yet; its boards and scores are never lost."""
    found = _found(db, programme_id)
    try:
        remove_programme(db, found)
    except StillUsed:
        raise ApiError(
            409, f"{found.name} has boards, scores or people who signed up: it stays"
        ) from None
    return list_programmes(db)


@members.get("/me/programmes")
def my_programmes(db: Database, me: Myself) -> Following:
    """The programmes I follow."""
    return Following(programmes=[one.id for one in store.followed_by(db, me)])


@members.put("/me/programmes", responses={422: {"model": Problem}})
def follow_programmes(form: FollowForm, db: Database, me: Myself) -> Following:
    """Follow these programmes: their days stand on my phone and in my calendar."""
    try:
        follow(db, me, form.programmes)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return my_programmes(db, me)
