"""A member's calendar: an address that any calendar program subscribes to, theirs to withdraw."""

from __future__ import annotations

import datetime as dt
from typing import Annotated
from urllib.parse import urlencode

from fastapi import Path, Query, Request, Response
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days.days import hour_of
from pine_ladder.api.errors import Problem, not_found
from pine_ladder.api.forms import Form
from pine_ladder.api.links import Shown, shown
from pine_ladder.core.day.kit import kit_line
from pine_ladder.core.movements import Library
from pine_ladder.files.calendar import Held, calendar
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.floor.bookings import planned, signed
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of, work_on
from pine_ladder.store.gym.programmes import followed_by, programmes_of
from pine_ladder.store.models import Day, Person
from pine_ladder.store.people import links
from pine_ladder.usecases.links import make_calendar, withdraw_calendar

members = router("member", "calendar")
open_door = router("public", "calendar")

PAST, AHEAD = 14, 35
"""Days of the past and of the time to come that a calendar holds."""
Token = Annotated[str, Path(max_length=100)]


class HasCalendar(BaseModel):
    """Whether I have a calendar address: it is shown once, when it is made."""

    made_at: dt.datetime | None


@members.get("/me/calendar")
def has_calendar(db: Database, me: Myself) -> HasCalendar:
    """Whether a calendar address of mine is in use."""
    return HasCalendar(made_at=links.calendar_since(db, me))


class CalendarForm(Form):
    """A new calendar address: `all` classes of the gym or one's own alone, with an `alarm` so many
    minutes before one's own (0: none).
    """

    all: bool = False
    alarm: int = Field(default=0, ge=0, le=1440)


@members.post("/me/calendar", status_code=201)
def post_calendar(request: Request, form: CalendarForm, db: Database, me: Myself) -> Shown:
    """A new calendar address; the one before it is over."""
    asked = {"all": "true"} if form.all else {}
    asked |= {"alarm": str(form.alarm)} if form.alarm else {}
    query = f"?{urlencode(asked)}" if asked else ""
    return shown(request, f"/api/calendar/{make_calendar(db, me)}.ics{query}")


@members.delete("/me/calendar", status_code=204)
def delete_calendar(db: Database, me: Myself) -> None:
    """Withdraw my calendar address."""
    withdraw_calendar(db, me)


@open_door.get("/calendar/{token}.ics", responses={404: {"model": Problem}})
def subscribed(
    token: Token,
    db: Database,
    shelf: Shelf,
    everything: Annotated[bool, Query(alias="all")] = False,
    alarm: Annotated[int, Query(ge=0, le=1440)] = 0,
) -> Response:
    """The classes somebody has booked or waits for, as iCalendar, with their boards and kit.

    `all` adds the other classes of the gym, and `alarm` rings so many minutes before one's own.
    """
    person = links.calendar_of(db, token)
    if person is None:
        raise not_found("such calendar")
    gym, today = gym_of(db).row, gym_of(db).today
    first, last = today - dt.timedelta(days=PAST), today + dt.timedelta(days=AHEAD)
    classes_held: list[Held] = []
    for programme in followed_by(db, person):
        work_on(db, programme.id)
        written = {day.date: day for day in days.days_between(db, first, last) if day.published}
        for n in range((last - first).days + 1):
            found = _held(db, shelf, first + dt.timedelta(days=n), written, person, gym.name)
            classes_held += [one for one in found if everything or one.busy or one.waiting]
    classes_held.sort(key=lambda one: (one.date, one.start))
    content = calendar(gym.name, classes_held, now(db), gym_of(db).zone, alarm)
    return Response(content, media_type="text/calendar; charset=utf-8")


def _held(
    db: Database,
    shelf: Library,
    date: dt.date,
    written: dict[dt.date, Day],
    person: Person,
    gym: str,
) -> list[Held]:
    day = written.get(date)
    title, text = gym, ""
    kit: tuple[str, ...] = ()
    length_s = gym_of(db).row.class_min * 60
    if day is not None and day.text.strip():
        length_s = hour_of(db, day.text).class_s
        session = read_board(day.text, shelf).session
        title, text = session.title or gym, day.text
        kit = kit_line(session, shelf, person.tier.position, person.track.position)
    out = []
    programme = gym_of(db).programme
    line = None if programme.id == programmes_of(db)[0].id else programme.id
    for one in planned(db, date):
        mine, _ = signed(db, date, one.start, one.size).of(person.id)
        notes = [one.word, f"Kit: {', '.join(kit)}" if kit else "", text]
        out.append(
            Held(
                date=date,
                start=one.start,
                length_s=one.minutes * 60 if one.minutes else length_s,
                place=one.place,
                title=f"{title} (waiting)" if mine == "waiting" else title,
                board="\n\n".join(filter(None, notes)),
                # Boards and classes count their changes apart: together they only grow.
                sequence=(day.version if day else 0) + one.version,
                cancelled=one.cancelled,
                waiting=mine == "waiting",
                busy=mine == "coming",
                line=line,
            )
        )
    return out
