"""The body as segments: lengths as fractions of stature, joints with limits, forward and back.

Points are complex numbers in metres: the real part is x, the imaginary part y, up from the floor.
In the side view x is forward, in the front view to the figure's left. A heading is in degrees: 0
points down, 90 forward (outward for a limb seen from the front), 180 up.

Segment lengths are those of Drillis and Contini (1966) as told by D. A. Winter, Biomechanics and
Motor Control of Human Movement, figure 4.1; masses are those of its table 4.1 (both from memory).
"""

from __future__ import annotations

from cmath import exp
from cmath import phase as argument
from math import acos, degrees, radians
from typing import Literal

View = Literal["side", "front"]
Joints = dict[str, complex]
Angles = dict[str, float]

STATURE_M = 1.75
"""What figures are posed in; another stature scales the whole."""

HEIGHTS = {"ankle": 0.039, "knee": 0.285, "hip": 0.530, "shoulder": 0.818, "head": 0.935}
"""Heights of standing joints over the floor, as fractions of stature; the head's is its middle."""
LENGTHS = {"upper_arm": 0.186, "forearm": 0.146, "hand": 0.108, "foot": 0.152}
BREADTHS = {"hip": 0.191, "shoulder": 0.259}

THIGH = (HEIGHTS["hip"] - HEIGHTS["knee"]) * STATURE_M
SHANK = (HEIGHTS["knee"] - HEIGHTS["ankle"]) * STATURE_M
TRUNK = (HEIGHTS["shoulder"] - HEIGHTS["hip"]) * STATURE_M
NECK = (HEIGHTS["head"] - HEIGHTS["shoulder"]) * STATURE_M
UPPER_ARM = LENGTHS["upper_arm"] * STATURE_M
FOREARM = LENGTHS["forearm"] * STATURE_M
HAND = LENGTHS["hand"] * STATURE_M
PALM = HAND / 2
"""From the wrist to what the hand holds."""
HEEL = 0.25 * LENGTHS["foot"] * STATURE_M
"""How far the heel is behind the ankle (a quarter of the foot: common practice, no source)."""
ANKLE = HEIGHTS["ankle"] * STATURE_M
FOOT: dict[View, complex] = {
    "side": complex(0.75 * LENGTHS["foot"] * STATURE_M, -ANKLE),
    "front": complex(0.035, -ANKLE),
}
"""From the ankle to the toe of a flat foot."""
MIDFOOT = LENGTHS["foot"] * STATURE_M / 2
"""From the middle of a flat foot to its toe."""
STANDING = HEIGHTS["hip"] * STATURE_M
HALF_HIP, HALF_SHOULDER = (BREADTHS[k] * STATURE_M / 2 for k in ("hip", "shoulder"))

LIMITS: dict[str, tuple[float, float]] = {
    "neck": (-75, 75),
    "hip": (-45, 165),
    "knee": (-3, 160),
    "ankle": (-60, 85),
    "arm": (-135, 225),
    "elbow": (-172, 172),
    "wrist": (-110, 110),
}
"""Degrees each joint goes through, in the plane that is seen (common practice, no source): hip
flexion with the bend of the low back, dorsiflexion of
the ankle, with the bend of the toes of a foot drawn stiff, below 0. An elbow below 0 is one
that points out of the plane, as under a bar on the back."""

SIDES = ("l", "r")
NAMES = {"l": "left", "r": "right"}

MASSES = {"head": 0.081, "trunk": 0.497}
LIMB_MASSES = {
    "upper_arm": 0.028,
    "forearm": 0.016,
    "hand": 0.006,
    "thigh": 0.100,
    "shank": 0.0465,
    "foot": 0.0145,
}
"""Shares of the body's mass, of one limb each; together they are 1."""


def heading(degrees_: float) -> complex:
    """The unit vector of a heading.

    >>> abs(heading(0) - (-1j)) < 1e-12 and abs(heading(90) - 1) < 1e-12
    True
    """
    return -1j * exp(1j * radians(degrees_))


def heading_of(vector: complex) -> float:
    """The heading of a vector, in degrees from -180 to 180."""
    return degrees(argument(vector * 1j))


def outward(view: View, side: str) -> int:
    """1 where a limb's headings grow with x, -1 where it is seen mirrored."""
    return -1 if view == "front" and side == "r" else 1


def toe_of(view: View, side: str, pitch: float) -> complex:
    """From the ankle to the toe of a foot whose heel is raised by `pitch` degrees."""
    sign = outward(view, side)
    base = FOOT[view] if sign > 0 else complex(-FOOT[view].real, FOOT[view].imag)
    return base * exp(-1j * radians(sign * pitch))


def bend(near: float, far: float, reach: complex) -> tuple[float, float, bool]:
    """The two-link inverse: degrees from the line of `reach` to the near link, degrees of the
    bend between both, and whether it is within reach.

    By the law of cosines; what is too far is reached for with a straight limb.
    """
    distance = abs(reach)
    fits = abs(near - far) <= distance + 1e-9 and distance <= near + far + 1e-9
    distance = min(max(distance, abs(near - far) + 1e-9), near + far)
    inner = (near**2 + far**2 - distance**2) / (2 * near * far)
    off = (near**2 + distance**2 - far**2) / (2 * near * distance)
    return (
        degrees(acos(min(max(off, -1), 1))),
        180 - degrees(acos(min(max(inner, -1), 1))),
        fits,
    )


