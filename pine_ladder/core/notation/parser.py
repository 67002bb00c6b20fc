"""Board text to a session plan, line by line: a bad line is a finding, all others still parse."""

from __future__ import annotations

import datetime as dt
import hashlib
import logging
import re
from collections.abc import Callable, Iterable
from functools import lru_cache
from itertools import groupby
from operator import attrgetter
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import words
from pine_ladder.core.notation.bounds import excess, within
from pine_ladder.core.notation.exactly import (
    EXTRA,
    PIECE,
    check_format,
    format_said,
    heading_reads,
    is_heading,
    task_reads,
)
from pine_ladder.core.notation.heading import Heading, heading_tree, read_heading
from pine_ladder.core.notation.printer import (
    last_alone_changes,
    line_text,
    print_piece,
)
from pine_ladder.core.notation.questions import both_sides, second_task, whose_tier
from pine_ladder.core.notation.reader.exact import Reading, exact_board
from pine_ladder.core.notation.reader.layout import plain_text
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.slips import mended
from pine_ladder.core.notation.task import read_task, task_tree
from pine_ladder.core.notation.tokens import (
    MAX_LINE,
    MAX_LINES,
    MAX_PIECES,
    WHOLE_LINE,
    Exact,
    Slip,
    check_digits,
)
from pine_ladder.core.tracebacks import traceback_without_values

WINDOWED = (plan.Every, plan.Emom)
log = logging.getLogger("pine_ladder")

NOT_READ_CODE = "not-read"
NOT_READ = "This line could not be read because of a fault in the program. Write it another way."
READ_AS = "read-as"
"""The code of a hint that tells how a plain line was read."""

_HEADER = re.compile(r"(?P<key>[A-Za-z]+)\s*:\s*(?P<value>.*)")
_CYCLE = re.compile(
    r"(?P<name>[^,]{1,60}),\s*week\s+(?P<week>\d{1,2})\s+of\s+(?P<weeks>\d{1,2})", re.IGNORECASE
)
_MINUTES = re.compile(r"(\d+)\s*(?:min(?:ute)?s?)?")


class Parsed(NamedTuple):
    """What a board's text means, with all that was noticed while reading it."""

    session: plan.Session
    findings: tuple[plan.Finding, ...]


class _Draft:
    """A piece while its lines are read."""

    def __init__(self, line: int, role: plan.Role, name: str | None, heading: Heading) -> None:
        self.line, self.role, self.name, self.heading = line, role, name, heading
        self.blocks: list[list[tuple[int | None, plan.Line]]] = [[]]
        self.block_lines = [line]
        self.buy_in: list[plan.Line] = []
        self.cash_out: list[plan.Line] = []
        self.notes: list[str] = []
        self.unread = True

    def finish(self) -> plan.Piece:
        windowed = isinstance(self.heading.format, WINDOWED)
        blocks = tuple(
            plan.Block(
                line=at,
                lines=tuple(line for _, line in lines),
                numbered=windowed and any(number is not None for number, _ in lines),
            )
            for at, lines in zip(self.block_lines, self.blocks, strict=True)
            if lines
        )
        return plan.Piece(
            line=self.line,
            role=self.role,
            name=self.name,
            format=self.heading.format,
            blocks=blocks,
            buy_in=tuple(self.buy_in),
            cash_out=tuple(self.cash_out),
            notes=tuple(self.notes),
            unread=self.unread,
            **self.heading.modifiers,
        )


