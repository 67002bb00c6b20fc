"""Seconds per rep: what a movement takes an athlete, fresh and tired, and when a set breaks.

`s = s_m · a · L · (1 + φ_m · f)`: the movement's median for a fresh mixed adult gym, the athlete's
factor, the load's factor, and fatigue `f` from 0 to 1. The constants in data/ are fitted so
that the trade facts hold (`tools/calibration`).
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cache, cached_property, lru_cache
from importlib import resources
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

from pine_ladder.core import plan
from pine_ladder.core.movements import Group, Library, Movement, Pattern
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import lb_to_kg

Array = NDArray[np.float64]

UNKNOWN = Movement(name="unknown", patterns=(Pattern.BRACE,), seconds=2.5, floor_s=1.2, demand=0.5)
"""Stands in for a movement the library does not have."""
CALORIE_S = {"row": 3.5, "ski machine": 3.7}
OTHER_CALORIE_S, CALORIE_DEMAND = 3.6, 0.7
"""Seconds a calorie takes an ordinary member on each machine (common practice, no source)."""
CALORIE_TRACK = (0.94, 1.07)
"""Calories count power: a lighter athlete makes them more slowly (common sense, no source)."""
HEAVIEST = 0.97
"""Loads beyond this share of the best are lifted at the pace of this one."""
IMPLEMENTS = 0.85
"""Two implements are as heavy as this power of two times one of them (judgement)."""
LEAST_SET = 0.25
"""Nobody's set is taken to be shorter than this many reps, however unable (a bound, no finding)."""
TIER_PACE, TIER_STRENGTH = (0.96, 1.04, 1.14), (1.1, 0.98, 0.82)
TRACK_STRENGTH = (1.2, 0.82)
TRACK_STAMINA = (1.2, 0.75)
TRACK_CYCLIC = (0.96, 1.05)
"""What athletes of a tier and a track are like against the whole gym (common sense, no source);
stamina is that of pushing and pulling one's own body, cyclic the pace of runs and machines.
"""
STRENGTH_WIDTH = 0.16
"""Standard deviation of log strength within a tier and a track (judgement)."""
STAMINA_POWER = 2.0
"""A member a tenth quicker than another keeps up a set about a fifth longer (judgement)."""
STRAIN_POWER, SLOW_POWER = 1.15, 0.6
"""How much more a rep costs the fewer there are in one go, and the longer it is made to last
(judgement: twenty boards judged by region).
"""
FEEL = {"light": 0.4, "heavy": 0.85}


class Capacity(StrEnum):
    """What an athlete's pace factor is told apart by."""

    CYCLIC = "cyclic"
    BODYWEIGHT = "bodyweight"
    LOADED = "loaded"


class Constants(Frozen):
    """The model's global constants.

    `fatigue` is the slow-down of a movement of demand 1 at f = 1; `tire_s` and `recover_s` the time
    constants of f; `load` the λ of the load factor, above `load_reference` of the best; `unbroken`
    the reps and `hold_s` the seconds in one go of a movement of demand 0.5 where the movement does
    not say, which shrink by `shrink` at f = 1; `local_s` the time constant in which the muscles
    that ended a set recover, `again` the share of a set that is waited for before the next one,
    `beside` how much of it the other muscles at work tire; `wear` by how much each set's worth of
    work shortens the sets after it and `wear_s` how long that lasts; `change_s` and
    `same_change_s` the way to the next task with other kit and with the same, `plates_s` loading
    the same bar anew (common sense: a pair of plates on each side, alone); `spread` the standard
    deviation of log pace within a tier.
    """

    fatigue: float
    tire_s: float
    recover_s: float
    load: float
    load_reference: float
    unbroken: float
    hold_s: float
    shrink: float
    local_s: float
    again: float
    beside: float
    wear: float
    wear_s: float
    change_s: float
    same_change_s: float
    plates_s: float
    spread: float


@cache
def constants() -> Constants:
    """The fitted constants that ship with the program."""
    text = (resources.files(__package__) / "data" / "constants.toml").read_text("utf-8")
    return Constants.model_validate(tomllib.loads(text)["constants"])


def capacity_of(movement: Movement) -> Capacity:
    """Cyclic for engines, loaded where a weight is held, else bodyweight."""
    if Pattern.ENGINE in movement.patterns:
        return Capacity.CYCLIC
    return Capacity.LOADED if movement.reference_kg else Capacity.BODYWEIGHT


