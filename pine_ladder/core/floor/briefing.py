"""A piece explained before it starts: its movements one after the other, as they are shown."""

from __future__ import annotations

from collections.abc import Iterable

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Frozen
from pine_ladder.core.poses import figure_of


class Brief(Frozen):
    """What is shown and said of one movement: what counts, and the first caution."""

    movement: str
    standard: str
    caution: str


def briefing_of(pieces: Iterable[plan.Piece], library: Library) -> tuple[Brief, ...]:
    """The movements of several pieces, each once, in the order of the board."""
    return tuple(dict.fromkeys(brief for piece in pieces for brief in briefing(piece, library)))


def briefing(piece: plan.Piece, library: Library) -> tuple[Brief, ...]:
    """The movements of a piece that have a figure, each once: those of the first version in the
    order of the board, then what the other tiers do instead."""
    versions = [task.versions for line in piece.lines for task in line.tasks]
    deepest = max((len(each) for each in versions), default=0)
    names = dict.fromkeys(
        part.movement
        for tier in range(deepest)
        for each in versions
        if tier < len(each)
        for part in each[tier].units
    )
    found = dict.fromkeys(m for name in names if (m := library.find(name)) is not None)
    return tuple(
        Brief(
            movement=movement.name,
            standard=movement.standard,
            caution=next(iter(movement.cautions), ""),
        )
        for movement in found
        if figure_of(movement.name, library) is not None
    )
