"""Standards as geometry: what a key pose must show, measured; and what every motion must keep."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise

from pine_ladder.core.plan import Frozen
from pine_ladder.core.poses import body
from pine_ladder.core.poses.body import LIMITS, NAMES, SIDES
from pine_ladder.core.poses.key_poses import Solved, hands, solve
from pine_ladder.core.poses.library import Figure
from pine_ladder.core.poses.motion import Frame

STRAIGHT_DEG = 12.0
"""How far from straight a finished joint may be: what is seen as straight (judgement)."""
CONTACT_M = 0.001
OVER_FOOT_M = 0.06
FASTEST_M_S = 14.0
"""No joint of a figure moves quicker: a good throw moves the hand at about 10 m/s (judgement)."""
SUNK_M = 0.004
CHEST_M = 0.17
"""Middle of the shoulder over the floor with the chest on it: half a chest is deep (judgement)."""
HEAD_M = 0.115
"""From the middle of the head to its crown, and about to the chin along the neck."""


class Measured(Frozen):
    """One thing measured: what, where, whether it holds, and the figure in `unit`."""

    what: str
    pose: str
    holds: bool
    value: float
    unit: str


@dataclass(frozen=True, slots=True)
class Standard:
    """A measure of a pose, its unit, and the least and most that holds."""

    of: Callable[[Solved, Figure], float]
    unit: str
    low: float = float("-inf")
    high: float = float("inf")


def _lower(at: Solved, what: str) -> float:
    return min(at.joints[f"{what}_{name}"].imag for name in NAMES.values())


def _most(at: Solved, what: str) -> float:
    return max((abs(at.angles[f"{what}_{side}"]) for side in SIDES), default=0.0)


def _least(at: Solved, what: str) -> float:
    return min(abs(at.angles[f"{what}_{side}"]) for side in SIDES)


def _front_knee_depth(at: Solved, _: Figure) -> float:
    """Of the leg that carries: how much higher the knee is than the hip."""
    name = NAMES[at.pose.on[-1]] if at.pose.on[-2:] in ("_l", "_r") else "right"
    return at.joints[f"knee_{name}"].imag - at.joints[f"hip_{name}"].imag


def _over_foot(at: Solved, _: Figure) -> float:
    toes = [at.fixed[f"foot_{s}"][0].real for s in SIDES if f"foot_{s}" in at.fixed]
    if not toes:
        return float("inf")
    return abs(hands(at.joints).real - (sum(toes) / len(toes) - body.MIDFOOT))


def _chin_over(at: Solved, _: Figure) -> float:
    neck = at.joints["head"] - at.joints["shoulder"]
    chin = at.joints["head"] - neck / abs(neck) * 0.09
    return chin.imag - max(at.joints[f"hand_{name}"].imag for name in NAMES.values())


def _in_line(at: Solved, _: Figure) -> float:
    """How far the hip is from the line of shoulder and knee, in metres."""
    shoulder, knee = at.joints["shoulder"], at.joints["knee_right"]
    line = (knee - shoulder) / abs(knee - shoulder)
    return abs(((at.joints["hip"] - shoulder) * line.conjugate()).imag)


def _on_box(at: Solved, figure: Figure) -> float:
    """How far both soles are from the top of the box."""
    top = next(each.size[1] for each in figure.scene if each.kind in ("box", "bench", "pad"))
    return max(abs(at.joints[f"toe_{name}"].imag - top) for name in NAMES.values())


def _toes_at_hands(at: Solved, _: Figure) -> float:
    return max(abs(at.joints[f"toe_{n}"] - at.joints[f"hand_{n}"]) for n in NAMES.values())


def _knees_at_elbows(at: Solved, _: Figure) -> float:
    return max(abs(at.joints[f"knee_{n}"] - at.joints[f"elbow_{n}"]) for n in NAMES.values())


def _overhead(at: Solved, _: Figure) -> float:
    return max(at.joints[f"hand_{n}"].imag for n in NAMES.values()) - at.joints["head"].imag


STANDARDS: dict[str, Standard] = {
    "hip below knee": Standard(_front_knee_depth, "m", low=0.0),
    "hip above knee": Standard(_front_knee_depth, "m", high=0.0),
    "knees straight": Standard(lambda at, _: _most(at, "knee"), "°", high=STRAIGHT_DEG),
    "one knee straight": Standard(lambda at, _: _least(at, "knee"), "°", high=STRAIGHT_DEG),
    "hips open": Standard(lambda at, _: _most(at, "hip"), "°", high=STRAIGHT_DEG),
    "elbows straight": Standard(lambda at, _: _most(at, "elbow"), "°", high=STRAIGHT_DEG),
    "one elbow straight": Standard(lambda at, _: _least(at, "elbow"), "°", high=STRAIGHT_DEG),
    "bar over foot": Standard(_over_foot, "m", high=OVER_FOOT_M),
    "weight overhead": Standard(_overhead, "m", low=0.2),
    "chest down": Standard(lambda at, _: at.joints["shoulder"].imag, "m", high=CHEST_M),
    "chin over bar": Standard(_chin_over, "m", low=0.0),
    "chest at bar": Standard(
        lambda at, _: at.joints["shoulder"].imag - hands(at.joints).imag, "m", low=0.02
    ),
    "support": Standard(
        lambda at, _: at.joints["shoulder"].imag - hands(at.joints).imag, "m", low=0.4
    ),
    "shoulder below elbow": Standard(
        lambda at, _: _lower(at, "elbow") - at.joints["shoulder"].imag, "m", low=0.0
    ),
    "body line": Standard(_in_line, "m", high=0.06),
    "knee down": Standard(lambda at, _: _lower(at, "knee"), "m", high=0.09),
    "feet on box": Standard(_on_box, "m", high=CONTACT_M),
    "feet off floor": Standard(lambda at, _: _lower(at, "toe"), "m", low=0.02),
    "head down": Standard(lambda at, _: at.joints["head"].imag, "m", high=HEAD_M + 0.02),
    "shoulders down": Standard(lambda at, _: at.joints["shoulder"].imag, "m", high=0.15),
    "toes at bar": Standard(_toes_at_hands, "m", high=0.16),
    "knees at elbows": Standard(_knees_at_elbows, "m", high=0.16),
    "knees over hips": Standard(
        lambda at, _: _lower(at, "knee") - at.joints["hip"].imag, "m", low=0.0
    ),
    "trunk upright": Standard(lambda at, _: abs(at.angles["trunk"]), "°", high=20.0),
}


def standards(figure: Figure) -> list[Measured]:
    """What the figure's `must` say, measured on its key poses."""
    out: list[Measured] = []
    for said in figure.must:
        key, what = (part.strip() for part in said.split(":"))
        standard = STANDARDS[what]
        value = standard.of(solve(figure.view, figure.pose[key], figure.load), figure)
        holds = standard.low <= value <= standard.high
        out.append(
            Measured(what=what, pose=key, holds=holds, value=round(value, 4), unit=standard.unit)
        )
    return out