@dataclass(frozen=True)
class Athletes:
    """n athletes; every array has shape (n,).

    `pace` is the factor a by capacity (1 typical, less is faster); `strength` and `stamina`
    multiply the typical best and the typical unbroken set. `choice` (0 to 1) is where in a range
    such as 6-10 an athlete goes. Known `bests` (kg by lift), `longest` unbroken sets (reps or
    seconds by movement) and `medians` (factor on a movement's seconds) come before what is typical;
    a value that is not known is NaN.
    """

    pace: Mapping[Capacity, Array]
    strength: Array
    stamina: Array
    choice: Array
    track: NDArray[np.int64]
    body_kg: Array
    bests: Mapping[str, Array] = field(default_factory=dict)
    longest: Mapping[str, Array] = field(default_factory=dict)
    medians: Mapping[str, float] = field(default_factory=dict)

    @property
    def count(self) -> int:
        """How many they are."""
        return len(self.strength)

    def only(self, keep: Any) -> Athletes:
        """Some of them, by index or mask."""
        return replace(
            self,
            pace={capacity: factors[keep] for capacity, factors in self.pace.items()},
            strength=self.strength[keep],
            stamina=self.stamina[keep],
            choice=self.choice[keep],
            track=self.track[keep],
            body_kg=self.body_kg[keep],
            bests={name: values[keep] for name, values in self.bests.items()},
            longest={name: values[keep] for name, values in self.longest.items()},
        )


def _even(count: int, dimensions: int, seed: int) -> Array:
    """Evenly spread points in the unit cube, shape (count, dimensions).

    An additive recurrence on the generalised golden ratio (Roberts 2018): more points fill the same
    space, so quantiles hardly move with the number of athletes.
    """
    root = 2.0
    for _ in range(50):
        root = (1 + root) ** (1 / (dimensions + 1))
    steps = np.array([(1 / root) ** (k + 1) for k in range(dimensions)])
    start = np.random.default_rng(seed).random(dimensions)
    points: Array = (start + np.outer(np.arange(1, count + 1), steps)) % 1.0
    return points


def sample(
    count: int,
    tier: int | None = None,
    track: int | None = None,
    seed: int = 1,
    spread: float | None = None,
    width: float = 1.0,
) -> Athletes:
    """Athletes of a tier and a track; of neither, an ordinary mixed class.

    Factors are log-normal, their width `spread` (the model's by default) times the gym's own
    `width`, as is that of strength; without a track they are half of each.
    """
    spread = width * (constants().spread if spread is None else spread)
    points = _even(count, 7, seed)
    normal = ndtri(np.clip(points[:, :5], 1e-6, 1 - 1e-6))
    pace = 1.0 if tier is None else TIER_PACE[min(tier, len(TIER_PACE) - 1)]
    strength = 1.0 if tier is None else TIER_STRENGTH[min(tier, len(TIER_STRENGTH) - 1)]
    general = 0.8 * normal[:, 0]
    factors = {
        capacity: pace * np.exp(spread * (general + 0.6 * normal[:, 1 + place]))
        for place, capacity in enumerate(Capacity)
    }
    column = (points[:, 5] < 0.5).astype(np.int64) if track is None else np.full(count, track)
    by_track = np.array(TRACK_STRENGTH)[np.minimum(column, 1)]
    strong = strength * by_track * np.exp(width * STRENGTH_WIDTH * normal[:, 4])
    return Athletes(
        pace=factors,
        strength=strong,
        stamina=factors[Capacity.BODYWEIGHT] ** -STAMINA_POWER,
        choice=points[:, 6],
        track=column,
        body_kg=np.where(column == 0, 82.0, 66.0),
    )


def members_like(library: Library, count: int, tier: int, seed: int = 1) -> Athletes:
    """Athletes of a tier who lie as far apart as those of the library's gym."""
    return _members(library.width, count, tier, seed)


@lru_cache(maxsize=64)
def _members(width: float, count: int, tier: int, seed: int) -> Athletes:
    """The same ones for every piece: nobody may write to them."""
    made = sample(count, tier, seed=seed, width=width)
    for values in (*made.pace.values(), made.strength, made.stamina, made.choice, made.track):
        values.setflags(write=False)
    return made


