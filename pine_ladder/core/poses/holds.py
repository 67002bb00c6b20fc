"""Where the hands are when the body holds something: at the shoulders, overhead, hanging."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import sqrt

from pine_ladder.core.poses import body
from pine_ladder.core.poses.body import Angles, Joints, heading

REACH = body.UPPER_ARM + body.FOREARM + body.PALM
STRAIGHT = 0.9995
"""The share of its length a straight arm reaches: what is told straight bends by 3 degrees."""


@dataclass(frozen=True, slots=True)
class Grip:
    """A place of a hand. `flat` is the heading of a hand whose wrist is there, as on the ground;
    `out` turns the elbow out, `fixed` is a place that does not move with the body."""

    at: complex
    flat: float | None = None
    out: bool = False
    fixed: bool = False


Hold = Callable[[Joints, Angles], Grip]


def _by_trunk(forward: float, up: float, *, flat: float | None = None, out: bool = False) -> Hold:
    """At a place of the trunk, from the shoulder: metres forward and along the spine."""

    def at(joints: Joints, angles: Angles) -> Grip:
        spine = heading(180 - angles["trunk"])
        return Grip(joints["shoulder"] + spine * (up - 1j * forward), flat=flat, out=out)

    return at


def _rack(joints: Joints, angles: Angles) -> Grip:
    """A bar on the front of the shoulders, elbows high: the wrist beside it."""
    spine = heading(180 - angles["trunk"])
    return Grip(joints["shoulder"] + spine * (0.05 - 0.155j), flat=-90.0)


def _back(joints: Joints, angles: Angles) -> Grip:
    """A bar across the back of the shoulders."""
    spine = heading(180 - angles["trunk"])
    bar = joints["shoulder"] + spine * (0.03 + 0.075j)
    return Grip(bar, out=True)


def _over(x: float) -> Hold:
    """Straight up from the shoulder, `x` metres before it, whatever the trunk does."""

    def at(joints: Joints, angles: Angles) -> Grip:
        up = sqrt((REACH * STRAIGHT) ** 2 - x**2)
        return Grip(joints["shoulder"] + complex(x, up))

    return at


def _over_foot(joints: Joints, angles: Angles) -> Grip:
    """Straight up, over the middle of the foot that is between both."""
    toes = (joints["toe_left"] + joints["toe_right"]) / 2
    x = min(max(toes.real - body.MIDFOOT - joints["shoulder"].real, -0.45), 0.45)
    return Grip(joints["shoulder"] + complex(x, sqrt((REACH * STRAIGHT) ** 2 - x**2)))


def _line(joints: Joints, angles: Angles) -> Grip:
    """A bar that hangs from straight arms over the middle of the foot, close to the legs."""
    toes = (joints["toe_left"] + joints["toe_right"]) / 2
    middle = toes.real - body.MIDFOOT
    x = min(max(middle - joints["shoulder"].real, -0.45), 0.45)
    return Grip(joints["shoulder"] + complex(x, -sqrt((REACH * STRAIGHT) ** 2 - x**2)))


def _hang(x: float) -> Hold:
    """Hanging from straight arms, `x` metres before the shoulder."""

    def at(joints: Joints, angles: Angles) -> Grip:
        return Grip(joints["shoulder"] + complex(x, -sqrt((REACH * STRAIGHT) ** 2 - x**2)))

    return at


def _before(up: float) -> Hold:
    """Straight out before the shoulders, `up` metres higher."""

    def at(joints: Joints, angles: Angles) -> Grip:
        return Grip(joints["shoulder"] + complex(sqrt((REACH * STRAIGHT) ** 2 - up**2), up))

    return at


HOLDS: dict[str, Hold | None] = {
    "free": None,
    "rack": _rack,
    "back": _back,
    "shoulders": _by_trunk(0.12, 0.06),
    "goblet": _by_trunk(0.19, -0.10),
    "hug": _by_trunk(0.21, -0.22),
    "elbow crook": _by_trunk(0.20, -0.24),
    "chest": _by_trunk(0.20, -0.05),
    "head": _by_trunk(-0.06, 0.17, out=True),
    "ribs": _by_trunk(0.06, -0.30),
    "knee": _by_trunk(0.24, -0.42),
    "high pull": _by_trunk(0.14, -0.06, out=True),
    "waist": _by_trunk(0.05, -0.36),
    "ears": _by_trunk(0.08, 0.14),
    "belly": _by_trunk(0.14, -0.36),
    "chin": _by_trunk(0.13, 0.02),
    "overhead": _over(0.0),
    "overhead foot": _over_foot,
    "line": _line,
    "hang": _hang(0.0),
    "front of thighs": _hang(0.10),
    "behind": _hang(-0.12),
    "before": _before(0.0),
    "before low": _before(-0.35),
    "eyes": _before(0.18),
}