LINKS = (
    ("hip", "knee", body.THIGH),
    ("knee", "ankle", body.SHANK),
    ("shoulder", "elbow", body.UPPER_ARM),
    ("elbow", "wrist", body.FOREARM),
)


def worst_length(moves: tuple[Frame, ...]) -> float:
    """The most a segment is longer or shorter than it is, in metres, over a motion."""
    worst = 0.0
    for frame in moves:
        at = frame.at.joints
        worst = max(worst, abs(abs(at["shoulder"] - at["hip"]) - body.TRUNK))
        for name in NAMES.values():
            for one, other, length in LINKS:
                measured = abs(at[f"{one}_{name}"] - at[f"{other}_{name}"])
                worst = max(worst, abs(measured - length))
    return worst


def beyond_limits(moves: tuple[Frame, ...]) -> dict[str, float]:
    """Joints beyond their limit in a motion, with the most degrees beyond."""
    out: dict[str, float] = {}
    for frame in moves:
        for joint, (low, high) in LIMITS.items():
            for key in (joint,) if joint == "neck" else (f"{joint}_l", f"{joint}_r"):
                angle = frame.at.angles[key]
                beyond = max(low - angle, angle - high)
                if beyond > 0.05:
                    out[key] = round(max(out.get(key, 0.0), beyond), 1)
    return out


def worst_contact(figure: Figure, moves: tuple[Frame, ...]) -> float:
    """The most an end that stands fast is off its place, in metres, over a motion."""
    worst = 0.0
    for frame in moves:
        for end, (spot, flat) in frame.at.fixed.items():
            part, side = end.split("_")
            name = NAMES[side]
            joint = {"foot": "toe", "knee": "knee"}.get(part)
            joint = joint or ("hand" if flat is None else "wrist")
            worst = max(worst, abs(frame.at.joints[f"{joint}_{name}"] - spot))
    return worst


def deepest(moves: tuple[Frame, ...]) -> float:
    """How far the lowest joint is under the floor, in metres; 0 where none is."""
    return max(-min(point.imag for f in moves for point in f.at.joints.values()), 0.0)


def quickest(moves: tuple[Frame, ...]) -> float:
    """The most a joint moves from frame to frame, in metres a second."""
    worst = 0.0
    for move, other in pairwise(moves):
        for key, point in move.at.joints.items():
            worst = max(worst, abs(other.at.joints[key] - point) / (other.t_s - move.t_s))
    return worst


def off_balance(figure: Figure, moves: tuple[Frame, ...]) -> float:
    """How far the weight leaves the feet in a slow lift, in metres; 0 where it never does."""
    worst = 0.0
    for frame in moves:
        held = hands(frame.at.joints) if figure.load else None
        weight = body.centre_of_mass(frame.at.joints, held, figure.load).real
        ends = [
            frame.at.joints[f"{end}_{name}"].real
            for end in ("heel", "toe")
            for name in NAMES.values()
            if f"foot_{name[0]}" in frame.at.fixed
        ]
        if ends:
            worst = max(worst, min(ends) - weight, weight - max(ends))
    return worst


def motion_faults(figure: Figure, moves: tuple[Frame, ...]) -> list[str]:
    """What a motion does not keep, each in a sentence; none is as it should be."""
    out = [
        f"{joint} is {beyond:g}° beyond its limit" for joint, beyond in beyond_limits(moves).items()
    ]
    if (length := worst_length(moves)) > 1e-6:
        out.append(f"a segment changes by {length * 1000:.2f} mm")
    if (contact := worst_contact(figure, moves)) > CONTACT_M:
        out.append(f"a contact moves by {contact * 1000:.1f} mm")
    if (sunk := deepest(moves)) > SUNK_M:
        out.append(f"{sunk * 1000:.0f} mm under the floor")
    if (quick := quickest(moves)) > FASTEST_M_S:
        out.append(f"a joint moves at {quick:.1f} m/s")
    if figure.slow and (off := off_balance(figure, moves)) > 0.0:
        out.append(f"the weight leaves the feet by {off * 1000:.0f} mm")
    first, last = moves[0].at.joints, moves[-1].at.joints
    if (gap := max(abs(first[key] - last[key]) for key in first)) > 1e-6:
        out.append(f"the cycle does not close by {gap * 1000:.0f} mm")
    return out


__all__ = ["STANDARDS", "Measured", "motion_faults", "standards"]
