"""Members as the rules see them: what is known of an athlete, and what the gym has to load."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import replace
from typing import Annotated

import numpy as np
from pydantic import ConfigDict, Field, field_validator

from pine_ladder.core.athletes.heart import Heart
from pine_ladder.core.athletes.loads import Reference
from pine_ladder.core.movements import Library
from pine_ladder.core.movements.library import LIMITS
from pine_ladder.core.pace.rep_times import (
    STAMINA_POWER,
    TIER_PACE,
    TIER_STRENGTH,
    TRACK_STRENGTH,
    Athletes,
    Capacity,
    constants,
    skill_power,
    stamina,
    typical_best,
)
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import WeightUnit

Name = Annotated[str, Field(max_length=60)]


class Limit(Frozen):
    """A joint or a condition the athlete or the coach has noted, in their own words."""

    limit: str = Field(max_length=20)
    note: str = Field(default="", max_length=200)

    @field_validator("limit")
    @classmethod
    def _known(cls, limit: str) -> str:
        if limit not in LIMITS:
            raise ValueError(f"a limit is one of {', '.join(LIMITS)}")
        return limit


class Profile(Frozen):
    """What is known of an athlete: kg, reps or seconds in one go, rungs by ladder, limits.

    Limits and notes are for coaches and the athlete alone.
    """

    model_config = ConfigDict(allow_inf_nan=False)

    body_kg: float | None = Field(default=None, gt=20, lt=300)
    bests: dict[Name, float] = Field(default_factory=dict, max_length=60)
    longest: dict[Name, float] = Field(default_factory=dict, max_length=60)
    rungs: dict[Name, Name] = Field(default_factory=dict, max_length=60)
    home_kit: tuple[Name, ...] = Field(default=(), max_length=40)
    born: int | None = Field(default=None, ge=1900, le=2100)
    heart: Heart = Heart()
    hidden: bool = False
    """Left out of standings by their own wish."""
    seen: bool = False
    """Other members may see which classes they come to."""
    on_the_wall: bool = False
    """A display may show what changed since they last did a piece."""
    heart_shown: bool = False
    """A display may show their heart rate while a class's clock runs."""
    unit: WeightUnit | None = None
    """Loads are told in this unit as well, where the gym's is another."""
    strength_as: Reference | None = None
    """Compared across bodyweights with this group of lifters; None is no consent."""
    limits: tuple[Limit, ...] = Field(default=(), max_length=len(LIMITS))
    notes: str = Field(default="", max_length=2000)


class Rack(Frozen):
    """What can be loaded: kit by name and count, plates by kg, bars in kg.

    Plates and bars marked in pounds are told as such by `labels` (`45 lb` by its kg). `complete`
    is true where kit that is not listed is not there, as at home.
    """

    kit: dict[str, int]
    plates: dict[float, int]
    bars: tuple[float, ...] = (20.0, 15.0)
    labels: dict[float, str] = Field(default_factory=dict)
    complete: bool = False

    def has(self, kit: str) -> bool:
        """Whether there is some of a movement's kit (`box or bench` is either)."""
        options = tuple(kit.split(" or "))
        return not self.complete or any(name.startswith(options) for name in self.kit)

    def sizes(self, what: str) -> list[float]:
        """Weights in kg of an implement the gym has, from names such as `dumbbell 15 kg`."""
        marked = re.compile(rf"{re.escape(what)} (\d+(?:\.\d+)?) kg")
        return [float(match[1]) for name in self.kit if (match := marked.fullmatch(name))]


def at_home(profile: Profile) -> Rack:
    """What an athlete has at home."""
    return Rack(kit=dict.fromkeys(profile.home_kit, 1), plates={}, bars=(), complete=True)


