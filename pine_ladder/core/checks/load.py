"""Checks of percentages: reps, rests and lighter weeks (no prediction needed)."""

from __future__ import annotations

import math
from collections.abc import Iterator

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import At, Ground, finding, tasks, with_heading, with_version
from pine_ladder.core.units import clock_text

SPARE = 1.25
"""Reps beyond those that Epley's formula leaves, before it is told: formulas differ by as much."""
FULL_RESTS = ((85, 90, 150), (75, 60, 90))
"""From a percentage on, the least seconds of rest and those that are proposed (common practice)."""
DELOAD_PERCENT = 70
"""In a lighter week lifts stay at or under this percentage (common practice, no source)."""
POWER_REPS = 5
"""Power is trained in threes to fives (common practice, no source)."""
POWER_REST = 4
"""Power rests at least this many times its work (common practice, no source)."""
REP_S = 2.5
"""Seconds of a fast rep, for telling work from rest (common practice, no source)."""


def _lifted(at: At) -> tuple[int, plan.Percent] | None:
    """Reps of a set and their percentage, where a line says both."""
    first = at.task.versions[0]
    if isinstance(first.amount, plan.Reps) and isinstance(first.load, plan.Percent):
        return first.amount.low, first.load
    return None


def reps_left(percent: float) -> float:
    """Reps that a percentage of the best leaves (Epley 1985); one at the best itself.

    >>> round(reps_left(80), 1)
    8.5
    """
    return 30 * (100 / percent - 1) + 1


def percent_for(reps: float) -> int:
    """The percentage at which so many reps are the last ones, rounded down to five.

    >>> percent_for(10)
    75
    """
    return 5 * math.floor(100 / (1 + (reps - 1) / 30) / 5)


def reps_beyond_the_percentage(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """More reps in a set than its percentage allows anybody."""
    found = []
    for at in tasks(session):
        lifted = _lifted(at)
        if lifted is None or isinstance(at.piece.format, plan.Amrap | plan.ForTime):
            continue
        reps, load = lifted
        left = reps_left(load.low)
        if reps <= SPARE * left or at.task.versions[0].sets == 1:
            continue
        lighter = percent_for(reps + 2)
        repairs = [
            with_version(at, 0, f"{lighter} %", load=plan.Percent(low=lighter)),
            with_version(
                at, 0, f"{max(1, int(left))} reps", amount=plan.Reps(low=max(1, int(left)))
            ),
        ]
        message = (
            f"{reps} reps at {load.low:g} % are more than it allows: about {left:.0f} "
            "is what most have in them"
        )
        found.append(finding("reps-percent", at.line.line, message, repairs=repairs))
    return found


def rest_too_short_for_the_load(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Heavy sets with less rest than they need to be done as written."""
    found = []
    for piece, percent in _heaviest(session):
        rest = piece.rest.high_s or piece.rest.low_s if piece.rest else None
        if rest is None or not isinstance(piece.format, plan.Sets | plan.Rounds):
            continue
        for heavy, least, usual in FULL_RESTS:
            if percent >= heavy and rest < least:
                span = plan.Span(low_s=usual, high_s=None)
                message = (
                    f"{clock_text(rest)} of rest is short at {percent:g} %: the last sets will "
                    "not be what is written"
                )
                repair = with_heading(piece, f"rest {clock_text(usual)}", rest=span)
                found.append(finding("short-rest", piece.line, message, repairs=[repair]))
                break
    return found


def _heaviest(session: plan.Session) -> Iterator[tuple[plan.Piece, float]]:
    """Pieces with the highest percentage that stands in them."""
    for piece in session.pieces:
        lifted = [_lifted(at) for at in tasks(plan.Session(pieces=(piece,)))]
        loads = [one[1].high or one[1].low for one in lifted if one]
        if loads:
            yield piece, max(loads)


def heavy_in_a_lighter_week(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Lifts above seventy percent in a week that is meant to be light."""
    if session.theme != "deload":
        return []
    found = []
    for at in tasks(session):
        lifted = _lifted(at)
        if lifted is None or (lifted[1].high or lifted[1].low) <= DELOAD_PERCENT:
            continue
        repair = with_version(at, 0, f"{DELOAD_PERCENT} %", load=plan.Percent(low=DELOAD_PERCENT))
        message = (
            f"{lifted[1].low:g} % in a lighter week: {DELOAD_PERCENT} % and less let people recover"
        )
        found.append(finding("deload-load", at.line.line, message, repairs=[repair]))
    return found


def power_that_is_none(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A piece for power with long sets or little rest: fast comes rested and in few reps."""
    found = []
    for piece in session.pieces:
        if piece.purpose is not plan.Purpose.POWER:
            continue
        sets = list(tasks(plan.Session(pieces=(piece,))))
        for at in sets:
            amount = at.task.versions[0].amount
            if isinstance(amount, plan.Reps) and amount.low > POWER_REPS:
                repair = with_version(at, 0, f"{POWER_REPS} reps", amount=plan.Reps(low=POWER_REPS))
                message = f"{amount.low} reps are no longer fast: power is done in threes to fives"
                found.append(finding("power-reps", at.line.line, message, "hint", [repair]))
        rest = piece.rest.low_s if piece.rest else None
        reps = sum(
            version.amount.low
            for at in sets
            for version in at.task.versions[:1]
            if isinstance(version.amount, plan.Reps)
        )
        needed = round(POWER_REST * REP_S * reps)
        if ground.style.power == "paired" and len(sets) > 1:
            continue  # Each of the two rests while the other works.
        if rest is not None and isinstance(piece.format, plan.Sets) and 0 < rest < needed:
            enough = -(-needed // 15) * 15
            repair = with_heading(
                piece, f"rest {clock_text(enough)}", rest=plan.Span(low_s=enough, high_s=None)
            )
            work = clock_text(round(REP_S * reps))
            message = (
                f"{clock_text(rest)} of rest after about {work} of work: "
                "power rests four times its work and more (a gym that pairs power sets says so "
                "under How we train)"
            )
            found.append(finding("power-set-rest", piece.line, message, "hint", [repair]))
    return found
