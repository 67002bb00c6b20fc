"""Walking a session's work, and making findings about it."""

from collections.abc import Iterator
from typing import Literal, NamedTuple

from pine_ladder.core import plan


class At(NamedTuple):
    """One task where it stands."""

    piece: plan.Piece
    block: plan.Block
    line: plan.Line
    task: plan.Task


def tasks(session: plan.Session) -> Iterator[At]:
    """Every task of the session's blocks, in the order of the board."""
    for piece in session.pieces:
        for block in piece.blocks:
            for line in block.lines:
                for task in line.tasks:
                    yield At(piece, block, line, task)


def finding(
    code: str,
    line: int,
    message: str,
    severity: Literal["error", "warning", "hint"] = "warning",
) -> plan.Finding:
    """A finding on a whole line (`end_column` 0 means to the end of the line)."""
    return plan.Finding(
        code=code, severity=severity, line=line, column=1, end_column=0, message=message
    )
