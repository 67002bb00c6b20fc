"""What the score sheet answers, and what is written on it."""

from __future__ import annotations

import datetime as dt
from typing import TypeVar

from pydantic import BaseModel, Field

from pine_ladder.api.errors import Problem
from pine_ladder.api.forms import Form, Id, Key, Place, RequestKey, Version
from pine_ladder.core import plan
from pine_ladder.core.athletes.heart import Target, TimeIn
from pine_ladder.core.day.athlete_view import BoardView
from pine_ladder.core.day.hour_ruler import Outline
from pine_ladder.core.scores.kinds import Score


class ScoreOut(BaseModel):
    """A score as kept, with its version and its rank in its tier's section.

    `doubt` says why it is unlikely, `standing` what became of that (`fine`, `doubted`, `asked`,
    `answered`, `verified`); `pacing` reads its rounds against the piece's pace.
    """

    piece_key: str
    person_id: int
    tier: int
    track: int
    entered: str
    display: str
    reading: str | None
    version: int
    rank: int | None
    doubt: str | None = None
    standing: str = "fine"
    pacing: str | None = None
    team: list[int] = Field(default_factory=list)


class SheetRow(BaseModel):
    """One athlete on the score sheet, with the tier and track they usually take.

    `classes` are the starts of the day's classes they came to.
    """

    person_id: int
    name: str
    tier: int
    track: int
    classes: list[dt.time]


class SheetPiece(BaseModel):
    """A scored piece: a column of the sheet."""

    key: Key
    title: str
    format: str
    kind: plan.ScoreKind
    example: str


class Aside(BaseModel):
    """A piece the board no longer has, with the scores that stay with it."""

    key: str
    title: str
    scores: list[ScoreOut]


class Sheet(BaseModel):
    """The score sheet of a day. `aside` are pieces the board no longer has, with their scores."""

    date: dt.date
    pieces: list[SheetPiece]
    rows: list[SheetRow]
    scores: list[ScoreOut]
    aside: list[Aside]


class ScoreForm(Form):
    """An entry. `version` is that of the score it replaces (0 for a first one), `request_key` the
    same for every try at sending it.
    """

    entered: str = Field(max_length=200, examples=["5+12"])
    tier: Place
    track: Place
    version: Version = 0
    request_key: RequestKey | None = None


class ReadForm(Form):
    """An entry to read without keeping it; to rank it, whose it is."""

    entered: str = Field(max_length=200, examples=["5+45"])
    tier: Place = 0
    track: Place = 0
    person_id: Id | None = None


Entered = TypeVar("Entered", ReadForm, ScoreForm)


class Read(BaseModel):
    """An entry as understood, the rank it would take in its tier, and what may have been meant."""

    score: Score
    rank: int | None
    meant: str | None = None


class ScoreConflict(Problem):
    """Somebody else scored in between: the newer score, to compare."""

    newer: ScoreOut | None


class MyDay(BaseModel):
    """The day as one athlete's tier and track see it, with their own scores."""

    date: dt.date
    written: bool
    theme: str
    tier: int
    track: int
    view: BoardView
    outline: Outline
    pieces: list[SheetPiece]
    scores: list[ScoreOut]
    hearts: dict[str, Target] = Field(
        description="By the pieces' keys, what easy and hard parts ask of my heart"
    )
    strap: int | None = Field(description="The heart rate strap I wear")
    plans: dict[str, str] = Field(
        description="By the pieces' keys, my pace as a plan where an even one is asked for"
    )
    heart_times: dict[str, TimeIn] = Field(
        description="By the pieces' keys, how long my heart was where, of those I wore a strap in"
    )
