"""Sign-in, sign-out, passwords."""

from __future__ import annotations

from fastapi import Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import COOKIE, DEVICE_COOKIE, Database, MySignIn, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form, Id
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.programmes import followed_by
from pine_ladder.store.models import Person, SignIn
from pine_ladder.store.people import people
from pine_ladder.usecases import signing_in
from pine_ladder.usecases.setup import is_open

open_door = router("public", "sign-in")
inside = router("member", "sign-in")

DEMO_ATHLETES = 3


class SignInForm(Form):
    """Address and password."""

    email: str = Field(max_length=200, examples=["coach@kittiwake.example"])
    password: str = Field(max_length=people.MAX_PASSWORD, examples=["lifeboat-slipway"])


class DemoForm(Form):
    """One of the people the front door offers in demo mode."""

    person_id: Id


class PasswordForm(Form):
    """The present password and the next."""

    current: str = Field(max_length=people.MAX_PASSWORD)
    new: str = Field(max_length=people.MAX_PASSWORD)


class DemoPerson(BaseModel):
    """Someone to sign in as with one click, in demo mode alone."""

    id: int
    name: str
    role: str


class FrontDoor(BaseModel):
    """What the sign-in page shows; where `opened` is false there is no gym yet."""

    gym: str
    opened: bool
    demo: bool
    people: list[DemoPerson]


class Me(BaseModel):
    """The signed-in person. `guard` goes into the X-Pine-Guard header of every write."""

    id: int
    name: str
    role: str
    tier: int
    track: int
    trains: bool
    programmes: list[int]
    guard: str


def _me(db: Session, row: SignIn) -> Me:
    person = row.person
    return Me(
        id=person.id,
        name=person.name,
        role=person.role,
        tier=person.tier.position,
        track=person.track.position,
        trains=person.trains,
        programmes=[one.id for one in followed_by(db, person)],
        guard=row.guard,
    )


def welcome(request: Request, response: Response, db: Session, person: Person) -> Me:
    """Sign someone in on this browser, which is known as theirs from now on."""
    device_kind = people.device_of(request.headers.get("user-agent", ""))
    token, row = signing_in.open_session(db, person, device_kind)
    device = signing_in.remember_device(db, person, request.cookies.get(DEVICE_COOKIE))
    for name, value, length in (
        (COOKIE, token, people.COOKIE_LENGTH),
        (DEVICE_COOKIE, device, people.DEVICE_LENGTH),
    ):
        response.set_cookie(
            name,
            value,
            max_age=int(length.total_seconds()),
            httponly=True,
            samesite="lax",
            secure=request.url.scheme == "https",
        )
    db.refresh(row)
    return _me(db, row)


def network_of(request: Request) -> str:
    """The network address a request comes from."""
    return request.client.host if request.client else ""


def _demo_people(db: Database) -> list[Person]:
    found = people.who_can_sign_in(db)
    coaches = [p for p in found if p.role == "coach"]
    return coaches + [p for p in found if p.role == "athlete"][:DEMO_ATHLETES]


@open_door.get("/front-door")
def front_door(db: Database) -> FrontDoor:
    """The gym's name and, in demo mode, whom to sign in as."""
    if not is_open(db):
        return FrontDoor(gym="", opened=False, demo=False, people=[])
    gym = gym_of(db).row
    offered = _demo_people(db) if gym.demo else []
    return FrontDoor(
        gym=gym.name,
        opened=True,
        demo=gym.demo,
        people=[DemoPerson(id=p.id, name=p.name, role=p.role) for p in offered],
    )


@open_door.post("/sign-in", responses={401: {"model": Problem}, 429: {"model": Problem}})
async def sign_in(form: SignInForm, request: Request, response: Response) -> Me:
    """Sign in with address and password.

    The password is looked at outside the requests' threads and without a database connection, a
    few at a time, so that a crowd at the door keeps nobody inside from working.
    """
    engine = request.app.state.engine

    subject, network = people.address_of(form.email), network_of(request)
    device = request.cookies.get(DEVICE_COOKIE, "")

    def ask() -> tuple[signing_in.Admission, str]:
        with Session(engine) as db, db.begin():
            person = people.person_by_email(db, form.email)
            known = people.knows_device(db, person, device)
            admission = signing_in.admit(db, subject, network, known)
            return admission, people.stored_password(person)

    def enter(tried: int, stored: str) -> Me | None:
        with Session(engine) as db, db.begin():
            person = people.person_by_email(db, form.email)
            # Between the look-up and now the password may have been changed.
            if person is None or people.stored_password(person) != stored:
                return None
            signing_in.proved_right(db, tried)
            return welcome(request, response, db, person)

    door = request.app.state.door
    admission, stored = await door.admit((subject, network, device), ask)
    entered = None
    if await door.fits(stored, form.password):
        async with request.app.state.places:
            entered = await run_in_threadpool(enter, admission.attempt, stored)
    if entered is None:
        raise ApiError(401, "Email or password is wrong.")
    return entered


@open_door.post("/demo/sign-in", responses={403: {"model": Problem}})
def demo_sign_in(form: DemoForm, request: Request, response: Response, db: Database) -> Me:
    """Sign in with one click, in demo mode alone."""
    if not gym_of(db).row.demo:
        raise ApiError(403, "this gym is not a demo: sign in with address and password")
    person = next((p for p in _demo_people(db) if p.id == form.person_id), None)
    if person is None:
        raise ApiError(403, "this person does not sign in with one click")
    return welcome(request, response, db, person)


@inside.get("/me")
def me(db: Database, mine: MySignIn) -> Me:
    """Who is signed in."""
    return _me(db, mine)


@inside.post("/sign-out", status_code=204)
def sign_out(request: Request, response: Response, mine: MySignIn, db: Database) -> None:
    """End this session."""
    signing_in.close_session(db, request.cookies[COOKIE])
    response.delete_cookie(COOKIE)


async def proved(request: Request, person: Person, password: str) -> int:
    """The try with which somebody who is inside proved their present password; ApiError where they
    did not, or try too fast. It counts until `signing_in.proved_right`.
    """
    engine = request.app.state.engine

    subject, network = f"password of {person.id}", network_of(request)

    def ask() -> tuple[signing_in.Admission]:
        with Session(engine) as own, own.begin():
            return (signing_in.admit(own, subject, network, device=True),)

    door = request.app.state.door
    (admission,) = await door.admit((subject, network), ask)
    if not await door.fits(people.stored_password(person), password):
        raise ApiError(400, "the present password is not right")
    return int(admission.attempt)


@inside.post(
    "/password", status_code=204, responses={400: {"model": Problem}, 429: {"model": Problem}}
)
async def password(form: PasswordForm, request: Request, mine: MySignIn, db: Database) -> None:
    """Change the password; other sessions of the person end."""
    person = mine.person
    tried = await proved(request, person, form.current)
    gym = await run_in_threadpool(lambda: gym_of(db).row)
    door = request.app.state.door
    await door.check_strength(form.new, person.name, person.email or "", gym.name)
    fresh = await door.hash(form.new)

    def change() -> None:
        signing_in.proved_right(db, tried)
        signing_in.change_password(db, mine, fresh)

    await run_in_threadpool(change)
