"""Learning from scores: each is an equation about its athlete and its movements.

The log of how much slower a score is than predicted is a sum over movements, weighted by their
share of the time, of the athlete's factor for the movement's capacity and the gym's factor for the
movement. A least-squares fit, held near no difference at all (ridge), solves for all of them.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.linalg import lstsq

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, athletes
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.piece import run
from pine_ladder.core.pace.rep import TIER_PACE, UNKNOWN, Array, Capacity, capacity_of
from pine_ladder.core.plan import Frozen, ScoreKind

LEARNT = (ScoreKind.ROUNDS, ScoreKind.TIME, ScoreKind.TOTAL_REPS, ScoreKind.LOWEST_INTERVAL)
Unknown = tuple[int, Capacity | None] | str | int
"""What is solved for: an athlete's factor in general (None) and beside it for a capacity, the
gym's for a movement by name, and how a piece went for everybody, by its place in the list.
"""
NOISE, ROUNDING = 0.05, 0.3
"""Standard deviation of the log of a result that nothing explains, and of a count in reps."""
ATHLETE_SPREAD, CAPACITY_SPREAD, MOVEMENT_SPREAD, PIECE_SPREAD = 0.12, 0.07, 0.12, 0.05
"""How far (log, standard deviation) an athlete lies from the tier, one capacity from the athlete,
a movement from the library, and a piece from what its movements say.
"""
PASSES = 3
HELD_OUT = 5
"""Every fifth score is kept from the fit that is judged."""
FEWEST = 20
"""Scores before anything is said of how well the fit predicts."""


@dataclass(frozen=True)
class Observation:
    """A recorded score: rounds (fractional), seconds or reps, on a piece in a tier and track."""

    athlete: int
    piece: plan.Piece
    tier: int
    track: int
    kind: ScoreKind
    value: float


class Report(Frozen):
    """How well the fit predicts scores it has not seen, beside the mean of their tier.

    Errors are root mean squares of the log of predicted over actual: 0.1 is about ten percent.
    """

    scores: int
    unseen: int
    error: float | None
    baseline: float | None

    @property
    def better(self) -> float | None:
        """How much smaller the error is than the baseline's, 0 to 1."""
        if self.error is None or not self.baseline:
            return None
        return 1 - self.error / self.baseline


class Learnt(Frozen):
    """Factors by athlete and capacity (1 typical, less is faster), and by movement; the report.

    `counts` is how many scores each athlete's factors rest on.
    """

    factors: dict[int, dict[Capacity, float]]
    medians: dict[str, float]
    counts: dict[int, int]
    report: Report


def value_of(kind: ScoreKind, value: Mapping[str, object], total: float | None) -> float | None:
    """A stored score as the number that is learnt from; None where there is nothing to learn.

    `total` is the score's order key. A capped time says only that it was longer.
    """
    if kind is ScoreKind.TIME:
        return None if value.get("capped") else float(value["seconds"])  # type: ignore[arg-type]
    if kind in (ScoreKind.TOTAL_REPS, ScoreKind.LOWEST_INTERVAL):
        return float(value["reps"])  # type: ignore[arg-type]
    return total if kind is ScoreKind.ROUNDS else None


def _usable(one: Observation) -> bool:
    return one.kind in LEARNT and one.value > 0 and one.piece.teams is None


def _sense(kind: ScoreKind) -> int:
    """1 where more means slower, -1 where more means faster."""
    return 1 if kind is ScoreKind.TIME else -1


def _groups(seen: Sequence[Observation]) -> dict[tuple[plan.Piece, int], list[int]]:
    """Scores that one run predicts: those on the same piece in the same tier."""
    keys: dict[tuple[int, int], tuple[plan.Piece, int]] = {}
    groups: dict[tuple[plan.Piece, int], list[int]] = {}
    for at, one in enumerate(seen):
        key = keys.setdefault((id(one.piece), one.tier), (one.piece, one.tier))
        groups.setdefault(key, []).append(at)
    return groups


@dataclass
class _Prediction:
    """Predicted results, and the share of time by movement; arrays of one entry a score."""

    result: Array
    shares: list[dict[str, float]]


def predict(
    seen: Sequence[Observation],
    members: Mapping[int, Member],
    library: Library,
    medians: Mapping[str, float],
) -> _Prediction:
    """What each score's athlete is predicted to do, given factors and medians."""
    result = np.full(len(seen), np.nan)
    shares: list[dict[str, float]] = [{} for _ in seen]
    for (piece, tier), places in _groups(seen).items():
        people = [
            members[seen[at].athlete].model_copy(update={"tier": tier, "track": seen[at].track})
            for at in places
        ]
        who = replace(athletes(people), medians=medians)
        done = run(piece, who, library, tier)
        for row, at in enumerate(places):
            result[at] = done.result[row]
            spent = max(float(done.time_s[row]), 1e-9)
            shares[at] = {name: float(t[row]) / spent for name, t in done.tension.items()}
    return _Prediction(result, shares)


