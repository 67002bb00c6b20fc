"""Scores of a piece, ranked: ties share a rank (1, 2, 2, 4), tiers stand apart or in one list."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from operator import attrgetter
from typing import Literal

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.plan import Frozen, ScoreKind
from pine_ladder.core.scores.chart_scale import axis_of
from pine_ladder.core.scores.kinds import CAPPED_KEY, Rounds
from pine_ladder.core.units import clock_text, number_text

School = Literal["tiers apart", "tier order", "total work"]
"""How tiers are ranked: each on its own; in one list, the harder tier ahead; or in one list by the
work done, whatever the tier."""
SCHOOLS: tuple[School, ...] = ("tiers apart", "tier order", "total work")
AgeBand = Literal["under 35", "35 to 49", "50 and over"]
AGE_BANDS: dict[AgeBand, tuple[int, int]] = {
    "under 35": (0, 34),
    "35 to 49": (35, 49),
    "50 and over": (50, 130),
}
"""Ages by the age reached in the year of the scores, youngest and oldest."""


class Entry(Frozen):
    """One athlete's score on a piece; `tier` and `track` are indexes in the gym's lists.

    A team is one entry with the names of all; `to_verify` says why the score is doubted. `reps` is
    the work done, where it is known.
    """

    athlete_id: int
    name: str
    tier: int
    track: int
    display: str
    order_key: float
    reps: int | None = None
    to_verify: str | None = None
    rounds: Rounds | None = None
    team: tuple[int, ...] = ()


class Place(Frozen):
    """An entry with its rank in its section (1 is best; equal scores share a rank).

    `strip` is where its dot lies on the strip of everyone's results, 0 (lowest) to 1 (best); a
    `capped` result is no time and has no place on it.
    """

    rank: int
    tied: bool
    strip: float
    capped: bool = False
    entry: Entry


class Spread(Frozen):
    """How a section's results lie: quantiles (Hyndman & Fan 1996, type 7) in the kind's number
    (seconds, reps, kg), their places on the strip, and in words. Capped results are left out, and
    those still to verify.
    """

    count: int
    quarter: float
    middle: float
    three_quarters: float
    strip: tuple[float, ...]
    words: str


class Section(Frozen):
    """The standings of one tier; of all of them where `tier` is None."""

    tier: int | None
    places: tuple[Place, ...]
    spread: Spread | None = None


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
    axis = axis_of(keys)
    if not any(key > CAPPED_KEY for key in keys):
        return [0.5] * len(keys)
    return [axis.place(key) for key in keys]


def rank_of(key: float, tier: int, others: Iterable[Entry]) -> int:
    """The rank a score would take among the others of its tier."""
    return 1 + sum(entry.tier == tier and entry.order_key > key for entry in others)


def number_words(kind: ScoreKind, number: float) -> str:
    """One result of a kind in words: `11:43`, `162 reps`, `82.5 kg`."""
    match kind:
        case ScoreKind.TIME:
            return clock_text(number)
        case ScoreKind.LOAD:
            return f"{number_text(round(number, 1))} kg"
        case ScoreKind.DISTANCE:
            return f"{number:.0f} m"
        case ScoreKind.CALORIES:
            return f"{number:.0f} cal"
        case ScoreKind.STEP:
            return f"step {number_text(round(number, 1))}"
        case ScoreKind.PUT_DOWNS:
            return f"{number:.0f} put-downs"
    return f"{number:.0f} reps"


def born_in(age: AgeBand, year: int) -> tuple[int, int]:
    """The first and the last year of birth of an age band, by the age reached in a year."""
    youngest, oldest = AGE_BANDS[age]
    return year - oldest, year - youngest


def is_tabata(piece: plan.Piece) -> bool:
    """Whether the gym's way of counting a Tabata decides; a kind the board declares comes first."""
    return isinstance(piece.format, plan.Tabata) and piece.score is None


def by_lowest(entries: Iterable[Entry]) -> list[Entry]:
    """Entries told interval by interval, ranked by their lowest instead of their total."""
    out = []
    for entry in entries:
        if entry.rounds and entry.rounds.unit == "reps":
            low = min(entry.rounds.numbers)
            shown = f"{low:g} (lowest; {entry.display} in all)"
            out.append(entry.model_copy(update={"order_key": low, "display": shown}))
        else:
            out.append(entry)
    return out


def _told(kind: ScoreKind, number: float, round_reps: int) -> str:
    """A result as the standings show it: `12+7` where a round of its tier has a size."""
    if kind is ScoreKind.ROUNDS and round_reps:
        full, extra = divmod(round(number), round_reps)
        return f"{full}+{extra}" if extra else f"{full} rounds"
    return number_words(kind, number)