def gathered(samples: Sequence[Athletes]) -> Athletes:
    """Athletes of several samples as one, in their order; samples know no bests of anybody."""
    return Athletes(
        pace={
            capacity: np.concatenate([who.pace[capacity] for who in samples])
            for capacity in Capacity
        },
        strength=np.concatenate([who.strength for who in samples]),
        stamina=np.concatenate([who.stamina for who in samples]),
        choice=np.concatenate([who.choice for who in samples]),
        track=np.concatenate([who.track for who in samples]),
        body_kg=np.concatenate([who.body_kg for who in samples]),
    )


def typical(tier: int | None = None, track: int = 0) -> Athletes:
    """One athlete in the middle of a tier and a track."""
    one = np.ones(1)
    pace = 1.0 if tier is None else TIER_PACE[min(tier, len(TIER_PACE) - 1)]
    strength = 1.0 if tier is None else TIER_STRENGTH[min(tier, len(TIER_STRENGTH) - 1)]
    return Athletes(
        pace={capacity: one * pace for capacity in Capacity},
        strength=one * strength * TRACK_STRENGTH[min(track, 1)],
        stamina=one * pace**-STAMINA_POWER,
        choice=one * 0.5,
        track=np.full(1, track),
        body_kg=one * (82.0 if track == 0 else 66.0),
    )


def typical_best(movement: Movement) -> float | None:
    """One-rep best in kg of the gym's middle, for a movement with a reference load."""
    return movement.reference_kg / constants().load_reference if movement.reference_kg else None


def best(movement: Movement, athletes: Athletes, library: Library) -> Array | None:
    """Each athlete's best on a movement in kg: known, by its parent lift, or typical."""
    usual = typical_best(movement)
    if usual is None:
        return None
    guess = usual * athletes.strength
    parent = library.find(movement.parent) if movement.parent else None
    if parent is not None and parent.reference_kg and movement.reference_kg:
        known = athletes.bests.get(parent.name)
        if known is not None:
            ratio = movement.reference_kg / parent.reference_kg
            guess = np.where(np.isnan(known), guess, known * ratio)
    own = athletes.bests.get(movement.name)
    return guess if own is None else np.where(np.isnan(own), guess, own)


def kilograms(exercise: plan.Exercise, athletes: Athletes, library: Library) -> Array | None:
    """The load each athlete holds in kg (of one implement), or None where none is told."""
    movement = library.find(exercise.movement)
    if movement is None:
        return None
    match exercise.load:
        case plan.Weight(values=values, unit=unit):
            own = np.array(values)[np.minimum(athletes.track, len(values) - 1)]
            return own if unit == "kg" else lb_to_kg(1.0) * own
        case plan.Bodyweight(factor=factor):
            return factor * athletes.body_kg
        case plan.Percent(low=low, high=high):
            parent = library.find(movement.parent or movement.name) or movement
            top = best(parent, athletes, library)
            share = (low + athletes.choice * ((high or low) - low)) / 100
            return None if top is None else share * top
        case plan.Effort(rpe=rpe):
            top = best(movement, athletes, library)
            left = _reps_asked(exercise) - 1 + (10 - rpe)
            return None if top is None else top / (1 + max(0.0, left) / 30)
        case plan.Feel(word=word):
            top = best(movement, athletes, library)
            return None if top is None else top * FEEL[word]
    return None


def _reps_asked(exercise: plan.Exercise) -> float:
    """Reps of a set, for the load that an effort stands for: effort 10 leaves none (Epley 1985)."""
    match exercise.amount:
        case plan.Reps(low=low, high=high):
            return (low + (high or low)) / 2
        case plan.Scheme(values=values):
            return float(values[0])
    return 1.0


ROW = {group: row for row, group in enumerate(Group)}
"""The row of a group of muscles in arrays of all of them."""


def rows(groups: Sequence[Group]) -> NDArray[np.int64]:
    """The rows of some groups, in their order."""
    return np.array([ROW[group] for group in groups], np.int64)


@dataclass(frozen=True)
class Rep:
    """One rep (metre, second of a hold) for n athletes: how long, how it tires, where sets end.

    `unbroken` is how many in one go when fresh, infinite where nothing ends a set; below one the
    athlete cannot do it at all. `groups` are the muscles that end the set, the first of them first;
    `kg` is what is held, or None; `floor_s` the fastest honest rep; `timed` where a rep is a second
    of a hold; `strain` what a rep costs of a set taken to its end, and `heavy` (0 to 1) how near to
    that it is by its load alone.
    """

    name: str
    seconds: Array
    slow: float
    demand: float
    unbroken: Array
    kg: Array | None
    landings: float = 0.0
    groups: tuple[Group, ...] = ()
    floor_s: float = 0.0
    timed: bool = False
    strain: Array | float = 0.0
    heavy: Array | float = 0.0

    @cached_property
    def unable(self) -> NDArray[np.bool_]:
        """Who cannot do one."""
        return self.unbroken < 1.0

    @cached_property
    def some_unable(self) -> bool:
        """Whether there is anybody who cannot."""
        return bool(self.unable.any())

    @cached_property
    def muscles(self) -> NDArray[np.int64]:
        """The rows of the muscles that end the set; none where nothing does."""
        return rows(self.groups if np.isfinite(self.unbroken).any() else ())


