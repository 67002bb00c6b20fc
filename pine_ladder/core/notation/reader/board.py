"""A whole board: row by row into the parts of a session.

A row opens a part, says something of the part it stands in, holds work for it, tells what a tier
does instead, or is a note. Nothing is dropped: what says none of it is kept as a note.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from itertools import pairwise

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation.exactly import (
    has_wrong_value,
    heading_reads,
    is_heading,
    is_role,
    task_reads,
)
from pine_ladder.core.notation.reader.borders import LOOSE, begins_part
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.conserve import lost
from pine_ladder.core.notation.reader.grammar import Facts, Range, read_facts, seconds
from pine_ladder.core.notation.reader.labels import hour_rows, label_of, numbered, opening_rows
from pine_ladder.core.notation.reader.layout import Row, plain_text, rows
from pine_ladder.core.notation.reader.lexer import Token, tokens
from pine_ladder.core.notation.reader.lexicon import PROSE, special
from pine_ladder.core.notation.reader.modifiers import exact_modifiers, modifier_texts
from pine_ladder.core.notation.reader.openings import SENTENCE_END, open_clause
from pine_ladder.core.notation.reader.parts import Part, complete, merge_facts, score_named
from pine_ladder.core.notation.reader.pieces import work_lines
from pine_ladder.core.notation.reader.tables import as_rows
from pine_ladder.core.notation.reader.takes import two_sided
from pine_ladder.core.notation.reader.tiers import give_tiers, tier_of, told_of_it
from pine_ladder.core.notation.reader.work import Scope, Work, own_words, settle
from pine_ladder.core.notation.reader.works import read_works
from pine_ladder.core.notation.words import HEADER_WORDS, nearest
from pine_ladder.core.units import WeightUnit

LISTED, NAMED = 46, 44
"""Characters of a row that may be one of a list, and of one that may be a name alone."""
LONG_TITLE = 100
PROSE_ROW = 70
"""Characters of a line from which on it is a sentence rather than an item."""
_THEN = re.compile(r"\s*(?:and\s+)?then\b(?!\s+\d+\s+[a-z])", re.IGNORECASE)
_COMPLEX = re.compile(r"\W*((?:[a-z]+\s+){1,3}complex)\b", re.IGNORECASE)
_NAMED = re.compile(r'\W*([a-z][a-z\' ]{2,30}?)"?\s*:\s', re.IGNORECASE)
"""Beginnings of a row that are the name of its piece."""
_FRAMING = {"rounds", "rft", "for time", "amrap", "emom", "every", "every n", "scheme", "tabata"}
_EXACT_HEADER = re.compile(
    rf"\s*(?:date\s*:\s*\d{{4}}-|class\s*:\s*\d+\s*(?:min|$)|(?:{'|'.join(HEADER_WORDS[2:])})\s*:\s*\S)",
    re.IGNORECASE,
)


class Board:
    """State of one reading."""

    def __init__(
        self, lines: Sequence[str], library: Library, form: Form, *, has_exact: bool
    ) -> None:
        self.lines, self.library, self.form = lines, library, form
        typed = [line.strip() for line in lines if line.strip()]
        headed = any(map(_is_header, typed)) and all(
            _is_header(line) or line.startswith("# ") for line in typed
        )
        self.has_exact = headed or has_exact
        """Some of its pieces are in exact notation, or it has headers alone."""
        self.exact_line: tuple[int, list[Work], str] = (0, [], "")
        """The last line that was read in an exact piece: number, works, form of the piece."""
        self.several: set[int] = set()
        """Lines of several rows."""
        self.parts: list[Part] = []
        self.title: tuple[int, str] | None = None
        self.title_s: Range = ()
        """A time in the title: the length of the class, or of its only piece."""
        self.head: list[tuple[int, str]] = []
        self.notes: list[tuple[int, str]] = []
        self.teams = Facts()
        self.lift: Work | None = None
        """The lift a title names, whose sets stand below it."""
        self.lift_named = False
        """The title is that lift's name and no more."""
        self.listed = (0, 0)
        """A line that lists what a tier does instead, below the tier's name, and the tier."""
        self.gap_line = 0
        """A line after a blank one, of which nothing has been planned yet."""

    @property
    def here(self) -> Part | None:
        """The part under way."""
        return self.parts[-1] if self.parts else None

    def take(self, row: Row, following: Row | None) -> None:
        """Read one row."""
        if not self.parts and _EXACT_HEADER.match(row.text):
            self.head.append((row.number, row.typed.strip()))
            return
        if self._exactly_written(row):
            return
        if (whole := self._whole_line(row)) is None:
            return
        row = whole
        if not row.first and self.gap_line == row.number:
            row = replace(row, gap=True)
        if row.ruled and self.here is not None and not self.here.fresh and self.here.facts.frames:
            self.here.block += 1
            row = replace(row, gap=False)
        before = self._planned()
        self._take(row, following)
        if row.gap and before == self._planned():
            self.gap_line = row.number

    def _exactly_written(self, row: Row) -> bool:
        """Take a line of exact notation as it stands: the heading of a piece, or work under it."""
        line, here = self.lines[row.number - 1].strip(), self.here
        titled = not self.parts and self.has_exact and self.title is None and row.first
        if titled and line.startswith("#") and not line.startswith("##"):
            self.title = (row.number, line[1:].strip())
            return True
        if not self.parts and self.has_exact and _is_header(line):
            self.head += [(row.number, line)] if row.first else []
            return True
        if is_heading(line) or (is_role(line) and not self._plainly_timed(row)):
            if row.first:
                facts = self._clause(row).facts
                self.parts.append(Part(row.number, typed=row.typed, facts=facts, exactly={}))
            return True
        if here is None or here.exactly is None:
            return False
        if not (line.startswith(">") or task_reads(line, self.library)):
            return False
        if row.first:
            here.works.append(Work(row.number, 0, name=AS_IT_STANDS))
        return True

    def _whole_line(self, row: Row) -> Row | None:
        """The line of a row in a piece of exact notation, all its rows; None behind its first."""
        if self.here is None or self.here.exactly is None:
            return row
        versions = row.typed not in self.lines[row.number - 1]  # Cells of a line, written out.
        if row.number not in self.several or versions or " | " in self.lines[row.number - 1]:
            return row
        if not row.first:
            return None
        line = self.lines[row.number - 1]
        return replace(row, text=plain_text(line), typed=line, at=0)

    def _plainly_timed(self, row: Row) -> bool:
        """Whether a heading's format is said plainly, to the last word, or holds its work."""
        clause = self._clause(row)
        if any(one.known for one in clause.works):
            return True
        facts, used = clause.facts, {id(one) for one in clause.facts.used}
        left = [one for one in clause.body if id(one) not in used and one.kind not in SILENT]
        timed = facts.length or facts.windows or facts.rounds or facts.sets or facts.scheme
        unlimited = ("for time", "tabata", "accumulate", "intervals", "death")
        return not left and bool(timed or facts.form in unlimited or clause.slot)

    def _planned(self) -> tuple[int, int]:
        return len(self.parts), sum(len(one.works) for one in self.parts)

    def _take(self, row: Row, following: Row | None) -> None:
        tier, after = tier_of(row, self.library)
        here = self.here
        if here is not None and here.exactly is not None and tier is not None:
            self._exact_tier(row, tier, after, here.exactly)
            return
        if tier is None and row.number == self.listed[0] and row.first:
            tier, after = self.listed[1], 0
        if tier is not None and self.here is not None:
            self._tier_row(row, tier, after, following)
            return
        clause = self._clause(row)
        if _is_goal(clause.body):
            self._goal(clause)
        elif self._inside(clause) or (not _scores(clause.body) and self._of_teams(clause)):
            if self.here is not None:
                merge_facts(self.here.facts, Facts(how=clause.facts.how, team=clause.facts.team))
            self._note(row.number, clause.typed)
        elif not self._score(clause):
            self._place(clause, following)

    def _clause(self, row: Row) -> Clause:
        """A row as a clause, read by itself."""
        label = label_of(row) if row.number not in self.form.hour_rows else None
        start = label.end if label else 0
        body = [
            Token(one.kind, one.value, one.start + start, one.end + start, one.means)
            for one in tokens(row.text[start:], self.library)
        ]
        clause = Clause(row, label, _unwrapped(body))
        open_clause(clause, self.form, first=not self.parts)
        if _is_goal(clause.body):
            return clause
        self._name(clause)
        self._maximum(clause)
        clause.facts = read_facts(clause.body, self.library)
        clause.facts.slot = clause.slot or clause.facts.slot
        self._exactly(clause)
        scope = self._scope(clause)
        clause.works, clause.loose = read_works(_left(clause), scope)
        resting = [one.kind for one in clause.body[:1]] == ["rest"] and not clause.works
        opens = row.first and row.number in self.form.opening_rows
        if resting and not opens and clause.marked("number", "minute", "station"):
            clause.facts.rest = ()  # A station of rest, and no rest between rounds.
        return clause

    def _name(self, clause: Clause) -> None:
        """Take the name a row begins with: `Press complex: …`, `Lantern: 5 rounds of …`."""
        start = clause.body[0].start if clause.body else 0
        found = _COMPLEX.match(clause.row.text, start)
        if found is None:
            found = _NAMED.match(clause.row.text, start)
            kinds = {one.kind for one in clause.body if found and one.start < found.end(1)}
            ahead = {one.kind for one in clause.body if found and one.start > found.end(1)}
            if not kinds <= {"word", "filler"} or "word" not in kinds or not ahead & _FRAMING:
                return
        assert found is not None
        row = clause.row
        clause.name = row.typed[row.at + found.start(1) : row.at + found.end(1)].strip()
        clause.body = [one for one in clause.body if one.start >= found.end(1)]

    def _maximum(self, clause: Clause) -> None:
        """`AMRAP burpees` inside a piece is as many as possible, no piece of its own."""
        body = [one for one in clause.body if one.kind != "filler"]
        kinds = [one.kind for one in body]
        timed = {"number", "range", "time", "prime"} & set(kinds)
        framed = self.here is not None and self.here.facts.frames
        if framed and kinds[:2] == ["amrap", "movement"] and not timed and not clause.label:
            clause.body[clause.body.index(body[0])] = body[0].as_kind("max")

    def _exactly(self, clause: Clause) -> None:
        """Take the modifiers of a heading that are words of the notation."""
        facts = clause.facts
        if not (facts.frames or clause.role):
            return
        used = {id(one) for one in facts.used}
        for start, end, fields in exact_modifiers(clause.row.text):
            inside = [one for one in clause.body if start <= one.start < end]
            if all(id(one) in used for one in inside):
                continue
            facts.fields |= {name: value for name, value in fields.items() if name != "score"}
            facts.score = fields["score"].value if "score" in fields else facts.score
            facts.used += inside
        if facts.form == "amrap" and len(set(facts.rounds)) > 1:
            # `AMRAP 12, 8-10 rounds`: what the coach expects.
            low, high = facts.rounds
            facts.fields.setdefault("target", plan.Target(unit="rounds", low=low, high=high))
            facts.rounds = ()
        left = [one for one in clause.body if id(one) not in used and one.kind == "time"]
        if facts.rounds and len(left) == 1 and len(left[0].value) == 2 and not facts.every_s:
            # `3 rounds, 5-6 min`
            low, high = left[0].value
            facts.fields.setdefault("target", plan.Target(unit="time", low=low, high=high))
            facts.used += left

    def _scope(self, clause: Clause) -> Scope:
        row, here, text = clause.row, self.here, clause.row.text
        given = here is not None and bool(
            here.facts.scheme
            or here.facts.form in ("intervals", "tabata", "death")
            or (clause.marked("minute", "station") and here.facts.form)
        )
        given = given or clause.facts.form in ("intervals", "tabata", "death")
        listed = row.bullet or clause.label is not None or row.indent > 0
        return Scope(
            library=self.library,
            row=row.number,
            text=text,
            typed=row.typed,
            at=row.at,
            open=here is not None,
            first=next((one.start for one in clause.body if one.kind != "filler"), 0),
            listed=here is not None and row.first and (listed or len(text.strip()) < LISTED),
            loose=here is not None and (clause.role or here.role) in LOOSE,
            talk=bool(PROSE & set(re.findall(r"[a-z']+", text.lower()))),
            names=given,
        )

    # -- rows that say something of the part they stand in ----------------------------------

    def _inside(self, clause: Clause) -> bool:
        """Work at the top of every minute of a piece for time: told, not planned."""
        part = self.here
        if part is None or part.fresh or clause.row.gap:
            return False
        return part.facts.form == "for time" and clause.facts.form in ("emom", "every")

    def _of_teams(self, clause: Clause) -> bool:
        """A row that says how partners share, and asks no work of its own."""
        if self.here is None or not clause.facts.how or clause.facts.frames:
            return False
        if clause.marked("part") or clause.row.marked:
            return False
        return not any(
            one.known and one.amount is not None and one.amount != plan.Reps(low=1)
            for one in clause.works
        )

    def _goal(self, clause: Clause) -> None:
        """A goal, a stimulus, a hint: a note; a time range alone is what the coach aims at."""
        times = [one.value for one in clause.body if one.kind == "time" and len(one.value) == 2]
        few = 5
        if self.here is not None and len(times) == 1 and len(clause.body) <= few:
            self.here.target = times[0]
        self._note(clause.row.number, clause.row.typed.strip())

    def _score(self, clause: Clause) -> bool:
        """A row that says how the piece is scored; one that says more goes on to its place."""
        part, body, facts = self.here, clause.body, clause.facts
        at = next((place for place, one in enumerate(body) if one.kind == "score"), None)
        if at is None:
            return False
        said = score_named(clause.row.text[body[at].end :])
        late = 2
        if part is None:
            facts.score = said if facts.frames and said != "none" else ""
            return False
        if at > late and (facts.frames or any(one.amount is not None for one in clause.works)):
            facts.score = "" if said == "none" else said
            return False
        if facts.form and not part.fresh:
            return False
        if said == "none":
            part.facts.quality = True
        elif said and not part.facts.score:
            part.facts.score = said
        self._note(clause.row.number, clause.typed)
        return True

    def _tier_row(self, row: Row, tier: int, after: int, following: Row | None) -> None:
        """A row of a tier: a section that begins, or what it does instead."""
        part = self.here
        assert part is not None
        row = replace(row, text=re.sub(r"\.(\s*)$", r" \1", row.text))
        rest = row.text[after:]
        if not re.search(r"\w", rest):
            listed = following is not None and re.search(r"\S\s+/\s+\S", following.text)
            self.listed = (following.number, tier) if listed and following is not None else (0, 0)
            part.tier = 0 if listed else tier
            return
        body = [
            Token(one.kind, one.value, one.start + after, one.end + after, one.means)
            for one in tokens(rest, self.library)
        ]
        scope = Scope(self.library, row.number, row.text, row.typed, row.at)
        if give_tiers(part.works, tier, body, scope):
            typed = row.typed[row.at : row.at + len(row.text)].strip()
            self._note(row.number, told_of_it(row.text) or typed)

    def _note(self, number: int, text: str) -> None:
        if not text:
            return
        if self.here is not None:
            self.here.notes.append((number, text))
        else:
            self.notes.append((number, text))

    # -- where a row belongs ----------------------------------------------------------------

    def _place(self, clause: Clause, following: Row | None) -> None:
        """Open a part with a row, or put it into the part under way."""
        row, facts, part = clause.row, clause.facts, self.here
        resting = clause.facts.rest and following is None
        if not self.parts and not resting and self._before_all(clause):
            return
        alone = not self.parts and following is None
        if (length := self._rest(clause, following, alone=alone)) is not None:
            start = clause.body[0].start if clause.body else 0
            said = row.typed[row.at + start : row.at + len(row.text)].strip()
            notes = [(row.number, said)] if clause.slot else []
            made = Part(row.number, rest_only=True, typed=row.typed, notes=notes)
            made.facts.rest = length
            self.parts.append(made)
            return
        if begins_part(clause, part, self.form) and not self._in_exact_piece(clause):
            part = self._open(clause, part)
            if clause.label is not None and row.first:
                self.form.levels.add((clause.label.kind, 0))
            elif row.bullet and row.first and (clause.role or clause.slot):
                self.form.levels.add(("bullet", row.indent))
        elif part is not None and part.exactly is not None:
            self._fill_exactly(clause, part, part.exactly)
            return
        elif part is None:
            if not clause.works:
                self._note(row.number, clause.typed)
                return
            part = self._open(clause, part)
            part.implied = True
        else:
            part.facts.slot = part.facts.slot or clause.facts.slot
            counts = facts.rounds and part.works and not part.facts.frames
            part.closed |= bool(counts) and not re.search(r"[a-wyz]{2}", row.text, re.IGNORECASE)
            if counts and not part.closed:
                for one in part.works:
                    one.place = one.place or "buy-in"
            timed = any(isinstance(one.amount, plan.Duration) for one in part.works)
            if facts.form == "accumulate" and timed:
                facts.form = ""
            merge_facts(part.facts, facts)
            if clause.marked("letter") and part.fresh and clause.label is not None:
                part.label = part.label or clause.label.value[0]
        self._fill(clause, part)

    def _in_exact_piece(self, clause: Clause) -> bool:
        """Whether a row that may begin a part is a line of the exact piece it stands in."""
        if self.here is None or self.here.exactly is None:
            return False
        opens = clause.role or clause.facts.form or clause.marked("part", "letter")
        return not opens and not clause.row.gap

    def _before_all(self, clause: Clause) -> bool:
        """A row before any piece: a title, a lift whose sets follow, or a word to the coach."""
        facts, works = clause.facts, clause.works
        builds = facts.builds and not (works or facts.form or facts.rounds or facts.sets)
        if clause.role or clause.slot or clause.marked("part", "letter"):
            return False
        if facts.frames and not (builds and not facts.scheme):
            return False
        if facts.team or facts.how:
            merge_facts(self.teams, facts)
        if facts.cap and not clause.counted:
            self.teams.cap = facts.cap
        if clause.counted and not facts.team:
            return False
        if facts.quality:
            self.teams.quality = True
        if not works and not clause.loose and (facts.cap or facts.quality or facts.team):
            return True
        if works and not clause.counted:
            self.lift = works[0]
        said = tokens(clause.row.text, self.library)
        times = [one for one in said if one.kind in ("time", "prime")]
        if times and self.title is None:
            self.title_s = seconds(times[0])
        title = re.sub(r'^[#>*\s•"“-]+|[*_\s"”]+$', "", clause.typed).strip()
        if self.title is None and len(title) <= LONG_TITLE:
            self.title = (clause.row.number, title)
            kinds = [one.kind for one in said if one.kind not in SILENT]
            self.lift_named = self.lift is not None and kinds == ["movement"]
        else:
            self._note(clause.row.number, clause.typed)
        return True

    def _rest(self, clause: Clause, following: Row | None, *, alone: bool) -> Range | None:
        """How long a row rests between pieces, talk and set-up too; None where it does not."""
        row, facts = clause.row, clause.facts
        ends = following is None or following.gap or looks_like_opening(following, self.library)
        ends = ends or (following is not None and following.number in self.form.hour_rows)
        counted = any(one.amount is not None for one in clause.works)
        stretches = any(
            one.known and Pattern.MOBILITY in one.known.patterns for one in clause.works
        )
        talk = clause.slot and not clause.role and not facts.frames and not counted
        if talk and ends and not stretches:
            return clause.slot
        marked = clause.label is not None and row.number not in self.form.opening_rows
        if not facts.rest or clause.works or facts.frames or facts.cap or marked:
            return None
        if alone:
            return facts.rest
        if self.here is None or self.here.fresh or not row.first:
            return None
        if any(one.kind == "rest between" for one in clause.body):
            return None
        dashed = re.fullmatch(r"\s*-+[^-]+-+\s*", row.text)
        numbered = clause.label is not None
        return facts.rest if (row.gap and ends) or dashed or numbered else None

    def _open(self, clause: Clause, before: Part | None) -> Part:
        """Begin a part with a clause."""
        row = clause.row
        part = Part(row.number, role=clause.role, typed=row.typed, indent=row.indent)
        if clause.label is not None and clause.marked("letter", "part"):
            part.label = clause.label.value[0]
        part.facts = replace(clause.facts)
        part.name, part.within = clause.name, not row.first
        if before is None:
            if part.facts.team == 2 < self.teams.team:
                part.facts.team = self.teams.team  # `your partner` is one of them.
            merge_facts(part.facts, self.teams)
            part.lift = self.lift
        elif (
            before.facts.team
            and not clause.facts.team
            and self.teams.team
            and clause.role not in LOOSE
        ):
            part.facts.team = self.teams.team
            part.facts.how = part.facts.how or self.teams.how
        plain = not (clause.role or clause.label or clause.slot or row.gap)
        unnamed = clause.works and not any(one.named for one in clause.works)
        if before is not None and unnamed and part.lift is None:
            lifts = [one for one in before.works if one.known and one.known.reference_kg]
            part.lift = before.lift or (lifts[-1] if lifts else None)
        if before is not None and plain and any(one.sets for one in clause.works):
            # Other sets right below are of the same kind of work.
            part.role = before.role if before.role != "finisher" else ""
        named_only = before is not None and before.implied and before.fresh
        if before is not None and named_only and not before.facts.frames and not before.role:
            self.parts.pop()
        self.parts.append(part)
        return part

    # -- what a row puts into its part ------------------------------------------------------

    def _fill(self, clause: Clause, part: Part) -> None:
        """Put a row's works and words into its part."""
        row, facts, works, loose = clause.row, clause.facts, clause.works, clause.loose
        quoted = re.search(r'"([^"]{2,60})"', row.text)
        if quoted and not works and not part.name and part.number == row.number:
            part.name = row.typed[row.at + quoted.start(1) : row.at + quoted.end(1)].strip()
            loose = [one for one in loose if part.name not in one]
        station = _station(clause, part)
        rests = any(one.kind == "rest" for one in clause.body)
        turns = part.facts.form in ("intervals", "emom", "every") and len(clause.body) == 1
        if (station is not None or turns) and not works and rests:
            works = [Work(row.number, 0, name="rest")]
        if not works and not facts.any and loose and _is_name(clause, part):
            start = clause.label.end if clause.label else 0
            name = own_words(row.typed[row.at + start : row.at + len(row.text)])
            works, loose = [Work(row.number, 0, name=name)], []
        if part.lift is None and part.fresh and not any(one.named for one in works):
            part.lift = self.lift
        works = self._lifted(part, works)
        part.closing |= _closes(clause, part)
        if clause.marked("block") and part.facts.times > 1 and clause.label is not None:
            part.block = int(clause.label.value) - 1
        for work in works:
            work.station, work.block = station, part.block
            if part.closing and work.named and not clause.facts.frames:
                work.place = "cash-out"
            if facts.place and work.named:
                work.place = facts.place
        words = [one for one in loose if re.search(r"[a-z]{2}", one, re.IGNORECASE)]
        if works and words and part.number != row.number:
            works[0].notes[:0] = words
        elif words and not works and not facts.any:
            part.notes.append((row.number, clause.typed))
        if part.tier and works:
            part.sections.setdefault(part.tier, []).extend(works)
        else:
            part.works += [one for one in works if one.named]

    def _exact_tier(self, row: Row, tier: int, after: int, exactly: dict[int, list[str]]) -> None:
        """A version in a line of an exact piece, or a row of a tier, which is kept as a note."""
        number, works, form = self.exact_line
        if number != row.number and told_of_it(row.text):
            return  # The line stays as it was typed.
        if number != row.number:
            exactly[row.number] = [f"> {row.typed.strip()}"]
            return
        body = [
            Token(one.kind, one.value, one.start + after, one.end + after, one.means)
            for one in tokens(row.text[after:], self.library)
        ]
        scope = Scope(self.library, row.number, row.text, row.typed, row.at)
        if give_tiers(works, tier, body, scope):
            exactly.pop(number, None)  # It stays as it was typed.
            self.exact_line = (0, [], "")
        else:
            for one in works:
                settle(one, self.library)
            exactly[number] = work_lines(works, form)

    def _understood(self, clause: Clause, works: Sequence[Work], part: Part) -> bool:
        """Whether works are all that a line of an exact piece says, and no slip of the pen."""
        line = clause.row.typed.strip()
        known = all(one.known or one.parts or one.name == "rest" for one in works)
        if not known or line.endswith(_OPEN_END) or line.count("[") != line.count("]"):
            return False
        sided = all(
            one.side is plan.Side.EACH and one.known and two_sided(one.known) for one in works
        )
        sets = {one.sets for one in works if one.sets}
        if sets and sets not in ({part.facts.sets}, {part.facts.rounds}):
            return False  # How often is the heading's to say.
        if not sets and not sided and has_wrong_value(line, self.library):
            return False
        counted = [one for one in works if one.amount is not None]
        if 0 < len(counted) < len(works) and not any(one.name == "rest" for one in works):
            return False  # Work of its own, or a note on the one before it?
        kinds = {
            token.kind
            for one in works
            for note in one.notes
            for token in tokens(note, self.library)
        }
        return kinds <= {"style", "implement", "filler", "easy", "hard", "and", "heavy", "light"}

    def _fill_exactly(self, clause: Clause, part: Part, exactly: dict[int, list[str]]) -> None:
        """A plain line in a piece of exact notation: its work, or a modifier of its heading.

        A line that is not understood to the last number stays as it was typed.
        """
        row, works = clause.row, [one for one in clause.works if one.named]
        station = _station(clause, part)
        if station is not None and not works and any(one.kind == "rest" for one in clause.body):
            works = [Work(row.number, 0, name="rest")]
        for one in works:
            settle(one, self.library)
            one.station = station
        texts = work_lines(works, part.facts.form)
        if _closes(clause, part):
            texts = [f"cash-out: {text}" for text in texts]
        resting = bool(works) and works[0].name == "rest"
        lost_some = not resting and _loses(row, texts, self.library)
        if works and self._understood(clause, works, part) and not lost_some:
            exactly.setdefault(row.number, []).extend(texts)
            part.works += works
            self.exact_line = (row.number, works, part.facts.form)
            return
        heading = exactly.get(part.number, [self.lines[part.number - 1].strip()])[0]
        told = modifier_texts(clause.facts)
        if not works and told and heading_reads(whole := ", ".join([heading, *told])):
            exactly[part.number], exactly[row.number] = [whole], []

    def _lifted(self, part: Part, works: list[Work]) -> list[Work]:
        """Sets without a movement under the lift they are sets of."""
        out = []
        for work in works:
            if work.named:
                out.append(work)
                continue
            lifts = (one for one in reversed(part.works) if one.known and one.known.reference_kg)
            lift = part.lift or next(lifts, part.works[-1] if part.works else None)
            titled = lift is not None and lift is part.lift
            loads = lift is not None and lift.known is not None and lift.known.reference_kg
            if lift is not None and work.sets and not (titled or loads):
                lift = None
            if lift is None or (work.amount is None and work.load is None and not work.sets):
                continue
            if lift.name == "air squat":
                lift = replace(lift, name="back squat", known=self.library.find("back squat"))
            another = lift.amount is not None and work.amount is not None
            another = another and (work.load is not None or work.bare is not None)
            if part.lift is None and not (
                work.sets or another or isinstance(work.amount, plan.Scheme)
            ):
                complete(lift, work)
                continue
            if lift in part.works and lift.amount is None and lift.load is None and not lift.sets:
                part.works.remove(lift)  # The heading named it; its sets are here.
            if lift is self.lift and self.lift_named:
                self.title = None
            for way in work.notes if len(work.notes) == 1 else ():
                if (other := special(self.library, way.strip().lower(), lift.name)) is not None:
                    lift = replace(lift, name=other, known=self.library.find(other))
                    work.notes = []
            out.append(replace(work, name=lift.name, known=lift.known, parts=list(lift.parts)))
        return out


