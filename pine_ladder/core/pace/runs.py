"""Athletes on the floor: a piece done rep by rep by many at once.

Every format is walked as its primitives (`pine_ladder.core.clock.lower`), so what the ruler shows
is what is done. All arrays have shape (n,), one entry an athlete.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from pine_ladder.core import clock, plan
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.muscles import Spent
from pine_ladder.core.pace.rep_times import (
    Array,
    Athletes,
    Constants,
    best,
    constants,
    kilograms,
)
from pine_ladder.core.pace.simulation import MOST_ROUNDS, Floor, Mask, Mode, each_rep
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import score_kind


@dataclass
class Run:
    """A piece as n athletes did it, before it is summed up. Times in seconds.

    `windows` holds (station, label, work, length, done) of each window, `blocks` and `splits` the
    rounds of each block and the seconds a rep of each full round (NaN where it was not reached),
    `intervals` the reps that counted in each window; `spent` is what it leaves of the athletes.
    """

    kind: ScoreKind | None
    result: Array
    time_s: Array
    capped: Mask
    windows: list[tuple[int, str, Array, float, Mask]] = field(default_factory=list)
    blocks: list[Array] = field(default_factory=list)
    splits: list[Array] = field(default_factory=list)
    intervals: list[Array] = field(default_factory=list)
    reps: dict[str, Array] = field(default_factory=dict)
    tension: dict[str, Array] = field(default_factory=dict)
    strain: dict[str, Array] = field(default_factory=dict)
    work: Array = field(default_factory=lambda: np.zeros(0))
    tonnage: Array = field(default_factory=lambda: np.zeros(0))
    landings: Array = field(default_factory=lambda: np.zeros(0))
    pauses: Array = field(default_factory=lambda: np.zeros(0))
    changes: Array = field(default_factory=lambda: np.zeros(0))
    breaks: Array = field(default_factory=lambda: np.zeros(0))
    unable: dict[str, Mask] = field(default_factory=dict)
    spent: Spent | None = None

    @property
    def able(self) -> Mask:
        """Who can do everything that is asked; everybody where hardly anybody can."""
        out = np.ones(len(self.time_s), bool)
        for mask in self.unable.values():
            out &= ~mask
        return out if out.mean() >= LEAST_ABLE else np.ones(len(out), bool)

    def only(self, keep: Mask | slice) -> Run:
        """The run of some of its athletes."""
        return Run(
            kind=self.kind,
            result=self.result[keep],
            time_s=self.time_s[keep],
            capped=self.capped[keep],
            windows=[
                (station, label, work[keep], length, done[keep])
                for station, label, work, length, done in self.windows
            ],
            blocks=[rounds[keep] for rounds in self.blocks],
            splits=[split[keep] for split in self.splits],
            intervals=[reps[keep] for reps in self.intervals],
            reps={name: reps[keep] for name, reps in self.reps.items()},
            tension={name: seconds[keep] for name, seconds in self.tension.items()},
            strain={name: sets[keep] for name, sets in self.strain.items()},
            work=self.work[keep],
            tonnage=self.tonnage[keep],
            landings=self.landings[keep],
            pauses=self.pauses[keep],
            changes=self.changes[keep],
            breaks=self.breaks[keep],
            unable={name: mask[keep] for name, mask in self.unable.items()},
            spent=self.spent and self.spent.only(keep),
        )


LEAST_ABLE = 0.05
"""Below this share there are too few left to tell a range of."""


def run(
    piece: plan.Piece,
    athletes: Athletes,
    library: Library,
    tier: int = 0,
    model: Constants | None = None,
    before: Spent | None = None,
) -> Run:
    """A piece done by n athletes in a tier's version, fresh or after what the day has taken."""
    floor = Floor(piece, tier, athletes, library, model or constants(), before)
    node = clock.lower(piece)
    capped = np.zeros(athletes.count, bool)
    left: Array = np.zeros(athletes.count)
    if isinstance(node, clock.Open):
        capped, left = _open(floor)
        time = floor.now
    else:
        total = floor.walk(node, 0.0, np.inf, 1)
        time = np.full(athletes.count, total)
    kind = score_kind(piece)
    return Run(
        kind=kind,
        result=_result(floor, kind, time, left),
        time_s=time,
        capped=capped,
        windows=floor.tally.windows,
        blocks=floor.tally.blocks,
        splits=floor.tally.splits,
        intervals=floor.tally.intervals,
        reps=dict(floor.tally.reps),
        tension=dict(floor.tally.tension),
        strain=dict(floor.tally.strain),
        work=floor.tally.work,
        tonnage=floor.tally.tonnage,
        landings=floor.tally.landings,
        pauses=floor.tally.pauses,
        changes=floor.tally.changes,
        breaks=floor.tally.breaks,
        unable=floor.tally.unable,
        spent=floor.muscles.since_then(floor.now, floor.state.fatigue),
    )


