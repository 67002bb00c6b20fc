"""A rest between pieces."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField
from pine_ladder.core.units import clock_text

REST = FormatKind(
    record=plan.Rest,
    label="rest",
    fields=(FormField(field="length", label="Length", example="2:00"),),
    rules=frozenset(),
    text=lambda form: clock_text(form.length_s),
    fill=lambda form: {"length": clock_text(form.length_s)},
    write=lambda fields: fields["length"],
)
