"""What a coach would call absurd, over every movement, measure, tier, track and amount.

The bounds stand here before anything is run: the fastest honest rep of each movement, and what is
common practice for its kind (no source). A load is the one the library calls usual, in proportion
to the strength of the tier and the track, as a coach scales it.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from pine_ladder.core.movements import Library, Movement, Pattern
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.rep_times import (
    HANGING,
    TIER_STRENGTH,
    TRACK_STRENGTH,
    constants,
    in_a_row,
    sample,
)
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.plan import Frozen

AMOUNTS = (1, 5, 10, 20, 50, 100)
TIERS, TRACKS = range(len(TIER_STRENGTH)), range(len(TRACK_STRENGTH))
ATHLETES = 30
UNABLE = 0.2
"""Share of a tier that may be unable to do a version meant for it."""
SLOW, TIRED = 3.0, 8.0
"""Times its usual seconds a rep may take in the middle of a tier, within a set and over many."""
HELD = 2.0
"""Seconds that a second of a hold may take within what an ordinary member holds in one go."""
SETS = 8.0
"""More sets' worth than this is no amount that a coach asks for: it is left out."""
METRES_A_SECOND = {True: (0.1, 12.0), False: (0.05, 7.0)}
"""On a machine or a bike, and on one's own feet or hands."""
TONNES_AN_HOUR, LONG_S = 110.0, 240.0
"""A hundred deadlifts at 100 kg take the strongest seven minutes; shorter work says little."""
METRES = 3.0
"""Metres on the hands or the knees for a rep."""
MEANT = (4, 10, 10)
"""A movement without a load is meant for a tier whose ordinary member has so many in a row."""
PUT_DOWNS = 0.85
"""Put-downs a rep, and a metre's worth of five for a carry."""


EXCEPTIONS = {"rack pull": "the heaviest bar on the shortest way moves most tonnes an hour"}
"""What may lie outside, and why: never more than ten."""


class Absurd(Frozen):
    """A prediction outside the bounds: what was asked of whom, and what is wrong with it."""

    movement: str
    asked: str
    tier: int
    track: int
    what: str


def _boards(movement: Movement, amount: int, tier: int, track: int) -> Iterator[tuple[str, float]]:
    """The lines that ask for an amount of a movement, with reps (metres, seconds) it comes to."""
    load = ""
    if movement.reference_kg:
        kilos = movement.reference_kg * TIER_STRENGTH[tier] * TRACK_STRENGTH[track]
        load = f" @ {max(1, round(kilos))} kg"
    if movement.measure == "reps":
        yield f"{amount} {movement.name}{load}", amount
    elif movement.measure == "distance":
        yield f"{5 * amount} m {movement.name}{load}", 5 * amount
        if movement.kit and movement.patterns[0] is Pattern.ENGINE:
            yield f"{amount} cal {movement.name}", 0.0
    else:
        yield f"{3 * amount} s {movement.name}{load}", 3 * amount


def _meant(movement: Movement, tier: int) -> bool:
    """Whether a movement is one that a tier is asked for as it is."""
    hanging = bool(HANGING.intersection(movement.kit))
    if (movement.reference_kg and not hanging) or movement.measure == "time":
        return True
    metres = METRES if movement.measure == "distance" else 1.0
    return in_a_row(movement, constants()) >= metres * MEANT[tier]


def _wrong(movement: Movement, line: str, units: float, done: Run) -> Iterator[str]:
    """What is outside the bounds of a run."""
    able = done.able
    middle = float(np.median(done.time_s[able]))
    unable = max((float(mask.mean()) for mask in done.unable.values()), default=0.0)
    usual = in_a_row(movement, constants())
    if unable > UNABLE:
        yield f"{unable:.0%} unable"
    if " cal " in line:
        a_minute = 60 * float(line.split(maxsplit=1)[0]) / middle
        if not 4 <= a_minute <= 60:
            yield f"{a_minute:.0f} calories a minute"
        return
    each = middle / units
    endless = movement.measure == "distance" and movement.in_a_row is None
    many = not endless and units > usual
    if units / usual > SETS and not endless:
        return
    if movement.measure == "distance":
        low, high = METRES_A_SECOND[Pattern.ENGINE in movement.patterns]
        if not low <= 1 / each <= high:
            yield f"{1 / each:.2f} m a second"
    elif movement.measure == "reps":
        if each < movement.floor_s * 0.999:
            yield f"{each:.2f} s a rep, the fastest honest one takes {movement.floor_s:.2f}"
        if each > movement.seconds * (TIRED if many else SLOW):
            yield f"{each:.1f} s a rep, a fresh one takes {movement.seconds:.1f}"
    elif each > (TIRED if many else HELD):
        yield f"{each:.1f} s for a second of it"
    downs = float(np.median(done.breaks[able])) / max(
        units / (5 if movement.measure == "distance" else 1), 1
    )
    if downs > PUT_DOWNS:
        yield f"put down {downs:.2f} times a rep"
    tonnes = 3.6 * float(np.median(done.tonnage[able])) / middle
    if middle > LONG_S and movement.measure == "reps" and tonnes > TONNES_AN_HOUR:
        yield f"{tonnes:.0f} tonnes an hour"


def absurd(library: Library) -> Iterator[Absurd]:
    """Every prediction outside the bounds."""
    for movement in (one for one in library.movements if one.name not in EXCEPTIONS):
        for amount in AMOUNTS:
            for tier in TIERS:
                if not _meant(movement, tier):
                    continue
                for track in TRACKS:
                    athletes = sample(ATHLETES, tier, track)
                    for line, units in _boards(movement, amount, tier, track):
                        board = parse(f"## Conditioning: for time\n{line}", library)
                        done = run(board.session.pieces[0], athletes, library, tier)
                        for what in _wrong(movement, line, units, done):
                            yield Absurd(
                                movement=movement.name,
                                asked=line,
                                tier=tier,
                                track=track,
                                what=what,
                            )
