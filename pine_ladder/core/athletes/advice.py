"""What keeps a session's intent for one athlete: another tier, an easier rung; and what to ask of
someone the gym knows nothing of yet.

An athlete is advised only where their predicted result lies outside the intent. Intent is the
coach's target where the board has one; else what an ordinary member of the first tier does with the
piece as written, and half as much more or less of it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, athletes
from pine_ladder.core.movements import Group, Library, Movement
from pine_ladder.core.notation.printer import exercise_text
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.pace.testrun import result_words, test_run
from pine_ladder.core.plan import Frozen, ScoreKind
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import clock_text, number_text

NEAR = 1.5
"""Without a target, results within this factor of the ordinary one keep the intent (judgement)."""
LATE = 0.2
"""More windows than this share not done in time, and the minute is not what was meant."""
WORTH = 0.1
"""Nobody is scaled for less than so much (log) beside the intent (judgement)."""
CLOSER = 0.6
"""What does not reach the intent is offered where it leaves less than this share of the way."""
RUNGS = 2
"""Rungs down a ladder that are tried."""

Own = Callable[[Member], plan.Piece]
"""The piece in one athlete's versions."""


class Intent(NamedTuple):
    """What a piece is for, as a range of rounds, reps or seconds; `said` in words."""

    of: Literal["rounds", "reps", "time"]
    low: float
    high: float
    said: str


class Advice(Frozen):
    """What keeps the intent for an athlete: a tier by its index, or a movement's rung.

    `before` and `after` are their results in words; `intent` says what is aimed for. `keeps` is
    false where the way comes nearer without reaching it.
    """

    tier: int | None = None
    movement: str = ""
    instead: str = ""
    text: str = ""
    before: str
    after: str
    intent: str
    keeps: bool = True


class Question(Frozen):
    """A number that would tell most of someone new: a best in kg, reps or seconds in a row."""

    movement: str
    of: Literal["best", "reps", "seconds"]


@lru_cache(maxsize=256)
def intent_of(piece: plan.Piece, library: Library) -> Intent | None:
    """The intent of a piece; None where nothing but the coach could say what it is."""
    target = piece.target
    if target is not None:
        said = _range_words(target.unit, target.low, target.high)
        return Intent(target.unit, target.low, target.high, said)
    kind = score_kind(piece)
    if kind not in (ScoreKind.ROUNDS, ScoreKind.TIME) or piece.teams is not None:
        return None
    middle = test_run(piece, library).tiers[0]
    of: Literal["rounds", "time"] = "time" if kind is ScoreKind.TIME else "rounds"
    found = middle.time_s if of == "time" else middle.result
    if found is None or found.p50 <= 0:
        return None
    return Intent(of, found.p50 / NEAR, found.p50 * NEAR, f"about {result_words(kind, found.p50)}")


def _range_words(unit: str, low: float, high: float) -> str:
    if unit == "time":
        return f"{clock_text(low)}–{clock_text(high)}"
    return f"{number_text(round(low, 1))}–{number_text(round(high, 1))} {unit}"


def off_by(intent: Intent | None, done: Run, at: int = 0) -> float:
    """How far an athlete's run lies outside the intent: 0 within it; the log of how much too slow
    (above 0) or too quick (below); infinite where something is beyond them.
    """
    if any(mask[at] for mask in done.unable.values()):
        return math.inf
    late = [not finished[at] for *_, finished in done.windows]
    if late and np.mean(late) > LATE:
        return float(np.mean(late))
    if intent is None:
        return 0.0
    if intent.of == "time":
        number, slow = float(done.time_s[at]), 1
    else:
        kinds = {"rounds": ScoreKind.ROUNDS, "reps": ScoreKind.TOTAL_REPS}
        if done.kind is not kinds[intent.of]:
            return 0.0
        number, slow = float(done.result[at]), -1
    if number <= 0:
        return math.inf
    # What is told in whole numbers and tenths is judged by them.
    number = round(number, 1)
    if number < intent.low:
        return slow * math.log(number / intent.low)
    return slow * math.log(number / intent.high) if number > intent.high else 0.0


def told(done: Run, at: int = 0) -> str:
    """One athlete's result in words, and what of it cannot be done."""
    beyond = [name for name, mask in done.unable.items() if mask[at]]
    if beyond:
        return f"no {beyond[0]} yet"
    late = [not finished[at] for *_, finished in done.windows]
    if late and np.mean(late) > LATE:
        return f"{sum(late)} of {len(late)} windows not done in time"
    if done.kind in (None, ScoreKind.DONE):
        return "done in time" if late else clock_text(float(done.time_s[at]))
    return result_words(done.kind, float(done.result[at]))


def together(
    pieces: Sequence[plan.Piece], members: Sequence[Member], library: Library
) -> list[tuple[Run, int]]:
    """Each athlete's run of their own piece, and their place in it: those whose pieces are the
    same do it together.
    """
    groups: dict[plan.Piece, list[int]] = {}
    for at, piece in enumerate(pieces):
        groups.setdefault(piece, []).append(at)
    out: dict[int, tuple[Run, int]] = {}
    for piece, places in groups.items():
        done = run(piece, athletes([members[at] for at in places], library), library, 0)
        out.update({at: (done, row) for row, at in enumerate(places)})
    return [out[at] for at in range(len(pieces))]


class _Way(NamedTuple):
    piece: plan.Piece
    tier: int | None
    movement: str = ""
    instead: str = ""
    text: str = ""


