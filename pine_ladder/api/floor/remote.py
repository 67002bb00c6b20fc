"""Running the class: the remote, and the moments that all screens share."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence

from fastapi import Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, Myself, MySignIn, Shelf, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, Id, Key, StepId
from pine_ladder.api.live import stream
from pine_ladder.core import plan
from pine_ladder.core.day.athlete_view import PAIN_STOPS, READINESS, PieceView, view
from pine_ladder.core.floor import remote
from pine_ladder.core.floor.briefing import Brief, briefing
from pine_ladder.core.floor.cues import Script, script
from pine_ladder.core.floor.remote import Press, Running
from pine_ladder.core.movements import Library
from pine_ladder.store.athletes.members import hidden_people
from pine_ladder.store.days.pieces import piece_of
from pine_ladder.store.floor import clock
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Day, GymClass, Person
from pine_ladder.store.people.people import names_of
from pine_ladder.usecases import class_clock as running

everyone = router("public", "running")
members = router("member", "running")
coaches = router("coach", "running")


class Moment(BaseModel):
    """Now on the clock that all displays share, in seconds since the epoch."""

    now: float


class FinishOut(BaseModel):
    """An athlete's end of an open piece: the time of their heat as the clock showed it."""

    person_id: int
    name: str
    shown: str


class TierBoard(BaseModel):
    """The piece on the clock in one tier's version, both tracks whole."""

    tier: str
    piece: PieceView


class ClockOut(BaseModel):
    """A class's clock: the piece as played, and where it stands.

    `began` is the moment (seconds since the epoch) of position 0, None before the start and while
    the clock is held at `held`. `heats` are the positions at which each of `waves` heats began.
    `step` and `press` are the newest press; a press names the step it was made on. `redo` is the
    press that was undone last and can be brought back. `briefing` are the movements that can be
    shown, `shown` the place of the one that is.
    """

    class_id: int
    date: dt.date
    start: dt.time
    step: int
    press: str
    redo: str | None
    key: Key
    script: Script
    began: float | None
    held: float | None
    lead_s: int
    heats: tuple[float, ...]
    waves: int
    layout: str
    ended: bool
    finishes: list[FinishOut]
    tiers: list[TierBoard]
    briefing: tuple[Brief, ...]
    shown: int | None
    cautions: tuple[str, ...]
    pain: str
    readiness: str


class PressForm(Form):
    """A press of the remote. `step` is the newest press that was seen (0 before the first).

    An athlete's end counts whatever was pressed in between, if the piece `key` is still the one on
    the clock.
    """

    press: Press | None = Field(default=None, description="None loads the piece `key`")
    key: Key | None = None
    step: StepId
    athlete_id: Id | None = None
    heat: int = Field(default=1, ge=1, le=remote.MOST_HEATS)
    waves: int | None = Field(default=None, ge=1, le=remote.MOST_HEATS)
    lead_s: int | None = Field(default=None, ge=0, le=120)
    at: float | None = Field(
        default=None,
        ge=0,
        le=1e11,
        description="When it was pressed on the shared clock, if it is sent later: an end, or what "
        "waits in a remote without a connection (pause, resume, skip)",
    )


class ClockConflict(Problem):
    """Somebody pressed in between: where the clock stands now."""

    newer: ClockOut | None


@everyone.get("/time")
def time(db: Database) -> Moment:
    """Now on the database's clock, which displays correct their own against."""
    return Moment(now=clock.moment(db))


def _tier_boards(state: Running, shelf: Library, names: Sequence[str]) -> list[TierBoard]:
    """The piece on the clock in each tier's version, each version once."""
    session, boards = plan.Session(pieces=(state.piece,)), list[TierBoard]()
    for tier, name in enumerate(names):
        (found,) = view(session, shelf, tier, None, keys=(state.key,)).pieces
        if not any(board.piece == found for board in boards):
            boards.append(TierBoard(tier=name, piece=found))
    return boards


def clock_out(
    db: Session, class_: GymClass, stood: clock.Stood, shelf: Library, me: Person | None = None
) -> ClockOut:
    """A class's clock as answered to `me`, or to a display where nobody is signed in.

    Coaches see every finish; others see nothing of who hides from standings, but for themselves.
    """
    state, day = stood.state, db.get_one(Day, class_.day_id)
    coach = me is not None and me.role == "coach"
    hidden = frozenset() if coach else hidden_people(db) - ({me.id} if me else frozenset())
    shown = [finish for finish in state.finishes if finish.athlete_id not in hidden]
    named = names_of(db, (finish.athlete_id for finish in shown))
    boards = _tier_boards(state, shelf, gym_of(db).tiers)
    cautions = dict.fromkeys(c for board in boards for c in board.piece.cautions)
    return ClockOut(
        class_id=class_.id,
        date=day.date,
        start=class_.start,
        step=stood.step,
        press=stood.press,
        redo=clock.undone(db, class_.id) if coach else None,
        key=state.key,
        script=script(state.piece, shelf, state.changes),
        began=state.began,
        held=state.held,
        lead_s=state.lead_s,
        heats=state.heats,
        waves=state.waves,
        layout=state.layout,
        ended=state.ended,
        finishes=[
            FinishOut(
                person_id=finish.athlete_id,
                name=named.get(finish.athlete_id, ""),
                shown=finish.shown,
            )
            for finish in shown
        ],
        tiers=boards,
        briefing=briefing(state.piece, shelf),
        shown=state.shown,
        cautions=tuple(cautions),
        pain=PAIN_STOPS,
        readiness=READINESS,
    )


