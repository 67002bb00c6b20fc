"""Every interval: a new window each time, for some rounds or until one is missed."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, plural, span
from pine_ladder.core.units import clock_text


def _turns(form: plan.Every) -> str:
    """How often, as written after `x`; empty for a ladder that runs until it is missed."""
    if not form.rounds:
        return ""
    named = f" {plural('round', form.rounds)}" if form.said else ""
    return f"{span(form.rounds, form.high)}{named}"


def _text(form: plan.Every) -> str:
    turns = _turns(form)
    return f"every {clock_text(form.interval_s)}" + (f" x {turns}" if turns else "")


def _write(fields: Mapping[str, str]) -> str:
    return f"every {fields['length']}" + (f" x {fields['count']}" if fields["count"] else "")


EVERY = FormatKind(
    record=plan.Every,
    label="every interval",
    fields=(
        FormField(field="length", label="Every", example="2:00"),
        FormField(field="count", label="Rounds", example="6, or empty until missed"),
    ),
    rules=frozenset(
        {
            "rest",
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
        }
    ),
    text=_text,
    fill=lambda form: {"length": clock_text(form.interval_s), "count": _turns(form)},
    write=_write,
)
