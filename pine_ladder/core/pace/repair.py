"""Repair: the nearest rep numbers that bring a piece to what its coach wants of it.

Numbers stay whole, even where sides alternate, and such as coaches write. Each proposal is run
again, so what it promises is a prediction, not a proportion.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.edits import numbered_text, rewrite
from pine_ladder.core.pace.intensity import Place, Wanted, first_within
from pine_ladder.core.pace.runs import Run
from pine_ladder.core.pace.testrun import trial
from pine_ladder.core.units import clock_text

LIKED = (
    *range(1, 13), 14, 15, 16, 18, 20, 21, 24, 25, 27, 30, 32, 35, 36, 40, 45, 50, 60, 70, 75, 80,
    90, 100, 120, 150, 200,
)  # fmt: skip
"""Rep numbers coaches write (common practice, no source)."""
WORK_SLACK_S = 5
"""Work within this of what is aimed at is fine: 0:35 to 0:45 for 0:40 (common practice)."""
FEW_LATE, FAR = 0.25, 1000.0
MOST_TRIES = 14
MOST_CHANGE = 2.0
"""Numbers are changed to half of what was written at the least, to double at the most."""


class Proposal(NamedTuple):
    """New rep numbers by place for a tier, and what they are predicted to do."""

    tier: int
    reps: Mapping[Place, int]
    before: float
    after: float


def fixed_reps(piece: plan.Piece, tier: int) -> dict[Place, int]:
    """The tasks with one stated rep number, in a tier's version."""
    found = {}
    for b, block in enumerate(piece.blocks):
        for n, line in enumerate(block.lines):
            for t, task in enumerate(line.tasks):
                amount = task.version(tier).amount
                if isinstance(amount, plan.Reps) and amount.high is None:
                    found[Place(b, n, t)] = amount.low
    return found


def liked(number: float, even: bool) -> int:
    """The number nearest to it (in proportion) that a coach would write.

    >>> liked(13.2, even=True), liked(17.4, even=False)
    (14, 18)
    """
    choices = [n for n in LIKED if not even or n % 2 == 0]
    return int(min(choices, key=lambda n: abs(math.log(n / max(number, 0.5)))))


def _alternates(piece: plan.Piece, place: Place, tier: int) -> bool:
    task = piece.blocks[place.block].lines[place.line].tasks[place.task]
    return task.version(tier).side is plan.Side.ALTERNATING


def changed(piece: plan.Piece, tier: int, reps: Mapping[Place, int]) -> plan.Piece:
    """The piece with other rep numbers in a tier.

    Changing the first tier takes along those after it that had the same number.
    """
    blocks = []
    for b, block in enumerate(piece.blocks):
        lines = []
        for n, line in enumerate(block.lines):
            tasks = [
                _with_reps(task, tier, reps[Place(b, n, t)]) if Place(b, n, t) in reps else task
                for t, task in enumerate(line.tasks)
            ]
            lines.append(line.model_copy(update={"tasks": tuple(tasks)}))
        blocks.append(block.model_copy(update={"lines": tuple(lines)}))
    return piece.model_copy(update={"blocks": tuple(blocks)})


def _with_reps(task: plan.Task, tier: int, reps: int) -> plan.Task:
    versions = list(task.versions)
    # A version that was only repeated becomes one of its own.
    while len(versions) <= tier:
        versions.append(versions[-1])
    before = versions[tier].amount
    for at in range(tier, len(versions)):
        amount = versions[at].amount
        follows = at == tier or (tier == 0 and amount == before)
        if follows and isinstance(amount, plan.Reps):
            new = amount.model_copy(update={"low": reps})
            versions[at] = versions[at].model_copy(update={"amount": new})
    return task.model_copy(update={"versions": tuple(versions)})


def edits(piece: plan.Piece, proposal: Proposal) -> tuple[plan.Edit, ...]:
    """The lines of text a proposal rewrites."""
    after = changed(piece, proposal.tier, proposal.reps)
    touched = sorted({(place.block, place.line) for place in proposal.reps})
    out = []
    for b, n in touched:
        line = piece.blocks[b].lines[n]
        text = numbered_text(piece.blocks[b], line, after.blocks[b].lines[n])
        out.append(rewrite(line.line, text))
    return tuple(out)


def label(piece: plan.Piece, proposal: Proposal, show: Callable[[float], str]) -> str:
    """A proposal in words: `16 → 12 goblet squat: 0:47 → 0:39`."""
    now = fixed_reps(piece, proposal.tier)
    parts = []
    for place, reps in sorted(proposal.reps.items()):
        task = piece.blocks[place.block].lines[place.line].tasks[place.task]
        parts.append(f"{now[place]} → {reps} {task.version(proposal.tier).movement}")
    return f"{', '.join(parts)}: {show(proposal.before)} → {show(proposal.after)}"


def station_work(done: Run, station: int) -> tuple[float, float]:
    """The median seconds of work of a station's windows, and the share not done in time, of those
    who can do it.
    """
    able = done.able
    held = [(work[able], ok[able]) for s, _, work, _, ok in done.windows if s == station]
    work = np.concatenate([work for work, _ in held])
    late = np.concatenate([~ok for _, ok in held])
    return float(np.median(work)), float(late.mean())