def keys_on_line(
    entries: Sequence[Entry], kind: ScoreKind, round_reps: Mapping[int, int] | None
) -> tuple[list[float], bool]:
    """Where entries lie on one line, and whether that is in rounds.

    Rounds compare across tiers where each tier's have one size (`round_reps`); their reps do not:
    a tier with fewer reps in a round would lie behind for every round it keeps up.
    """
    sizes = round_reps or {}
    in_rounds = kind is ScoreKind.ROUNDS and all(sizes.get(entry.tier) for entry in entries)
    if not in_rounds:
        return [entry.order_key for entry in entries], False
    return [
        entry.order_key / sizes[entry.tier] if entry.order_key > CAPPED_KEY else entry.order_key
        for entry in entries
    ], True


def _spread(
    kind: ScoreKind,
    keys: Sequence[float],
    line: Sequence[float],
    everyone: Sequence[float],
    round_reps: int = 0,
) -> Spread | None:
    """The middle half of some keys in words, and where it is on the line, where they are `line`."""
    finished = np.array([key for key in keys if key > CAPPED_KEY])
    if kind is ScoreKind.ROUNDS:
        finished = np.floor(finished)  # What a tie-break adds is less than a rep.
    if len(finished) < 3 or kind in (ScoreKind.DONE, ScoreKind.PUT_DOWNS):
        return None
    cuts = np.quantile(finished, (0.25, 0.5, 0.75))
    axis = axis_of(everyone)
    places = np.quantile([key for key in line if key > CAPPED_KEY], (0.25, 0.5, 0.75))
    numbers = np.abs(cuts)
    told = [_told(kind, float(number), round_reps) for number in numbers]
    return Spread(
        count=len(finished),
        quarter=float(numbers[0]),
        middle=float(numbers[1]),
        three_quarters=float(numbers[2]),
        strip=tuple(axis.place(float(place)) for place in places),
        words=f"typically {told[1]}; half are between {told[0]} and {told[2]}",
    )


def _order(entry: Entry, school: School) -> tuple[float, ...]:
    if school == "tier order":
        return (-float(entry.tier), entry.order_key)
    if school == "total work" and entry.reps is not None:
        return (float(entry.reps), entry.order_key)
    return (0.0, entry.order_key)


def standings(
    entries: Iterable[Entry],
    track: int | None = None,
    school: School = "tiers apart",
    kind: ScoreKind = ScoreKind.TOTAL_REPS,
    round_reps: Mapping[int, int] | None = None,
) -> tuple[Section, ...]:
    """Sections in tier order, best first, then by name; `track` keeps one track alone. `round_reps`
    are the reps of a round by tier, where it has one size: middles are told in rounds then.

    The other schools make one section of all tiers. By total work, reps done count the same in
    every tier, and equal work is ordered by the score itself.
    """
    kept = [entry for entry in entries if track is None or entry.track == track]
    everyone, _ = keys_on_line(kept, kind, round_reps)
    on_line = {entry.athlete_id: key for entry, key in zip(kept, everyone, strict=True)}
    positions = strip_positions(everyone)
    strip = {e.athlete_id: p for e, p in zip(kept, positions, strict=True)}
    tiers: list[int | None] = [*sorted({entry.tier for entry in kept})]
    sections = []
    for tier in tiers if school == "tiers apart" else tiers and [None]:
        own = sorted((e for e in kept if tier in (None, e.tier)), key=attrgetter("name"))
        own.sort(key=lambda entry: _order(entry, school), reverse=True)
        level = {order: at for at, order in enumerate(sorted({_order(e, school) for e in own}))}
        placed = ranks([float(level[_order(entry, school)]) for entry in own])
        shared = {rank for at, rank in enumerate(placed) if at and placed[at - 1] == rank}
        sections.append(
            Section(
                tier=tier,
                places=tuple(
                    Place(
                        rank=rank,
                        tied=rank in shared,
                        strip=strip[entry.athlete_id],
                        capped=entry.order_key <= CAPPED_KEY,
                        entry=entry,
                    )
                    for rank, entry in zip(placed, own, strict=True)
                ),
                spread=_spread(
                    kind,
                    [e.order_key for e in own if not e.to_verify],
                    [on_line[e.athlete_id] for e in own if not e.to_verify],
                    everyone,
                    (round_reps or {}).get(tier, 0) if tier is not None else 0,
                ),
            )
        )
    return tuple(sections)
