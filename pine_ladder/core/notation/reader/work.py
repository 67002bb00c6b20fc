"""One line's work as it is read: amount, movement, details and load, before it is a plan record."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise
from typing import Literal, NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Movement, Pattern

BOX_IN = 36
"""A bare number up to this beside a box is inches, above it centimetres."""


class Bare(NamedTuple):
    """A load that is settled late, of so many implements: one without a unit, or one by tier."""

    values: tuple[float, ...]
    of: int = 1
    unit: Literal["", "kg", "lb", "in", "cm"] = ""


@dataclass
class Work:
    """One line's work before it is a plan record; `notes` is all of it that is only told."""

    row: int
    start: int
    name: str = ""
    known: Movement | None = None
    amount: plan.Amount | None = None
    sets: tuple[int, ...] = ()
    side: plan.Side | None = None
    one_arm: bool = False
    unbroken: bool = False
    tempo: str | None = None
    pause_s: float | None = None
    load: plan.Load | None = None
    notes: list[str] = field(default_factory=list)
    instead: list[Work] = field(default_factory=list)
    tiers: dict[int, Work] = field(default_factory=dict)
    parts: list[Work] = field(default_factory=list)
    plus: list[Work] = field(default_factory=list)
    rest_s: int | None = None
    joined: bool = False
    """Said in one breath with the work before it, with a plus."""
    station: int | None = None
    place: str = ""
    styles: list[str] = field(default_factory=list)
    """Ways to do a movement that it does not name."""
    compound: bool = False
    """Named by two of the library's movements in one breath."""
    said: str = ""
    """Its movement as it was written."""
    like: str = ""
    """Its movement's common name, where the library has none and it keeps the coach's words."""
    then: bool = False
    """It comes after what stands before it: `then a minute of couch stretch`."""
    inches: tuple[float, ...] = ()
    """Its amount as a height, where it was taken for seconds for want of a movement."""
    implement: str = ""
    """The implement, where it is said apart from the movement."""
    feet: float = 0
    """Its amount in feet, where it was taken for minutes for want of a movement."""
    block: int = 0
    """The block of its piece it stands in, from 0."""
    most: bool = False
    """As much as can be done in its time: `max burpees in 3 min`."""
    measured: str = ""
    """The unit its maximum is counted in, where that was said: calories, distance."""
    left_time: bool = False
    """It fills the time that is left of its window."""
    times: bool = False
    """Its amount was said as `x 3`: a number of times, where another amount is known."""
    percents: tuple[float, ...] = ()
    """A load for each set: `@ 70/75/80%`."""
    aim: plan.Aim | None = None
    count: int = 1
    """Implements that were said before their weight: `2 DB`, 20 kg."""
    unitless: bool = False
    """Its load was written without a unit."""
    bare: Bare | None = None
    """A load without a unit, told by what it is for once the movement is known."""

    @property
    def named(self) -> bool:
        """Whether it says what is done."""
        return bool(self.name or self.parts)

    def exercise(self) -> plan.Exercise:
        """It as a plan record."""
        note = "; ".join(dict.fromkeys(note for note in self.notes if note)) or None
        return plan.Exercise(
            amount=self.amount,
            movement=self.name,
            parts=tuple(part.exercise() for part in self.parts),
            side=self.side,
            one_arm=self.one_arm,
            unbroken=self.unbroken,
            tempo=self.tempo,
            pause_s=self.pause_s,
            rest_s=self.rest_s,
            aim=self.aim,
            load=self.load,
            note=clean_note(note),
            instead=tuple(one.exercise() for one in self.instead),
        )


def clean_note(note: str | None) -> str | None:
    """A note without what the notation takes for a mark of its own."""
    if note is None:
        return None
    text = re.sub(r"\s+", " ", note).strip(" ,;.-–—:•")
    text = re.sub(r"\s*\|\s*|\s\+\s|\]|\[|>|—", " ", text).strip()
    return text or None


