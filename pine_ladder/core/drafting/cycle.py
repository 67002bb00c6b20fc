"""Cycles of weeks towards a lift, a capacity or a test board: phases, and the days of each week.

Each week stresses one thing. In the linear school it goes from slow (or long) through heavy to
sharp; in the undulating school volume and intensity come in turn, so that neither is lost. Every
fourth week is lighter; the test stands in the last, on the day of the week that the goal had all
along (common practice, no source).
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterator, Mapping
from typing import Literal

from pine_ladder.core import plan
from pine_ladder.core.drafting.constraints import Constraint, Minutes
from pine_ladder.core.drafting.day import Refused, draft_day
from pine_ladder.core.drafting.prompt import Before, Prompt
from pine_ladder.core.drafting.reasons import Reason
from pine_ladder.core.drafting.week import ANY_MONDAY, purpose_of_day
from pine_ladder.core.drafting.wishes import Wish
from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.printer import print_piece
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import clock_text

School = Literal["linear", "undulating"]
WEEKS = (4, 12)
"""The fewest and the most weeks of a cycle."""
LIGHTER_EVERY = 4
"""Every so many weeks is a lighter one (common practice, no source)."""
TEST_DISTANCE_M, TEST_CALORIES = 2000, 60
"""The distance or calories of the test of a capacity, done for time."""


class Goal(Frozen):
    """The goal of a cycle; `piece` is the work of a test board, None for the other two."""

    kind: Literal["lift", "capacity", "board"]
    name: str
    piece: plan.Piece | None = None
    tested: bool = False
    """Whether somebody has a best of the lift: then its loads are percentages, else efforts."""


class Phase(Frozen):
    """A week of a cycle: what it stresses, its theme, and the goal's own work in one line.

    `percent` is of the lift's best; None where the goal is no lift.
    """

    stress: str
    work: str
    text: str
    percent: int | None = None
    theme: plan.Theme = "build"


class CycleDay(Frozen):
    """A day of a cycle: which week and day it is (from 1), what it stresses, and the draft."""

    week: int
    day: int
    stress: str
    text: str
    reasons: tuple[Reason, ...]
    constraints: tuple[Constraint, ...]
    minutes: Minutes


class Cycle(Frozen):
    """A cycle as it is asked for: its goal, weeks, training days a week, and school."""

    goal: Goal
    weeks: int
    days: int
    school: School = "linear"

    @property
    def name(self) -> str:
        """The name that stands in the headers of its days."""
        return f"{self.goal.name} cycle"

    @property
    def phases(self) -> tuple[Phase, ...]:
        """Its weeks in order."""
        return tuple(phase_of(self.goal, week, self) for week in range(1, self.weeks + 1))


def cycle_dates(start: dt.date, weekdays: tuple[int, ...], weeks: int) -> list[list[dt.date]]:
    """The dates of a cycle's days by week: some weekdays (0 is Monday), the first on or after the
    start. The day that comes first after the start is the first of every week.
    """
    days = sorted({start + dt.timedelta(days=(day - start.weekday()) % 7) for day in weekdays})
    return [[day + dt.timedelta(weeks=week) for day in days] for week in range(weeks)]


def school_of(word: str) -> School:
    """The school that a word names; linear for any other word."""
    return "undulating" if word.startswith("undulating") else "linear"


def goal_of(
    words: tuple[str, ...],
    library: Library,
    boards: Mapping[str, plan.Session],
    bests: Mapping[str, tuple[float, ...]],
) -> Goal:
    """The first of some words that names a board, a lift or a machine; raises Refused for none."""
    for word in words:
        for title, session in boards.items():
            name = session.title or title
            if word.lower() == name.lower():
                scored = [
                    piece
                    for piece in session.pieces
                    if piece.role in (plan.Role.CONDITIONING, plan.Role.STRENGTH) and piece.lines
                ]
                if scored:
                    return Goal(kind="board", name=name, piece=scored[-1])
        movement = library.find(word)
        engine = movement is not None and Pattern.ENGINE in movement.patterns
        if movement is not None and (not engine or movement.measure == "distance"):
            kind: Literal["lift", "capacity"] = "capacity" if engine else "lift"
            return Goal(kind=kind, name=movement.name, tested=movement.name in bests)
    raise Refused(
        "goal: a cycle leads to a lift, to a machine or a run, or to one of the gym's boards: "
        "name one of them"
    )


def phase_of(goal: Goal, week: int, cycle: Cycle) -> Phase:
    """A week of a cycle, from 1."""
    stress = _stress(week, cycle)
    same = [other for other in range(1, cycle.weeks) if _stress(other, cycle) == stress]
    # How far its stress has come: 0 in the first of the weeks that share it, 1 in the last.
    share = same.index(week) / max(1, len(same) - 1) if week in same else 1.0
    if goal.kind == "lift":
        return _lift(goal, stress, share)
    if goal.kind == "capacity":
        return _capacity(goal, stress, share)
    return _board(goal, stress, share)


def _stress(week: int, cycle: Cycle) -> str:
    """The stress of a week: test, lighter, and by the school volume and heavy or slow to sharp."""
    if week == cycle.weeks:
        return "test"
    if week % LIGHTER_EVERY == 0:
        return "lighter"
    if cycle.school == "undulating":
        return "heavier" if week % 2 == 0 else "volume"
    share = (week - 1) / max(1, cycle.weeks - 1)
    return "slow" if share < 0.4 else "heavy" if share < 0.8 else "sharp"


THEMES: Mapping[str, plan.Theme] = {"test": "test", "lighter": "deload"}


def _lift(goal: Goal, stress: str, share: float) -> Phase:
    """Sets, reps and percentage of a lift."""
    sets, reps, percent = {
        "test": (5, 1, 90),
        "lighter": (3, 5, 60),
        "volume": (5, 6, _fives(65 + 7 * share)),
        "heavier": (5, 3, _fives(80 + 5 * share)),
        "slow": (4, 6, _fives(65 + 5 * share)),
        "heavy": (5, 4, _fives(75 + 5 * share)),
        "sharp": (4, 2, 85),
    }[stress]
    rest = "3:00" if percent >= 85 else "2:00"
    load = f"{percent}%" if goal.tested else f"RPE {8 if percent >= 75 else 7}"
    tempo = ", tempo 40X1" if stress == "slow" else ""
    build = ", build" if stress == "test" else ""
    return Phase(
        stress=stress,
        work=f"{sets} × {reps} at {load}{' and up' if build else ''}{tempo}",
        text=f"{sets} sets, rest {rest}{build}\n{reps} {goal.name}{tempo} @ {load}",
        percent=percent,
        theme=THEMES.get(stress, "build"),
    )


def _fives(percent: float) -> int:
    return 5 * round(percent / 5)


EFFORTS = {"easy": "for: easy engine", "steady": "pace steady", "hard": "pace hard"}
"""Efforts as a heading writes them."""


def _capacity(goal: Goal, stress: str, share: float) -> Phase:
    """Work and rest on a machine or a run: long and easy first, then shorter and harder."""
    if stress == "test":
        amount = f"{TEST_CALORIES} cal" if "bike" in goal.name else f"{TEST_DISTANCE_M} m"
        return Phase(
            stress=stress,
            work=f"{amount} for time",
            text=f"for time\n{amount} {goal.name}",
            theme="test",
        )
    work_s, rest_s, rounds, pace = {
        "lighter": (180, 60, 3, "easy"),
        "slow": (240, 60, 4 + round(2 * share), "easy"),
        "volume": (240, 60, 4 + round(2 * share), "steady"),
        "heavy": (120, 60, 5 + round(3 * share), "steady"),
        "heavier": (120, 60, 5 + round(3 * share), "steady"),
        "sharp": (60, 120, 6, "hard"),
    }[stress]
    times = f"{clock_text(work_s)}/{clock_text(rest_s)} x {rounds}"
    return Phase(
        stress={"slow": "long", "heavy": "pace", "heavier": "pace"}.get(stress, stress),
        work=f"{rounds} × {clock_text(work_s)} with {clock_text(rest_s)} rest, {pace}",
        text=f"intervals {times}, {EFFORTS[pace]}, score done\n{goal.name}",
        theme=THEMES.get(stress, "build"),
    )


def _board(goal: Goal, stress: str, share: float) -> Phase:
    """A share of a test board's work, whole in the last week."""
    assert goal.piece is not None
    part = {
        "test": 1.0,
        "lighter": 0.5,
        "volume": 0.7 + 0.2 * share,
        "slow": 0.5 + 0.15 * share,
        "heavy": 0.7 + 0.2 * share,
        "heavier": 0.5 + 0.2 * share,
        "sharp": 0.9,
    }[stress]
    shown = goal.piece if stress == "test" else shortened(goal.piece, part)
    heading, *lines = print_piece(shown).split("\n")
    _, _, form = heading.partition(": ")
    told = "the whole test" if stress == "test" else f"about {round(100 * part, -1):.0f} % of it"
    return Phase(
        stress={"slow": "parts", "heavy": "longer parts", "heavier": "faster parts"}.get(
            stress, stress
        ),
        work=told,
        text="\n".join((form, *lines)),
        theme=THEMES.get(stress, "build"),
    )


