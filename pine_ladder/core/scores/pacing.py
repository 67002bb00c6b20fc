"""How the rounds of a score went, judged against the pace that the piece asks for."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Literal, NamedTuple

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.kinds import Rounds, counted_intervals, reps_in_round, reps_of_round
from pine_ladder.core.units import clock_text

STEADY, FALLING = 0.10, 0.20
"""A drop up to the first is steady, beyond the second the pace has gone (common practice)."""
ROUNDING = 1e-9
HELD_BACK = 0.05
"""A later interval this much above the first was saved for (common practice)."""
FEWEST = 3
"""Rounds from which a pace is read."""

Unit = Literal["s", "s a rep", "reps", "reps a minute", "rounds", "share"]


class Series(NamedTuple):
    """Rounds made comparable: numbers in order, and what they are.

    A `share` is a count over the mean of its own movement.
    """

    unit: Unit
    numbers: tuple[float, ...]


Verdict = Literal["steady", "falling", "collapsed", "rising"]


class Pacing(Frozen):
    """How the rounds of a score went: `drop` is by what share the mean of the last third is slower
    or fewer than that of the first (negative where it rose), `spread` the standard deviation over
    the mean. The words tell both means and the share of one to the other.
    """

    drop: float
    spread: float
    verdict: Literal["steady", "falling", "collapsed", "rising", "held back", "all out"]
    words: str


def comparable(piece: plan.Piece, rounds: Rounds, tier: int = 0, track: int = 0) -> Series | None:
    """Rounds as numbers that mean the same each time; None for loads, and where they never do.

    Rounds of different size count by the rep, windows of different length by the minute, blocks by
    their own rounds, and movements that take turns each against its own mean.
    """
    match rounds.unit:
        case "kg":
            return None
        case "s":
            return _by_time(piece, rounds.numbers, tier, track)
    if isinstance(piece.format, plan.Amrap) and len(piece.blocks) > 1:
        sizes = [
            reps_in_round(piece.model_copy(update={"blocks": (block,)}), 1, tier, track)
            for block in piece.blocks
        ]
        pairs = zip(rounds.numbers, sizes, strict=False)
        return Series("rounds", tuple(n / size for n, size in pairs)) if all(sizes) else None
    return _by_interval(piece, rounds.numbers)


def _by_time(piece: plan.Piece, seconds: tuple[float, ...], tier: int, track: int) -> Series | None:
    sizes = [reps_of_round(piece, n, tier, track) for n in range(1, len(seconds) + 1)]
    if len(set(sizes)) < 2:
        return Series("s", seconds)
    if not all(sizes):
        return None
    return Series("s a rep", tuple(s / size for s, size in zip(seconds, sizes, strict=True)))


def _by_interval(piece: plan.Piece, counts: tuple[float, ...]) -> Series | None:
    held = counted_intervals(piece)[: len(counts)]
    if len(held) < len(counts):
        return Series("reps", counts)
    unit: Unit = "reps"
    numbers = list(counts)
    if len({one.length_s for one in held}) > 1:
        unit = "reps a minute"
        numbers = [60 * n / one.length_s for n, one in zip(counts, held, strict=True)]
    labels = [one.label for one in held]
    if len(set(labels)) == 1:
        return Series(unit, tuple(numbers))
    often = {label for label, times in Counter(labels).items() if times >= FEWEST}
    means = {
        label: float(np.mean([n for n, own in zip(numbers, labels, strict=True) if own == label]))
        for label in often
    }
    shares = [
        n / means[label] for n, label in zip(numbers, labels, strict=True) if means.get(label)
    ]
    return Series("share", tuple(shares)) if shares else None


def pacing(series: Series | None, pace: Literal["steady", "hard"] | None) -> Pacing | None:
    """Judge rounds against the piece's pace; None for fewer than three.

    Steady means the last rounds near the first; hard means every interval as many as possible, so
    that a drop is expected and a rise shows that something was saved.
    """
    if series is None or len(series.numbers) < FEWEST or not any(series.numbers):
        return None
    numbers, timed = np.array(series.numbers), series.unit in ("s", "s a rep")
    drop = drop_of(series.numbers, timed)
    spread = float(numbers.std() / numbers.mean())
    compared = _told_ends(series)
    if pace == "hard":
        best = float(numbers.min() if timed else numbers.max())
        ahead = _over(numbers[0], best) if timed else _over(best, numbers[0])
        if ahead > HELD_BACK:
            words = f"held back: a later interval beat the first ({compared})"
            return Pacing(drop=drop, spread=spread, verdict="held back", words=words)
        change = f"{abs(drop):.0%} {'down' if drop >= 0 else 'up'} at the end"
        words = f"all out: the first was the best, {change} ({compared})"
        return Pacing(drop=drop, spread=spread, verdict="all out", words=words)
    verdict = _verdict(drop)
    match verdict:
        case "rising":
            better = "faster" if timed else "more"
            words = f"rising: {abs(drop):.0%} {better} at the end ({compared}); there was more in"
            words += " the tank"
        case "steady":
            words = f"steady: within {max(abs(drop), 0.01):.0%} ({compared})"
        case "falling":
            words = f"falling off by {drop:.0%} ({compared})"
        case "collapsed":
            words = f"collapsed: {drop:.0%} {'slower' if timed else 'down'} ({compared}); start a"
            words += " step slower next time"
    return Pacing(drop=drop, spread=spread, verdict=verdict, words=words)


def paced(piece: plan.Piece, rounds: Rounds | None, tier: int = 0, track: int = 0) -> Pacing | None:
    """How a score's rounds on a piece went, in a tier and track; None where it cannot be told."""
    return pacing(comparable(piece, rounds, tier, track), piece.pace) if rounds else None


