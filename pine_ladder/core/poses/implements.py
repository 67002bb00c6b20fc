"""What a figure moves with its hands, and what stands around it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from pine_ladder.core.plan import Frozen
from pine_ladder.core.poses.body import Joints, heading, heading_of
from pine_ladder.core.poses.key_poses import Solved, hands

Held = Literal[
    "bar", "dumbbell", "dumbbells", "kettlebell", "kettlebells", "ball", "plate", "sandbag",
    "pipe", "rope", "band", "rings", "handle", "skis", "ropes", "wheel", "straps", "towel",
]  # fmt: skip
Stands = Literal[
    "box", "bench", "wall", "rail", "bars", "rower", "bike", "stairs", "roller", "mat", "sled",
    "pad", "anchor", "rope",
]  # fmt: skip
PAIRS = {"dumbbells": "dumbbell", "kettlebells": "kettlebell", "rings": "ring", "handles": "handle"}
HANGS_M = 0.13
"""From the grip of a kettlebell to the middle of its weight."""


class Scene(Frozen):
    """Something that stands fast: metres, `at` is the middle of its foot (of a rail, where the
    hand is; of a wall, its face)."""

    kind: Stands
    at: tuple[float, float] = (0.0, 0.0)
    size: tuple[float, float] = (0.0, 0.0)


class Thing(Frozen):
    """A thing in a frame: what it is, where its middle is in metres, its turn in degrees, where
    it is fastened to and how wide and high it is, where that is told."""

    kind: str
    at: tuple[float, float]
    angle: float = 0.0
    to: tuple[float, float] | None = None
    size: tuple[float, float] | None = None


class Holding(Frozen):
    """What the hands hold: `hand` is which, `to` where a band, rope or ring is fastened."""

    kind: Held
    hand: Literal["both", "l", "r"] = "both"
    to: tuple[float, float] | None = None
    at: str | None = Field(default=None, description="a joint that holds it instead of a hand")


def spot(point: complex, scale: float = 1.0) -> tuple[float, float]:
    """A point in metres, to a tenth of a millimetre."""
    return (round(point.real * scale, 4) + 0.0, round(point.imag * scale, 4) + 0.0)


def _one(kind: str, joints: Joints, name: str) -> tuple[complex, float]:
    hand, wrist = joints[f"hand_{name}"], joints[f"wrist_{name}"]
    turn = heading_of(hand - wrist)
    if kind == "kettlebell":
        # It hangs from the hand, or lies on the forearm of a hand that points up.
        down = heading(turn) if abs(turn) < 150 else -1j
        return hand + HANGS_M * down, turn
    return hand, turn


def held(holdings: tuple[Holding, ...], at: Solved, share: float, scale: float) -> list[Thing]:
    """The things that move with the hands, in one frame; `share` of the cycle has passed."""
    out: list[Thing] = []
    for each in holdings:
        kind = PAIRS.get(each.kind)
        to = None if each.to is None else spot(complex(*each.to), scale)
        if each.at is not None:
            out.append(Thing(kind=each.kind, at=spot(at.joints[each.at], scale), to=to))
            continue
        if kind or each.hand != "both":
            sides = ("left", "right") if each.hand == "both" else (_side(each.hand),)
            for name in sides:
                middle, turn = _one(kind or each.kind, at.joints, name)
                near = None
                if each.to is not None:
                    near = spot(complex(*each.to), scale)
                angle = round(turn, 1)
                out.append(
                    Thing(kind=kind or each.kind, at=spot(middle, scale), angle=angle, to=near)
                )
            continue
        middle = hands(at.joints) if at.thing is None else at.thing
        turn = heading_of(at.joints["hand_right"] - at.joints["wrist_right"])
        if each.kind == "kettlebell":
            middle += HANGS_M * (heading(turn) if abs(turn) < 150 else -1j)
        if each.kind == "rope":
            turn = -360 * share
        out.append(Thing(kind=each.kind, at=spot(middle, scale), angle=round(turn, 1), to=to))
    return out


def _side(hand: str) -> str:
    return "left" if hand == "l" else "right"


def standing(scenes: tuple[Scene, ...], scale: float) -> list[Thing]:
    """What stands around, as things."""
    return [
        Thing(
            kind=each.kind,
            at=spot(complex(*each.at), scale),
            size=(round(each.size[0] * scale, 4), round(each.size[1] * scale, 4)),
        )
        for each in scenes
    ]
