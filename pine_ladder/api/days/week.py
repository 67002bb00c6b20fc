"""The week: seven days side by side; copying, moving and clearing them."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Mapping
from typing import Annotated

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days.days import (
    DayConflict,
    DayOut,
    asked,
    day_out,
    existing_day,
    hour_of,
    stale_day,
)
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id, Version
from pine_ladder.core.day.closing import why_closed
from pine_ladder.core.day.hour_ruler import Outline
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.tokens import MAX_TEXT
from pine_ladder.core.week.balance import (
    DayLoad,
    PatternBalance,
    RegionBalance,
    Remark,
    balance,
    day_load,
    ramps,
    regions,
    remarks,
)
from pine_ladder.core.week.next_time import Advice, advice
from pine_ladder.core.week.progression import Step, steps, take
from pine_ladder.core.week.template import template_week
from pine_ladder.store.days import days
from pine_ladder.store.days import saved_workouts as bank
from pine_ladder.store.days import week_themes as themes
from pine_ladder.store.days.pieces import keys_of, read_board
from pine_ladder.store.floor.classes import closings
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.styles import style_of
from pine_ladder.store.models import BankedBoard, Day, Person
from pine_ladder.store.scores.history import holdings, lifted_on, results_on
from pine_ladder.usecases.days import Stale, Taken, clear_day, keep_board, move_day, place_board
from pine_ladder.usecases.piece_matching import Asked

coaches = router("coach", "week")

DAYS = 7
HOLDINGS = 12
"""Times that a piece was held before that are looked at."""
USUAL_WEEKS = 8
"""Weeks before this one that tell what is usual (judgement)."""


class WeekDay(BaseModel):
    """One day of the week; an unwritten one has no outline."""

    day: DayOut
    title: str
    outline: Outline | None
    load: DayLoad | None
    scored: bool
    closed: str | None
    """Why the gym is closed on it; None where it is open."""


class Week(BaseModel):
    """Seven days from a Monday, what the week is about, what it loads against the gym's usual
    week, and where it is lopsided.
    """

    monday: dt.date
    theme: str
    theme_version: int
    regions: tuple[RegionBalance, ...]
    patterns: tuple[PatternBalance, ...]
    days: list[WeekDay]
    remarks: list[Remark]


class CopyForm(Form):
    """Where to copy a day. `version` is the target's; moving leaves the source empty.

    A day with scores is moved only with `carry`: they go with it.
    """

    to: GymDate
    version: Version
    move: bool = False
    carry: bool = False


class ClearForm(Form):
    """The version that was read; with `aside` a scored day's scores are kept, set aside."""

    version: Version
    aside: bool = False


class ForwardForm(Form):
    """Which of the offered steps to take, by their keys."""

    accept: list[Annotated[str, Field(max_length=200)]] = Field(max_length=100)


class KeepForm(Form):
    """The day whose board to keep."""

    date: GymDate


class PlaceForm(Form):
    """The empty day to write on and its version."""

    to: dt.date
    version: int = Field(ge=0)


class Banked(BaseModel):
    """A saved day, and how often the gym has held it."""

    id: int
    name: str
    text: str
    held: int


class WeekDraftForm(Form):
    """Boards that are not saved, by their dates."""

    texts: dict[dt.date, Annotated[str, Field(max_length=MAX_TEXT)]] = Field(max_length=DAYS)


@coaches.get("/week/{date}")
def read_week(date: GymDate, db: Database, shelf: Shelf) -> Week:
    """The week that holds a date."""
    return _week_of(date, db, shelf, {})


@coaches.post("/week/{date}/preview")
def preview_week(date: GymDate, form: WeekDraftForm, db: Database, shelf: Shelf) -> Week:
    """The week as it would be with some boards on its empty days; nothing is saved."""
    return _week_of(date, db, shelf, form.texts)


