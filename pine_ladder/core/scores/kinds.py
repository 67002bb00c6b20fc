"""Score kinds: which one a piece has, what counts in it, and a score as a record.

Every kind gives an `order_key` that is larger for the better score, so that ranking needs no
knowledge of the kind. Reading shorthand is in `pine_ladder.core.scores.shorthand`.
"""

from __future__ import annotations

from typing import Any, Literal, NamedTuple

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.clock import Segment, Window, Work, lower, walk
from pine_ladder.core.movements import library
from pine_ladder.core.notation.printer import exercise_text
from pine_ladder.core.plan import Frozen, ScoreKind, Seconds

CAPPED_KEY = -1_000_000.0
"""Below every finished time; the fewer reps left, the better."""
ABSENT = {"dns": "did not start", "dnf": "did not finish"}
"""Entries that stand on the sheet without a place."""


class Rounds(Frozen):
    """A score round by round: reps, seconds or kilograms of each."""

    unit: Literal["reps", "s", "kg"]
    numbers: tuple[float, ...]


class Score(Frozen):
    """A score as understood. `problems` say why it is refused; `reading` how it was rewritten.

    `rounds` is the score round by round where it was told so; `by_movement` the reps of each
    station's movement, where each interval was told. `doubt` says why it is unlikely.
    """

    kind: ScoreKind
    value: dict[str, Any]
    display: str
    order_key: float | None
    total_reps: int | None = None
    reading: str | None = None
    tier: int | None = None
    """The tier that the entry itself names."""
    rounds: Rounds | None = None
    by_movement: dict[str, int] = Field(default_factory=dict)
    doubt: str | None = None
    problems: tuple[str, ...] = ()


class Refused(Exception):
    """The entry cannot be; the message says why."""


def score_kind(piece: plan.Piece) -> ScoreKind | None:
    """How a piece is scored, or None when no score is kept.

    A declared kind wins. Warm-ups, cool-downs and work for quality keep none unless declared.
    """
    if piece.for_quality or piece.role is plan.Role.REST:
        return None
    if piece.score:
        return piece.score
    if piece.role in (plan.Role.WARM_UP, plan.Role.MOBILITY, plan.Role.COOL_DOWN):
        return None
    if piece.until_missed:
        return ScoreKind.STEP
    if piece.build:
        return ScoreKind.LOAD
    match piece.format:
        case plan.Amrap():
            whole = len(piece.blocks) < 2 and not is_filled(piece.lines)
            return ScoreKind.ROUNDS if whole else ScoreKind.TOTAL_REPS
        case plan.ForTime() | plan.Accumulate():
            return ScoreKind.TIME
        case plan.Tabata():
            return ScoreKind.TOTAL_REPS
        case plan.Every() | plan.Emom() if _fills(piece):
            return ScoreKind.TOTAL_REPS
    return ScoreKind.LOAD if piece.role is plan.Role.STRENGTH and _lifts(piece) else None


def _lifts(piece: plan.Piece) -> bool:
    """Whether sets of a weight are done: what athletes write down of them is the load."""
    weights = plan.Weight | plan.Percent | plan.Bodyweight | plan.Effort | plan.Feel
    exercises = [
        part
        for line in piece.lines
        for task in line.tasks
        for part in (task.versions[0], *task.versions[0].parts)
    ]
    return any(
        isinstance(exercise.load, weights) or _is_a_lift(exercise.movement)
        for exercise in exercises
    )


def _is_a_lift(name: str) -> bool:
    movement = library().find(name)
    return movement is not None and movement.measure == "reps" and "barbell" in movement.kit


def _fills(piece: plan.Piece) -> bool:
    return fills_any(piece.lines)


def counted(exercise: plan.Exercise, grow: int, round_: int, tier: int, track: int) -> int:
    """Reps that one exercise of a round counts for."""
    sides = 2 if exercise.side is plan.Side.EACH else 1
    match exercise.amount:
        case plan.Reps(low=low, grow=own):
            return sides * max(0, low + (own + grow) * (round_ - 1))
        case plan.Scheme(values=values, unit="reps"):
            return sides * values[min(round_, len(values)) - 1]
        case plan.Calories(calories=calories):
            return calories[min(track, len(calories) - 1)]
        case plan.Distance() | plan.Duration():
            return 1
    return 0


