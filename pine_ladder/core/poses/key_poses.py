"""A key pose as it is told, by contacts and intent, and as it is solved into angles."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated, Literal

from pydantic import Field

from pine_ladder.core.plan import Frozen
from pine_ladder.core.poses import body
from pine_ladder.core.poses.body import NAMES, SIDES, Angles, Joints, View, heading
from pine_ladder.core.poses.holds import HOLDS, Grip, Hold

Spot = tuple[float, float]
Sole = tuple[float, float] | tuple[float, float, float]
Fixed = dict[str, tuple[complex, float | None]]
Load = Annotated[float, Field(ge=0, le=3)]
FLOOR = 90.0
"""The heading of a hand that leans on the ground."""
On = Literal["feet", "foot_r", "foot_l", "knees", "knee_r", "knee_l", "hands", "hip", "shoulder"]


class Pose(Frozen):
    """One key pose. Metres at a stature of 1.75 m, degrees.

    `on` is what carries the figure, `at` where that is: the middle of the foot on its ground, the
    knee, the hand, or the middle of the hips. From there the segments follow by `shin` and `thigh`
    (leaning forward; the thigh back from upright), `trunk` (leaning forward; -90 lies on the back,
    180 is upside down) and for the arms `arm` and `elbow`. What carries nothing is told by the
    angles of its joints (`hip`, `knee`, `ankle`; `arm`, `elbow`, `wrist`) or by where it is:
    `foot` is the middle of a sole with, as its third number, the degrees the heel is raised;
    `hand` what a palm holds, `palm` the ground a flat hand leans on, `hold` one of HOLDS. What
    ends in `_l` or `_r` is told of one side only. Where `balance` is told the trunk leans until
    the weight, with the load in the hands, is that far before the middle of the foot.
    """

    on: On = "feet"
    at: Spot = (0.0, 0.0)
    heel: float = 0.0
    shin: float = 0.0
    thigh: float = 0.0
    trunk: float = 0.0
    neck: float = 0.0
    pelvis: float | None = None
    """How far the pelvis leans in the front view, where it does not go with the trunk."""
    balance: float | None = None
    hip: float = 0.0
    knee: float = 0.0
    ankle: float = 0.0
    arm: float = 0.0
    elbow: float = 0.0
    wrist: float = 0.0
    foot: Sole | None = None
    hand: Spot | None = None
    palm: Spot | None = None
    hold: str | None = None
    out: bool = False
    out_l: bool | None = None
    out_r: bool | None = None
    hip_l: float | None = None
    hip_r: float | None = None
    knee_l: float | None = None
    knee_r: float | None = None
    ankle_l: float | None = None
    ankle_r: float | None = None
    arm_l: float | None = None
    arm_r: float | None = None
    elbow_l: float | None = None
    elbow_r: float | None = None
    wrist_l: float | None = None
    wrist_r: float | None = None
    foot_l: Sole | None = None
    foot_r: Sole | None = None
    hand_l: Spot | None = None
    hand_r: Spot | None = None
    palm_l: Spot | None = None
    palm_r: Spot | None = None
    hold_l: str | None = None
    hold_r: str | None = None
    thing: Spot | None = None
    """Where a thing is that nobody holds (a ball in the air)."""

    def of(self, what: str, side: str) -> float:
        """What is told of one side, else of both."""
        own = getattr(self, f"{what}_{side}")
        return float(getattr(self, what) if own is None else own)

    def sole(self, side: str) -> Sole | None:
        """Where a foot stands that carries nothing."""
        own = self.foot_l if side == "l" else self.foot_r
        return own if own is not None else self.foot

    def mirrored(self) -> Pose:
        """The same pose on the other side."""
        told = self.model_dump(exclude_unset=True)
        other = {"l": "r", "r": "l"}
        out = {
            (name[:-1] + other[name[-1]] if name[-2:] in ("_l", "_r") else name): value
            for name, value in told.items()
        }
        if self.on[-2:] in ("_l", "_r"):
            out["on"] = self.on[:-1] + other[self.on[-1]]
        return Pose.model_validate(out)

    def seen_mirrored(self) -> Pose:
        """The other side in the front view, where places and leans are mirrored as well."""
        out = self.mirrored().model_dump(exclude_unset=True)
        for name, value in out.items():
            if isinstance(value, tuple):
                out[name] = (-value[0], *value[1:])
        for name in ("trunk", "neck", "pelvis"):
            if name in out:
                out[name] = -out[name]
        return Pose.model_validate(out)


@dataclass(frozen=True, slots=True)
class Solved:
    """A pose with every angle known. `fixed` are the ends that stay where they are, by the name
    of the end: a sole with the raise of its heel, a palm, a knee, a hand on what stands fast."""

    pose: Pose
    hip: complex
    angles: Angles
    joints: Joints
    thing: complex | None = None
    fixed: Fixed = field(default_factory=dict)


def toe_at(view: View, side: str, sole: Sole) -> complex:
    """The toe of a flat foot whose middle is at a point: what stays where it is."""
    spot = complex(sole[0], sole[1])
    return spot + (body.MIDFOOT if view == "side" else body.toe_of(view, side, 0).real)


def solve(view: View, pose: Pose, load: Load = 0.0) -> Solved:
    """All angles and joints of a pose; with `balance` its trunk leans until the weight is over
    the foot. `load` is what the hands hold as a share of the body's weight."""
    if pose.balance is None:
        return _solve(view, pose)
    wanted = pose.at[0] + pose.balance

    def off(lean: float) -> float:
        solved = _solve(view, pose.model_copy(update={"trunk": lean, "balance": None}))
        return body.centre_of_mass(solved.joints, hands(solved.joints), load).real - wanted

    lean = _root(off, -25.0, 88.0)
    return _solve(view, pose.model_copy(update={"trunk": lean, "balance": None}))