class _Reader:
    """State of one reading: header values, the piece under way, findings."""

    def __init__(self, library: Library) -> None:
        self.library = library
        self.header: dict[str, object] = {}
        self.pieces: list[plan.Piece] = []
        self.draft: _Draft | None = None
        self.full = False
        self.homeless: list[tuple[int, str, int]] = []
        """Lines before any piece: number, text, offset."""
        self.findings: list[plan.Finding] = []

    def close(self) -> None:
        """Keep the piece under way; what no class can do is cut down and said."""
        self._tell_homeless()
        if self.draft is None:
            return
        try:
            piece = self.draft.finish()
            if why := excess(piece):
                self.note(piece.line, Slip(why, 0, WHOLE_LINE), 0)
                piece = within(piece)
        except Exception as error:  # A fault of the reader costs a piece, never the board.
            log_fault(self.draft.line, self.draft.name or "", error)
            self.note(self.draft.line, Slip(NOT_READ, 0, WHOLE_LINE, code=NOT_READ_CODE), 0)
            return
        self.pieces.append(piece)

    def finish(self) -> Parsed:
        self.close()
        session = plan.Session(**self.header, pieces=tuple(self.pieces))
        return Parsed(session, tuple(sorted(self.findings, key=lambda f: (f.line, f.column))))

    def _tell_homeless(self) -> None:
        """Lines before any piece are one slip, with its way out at the first of them."""
        if not self.homeless:
            return
        (number, text, offset), *others = self.homeless
        self.homeless = []
        heading = mended(text, self.library)
        begin = heading or "## Conditioning: 3 rounds"
        edit = plan.Edit(line=number, start=1, end=1, text=f"{begin}\n")
        if heading:
            edit = plan.Edit(line=number, start=1, end=WHOLE_LINE, text=heading)
        more = f"; the {len(others)} lines after it too" if len(others) > 1 else ""
        more = "; the line after it too" if len(others) == 1 else more
        meant = f"did you mean {heading}?" if heading else f"begin one with {begin}"
        slip = Slip(f"work belongs under a piece: {meant}{more}", 0, len(text))
        label = f"write {heading}" if heading else f"begin with {begin}"
        self.note(number, slip, offset, repairs=(plan.Repair(label=label, edits=(edit,)),))

    def note(
        self,
        number: int,
        slip: Slip,
        offset: int,
        severity: plan.Severity = "error",
        repairs: tuple[plan.Repair, ...] = (),
    ) -> None:
        start, end = offset + slip.start + 1, offset + slip.end + 1
        if not repairs:
            repairs = tuple(
                plan.Repair(
                    label=f"write {way.strip()}",
                    edits=(plan.Edit(line=number, start=start, end=end, text=way),),
                )
                for way in slip.ways
            )
        self.findings.append(
            plan.Finding(
                code=slip.code,
                severity=severity,
                line=number,
                column=start,
                end_column=end,
                message=slip.message,
                repairs=repairs,
            )
        )

    def read(self, number: int, raw: str) -> None:
        text = raw.strip()
        offset = len(raw) - len(raw.lstrip())
        if not text or (self.full and not text.startswith("##")):
            return
        try:
            if len(text) > MAX_LINE:
                # A heading that is too long still begins a piece: its lines are not another's.
                if text.startswith("##"):
                    self.piece(number, "## Conditioning: 1 round", offset)
                raise Slip(f"a line has at most {MAX_LINE} characters", 0, len(text))
            if not text.startswith(">"):
                check_digits(text)
            if text.startswith("##"):
                self.piece(number, text, offset)
            elif text.startswith("#"):
                self.title(text)
            elif self.draft is None:
                self.header_line(number, text, offset)
            else:
                self.work(self.draft, number, text, offset)
        except Slip as slip:
            self.note(number, slip, offset)

    def title(self, text: str) -> None:
        if self.draft is not None or "title" in self.header:
            raise Slip("a second title; a piece begins with ##", 0, len(text))
        title = " ".join(text[1:].split())
        if title:
            self.header["title"] = title

    def header_line(self, number: int, text: str, offset: int) -> None:
        found = _HEADER.match(text)
        key = found["key"].lower() if found else ""
        if not found or key not in words.HEADER_WORDS:
            near = words.nearest(key, words.HEADER_WORDS) if found else None
            if found and near:
                raise Slip(f'"{found["key"]}": did you mean {near}?', 0, len(found["key"]), near)
            self.homeless.append((number, text, offset))
            return
        value, start = " ".join(found["value"].split()), found.start("value")
        if key in self.header or (key == "class" and "class_s" in self.header):
            raise Slip(f"{key} is given twice", 0, len(text))
        if not value:
            raise Slip(f"{key}: nothing is given", 0, len(text))
        if key == "date":
            try:
                self.header["date"] = dt.date.fromisoformat(value)
            except ValueError:
                raise Slip(
                    f"{value}: write the date as year-month-day, 2026-06-04", start, len(text)
                ) from None
        elif key == "class":
            minutes = _MINUTES.fullmatch(value.lower())
            if not minutes or not 0 < int(minutes[1]) <= 600:
                raise Slip(f"{value}: write the class length as 60 min", start, len(text))
            self.header["class_s"] = int(minutes[1]) * 60
        elif key == "theme":
            if value.lower() not in words.THEMES:
                near = words.nearest(value.lower(), words.THEMES, 0)
                known = ", ".join(words.THEMES)
                raise Slip(f'"{value}": a theme is one of {known}', start, len(text), near)
            self.header["theme"] = value.lower()
        elif key == "cycle":
            week = _CYCLE.fullmatch(value)
            if not week or not 0 < int(week["week"]) <= int(week["weeks"]):
                raise Slip(f"{value}: write a cycle as name, week 3 of 8", start, len(text))
            self.header["cycle"] = plan.CycleWeek(
                name=week["name"].strip(), week=int(week["week"]), weeks=int(week["weeks"])
            )
        else:
            self.header[key] = value

    def piece(self, number: int, text: str, offset: int) -> None:
        self.close()
        self.draft = None
        if len(self.pieces) >= MAX_PIECES:
            self.full = True
            raise Slip(f"a board has at most {MAX_PIECES} pieces", 0, len(text))
        found = PIECE.match(text)
        role_text = found["role"] if found else text[2:].strip()
        role = words.role_named(role_text)
        name = " ".join(found["name"].split()) if found and found["name"] else None
        unread = Heading(plan.Rounds(low=1), {})
        # The piece exists before anything can fail, so that its lines still have a home.
        self.draft = _Draft(number, role or plan.Role.CONDITIONING, name, unread)
        word = role_text.split()[0] if role_text.split() else ""
        if role is None and words.role_named(word):
            start = text.find(word)
            raise Slip(f"a colon is missing after {word}", start, start + len(word), f"{word}:")
        meant = mended(text, self.library) if not found or found["rest"] is None else None
        if meant:
            raise Slip(f"did you mean {meant}?", 0, len(text), meant)
        if role is None:
            self.unknown_role(number, text, role_text, offset)
        if not found or found["rest"] is None:
            raise Slip("a colon and a format are missing, as in ## Warm-up: 3 rounds", 0, len(text))
        rest = found["rest"]
        try:
            heading = format_said(rest, found.start("rest"))
        except Slip as slip:
            if slip.replacement is None and (meant := mended(text, self.library)):
                raise Slip(f"{slip.message}; did you mean {meant}?", 0, len(text), meant) from None
            raise
        self.draft.heading, self.draft.unread = heading, False
        check_format(self.draft.role, heading, found.start("rest"), len(text))

    def unknown_role(self, number: int, text: str, role_text: str, offset: int) -> None:
        titles = list(words.ROLE_TITLES.values())
        near = words.nearest(role_text, titles) if role_text else None
        start = text.find(role_text, 2) if role_text else 2
        message = f'"{role_text}": no such role; ' if role_text else "which role? "
        message += f"did you mean {near}?" if near else f"one of {', '.join(titles)}"
        end = start + max(len(role_text), 1)
        self.note(number, Slip(message, start, end, near), offset)

    def work(self, draft: _Draft, number: int, text: str, offset: int) -> None:
        if re.fullmatch(r"-{2,}", text):
            draft.blocks.append([])
            draft.block_lines.append(number)
            return
        if text.startswith(">"):
            if note := " ".join(text[1:].split()):
                draft.notes.append(note)
            return
        if draft.role is plan.Role.REST:
            raise Slip("a rest holds no work; begin a new piece with ##", 0, len(text))
        if extra := EXTRA.match(text):
            place = draft.buy_in if extra["key"].lower().startswith("buy") else draft.cash_out
            _, line = self.task_line(number, extra["task"], offset + extra.start("task"))
            if line.is_rest:
                raise Slip("a rest is no work to buy in or cash out with", 0, len(text))
            place.append(line)
            return
        draft.blocks[-1].append(self.task_line(number, text, offset))

    def task_line(self, number: int, text: str, offset: int) -> tuple[int | None, plan.Line]:
        try:
            reading = read_task(text, self.library)
        except Slip as slip:
            self.note(number, slip, offset, repairs=self._both_sides(number, text))
            raise _Reported from None
        for noticed in reading.slips:
            self.note(number, noticed, offset, "warning")
        if last_alone_changes(reading.tasks) and "|" not in text.rsplit(" + ", 1)[0]:
            self.findings.append(whose_tier(number, text, reading.tasks))
        self.findings += second_task(number, text, reading.tasks, self.library)
        return reading.station, plan.Line(line=number, tasks=reading.tasks)

    def _both_sides(self, number: int, text: str) -> tuple[plan.Repair, ...]:
        return both_sides(number, text, lambda way: task_reads(way, self.library))


