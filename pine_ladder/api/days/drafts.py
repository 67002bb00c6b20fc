"""Drafts: a day proposed from the gym's own boards, a warm-up and a cool-down for a board."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form, GymDate
from pine_ladder.core import plan
from pine_ladder.core.drafting import Refused, draft_day
from pine_ladder.core.drafting.constraints import Minutes
from pine_ladder.core.drafting.day import Reason
from pine_ladder.core.drafting.prompt import MINUTES, PEOPLE
from pine_ladder.core.drafting.week import edges_of
from pine_ladder.core.notation import print_session
from pine_ladder.core.notation.tokens import MAX_TEXT
from pine_ladder.store.days.pieces import read_board
from pine_ladder.usecases.drafting import gym_boards, gym_prompt

coaches = router("coach", "drafts")

Word = Annotated[str, Field(min_length=1, max_length=60)]
DRAFTS = 3


class DraftForm(Form):
    """Wishes for a day; those left out are the gym's own: its hour, its class."""

    purpose: plan.Purpose | None = None
    minutes: Annotated[int, Field(ge=MINUTES[0], le=MINUTES[1])] | None = None
    people: Annotated[int, Field(ge=PEOPLE[0], le=PEOPLE[1])] | None = None
    want: list[Word] = Field(default_factory=list, max_length=8)
    avoid: list[Word] = Field(default_factory=list, max_length=8)
    no_running: bool = False
    seed: Annotated[int, Field(ge=0, le=100_000)] = 1


class DraftOut(BaseModel):
    """A draft: an ordinary board, the reason of each line, its likely minutes."""

    text: str
    title: str
    reasons: list[Reason]
    minutes: Minutes


class EdgesForm(Form):
    """The board that a warm-up and a cool-down are made for."""

    text: str = Field(max_length=MAX_TEXT)
    seed: Annotated[int, Field(ge=0, le=100_000)] = 1


class EdgesOut(BaseModel):
    """The board with its warm-up and cool-down; `told` says what was added and what it costs."""

    text: str
    told: str


@coaches.post("/days/{date}/drafts", responses={422: {"model": Problem}})
def post_drafts(date: GymDate, form: DraftForm, db: Database, shelf: Shelf) -> list[DraftOut]:
    """Three days that differ, none of them kept; refused with the constraint that none can meet."""
    asked = gym_prompt(db, date, form.people).model_copy(
        update={
            "purpose": form.purpose,
            "want": tuple(form.want),
            "avoid": tuple(form.avoid),
            "no_running": form.no_running,
            **({"minutes": form.minutes} if form.minutes else {}),
        }
    )
    boards = gym_boards(db, date)
    db.rollback()  # Nothing is held while the drafts are made.
    try:
        made = draft_day(asked, shelf, boards, form.seed, DRAFTS)
    except Refused as why:
        raise ApiError(422, str(why)) from None
    return [
        DraftOut(
            text=one.text,
            title=read_board(one.text, shelf).session.title or "",
            reasons=list(one.reasons),
            minutes=one.minutes,
        )
        for one in made
    ]


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
