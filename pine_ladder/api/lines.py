"""A line of the board as a form, and back."""

from __future__ import annotations

from pydantic import BaseModel, Field

from pine_ladder.api.access import router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.core.movements import library
from pine_ladder.core.notation.form import LineForm, read_form, write_form
from pine_ladder.core.notation.tokens import Slip

coaches = router("coach", "lines")


class LineText(BaseModel):
    """One line of board text."""

    text: str = Field(max_length=2000, examples=["1) 10 push press @ 40/30 kg | @ 20/15 kg"])


@coaches.post("/lines/read", responses={422: {"model": Problem}})
def line_to_form(line: LineText) -> LineForm:
    """The fields of a task line."""
    try:
        return read_form(line.text, library())
    except Slip as slip:
        raise ApiError(422, slip.message) from None


@coaches.post("/lines/write", responses={422: {"model": Problem}})
def form_to_line(form: LineForm) -> LineText:
    """The line that fields make, in canonical form."""
    try:
        return LineText(text=write_form(form, library()))
    except Slip as slip:
        raise ApiError(422, slip.message) from None
