"""Boards as they stand on a whiteboard: what is said plainly, in exact notation."""

from pine_ladder.core.movements import Movement
from pine_ladder.core.notation.plain.boards import exact_lines
from pine_ladder.core.notation.plain.lines import SHORT

__all__ = ["exact_lines", "spellings"]


def spellings(movement: Movement) -> tuple[str, ...]:
    """What stands in the text of any line that means a movement: the last word of one of its names,
    or an abbreviation. Other lines hold such words too.
    """
    names = (movement.name, *movement.aliases)
    short = (said for said, name in SHORT.items() if name in names)
    return tuple(dict.fromkeys((*(name.split()[-1] for name in names), *short)))