def _over(one: float, other: float) -> float:
    """By what share one number is above another."""
    return float(one / other - 1) if other else float("inf") if one else 0.0


def ends(numbers: Sequence[float]) -> tuple[float, float, int]:
    """The means of the first and of the last third of some rounds, and how many a third is."""
    part = max(1, len(numbers) // FEWEST)
    return float(np.mean(numbers[:part])), float(np.mean(numbers[-part:])), part


def drop_of(numbers: Sequence[float], timed: bool) -> float:
    """By what share the last third is slower (`timed`, in seconds) or fewer than the first.

    >>> round(drop_of([90, 95, 99], timed=True), 2), round(drop_of([20, 18, 15], timed=False), 2)
    (0.1, 0.25)
    """
    first, last, _ = ends(numbers)
    if not first:
        return 0.0
    return last / first - 1 if timed else 1 - last / first


def lap_verdict(seconds: Sequence[float]) -> Verdict | None:
    """How rounds of equal work go so far, from their seconds; None before the third.

    The same thresholds as `pacing`; what the floor shows beside a name while the class runs.
    """
    if len(seconds) < FEWEST or ends(seconds)[0] <= 0:
        return None
    return _verdict(drop_of(seconds, timed=True))


def _verdict(drop: float) -> Verdict:
    if drop < -STEADY - ROUNDING:
        return "rising"
    if drop <= STEADY + ROUNDING:
        return "steady"
    return "falling" if drop <= FALLING + ROUNDING else "collapsed"


def _told_ends(series: Series) -> str:
    """What was compared, in words: the first and the last round, or the means of some."""
    first, last, part = ends(series.numbers)
    at_first, at_the_end = ("at first", "at the end")
    if part > 1:
        at_first, at_the_end = f"on average in the first {part}", f"in the last {part}"
    match series.unit:
        case "s":
            return f"{clock_text(round(first))} {at_first}, {clock_text(round(last))} {at_the_end}"
        case "s a rep" | "reps a minute":
            return f"{first:.1f} {series.unit} {at_first}, {last:.1f} {at_the_end}"
        case "rounds":
            return f"{first:.1f} rounds {at_first}, {last:.1f} {at_the_end}"
        case "share":
            return "each movement against its own mean"
    return f"{round(first, 1):g} {at_first}, {round(last, 1):g} {at_the_end}"
