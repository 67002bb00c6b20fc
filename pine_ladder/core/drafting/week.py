"""Weeks and cycles of drafted days, and the warm-up of a day that is written."""

from __future__ import annotations

import datetime as dt
import math
import random
from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.drafting.constraints import Constraint, Minutes
from pine_ladder.core.drafting.day import Draft, Reason, Refused, draft_day
from pine_ladder.core.drafting.edges import cool_down, first_round_loss, warm_up
from pine_ladder.core.drafting.material import Material
from pine_ladder.core.drafting.prompt import Before, Prompt
from pine_ladder.core.drafting.wishes import wish_of
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.printer import print_piece
from pine_ladder.core.plan import Frozen

ANY_MONDAY = dt.date(2001, 1, 1)
"""Days of a week without dates are told apart from here on."""
DAY_PURPOSES: tuple[plan.Purpose | None, ...] = (
    plan.Purpose.STRENGTH,
    plan.Purpose.HARD_ENGINE,
    None,
    plan.Purpose.EASY_ENGINE,
    plan.Purpose.GRUNT,
    plan.Purpose.POWER,
    plan.Purpose.EASY_ENGINE,
)
"""Purposes of the days of a week where none is given: hard and easy in turn (judgement)."""


class Edges(Frozen):
    """A warm-up and a cool-down as text; `loss` is how many times as long the first round takes."""

    warm_up: str
    cool_down: str
    loss: float


def edges_of(session: plan.Session, library: Library, minutes: float, seed: int) -> Edges:
    """The warm-up and the cool-down for a board; those it has already are passed over."""
    work = [
        one
        for one in session.pieces
        if one.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN, plan.Role.REST) and one.lines
    ]
    material = Material(Prompt(minutes=60), library, {})
    rng = random.Random(f"{seed}")
    before = warm_up(work, material, rng, minutes)
    after = cool_down(work, material, rng)
    return Edges(
        warm_up="\n\n".join(print_piece(one) for one in before),
        cool_down=print_piece(after),
        loss=round(first_round_loss(before, work, library), 3),
    )


def draft_week(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    days: int,
    seed: int,
) -> list[Draft]:
    """The days of a week, each drafted with those before it in mind; raises Refused."""
    last = max((one.date for one in prompt.recent if one.date), default=ANY_MONDAY)
    recent = list(prompt.recent)
    out = []
    for number in range(days):
        purpose = prompt.purpose or DAY_PURPOSES[number % len(DAY_PURPOSES)]
        asked = prompt.model_copy(update={"purpose": purpose, "recent": tuple(recent)})
        (made,) = draft_day(asked, library, boards, seed * 100 + number, 1)
        out.append(made)
        date = last + dt.timedelta(days=number + 1)
        recent.append(Before(session=parse(made.text, library).session, date=date))
    return out


class CycleDay(Frozen):
    """A day of a cycle: which week and day it is, what it stresses, and the draft itself."""

    week: int
    day: int
    stress: str
    text: str
    reasons: tuple[Reason, ...]
    constraints: tuple[Constraint, ...]
    minutes: Minutes


class Phase(Frozen):
    """A week of a cycle: sets, reps and percentage of the goal's lift."""

    stress: str
    sets: int
    reps: int
    percent: int
    tempo: str | None = None
    theme: plan.Theme = "build"


LIGHTER_EVERY = 4
"""Every so many weeks is a lighter one (common practice, no source)."""


def phases_of(weeks: int, school: str) -> list[Phase]:
    """The weeks of a cycle: slow, then heavy, then sharp, with a lighter one every fourth and the
    test in the last; in the undulating school volume and intensity come in turn.
    """
    out = []
    for week in range(1, weeks + 1):
        share = (week - 1) / max(1, weeks - 1)
        if week == weeks:
            out.append(Phase(stress="test", sets=5, reps=1, percent=90, theme="test"))
        elif week % LIGHTER_EVERY == 0:
            out.append(Phase(stress="lighter", sets=3, reps=5, percent=60, theme="deload"))
        elif school.startswith("undulating"):
            heavy = week % 2 == 0
            percent = 5 * round((78 + 8 * share if heavy else 66 + 6 * share) / 5)
            stress = "heavy" if heavy else "volume"
            out.append(Phase(stress=stress, sets=5, reps=3 if heavy else 6, percent=percent))
        elif share < 0.4:
            percent = 5 * round((65 + 10 * share) / 5)
            out.append(Phase(stress="slow", sets=4, reps=6, percent=percent, tempo="40X1"))
        elif share < 0.8:
            percent = 5 * round((74 + 12 * (share - 0.4)) / 5)
            out.append(Phase(stress="heavy", sets=5, reps=4, percent=percent))
        else:
            out.append(Phase(stress="sharp", sets=4, reps=2, percent=85))
    return out


def draft_cycle(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    weeks: int,
    days: int,
    school: str,
    seed: int,
) -> list[CycleDay]:
    """The days of a cycle towards the first lift that is wanted, week after week; raises Refused.

    Its first day of each week is the lift's, at that week's sets, reps and percentage; the test
    stands on the same day of the last week.
    """
    lift = next((word for word in prompt.want if library.find(word)), None)
    if lift is None:
        raise Refused("wanted: a cycle is towards a lift: name one of the library in want")
    tested = lift in prompt.bests
    recent = list(prompt.recent)
    out = []
    name = f"{lift} cycle"
    for week, phase in enumerate(phases_of(weeks, school), start=1):
        for day in range(1, days + 1):
            tempo = f", tempo {phase.tempo}" if phase.tempo else ""
            load = f"{phase.percent}%" if tested else f"RPE {8 if phase.percent >= 75 else 7}"
            rest = "3:00" if phase.percent >= 85 else "2:00"
            build = ", build" if phase.theme == "test" else ""
            text = f"{phase.sets} sets, rest {rest}{build}\n{phase.reps} {lift}{tempo} @ {load}"
            first = day == 1
            update: dict[str, object] = {
                "theme": phase.theme,
                "recent": tuple(recent),
                "want": prompt.want if first else (),
                "purpose": None if first else DAY_PURPOSES[day % len(DAY_PURPOSES)],
            }
            if first:
                update["pieces"] = (
                    wish_of({"role": "strength", "format": text}),
                    wish_of({"role": "conditioning", "format": ""}),
                )
                update["recent"] = ()
            asked = prompt.model_copy(update=update)
            (made,) = draft_day(asked, library, boards, seed * 1000 + week * 10 + day, 1)
            session = parse(made.text, library).session
            marked = session.model_copy(
                update={"cycle": plan.CycleWeek(name=name, week=week, weeks=weeks)}
            )
            out.append(
                CycleDay(
                    week=week,
                    day=day,
                    stress=phase.stress if first else "kept up",
                    text=print_session(marked),
                    reasons=made.reasons,
                    constraints=made.constraints,
                    minutes=made.minutes,
                )
            )
            date = ANY_MONDAY + dt.timedelta(days=7 * (week - 1) + math.ceil(7 * day / days) - 1)
            recent.append(Before(session=session, date=date))
    return out
