"""Walking a session's work, and making findings and their repairs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.day.hour_ruler import DEFAULT_CHANGE_S, DEFAULT_CLASS_S
from pine_ladder.core.day.training_style import TrainingStyle
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.edits import heading_text, numbered_text, rewrite


@dataclass(frozen=True)
class Ground:
    """What a session is held against: the library, the gym's kit, its class and its hour.

    `kit` counts kit by name; a name such as `kettlebell 16 kg` counts as kettlebell. `known` are
    the movements the gym has done before, `tiers` its tiers in order. All are None where no gym
    is known.
    """

    library: Library
    kit: Mapping[str, int] | None = field(default=None)
    class_size: int = 12
    class_s: int = DEFAULT_CLASS_S
    change_s: int = DEFAULT_CHANGE_S
    known: frozenset[str] | None = None
    tiers: tuple[str, ...] | None = None
    plates: Mapping[float, int] | None = field(default=None)
    """Plates by their kg, with how many there are; None where they are not known."""
    bars: tuple[float, ...] = (20.0, 15.0)
    style: TrainingStyle = field(default_factory=TrainingStyle)


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


def versions(session: plan.Session) -> Iterator[tuple[At, int, plan.Exercise]]:
    """Every version of every task, with its tier."""
    for at in tasks(session):
        for tier, exercise in enumerate(at.task.versions):
            yield at, tier, exercise


def lines_of(piece: plan.Piece) -> list[int]:
    """The lines of the board that a piece stands on."""
    inside = (*piece.buy_in, *piece.lines, *piece.cash_out)
    return [piece.line, *(line.line for line in inside)]


def spoken(found: Iterable[plan.Finding], session: plan.Session) -> list[plan.Finding]:
    """Findings without those that the coach means as written, each with the way to say so."""
    piece_of = {line: piece for piece in session.pieces for line in lines_of(piece)}
    out = []
    for finding in found:
        piece = piece_of.get(finding.line)
        if piece is None or finding.severity == "error":
            out.append(finding)
        elif finding.code not in piece.meant:
            meant = with_heading(piece, "This is meant", meant=(*piece.meant, finding.code))
            out.append(finding.model_copy(update={"meant": meant}))
    return out


def finding(
    code: str,
    line: int,
    message: str,
    severity: plan.Severity = "warning",
    repairs: Iterable[plan.Repair] = (),
) -> plan.Finding:
    """A finding on a whole line (`end_column` 0 means to the end of the line)."""
    return plan.Finding(
        code=code,
        severity=severity,
        line=line,
        column=1,
        end_column=0,
        message=message,
        repairs=tuple(repairs),
    )


def with_heading(piece: plan.Piece, label: str, **changes: Any) -> plan.Repair:
    """The repair that rewrites a piece's heading with some of its fields changed."""
    text = heading_text(piece.model_copy(update=changes))
    return plan.Repair(label=label, edits=(rewrite(piece.line, text),))


def with_tasks(at: At, label: str, tasks: tuple[plan.Task, ...]) -> plan.Repair:
    """The repair that rewrites a line with other tasks."""
    changed = at.line.model_copy(update={"tasks": tasks})
    text = numbered_text(at.block, at.line, changed)
    return plan.Repair(label=label, edits=(rewrite(at.line.line, text),))


def with_version(at: At, tier: int, label: str, **changes: Any) -> plan.Repair:
    """The repair that rewrites one tier's version of a line's task."""
    version = at.task.versions[tier].model_copy(update=changes)
    versions = (*at.task.versions[:tier], version, *at.task.versions[tier + 1 :])
    task = at.task.model_copy(update={"versions": versions})
    return with_tasks(at, label, tuple(task if one is at.task else one for one in at.line.tasks))