SILENT = ("filler", "colon", "comma", "dash", "open", "close", "stop")
_OPEN_END = ("|", "+", "@", ",", "[")
"""Ends of a line that something is missing behind."""


def _is_header(line: str) -> bool:
    """Whether a line above all pieces is a header of exact notation, or one with a slip in it."""
    found = re.match(r"([A-Za-z]{3,8})\s*:", line)
    return found is not None and nearest(found[1], HEADER_WORDS) is not None


AS_IT_STANDS = "as it stands"
"""The name of work in a piece of exact notation, which is not read here."""


def _loses(row: Row, texts: Sequence[str], library: Library) -> bool:
    """Whether a number or a movement of a row stands in none of its exact lines.

    In a row of several versions each number has to stand as often as it was typed.
    """
    if re.search(r"[|\[]|\sor\s", row.text):
        said, told = (Counter(re.findall(r"\d+", one)) for one in (row.text, " ".join(texts)))
        if said - told:
            return True
    return any(one.amount for one in lost([row], "\n".join(texts), library))


def _closes(clause: Clause, part: Part) -> bool:
    """Whether a row goes on behind the rounds of its part: `then 50 burpees`."""
    kinds = [one.kind for one in clause.body if one.kind != "filler"]
    rounds = bool(part.facts.rounds and part.facts.rounds[0] > 1) or bool(part.facts.scheme)
    counted = any(one.amount is not None for one in clause.works)
    return kinds[:1] == ["then"] and rounds and counted and not part.fresh


