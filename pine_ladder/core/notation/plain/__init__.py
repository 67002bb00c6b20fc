"""Boards as they stand on a whiteboard: what is said plainly, in exact notation."""

from pine_ladder.core.notation.plain.boards import Exact, exact_lines
from pine_ladder.core.notation.plain.lines import Unit

__all__ = ["Exact", "Unit", "exact_lines"]
