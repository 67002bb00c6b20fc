"""Pieces of exact notation inside a board: lines that stand, and plain ones read in their piece."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.exactly import (
    has_wrong_value,
    heading_reads,
    is_heading,
    is_role,
    task_reads,
)
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.clauses import clause_of
from pine_ladder.core.notation.reader.conserve import lost
from pine_ladder.core.notation.reader.filling import closes, station_of
from pine_ladder.core.notation.reader.layout import Row, plain_text
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.modifiers import modifier_texts
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.pieces import work_lines
from pine_ladder.core.notation.reader.takes import two_sided
from pine_ladder.core.notation.reader.tiers import give_tiers, told_of_it
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Scope, Work, settle
from pine_ladder.core.notation.words import HEADER_WORDS, nearest

SILENT = ("filler", "colon", "comma", "dash", "open", "close", "stop")
"""Kinds of token that say nothing of a piece."""
_OPEN_END = ("|", "+", "@", ",", "[")
"""Ends of a line that something is missing behind."""
CLEARLY = 80.0
"""Likeness, of 100, of a word and a header at least where a board has nothing else."""
_SETS = re.compile(r"\b\d+\s*x\s*\d")
AS_IT_STANDS = "as it stands"
"""The name of work in a piece of exact notation, which is not read here."""


class ExactPieces:
    """The lines of a board that are in exact notation, or stand under a heading that is."""

    def __init__(self, lines: Sequence[str], library: Library, form: Form) -> None:
        self.lines, self.library, self.form = lines, library, form
        typed = [line.strip() for line in lines if line.strip()]
        counted = any(_SETS.search(line) for line in typed)  # `Track: 8 x 200 m`
        headed = (
            any(is_header(line, CLEARLY) for line in typed)
            and not counted
            and all(is_header(line) or line.startswith("# ") for line in typed)
        )
        self.any = headed or any(map(is_heading, typed))
        """Some pieces are in exact notation, or the board has headers alone."""
        self.several: set[int] = set()
        """Lines of several rows."""
        self.last: tuple[int, list[Work], str] = (0, [], "")
        """The last plain line that was read in such a piece: number, works, form of the piece."""

    def line(self, row: Row) -> str:
        """The line of a row as it was typed, without blanks around it."""
        return self.lines[row.number - 1].strip()

    def begins(self, row: Row, here: Part | None) -> bool:
        """Whether a row is the heading of such a piece; one that says its format plainly is not."""
        line = self.line(row)
        return is_heading(line) or (is_role(line) and not self._plainly_timed(row, here))

    def stands(self, row: Row) -> bool:
        """Whether a row under such a heading stands as it was typed: a note, or work."""
        line = self.line(row)
        return line.startswith(">") or task_reads(line, self.library)

    def whole_line(self, row: Row) -> Row | None:
        """The line of a row in a piece of exact notation, all its rows; None behind its first."""
        versions = row.typed not in self.lines[row.number - 1]  # Cells of a line, written out.
        if row.number not in self.several or versions or " | " in self.lines[row.number - 1]:
            return row
        if not row.first:
            return None
        line = self.lines[row.number - 1]
        return replace(row, text=plain_text(line), typed=line, at=0)

    def _plainly_timed(self, row: Row, here: Part | None) -> bool:
        """Whether a heading's format is said plainly, to the last word, or holds its work."""
        clause = clause_of(row, here, self.form, self.library)
        if any(work.known for work in clause.works):
            return True
        facts, used = clause.facts, {id(token) for token in clause.facts.used}
        left = [
            token for token in clause.body if id(token) not in used and token.kind not in SILENT
        ]
        timed = facts.length or facts.windows or facts.rounds or facts.sets or facts.scheme
        unlimited = ("for time", "tabata", "accumulate", "intervals", "death")
        return not left and bool(timed or facts.form in unlimited or clause.slot)

    def tier(self, row: Row, rank: int, after: int, exactly: dict[int, list[str]]) -> None:
        """A version in a line of an exact piece, or a row of a tier, which is kept as a note."""
        number, works, form = self.last
        if number != row.number and told_of_it(row.text):
            return  # The line stays as it was typed.
        if number != row.number:
            exactly[row.number] = [f"> {row.typed.strip()}"]
            return
        body = [
            Token(token.kind, token.value, token.start + after, token.end + after, token.means)
            for token in tokens(row.text[after:], self.library)
        ]
        scope = Scope(self.library, row.number, row.text, row.typed, row.at)
        if give_tiers(works, rank, body, scope):
            exactly.pop(number, None)  # It stays as it was typed.
            self.last = (0, [], "")
        else:
            for work in works:
                settle(work, self.library)
            exactly[number] = work_lines(works, form)

    def fill(self, clause: Clause, part: Part, exactly: dict[int, list[str]]) -> None:
        """A plain line in a piece of exact notation: its work, or a modifier of its heading.

        A line that is not understood to the last number stays as it was typed.
        """
        row, works = clause.row, [work for work in clause.works if work.named]
        station = station_of(clause, part)
        if station is not None and not works and any(token.kind == "rest" for token in clause.body):
            works = [Work(row.number, 0, name="rest")]
        for one in works:
            settle(one, self.library)
            one.station = station
        texts = work_lines(works, part.facts.form)
        place = clause.facts.place or ("cash-out" if closes(clause, part) else "")
        texts = [f"{place}: {text}" for text in texts] if place else texts
        resting = bool(works) and works[0].name == "rest"
        lost_some = not resting and _loses(row, texts, self.library)
        if works and self._understood(clause, works, part) and not lost_some:
            exactly.setdefault(row.number, []).extend(texts)
            part.works += works
            self.last = (row.number, works, part.facts.form)
            return
        heading = exactly.get(part.number, [self.lines[part.number - 1].strip()])[0]
        told = modifier_texts(clause.facts)
        if not works and told and heading_reads(whole := ", ".join([heading, *told])):
            exactly[part.number], exactly[row.number] = [whole], []

    def _understood(self, clause: Clause, works: Sequence[Work], part: Part) -> bool:
        """Whether works are all that a line of an exact piece says, and no slip of the pen."""
        line = clause.row.typed.strip()
        known = all(work.known or work.parts or work.name == "rest" for work in works)
        if not known or line.endswith(_OPEN_END) or line.count("[") != line.count("]"):
            return False
        sided = all(
            work.side is plan.Side.EACH and work.known and two_sided(work.known) for work in works
        )
        sets = {work.sets for work in works if work.sets}
        if sets and sets not in ({part.facts.sets}, {part.facts.rounds}):
            return False  # The heading says it.
        if not sets and not sided and has_wrong_value(line, self.library):
            return False
        counted = [work for work in works if work.amount is not None]
        if 0 < len(counted) < len(works) and not any(work.name == "rest" for work in works):
            return False  # Work of its own, or a note on the one before it?
        kinds = {
            token.kind
            for work in works
            for note in work.notes
            for token in tokens(note, self.library)
        }
        return kinds <= {"style", "implement", "filler", "easy", "hard", "and", "heavy", "light"}


def is_header(line: str, alike: float = 60) -> bool:
    """Whether a line above all pieces is a header of exact notation, or one with a slip in it."""
    found = re.match(r"([A-Za-z]{3,8})\s*:", line)
    return found is not None and nearest(found[1], HEADER_WORDS, alike) is not None


def _loses(row: Row, texts: Sequence[str], library: Library) -> bool:
    """Whether a number or a movement of a row stands in none of its exact lines.

    In a row of several versions each number has to stand as often as it was typed.
    """
    if re.search(r"[|\[]|\sor\s", row.text):
        said, told = (Counter(re.findall(r"\d+", one)) for one in (row.text, " ".join(texts)))
        if said - told:
            return True
    return any(one.amount for one in lost([row], "\n".join(texts), library))