def shortened(piece: plan.Piece, part: float) -> plan.Piece:
    """A piece with a part (0 to 1) of its work: of its length, its rounds, else its reps."""
    form = piece.format
    cap = {"cap_s": 60 * math.ceil(piece.cap_s * part / 60)} if piece.cap_s else {}
    if isinstance(form, plan.Amrap | plan.Emom) and not form.high_s:
        length = max(60, 60 * round(form.length_s * part / 60))
        return piece.model_copy(
            update={**cap, "format": form.model_copy(update={"length_s": length}), "target": None}
        )
    if isinstance(form, plan.ForTime) and (form.rounds or 1) > 1:
        rounds = max(1, round((form.rounds or 1) * part))
        return piece.model_copy(
            update={**cap, "format": form.model_copy(update={"rounds": rounds}), "target": None}
        )
    lines = tuple(
        line.model_copy(update={"tasks": tuple(_fewer(task, part) for task in line.tasks)})
        for line in piece.lines
    )
    return piece.model_copy(update={**cap, "lines": lines, "target": None})


def _fewer(task: plan.Task, part: float) -> plan.Task:
    """A task with a part of its reps; those in other measures stay."""
    versions = tuple(_fewer_reps(version, part) for version in task.versions)
    return task.model_copy(update={"versions": versions})


