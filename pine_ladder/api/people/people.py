"""The people of a gym: coaches and athletes, who signs in and how they come in."""

from __future__ import annotations

import datetime as dt
import hashlib
from typing import Annotated, Literal

from fastapi import Path, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.athletes.members import tier_at, track_at
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, Id, Place
from pine_ladder.api.links import Shown, configured_url, only_here, public_url, shown
from pine_ladder.api.people.sign_in import Me, welcome
from pine_ladder.api.settings.programmes import Programmes
from pine_ladder.core.athletes.addresses import read_address
from pine_ladder.core.athletes.roster import MOST_LINES, RosterLine, There, read_roster
from pine_ladder.core.day.letters import link_letter
from pine_ladder.jobs.mail import Post, Postman
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.programmes import followed, followed_by, programmes_of
from pine_ladder.store.models import Person
from pine_ladder.store.people import links, people
from pine_ladder.usecases import erasing, signing_in
from pine_ladder.usecases.links import make_link, use_link
from pine_ladder.usecases.programmes import follow

coaches = router("coach", "people")
open_door = router("public", "people")

Name = Annotated[str, Field(min_length=1, max_length=80, examples=["Ada Quill"])]
Address = Annotated[str, Field(max_length=200, examples=["ada@example.org"])]
Token = Annotated[str, Path(max_length=100)]


class PersonOut(BaseModel):
    """Someone of the gym; `signs_in` once they have set a password."""

    id: int
    name: str
    email: str | None
    role: str
    tier: int
    track: int
    active: bool
    signs_in: bool
    trains: bool
    programmes: list[int]
    erase_asked: dt.date | None


class NewPerson(Form):
    """Someone new. With an address they can be invited."""

    name: Name
    email: Address = ""
    role: Literal["coach", "athlete"] = "athlete"
    tier: Place = 0
    track: Place = 0
    trains: bool | None = None
    """Of a coach: whether they train too. Athletes do."""
    programmes: Programmes | None = None


class PersonChange(Form):
    """What to change of a person; what is left out stays, an empty address is taken away."""

    name: Name | None = None
    email: Address | None = None
    tier: Place | None = None
    track: Place | None = None
    active: bool | None = None
    role: Literal["coach", "athlete"] | None = None
    trains: bool | None = None
    programmes: Programmes | None = None


class Roster(Form):
    """A list of people as pasted, a line each."""

    text: str = Field(max_length=200_000)


class ListedChange(Form):
    """What a list says otherwise of somebody who is there; what is left out stays."""

    id: int
    name: Name | None = None
    email: Address | None = None
    tier: Place | None = None
    track: Place | None = None


class NewPeople(Form):
    """Those of a list who are to be added, and what it says of those who are there."""

    people: list[NewPerson] = Field(max_length=MOST_LINES)
    changes: list[ListedChange] = Field(default_factory=list, max_length=MOST_LINES)


class LinkOut(BaseModel):
    """A one-time link, as the path of an address; it ends when it is used."""

    path: str
    expires_at: dt.datetime
    shown: Shown
    mailed: bool
    trouble: str = Field(default="", description="Why it was not mailed, where it might have been")


class Invitations(Form):
    """The people to invite, and whether each is sent their link by mail."""

    people: list[Id] = Field(min_length=1, max_length=MOST_LINES)
    mail: bool = False


class InvitationOut(LinkOut):
    """One invitation of several."""

    person_id: int
    name: str
    email: str


class Invited(BaseModel):
    """Whom a link is for."""

    gym: str
    name: str
    email: str
    signs_in: bool


class FirstPassword(Form):
    """The password that is set with a link."""

    password: str = Field(max_length=people.MAX_PASSWORD)


def _out(db: Database, person: Person, follows: list[int] | None = None) -> PersonOut:
    return PersonOut(
        id=person.id,
        name=person.name,
        email=person.email,
        role=person.role,
        tier=person.tier.position,
        track=person.track.position,
        active=person.active,
        signs_in=person.password_hash is not None,
        trains=person.trains,
        programmes=follows or [one.id for one in followed_by(db, person)],
        erase_asked=person.erase_asked_at.date() if person.erase_asked_at else None,
    )


