"""Weeks seen together, for the coach."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import Query

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.forms import GymDate
from pine_ladder.core.week.overview import Season, season
from pine_ladder.store.days import days
from pine_ladder.store.days import saved_workouts as bank
from pine_ladder.store.days.pieces import read_board

coaches = router("coach", "week")

BEFORE = 3
"""So many times the weeks asked for are looked at for what came before."""


@coaches.get("/week/{date}/season")
def read_season(
    date: GymDate,
    db: Database,
    shelf: Shelf,
    weeks: Annotated[int, Query(ge=2, le=26, description="How many, up to the week of the date")],
) -> Season:
    """Some weeks of the programme, the week of a date the last of them."""
    monday = date - dt.timedelta(days=date.weekday())
    first = monday - dt.timedelta(weeks=weeks - 1)
    since = first - dt.timedelta(weeks=BEFORE * weeks)
    end = monday + dt.timedelta(days=6)
    held = {
        day.date: read_board(day.text, shelf).session
        for day in days.days_between(db, since, end)
        if day.text.strip()
    }
    last: dict[str, dt.date] = {}
    for day in days.days_between(db, dt.date.min, end):
        if day.published and (title := read_board(day.text, shelf).session.title):
            last[title] = day.date
    saved = [(name, last.get(name)) for name in bank.board_names(db)]
    return season(held, first, weeks, saved, shelf)