class _Reported(Exception):
    """The line's slip is already among the findings."""


def assembled(
    lines: list[str], exact: Iterable[Exact], faults: Iterable[int], shelf: Library
) -> Parsed:
    """The plan of lines in exact notation, each told with the line of the board that said it."""
    reader = _Reader(shelf)
    for at in faults:
        reader.note(at + 1, Slip(NOT_READ, 0, WHOLE_LINE, code=NOT_READ_CODE), 0)
    heading: list[Exact] = []
    for number, group in groupby(exact, key=attrgetter("number")):
        parts = list(group)
        if any(part.text.startswith("##") for part in parts):
            heading = parts
        if any(part.said for part in parts):
            reader.findings.append(_read_as(number, lines[number - 1], parts, shelf, heading))
        for at, part in enumerate(parts):
            before = len(reader.findings)
            try:
                reader.read(number, part.text)
            except _Reported:
                pass
            except Exception as error:  # A fault of the reader costs a line, never the board.
                log_fault(number, part.text, error)
                reader.note(number, Slip(NOT_READ, 0, len(part.text), code=NOT_READ_CODE), 0)
            if part.said or part.text.strip() != lines[number - 1].strip():
                typed = reader.findings[before:]
                reader.findings[before:] = [
                    _as_typed(one, parts, at, lines[number - 1]) for one in typed
                ]
    if len(lines) > MAX_LINES:
        reader.note(MAX_LINES + 1, Slip(f"a board ends after {MAX_LINES} lines"), 0)
    return reader.finish()