def name_said(text: str) -> str:
    """A name as it is kept; a 422 for an empty one."""
    name = " ".join(text.split())
    if not name:
        raise ApiError(422, "everybody has a name")
    return name


def address_said(text: str) -> str | None:
    """An address as it is kept, None for an empty one; a 422 for what is none."""
    if not text.strip():
        return None
    try:
        return read_address(text)
    except ValueError as error:
        raise ApiError(422, str(error)) from None


def _person(db: Database, person_id: int) -> Person:
    person = db.get(Person, person_id)
    if person is None:
        raise not_found("such person")
    return person


def _taken(address: str | None) -> ApiError:
    return ApiError(409, f"{address} is already somebody's address")


@coaches.get("/people")
def list_people(db: Database) -> list[PersonOut]:
    """Everybody, coaches first, those who have left last, by name."""
    first, named = [programmes_of(db)[0].id], followed(db)
    return [_out(db, one, named.get(one.id, first)) for one in people.everybody(db)]


@coaches.post("/people", status_code=201, responses={409: {"model": Problem}})
def add_person(form: NewPerson, db: Database) -> PersonOut:
    """Add a coach or an athlete."""
    email = address_said(form.email)
    if form.role == "coach" and email is None:
        raise ApiError(422, "a coach signs in, and needs an e-mail address for that")
    person = Person(
        name=name_said(form.name),
        email=email,
        role=form.role,
        tier=tier_at(db, form.tier),
        track=track_at(db, form.track),
        trains=form.role == "athlete" or bool(form.trains),
    )
    try:
        with db.begin_nested():
            db.add(person)
    except IntegrityError:
        raise _taken(email) from None
    _follow(db, person, form.programmes)
    return _out(db, person)


@coaches.post("/people/read")
def read_people(form: Roster, db: Database) -> list[RosterLine]:
    """What a pasted list means, line by line; nothing is kept."""
    there = [
        There(one.id, one.name, one.email, one.tier.position, one.track.position, one.active)
        for one in people.everybody(db)
    ]
    tiers = list(gym_of(db).tiers)
    tracks = list(gym_of(db).tracks)
    return read_roster(form.text, there, tiers, tracks)


@coaches.post("/people/many", status_code=201, responses={409: {"model": Problem}})
def add_people(form: NewPeople, db: Database) -> list[PersonOut]:
    """Add and change several people: all of them, or on any trouble none."""
    changed = []
    for change in form.changes:
        said = PersonChange.model_validate(change.model_dump(exclude={"id"}, exclude_unset=True))
        changed.append(change_person(change.id, said, db))
    return [*(add_person(person, db) for person in form.people), *changed]


@coaches.patch("/people/{person_id}", responses={404: {"model": Problem}, 409: {"model": Problem}})
def change_person(person_id: Id, form: PersonChange, db: Database) -> PersonOut:
    """Rename someone, change their address, tier or track, let them go or back in.

    Who is let go is signed out; their address and password are forgotten, their scores stay.
    """
    person = _person(db, person_id)
    if form.name is not None:
        person.name = name_said(form.name)
    if form.tier is not None:
        person.tier = tier_at(db, form.tier)
    if form.track is not None:
        person.track = track_at(db, form.track)
    if form.role is not None:
        _become(db, person, form.role)
    if form.trains is not None:
        person.trains = form.trains or person.role == "athlete"
    if form.email is not None:
        _move(db, person, address_said(form.email))
    if form.active is False and person.active:
        _let_go(db, person)
    elif form.active:
        person.active = True
    _follow(db, person, form.programmes)
    db.flush()
    return _out(db, person)


def _follow(db: Database, person: Person, programmes: list[int] | None) -> None:
    if programmes is None:
        return
    try:
        follow(db, person, programmes)
    except ValueError as error:
        raise ApiError(422, str(error)) from None