def _fewer_reps(version: plan.Exercise, part: float) -> plan.Exercise:
    amount = version.amount
    if not isinstance(amount, plan.Reps) or amount.high:
        return version
    fewer = amount.model_copy(update={"low": max(1, round(amount.low * part))})
    return version.model_copy(update={"amount": fewer})


def draft_cycle_day(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    cycle: Cycle,
    week: int,
    day: int,
    seed: int,
) -> CycleDay:
    """A day of a cycle: the first of each week is the goal's, the others keep the rest up.

    The last day before the test is easy. Raises Refused.
    """
    phase = cycle.phases[week - 1]
    first = day == 1
    update: dict[str, object] = {"theme": phase.theme, "want": (), "purpose": None}
    if first:
        update["pieces"] = _pieces(cycle.goal, phase)
    elif week == cycle.weeks - 1 and day == cycle.days:
        update["purpose"] = plan.Purpose.EASY_ENGINE
    else:
        update["purpose"] = purpose_of_day(day)
    asked = prompt.model_copy(update=update)
    number = seed * 1000 + week * 10 + day
    try:
        (made,) = draft_day(asked, library, boards, number, 1)
    except Refused:
        if not first:
            raise
        # The goal's day stands, even where the day before or after loads the same.
        alone = asked.model_copy(update={"recent": (), "ahead": ()})
        (made,) = draft_day(alone, library, boards, number, 1)
    session = parse(made.text, library).session
    marked = session.model_copy(
        update={"cycle": plan.CycleWeek(name=cycle.name, week=week, weeks=cycle.weeks)}
    )
    return CycleDay(
        week=week,
        day=day,
        stress=phase.stress if first else "kept up",
        text=print_session(marked),
        reasons=made.reasons,
        constraints=made.constraints,
        minutes=made.minutes,
    )


def _pieces(goal: Goal, phase: Phase) -> tuple[Wish, ...]:
    """The slots of the goal's day: a lift before other work, work for a board's own piece."""
    if goal.kind == "lift":
        return (
            _told(plan.Role.STRENGTH, phase.text),
            Wish(role=plan.Role.CONDITIONING),
        )
    role = plan.Role.CONDITIONING if goal.piece is None else goal.piece.role
    return (_told(role, phase.text),)


def _told(role: plan.Role, text: str) -> Wish:
    """A slot that is filled as it is told, in exact notation."""
    (piece,) = parse(f"## {role.value.capitalize()}: {text}\n").session.pieces
    return Wish(role=role, piece=piece, said=text.partition("\n")[0])


def draft_cycle(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    cycle: Cycle,
    seed: int,
) -> Iterator[CycleDay]:
    """The days of a cycle week after week, each with those before it in mind; raises Refused."""
    recent = list(prompt.recent)
    for week in range(1, cycle.weeks + 1):
        for day in range(1, cycle.days + 1):
            date = ANY_MONDAY + dt.timedelta(
                days=7 * (week - 1) + math.ceil(7 * day / cycle.days) - 1
            )
            asked = prompt.model_copy(update={"recent": tuple(recent), "date": date})
            made = draft_cycle_day(asked, library, boards, cycle, week, day, seed)
            recent.append(Before(session=parse(made.text, library).session, date=date))
            yield made
