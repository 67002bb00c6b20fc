"""A board as it was typed: read line by line where that takes all of it, else as a whole.

A board in exact notation, or in the plain writing of the line reader, is read line by line. Where
lines are left unread, or numbers and movements are lost, the reader of whole boards takes it; what
neither plans is pointed at.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from itertools import groupby
from operator import attrgetter

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.movements import library as shipped_library
from pine_ladder.core.notation import words
from pine_ladder.core.notation.parser import (
    READ_AS,
    Parsed,
    assembled,
    exact_of,
    heading_reads,
    log_fault,
)
from pine_ladder.core.notation.printer import print_session
from pine_ladder.core.notation.reader.conserve import Lost, implied, lost
from pine_ladder.core.notation.reader.exact import exact_board
from pine_ladder.core.notation.reader.layout import rows
from pine_ladder.core.notation.reader.lexicon import is_odd_name
from pine_ladder.core.notation.tokens import MAX_LINES, WHOLE_LINE

A_SLIP = 80
"""How near a word is to a role's to be a slip of it, of 100."""
A_FAINT_SLIP = 60
"""The same before a colon and a format in exact notation."""
KEPT = "kept-as-note"
"""The code of a warning that a number or a movement stands in a note alone."""
LEFT_OUT = "left-out"
"""The code of a warning that words were not read."""
ALONE = 60
"""Characters of a board of one line that the line reader has for itself, right or wrong."""
MIXED = 5
"""Lines of a board from beyond which parts of it may be exact and others not."""
SHORT = 3
"""Lines of a board so short that one format more or less makes it another."""
_ERROR, _LOST_AMOUNT = 3, 1
"""Costs of a line that a reading leaves unread, and of a number or movement that is not planned."""


def parse(text: str, library: Library | None = None) -> Parsed:
    """Read a board. Never raises for any text: what cannot be read becomes a finding.

    Plain lines are read as the exact ones they stand for and told so, as hints `read-as`; a load
    without a unit is in the library's.
    """
    shelf = library or shipped_library()
    typed = text.splitlines()
    lines = [raw.replace("\t", " ") for raw in typed]
    exact, faults = exact_of(lines[:MAX_LINES], shelf)
    told = assembled(lines, exact, faults, shelf)
    untouched = not any(part.said for part in exact) and not told.findings
    headings = [line.strip() for line in typed if line.lstrip().startswith("##")]
    exactly = bool(headings) and all(map(_is_exact_heading, headings))
    if untouched or (exactly and not _mixed(told, typed)):
        return told
    plainly = {part.number for part in exact if part.said} if exactly else None
    read = _read_whole(typed[:MAX_LINES], told, shelf, plainly) or told
    told_of = {one.line for one in read.findings if one.severity == "error"}
    missing = [one for one in left_over(text, read, shelf) if one.line not in told_of]
    if not missing:
        return read
    pointed = [_finding(LEFT_OUT, one, "not read") for one in missing]
    return Parsed(read.session, _sorted([*read.findings, *pointed]))


def _mixed(told: Parsed, typed: Sequence[str]) -> bool:
    """Whether a board with headings of the notation has much that is not in it: one of several
    parts was written exactly, the others stand as they were typed.
    """
    errors = sum(one.severity == "error" for one in told.findings)
    return errors > 1 and len([line for line in typed if line.strip()]) > MIXED


def _sorted(findings: Sequence[plan.Finding]) -> tuple[plan.Finding, ...]:
    return tuple(sorted(findings, key=lambda one: (one.line, one.column)))


def left_over(text: str, parsed: Parsed, library: Library) -> list[Lost]:
    """Words of a board that stand in no plan, note, name or finding: none, where all went well."""
    session = parsed.session
    missing = lost(rows(text.splitlines()), print_session(session), library, implied(session))
    pointed = [
        (one.line, one.column, one.end_column or WHOLE_LINE)
        for one in parsed.findings
        if one.code != READ_AS
    ]
    return [
        one
        for one in missing
        if not any(line == one.line and start <= one.column < end for line, start, end in pointed)
    ]


