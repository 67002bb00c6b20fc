"""Drafts: days, weeks and cycles proposed from the gym's own boards, a warm-up for a board."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from typing import Annotated

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form, GymDate
from pine_ladder.core import plan
from pine_ladder.core.day.closing import why_closed
from pine_ladder.core.drafting import Refused, draft_day
from pine_ladder.core.drafting.constraints import Minutes
from pine_ladder.core.drafting.cycle import (
    WEEKS,
    Cycle,
    Phase,
    School,
    cycle_dates,
    draft_cycle_day,
    goal_of,
)
from pine_ladder.core.drafting.prompt import MINUTES, PEOPLE
from pine_ladder.core.drafting.reasons import Reason
from pine_ladder.core.drafting.week import edges_of, purpose_of_day
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import print_session
from pine_ladder.core.notation.tokens import MAX_TEXT
from pine_ladder.core.week.cycles import CycleDone
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.floor.classes import closings
from pine_ladder.usecases.drafting import gym_boards, gym_cycles, gym_prompt

coaches = router("coach", "drafts")

Boards = Mapping[str, plan.Session]
Word = Annotated[str, Field(min_length=1, max_length=60)]
DRAFTS, MOST_DRAFTED = 3, 31
Seed = Annotated[int, Field(ge=0, le=100_000)]
Drafted = dict[dt.date, Annotated[str, Field(max_length=MAX_TEXT)]]
"""Boards that are not saved, by their dates."""


class DraftForm(Form):
    """Wishes for a day; those left out are the gym's own: its hour, its class."""

    purpose: plan.Purpose | None = None
    minutes: Annotated[int, Field(ge=MINUTES[0], le=MINUTES[1])] | None = None
    people: Annotated[int, Field(ge=PEOPLE[0], le=PEOPLE[1])] | None = None
    want: list[Word] = Field(default_factory=list, max_length=8)
    avoid: list[Word] = Field(default_factory=list, max_length=8)
    no_running: bool = False
    seed: Seed = 1
    count: Annotated[int, Field(ge=1, le=DRAFTS)] = DRAFTS
    drafted: Drafted = Field(default_factory=dict, max_length=MOST_DRAFTED)
    by_turn: bool = False
    """Whether a day without a purpose gets one by its weekday: hard and easy days in turn."""


class DraftOut(BaseModel):
    """A draft: an ordinary board, the reason of each line, its likely minutes."""

    text: str
    title: str
    reasons: list[Reason]
    minutes: Minutes


class EdgesForm(Form):
    """The board that a warm-up and a cool-down are made for."""

    text: str = Field(max_length=MAX_TEXT)
    seed: Seed = 1


class EdgesOut(BaseModel):
    """The board with its warm-up and cool-down; `told` says what was added and what it costs."""

    text: str
    told: str


@coaches.post("/days/{date}/drafts", responses={422: {"model": Problem}})
def post_drafts(date: GymDate, form: DraftForm, db: Database, shelf: Shelf) -> list[DraftOut]:
    """Days that differ, none of them kept; refused with the constraint that none can meet."""
    turn = purpose_of_day(date.weekday()) if form.by_turn else None
    asked = gym_prompt(db, date, form.people, form.drafted).model_copy(
        update={
            "purpose": form.purpose or turn,
            "want": tuple(form.want),
            "avoid": tuple(form.avoid),
            "no_running": form.no_running,
            **({"minutes": form.minutes} if form.minutes else {}),
        }
    )
    boards = gym_boards(db, date)
    db.rollback()  # Nothing is held while the drafts are made.
    try:
        made = draft_day(asked, shelf, boards, form.seed, form.count)
    except Refused as why:
        raise ApiError(422, str(why)) from None
    return [_draft_out(one.text, one.reasons, one.minutes, shelf) for one in made]


def _draft_out(text: str, reasons: Sequence[Reason], minutes: Minutes, shelf: Library) -> DraftOut:
    title = read_board(text, shelf).session.title or ""
    return DraftOut(text=text, title=title, reasons=list(reasons), minutes=minutes)


class CycleForm(Form):
    """A cycle: what it leads to, how many weeks, and the weekdays (0 is Monday) of its days; the
    first of them is the goal's.
    """

    goal: Word
    weeks: Annotated[int, Field(ge=WEEKS[0], le=WEEKS[1])] = 6
    start: GymDate
    weekdays: Annotated[list[Annotated[int, Field(ge=0, le=6)]], Field(min_length=1, max_length=7)]
    school: School = "linear"


class CycleDate(BaseModel):
    """A day of a cycle, from 1 in its week; `written` where the gym has a board there already,
    `closed` the reason where it is shut.
    """

    date: dt.date
    day: int
    written: bool
    closed: str | None


class CycleWeekOut(BaseModel):
    """A week of a cycle: its phase and its dates."""

    phase: Phase
    dates: list[CycleDate]


