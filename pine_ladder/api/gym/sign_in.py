"""Sign-in, sign-out, passwords."""

from __future__ import annotations

from fastapi import Request, Response
from pydantic import BaseModel, Field
from sqlalchemy import select

from pine_ladder.api.access import COOKIE, Database, MySignIn, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.store import people
from pine_ladder.store.days import the_gym
from pine_ladder.store.models import Person, SignIn

open_door = router("public", "sign-in")
inside = router("member", "sign-in")

DEMO_ATHLETES = 3


class SignInForm(BaseModel):
    """Address and password."""

    email: str = Field(max_length=200, examples=["coach@kittiwake.example"])
    password: str = Field(max_length=200, examples=["lifeboat-slipway"])


class DemoForm(BaseModel):
    """One of the people the front door offers in demo mode."""

    person_id: int


class PasswordForm(BaseModel):
    """The present password and the next."""

    current: str = Field(max_length=200)
    new: str = Field(max_length=200)


class DemoPerson(BaseModel):
    """Someone to sign in as with one click, in demo mode alone."""

    id: int
    name: str
    role: str


class FrontDoor(BaseModel):
    """What the sign-in page shows."""

    gym: str
    demo: bool
    people: list[DemoPerson]


class Me(BaseModel):
    """The signed-in person. `guard` goes into the X-Pine-Guard header of every write."""

    id: int
    name: str
    role: str
    tier: int
    track: int
    guard: str


def _me(row: SignIn) -> Me:
    person = row.person
    return Me(
        id=person.id,
        name=person.name,
        role=person.role,
        tier=person.tier.position,
        track=person.track.position,
        guard=row.guard,
    )


def _welcome(request: Request, response: Response, db: Database, person: Person) -> Me:
    token, row = people.open_session(db, person)
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(people.SESSION_LENGTH.total_seconds()),
        httponly=True,
        samesite="lax",
        secure=request.url.scheme == "https",
    )
    db.refresh(row)
    return _me(row)


def _demo_people(db: Database) -> list[Person]:
    everyone = select(Person).where(Person.active, Person.email.is_not(None)).order_by(Person.id)
    found = list(db.scalars(everyone).unique())
    coaches = [p for p in found if p.role == "coach"]
    return coaches + [p for p in found if p.role == "athlete"][:DEMO_ATHLETES]


@open_door.get("/front-door")
def front_door(db: Database) -> FrontDoor:
    """The gym's name and, in demo mode, whom to sign in as."""
    gym = the_gym(db)
    offered = _demo_people(db) if gym.demo else []
    return FrontDoor(
        gym=gym.name,
        demo=gym.demo,
        people=[DemoPerson(id=p.id, name=p.name, role=p.role) for p in offered],
    )


@open_door.post("/sign-in", responses={401: {"model": Problem}, 429: {"model": Problem}})
def sign_in(form: SignInForm, request: Request, response: Response, db: Database) -> Me:
    """Sign in with address and password."""
    address = request.client.host if request.client else ""
    if people.too_many_guesses(db, form.email, address):
        raise ApiError(429, "too many tries: wait a quarter of an hour, then try again")
    person = people.person_by_email(db, form.email)
    if not people.password_fits(person, form.password) or person is None:
        people.note_failure(db, form.email, address)
        db.commit()
        raise ApiError(401, "address and password do not fit together")
    return _welcome(request, response, db, person)


@open_door.post("/demo/sign-in", responses={403: {"model": Problem}})
def demo_sign_in(form: DemoForm, request: Request, response: Response, db: Database) -> Me:
    """Sign in with one click, in demo mode alone."""
    if not the_gym(db).demo:
        raise ApiError(403, "this gym is not a demo: sign in with address and password")
    person = next((p for p in _demo_people(db) if p.id == form.person_id), None)
    if person is None:
        raise ApiError(403, "this person does not sign in with one click")
    return _welcome(request, response, db, person)


@inside.get("/me")
def me(mine: MySignIn) -> Me:
    """Who is signed in."""
    return _me(mine)


@inside.post("/sign-out", status_code=204)
def sign_out(request: Request, response: Response, mine: MySignIn, db: Database) -> None:
    """End this session."""
    people.close_session(db, request.cookies[COOKIE])
    response.delete_cookie(COOKIE)


@inside.post("/password", status_code=204, responses={400: {"model": Problem}})
def password(form: PasswordForm, mine: MySignIn, db: Database) -> None:
    """Change the password; other sessions of the person end."""
    if not people.password_fits(mine.person, form.current):
        raise ApiError(400, "the present password is not right")
    if len(form.new) < people.MIN_PASSWORD:
        raise ApiError(400, f"a password has at least {people.MIN_PASSWORD} characters")
    people.change_password(db, mine, form.new)
