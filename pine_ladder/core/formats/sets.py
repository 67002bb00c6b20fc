"""Sets of every line in turn."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, plural, span


def _text(form: plan.Sets) -> str:
    return f"{span(form.low, form.high)} {plural('set', form.low)}"


SETS = FormatKind(
    record=plan.Sets,
    label="sets",
    fields=(FormField(field="count", label="Sets", example="4 or 4-5"),),
    rules=frozenset({"rest", "each_round", "score", "build", "for_quality"}),
    text=_text,
    fill=lambda form: {"count": span(form.low, form.high)},
    write=lambda fields: f"{fields['count']} sets",
)
