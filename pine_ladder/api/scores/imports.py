"""Scores of other days brought in from a table."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from typing import Annotated

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, Id
from pine_ladder.core.scores.scored_parts import LedgerLine
from pine_ladder.files.tables import read_csv
from pine_ladder.store.models import Person, ScoreImport
from pine_ladder.usecases import importing, moving_in
from pine_ladder.usecases import importing as imports

coaches = router("coach", "imports")

SHOWN = 500
"""Lines that are shown of a look; the counts are of all."""


class LedgerForm(Form):
    """A table of scores as CSV; `named` says who is meant by a name (0: somebody new)."""

    text: str = Field(max_length=30_000_000)
    named: dict[Annotated[str, Field(max_length=200)], Id] = Field(
        default_factory=dict, max_length=5000
    )


class Asking(BaseModel):
    """A name that is nobody's for certain, how often it stands there, and who may be meant."""

    name: str
    scores: int
    likely: list[int]


class Look(BaseModel):
    """What a table means: how many lines of each kind, days it would write, names it asks about,
    and the lines that are not taken.
    """

    counts: dict[str, int]
    days: list[dt.date]
    asks: list[Asking]
    lines: list[LedgerLine]


class Import(BaseModel):
    """Scores that were brought in together."""

    id: int
    made_at: dt.datetime
    by: str | None
    scores: int
    days: int
    people: int


class TakenBack(BaseModel):
    """What went, and how many scores stay because they were changed since."""

    scores: int
    days: int
    people: int
    kept: int


def _import(db: Database, row: ScoreImport) -> Import:
    by = db.get(Person, row.by_id) if row.by_id else None
    return Import(
        id=row.id,
        made_at=row.made_at,
        by=by.name if by else None,
        **{what: len(row.made.get(what, ())) for what in ("scores", "days", "people")},
    )


@coaches.post("/scores/import/look", responses={422: {"model": Problem}})
def look_at_scores(form: LedgerForm, db: Database) -> Look:
    """What a table of scores means, line by line; nothing is kept."""
    try:
        ledger = imports.look(db, read_csv(form.text), form.named)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    asked = [line for line in ledger.lines if line.what == "doubtful"]
    often = Counter(line.person for line in asked)
    likely = {line.person: list(line.likely) for line in asked}
    return Look(
        counts=dict(Counter(line.what for line in ledger.lines)),
        days=sorted(ledger.days),
        asks=[Asking(name=n, scores=often[n], likely=likely[n]) for n in likely],
        lines=[line for line in ledger.lines if line.what == "refused"][:SHOWN],
    )


@coaches.post("/scores/import", status_code=201, responses={422: {"model": Problem}})
def bring_scores_in(form: LedgerForm, db: Database, me: Myself) -> Import:
    """Keep the new scores of a table, with the days and people they need; all of it or nothing."""
    try:
        row, ledger = imports.bring_in(db, read_csv(form.text), form.named, me)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    if not ledger.found:
        raise ApiError(422, "there is no new score in this table")
    return _import(db, row)


@coaches.get("/scores/imports")
def list_imports(db: Database) -> list[Import]:
    """What was brought in, the newest first."""
    return [_import(db, row) for row in importing.imports_of(db)]


@coaches.delete("/scores/imports/{import_id}", responses={404: {"model": Problem}})
def take_scores_back(import_id: Id, db: Database) -> TakenBack:
    """Undo an import; what was changed since stays."""
    row = db.get(ScoreImport, import_id, with_for_update=True)
    if row is None:
        raise not_found("such import")
    return TakenBack(**moving_in.take_back(db, row)._asdict())
