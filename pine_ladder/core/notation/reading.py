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
from pine_ladder.core.notation.reader.in_the_hour import without_times
from pine_ladder.core.notation.reader.layout import rows
from pine_ladder.core.notation.several_days import several_days
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
    if not any(line.said for line in reading.lines) and not faults:
        return read
    lines_of_notes = _titles_as_notes(reading.lines, shelf)
    if lines_of_notes is not reading.lines:
        reading = reading._replace(lines=lines_of_notes)
        read = assembled(lines, reading.lines, faults, shelf)
    spans = _spans(read.session, _fallen(read, shelf))
    if spans:
        read = assembled(lines, _as_notes(reading.lines, spans, typed), faults, shelf)
    bare = (bare_number(at, line.strip(), shelf) for at, line in enumerate(typed, start=1))
    asked = [
        *reading.questions,
        *several_days(typed[:MAX_LINES]),
        *(one for one in bare if one is not None),
    ]
    of_notes = [_note(at, typed) for span in spans for at in _said_in(span, typed)]
    noted = {note.line for note in of_notes}
    kept = _kept([one for one in reading.told if one.line not in noted])
    told = [*read.findings, *of_notes, *kept, *asked]
    wrong = {one.line for one in told if one.severity == "error"}
    missing = [one for one in left_over(text, Parsed(read.session, tuple(told)), shelf)]
    told += [_finding(LEFT_OUT, one, "not read") for one in missing if one.line not in wrong]
    told.sort(key=lambda one: (one.line, one.column))
    return Parsed(read.session, tuple(told))


def _spans(session: plan.Session, first: set[int]) -> list[range]:
    """The lines (from 1) of the pieces that are told by their first line."""
    if not first:
        return []
    starts = [piece.line for piece in session.pieces]
    ends = dict(zip(starts, [*starts[1:], WHOLE_LINE], strict=True))
    return [range(start, ends[start]) for start in sorted(first)]


def _said_in(span: range, typed: Sequence[str]) -> list[int]:
    return [at for at in span if at <= len(typed) and typed[at - 1].strip()]


def _note(line: int, typed: Sequence[str]) -> plan.Finding:
    """A warning that a whole line is a note."""
    text = typed[line - 1]
    start = len(text) - len(text.lstrip())
    return _finding(KEPT, Lost(line, start + 1, text.strip(), True), "kept as a note, not planned")


def _as_notes(lines: Sequence[Exact], spans: Sequence[range], typed: Sequence[str]) -> list[Exact]:
    """The lines with those of some pieces as notes of what was typed."""
    out = [line for line in lines if not any(line.number in span for span in spans)]
    for span in spans:
        out.append(Exact(span.start, "## Conditioning: 1 round", True))
        out += [Exact(at, f"> {typed[at - 1].strip()}", True) for at in _said_in(span, typed)]
    return sorted(out, key=attrgetter("number"))


def left_over(text: str, parsed: Parsed, library: Library) -> list[Lost]:
    """Words of a board that stand in no plan, note, name or finding: none, where all went well."""
    session = parsed.session
    said, _ = without_times(rows(text.splitlines()))
    missing = lost(said, print_session(session), library, implied(session))
    pointed = [
        (finding.line, finding.column, finding.end_column or WHOLE_LINE)
        for finding in parsed.findings
        if finding.code != READ_AS
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


def _fallen(parsed: Parsed, shelf: Library) -> set[int]:
    """First lines of the pieces whose exact text does not read as itself."""
    return {piece.line for piece in parsed.session.pieces if not stands(print_piece(piece), shelf)}


def _titles_as_notes(lines: tuple[Exact, ...], shelf: Library) -> tuple[Exact, ...]:
    """The lines with a title of plain writing as the day's note, where written exactly it would be
    read as something else; the same lines where there is no such title.
    """

    def wrong(line: Exact) -> bool:
        return line.said and line.text.startswith("# ") and not stands(line.text, shelf)

    if not any(wrong(line) for line in lines):
        return lines
    title = next(line for line in lines if wrong(line)).text[2:]
    if any(line.text.startswith("note: ") for line in lines):
        return tuple(_beside_the_note(line, title) for line in lines)
    return tuple(
        line._replace(text=f"note: {line.text[2:]}") if wrong(line) else line for line in lines
    )


def _beside_the_note(line: Exact, title: str) -> Exact:
    """A line of a board whose title joins the day's note, which stands already."""
    if line.text == f"# {title}":
        return line._replace(text="")
    if line.text.startswith("note: "):
        return line._replace(text=f"note: {title}; {line.text[6:]}")
    return line


@lru_cache(maxsize=1024)
def stands(printed: str, shelf: Library) -> bool:
    """Whether the exact text of a piece reads as itself."""
    lines = printed.splitlines()
    reading, faults = read_board(lines, shelf)
    if faults or any(line.said for line in reading.lines):
        return False
    again = print_session(assembled(lines, reading.lines, (), shelf).session)
    return again.strip() == printed.strip()


def _finding(code: str, lost_word: Lost, what: str) -> plan.Finding:
    return plan.Finding(
        code=code,
        severity="warning",
        line=lost_word.line,
        column=lost_word.column,
        end_column=lost_word.column + len(lost_word.text.rstrip()),
        message=f"{lost_word.text.strip()}: {what}",
    )