class Member(Frozen):
    """An athlete as scaling sees them; `factors` is the believed pace by capacity (1 typical).

    `lifted` are one-rep bests in kg that their scores speak for; what they say themselves comes
    first.
    """

    id: int
    name: str
    tier: int
    track: int
    profile: Profile = Profile()
    overrides: dict[str, str] = Field(default_factory=dict)
    factors: dict[Capacity, float] = Field(default_factory=dict)
    lifted: dict[str, float] = Field(default_factory=dict)

    @property
    def bests(self) -> dict[str, float]:
        """Known one-rep bests in kg by lift."""
        return {**self.lifted, **self.profile.bests}


LIFT_WIDTH, BESTS_WIDTH = 0.12, 0.4
"""How far (log, standard deviation) one lift lies from an athlete's strength in general, and an
athlete whose bests are known from others of the tier (judgement).
"""
SET_WIDTH, SETS_WIDTH = 0.3, 0.4
"""The same of sets in a row: from the athlete's stamina, and that from others'."""
FURTHEST = 1.0
"""What is inferred stays within this of the tier's middle (log)."""


def _shifts(off: Sequence[float], own: float, between: float) -> float:
    """How far an athlete lies from the tier when some of their numbers do, as the middle of a
    normal posterior: few numbers say less than many.
    """
    if not off:
        return 0.0
    trust = between**2 / (between**2 + own**2 / len(off))
    return min(max(trust * sum(off) / len(off), -FURTHEST), FURTHEST)


def _stronger(member: Member, usual: float, library: Library) -> float:
    """How much stronger (log) than `usual` an athlete's known bests make them, lift by lift."""
    off = []
    for lift, kg in member.bests.items():
        movement = library.find(lift)
        typical = typical_best(movement) if movement else None
        if typical:
            off.append(math.log(kg / (typical * usual)))
    return _shifts(off, LIFT_WIDTH, BESTS_WIDTH)


def _lasting(member: Member, athletes: Athletes, library: Library) -> float:
    """How much more stamina (log) an athlete's known sets show than is believed without them."""
    off = []
    for name, longest in member.profile.longest.items():
        movement = library.find(name)
        if movement is None or movement.in_a_row is None:
            continue
        usual = movement.in_a_row * float(stamina(movement, athletes, constants())[0])
        off.append(math.log(longest / usual) / skill_power(movement, constants()))
    return _shifts(off, SET_WIDTH, SETS_WIDTH)


def athletes(members: Sequence[Member], library: Library) -> Athletes:
    """Members as the pace model takes them: known bests and sets, believed or typical factors.

    Known bests tell of the other lifts too, and known sets of the others.
    """
    who = _believed(members)
    stronger = [
        _stronger(member, float(usual), library)
        for member, usual in zip(members, who.strength, strict=True)
    ]
    lasting = [_lasting(member, who.only([at]), library) for at, member in enumerate(members)]
    return replace(
        who,
        strength=who.strength * np.exp(stronger),
        stamina=who.stamina * np.exp(lasting),
    )


def _believed(members: Sequence[Member]) -> Athletes:
    tiers = [min(m.tier, len(TIER_PACE) - 1) for m in members]
    pace = {
        capacity: np.array(
            [m.factors.get(capacity, TIER_PACE[t]) for m, t in zip(members, tiers, strict=True)]
        )
        for capacity in Capacity
    }
    tracks = np.array([m.track for m in members])
    strength = np.array([TIER_STRENGTH[t] for t in tiers])
    lifts = {lift for m in members for lift in m.bests}
    sets = {name for m in members for name in m.profile.longest}
    body = [m.profile.body_kg or (82.0 if m.track == 0 else 66.0) for m in members]
    return Athletes(
        pace=pace,
        strength=strength * np.array(TRACK_STRENGTH)[np.minimum(tracks, 1)],
        stamina=pace[Capacity.BODYWEIGHT] ** -STAMINA_POWER,
        choice=np.full(len(members), 0.5),
        track=tracks,
        body_kg=np.array(body),
        bests={k: np.array([m.bests.get(k, math.nan) for m in members]) for k in lifts},
        longest={k: np.array([m.profile.longest.get(k, math.nan) for m in members]) for k in sets},
    )
