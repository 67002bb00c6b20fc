"""A motion as it is told to whoever plays it: frames of joints and things, in metres."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.plan import Frozen
from pine_ladder.core.poses import body
from pine_ladder.core.poses.body import NAMES
from pine_ladder.core.poses.drawing import faulty
from pine_ladder.core.poses.implements import Thing, held, spot, standing
from pine_ladder.core.poses.key_poses import Solved
from pine_ladder.core.poses.library import Figure, figure_of, turning

TOLD = ("shoulder", "elbow", "wrist", "hip", "knee", "ankle", "toe")


class PoseFrame(Frozen):
    """One moment of a figure: seconds from the start of the cycle, the key pose it is (or none),
    every joint in metres, and the things that move with it."""

    t_s: float
    key: str | None
    joints: dict[str, tuple[float, float]]
    objects: tuple[Thing, ...]


class FaultFrame(Frozen):
    """A common fault: what it is called, the pose it shows in, how that looks then, and where."""

    word: str
    pose: str
    mark: tuple[float, float]
    frame: PoseFrame


class Cycle(Frozen):
    """A movement's figure in motion. `stature_m` is what all lengths are scaled to, `cycle_s`
    how long one cycle takes: a rep, or one of each side; the last frame is the first again.
    `turning` is the key pose that tells it at a look."""

    movement: str
    stature_m: float
    view: Literal["side", "front"]
    cycle_s: float
    turning: str
    frames: tuple[PoseFrame, ...]
    scene: tuple[Thing, ...] = ()
    faults: tuple[FaultFrame, ...] = ()


class Sign(Frozen):
    """A movement's turning position: small enough to stand beside its name."""

    movement: str
    view: Literal["side", "front"]
    frame: PoseFrame
    scene: tuple[Thing, ...] = ()


def _joints(at: Solved, scale: float) -> dict[str, tuple[float, float]]:
    joints = at.joints
    out = {"head": spot(joints["head"], scale)}
    for name in NAMES.values():
        for part in TOLD:
            out[f"{part}_{name}"] = spot(joints[f"{part}_{name}"], scale)
    return out


def _frame(
    figure: Figure, at: Solved, t_s: float, key: str | None, share: float, scale: float
) -> PoseFrame:
    things = tuple(held(figure.holds, at, share, scale))
    return PoseFrame(t_s=round(t_s, 3), key=key, joints=_joints(at, scale), objects=things)


@lru_cache(maxsize=512)
def _cycle(drawn: str, movement: Movement, tempo: str | None, stature_m: float) -> Cycle | None:
    figure = figure_of(drawn)
    if figure is None:
        return None
    scale = stature_m / body.STATURE_M
    moves = figure.moves(movement, tempo)
    length = moves[-1].t_s
    faults = []
    for fault in figure.fault:
        at = faulty(figure, fault)
        frame = _frame(figure, at, 0.0, fault.pose, 0.0, scale)
        faults.append(
            FaultFrame(
                word=fault.word,
                pose=fault.pose,
                mark=spot(at.joints[fault.mark], scale),
                frame=frame,
            )
        )
    return Cycle(
        movement=movement.name,
        stature_m=stature_m,
        view=figure.view,
        cycle_s=round(length, 3),
        turning=turning(figure),
        frames=tuple(_frame(figure, f.at, f.t_s, f.key, f.t_s / length, scale) for f in moves),
        scene=tuple(standing(figure.scene, scale)),
        faults=tuple(faults),
    )


def cycle(
    name: str, shelf: Library, tempo: str | None = None, stature_m: float = body.STATURE_M
) -> Cycle | None:
    """The motion of a movement of a library at its own pace, or at a tempo of the board; None
    where the movement has no figure or is not known."""
    movement = shelf.find(name)
    figure = figure_of(movement.name, shelf) if movement else None
    if movement is None or figure is None:
        return None
    return _cycle(figure.name, movement, tempo, stature_m)


def sign(name: str, shelf: Library) -> Sign | None:
    """The turning position of a movement, or None where it has no figure."""
    found = cycle(name, shelf)
    if found is None:
        return None
    frame = next(each for each in found.frames if each.key == found.turning)
    return Sign(movement=found.movement, view=found.view, frame=frame, scene=found.scene)
