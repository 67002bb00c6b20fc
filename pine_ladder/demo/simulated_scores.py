"""The demo gym's hidden truth: how its members really move, which the library does not know.

Scores are drawn from it, so that learning has something to find. All of it is invented.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, athletes
from pine_ladder.core.movements import Library
from pine_ladder.core.pace.rep_times import TIER_PACE, Capacity
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import reps_in_round, reps_of_round, score_kind
from pine_ladder.core.units import clock_text
from pine_ladder.demo import people as cast

CAPACITY_SPREAD, MOVEMENT_SPREAD, DAY_SPREAD = 0.12, 0.12, 0.035
APART = 1.6
"""The cast lies further apart than its rough paces say, by this power: as ordinary members do."""
TILT_SPREAD, ROUND_SPREAD = 0.16, 0.02
NOTES_ROUNDS = 2
"""One in so many members notes the time of each round."""
STRENGTH_BASE_KG = {"deadlift": 118, "back squat": 92, "front squat": 74, "strict press": 46}
TRACK_STRENGTH = (1.0, 0.66)
TIER_STRENGTH = (1.12, 1.0, 0.82)


def members(seed: int) -> list[Member]:
    """The cast with their true pace, numbered as in the cast."""
    chance = random.Random(seed)
    out = []
    for number, (name, tier, track, pace, _strength) in enumerate(cast.ATHLETES):
        general = (pace / TIER_PACE[tier]) ** APART
        factors = {
            capacity: TIER_PACE[tier] * general * math.exp(chance.gauss(0, CAPACITY_SPREAD))
            for capacity in Capacity
        }
        out.append(Member(id=number, name=name, tier=tier, track=track, factors=factors))
    return out


def medians(library: Library, seed: int) -> dict[str, float]:
    """The gym's own factor on each movement's seconds: its own, whatever else is in the library."""
    return {
        movement.name: math.exp(random.Random(f"{seed}/{movement.name}").gauss(0, MOVEMENT_SPREAD))
        for movement in library.movements
    }


def entries(
    piece: plan.Piece,
    who: Sequence[Member],
    library: Library,
    gym: dict[str, float],
    chance: random.Random,
) -> list[str]:
    """What each of some members hands in on a piece, as they would write it."""
    out = [""] * len(who)
    for tier in {member.tier for member in who}:
        places = [at for at, member in enumerate(who) if member.tier == tier]
        todays = [_on_the_day(who[at], chance) for at in places]
        done = run(piece, replace(athletes(todays, library), medians=gym), library, tier)
        for row, at in enumerate(places):
            out[at] = _entry(piece, done, row, who[at], chance)
    if piece.teams and piece.teams.how != "together":
        _sum_teams(out, piece.teams.size)
    return out


def _on_the_day(member: Member, chance: random.Random) -> Member:
    form = math.exp(chance.gauss(0, DAY_SPREAD))
    factors = {capacity: factor * form for capacity, factor in member.factors.items()}
    return member.model_copy(update={"factors": factors})


def _sum_teams(out: list[str], size: int) -> None:
    """Partners as they stand in the list hand in one sum."""
    for start in range(0, len(out), size):
        team = out[start : start + size]
        total = sum(int(part) for one in team for part in one.split())
        out[start : start + size] = [str(total)] * len(team)


def _entry(piece: plan.Piece, done: Run, row: int, member: Member, chance: random.Random) -> str:
    kind = score_kind(piece)
    result = float(done.result[row])
    match kind:
        case ScoreKind.DONE:
            return "done"
        case ScoreKind.LOAD:
            return _load(piece, member, chance)
        case ScoreKind.TIME if piece.cap_s and done.capped[row]:
            return f"cap+{chance.randint(2, 30)}"
        case ScoreKind.TIME:
            return clock_text(max(result, 1)) + _splits(piece, done, row, member)
        case ScoreKind.STEP:
            return str(max(1, round(result)))
        case ScoreKind.ROUNDS:
            size = reps_in_round(piece, int(result) + 1, member.tier, member.track)
            reps = round((result - int(result)) * size)
            told = f"{int(result)}+{reps}" if reps else f"{int(result)}"
            return told + _splits(piece, done, row, member)
        case ScoreKind.TOTAL_REPS | ScoreKind.LOWEST_INTERVAL:
            counts = [round(float(counted[row])) for counted in done.intervals]
            return " ".join(map(str, counts)) or str(round(result))
    return str(round(result))


def _splits(piece: plan.Piece, done: Run, row: int, member: Member) -> str:
    """The times of the rounds, from those who note them; empty for the others."""
    times = [
        float(split[row]) * reps_of_round(piece, n, member.tier, member.track)
        for n, split in enumerate(done.splits, start=1)
        if math.isfinite(split[row])
    ]
    if member.id % NOTES_ROUNDS or len(times) < 2:
        return ""
    # Some start too fast and some hold back; the whole takes as long as it takes.
    own = random.Random(f"{member.id}/{sum(times):.3f}")
    tilt = own.gauss(0, TILT_SPREAD)
    told = [
        time * math.exp(tilt * (at / len(times) - 0.5) + own.gauss(0, ROUND_SPREAD))
        for at, time in enumerate(times)
    ]
    scale = sum(times) / sum(told)
    return " splits " + " ".join(clock_text(max(1, int(time * scale))) for time in told)


def _load(piece: plan.Piece, member: Member, chance: random.Random) -> str:
    lift = piece.lines[0].tasks[0].versions[0].movement
    best = STRENGTH_BASE_KG.get(lift, 60) * TRACK_STRENGTH[member.track]
    _name, _tier, _track, _pace, strength = cast.ATHLETES[member.id]
    kilograms = best * TIER_STRENGTH[member.tier] * strength * math.exp(chance.gauss(0, 0.03))
    return f"{max(20, np.round(kilograms / 2.5) * 2.5):g}"