def _root(of: Callable[[float], float], low: float, high: float) -> float:
    """Where a growing function is 0, to a hundredth of a degree; its nearer end if nowhere."""
    while high - low > 0.01:
        middle = (low + high) / 2
        if of(middle) > 0:
            high = middle
        else:
            low = middle
    return (low + high) / 2


def _solve(view: View, pose: Pose) -> Solved:
    lean = pose.trunk if pose.pelvis is None else pose.pelvis
    angles: Angles = {"trunk": pose.trunk, "neck": pose.neck, "pelvis": lean}
    for side in SIDES:
        for what in ("hip", "knee", "ankle", "arm", "elbow", "wrist"):
            angles[f"{what}_{side}"] = pose.of(what, side)
    hip = _root_of(view, pose, angles)
    return finish(view, pose, hip, angles)


def carriers(pose: Pose) -> tuple[str, ...]:
    """The sides that carry the figure."""
    return (pose.on[-1],) if pose.on[-2:] in ("_l", "_r") else SIDES


def carried_hip(
    view: View, on: str, at: complex, heel: float, pose_angles: tuple[float, float, float]
) -> complex:
    """The middle of the hips over a foot or knee, by the leans of shin, thigh and trunk."""
    shin, thigh, _trunk = pose_angles
    knee = at
    if on.startswith("foot") or on.startswith("feet"):
        toe = at + (body.MIDFOOT if view == "side" else body.toe_of(view, "l", 0).real)
        ankle = toe - body.toe_of(view, "l", heel)
        knee = ankle - heading(-shin) * body.SHANK
    return knee - heading(thigh) * body.THIGH