def _station(clause: Clause, part: Part) -> int | None:
    """The station that a row's mark names, where the windows of its part turn."""
    label = clause.label
    if label is None or label.kind not in ("minute", "station", "number", "letter", "small"):
        return None
    if part.number == clause.row.number and label.kind != "minute":
        return None  # It names the part.
    short = len(label.value) == 1
    windows = part.facts.form in ("emom", "every")
    turns = label.kind == "minute" or (windows and (short or label.kind != "letter"))
    station = None
    if turns and label.value.isdigit():
        station = int(label.value)
    elif turns and short:
        station = ord(label.value) - 96
    lists = label.kind != "letter" or short
    part.stations |= lists or station is not None
    return station


def _is_name(clause: Clause, part: Part) -> bool:
    """Whether words alone name a movement: where the piece gives the amounts."""
    row, body = clause.row, clause.body
    given = part.facts.scheme or part.facts.form in (
        "intervals", "tabata", "emom", "every", "death"
    )  # fmt: skip
    words = [one for one in body if one.kind in ("word", "implement", "style", "movement")]
    few = 5
    if not given or not words or len(words) > few or part.role == "finisher":
        return False
    if len(words) < len([one for one in body if one.kind != "dash"]):
        return False
    if SENTENCE_END.search(row.text) or len(row.text.strip()) > NAMED or "," in row.text:
        return False
    return clause.label is not None or row.bullet or not row.gap


