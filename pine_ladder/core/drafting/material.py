"""What a draft may be made of: movements that the prompt allows, with loads that are at hand, and
pieces of the gym's own boards.
"""

from __future__ import annotations

import datetime as dt
import random
import re
from collections import Counter
from collections.abc import Mapping, Sequence
from functools import cache, cached_property
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.day.kit import SHARERS
from pine_ladder.core.dose import Region, dose_of_session
from pine_ladder.core.dose.regions import REGION_OF, impact, regions_of
from pine_ladder.core.drafting.prompt import Before, Prompt
from pine_ladder.core.movements import Library, Movement, Pattern, library
from pine_ladder.core.movements.library import fold, stresses
from pine_ladder.core.notation import parse
from pine_ladder.core.week.balance import on_board
from pine_ladder.core.week.template import template_week

USUAL_KIT = frozenset(
    (
        "barbell", "dumbbell", "kettlebell", "box", "rower", "rope", "wall", "medicine ball",
        "pull-up bar", "plate", "plates", "band", "bench", "pipe", "bike", "rings",
    )
)  # fmt: skip
"""Kit of a gym whose kit is not given."""
THERE = frozenset(("wall", "chair", "floor"))
"""Kit that is there without being listed."""
RUNS = (
    "run", "sprint", "shuttle run", "easy run", "backward run", "side shuffle", "broad jump",
    "burpee broad jump", "run in place", "high-knee run",
)  # fmt: skip
"""Movements that need room to run, and those called a run."""
TECHNICAL = (
    "snatch",
    "clean",
    "jerk",
    "muscle-up",
    "handstand",
    "pistol",
    "double-under",
    "overhead squat",
    "rope climb",
    "toes-to-bar",
    "get-up",
)
MANY_BOARDS = 10
"""From so many boards on, what never stands on them is not how the gym trains."""
NEVER_DONE, SELDOM_SEEN = 0.02, 0.5
"""How gladly a movement is chosen that the boards do not know, beside one they know once (2):
one that no gym does often, and one that most do."""
MACHINES = ("rower", "bike", "ski machine")
HARD_YESTERDAY, LIGHT_TODAY = 60.0, 30.0
"""The dose of a region from which it came hard, and the most it gets on the day after."""
STEPS = (4, 6, 8, 10, 12, 14, 16, 20, 24, 28, 32)
"""Usual sizes of bells and dumbbells in kg (common practice, no source)."""


class Own(NamedTuple):
    """A piece of the gym's own boards, and the board it is from."""

    piece: plan.Piece
    source: str


