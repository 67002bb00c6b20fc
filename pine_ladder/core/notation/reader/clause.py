"""A row as it was understood by itself, before it is known where it belongs."""

from __future__ import annotations

from dataclasses import dataclass, field

from pine_ladder.core.notation.reader.facts import Facts, Range
from pine_ladder.core.notation.reader.labels import Label
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Work


@dataclass
class Clause:
    """A row taken apart: its mark, its place in the hour, a role, facts, works and loose words."""

    row: Row
    label: Label | None
    body: list[Token]
    slot: Range = ()
    role: str = ""
    name: str = ""
    facts: Facts = field(default_factory=Facts)
    works: list[Work] = field(default_factory=list)
    loose: list[str] = field(default_factory=list)
    one_by_one: bool = False
    """It lists ways of one movement, one behind the other, with its rest between them."""
    load: Work | None = None
    """A load that a heading says for all lifts of its piece."""

    @property
    def typed(self) -> str:
        """The row as it was typed."""
        row = self.row
        return row.typed[row.at : row.at + len(row.text)].strip()

    @property
    def counted(self) -> list[Work]:
        """Its works that say how much."""
        return [
            work
            for work in self.works
            if work.amount is not None or work.sets or work.load is not None
        ]

    def marked(self, *kinds: str) -> bool:
        """Whether its mark is one of these kinds."""
        return self.label is not None and self.label.kind in kinds


@dataclass
class Form:
    """The form of a board: which marks begin parts, and how it is laid out."""

    opening_rows: set[int] = field(default_factory=set)
    """Lines that begin parts: marks with lines of their own under them."""
    levels: set[tuple[str, int]] = field(default_factory=set)
    """Marks that have begun parts: the kind of a label or a bullet, and its indentation."""
    hour_rows: set[int] = field(default_factory=set)
    """Lines that begin with minutes of the hour: `0-10`, `10-25`."""
    clock_rows: set[int] = field(default_factory=set)
    """Lines that begin with a place on the clock: `0:00-10:00`, `10:00-12:00`."""
    timed_rows: set[int] = field(default_factory=set)
    """Lines that begin with the minutes of a part each: `15' mobility`, `30' snatch technique`."""
    day_slots: dict[int, int] = field(default_factory=dict)
    """Lines that begin with a time of the day, with the minutes to the next one."""
    last_way: str = ""
    """The machine, or the run, of the last piece that has no other work."""
    engine: str = ""
    """The machine, or the run, that the board's title names: `Row intervals`, `Run club`."""
    after_then: set[int] = field(default_factory=set)
    """Lines below a `then` alone that stands under sets."""
    joined_rows: set[int] = field(default_factory=set)
    """Lines below the word `superset` alone: they go on with the piece above it."""
    phases: dict[int, int] = field(default_factory=dict)
    """Lines that are a phase of windows, `min 6-10`, with how many windows it has."""
    last_place_s: int = 0
    """The latest of those places, read as minutes and seconds."""
    prose: bool = False
    by_then: bool = False
    """Several lines begin with `then`: each says another part."""
    alone: bool = False
    """The board has one row."""
    one_line: bool = False
    """A part a line, without blank lines."""
