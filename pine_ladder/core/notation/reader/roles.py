"""The role of a piece that has none of its own, by what is done in it and where it stands."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from pine_ladder.core import plan
from pine_ladder.core.movements import Movement, Pattern
from pine_ladder.core.notation.reader.asides import PRACTICE
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.work import Work
from pine_ladder.core.plan import Role

SKILLS = ("handstand", "double-under", "muscle-up", "rope climb", "pistol")
"""Words of movements that are practised apart (common practice, no source)."""
TRUNK = ("back extension", "superman", "hanging leg raise", "hanging knee raise", "toes-to-bar")
"""Movements that are for the trunk among others that are, and for more elsewhere."""
WARM_S = 900
"""Seconds of steady work from which on it is no warm-up."""
TRAINS_S = 720
"""Seconds on a machine at the end, not said to be easy, from which on they are conditioning."""
LONGEST_COOL_S = 900
"""Seconds of easy engine work beyond which it is trained, and no cool-down."""
FAR_M = 2000
"""Metres in one go from which on they are no warm-up."""
PAUSE_S = 60
"""Rest between rounds from which on loaded work without any cardio in it is strength."""
FEW = 3
"""Lifts in a window up to which it is strength."""
_BEGINS = re.compile(
    r"\W*(?:we(?:'ll)?\s+)?(?:start|begin|open)(?:s|ing)?\s+(?:off\s+)?with\b", re.I
)
"""Words that open a class: `Start with two rounds of …`."""
_EASILY = re.compile(
    r"\b(?:jog|easy|easily|light(?:ly)?|gentle|march|arm circles?|stretch(?:es|ing)?)\b", re.I
)
_MAIN = re.compile(r"\W*(?:the\s+)?main\b(?!\s+event)", re.IGNORECASE)
"""A part that is said to be the day's main one, and not what for."""
_HARD = re.compile(r"\bmax\b|\bhard\b", re.IGNORECASE)
_SOFT_WORDS = ("stretch", "pose", "foam", "breath", "walk", "on your back")
_SETS, _STEADY = (plan.Sets,), (plan.Rounds, plan.Continuous)


@dataclass(frozen=True)
class Place:
    """Position of a piece in the session: its number (from 0) among so many."""

    at: int
    of: int

    @property
    def first(self) -> bool:
        """The first of several."""
        return self.at == 0 and self.of > 1

    @property
    def last(self) -> bool:
        """The last of several."""
        return self.at == self.of - 1 and self.of > 1


def role_of(part: Part, main: Sequence[Work], form: plan.Format, place: Place) -> Role:
    """The role that was said, or what the work is most likely for."""
    if part.role == "conditioning" and _MAIN.match(part.opening):
        return _by_work(part, main, form, place)  # `main: deadlift 3x3 @ 80 %`
    if part.role and part.role != "finisher":
        return Role(part.role)
    if part.role != "finisher" and PRACTICE.search(part.opening) and isinstance(form, _STEADY):
        return Role.SKILL  # `double-unders, practice 5 min`
    return _at_the_ends(part, main, form, place) or _by_work(part, main, form, place)


def other_roles(part: Part, role: Role, form: plan.Format, place: Place) -> tuple[Role, ...]:
    """Roles a piece without one may have as well as that it was given; none where one is likelier.

    Nobody said it of a finisher, of lifts in windows without an effort, of lifts that come first.
    """
    if part.role and part.role != "finisher":
        return ()
    if part.role == "finisher":
        return tuple(
            one for one in (Role.CONDITIONING, Role.CORE, Role.STRENGTH) if one is not role
        )
    windows = isinstance(form, plan.Every | plan.Emom)
    lifts = any(work.known and work.known.reference_kg for work in part.works)
    told = any(isinstance(work.load, _EFFORT) for work in part.works)
    if windows and role is Role.STRENGTH and not told:
        return (Role.CONDITIONING,)
    if place.first and role is Role.WARM_UP and not _EASILY.search(part.opening):
        if lifts:
            return (Role.STRENGTH,)
        soft = all(work.known is None or _loosens(work.known) for work in part.works)
        return (Role.CONDITIONING,) if part.works and not soft else ()
    return ()


def _loosens(move: Movement) -> bool:
    return move.easy or Pattern.MOBILITY in move.patterns


def _moves(main: Sequence[Work]) -> list[Movement]:
    return [work.known for work in main if work.known is not None]


def trains_the_trunk(works: Sequence[Work]) -> bool:
    """Whether works are for the trunk and nothing else."""
    moves = _moves(works)
    return len(moves) == len(works) > 0 and all(map(_of_the_trunk, moves))


def _of_the_trunk(move: Movement) -> bool:
    return _all([move], Pattern.BRACE, Pattern.MOBILITY) or move.name in TRUNK


def _all(moves: Sequence[Movement], *patterns: Pattern) -> bool:
    return bool(moves) and all(set(move.patterns) & set(patterns) for move in moves)


