"""Questions of a reading: where a board says two things nearly as well, both are offered.

Each doubt is a change of the piece that was read; the readings differ in the plan, and the first
of them is the one that is shown.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.notation.words import ROLE_TITLES
from pine_ladder.core.units import clock_text

FEW_SETS = 3
"""Sets of a lift with loads of their own from which on they may be percents."""
LEAST_PERCENT, MOST_PERCENT = 40, 100
"""Numbers that percents of a best have (common practice, no source)."""


class Doubt(NamedTuple):
    """A sentence that asks, and the piece each answer makes, with a word for it."""

    code: str
    line: int
    message: str
    answers: tuple[tuple[str, plan.Piece], ...]


def doubts(
    piece: plan.Piece,
    *,
    stations: bool,
    in_turn: bool,
    untimed: bool,
    unitless: bool = False,
    roles: Sequence[plan.Role] = (),
) -> Iterator[Doubt]:
    """Questions on a piece as it was read; `roles` are others it may have as well, `unitless` says
    that its loads were written without a unit, `in_turn` that its stations are said to take turns.
    """
    if unitless:
        yield from _percents(piece)
    if roles:
        ways = [piece.role, *roles]
        answers = tuple((ROLE_TITLES[way], piece.model_copy(update={"role": way})) for way in ways)
        yield Doubt("role", piece.line, "What is this piece for?", answers)
    if not stations and not in_turn:
        yield from _turns(piece)
    yield from _windows(piece, lettered=stations and not in_turn)
    yield from _goes_on(piece)
    if untimed:
        yield _format(piece)


def _lines(piece: plan.Piece) -> tuple[plan.Line, ...]:
    return piece.blocks[0].lines if len(piece.blocks) == 1 else ()


def _numbered(piece: plan.Piece, numbered: bool) -> plan.Piece:
    block = piece.blocks[0].model_copy(update={"numbered": numbered})
    return piece.model_copy(update={"blocks": (block,)})


def _percents(piece: plan.Piece) -> Iterator[Doubt]:
    """`3 @ 70, 3 @ 75, 3 @ 80` of a lift: loads, or percents of its best?"""
    loads = [
        version.load
        for line in _lines(piece)
        for task in line.tasks
        for version in task.versions[:1]
    ]
    weights = [load for load in loads if isinstance(load, plan.Weight) and len(load.values) == 1]
    if len(weights) < FEW_SETS or len(weights) < len(loads):
        return
    values = [weight.values[0] for weight in weights]
    if len(set(values)) == 1 or not all(LEAST_PERCENT <= value <= MOST_PERCENT for value in values):
        return
    shares = iter([plan.Percent(low=value) for value in values])
    block = piece.blocks[0]
    lines = tuple(
        line.model_copy(
            update={"tasks": tuple(_with_load(task, next(shares)) for task in line.tasks)}
        )
        for line in block.lines
    )
    other = piece.model_copy(update={"blocks": (block.model_copy(update={"lines": lines}),)})
    unit = weights[0].unit
    message = f"{values[0]:g} and {values[-1]:g}: {unit}, or percent of their best?"
    yield Doubt("percent", piece.line, message, ((unit, piece), ("percent", other)))


def _with_load(task: plan.Task, load: plan.Load) -> plan.Task:
    first, *others = task.versions
    return task.model_copy(update={"versions": (first.model_copy(update={"load": load}), *others)})


def _turns(piece: plan.Piece) -> Iterator[Doubt]:
    """Lines without numbers in an EMOM: all of them in each minute, or in turn?"""
    lines = _lines(piece)
    if not isinstance(piece.format, plan.Emom) or len(lines) < 2:
        return
    minutes = piece.format.length_s // 60
    if minutes % len(lines):
        return
    turns, together = _numbered(piece, True), _numbered(piece, False)
    ways = (("one line a minute, in turn", turns), ("all of them in every minute", together))
    if not piece.blocks[0].numbered:
        ways = (ways[1], ways[0])
    yield Doubt(
        "turns", piece.line, "All lines in every minute, or one line a minute in turn?", ways
    )


def _windows(piece: plan.Piece, *, lettered: bool) -> Iterator[Doubt]:
    """`every 2:00 x 6` over stations: six windows in all, or six rounds of the stations?"""
    form = piece.format
    lines = _lines(piece)
    if not isinstance(form, plan.Every) or not form.rounds or len(lines) < 2 or not lettered:
        return
    stations = len(lines)
    if form.rounds == stations and not form.said:
        return  # Once round.
    more = form.model_copy(update={"rounds": form.rounds * stations, "said": True})
    both = form.model_copy(update={"rounds": form.rounds * stations, "said": False})
    answers = [("as it is shown", piece)]
    answers.append(
        (f"{form.rounds * stations} rounds of all", piece.model_copy(update={"format": more}))
    )
    answers.append(
        ("all in every window", _numbered(piece.model_copy(update={"format": both}), False))
    )
    said = [f"{word}: {_length(one)}" for word, one in answers]
    yield Doubt("windows", piece.line, f"How often is each done? {', '.join(said)}", tuple(answers))


def _goes_on(piece: plan.Piece) -> Iterator[Doubt]:
    """Rounds with a rest: between them alone, or after each line too?"""
    lines = _lines(piece)
    if not isinstance(piece.format, plan.ForTime) or not piece.rest or len(lines) != 2:
        return
    distances = [
        isinstance(task.versions[0].amount, plan.Distance) for line in lines for task in line.tasks
    ]
    if len(distances) != 2 or not all(distances) or not piece.format.rounds:
        return
    each = tuple(
        plan.Block(line=line.line, lines=(line,))
        for _ in range(piece.format.rounds)
        for line in lines
    )
    apart = piece.model_copy(update={"format": plan.ForTime(), "blocks": each})
    yield Doubt(
        "rests",
        piece.line,
        f"{clock_text(piece.rest.low_s)} of rest: between the rounds, or after each line too?",
        (("between the rounds", piece), ("after each line", apart)),
    )


def _format(piece: plan.Piece) -> Doubt:
    """Work without a word on how it is timed."""
    ways = (
        ("once, not timed", piece),
        ("for time", piece.model_copy(update={"format": plan.ForTime()})),
        ("AMRAP 12:00", piece.model_copy(update={"format": plan.Amrap(length_s=720)})),
        ("3 rounds", piece.model_copy(update={"format": plan.Rounds(low=3)})),
    )
    return Doubt("untimed", piece.line, "How is this piece timed?", ways)


def _length(piece: plan.Piece) -> str:
    """The length of a piece of windows."""
    form, block = piece.format, piece.blocks[0]
    assert isinstance(form, plan.Every)
    windows = (form.rounds or 1) * (len(block.lines) if block.numbered else 1)
    return clock_text(windows * form.interval_s)
