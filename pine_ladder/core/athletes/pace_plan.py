"""A pace plan: somebody's own prediction told as a plan, where a piece asks for an even pace.

A round takes what the prediction takes on the mean, and sets are broken before the muscles end
them: at most seven tenths of what the athlete does in one go, in parts of about the same size
(common practice, no source).
"""

from __future__ import annotations

import math

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, athletes
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import rep_of
from pine_ladder.core.pace.runs import run
from pine_ladder.core.units import clock_text

IN_HAND = 0.7
"""Share of an unbroken set that is done in one go where the pace is to hold."""
ROUND_S = 5
"""A plan is told in steps of so many seconds."""
MOST_PARTS = 4
"""More parts are told as singles or small sets, not counted out."""


def parts_of(reps: int, in_one_go: float) -> tuple[int, ...]:
    """Parts of a set of reps, each at most seven tenths of what goes in one, the larger first.

    >>> parts_of(10, 9.0), parts_of(10, 30.0), parts_of(3, 1.0)
    ((5, 5), (10,), (1, 1, 1))
    """
    most = max(1, math.floor(IN_HAND * in_one_go)) if math.isfinite(in_one_go) else reps
    count = math.ceil(reps / most)
    base, more = divmod(reps, count)
    return tuple(base + (at < more) for at in range(count))


def round_seconds(piece: plan.Piece, member: Member, library: Library) -> float | None:
    """Seconds that a round is predicted to take a member; None where the piece has no rounds."""
    form = piece.format
    done = run(piece, athletes([member], library), library, member.tier)
    if isinstance(form, plan.Amrap) and len(piece.blocks) == 1:
        rounds = float(done.blocks[0][0]) if done.blocks else 0.0
        return form.length_s / rounds if rounds >= 1 else None
    if isinstance(form, plan.ForTime) and (form.rounds or 1) > 1 and not form.scheme:
        return float(done.time_s[0]) / (form.rounds or 1)
    return None


def pace_plan(piece: plan.Piece, member: Member, library: Library) -> str | None:
    """The plan of a piece in a member's own versions, in a sentence; None where an even pace is not
    asked for, or nothing is known of a round.
    """
    if piece.pace != "steady" or piece.grow_reps or piece.teams:
        return None
    seconds = round_seconds(piece, member, library)
    if seconds is None:
        return None
    told = [f"{clock_text(ROUND_S * round(seconds / ROUND_S))} a round"]
    one = athletes([member], library)
    for line in piece.lines:
        for task in line.tasks:
            exercise = task.versions[0]
            if not isinstance(exercise.amount, plan.Reps) or exercise.unbroken or exercise.parts:
                continue
            rep = rep_of(exercise, one, library)
            parts = parts_of(exercise.amount.low, float(rep.unbroken[0]))
            if 1 < len(parts) <= MOST_PARTS:
                told.append(f"{rep.name} in {' + '.join(map(str, parts))}")
            elif len(parts) > MOST_PARTS:
                told.append(f"{rep.name} in sets of {parts[0]}")
    broken = len(told) > 1
    return "; ".join([*told, "stop a rep before you have to"] if broken else told) + "."
