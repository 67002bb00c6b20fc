"""Learning from scores: each is an equation about its athlete and its movements.

The log of how much slower a score is than predicted is a sum: of the athlete's factors by capacity,
each weighted by how much slower the piece gets with it, and of the gym's factors on the movements,
weighted by their share of the time. Who is slower also keeps up shorter sets: a piece of pull-ups
tells athletes further apart than a run. A least-squares fit, held near no difference at all
(ridge), solves for all of them.

A score is learnt from as what it is: a capped time says "at least so long", a team's score is the
equation of its members by equal shares, and loads tell of strength (`core.athletes.lifted`).
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from pydantic import Field
from scipy.linalg import lstsq

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, athletes
from pine_ladder.core.athletes.observations import Observation, groups, sense, usable
from pine_ladder.core.athletes.range_calibration import coverage, width_of
from pine_ladder.core.athletes.strength_estimates import bests_from
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import (
    TIER_PACE,
    UNKNOWN,
    Array,
    Athletes,
    Capacity,
    capacity_of,
)
from pine_ladder.core.pace.runs import run
from pine_ladder.core.plan import Frozen, ScoreKind

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
PASSES, WEIGHED = 4, 1
"""Passes of the fit, and those of them that ask anew how much each capacity slows each piece."""
FAR = 2.5
"""Scores further off than so many times their noise count for less, by the square of it."""
MOST_MOVEMENT, MOST_ATHLETE = 0.35, 0.5
"""The furthest (log) a movement is believed to lie from the library, an athlete from the tier."""
HELD_OUT = 5
"""Every fifth score is kept from the fit that is judged."""
FEWEST = 20
"""Scores before anything is said of how well the fit predicts."""


class Report(Frozen):
    """How well the fit predicts scores it has not seen, beside the mean of their tier.

    Errors are root mean squares of the log of predicted over actual: 0.1 is about ten percent.
    `coverage` is the share of the unseen scores that lie in the range told of their tier, which
    leaves out a tenth at either end.
    """

    scores: int
    unseen: int
    error: float | None
    baseline: float | None
    coverage: float | None = None
    width: float = 1.0
    """How far the gym's members lie apart, 1 being an ordinary gym's."""

    @property
    def better(self) -> float | None:
        """How much smaller the error is than the baseline's, 0 to 1."""
        if self.error is None or not self.baseline:
            return None
        return 1 - self.error / self.baseline


class Learnt(Frozen):
    """Factors by athlete and capacity (1 typical, less is faster), and by movement; the report.

    `counts` is how many scores each athlete's factors rest on; `bests` the one-rep bests in kg that
    their sets speak for, by athlete and lift.
    """

    factors: dict[int, dict[Capacity, float]]
    medians: dict[str, float]
    counts: dict[int, int]
    report: Report
    bests: dict[int, dict[str, float]] = Field(default_factory=dict)


@dataclass
class _Prediction:
    """Predicted results, the share of time by movement, and how much each capacity slows the piece
    (in log, for one of the factor's log); arrays and lists of one entry a score.
    """

    result: Array
    shares: list[dict[str, float]]
    weights: list[dict[Capacity, float]]


STEP = 0.08
"""How far (log) a factor is moved to see what it does."""


def predict(
    seen: Sequence[Observation],
    members: Mapping[int, Member],
    library: Library,
    medians: Mapping[str, float],
    weigh: bool = False,
) -> _Prediction:
    """What each score's athlete is predicted to do, given factors and medians.

    With `weigh` also how much each capacity's factor slows the piece, by moving it both ways.
    """
    result = np.full(len(seen), np.nan)
    shares: list[dict[str, float]] = [{} for _ in seen]
    weights: list[dict[Capacity, float]] = [{} for _ in seen]
    for (written, tier), seats in _runs(seen):
        people = [
            members[number].model_copy(
                update={"tier": tier, "track": _track(seen[at], number, members)}
            )
            for at, number in seats
        ]
        rows: dict[int, list[int]] = {}
        for row, (at, _) in enumerate(seats):
            rows.setdefault(at, []).append(row)
        # How long it would have taken: the cap ends a score, not what it says of pace.
        piece = written.model_copy(update={"cap_s": None})
        who = replace(athletes(people, library), medians=medians)
        done = run(piece, who, library, tier)
        for at, own in rows.items():
            result[at] = _middle(done.result[own])
            spent = np.maximum(done.time_s[own], 1e-9)
            shares[at] = {name: float(np.mean(t[own] / spent)) for name, t in done.tension.items()}
        if not weigh:
            continue
        way = sense(seen[seats[0][0]].kind)
        used = {capacity_of(library.find(name) or UNKNOWN) for name in done.tension}
        for capacity in sorted(used | {Capacity.BODYWEIGHT}):
            moved = [
                run(piece, _moved(people, medians, capacity, step, library), library, tier).result
                for step in (-STEP, STEP)
            ]
            with np.errstate(divide="ignore", invalid="ignore"):
                slopes = way * np.log(moved[1] / moved[0]) / (2 * STEP)
            for at, own in rows.items():
                slope = float(np.mean(slopes[own]))
                bounded = min(max(slope, 0.0), MOST_SLOPE) if np.isfinite(slope) else 0.0
                weights[at][capacity] = bounded
    return _Prediction(result, shares, weights)


