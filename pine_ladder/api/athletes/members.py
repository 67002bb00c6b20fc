"""Members: who they are, their usual tier and track, whether they still come."""

from __future__ import annotations

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, Id, Place
from pine_ladder.core.athletes.addresses import read_address
from pine_ladder.store.gym import loaded
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Person, Tier, Track
from pine_ladder.store.people.people import everybody_who_trains
from pine_ladder.usecases import signing_in

coaches = router("coach", "athletes")


class Athlete(BaseModel):
    """A member with default tier and track (positions in the gym's lists)."""

    id: int
    name: str
    email: str | None
    role: str
    tier: int
    track: int
    active: bool


class AthleteChange(Form):
    """What to change of a member; what is left out stays."""

    tier: Place | None = None
    track: Place | None = None
    active: bool | None = None


class NewAthlete(Form):
    """A new member. With an address and a first password they can sign in."""

    name: str = Field(min_length=1, max_length=80, examples=["Ada Quill"])
    email: str | None = Field(default=None, max_length=200)
    password: str | None = Field(default=None, max_length=200)
    tier: Place = 0
    track: Place = 0


def _athlete(person: Person) -> Athlete:
    return Athlete(
        id=person.id,
        name=person.name,
        email=person.email,
        role=person.role,
        tier=person.tier.position,
        track=person.track.position,
        active=person.active,
    )


def tier_at(db: Database, position: int) -> Tier:
    """The tier at a position, or a 422."""
    found = loaded.tier_at(db, position)
    if found is None:
        raise ApiError(422, f"there is no tier {position}")
    return found


def track_at(db: Database, position: int) -> Track:
    """The track at a position, or a 422."""
    found = loaded.track_at(db, position)
    if found is None:
        raise ApiError(422, f"there is no track {position}")
    return found


@coaches.get("/athletes")
def athletes(db: Database) -> list[Athlete]:
    """All members, active first, by name."""
    return [_athlete(person) for person in everybody_who_trains(db)]


@coaches.post(
    "/athletes", status_code=201, responses={400: {"model": Problem}, 409: {"model": Problem}}
)
async def add_athlete(form: NewAthlete, request: Request, db: Database) -> Athlete:
    """Add a member."""
    email = _address(form.email)
    name = " ".join(form.name.split())
    if not name:
        raise ApiError(422, "a member has a name")
    if form.password and not email:
        raise ApiError(422, "signing in needs an e-mail address as well")
    password_hash = None
    if form.password:
        door, gym = request.app.state.door, await run_in_threadpool(lambda: gym_of(db).row)
        await door.check_strength(form.password, name, email or "", gym.name)
        password_hash = await door.hash(form.password)
    return await run_in_threadpool(_added, db, form, name, email, password_hash)


def _address(text: str | None) -> str | None:
    if not text or not text.strip():
        return None
    try:
        return read_address(text)
    except ValueError as error:
        raise ApiError(422, str(error)) from None


def _added(
    db: Session, form: NewAthlete, name: str, email: str | None, password_hash: str | None
) -> Athlete:
    person = Person(
        name=name,
        email=email,
        password_hash=password_hash,
        role="athlete",
        tier=tier_at(db, form.tier),
        track=track_at(db, form.track),
    )
    try:
        with db.begin_nested():
            db.add(person)
    except IntegrityError:
        raise ApiError(409, f"{email} is already somebody's address") from None
    return _athlete(person)


@coaches.patch("/athletes/{athlete_id}", responses={404: {"model": Problem}})
def change_athlete(athlete_id: Id, form: AthleteChange, db: Database) -> Athlete:
    """Change a member's default tier or track, or whether they are active."""
    person = db.get(Person, athlete_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    if form.tier is not None:
        person.tier = tier_at(db, form.tier)
    if form.track is not None:
        person.track = track_at(db, form.track)
    if form.active is False:
        signing_in.deactivate(db, person)
    elif form.active:
        person.active = True
    db.flush()
    return _athlete(person)
