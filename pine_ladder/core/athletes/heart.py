"""Heart rate: a bound for an athlete, and the range that an easy or a hard part asks for.

It tells whether easy is easy and says nothing of anybody's health.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import clock_text

Effort = Literal["easy", "hard"]
Where = Literal["below", "in", "above"]

TANAKA_AT_BIRTH, TANAKA_A_YEAR = 208.0, 0.7
"""Highest heart rate by age: 208 − 0.7 × years (Tanaka, Monahan & Seals, J Am Coll Cardiol 37
(2001) 153); single people lie ten beats either side of it."""
OF_HIGHEST: dict[Effort, tuple[float, float]] = {"easy": (0.57, 0.76), "hard": (0.77, 0.95)}
"""Shares of the highest heart rate: light to moderate, and vigorous (Garber et al., Med Sci Sports
Exerc 43 (2011) 1334, table of intensities; from memory)."""
OF_RESERVE: dict[Effort, tuple[float, float]] = {"easy": (0.30, 0.59), "hard": (0.60, 0.89)}
"""The same as shares of the reserve between resting and highest (the same table; the reserve is
Karvonen, Kentala & Mustala's, Ann Med Exp Biol Fenn 35 (1957) 307)."""
SLOWEST, FASTEST = 25, 240
"""Beats a minute that are taken for a heart's and not for a slip of the pen."""

Beats = int


class Highest(Frozen):
    """Somebody's highest heart rate in beats a minute, and whether it was measured."""

    bpm: Beats
    measured: bool


class Target(Frozen):
    """The range in beats a minute that a part asks for, in words with where it comes from."""

    effort: Effort
    low: Beats
    high: Beats
    words: str


class Heart(Frozen):
    """What is known of a heart: the highest and the resting rate where they were measured."""

    highest: Beats | None = Field(default=None, ge=100, le=FASTEST)
    resting: Beats | None = Field(default=None, ge=SLOWEST, le=120)


def highest(heart: Heart, age: int | None) -> Highest | None:
    """The highest heart rate, measured or by age; None where neither is known.

    >>> highest(Heart(), 40)
    Highest(bpm=180, measured=False)
    """
    if heart.highest is not None:
        return Highest(bpm=heart.highest, measured=True)
    if age is None:
        return None
    return Highest(bpm=round(TANAKA_AT_BIRTH - TANAKA_A_YEAR * age), measured=False)


def target(effort: Effort, heart: Heart, age: int | None) -> Target | None:
    """The range of an effort: by the reserve where resting is known, else by the highest."""
    top = highest(heart, age)
    if top is None:
        return None
    if heart.resting is not None and heart.resting < top.bpm:
        shares, rest = OF_RESERVE[effort], heart.resting
    else:
        shares, rest = OF_HIGHEST[effort], 0
    low, high = (round(rest + share * (top.bpm - rest)) for share in shares)
    source = "measured" if top.measured else "by age, yours may lie ten either side"
    talk = "you can talk in sentences" if effort == "easy" else "you can say a few words"
    words = f"{effort}: about {low}–{high} beats a minute ({source}); {talk}"
    return Target(effort=effort, low=low, high=high, words=words)


def effort_of(piece: plan.Piece, library: Library) -> Effort | None:
    """What a piece asks for: its own word, else easy engines and hard conditioning."""
    if piece.pace is not None:
        return "easy" if piece.pace == "steady" else "hard"
    movements = [
        movement
        for line in piece.lines
        for task in line.tasks
        for part in task.versions[0].units
        if (movement := library.find(part.movement)) is not None
    ]
    if movements and all(movement.easy for movement in movements):
        return "easy"
    scored = piece.role is plan.Role.CONDITIONING and not piece.for_quality
    return "hard" if scored else None


def where(bpm: Beats, range_: Target) -> Where:
    """Whether a rate lies in a range; its ends belong to it."""
    return "below" if bpm < range_.low else "above" if bpm > range_.high else "in"


class TimeIn(Frozen):
    """Seconds a heart beat below, in and above a range, in words."""

    below: int
    within: int
    above: int
    words: str


def time_in(range_: Target, seconds: Mapping[Beats, int]) -> TimeIn:
    """How long a heart was where, from the seconds it beat at each rate.

    >>> easy = Target(effort="easy", low=103, high=137, words="")
    >>> time_in(easy, {100: 30, 120: 200, 150: 10}).words
    'in the range for 3:20 of 4:00, above it 0:10'
    """
    found: dict[Where, int] = {"below": 0, "in": 0, "above": 0}
    for bpm, length in seconds.items():
        found[where(bpm, range_)] += length
    whole = sum(found.values())
    words = f"in the range for {clock_text(found['in'])} of {clock_text(whole)}"
    # What lies over an easy part's range, or under a hard one's, is what a coach looks for.
    side: Where = "above" if range_.effort == "easy" else "below"
    if found[side]:
        words += f", {side} it {clock_text(found[side])}"
    return TimeIn(below=found["below"], within=found["in"], above=found["above"], words=words)


def asked(
    piece: plan.Piece, library: Library, heart: Heart, born: int | None, year: int
) -> Target | None:
    """The range a piece asks of a heart in a year; None where it asks none, or none is known."""
    effort = effort_of(piece, library)
    return target(effort, heart, year - born if born else None) if effort else None
