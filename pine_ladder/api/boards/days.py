"""Days: the board previewed as it is typed, saved with a version, its classes."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field
from sqlalchemy import select

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.core.checks import Ground, check
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse
from pine_ladder.core.outline import Outline, outline
from pine_ladder.core.plan import Finding
from pine_ladder.core.view import BoardView, view
from pine_ladder.store import days
from pine_ladder.store.models import Attendance, Day, GymClass, Kit, Person
from pine_ladder.store.movements import gym_library

coaches = router("coach", "days")

MAX_TEXT = 60_000


class PreviewForm(BaseModel):
    """Board text as it stands in the editor, for a tier and a track (none for both)."""

    text: str = Field(max_length=MAX_TEXT, examples=["## Conditioning: AMRAP 12:00\n10 push-up"])
    tier: int = Field(default=0, ge=0)
    track: int | None = Field(default=None, ge=0)


class Preview(BaseModel):
    """What the text means: the hour, the board in words, all findings."""

    title: str
    outline: Outline
    view: BoardView
    findings: list[Finding]


class DayOut(BaseModel):
    """A day's text at a version; version 0 has never been saved."""

    date: dt.date
    text: str
    version: int
    published: bool
    saved_by: str | None
    saved_at: dt.datetime | None


class DayForm(BaseModel):
    """Text to save over the version that was read."""

    text: str = Field(max_length=MAX_TEXT)
    version: int = Field(ge=0, description="The version the text was written on, 0 for a new day")


class DayConflict(Problem):
    """Somebody saved in between: the newer day, to compare."""

    newer: DayOut | None


class DayTitle(BaseModel):
    """A day in a list."""

    date: dt.date
    title: str
    outline: Outline


class ClassOut(BaseModel):
    """One holding of the session and who came."""

    id: int
    start: dt.time
    coach: str | None
    attendance: list[int]


class PublishForm(BaseModel):
    """Whether athletes see the day."""

    published: bool


class ClassForm(BaseModel):
    """Who came to a class."""

    attendance: list[int] = Field(max_length=200)


def day_out(date: dt.date, day: Day | None) -> DayOut:
    """A day as answered; a day nobody wrote yet is empty at version 0."""
    if day is None:
        return DayOut(date=date, text="", version=0, published=False, saved_by=None, saved_at=None)
    return DayOut(
        date=day.date,
        text=day.text,
        version=day.version,
        published=day.published,
        saved_by=day.saved_by.name if day.saved_by else None,
        saved_at=day.saved_at,
    )


def day_for(db: Database, date: dt.date, me: Person) -> Day | None:
    """The day as this person may see it: an athlete sees it once it is published."""
    day = days.find_day(db, date)
    return day if day and (day.published or me.role == "coach") else None


def existing_day(db: Database, date: dt.date) -> Day:
    """The day of a date, or a 404."""
    day = days.find_day(db, date)
    if day is None:
        raise not_found(f"session on {date.isoformat()}")
    return day


def ground_of(db: Database, shelf: Library, known: frozenset[str] | None = None) -> Ground:
    """The gym as its checks see it."""
    gym = days.the_gym(db)
    return Ground(
        library=shelf,
        kit={kit.name: kit.count for kit in db.scalars(select(Kit))},
        class_size=gym.class_size,
        class_s=gym.class_min * 60,
        change_s=gym.change_s,
        known=known,
    )


def hour_of(db: Database, text: str) -> Outline:
    """The outline of a board with the gym's movements, class length and change-over."""
    gym, shelf = days.the_gym(db), gym_library(db)
    return outline(parse(text, shelf).session, shelf, gym.class_min * 60, gym.change_s)


@coaches.post("/preview")
def preview(form: PreviewForm, db: Database, shelf: Shelf) -> Preview:
    """Read a board as it is typed. Any text gets an answer."""
    parsed = parse(form.text, shelf)
    ground = ground_of(db, shelf)
    findings = [*parsed.findings, *check(parsed.session, ground)]
    return Preview(
        title=parsed.session.title or "",
        outline=outline(parsed.session, shelf, ground.class_s, ground.change_s),
        view=view(parsed.session, shelf, form.tier, form.track),
        findings=sorted(findings, key=lambda f: (f.line, f.column)),
    )


@coaches.get("/days")
def list_days(
    db: Database,
    first: Annotated[dt.date, Query(description="First date")],
    last: Annotated[dt.date, Query(description="Last date, at most 60 days later")],
) -> list[DayTitle]:
    """The days between two dates with their titles and hours."""
    if not first <= last <= first + dt.timedelta(days=60):
        raise ApiError(422, "the last date lies up to 60 days after the first")
    return [
        DayTitle(
            date=day.date,
            title=parse(day.text).session.title or "",
            outline=hour_of(db, day.text),
        )
        for day in days.days_between(db, first, last)
    ]


@coaches.get("/days/{date}")
def read_day(date: dt.date, db: Database) -> DayOut:
    """A day's board."""
    return day_out(date, days.find_day(db, date))


@coaches.put("/days/{date}", responses={409: {"model": DayConflict}})
def write_day(date: dt.date, form: DayForm, db: Database, me: Myself) -> DayOut:
    """Save a day's board; 409 with the newer text when somebody saved in between."""
    try:
        return day_out(date, days.save_day(db, date, form.text, form.version, me))
    except days.Stale as stale:
        newer = day_out(date, stale.newer).model_dump(mode="json") if stale.newer else None
        who = stale.newer.saved_by.name if stale.newer and stale.newer.saved_by else "someone"
        raise ApiError(409, f"{who} saved this day in the meantime", newer=newer) from None


@coaches.put("/days/{date}/published", responses={404: {"model": Problem}})
def publish_day(date: dt.date, form: PublishForm, db: Database) -> DayOut:
    """Show a day to the athletes, or take it back from them."""
    day = existing_day(db, date)
    day.published = form.published
    db.flush()
    return day_out(date, day)


def _class_out(held: GymClass) -> ClassOut:
    return ClassOut(
        id=held.id,
        start=held.start,
        coach=held.coach.name if held.coach else None,
        attendance=sorted(a.person_id for a in held.attendance),
    )


@coaches.get("/days/{date}/classes")
def list_classes(date: dt.date, db: Database) -> list[ClassOut]:
    """The day's classes and who came."""
    day = days.find_day(db, date)
    return [_class_out(held) for held in days.classes_of(db, day)] if day else []


@coaches.put("/classes/{class_id}", responses={404: {"model": Problem}})
def write_class(class_id: int, form: ClassForm, db: Database) -> ClassOut:
    """Set who came to a class."""
    held = db.get(GymClass, class_id)
    if held is None:
        raise not_found("such class")
    known = set(db.scalars(select(Person.id).where(Person.id.in_(form.attendance))))
    if strangers := set(form.attendance) - known:
        raise ApiError(422, f"nobody has the number {min(strangers)}")
    held.attendance = [Attendance(class_id=held.id, person_id=number) for number in sorted(known)]
    db.flush()
    return _class_out(held)