@dataclass
class Scope:
    """Context of a clause: the library, its row's text, and whether a piece is open."""

    library: Library
    row: int
    text: str
    typed: str
    at: int
    open: bool = True
    first: int = 0
    """Column at which the clause begins."""
    listed: bool = False
    """The row is one of a list: what stands first in it may be a name."""
    builds: bool = False
    """The clause says that a lift is built up to."""
    framed: bool = False
    """The clause says how often its work is done: in windows, or in sets of so many reps."""
    talk: bool = False
    """The row has words of talk."""
    loose: bool = False
    """The piece is a warm-up, mobility or a cool-down: what is done needs no amount."""
    names: bool = False
    """The piece gives the amounts: words alone may name a movement."""
    counted: int = 0
    """Works of the piece so far, where each says how much: what says nothing of it is talk."""

    def said(self, start: int, end: int) -> str:
        """The words as typed, whole where a number was read in words: `nine` of `nine and nine`."""
        start, end = self.at + start, self.at + end
        worded = self.typed[end - 1 : end].isalpha() and self.text[end - self.at - 1].isdigit()
        while worded and self.typed[end : end + 1].isalpha():
            end += 1
        return self.typed[start:end]


def own_words(said: str) -> str:
    """A movement in the coach's own words, without marks."""
    return re.sub(r"\s+", " ", re.sub(r"[^\w\s'()/-]", " ", said)).strip()


_MACHINES = ("row", "bike", "ski machine", "run", "walk", "swim", "machine")
EASY_WAYS = ("easy run", "easy row", "easy bike")
MANY_SETS, FEW_REPS = 3, 8
"""Sets from which on, and reps up to which, `squat` alone is the one with a bar: `squat 5x5`."""
BARE_WAY_M = 100
"""A bare number from this on of what is measured in metres is metres: `500 row`."""


def set_by_set(work: Work) -> list[Work]:
    """A work whose sets have loads of their own, as a work for each of them; others as they are."""
    if (loads := _load_a_step(work)) is not None:
        return loads
    if not work.percents:
        return [work]
    reps: list[plan.Amount | None] = [work.amount] * len(work.percents)
    if isinstance(work.amount, plan.Scheme):
        reps = [plan.Reps(low=value) for value in work.amount.values]
    if len(reps) != len(work.percents):
        work.notes.append("/".join(f"{percent:g}" for percent in work.percents) + " %")
        return [work]
    return [
        replace(work, amount=amount, load=plan.Percent(low=percent), sets=(), percents=())
        for amount, percent in zip(reps, work.percents, strict=True)
    ]


FEWEST_LOADS, HEAVIEST_REPS = 3, 6
"""Loads from which on they may be those of the sets, and reps of a set up to which they are."""


def _rises(loads: Sequence[float], sets: Sequence[int]) -> bool:
    """Whether loads go up from set to set; those of tiers are told from the heaviest on."""
    each = len(loads) == (sets[0] if sets else 0) >= FEWEST_LOADS
    return each and list(loads) == sorted(set(loads))


def _load_a_step(work: Work) -> list[Work] | None:
    """`5-5-5 @ 70/75/80` as three sets, each with its load; None where loads are no set's own."""
    amount, bare = work.amount, work.bare
    if isinstance(amount, plan.Reps) and bare is not None and _rises(bare.values, work.sets):
        return [
            replace(work, bare=Bare((load,), bare.of), sets=()) for load in bare.values
        ]  # `bench 3x5 65/75/85`
    if not isinstance(amount, plan.Scheme) or bare is None or amount.unit != "reps":
        return None
    loads = bare.values
    rises = all(load < two for load, two in pairwise(loads))
    alike = len(loads) == len(amount.values) >= FEWEST_LOADS
    if not alike or not rises or max(amount.values) > HEAVIEST_REPS:
        return None
    return [
        replace(work, amount=plan.Reps(low=step), bare=Bare((load,), bare.of))
        for step, load in zip(amount.values, loads, strict=True)
    ]


def on_foot(known: Movement) -> bool:
    """Whether its feet are more likely a way than its minutes: a sled, a carry, a crawl."""
    return known.measure == "distance" and known.name not in _MACHINES and not known.easy