class CyclePlan(BaseModel):
    """A cycle before its days are drafted."""

    name: str
    goal: str
    weeks: list[CycleWeekOut]


class CycleDayForm(CycleForm):
    """One day of a cycle, with the drafts of its days before."""

    date: GymDate
    drafted: Drafted = Field(default_factory=dict, max_length=MOST_DRAFTED)
    seed: Seed = 1


def _cycle(form: CycleForm, db: Database, shelf: Library) -> tuple[Cycle, Boards]:
    """The cycle that a form asks for and the boards it is made from; a 422 for no such goal."""
    boards = gym_boards(db, form.start)
    bests = gym_prompt(db, form.start).bests
    try:
        goal = goal_of((form.goal,), shelf, boards, bests)
    except Refused as why:
        raise ApiError(422, str(why)) from None
    days_a_week = len(set(form.weekdays))
    return Cycle(goal=goal, weeks=form.weeks, days=days_a_week, school=form.school), boards


def _dates(form: CycleForm) -> list[list[dt.date]]:
    return cycle_dates(form.start, tuple(form.weekdays), form.weeks)


@coaches.post("/cycles/plan", responses={422: {"model": Problem}})
def post_cycle_plan(form: CycleForm, db: Database, shelf: Shelf) -> CyclePlan:
    """The weeks of a cycle: the stress of each, and the dates of its days; nothing is saved."""
    cycle, _ = _cycle(form, db, shelf)
    dates = _dates(form)
    shut = closings(db)
    written = {
        day.date for day in days.days_between(db, dates[0][0], dates[-1][-1]) if day.text.strip()
    }
    return CyclePlan(
        name=cycle.name,
        goal=cycle.goal.name,
        weeks=[
            CycleWeekOut(
                phase=phase,
                dates=[
                    CycleDate(
                        date=date,
                        day=day,
                        written=date in written,
                        closed=why_closed(date, shut),
                    )
                    for day, date in enumerate(week, start=1)
                ],
            )
            for phase, week in zip(cycle.phases, dates, strict=True)
        ],
    )


@coaches.post("/cycles/day", responses={422: {"model": Problem}})
def post_cycle_day(form: CycleDayForm, db: Database, shelf: Shelf) -> DraftOut:
    """One day of a cycle drafted, not kept; refused with the constraint that none can meet."""
    cycle, boards = _cycle(form, db, shelf)
    place = next(
        (
            (week, day)
            for week, dates in enumerate(_dates(form), start=1)
            for day, date in enumerate(dates, start=1)
            if date == form.date
        ),
        None,
    )
    if place is None:
        raise ApiError(422, f"{form.date:%A %-d %B} is no day of this cycle.")
    asked = gym_prompt(db, form.date, None, form.drafted)
    db.rollback()  # Nothing is held while the draft is made.
    try:
        made = draft_cycle_day(asked, shelf, boards, cycle, *place, form.seed)
    except Refused as why:
        raise ApiError(422, str(why)) from None
    return _draft_out(made.text, made.reasons, made.minutes, shelf)


@coaches.get("/cycles/{date}")
def read_cycles(date: GymDate, db: Database) -> list[CycleDone]:
    """Cycles that boards around a date belong to: each week as planned and as held."""
    return gym_cycles(db, date)


@coaches.post("/warm-ups", responses={422: {"model": Problem}})
def post_warm_up(form: EdgesForm, shelf: Shelf) -> EdgesOut:
    """A board with a warm-up and a cool-down made for its work, where it has none yet."""
    session = read_board(form.text, shelf).session
    roles = [piece.role for piece in session.pieces]
    needs = [role for role in (plan.Role.WARM_UP, plan.Role.COOL_DOWN) if role not in roles]
    if not any(piece.lines for piece in session.pieces):
        raise ApiError(422, "There is no work on the board yet: write it, then its warm-up.")
    if not needs:
        raise ApiError(
            422, "The board has a warm-up and a cool-down: take one out to have another."
        )
    made = edges_of(session, shelf, WARM_UP_MIN, form.seed)
    pieces = list(session.pieces)
    if plan.Role.WARM_UP in needs and made.warm_up:
        pieces = [*read_board(made.warm_up, shelf).session.pieces, *pieces]
    if plan.Role.COOL_DOWN in needs and made.cool_down:
        pieces = [*pieces, *read_board(made.cool_down, shelf).session.pieces]
    text = print_session(session.model_copy(update={"pieces": tuple(pieces)}))
    added = " and ".join(
        {plan.Role.WARM_UP: "a warm-up", plan.Role.COOL_DOWN: "a cool-down"}[role] for role in needs
    )
    return EdgesOut(
        text=text,
        told=f"Added {added}: the first round takes {max(0.0, made.loss - 1):.1%} longer for it.",
    )


WARM_UP_MIN = 8.0
