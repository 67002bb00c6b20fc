"""A whole board: plain lines become exact ones, each told with where it stands.

What reads as it is stays untouched; a plain line is read by what stands around it: a heading by
its lines, a station by those before it.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.plain.headings import (
    Said,
    default_role,
    exact_rest,
    heading_said,
    modifiers_said,
    role_said,
)
from pine_ladder.core.notation.plain.lines import Reader, Unit, Work
from pine_ladder.core.notation.plain.times import TIME, seconds
from pine_ladder.core.notation.words import HEADER_WORDS, ROLE_TITLES
from pine_ladder.core.plan import Role
from pine_ladder.core.units import clock_text

Exactly = Callable[[str], bool]
"""Whether a line reads as it stands."""


class Exact(NamedTuple):
    """A line of the board in exact notation, several where one line said them all.

    `said` is False where the line stands as it was typed.
    """

    number: int
    text: str
    said: bool


@dataclass
class _Item:
    """A line under a heading: `text` as typed, or the part of it that is work."""

    number: int
    text: str
    typed: bool = True
    work: Work | None = None
    stands: bool = False
    """It reads as it is, or is no work at all."""

    @property
    def is_work(self) -> bool:
        return bool(self.text) and not self.text.startswith(">") and not _BREAK.fullmatch(self.text)


@dataclass
class _Section:
    """A piece while it is read: its heading as typed or as said, and its lines."""

    number: int
    raw: str
    said: Said | None
    implied: bool = False
    items: list[_Item] = field(default_factory=list)
    tails: list[str] = field(default_factory=list)
    """What lines say of the whole piece: `rest 1 min`, `15 min cap`."""


_BREAK = re.compile(r"-{2,}")
_HEADER_LINE = re.compile(rf"(?:{'|'.join(HEADER_WORDS)})\s*:", re.IGNORECASE)
_TAIL = re.compile(
    r"[,;(]\s*((?:with\s+)?rest\b[^,]*|build(?:ing)?\b[^,]*|[\d:.]+\s*\w+ rest\b[^,]*)\)?$", re.I
)
_NO_TITLE = re.compile(r"\d|max\b|amrap\b|emom\b|for time\b|rounds?\b|sets?\b", re.IGNORECASE)
_SURE = re.compile(r":|\bmin|for time", re.IGNORECASE)
_WORD = re.compile(r"[a-z0-9]", re.IGNORECASE)
_LIFTS = (Role.STRENGTH, Role.POWER, Role.SKILL, Role.CORE)
_LOOSE = (Role.WARM_UP, Role.COOL_DOWN, Role.MOBILITY)
Opened = tuple[Said, list[str]]
"""A heading that a line says, and the lines of work it says with it."""
NOTHING = Said(None, None, "", (), None, ())


class _Board:
    def __init__(
        self, lines: Sequence[str], library: Library, unit: Unit, task: Exactly, head: Exactly
    ) -> None:
        self.lines, self.task_reads, self.heading_reads = lines, task, head
        self.reader = Reader(library, unit)
        self.before: list[Exact] = []
        self.sections: list[_Section] = []

    @property
    def here(self) -> _Section | None:
        return self.sections[-1] if self.sections else None

    def exact(self) -> list[Exact]:
        for number, raw in enumerate(self.lines, start=1):
            self._take(number, raw, raw.strip())
        out = list(self.before)
        for section in self.sections:
            out += self._section(section)
        return out

    def _take(self, number: int, raw: str, text: str) -> None:
        here = self.here
        if text.startswith("##"):
            said = None if self.heading_reads(text) else heading_said(text[2:].strip())
            self.sections.append(_Section(number, raw, said))
        elif here is None and (not text or text[0] in ">#" or _HEADER_LINE.match(text)):
            self.before.append(Exact(number, raw, False))
        elif here is not None and (not text or text[0] in ">#" or _BREAK.fullmatch(text)):
            here.items.append(_Item(number, raw if text else "", stands=True))
        elif here is not None and self.task_reads(text) and not _TAIL.search(text):
            here.items.append(_Item(number, raw, stands=True))
        elif self._begins(text, number) or self._opens(text, number):
            return
        elif here is None:
            self._before(number, raw, text)
        elif (modifiers := modifiers_said(text)) and not re.match("rest", text, re.I):
            here.tails += modifiers
        else:
            here.items.append(_Item(number, text))

    def _before(self, number: int, raw: str, text: str) -> None:
        """The first line of words is the title."""
        untitled = not any(line.text.strip() for line in self.before)
        if untitled and not _NO_TITLE.search(text) and self.reader.read(text) is None:
            self.before.append(Exact(number, "# " + text.strip('"“” '), True))
        else:
            self.before.append(Exact(number, raw, False))

    def _begins(self, text: str, number: int) -> bool:
        """Whether a line reads as a heading, and is one where it stands."""
        said, here = heading_said(text), self.here
        if said is None or (said.role is None and said.form in ("", "time")):
            return False
        fresh = here is not None and not any(item.is_work for item in here.items)
        if said.role is Role.REST and here is not None and not self._stands_apart(number):
            return False
        # A role alone, and its format on the next line.
        if here is not None and fresh and here.said and not here.said.form and said.role is None:
            here.said = said._replace(
                role=here.said.role,
                name=here.said.name,
                modifiers=(*here.said.modifiers, *said.modifiers),
            )
            return True
        self.sections.append(_Section(number, text, said))
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
        apart = here is None or (here.implied and not here.items[-1].text)
        opened = self._after_a_colon(text) or self._lift(text) or self._with_work(text)
        if opened is None and apart:
            opened = self._implied(text)
        if opened is None:
            return False
        said, works = opened
        section = _Section(number, "", said, implied=True)
        section.items += [_Item(number, work, typed=False) for work in works]
        self.sections.append(section)
        return True

    def _after_a_colon(self, text: str) -> Opened | None:
        """`21-15-9 for time: thrusters, pull-ups`."""
        head, colon, rest = text.partition(": ")
        said = heading_said(head) if colon else None
        if said is None or not said.form:
            return None
        works = [part.strip() for part in re.split(r"[,;]\s+|\s+\+\s+", rest) if part.strip()]
        return (said, works) if works and all(map(self.reader.read, works)) else None

    def _with_work(self, text: str) -> Opened | None:
        """`Cool-down 5:00 walk`, `Tabata squats`, `For time 50 burpees`: a heading and its work.

        A bare number between the two could be either's: `AMRAP 12 burpees` is left as it is.
        """
        words = text.split()
        for end in range(len(words) - 1, 0, -1):
            head, work = " ".join(words[:end]), " ".join(words[end:])
            said = heading_said(head)
            if said is None or not (said.form == "tabata" or (said.form and _SURE.search(head))):
                continue
            if said.form == "time" and said.role is None:
                continue
            read = self.reader.read(work)
            if read is not None and read.known and _WORD.match(work):
                return said, [work]
        return None

    def _lift(self, text: str) -> Opened | None:
        """`Strength: 5x5 back squat @ 75%, rest 2 min`."""
        role, rest = role_said(text)
        work, modifiers = self._without_tail(rest.strip(" :,-–"))
        read = self.reader.read(work) if role in _LIFTS and work else None
        if read is None or not read.known or not (read.sets or _scheme(read.text)):
            return None
        return NOTHING._replace(role=role, modifiers=modifiers), [work]

    def _implied(self, text: str) -> Opened | None:
        """Work that brings its own heading: `accumulate 5 min plank`, `5x5 deadlift 100 kg`."""
        hold = re.match(r"accumulate\s+(.+)", text, re.IGNORECASE)
        if hold and self.reader.read(hold[1]):
            return NOTHING._replace(form="accumulate"), [hold[1]]
        race = re.fullmatch(r"(.+?),?\s+for time", text, re.IGNORECASE)
        if race and self.reader.read(race[1]):
            return NOTHING._replace(form="for time"), [race[1]]
        return self._lift(f"Strength {text}")

    def _without_tail(self, text: str) -> tuple[str, tuple[str, ...]]:
        """A line without what it says of the whole piece, and that."""
        found = _TAIL.search(text)
        modifiers = modifiers_said(found[1]) if found else None
        return (text[: found.start()].strip(), modifiers) if found and modifiers else (text, ())

    def _section(self, section: _Section) -> list[Exact]:
        stations = self._read(section)
        self._share(section)
        body = [line for item in section.items for line in self._line(item, section, stations)]
        out = [self._heading(section, len(stations)), *body]
        copies = _copies(section.said)
        if copies > 1 and not any(_BREAK.fullmatch(item.text) for item in section.items):
            block = [one for one in body if one.text.strip()]
            last = block[-1].number if block else section.number
            again = [one._replace(number=last, said=True) for one in block]
            for _ in range(copies - 1):
                out += [Exact(last, "--", True), *again]
        return out

    def _read(self, section: _Section) -> set[int]:
        """Read the lines of a piece; the stations they name."""
        stations: set[int] = set()
        due = 1
        for item in section.items:
            if not item.is_work:
                continue
            if item.stands:
                found = re.match(r"(\d+)\)", item.text.strip())
                number = int(found[1]) if found else None
            else:
                text, modifiers = self._without_tail(item.text)
                item.work = self.reader.read(text, due)
                if item.work is not None:
                    section.tails += modifiers
                number = item.work.station if item.work else None
            if number:
                stations.add(number)
                due = number + 1
        return stations

    def _share(self, section: _Section) -> None:
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

    def _heading(self, section: _Section, stations: int) -> Exact:
        if section.said is None:
            return self._with_tails(Exact(section.number, section.raw, False), section)
        said = section.said
        works = [item.work.text if item.work else item.text for item in section.items]
        sets = [item.work.sets for item in section.items if item.work and item.work.sets]
        if not said.form and said.role in _LIFTS:
            sets += [count for count in map(_scheme, works) if count]
            if sets:
                said = said._replace(form="sets", numbers=(str(sets[0]),))
        times = [
            item.work.seconds if item.work else _seconds_of(item.text)
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

    def _with_tails(self, heading: Exact, section: _Section) -> Exact:
        given = heading.text.split(":", 1)[-1].lower()
        new = [one for one in dict.fromkeys(section.tails) if one.split()[0] not in given]
        if not new:
            return heading
        return Exact(heading.number, ", ".join([heading.text.strip(), *new]), True)

    def _line(self, item: _Item, section: _Section, stations: set[int]) -> list[Exact]:
        work = item.work
        if work is None:
            return [Exact(item.number, item.text, not item.typed)]
        if work.text == "rest" and not (stations or _turns(section)):
            if work.rest == "rest":
                return [Exact(item.number, item.text, False)]
            section.tails.append(work.rest)
            return []
        text = f"{work.place}: {work.text}" if work.place else work.text
        if stations and work.station:
            text = f"{work.station}) {text}"
        return [Exact(item.number, text, text != item.text.strip() or not item.typed)]


def _turns(section: _Section) -> bool:
    return section.said is not None and section.said.form == "intervals"


def _scheme(text: str) -> int | None:
    """How many numbers a line names, one a set: `5-5-3-3-1 back squat` asks for five."""
    found = re.match(r"\d+(?:-\d+){2,}(?=\s)", text.strip())
    return found[0].count("-") + 1 if found else None


def _seconds_of(text: str) -> int | None:
    """The length of a line that is timed; both sides of it where it has two."""
    found = re.match(rf"({TIME})(?=\s)", text.strip(), re.IGNORECASE)
    both = 2 if re.search(r"each side", text) else 1
    return both * seconds(found[1], "s") if found else None


def _copies(said: Said | None) -> int:
    """How often the one block is meant: `4 x AMRAP 3:00`."""
    if said is None or said.form not in ("amrap", "tabata"):
        return 1
    count = said.numbers[-1] if said.form == "tabata" or len(said.numbers) > 1 else ""
    return int(count or (said.rounds if said.form == "amrap" and said.rounds else None) or 1)


def exact_lines(
    lines: Sequence[str], library: Library, unit: Unit, task_reads: Exactly, heading_reads: Exactly
) -> list[Exact]:
    """The board's lines in exact notation, in order; what is not understood stands as it is."""
    return _Board(lines, library, unit, task_reads, heading_reads).exact()
