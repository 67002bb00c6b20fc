"""Who has a place in a class: first come, first in; the rest wait in order."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import NamedTuple


class Places(NamedTuple):
    """Those who have a place and those who wait, both in the order they signed up.

    Who is present has a place, booked or not: `coming` may then be more than the class holds.
    """

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


def places(signed: Sequence[int], size: int, present: Sequence[int] = ()) -> Places:
    """Places in a class of `size`: of people in the order they signed up, and of those `present`.

    Nobody who booked loses a place to somebody who walks in; who has walked in takes a free one.

    >>> places([1, 2, 3], 2, present=[3, 4])
    Places(coming=(1, 2, 3, 4), waiting=())
    """
    coming = tuple(dict.fromkeys((*signed[:size], *present)))
    return Places(coming, tuple(person for person in signed[size:] if person not in coming))


def moved_up(before: Places, after: Places) -> tuple[int, ...]:
    """Who waited and has a place now."""
    return tuple(person for person in after.coming if person in before.waiting)


TO_DECLINE = dt.timedelta(hours=1)
"""Time within which somebody who moved up may give up the place without being late."""


def decline_until(moved_up_at: dt.datetime | None, moment: dt.datetime) -> dt.datetime | None:
    """Until when somebody who moved up may decline; None where they did not, or it is over."""
    until = moved_up_at + TO_DECLINE if moved_up_at is not None else None
    return until if until is not None and until > moment else None


def is_late(
    begins: dt.datetime, moment: dt.datetime, limit_min: int, moved_up_at: dt.datetime | None
) -> bool:
    """Whether giving up a place at a moment is later than the gym asks for: within `limit_min`
    minutes of the start (0: never), unless who moved up may still decline. Times have a zone.
    """
    free = decline_until(moved_up_at, moment) is not None
    return begins - moment < dt.timedelta(minutes=limit_min) and limit_min > 0 and not free