def _runs(
    seen: Sequence[Observation],
) -> Iterator[tuple[tuple[plan.Piece, int], list[tuple[int, int]]]]:
    """What one run predicts: piece and tier, and each score's place with whose work it is. A team
    is run on its own, its members being each other's partners.
    """
    for (piece, tier), places in groups(seen).items():
        if piece.teams is None:
            yield (piece, tier), [(at, seen[at].athlete) for at in places]
            continue
        for at in places:
            yield (piece, tier), [(at, number) for number in seen[at].seats]


def _track(observation: Observation, number: int, members: Mapping[int, Member]) -> int:
    return observation.track if number == observation.athlete else members[number].track


def _middle(results: Array) -> float:
    """The geometric middle of what a team's members would do with partners like themselves."""
    if len(results) == 1:
        return float(results[0])
    if not (np.isfinite(results).all() and (results > 0).all()):
        return math.nan
    return float(np.exp(np.mean(np.log(results))))


MOST_SLOPE = 4.0
"""No score is taken to say more than this of a factor: near what cannot be done, results leap."""


def _moved(
    people: Sequence[Member],
    medians: Mapping[str, float],
    capacity: Capacity,
    step: float,
    library: Library,
) -> Athletes:
    """The athletes with one capacity's factor moved by a step in log."""
    changed = []
    for person in people:
        usual = TIER_PACE[min(person.tier, len(TIER_PACE) - 1)]
        own = {each: person.factors.get(each, usual) for each in Capacity}
        own[capacity] *= math.exp(step)
        changed.append(person.model_copy(update={"factors": own}))
    return replace(athletes(changed, library), medians=medians)


def fit(seen: Sequence[Observation], members: Mapping[int, Member], library: Library) -> Solved:
    """All factors, by a few passes of linearised least squares."""
    found: dict[Unknown, float] = {}
    people = dict(members)
    numbers = _piece_numbers(seen)
    weights: list[dict[Capacity, float]] = []
    trust = np.ones(len(seen))
    for turn in range(PASSES):
        medians = _medians(found)
        predicted = predict(seen, people, library, medians, weigh=turn < WEIGHED)
        weights = predicted.weights if turn < WEIGHED else weights
        columns: dict[Unknown, int] = {}
        rows: list[tuple[dict[Unknown, float], float]] = []
        wanted, told = [], []
        for at, (one, result, shares, own) in enumerate(
            zip(seen, predicted.result, predicted.shares, weights, strict=True)
        ):
            if not np.isfinite(result) or result <= 0:
                continue
            if one.at_least and result >= one.value:
                continue  # What is believed agrees that it takes longer: it says no more.
            row = _row(one, shares, own)
            row[numbers[id(one.piece)]] = 1.0
            for key in row:
                columns.setdefault(key, len(columns))
            slower = sense(one.kind) * math.log(one.value / result)
            # The equation is about the whole factor: what is believed so far goes back in.
            slower += sum(
                share * found.get(key, 0.0) for key, share in row.items() if type(key) is not int
            )
            noise = math.hypot(NOISE, 0 if one.kind is ScoreKind.TIME else ROUNDING / one.value)
            noise /= math.sqrt(trust[at])
            rows.append((row, noise))
            wanted.append(slower / noise)
            told.append(at)
        if not rows:
            break
        table = np.zeros((len(rows) + len(columns), len(columns)))
        for at, (row, noise) in enumerate(rows):
            for key, share in row.items():
                table[at, columns[key]] = share / noise
        for key, column in columns.items():
            table[len(rows) + column, column] = 1 / _spread(key)
        solved = lstsq(table, np.concatenate([wanted, np.zeros(len(columns))]))[0]
        found = {key: _bounded(key, float(solved[column])) for key, column in columns.items()}
        # A score far from all the others is a slip sooner than news: reweighted as in robust
        # regression (Huber 1964), and harder the further off it is.
        off = np.abs(table[: len(rows)] @ solved - wanted) / np.sqrt(trust[told])
        trust[told] = np.minimum(1.0, FAR / np.maximum(off, 1e-9)) ** 2
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
    for observation in seen:
        numbers.setdefault(id(observation.piece), len(numbers))
    return numbers


