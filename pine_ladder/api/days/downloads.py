"""Days and weeks to take away, in open formats."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import Annotated

from fastapi import Query, Response

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.days.days import existing_day, hour_of
from pine_ladder.api.errors import Problem
from pine_ladder.api.forms import GymDate, Place
from pine_ladder.core.day.athlete_view import shown_on, view
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.weights import with_units
from pine_ladder.core.plan import Session
from pine_ladder.core.poses import figure_of
from pine_ladder.files.calendar import Held, calendar
from pine_ladder.files.printed_page import day_page
from pine_ladder.files.zip_archive import board_name, zip_boards
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.floor.classes import slots_on
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Day
from pine_ladder.usecases.drafting import cycle_days

coaches = router("coach", "files")

CycleName = Annotated[str, Query(max_length=200, description="the cycle's name on its boards")]


def _file(content: str | bytes, kind: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=kind, headers=headers)


def _week(db: Database, date: dt.date) -> list[Day]:
    monday = date - dt.timedelta(days=date.weekday())
    found = days.days_between(db, monday, monday + dt.timedelta(days=6))
    return [day for day in found if day.text.strip()]


@coaches.get("/days/{date}/board", responses={404: {"model": Problem}})
def board_file(date: GymDate, db: Database) -> Response:
    """The day's board as a text file."""
    return _file(existing_day(db, date).text, "text/plain; charset=utf-8", board_name(date))


@coaches.get("/days/{date}/plan", responses={404: {"model": Problem}})
def plan_file(date: GymDate, db: Database, shelf: Shelf) -> Session:
    """The day's plan as parsed; its schema is published in docs/schemas."""
    return read_board(existing_day(db, date).text, shelf).session


@coaches.get("/days/{date}/page", responses={404: {"model": Problem}})
def page_file(
    date: GymDate,
    db: Database,
    shelf: Shelf,
    tier: Annotated[Place | None, Query(description="None prints all tiers on one sheet")] = None,
    track: Annotated[Place | None, Query(description="None prints pairs whole")] = None,
) -> Response:
    """The day as one A4 page, for a tier and a track or with all of them."""
    day = existing_day(db, date)
    session = read_board(day.text, shelf).session
    board = view(session, shelf, tier or 0, track)
    names = gym_of(db).tiers if tier is None else []
    others = [(name, view(session, shelf, at, track)) for at, name in enumerate(names) if at]
    heading = f"{gym_of(db).row.name}, {date:%A} {date.day} {date:%B %Y}"
    found = (figure_of(name, shelf) for name in shown_on(board))
    drawn = [figure for figure in found if figure is not None]
    page = day_page(heading, hour_of(db, day.text, date=date), board, drawn, others)
    return _file(page, "application/pdf", f"{date.isoformat()}.pdf")


@coaches.get("/week/{date}/boards")
def week_boards(date: GymDate, db: Database, shelf: Shelf) -> Response:
    """The week's boards as a zip of text files, every load with its unit."""
    return _boards(_week(db, date), shelf, f"week-{date.isoformat()}")


@coaches.get("/cycles/{date}/boards")
def cycle_boards(date: GymDate, name: CycleName, db: Database, shelf: Shelf) -> Response:
    """The boards of a cycle around a date as a zip of text files; an empty one for no such."""
    return _boards(cycle_days(db, date, name), shelf, f"cycle-{date.isoformat()}")


@coaches.get("/cycles/{date}/calendar")
def cycle_calendar(date: GymDate, name: CycleName, db: Database, shelf: Shelf) -> Response:
    """The classes of a cycle around a date as iCalendar."""
    return _calendar(cycle_days(db, date, name), db, shelf, f"cycle-{date.isoformat()}")


def _boards(found: Sequence[Day], shelf: Library, name: str) -> Response:
    texts = {day.date: with_units(day.text, shelf) for day in found}
    return _file(zip_boards(texts), "application/zip", f"{name}.zip")


@coaches.get("/week/{date}/calendar")
def week_calendar(date: GymDate, db: Database, shelf: Shelf) -> Response:
    """The week's classes as iCalendar, at the gym's weekly class times."""
    return _calendar(_week(db, date), db, shelf, f"week-{date.isoformat()}")


def _calendar(found: Sequence[Day], db: Database, shelf: Library, name: str) -> Response:
    gym = gym_of(db).row
    held = [
        Held(
            date=day.date,
            start=start,
            length_s=hour_of(db, day.text).class_s,
            title=read_board(day.text, shelf).session.title or gym.name,
            board=day.text,
        )
        for day in found
        for start in (slot.start for slot in slots_on(db, day.date))
    ]
    content = calendar(gym.name, held, now(db), gym_of(db).zone)
    return _file(content, "text/calendar; charset=utf-8", f"{name}.ics")
