"""For time: until done, for some rounds or down a scheme of reps."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind, FormField, plural


def _text(form: plan.ForTime) -> str:
    if form.scheme:
        return "-".join(map(str, form.scheme)) + " for time"
    if form.rounds:
        return f"{form.rounds} {plural('round', form.rounds)} for time"
    return "for time"


def _fill(form: plan.ForTime) -> dict[str, str]:
    return {"count": str(form.rounds or ""), "scheme": "-".join(map(str, form.scheme))}


def _write(fields: Mapping[str, str]) -> str:
    rounds = f"{fields['count']} rounds " if fields["count"] else ""
    scheme = f"{fields['scheme']} " if fields["scheme"] else ""
    if rounds and scheme:
        raise ValueError("rounds or a scheme of reps: one of the two")
    return f"{rounds or scheme}for time"


FOR_TIME = FormatKind(
    record=plan.ForTime,
    label="for time",
    fields=(
        FormField(field="count", label="Rounds", example="3"),
        FormField(field="scheme", label="Or a scheme", example="10-8-6-4-2"),
    ),
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
            "tie_break",
        }
    ),
    text=_text,
    fill=_fill,
    write=_write,
)
