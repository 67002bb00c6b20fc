"""Files of another program brought in: scores, people, bests, classes and kit."""

from __future__ import annotations

import base64
import binascii
from typing import Annotated

from pydantic import Field

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form
from pine_ladder.core.imports import Kind
from pine_ladder.files.sheets import read_table
from pine_ladder.usecases import moving_in
from pine_ladder.usecases.moving_in import Looked

coaches = router("coach", "imports")

MOST_LETTERS = 41_000_000
"""Thirty megabytes as base64."""
SHOWN = 500
"""Rows left out that are shown; the counts are of all."""
Short = Annotated[str, Field(max_length=300)]


class FileForm(Form):
    """A file as base64, what it holds (None: told by the file), and what was answered so far."""

    content: str = Field(max_length=MOST_LETTERS)
    what: Kind | None = None
    columns: dict[Short, Short] = Field(default_factory=dict, max_length=200)
    """The field of a heading, empty for none, where the coach says otherwise."""
    answers: dict[Short, Short] = Field(default_factory=dict, max_length=2000)


def _table(form: FileForm) -> moving_in.Table:
    try:
        content = base64.b64decode(form.content, validate=True)
    except binascii.Error:
        raise ApiError(422, "The file did not arrive whole. Choose it again.") from None
    read = read_table(content)
    return read.heads, read.rows


def _shown(looked: Looked) -> Looked:
    return looked.model_copy(update={"skipped": looked.skipped[:SHOWN]})


@coaches.post("/imports/look", responses={422: {"model": Problem}})
def look_at_file(form: FileForm, db: Database) -> Looked:
    """Return what a file means for the gym; nothing is saved."""
    try:
        return _shown(
            moving_in.look(db, _table(form), form.what, form.answers, form.columns or None)
        )
    except ValueError as error:
        raise ApiError(422, str(error)) from None


@coaches.post("/imports", status_code=201, responses={422: {"model": Problem}})
def import_file(form: FileForm, db: Database, me: Myself) -> Looked:
    """Save what is new in a file, whole or not at all; unanswered questions take their guess."""
    try:
        return _shown(
            moving_in.bring_in(db, _table(form), form.what, form.answers, me, form.columns or None)
        )
    except ValueError as error:
        raise ApiError(422, str(error)) from None