def _row(
    observation: Observation, shares: Mapping[str, float], weights: Mapping[Capacity, float]
) -> dict[Unknown, float]:
    """The left side of a score's equation: what it draws on, and how much."""
    row: dict[Unknown, float] = {}
    for number in observation.seats:
        row[number, None] = sum(weights.values()) / len(observation.seats)
        for capacity, weight in weights.items():
            row[number, capacity] = weight / len(observation.seats)
    for name, share in shares.items():
        row[name] = row.get(name, 0.0) + share
    return row


def _bounded(key: Unknown, value: float) -> float:
    """What is believed of a movement or a person stays within what can be so."""
    most = MOST_MOVEMENT if isinstance(key, str) else MOST_ATHLETE
    return min(max(value, -most), most)


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
        [
            float(np.mean(values.get((id(observation.piece), observation.tier), [np.nan])))
            for observation in asked
        ]
    )


def judge(seen: Sequence[Observation], members: Mapping[int, Member], library: Library) -> Report:
    """Fit to four fifths of the scores, and tell the error on the others."""
    scores = [observation for observation in seen if usable(observation)]
    if len(scores) < FEWEST:
        return Report(scores=len(scores), unseen=0, error=None, baseline=None)
    # A cap says no number that a prediction could be held against, a team's none of one athlete.
    known, asked = split([score for score in scores if score.says_alone])
    others = [score for score in scores if not score.says_alone]
    return compare([*known, *others], asked, members, library)


def split(scores: Sequence[Observation]) -> tuple[list[Observation], list[Observation]]:
    """Scores to fit to, and a fifth of them to be kept from it."""
    order = np.random.default_rng(1).permutation(len(scores))
    asked = [scores[at] for at in order[: len(scores) // HELD_OUT]]
    known = [scores[at] for at in order[len(scores) // HELD_OUT :]]
    return known, asked


def compare(
    known: Sequence[Observation],
    asked: Sequence[Observation],
    members: Mapping[int, Member],
    library: Library,
) -> Report:
    """The error on some scores after a fit to others, beside the tier's mean of those others."""
    solved = fit(known, members, library)
    people = {n: m.model_copy(update={"factors": solved.factors[n]}) for n, m in members.items()}
    actual = np.array([observation.value for observation in asked])
    slow = np.array(
        [
            solved.pieces.get(id(observation.piece), 1.0) ** sense(observation.kind)
            for observation in asked
        ]
    )
    predicted = predict(asked, people, library, solved.medians).result * slow
    means = _tier_means(known, asked)
    both = np.isfinite(means)
    return Report(
        scores=len(known) + len(asked),
        unseen=int(both.sum()),
        error=_error(predicted[both], actual[both]),
        baseline=_error(means[both], actual[both]),
        coverage=coverage(
            asked, solved.medians, library.of_width(width_of(known, solved.medians, library))
        ),
    )


def learn(seen: Sequence[Observation], members: Mapping[int, Member], library: Library) -> Learnt:
    """Factors from all scores, with the report of a fit that was kept from a fifth of them."""
    scores = [observation for observation in seen if usable(observation)]
    loads = [(o.athlete, o.piece, o.tier, o.value) for o in seen if o.kind is ScoreKind.LOAD]
    bests = bests_from(loads, library)
    bare = {
        number: member.model_copy(update={"factors": {}, "lifted": bests.get(number, {})})
        for number, member in members.items()
    }
    solved = fit(scores, bare, library)
    counts: dict[int, int] = {}
    for one in scores:
        for number in one.seats:
            counts[number] = counts.get(number, 0) + 1
    return Learnt(
        factors={number: solved.factors[number] for number in counts},
        medians=solved.medians,
        counts=counts,
        bests=bests,
        report=judge(seen, bare, library).model_copy(
            update={"width": round(width_of(scores, solved.medians, library), 3)}
        ),
    )