def _scores(body: Sequence[Token]) -> bool:
    return any(one.kind == "score" for one in body[:3])


def _is_goal(body: Sequence[Token]) -> bool:
    kinds = [one.kind for one in body[:3]]
    return kinds[:1] == ["goal"] and bool({"colon", "comma", "dash", "pipe"} & set(kinds[1:3]))


def _unwrapped(body: list[Token]) -> list[Token]:
    """`2 x (10 squats, 5 push-ups)` without its brackets: rounds of what stands in them."""
    out: list[Token] = []
    inside = False
    for at, one in enumerate(body):
        after = body[at + 1].kind if at + 1 < len(body) else ""
        if one.kind == "by" and after == "open":
            out.append(Token("number", one.value, one.start, one.end))
            out.append(Token("rounds", "", one.end, one.end))
            inside = True
        elif inside and one.kind == "open":
            out.append(Token("colon", None, one.start, one.end))
        elif inside and one.kind == "close":
            inside = False
        else:
            out.append(one)
    return out


def _left(clause: Clause) -> list[Token]:
    """The tokens no fact has taken; a gap between two of them parts what they say."""
    facts = clause.facts
    words = [one for one in clause.body if one.kind == "word"]
    talk = 4
    if facts.quality and not clause.role and not facts.frames and len(words) > talk:
        facts.used = []
    used = {id(one) for one in facts.used}
    out: list[Token] = []
    for one in clause.body:
        if id(one) not in used:
            out.append(one)
        elif out and out[-1].kind != "comma":
            out.append(Token("comma", None, one.start, one.start))
    while out and out[0].kind in ("comma", "colon", "dash"):
        out.pop(0)
    return out


