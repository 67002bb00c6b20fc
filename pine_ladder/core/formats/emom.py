"""EMOM: windows of a minute through the stations."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, times

EMOM = FormatKind(
    record=plan.Emom,
    label="EMOM",
    fields=(FormField(field="length", label="Length", example="12:00"),),
    rules=frozenset(
        {
            "rest",
            "target",
            "aim",
            "work",
            "team_size",
            "team_how",
            "heats",
            "score",
            "for_quality",
        }
    ),
    text=lambda form: f"EMOM {times(form.length_s, form.high_s)}",
    fill=lambda form: {"length": times(form.length_s, form.high_s)},
    write=lambda fields: f"EMOM {fields['length']}".strip(),
)
