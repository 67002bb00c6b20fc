"""Days: the board previewed as it is typed, saved with a version, its classes."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Key, Place, Version
from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check
from pine_ladder.core.day.athlete_view import BoardView, view
from pine_ladder.core.day.closing import why_closed
from pine_ladder.core.day.hour_ruler import Outline, outline
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.tokens import MAX_LINE, MAX_PIECES, MAX_TEXT
from pine_ladder.core.plan import Finding
from pine_ladder.store.athletes.members import rack_of
from pine_ladder.store.catalogue.kit import kit_of
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import (
    ASIDE,
    Why,
    held_by,
    keys_while_writing,
    piece_of,
    read_board,
)
from pine_ladder.store.days.week_themes import theme_of
from pine_ladder.store.floor.classes import closings
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.styles import style_of
from pine_ladder.store.models import Day, Person
from pine_ladder.usecases.days import Stale, publish, save_day
from pine_ladder.usecases.piece_matching import Asked, Occupied, hanging_on, put_scores

coaches = router("coach", "days")


class PreviewForm(Form):
    """Board text as it stands in the editor, for a tier and a track (none for both)."""

    text: str = Field(max_length=MAX_TEXT, examples=["## Conditioning: AMRAP 12:00\n10 push-up"])
    tier: Place = 0
    track: Place | None = None
    date: GymDate | None = Field(
        default=None, description="The day it is written for: its saved pieces keep their keys"
    )


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
    theme: str = Field(default="", description="What its week is about, where the day is read")
    closed: str | None = Field(default=None, description="Why the gym is closed on it")


class Whereto(Form):
    """Where a piece went that scores or jots hang on: its place on the new board, from 0.

    None sets it aside with all that hangs on it.
    """

    key: Key
    place: Annotated[int, Field(ge=0, le=MAX_PIECES)] | None


class DayForm(Form):
    """Text to save over the version that was read."""

    text: str = Field(max_length=MAX_TEXT)
    version: Version = Field(description="The version the text was written on, 0 for a new day")
    answers: list[Whereto] = Field(default_factory=list, max_length=MAX_PIECES)


class HangingOut(BaseModel):
    """A score that hangs on a piece."""

    name: str
    display: str


class PieceQuestion(BaseModel):
    """A piece that scores or jots hang on, and why it is asked about.

    `gone`: the board has it no longer; `doubt`: is it this one; `unreadable`: its scores could not
    be read any more. `likely` is the place of the piece that continues it most likely.
    """

    key: str
    title: str
    why: Why
    scores: list[HangingOut]
    jots: int
    likely: int | None


class UnreadLine(BaseModel):
    """A line of the board that cannot be read, from 1, and why."""

    line: int
    text: str
    why: str


class DayConflict(Problem):
    """The save waits: somebody saved in between (`newer`), or pieces are asked about.

    `unread` are the lines that athletes would not see. `titles` are the pieces of the text that
    was sent, to choose from by place.
    """

    newer: DayOut | None
    questions: list[PieceQuestion] = Field(default_factory=list)
    titles: list[str] = Field(default_factory=list)
    unread: list[UnreadLine] = Field(default_factory=list)


class PieceOut(BaseModel):
    """A piece of a saved day; `aside` where the board has it no longer."""

    key: str
    title: str
    aside: bool
    scores: list[HangingOut]
    jots: int
    came_from: list[str] = Field(description="Keys of pieces that scores on it were put from")


class PutForm(Form):
    """The piece to put scores onto."""

    to: Key


class PutOut(BaseModel):
    """How many scores were put onto the other piece."""

    moved: int


class DayTitle(BaseModel):
    """A day in a list."""

    date: dt.date
    title: str
    outline: Outline


class PublishForm(Form):
    """Whether athletes see the day, at the version that was seen.

    `despite` publishes a board whose unread lines athletes will not see.
    """

    published: bool
    version: Version
    despite: bool = False


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
    gym, rack = gym_of(db).row, rack_of(db)
    return Ground(
        library=shelf,
        plates=rack.plates,
        bars=tuple(rack.bars),
        kit=kit_of(db),
        class_size=gym.class_size,
        class_s=gym.class_min * 60,
        change_s=gym.change_s,
        known=known,
        tiers=gym_of(db).tiers,
        style=style_of(gym),
    )


def lately_known(db: Database, shelf: Library, date: dt.date) -> frozenset[str]:
    """Movements the gym has done in the weeks before a date: the others are explained."""
    return days.known_movements(db, shelf, date, date - days.LATELY)


def hour_of(
    db: Database, text: str, keys: Sequence[str] | None = None, date: dt.date | None = None
) -> Outline:
    """The outline of a board with the gym's movements, class length and change-over; of a date,
    with the time to explain what is new then."""
    gym, shelf = gym_of(db).row, gym_of(db).movements
    session = read_board(text, shelf).session
    known = lately_known(db, shelf, date) if date else frozenset()
    return outline(session, shelf, gym.class_min * 60, gym.change_s, keys, known)


def piece_on(db: Database, day: Day, key: str, shelf: Library | None = None) -> plan.Piece:
    """The piece of a day, on its board or set aside; a 404 where there is none."""
    piece = piece_of(db, day, key, shelf)
    if piece is None:
        raise not_found("such piece on this day")
    return piece


@coaches.post("/preview")
def preview(form: PreviewForm, db: Database, shelf: Shelf) -> Preview:
    """Read a board as it is typed. Any text gets an answer."""
    parsed = read_board(form.text, shelf)
    ground = ground_of(db, shelf, lately_known(db, shelf, form.date or gym_of(db).today))
    findings = [*parsed.findings, *check(parsed.session, ground)]
    day = days.find_day(db, form.date) if form.date else None
    keys = keys_while_writing(db, day, parsed.session)
    return Preview(
        title=parsed.session.title or "",
        outline=outline(
            parsed.session, shelf, ground.class_s, ground.change_s, keys, known=ground.known or ()
        ),
        view=view(parsed.session, shelf, form.tier, form.track, keys=keys),
        findings=sorted(findings, key=lambda f: (f.line, f.column)),
    )


@coaches.get("/days")
def list_days(
    db: Database,
    shelf: Shelf,
    first: Annotated[GymDate, Query(description="First date")],
    last: Annotated[GymDate, Query(description="Last date, at most 60 days later")],
) -> list[DayTitle]:
    """The days between two dates with their titles and hours."""
    if not first <= last <= first + dt.timedelta(days=60):
        raise ApiError(422, "the last date lies up to 60 days after the first")
    return [
        DayTitle(
            date=day.date,
            title=read_board(day.text, shelf).session.title or "",
            outline=hour_of(db, day.text),
        )
        for day in days.days_between(db, first, last)
    ]


@coaches.get("/days/{date}")
def read_day(date: GymDate, db: Database) -> DayOut:
    """A day's board, with what its week is about."""
    theme, _ = theme_of(db, gym_of(db).programme.id, date)
    week = {"theme": theme, "closed": why_closed(date, closings(db))}
    return day_out(date, days.find_day(db, date)).model_copy(update=week)