def looks_like_opening(row: Row, library: Library) -> bool:
    """Whether a row begins with a mark, a role or a format."""
    body = [one for one in tokens(row.text, library) if one.kind != "filler"]
    opens = ("role", "amrap", "emom", "clock range")
    return bool(row.marked or label_of(row) or (body and body[0].kind in opens))


def _without_bullets(said: Sequence[Row]) -> Sequence[Row]:
    """The rows, their bullets left out where every line has one: then they say nothing."""
    firsts = [one for one in said if one.first]
    if (
        all(one.bullet or one.gap for one in firsts[1:])
        and len({one.indent for one in firsts}) == 1
    ):
        bullets = sum(one.bullet for one in firsts)
        if bullets * 10 >= len(firsts) * 9:
            return [replace(one, bullet=False) for one in said]
    return said


POUNDS_FROM = 200
"""A load without a unit from which on it is in pounds: few prescribe as many kilograms to all."""


def _in_its_unit(said: Sequence[Row], library: Library) -> Library:
    """The library with the unit of a board's loads: that of those that have one, else the gym's."""
    units: set[WeightUnit] = set()
    for row in said:
        found = tokens(row.text, library)
        units |= {one.value[1] for one in found if one.kind == "weight"}
        for before, one in pairwise(found):
            lifted = before.kind in ("movement", "open", "at") and one.kind == "pair"
            if lifted and POUNDS_FROM <= max(one.value) < POUNDS_FROM * 3:
                units.add("lb")
    return _in_unit(library, units.pop()) if len(units) == 1 else library


@lru_cache(maxsize=64)
def _in_unit(library: Library, unit: WeightUnit) -> Library:
    return library if library.unit == unit else library.in_unit(unit)


def read(lines: Sequence[str], library: Library) -> Board:
    """The parts of a board."""
    said = numbered(as_rows(_without_bullets(rows(lines)), library))
    long = [one for one in said if len(one.typed) > PROSE_ROW]
    exact = any(is_heading(line.strip()) for line in lines)
    openings = [one for one in said if not exact and looks_like_opening(one, library)]
    form = Form(
        opening_rows=opening_rows(said),
        hour_rows=hour_rows(said),
        prose=len(long) * 2 >= len(said),
        by_then=sum(bool(_THEN.match(one.text)) and not one.gap for one in said if one.first) > 1,
        one_line=not any(one.gap for one in said[2:]) and len(openings) * 2 >= len(said) > 2,
    )
    board = Board(lines, _in_its_unit(said, library), form, has_exact=exact)
    board.several = {row.number for row in said if not row.first}
    for at, row in enumerate(said):
        board.take(row, said[at + 1] if at + 1 < len(said) else None)
    return board