def _move(db: Database, person: Person, email: str | None) -> None:
    if email is None and person.role == "coach" and person.active:
        raise ApiError(422, "a coach signs in, and needs an e-mail address for that")
    try:
        with db.begin_nested():
            person.email = email
    except IntegrityError:
        raise _taken(email) from None


def _not_the_last(db: Database, person: Person, what: str) -> None:
    """Two coaches who let each other go at once: one of them stays."""
    if person.role != "coach" or not person.active:
        return
    if people.lock_coaches(db) <= {person.id}:
        raise ApiError(409, f"{person.name} is the gym's last coach and cannot {what}")


def _become(db: Database, person: Person, role: str) -> None:
    if role == "coach":
        if person.email is None:
            raise ApiError(422, "a coach signs in, and needs an e-mail address for that")
        person.role = role
    elif person.role == "coach":
        _not_the_last(db, person, "become an athlete")
        person.role, person.trains = role, True


def _let_go(db: Database, person: Person) -> None:
    _not_the_last(db, person, "leave")
    signing_in.deactivate(db, person)
    person.email, person.password_hash = None, None


class Erasing(BaseModel):
    """What goes for good with somebody: scores, classes, notes of rounds and of effort."""

    name: str
    scores: int
    classes: int
    rounds: int
    efforts: int
    profile: bool


class EraseForm(Form):
    """Erasing is asked for by the person's name, to be sure."""

    name: str = Field(max_length=80)


@coaches.get("/people/{person_id}/erasing", responses={404: {"model": Problem}})
def look_at_erasing(person_id: Id, db: Database) -> Erasing:
    """What erasing somebody would take along."""
    person = _person(db, person_id)
    return Erasing(name=person.name, **erasing.going(db, person)._asdict())


@coaches.post(
    "/people/{person_id}/erase",
    status_code=204,
    responses={404: {"model": Problem}, 409: {"model": Problem}, 422: {"model": Problem}},
)
def erase_person(
    person_id: Id, form: EraseForm, request: Request, db: Database, me: Myself
) -> None:
    """Forget somebody for good, with scores and history. A list beside the nightly backups says
    so once it is done, for the next restore.
    """
    person = _person(db, person_id)
    if person.id == me.id:
        raise ApiError(409, "somebody else erases you: ask another coach")
    if " ".join(form.name.split()).casefold() != person.name.casefold():
        raise ApiError(422, f"write {person.name} to erase them")
    _not_the_last(db, person, "be erased")
    erasing.erase(db, person, me)
    erasing.remember_erased(db, request.app.state.watch.folder, person_id)


@coaches.post(
    "/people/{person_id}/link", responses={404: {"model": Problem}, 422: {"model": Problem}}
)
def post_link(person_id: Id, request: Request, db: Database, me: Myself, post: Post) -> LinkOut:
    """A one-time link with which someone sets a password: an invitation, or a way back in. It is
    sent to their address where the gym has a mail server.
    """
    person = _person(db, person_id)
    if not person.active or person.email is None:
        raise ApiError(422, f"{person.name} needs an e-mail address first")
    return _link_for(person, request, db, me, post)


@coaches.post("/people/invitations", responses={422: {"model": Problem}})
def post_invitations(
    form: Invitations, request: Request, db: Database, me: Myself, post: Post
) -> list[InvitationOut]:
    """Links for several who have no account yet, in the order of their names; those who have one,
    have left or have no address are left out.
    """
    chosen = set(form.people)
    out = []
    for person in people.everybody(db):
        ready = person.active and person.email is not None and person.password_hash is None
        if person.id in chosen and ready:
            link = _link_for(person, request, db, me, post if form.mail else None)
            told = {"person_id": person.id, "name": person.name, "email": person.email or ""}
            out.append(InvitationOut(**link.model_dump(), **told))
    return out


