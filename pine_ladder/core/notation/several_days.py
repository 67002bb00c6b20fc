"""Boards that tell several days one below the other, where a board is one day."""

from __future__ import annotations

import re
from collections.abc import Sequence

from pine_ladder.core import plan
from pine_ladder.core.notation.tokens import WHOLE_LINE

_DAYS = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
_NAMED = re.compile(
    r"\W*(?P<day>mon|tue|wed|thu|fri|sat|sun)(?:s|nes|rs|ur|urs)?(?:day)?\b[\s\d./:,–-]*"
    r"(?P<rest>\b(?:rest|off)(?:\s+day)?)?\W*",
    re.IGNORECASE,
)
CODE = "several-days"


def day_named(text: str) -> str:
    """The weekday that a line names and no more than its date or that it is a day of rest; empty
    where it says more, or none.

    >>> day_named("Tuesday 3/12"), day_named("WED: rest day"), day_named("Sunday long run")
    ('Tuesday', 'Wednesday', '')
    """
    match = _NAMED.fullmatch(text)
    if match is None:
        return ""
    return next(day for day in _DAYS if day.startswith(match["day"].lower())).title()


def several_days(typed: Sequence[str]) -> list[plan.Finding]:
    """A question on the line at which a second day begins: each answer keeps one of the days.

    None where the board names one day, or the same one again.
    """
    named = [(at, day) for at, line in enumerate(typed, start=1) if (day := day_named(line))]
    days = [day for _, day in named]
    if len(set(days)) < 2 or len(set(days)) < len(days):
        return []
    ends = [*(at for at, _ in named[1:]), len(typed) + 1]
    spans = [range(at, end) for (at, _), end in zip(named, ends, strict=True)]
    repairs = tuple(
        plan.Repair(label=f"{day} alone", edits=tuple(_blanked(typed, named[0][0], span)))
        for day, span in zip(days, spans, strict=True)
    )
    return [
        plan.Finding(
            code=CODE,
            severity="question",
            line=named[1][0],
            column=1,
            end_column=0,
            message=(
                f"{' and '.join(days[:2]) if len(days) == 2 else f'{len(days)} days'} stand on "
                "this board, and a board is one day. Copy the others to their own days, then keep "
                "one here."
            ),
            repairs=repairs,
        )
    ]


def _blanked(typed: Sequence[str], first: int, kept: range) -> list[plan.Edit]:
    """Edits that empty all lines from the first day on but those of the day that is kept."""
    return [
        plan.Edit(line=at, start=1, end=WHOLE_LINE, text="")
        for at in range(first, len(typed) + 1)
        if at not in kept and typed[at - 1].strip()
    ]
