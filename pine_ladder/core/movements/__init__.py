"""The movement library: data files of the trade, looked up by name, alias or plural."""

from pine_ladder.core.movements.library import Library, Movement, Pattern, library

__all__ = ["Library", "Movement", "Pattern", "library"]
