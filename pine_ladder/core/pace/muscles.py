"""The muscles that end a set: how far they are used up, and how they come back.

Each group of muscles holds a share from 0 (fresh) to 1 (the set is over). Work uses it up by one
part in the length of a set a rep; rest gives it back with a time constant, as the balance of the
work above a sustainable pace is modelled in endurance (Skiba et al., Med Sci Sports Exerc 44 (2012)
1526; here for sets of reps, which is common sense). Movements that draw on the same muscles go on
where the last one left them.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np

from pine_ladder.core.movements import Group
from pine_ladder.core.pace.rep_times import ROW, Array, Constants, rows


class Spent(NamedTuple):
    """What work has left of n athletes: fatigue (0 to 1), of shape (n,), and how far each group of
    muscles is used up and how many sets' worth it is worn by, of shape (groups, n).
    """

    fatigue: Array
    used: Array
    worn: Array

    def after(self, seconds: float, model: Constants) -> Spent:
        """Return the tiredness left after a rest of some seconds."""
        return Spent(
            self.fatigue * np.exp(-seconds / model.recover_s),
            self.used * np.exp(-seconds / model.local_s),
            self.worn * np.exp(-seconds / model.wear_s),
        )

    def only(self, keep: Any) -> Spent:
        """That of some of the athletes, by index or mask."""
        return Spent(self.fatigue[keep], self.used[:, keep], self.worn[:, keep])


class Muscles:
    """How far each group is used up for n athletes, how many sets' worth it is worn by, and when
    that was last looked at: `used` (0 to 1), `worn` and `when` (seconds) of shape (groups, n).
    """

    def __init__(self, count: int, model: Constants) -> None:
        self.model = model
        shape = (len(ROW), count)
        self.used, self.worn, self.when = np.zeros(shape), np.zeros(shape), np.zeros(shape)

    def since_then(self, now: Array, fatigue: Array) -> Spent:
        """Return the athletes' tiredness, each at their own time."""
        since = np.maximum(0.0, now - self.when)
        return Spent(
            fatigue.copy(),
            self.used * np.exp(-since / self.model.local_s),
            self.worn * np.exp(-since / self.model.wear_s),
        )

    def felt(self, groups: Sequence[Group], now: Array) -> Array:
        """How far the most tired of some groups is used up at a time, after what rest it had."""
        at = rows(groups)
        since = np.maximum(0.0, now - self.when[at])
        level = self.used[at] * np.exp(-since / self.model.local_s)
        most: Array = level.max(axis=0, initial=0.0)
        return most