def _class(db: Session, class_id: int) -> GymClass:
    held = db.get(GymClass, class_id)
    if held is None:
        raise not_found("such class")
    return held


@coaches.get("/classes/{class_id}/clock", responses={404: {"model": Problem}})
def read_clock(class_id: Id, db: Database, shelf: Shelf, me: Myself) -> ClockOut | None:
    """Where a class's clock stands; nothing before a piece was loaded."""
    held = _class(db, class_id)
    stood = clock.stands(db, class_id)
    return clock_out(db, held, stood, shelf, me) if stood else None


def _loaded(db: Session, class_: GymClass, form: PressForm, shelf: Library) -> Running:
    piece = piece_of(db, db.get_one(Day, class_.day_id), form.key or "", shelf)
    if piece is None or not (piece.lines or piece.role == "rest"):
        raise not_found("such piece to run on this day")
    return remote.load(form.key or "", piece, form.waves)


def _pressed_at(form: PressForm, now: float, newest: float) -> float:
    """The moment a press counts from: one that waited for the network keeps its own, though never
    before the press it follows.
    """
    if form.at is not None and form.press in remote.IN_ANY_ORDER:
        return min(now, form.at)
    if form.at is not None and form.press in remote.MAY_WAIT:
        return min(now, max(newest, form.at))
    return now


@coaches.post(
    "/classes/{class_id}/clock",
    responses={404: {"model": Problem}, 409: {"model": ClockConflict}, 422: {"model": Problem}},
)
def press_clock(class_id: Id, form: PressForm, db: Database, shelf: Shelf, me: Myself) -> ClockOut:
    """Press the remote; a press that was made on an older state is not carried out."""
    held = _class(db, class_id)
    any_order = form.press in remote.IN_ANY_ORDER
    try:
        before = running.lock(db, class_id, None if any_order else form.step)
        if any_order and before and form.key != before.state.key:
            raise running.OutOfStep(before)
        if form.press is None:
            state, waited = _loaded(db, held, form, shelf), None
        elif before is None:
            raise ApiError(422, "choose a piece first")
        else:
            at = _pressed_at(form, clock.moment(db), clock.pressed_at(db, before.step))
            waited = at if form.press in remote.MAY_WAIT else None
            state = remote.press(
                before.state,
                form.press,
                at,
                shelf,
                athlete_id=form.athlete_id,
                heat=form.heat,
                lead_s=form.lead_s,
            )
    except running.OutOfStep as late:
        newer = (
            clock_out(db, held, late.now, shelf, me).model_dump(mode="json") if late.now else None
        )
        raise ApiError(409, "someone else pressed in the meantime", newer=newer) from None
    except remote.Refusal as refusal:
        raise ApiError(422, str(refusal)) from None
    return clock_out(
        db, held, running.keep(db, class_id, form.press or "load", state, me, waited), shelf, me
    )


def _stepped(
    db: Session, class_id: int, step: int, way: Callable[[Session, int], clock.Stood | None]
) -> clock.Stood | None:
    """Return the clock after an undo or redo; 409 unless `step` is the newest press."""
    try:
        running.lock(db, class_id, step)
    except running.OutOfStep:
        raise ApiError(409, "someone else pressed in the meantime") from None
    return way(db, class_id)


@coaches.delete("/classes/{class_id}/clock/{step}", responses={404: {"model": Problem}})
def undo_press(
    class_id: Id, step: StepId, db: Database, shelf: Shelf, me: Myself
) -> ClockOut | None:
    """Take the press `step` back if it is still the newest."""
    held = _class(db, class_id)
    stood = _stepped(db, class_id, step, running.undo)
    return clock_out(db, held, stood, shelf, me) if stood else None


@coaches.put("/classes/{class_id}/clock/{step}", responses={404: {"model": Problem}})
def redo_press(
    class_id: Id, step: StepId, db: Database, shelf: Shelf, me: Myself
) -> ClockOut | None:
    """Bring the press that was undone last back, if `step` is still the newest. The clock shows
    the time it would show if nothing had been undone.
    """
    held = _class(db, class_id)
    stood = _stepped(db, class_id, step, running.redo)
    return clock_out(db, held, stood, shelf, me) if stood else None


@members.get("/me/clock")
def my_clock(db: Database, shelf: Shelf, me: Myself) -> ClockOut | None:
    """The clock that runs on the floor today, to follow on the phone."""
    line = gym_of(db).programme.id
    held = clock.on_the_wall(db, gym_of(db).today_began, line)
    stood = clock.stands(db, held.id) if held else None
    return clock_out(db, held, stood, shelf, me) if held and stood else None


@members.get("/live", response_class=StreamingResponse)
def live(request: Request, mine: MySignIn) -> StreamingResponse:
    """What changes while a page is open: days, clocks, scores, classes, jots, never their content;
    and what my own strap says, as `heart`.

    It ends with the sign-in it was opened by.
    """
    return stream(request.app.state.hub, mark=mine.mark, person=mine.person_id)
