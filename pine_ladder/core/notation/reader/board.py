"""A whole board: row by row into the parts of a session.

A row opens a part, says something of the part it stands in, holds work for it, tells what a tier
does instead, or is a note. Nothing is dropped: what says none of it is kept as a note.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation.exactly import is_heading
from pine_ladder.core.notation.reader.again import go_back, in_rounds, share_work, without_sums
from pine_ladder.core.notation.reader.ahead import (
    before_all,
    labels_its_lift,
    names_a_lift,
    names_sets,
    steps_of_the_title,
)
from pine_ladder.core.notation.reader.asides import (
    BREAKS_IN,
    GREETING,
    HALF,
    PRACTICE,
    ROLES,
    TOTAL,
    TOTAL_TIME,
    TURNS,
    is_aside,
    is_cue,
    is_statement,
    without_condition,
)
from pine_ladder.core.notation.reader.below import say_of_the_part
from pine_ladder.core.notation.reader.borders import (
    LIFTING,
    LOOSE,
    MANY_SETS,
    NAME,
    begins_part,
    is_talk,
    repeats_a_way,
)
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.clauses import clause_of, is_goal
from pine_ladder.core.notation.reader.counts import seconds
from pine_ladder.core.notation.reader.exact_pieces import (
    AS_IT_STANDS,
    ExactPieces,
    is_header,
)
from pine_ladder.core.notation.reader.facts import Facts, Range
from pine_ladder.core.notation.reader.filling import fill
from pine_ladder.core.notation.reader.in_the_hour import (
    clock_rows,
    hour_rows,
    phases,
    starts,
    without_last_place,
    without_times,
)
from pine_ladder.core.notation.reader.labels import (
    letters_of_parts,
    minutes_as_stations,
    opening_rows,
)
from pine_ladder.core.notation.reader.layout import RAMP_FIRST, Row, rows, without_bullets
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.numbering import numbered
from pine_ladder.core.notation.reader.openings import looks_like_opening, timed_rows
from pine_ladder.core.notation.reader.parts import Part, is_soft, merge_facts, score_named
from pine_ladder.core.notation.reader.resting import rest_of
from pine_ladder.core.notation.reader.roles import trains_the_trunk
from pine_ladder.core.notation.reader.set_loads import take_set_loads
from pine_ladder.core.notation.reader.shared_loads import give_loads, loads_said, wants_loads
from pine_ladder.core.notation.reader.tables import as_rows
from pine_ladder.core.notation.reader.tiers import give_tiers, tier_of, told_of_it
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.unit import in_its_unit
from pine_ladder.core.notation.reader.work import Scope, Work
from pine_ladder.core.notation.several_days import day_named
from pine_ladder.core.notation.words import HEADER_WORDS, THEMES

PROSE_ROW = 70
"""Characters of a line from which on it is a sentence rather than an item."""
_THEN = re.compile(r"\s*(?:and\s+)?then\b(?!\s+\d+\s+[a-z])", re.IGNORECASE)
_THEN_ALONE = re.compile(r"\W*(?:and\s+)?(?:then|next|after that)\W*", re.IGNORECASE)
_NAMES_A_PART = re.compile(r"\W*(?:[A-Z][A-Z /'&-]{1,24}|[A-Za-z][\w /'&-]{1,24}:)\s*")
"""A few capitals, or words and a colon, alone in a row: the name of what stands below."""
_ROTATE = re.compile(
    r"\W*(?:rotat(?:e|ing)(?: through)?|one after the other|in turn)(?: stations?)?\W*",
    re.IGNORECASE,
)
"""A row that says that the windows of a piece turn through what stands below it."""
_SUPERSET = re.compile(r"\W*(?:super\s?set(?:ted)?|ss)(?:\s+with|\s+w/)?\W*", re.IGNORECASE)
_EXACT_HEADER = re.compile(
    rf"\s*(?:date\s*:\s*\d{{4}}-|class\s*:\s*\d+\s*(?:min|$)|{HEADER_WORDS[2]}\s*:\s*[^\d/]+/|{HEADER_WORDS[3]}\s*:\s*\S"
    rf"|theme\s*:\s*(?:{'|'.join(THEMES)})\s*$|cycle\s*:.*,\s*week\s+\d+\s+of\s+\d+\s*$)",
    re.IGNORECASE,
)


def _asks_behind(body: Sequence[Token]) -> bool:
    """Whether work in sets stands behind a word and a colon: `Post: deadlift 1x20 @ 50 %`."""
    kinds = [token.kind for token in body[:6]]
    return kinds[1:2] == ["colon"] and "movement" in kinds and "by" in kinds


class Board:
    """State of one reading."""

    def __init__(self, exact: ExactPieces, library: Library, form: Form) -> None:
        self.exact, self.library, self.form = exact, library, form
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
        self.loads: dict[int, Work] = {}
        """Loads that were said above all pieces, by tier."""
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
        if self.here is None and not self.form.engine:
            self.form.engine = self._engine_named(row)
        if self.here is not None and self.here.exactly is not None:
            if (whole := self.exact.whole_line(row)) is None:
                return
            row = whole
        if (
            self.here is not None
            and self.here.facts.form == "every"
            and _ROTATE.fullmatch(row.text)
        ):
            self.here.facts.in_turn = True
            return
        if following is not None and self.here is not None and _SUPERSET.fullmatch(row.text):
            self.form.joined_rows.add(following.number)
            return
        if _THEN_ALONE.fullmatch(row.text):
            lifted = self.here is not None and (
                self.here.role in LIFTING
                or bool(self.here.facts.sets)
                or any(work.sets or _is_loaded(work) for work in self.here.works)
            )
            if self.here is not None and not lifted and PRACTICE.search(self.here.typed):
                lifted, self.here.role = True, self.here.role or "skill"  # `rope climb practice`
            self.gap_line = following.number if lifted and following is not None else 0
            if self.here is not None and any(work.sets for work in self.here.works):
                self.form.after_then.add(self.gap_line)
            if following is not None and names_sets(self, following):
                self.gap_line = following.number  # `8 x 20 s hard`, `then`, `3 x 8 back extension`
                return
            counts = self.here is not None and (self.here.facts.rounds or self.here.facts.scheme)
            if self.here is not None and not lifted and self.here.works and counts:
                self.here.closing = True  # `5 rounds`, their work, `then` and what closes them.
            return
        if self.parts and row.first and day_named(row.text):
            self.note(row.number, row.typed.strip())
            self.form.opening_rows |= {following.number} if following is not None else set()
            return
        if self.gap_line == row.number:
            row = replace(row, gap=True)
        if row.ruled and self.here is not None and not self.here.fresh and self.here.facts.frames:
            clause = self._clause(row)
            easy = bool(clause.works) and all(
                is_soft(work) or (work.known is not None and work.known.easy)
                for work in clause.works
            )
            heads = clause.facts.frames or clause.role or clause.marked("letter", "part") or easy
            heads = heads or bool(NAME.fullmatch(row.text))
            self.here.closed |= easy
            if not heads or self.here.exactly is not None:
                self.here.block += 1
            row = replace(row, gap=bool(heads))
        before = self._planned()
        windows = self.form.phases.get(row.number)
        if windows and self.here is not None and self.here.facts.form == "emom":
            self.here.facts.length = (60 * windows,)
        elif windows and self.here is not None and self.here.facts.form == "every":
            self.here.facts.windows, self.here.facts.total_s = (windows,), 0
        self._take(row, following)
        if row.gap and before == self._planned():
            heads = bool(_NAMES_A_PART.fullmatch(row.text))
            self.gap_line = following.number if heads and following is not None else row.number

    def _engine_named(self, row: Row) -> str:
        """The machine, or the run, that a row above all work begins with; empty where there is
        another word of work in it.
        """
        words = [token for token in tokens(row.text, self.library) if token.kind != "filler"]
        moves = [token for token in words if token.kind == "movement"]
        known = self.library.find(str(moves[0].means["movement"])) if len(moves) == 1 else None
        named = known is not None and Pattern.ENGINE in known.patterns and words[0] is moves[0]
        counted = any(
            token.kind in ("number", "by", "time", "prime", "cal", "max") for token in words
        )
        titled = len(words) > 1 and words[1].kind == "colon"  # `Run: 10 min easy, …`
        return known.name if known is not None and named and (titled or not counted) else ""

    def _exactly_written(self, row: Row) -> bool:
        """Take a line of exact notation as it stands: a header, a heading, or work under it."""
        line, here = self.exact.line(row), self.here
        titled = here is None and self.exact.any and row.first and self.title is None
        if titled and line.startswith("#") and not line.startswith("##"):
            self.title = (row.number, line[1:].strip())
            return True
        if here is None and self.exact.any and is_header(line):
            self.head += [(row.number, line)] if row.first else []
            return True
        if self.exact.begins(row, here):
            if row.first:
                facts = self._clause(row).facts
                self.parts.append(Part(row.number, typed=row.typed, facts=facts, exactly={}))
            return True
        if here is None or here.exactly is None or not self.exact.stands(row):
            return False
        if row.first:
            here.works.append(Work(row.number, 0, name=AS_IT_STANDS))
        return True

    def _clause(self, row: Row) -> Clause:
        return clause_of(row, self.here, self.form, self.library)

    def _planned(self) -> tuple[int, int]:
        return len(self.parts), sum(len(part.works) for part in self.parts)

    def _take(self, row: Row, following: Row | None) -> None:
        here = self.here
        exactly = here is not None and here.exactly is not None
        if here is not None and here.facts.form == "intervals" and (half := HALF.match(row.text)):
            if half["off"]:
                self.note(row.number, row.typed.strip())
                return
            row = replace(row, text=" " * half.end() + row.text[half.end() :])
        if here is not None and not exactly:
            row = replace(row, text=without_condition(row.text))
        if self._only_told(row, exactly=exactly):
            self.note(row.number, row.typed[row.at : row.at + len(row.text)].strip())
            return
        if (left := take_set_loads(self, row)) is None:
            return
        row = left
        tier, after = tier_of(row, self.library)
        loads = {} if exactly else loads_said(row, self.library)
        if loads and (here is None or here.fresh or len(loads) > 1 or tier is None):
            into = self.loads if here is None else here.loads
            into.update(loads)
            return
        if here is not None and here.exactly is not None and tier is not None:
            self.exact.tier(row, tier, after, here.exactly)
            return
        if tier is None and row.number == self.listed[0] and row.first:
            tier, after = self.listed[1], 0
        if tier is not None and self.here is not None:
            self._tier_row(row, tier, after, following)
            return
        clause = self._clause(row)
        if is_goal(clause.body):
            self._goal(clause)
        elif self._inside(clause) or (not _scores(clause.body) and self._of_teams(clause)):
            if self.here is not None:
                merge_facts(self.here.facts, Facts(how=clause.facts.how, team=clause.facts.team))
            self.note(row.number, clause.typed)
        elif here is not None and is_talk(clause, here):
            self.note(clause.row.number, clause.typed)
        elif not self._score(clause):
            self._place(clause, following)

    def _only_told(self, row: Row, *, exactly: bool) -> bool:
        """Whether a row is told beside the work and asks none; what it says of the part is kept."""
        here, text = self.here, row.text
        if RAMP_FIRST.fullmatch(text.lstrip()):
            return True
        if here is None:
            greets = row.first and bool(GREETING.fullmatch(text))
            return greets or (not exactly and is_statement(text, self.library))
        if not here.fresh and is_aside(text):
            return True
        if not exactly and go_back(here, text):
            return True
        in_sets = bool(here.facts.sets) or any(work.sets for work in here.works)
        whole = here.works and not in_sets and here.facts.form not in ("every", "emom")
        if whole and not exactly and BREAKS_IN.match(text):
            here.facts.form = here.facts.form or "for time"
            return True
        if here.facts.team and not here.fresh and TURNS.match(text):
            return True
        if not here.fresh and not exactly and ROLES.fullmatch(text):
            here.facts.team = max(here.facts.team, text.count("one "))
            return True
        if exactly:
            return False
        return is_statement(text, self.library) or is_cue(text, here.works, self.library)

    # -- rows that say something of the part they stand in ----------------------------------

    def _inside(self, clause: Clause) -> bool:
        """Work at the top of every minute of a piece for time: told, not planned."""
        part = self.here
        if part is None or part.fresh or clause.row.gap:
            return False
        if clause.role or clause.facts.sets or clause.row.number in self.form.opening_rows:
            return False
        raced = part.facts.form == "for time" or (part.facts.cap and not part.facts.form)
        again = clause.facts.form in ("emom", "every") and not clause.facts.windows
        return bool(raced) and again and not clause.facts.rounds

    def _of_teams(self, clause: Clause) -> bool:
        """A row that says how partners share, and asks no work of its own."""
        if self.here is None or not clause.facts.how or clause.facts.frames:
            return False
        if clause.marked("part") or clause.row.marked or clause.role or clause.slot:
            return False
        return not any(
            work.known and work.amount is not None and work.amount != plan.Reps(low=1)
            for work in clause.works
        )

    def _goal(self, clause: Clause) -> None:
        """A goal, a stimulus, a hint: a note; a time range alone is what the coach aims at."""
        times = [
            token.value for token in clause.body if token.kind == "time" and len(token.value) == 2
        ]
        few = 5
        if self.here is not None and len(times) == 1 and len(clause.body) <= few:
            self.here.target = times[0]
        self.note(clause.row.number, clause.row.typed.strip())

    def _score(self, clause: Clause) -> bool:
        """A row that says how the piece is scored; one that says more goes on to its place."""
        part, body, facts = self.here, clause.body, clause.facts
        at = next((place for place, token in enumerate(body) if token.kind == "score"), None)
        if at is None:
            return self._most_counts(clause)
        if at == 0 and _asks_behind(body):
            for work in clause.works:  # `Post: deadlift 1x20 @ 50 %`, when the rest is done.
                work.notes = [note for note in work.notes if note.lower() != "post"]
            return False
        form = facts.form or (part.facts.form or _raced(part) if part is not None else "")
        said = score_named(clause.row.text[body[at].end :], form)
        if not said and at == len(body) - 1:
            said = score_named(clause.row.text[: body[at].start], form)  # `slowest round counts`
        late = 2
        if part is None:
            facts.score = said if facts.frames and said != "none" else ""
            return False
        if at > late and (facts.frames or any(work.amount is not None for work in clause.works)):
            facts.score = "" if said == "none" else said
            return False
        if facts.form and not part.fresh:
            return False
        if said == "none":
            part.facts.quality = True
        elif said and not part.facts.score:
            part.facts.score = said
        if part.works and not clause.works and not facts.frames:
            merge_facts(part.facts, Facts(rest=facts.rest, cap=facts.cap))
        self.note(clause.row.number, clause.typed)
        return True

    def _most_counts(self, clause: Clause) -> bool:
        """`max calories` alone in a row: what the piece counts."""
        kinds = [token.kind for token in clause.body if token.kind != "filler"]
        if self.here is not None and not self.here.fresh and TOTAL.fullmatch(clause.row.text):
            self.here.facts.score = self.here.facts.score or score_named(clause.row.text)
            self.note(clause.row.number, clause.typed)
            return True
        timed = self.here is not None and not self.here.fresh and not self.here.facts.form
        if self.here is not None and timed and TOTAL_TIME.match(clause.row.text):
            self.here.facts.form = "" if self.here.facts.sets else "for time"
            self.note(clause.row.number, clause.typed)
            return True
        if self.here is None or self.here.fresh or kinds != ["max", "calories"]:
            return False
        self.here.facts.score = self.here.facts.score or "calories"
        self.note(clause.row.number, clause.typed)
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
            Token(token.kind, token.value, token.start + after, token.end + after, token.means)
            for token in tokens(rest, self.library)
        ]
        scope = Scope(self.library, row.number, row.text, row.typed, row.at)
        if give_tiers(part.works, tier, body, scope):
            typed = row.typed[row.at : row.at + len(row.text)].strip()
            self.note(row.number, told_of_it(row.text) or typed)

    def _heads_times(self, part: Part, row: Row) -> bool:
        """Whether a part only summed up rows told by their place in the hour or on the clock."""
        placed = self.form.clock_rows | self.form.hour_rows
        if row.number not in placed or part.number in placed or part.role in LOOSE or row.gap:
            return False
        return part.fresh and not part.facts.frames and not part.rest_only

    def _unnote(self, part: Part) -> None:
        """Tell a part that only summed up what follows above all of it, or in the part before."""
        notes = [(part.number, part.typed.strip()), *part.notes]
        (self.parts[-1].notes if self.parts else self.notes).extend(notes)

    def note(self, number: int, text: str) -> None:
        """Keep a text of a line as a note of the part under way, or of the day before any."""
        if not text:
            return
        if self.here is not None:
            self.here.notes.append((number, text))
        else:
            self.notes.append((number, text))

    # -- where a row belongs ----------------------------------------------------------------

    def _place(self, clause: Clause, following: Row | None) -> None:
        """Open a part with a row, or put it into the part under way."""
        row, part = clause.row, self.here
        if NAME.fullmatch(row.text) and not any(work.known for work in clause.works):
            clause.works = []  # `"Twelve Below"`
        resting = clause.facts.rest and following is None
        if not self.parts and not resting and before_all(self, clause, following):
            return
        alone = not self.parts and following is None
        if (length := rest_of(self, clause, following, alone=alone)) is not None:
            start = clause.body[0].start if clause.body else 0
            said = row.typed[row.at + start : row.at + len(row.text)].strip()
            told = clause.slot and said.lower() != "rest"
            notes = [(row.number, said)] if told else []
            made = Part(row.number, rest_only=True, typed=row.typed, notes=notes)
            made.facts.rest = length
            self.parts.append(made)
            return
        if labels_its_lift(self, clause, following):
            start = clause.body[0].start
            clause.name = clause.name or row.typed[row.at + start : row.at + len(row.text)].strip()
            clause.works = []
        if names_a_lift(self, clause, following):
            made = Part(row.number, typed=row.typed, indent=row.indent, works=clause.works[:1])
            made.facts.slot = clause.slot
            self.parts.append(made)
            return
        if part is None:
            steps_of_the_title(self, clause, following)
        if begins_part(clause, part, self.form) and not self._in_exact_piece(clause):
            part = self._open(clause, part)
            if clause.label is not None and row.first:
                self.form.levels.add((clause.label.kind, 0))
            elif row.bullet and row.first and (clause.role or clause.slot):
                self.form.levels.add(row.level)
        elif part is not None and part.exactly is not None:
            self.exact.fill(clause, part, part.exactly)
            return
        elif part is None:
            if not clause.works:
                self.note(row.number, clause.typed)
                return
            part = self._open(clause, part)
            part.implied = True
        elif not say_of_the_part(clause, part, last=following is None):
            return
        if clause.load is not None:
            part.loads.setdefault(0, clause.load)
        fill(clause, part, self.lift, self.form, self.library)
        if self.lift_named and self.lift is not None and part.works:
            # The title says no more than the lift that stands in the piece.
            repeats = any(work.known is self.lift.known for work in part.works)
            self.title = None if repeats else self.title

    def _in_exact_piece(self, clause: Clause) -> bool:
        """Whether a row that may begin a part is a line of the exact piece it stands in."""
        if self.here is None or self.here.exactly is None:
            return False
        opens = clause.role or clause.facts.form or clause.marked("part", "letter")
        return not opens and not clause.row.gap

    def _open(self, clause: Clause, before: Part | None) -> Part:
        """Begin a part with a clause."""
        row = clause.row
        part = Part(row.number, role=clause.role, typed=row.typed, indent=row.indent)
        part.sentence = clause.typed
        if clause.label is not None and clause.marked("letter", "part"):
            part.label = clause.label.value[0]
        part.facts = replace(clause.facts)
        part.name, part.within = clause.name, not row.first
        times = [token for token in clause.body if token.kind in ("time", "prime")]
        if part.role and len(times) == 1:
            part.idle_s = seconds(times[0])
        worked = next((part for part in reversed(self.parts) if not part.rest_only), None)
        if before is None:
            if part.facts.team == 2 < self.teams.team:
                part.facts.team = self.teams.team  # `your partner` is one of them.
            merge_facts(part.facts, self.teams)
            part.lift = self.lift
        elif (
            worked is not None
            and worked.facts.team
            and not clause.facts.team
            and self.teams.team
            and clause.role not in LOOSE
        ):
            part.facts.team = self.teams.team
            part.facts.how = part.facts.how or self.teams.how
        plain = not (clause.role or clause.label or clause.slot or row.gap)
        unnamed = clause.works and not any(work.named for work in clause.works)
        if before is not None and unnamed and part.lift is None:
            lifts = [work for work in before.works if work.known and work.known.reference_kg]
            part.lift = before.lift or (lifts[-1] if lifts else None)
            if part.lift is None and len(before.works) == 1:
                part.lift = before.works[0]  # `500 m row x 5; then 250 m x 4`
        if before is not None and plain and any(work.sets for work in clause.works):
            # Other sets right below are of the same kind of work.
            loaded = any(
                isinstance(work.load, plan.Percent)
                or (
                    work.known
                    and work.known.reference_kg
                    and work.sets
                    and work.sets[0] >= MANY_SETS
                )
                for work in clause.works
            )
            other = before.role == "finisher" or (
                before.role in LOOSE
                and (loaded or clause.facts.rest or repeats_a_way(clause.works))
            )
            part.role = "" if other else before.role
        loose = before is not None and plain and before.role in LOOSE and not clause.facts.form
        core = trains_the_trunk(clause.works)
        if before is not None and loose and clause.facts.rounds and not core:
            part.role = before.role  # `warm-up`, `run 2 laps`, then `5 rds: 2 pull-ups, …`
        if before is not None and self._heads_times(before, row):
            part.role, part.name = part.role or before.role, part.name or before.name
            self._unnote(self.parts.pop())
            before = None
        heads = before is not None and before.fresh and before.role in LIFTING
        if before is not None and heads and before.facts.slot and clause.marked("number"):
            part.role = part.role or before.role  # `Strength, 25 minutes`, then `1. squat 8x2`
            self._unnote(self.parts.pop())
            before = None
        named_only = before is not None and before.implied and before.fresh
        if before is not None and named_only and not before.facts.frames and not before.role:
            self.parts.pop()
        self.parts.append(part)
        return part


def _is_loaded(work: Work) -> bool:
    """Whether a work is a set of a lift with its load."""
    lift = work.known is not None and work.known.reference_kg is not None
    return lift and (work.load is not None or work.bare is not None)


def _raced(part: Part) -> str:
    """The form of rounds or a scheme with a cap, which are for time without a word of it."""
    return "for time" if part.facts.cap and (part.facts.rounds or part.facts.scheme) else ""


def _scores(body: Sequence[Token]) -> bool:
    return any(token.kind == "score" for token in body[:3])


def read(lines: Sequence[str], library: Library) -> Board:
    """The parts of a board."""
    marked = numbered(as_rows(without_bullets(rows(lines)), library))
    said = minutes_as_stations(starts(letters_of_parts(marked)))
    long = [one for one in said if len(one.typed) > PROSE_ROW]
    exact = any(is_heading(line.strip()) for line in lines)
    openings = [one for one in said if not exact and looks_like_opening(one, library)]
    places = clock_rows(said)
    said, times = without_times(without_last_place(said, places))
    said, windows = phases(said)
    form = Form(
        opening_rows=opening_rows(said) | set(times),
        day_slots=times,
        phases=windows,
        alone=len(said) == 1,
        hour_rows=hour_rows(said),
        clock_rows=set(places),
        timed_rows=timed_rows(said, library),
        last_place_s=max(places.values(), default=0),
        prose=len(long) * 2 >= len(said),
        by_then=sum(bool(_THEN.match(one.text)) and not one.gap for one in said if one.first) > 1,
        one_line=not any(one.gap for one in said[2:]) and len(openings) * 2 >= len(said) > 2,
    )
    shelf = in_its_unit(said, library)
    pieces = ExactPieces(lines, shelf, form)
    pieces.several = {row.number for row in said if not row.first}
    board = Board(pieces, shelf, form)
    for at, row in enumerate(said):
        board.take(row, said[at + 1] if at + 1 < len(said) else None)
    share_work(board.parts)
    board.parts = without_sums(in_rounds(board.parts))
    for part in board.parts:
        loads = part.loads or (board.loads if wants_loads(part) else {})
        give_loads(part, loads, shelf)
    return board
