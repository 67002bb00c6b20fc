"""A board as it was typed: read as a whole, and what is not planned pointed at."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache
from itertools import groupby
from operator import attrgetter

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.movements import library as shipped_library
from pine_ladder.core.notation.parser import READ_AS, Parsed, assembled, read_board
from pine_ladder.core.notation.printer import print_piece, print_session
from pine_ladder.core.notation.questions import bare_number
from pine_ladder.core.notation.reader.conserve import Lost, implied, lost
from pine_ladder.core.notation.reader.layout import rows
from pine_ladder.core.notation.tokens import MAX_LINES, WHOLE_LINE, Exact

KEPT = "kept-as-note"
"""The code of a warning that a number or a movement stands in a note alone."""
LEFT_OUT = "left-out"
"""The code of a warning that words were not read."""


def parse(text: str, library: Library | None = None) -> Parsed:
    """Read a board. Never raises for any text: what cannot be read becomes a finding.

    Plain lines are read as the exact ones they stand for and told so, as hints `read-as`; a load
    without a unit is in the library's.
    """
    shelf = library or shipped_library()
    typed = text.splitlines()
    lines = [raw.replace("\t", " ") for raw in typed]
    reading, faults = read_board(typed[:MAX_LINES], shelf)
    read = assembled(lines, reading.lines, faults, shelf)
    if not any(one.said for one in reading.lines) and not faults:
        return read
    if not _stands(read, shelf):
        return assembled(lines, _as_typed(lines), faults, shelf)
    bare = (bare_number(at, line.strip(), shelf) for at, line in enumerate(typed, start=1))
    asked = [*reading.questions, *(one for one in bare if one is not None)]
    told = [*read.findings, *_kept(reading.told), *asked]
    wrong = {one.line for one in told if one.severity == "error"}
    missing = [one for one in left_over(text, Parsed(read.session, tuple(told)), shelf)]
    told += [_finding(LEFT_OUT, one, "not read") for one in missing if one.line not in wrong]
    told.sort(key=lambda one: (one.line, one.column))
    return Parsed(read.session, tuple(told))


def _as_typed(lines: Sequence[str]) -> list[Exact]:
    return [Exact(at, line, False) for at, line in enumerate(lines[:MAX_LINES], start=1)]


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
    """Whether a reading's exact text reads as itself, piece by piece."""
    head = parsed.session.model_copy(update={"pieces": (_BREAK,)})
    texts = [print_session(head), *map(print_piece, parsed.session.pieces)]
    return all(stands(text, shelf) for text in texts if text.strip())


_BREAK = plan.Piece(role=plan.Role.REST, format=plan.Rest(length_s=60))
"""A piece below what stands above all pieces, to read that by itself."""


@lru_cache(maxsize=1024)
def stands(printed: str, shelf: Library) -> bool:
    """Whether the text of a piece, or of what stands above all pieces, reads as itself."""
    lines = printed.splitlines()
    reading, faults = read_board(lines, shelf)
    if faults or any(one.said for one in reading.lines):
        return False
    again = print_session(assembled(lines, reading.lines, (), shelf).session)
    return again.strip() == printed.strip()


def _finding(code: str, one: Lost, what: str) -> plan.Finding:
    return plan.Finding(
        code=code,
        severity="warning",
        line=one.line,
        column=one.column,
        end_column=one.column + len(one.text.rstrip()),
        message=f"{one.text.strip()}: {what}",
    )
