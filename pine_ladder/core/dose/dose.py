"""The dose of a session: how hard it is on each region of the body, 0 to 100.

A set taken to its end costs a region one set, whatever the load; a rep costs `n ** -POWER` of it,
`n` being the reps that an ordinary member has in one go at that load (by Epley 1985 from the
percentage of the best). So five at 95 % weigh more than five at 20 %, and three hundred squats more
than thirty. Slow reps cost more by their time under tension. What a region gets adds up, and 100 is
approached and not reached: `100 (1 - exp(-x / SCALE))`. The engine goes by the seconds of work and
how much air they take, landings by their number.

The constants rest on judgement: twenty boards judged twice, from memory.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Mapping
from functools import lru_cache

from pine_ladder.core import plan
from pine_ladder.core.dose.regions import Region, impact, regions_of
from pine_ladder.core.movements import Library, Movement, Pattern
from pine_ladder.core.pace.rep_times import UNKNOWN, Array, sample
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.pace.simulation import Mask
from pine_ladder.core.plan import Frozen

MEMBERS = 40
"""Athletes of the first tier whose mean is taken."""
SCALE = 2.2
"""Strain at which a region has 63 of 100 (judgement)."""
AIR_POWER, AIR_TIME, AIR = 2.0, 0.6, 0.05
"""How the engine's dose rises with how much air work takes, with its seconds, and its scale."""
LEG_POWER, LEG_S = 4.0, 40.0
"""How the regions' share of engines rises with their demand, and its scale in seconds."""
DENSITY, TIRED, STILL = 0.4, 1.3, 0.2
"""How the engine's dose rises with the share of the time that is work; reps count up to so many
times their fresh seconds, seconds of a hold this part.
"""
HELD = 0.4
"""Strain of a hold to its end, against reps to the end of a set (judgement)."""
BUILT = 0.65
"""Strain of sets that build, against as many of the heaviest (judgement)."""
LANDINGS = 130.0
"""Landings that give 63 of 100 (judgement)."""
PACES = {"steady": 0.75, "hard": 1.2}
"""Factor of each pace on the demand on heart and lungs."""
SOFT = (plan.Role.WARM_UP, plan.Role.MOBILITY, plan.Role.COOL_DOWN)
SOFTLY = 0.5
"""Strain of unhurried work, against the same in earnest (judgement)."""
WORKING_RPE = 8.0
"""A lift without a load in a piece of sets is taken as a working weight (common practice)."""


class Dose(Frozen):
    """Dose by region, 0 (nothing) to 100 (the hardest sensible session)."""

    squat: float = 0.0
    hinge: float = 0.0
    press: float = 0.0
    pull: float = 0.0
    trunk: float = 0.0
    landing: float = 0.0
    engine: float = 0.0

    def of(self, region: Region) -> float:
        """The dose of one region."""
        return float(getattr(self, region.value))


class Strain:
    """Strain by region, which adds up before it becomes a dose."""

    def __init__(self) -> None:
        self.sets: defaultdict[Region, float] = defaultdict(float)
        self.air_s = self.landings = 0.0

    def add(self, other: Strain) -> None:
        """Adds what another piece cost."""
        for region, value in other.sets.items():
            self.sets[region] += value
        self.air_s += other.air_s
        self.landings += other.landings

    def dose(self) -> Dose:
        """The dose that this much strain is."""
        parts = {region: self.sets[region] / SCALE for region in self.sets}
        parts[Region.LANDING] = self.landings / LANDINGS
        parts[Region.ENGINE] = AIR * self.air_s**AIR_TIME
        return Dose(**{r.value: round(100 * (1 - math.exp(-x)), 1) for r, x in parts.items()})


def dose_of_piece(piece: plan.Piece, library: Library) -> Dose:
    """The dose of one piece, as an ordinary trained member does it."""
    return strain_of(piece, library).dose()


def dose_of_session(session: plan.Session, library: Library) -> Dose:
    """The dose of a day: what its pieces cost, added up."""
    whole = Strain()
    for piece in session.pieces:
        if piece.role is not plan.Role.REST:
            whole.add(strain_of(piece, library))
    return whole.dose()


@lru_cache(maxsize=2048)
def strain_of(piece: plan.Piece, library: Library) -> Strain:
    """Return the strain of a piece by region. It is cached: do not change it."""
    done = run(_worked(piece, library), sample(MEMBERS, tier=0), library)
    pace = PACES.get(piece.pace or "", 1.0)
    out = Strain()
    for name in set(done.tension) | set(done.strain):
        movement = library.find(name) or UNKNOWN
        _add(out, movement, done, name, pace)
    part = (BUILT if piece.build else 1.0) * (SOFTLY if piece.role in SOFT else 1.0)
    out.sets = defaultdict(float, {region: part * x for region, x in out.sets.items()})
    return out


def _add(out: Strain, movement: Movement, done: Run, name: str, pace: float) -> None:
    """Adds what was done of one movement."""
    keep = done.able
    seconds = _mean(done.tension, name, keep)
    sets = _mean(done.strain, name, keep) * (HELD if movement.measure == "time" else 1.0)
    demand = min(1.0, movement.demand * pace)
    if Pattern.ENGINE in movement.patterns[:1]:
        sets = seconds * demand**LEG_POWER / LEG_S
    for region, share in regions_of(movement).items():
        out.sets[region] += share * sets
    reps = _mean(done.reps, name, keep)
    moved = seconds
    if movement.measure == "reps":
        moved = min(seconds, TIRED * reps * movement.seconds)
    elif movement.measure == "time" and Pattern.ENGINE not in movement.patterns:
        moved *= STILL
    share = min(1.0, float((done.work[keep] / done.time_s[keep]).mean()))
    out.air_s += moved * demand**AIR_POWER * share**DENSITY
    out.landings += impact(movement, seconds, reps, reps * movement.landings)


def _mean(of: Mapping[str, Array], name: str, keep: Mask) -> float:
    """The mean over those who can do the piece; nothing where it was not done."""
    return float(of[name][keep].mean()) if name in of else 0.0


def _worked(piece: plan.Piece, library: Library) -> plan.Piece:
    """A piece of sets whose lifts without a load are done at a working weight."""
    if not isinstance(piece.format, plan.Sets):
        return piece
    blocks = tuple(
        block.model_copy(update={"lines": tuple(_lines(block.lines, library))})
        for block in piece.blocks
    )
    return piece.model_copy(update={"blocks": blocks})


def _lines(lines: Iterable[plan.Line], library: Library) -> Iterable[plan.Line]:
    for line in lines:
        tasks = []
        for task in line.tasks:
            first = task.versions[0]
            movement = library.find(first.movement)
            if first.load is None and movement is not None and movement.reference_kg:
                first = first.model_copy(update={"load": plan.Effort(rpe=WORKING_RPE)})
            tasks.append(task.model_copy(update={"versions": (first, *task.versions[1:])}))
        yield line.model_copy(update={"tasks": tuple(tasks)})
