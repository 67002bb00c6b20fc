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
    groups of muscles but the first tire by `beside`.
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
    task: Task,
    wanted: Array,
    ends: Array,
    seconds: Array,
    unbroken: Array,
    groups: NDArray[np.int64],
    t: Array,
    f: Array,
    used: Array,
    when: Array,
    worked: Array,
    tension: Array,
    paused: Array,
    breaks: Array,
) -> Array:
    """Up to `wanted` steps each while the clock stands before `ends`; answers how many were done.

    `seconds` are those of a fresh rep, `unbroken` how many go in a row; `groups` the rows of `used`
    and `when` (shape (groups of muscles, n)) whose muscles end a set, none where nothing does.
    Clocks `t`, fatigue `f`, muscles and totals are changed in place.
    """
    done = np.zeros(len(t))
    for n in range(len(t)):
        left = wanted[n]
        if left <= 0:
            continue
        begun, end, idle = t[n], ends[n] + SLACK, 0.0
        now, fresh = begun, 1 - f[n]
        gain = seconds[n] * task.size * task.slow
        slowest = seconds[n] * task.size + gain
        before = 0.0
        for group in groups:
            felt = _level(used[group, n], begun - when[group, n], task.local_s)
            before = max(before, felt)
        level = before
        # A set is as long as the athlete is fresh when it begins.
        each = task.size / (unbroken[n] * (1 - task.shrink * (1 - fresh)))
        while left > 0:
            room = left
            if len(groups):
                room = np.floor((1 - level) / each + SLACK) if each > 0 else math.inf
            if room < 1 and level > 0:
                # A pause is as long whenever it comes and refreshes nothing but the muscles that
                # ended the set: else a heavier load, which breaks a set earlier, could be faster.
                each = task.size / (unbroken[n] * (1 - task.shrink * (1 - fresh)))
                freed = min(max(task.again, each), task.freed_most)
                wait = task.hand_over_s or -task.local_s * math.log1p(-freed)
                # Nobody begins a pause whose next rep would come too late.
                if now + wait + slowest - gain * fresh > end:
                    break
                now, idle, level = now + wait, idle + wait, max(0.0, level - freed)
                breaks[n] += 1
                room = np.floor((1 - level) / each + SLACK)
            most = np.ceil(min(max(room, 1.0), left))
            steps, now, fresh = _in_a_row(task, most, end, slowest, gain, now, fresh)
            done[n] += steps
            left -= steps
            level += steps * each
            if steps < most:
                break
        for place in range(len(groups)):
            group = groups[place]
            had = _level(used[group, n], begun - when[group, n], task.local_s)
            part = 1.0 if place == 0 else task.beside
            used[group, n] = min(max(had + part * (level - before), 0.0), 1.0)
            when[group, n] = now
        t[n], f[n] = now, 1 - fresh
        worked[n] += now - begun - idle
        tension[n] += now - begun - idle
        paused[n] += idle
    return done


@compiled
def rest_until(until: Array, t: Array, f: Array, idle: Array, recover_s: float) -> None:
    """All rest to a time on the clock, and are told to have been `idle` so long."""
    for n in range(len(t)):
        rested = until[n] - t[n]
        if rested > 0:
            t[n], idle[n] = until[n], rested
            f[n] *= math.exp(-rested / recover_s)


@compiled
def go_over(
    active: NDArray[np.bool_],
    lost: Array,
    idle: Array,
    t: Array,
    f: Array,
    changes: Array,
    recover_s: float,
) -> None:
    """The way to the next task for all who are active: `lost` seconds, less what they have just
    been idle, in which they have walked over already.
    """
    for n in range(len(t)):
        if active[n]:
            moved = max(0.0, lost[n] - idle[n])
            t[n] += moved
            changes[n] += moved
            f[n] *= math.exp(-moved / recover_s)
            idle[n] = 0.0
