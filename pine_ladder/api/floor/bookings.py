"""Signing up: members say that they come, coaches see their classes filling."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days.days import day_for
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id, Start, Version
from pine_ladder.api.links import configured_url
from pine_ladder.core.day.calendar import LONGEST, MOST_PLACES, SHORTEST
from pine_ladder.core.day.closing import why_closed
from pine_ladder.core.day.kit import KitNeed, kit_line, kit_needed
from pine_ladder.core.day.letters import ClassTold, class_letter, place_letter
from pine_ladder.core.floor.capacity import TO_DECLINE, Places, decline_until
from pine_ladder.core.formats import plural
from pine_ladder.jobs.mail import Post, Postman
from pine_ladder.store.athletes.members import profile_of, rack_of
from pine_ladder.store.days.days import find_day
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.floor import bookings as signups
from pine_ladder.store.floor.bookings import late_cancel_min
from pine_ladder.store.floor.classes import closings
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Person
from pine_ladder.usecases import booking

members = router("member", "sign-ups")
coaches = router("coach", "sign-ups")


class MyPlace(BaseModel):
    """A class I may come to: its minutes and hall where it has its own, how full it is, and where I
    stand in it (`place` from 1).
    """

    start: dt.time
    minutes: int | None
    hall: str
    size: int
    coming: int
    waiting: int
    mine: Literal["no", "coming", "waiting"]
    place: int
    decline_until: dt.datetime | None
    """Until when I may decline a place that I moved up to, without it counting as late."""
    cancelled: bool
    word: str
    over: bool


class MyPlaces(BaseModel):
    """The classes of a day, and the kit my version of it needs."""

    classes: list[MyPlace]
    kit: list[str]
    closed: str | None
    """Why the gym is closed on this day; None where it is open."""


class ComingForm(Form):
    """Whether I come to a class. `also` books beside another class of the day, `late` gives up a
    place later than the gym asks for: both are asked first.
    """

    start: Start
    coming: bool
    also: bool = False
    late: bool = False


class ComingPerson(BaseModel):
    """Somebody who comes, with what limits them."""

    id: int
    name: str
    limits: list[str]


class Filling(BaseModel):
    """A class filling up: who comes, who waits, and the kit they need at once."""

    start: dt.time
    minutes: int | None
    hall: str
    size: int
    coming: list[ComingPerson]
    waiting: list[ComingPerson]
    late: list[ComingPerson]
    """Those who gave up a place later than the gym asks for."""
    no_shows: list[ComingPerson]
    """Those who had booked and were not checked in, once the class has begun."""
    cancelled: bool
    word: str
    weekly: bool
    version: int
    kit: list[KitNeed]


class PlanForm(Form):
    """A class of a date otherwise than the week has it; `size` and `minutes` None are as there."""

    size: int | None = Field(default=None, ge=1, le=MOST_PLACES)
    minutes: int | None = Field(default=None, ge=SHORTEST, le=LONGEST)
    cancelled: bool = False
    word: str = Field(default="", max_length=200)
    version: Version


class MoveForm(Form):
    """When a class of a date is held instead."""

    to: Start
    version: Version


class SignForm(Form):
    """Somebody whom a coach signs up, or takes off."""

    person_id: Id
    coming: bool


def _begun(db: Database, date: dt.date, start: dt.time) -> bool:
    return dt.datetime.combine(date, start, gym_of(db).zone) <= now(db)


def _mine(db: Database, date: dt.date, planned: signups.Planned, me: Person) -> MyPlace:
    found = signups.signed(db, date, planned.start, planned.size)
    mine, place = found.of(me.id)
    up = signups.moved_up_at(db, date, planned.start, me.id) if mine == "coming" else None
    return MyPlace(
        start=planned.start,
        minutes=planned.minutes,
        hall=planned.place,
        size=planned.size,
        coming=len(found.coming),
        waiting=len(found.waiting),
        mine=mine,
        place=place,
        decline_until=decline_until(up, now(db)),
        cancelled=planned.cancelled,
        word=planned.word,
        over=_begun(db, date, planned.start),
    )


@members.get("/me/days/{date}/places")
def my_places(date: GymDate, db: Database, shelf: Shelf, me: Myself) -> MyPlaces:
    """The classes of a day with their places, and the kit I need."""
    day = day_for(db, date, me)
    kit: list[str] = []
    if day is not None and day.text.strip():
        session = read_board(day.text, shelf).session
        kit = list(kit_line(session, shelf, me.tier.position, me.track.position))
    return MyPlaces(
        classes=[_mine(db, date, one, me) for one in signups.planned(db, date)],
        kit=kit,
        closed=why_closed(date, closings(db)),
    )


@members.put(
    "/me/days/{date}/place",
    responses={403: {"model": Problem}, 404: {"model": Problem}, 409: {"model": Problem}},
)
def take_place(
    date: GymDate,
    form: ComingForm,
    db: Database,
    shelf: Shelf,
    post: Post,
    me: Myself,
) -> MyPlaces:
    """Say that I come to a class, or that I do not. A second class of the day and a late
    cancellation are asked about: 409 with `asks`, and the form again with the answer.
    """
    if not me.trains:
        raise ApiError(403, "athletes sign up; a coach who trains says so on People")
    booking.hold(db, date)
    one = signups.planned_at(db, date, form.start)
    if one is None:
        raise not_found(f"class at {form.start:%H:%M}")
    if form.coming and one.cancelled:
        raise ApiError(409, f"the class at {form.start:%H:%M} is cancelled")
    if _begun(db, date, form.start):
        raise ApiError(409, f"the class at {form.start:%H:%M} has begun")
    _ask(db, date, form, one, me)
    _tell_moved_up(db, post, date, one, booking.sign_up(db, date, one, me, form.coming))
    return my_places(date, db, shelf, me)


def _ask(
    db: Database, date: dt.date, form: ComingForm, planned: signups.Planned, me: Person
) -> None:
    """Ask about a second class of the day, and about giving up a place late."""
    others = signups.booked_elsewhere(db, date, form.start, me.id)
    if form.coming and others and not form.also:
        told = " and ".join(f"{other:%H:%M}" for other in others)
        sentence = f"You are booked at {told} already. Book {form.start:%H:%M} as well?"
        raise ApiError(409, sentence, asks="also")
    if form.coming:
        return
    mine, _ = signups.signed(db, date, form.start, planned.size).of(me.id)
    limit = late_cancel_min(gym_of(db).row)
    if mine != "coming" or not booking.late_to_cancel(db, date, form.start, me, limit):
        return
    if not form.late:
        sentence = (
            f"The class begins in less than {_spoken_minutes(limit)}. If you cancel now, your coach"
            " sees a late cancellation."
        )
        raise ApiError(409, sentence, asks="late")
    booking.note_late(db, date, form.start, me)


def _spoken_minutes(minutes: int) -> str:
    """A length in hours where they are whole: `24 hours`, `90 minutes`."""
    count, unit = (minutes, "minute") if minutes % 60 else (minutes // 60, "hour")
    return f"{count} {plural(unit, count)}"


def _tell_moved_up(
    db: Database,
    post: Postman,
    date: dt.date,
    planned: signups.Planned,
    people: tuple[int, ...],
) -> None:
    """Write to those who have moved up from the waiting list."""
    if _begun(db, date, planned.start):
        return
    gym, until = gym_of(db), now(db) + TO_DECLINE
    address = configured_url() or ""
    for number in people:
        person = db.get_one(Person, number)
        letter = place_letter(
            gym.row.name,
            person.name,
            date,
            planned.start,
            until.astimezone(gym.zone).time(),
            address,
        )
        key = f"{gym.programme.id}/{date}/{planned.start:%H:%M}/up/{until:%H%M%S}"
        post.queue(db, person, "class", key, letter)


def _limits(db: Database, person_id: int) -> list[str]:
    profile, _ = profile_of(db, person_id)
    return [f"{own.limit} {own.note}".strip() for own in profile.limits]


def _people(db: Database, ids: tuple[int, ...]) -> list[ComingPerson]:
    return [
        ComingPerson(id=one, name=db.get_one(Person, one).name, limits=_limits(db, one))
        for one in ids
    ]


@coaches.get("/days/{date}/places")
def classes_filling(date: GymDate, db: Database, shelf: Shelf) -> list[Filling]:
    """The classes of a day filling up: who comes, what limits them, the kit they need."""
    day = find_day(db, date)
    session = read_board(day.text, shelf).session if day else None
    owned = rack_of(db).kit

    def filling(planned: signups.Planned) -> Filling:
        places: Places = signups.signed(db, date, planned.start, planned.size)
        return Filling(
            start=planned.start,
            minutes=planned.minutes,
            hall=planned.place,
            size=planned.size,
            coming=_people(db, places.coming),
            waiting=_people(db, places.waiting),
            late=_people(db, tuple(signups.cancelled_late(db, date, planned.start))),
            no_shows=_people(db, tuple(signups.no_shows(db, date, planned.start)))
            if _begun(db, date, planned.start)
            else [],
            cancelled=planned.cancelled,
            word=planned.word,
            weekly=planned.weekly,
            version=planned.version,
            kit=list(kit_needed(session, shelf, len(places.coming), owned)) if session else [],
        )

    return [filling(one) for one in signups.planned(db, date)]


def _tell(
    db: Database,
    post: Postman,
    date: dt.date,
    before: signups.Planned | None,
    after: signups.Planned | None,
) -> None:
    """Tell who signed up for a class that it is off, on again, or what they are to know."""
    if before is None or after is None or _begun(db, date, after.start):
        return
    if (before.start, before.cancelled, before.word) == (after.start, after.cancelled, after.word):
        return
    told = ClassTold(date, before.start, after.cancelled, after.word, after.start)
    found = signups.signed(db, date, after.start, after.size)
    line, gym = gym_of(db).programme.id, gym_of(db).row.name
    key = f"{line}/{date}/{after.start:%H:%M}/{after.version}"
    for number in (*found.coming, *found.waiting):
        person = db.get_one(Person, number)
        post.queue(db, person, "class", key, class_letter(gym, person.name, told))


@coaches.put(
    "/days/{date}/classes/{start}/plan",
    responses={404: {"model": Problem}, 409: {"model": Problem}},
)
def change_class(
    date: GymDate,
    start: Start,
    form: PlanForm,
    db: Database,
    shelf: Shelf,
    post: Post,
) -> list[Filling]:
    """Cancel a class of a date, give it a size or a word, or hold one beside the week's. Who signed
    up is told by mail what changed for them.
    """
    booking.hold(db, date)
    before = signups.planned_at(db, date, start)
    places = signups.signed(db, date, start, before.size) if before is not None else None
    try:
        booking.change_plan(
            db,
            date,
            start,
            form.version,
            size=form.size,
            minutes=form.minutes,
            cancelled=form.cancelled,
            word=" ".join(form.word.split()),
        )
    except booking.StalePlan:
        raise ApiError(409, "someone else has changed this class: look at it again") from None
    after = signups.planned_at(db, date, start)
    _tell(db, post, date, before, after)
    if places is not None and after is not None and not after.cancelled:
        people = booking.move_up(db, date, after, places)
        _tell_moved_up(db, post, date, after, people)
    return classes_filling(date, db, shelf)


@coaches.post(
    "/days/{date}/classes/{start}/move",
    responses={404: {"model": Problem}, 409: {"model": Problem}},
)
def move_class(
    date: GymDate, start: Start, form: MoveForm, db: Database, shelf: Shelf, post: Post
) -> list[Filling]:
    """Hold a class of a date at another time. Who signed up keeps their place and is told."""
    before = signups.planned_at(db, date, start)
    if before is None:
        raise not_found(f"class at {start:%H:%M}")
    if before.cancelled:
        raise ApiError(409, f"the class at {start:%H:%M} is cancelled: hold it first")
    try:
        if before.version != form.version:
            raise booking.StalePlan
        booking.move(db, date, before, form.to)
    except booking.StalePlan:
        raise ApiError(409, "someone else has changed this class: look at it again") from None
    except booking.Taken:
        raise ApiError(409, f"there is a class at {form.to:%H:%M} already") from None
    _tell(db, post, date, before, signups.planned_at(db, date, form.to))
    return classes_filling(date, db, shelf)


@coaches.put(
    "/days/{date}/classes/{start}/place",
    responses={404: {"model": Problem}, 409: {"model": Problem}, 422: {"model": Problem}},
)
def give_place(
    date: GymDate,
    start: Start,
    form: SignForm,
    db: Database,
    shelf: Shelf,
    post: Post,
) -> list[Filling]:
    """Sign somebody up for a class, or take them off."""
    booking.hold(db, date)
    one = signups.planned_at(db, date, start)
    if one is None:
        raise not_found(f"class at {start:%H:%M}")
    if form.coming and one.cancelled:
        raise ApiError(409, f"the class at {start:%H:%M} is cancelled")
    person = db.get(Person, form.person_id)
    if person is None or not person.active or not person.trains:
        raise ApiError(422, "only somebody who trains here can have a place")
    people = booking.sign_up(db, date, one, person, form.coming)
    _tell_moved_up(db, post, date, one, people)
    return classes_filling(date, db, shelf)
