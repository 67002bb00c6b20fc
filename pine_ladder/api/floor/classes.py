"""The floor: classes of the day, who is here, heats, lanes and partners, and jotting."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Sequence
from typing import Annotated, Literal

from fastapi import Query
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days.days import day_for, existing_day, piece_on
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id, Key, Moment, RequestKey, Start, Version
from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import load_steps
from pine_ladder.core.athletes.members import Rack
from pine_ladder.core.athletes.scaling_sheet import foretold, scaling_sheet
from pine_ladder.core.day.athlete_view import PAIN_STOPS, READINESS
from pine_ladder.core.day.calendar import class_nearest
from pine_ladder.core.day.kit import KitNeed, kit_needed
from pine_ladder.core.floor import heats
from pine_ladder.core.floor import round_times as jots
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.store.athletes import members as member_store
from pine_ladder.store.days.days import classes_of, find_day
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.floor import classes as floor
from pine_ladder.store.floor.bookings import signed
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.programmes import followers
from pine_ladder.store.models import Day, GymClass, Person
from pine_ladder.store.people.people import names_of
from pine_ladder.usecases.classes import (
    JotKeyTaken,
    StaleGroups,
    land,
    open_class,
    set_groups,
    set_here,
)

members = router("member", "floor")
coaches = router("coach", "floor")

MOST_JOTS = 500
MOST_COMING = 10_000
"""Whoever waits for a place is counted in: kit is laid out for all who might come."""


class ClassHeld(BaseModel):
    """A class of the day; without `id` it is planned and not opened yet. `kit` is what those who
    are here or come need at once, where the day is looked at.
    """

    id: int | None
    start: dt.time
    coach: str | None
    here: list[int]
    kit: list[KitNeed] = Field(default_factory=list)


class FloorPerson(BaseModel):
    """An athlete as the floor sees them; `flag` asks for a word about readiness, `limits` are what
    they are careful with.
    """

    id: int
    name: str
    tier: int
    track: int
    flag: Literal["", "new", "returning"]
    limits: list[str]


class FloorOut(BaseModel):
    """The day's classes and the gym's athletes; `nearest` is the start of the class that is on,
    `load_steps` what a pair of the gym's plates adds to a bar, in kg.
    """

    classes: list[ClassHeld]
    nearest: dt.time | None
    people: list[FloorPerson]
    load_steps: tuple[float, ...]
    readiness: str = READINESS


class HereForm(Form):
    """Whether somebody is here."""

    here: bool


class LaneOut(BaseModel):
    """One athlete in a lane, or in a team."""

    id: int
    name: str


class HeatOut(BaseModel):
    """One wave of a class, in the order of its lanes."""

    number: int
    lanes: list[LaneOut]


class LanesOut(BaseModel):
    """Heats and partners of a class on a piece, as proposed or as set by hand, and why."""

    heats: list[HeatOut]
    heats_by_hand: bool
    heats_version: int
    teams: list[list[LaneOut]]
    teams_by_hand: bool
    teams_version: int
    team_size: int
    reasons: list[str]


class LanesForm(Form):
    """Heats or teams by hand, as lists of people; none goes back to the proposal."""

    what: Literal["heats", "teams"]
    groups: list[Annotated[list[Id], Field(max_length=200)]] = Field(max_length=100)
    version: Version = Field(description="The version of these heats or teams that was read")


class JotForm(Form):
    """One note of one round; `number` None takes it back. `key` is the same for every try."""

    key: RequestKey
    person_id: Id
    round: int = Field(ge=0, le=jots.MOST_ROUNDS)
    number: float | None = Field(default=None, ge=0, le=20_000)
    noted_at: Moment


class JotsForm(Form):
    """Notes of a device, the oldest first; those that landed before are not kept twice."""

    jots: list[JotForm] = Field(max_length=MOST_JOTS)


class MyJotForm(Form):
    """One note of my own round."""

    key: RequestKey
    round: int = Field(ge=0, le=jots.MOST_ROUNDS)
    number: float | None = Field(default=None, ge=0, le=20_000)
    noted_at: Moment


class MyJotsForm(Form):
    """My notes, the oldest first."""

    jots: list[MyJotForm] = Field(max_length=MOST_JOTS)


class Jotted(BaseModel):
    """An athlete's notes by round, and the entry they make."""

    person_id: int
    rounds: dict[int, float]
    entry: str


