"""A board in exact notation: each line with the line that said it, notes, questions."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import print_piece
from pine_ladder.core.notation.reader.board import Board, read
from pine_ladder.core.notation.reader.conserve import Lost, implied, lost
from pine_ladder.core.notation.reader.doubts import Doubt, doubts
from pine_ladder.core.notation.reader.layout import rows
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.pieces import piece_of
from pine_ladder.core.notation.reader.work import Work, clean_note
from pine_ladder.core.notation.tokens import WHOLE_LINE, Exact

CLASS_S = 1800
"""A time in a title from this on is the length of the class."""

MOST_NOTE = 800
"""Characters of the note to a day."""


class Reading(NamedTuple):
    """A board in exact notation, line by line, and what of it is only told."""

    lines: tuple[Exact, ...]
    told: tuple[Lost, ...]
    """Numbers and movements that stand in a note alone."""
    untimed: tuple[int, ...] = ()
    """Lines of headings that do not say how their piece is timed."""
    questions: tuple[plan.Finding, ...] = ()


def exact_board(lines: Sequence[str], library: Library) -> Reading:
    """A board in exact notation, each line with the line of the board that said it."""
    board = read(lines, library)
    said = rows(lines)
    head = _head(board, 0)
    parts = _kept(board)
    if board.title_s and len(parts) == 1:
        if not parts[0].facts.length and not parts[0].facts.slot and board.title_s[0] >= 60:
            parts[0].facts.slot = board.title_s
    elif board.title_s and board.title_s[0] >= CLASS_S:
        head = _head(board, board.title_s[0])
    body: list[Exact] = []
    told: list[Lost] = []
    untimed: list[int] = []
    asked: list[tuple[int, Doubt]] = []
    pieces: list[plan.Piece] = []
    starts = [part.number for part in parts] + [len(lines) + 1]
    for place, part in enumerate(parts):
        if not part.works and not part.sections and not part.rest_only and board.lift is not None:
            part.works = [replace(board.lift, row=part.number)]
        _name_apart(part)
        piece = piece_of(part, library, place, len(parts))
        start = starts[place] if place else 0
        of_it = [row for row in said if start <= row.number < starts[place + 1]]
        planned = print_piece(piece)
        open_end = (
            not part.facts.frames and not part.rest_only
            and piece.role is plan.Role.CONDITIONING and isinstance(piece.format, plan.Rounds)
        )  # fmt: skip
        asked += [(place, one) for one in doubts(piece, stations=part.stations, untimed=open_end)]
        pieces.append(piece)
        notes = dict.fromkeys(
            (max(number, part.number), note)
            for number, text in part.notes
            if (note := clean_note(text))
        )
        named = " ".join(text for _, text, _ in head)
        implies = implied(plan.Session(pieces=(piece,)))
        untimed += [part.number] if open_end else []
        missing = lost(
            of_it, "\n".join([named, planned, *(note for _, note in notes)]), library, implies
        )
        for number in dict.fromkeys(one.line for one in missing):
            whole = clean_note(lines[number - 1])
            if whole:
                notes.setdefault((max(number, part.number), whole))
        bare = re.sub(r"—[^|+\n]*", "", planned)
        told += [one for one in lost(of_it, f"{named}\n{bare}", library, implies) if one.amount]
        items = [(part.number, planned.splitlines()[0])]
        items += list(zip(_numbers(part, piece)[1:], planned.splitlines()[1:], strict=False))
        items += [(number, f"> {note}") for number, note in notes]
        body += [
            Exact(number, text, text.strip() != lines[number - 1].strip())
            for number, text in _in_order(items, part.number)
        ]
    out = sorted([*head, *body], key=lambda one: one.number)
    given = {one.number for one in out}
    out += [Exact(at, "", True) for at, line in enumerate(lines, start=1) if at not in given]
    sorted_out = tuple(sorted(out, key=lambda one: one.number))
    return Reading(
        sorted_out, tuple(told), tuple(untimed), tuple(_questions(sorted_out, asked, pieces))
    )


def _questions(
    whole: Sequence[Exact], asked: Sequence[tuple[int, Doubt]], pieces: Sequence[plan.Piece]
) -> Iterator[plan.Finding]:
    """The doubts as questions; an answer writes the lines of its piece exactly."""
    for place, doubt in asked:
        start = pieces[place].line
        end = pieces[place + 1].line if place + 1 < len(pieces) else 1 + whole[-1].number
        lines = sorted({one.number for one in whole if start <= one.number < end})
        notes = [
            one.text for one in whole if start <= one.number < end and one.text.startswith(">")
        ]
        repairs = []
        for word, piece in doubt.answers:
            text = "\n".join([print_piece(piece), *notes])
            edits = [plan.Edit(line=lines[0], start=1, end=WHOLE_LINE, text=text)]
            edits += [plan.Edit(line=at, start=1, end=WHOLE_LINE, text="") for at in lines[1:]]
            repairs.append(plan.Repair(label=word, edits=tuple(edits)))
        yield plan.Finding(
            code=doubt.code, severity="question", line=doubt.line, column=1, end_column=0,
            message=doubt.message, repairs=tuple(repairs),
        )  # fmt: skip


def _in_order(items: list[tuple[int, str]], first: int) -> list[tuple[int, str]]:
    """The lines of a piece by the rows that said them; blocks stay behind one another."""
    heading, *others = items
    if any(text == "--" for _, text in others):
        latest = first
        out = []
        for number, text in others:
            latest = max(latest, number)
            out.append((latest, text))
        return [heading, *out]
    return [heading, *sorted(others, key=lambda one: one[0])]


def _head(board: Board, class_s: int) -> list[Exact]:
    """The title and the lines before the first piece."""
    out: list[Exact] = []
    if board.title:
        title = re.sub(r"\s+", " ", board.title[1]).strip()
        out.append(Exact(board.title[0], f"# {title}", True))
    out += [Exact(number, text, False) for number, text in board.head]
    if class_s and not any(text.lower().startswith("class") for _, text in board.head):
        number = board.title[0] if board.title else 1
        out.append(Exact(number, f"class: {min(600, class_s // 60)} min", True))
    if board.notes and not any(text.lower().startswith("note") for _, text in board.head):
        first = board.notes[0][0]
        text = "; ".join(re.sub(r"\s+", " ", text).strip() for _, text in board.notes)
        out.append(Exact(first, f"note: {text[:MOST_NOTE]}", True))
    return out


def _kept(board: Board) -> list[Part]:
    """The parts that are pieces; what the others say becomes notes of their neighbours."""
    for one in board.parts:
        _rest_of_the_hour(one, board.library)
    parts = [
        one
        for one in board.parts
        if one.works
        or one.sections
        or one.rest_only
        or one.facts.frames
        or (one.role and one.facts.slot)
    ]
    for one in board.parts:
        if any(one is part for part in parts) or not parts:
            continue
        before = [part for part in parts if part.number < one.number]
        target = before[-1] if before else parts[0]
        target.notes += [(one.number, one.typed.strip()), *one.notes]
    return parts


def _rest_of_the_hour(part: Part, library: Library) -> None:
    """A cool-down or mobility of which nothing more is said is easy stretching."""
    if (
        part.works
        or part.sections
        or part.facts.frames
        or part.role not in ("cool-down", "mobility")
    ):
        return
    name = "easy stretching"
    part.works = [Work(part.number, 0, name=name, known=library.find(name))]


def _name_apart(part: Part) -> None:
    """A movement in a heading whose work stands below it is its name, not work."""
    first = [one for one in part.works if one.row == part.number]
    more = [one for one in part.works if one.row != part.number]
    if not (first and more and part.facts.form):
        return
    for one in first:
        long = isinstance(one.amount, plan.Duration) and one.amount.seconds >= 300
        if (
            (one.amount is None or long)
            and one.load is None
            and not one.place
            and one.station is None
        ):
            part.works.remove(one)


def _numbers(part: Part, piece: plan.Piece) -> list[int]:
    """The line of the board that said each line of a printed piece."""
    out = [part.number]
    out += [line.line or part.number for line in piece.buy_in]
    for index, block in enumerate(piece.blocks):
        if index:
            out.append(out[-1])
        out += [line.line or part.number for line in block.lines]
    out += [line.line or part.number for line in piece.cash_out]
    return out