def reps_in_round(piece: plan.Piece, round_: int = 1, tier: int = 0, track: int = 0) -> int:
    """Reps of one round of a tier's version: a side counts, a distance or a hold counts as one.

    `round_` is 1-based; a ladder inside an AMRAP has a bigger round each time.
    """
    grow = piece.grow_reps or 0
    return sum(
        counted(task.version(tier), grow, round_, tier, track)
        for line in piece.lines
        for task in line.tasks
    )


def reps_of_round(piece: plan.Piece, round_: int, tier: int = 0, track: int = 0) -> int:
    """Reps of one round of a piece, by the heading's scheme where it has one."""
    scheme = piece.format.scheme if isinstance(piece.format, plan.ForTime) else ()
    if not scheme:
        return reps_in_round(piece, round_, tier, track)
    total = 0
    for line in piece.lines:
        for task in line.tasks:
            version = task.version(tier)
            if version.amount is None:
                sides = 2 if version.side is plan.Side.EACH else 1
                total += sides * scheme[min(round_, len(scheme)) - 1]
            else:
                total += counted(version, piece.grow_reps or 0, round_, tier, track)
    return total


def reps_in_all(piece: plan.Piece, tier: int = 0, track: int = 0) -> int | None:
    """Reps of a piece done for time, buy-in and cash-out with it; None where it has no end."""
    if not isinstance(piece.format, plan.ForTime):
        return None
    ends = plan.Block(lines=(*piece.buy_in, *piece.cash_out))
    once = piece.model_copy(update={"blocks": (ends,), "grow_reps": None})
    rounds = len(piece.format.scheme) or piece.format.rounds or own_rounds(piece)
    return reps_in_round(once, 1, tier, track) + sum(
        reps_of_round(piece, r, tier, track) for r in range(1, rounds + 1)
    )


def own_rounds(piece: plan.Piece) -> int:
    """Rounds that a line's own scheme of numbers asks for; 1 where there is none."""
    amounts = [task.versions[0].amount for line in piece.lines for task in line.tasks]
    return max((len(a.values) for a in amounts if isinstance(a, plan.Scheme)), default=1)


class Interval(NamedTuple):
    """A stretch of the clock that is counted on its own: its length and its lines."""

    length_s: Seconds
    lines: tuple[plan.Line, ...]

    @property
    def label(self) -> str:
        """Its movements, in a word or two."""
        tasks = [task.versions[0] for line in self.lines for task in line.tasks]
        counted = [x for x in tasks if isinstance(x.amount, plan.Max | plan.Trips)] or tasks
        return " + ".join(x.movement or exercise_text(x) for x in counted)


def counted_intervals(piece: plan.Piece) -> tuple[Interval, ...]:
    """The intervals a score may be told by: filled windows, else every stretch of work.

    Partners who alternate count the windows of the first of them.
    """
    found = [
        Interval(segment.length_s or 0, leaf.lines)
        for segment, leaf in walk(lower(piece))
        if isinstance(leaf, Work | Window) and is_counted(segment)
    ]
    filled = tuple(one for one in found if fills_any(one.lines))
    return filled or tuple(found)


def intervals_left_open(piece: plan.Piece) -> int:
    """How many more intervals the board leaves to the coach: those of a range beyond its lower end,
    `x 4-5` or `EMOM 12:00-16:00`.
    """
    match piece.format:
        case (
            plan.Every(rounds=int(low), high=int(high)) | plan.Intervals(rounds=low, high=int(high))
        ):
            times = (high - low) / low
        case plan.Emom(length_s=low, high_s=int(high)):
            times = (high - low) / low
        case plan.Tabata(high=int(high)):
            times = high - 1
        case _:
            return 0
    return round(len(counted_intervals(piece)) * times)


def is_counted(segment: Segment) -> bool:
    """Whether a stretch of the clock may be counted on its own; partners count with the first."""
    return bool(segment.kind == "work" and (segment.member or 1) == 1 and segment.length_s)


def is_filled(lines: tuple[plan.Line, ...]) -> bool:
    """Whether one task is all there is to fill a time with, `max burpee`: it has no rounds."""
    tasks = [task.versions[0] for line in lines for task in line.tasks]
    if len(tasks) != 1 or any(line.is_rest for line in lines):
        return False
    if tasks[0].parts and tasks[0].amount is None:
        return False
    return isinstance(tasks[0].amount, plan.Max | plan.Trips | None)


def fills_any(lines: tuple[plan.Line, ...]) -> bool:
    """Whether any task of the lines is as many as possible."""
    return any(
        isinstance(task.versions[0].amount, plan.Max | plan.Trips)
        for line in lines
        for task in line.tasks
    )
