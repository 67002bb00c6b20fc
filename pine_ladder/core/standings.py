"""Scores of a piece, ranked: tiers as separate sections, ties sharing a rank (1, 2, 2, 4)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from operator import attrgetter

from pine_ladder.core.plan import Frozen


class Entry(Frozen):
    """One athlete's score on a piece; `tier` and `track` are indexes in the gym's lists."""

    athlete_id: int
    name: str
    tier: int
    track: int
    display: str
    order_key: float


class Place(Frozen):
    """An entry with its rank in its section (1 is best; equal scores share a rank)."""

    rank: int
    tied: bool
    entry: Entry


class Section(Frozen):
    """The standings of one tier."""

    tier: int
    places: tuple[Place, ...]


def ranks(keys: Sequence[float]) -> list[int]:
    """Standard competition ranks, larger keys first: as `scipy.stats.rankdata(-x, "min")`.

    >>> ranks([30, 20, 20, 10])
    [1, 2, 2, 4]
    """
    order = sorted(keys, reverse=True)
    first: dict[float, int] = {}
    for position, key in enumerate(order, start=1):
        first.setdefault(key, position)
    return [first[key] for key in keys]


def standings(entries: Iterable[Entry], track: int | None = None) -> tuple[Section, ...]:
    """Sections in tier order, best first, then by name; `track` keeps one track alone."""
    kept = [entry for entry in entries if track is None or entry.track == track]
    sections = []
    for tier in sorted({entry.tier for entry in kept}):
        own = sorted((e for e in kept if e.tier == tier), key=attrgetter("name"))
        own.sort(key=attrgetter("order_key"), reverse=True)
        placed = ranks([entry.order_key for entry in own])
        sections.append(
            Section(
                tier=tier,
                places=tuple(
                    Place(rank=rank, tied=placed.count(rank) > 1, entry=entry)
                    for rank, entry in zip(placed, own, strict=True)
                ),
            )
        )
    return tuple(sections)
