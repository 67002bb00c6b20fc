"""Who has a place in a class: first come, first in; the rest wait in order."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple


class Places(NamedTuple):
    """Those who have a place and those who wait, both in the order they signed up."""

    coming: tuple[int, ...]
    waiting: tuple[int, ...]

    def of(self, person: int) -> tuple[str, int]:
        """`coming`, `waiting` or `no` for somebody, and their place in that list from 1 (0: none).

        >>> Places((7, 8), (9,)).of(9)
        ('waiting', 1)
        """
        if person in self.coming:
            return "coming", self.coming.index(person) + 1
        if person in self.waiting:
            return "waiting", self.waiting.index(person) + 1
        return "no", 0


def places(signed: Sequence[int], size: int) -> Places:
    """Places of people in the order they signed up, in a class of a size."""
    return Places(tuple(signed[:size]), tuple(signed[size:]))


def moved_up(before: Places, after: Places) -> tuple[int, ...]:
    """Who waited and has a place now."""
    return tuple(person for person in after.coming if person in before.waiting)
