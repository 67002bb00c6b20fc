"""Opening a gym in an empty database: a set-up code, one form, and what is still to do after."""

from __future__ import annotations

from typing import Annotated

from fastapi import Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form
from pine_ladder.api.people.sign_in import Me, network_of, welcome
from pine_ladder.core.athletes.addresses import read_address
from pine_ladder.core.day.calendar import read_week, zone_of
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS, read_names
from pine_ladder.core.units import WeightUnit
from pine_ladder.store.people import people
from pine_ladder.usecases import setup as opening
from pine_ladder.usecases import signing_in

open_door = router("public", "opening")
coaches = router("coach", "opening")

Names = Annotated[list[Annotated[str, Field(max_length=80)]], Field(max_length=20)]
NO_CODE = "this is not the set-up code that the start command printed"
IS_OPEN = "a gym is open here already: sign in"


class Opening(Form):
    """A new gym and its first coach. `classes` are the starts of each weekday from Monday on."""

    code: str = Field(max_length=40, examples=["KTWQ-3H7P-ADLX"])
    name: str = Field(max_length=80)
    zone: str = Field(max_length=60, examples=["Europe/Lisbon"])
    unit: WeightUnit = "kg"
    coach: str = Field(max_length=80)
    email: str = Field(max_length=200)
    password: str = Field(max_length=people.MAX_PASSWORD)
    tiers: Names = Field(default_factory=lambda: list(DEFAULT_TIERS))
    tracks: Names = Field(default_factory=lambda: list(DEFAULT_TRACKS))
    classes: list[Annotated[str, Field(max_length=400)]] = Field(
        default_factory=lambda: [""] * 7, min_length=7, max_length=7
    )


class StillOpen(BaseModel):
    """Something a gym wants before its first class."""

    key: str
    done: bool


def _read(form: Opening) -> opening.NewGym:
    """A gym as it is to be set up, its password not yet hashed; ApiError for what is wrong."""
    name, coach = " ".join(form.name.split()), " ".join(form.coach.split())
    if not name or not coach:
        raise ApiError(422, "a gym has a name" if not name else "a coach has a name")
    try:
        email = read_address(form.email)
        zone_of(form.zone)
        new = opening.NewGym(
            name=name,
            zone=form.zone,
            unit=form.unit,
            coach=coach,
            email=email,
            password_hash="",
            tiers=read_names(form.tiers, "tier"),
            tracks=read_names(form.tracks, "track"),
            weekly=read_week(form.classes),
        )
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return new


@open_door.post(
    "/setup",
    status_code=201,
    responses={400: {"model": Problem}, 409: {"model": Problem}, 429: {"model": Problem}},
)
async def open_gym(form: Opening, request: Request, response: Response) -> Me:
    """Open a gym where none is, with the code that the start command printed, and step in."""
    engine = request.app.state.engine

    network = network_of(request)

    def ask() -> tuple[signing_in.Admission, bool]:
        with Session(engine) as db, db.begin():
            if opening.is_open(db):
                raise ApiError(409, IS_OPEN)
            admission = signing_in.admit(db, "set-up code", network, device=False)
            return admission, not admission.refused_s and opening.code_fits(db, form.code)

    def enter(new: opening.NewGym, tried: int) -> Me:
        with Session(engine) as db, db.begin():
            try:
                coach = opening.open_gym(db, new)
            except opening.AlreadyOpen:
                raise ApiError(409, IS_OPEN) from None
            signing_in.proved_right(db, tried)
            return welcome(request, response, db, coach)

    door = request.app.state.door
    admission, fits = await door.admit(("set-up code", network), ask)
    if not fits:
        raise ApiError(403, NO_CODE)
    new = await run_in_threadpool(_read, form)
    await door.check_strength(form.password, new.name, new.coach, new.email)
    fresh = await door.hash(form.password)
    async with request.app.state.places:
        return await run_in_threadpool(enter, new._replace(password_hash=fresh), admission.attempt)


@coaches.get("/setup/open")
def still_open(db: Database) -> list[StillOpen]:
    """What the gym wants before its first class, and whether it is there."""
    return [StillOpen(key=step.key, done=step.done) for step in opening.still_open(db)]
