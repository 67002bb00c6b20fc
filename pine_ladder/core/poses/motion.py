"""From key poses to a motion: tweening that keeps what stands fast where it is."""

from __future__ import annotations

from cmath import phase
from dataclasses import dataclass
from math import cos, degrees, pi, sqrt
from typing import Literal

from pine_ladder.core.poses import body
from pine_ladder.core.poses import key_poses as pose
from pine_ladder.core.poses.body import NAMES, SIDES, Angles, View
from pine_ladder.core.poses.holds import Grip
from pine_ladder.core.poses.key_poses import Fixed, Pose, Solved

Way = Literal["smooth", "even", "up", "down"]
"""How a step goes through its time: easing in and out, evenly, slowing down as what is thrown up
does, or speeding up as what falls does."""
MIN_FRAMES, LEAST_A_STEP = 24, 3
FRAMES_A_SECOND = 15
PASSING_M = 0.13


@dataclass(frozen=True, slots=True)
class Step:
    """A way from one key pose to the next: the key reached, seconds, and how high what moves
    through the air is lifted on the way, in metres."""

    key: str
    seconds: float
    way: Way = "smooth"
    over: float = 0.0


@dataclass(frozen=True, slots=True)
class Frame:
    """One moment: seconds from the start, the key pose it is, if any, and the solved body."""

    t_s: float
    key: str | None
    at: Solved


def eased(way: Way, share: float) -> float:
    """How far a step has come after a share of its time, both from 0 to 1."""
    if way == "smooth":
        return (1 - cos(pi * share)) / 2
    if way == "up":
        return 1 - (1 - share) ** 2
    return share**2 if way == "down" else share


def tween(view: View, start: Solved, end: Solved, share: float, over: float = 0.0) -> Solved:
    """The body between two poses. What is fixed in both stays, or goes from one place to the
    other in an arc `over` metres high; what is held stays held; all else turns evenly."""
    if share <= 0 or share >= 1:
        return start if share <= 0 else end
    angles: Angles = {
        name: value + (end.angles[name] - value) * share for name, value in start.angles.items()
    }
    arc = 1j * over * 4 * share * (1 - share)
    hip = _hips(view, start, end, angles, share, arc)
    joints = body.forward(view, hip, angles)
    fixed: Fixed = {}
    for side in SIDES:
        foot = f"foot_{side}"
        if foot in start.fixed and foot in end.fixed:
            (a, pitch_a), (b, pitch_b) = start.fixed[foot], end.fixed[foot]
            toe = a + (b - a) * share + (arc if a != b else 0)
            pitch = (pitch_a or 0) + ((pitch_b or 0) - (pitch_a or 0)) * share
            limb = joints[f"hip_{NAMES[side]}"]
            angles |= body.leg_to(view, side, limb, angles["pelvis"], toe, pitch)
            if a == b:
                fixed[foot] = (toe, pitch)
            else:
                # A foot in the air turns no further than its ankle lets it.
                low, high = body.LIMITS["ankle"]
                angles[f"ankle_{side}"] = min(max(angles[f"ankle_{side}"], low), high)
        knee = f"knee_{side}"
        if knee in start.fixed and start.fixed[knee] == end.fixed.get(knee):
            fixed[knee] = start.fixed[knee]
    joints = body.forward(view, hip, angles)
    for side in SIDES:
        _arm(view, side, start, end, angles, joints, share, fixed)
    _off_the_floor(view, hip, angles, fixed)
    joints = body.forward(view, hip, angles)
    thing = None
    if start.thing is not None or end.thing is not None:
        a = pose.hands(start.joints) if start.thing is None else start.thing
        b = pose.hands(end.joints) if end.thing is None else end.thing
        thing = a + (b - a) * share
    return Solved(end.pose, hip, angles, joints, thing, fixed)


def _hips(
    view: View, start: Solved, end: Solved, angles: Angles, share: float, arc: complex
) -> complex:
    """Where the hips are: carried by the same limb as before and after, else on a straight way."""
    a, b = start.pose, end.pose
    if a.on == b.on and a.on.startswith("f"):
        at = complex(*a.at) + (complex(*b.at) - complex(*a.at)) * share
        at += arc if a.at != b.at else 0
        leans = tuple(getattr(a, n) + (getattr(b, n) - getattr(a, n)) * share for n in LEANS)
        hip = pose.carried_hip(view, a.on, at, leans[3], (leans[0], leans[1], leans[2]))
        return _within_reach(view, hip, start, end, share)
    if a.on == b.on and a.on.startswith("knee") and a.at == b.at:
        thigh = a.thigh + (b.thigh - a.thigh) * share
        return complex(*a.at) - body.heading(thigh) * body.THIGH
    if a.on == b.on == "hands" and a.at == b.at and (a.palm is None) == (b.palm is None):
        lean, upper = angles["trunk"], angles["arm_r"] - angles["trunk"]
        far = body.FOREARM if a.palm is not None else body.FOREARM + body.PALM
        fore = upper + angles["elbow_r"]
        shoulder = complex(*a.at) - body.heading(fore) * far - body.heading(upper) * body.UPPER_ARM
        return shoulder - body.heading(180 - lean) * body.TRUNK
    way = start.hip + (end.hip - start.hip) * share + arc
    return _within_reach(view, way, start, end, share)


LEANS = ("shin", "thigh", "trunk", "heel")


