"""What the commands print as JSON, and its schemas."""

from __future__ import annotations

from typing import Any

from pine_ladder.core.clock import Clock
from pine_ladder.core.pace.testrun import PieceRun
from pine_ladder.core.plan import Finding, Frozen, Role, Session
from pine_ladder.core.poses import Cycle
from pine_ladder.core.poses.standards import Measured
from pine_ladder.core.scores.kinds import Score


class CheckOutput(Frozen):
    """What `board check --json` prints."""

    findings: tuple[Finding, ...]


class PieceClock(Clock):
    """One piece of `board clock --json`. Seconds; `total_s` is null where it is open."""

    role: Role
    name: str | None
    format: str


class ClockOutput(Frozen):
    """What `board clock --json` prints; `total_s` counts the pieces with an exact length."""

    title: str | None
    total_s: int
    open_pieces: int
    pieces: tuple[PieceClock, ...]


class TestrunOutput(Frozen):
    """What `board testrun --json` prints; pieces that only rest are left out."""

    __test__ = False
    pieces: tuple[PieceRun, ...]


class FigureCheck(Frozen):
    """What `figure --check --json` tells of one movement: its standards as measured, and what
    its motion does not keep."""

    movement: str
    standards: tuple[Measured, ...]
    faults: tuple[str, ...]

    @property
    def holds(self) -> bool:
        """Whether all of it is as it should be."""
        return not self.faults and all(each.holds for each in self.standards)


SCHEMAS: dict[str, type[Frozen]] = {
    "plan": Session,
    "check": CheckOutput,
    "clock": ClockOutput,
    "testrun": TestrunOutput,
    "score": Score,
    "figure": Cycle,
}


def schema_of(name: str) -> dict[str, Any]:
    """JSON Schema of a plan, or of what `check`, `clock`, `testrun`, `score` or `figure` print.

    KeyError for another name.
    """
    return SCHEMAS[name].model_json_schema()
