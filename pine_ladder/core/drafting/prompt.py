"""The prompt of a draft, read from a table of TOML or JSON."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from typing import Any, get_args

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.day.training_style import TrainingStyle
from pine_ladder.core.drafting.wishes import Wish, wish_of
from pine_ladder.core.movements.library import LIMITS
from pine_ladder.core.notation import words
from pine_ladder.core.plan import Frozen

MINUTES, PEOPLE = (10, 180), (1, 100)
_PURPOSES = {
    "sprint": plan.Purpose.POWER,
    "speed": plan.Purpose.POWER,
    "heavy": plan.Purpose.STRENGTH,
    "technique": plan.Purpose.SKILL,
    "engine": plan.Purpose.HARD_ENGINE,
    "conditioning": plan.Purpose.HARD_ENGINE,
    "aerobic": plan.Purpose.EASY_ENGINE,
    "recovery": plan.Purpose.EASY_ENGINE,
    "hard work": plan.Purpose.GRUNT,
    "simple": plan.Purpose.GRUNT,
    "push and pull": plan.Purpose.SAME_PATTERN,
}
"""Other words for a purpose, beside its own."""


class Before(Frozen):
    """Another day, held or written, by its board; `date` None where nothing tells it."""

    session: plan.Session
    date: dt.date | None


class Prompt(Frozen):
    """What is asked for. `kit` None is a gym that lacks nothing usual; `limits` and `levels` are
    how how many people have each; `pieces` are the slots wished for, none where the draft chooses.

    `recent` are days before, `ahead` days after that are written already. Without a `date` the last
    of `recent` is taken for the day before.
    """

    purpose: plan.Purpose | None = None
    minutes: int = 60
    people: int = 12
    kit: dict[str, int] | None = None
    limits: dict[str, int] = Field(default_factory=dict)
    levels: dict[str, int] = Field(default_factory=dict)
    avoid: tuple[str, ...] = ()
    want: tuple[str, ...] = ()
    no_running: bool = False
    teams: int = 1
    pieces: tuple[Wish, ...] = ()
    bests: dict[str, tuple[float, ...]] = Field(default_factory=dict)
    date: dt.date | None = None
    recent: tuple[Before, ...] = ()
    ahead: tuple[Before, ...] = ()
    landings_max: int | None = None
    theme: plan.Theme | None = None
    style: TrainingStyle = Field(default_factory=TrainingStyle)


def _number(table: Mapping[str, Any], name: str, usual: int, bounds: tuple[int, int]) -> int:
    value = table.get(name, usual)
    if not isinstance(value, int | float) or not bounds[0] <= value <= bounds[1]:
        raise ValueError(f"{name} is a number from {bounds[0]} to {bounds[1]}, not {value!r}.")
    return round(value)


def _counts(table: Mapping[str, Any], name: str) -> dict[str, int]:
    value = table.get(name, {})
    if not isinstance(value, Mapping) or not all(isinstance(n, int) for n in value.values()):
        raise ValueError(f"{name} is a table of numbers, as in {name} = {{ … = 2 }}.")
    return {" ".join(str(key).lower().split()): int(n) for key, n in value.items()}


def _listed(table: Mapping[str, Any], name: str) -> tuple[str, ...]:
    value = table.get(name, [])
    value = [value] if isinstance(value, str) else value
    if not isinstance(value, Sequence) or not all(isinstance(one, str) for one in value):
        raise ValueError(f"{name} is a list of words.")
    return tuple(" ".join(one.lower().split()) for one in value)


def _date(value: object) -> dt.date | None:
    """The day that is drafted, as TOML or JSON writes it; None where it is not told."""
    if value is None or isinstance(value, dt.date):
        return value
    try:
        return dt.date.fromisoformat(str(value))
    except ValueError:
        raise ValueError(f"date is a day, as in date = 2026-03-02, not {value!r}.") from None


def purpose_of(text: str) -> plan.Purpose:
    """The purpose that a word means; ValueError, in a sentence, for none."""
    low = " ".join(text.lower().split())
    for purpose in plan.Purpose:
        if low == purpose.value:
            return purpose
    for word, purpose in _PURPOSES.items():
        if word in low:
            return purpose
    known = ", ".join(plan.Purpose)
    raise ValueError(f"“{text}” is no purpose: one of {known}.")


def style_of(table: Mapping[str, Any]) -> TrainingStyle:
    """How a gym trains, by the names of its choices; ValueError, in a sentence, for another."""
    for name, value in table.items():
        field = TrainingStyle.model_fields.get(name)
        choices = get_args(field.annotation) if field else ()
        if value not in choices:
            known = ", ".join(choices) or ", ".join(TrainingStyle.model_fields)
            raise ValueError(f"style: “{name} = {value}” is no choice: one of {known}.")
    return TrainingStyle.model_validate(table)


def prompt_of(
    table: Mapping[str, Any], recent: Sequence[Before] = (), ahead: Sequence[Before] = ()
) -> Prompt:
    """A prompt out of its table; ValueError, in a sentence, for what cannot be read.

    Boards of other days are read by whoever has the files, and given as `recent` and `ahead`.
    """
    limits = _counts(table, "limits")
    for limit in limits:
        if limit not in LIMITS:
            raise ValueError(f"“{limit}” is no limit: one of {', '.join(LIMITS)}.")
    kit = table.get("kit")
    bests = table.get("bests", {})
    theme = table.get("theme")
    if theme is not None and theme not in words.THEMES:
        raise ValueError(f"“{theme}” is no theme: one of {', '.join(words.THEMES)}.")
    teams = table.get("teams", 1)
    landings = table.get("landings_max")
    return Prompt(
        purpose=purpose_of(table["purpose"]) if table.get("purpose") else None,
        minutes=_number(table, "minutes", 60, MINUTES),
        people=_number(table, "people", 12, PEOPLE),
        kit=None if kit is None else _counts(table, "kit"),
        limits={limit: count for limit, count in limits.items() if count},
        levels={level: count for level, count in _counts(table, "levels").items() if count},
        avoid=_listed(table, "avoid"),
        want=_listed(table, "want"),
        no_running=bool(table.get("no_running", False)),
        teams=2 if teams is True else max(1, int(teams or 1)),
        pieces=tuple(wish_of(one) for one in table.get("pieces", [])),
        bests={
            " ".join(lift.lower().split()): tuple(
                float(kg) for kg in (kilos if isinstance(kilos, Sequence) else [kilos])
            )
            for lift, kilos in bests.items()
        },
        date=_date(table.get("date")),
        recent=tuple(recent),
        ahead=tuple(ahead),
        landings_max=None if landings is None else int(landings),
        theme=theme,
        style=style_of(table.get("style", {})),
    )
