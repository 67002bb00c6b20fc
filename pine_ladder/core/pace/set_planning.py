"""Sets: the reps of a task and the pauses between them, of one athlete after the other.

It is the innermost loop of a prediction, gone through hundreds of thousands of times, so it is
written for one athlete at a time and compiled; what it was compiled to is kept beside this file or
in the user's own cache. Arrays have shape (n,), one entry an athlete, unless another is told.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import NamedTuple, TypeVar, cast

import numpy as np
from numba import njit
from numpy.typing import NDArray

from pine_ladder.core.pace.rep_times import Array

Function = TypeVar("Function", bound=Callable[..., object])


def compiled(function: Function) -> Function:
    """A function of numbers and arrays, compiled when it is first called."""
    try:
        made = njit(function, cache=True, error_model="numpy")
    except RuntimeError:
        # No folder may be written to: each process compiles for itself.
        made = njit(function, error_model="numpy")
    return cast(Function, made)


class Task(NamedTuple):
    """What is alike for all athletes at a task.

    A step is `size` reps (metres, seconds of a hold) and takes `slow` times longer at fatigue 1.
    Fatigue comes with `tire` and, where a team shares, goes with `refresh` a second of work. A set
    shrinks by `shrink` at fatigue 1; `again` of a set is waited for, but no more than `freed_most`,
    with the time constant `local_s`; `hand_over_s` above 0 is taken by a partner instead. All
    groups of muscles but the first tire by `beside`. Every set's worth of work shortens the next
    ones, one by the part `wear`, which goes with the time constant `wear_s`.
    """

    size: float
    slow: float
    tire: float
    refresh: float
    shrink: float
    again: float
    freed_most: float
    local_s: float
    beside: float
    hand_over_s: float
    wear: float
    wear_s: float


class Wanted(NamedTuple):
    """The work asked of each athlete: `steps` before the clock stands at `ends` (s); `seconds` of a
    fresh rep, and how many go in a row `unbroken`.
    """

    steps: Array
    ends: Array
    seconds: Array
    unbroken: Array


class State(NamedTuple):
    """How the athletes are, changed in place: their clocks (s), fatigue (0 to 1), how long they
    have just been idle (s); how far each group of muscles is used up (0 to 1), how many sets' worth
    it is worn by, and when that was last looked at (s), all of shape (groups of muscles, n).
    """

    clock: Array
    fatigue: Array
    idle: Array
    used: Array
    worn: Array
    when: Array


class Totals(NamedTuple):
    """Totals that a task adds to, in place: seconds of work, seconds under tension, seconds of
    pauses, and breaks.
    """

    work: Array
    tension: Array
    pauses: Array
    breaks: Array


SLACK = 1e-9
"""What rounding may add to a clock or a set."""


@compiled
def _level(used: float, rested_s: float, local_s: float) -> float:
    """How far muscles are used up after some rest."""
    return used * math.exp(-max(0.0, rested_s) / local_s)


@compiled
def _in_a_row(
    task: Task, most: float, end: float, slowest: float, gain: float, now: float, fresh: float
) -> tuple[float, float, float]:
    """Up to `most` steps without a break: how many were done, the clock and freshness then.

    A step takes `slowest` seconds less `gain` times the freshness it begins with.
    """
    done = 0.0
    while done < most:
        takes = slowest - gain * fresh
        if now + takes > end:
            break
        now += takes
        fresh *= math.exp(-task.tire * takes)
        if task.refresh > 0:
            fresh = 1 - (1 - fresh) * math.exp(-task.refresh * takes)
        done += 1
    return done, now, fresh


@compiled
def work_through(
    task: Task, wanted: Wanted, groups: NDArray[np.int64], state: State, totals: Totals
) -> Array:
    """Have each athlete do what is wanted of a task; returns how many steps each did.

    `groups` are the rows of `state.used` whose muscles end a set; none where nothing does. `state`
    and `totals` are changed in place.
    """
    clock, used, worn, when = state.clock, state.used, state.worn, state.when
    done = np.zeros(len(clock))
    for n in range(len(clock)):
        left = wanted.steps[n]
        if left <= 0:
            continue
        begun, end, idle = clock[n], wanted.ends[n] + SLACK, 0.0
        now, fresh = begun, 1 - state.fatigue[n]
        gain = wanted.seconds[n] * task.size * task.slow
        slowest = wanted.seconds[n] * task.size + gain
        before = wore = 0.0
        for group in groups:
            felt = _level(used[group, n], begun - when[group, n], task.local_s)
            before = max(before, felt)
            felt = _level(worn[group, n], begun - when[group, n], task.wear_s)
            wore = max(wore, felt)
        level, more, rep = before, 0.0, task.size / wanted.unbroken[n]
        # The next set is the shorter the more fatigued the athlete is when it begins.
        each = rep * (1 + task.wear * wore) / (1 - task.shrink * (1 - fresh))
        while left > 0:
            room = left
            if len(groups):
                room = np.floor((1 - level) / each + SLACK) if each > 0 else math.inf
            if room < 1 and level > 0:
                # A pause is as long whenever it comes and refreshes nothing but the muscles that
                # ended the set: else a heavier load, which breaks a set earlier, could be faster.
                each = rep * (1 + task.wear * (wore + more)) / (1 - task.shrink * (1 - fresh))
                freed = min(max(task.again, each), task.freed_most)
                wait = task.hand_over_s or -task.local_s * math.log1p(-freed)
                # Nobody begins a pause whose next rep would come too late.
                if now + wait + slowest - gain * fresh > end:
                    break
                now, idle, level = now + wait, idle + wait, max(0.0, level - freed)
                totals.breaks[n] += 1
                room = np.floor((1 - level) / each + SLACK)
            most = np.ceil(min(max(room, 1.0), left))
            steps, now, fresh = _in_a_row(task, most, end, slowest, gain, now, fresh)
            done[n] += steps
            left -= steps
            level += steps * each
            more += steps * rep
            if steps < most:
                break
        for place in range(len(groups)):
            group = groups[place]
            had = _level(used[group, n], begun - when[group, n], task.local_s)
            kept = _level(worn[group, n], begun - when[group, n], task.wear_s)
            part = 1.0 if place == 0 else task.beside
            worn[group, n] = kept + part * more
            used[group, n] = min(max(had + part * (level - before), 0.0), 1.0)
            when[group, n] = now
        clock[n], state.fatigue[n] = now, 1 - fresh
        totals.work[n] += now - begun - idle
        totals.tension[n] += now - begun - idle
        totals.pauses[n] += idle
    return done


@compiled
def rest_until(until: Array, state: State, recover_s: float) -> None:
    """Have each athlete rest to a time on the clock; `state.idle` is how long that was."""
    for n in range(len(until)):
        rested = until[n] - state.clock[n]
        if rested > 0:
            state.clock[n], state.idle[n] = until[n], rested
            state.fatigue[n] *= math.exp(-rested / recover_s)


@compiled
def go_over(
    active: NDArray[np.bool_], lost: Array, state: State, changes: Array, recover_s: float
) -> None:
    """Have those who are active go to the next task: `lost` seconds, less what they have just been
    idle, in which they walked over already. Seconds lost are added to `changes`.
    """
    for n in range(len(lost)):
        if active[n]:
            moved = max(0.0, lost[n] - state.idle[n])
            state.clock[n] += moved
            changes[n] += moved
            state.fatigue[n] *= math.exp(-moved / recover_s)
            state.idle[n] = 0.0
