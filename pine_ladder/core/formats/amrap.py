"""AMRAP: as many rounds and reps as possible."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, times

AMRAP = FormatKind(
    record=plan.Amrap,
    label="AMRAP",
    fields=(FormField(field="length", label="Length", example="12:00"),),
    rules=frozenset(
        {
            "rest",
            "target",
            "each_round",
            "team_size",
            "team_how",
            "heats",
            "score",
            "for_quality",
            "tie_break",
        }
    ),
    text=lambda form: f"AMRAP {times(form.length_s, form.high_s)}",
    fill=lambda form: {"length": times(form.length_s, form.high_s)},
    write=lambda fields: f"AMRAP {fields['length']}".strip(),
)
