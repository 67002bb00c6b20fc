"""Scores of a piece, ranked: tiers as separate sections, ties sharing a rank (1, 2, 2, 4)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from operator import attrgetter

from pine_ladder.core.plan import Frozen
from pine_ladder.core.scoring import CAPPED_KEY


class Entry(Frozen):
    """One athlete's score on a piece; `tier` and `track` are indexes in the gym's lists."""

    athlete_id: int
    name: str
    tier: int
    track: int
    display: str
    order_key: float


class Place(Frozen):
    """An entry with its rank in its section (1 is best; equal scores share a rank).

    `strip` is where its dot lies on the strip of everyone's results, 0 (lowest) to 1 (best).
    """

    rank: int
    tied: bool
    strip: float
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


def strip_positions(keys: Sequence[float]) -> list[float]:
    """Each key's place between the lowest (0) and the best (1); capped results lie at 0."""
    finished = [key for key in keys if key > CAPPED_KEY]
    if not finished:
        return [0.5] * len(keys)
    low, high = min(finished), max(finished)
    if low == high:
        return [0.5 if key > CAPPED_KEY else 0.0 for key in keys]
    return [max(0.0, (key - low) / (high - low)) for key in keys]


def rank_of(key: float, tier: int, others: Iterable[Entry]) -> int:
    """The rank a score would take among the others of its tier."""
    return 1 + sum(entry.tier == tier and entry.order_key > key for entry in others)


def standings(entries: Iterable[Entry], track: int | None = None) -> tuple[Section, ...]:
    """Sections in tier order, best first, then by name; `track` keeps one track alone."""
    kept = [entry for entry in entries if track is None or entry.track == track]
    positions = strip_positions([entry.order_key for entry in kept])
    strip = {e.athlete_id: p for e, p in zip(kept, positions, strict=True)}
    sections = []
    for tier in sorted({entry.tier for entry in kept}):
        own = sorted((e for e in kept if e.tier == tier), key=attrgetter("name"))
        own.sort(key=attrgetter("order_key"), reverse=True)
        placed = ranks([entry.order_key for entry in own])
        sections.append(
            Section(
                tier=tier,
                places=tuple(
                    Place(
                        rank=rank,
                        tied=placed.count(rank) > 1,
                        strip=strip[entry.athlete_id],
                        entry=entry,
                    )
                    for rank, entry in zip(placed, own, strict=True)
                ),
            )
        )
    return tuple(sections)
