"""Schools of training that a gym chooses between: drafts and checks follow its choice.

Each pair is common practice, no source: coaches give reasons for both.
"""

from __future__ import annotations

from typing import Literal

from pine_ladder.core.plan import Frozen


class TrainingStyle(Frozen):
    """The schools that a gym follows.

    `power`: one movement, fully rested, or two paired, each resting while the other works.
    `warm_up`: rounds that prepare the day's patterns, or the same work as an easy AMRAP.
    `day`: patterns that alternate within a day, or one pattern all day.
    `repeats`: something new each week, or the same on purpose until it is mastered.
    `cycle`: one thing at a time, or volume and intensity in turn.
    """

    power: Literal["rested", "paired"] = "rested"
    warm_up: Literal["preparation", "AMRAP"] = "preparation"
    day: Literal["alternating", "one pattern"] = "alternating"
    repeats: Literal["new", "on purpose"] = "new"
    cycle: Literal["linear", "undulating"] = "linear"
