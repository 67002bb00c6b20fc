"""The week: seven days side by side; copying, moving and clearing them."""

from __future__ import annotations

import datetime as dt

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.days import DayConflict, DayOut, day_out, existing_day, hour_of
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.core.movements import Pattern, library
from pine_ladder.core.notation import parse
from pine_ladder.core.outline import Outline
from pine_ladder.core.week import WEEKLY, DayLoad, Remark, day_load, remarks
from pine_ladder.store import days

coaches = router("coach", "week")

DAYS = 7


class WeekDay(BaseModel):
    """One day of the week; an unwritten one has no outline."""

    day: DayOut
    title: str
    outline: Outline | None
    load: DayLoad | None
    scored: bool


class Week(BaseModel):
    """Seven days from a Monday, the patterns of the strip, and where the week is lopsided."""

    monday: dt.date
    patterns: tuple[Pattern, ...]
    days: list[WeekDay]
    remarks: list[Remark]


class CopyForm(BaseModel):
    """Where to copy a day. `version` is the target's; moving empties the source."""

    to: dt.date
    version: int = Field(ge=0)
    move: bool = False


class ClearForm(BaseModel):
    """The version that was read."""

    version: int = Field(ge=0)


def _stale(stale: days.Stale) -> ApiError:
    newer = day_out(stale.newer.date, stale.newer).model_dump(mode="json") if stale.newer else None
    return ApiError(409, "someone saved this day in the meantime", newer=newer)


@coaches.get("/week/{date}")
def read_week(date: dt.date, db: Database) -> Week:
    """The week that holds a date."""
    monday = date - dt.timedelta(days=date.weekday())
    dates = [monday + dt.timedelta(days=n) for n in range(DAYS)]
    written = {day.date: day for day in days.days_between(db, dates[0], dates[-1])}
    out, loads = [], {}
    for one in dates:
        day = written.get(one)
        if day is None or not day.text.strip():
            empty = WeekDay(day=day_out(one, day), title="", outline=None, load=None, scored=False)
            out.append(empty)
            continue
        session = parse(day.text).session
        loads[one] = day_load(session, library())
        out.append(
            WeekDay(
                day=day_out(one, day),
                title=session.title or "",
                outline=hour_of(db, day.text),
                load=loads[one],
                scored=days.has_scores(db, day),
            )
        )
    return Week(monday=monday, patterns=WEEKLY, days=out, remarks=remarks(loads))


@coaches.post("/days/{date}/copy", responses={404: {"model": Problem}, 409: {"model": DayConflict}})
def copy_day(date: dt.date, form: CopyForm, db: Database, me: Myself) -> list[DayOut]:
    """Copy or move a board to an empty day; answers the source and the target as they are now."""
    source = existing_day(db, date)
    try:
        if form.move and days.has_scores(db, source):
            raise ApiError(409, "scores are kept for this day: copy it instead", newer=None)
        target = days.copy_day(db, source, form.to, form.version, me)
        if form.move:
            source = days.clear_day(db, date, source.version, me)
    except FileExistsError:
        raise ApiError(409, f"{form.to:%A} holds a board already", newer=None) from None
    except days.Stale as stale:
        raise _stale(stale) from None
    return [day_out(date, source), day_out(form.to, target)]


@coaches.post("/days/{date}/clear", responses={409: {"model": DayConflict}})
def clear_day(date: dt.date, form: ClearForm, db: Database, me: Myself) -> DayOut:
    """Empty a day's board, unless scores are kept for it."""
    try:
        return day_out(date, days.clear_day(db, date, form.version, me))
    except days.Scored:
        raise ApiError(409, "scores are kept for this day: it is not cleared", newer=None) from None
    except days.Stale as stale:
        raise _stale(stale) from None
