"""How wide ranges have to be for a gym, learnt from its own scores, and how often they hold."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from pine_ladder.core.athletes.observed import LEARNT, Observation, groups
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.piece import run
from pine_ladder.core.pace.rep import Array, members_like

RANGE_ATHLETES = 100
SHARE = 0.8
"""Of the scores, this share is to lie in the range that is told."""
SURE_AFTER = 50
"""Scores from which the gym's own width counts for half (judgement)."""
NARROWEST, WIDEST = 0.4, 1.6
"""No gym is taken to be closer together or further apart than this."""
TURNS = 3


def width_of(known: Sequence[Observation], medians: Mapping[str, float], library: Library) -> float:
    """How wide ranges have to be for this gym: the share of scores they should hold, they hold.

    Conformal, as in Romano, Patterson & Candès 2019 (Conformalized quantile regression), in logs:
    each score tells how far it lies from the middle, in half-widths of the range on its side. What
    does not come of the athletes (a choice, two tracks) stays as wide, so it takes a few turns.
    """
    told = [one for one in known if one.says_alone and one.kind in LEARNT]
    width = 1.0
    for _ in range(TURNS):
        reach = _reach(told, medians, library.of_width(width))
        if len(reach) == 0:
            return 1.0
        width = min(max(width * float(np.quantile(reach, SHARE)), NARROWEST), WIDEST)
    return float(width ** (len(told) / (len(told) + SURE_AFTER)))


def _reach(told: Sequence[Observation], medians: Mapping[str, float], library: Library) -> Array:
    """How far each score lies from the middle told of its piece and tier, in half-widths."""
    reach: list[float] = []
    for (piece, tier), places in groups(told).items():
        who = replace(members_like(library, RANGE_ATHLETES, tier), medians=medians)
        done = run(piece, who, library, tier)
        low, middle, high = np.quantile(done.result[done.able], (0.1, 0.5, 0.9))
        for at in places:
            value = told[at].value
            end = high if value > middle else low
            if min(low, middle, value) > 0 and end != middle:
                reach.append(abs(math.log(value / middle) / math.log(end / middle)))
    return np.array(reach)


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
