"""Movements as data: what each is, what counts, what to watch, how long a rep takes."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable, Mapping
from enum import StrEnum
from functools import cache, cached_property, lru_cache
from importlib import resources
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator
from rapidfuzz import fuzz, process

from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import WeightUnit


class Pattern(StrEnum):
    """The movement patterns a week is balanced over."""

    SQUAT = "squat"
    HINGE = "hinge"
    LUNGE = "lunge"
    PRESS = "press"
    PULL = "pull"
    CARRY = "carry"
    BRACE = "brace"
    JUMP = "jump"
    ENGINE = "engine"
    MOBILITY = "mobility"


class Group(StrEnum):
    """The muscles that tire apart from each other, and end a set."""

    PUSH = "push"
    PULL = "pull"
    SQUAT = "squat"
    HINGE = "hinge"
    TRUNK = "trunk"
    GRIP = "grip"
    CALF = "calf"


GROUPS_OF: dict[Pattern, Group] = {
    Pattern.SQUAT: Group.SQUAT,
    Pattern.HINGE: Group.HINGE,
    Pattern.LUNGE: Group.SQUAT,
    Pattern.PRESS: Group.PUSH,
    Pattern.PULL: Group.PULL,
    Pattern.CARRY: Group.GRIP,
    Pattern.BRACE: Group.TRUNK,
    Pattern.JUMP: Group.SQUAT,
}
"""What a pattern tires first; engines tire the whole body and end no set."""
SKILL, LOADED_SKILL = 0.4, 0.25
"""Usual spread of the log of a set, for bodyweight and for loads (judgement)."""


Words = Annotated[str, Field(max_length=400)]
Name = Annotated[str, Field(min_length=2, max_length=60, pattern=r"^[^\W_][\w' ()/-]*$")]


class Movement(Frozen):
    """One exercise.

    `seconds` is the median time of a fresh rep in a mixed adult gym at `reference_kg` (for
    `measure` distance: of one metre; for time: 1); `floor_s` the fastest honest one. `demand`
    (0 to 1) is how hard it tires. `landings` counts impacts a rep; a small hop, as with a rope,
    is a fifth of one. `parent` is the lift that percentages refer to.

    `in_a_row` is how many reps (seconds of a hold, metres) an ordinary member of the first tier
    does in one go, fresh, at the reference load; None is what its demand says. `skill` is the
    standard deviation of its log across members, `tires` the muscles that end the set, and
    `implements` how many weights the reference load and a bare load mean. See sets.toml.
    `looks_like` is the movement by whose figure one of the gym's own is drawn.
    """

    name: Name
    aliases: tuple[Name, ...] = Field(default=(), max_length=12)
    patterns: tuple[Pattern, ...] = Field(min_length=1)
    muscles: Words = ""
    kit: tuple[Words, ...] = Field(default=(), max_length=8)
    measure: Literal["reps", "time", "distance"] = "reps"
    sides: Literal["both", "alternating"] = "both"
    standard: Words = ""
    cues: tuple[Words, ...] = Field(default=(), max_length=3)
    faults: tuple[Words, ...] = Field(default=(), max_length=6)
    cautions: tuple[Words, ...] = Field(default=(), max_length=6)
    seconds: float = Field(gt=0, le=600)
    floor_s: float = Field(gt=0, le=600)
    demand: float = Field(ge=0, le=1)
    parent: str | None = None
    reference_kg: float | None = Field(default=None, gt=0, le=500)
    landings: float = Field(default=0, ge=0, le=2)
    in_a_row: float | None = Field(default=None, gt=0, le=10_000)
    skill: float | None = Field(default=None, ge=0, le=2)
    tires: tuple[Group, ...] = Field(default=(), max_length=7)
    implements: int = Field(default=1, ge=1, le=2)
    looks_like: Name | None = None

    @model_validator(mode="after")
    def _floor_is_fastest(self) -> Movement:
        if self.floor_s > self.seconds:
            raise ValueError("the fastest honest rep cannot be slower than the usual one")
        return self

    @property
    def easy(self) -> bool:
        """Whether it is done to recover or to get warm: a walk, an easy run."""
        return self.name == "walk" or self.name.startswith("easy ")

    @property
    def groups(self) -> tuple[Group, ...]:
        """The muscles that end its sets, the first of them first."""
        if self.tires:
            return self.tires
        found = (GROUPS_OF[p] for p in self.patterns if p in GROUPS_OF)
        return tuple(dict.fromkeys(found))

    @property
    def width(self) -> float:
        """How much the length of a set differs from member to member, as `skill`."""
        usual = LOADED_SKILL if self.reference_kg else SKILL
        return usual if self.skill is None else self.skill


class OwnMovement(Frozen):
    """A movement of the gym's own, or its version of one in the library.

    `above` is the rung it stands on top of, on that rung's ladder.
    """

    movement: Movement
    above: str | None = None


LIMITS = ("wrist", "shoulder", "elbow", "low back", "hip", "knee", "ankle", "pregnancy")


class Ladder(Frozen):
    """A family of movements from the easiest rung to the hardest, and when to step."""

    name: str
    rungs: tuple[str, ...] = Field(min_length=2)
    up: str
    down: str


class School(Frozen):
    """One way the trade counts a swap."""

    name: str
    ratio: float = Field(gt=0)


class Swap(Frozen):
    """What to do instead: `ratio` reps (metres, seconds) of it for one of the original.

    `because` is missing kit (`no rope`), `skill`, or one of LIMITS.
    """

    movement: str
    instead: str
    because: str
    ratio: float = Field(gt=0)
    schools: tuple[School, ...] = ()
    note: str = ""


@cache
def _stress() -> dict[str, tuple[frozenset[str], frozenset[str]]]:
    text = (resources.files(__package__) / "stress.toml").read_text("utf-8")
    return {
        limit: (frozenset(record["words"]), frozenset(record["but"]))
        for limit, record in tomllib.loads(text).items()
    }


def stresses(limit: str, name: str) -> bool:
    """Whether a movement asks much of what a limit (one of LIMITS) is about."""
    words, but = _stress()[limit]
    padded = f" {fold(name)} "
    return name not in but and any(f" {fold(word)} " in padded for word in words)


A_SLIP, NEARLY_SAME = 75, 90
"""How alike (0 to 100) a misspelt word is to the right one, and one cut in two to the whole."""


@lru_cache(maxsize=8192)
def fold(name: str) -> str:
    """A name without case, punctuation differences or plural: the key of every look-up.

    >>> fold("Kettlebell  Swings")
    'kettlebell swing'
    """
    words = re.sub(r"[’`]", "'", name.lower()).replace("-", " ").split()
    return " ".join(_singular(word) for word in words)


def _singular(word: str) -> str:
    if word.endswith(("ches", "shes", "sses", "xes")):
        return word[:-2]
    if word.endswith("ies") and len(word) > 4:
        return word[:-3] + "y"
    if word.endswith("s") and not word.endswith(("ss", "'s", "us")) and len(word) > 2:
        return word[:-1]
    return word


class Library:
    """Movements with look-up by folded name and a nearest suggestion for typing slips.

    `unit` is what a load is in where none is written, as it is said where the library is used;
    `width` how far the gym's members lie apart, 1 being an ordinary gym's.
    """

    def __init__(
        self,
        movements: Iterable[Movement],
        ladders: Iterable[Ladder] = (),
        swaps: Iterable[Swap] = (),
        unit: WeightUnit = "kg",
        width: float = 1.0,
    ) -> None:
        self.unit: WeightUnit = unit
        self.width = width
        self.movements = tuple(sorted(movements, key=lambda m: m.name))
        self.ladders = tuple(ladders)
        self.swaps = tuple(swaps)
        self._by_key: dict[str, Movement] = {}
        for movement in self.movements:
            for name in (movement.name, *movement.aliases):
                taken = self._by_key.setdefault(fold(name), movement)
                if taken is not movement:
                    raise ValueError(f"{name} names both {taken.name} and {movement.name}")

    def with_own(self, own: Iterable[OwnMovement]) -> Library:
        """This library with a gym's movements in it, each in place of one of the same name.

        Raises ValueError, in a sentence, where a name is taken or a rung is on no ladder.
        """
        movements = {movement.name: movement for movement in self.movements}
        ladders = list(self.ladders)
        for one in own:
            name = one.movement.name
            movements[name] = one.movement
            if one.above is None:
                continue
            below = next((i for i, each in enumerate(ladders) if one.above in each.rungs), None)
            if below is None or one.above == name:
                raise ValueError(f"{one.above!r} is no rung of a ladder")
            rungs = [rung for rung in ladders[below].rungs if rung != name]
            rungs.insert(rungs.index(one.above) + 1, name)
            ladders[below] = ladders[below].model_copy(update={"rungs": tuple(rungs)})
        return Library(movements.values(), ladders, self.swaps, self.unit, self.width)

    def with_seconds(self, seconds: Mapping[str, float]) -> Library:
        """This library with other medians for some movements, in seconds, never under the floor."""
        movements = [
            movement.model_copy(update={"seconds": max(seconds[movement.name], movement.floor_s)})
            if movement.name in seconds
            else movement
            for movement in self.movements
        ]
        return Library(movements, self.ladders, self.swaps, self.unit, self.width)

    def in_unit(self, unit: WeightUnit) -> Library:
        """This library where a load without a unit is in another one."""
        return Library(self.movements, self.ladders, self.swaps, unit, self.width)

    def of_width(self, width: float) -> Library:
        """This library for a gym whose members lie further apart, or closer together."""
        return Library(self.movements, self.ladders, self.swaps, self.unit, width)

    def fitted(self, seconds: Mapping[str, float], in_a_row: Mapping[str, float]) -> Library:
        """This library with other medians and sets for some movements."""
        paced = self.with_seconds(seconds)
        movements = [
            movement.model_copy(update={"in_a_row": in_a_row[movement.name]})
            if movement.name in in_a_row
            else movement
            for movement in paced.movements
        ]
        return Library(movements, self.ladders, self.swaps, self.unit, self.width)

    def find(self, name: str) -> Movement | None:
        """The movement of that name or alias, or None."""
        return self._by_key.get(fold(name))

    def ladder_of(self, name: str) -> Ladder | None:
        """The ladder a movement stands on, or None."""
        return next((ladder for ladder in self.ladders if name in ladder.rungs), None)

    def swaps_for(self, name: str) -> tuple[Swap, ...]:
        """What can be done instead of a movement."""
        return tuple(swap for swap in self.swaps if swap.movement == name)

    @cached_property
    def _names(self) -> list[str]:
        return list(self._by_key)

    @cached_property
    def _words(self) -> frozenset[str]:
        return frozenset(word for name in self._names for word in name.split())

    def nearest(self, name: str) -> Movement | None:
        """The movement that a misspelt name means, or None when none is close.

        Every word of it must stand in the name found, rightly spelt or nearly so: a word the
        library knows is no slip of another, so that a decline is never taken for an incline.
        """
        said = fold(name)
        for alike in (fuzz.ratio, fuzz.token_sort_ratio):
            near = process.extract(said, self._names, scorer=alike, score_cutoff=72, limit=8)
            for key, _score, _at in near:
                if self._says_all(said, key):
                    return self._by_key[key]
        return None

    def _says_all(self, said: str, key: str) -> bool:
        """Whether a name holds all that was said, but for slips of the pen."""
        together = (said.replace(" ", ""), key.replace(" ", ""))
        if fuzz.ratio(*together) >= NEARLY_SAME and said.count(" ") > key.count(" "):
            return True
        words = key.split()
        for word in said.split():
            if word in words:
                continue
            close = process.extractOne(word, words, scorer=fuzz.ratio, score_cutoff=A_SLIP)
            if word in self._words or close is None:
                return False
        return True

    def search(self, query: str, limit: int = 20) -> list[Movement]:
        """Movements by how well any of their names fits a few typed letters, best first."""
        hits = process.extract(fold(query), self._names, scorer=fuzz.WRatio, limit=limit * 2)
        found: dict[str, Movement] = {}
        for key, _score, _index in hits:
            movement = self._by_key[key]
            found.setdefault(movement.name, movement)
        return list(found.values())[:limit]


@cache
def library() -> Library:
    """The library that ships with the program, its pace fitted to what is stated."""
    text = (resources.files(__package__) / "fitted.toml").read_text("utf-8")
    told = tomllib.loads(text)
    return unfitted().fitted(told["seconds"], told.get("in_a_row", {}))


def _sets() -> dict[str, dict[str, Any]]:
    """What sets.toml says of each movement."""
    told = tomllib.loads((resources.files(__package__) / "sets.toml").read_text("utf-8"))
    out: dict[str, dict[str, Any]] = {name: {"implements": 2} for name in told.pop("pairs")}
    for part in told.values():
        for name, said in part.items():
            out[name] = out.get(name, {}) | said
    return out


@cache
def unfitted() -> Library:
    """The library as written by hand."""
    folder = resources.files(__package__) / "data"
    sets = _sets()
    movements = [
        Movement.model_validate(record | sets.get(record["name"], {}))
        for file in sorted(folder.iterdir(), key=lambda f: f.name)
        if file.name.endswith(".toml")
        for record in tomllib.loads(file.read_text("utf-8"))["movement"]
    ]
    ladders = tomllib.loads((resources.files(__package__) / "ladders.toml").read_text("utf-8"))
    swaps = tomllib.loads((resources.files(__package__) / "swaps.toml").read_text("utf-8"))
    return Library(
        movements,
        [Ladder.model_validate(record) for record in ladders["ladder"]],
        [Swap.model_validate(record) for record in swaps["swap"]],
    )
