"""What everybody may do about themselves: name, address, where they are signed in, what is kept."""

from __future__ import annotations

import datetime as dt
import json
from typing import Annotated

from fastapi import Path, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.encoders import jsonable_encoder
from pydantic import BaseModel, Field
from sqlalchemy import func
from sqlalchemy.exc import IntegrityError

from pine_ladder.api.access import Database, Myself, MySignIn, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form
from pine_ladder.api.people.people import Address, Name, address_said, name_said
from pine_ladder.api.people.sign_in import proved
from pine_ladder.files.tables import write_csv, zip_files
from pine_ladder.store import exports as tables
from pine_ladder.store.models import MARK
from pine_ladder.store.people import people
from pine_ladder.usecases import signing_in

members = router("member", "myself")

Mark = Annotated[str, Path(max_length=MARK)]


class NameForm(Form):
    """My name as the gym shows it."""

    name: Name


class AddressForm(Form):
    """The address I sign in with from now on, and my present password."""

    email: Address
    password: str = Field(max_length=people.MAX_PASSWORD)


class SignedIn(BaseModel):
    """A browser I am signed in with; `this` is the one that asks."""

    mark: str
    device: str
    since: dt.datetime
    used: dt.datetime
    this: bool


class About(BaseModel):
    """What I may change of myself, and whether I have asked to be erased."""

    name: str
    email: str | None
    erase_asked: dt.datetime | None


class WishForm(Form):
    """Whether I wish to be erased; a coach does it."""

    wish: bool


def _about(me: Myself) -> About:
    return About(name=me.name, email=me.email, erase_asked=me.erase_asked_at)


@members.get("/me/about")
def about_me(me: Myself) -> About:
    """My name and address."""
    return _about(me)


@members.put("/me/name", responses={422: {"model": Problem}})
def rename_me(form: NameForm, db: Database, me: Myself) -> About:
    """Change my name."""
    me.name = name_said(form.name)
    db.flush()
    return _about(me)


@members.put(
    "/me/address",
    responses={
        400: {"model": Problem},
        409: {"model": Problem},
        422: {"model": Problem},
        429: {"model": Problem},
    },
)
async def move_me(form: AddressForm, request: Request, db: Database, me: Myself) -> About:
    """Change the address I sign in with; whoever found my phone lying about cannot."""
    email = address_said(form.email)
    if email is None:
        raise ApiError(422, "you sign in with your address: write the new one")
    tried = await proved(request, me, form.password)

    def move() -> About:
        signing_in.proved_right(db, tried)
        try:
            with db.begin_nested():
                me.email = email
        except IntegrityError:
            raise ApiError(409, f"{email} is already somebody's address") from None
        return _about(me)

    return await run_in_threadpool(move)


@members.get("/me/sign-ins")
def my_sign_ins(db: Database, mine: MySignIn) -> list[SignedIn]:
    """Where I am signed in, the newest use first."""
    return [
        SignedIn(
            mark=row.mark,
            device=row.device or "a browser",
            since=row.created_at,
            used=row.used_at,
            this=row.token_hash == mine.token_hash,
        )
        for row in people.sign_ins_of(db, mine.person)
    ]


@members.delete("/me/sign-ins/{mark}", status_code=204, responses={404: {"model": Problem}})
def end_sign_in(mark: Mark, db: Database, me: Myself) -> None:
    """Sign out somewhere else."""
    if not signing_in.end_sign_in(db, me, mark):
        raise not_found("such sign-in")


@members.put("/me/erase-wish")
def wish_to_be_erased(form: WishForm, db: Database, me: Myself) -> About:
    """Ask to be erased, or take it back. A coach sees it on People and does it."""
    me.erase_asked_at = func.now() if form.wish else None
    db.flush()
    db.refresh(me)
    return _about(me)


@members.get("/me/everything")
def everything(db: Database, me: Myself) -> Response:
    """All that is kept about me: a zip of JSON, and of my scores as CSV."""
    found = jsonable_encoder(tables.about(db, me))
    text = json.dumps(found, indent=2, ensure_ascii=False, sort_keys=True)
    content = zip_files({"about-me.json": text, "scores.csv": write_csv(*tables.scores(db, me))})
    headers = {"Content-Disposition": 'attachment; filename="about-me.zip"'}
    return Response(content, media_type="application/zip", headers=headers)
