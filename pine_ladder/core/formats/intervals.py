"""Work and rest intervals at each station."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, span
from pine_ladder.core.units import clock_text


def _text(form: plan.Intervals) -> str:
    both = f"{clock_text(form.work_s)}/{clock_text(form.rest_s)}"
    return f"intervals {both} x {span(form.rounds, form.high)}"


def _fill(form: plan.Intervals) -> dict[str, str]:
    return {
        "length": clock_text(form.work_s),
        "off": clock_text(form.rest_s),
        "count": span(form.rounds, form.high),
    }


def _write(fields: Mapping[str, str]) -> str:
    return f"intervals {fields['length']}/{fields['off']} x {fields['count']}"


INTERVALS = FormatKind(
    record=plan.Intervals,
    label="work and rest intervals",
    fields=(
        FormField(field="length", label="Work", example="0:40"),
        FormField(field="off", label="Rest", example="0:20"),
        FormField(field="count", label="Rounds", example="4"),
    ),
    rules=frozenset({"rest", "target", "team_size", "team_how", "heats", "score", "pace"}),
    text=_text,
    fill=_fill,
    write=_write,
)