def forward(view: View, hip: complex, angles: Angles) -> Joints:
    """Where every joint is, for the middle of the hips and all joint angles in degrees.

    Joints are `head`, `shoulder`, `hip` (the middles) and for each side `shoulder_left`,
    `elbow_left`, `wrist_left`, `hand_left`, `hip_left`, `knee_left`, `ankle_left`, `toe_left`,
    `heel_left`.
    """
    lean = angles["trunk"]
    pelvis = angles["pelvis"]
    up = heading(180 - lean)
    shoulder = hip + up * TRUNK
    head = shoulder + heading(180 - lean - angles["neck"]) * NECK
    joints: Joints = {"head": head, "shoulder": shoulder, "hip": hip}
    for side in SIDES:
        sign, name = outward(view, side), NAMES[side]
        across = -1j * up * sign if view == "front" else 0
        limb_hip = hip + (sign * exp(-1j * radians(pelvis)) * HALF_HIP if view == "front" else 0)
        limb_shoulder = shoulder + across * HALF_SHOULDER
        thigh = -pelvis + sign * angles[f"hip_{side}"]
        shank = thigh - sign * angles[f"knee_{side}"]
        upper = -lean + sign * angles[f"arm_{side}"]
        fore = upper + sign * angles[f"elbow_{side}"]
        hand = fore + sign * angles[f"wrist_{side}"]
        knee = limb_hip + heading(thigh) * THIGH
        ankle = knee + heading(shank) * SHANK
        elbow = limb_shoulder + heading(upper) * UPPER_ARM
        wrist = elbow + heading(fore) * FOREARM
        pitch = sign * -(shank - sign * angles[f"ankle_{side}"])
        toe = ankle + toe_of(view, side, pitch)
        heel = ankle + complex(-sign * HEEL if view == "side" else 0, -ANKLE) * exp(
            -1j * radians(sign * pitch)
        )
        joints |= {
            f"shoulder_{name}": limb_shoulder,
            f"elbow_{name}": elbow,
            f"wrist_{name}": wrist,
            f"hand_{name}": wrist + heading(hand) * PALM,
            f"hip_{name}": limb_hip,
            f"knee_{name}": knee,
            f"ankle_{name}": ankle,
            f"toe_{name}": toe,
            f"heel_{name}": heel,
        }
    return joints


def leg_to(view: View, side: str, hip: complex, lean: float, toe: complex, pitch: float) -> Angles:
    """The angles of a leg whose toe is at a point, its heel raised by `pitch` degrees."""
    sign, name = outward(view, side), side
    reach = toe - toe_of(view, side, pitch) - hip
    off, knee, _fits = bend(THIGH, SHANK, reach)
    thigh = sign * heading_of(reach) + off
    return {
        f"hip_{name}": _turn(thigh + sign * lean),
        f"knee_{name}": knee,
        f"ankle_{name}": _turn(thigh - knee + pitch),
    }


def arm_to(
    view: View,
    side: str,
    shoulder: complex,
    lean: float,
    hand: complex,
    *,
    flat: float | None,
    out: bool,
) -> Angles:
    """The angles of an arm that holds a point in its palm, or has its wrist there and its hand
    `flat` in that heading.

    `out` turns the elbow to the other side of the line from the shoulder to the hand.
    """
    sign, far = outward(view, side), FOREARM + PALM if flat is None else FOREARM
    reach = hand - shoulder
    off, elbow, _fits = bend(UPPER_ARM, far, reach)
    upper = sign * heading_of(reach) + (off if out else -off)
    elbow = -elbow if out else elbow
    fore = upper + elbow
    return {
        f"arm_{side}": _turn(upper + sign * lean, -135),
        f"elbow_{side}": elbow,
        f"wrist_{side}": 0.0 if flat is None else wrist_of(flat, fore),
    }


def wrist_of(flat: float, fore: float) -> float:
    """The bend of a wrist whose hand lies flat in a heading, as far as it goes."""
    low, high = LIMITS["wrist"]
    return min(max(_turn(flat - fore), low), high)


def _turn(angle: float, low: float = -180) -> float:
    """The same direction between `low` and `low` + 360 degrees."""
    return (angle - low) % 360 + low


def centre_of_mass(joints: Joints, load: complex | None = None, share: float = 0.0) -> complex:
    """The middle of the body's mass, and of a load that weighs `share` of the body.

    Segment middles are halfway, but for the trunk's, which Winter's table puts at the same.
    """
    total = MASSES["head"] * joints["head"]
    total += MASSES["trunk"] * (joints["shoulder"] + joints["hip"]) / 2
    for name in NAMES.values():
        for part, (one, other) in {
            "upper_arm": ("shoulder", "elbow"),
            "forearm": ("elbow", "wrist"),
            "hand": ("wrist", "hand"),
            "thigh": ("hip", "knee"),
            "shank": ("knee", "ankle"),
            "foot": ("heel", "toe"),
        }.items():
            middle = (joints[f"{one}_{name}"] + joints[f"{other}_{name}"]) / 2
            total += LIMB_MASSES[part] * middle
    return total if load is None else (total + share * load) / (1 + share)