def _at_the_ends(part: Part, main: Sequence[Work], form: plan.Format, place: Place) -> Role | None:
    """Easy or loose work before all else is a warm-up, after all else a cool-down."""
    begun = place.first and place.of > 1 and isinstance(form, plan.Rounds)
    if begun and _BEGINS.match(part.opening) and not part.facts.score:
        return Role.WARM_UP
    if place.of <= 2 or part.facts.score or not isinstance(form, _STEADY):
        return None
    weighed = any(isinstance(work.load, plan.Percent | plan.Weight) for work in main)
    long = isinstance(form, plan.Continuous) and form.length_s > WARM_S
    raced = any(work.most or isinstance(work.amount, plan.Max) for work in main)
    far = any(
        isinstance(work.amount, plan.Distance) and work.amount.metres[0] >= FAR_M for work in main
    )
    long = long or (far and len(main) == 1)
    if (
        place.first
        and not raced
        and (_EASILY.search(part.opening) or not (part.facts.cap or long or weighed))
    ):
        return Role.WARM_UP
    if part.role == "finisher" or _HARD.search(part.opening):
        return None
    engine = any(Pattern.ENGINE in move.patterns for move in _moves(main))
    length_s = form.length_s if isinstance(form, plan.Continuous) else 0
    if engine and length_s >= TRAINS_S and not _EASILY.search(part.opening):
        return None
    if engine and length_s > LONGEST_COOL_S:
        return None
    if place.last and isinstance(form, plan.Continuous):
        return Role.COOL_DOWN
    return None


def _by_work(part: Part, main: Sequence[Work], form: plan.Format, place: Place) -> Role:
    """The role by the patterns of the movements and the format they are done in."""
    moves, names = _moves(main), [work.name.lower() for work in main]
    if isinstance(form, plan.Accumulate) and part.alone:
        return Role.SKILL
    raced = isinstance(form, plan.Amrap | plan.ForTime | plan.Tabata) or part.facts.form == "death"
    soft = sum(Pattern.MOBILITY in move.patterns for move in moves) * 2 > len(moves)
    told = bool(names) and all(any(word in name for word in _SOFT_WORDS) for name in names)
    if (soft or told) and not raced:
        if place.last:
            return Role.COOL_DOWN
        return Role.WARM_UP if place.first else Role.MOBILITY
    braced = any(Pattern.BRACE in move.patterns for move in moves)
    fast = isinstance(form, plan.Amrap | plan.ForTime)
    if braced and all(map(_of_the_trunk, moves)) and not fast:
        return Role.CORE
    if isinstance(form, _SETS) and not _all(moves, Pattern.ENGINE):
        jumps = all(move.patterns == (Pattern.JUMP,) for move in moves)
        return Role.POWER if moves and jumps else Role.STRENGTH
    engine = any(Pattern.ENGINE in move.patterns for move in moves)
    alone = len({work.name for work in main}) == 1
    several = 1 if alone else sum(not work.joined for work in main)
    windows = isinstance(form, plan.Every | plan.Emom) and several <= FEW and not engine
    if windows and not raced and _lifts(part, main):
        return Role.STRENGTH
    lifts = bool(moves) and all(move.parent or move.reference_kg for move in moves)
    if isinstance(form, plan.Rounds) and lifts and _loaded(part, main):
        return Role.STRENGTH
    if isinstance(form, plan.Rounds) and _steps_up(main):
        return Role.STRENGTH
    eased = part.facts.quality and isinstance(form, plan.Rounds) and not engine and moves
    if eased and place.of > 1 and not all(move.patterns == (Pattern.JUMP,) for move in moves):
        return Role.CORE if sum(map(_of_the_trunk, moves)) * 2 > len(moves) else Role.STRENGTH
    paused = part.facts.rest and part.facts.rest[0] >= PAUSE_S
    weighed = any(isinstance(work.load, plan.Weight) for work in main)
    tiring = any(set(move.patterns) & {Pattern.ENGINE, Pattern.JUMP} for move in moves)
    if isinstance(form, plan.Rounds) and paused and weighed and moves and not tiring:
        return Role.STRENGTH
    easily = bool(_EASILY.search(part.opening)) or (
        bool(moves) and all(move.easy for move in moves)
    )
    rests = bool(part.facts.rest) and isinstance(form, plan.Rounds)
    long = isinstance(form, plan.Continuous) and form.length_s > LONGEST_COOL_S and engine
    if easily and not rests and not long and isinstance(form, _STEADY) and place.of > 1:
        ends = {place.first: Role.WARM_UP, place.last: Role.COOL_DOWN}
        return ends.get(True, Role.CONDITIONING)
    practised = any(skill in name for name in names for skill in SKILLS)
    if isinstance(form, plan.Accumulate) and practised and not place.last:
        return Role.SKILL
    return Role.CONDITIONING


FEWEST_SETS = 3
"""Sets of one lift, each with its load, from which on a piece is for strength."""


def _steps_up(main: Sequence[Work]) -> bool:
    """Whether a lift stands in several sets with a load each: `5 @ 70, 3 @ 80, 1 @ 90`."""
    sets = [work.name for work in main if work.load is not None and work.known]
    return any(sets.count(name) >= FEWEST_SETS for name in set(sets))


MOST_REPS = 8
"""Reps of a set of one of several lifts that windows are given for, beyond which they are work."""


def _lifts(part: Part, main: Sequence[Work]) -> bool:
    """Whether windows are for lifting: a load told by effort, or lifts and nothing else."""
    alone = all(
        work.known is not None and work.known.reference_kg for work in main if not work.parts
    )
    effort = part.facts.builds or any(isinstance(work.load, _EFFORT) for work in main)
    many = any(isinstance(work.amount, plan.Reps) and work.amount.low > MOST_REPS for work in main)
    if len(main) > 1 and many and not effort:
        return False  # `10 deadlifts and 12 presses every 4 min` are no sets of a lift.
    return _loaded(part, main) and (alone or any(isinstance(work.load, _EFFORT) for work in main))


_EFFORT = plan.Percent | plan.Effort | plan.Feel


def _loaded(part: Part, main: Sequence[Work]) -> bool:
    """Whether it is done with loads that are told by effort, or is a lift."""
    return part.facts.builds or any(
        isinstance(work.load, _EFFORT)
        or (work.known is not None and work.known.reference_kg and work.known.parent)
        for work in main
    )
