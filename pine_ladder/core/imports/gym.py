"""Facts of a gym that an import needs: its words, unit, people and day."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import NamedTuple

from pine_ladder.core.imports.questions import Asked, ImportQuestion
from pine_ladder.core.units import WeightUnit


class Member(NamedTuple):
    """Somebody of the gym; tier and track by position."""

    id: int
    name: str
    email: str | None
    tier: int = 0
    track: int = 0
    active: bool = True


class GymFacts(NamedTuple):
    """A gym as an import sees it. `month_first` is what its country writes."""

    people: Sequence[Member]
    tiers: Sequence[str]
    tracks: Sequence[str]
    unit: WeightUnit
    today: dt.date
    month_first: bool = False


class Row(NamedTuple):
    """A row of a table: its line in the file, and its cells by field."""

    line: int
    cells: dict[str, str]

    def get(self, field: str) -> str:
        """A cell without blanks at its ends, empty where there is none."""
        return self.cells.get(field, "")


_WRITTEN = (
    "rx",
    "rxd",
    "rx'd",
    "as rx",
    "as rx'd",
    "rx+",
    "prescribed",
    "as written",
    "a",
    "1",
    "advanced",
    "elite",
    "yes",
    "y",
    "true",
)
_LAST = (
    "beg",
    "beginner",
    "starter",
    "foundation",
    "foundations",
    "novice",
    "scaled+",
    "c",
    "3",
    "level 1",
    "anfanger",
)
_SECOND = (
    "sc",
    "scaled",
    "scal",
    "scale",
    "int",
    "intermediate",
    "b",
    "2",
    "masters",
    "master",
    "no",
    "n",
    "false",
)


def tier_of(word: str, gym: GymFacts, asked: Asked) -> int:
    """The position of the tier that a word means, asked once for every word that is no tier's name.

    Empty says as written.
    """
    low = " ".join(word.lower().split())
    if not low:
        return 0
    own = [name.casefold() for name in gym.tiers]
    if low in own:
        return own.index(low)
    last = len(own) - 1
    guess = 0 if low in _WRITTEN else last if low in _LAST else min(1, last)
    said = asked.ask(
        ImportQuestion(
            id=f"tier:{low}",
            text=f"Which tier does “{word.strip()}” mean?",
            choices=tuple(gym.tiers),
            guess=gym.tiers[guess],
        )
    )
    return list(gym.tiers).index(said)


_HEAVIER = (
    "m",
    "male",
    "man",
    "men",
    "h",
    "homme",
    "hombre",
    "mann",
    "mannlich",
    "maschio",
    "heavier",
)
_LIGHTER = (
    "f",
    "w",
    "female",
    "woman",
    "women",
    "femme",
    "mujer",
    "frau",
    "weiblich",
    "femmina",
    "v",
    "vrouw",
    "lighter",
)


def track_of(word: str, gym: GymFacts) -> int | None:
    """The position of the load track that a word means, None where it says nothing of one."""
    low = " ".join(word.lower().replace("ä", "a").split())
    own = [name.casefold() for name in gym.tracks]
    if low in own:
        return own.index(low)
    if low in _HEAVIER:
        return 0
    if low in _LIGHTER:
        return min(1, len(own) - 1)
    return None
