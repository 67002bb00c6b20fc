"""Regions of the body, and how far each movement loads them."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from enum import StrEnum
from functools import cache, lru_cache
from importlib import resources

from pydantic import Field

from pine_ladder.core.movements import Movement, Pattern
from pine_ladder.core.movements.library import fold
from pine_ladder.core.plan import Frozen


class Region(StrEnum):
    """What a session is hard on: knee-dominant legs, hips and back, pushing, pulling and grip,
    trunk, landings, heart and lungs.
    """

    SQUAT = "squat"
    HINGE = "hinge"
    PRESS = "press"
    PULL = "pull"
    TRUNK = "trunk"
    LANDING = "landing"
    ENGINE = "engine"


REGION_OF: dict[Pattern, Region] = {
    Pattern.SQUAT: Region.SQUAT,
    Pattern.LUNGE: Region.SQUAT,
    Pattern.HINGE: Region.HINGE,
    Pattern.PRESS: Region.PRESS,
    Pattern.PULL: Region.PULL,
    Pattern.CARRY: Region.TRUNK,
    Pattern.BRACE: Region.TRUNK,
    Pattern.JUMP: Region.LANDING,
    Pattern.ENGINE: Region.ENGINE,
}
"""The region that each pattern of the week is shown under."""

Weights = Mapping[Region, float]


class Family(Frozen):
    """Movements that load the regions alike, by words of their names."""

    words: tuple[str, ...]
    regions: dict[Region, float]


class Impact(Frozen):
    """Landings of what is no jump, a second or a rep of it."""

    second: float = 0.0
    rep: float = 0.0


class Table(Frozen):
    """The table of regions.toml."""

    second: float
    loaded_trunk: float
    pattern: dict[Pattern, dict[Region, float]]
    family: tuple[Family, ...]
    landings: dict[str, Impact] = Field(default_factory=dict)


@cache
def table() -> Table:
    """The shares that ship with the program."""
    text = (resources.files(__package__) / "regions.toml").read_text("utf-8")
    return Table.model_validate(tomllib.loads(text))


def _family(name: str) -> Family | None:
    """The family whose longest word stands in a name, or None."""
    padded = f" {fold(name)} "
    fitting = [
        (len(word), family)
        for family in table().family
        for word in family.words
        if f" {fold(word)} " in padded
    ]
    return max(fitting, key=lambda each: each[0])[1] if fitting else None


@lru_cache(maxsize=2048)
def regions_of(movement: Movement) -> Weights:
    """Return the share (0 to 1) of each region in a movement; landings and engine are apart."""
    shares = table()
    family = _family(movement.name)
    if family is not None:
        weights = dict(family.regions)
    else:
        weights = {}
        for place, pattern in enumerate(movement.patterns):
            for region, share in shares.pattern[pattern].items():
                part = share * (shares.second if place else 1.0)
                weights[region] = max(weights.get(region, 0.0), part)
    if movement.reference_kg and movement.kit and not supported(movement):
        weights[Region.TRUNK] = min(1.0, weights.get(Region.TRUNK, 0.0) + shares.loaded_trunk)
    return weights


SUPPORTS = frozenset({"bench", "pull-down machine", "pull-up bar", "rings", "parallel bars"})
"""Kit that takes the load off the trunk."""


def supported(movement: Movement) -> bool:
    """Whether a load is lifted lying, sitting or hanging."""
    return not SUPPORTS.isdisjoint(movement.kit)


def impact(movement: Movement, seconds: float, reps: float, landings: float) -> float:
    """Landings of some work, as jumps of full height: those the movement counts itself, or those
    of its strides and catches.

    `seconds` and `reps` are what was done of it, `landings` those counted.
    """
    if landings:
        return landings
    own = table().landings.get(movement.name)
    if own is not None:
        return own.second * seconds + own.rep * reps
    words = fold(movement.name).split()
    if movement.reference_kg and {"clean", "snatch", "jerk"} & set(words) and "pull" not in words:
        return table().landings["catch"].rep * reps
    return 0.0