def _week_of(date: dt.date, db: Database, shelf: Library, drafted: Mapping[dt.date, str]) -> Week:
    """The week that holds a date, with drafts on those of its days that are empty."""
    monday = date - dt.timedelta(days=date.weekday())
    dates = [monday + dt.timedelta(days=n) for n in range(DAYS)]
    written = {day.date: day for day in days.days_between(db, dates[0], dates[-1])}
    out, loads, sessions, shut = [], {}, {}, closings(db)
    for one in dates:
        day = written.get(one)
        closed = why_closed(one, shut)
        text = day.text if day is not None and day.text.strip() else drafted.get(one, "")
        if not text.strip():
            empty = WeekDay(
                day=day_out(one, day),
                title="",
                outline=None,
                load=None,
                scored=False,
                closed=closed,
            )
            out.append(empty)
            continue
        session = sessions[one] = read_board(text, shelf).session
        keys = keys_of(db, day) if day is not None and day.text.strip() else None
        loads[one] = day_load(session, shelf)
        out.append(
            WeekDay(
                day=day_out(one, day),
                title=session.title or "",
                outline=hour_of(db, text, keys, one),
                load=loads[one],
                scored=day is not None and days.has_scores(db, day),
                closed=closed,
            )
        )
    theme, version = themes.theme_of(db, gym_of(db).programme.id, monday)
    before = _weeks_before(db, monday, shelf)
    lighter = any(sessions[date].theme == "deload" for date in sessions)
    return Week(
        monday=monday,
        theme=theme,
        theme_version=version,
        regions=regions(dates, loads, before),
        patterns=balance(dates, loads, before),
        days=out,
        remarks=[*remarks(loads), *ramps(dates, loads, before, lighter)],
    )


def _weeks_before(db: Database, monday: dt.date, shelf: Library) -> list[dict[int, DayLoad]]:
    """Return the load of the written days of the weeks before, by week and weekday."""
    since = monday - dt.timedelta(weeks=USUAL_WEEKS)
    weeks: dict[dt.date, dict[int, DayLoad]] = {}
    for day in days.days_between(db, since, monday - dt.timedelta(days=1)):
        if day.text.strip():
            load = day_load(read_board(day.text, shelf).session, shelf)
            weeks.setdefault(themes.monday_of(day.date), {})[day.date.weekday()] = load
    return list(weeks.values())


class ThemeForm(Form):
    """What the week is about, over the version that was read; empty text says nothing."""

    text: str = Field(max_length=300, examples=["Heavier squats, an easy Thursday"])
    version: Version


class ThemeOut(BaseModel):
    """A week's theme as it is kept."""

    text: str
    version: int


@coaches.put("/week/{date}/theme", responses={409: {"model": Problem}})
def write_theme(date: GymDate, form: ThemeForm, db: Database) -> ThemeOut:
    """Say what a week is about: it stands on each of its days."""
    text = " ".join(form.text.split())
    try:
        version = themes.keep_theme(db, gym_of(db).programme.id, date, text, form.version)
    except themes.StaleTheme:
        sentence = "somebody else changed this week's theme in the meantime: look at it again"
        raise ApiError(409, sentence) from None
    return ThemeOut(text=text, version=version)


class TemplateForm(Form):
    """Whether to write the whole week's boards or that of the date alone."""

    week: bool = True


@coaches.post("/week/{date}/template", responses={409: {"model": Problem}})
def write_template(date: GymDate, form: TemplateForm, db: Database, me: Myself) -> list[DayOut]:
    """Write the template week's boards, as drafts, on the days of a date's week that hold none.

    For one date: that weekday's board, Monday's on a Sunday. 409 where every day is written.
    """
    boards = template_week()
    monday = date - dt.timedelta(days=date.weekday())
    wanted = {monday + dt.timedelta(days=n): board for n, board in enumerate(boards)}
    if not form.week:
        wanted = {date: wanted.get(date, boards[0])}
    written = {day.date: day for day in days.days_between(db, min(wanted), max(wanted))}
    out = []
    for to, board in wanted.items():
        there = written.get(to)
        if there is None or not there.text.strip():
            out.append(day_out(to, _place(db, board, to, there.version if there else 0, me)))
    if not out:
        raise ApiError(409, "every one of these days holds a board already")
    return out


@coaches.post("/days/{date}/copy", responses={404: {"model": Problem}, 409: {"model": DayConflict}})
def copy_day(date: GymDate, form: CopyForm, db: Database, me: Myself) -> list[DayOut]:
    """Copy or move a board to an empty day; answers the source and the target as they are now."""
    source = existing_day(db, date)
    if not form.move:
        return [day_out(date, source), day_out(form.to, _placed(db, source, form, me))]
    if days.has_scores(db, source) and not form.carry:
        sentence = "scores are kept for this day: move them with it, or copy the board instead"
        raise ApiError(409, sentence, newer=None)
    try:
        move_day(db, source, form.to, form.version, me)
    except Taken:
        sentence = f"{form.to:%A} is taken already: something is written, scored or visited there"
        raise ApiError(409, sentence, newer=None) from None
    except Stale as stale:
        raise stale_day(form.to, stale) from None
    left = days.find_day(db, date)
    return [day_out(date, left), day_out(form.to, source)]


def _placed(db: Database, source: Day, form: CopyForm, me: Person) -> Day:
    return _place(db, source.text, form.to, form.version, me)


