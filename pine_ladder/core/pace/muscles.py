"""The muscles that end a set: how far they are used up, and how they come back.

Each group of muscles holds a share from 0 (fresh) to 1 (the set is over). Work uses it up by one
part in the length of a set a rep; rest gives it back with a time constant, as the balance of the
work above a sustainable pace is modelled in endurance (Skiba et al., Med Sci Sports Exerc 44 (2012)
1526; here for sets of reps, which is common sense). Movements that draw on the same muscles go on
where the last one left them.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

import numpy as np

from pine_ladder.core.movements import Group
from pine_ladder.core.pace.rep import Array, Constants


class Muscles:
    """How far each group is used up for n athletes; arrays of shape (n,)."""

    def __init__(self, count: int, model: Constants) -> None:
        self.count, self.model = count, model
        self.used: dict[Group, Array] = defaultdict(lambda: np.zeros(count))
        self.when: dict[Group, Array] = defaultdict(lambda: np.zeros(count))

    def level(self, group: Group, now: Array) -> Array:
        """How far a group is used up at a time (seconds), after what rest it had."""
        since = np.maximum(0.0, now - self.when[group])
        return self.used[group] * np.exp(-since / self.model.local_s)

    def felt(self, groups: Sequence[Group], now: Array) -> Array:
        """How far the most tired of some groups is used up."""
        levels = [self.level(group, now) for group in groups]
        return np.max(levels, axis=0) if levels else np.zeros(self.count)

    def work(self, groups: Sequence[Group], begun: Array, now: Array, gain: Array) -> None:
        """A set from `begun` to `now`: the first group by all of it, the others by a part."""
        for place, group in enumerate(groups):
            part = 1.0 if place == 0 else self.model.beside
            self.used[group] = np.clip(self.level(group, begun) + part * gain, 0.0, 1.0)
            self.when[group] = now.copy()

    def pause_s(self, freed: Array) -> Array:
        """Seconds until a share of a set is there again."""
        return -self.model.local_s * np.log1p(-freed)