def read_board(lines: list[str], shelf: Library) -> tuple[Reading, list[int]]:
    """The lines in exact notation, and the places of those that the reader failed on.

    Such a line is left out, and the board is read without it.
    """
    faults: list[int] = []
    rest = list(lines)
    while True:
        try:
            return exact_board(rest, shelf), faults
        except Exception as error:  # A fault of the reader costs a line, never the board.
            at = _last_of_shortest_failing(rest, lambda some: exact_board(some, shelf))
            log_fault(at + 1, lines[at], error)
            faults.append(at)
            rest[at] = ""


def _last_of_shortest_failing(lines: list[str], attempt: Callable[[list[str]], Reading]) -> int:
    """The line without which the lines before it still read; one that is not empty."""
    for at, line in enumerate(lines):
        try:
            attempt(lines[: at + 1])
        except Exception:
            if line:
                return at
    return max(at for at, line in enumerate(lines) if line)


def log_fault(number: int, text: str, error: Exception) -> None:
    """Log a fault of the reader; the text by its digest alone, as it may name people."""
    digest = hashlib.sha256(text.encode(errors="replace")).hexdigest()[:12]
    where = traceback_without_values(error)
    log.error("reading line %d failed (text %s):\n%s", number, digest, where)


def forget_readings() -> None:
    """Forget every line read so far, as after a start; for measuring."""
    exactly = (heading_tree, task_tree, read_heading, read_task, task_reads, heading_reads)
    for one in (*exactly, is_heading, tokens, plain_text, _printed):
        one.cache_clear()


