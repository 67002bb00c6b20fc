"""Rounds for quality: not timed."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, plural, span


def _text(form: plan.Rounds) -> str:
    return f"{span(form.low, form.high)} {plural('round', form.low)}"


ROUNDS = FormatKind(
    record=plan.Rounds,
    label="rounds for quality",
    fields=(FormField(field="count", label="Rounds", example="3 or 3-5"),),
    rules=frozenset(
        {
            "rest",
            "cap",
            "target",
            "each_round",
            "team_size",
            "team_how",
            "heats",
            "score",
            "build",
            "for_quality",
        }
    ),
    text=_text,
    fill=lambda form: {"count": span(form.low, form.high)},
    write=lambda fields: f"{fields['count']} rounds",
)