def _read_whole(
    typed: list[str], told: Parsed, shelf: Library, plainly: set[int] | None
) -> Parsed | None:
    """The board as the reader takes it, where line by line more of it was lost; else None.

    A board with a heading in exact notation is read line by line alone.
    """
    missing = lost(rows(typed), print_session(told.session), shelf, implied(told.session))
    cost = _cost(told, missing, shelf) + _ERROR * _empty(told.session)
    written = [line.strip() for line in typed if line.strip()]
    wrong = any(one.severity == "error" for one in told.findings)
    alone = len(written) < 2 and (not wrong or len("".join(written)) <= ALONE)
    if cost == 0 or alone:
        return None
    try:
        reading = exact_board(typed, shelf)
        other = assembled(typed, reading.lines, (), shelf)
    except Exception as error:  # A fault of the reader costs its reading, never the board.
        log_fault(1, "\n".join(typed), error)
        return None
    short = len(written) <= SHORT
    errors = _cost(other, (), shelf) + _ERROR * len(reading.untimed) * short
    if errors and errors + len(reading.told) >= cost:
        return None
    if plainly is not None and not _kept_exactly(told, other, plainly):
        return None
    if not _stands(other, shelf):
        return None
    kept = _kept(reading.told)
    return Parsed(other.session, _sorted([*other.findings, *kept, *reading.questions]))


def _kept_exactly(told: Parsed, other: Parsed, plainly: set[int]) -> bool:
    """Whether every piece reads the same that stands in exact notation without an error.

    `plainly` are the lines that were read as plain writing.
    """
    wrong = {one.line for one in told.findings if one.severity == "error"} | plainly
    pieces = told.session.pieces
    ends = [*(piece.line for piece in pieces[1:]), WHOLE_LINE]
    return all(
        piece in other.session.pieces
        for piece, end in zip(pieces, ends, strict=True)
        if not any(piece.line <= line < end for line in wrong)
    )


def _kept(told: Sequence[Lost]) -> Iterator[plan.Finding]:
    """Warnings on numbers and movements that stand in a note alone, one a line."""
    for _, group in groupby(told, key=attrgetter("line")):
        of_line = list(group)
        said = ", ".join(dict.fromkeys(one.text.strip(" ,") for one in of_line))
        whole = of_line[0]._replace(text=said)
        last = of_line[-1].column + len(of_line[-1].text.rstrip())
        made = _finding(KEPT, whole, "kept as a note, not planned")
        yield made.model_copy(update={"end_column": last})


def _stands(parsed: Parsed, shelf: Library) -> bool:
    """Whether a reading's exact text reads as itself."""
    printed = print_session(parsed.session)
    lines = printed.splitlines()
    exact, faults = exact_of(lines, shelf)
    if faults:
        return False
    return print_session(assembled(lines, exact, (), shelf).session) == printed


def _is_exact_heading(text: str) -> bool:
    """Whether a line is a heading of the notation, or one with a slip of the pen."""
    role = re.match(r"##\s*([A-Za-z-]+)(:.*)?", text)
    timed = role is not None and role[2] is not None and any(map(heading_reads, _any_role(role[2])))
    likeness = A_FAINT_SLIP if timed else A_SLIP
    near = role and words.nearest(role[1], list(words.ROLE_TITLES.values()), likeness)
    slip = role is not None and words.role_named(role[1]) is None
    return bool(near and (":" in text or slip)) or heading_reads(text)


def _any_role(tail: str) -> tuple[str, str]:
    """A heading's colon and format behind a role of work, and behind a rest."""
    return f"## Conditioning{tail}", f"## Rest{tail}"


def _cost(parsed: Parsed, missing: Sequence[Lost], shelf: Library) -> int:
    errors = sum(one.severity == "error" for one in parsed.findings)
    odd = sum(is_odd_name(name, shelf) for name in _names(parsed.session))
    return _ERROR * errors + _LOST_AMOUNT * (sum(one.amount for one in missing) + odd)


def _empty(session: plan.Session) -> int:
    """Pieces without any work."""
    return sum(
        not (piece.lines or piece.buy_in or piece.cash_out or piece.role is plan.Role.REST)
        for piece in session.pieces
    )


def _names(session: plan.Session) -> Iterator[str]:
    for piece in session.pieces:
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                yield from (one.movement for one in task.versions if one.movement)


def _finding(code: str, one: Lost, what: str) -> plan.Finding:
    return plan.Finding(
        code=code,
        severity="warning",
        line=one.line,
        column=one.column,
        end_column=one.column + len(one.text.rstrip()),
        message=f"{one.text.strip()}: {what}",
    )