_REP_MAX = re.compile(r"\d\s*rm\b", re.IGNORECASE)


def settle(work: Work, library: Library) -> None:
    """Tell what was left open by what is done: metres, a weighted movement, a bare load."""
    for one in (*work.instead, *work.tiers.values(), *work.parts):
        settle(one, library)
    known = work.known
    if work.said.lower().startswith("lap") and isinstance(work.amount, plan.Reps):
        work.notes.append(f"{work.amount.low} {work.said}")
        work.amount = None
    far = known is not None and (known.measure == "distance" or known.name in (*EASY_WAYS, "walk"))
    if far and isinstance(work.amount, plan.Reps) and work.amount.low >= BARE_WAY_M:
        work.amount = plan.Distance(metres=(float(work.amount.low),))
    engine = known is not None and Pattern.ENGINE in known.patterns
    engine = engine or isinstance(work.amount, plan.Calories)
    if work.side is plan.Side.EACH and engine:
        # `20 cal row each`, `1 min bike each`: each of the partners, not of two sides.
        work.side = None
        work.notes.append("each")
    weighted = library.find(f"weighted {work.name}")
    if weighted is not None and isinstance(work.load, plan.Weight):
        work.name, work.known = weighted.name, weighted
    few = isinstance(work.amount, plan.Reps) and work.amount.low <= FEW_REPS
    barbell = bool(work.sets) and work.sets[0] >= MANY_SETS and few
    barbell = barbell and re.fullmatch(r"squats?", work.said.strip().lower()) is not None
    effort = isinstance(work.load, plan.Percent | plan.Effort)
    effort = effort or any(_REP_MAX.search(note) for note in work.notes)
    if work.name == "air squat" and (effort or barbell):
        work.name, work.known = "back squat", library.find("back squat")
    counted = isinstance(work.amount, plan.Reps | plan.Scheme) and (work.sets or work.load)
    if work.name == "row" and counted:
        work.name, work.known = "bent-over row", library.find("bent-over row")  # `3x10 rows`
    if work.bare is not None:
        _settle_load(work, work.bare, library)


BOXES = {12.0, 16.0, 18.0, 20.0, 24.0, 30.0, 36.0, 40.0, 45.0, 50.0, 60.0, 70.0, 75.0, 76.0}
"""Heights of boxes in inches and centimetres, to tell them from the weights of dumbbells."""


def _settle_load(work: Work, bare: Bare, library: Library) -> None:
    values, count, mark = bare
    work.bare, work.unitless, known = None, not mark, work.known
    distance = known is not None and known.measure == "distance" and not mark
    if distance and min(values) >= BARE_WAY_M:
        work.amount = work.amount or plan.Distance(metres=tuple(values[:2]))  # `500/450 row`
        return
    if distance and work.amount is None:
        work.amount = plan.Calories(calories=tuple(int(value) for value in values[:2]))
        return
    box = known is not None and ("box" in known.kit or "box" in known.name)
    doubled = count > 1 and known is not None and known.reference_kg is not None
    loaded = known is not None and {"dumbbell", "kettlebell", "barbell"} & set(known.kit)
    high = box and not doubled and (not loaded or set(values) <= BOXES) and not mark
    length = mark if mark in ("in", "cm") else "in" if max(values) <= BOX_IN else "cm"
    weight = mark if mark in ("kg", "lb") else library.unit

    def load_of(some: tuple[float, ...]) -> plan.Load:
        if high or mark in ("in", "cm"):
            return plan.Height(values=some, unit=length)
        return plan.Weight(values=some, unit=weight, count=count)

    if len(values) == 2:
        work.load = load_of(values)
        return
    # Three loads and more are the tiers', from the hardest on.
    for tier, value in enumerate(values[1:], start=1):
        other = replace(work, tiers={}, instead=[], notes=[], load=load_of((value,)))
        work.tiers.setdefault(tier, other)
    work.load = load_of(values[:1])