def _rest_of(floor: Floor, lines: Sequence[plan.Line]) -> Array:
    """The rest after a round of some lines: as told, or what its sets need where it is left to the
    athlete, as in strength and power without a word on rest (common practice: a minute for light
    sets, about three for the heaviest).
    """
    piece, athletes = floor.piece, floor.athletes
    if piece.rest is not None:
        low, high = piece.rest.low_s, piece.rest.high_s or piece.rest.low_s
        return low + athletes.choice * (high - low)
    sets = isinstance(piece.format, plan.Sets) and piece.role in HEAVY_ROLES
    if not (piece.rest_as_needed or sets):
        return np.zeros(athletes.count)
    heaviest = np.zeros(athletes.count)
    for line in lines:
        for task in line.tasks:
            for unit in floor.units(task.version(floor.tier)):
                heaviest = np.maximum(heaviest, floor.rep(unit).heavy)
    return LEAST_REST_S + MORE_REST_S * heaviest


HEAVY_ROLES = (plan.Role.STRENGTH, plan.Role.POWER)
LEAST_REST_S, MORE_REST_S = 60.0, 120.0
"""Rest that is taken after a set without a load, and how much more after one at the best."""


def _open(floor: Floor) -> tuple[Mask, Array]:
    """A piece without a clock: who was capped, and the step each reached (ladders)."""
    piece, form = floor.piece, floor.piece.format
    if isinstance(form, plan.Every):
        return _until_missed(floor, form.interval_s)
    deadline = float(piece.cap_s) if piece.cap_s else LONGEST_S
    everybody = np.ones(floor.n, bool)
    with floor.working(Mode(returns=False)):
        _, active = floor.lines(piece.buy_in, everybody, deadline)
    for index, block in enumerate(piece.blocks):
        rest = _rest_of(floor, block.lines)
        if index:
            floor.rest(np.minimum(floor.now + rest, deadline))
        rounds = _rounds(form, block, floor.athletes)
        floor.mode = Mode(returns=bool(rounds.max() > 1))
        scheme = form.scheme if isinstance(form, plan.ForTime) else ()
        for round_ in range(1, int(rounds.max()) + 1):
            going = active & (round_ <= rounds)
            if round_ > 1 and len(piece.blocks) < 2:
                floor.rest(np.where(going, np.minimum(floor.now + rest, deadline), floor.now))
            before = floor.now.copy()
            reps = scheme[round_ - 1] if scheme else None
            done, finished = floor.lines(block.lines, going, deadline, round_, reps)
            floor.tally.splits.append(each_rep(going & finished, floor.now - before, done))
            active = np.where(going, finished, active)
    floor.mode = Mode(returns=False)
    _, active = floor.lines(piece.cash_out, active, deadline)
    floor.now[:] = np.where(active, floor.now, deadline)
    beaten = ~active if piece.cap_s else np.zeros(floor.n, bool)
    return beaten, np.zeros(floor.n)


