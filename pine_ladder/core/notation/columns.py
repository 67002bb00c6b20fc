"""A tier taken out of boards: its versions go, every other tier keeps what it does."""

from __future__ import annotations

from collections import Counter

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.edits import apply, numbered_text, rewrite
from pine_ladder.core.notation.printer import print_session
from pine_ladder.core.notation.reading import parse


def _without(task: plan.Task, tier: int, of: int) -> plan.Task:
    """A task without a tier's version; every other of the gym's tiers does what it did."""
    if len(task.versions) == 1:
        return task
    there = range(max(of, len(task.versions)))
    left = [task.version(one) for one in there if one != tier]
    while len(left) > 1 and left[-1] == left[-2]:
        left.pop()
    return task.model_copy(update={"versions": tuple(left)})


def _line(line: plan.Line, tier: int, of: int) -> plan.Line:
    return line.model_copy(update={"tasks": tuple(_without(task, tier, of) for task in line.tasks)})


def _session(session: plan.Session, tier: int, of: int) -> plan.Session:
    pieces = []
    for piece in session.pieces:
        blocks = tuple(
            block.model_copy(update={"lines": tuple(_line(line, tier, of) for line in block.lines)})
            for block in piece.blocks
        )
        around = {
            "buy_in": tuple(_line(line, tier, of) for line in piece.buy_in),
            "cash_out": tuple(_line(line, tier, of) for line in piece.cash_out),
        }
        pieces.append(piece.model_copy(update={"blocks": blocks, **around}))
    return session.model_copy(update={"pieces": tuple(pieces)})


def without_tier(text: str, tier: int, of: int, library: Library) -> str:
    """The board without the versions of a tier (1 or later) of so many: those after it move up.

    Lines that have none stay as typed. A board that the lines alone do not say so is written out
    whole. ValueError for tier 0: that is the board as written.
    """
    if tier < 1:
        raise ValueError("the first tier is the board as written")
    before = parse(text, library).session
    wanted = _session(before, tier, of)
    if wanted == before:
        return text
    held = [
        (block, line)
        for piece in before.pieces
        for block in (
            *piece.blocks,
            plan.Block(lines=piece.buy_in),
            plan.Block(lines=piece.cash_out),
        )
        for line in block.lines
    ]
    often = Counter(line.line for _, line in held)
    edits = [
        rewrite(line.line, numbered_text(block, line, _line(line, tier, of)))
        for block, line in held
        if _line(line, tier, of) != line and line.line and often[line.line] == 1
    ]
    told = apply(text, edits)
    same = print_session(wanted)
    if print_session(parse(told, library).session) == same:
        return told
    return same
