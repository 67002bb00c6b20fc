"""Rows that rest between pieces: a rest, talk and set-up with a place in the hour."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import TYPE_CHECKING

from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation.reader.asides import PRACTICE
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.clause import Clause
from pine_ladder.core.notation.reader.facts import Range
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.openings import looks_like_opening
from pine_ladder.core.notation.reader.work import Work

if TYPE_CHECKING:
    from pine_ladder.core.notation.reader.board import Board


def rest_of(board: Board, clause: Clause, following: Row | None, *, alone: bool) -> Range | None:
    """The rest of a row between pieces in seconds, talk and set-up too; None where it has none."""
    row, facts = clause.row, clause.facts
    ends = following is None or following.gap or looks_like_opening(following, board.library)
    ends = ends or (following is not None and following.number in board.form.hour_rows)
    counted = any(work.amount is not None for work in clause.works)
    stretches = any(work.known and Pattern.MOBILITY in work.known.patterns for work in clause.works)
    rides = bool(clause.works) and all(
        work.known is not None and Pattern.ENGINE in work.known.patterns and not work.notes
        for work in clause.works
    )
    talk = clause.slot and not clause.role and not facts.frames and not counted and not rides
    roles = (token for token in clause.body if token.kind == "role")
    role = next((role for role in roles if role.means["role"] in LOOSE), None)
    if talk and role is not None and not any(work.named and work.amount for work in clause.works):
        # `general + specific warm-up`; what stands behind a colon is its work.
        listed = any(token.kind == "colon" for token in clause.body[clause.body.index(role) + 1 :])
        clause.role = str(role.means["role"])
        clause.works = [work for work in clause.works if listed and work.named]
        return None
    practised = PRACTICE.search(row.text) and _practise(board, clause)
    if talk and ends and not stretches and not practised:
        return clause.slot
    marked = clause.label is not None and row.number not in board.form.opening_rows
    if not facts.rest or clause.works or facts.frames or facts.cap or marked:
        return None
    if alone:
        return facts.rest
    if board.here is None or board.here.fresh:
        return None
    kinds = [token.kind for token in clause.body if token.kind != "filler"]
    clocked = board.here.facts.form in ("amrap", "emom", "every", "for time", "tabata")
    if clocked and following is not None and kinds[:2] in (["then", "rest"], ["rest", "then"]):
        return facts.rest  # `… Then rest 3 minutes and find a heavy double.`
    if not row.first:
        return None
    if any(token.kind == "rest between" for token in clause.body):
        return None
    dashed = re.fullmatch(r"\s*-+[^-]+-+\s*", row.text)
    numbered = clause.label is not None
    clocks = ("amrap", "emom", "tabata")
    here = board.here.facts
    timed = here.form in (*clocks, "for time") or here.builds
    before = following is not None and timed and _clocked(board, following)
    if here.form == "intervals" and board.here.works and following is not None:
        before = before or _intervals_of(board, following)
    steps = following is not None and _steps_alone(board, following)
    before = before or (steps and bool(here.scheme) and bool(board.here.works))
    if before and not board.here.facts.times:
        return facts.rest
    return facts.rest if (row.gap and ends) or dashed or numbered else None


def _practise(board: Board, clause: Clause) -> bool:
    """Whether a row names what is practised in its time, which is its work then."""
    moves = [token for token in clause.body if token.kind == "movement"]
    if not clause.works and len(moves) == 1:
        name = str(moves[0].means["movement"])
        known = board.library.find(name)
        if known is not None:
            said = clause.row.text[moves[0].start : moves[0].end]
            work = Work(clause.row.number, moves[0].start, name=known.name, known=known)
            clause.works = [replace(work, said=said)]
    return bool(clause.works)


def _intervals_of(board: Board, row: Row) -> bool:
    """Whether a row is intervals of its own: `row 4 x (2 min hard / 1 min easy)`."""
    kinds = [token.kind for token in tokens(row.text, board.library)]
    times = sum(kind in ("time", "prime") for kind in kinds)
    return "movement" in kinds and times > 1 and bool({"by", "rounds"} & set(kinds))


def _steps_alone(board: Board, row: Row) -> bool:
    """Whether a row is a scheme and no more: `12-9-6`."""
    return [token.kind for token in tokens(row.text, board.library)] == ["scheme"]


def _clocked(board: Board, row: Row) -> bool:
    """Whether a row begins with a clock of its own: `AMRAP 3`, `5 min AMRAP`."""
    kinds = [token.kind for token in tokens(row.text, board.library) if token.kind != "filler"][:2]
    return bool({"amrap", "emom", "tabata"} & set(kinds)) and not row.gap
