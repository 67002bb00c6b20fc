"""One line of work in exact notation, by itself."""

from __future__ import annotations

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.conserve import lost
from pine_ladder.core.notation.reader.layout import Row, plain_text
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.pieces import work_lines
from pine_ladder.core.notation.reader.work import Scope, settle
from pine_ladder.core.notation.reader.works import read_works


def line_said(typed: str, library: Library) -> str | None:
    """The exact line of one movement of the library with its amount; None for any other line."""
    row = Row(1, plain_text(typed), typed)
    scope = Scope(library, 1, row.text, typed, 0)
    works, loose = read_works(tokens(row.text, library), scope)
    if len(works) != 1 or loose or works[0].known is None or works[0].notes:
        return None
    settle(works[0], library)
    (text,) = work_lines(works, "")
    return None if any(one.amount for one in lost([row], text, library)) else text