def _rounds(form: plan.Format, block: plan.Block, athletes: Athletes) -> Array:
    """How many rounds each athlete does of a block without a clock."""
    if isinstance(form, plan.Rounds | plan.Sets):
        high = form.high or form.low
        return np.round(form.low + athletes.choice * (high - form.low))
    rounds = 1
    if isinstance(form, plan.ForTime):
        own = [
            len(task.versions[0].amount.values)
            for line in block.lines
            for task in line.tasks
            if isinstance(task.versions[0].amount, plan.Scheme)
        ]
        rounds = form.rounds or len(form.scheme) or max(own, default=1)
    return np.full(athletes.count, float(rounds))


def _until_missed(floor: Floor, interval_s: int) -> tuple[Mask, Array]:
    """A ladder on the interval: the step is the last window whose work was done in time."""
    piece = floor.piece
    work_s = min(piece.work_s or interval_s, interval_s)
    if piece.rest and len(piece.blocks) < 2:
        interval_s += piece.rest.low_s
    step, active = np.zeros(floor.n), np.ones(floor.n, bool)
    lines = [line for block in floor.piece.blocks for line in block.lines]
    for round_ in range(1, MOST_ROUNDS):
        start = (round_ - 1.0) * interval_s
        floor.rest(np.where(active, start, floor.now))
        _, finished = floor.lines(lines, active, start + work_s, round_)
        step += finished
        floor.now[:] = np.where(active & ~finished, start + interval_s, floor.now)
        active = finished
        if not active.any():
            break
    return np.zeros(floor.n, bool), step


def _result(floor: Floor, kind: ScoreKind | None, time: Array, step: Array) -> Array:
    """The score of each athlete as a number."""
    n = floor.n
    match kind:
        case ScoreKind.ROUNDS:
            return np.sum(floor.tally.blocks, axis=0) if floor.tally.blocks else np.zeros(n)
        case ScoreKind.TIME:
            return time
        case ScoreKind.TOTAL_REPS:
            return _of_team(floor, floor.tally.counted)
        case ScoreKind.LOWEST_INTERVAL:
            tally = floor.tally
            return np.min(tally.intervals, axis=0) if tally.intervals else tally.counted
        case ScoreKind.STEP:
            return step
        case ScoreKind.PUT_DOWNS:
            return floor.tally.breaks
        case ScoreKind.DISTANCE:
            return _of_team(floor, floor.tally.metres)
        case ScoreKind.CALORIES:
            return _of_team(floor, floor.tally.calories)
        case ScoreKind.LOAD:
            return _heaviest(floor)
    return np.ones(n)


def _of_team(floor: Floor, counted: Array) -> Array:
    """A team's sum, each athlete's partners being the next ones in the list."""
    teams = floor.piece.teams
    if teams is None or floor.share > 1 or teams.how != "alternate":
        return counted
    total: Array = np.sum([np.roll(counted, k) for k in range(teams.size)], axis=0)
    return total


def _heaviest(floor: Floor) -> Array:
    """The day's heaviest set of the first lift: what is prescribed, as far as it can be lifted;
    where sets build, or no load is told, the best at its reps (Epley 1985).
    """
    for line in floor.piece.lines:
        for task in line.tasks:
            exercise = task.version(floor.tier)
            movement = floor.library.find(exercise.movement)
            top = best(movement, floor.athletes, floor.library) if movement else None
            if top is not None:
                reps = floor.wanted(exercise, 1, None)
                most = HEAVY_SET * top / (1 + np.where(np.isinf(reps), 1, reps - 1) / 30)
                told = kilograms(exercise, floor.athletes, floor.library)
                if told is None or floor.piece.build:
                    return most
                return np.minimum(told, top / (1 + np.where(np.isinf(reps), 1, reps - 1) / 30))
    return np.zeros(floor.n)


LONGEST_S = 6 * 3600.0
"""Nobody is followed for longer on a piece without a clock (judgement)."""
HEAVY_SET = 0.95
"""What most manage of their best on an ordinary day (common practice, no source)."""