def _ways(
    member: Member, piece: plan.Piece, own: Own, off: float, tiers: int, library: Library
) -> Iterator[_Way]:
    """Other versions for an athlete, the smallest change first."""
    if off > 0:
        yield from _rungs(own(member), piece, member, library)
        further = range(member.tier + 1, tiers)
    else:
        further = range(member.tier - 1, -1, -1)
    for tier in further:
        yield _Way(own(member.model_copy(update={"tier": tier})), tier)


def _rungs(mine: plan.Piece, piece: plan.Piece, member: Member, library: Library) -> Iterator[_Way]:
    """The athlete's piece with one movement a rung or two down its ladder."""
    written = [
        task.versions[0].movement
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out)
        for task in line.tasks
    ]
    place = 0
    for line in (*mine.buy_in, *mine.lines, *mine.cash_out):
        for task in line.tasks:
            exercise, movement = task.versions[0], library.find(task.versions[0].movement)
            ladder = library.ladder_of(movement.name) if movement else None
            key, place = written[place], place + 1
            if movement is None or ladder is None or key in member.overrides:
                continue
            at = ladder.rungs.index(movement.name)
            for rung in reversed(ladder.rungs[max(0, at - RUNGS) : at]):
                lower = library.find(rung)
                if lower is None or lower.measure != movement.measure:
                    continue
                loaded = lower.reference_kg is not None and movement.reference_kg is not None
                # Said without its number: every line keeps its own.
                said = _eased(exercise, rung, loaded).model_copy(update={"amount": None})
                changed = _exchanged(mine, movement.name, rung, loaded)
                yield _Way(changed, None, key, rung, exercise_text(said))


def _eased(exercise: plan.Exercise, rung: str, loaded: bool) -> plan.Exercise:
    load = exercise.load if loaded else None
    return exercise.model_copy(update={"movement": rung, "load": load})


def _exchanged(piece: plan.Piece, name: str, rung: str, loaded: bool) -> plan.Piece:
    """The piece with a rung in place of a movement wherever that stands."""

    def task(one: plan.Task) -> plan.Task:
        exercise = one.versions[0]
        if exercise.movement != name:
            return one
        return plan.Task(versions=(_eased(exercise, rung, loaded),))

    def line(one: plan.Line) -> plan.Line:
        return one.model_copy(update={"tasks": tuple(map(task, one.tasks))})

    return piece.model_copy(
        update={
            "buy_in": tuple(map(line, piece.buy_in)),
            "blocks": tuple(
                block.model_copy(update={"lines": tuple(map(line, block.lines))})
                for block in piece.blocks
            ),
            "cash_out": tuple(map(line, piece.cash_out)),
        }
    )


def advise(
    piece: plan.Piece,
    members: Sequence[Member],
    runs: Sequence[tuple[Run, int]],
    own: Own,
    library: Library,
    tiers: int,
) -> list[Advice | None]:
    """For each athlete what would keep the intent, or come nearest to it; None where their own
    version does, or nothing that is known helps.
    """
    intent = intent_of(piece, library)
    off = [off_by(intent, *run) for run in runs]
    tried: list[tuple[int, _Way]] = [
        (at, way)
        for at, member in enumerate(members)
        if abs(off[at]) > WORTH
        for way in _ways(member, piece, own, off[at], tiers, library)
    ]
    done = together([way.piece for _, way in tried], [members[at] for at, _ in tried], library)
    best: dict[int, tuple[float, Advice]] = {}
    for (at, way), one in zip(tried, done, strict=True):
        left = abs(off_by(intent, *one))
        if left >= min(best.get(at, (math.inf, None))[0], CLOSER * abs(off[at])):
            continue
        advice = Advice(
            tier=way.tier,
            movement=way.movement,
            instead=way.instead,
            text=way.text,
            before=told(*runs[at]),
            after=told(*one),
            intent=intent.said if intent else "every window done in time",
            keeps=left == 0,
        )
        if at not in best or best[at][0] > 0:
            best[at] = (left, advice)
    return [best[at][1] if at in best else None for at in range(len(members))]


MOST_QUESTIONS = 3
HARD_SETS = 15
"""Movements of which an ordinary member does no more than this in a row are asked about."""


def questions(tasks: Sequence[plan.Task], member: Member, library: Library) -> tuple[Question, ...]:
    """What to ask an athlete whose scores have told nothing yet, and who has not said it: at most
    three numbers, those of the lifts and of the skills on the board.
    """
    if member.factors:
        return ()
    asked: list[Question] = []
    for task in tasks:
        exercise = task.version(member.tier)
        movement = library.find(exercise.movement)
        if movement is None:
            continue
        one = _question(movement, exercise, member, library)
        if one is not None and one not in asked:
            asked.append(one)
    return tuple(asked[:MOST_QUESTIONS])


def _question(
    movement: Movement, exercise: plan.Exercise, member: Member, library: Library
) -> Question | None:
    lift = library.find(movement.parent or movement.name) or movement
    if isinstance(exercise.load, plan.Weight | plan.Percent) and lift.reference_kg:
        known = member.bests
        alike = [library.find(name) for name in known]
        told_by = any(one and one.patterns[0] == lift.patterns[0] for one in alike)
        if "barbell" not in lift.kit or lift.name in known or movement.name in known or told_by:
            return None
        return Question(movement=lift.name, of="best")
    hard = movement.in_a_row is not None and movement.in_a_row <= HARD_SETS
    own_body = movement.groups[:1] in ((Group.PUSH,), (Group.PULL,)) or movement.measure == "time"
    if movement.name in member.profile.longest or not (own_body and movement.in_a_row):
        return None
    ladder = library.ladder_of(movement.name)
    if ladder is not None and ladder.name in member.profile.rungs:
        return None
    if movement.measure == "time":
        return Question(movement=movement.name, of="seconds") if ladder else None
    return Question(movement=movement.name, of="reps") if hard else None
