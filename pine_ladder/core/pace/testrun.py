"""The test-run: what the athletes of each tier would score on a piece, and where the time goes."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import Array, gathered, members_like, rep_of
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.pace.simulation import Mask
from pine_ladder.core.plan import Frozen, ScoreKind
from pine_ladder.core.units import clock_text

ATHLETES = 200
"""So many of each tier are run. What is offered is run for the same ones: its *before* is what was
told.
"""


class Band(Frozen):
    """The 10, 50 and 90 % quantiles of a number (Hyndman & Fan 1996, type 7)."""

    p10: float
    p50: float
    p90: float


class WindowBand(Frozen):
    """Work and rest of a station's windows in seconds, and the reps that count in one; over
    athletes and rounds.

    `overfull` is the share of windows whose work was not done in time.
    """

    station: int
    label: str
    work_s: Band
    rest_s: Band
    reps: Band
    overfull: float


class BlockBand(Frozen):
    """Rounds of one block, fractional."""

    rounds: Band


class ResultBand(Band):
    """The predicted score: rounds, seconds, reps, kilograms or a step, by its kind."""

    kind: ScoreKind


class TierRun(Frozen):
    """What a tier's athletes would do with a piece.

    Ranges are of those who can do it; `unable` is the share who cannot, by movement, where a load
    or a skill is beyond them. `time_s` is how long it takes; `reps` by movement; `capped_share` the
    share beaten by the cap; `put_downs` how often sets are broken or a carry is put down;
    `pauses_s` and `changes_s` the seconds lost to broken sets and between tasks; `last_round` how
    many times the first half's seconds a round of the last half takes, where there are rounds.
    """

    tier: int
    result: ResultBand | None
    time_s: Band
    work_s: Band
    windows: tuple[WindowBand, ...]
    blocks: tuple[BlockBand, ...]
    reps: dict[str, Band]
    capped_share: float
    unable: dict[str, float]
    put_downs: Band
    tension_s: dict[str, Band]
    tonnage_kg: Band
    landings: Band
    pauses_s: Band
    changes_s: Band
    last_round: Band | None


class PieceRun(Frozen):
    """A piece test-run for each tier."""

    role: plan.Role
    name: str | None
    tiers: tuple[TierRun, ...]


def band(values: Array) -> Band:
    """The quantiles of a sample."""
    ordered = np.sort(values)

    def at(share: float) -> float:
        place = share * (len(ordered) - 1)
        low, part = int(place), place % 1
        below, above = float(ordered[low]), float(ordered[min(low + 1, len(ordered) - 1)])
        # What does not end lies beside what does: no part of it is taken.
        return round(below + part * (above - below), 3) if part and below != above else below

    return Band(p10=round(at(0.1), 3), p50=round(at(0.5), 3), p90=round(at(0.9), 3))


def sum_up(done: Run, tier: int) -> TierRun:
    """A run as bands over those of its athletes who can do it."""
    unable = {name: round(float(m.mean()), 3) for name, m in done.unable.items() if m.any()}
    done = done.only(done.able)
    stations: dict[int, list[tuple[str, Array, float, Mask]]] = {}
    counted: dict[int, list[Array]] = {}
    for (station, label, work, length, finished), reps in zip(
        done.windows, done.intervals, strict=True
    ):
        stations.setdefault(station, []).append((label, work, length, finished))
        counted.setdefault(station, []).append(reps)
    windows = []
    for station, held in sorted(stations.items()):
        busy = np.concatenate([work for _, work, _, _ in held])
        idle = np.concatenate([length - work for _, work, length, _ in held])
        late = np.concatenate([~finished for *_, finished in held])
        windows.append(
            WindowBand(
                station=station,
                label=held[0][0],
                work_s=band(busy),
                rest_s=band(idle),
                reps=band(np.concatenate(counted[station])),
                overfull=round(float(late.mean()), 3),
            )
        )
    kind = done.kind
    scored = kind is not None and kind is not ScoreKind.DONE
    result = ResultBand(kind=kind, **dict(band(done.result))) if scored and kind else None
    return TierRun(
        tier=tier,
        result=result,
        time_s=band(done.time_s),
        work_s=band(done.work),
        windows=tuple(windows),
        blocks=tuple(BlockBand(rounds=band(rounds)) for rounds in done.blocks),
        reps={name: band(reps) for name, reps in done.reps.items()},
        capped_share=round(float(done.capped.mean()), 3),
        unable=unable,
        put_downs=band(done.breaks),
        tension_s={name: band(seconds) for name, seconds in done.tension.items()},
        tonnage_kg=band(done.tonnage),
        landings=band(done.landings),
        pauses_s=band(done.pauses),
        changes_s=band(done.changes),
        last_round=_falling_off(done.splits) if len(done.blocks) < 2 else None,
    )


def _falling_off(splits: list[Array]) -> Band | None:
    """Seconds a rep in the last half of the rounds against the first, for those with four."""
    if len(splits) < 4:
        return None
    table = np.array(splits)
    full = np.isfinite(table)
    reached = full.sum(axis=0)
    ratios = []
    # Those who did as many full rounds are looked at together.
    for count in np.unique(reached[reached >= 4]):
        own = table[:, reached == count]
        rounds = own.T[np.isfinite(own.T)].reshape(-1, count)
        early, late = rounds[:, : count // 2].mean(axis=1), rounds[:, -(count // 2) :].mean(axis=1)
        ratios.append(late[early > 0] / early[early > 0])
    told = np.concatenate(ratios) if ratios else np.zeros(0)
    return band(told) if told.size else None


def tiers_of(piece: plan.Piece) -> int:
    """How many versions the piece has; one where every tier does the same."""
    lines = (*piece.buy_in, *piece.lines, *piece.cash_out)
    return max((len(task.versions) for line in lines for task in line.tasks), default=1)


@lru_cache(maxsize=256)
def _test_run(piece: plan.Piece, library: Library, tiers: int, count: int, seed: int) -> PieceRun:
    samples = [members_like(library, count, tier, seed) for tier in range(tiers)]
    if tiers_of(piece) == 1 and piece.teams is None:
        # All do the same: they do it together, which takes hardly longer than one tier alone.
        whole = run(piece, gathered(samples), library)
        parts = [whole.only(slice(tier * count, (tier + 1) * count)) for tier in range(tiers)]
    else:
        parts = [run(piece, who, library, tier) for tier, who in enumerate(samples)]
    runs = [sum_up(done, tier) for tier, done in enumerate(parts)]
    return PieceRun(role=piece.role, name=piece.name, tiers=tuple(runs))


@lru_cache(maxsize=256)
def trial(piece: plan.Piece, library: Library, tier: int) -> Run:
    """What is tried before it is offered: a piece done by the same athletes of a tier as are told
    of. What was tried is remembered while a board is typed.
    """
    return run(piece, members_like(library, ATHLETES, tier), library, tier)


def unable_of(piece: plan.Piece, library: Library, tier: int) -> dict[str, float]:
    """The share of a tier's athletes who cannot do a movement as the piece asks for it, where there
    are any, by movement.
    """
    who = members_like(library, ATHLETES, tier)
    unable: dict[str, Mask] = {}
    for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
        for task in line.tasks:
            exercise = task.version(tier)
            for part in exercise.units:
                rep = rep_of(part, who, library)
                unable[rep.name] = unable.get(rep.name, np.zeros(who.count, bool)) | rep.unable
    return {name: float(mask.mean()) for name, mask in unable.items() if mask.any()}


def test_run(
    piece: plan.Piece, library: Library, tiers: int = 3, count: int = ATHLETES, seed: int = 1
) -> PieceRun:
    """A piece test-run for each tier's typical athletes, half on each track.

    The same piece is run once: while one line of a board is typed, the others are remembered.
    """
    return _test_run(piece, library, tiers, count, seed)


test_run.__test__ = False  # type: ignore[attr-defined]


def clear_test_runs() -> None:
    """Forget the pieces that were run and tried."""
    _test_run.cache_clear()
    trial.cache_clear()


def in_target(target: plan.Target | None, run: TierRun) -> float | None:
    """The number a target is about, for the middle of a tier; None where it predicts none."""
    if target is None:
        return None
    if target.unit == "time":
        return run.time_s.p50
    kinds = {"rounds": ScoreKind.ROUNDS, "reps": ScoreKind.TOTAL_REPS}
    if run.result is None or run.result.kind is not kinds[target.unit]:
        return None
    return run.result.p50


def aim_of(target: plan.Target | None, run: TierRun) -> Literal["", "on target", "under", "over"]:
    """Whether the middle of a tier lies in the coach's target."""
    middle = in_target(target, run)
    if target is None or middle is None:
        return ""
    return "under" if middle < target.low else "over" if middle > target.high else "on target"


