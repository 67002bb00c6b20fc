"""The line on which everyone's results lie: its ends, its ticks, and a break before an outlier."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from pine_ladder.core.plan import Frozen, ScoreKind
from pine_ladder.core.scores.kinds import CAPPED_KEY
from pine_ladder.core.units import clock_text, number_text

FEWEST = 6
"""Results from which one of them can stand apart."""
APART = 0.4
"""Share of the whole line that a gap takes before it is broken (judgement)."""
FEW = 8
"""One in so many results may stand apart."""
MAIN, GAP = 0.86, 0.05
"""Share of the line that the many keep, and that the break takes."""
MOST_TICKS = 7
_SECONDS = (5, 10, 15, 30, 60, 120, 300, 600, 900, 1800)


class Tick(Frozen):
    """A mark on the line: where (0 to 1), and what it says."""

    at: float
    words: str


class Axis(Frozen):
    """From `low` to `high` in order keys. `cut` is a gap that is not drawn to scale: its two ends
    in keys, and on which side of it the few lie.
    """

    low: float
    high: float
    cut: tuple[float, float] | None = None
    few_above: bool = True

    def place(self, key: float) -> float:
        """Where a key lies, 0 (lowest) to 1 (best); what is capped lies at 0."""
        if key <= CAPPED_KEY:
            return 0.0
        if self.high == self.low:
            return 0.5
        key = min(max(key, self.low), self.high)
        if self.cut is None:
            return (key - self.low) / (self.high - self.low)
        a, b = self.cut
        # Where the break begins and ends; a single result beyond it lies at the end of the line.
        # Where all on a side are alike there is nothing to spread: they are its end of the line.
        start = (MAIN if self.few_above else 1 - MAIN - GAP) if a > self.low else 0.0
        end = (MAIN + GAP if self.few_above else 1 - MAIN) if self.high > b else 1.0
        if key <= a:
            return start * (key - self.low) / (a - self.low) if a > self.low else start
        if key < b:
            return start + (end - start) * (key - a) / (b - a)
        return end + (1 - end) * (key - b) / (self.high - b) if self.high > b else end

    def broken(self) -> tuple[float, float] | None:
        """Where the break begins and ends on the line; None where there is none."""
        return (self.place(self.cut[0]), self.place(self.cut[1])) if self.cut else None


def axis_of(keys: Sequence[float]) -> Axis:
    """The line of these results. One far from all others does not push them together."""
    finished = sorted(key for key in keys if key > CAPPED_KEY)
    if not finished:
        return Axis(low=0.0, high=0.0)
    low, high = finished[0], finished[-1]
    plain = Axis(low=low, high=high)
    if len(finished) < FEWEST or low == high:
        return plain
    gaps = [(b - a, at) for at, (a, b) in enumerate(pairwise(finished), 1)]
    width, at = max(gaps)
    few = max(1, len(finished) // FEW)
    if width < APART * (high - low) or few < min(at, len(finished) - at):
        return plain
    cut = finished[at - 1], finished[at]
    return plain.model_copy(update={"cut": cut, "few_above": len(finished) - at <= at})


def _step(kind: ScoreKind, wide: float, round_reps: int) -> float:
    if kind is ScoreKind.ROUNDS and round_reps:
        return round_reps * max(1, -(-wide // (round_reps * MOST_TICKS)))
    if kind is ScoreKind.TIME:
        return next((s for s in _SECONDS if wide / s <= MOST_TICKS), 3600)
    step = 1.0
    while wide / step > MOST_TICKS:
        step *= 2.5 if str(step).startswith("2") else 2
    return step


def _words(kind: ScoreKind, key: float, round_reps: int) -> str:
    if kind is ScoreKind.ROUNDS and round_reps:
        return f"{key / round_reps:.0f} rounds"
    if kind is ScoreKind.TIME:
        return clock_text(-key)
    units = {
        ScoreKind.LOAD: " kg",
        ScoreKind.DISTANCE: " m",
        ScoreKind.CALORIES: " cal",
        ScoreKind.PUT_DOWNS: "",
        ScoreKind.STEP: "",
    }
    return f"{number_text(abs(key))}{units.get(kind, ' reps')}"


def ticks(axis: Axis, kind: ScoreKind, round_reps: int = 0) -> tuple[Tick, ...]:
    """Round numbers of the kind along the line: whole rounds of `round_reps`, minutes, kilograms.

    None stand in the break, nor beyond it.
    """
    if kind is ScoreKind.DONE or axis.high == axis.low:
        return ()
    low, high = axis.low, axis.high
    if axis.cut:
        low, high = (low, axis.cut[0]) if axis.few_above else (axis.cut[1], high)
    if high == low:
        return ()
    step = _step(kind, high - low, round_reps)
    first = -(-low // step)
    found = []
    while first * step <= high:
        key = first * step
        found.append(Tick(at=axis.place(key), words=_words(kind, key, round_reps)))
        first += 1
    return tuple(found)