def fill_window(
    piece: plan.Piece,
    library: Library,
    tier: int,
    station: int,
    wanted_s: float,
    few: float = FEW_LATE,
) -> Proposal | None:
    """Reps of a station so that its work takes about `wanted_s`; None where none are fixed.

    The change nearest to what is written that lands within five seconds and that all but a `few`
    (a share) get through is taken, else the closest found. None where numbers alone do not help.
    """
    numbered = any(block.numbered for block in piece.blocks)
    places = {
        place: reps
        for place, reps in fixed_reps(piece, tier).items()
        if not numbered or place.line == station - 1
    }
    if not places:
        return None

    def tried(reps: Mapping[Place, int]) -> tuple[float, float]:
        return station_work(trial(changed(piece, tier, reps), library, tier), station)

    before, late = station_work(trial(piece, library, tier), station)
    # Work that is cut off by its window would have gone on for longer than it shows.
    ratio = wanted_s / max(before, 1)
    ratio = min(ratio, 1.0) * (1 - late / 2) * 0.8 if late > few else ratio
    tries = list(_scaled(piece, tier, places, ratio))
    if late > few and tries and tried(tries[-1])[1] > few:
        return None
    best: tuple[float, Proposal | None] = (FAR, None)
    # More reps are more work: the first that will do is found by halving.
    low, high = 0, len(tries)
    while low < high:
        at = (low + high) // 2
        after, late = tried(tries[at])
        off = abs(after - wanted_s) if late <= few else FAR
        if off < best[0]:
            best = (off, Proposal(tier, tries[at], before, after))
        enough = after >= wanted_s - WORK_SLACK_S if ratio > 1 else after <= wanted_s + WORK_SLACK_S
        if enough and (ratio > 1 or late <= few):
            high = at
        else:
            low = at + 1
    return best[1]


def _scaled(
    piece: plan.Piece, tier: int, places: Mapping[Place, int], ratio: float
) -> Iterable[dict[Place, int]]:
    """Rep numbers scaled together by steps toward a ratio and past it, nearest change first."""
    seen = []
    end = math.log(max(ratio, 0.05)) * 1.6
    # Under half or over double the numbers it would be another piece: other ways are tried then.
    end = min(max(end, -math.log(MOST_CHANGE)), math.log(MOST_CHANGE))
    for step in range(1, MOST_TRIES + 1):
        factor = math.exp(end * step / MOST_TRIES)
        reps = {
            place: liked(now * factor, _alternates(piece, place, tier))
            for place, now in places.items()
        }
        only = {place: new for place, new in reps.items() if new != places[place]}
        if any(not 1 / MOST_CHANGE <= new / places[at] <= MOST_CHANGE for at, new in only.items()):
            continue
        if only and only not in seen:
            seen.append(only)
            yield only


def reach_target(piece: plan.Piece, library: Library, tier: int) -> Proposal | None:
    """Reps so that the middle of a tier lands inside the piece's target; None where none do."""
    target = piece.target
    places = fixed_reps(piece, tier)
    if target is None or not places:
        return None

    def middle(piece: plan.Piece) -> float:
        done = trial(piece, library, tier)
        return float(np.median((done.time_s if target.unit == "time" else done.result)[done.able]))

    before, wanted = middle(piece), (target.low + target.high) / 2
    # More reps a round: fewer rounds, and a longer time.
    ratio = wanted / max(before, 1) if target.unit == "time" else before / max(wanted, 1)
    found = first_within(
        list(_scaled(piece, tier, places, ratio)),
        lambda reps: middle(changed(piece, tier, reps)),
        Wanted(target.low, target.high),
        before,
    )
    return Proposal(tier, found[0], before, found[1]) if found else None


def unevenness(rounds: Iterable[float]) -> float:
    """The most rounds of a block over the fewest."""
    counts = list(rounds)
    return max(counts) / max(min(counts), 0.1)


def balance_blocks(piece: plan.Piece, library: Library, tier: int) -> Proposal | None:
    """Reps of each block so that the blocks give about the same rounds as the middle of them.

    `before` and `after` are the most rounds of a block over the fewest.
    """
    places = fixed_reps(piece, tier)

    def middles(piece: plan.Piece) -> list[float]:
        done = trial(piece, library, tier)
        return [float(np.median(rounds[done.able])) for rounds in done.blocks]

    before = middles(piece)
    if len(before) < 2 or not places:
        return None
    wanted = float(np.median(before))
    best = Proposal(tier, {}, unevenness(before), unevenness(before))
    factors = [have / wanted for have in before]
    for _ in range(4):
        reps = {
            place: liked(now * factors[place.block], _alternates(piece, place, tier))
            for place, now in places.items()
        }
        only = {place: new for place, new in reps.items() if new != places[place]}
        rounds = middles(changed(piece, tier, only))
        if only and unevenness(rounds) < best.after:
            best = best._replace(reps=only, after=unevenness(rounds))
        factors = [f * have / wanted for f, have in zip(factors, rounds, strict=True)]
    return best if best.reps else None


def as_repair(
    piece: plan.Piece, proposal: Proposal, show: Callable[[float], str] = clock_text
) -> plan.Repair:
    """A proposal as a one-click change of the text."""
    return plan.Repair(label=label(piece, proposal, show), edits=edits(piece, proposal))
