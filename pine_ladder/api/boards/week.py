"""The week: seven days side by side; copying, moving and clearing them."""

from __future__ import annotations

import datetime as dt
from collections import Counter

from pydantic import BaseModel, Field
from sqlalchemy import select

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days import DayConflict, DayOut, day_out, existing_day, hour_of
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation import parse
from pine_ladder.core.outline import Outline
from pine_ladder.core.progression import Step, steps, take
from pine_ladder.core.week import WEEKLY, DayLoad, Remark, day_load, remarks
from pine_ladder.store import days
from pine_ladder.store.models import BankedBoard, Day, Person

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


class ForwardForm(BaseModel):
    """Which of the offered steps to take, by their keys."""

    accept: list[str] = Field(max_length=100)


class KeepForm(BaseModel):
    """The day whose board to keep."""

    date: dt.date


class PlaceForm(BaseModel):
    """The empty day to write on and its version."""

    to: dt.date
    version: int = Field(ge=0)


class Banked(BaseModel):
    """A board in the bank, and how often the gym has held it."""

    id: int
    name: str
    text: str
    held: int


def _stale(stale: days.Stale) -> ApiError:
    newer = day_out(stale.newer.date, stale.newer).model_dump(mode="json") if stale.newer else None
    return ApiError(409, "someone saved this day in the meantime", newer=newer)


@coaches.get("/week/{date}")
def read_week(date: dt.date, db: Database, shelf: Shelf) -> Week:
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
        session = parse(day.text, shelf).session
        loads[one] = day_load(session, shelf)
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
        target = _place(db, source.text, form.to, form.version, me)
        if form.move:
            source = days.clear_day(db, date, source.version, me)
    except days.Stale as stale:
        raise _stale(stale) from None
    return [day_out(date, source), day_out(form.to, target)]


def _place(db: Database, text: str, to: dt.date, version: int, me: Person) -> Day:
    try:
        return days.place_board(db, text, to, version, me)
    except FileExistsError:
        raise ApiError(409, f"{to:%A} holds a board already", newer=None) from None
    except days.Stale as stale:
        raise _stale(stale) from None


@coaches.get("/days/{date}/steps", responses={404: {"model": Problem}})
def read_steps(date: dt.date, db: Database) -> list[Step]:
    """The stated steps a day could take when it is repeated a week later."""
    return steps(parse(existing_day(db, date).text).session)


@coaches.post(
    "/days/{date}/forward", responses={404: {"model": Problem}, 409: {"model": DayConflict}}
)
def step_forward(date: dt.date, form: ForwardForm, db: Database, me: Myself) -> DayOut:
    """Copy a day a week on with the accepted steps, onto an empty day."""
    source = existing_day(db, date)
    offered = {step.key for step in steps(parse(source.text).session)}
    if not offered.issuperset(form.accept):
        raise ApiError(422, "the day has changed: look at its steps again")
    to = date + dt.timedelta(days=DAYS)
    there = days.find_day(db, to)
    text = take(source.text, form.accept)
    return day_out(to, _place(db, text, to, there.version if there else 0, me))


@coaches.get("/bank")
def read_bank(db: Database) -> list[Banked]:
    """The named boards the gym keeps, with how often each title has been held."""
    held = Counter(
        parse(text).session.title
        for text in db.scalars(select(Day.text).where(Day.published, Day.date <= dt.date.today()))
    )
    kept = db.scalars(select(BankedBoard).order_by(BankedBoard.name))
    return [Banked(id=b.id, name=b.name, text=b.text, held=held[b.name]) for b in kept]


@coaches.post("/bank", status_code=201, responses={409: {"model": Problem}})
def keep_board(form: KeepForm, db: Database) -> Banked:
    """Keep a day's board under its title."""
    day = existing_day(db, form.date)
    name = parse(day.text).session.title
    if not name:
        raise ApiError(422, "give the board a title first: # Slack Water")
    if db.scalars(select(BankedBoard).where(BankedBoard.name == name)).first():
        raise ApiError(409, f"{name} is in the bank already")
    board = BankedBoard(name=name[:120], text=day.text)
    db.add(board)
    db.flush()
    return Banked(id=board.id, name=board.name, text=board.text, held=0)


@coaches.delete("/bank/{board_id}", status_code=204, responses={404: {"model": Problem}})
def forget_board(board_id: int, db: Database) -> None:
    """Take a board out of the bank; days that hold it stay."""
    board = db.get(BankedBoard, board_id)
    if board is None:
        raise not_found("such board in the bank")
    db.delete(board)


@coaches.post(
    "/bank/{board_id}/place", responses={404: {"model": Problem}, 409: {"model": DayConflict}}
)
def place_banked(board_id: int, form: PlaceForm, db: Database, me: Myself) -> DayOut:
    """Write a kept board on an empty day, as a retest."""
    board = db.get(BankedBoard, board_id)
    if board is None:
        raise not_found("such board in the bank")
    return day_out(form.to, _place(db, board.text, form.to, form.version, me))


@coaches.post("/days/{date}/clear", responses={409: {"model": DayConflict}})
def clear_day(date: dt.date, form: ClearForm, db: Database, me: Myself) -> DayOut:
    """Empty a day's board, unless scores are kept for it."""
    try:
        return day_out(date, days.clear_day(db, date, form.version, me))
    except days.Scored:
        raise ApiError(409, "scores are kept for this day: it is not cleared", newer=None) from None
    except days.Stale as stale:
        raise _stale(stale) from None
