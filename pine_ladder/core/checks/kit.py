"""Kit: what the class would need at once and the gym has not."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding, with_heading
from pine_ladder.core.day.kit import at_once, held


def kit_for_the_class(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Kit that the class would need at once and the gym has not: one hint a piece.

    Stations and teams who take turns share.
    """
    if ground.kit is None:
        return []
    found = []
    for piece in session.pieces:
        heats = piece.heats or 1
        needed = at_once(piece, ground.class_size)
        short: dict[str, int] = {}
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                for part in task.versions[0].units:
                    movement = ground.library.find(part.movement)
                    for kit in movement.kit if movement else ():
                        there = held(kit, ground.kit)
                        if there and there < needed:
                            short[kit] = there
        if not short:
            continue
        waves = -(-needed * heats // min(short.values()))
        *others, last = (f"a {kit} (the gym has {count})" for kit, count in short.items())
        listed = f"{', '.join(others)} and {last}" if others else last
        found.append(
            finding(
                "kit-short",
                piece.line,
                f"{needed} need {listed} at once: {waves} heats, or pairs who share",
                "hint",
                [with_heading(piece, f"make it {waves} heats", heats=waves)],
            )
        )
    return found
