"""Figures as data: families of key poses, and movements that inherit from them."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib import resources
from typing import Any, Self

from pydantic import Field, field_validator, model_validator

from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.plan import Frozen
from pine_ladder.core.poses.body import View
from pine_ladder.core.poses.implements import Holding, Scene
from pine_ladder.core.poses.key_poses import Load, Pose, solve
from pine_ladder.core.poses.motion import Frame, Step, Way, frames

WAYS: tuple[Way, ...] = ("smooth", "even", "up", "down")
OTHER_SIDE = ", other side"


class StepSaid(Frozen):
    """One step of a cycle as told: `bottom .5 down` or `landing .2 even over .3`.

    The key pose, its share of the cycle's time, what a tempo calls it (`lower`, `raise`, `low`,
    `high`) or how it goes, and how high what is in the air is lifted on the way.
    """

    key: str
    share: float = Field(gt=0)
    way: Way = "smooth"
    tempo: int | None = None
    over: float = 0.0

    @classmethod
    def read(cls, said: str) -> Self:
        """The step a line tells."""
        words = said.split()
        numbers = (i for i, word in enumerate(words) if word[0] in ".0123456789")
        at = next(numbers, None)
        if at is None:
            raise ValueError(f"{said!r} tells no share of the time")
        told: dict[str, Any] = {"key": " ".join(words[:at]), "share": float(words[at])}
        rest = words[at + 1 :]
        while rest:
            word = rest.pop(0)
            if word == "over":
                told["over"] = float(rest.pop(0))
            elif word in TEMPO:
                told["tempo"] = TEMPO.index(word)
            else:
                told["way"] = word
        return cls.model_validate(told)


TEMPO = ("lower", "low", "raise", "high")
"""The four figures of a tempo: lowering, the pause below, raising, the pause above."""


class Fault(Frozen):
    """One common fault: the key pose it shows in, how that differs, and the joint it shows at."""

    word: str = Field(min_length=3, max_length=40)
    pose: str
    change: dict[str, Any]
    mark: str


class Figure(Frozen):
    """How a movement looks: the view, its key poses, its cycle, what it holds and what must hold.

    `must` are the standards as geometry, `pose: what`, see standards.py. `load` is what the hands
    hold as a share of the body's weight, where it matters for the balance; `slow` says that the
    balance must hold all the way. `alternate` shows the other side after the first.
    """

    name: str
    view: View = "side"
    first: str
    cycle: tuple[StepSaid, ...] = Field(min_length=1)
    pose: dict[str, Pose]
    holds: tuple[Holding, ...] = ()
    scene: tuple[Scene, ...] = ()
    load: Load = 0.0
    slow: bool = False
    alternate: bool = False
    seconds: float | None = Field(default=None, gt=0, le=30)
    must: tuple[str, ...] = ()
    fault: tuple[Fault, ...] = ()

    @field_validator("cycle", mode="before")
    @classmethod
    def _read(cls, said: Any) -> Any:
        return tuple(StepSaid.read(each) if isinstance(each, str) else each for each in said)

    @field_validator("holds", mode="before")
    @classmethod
    def _held(cls, said: Any) -> Any:
        return tuple({"kind": each} if isinstance(each, str) else each for each in said)

    @model_validator(mode="after")
    def _named(self) -> Self:
        for key in (self.first, *(step.key for step in self.cycle)):
            if key not in self.pose:
                raise ValueError(f"{self.name}: there is no pose {key!r}")
        for fault in self.fault:
            if fault.pose not in self.pose:
                raise ValueError(f"{self.name}: there is no pose {fault.pose!r} for a fault")
        return self

    def both_sides(self) -> Figure:
        """This figure with the other side after the first, where sides take turns."""
        if not self.alternate:
            return self
        turn = Pose.seen_mirrored if self.view == "front" else Pose.mirrored
        mirrored = {
            f"{key}{OTHER_SIDE}": turn(each) for key, each in self.pose.items() if key != self.first
        }
        rest = tuple(
            step
            if step.key == self.first
            else step.model_copy(update={"key": f"{step.key}{OTHER_SIDE}"})
            for step in self.cycle
        )
        return self.model_copy(
            update={"pose": self.pose | mirrored, "cycle": self.cycle + rest, "alternate": False}
        )

    def steps(self, seconds: float, tempo: str | None = None) -> tuple[Step, ...]:
        """The steps of a cycle of so many seconds, or at a tempo of the board as far as it says
        (`40X1`: four figures in seconds, X as fast as possible)."""
        shares = sum(step.share for step in self.cycle)
        out: list[Step] = []
        for step in self.cycle:
            lasts = seconds * step.share / shares
            if tempo and step.tempo is not None:
                lasts = _seconds_of(tempo, step.tempo, lasts)
            out.append(Step(step.key, lasts, step.way, step.over))
            if tempo and step.tempo in (0, 2):
                pause = _seconds_of(tempo, step.tempo + 1, 0.0)
                if pause:
                    out.append(Step(step.key, pause))
        return tuple(out)

    def cycle_s(self, movement: Movement) -> float:
        """Seconds of one cycle, of one side: what a rep takes at the library's pace."""
        return self.seconds or (movement.seconds if movement.measure == "reps" else 2.0)

    def moves(
        self, movement: Movement, tempo: str | None = None, *, one_side: bool = False
    ) -> tuple[Frame, ...]:
        """The frames of a cycle at the movement's own pace, or at a tempo."""
        whole = self if one_side else self.both_sides()
        seconds = self.cycle_s(movement) * (1 if one_side or not self.alternate else 2)
        return frames(self.view, whole.pose, whole.first, whole.steps(seconds, tempo), self.load)


