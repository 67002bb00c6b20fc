"""Tabata: eight intervals of 0:20 work and 0:10 rest in a block."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField

TABATA = FormatKind(
    record=plan.Tabata,
    label="Tabata",
    fields=(FormField(field="count", label="Times", example="1-3"),),
    rules=frozenset({"rest", "score"}),
    text=lambda form: f"Tabata x 1-{form.high}" if form.high else "Tabata",
    fill=lambda form: {"count": f"1-{form.high}" if form.high else ""},
    write=lambda fields: f"Tabata x {fields['count']}" if fields["count"] else "Tabata",
)