def _root_of(view: View, pose: Pose, angles: Angles) -> complex:
    """Where the hips are; sets the angles of the legs or arms that carry."""
    at = complex(*pose.at)
    lean = pose.trunk
    if pose.on in ("hip", "shoulder"):
        return at if pose.on == "hip" else at - heading(180 - lean) * body.TRUNK
    if pose.on == "hands":
        upper = -lean + angles["arm_r"]
        fore = upper + angles["elbow_r"]
        far = body.FOREARM if pose.palm is not None else body.FOREARM + body.PALM
        shoulder = at - heading(fore) * far - heading(upper) * body.UPPER_ARM
        if pose.palm is not None:
            for side in SIDES:
                angles[f"wrist_{side}"] = body.wrist_of(FLOOR, fore)
        return shoulder - heading(180 - lean) * body.TRUNK
    for side in carriers(pose):
        angles[f"hip_{side}"] = pose.thigh + lean
        if pose.on.startswith("knee"):
            # A kneeling shin lies along the floor behind the knee, its foot stretched.
            angles[f"knee_{side}"] = pose.thigh - pose.shin if pose.shin else pose.thigh + 90
            angles[f"ankle_{side}"] = pose.ankle or (60.0 if not pose.shin else 0.0)
        else:
            angles[f"knee_{side}"] = pose.thigh + pose.shin
            angles[f"ankle_{side}"] = -pose.shin + pose.heel
    return carried_hip(view, pose.on, at, pose.heel, (pose.shin, pose.thigh, lean))


def finish(view: View, pose: Pose, hip: complex, angles: Angles) -> Solved:
    """The limbs that are told by where they are, once the hips and the trunk are known."""
    fixed: Fixed = {}
    joints = body.forward(view, hip, angles)
    for side in SIDES:
        sole = pose.sole(side)
        carries = side in carriers(pose)
        if pose.on.startswith("f") and carries:
            toe = toe_at(view, side, (*pose.at, pose.heel))
            fixed[f"foot_{side}"] = (toe, pose.heel)
        elif sole is not None and not (pose.on.startswith("knee") and carries):
            pitch = sole[2] if len(sole) == 3 else 0.0
            toe = toe_at(view, side, sole)
            limb = joints[f"hip_{NAMES[side]}"]
            angles |= body.leg_to(view, side, limb, angles["pelvis"], toe, pitch)
            fixed[f"foot_{side}"] = (toe, pitch)
        elif pose.on.startswith("knee") and carries:
            fixed[f"knee_{side}"] = (complex(*pose.at), 0.0)
        end = end_of(pose, side)
        if pose.on == "hands":
            fixed[f"hand_{side}"] = (complex(*pose.at), FLOOR if pose.palm is not None else None)
        elif end is not None:
            place(view, side, angles, joints, end)
            if isinstance(end, Grip):
                fixed[f"hand_{side}"] = (end.at, end.flat)
    thing = None if pose.thing is None else complex(*pose.thing)
    return Solved(pose, hip, angles, body.forward(view, hip, angles), thing, fixed)


def hands(joints: Joints) -> complex:
    """The middle between both hands."""
    return (joints["hand_left"] + joints["hand_right"]) / 2


def end_of(pose: Pose, side: str) -> Grip | Hold | None:
    """Where a hand is: at a point, or held by the body; None is by its angles."""
    for what, flat in (("palm", FLOOR), ("hand", None)):
        own = getattr(pose, f"{what}_{side}")
        spot = own if own is not None else getattr(pose, what)
        if spot is not None:
            return Grip(complex(*spot), flat, bool(pose.of("out", side)), fixed=True)
    name = getattr(pose, f"hold_{side}") or pose.hold
    return HOLDS[name] if name else None


def place(view: View, side: str, angles: Angles, joints: Joints, end: Grip | Hold) -> Grip:
    """Sets the angles of an arm by where its hand is; returns that."""
    grip = end if isinstance(end, Grip) else end(joints, angles)
    shoulder = joints[f"shoulder_{NAMES[side]}"]
    angles |= body.arm_to(
        view, side, shoulder, angles["trunk"], grip.at, flat=grip.flat, out=grip.out
    )
    return grip