class Material:
    """Material of a draft: movements, kit and loads, pieces of boards."""

    def __init__(
        self, prompt: Prompt, library: Library, boards: Mapping[str, plan.Session]
    ) -> None:
        self.prompt, self.library = prompt, library
        self.boards = boards
        self.own = [
            Own(piece, name)
            for name, session in sorted(boards.items())
            for piece in session.pieces
            if piece.lines and piece.role is not plan.Role.REST
        ]
        self.used = Counter(
            name for session in boards.values() for name in on_board(session, library)
        )
        self.kit = None if prompt.kit is None else _folded(prompt.kit)

    @cached_property
    def hard_yesterday(self) -> frozenset[Region]:
        """Regions that the day before took hard, but for those of what is asked for today.

        Where either has no date, the last of the days before is taken for yesterday.
        """
        dated = [one for one in self.prompt.recent if one.date is not None]
        if self.prompt.date is not None and dated:
            return self._hard_on(self.prompt.recent, self.prompt.date - dt.timedelta(days=1))
        last = max(dated, key=lambda one: one.date or 0, default=None)
        last = last or (self.prompt.recent[-1] if self.prompt.recent else None)
        return frozenset() if last is None else self._hard((last,))

    @cached_property
    def hard_tomorrow(self) -> frozenset[Region]:
        """Regions that the day after, where it is written, will take hard; none without a date."""
        if self.prompt.date is None:
            return frozenset()
        return self._hard_on(self.prompt.ahead, self.prompt.date + dt.timedelta(days=1))

    def _hard_on(self, days: Sequence[Before], date: dt.date) -> frozenset[Region]:
        return self._hard([day for day in days if day.date == date])

    def _hard(self, days: Sequence[Before]) -> frozenset[Region]:
        """Regions that one of some days takes hard, but for those of what is asked for today."""
        doses = [dose_of_session(day.session, self.library) for day in days]
        asked = [*self.prompt.want]
        for wish in self.prompt.pieces:
            if wish.piece is not None and wish.whole:
                asked += on_board(plan.Session(pieces=(wish.piece,)), self.library)
        meant = {
            region
            for word in asked
            if (movement := self.library.find(word)) is not None
            for region, share in regions_of(movement).items()
            if share > 0.35
        }
        return frozenset(
            r
            for r in Region
            if r is not Region.ENGINE
            and r not in meant
            and any(dose.of(r) >= HARD_YESTERDAY for dose in doses)
        )

    @cached_property
    def days_since(self) -> dict[str, int]:
        """Training days since each movement came, 1 for the last day."""
        out: dict[str, int] = {}
        for ago, one in enumerate(reversed(self.prompt.recent), start=1):
            for name in on_board(one.session, self.library):
                out.setdefault(name, ago)
        return out

    @cached_property
    def allowed(self) -> tuple[Movement, ...]:
        """The movements that may come at all."""
        return tuple(movement for movement in self.library.movements if self.may_come(movement))

    @cached_property
    def allowed_in_pairs(self) -> tuple[Movement, ...]:
        """The movements that may come in sets with a long rest, where two share the kit."""
        pairs = -(-self.prompt.people // SHARERS)
        return tuple(
            movement for movement in self.library.movements if self.may_come(movement, pairs)
        )

    def may_come(self, movement: Movement, people: int | None = None) -> bool:
        """Whether the prompt allows a movement: its kit is there for so many, else for all who
        work at once; nobody runs, lands or does what is to be avoided against the wish.
        """
        prompt = self.prompt
        if not all(self.has(need, movement, people) for need in movement.kit):
            return False
        if prompt.no_running and runs(movement):
            return False
        if prompt.landings_max == 0 and lands(movement):
            return False
        if prompt.purpose is plan.Purpose.GRUNT and technical(movement):
            return False
        return not any(meets(word, movement) for word in prompt.avoid)

    def for_all(self, movement: Movement) -> bool:
        """Whether a movement may come where nobody shares: in a warm-up, alone in sets."""
        everybody = self.prompt.people
        return self.may_come(movement) and all(
            self.has(need, movement, everybody) for need in movement.kit
        )

    def has(self, need: str, movement: Movement, people: int | None = None) -> bool:
        """Whether there is enough of a kit for so many, else for all who work at once."""
        options = need.split(" or ")
        if any(option in THERE for option in options):
            return True
        if self.kit is None:
            return any(option in USUAL_KIT for option in options)
        return self.count(options) >= (people or self.at_once) * max(1, self.each(movement, need))

    def each(self, movement: Movement, need: str) -> int:
        """Return the number of a kit that one athlete holds."""
        return movement.implements if need.startswith(("dumbbell", "kettlebell")) else 1

    def count(self, options: Sequence[str]) -> int:
        """Return the number of any of some kit, all sizes together."""
        assert self.kit is not None
        return sum(n for name, n in self.kit.items() if name.startswith(tuple(options)))

    @property
    def at_once(self) -> int:
        """Athletes who work at once: all, or one of each team."""
        return -(-self.prompt.people // self.prompt.teams)

    def sizes(self, need: str) -> list[float]:
        """Sizes in kg of a kit that there are enough of, smallest first; none where not told."""
        if self.kit is None:
            return []
        found = []
        for name, count in self.kit.items():
            size = re.fullmatch(
                rf"(?:{'|'.join(map(re.escape, need.split(' or ')))}) (\d+(?:\.\d+)?) kg", name
            )
            if size and count >= min(self.at_once, 1):
                found.append(float(size[1]))
        return sorted(found)

    def load(self, movement: Movement, share: float = 1.0) -> plan.Load | None:
        """A load for work of many reps: of the sizes at hand, or the usual ones; by effort for a
        lift that nobody has tested. None for what is done without.
        """
        if movement.reference_kg is None:
            return None
        if "barbell" in movement.kit:
            if self.best_of(movement):
                return plan.Percent(low=5 * round(55 * share / 5))
            return plan.Effort(rpe=6)
        need = movement.kit[0] if movement.kit else ""
        wanted = movement.reference_kg * share
        sizes = self.sizes(need)
        if sizes:
            fitting = [kg for kg in sizes if kg <= wanted * 1.3] or sizes[:1]
            heavy = fitting[-1]
            light = next((kg for kg in reversed(sizes) if kg <= heavy * 0.75), heavy)
            values = (heavy,) if heavy == light else (heavy, light)
            return plan.Weight(values=values, unit="kg", count=1)
        heavy = nearest(wanted * 1.15)
        return plan.Weight(values=(heavy, nearest(heavy * 0.7)), unit="kg", count=1)

    def best_of(self, movement: Movement) -> bool:
        """Whether anybody has tested a lift, or the one that its percentages refer to."""
        return bool({movement.name, movement.parent} & set(self.prompt.bests))

    def weight(self, movement: Movement, rng: random.Random, chosen: Sequence[str] = ()) -> float:
        """How gladly a movement is chosen, by chance: those of the gym's boards, those that have
        not come for longest, those that most people can do in spite of their limits, and not again
        those that were `chosen` for the day already.
        """
        out = 1.0 + min(3, self.used[movement.name])
        if not self.used[movement.name]:
            few = len(self.boards) < MANY_BOARDS
            out *= SELDOM_SEEN if few and movement.name in usual_movements() else NEVER_DONE
        ago = self.days_since.get(movement.name)
        if self.prompt.style.repeats == "on purpose":
            ago = None  # What came lately may come again.
        out *= 1.5 if ago is None else min(1.5, 0.2 * ago)
        for limit, count in self.prompt.limits.items():
            if stresses(limit, movement.name):
                out *= 1 - 0.75 * min(1.0, count / self.prompt.people)
        out *= 0.15 ** chosen.count(movement.name)
        if self.wanted(movement):
            out *= 1e4
        # The largest of these is each with a chance as its weight (Efraimidis and Spirakis 2006).
        return float(rng.random() ** (1 / out))

    def wanted(self, movement: Movement) -> bool:
        """Whether a movement is one that is asked for."""
        return any(self.is_meant(word, movement) for word in self.prompt.want)

    def is_meant(self, word: str, movement: Movement) -> bool:
        """Whether a wanted word is this movement: by its name where it is one, else by its kind."""
        named = self.library.find(word)
        return movement.name == named.name if named else meets(word, movement)

    def rested(self, movement: Movement) -> bool:
        """Whether a movement loads no region that came hard yesterday."""
        shares = regions_of(movement)
        spared = self.hard_yesterday | self.hard_tomorrow
        if Region.LANDING in spared and lands(movement):
            return False
        return not any(shares.get(region, 0.0) > 0.35 for region in spared)


@cache
def usual_movements() -> frozenset[str]:
    """Names of movements that most gyms do often: those of the template's week, the rungs of the
    ladders, and what is done on machines (common practice, no source).
    """
    own = library()
    names = {name for text in template_week() for name in on_board(parse(text, own).session, own)}
    rungs = {name for ladder in own.ladders for name in ladder.rungs}
    machines = {movement.name for movement in own.movements if set(movement.kit) & set(MACHINES)}
    return frozenset(names | rungs | machines)


def nearest(kg: float) -> float:
    """The usual size nearest to a weight."""
    return float(min(STEPS, key=lambda step: abs(step - kg)))


def _folded(kit: Mapping[str, int]) -> dict[str, int]:
    """Kit by its name in small letters and the singular."""
    out: Counter[str] = Counter()
    for name, count in kit.items():
        out[" ".join(fold(word) for word in name.replace("boxes", "box").split())] += count
    return {_as_known(name): count for name, count in out.items()}


OTHER_WORDS = {
    "pull up bar": "pull-up bar",
    "pullup bar": "pull-up bar",
    "rig": "pull-up bar",
    "jump rope": "rope",
    "skipping rope": "rope",
    "med ball": "medicine ball",
    "wall ball": "medicine ball",
    "rowing machine": "rower",
    "air bike": "bike",
    "ring": "rings",
    "kb": "kettlebell",
    "db": "dumbbell",
}
"""Kit by other words that people have for it."""


def _as_known(name: str) -> str:
    """A kit as the library calls it, its size kept."""
    for word, known in OTHER_WORDS.items():
        if name == word or name.startswith(f"{word} "):
            return known + name[len(word) :]
    return name


def runs(movement: Movement) -> bool:
    """Whether a movement needs room to run."""
    far = (
        movement.patterns[0] is Pattern.ENGINE
        and movement.measure == "distance"
        and not movement.kit
    )
    return movement.name in RUNS or far


def lands(movement: Movement) -> bool:
    """Whether a movement has landings: jumps, hops and strides."""
    return impact(movement, 1.0, 1.0, movement.landings) > 0.01 or Pattern.JUMP in movement.patterns


def technical(movement: Movement) -> bool:
    """Whether a movement has to be learnt."""
    return any(word in movement.name for word in TECHNICAL)


def meets(word: str, movement: Movement) -> bool:
    """Whether a word of a wish is about a movement: its name or a part of it, a pattern, a region,
    its kit, or jumping, running and lifting overhead.
    """
    plain = fold(word)
    if plain in ("jump", "jumping", "landing", "impact", "plyometric"):
        return lands(movement) or "jump" in movement.name
    if plain in ("run", "running"):
        return runs(movement)
    if plain in ("overhead",):
        return "overhead" in movement.name or (
            any(
                part in movement.name
                for part in ("press", "jerk", "snatch", "thruster", "wall ball")
            )
            and "bench" not in movement.name
            and "floor" not in movement.name
        )
    if plain in {pattern.value for pattern in movement.patterns}:
        return True
    if any(REGION_OF.get(pattern) == plain for pattern in movement.patterns[:1]):
        return True
    names = [fold(name) for name in (movement.name, *movement.aliases)]
    if any(f" {plain} " in f" {name} " for name in names):
        return True
    return any(plain in fold(need).split(" or ") for need in movement.kit)
