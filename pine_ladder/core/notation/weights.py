"""The unit of loads that are written without one: written out, before it would mean another."""

from __future__ import annotations

from typing import get_args

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.notation.parser import READ_AS
from pine_ladder.core.notation.printer import print_session
from pine_ladder.core.notation.reading import parse
from pine_ladder.core.units import WeightUnit


def with_units(text: str, library: Library) -> str:
    """The board with the library's unit at every load, so that it is read alike in any gym.

    All other lines stay as typed; but where a plain heading takes its sets from such a line, the
    board's plain lines are all written exactly.
    """
    units = get_args(WeightUnit)
    read = {unit: _readings(text, library.in_unit(unit)) for unit in units}
    here, (first, second) = read[library.unit], (read[unit] for unit in units)
    bare = [edit for line, edit in here.items() if first.get(line) != second.get(line)]
    if not bare:
        return text
    told, meant = apply(text, bare), parse(text, library).session
    if _same(parse(told, library).session, meant):
        return told
    return apply(text, here.values())


def _same(session: plan.Session, other: plan.Session) -> bool:
    return print_session(session) == print_session(other)


def _readings(text: str, library: Library) -> dict[int, plan.Edit]:
    """What each plain line is read as, as the edit that writes it."""
    return {
        finding.line: finding.repairs[0].edits[-1]
        for finding in parse(text, library).findings
        if finding.code == READ_AS
    }
