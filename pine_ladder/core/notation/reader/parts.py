"""A part of a board while its rows are read: what was said of it, its works, its notes."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation.reader.facts import Facts, Range
from pine_ladder.core.notation.reader.work import Work

_SOFT = re.compile(
    r"stretch|pose|legs? up|lie |lying on|breath|foam|fold\b|puppy|on your back", re.IGNORECASE
)


@dataclass
class Part:
    """A piece under way."""

    number: int
    label: str = ""
    role: str = ""
    name: str = ""
    facts: Facts = field(default_factory=Facts)
    works: list[Work] = field(default_factory=list)
    idle_s: Range = ()
    """The time its heading says, which is its length where no work stands in it."""
    rests: list[tuple[int, Range]] = field(default_factory=list)
    """Rests said in rows of their own, each with how many works stand before it."""
    notes: list[tuple[int, str]] = field(default_factory=list)
    loads: dict[int, Work] = field(default_factory=dict)
    """Loads that were said once for all its lifts, by tier from 0."""
    sections: dict[int, list[Work]] = field(default_factory=dict)
    tier: int = 0
    stations: bool = False
    implied: bool = False
    lift: Work | None = None
    closed: bool = False
    """Its rounds were said below its work."""
    rest_only: bool = False
    exactly: dict[int, list[str]] | None = None
    """For a piece in exact notation: its lines that were not, with what each says in it."""
    block: int = 0
    """The block that its rows are in, from 0."""
    within: bool = False
    """It begins within a line that says something of the part before it too."""
    around: int = 0
    """Rounds that were told above its own heading, of it and of the pieces that follow it."""
    alone: bool = False
    """It is the only part of its board."""
    rounds_indent: int | None = None
    """The indentation of a row that told rounds below work that is done once."""
    inner: list[tuple[int, int, int]] = field(default_factory=list)
    """Rounds inside each round: how many, of the works from a place on to another (0: the rest)."""
    within_rounds: bool = False
    """Its last work stood deeper than that row."""
    listed: bool = False
    """Its rounds were told with all their work in one row."""
    closing: bool = False
    """Its next works are done once, behind its rounds."""
    target: tuple[int, ...] = ()
    """Seconds the coach aims at, from and to."""
    typed: str = ""
    sentence: str = ""
    """The sentence of that line that begins it, where the line says more."""
    indent: int = 0
    percents: tuple[float, ...] = ()
    """The percents of the first of its sets, while more of them are given row by row."""
    works_indent: int = 0
    """The indentation of the first row of work below its heading."""
    works_bullet: bool = False
    """That row has a bullet, and its heading has none."""

    @property
    def opening(self) -> str:
        """The words that begin it."""
        return self.sentence or self.typed

    @property
    def fresh(self) -> bool:
        """Whether it has no work yet."""
        return not self.works and not self.sections


def all_counted(works: Sequence[Work]) -> bool:
    """Whether there are works, each with how much: words alone below them name no other."""
    return bool(works) and all(work.amount is not None or work.parts for work in works)


def is_soft(work: Work) -> bool:
    """Whether a work is done to cool down or to stretch."""
    if work.known is not None:
        return Pattern.MOBILITY in work.known.patterns
    return bool(_SOFT.search(work.name))


def merge_facts(into: Facts, more: Facts) -> None:
    """Add what is said of a piece and was not said before."""
    for name, value in vars(more).items():
        if name in ("used", "place", "places", "slot", "loaded", "rests"):
            continue
        if name == "fields":
            into.fields = {**value, **into.fields}
        elif value and not getattr(into, name):
            setattr(into, name, value)


def complete(lift: Work, more: Work) -> None:
    """Add to a work what a row of its own says of it."""
    for name in ("load", "tempo", "side", "amount"):
        if getattr(lift, name) is None and getattr(more, name) is not None:
            setattr(lift, name, getattr(more, name))
    lift.notes += more.notes


def score_named(text: str, form: str = "") -> str:
    """The kind of score a row names, as the notation's word; empty where it names none.

    Of several kinds it is the one that pieces of the form are scored by: of `load + time` the time
    of a piece for time. Calories beside reps are counted with them.
    """
    low = text.lower()
    if re.match(r"[\s:=-]*(?:none|no\b|not\b)", low):
        return "none"
    if re.search(r"\b(?:every|each|all)\b.*\b(?:rounds?|rds?|intervals?|sets?)\b", low):
        return ""  # Each of them is written down: what the format is scored by says it.
    usual = {"for time": "time", "amrap": "rounds"}.get(form)
    several = re.search(r"\+|\band\b|&|,", low)
    if several and usual and re.search(rf"\b{usual}\b", low):
        return usual
    if re.search(r"\breps?\b", low) and re.search(r"\bcal", low):
        return "total reps"
    for pattern, kind in (
        (r"lowest|slowest|worst|least", "lowest interval"),
        (r"\b(?:rounds?|rds?|rnds?)\b", "rounds"),
        (r"\bcal(?:orie)?s?\b", "calories"),
        (r"\b(?:met(?:re|er)s|distance|m)\b", "distance"),
        (r"\b(?:heaviest|load|weight|kgs?|lbs?|top set)\b", "load"),
        (r"\btime\b", "time"),
        (r"\b(?:total|reps?|sum)\b", "total reps"),
    ):
        if re.search(pattern, low):
            return kind
    return ""