def _place(db: Database, text: str, to: dt.date, version: int, me: Person) -> Day:
    try:
        return place_board(db, text, to, version, me)
    except FileExistsError:
        raise ApiError(409, f"{to:%A} holds a board already", newer=None) from None
    except Stale as stale:
        raise stale_day(to, stale) from None


class NextTime(BaseModel):
    """Advice for the next time from a piece's results, by the piece's key."""

    piece: str
    advice: Advice


@coaches.get("/days/{date}/next-time", responses={404: {"model": Problem}})
def read_next_time(date: GymDate, db: Database, shelf: Shelf) -> list[NextTime]:
    """Advice for the next time from the results of each piece of a day."""
    day = existing_day(db, date)
    session = read_board(day.text, shelf).session
    results = results_on(db, day)
    again = style_of(gym_of(db).row).repeats == "on purpose"
    out = []
    for place, (key, piece) in enumerate(zip(keys_of(db, day), session.pieces, strict=True)):
        before = [earlier.date for earlier, _ in holdings(db, day, key, HOLDINGS)]
        found = advice(piece, results.get(place, []), session.theme, [*before[::-1], date], again)
        if found is not None:
            out.append(NextTime(piece=key, advice=found))
    return out


@coaches.get("/days/{date}/steps", responses={404: {"model": Problem}})
def read_steps(date: GymDate, db: Database, shelf: Shelf) -> list[Step]:
    """The stated steps a day could take when it is repeated a week later."""
    day = existing_day(db, date)
    session = read_board(day.text, shelf).session
    return steps(session, shelf, lifted_on(db, day), results_on(db, day))


@coaches.post(
    "/days/{date}/forward", responses={404: {"model": Problem}, 409: {"model": DayConflict}}
)
def step_forward(
    date: GymDate, form: ForwardForm, db: Database, me: Myself, shelf: Shelf
) -> DayOut:
    """Copy a day a week on with the accepted steps, onto an empty day."""
    source = existing_day(db, date)
    lifted, results = lifted_on(db, source), results_on(db, source)
    session = read_board(source.text, shelf).session
    offered = {step.key for step in steps(session, shelf, lifted, results)}
    if not offered.issuperset(form.accept):
        raise ApiError(422, "the day has changed: look at its steps again")
    to = date + dt.timedelta(days=DAYS)
    there = days.find_day(db, to)
    text = take(source.text, form.accept, shelf, lifted, results)
    return day_out(to, _place(db, text, to, there.version if there else 0, me))


@coaches.get("/bank")
def read_bank(db: Database, shelf: Shelf) -> list[Banked]:
    """The named boards the gym keeps, with how often each title has been held."""
    counter = Counter(
        read_board(text, shelf).session.title for text in days.published_texts(db, gym_of(db).today)
    )
    return [
        Banked(id=b.id, name=b.name, text=b.text, held=counter[b.name]) for b in bank.boards(db)
    ]


@coaches.post("/bank", status_code=201, responses={409: {"model": Problem}})
def post_kept_board(form: KeepForm, db: Database, shelf: Shelf) -> Banked:
    """Keep a day's board under its title."""
    day = existing_day(db, form.date)
    name = read_board(day.text, shelf).session.title
    if not name:
        raise ApiError(422, "give the board a title first: # Slack Water")
    board = keep_board(db, name[:120], day.text)
    if board is None:
        raise ApiError(409, f"{name} is among the saved days already")
    return Banked(id=board.id, name=board.name, text=board.text, held=0)


@coaches.delete("/bank/{board_id}", status_code=204, responses={404: {"model": Problem}})
def forget_board(board_id: Id, db: Database) -> None:
    """Take a board out of the saved days; days that hold it stay."""
    board = db.get(BankedBoard, board_id)
    if board is None:
        raise not_found("such saved day")
    db.delete(board)


@coaches.post(
    "/bank/{board_id}/place", responses={404: {"model": Problem}, 409: {"model": DayConflict}}
)
def place_banked(board_id: Id, form: PlaceForm, db: Database, me: Myself) -> DayOut:
    """Write a kept board on an empty day, as a retest."""
    board = db.get(BankedBoard, board_id)
    if board is None:
        raise not_found("such saved day")
    return day_out(form.to, _place(db, board.text, form.to, form.version, me))


@coaches.post("/days/{date}/clear", responses={409: {"model": DayConflict}})
def post_clear_day(date: GymDate, form: ClearForm, db: Database, me: Myself) -> DayOut:
    """Empty a day's board; 409 with questions where scores are kept and `aside` was not said."""
    try:
        return day_out(date, clear_day(db, date, form.version, me, form.aside))
    except Asked as question:
        raise asked(question) from None
    except Stale as stale:
        raise stale_day(date, stale) from None
