"""Stepping: what n athletes do on the floor, rep by rep, set by set, window by window.

All arrays have shape (n,), one entry an athlete. `pine_ladder.core.pace.runs` walks whole pieces.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from pine_ladder.core import clock, plan
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.demand import (
    NEVER,
    TURN_S,
    asked,
    fan_calorie_s,
    machine,
    machines,
    metre,
    trip,
)
from pine_ladder.core.pace.estimate import amount_seconds
from pine_ladder.core.pace.muscles import Muscles, Spent
from pine_ladder.core.pace.rep_times import (
    UNKNOWN,
    Array,
    Athletes,
    Constants,
    Rep,
    kilograms,
    rep_of,
)
from pine_ladder.core.pace.set_planning import (
    State,
    Task,
    Totals,
    Wanted,
    go_over,
    rest_until,
    work_through,
)
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import is_filled, reps_in_round, score_kind

Mask = NDArray[np.bool_]

MOST_ROUNDS, MOST_STEPS = 400, 600
CHUNK_S = 10.0
"""Runs, rows and rides are stepped about this many seconds at a time."""
MINUTE_S = 60.0
LEAST_STEP_M = 2.0
BAR = "barbell"
"""The kit whose load is changed on it; other weights are taken from the floor."""
FRESH = 0.2
"""Strain of a rep far from the end of a set, against one at its end (judgement)."""
MOST_FREED = 0.88
"""No more than this share of a set is waited for, so that pauses stay finite."""


@dataclass
class Tally:
    """The work n athletes have done so far. Arrays have shape (n,).

    `reps`, seconds under `tension` and sets' worth of `strain` by movement; `windows` holds
    (station, label, work, length, done) of each window, `intervals` the reps that counted in it,
    `blocks` the rounds of each block and `splits` the seconds a rep of each full round; `unable`
    who cannot do a movement.
    """

    count: int
    counted: Array = field(init=False)
    metres: Array = field(init=False)
    calories: Array = field(init=False)
    work: Array = field(init=False)
    tonnage: Array = field(init=False)
    landings: Array = field(init=False)
    pauses: Array = field(init=False)
    changes: Array = field(init=False)
    breaks: Array = field(init=False)
    reps: defaultdict[str, Array] = field(init=False)
    tension: defaultdict[str, Array] = field(init=False)
    strain: defaultdict[str, Array] = field(init=False)
    windows: list[tuple[int, str, Array, float, Mask]] = field(default_factory=list)
    intervals: list[Array] = field(default_factory=list)
    blocks: list[Array] = field(default_factory=list)
    splits: list[Array] = field(default_factory=list)
    unable: dict[str, Mask] = field(default_factory=dict)

    def __post_init__(self) -> None:
        def zeros() -> Array:
            return np.zeros(self.count)

        self.counted, self.metres, self.calories = zeros(), zeros(), zeros()
        self.work, self.tonnage, self.landings = zeros(), zeros(), zeros()
        self.pauses, self.changes, self.breaks = zeros(), zeros(), zeros()
        self.reps, self.tension = defaultdict(zeros), defaultdict(zeros)
        self.strain = defaultdict(zeros)


class Mode(NamedTuple):
    """How lines are done just now: `filling` a window to its end; with one task `alone` in it, so
    that a maximal hold scores its seconds; lines that come back (`returns`) have a bar of their own
    for each load; `inside` a complex nobody goes anywhere between its parts; `burst` what a rep
    takes of its usual time, where all there is to do is a short window.
    """

    filling: bool = False
    alone: bool = False
    returns: bool = True
    inside: bool = False
    burst: float = 1.0


class Floor:
    """n athletes at a piece in a tier's version: their state, tally and mode of working.

    Athletes of a team that shares or alternates work one after the other: `share` of them at a
    time; those of a team `together` go in step. `before` is what the day has taken already.
    """

    def __init__(
        self,
        piece: plan.Piece,
        tier: int,
        athletes: Athletes,
        library: Library,
        model: Constants,
        before: Spent | None = None,
    ) -> None:
        self.piece, self.tier, self.athletes, self.library = piece, tier, athletes, library
        self.model = model
        n = athletes.count
        self.n = n
        self.muscles = Muscles(n, model)
        muscles = self.muscles
        self.state = State(
            np.zeros(n), np.zeros(n), np.zeros(n), muscles.used, muscles.worn, muscles.when
        )
        if before is not None:
            muscles.used[:], muscles.worn[:] = before.used, before.worn
            self.state.fatigue[:] = before.fatigue
        self.tally, self.mode = Tally(n), Mode()
        self.doing: str | None = None
        self.since = np.zeros(n)
        unhurried = piece.role in EASY_ROLES and score_kind(piece) is None
        self.ease = EASY if unhurried else 1.0
        self.length_s: Array | float = usual_length(piece, library)
        self.kit: frozenset[str] = frozenset()
        # The load of the bar that was lifted last, and the lines it was for.
        self.bar: tuple[Array, Sequence[plan.Line]] | None = None
        self.here: Sequence[plan.Line] = ()
        self.owed_s = 0
        teams = piece.teams
        # Whoever alternates in windows rests in those of the others.
        turns = (
            teams is not None and teams.how == "alternate" and not clock.in_turn(clock.lower(piece))
        )
        self.share = teams.size if teams and (turns or teams.how == "share") else 1
        self.together = teams.size if teams and teams.how == "together" else 1
        self.made: dict[int, tuple[plan.Exercise, Rep]] = {}
        self.parted: dict[int, tuple[plan.Exercise, tuple[plan.Exercise, ...]]] = {}

    @property
    def now(self) -> Array:
        """The athletes' clocks (s)."""
        return self.state.clock

    @contextmanager
    def working(self, mode: Mode) -> Iterator[None]:
        """Do what follows in a mode, and go back to the one before."""
        before, self.mode = self.mode, mode
        try:
            yield
        finally:
            self.mode = before

    def rep(self, exercise: plan.Exercise) -> Rep:
        """How a rep of an exercise goes, worked out once."""
        key = id(exercise)
        if key not in self.made:
            # The exercise is kept with it, so that no other can come by its id.
            made = rep_of(exercise, self.athletes, self.library, self.model)
            self.made[key] = (exercise, made)
        return self.made[key][1]

    def units(self, exercise: plan.Exercise) -> tuple[plan.Exercise, ...]:
        """The parts of a complex with their loads, made once; else the exercise itself."""
        if not exercise.parts:
            return (exercise,)
        key = id(exercise)
        if key not in self.parted:
            self.parted[key] = (exercise, exercise.units)
        return self.parted[key][1]

    def rest(self, until: Array | float) -> None:
        """Everybody rests to a time on the clock."""
        rest_until(self._each(until), self.state, self.model.recover_s)

    def _each(self, number: Array | float) -> Array:
        """A number for every athlete, where one is told for all."""
        return number if isinstance(number, np.ndarray) else np.full(self.n, float(number))

    def change(self, exercise: plan.Exercise, active: Mask) -> None:
        """Go to the next task: less on the same implement, nothing when it is the same one; with
        other plates on the bar at least as long as those take.
        """
        movement = self.library.find(exercise.movement)
        name = movement.name if movement else exercise.movement
        kit = frozenset(movement.kit) if movement else frozenset()
        lost = self._plates(exercise, kit)
        if self.doing is not None and name != self.doing:
            usual = self.model.same_change_s if kit == self.kit else self.model.change_s
            lost = np.maximum(usual * self.ease * breath(self.now - self.since), lost)
        go_over(active, lost, self.state, self.tally.changes, self.model.recover_s)
        if name != self.doing:
            self.since = self.now.copy()
        self.doing, self.kit = name, kit

    def _plates(self, exercise: plan.Exercise, kit: frozenset[str]) -> Array:
        """Seconds until the bar is loaded anew, where it was last lifted with another load."""
        needed = np.zeros(self.n)
        if BAR not in kit:
            return needed
        kg = kilograms(exercise, self.athletes, self.library)
        if kg is None:
            return needed
        if self.bar is not None and not (self.mode.returns and self.bar[1] is self.here):
            needed = self.model.plates_s * (kg != self.bar[0])
        self.bar = (kg, self.here)
        return needed

    def repeat(self, rep: Rep, wanted: Array, deadline: Array | float, size: float = 1.0) -> Array:
        """Up to `wanted` reps each before the deadline; answers how many were done.

        `size` is how many units (metres, seconds) a step covers.
        """
        seconds = self._of_slowest(rep.seconds) if self.together > 1 else rep.seconds
        seconds = np.maximum(seconds * self.mode.burst, np.minimum(rep.floor_s, seconds))
        if not rep.timed:
            seconds = seconds * self.ease
        tally = self.tally
        done = work_through(
            self._task(rep, size),
            Wanted(wanted, self._each(deadline), seconds, rep.unbroken),
            rep.muscles,
            self.state,
            Totals(tally.work, tally.tension[rep.name], tally.pauses, tally.breaks),
        )
        if rep.kg is not None:
            tally.tonnage += done * size * rep.kg
        tally.landings += done * size * rep.landings
        level = self.muscles.felt(rep.groups, self.now) if rep.groups else 0.0
        near = FRESH + (1 - FRESH) * np.maximum(level, rep.heavy)
        tally.strain[rep.name] += done * size * rep.strain * near
        return done

    def _task(self, rep: Rep, size: float) -> Task:
        """How a rep of a task tires here, and what ends and refreshes a set of it."""
        model = self.model
        return Task(
            size=float(size),
            slow=rep.slow,
            tire=rep.demand / model.tire_s / self.share,
            refresh=(1 - 1 / self.share) / model.recover_s,
            shrink=model.shrink,
            again=model.again,
            freed_most=MOST_FREED,
            local_s=model.local_s,
            beside=model.beside,
            hand_over_s=TURN_S if self.share > 1 else 0.0,
            wear=model.wear,
            wear_s=model.wear_s,
        )

    def _of_slowest(self, seconds: Array) -> Array:
        """Each athlete's seconds a rep when the team goes in step: those of its slowest."""
        slowest = seconds
        for other in range(1, self.together):
            slowest = np.maximum(slowest, np.roll(seconds, other))
        return slowest

    def wanted(self, exercise: plan.Exercise, round_: int, reps: int | None) -> Array:
        """How much an exercise asks of each athlete in a round; `reps` where its piece says it."""
        return asked(exercise, self.athletes, round_, reps, self.piece.grow_reps or 0)

    def do(
        self,
        exercise: plan.Exercise,
        active: Mask,
        deadline: Array | float,
        round_: int = 1,
        reps: int | None = None,
    ) -> tuple[Array, Mask]:
        """An exercise once: reps that count, and who finished it before the deadline."""
        wanted = np.where(active, self.wanted(exercise, round_, reps), 0.0)
        if not self.mode.filling and np.count_nonzero(np.isinf(wanted)):
            wanted = np.where(np.isinf(wanted), self._one_set(exercise), wanted)
        if exercise.parts:
            return self._complex(exercise, wanted, deadline)
        if not self.mode.inside:
            self.change(exercise, active)
        movement = self.library.find(exercise.movement) or UNKNOWN
        rep = self.rep(exercise)
        if rep.some_unable:
            nobody = ~active & active
            unable = self.tally.unable.get(rep.name, nobody) | (rep.unable & active)
            self.tally.unable[rep.name] = unable
        amount = exercise.amount
        unit = amount.unit if isinstance(amount, plan.Scheme) else None
        if self.mode.filling and isinstance(amount, plan.Duration):
            # Taking one's place for a time that fills the window is part of that time.
            short = np.floor(np.maximum(0.0, deadline - self.now) + 1e-6)
            late = (wanted > short) & (wanted - short <= math.ceil(self.model.change_s))
            wanted = np.where(late, short, wanted)
        endless = bool(np.count_nonzero(np.isinf(wanted)))
        burnt = endless and self.piece.score is ScoreKind.CALORIES and machines(movement)
        if isinstance(amount, plan.Calories) or unit == "cal" or burnt:
            made = machine(rep, self.athletes, self._all_out(wanted, deadline))
            done = self.repeat(made, wanted, deadline)
            self.tally.calories += done
            return self._count(rep.name, done), done >= wanted
        if isinstance(amount, plan.Trips):
            done = self.repeat(trip(rep, movement, amount.distance_m), wanted, deadline)
            self.tally.metres += done * amount.distance_m
            return self._count(rep.name, done), done >= wanted
        timed = isinstance(amount, plan.Duration) or unit == "s"
        if timed and movement.measure != "time":
            return self._for_time(rep, wanted, deadline)
        if isinstance(amount, plan.Distance) or unit == "m":
            return self._cover(metre(rep, movement), wanted, deadline)
        if movement.measure == "distance":
            return self._cover(rep, wanted, deadline)
        # Thousands of reps are stepped several at a time.
        most = float((wanted[np.isfinite(wanted)] if endless else wanted).max(initial=0.0))
        size = math.ceil(most / MOST_STEPS) or 1
        done = self.repeat(rep, np.ceil(wanted / size), deadline, size) * size
        finished = (done >= wanted) | (wanted == 0)
        done = np.minimum(done, wanted)
        if movement.measure == "time":
            if endless and self.mode.alone:
                return self._count(rep.name, done), finished
            return (finished & active).astype(float) * (not endless), finished
        return self._count(rep.name, done), finished

    def _all_out(self, wanted: Array, deadline: Array | float) -> Array:
        """Seconds of hard work that calories are part of: their own where they are all there is,
        the window's or the piece's where there is more.
        """
        left = np.minimum(np.maximum(self._each(deadline) - self.now, 1.0), LONGEST_EFFORT_S)
        if np.count_nonzero(np.isinf(wanted)):
            return left
        own = wanted * fan_calorie_s(np.full(self.n, MINUTE_S))
        for _ in range(4):
            own = wanted * fan_calorie_s(np.maximum(own, self.length_s))
        return np.maximum(own, self.length_s)

    def _one_set(self, exercise: plan.Exercise) -> Array:
        """As many as possible where no window is there to fill: one set, to the end of it."""
        if isinstance(exercise.amount, plan.Trips):
            return np.ones(self.n)
        sets = []
        for part in self.units(exercise):
            rep = self.rep(part)
            used = self.muscles.felt(rep.groups, self.now)
            fresh = np.where(np.isinf(rep.unbroken), 0.0, rep.unbroken)
            able = fresh * (1 - self.model.shrink * self.state.fatigue) * (1 - used)
            able = np.floor(np.maximum(1.0, able))
            able = np.where(np.isinf(rep.unbroken), np.ceil(MINUTE_S / rep.seconds), able)
            asked = self.wanted(part, 1, None) if exercise.parts else np.ones(self.n)
            sets.append(np.maximum(1.0, able // np.where(np.isinf(asked), able, asked)))
        least: Array = np.min(sets, axis=0)
        return least

    def _count(self, name: str, done: Array) -> Array:
        self.tally.reps[name] += done
        self.tally.counted += done
        return done

    def _cover(self, rep: Rep, wanted: Array, deadline: Array | float) -> tuple[Array, Mask]:
        """A distance in steps of about ten seconds; it counts as one rep when it is done."""
        finite = wanted[np.isfinite(wanted)]
        longest = float(finite.max()) if finite.size else 0.0
        usual = float(np.median(rep.seconds))
        if longest == 0.0 and not np.count_nonzero(np.isinf(wanted)):
            return np.zeros(self.n), wanted == 0
        # Where a set ends after so many metres, a step is a good deal shorter than it.
        chunk = min(CHUNK_S / usual, float(rep.unbroken.min()) / 4)
        chunk = max(chunk, LEAST_STEP_M)
        size = longest / max(1, round(longest / chunk)) if longest else chunk
        done = self.repeat(rep, np.ceil(wanted / size - 1e-9), deadline, size) * size
        self.tally.metres += done
        finished = done >= wanted - 1e-6
        return (finished & (wanted > 0)).astype(float), finished

    def _for_time(self, rep: Rep, wanted: Array, deadline: Array | float) -> tuple[Array, Mask]:
        """Reps for a stated time: as many as it takes to fill it."""
        start = self.now.copy()
        stop = np.where(wanted > 0, np.minimum(start + wanted, deadline), start)
        done = self.repeat(rep, np.where(wanted > 0, NEVER, 0.0), stop)
        self.tally.reps[rep.name] += done
        finished = (start + wanted <= deadline + 1e-9) | (wanted == 0)
        self.now[:] = np.where(wanted > 0, np.maximum(self.now, stop), self.now)
        return (finished & (wanted > 0)).astype(float), finished

    def _complex(
        self, exercise: plan.Exercise, wanted: Array, deadline: Array | float
    ) -> tuple[Array, Mask]:
        """A bracketed complex, unit after unit; each unit counts as one."""
        done = np.zeros(self.n)
        active = wanted > 0
        asked = active
        amount = exercise.amount
        if isinstance(amount, plan.Duration):
            deadline = np.minimum(deadline, self.now + wanted)
        if not isinstance(amount, plan.Reps | plan.Max | None):
            wanted = np.where(active, NEVER if isinstance(amount, plan.Duration) else 1.0, 0.0)
        units = self.units(exercise)
        self.change(units[0], active)
        counted = self.tally.counted.copy()
        with self.working(self.mode._replace(inside=True, filling=False, alone=False)):
            while active.any() and done.max() < MOST_ROUNDS:
                for part in units:
                    _, finished = self.do(part, active, deadline)
                    active = active & finished
                done += active
                active = active & (done < wanted)
        self.tally.counted[:] = counted + done
        if isinstance(amount, plan.Duration):
            self.now[:] = np.where(asked, np.maximum(self.now, deadline), self.now)
            return done, np.ones(self.n, bool)
        return done, (done >= np.minimum(wanted, MOST_ROUNDS)) | (wanted == 0)

    def lines(
        self,
        lines: Sequence[plan.Line],
        active: Mask,
        deadline: Array | float,
        round_: int = 1,
        reps: int | None = None,
    ) -> tuple[Array, Mask]:
        """A list of lines once: the reps that count, and who got through all of it."""
        total = np.zeros(self.n)
        self.here = lines
        for line in lines:
            for task in line.tasks:
                exercise = task.version(self.tier)
                if exercise.sets and round_ > exercise.sets:
                    continue
                self._rest_owed(active, deadline)
                done, finished = self.do(exercise, active, deadline, round_, reps)
                total += done
                active = active & finished
                self.owed_s = exercise.rest_s or 0
        return total, active

    def _rest_owed(self, active: Mask, deadline: Array | float) -> None:
        """Take the rest that the task before asked for; nobody takes it behind the last one."""
        if self.owed_s:
            until = np.minimum(self.now + self.owed_s, deadline)
            self.rest(np.where(active, until, self.now))
            self.owed_s = 0

    def walk(self, node: clock.Primitive, start: float, end: float, round_: int) -> float:
        """Do a primitive from `start` on, cut at `end`; answers when it is over."""
        match node:
            case clock.Pause(length_s=length):
                over = min(start + length, end)
                self.rest(over)
            case clock.Work(length_s=length, lines=lines, steady=steady):
                over = min(start + length, end)
                done = self.steady if steady else self.fill if is_filled(lines) else self.amrap
                done(lines, over)
                self.rest(over)
            case clock.Window():
                over = min(start + node.length_s, end)
                self.window(node, start, over, round_)
            case clock.Sequence(parts=parts):
                over = start
                for part in parts:
                    over = self.walk(part, over, end, round_)
            case clock.Repeat(times=times, body=body, between=between, until_s=until):
                over, limit = start, end if until is None else min(end, start + until)
                for turn in range(1, times + 1):
                    if between and turn > 1:
                        over = self.walk(between, over, limit, turn)
                    if over < limit:
                        over = self.walk(body, over, limit, turn)
            case _:
                raise TypeError(f"{node} has no clock")
        return over

    def amrap(self, lines: Sequence[plan.Line], deadline: float) -> None:
        """As many rounds as the time allows."""
        rounds, active = np.zeros(self.n), np.ones(self.n, bool)
        alone = self.piece.model_copy(update={"blocks": (plan.Block(lines=tuple(lines)),)})
        for round_ in range(1, MOST_ROUNDS):
            before = self.now.copy()
            done, finished = self.lines(lines, active, deadline, round_)
            size = max(1, reps_in_round(alone, round_, self.tier))
            rounds += np.where(finished, 1.0, np.where(active, np.minimum(done / size, 0.999), 0.0))
            self.tally.splits.append(each_rep(finished, self.now - before, done))
            active = finished
            if not np.count_nonzero(active):
                break
        self.tally.blocks.append(rounds)

    def fill(self, lines: Sequence[plan.Line], deadline: float) -> None:
        """One task to the end of the time: it has no rounds."""
        with self.working(self.mode._replace(filling=True, alone=True)):
            self.lines(lines, np.ones(self.n, bool), deadline)

    def steady(self, lines: Sequence[plan.Line], deadline: float) -> None:
        """One steady part: its work goes on to its end."""
        with self.working(self.mode._replace(filling=True)):
            for line in lines:
                for task in line.tasks:
                    exercise = task.version(self.tier).model_copy(update={"amount": plan.Max()})
                    if not exercise.parts:
                        self.do(exercise, self.now < deadline, deadline)

    def window(self, node: clock.Window, start: float, end: float, round_: int) -> None:
        """One window: its work, then what is left of it as rest."""
        self.rest(start)
        self.owed_s = 0
        if node.rests or (node.member or 1) > 1:
            self.rest(end)
            return
        counted, alone = self.tally.counted.copy(), sum(len(line.tasks) for line in node.lines) == 1
        filled = any(
            isinstance(t.version(self.tier).amount, plan.Max | plan.Trips | None)
            for line in node.lines
            for t in line.tasks
        )
        burst = sprint(end - start) if filled else 1.0
        with self.working(self.mode._replace(filling=True, alone=alone, burst=burst)):
            _, finished = self.lines(node.lines, np.ones(self.n, bool), end, round_)
        busy = np.full(self.n, end - start) if filled else np.minimum(self.now, end) - start
        busy = np.where(finished | filled, busy, end - start)
        self.tally.windows.append(
            (node.station, node.label, busy, end - start, finished | np.array(filled))
        )
        self.tally.intervals.append(self.tally.counted - counted)
        self.rest(end)


EASY_ROLES = (plan.Role.WARM_UP, plan.Role.SKILL)
EASY = 1.35
"""How much longer a rep and the way to the next task take where nothing is scored and nobody is in
a hurry (common practice, no source).
"""
BURST, BURST_S = 0.3, 40.0
"""Largest gain of speed in short windows, and the seconds in which it fades."""


def sprint(length_s: float) -> float:
    """What a rep takes of its usual time where as many as possible are done in a window: less the
    shorter it is, for who can rest soon has no need to pace (from memory, no source).
    """
    return 1 - BURST * math.exp(-length_s / BURST_S)


LONGEST_EFFORT_S = 1800.0
"""Work for longer goes at the pace of this (judgement)."""
BREATH_S, LEAST_BREATH, MOST_BREATH = 20.0, 0.4, 1.4
"""After a task of so many seconds the way to the next one takes its usual time; after a shorter one
less, after a longer one more, because of the breath that is taken (judgement).
"""


def breath(work_s: Array) -> Array:
    """Return the factor on the way to the next task after some seconds of work."""
    least = LEAST_BREATH + (1 - LEAST_BREATH) * work_s / BREATH_S
    times: Array = np.minimum(MOST_BREATH, least)
    return times


def usual_length(piece: plan.Piece, library: Library) -> float:
    """About how long the hard work of a piece lasts in one go (s): a window that is followed by
    rest, or the whole of what has none, and never longer than LONGEST_EFFORT_S.
    """
    match piece.format:
        case plan.Amrap(length_s=length):
            return min(float(length), LONGEST_EFFORT_S)
        case plan.Intervals(work_s=work):
            return float(work)
        case plan.Tabata():
            return TABATA_WORK_S
        case plan.Every() | plan.Emom() | plan.Sets():
            return 0.0
    rounds = getattr(piece.format, "rounds", None) or getattr(piece.format, "low", None) or 1
    scheme = getattr(piece.format, "scheme", ())
    lines = (*piece.buy_in, *piece.lines, *piece.cash_out)
    tasks = [task.versions[0] for line in lines for task in line.tasks]
    once = [
        sum(amount_seconds(task, reps, library) for task in tasks) for reps in (scheme or (None,))
    ]
    return min(rounds * sum(once) if len(tasks) > 1 else 0.0, LONGEST_EFFORT_S)


TABATA_WORK_S = 20.0


def each_rep(finished: Mask, seconds: Array, done: Array) -> Array:
    """Seconds for each rep of a round, so that rounds of other sizes compare; NaN if cut short."""
    return np.where(finished, seconds / np.maximum(done, 1.0), np.nan)