def turning(figure: Figure) -> str:
    """The key pose whose joints are furthest from the first: what tells it at a look."""
    start = solve(figure.view, figure.pose[figure.first], figure.load).joints

    def away(step: StepSaid) -> float:
        at = solve(figure.view, figure.pose[step.key], figure.load).joints
        return sum(abs(at[joint] - start[joint]) for joint in start)

    return max(figure.cycle, key=away).key


def _seconds_of(tempo: str, figure: int, otherwise: float) -> float:
    letter = tempo[figure : figure + 1]
    if letter.upper() == "X":
        return 0.5
    return float(letter) if letter.isdigit() and (letter != "0" or figure % 2) else otherwise


@cache
def _told() -> dict[str, dict[str, Any]]:
    """What the data says, by kind: `family` and `figure`."""
    out: dict[str, dict[str, Any]] = {"family": {}, "figure": {}, "fault": {}}
    folder = resources.files(__package__) / "data"
    for file in sorted(folder.iterdir(), key=lambda f: f.name):
        if not file.name.endswith(".toml"):
            continue
        for kind, entries in tomllib.loads(file.read_text("utf-8")).items():
            for name, entry in entries.items():
                if name in out[kind]:
                    raise ValueError(f"{name} is told twice")
                out[kind][name] = entry
    return out


def _inherit(name: str, entry: dict[str, Any], seen: tuple[str, ...] = ()) -> dict[str, Any]:
    """An entry with all that it takes from what it is like.

    `hold` is the hold of every pose that holds, `but` leaves out what a pose would inherit.
    """
    if seen.count(name) > 1:
        raise ValueError(f"{name} is like itself")
    like = entry.get("like")
    told = _told()
    found: dict[str, Any] = {}
    if like is not None:
        above = told["family"].get(like) if like != name else told["family"][name]
        above = above or told["figure"].get(like)
        if above is None:
            raise ValueError(f"{name} is like {like}, which is nowhere")
        found = _inherit(like if above is not entry else "", above, (*seen, name))
    poses = {key: dict(each) for key, each in found.get("pose", {}).items()}
    if "hold" in entry:
        for each in poses.values():
            for arm in ("arm", "elbow", "hand", "arm_l", "arm_r", "elbow_l", "elbow_r", "hold"):
                each.pop(arm, None)
            each["hold"] = entry["hold"]
    for key, each in entry.get("pose", {}).items():
        was = poses.get(each.get("as", key), {})
        kept = {k: v for k, v in was.items() if k not in each.get("but", ())}
        poses[key] = kept | {k: v for k, v in each.items() if k not in ("but", "as")}
    rest = {k: v for k, v in entry.items() if k not in ("like", "hold", "pose")}
    return found | rest | {"pose": poses}


@cache
def _figure(name: str) -> Figure:
    told = _told()
    entry = _inherit(name, told["figure"][name])
    entry["fault"] = told["fault"].get(name, [])
    return Figure.model_validate(entry | {"name": name})


def names() -> tuple[str, ...]:
    """Every movement that is drawn as itself, by name."""
    return tuple(sorted(_told()["figure"]))


def figure_of(name: str, shelf: Library | None = None) -> Figure | None:
    """The figure of a movement; of one of the gym's own, that of what it is much like.

    None where there is none.
    """
    if name in _told()["figure"]:
        return _figure(name)
    found = shelf.find(name) if shelf else None
    like = found.looks_like if found else None
    return _figure(like) if like and like in _told()["figure"] else None