class JotsOut(BaseModel):
    """A piece's strip and what stands jotted on it."""

    strip: jots.Strip | None
    people: list[Jotted]


class MyClass(BaseModel):
    """A class I can check in to."""

    start: dt.time
    here: bool
    others: int
    names: list[str] = Field(description="Others who come and let members see it")


class CheckInOut(BaseModel):
    """The day's classes for me, and a word on readiness when I am new or returning."""

    classes: list[MyClass]
    readiness: str
    pain: str = PAIN_STOPS


class CheckInForm(Form):
    """Checking in to a class, or out of it."""

    start: Start
    here: bool = True


def class_of(db: Database, class_id: int) -> GymClass:
    """The class of an id, or a 404."""
    held = db.get(GymClass, class_id)
    if held is None:
        raise not_found("such class")
    return held


def _held(class_: GymClass) -> ClassHeld:
    return ClassHeld(
        id=class_.id,
        start=class_.start,
        coach=class_.coach.name if class_.coach else None,
        here=sorted(a.person_id for a in class_.attendance),
    )


def _classes(db: Database, date: dt.date, day: Day | None) -> list[ClassHeld]:
    held = [_held(one) for one in classes_of(db, day)] if day else []
    opened = {one.start for one in held}
    planned = [
        ClassHeld(id=None, start=start, coach=None, here=[])
        for start in floor.planned_starts(db, date)
        if start not in opened
    ]
    return sorted([*held, *planned], key=lambda one: one.start)


def _flag(last: dt.date | None, date: dt.date) -> Literal["", "new", "returning"]:
    if last is None:
        return "new"
    return "returning" if date - last > floor.AWAY else ""


@coaches.get("/days/{date}/floor")
def read_floor(date: GymDate, db: Database, shelf: Shelf) -> FloorOut:
    """The day's classes, planned ones with them, and who could come."""
    seen = floor.last_seen(db, date)
    day, gym, rack = find_day(db, date), gym_of(db).row, member_store.rack_of(db)
    session = read_board(day.text, shelf).session if day else None
    classes = [
        class_.model_copy(update={"kit": _kit(db, date, class_, session, shelf, rack)})
        for class_ in _classes(db, date, day)
    ]
    starts = [class_.start for class_ in classes if class_.id is not None]
    own = {person.id for person in followers(db)}
    limits = member_store.limits_of(db)
    people = sorted(member_store.active_athletes(db), key=lambda athlete: athlete.id not in own)
    return FloorOut(
        classes=classes,
        load_steps=load_steps(rack.plates),
        nearest=class_nearest(starts, now(db), gym_of(db).zone, gym.class_min),
        people=[
            FloorPerson(
                id=person.id,
                name=person.name,
                tier=person.tier.position,
                track=person.track.position,
                flag=_flag(seen.get(person.id), date),
                limits=limits.get(person.id, []),
            )
            for person in people
        ],
    )


def _kit(
    db: Database,
    date: dt.date,
    class_held: ClassHeld,
    session: plan.Session | None,
    shelf: Library,
    rack: Rack,
) -> list[KitNeed]:
    """What a class needs at once: for all who booked, who wait for a place, or who are here."""
    if session is None:
        return []
    coming = len(signed(db, date, class_held.start, MOST_COMING).coming)
    return list(kit_needed(session, shelf, coming, rack.kit))


@coaches.put("/days/{date}/classes/{start}", responses={404: {"model": Problem}})
def put_class(date: GymDate, start: Start, db: Database, me: Myself) -> ClassHeld:
    """Open the class at a time of the day; one that is open stays as it is."""
    return _held(open_class(db, existing_day(db, date), start, me))


