"""A whole board: plain lines become exact ones, each told with where it stands.

What reads as it is stays untouched; a plain line is read by what stands around it: a heading by
its lines, a station by those before it.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from operator import attrgetter

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.plain.headings import (
    continues,
    default_role,
    exact_rest,
    heading_said,
    modifiers_said,
    role_said,
    with_its_rounds,
)
from pine_ladder.core.notation.plain.lines import Reader
from pine_ladder.core.notation.plain.openings import (
    LIFTS,
    NOTHING,
    TAIL,
    Opened,
    Openings,
    scheme,
    without_tail,
)
from pine_ladder.core.notation.plain.sections import (
    BREAK,
    Item,
    Section,
    by_sets,
    copies,
    drop_numbering,
    is_race_above,
    is_rounds,
    lay_out_calories,
    lay_out_stations,
    seconds_of,
    take_aim,
    to_one_window,
    turns,
)
from pine_ladder.core.notation.plain.times import SPAN, seconds, span
from pine_ladder.core.notation.tokens import Exact
from pine_ladder.core.notation.words import HEADER_WORDS, ROLE_TITLES
from pine_ladder.core.plan import Role
from pine_ladder.core.units import clock_text

Exactly = Callable[[str], bool]
"""Whether a line reads as it stands."""


_HEADER_LINE = re.compile(rf"(?:{'|'.join(HEADER_WORDS)})\s*:", re.IGNORECASE)
_PART = re.compile(r"(?:part|section|block)\s+(?:[a-h]|\d)\s*[.:)]?|[a-h]\s*[.:)]", re.IGNORECASE)
_SET = re.compile(r"(\d{1,2})\s*(?:reps?\s*)?@\s*(?=\d)", re.IGNORECASE)
_SETS = re.compile(
    r"(\d{1,2}\s*[x×]\s*\d{1,3}|\d+(?:-\d+){2,})(?:\s*(?:reps?)?\s*(@.*))?", re.IGNORECASE
)
_ORDINAL = re.compile(r"(?:\d*1st|\d*2nd|\d*3rd|\d+th)\b", re.IGNORECASE)
_BETWEEN = re.compile(
    rf"rest\s*(?:for\s+|of\s+)?({SPAN})\s*(?:between|after)\s*(?:each\s*|the\s*)?"
    r"(?:exercises?|movements?|tabatas?|stations?)",
    re.IGNORECASE,
)
_RUNGS = re.compile(
    r"(?:ladder:?\s*)?(\d+)\s*[-,]\s*(\d+)(?:\s*[-,]\s*\d+)*\s*[-,]?\s*"
    r"(?:\.{2,}|…|etc\.?|and so on)(?:\s*reps?)?",
    re.IGNORECASE,
)
_LETTER = re.compile(r"(?:part\s+)?(?:[a-h]\d?\s*[.):]|[a-h]\d|\d\s*[.)])\s+(?=\S)", re.IGNORECASE)
_STARRED = re.compile(r"[*_]{1,2}([^*_\s][^*_]*[^*_\s])[*_]{1,2}")
"""A line set in stars, as in a message: `*rest 1 min*`."""
_NO_TITLE = re.compile(
    r"\d|max\b|amrap\b|emom\b|tabata\b|for time\b|rounds?\b|sets?\b", re.IGNORECASE
)
_LOOSE = (Role.WARM_UP, Role.COOL_DOWN, Role.MOBILITY)


class _Board:
    def __init__(
        self, lines: Sequence[str], library: Library, task: Exactly, head: Exactly
    ) -> None:
        self.lines, self.task_reads, self.heading_reads = lines, task, head
        self.reader = Reader(library)
        self.openings = Openings(self.reader)
        self.before: list[Exact] = []
        self.parted = False
        self.pending: list[Item] = []
        self.ahead: list[str] = []
        self.sections: list[Section] = []

    @property
    def here(self) -> Section | None:
        return self.sections[-1] if self.sections else None

    def exact(self) -> list[Exact]:
        for number, raw in enumerate(self.lines, start=1):
            sections = len(self.sections)
            self._take(number, raw, raw.strip())
            if len(self.sections) > sections:
                # What was said to come first, before the piece had a heading.
                self.sections[-1].items[:0] = self.pending
                self.sections[-1].tails += self.ahead
                self.pending, self.ahead = [], []
        out = [*self.before, *(Exact(item.number, item.text, False) for item in self.pending)]
        out.sort(key=attrgetter("number"))
        for section in self.sections:
            for one in by_sets(section, self.reader):
                out += self._section(one)
        return out

    def _take(self, number: int, raw: str, text: str) -> None:
        here = self.here
        if starred := _STARRED.fullmatch(text):
            text = starred[1]
        if _PART.fullmatch(text) and not self.task_reads(text):
            # `Part B`: another piece begins; which one, the next line says.
            self.parted = True
            self._keep(Exact(number, "", True))
            return
        if text.startswith("##"):
            said = (
                None if self.heading_reads(text) else heading_said(text[2:].strip(), titled=False)
            )
            self.sections.append(Section(number, raw, said))
        elif here is None and (not text or text[0] in ">#" or _HEADER_LINE.match(text)):
            self.before.append(Exact(number, raw, False))
        elif here is not None and (not text or text[0] in ">#" or BREAK.fullmatch(text)):
            here.items.append(Item(number, raw if text else "", stands=True))
        elif here is not None and self.task_reads(text) and not TAIL.search(text):
            here.items.append(Item(number, raw, stands=True))
        elif (
            self._lettered(text, number) or self._begins(text, number) or self._opens(text, number)
        ):
            return
        elif here is None:
            self._before(number, raw, text)
        elif (modifiers := modifiers_said(text)) and not re.match("rest", text, re.I):
            here.tails += modifiers
        elif self._of_the_piece(here, number, text):
            return
        else:
            here.items.append(Item(number, text))

    def _lettered(self, text: str, number: int) -> bool:
        """`B) 3 RFT: 10 burpees, 5 pull-ups`: another piece, where it says one."""
        lead = _LETTER.match(text)
        if lead is None:
            return False
        said = heading_said(text[lead.end() :])
        numbered = text[0].isdigit()
        if numbered and (said is None or said.form in ("", "time") or said.role is Role.REST):
            return False
        parted, self.parted = self.parted, True
        sections, rest = len(self.sections), text[lead.end() :]
        if self._begins(rest, number) or self._opens(rest, number):
            mark = text[: lead.end()].strip(" .):").upper()[-2:]
            self._with_its_letter(mark, new=len(self.sections) > sections)
            return True
        self.parted = parted
        return False

    def _with_its_letter(self, mark: str, new: bool) -> None:
        """`A1)` and `A2)` are done in turns: one piece of both."""
        one = self.sections[-1]
        one.letter = mark
        before = self.sections[-2] if new and len(self.sections) > 1 else None
        twins = before is not None and mark[1:] > "1" and before.letter[:1] == mark[:1]
        if before is not None and twins and one.implied and before.said == one.said:
            before.items += one.items
            before.letter = mark
            self.sections.pop()

    def _keep(self, line: Exact) -> None:
        """A line that is no work, where it stands."""
        if self.here is None:
            self.before.append(line)
        else:
            self.here.items.append(Item(line.number, "", typed=False, stands=True))

    def _before(self, number: int, raw: str, text: str) -> None:
        """The first line of words is the title; a buy-in waits for its heading."""
        first = self.reader.read(text)
        modifiers = modifiers_said(text)
        if modifiers and re.search(r"\d", text):
            self.ahead += modifiers
            return
        if first is not None and first.place == "buy-in":
            self.pending.append(Item(number, text, typed=False))
            return
        untitled = not any(line.text.strip() for line in self.before)
        if untitled and not _NO_TITLE.search(text) and (first is None or self._alone(number)):
            self.before.append(Exact(number, "# " + text.strip('"“” '), True))
        else:
            self.before.append(Exact(number, raw, False))

    def _alone(self, number: int) -> bool:
        """Whether a piece begins right below: `Rowing`, and then `4 x 4 min row, 2 min easy`."""
        below = self.lines[number].strip() if number < len(self.lines) else ""
        return bool(below) and (
            self._is_heading(number) or self.openings.read(below, True) is not None
        )

    def _of_the_piece(self, here: Section, number: int, text: str) -> bool:
        """What a line says of all the lines of its piece, in ways of its format's own."""
        form = here.said.form if here.said else ""
        between = _BETWEEN.fullmatch(text)
        then = re.match(r"(?:then|followed by|and then)[\s:,]+(?=\d)", text, re.IGNORECASE)
        if then and here.said and form in ("", "sets") and here.said.role in (*LIFTS, None):
            rest = text[then.end() :]
            read = self.reader.read(without_tail(rest)[0])
            opened = self.openings.read(f"Strength: {rest}", False)
            if opened and read is not None and read.sets:
                self._open(number, opened)
                return True
        if form == "tabata" and between:
            here.tails.append(f"rest {span(between[1], 's')}")
            here.apart = True
            return True
        rungs = _RUNGS.fullmatch(text)
        if form == "amrap" and rungs:
            first, second = int(rungs[1]), int(rungs[2])
            if second > first:
                here.tails.append(f"+{second - first} reps each round")
                here.first = f"{first} "
                return True
        return False

    def _begins(self, text: str, number: int) -> bool:
        """Whether a line reads as a heading, and is one where it stands."""
        said, here = heading_said(text), self.here
        if here is not None and (_ORDINAL.match(text) or (here.lift and _SETS.fullmatch(text))):
            return False  # `3rd: 12 sit-ups` is a station, `3-3-3` the sets of a lift.
        if said is None or (said.role is None and said.form in ("", "time")):
            return False
        if said.role is None and here is not None and modifiers_said(text):
            return False  # What a line says of the piece it stands in: a cap, `for quality`.
        fresh = here is not None and not any(item.is_work for item in here.items)
        below = self.lines[number].strip() if number < len(self.lines) else ""
        if here is not None and not fresh and here.implied and is_race_above(said, below):
            here.said = said
            return True
        if said.role is Role.REST and here is not None and not self._stands_apart(number):
            return False
        if here is not None and fresh and here.said and continues(here.said, said):
            here.said = with_its_rounds(here.said, said)
            return True
        # A role alone, and its format on the next line.
        if here is not None and fresh and here.said and not here.said.form and said.role is None:
            here.said = said._replace(
                role=here.said.role,
                name=here.said.name,
                modifiers=(*here.said.modifiers, *said.modifiers),
            )
            return True
        self.parted = False
        self.sections.append(Section(number, text, said))
        return True

    def _stands_apart(self, number: int) -> bool:
        """Whether a line has nothing of a piece right before and right after it."""
        around = (number - 2, number)
        return not any(
            0 <= at < len(self.lines) and self.lines[at].strip() and not self._is_heading(at)
            for at in around
        )

    def _is_heading(self, at: int) -> bool:
        text = self.lines[at].strip()
        return text.startswith("##") or heading_said(text) is not None

    def _opens(self, text: str, number: int) -> bool:
        """Whether a line says a heading and its work at once."""
        here = self.here
        if here is not None and _ORDINAL.match(text):
            return False
        apart = here is None or self.parted or (here.implied and not here.items[-1].text)
        if self._listed(number, text, apart):
            return True
        opened = self.openings.read(text, apart)
        if opened is None:
            return False
        self._open(number, opened)
        return True

    def _listed(self, number: int, text: str, apart: bool) -> bool:
        """A lift, and below it the sets with their loads: `Bench press`, `5 @ 60`, `3 @ 80`."""
        below = self.lines[number].strip() if number < len(self.lines) else ""
        role, rest = role_said(text)
        text = rest.strip(" :-–") if role is Role.STRENGTH else text.rstrip(" :")
        by_sets = _SETS.fullmatch(below)
        if not apart or re.match(r"\d", text) or not (_SET.match(below) or by_sets):
            return False
        lift = self.reader.read(f"1 {text}")
        if lift is None or not lift.known:
            return False
        said = NOTHING._replace(role=Role.STRENGTH)
        if not by_sets:
            said = said._replace(form="rounds", numbers=("1",))
        section = Section(number, "", said, implied=True, lift=text)
        section.items.append(Item(number, "", typed=False, stands=True))
        self.sections.append(section)
        return True

    def _open(self, number: int, opened: Opened) -> None:
        said, works = opened
        self.parted = False
        here = self.here
        loose = here is not None and here.said is not None and here.said.role in _LOOSE
        if loose and said.role is None and self.lines[number - 2].strip():
            # A list of its own within the warm-up is warm-up still.
            assert here is not None
            assert here.said is not None
            said = said._replace(role=here.said.role)
        if here and here.said and not here.said.form and not any(one.is_work for one in here.items):
            # The heading above it has said what the piece is for.
            self.sections.pop()
            said = said._replace(role=here.said.role, name=said.name or here.said.name)
            number = here.number
        section = Section(number, "", said, implied=True)
        section.items += [Item(number, work, typed=False) for work in works]
        self.sections.append(section)

    def _section(self, section: Section) -> list[Exact]:
        drop_numbering(section)
        take_aim(section)
        lay_out_calories(section)
        lay_out_stations(section)
        to_one_window(section)
        stations = self._read(section)
        self._share(section)
        body: list[Exact] = []
        for item in section.items:
            lines = self._line(item, section, stations)
            if section.apart and item.is_work and lines and any(one.text for one in body):
                body.append(Exact(item.number, "--", True))
            body += lines
        out = [self._heading(section, len(stations)), *body]
        times = copies(section.said)
        if times > 1 and not any(BREAK.fullmatch(item.text) for item in section.items):
            block = [one for one in body if one.text.strip()]
            last = block[-1].number if block else section.number
            again = [one._replace(number=last, said=True) for one in block]
            for _ in range(times - 1):
                out += [Exact(last, "--", True), *again]
        return out

    def _read(self, section: Section) -> set[int]:
        """Read the lines of a piece; the stations they name."""
        stations: set[int] = set()
        due = 1
        section.sets = self._sets_of(section)
        for item in section.items:
            if not item.is_work:
                continue
            if section.first and not re.match(r"\d|max\b|rest\b", item.text.strip()):
                item.stands = False
            if item.stands:
                found = re.match(r"(\d+)\)", item.text.strip())
                number = int(found[1]) if found else None
            else:
                text, modifiers = without_tail(item.text)
                if section.lift and (one := _SET.match(text)):
                    text = f"{one[1]} {section.lift} @ {text[one.end() :].strip()}"
                elif section.lift and (one := _SETS.fullmatch(text)):
                    text = f"{one[1]} {section.lift} {one[2] or ''}".strip()
                if section.first and not re.match(r"\d|max\b", text):
                    text = section.first + text
                item.work = self.reader.read(text, due)
                if item.work is not None:
                    section.tails += modifiers
                if item.work is not None and item.work.sets not in (None, section.sets):
                    # So many sets that the piece has not: said as it was typed, not left out.
                    item.work = None
                if item.work is not None and item.work.counts:
                    section.tails.append(f"score {item.work.counts}")
                if item.work is not None and item.work.most and is_rounds(section):
                    section.tails.append("score total reps")
                number = item.work.station if item.work else None
            if number:
                stations.add(number)
                due = number + 1
        return stations

    def _sets_of(self, section: Section) -> int | None:
        """The sets (or rounds) that a piece asks for; None while its lines have not said them."""
        said = section.said
        if said is None:
            found = re.search(r":\s*(\d{1,4}) (?:sets?|rounds?)\b", section.raw)
            return int(found[1]) if found else None
        if said.form in ("sets", "rounds", "rounds for time"):
            return int(said.numbers[0].split("-")[0])
        if said.form or said.role not in LIFTS:
            return None
        for item in section.items:
            text = without_tail(item.text)[0]
            if section.lift:
                text = re.sub(r"^(\d+\s*[x×]\s*\d+)", rf"\1 {section.lift}", text)
            read = self.reader.read(text) if item.is_work and not item.stands else None
            if read is not None and read.sets:
                return read.sets
        return None

    def _share(self, section: Section) -> None:
        """Lines without an amount share the length of a warm-up equally."""
        said = section.said
        works = [item for item in section.items if item.is_work]
        if said is None or said.form != "time" or said.role not in _LOOSE or not works:
            return
        bare = [item for item in works if item.work and not re.match(r"\d|max", item.work.text)]
        each = seconds(said.numbers[0].split("-")[0]) / len(works)
        if len(bare) == len(works) and each == int(each):
            for item in bare:
                assert item.work is not None
                text = f"{clock_text(int(each))} {item.work.text}"
                item.work = item.work._replace(text=text, seconds=int(each))

    def _heading(self, section: Section, stations: int) -> Exact:
        if section.said is None:
            return self._with_tails(Exact(section.number, section.raw, False), section)
        said = section.said
        works = [item.work.text if item.work else item.text for item in section.items]
        sets = [item.work.sets for item in section.items if item.work and item.work.sets]
        if not said.form and said.role in LIFTS:
            sets += [count for count in map(scheme, works) if count]
            if sets:
                said = said._replace(form="sets", numbers=(str(sets[0]),))
        times = [
            item.work.seconds if item.work else seconds_of(item.text)
            for item in section.items
            if item.is_work
        ]
        total = sum(t for t in times if t) if times and all(times) else None
        rest = exact_rest(said, stations, total)
        title = ROLE_TITLES[default_role(said)]
        if rest is None and section.raw.strip().startswith("##"):
            return Exact(section.number, section.raw, False)
        if rest is None:
            # The piece begins here all the same; that its format is open is said at its heading.
            return Exact(section.number, f"## {title}:", False)
        name = f' "{said.name}"' if said.name else ""
        exact = Exact(section.number, f"## {title}{name}: {rest}", True)
        if section.raw.strip().startswith("##") and not self.heading_reads(exact.text):
            # What is wrong with it is told of the heading as it was typed.
            return Exact(section.number, section.raw, False)
        return self._with_tails(exact, section)

    def _with_tails(self, heading: Exact, section: Section) -> Exact:
        given = heading.text.split(":", 1)[-1].lower()
        new = [one for one in dict.fromkeys(section.tails) if one.split()[0] not in given]
        if not new:
            return heading
        return Exact(heading.number, ", ".join([heading.text.strip(), *new]), True)

    def _line(self, item: Item, section: Section, stations: set[int]) -> list[Exact]:
        work = item.work
        if work is None:
            return [Exact(item.number, item.text, not item.typed)]
        if work.text == "rest" and not (stations or turns(section)):
            if work.rest == "rest":
                return [Exact(item.number, item.text, False)]
            section.tails.append(work.rest)
            return []
        text = f"{work.place}: {work.text}" if work.place else work.text
        if stations and work.station:
            text = f"{work.station}) {text}"
        return [Exact(item.number, text, text != item.text.strip() or not item.typed)]


def exact_lines(
    lines: Sequence[str], library: Library, task_reads: Exactly, heading_reads: Exactly
) -> list[Exact]:
    """The board's lines in exact notation, in order; what is not understood stands as it is."""
    return _Board(lines, library, task_reads, heading_reads).exact()
