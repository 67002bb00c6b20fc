"""Lines and headings of the board as forms and back, and changes of the board as a whole."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from pine_ladder.api.access import Shelf, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form
from pine_ladder.core.notation import edits
from pine_ladder.core.notation.form import (
    HeadingForm,
    LineForm,
    read_form,
    read_heading_form,
    write_form,
    write_heading_form,
)
from pine_ladder.core.notation.tokens import MAX_LINES, MAX_TEXT, Slip

coaches = router("coach", "lines")


class LineText(Form):
    """One line of board text."""

    text: str = Field(max_length=2000, examples=["1) 10 push press @ 40/30 kg | @ 20/15 kg"])


class BoardChange(Form):
    """A change of a board at a line (1-based): of its piece, or of that line itself.

    `by` is -1 up or 1 down for a move; `text` the line to add, `station` whether it has a window
    of its own.
    """

    text: str = Field(max_length=MAX_TEXT)
    change: Literal["move piece", "remove piece", "add line", "move line", "remove line"]
    line: int = Field(ge=1, le=MAX_LINES)
    by: Literal[-1, 1] = 1
    added: str = Field(default="", max_length=2000)
    station: bool = False


class BoardText(BaseModel):
    """A whole board as text."""

    text: str


@coaches.post("/lines/read", responses={422: {"model": Problem}})
def line_to_form(line: LineText, shelf: Shelf) -> LineForm:
    """The fields of a task line."""
    try:
        return read_form(line.text, shelf)
    except Slip as slip:
        raise ApiError(422, slip.message) from None


@coaches.post("/lines/write", responses={422: {"model": Problem}})
def form_to_line(form: LineForm, shelf: Shelf) -> LineText:
    """The line that fields make, in canonical form."""
    try:
        return LineText(text=write_form(form, shelf))
    except Slip as slip:
        raise ApiError(422, slip.message) from None


@coaches.post("/headings/read", responses={422: {"model": Problem}})
def heading_to_form(line: LineText, shelf: Shelf) -> HeadingForm:
    """The fields of a piece's heading."""
    try:
        return read_heading_form(line.text, shelf)
    except Slip as slip:
        raise ApiError(422, slip.message) from None


@coaches.post("/headings/write", responses={422: {"model": Problem}})
def form_to_heading(form: HeadingForm, shelf: Shelf) -> LineText:
    """The heading that fields make, in canonical form."""
    try:
        return LineText(text=write_heading_form(form, shelf))
    except Slip as slip:
        raise ApiError(422, slip.message) from None


@coaches.post("/boards/change", responses={422: {"model": Problem}})
def change_board(form: BoardChange) -> BoardText:
    """The board after a change, everything else as it was typed."""
    try:
        match form.change:
            case "move piece":
                text = edits.move_piece(form.text, form.line, form.by)
            case "remove piece":
                text = edits.remove_piece(form.text, form.line)
            case "add line":
                text = edits.add_line(form.text, form.line, form.added, form.station)
            case "move line":
                text = edits.move_line(form.text, form.line, form.by)
            case "remove line":
                text = edits.remove_line(form.text, form.line)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return BoardText(text=text)
