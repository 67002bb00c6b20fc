"""Weeks of drafted days, and the warm-up of a day that is written."""

from __future__ import annotations

import datetime as dt
import random
from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.drafting.day import Draft, draft_day
from pine_ladder.core.drafting.edges import cool_down, first_round_loss, warm_up
from pine_ladder.core.drafting.material import Material
from pine_ladder.core.drafting.prompt import Before, Prompt
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse
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
        piece
        for piece in session.pieces
        if piece.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN, plan.Role.REST)
        and piece.lines
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


def purpose_of_day(number: int) -> plan.Purpose | None:
    """The purpose of a training day of a week, from 0, where nobody names one; None for any."""
    return DAY_PURPOSES[number % len(DAY_PURPOSES)]


def draft_week(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    days: int,
    seed: int,
) -> list[Draft]:
    """The days of a week, each drafted with those around it in mind; raises Refused.

    They begin on the prompt's date, else on the day after the last one before. Days that are
    written `ahead` are passed over.
    """
    last = max((one.date for one in prompt.recent if one.date), default=ANY_MONDAY)
    date = prompt.date or last + dt.timedelta(days=1)
    written = {day.date for day in prompt.ahead}
    recent = list(prompt.recent)
    out = []
    for number in range(days):
        purpose = prompt.purpose or purpose_of_day(number)
        while date in written:
            recent += [day for day in prompt.ahead if day.date == date]
            date += dt.timedelta(days=1)
        asked = prompt.model_copy(
            update={"purpose": purpose, "recent": tuple(recent), "date": date}
        )
        (made,) = draft_day(asked, library, boards, seed * 100 + number, 1)
        out.append(made)
        recent.append(Before(session=parse(made.text, library).session, date=date))
        date += dt.timedelta(days=1)
    return out
