"""Changes of the board's text that keep everything else as it was typed: lines and pieces."""

from __future__ import annotations

import re
from collections.abc import Iterable

from pine_ladder.core import plan
from pine_ladder.core.notation.printer import line_text, print_piece
from pine_ladder.core.notation.tokens import WHOLE_LINE

LAST_LINE = 1_000_000
"""A line past any text: what is put there is added at its end."""

_HEADING = re.compile(r"\s*##")
_STATION = re.compile(r"(\s*)\d+\)\s*")
_BLOCK = re.compile(r"\s*-{2,}\s*$")
_NOTE = re.compile(r"\s*>")


def apply(text: str, edits: Iterable[plan.Edit]) -> str:
    """The text after edits, each told in lines and columns of the text as given."""
    lines = text.split("\n")
    for edit in sorted(edits, key=lambda e: (e.line, e.start), reverse=True):
        if edit.line > len(lines):
            lines = ["\n".join(lines).rstrip("\n"), "", *edit.text.split("\n"), ""]
            continue
        line = lines[edit.line - 1]
        lines[edit.line - 1] = line[: edit.start - 1] + edit.text + line[edit.end - 1 :]
    return "\n".join(lines)


def heading_text(piece: plan.Piece) -> str:
    """The heading line of a piece."""
    bare = {"blocks": (), "notes": (), "buy_in": (), "cash_out": ()}
    return print_piece(piece.model_copy(update=bare))


def numbered_text(block: plan.Block, line: plan.Line, changed: plan.Line) -> str:
    """A line of a block in another version, with the station number it has there."""
    at = next(i for i, one in enumerate(block.lines, start=1) if one.line == line.line)
    return (f"{at}) " if block.numbered else "") + line_text(changed)


def rewrite(number: int, text: str) -> plan.Edit:
    """The edit that puts a text in place of a whole line."""
    return plan.Edit(line=number, start=1, end=WHOLE_LINE, text=text)


def _piece_at(lines: list[str], number: int) -> tuple[int, int]:
    """First and one past the last index of the piece that holds a line (1-based)."""
    heads = [i for i, line in enumerate(lines) if _HEADING.match(line)]
    start = max((i for i in heads if i < number), default=None)
    if start is None:
        raise ValueError(f"no piece stands on line {number}")
    return start, next((i for i in heads if i > start), len(lines))


def _renumber(lines: list[str]) -> list[str]:
    """Stations counted from 1 again in each block."""
    out, station = [], 0
    for line in lines:
        if _BLOCK.match(line):
            station = 0
        if found := _STATION.match(line):
            station += 1
            out.append(f"{found[1]}{station}) {line[found.end() :]}")
        else:
            out.append(line)
    return out


def _trimmed(lines: list[str]) -> list[str]:
    while lines and not lines[-1].strip():
        lines = lines[:-1]
    return lines


def _joined(parts: Iterable[list[str]]) -> str:
    kept = ["\n".join(_trimmed(part)) for part in parts if _trimmed(part)]
    return "\n\n".join(kept) + "\n"


def move_piece(text: str, number: int, by: int) -> str:
    """The piece that holds a line, moved up (-1) or down (1) past its neighbour."""
    lines = text.split("\n")
    start, _ = _piece_at(lines, number)
    heads = [i for i, line in enumerate(lines) if _HEADING.match(line)]
    ends = [*heads[1:], len(lines)]
    pieces = [lines[a:b] for a, b in zip(heads, ends, strict=True)]
    at = heads.index(start)
    to = min(max(at + by, 0), len(pieces) - 1)
    pieces.insert(to, pieces.pop(at))
    return _joined([lines[: heads[0]], *pieces])


def remove_piece(text: str, number: int) -> str:
    """The text without the piece that holds a line."""
    lines = text.split("\n")
    start, end = _piece_at(lines, number)
    return _joined([lines[:start], lines[end:]])


def add_line(text: str, number: int, line: str, station: bool = False) -> str:
    """A line of work added at the end of the piece that holds a line, before its notes.

    Where the piece's lines are stations, or `station` asks for one, it gets the next number.
    """
    lines = text.split("\n")
    start, end = _piece_at(lines, number)
    piece = _trimmed(lines[start:end])
    after = [i for i, one in enumerate(piece) if one.strip() and not _NOTE.match(one)]
    at = after[-1] + 1
    stations = any(_STATION.match(one) for one in piece[1:])
    bare = _BLOCK.match(line) or re.match(r"\s*(buy-?in|cash-?out)\s*:", line, re.IGNORECASE)
    if (stations or station) and not bare and not _STATION.match(line):
        line = f"0) {line}"
    piece = _renumber([*piece[:at], line, *piece[at:]])
    rest = lines[end:]
    return "\n".join([*lines[:start], *piece, *([""] if rest else []), *rest]).rstrip("\n") + "\n"


def move_line(text: str, number: int, by: int) -> str:
    """A line moved up (-1) or down (1) within its piece."""
    lines = text.split("\n")
    start, end = _piece_at(lines, number)
    at, to = number - 1, number - 1 + by
    if start < to < end and lines[to].strip() and not _NOTE.match(lines[to]):
        lines[at], lines[to] = lines[to], lines[at]
    return "\n".join([*lines[:start], *_renumber(lines[start:end]), *lines[end:]])


def remove_line(text: str, number: int) -> str:
    """The text without a line of work."""
    lines = text.split("\n")
    start, end = _piece_at(lines, number)
    piece = [line for i, line in enumerate(lines[start:end], start=start) if i != number - 1]
    return "\n".join([*lines[:start], *_renumber(piece), *lines[end:]])
