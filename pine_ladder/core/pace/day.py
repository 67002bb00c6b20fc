"""A day's pieces one after the other: how much slower each comes out than it would fresh."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.muscles import Spent
from pine_ladder.core.pace.rep_times import Array, Athletes, constants, members_like
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.plan import Frozen, ScoreKind

BETWEEN_S = 180.0
"""Minutes of a class between two pieces: explaining, fetching, getting ready (common practice)."""
MEMBERS = 60
FELT_PERCENT = 3
"""Percent behind fresh from which on it is told (judgement)."""
QUICKER_IS_MORE = frozenset({ScoreKind.TIME})


class Loss(Frozen):
    """What the day before a piece costs it: `whole` and `first_round` are how many times its fresh
    time (or its fresh score, the other way round) it takes; 1 is nothing.
    """

    whole: float
    first_round: float


def words_of_loss(loss: Loss, piece: plan.Piece) -> str:
    """Return a sentence on the loss of a piece to those before it; empty where that is hardly felt.

    >>> words_of_loss(
    ...     Loss(whole=1.08, first_round=1.12),
    ...     plan.Piece(line=1, role=plan.Role.CONDITIONING, format=plan.ForTime(rounds=3)),
    ... )
    'Tired from the pieces before it: about 8 % slower than fresh, the first round 12 %.'
    """
    whole, first = (round(100 * (times - 1)) for times in (loss.whole, loss.first_round))
    if max(whole, first) < FELT_PERCENT:
        return ""
    how = "fewer reps" if isinstance(piece.format, plan.Amrap) else "slower"
    begins = f", the first round {first} %" if first > whole else ""
    return f"Tired from the pieces before it: about {max(whole, 0)} % {how} than fresh{begins}."


@lru_cache(maxsize=64)
def losses(
    session: plan.Session, library: Library, between_s: float = BETWEEN_S
) -> tuple[Loss, ...]:
    """What each piece of a day loses to those before it, in the middle of the first tier.

    A rest of the board is a rest; every piece that is none has one.
    """
    who = members_like(library, MEMBERS, 0)
    left: Spent | None = None
    out = []
    for piece in session.pieces:
        if piece.role is plan.Role.REST or not piece.lines:
            length = getattr(piece.format, "length_s", 0)
            left = left and left.after(float(length), constants())
            out.append(Loss(whole=1.0, first_round=1.0))
            continue
        done = run(piece, who, library, before=left)
        out.append(
            _loss(piece, done, who, library)
            if left is not None
            else Loss(whole=1.0, first_round=1.0)
        )
        left = done.spent and done.spent.after(between_s, constants())
    return tuple(out)


def _loss(piece: plan.Piece, done: Run, who: Athletes, library: Library) -> Loss:
    fresh = run(piece, who, library)
    whole = _times(done, fresh)
    first = 1.0
    if done.splits and fresh.splits:
        first = _middle(done.splits[0] / np.maximum(fresh.splits[0], 1e-6))
    elif done.windows and fresh.windows:
        first = _middle(done.windows[0][2] / np.maximum(fresh.windows[0][2], 1e-6))
    return Loss(whole=round(whole, 3), first_round=round(first, 3))


def _times(done: Run, fresh: Run) -> float:
    """Return a piece's time over its fresh time; for scores, fresh over tired."""
    if done.kind in QUICKER_IS_MORE or done.kind is None or not np.any(fresh.result):
        return _middle(done.time_s / np.maximum(fresh.time_s, 1e-6))
    if done.kind is ScoreKind.LOAD:
        return 1.0
    return _middle(np.maximum(fresh.result, 1e-6) / np.maximum(done.result, 1e-6))


def _middle(values: Array) -> float:
    """The middle of those who got that far; 1 where nobody did."""
    reached = values[np.isfinite(values)]
    return float(np.median(reached)) if reached.size else 1.0