def tempo_seconds(tempo: str | None) -> float:
    """Seconds a rep of that tempo lasts at least; X is as fast as possible, about half a second.

    >>> tempo_seconds("40X0")
    4.5
    """
    return sum(0.5 if letter == "X" else float(letter) for letter in tempo or "")


def rep_of(
    exercise: plan.Exercise,
    athletes: Athletes,
    library: Library,
    model: Constants | None = None,
) -> Rep:
    """How one rep of an exercise goes for each athlete."""
    model = model or constants()
    movement = library.find(exercise.movement) or UNKNOWN
    seconds = movement.seconds * athletes.medians.get(movement.name, 1.0)
    pace = athletes.pace[capacity_of(movement)]
    if capacity_of(movement) is Capacity.CYCLIC:
        pace = pace * np.array(TRACK_CYCLIC)[np.minimum(athletes.track, 1)]
    kg = kilograms(exercise, athletes, library)
    share = share_of_best(exercise, movement, kg, athletes, library)
    load = np.ones(athletes.count)
    ease = np.ones(athletes.count)
    if share is not None:
        load = heaviness(np.minimum(share, HEAVIEST), model)
        ease = easing(movement, share, model, athletes.body_kg)
    timed = movement.measure == "time"
    fresh = np.maximum(seconds * pace * load, movement.floor_s)
    slowed: Array = np.ones(athletes.count)
    if not timed:
        least = np.maximum(fresh, tempo_seconds(exercise.tempo)) + (exercise.pause_s or 0.0)
        slowed = least / fresh
        fresh = least + (1.0 / exercise.switch_every if exercise.switch_every else 0.0)
    unbroken = in_a_row(movement, model) * stamina(movement, athletes, model)
    unbroken = unbroken * np.minimum(ease, MOST_EASE)
    known = athletes.longest.get(movement.name)
    if known is not None:
        unbroken = np.where(np.isnan(known), unbroken, known * np.minimum(ease, 1.0))
    unbroken = np.maximum(LEAST_SET, unbroken / slowed**SLOW_POWER)
    endless = movement.measure == "distance" and movement.in_a_row is None
    endless = endless or Pattern.ENGINE in movement.patterns[:1]
    lifted = share is not None and movement.measure == "reps"
    strain = np.zeros(athletes.count)
    if not endless:
        left = reps_left(share) / slowed**SLOW_POWER if lifted and share is not None else 0.0
        strain = _strain(exercise, movement, np.maximum(unbroken, left))
    if exercise.unbroken or endless:
        unbroken = np.full(athletes.count, np.inf)
    return Rep(
        name=movement.name if movement is not UNKNOWN else exercise.movement,
        seconds=np.ones(athletes.count) if timed else fresh,
        slow=0.0 if timed else model.fatigue * movement.demand,
        demand=movement.demand,
        unbroken=unbroken,
        kg=kg,
        landings=movement.landings,
        groups=movement.groups,
        floor_s=0.0 if timed else movement.floor_s,
        timed=timed,
        strain=strain,
        heavy=np.minimum(share, 1.0) ** 2 if lifted and share is not None else 0.0,
    )


def share_of_best(
    exercise: plan.Exercise,
    movement: Movement,
    kg: Array | None,
    athletes: Athletes,
    library: Library,
) -> Array | None:
    """The load as a share of each athlete's best; None without a load or a best.

    A weight that hangs on the body is lifted with it.
    """
    top = best(movement, athletes, library)
    if kg is None or top is None:
        return None
    body = athletes.body_kg if HANGING.intersection(movement.kit) else 0.0
    whole: Array = (felt(exercise, movement, kg) + body) / (top + body)
    return whole


