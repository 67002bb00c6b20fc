"""The hour: rounds that may be windows, a day longer than its class."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding, with_heading
from pine_ladder.core.day.hour_ruler import outline
from pine_ladder.core.units import clock_text

SHORTEST_AMRAP_S = 240

LONGEST_PIECE_S = 45 * 60
"""A piece of stations that is longer was hardly meant so (common sense)."""


def rounds_that_may_be_windows(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """`every T x N` with stations, where N is a whole number of station rounds."""
    found = []
    for piece in session.pieces:
        form = piece.format
        if not isinstance(form, plan.Every) or not form.rounds or len(piece.blocks) != 1:
            continue
        stations = len(piece.blocks[0].lines) if piece.blocks[0].numbered else 1
        if form.said or stations < 2:
            continue
        total = form.interval_s * form.rounds * stations
        whole = form.rounds % stations == 0
        if not whole and total <= LONGEST_PIECE_S:
            continue
        rounds = -(-form.rounds // stations)
        fewer = form.interval_s * rounds * stations
        windows = form.model_copy(update={"rounds": rounds, "said": True})
        told = form.model_copy(update={"said": True})
        found.append(
            finding(
                "rounds-or-windows",
                piece.line,
                f"{form.rounds} rounds of {stations} stations ({clock_text(total)}), or "
                f"{form.rounds} windows ({clock_text(fewer)})?",
                "warning",
                [
                    with_heading(
                        piece, f"{form.rounds} windows: x {_rounds(rounds)}", format=windows
                    ),
                    with_heading(
                        piece, f"{form.rounds} rounds: x {_rounds(form.rounds)}", format=told
                    ),
                ],
            )
        )
    return found


def _rounds(count: int) -> str:
    return f"{count} round" + "s" * (count > 1)


def longer_than_the_class(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A day that may not fit its class, with the change-overs between pieces."""
    if not session.pieces:
        return []
    hour = outline(
        session, ground.library, ground.class_s, ground.change_s, known=ground.known or ()
    )
    over = hour.planned_high_s - hour.class_s
    if over <= 0:
        return []
    exact = hour.planned_low_s > hour.class_s
    return [
        finding(
            "over-class",
            session.pieces[-1].line,
            f"the day {'runs' if exact else 'may run'} {clock_text(over)} over its "
            f"{hour.class_s // 60} minutes",
            "warning" if exact else "hint",
            _shortened(session, over),
        )
    ]


def _shortened(session: plan.Session, over_s: int) -> list[plan.Repair]:
    """Whole minutes off the longest AMRAP, where it stays one."""
    amraps = [p for p in session.pieces if isinstance(p.format, plan.Amrap) and len(p.blocks) < 2]
    if not amraps:
        return []
    longest = max(amraps, key=lambda p: p.format.length_s)  # type: ignore[union-attr]
    assert isinstance(longest.format, plan.Amrap)
    length = (longest.format.length_s - over_s) // 60 * 60
    if length < SHORTEST_AMRAP_S:
        return []
    label = f"make {longest.title} {clock_text(length)}"
    return [with_heading(longest, label, format=plan.Amrap(length_s=length))]
