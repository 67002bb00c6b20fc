"""The records that commands print as JSON, and their schemas."""

from __future__ import annotations

from typing import Any

from pine_ladder.cli.board_reading import BoardReading
from pine_ladder.core.clock import Clock
from pine_ladder.core.dose import Dose
from pine_ladder.core.pace.testrun import PieceRun
from pine_ladder.core.plan import Finding, Frozen, Role, Session
from pine_ladder.core.poses import Cycle
from pine_ladder.core.poses.standards import Measured
from pine_ladder.core.scores.kinds import Score


class CheckOutput(Frozen):
    """Output of `board check --json`."""

    findings: tuple[Finding, ...]


class PieceClock(Clock):
    """One piece of `board clock --json`. Seconds; `total_s` is null where it is open."""

    role: Role
    name: str | None
    format: str


class ClockOutput(Frozen):
    """Output of `board clock --json`; `total_s` counts the pieces with an exact length."""

    title: str | None
    total_s: int
    open_pieces: int
    pieces: tuple[PieceClock, ...]


class TestrunOutput(Frozen):
    """Output of `board testrun --json`; pieces that only rest are left out."""

    __test__ = False
    pieces: tuple[PieceRun, ...]


class DoseOutput(Frozen):
    """Output of `board dose --json` for one file."""

    file: str
    dose: Dose


class FigureCheck(Frozen):
    """Output of `figure --check --json` for one movement: its measured standards, and what
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
    "dose": DoseOutput,
    "score": Score,
    "figure": Cycle,
    "read": BoardReading,
}


def schema_of(name: str) -> dict[str, Any]:
    """JSON Schema of a plan, or of what a command of that name prints.

    KeyError for another name.
    """
    return SCHEMAS[name].model_json_schema()