def _as_typed(finding: plan.Finding, parts: list[Exact], place: int, raw: str) -> plan.Finding:
    """A finding on the exact text of a plain line, where it stands in the line as typed.

    A repair writes the line exactly; all else that was said in it stays.
    """
    exact = parts[place].text
    before = [part.text for part in parts[:place]]
    after = [part.text for part in parts[place + 1 :]]
    word = exact[finding.column - 1 : finding.end_column - 1]
    at = raw.find(word) if word else -1
    start, end = (at, at + len(word)) if at >= 0 else (0, len(raw))
    repairs = tuple(
        plan.Repair(
            label=repair.label,
            edits=(
                plan.Edit(
                    line=finding.line,
                    start=1,
                    end=WHOLE_LINE,
                    text="\n".join(
                        [
                            *before,
                            exact[: edit.start - 1] + edit.text + exact[edit.end - 1 :],
                            *after,
                        ]
                    ),
                ),
            ),
        )
        for repair in finding.repairs
        for edit in repair.edits
    )
    return finding.model_copy(
        update={"column": start + 1, "end_column": end + 1, "repairs": repairs}
    )


def _edited(line: str, edit: plan.Edit) -> str:
    return line[: edit.start - 1] + edit.text + line[edit.end - 1 :]


def _read_as(
    number: int, raw: str, parts: list[Exact], library: Library, heading: list[Exact]
) -> plan.Finding:
    """The hint on a plain line as it was read, with its exact text as the repair.

    A line that was read into the heading of its piece goes only where that is written exactly.
    """
    printed = [_printed(part.text, library) for part in parts]
    shown = "; ".join(printed)
    edits = [plan.Edit(line=number, start=1, end=WHOLE_LINE, text="\n".join(printed))]
    if not shown and heading:
        text = "\n".join(_printed(part.text, library) for part in heading)
        edits.insert(0, plan.Edit(line=heading[0].number, start=1, end=WHOLE_LINE, text=text))
    return plan.Finding(
        code=READ_AS,
        severity="hint",
        line=number,
        column=len(raw) - len(raw.lstrip()) + 1,
        end_column=len(raw.rstrip()) + 1,
        message=f"read as {shown}" if shown else "read into the lines around it",
        repairs=(
            plan.Repair(
                label=f"write {shown}" if shown else "write the heading with it",
                edits=tuple(edits),
            ),
        ),
    )


@lru_cache(maxsize=4096)
def _printed(text: str, library: Library) -> str:
    """A line in canonical form, or as it is where it does not read."""
    alone = _Reader(library)
    try:
        if text.startswith("##"):
            alone.piece(1, text, 0)
            return print_piece(alone.draft.finish()) if alone.draft else text
        prefix = re.match(r"(?:\d+\)|buy-in:|cash-out:)\s+", text)
        start = prefix.end() if prefix else 0
        reading = read_task(text[start:], library)
    except Slip:
        return text
    if not reading.tasks:
        return text
    return text[:start] + line_text(plan.Line(tasks=reading.tasks))