def _within_reach(view: View, hip: complex, start: Solved, end: Solved, share: float) -> complex:
    """The hips drawn in to where feet and hands that stand fast are within reach."""
    spine = body.heading(180 - (start.angles["trunk"] * (1 - share) + end.angles["trunk"] * share))
    longest = (body.THIGH + body.SHANK) * 0.9999
    for _ in range(3):
        for side in SIDES:
            foot = f"foot_{side}"
            if foot not in start.fixed or foot not in end.fixed:
                continue
            (a, pitch_a), (b, pitch_b) = start.fixed[foot], end.fixed[foot]
            pitch = (pitch_a or 0) + ((pitch_b or 0) - (pitch_a or 0)) * share
            ankle = a + (b - a) * share - body.toe_of(view, side, pitch)
            sign = body.outward(view, side)
            limb = hip + (sign * body.HALF_HIP if view == "front" else 0)
            away = limb - ankle
            if abs(away) > longest:
                hip += away / abs(away) * longest - away
        for side in SIDES:
            hand = f"hand_{side}"
            if hand not in start.fixed or start.fixed[hand] != end.fixed.get(hand):
                continue
            spot, flat = start.fixed[hand]
            far = body.FOREARM if flat is not None else body.FOREARM + body.PALM
            across = body.outward(view, side) * body.HALF_SHOULDER if view == "front" else 0
            away = hip + spine * (body.TRUNK - 1j * across) - spot
            if abs(away) > (body.UPPER_ARM + far) * 0.9999:
                hip += away / abs(away) * (body.UPPER_ARM + far) * 0.9999 - away
    return hip


def _arm(
    view: View,
    side: str,
    start: Solved,
    end: Solved,
    angles: Angles,
    joints: body.Joints,
    share: float,
    fixed: Fixed,
) -> None:
    hand = f"hand_{side}"
    if start.pose.on == end.pose.on == "hands" and start.pose.at == end.pose.at:
        if start.pose.palm is not None:
            fore = -angles["trunk"] + angles[f"arm_{side}"] + angles[f"elbow_{side}"]
            angles[f"wrist_{side}"] = body.wrist_of(pose.FLOOR, fore)
        fixed[hand] = start.fixed[hand]
        return
    a, b = (_end(solved, side, joints, angles) for solved in (start, end))
    if a is None or b is None:
        return
    if a.flat == b.flat and a.out == b.out:
        at = a.at + (b.at - a.at) * share
        if not a.fixed and not b.fixed and a.at != b.at:
            at = _clear_of(joints[f"shoulder_{NAMES[side]}"], at)
        grip = Grip(at, a.flat, a.out)
        pose.place(view, side, angles, joints, grip)
        if a.fixed and b.fixed and a.at == b.at:
            fixed[hand] = (a.at, a.flat)


def _off_the_floor(view: View, hip: complex, angles: Angles, fixed: Fixed) -> None:
    """Free feet and hands that would pass under the floor are drawn up to it."""
    joints = body.forward(view, hip, angles)
    for side in SIDES:
        name = NAMES[side]
        low = min(joints[f"{end}_{name}"].imag for end in ("heel", "toe", "ankle"))
        if f"foot_{side}" not in fixed and low < 0:
            toe = joints[f"toe_{name}"] - 1j * low
            sole = toe - joints[f"ankle_{name}"] + 1j * low
            pitch = -degrees(phase(sole / body.toe_of(view, side, 0)))
            pitch *= body.outward(view, side)
            limb = joints[f"hip_{name}"]
            angles |= body.leg_to(view, side, limb, angles["pelvis"], toe, pitch)
        hand = joints[f"hand_{name}"]
        if f"hand_{side}" not in fixed and hand.imag < 0:
            grip = Grip(complex(hand.real, 0.0))
            pose.place(view, side, angles, joints, grip)


def _clear_of(shoulder: complex, hand: complex) -> complex:
    """A hand on its way past the shoulder goes around in front of it: no elbow folds flat."""
    away = hand - shoulder
    if abs(away.imag) >= PASSING_M:
        return hand
    return shoulder + complex(max(away.real, sqrt(PASSING_M**2 - away.imag**2)), away.imag)


def _end(solved: Solved, side: str, joints: body.Joints, angles: Angles) -> Grip | None:
    hand = f"hand_{side}"
    if hand in solved.fixed:
        at, flat = solved.fixed[hand]
        return Grip(at, flat, bool(solved.pose.of("out", side)), fixed=True)
    end = pose.end_of(solved.pose, side)
    if end is None or isinstance(end, Grip):
        return end
    return end(joints, angles)


def frames(
    view: View, poses: dict[str, Pose], first: str, steps: tuple[Step, ...], load: float = 0.0
) -> tuple[Frame, ...]:
    """A cycle from the pose `first` through its steps; the last frame is the first one again
    where the last step leads back. At least 24, a key pose always on a frame of its own.
    """
    solved = {name: pose.solve(view, each, load) for name, each in poses.items()}
    total = sum(step.seconds for step in steps)
    wanted = max(MIN_FRAMES, min(round(total * FRAMES_A_SECOND), 60))
    out = [Frame(0.0, first, solved[first])]
    passed, before = 0.0, solved[first]
    for step in steps:
        count = max(LEAST_A_STEP, round(wanted * step.seconds / total)) if step.seconds else 0
        for i in range(1, count):
            at = tween(view, before, solved[step.key], eased(step.way, i / count), step.over)
            out.append(Frame(passed + step.seconds * i / count, None, at))
        passed += step.seconds
        before = solved[step.key]
        if count:
            out.append(Frame(passed, step.key, before))
    return tuple(out)
