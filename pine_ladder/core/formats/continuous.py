"""Continuous: steady parts one after the other."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField
from pine_ladder.core.units import clock_text

CONTINUOUS = FormatKind(
    record=plan.Continuous,
    label="continuous",
    fields=(FormField(field="length", label="Length", example="10:00"),),
    rules=frozenset({"pace"}),
    text=lambda form: f"continuous {clock_text(form.length_s)}",
    fill=lambda form: {"length": clock_text(form.length_s)},
    write=lambda fields: f"continuous {fields['length']}".strip(),
)
