"""How wide ranges have to be for a gym, learnt from its own scores, and how often they hold."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from pine_ladder.core.athletes.observations import LEARNT, Observation, groups
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import members_like
from pine_ladder.core.pace.runs import run

RANGE_ATHLETES = 100
SHARE = 0.8
"""Of the scores, this share is to lie in the range that is told."""
SURE_AFTER = 50
"""Scores from which the gym's own width counts for half (judgement)."""
NARROWEST, WIDEST = 0.4, 1.6
"""No gym is taken to be closer together or further apart than this."""
HARDLY = 0.02
TURNS = 6
"""So often the widths between are halved: what is left between is a fiftieth."""


def width_of(known: Sequence[Observation], medians: Mapping[str, float], library: Library) -> float:
    """How wide ranges have to be for this gym: the narrowest with which they hold the share of its
    scores that they should.

    What does not come of the athletes (a choice, two tracks) stays as wide, so it is tried. Where
    the library's own width holds hardly more of them, as with scores too coarse to tell, it stays.
    """
    told = [
        observation
        for observation in known
        if observation.says_alone and observation.kind in LEARNT
    ]

    def inside(width: float) -> float:
        return coverage(told, medians, library.of_width(width)) or 0.0

    low, high = NARROWEST, WIDEST
    for _ in range(TURNS):
        middle = math.sqrt(low * high)
        low, high = (middle, high) if inside(middle) < SHARE else (low, middle)
    if not told or abs(inside(1.0) - inside(high)) < HARDLY:
        return 1.0
    return float(high ** (len(told) / (len(told) + SURE_AFTER)))


def coverage(
    asked: Sequence[Observation], medians: Mapping[str, float], library: Library
) -> float | None:
    """The share of scores within what the test-run tells of their piece and tier."""
    inside = []
    for (piece, tier), places in groups(asked).items():
        who = replace(members_like(library, RANGE_ATHLETES, tier), medians=medians)
        done = run(piece, who, library, tier)
        low, high = np.quantile(done.result[done.able], (0.1, 0.9))
        inside += [low <= asked[at].value <= high for at in places]
    return round(float(np.mean(inside)), 3) if inside else None