HANGING = frozenset({"pull-up bar", "rings", "parallel bars"})
"""Kit on which the body is lifted too."""
TRUNK_EASE, HOLD_EASE = 1.2, 2.0
"""How the reps of the trunk, and the seconds of a hold or metres of a carry, fall with their load:
as powers of it (judgement; the endurance of holds after Rohmert 1960, from memory).
"""


def easing(movement: Movement, share: Array, model: Constants, body_kg: Array) -> Array:
    """How many times the reps at the reference load there are in one go at a share of the best.

    Lifts go by the reps left in a load (Epley 1985); one rep is left at the best itself, none
    beyond it. Nobody is unable to hold, to carry or to turn with a weight: it only ends sooner.
    """
    power = 0.0
    if movement.measure != "reps":
        power = HOLD_EASE
    elif movement.patterns[0] is Pattern.BRACE:
        power = TRUNK_EASE
    if power:
        eased: Array = (share / model.load_reference) ** -power
        return eased
    usual = np.full(len(share), model.load_reference)
    if movement.reference_kg and HANGING.intersection(movement.kit):
        top = movement.reference_kg / model.load_reference
        usual = (movement.reference_kg + body_kg) / (top + body_kg)
    least: Array = reps_left(share) / reps_left(usual)
    return least


def reps_left(share: Array) -> Array:
    """Reps in a load that is a share of the best (Epley 1985): one at the best, none beyond it."""
    left: Array = np.maximum(0.0, 30 * (1 / share - 1) + (share <= 1))
    return left


def _strain(exercise: plan.Exercise, movement: Movement, able: Array) -> Array:
    """What a rep costs of a set taken to its end, by the reps that one is able to: heavy ones more
    than in proportion, and less on each side of what is done side by side.
    """
    cost: Array = np.maximum(LEAST_ABLE, able) ** -STRAIN_POWER
    apart = exercise.side is not None or movement.sides == "alternating" or exercise.one_arm
    return cost * ONE_SIDE if apart else cost


LEAST_ABLE = 1.5
"""Fewest reps in a row that a strain is reckoned by."""
ONE_SIDE = 0.6
"""Strain of a rep of one side, against one of both (judgement)."""
MOST_EASE = 3.0
"""A load however light lets a set go on no longer than this many times (judgement)."""


def heaviness(share: Array, model: Constants) -> Array:
    """How much longer a rep takes at a share of the best than at the reference load.

    It rises from the reference load on, and bends smoothly there: a heavier load is never quicker.
    """
    apart = (share - model.load_reference) / BEND
    rise = BEND * np.logaddexp(0.0, apart)
    return (1 + model.load * rise) / (1 + model.load * BEND * math.log(2))


BEND = 0.06
"""Over how much of the best the bend at the reference load stretches (judgement)."""


def felt(exercise: plan.Exercise, movement: Movement, kg: Array) -> Array:
    """What is held as it is felt: more implements than the reference load means weigh more."""
    count = exercise.load.count if isinstance(exercise.load, plan.Weight) else 1
    more: float = max(1.0, count / movement.implements) ** IMPLEMENTS
    return kg * more


def in_a_row(movement: Movement, model: Constants) -> float:
    """Reps (seconds, metres) in one go of an ordinary member at the reference load."""
    if movement.in_a_row is not None:
        return movement.in_a_row
    usual = model.hold_s if movement.measure == "time" else model.unbroken
    if movement.patterns[0] in (Pattern.SQUAT, Pattern.LUNGE) and not movement.reference_kg:
        usual *= OWN_LEGS
    return usual * _staying(movement.demand)


OWN_LEGS = 2.0
"""Legs go on so many times longer under the body alone than what a set usually is (judgement)."""


def stamina(movement: Movement, athletes: Athletes, model: Constants) -> Array:
    """How much longer than an ordinary member's each athlete's set of a movement is.

    The more skill a movement needs, the further good and less good lie apart.
    """
    own = athletes.stamina ** skill_power(movement, model)
    if movement.reference_kg is None and movement.groups[:1] in ((Group.PUSH,), (Group.PULL,)):
        own = own * np.array(TRACK_STAMINA)[np.minimum(athletes.track, 1)]
    return own


def skill_power(movement: Movement, model: Constants) -> float:
    """The power of stamina that a movement's sets go by: more for what needs more skill."""
    return movement.width / (STAMINA_POWER * model.spread)


def _staying(demand: float) -> float:
    """How long one can go on without a pause, against a movement of demand 0.5."""
    usable = min(max(demand, 0.05), 0.97)
    return float(((1 - usable) / usable) ** 0.8)
