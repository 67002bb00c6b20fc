"""Movements drawn by the program: key poses as numbers, solved, moved, measured and drawn."""

from pine_ladder.core.poses.cycle import Cycle, Sign, cycle, sign
from pine_ladder.core.poses.library import Figure, figure_of, names

__all__ = ["Cycle", "Figure", "Sign", "cycle", "figure_of", "names", "sign"]