@coaches.put("/classes/{class_id}/here/{person_id}", responses={404: {"model": Problem}})
def mark_here(class_id: Id, person_id: Id, form: HereForm, db: Database) -> ClassHeld:
    """Mark an athlete as here, or not."""
    held = class_of(db, class_id)
    person = db.get(Person, person_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    set_here(db, held, person_id, form.here)
    return _held(held)


def _speed(
    piece: plan.Piece, people: Sequence[Person], db: Database, shelf: Library
) -> dict[int, float]:
    """Larger for who is predicted to do better."""
    if score_kind(piece) is None or not people:
        return {}
    told = foretold(piece, member_store.members_of(db, people), shelf)
    sign = -1 if score_kind(piece) is ScoreKind.TIME else 1
    return {
        person.id: sign * number
        for person, (number, _) in zip(people, told, strict=True)
        if math.isfinite(number) and number > 0
    }


@coaches.get("/classes/{class_id}/lanes/{key}", responses={404: {"model": Problem}})
def read_lanes(
    class_id: Id,
    key: Key,
    db: Database,
    shelf: Shelf,
    pairing: Annotated[heats.Pairing, Query()] = "even teams",
) -> LanesOut:
    """Heats and lanes by the kit there is, partners by predicted pace, or both as set by hand."""
    held = class_of(db, class_id)
    piece = piece_on(db, db.get_one(Day, held.day_id), key, shelf)
    here = {one.person_id for one in held.attendance}
    people = [person for person in member_store.active_athletes(db) if person.id in here]
    names = {person.id: person.name for person in people}
    speed = _speed(piece, people, db, shelf)
    found = member_store.members_of(db, people)
    sheet = scaling_sheet(piece, found, shelf, member_store.rack_of(db))
    waves = max([piece.heats or 1, *(need.heats for need in sheet.kit)])
    set_heats, heats_version = floor.groups_of(db, held, key, "heats")
    by_hand = [[one for one in heat if one in here] for heat in set_heats]
    proposed = [list(heat.lanes) for heat in heats.heats(list(names), waves, speed)]
    size = piece.teams.size if piece.teams else 1
    set_teams, teams_version = floor.groups_of(db, held, key, "teams")
    teams_by_hand = [[one for one in team if one in here] for team in set_teams]
    paired = [list(t) for t in heats.teams(list(names), size, speed, pairing)] if size > 1 else []
    reasons = [
        f"{need.kit}: {need.needed} needed at once, {need.owned} owned: {need.heats} heats"
        for need in sheet.kit
    ]
    if piece.heats:
        reasons.insert(0, f"the board asks for {piece.heats} heats")

    def named(ids: list[int]) -> list[LaneOut]:
        return [LaneOut(id=one, name=names[one]) for one in ids]

    return LanesOut(
        heats=[
            HeatOut(number=number, lanes=named(heat))
            for number, heat in enumerate(by_hand or proposed, start=1)
            if heat
        ],
        heats_by_hand=bool(by_hand),
        heats_version=heats_version,
        teams=[named(team) for team in teams_by_hand or paired if team],
        teams_by_hand=bool(teams_by_hand),
        teams_version=teams_version,
        team_size=size,
        reasons=reasons,
    )


@coaches.put(
    "/classes/{class_id}/lanes/{key}",
    status_code=204,
    responses={404: {"model": Problem}, 409: {"model": Problem}, 422: {"model": Problem}},
)
def write_lanes(class_id: Id, key: Key, form: LanesForm, db: Database) -> None:
    """Set heats or teams by hand; nobody stands in two of them."""
    held = class_of(db, class_id)
    everyone = [one for group in form.groups for one in group]
    known = names_of(db, everyone)
    twice = next((one for one in everyone if everyone.count(one) > 1), None)
    if twice is not None:
        name = known.get(twice, "Somebody")
        raise ApiError(422, f"{name} is in two {form.what}. Remove them from one.")
    if strangers := set(everyone) - known.keys():
        raise ApiError(422, f"nobody has the number {min(strangers)}")
    piece_on(db, db.get_one(Day, held.day_id), key)
    try:
        set_groups(db, held, key, form.what, form.groups, form.version)
    except StaleGroups:
        sentence = f"someone else has set these {form.what} in the meantime: look again"
        raise ApiError(409, sentence) from None


def _jots(db: Database, day: Day, key: str, shelf: Library, only: int | None = None) -> JotsOut:
    piece = piece_on(db, day, key, shelf)
    noted = floor.jots_of(db, key)
    return JotsOut(
        strip=jots.strip_of(piece),
        people=[
            Jotted(person_id=person, rounds=rounds, entry=jots.entry_of(piece, rounds))
            for person, rounds in noted.items()
            if only in (None, person)
        ],
    )


@coaches.get("/days/{date}/pieces/{key}/jots", responses={404: {"model": Problem}})
def read_jots(date: GymDate, key: Key, db: Database, shelf: Shelf) -> JotsOut:
    """What stands jotted of a piece."""
    return _jots(db, existing_day(db, date), key, shelf)


@coaches.post("/days/{date}/pieces/{key}/jots", responses={404: {"model": Problem}})
def land_jots(
    date: GymDate, key: Key, form: JotsForm, db: Database, shelf: Shelf, me: Myself
) -> JotsOut:
    """Land notes from the floor, each exactly once however often it is sent."""
    day = existing_day(db, date)
    piece_on(db, day, key, shelf)
    known = names_of(db, (jot.person_id for jot in form.jots))
    for one in form.jots:
        if one.person_id not in known:
            raise ApiError(422, f"nobody has the number {one.person_id}")
    _land(db, day, key, [floor.Noted(**jot.model_dump()) for jot in form.jots], me)
    return _jots(db, day, key, shelf)


def _land(db: Database, day: Day, key: str, noted: list[floor.Noted], me: Person) -> None:
    try:
        land(db, day, key, noted, me)
    except JotKeyTaken:
        raise ApiError(422, "this note was sent before with something else in it") from None


def _my_day(db: Database, date: dt.date, me: Person) -> Day:
    day = day_for(db, date, me)
    if day is None or not me.trains:
        raise not_found(f"session for you on {date.isoformat()}")
    return day


@members.get("/me/days/{date}/pieces/{key}/jots", responses={404: {"model": Problem}})
def read_my_jots(date: GymDate, key: Key, db: Database, shelf: Shelf, me: Myself) -> JotsOut:
    """What stands jotted of my piece, by me or by a judge."""
    return _jots(db, _my_day(db, date, me), key, shelf, me.id)


@members.post("/me/days/{date}/pieces/{key}/jots", responses={404: {"model": Problem}})
def land_my_jots(
    date: GymDate, key: Key, form: MyJotsForm, db: Database, shelf: Shelf, me: Myself
) -> JotsOut:
    """Land my own notes, each exactly once."""
    day = _my_day(db, date, me)
    piece_on(db, day, key, shelf)
    _land(db, day, key, [floor.Noted(person_id=me.id, **jot.model_dump()) for jot in form.jots], me)
    return _jots(db, day, key, shelf, me.id)


def _check_in(db: Database, date: dt.date, day: Day, me: Person) -> CheckInOut:
    flag = _flag(floor.last_seen(db, date).get(me.id), date)
    shown = member_store.seen_people(db)
    return CheckInOut(
        classes=[
            MyClass(
                start=class_.start,
                here=me.id in class_.here,
                others=len(set(class_.here) - {me.id}),
                names=[
                    shown[one_id] for one_id in class_.here if one_id in shown and one_id != me.id
                ],
            )
            for class_ in _classes(db, date, day)
        ],
        readiness=READINESS if flag else "",
    )


@members.get("/me/days/{date}/classes", responses={404: {"model": Problem}})
def my_classes(date: GymDate, db: Database, me: Myself) -> CheckInOut:
    """The classes I can check in to."""
    return _check_in(db, date, _my_day(db, date, me), me)


@members.put("/me/days/{date}/check-in", responses={404: {"model": Problem}})
def check_in(date: GymDate, form: CheckInForm, db: Database, me: Myself) -> CheckInOut:
    """Check in to a class of the day, or out of it."""
    day = _my_day(db, date, me)
    starts = {class_.start for class_ in _classes(db, date, day)}
    if form.start not in starts:
        raise not_found(f"class at {form.start:%H:%M}")
    held = open_class(db, day, form.start, None)
    set_here(db, held, me.id, form.here)
    return _check_in(db, date, day, me)
