"""Steps without a break: how long each takes while freshness goes, for n athletes together.

A step takes `slowest` seconds less `gain` times the freshness it begins with. Arrays have shape
(n,); clocks `t` and freshness `g` (1 fresh, 0 spent) are changed in place.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from pine_ladder.core.pace.rep import Array


class Wear(NamedTuple):
    """How freshness goes with a second of work, and comes back beside it where a team shares."""

    tire: float
    refresh: float


def stride(
    t: Array,
    g: Array,
    most: Array,
    ends: Array | float,
    slowest: Array,
    gain: Array,
    wear: Wear,
) -> Array:
    """Up to `most` steps each before the clock stands at `ends`; answers how many were done."""
    counts: Array = np.ceil(most)
    if not np.count_nonzero(t + counts * slowest > ends):
        # A step takes `slowest` at most: nobody comes near the deadline.
        _in_time(t, g, counts, slowest, gain, wear)
        return counts
    done = np.zeros(len(t))
    for step in range(int(counts.max(initial=0.0))):
        seconds = slowest - gain * g
        on = (counts > step) & (t + seconds <= ends)
        if not np.count_nonzero(on):
            break
        seconds *= on
        t += seconds
        g[:] = _tired(g, seconds, wear)
        done += on
    return done


def _in_time(t: Array, g: Array, counts: Array, slowest: Array, gain: Array, wear: Wear) -> None:
    """All of `counts` steps each."""
    if not counts.size:
        return
    together, most = int(counts.min()), int(counts.max())
    seconds = np.empty(len(t))
    for step in range(most):
        np.multiply(gain, g, out=seconds)
        np.subtract(slowest, seconds, out=seconds)
        if step >= together:
            seconds *= counts > step
        t += seconds
        if wear.refresh:
            g[:] = _tired(g, seconds, wear)
        else:
            seconds *= -wear.tire
            np.exp(seconds, out=seconds)
            g *= seconds


def _tired(g: Array, seconds: Array, wear: Wear) -> Array:
    """Freshness after some work; in a team that shares, with its rest in between."""
    after = g * np.exp(-wear.tire * seconds)
    return 1 - (1 - after) * np.exp(-wear.refresh * seconds) if wear.refresh else after