def unread_lines(text: str, shelf: Library) -> list[UnreadLine]:
    """Lines of a board that cannot be read: nobody who is given the board sees them."""
    lines = text.splitlines()
    why = {f.line: f.message for f in read_board(text, shelf).findings if f.severity == "error"}
    return [
        UnreadLine(line=line, text=lines[line - 1].strip()[:MAX_LINE], why=words)
        for line, words in sorted(why.items())
        if line <= len(lines)
    ]


def asked(question: Asked) -> ApiError:
    """A save that waits for answers, as a 409."""
    questions = [
        PieceQuestion(
            key=one.key,
            title=one.title,
            why=one.why,
            scores=[HangingOut(**each._asdict()) for each in one.scores],
            jots=one.jots,
            likely=one.likely,
        ).model_dump()
        for one in question.questions
    ]
    return ApiError(409, str(question), newer=None, questions=questions, titles=question.titles)


def stale_day(date: dt.date, stale: Stale) -> ApiError:
    """A save over what somebody else has saved since, as a 409 with the newer day."""
    newer = day_out(date, stale.newer).model_dump(mode="json") if stale.newer else None
    who = stale.newer.saved_by.name if stale.newer and stale.newer.saved_by else "someone"
    return ApiError(409, f"{who} saved this day in the meantime", newer=newer)


@coaches.put("/days/{date}", responses={409: {"model": DayConflict}})
def write_day(date: GymDate, form: DayForm, db: Database, me: Myself) -> DayOut:
    """Save a day's board.

    409 with the newer text when somebody saved in between, and with questions where scores hang
    on pieces whose fate is not certain; nothing is saved then.
    """
    answers = {
        answer.key: ASIDE if answer.place is None else answer.place for answer in form.answers
    }
    try:
        return day_out(date, save_day(db, date, form.text, form.version, me, answers))
    except Stale as stale:
        raise stale_day(date, stale) from None
    except Asked as question:
        raise asked(question) from None


@coaches.put(
    "/days/{date}/published", responses={404: {"model": Problem}, 409: {"model": DayConflict}}
)
def publish_day(date: GymDate, form: PublishForm, db: Database, shelf: Shelf) -> DayOut:
    """Show a day to the athletes, or take it back from them; its scores stay as they are.

    409 with the lines that cannot be read, unless `despite` says to publish without them.
    """
    day = existing_day(db, date)
    unread = unread_lines(day.text, shelf) if form.published and not form.despite else []
    if unread:
        lines = "1 line that" if len(unread) == 1 else f"{len(unread)} lines that"
        raise ApiError(
            409,
            f"athletes would not see {lines} cannot be read",
            newer=None,
            unread=[one.model_dump() for one in unread],
        )
    try:
        publish(db, day, form.published, form.version)
    except Stale as stale:
        raise stale_day(date, stale) from None
    return day_out(date, day)


@coaches.get("/days/{date}/pieces", responses={404: {"model": Problem}})
def list_pieces(date: GymDate, db: Database) -> list[PieceOut]:
    """All pieces of a day, those that are set aside last, with the scores that hang on them."""
    out = []
    for one in held_by(db, existing_day(db, date)):
        rows, jots = hanging_on(db, one.row.id)
        out.append(
            PieceOut(
                key=one.key,
                title=one.row.title,
                aside=one.row.position is None,
                scores=[HangingOut(name=row.person.name, display=row.display) for row in rows],
                jots=jots,
                came_from=sorted({str(row.origin_id) for row in rows if row.origin_id}),
            )
        )
    return out


@coaches.post(
    "/days/{date}/pieces/{key}/put",
    responses={404: {"model": Problem}, 409: {"model": Problem}},
)
def put_piece(date: GymDate, key: Key, form: PutForm, db: Database) -> PutOut:
    """Put the scores of a piece onto another of the day, or those put from there back to it."""
    try:
        return PutOut(moved=put_scores(db, existing_day(db, date), key, form.to))
    except LookupError:
        raise not_found("such piece on this day") from None
    except Occupied as occupied:
        names = ", ".join(occupied.names)
        raise ApiError(409, f"there is a score already for {names}: clear it first") from None