def _range(low: str, middle: str, high: str) -> str:
    return middle if low == middle == high else f"{low}–{high}, typical {middle}"


def result_words(kind: ScoreKind | None, value: float) -> str:
    """One predicted result in words: `9.8 rounds`, `11:02`."""
    if kind is None or kind is ScoreKind.DONE:
        return ""
    if kind is ScoreKind.TIME:
        return clock_text(value)
    digits = 1 if kind is ScoreKind.ROUNDS else 0
    return f"{value:.{digits}f} {UNITS.get(kind, '')}".strip()


def words_of(run: TierRun) -> str:
    """A tier's prediction in words.

    `8.1–11.6 rounds, typical 9.8`; a piece without a score tells its time.
    """
    result = run.result
    if result is None or result.kind is ScoreKind.TIME:
        times = [
            clock_text(seconds) for seconds in (run.time_s.p10, run.time_s.p50, run.time_s.p90)
        ]
        told = _range(*times)
        capped = f", {run.capped_share:.0%} capped" if run.capped_share else ""
        return f"{told}{capped}"
    digits = 1 if result.kind is ScoreKind.ROUNDS else 0
    low, middle, high = (f"{v:.{digits}f}" for v in (result.p10, result.p50, result.p90))
    unit = UNITS.get(result.kind, "")
    return f"{_range(low, middle, high)} {unit}".strip()


UNITS = {
    ScoreKind.ROUNDS: "rounds",
    ScoreKind.TOTAL_REPS: "reps",
    ScoreKind.LOWEST_INTERVAL: "reps in the lowest interval",
    ScoreKind.LOAD: "kg",
    ScoreKind.STEP: "steps",
    ScoreKind.PUT_DOWNS: "put-downs",
    ScoreKind.DISTANCE: "m",
    ScoreKind.CALORIES: "cal",
}
