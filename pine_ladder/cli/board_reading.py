"""Output of `board read`: pieces, findings with their readings, what is left over."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from typing import TYPE_CHECKING

from pine_ladder.core import plan
from pine_ladder.core.clock import clock
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.notation.parser import READ_AS
from pine_ladder.core.notation.printer import format_text, line_text
from pine_ladder.core.notation.reading import left_over
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.kinds import score_kind

if TYPE_CHECKING:
    from pine_ladder.core.movements import Library


class ReadLine(Frozen):
    """A line of work: exact text, names of its movements, its line on the board."""

    text: str
    movements: tuple[str, ...]
    line: int


class ReadPiece(Frozen):
    """A piece as it was understood; `total_s` and `score` are null where open and where none."""

    role: str
    name: str | None
    format: str
    total_s: int | None
    score: str | None
    lines: tuple[ReadLine, ...]


class Way(Frozen):
    """A reading that a question offers: a word for it, and the whole board in exact notation."""

    label: str
    exact: str


class ReadFinding(Frozen):
    """A finding at columns [column, end_column) of a line, with the readings of a question."""

    code: str
    severity: plan.Severity
    line: int
    column: int
    end_column: int
    message: str
    readings: tuple[Way, ...]


class LeftOver(Frozen):
    """Text that stands in no plan, note or finding."""

    line: int
    column: int
    text: str


class BoardReading(Frozen):
    """Output of `board read --json` for one file."""

    file: str
    title: str | None
    date: dt.date | None
    exact: str
    pieces: tuple[ReadPiece, ...]
    findings: tuple[ReadFinding, ...]
    left_over: tuple[LeftOver, ...]


def _movements(exercise: plan.Exercise) -> Iterator[str]:
    if exercise.movement:
        yield exercise.movement
    for one in (*exercise.parts, *exercise.instead):
        yield from _movements(one)


def _line(line: plan.Line) -> ReadLine:
    names = [
        name for task in line.tasks for version in task.versions for name in _movements(version)
    ]
    return ReadLine(text=line_text(line), movements=tuple(dict.fromkeys(names)), line=line.line)


def _piece(piece: plan.Piece) -> ReadPiece:
    kind = score_kind(piece)
    return ReadPiece(
        role=piece.role.value,
        name=piece.name,
        format=format_text(piece.format),
        total_s=clock(piece).total_s,
        score=kind.value if kind else None,
        lines=tuple(map(_line, (*piece.buy_in, *piece.lines, *piece.cash_out))),
    )


def reading_of(file: str, text: str, library: Library) -> BoardReading:
    """The reading of a board; hints on how a line was read are left out."""
    parsed = parse(text, library)
    session = parsed.session
    findings = tuple(
        ReadFinding(
            **finding.model_dump(exclude={"repairs", "meant"}),
            readings=tuple(
                Way(
                    label=way.label,
                    exact=print_session(parse(apply(text, way.edits), library).session),
                )
                for way in finding.repairs
            )
            if finding.severity == "question"
            else (),
        )
        for finding in parsed.findings
        if finding.code != READ_AS
    )
    return BoardReading(
        file=file,
        title=session.title,
        date=session.date,
        exact=print_session(session),
        pieces=tuple(map(_piece, session.pieces)),
        findings=findings,
        left_over=tuple(
            LeftOver(line=one.line, column=one.column, text=one.text)
            for one in left_over(text, parsed, library)
        ),
    )