def _link_for(
    person: Person, request: Request, db: Session, me: Person, post: Postman | None
) -> LinkOut:
    """A link for a person, on its way by mail where there is a postman and its address is reached
    from elsewhere.
    """
    token, ends = make_link(db, person, me)
    path = f"/join/{token}"
    new, out = person.password_hash is None, shown(request, path)
    made = LinkOut(path=path, expires_at=ends, shown=out, mailed=False)
    if post is None or not post.on:
        return made
    if only_here(out.address) and not post.only_here:
        return made.model_copy(update={"trouble": UNREACHED})
    letter = link_letter(gym_of(db).row.name, person.name, out.address, ends.date(), new)
    mark = hashlib.sha256(token.encode()).hexdigest()[:24]
    mailed = post.queue(db, person, "invitation" if new else "password", mark, letter)
    return made.model_copy(update={"mailed": mailed})


UNREACHED = (
    "not mailed: this address is reached from this machine alone. Set PINE_LADDER_PUBLIC_URL to "
    "the address that members use, or open the program by it"
)


class ForgottenForm(Form):
    """The address that somebody signs in with."""

    email: Address


class Forgotten(BaseModel):
    """The answer in words; the same whether there is such an account or not."""

    told: str


@open_door.post("/sign-in/forgotten")
def forgot_password(form: ForgottenForm, request: Request, db: Database, post: Post) -> Forgotten:
    """A way back in: a link by mail where the gym has a mail server, else whom to ask.

    A letter goes out at most once an hour to an account, and whoever asks learns nothing of it.
    """
    coaches = [one.name for one in people.everybody(db) if one.active and one.role == "coach"]
    ask = f"Ask a coach for a new link: {', '.join(coaches)}."
    # Never by the address of the request: its sender could have the link lead to themselves.
    address = configured_url() or (public_url(request) if post.only_here else None)
    if not post.on or address is None or (only_here(address) and not post.only_here):
        return Forgotten(told=ask)
    person = people.person_by_email(db, form.email)
    if person is not None and person.active and person.password_hash is not None:
        _way_back(db, person, address, post)
    return Forgotten(
        told="If somebody signs in with this address, a letter with a link is on its way to it. "
        f"Nothing came? {ask}"
    )


def _way_back(db: Session, person: Person, address: str, post: Postman) -> None:
    """Send somebody a link, once an hour; the links before it are over only where it is sent."""
    hour = f"forgot {dt.datetime.now(dt.UTC):%Y-%m-%d %H}"
    with db.begin_nested() as kept:
        token, ends = make_link(db, person, person)
        gym = gym_of(db).row.name
        letter = link_letter(gym, person.name, f"{address}/join/{token}", ends.date(), False)
        if not post.queue(db, person, "password", hour, letter):
            kept.rollback()


OVER = "this link is over: it was used, is too old, or another was made; ask a coach for a new one"


@open_door.get("/links/{token}", responses={404: {"model": Problem}})
def read_link(token: Token, db: Database) -> Invited:
    """Whom a link is for."""
    person = links.person_of(db, token)
    if person is None or person.email is None:
        raise ApiError(404, OVER)
    return Invited(
        gym=gym_of(db).row.name,
        name=person.name,
        email=person.email,
        signs_in=person.password_hash is not None,
    )


@open_door.post("/links/{token}", responses={400: {"model": Problem}, 404: {"model": Problem}})
async def post_first_password(
    token: Token, form: FirstPassword, request: Request, response: Response
) -> Me:
    """Set a password with a link, and step in. The link is over then."""
    engine = request.app.state.engine

    def known_words() -> tuple[str, str, str]:
        with Session(engine) as db:
            person = links.person_of(db, token)
            if person is None:
                raise ApiError(404, OVER)
            return person.name, person.email or "", gym_of(db).row.name

    def enter(password_hash: str) -> Me:
        with Session(engine) as db, db.begin():
            person = use_link(db, token)
            if person is None:
                raise ApiError(404, OVER)
            signing_in.forgot_password(db, person, password_hash)
            return welcome(request, response, db, person)

    async with request.app.state.places:
        known = await run_in_threadpool(known_words)
    door = request.app.state.door
    await door.check_strength(form.password, *known)
    fresh = await door.hash(form.password)
    async with request.app.state.places:
        return await run_in_threadpool(enter, fresh)
