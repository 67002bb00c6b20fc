"""Who goes when and with whom: heats and lanes from the kit, partners by predicted pace."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from statistics import median
from typing import Literal

from pine_ladder.core.plan import Frozen

Pairing = Literal["even teams", "like with like"]
PAIRINGS: tuple[Pairing, ...] = ("even teams", "like with like")


class Heat(Frozen):
    """One wave of athletes by id, in the order of their lanes (the first stands in lane 1)."""

    number: int
    lanes: tuple[int, ...]


def heats(athletes: Sequence[int], waves: int, speed: Mapping[int, float]) -> tuple[Heat, ...]:
    """Athletes in `waves` heats of about the same size, the slower ones first.

    The slow start early, so that the last heat ends soonest. `speed` is larger for the faster; who
    has none counts as the middle.
    """
    waves = max(1, min(waves, len(athletes) or 1))
    order = by_speed(athletes, speed)
    size, over = divmod(len(order), waves)
    out, at = [], 0
    for number in range(1, waves + 1):
        end = at + size + (number <= over)
        out.append(Heat(number=number, lanes=tuple(order[at:end])))
        at = end
    return tuple(out)


def by_speed(athletes: Sequence[int], speed: Mapping[int, float]) -> list[int]:
    """Athletes from the slowest to the fastest."""
    known = [speed[athlete] for athlete in athletes if athlete in speed]
    middle = median(known) if known else 0.0
    return sorted(athletes, key=lambda athlete: speed.get(athlete, middle))


def teams(
    athletes: Sequence[int], size: int, speed: Mapping[int, float], how: Pairing = "even teams"
) -> tuple[tuple[int, ...], ...]:
    """Teams of `size`: even ones mix fast and slow, the others are alike.

    Who is left over makes a smaller team of their own.
    """
    order = by_speed(athletes, speed)
    count = -(-len(order) // size) if order else 0
    if how == "like with like":
        return tuple(tuple(order[n * size : (n + 1) * size]) for n in range(count))
    # Dealt to and fro: the fastest with the slowest, the next with the next.
    made: list[list[int]] = [[] for _ in range(count)]
    for at, one in enumerate(reversed(order)):
        lap, place = divmod(at, count)
        made[place if lap % 2 == 0 else count - 1 - place].append(one)
    return tuple(tuple(team) for team in made)