def _solve(seen: Sequence[Observation], members: Mapping[int, Member], library: Library) -> Solved:
    """All factors, by a few passes of linearised least squares."""
    found: dict[Unknown, float] = {}
    people = dict(members)
    numbers = _piece_numbers(seen)
    for _ in range(PASSES):
        medians = _medians(found)
        predicted = predict(seen, people, library, medians)
        columns: dict[Unknown, int] = {}
        rows: list[tuple[dict[Unknown, float], float]] = []
        wanted = []
        for one, result, shares in zip(seen, predicted.result, predicted.shares, strict=True):
            if not np.isfinite(result) or result <= 0:
                continue
            row = _row(one, shares, library)
            row[numbers[id(one.piece)]] = 1.0
            for key in row:
                columns.setdefault(key, len(columns))
            slower = _sense(one.kind) * math.log(one.value / result)
            # The equation is about the whole factor: what is believed so far goes back in.
            slower += sum(
                share * found.get(key, 0.0) for key, share in row.items() if type(key) is not int
            )
            noise = math.hypot(NOISE, 0 if one.kind is ScoreKind.TIME else ROUNDING / one.value)
            rows.append((row, noise))
            wanted.append(slower / noise)
        if not rows:
            break
        table = np.zeros((len(rows) + len(columns), len(columns)))
        for at, (row, noise) in enumerate(rows):
            for key, share in row.items():
                table[at, columns[key]] = share / noise
        for key, column in columns.items():
            table[len(rows) + column, column] = 1 / _spread(key)
        solved = lstsq(table, np.concatenate([wanted, np.zeros(len(columns))]))[0]
        found = {key: float(solved[column]) for key, column in columns.items()}
        people = {
            number: member.model_copy(update={"factors": _factors(member, found)})
            for number, member in members.items()
        }
    return Solved(
        factors={number: _factors(member, found) for number, member in members.items()},
        medians={name: round(v, 4) for name, v in _medians(found).items()},
        pieces={piece: math.exp(found.get(at, 0.0)) for piece, at in numbers.items()},
    )


@dataclass(frozen=True)
class Solved:
    """Factors by athlete, by movement, and by piece (its id; how slow it was for everybody)."""

    factors: dict[int, dict[Capacity, float]]
    medians: dict[str, float]
    pieces: dict[int, float]


def _piece_numbers(seen: Sequence[Observation]) -> dict[int, int]:
    numbers: dict[int, int] = {}
    for one in seen:
        numbers.setdefault(id(one.piece), len(numbers))
    return numbers


def _row(one: Observation, shares: Mapping[str, float], library: Library) -> dict[Unknown, float]:
    """The left side of a score's equation: what it draws on, by share of the time."""
    row: dict[Unknown, float] = {}
    for name, share in shares.items():
        capacity = capacity_of(library.find(name) or UNKNOWN)
        keys: tuple[Unknown, ...] = ((one.athlete, None), (one.athlete, capacity), name)
        for key in keys:
            row[key] = row.get(key, 0.0) + share
    return row


def _spread(key: Unknown) -> float:
    if isinstance(key, str):
        return MOVEMENT_SPREAD
    if isinstance(key, int):
        return PIECE_SPREAD
    return ATHLETE_SPREAD if key[1] is None else CAPACITY_SPREAD


def _medians(found: Mapping[Unknown, float]) -> dict[str, float]:
    return {key: math.exp(v) for key, v in found.items() if isinstance(key, str)}


def _factors(member: Member, found: Mapping[Unknown, float]) -> dict[Capacity, float]:
    usual = TIER_PACE[min(member.tier, len(TIER_PACE) - 1)]
    general = found.get((member.id, None), 0.0)
    return {
        capacity: round(usual * math.exp(general + found.get((member.id, capacity), 0.0)), 4)
        for capacity in Capacity
    }


def _error(predicted: Array, actual: Array) -> float | None:
    usable = np.isfinite(predicted) & (predicted > 0)
    if not usable.any():
        return None
    return float(np.sqrt(np.mean(np.log(predicted[usable] / actual[usable]) ** 2)))


def _tier_means(known: Sequence[Observation], asked: Sequence[Observation]) -> Array:
    """The plain baseline: the mean of the known scores on the same piece in the same tier."""
    values: dict[tuple[int, int], list[float]] = {}
    for one in known:
        values.setdefault((id(one.piece), one.tier), []).append(one.value)
    return np.array(
        [float(np.mean(values.get((id(one.piece), one.tier), [np.nan]))) for one in asked]
    )


def judge(seen: Sequence[Observation], members: Mapping[int, Member], library: Library) -> Report:
    """Fit to four fifths of the scores, and tell the error on the others."""
    usable = [one for one in seen if _usable(one)]
    order = np.random.default_rng(1).permutation(len(usable))
    asked = [usable[at] for at in order[: len(usable) // HELD_OUT]]
    known = [usable[at] for at in order[len(usable) // HELD_OUT :]]
    if len(usable) < FEWEST:
        return Report(scores=len(usable), unseen=0, error=None, baseline=None)
    solved = _solve(known, members, library)
    people = {n: m.model_copy(update={"factors": solved.factors[n]}) for n, m in members.items()}
    actual = np.array([one.value for one in asked])
    slow = np.array([solved.pieces.get(id(one.piece), 1.0) ** _sense(one.kind) for one in asked])
    predicted = predict(asked, people, library, solved.medians).result * slow
    means = _tier_means(known, asked)
    both = np.isfinite(means)
    return Report(
        scores=len(usable),
        unseen=int(both.sum()),
        error=_error(predicted[both], actual[both]),
        baseline=_error(means[both], actual[both]),
    )


def learn(seen: Sequence[Observation], members: Mapping[int, Member], library: Library) -> Learnt:
    """Factors from all scores, with the report of a fit that was kept from a fifth of them."""
    usable = [one for one in seen if _usable(one)]
    bare = {number: member.model_copy(update={"factors": {}}) for number, member in members.items()}
    solved = _solve(usable, bare, library)
    counts: dict[int, int] = {}
    for one in usable:
        counts[one.athlete] = counts.get(one.athlete, 0) + 1
    return Learnt(
        factors={number: solved.factors[number] for number in counts},
        medians=solved.medians,
        counts=counts,
        report=judge(seen, bare, library),
    )
