"""The movement library: data files of the trade, looked up by name, alias or plural."""

from pine_ladder.core.movements.library import (
    Group,
    Ladder,
    Library,
    Movement,
    OwnMovement,
    Pattern,
    Swap,
    library,
)

__all__ = ["Group", "Ladder", "Library", "Movement", "OwnMovement", "Pattern", "Swap", "library"]
