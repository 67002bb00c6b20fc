"""Next week from last week: small stated steps, each proposed as a change the coach accepts.

The steps are common practice, no source: sprints of 0:07 with 2:00 of rest become 0:10 with 3:00;
rolling goes from 5:00 to 6:00; strength adds a set; fixed reps add one or two.
"""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.notation.edits import heading_text, numbered_text
from pine_ladder.core.notation.parser import parse
from pine_ladder.core.notation.printer import (
    amount_text,
    format_text,
    task_text,
)
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import clock_text

SPRINT_S = 15
"""Intervals up to this long are sprints."""
MOST_SETS = 8
MOST_REPS = 30


class Step(Frozen):
    """One proposed change: in words, and the lines of text it replaces (1-based number, text).

    `key` names it on its board: the rule and the line it starts from.
    """

    key: str
    label: str
    lines: tuple[tuple[int, str], ...]


def _heading(piece: plan.Piece, form: plan.Format) -> tuple[int, str]:
    return piece.line, heading_text(piece.model_copy(update={"format": form}))


def _line(block: plan.Block, line: plan.Line, first: plan.Exercise) -> tuple[int, str]:
    task = line.tasks[0]
    tasks = (task.model_copy(update={"versions": (first, *task.versions[1:])}), *line.tasks[1:])
    return line.line, numbered_text(block, line, line.model_copy(update={"tasks": tasks}))


def _with(piece: plan.Piece, line: plan.Line, first: plan.Exercise) -> plan.Piece:
    """The piece with another first version on one of its lines."""
    task = line.tasks[0].model_copy(update={"versions": (first, *line.tasks[0].versions[1:])})
    other = line.model_copy(update={"tasks": (task, *line.tasks[1:])})
    blocks = tuple(
        block.model_copy(update={"lines": tuple(other if x is line else x for x in block.lines)})
        for block in piece.blocks
    )
    return piece.model_copy(update={"blocks": blocks})


def _sprints(piece: plan.Piece) -> list[Step]:
    form = piece.format
    if not isinstance(form, plan.Intervals) or form.work_s > SPRINT_S or form.rest_s < 60:
        return []
    longer = form.model_copy(update={"work_s": form.work_s + 3, "rest_s": form.rest_s + 60})
    if excess(piece.model_copy(update={"format": longer})):
        return []
    label = (
        f"{clock_text(form.work_s)}/{clock_text(form.rest_s)} → "
        f"{clock_text(longer.work_s)}/{clock_text(longer.rest_s)}"
    )
    return [Step(key=f"sprint {piece.line}", label=label, lines=(_heading(piece, longer),))]


def _sets(piece: plan.Piece) -> list[Step]:
    form = piece.format
    if not isinstance(form, plan.Sets) or form.high or form.low >= MOST_SETS:
        return []
    more = form.model_copy(update={"low": form.low + 1})
    if excess(piece.model_copy(update={"format": more})):
        return []
    label = f"{format_text(form)} → {format_text(more)}"
    return [Step(key=f"sets {piece.line}", label=label, lines=(_heading(piece, more),))]


def _holds(piece: plan.Piece) -> list[Step]:
    """A minute more of a time of three minutes and over; a continuous piece grows with it."""
    out = []
    for block in piece.blocks:
        for line in block.lines:
            first = line.tasks[0].versions[0] if line.tasks else None
            if first is None or not isinstance(first.amount, plan.Duration):
                continue
            if first.amount.seconds < 180:
                continue
            longer = first.amount.model_copy(update={"seconds": first.amount.seconds + 60})
            changed = first.model_copy(update={"amount": longer})
            if excess(_with(piece, line, changed)):
                continue
            lines = [_line(block, line, changed)]
            if isinstance(piece.format, plan.Continuous):
                length = piece.format.length_s + 60
                lines.append(_heading(piece, plan.Continuous(length_s=length)))
            label = f"{amount_text(first.amount)} → {amount_text(longer)} {first.movement}"
            out.append(Step(key=f"hold {line.line}", label=label, lines=tuple(lines)))
    return out


def _reps(piece: plan.Piece) -> list[Step]:
    """A rep more below ten, two above, two where sides alternate, in sets and rounds."""
    if not isinstance(piece.format, plan.Sets | plan.Rounds) or piece.build:
        return []
    out = []
    for block in piece.blocks:
        for line in block.lines:
            first = line.tasks[0].versions[0] if line.tasks else None
            amount = first.amount if first else None
            if first is None or not isinstance(amount, plan.Reps) or amount.high:
                continue
            if amount.low >= MOST_REPS:
                continue
            by = 2 if amount.low >= 10 or first.side is plan.Side.ALTERNATING else 1
            more = amount.model_copy(update={"low": amount.low + by})
            changed = first.model_copy(update={"amount": more})
            if excess(_with(piece, line, changed)):
                continue
            label = f"{task_text(line.tasks[0])}: {amount.low} → {more.low}"
            lines = (_line(block, line, changed),)
            out.append(Step(key=f"reps {line.line}", label=label, lines=lines))
    return out


def steps(session: plan.Session) -> list[Step]:
    """All steps a session could take, in the order of the board."""
    return [
        step
        for piece in session.pieces
        for rule in (_sprints, _sets, _holds, _reps)
        for step in rule(piece)
    ]


def take(text: str, keys: list[str], library: Library | None = None) -> str:
    """The board's text after the steps of those keys, one after the other, so that two which touch
    the same line add up. A key the board does not offer changes nothing.
    """
    for key in keys:
        session = parse(text, library).session
        step = next((one for one in steps(session) if one.key == key), None)
        lines = text.splitlines()
        for number, line in step.lines if step else ():
            lines[number - 1] = line
        text = "\n".join(lines) + "\n"
    return text
