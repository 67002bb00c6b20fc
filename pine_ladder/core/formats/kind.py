"""The description of a format: its text, the fields of its form, the rules that fit."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import clock_text

FieldName = Literal["count", "length", "off", "scheme"]
RuleName = Literal[
    "rest",
    "cap",
    "target",
    "aim",
    "work",
    "each_round",
    "team_size",
    "team_how",
    "heats",
    "score",
    "pace",
    "build",
    "for_quality",
    "until_missed",
    "tie_break",
]


class FormField(Frozen):
    """A field of a format's form: which one, its label, and an example of what is typed."""

    field: FieldName
    label: str
    example: str


@dataclass(frozen=True)
class FormatKind:
    """A format: its record, its label in menus, the text of a record in a heading, the fields of
    its form and what a record fills them with, and the rules that make sense with it.

    `write` makes the text of a heading from filled fields; ValueError where they contradict.
    """

    record: type[Frozen]
    label: str
    fields: tuple[FormField, ...]
    rules: frozenset[RuleName]
    text: Callable[[Any], str]
    fill: Callable[[Any], dict[str, str]]
    write: Callable[[Mapping[str, str]], str]

    @property
    def name(self) -> str:
        """The name by which plans and forms call it."""
        name: str = self.record.model_fields["kind"].default
        return name


def plural(word: str, count: int) -> str:
    """`1 round`, `3 rounds` without the number."""
    return word if count == 1 else f"{word}s"


def span(low: int, high: int | None) -> str:
    """`3`, or `3-5` where the number is left to the day."""
    return f"{low}-{high}" if high else str(low)


def times(low_s: int, high_s: int | None) -> str:
    """`12:00`, or `12:00-16:00` where the length is left to the day. Arguments in seconds."""
    return clock_text(low_s) + (f"-{clock_text(high_s)}" if high_s else "")
