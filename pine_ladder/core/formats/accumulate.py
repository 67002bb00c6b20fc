"""Accumulate: reach the amount in as many parts as needed."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats.kind import FormatKind

ACCUMULATE = FormatKind(
    record=plan.Accumulate,
    label="accumulate",
    fields=(),
    rules=frozenset({"cap", "target", "team_size", "team_how"}),
    text=lambda form: "accumulate",
    fill=lambda form: {},
    write=lambda fields: "accumulate",
)
