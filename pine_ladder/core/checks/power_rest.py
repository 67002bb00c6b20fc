"""Power: intervals that rest too little to stay fast."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding, with_heading
from pine_ladder.core.units import clock_text

SHORTEST_POWER_REST = 4
"""Power work rests at least this many times its work (common practice, no source)."""
SPRINT_REST = 12
"""Sprints rest twelve times the work and more (common practice, no source)."""

LONGEST_SPRINT_S = 45
"""Nobody sprints for longer: what lasts is no power work (judgement)."""


def rest_too_short_for_power(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Power intervals that rest too little to stay fast."""
    found = []
    for piece in session.pieces:
        form = piece.format
        if piece.role is not plan.Role.POWER or not isinstance(form, plan.Intervals):
            continue
        if form.work_s > LONGEST_SPRINT_S:
            continue
        if form.rest_s < SHORTEST_POWER_REST * form.work_s:
            enough = -(-SPRINT_REST * form.work_s // 15) * 15
            rested = form.model_copy(update={"rest_s": enough})
            label = f"rest {clock_text(enough)}"
            found.append(
                finding(
                    "power-rest",
                    piece.line,
                    f"{clock_text(form.rest_s)} of rest is short for power: sprints rest "
                    "twelve times the work and more",
                    repairs=[with_heading(piece, label, format=rested)],
                )
            )
    return found
