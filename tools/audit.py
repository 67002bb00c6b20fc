"""`make audit`: predictions that a coach would call absurd, and movements that stand apart.

Every movement is asked for in every measure, tier, track and amount, and what is predicted is held
against bounds that were written before (`calibration/bounds.py`). Exit 1 where one lies outside.
Beside them, for reading: seconds and sets far from those of the neighbours.
"""

from __future__ import annotations

import sys

from calibration.bounds import EXCEPTIONS, absurd
from calibration.neighbours import outliers, upside_down

from pine_ladder.core.movements import library


def main() -> int:
    """Print what stands apart, rungs that are the wrong way round, then what is absurd."""
    for one in outliers(library()):
        both = f"{one.value:8g} {one.usual:8g}"
        print(f"{one.name:32} {one.field:9} {both} {one.times:+5.1f}  {one.neighbours[0]}, …")
    for lower, upper in upside_down(library()):
        print(f"{upper} has longer sets than {lower}, an easier rung")
    outside = list(absurd(library()))
    for each in outside:
        print(f"absurd: {each.asked}, tier {each.tier + 1}, track {each.track + 1}: {each.what}")
    print(f"{len(outside)} predictions outside the bounds; left out: {', '.join(EXCEPTIONS)}")
    return 1 if outside else 0


if __name__ == "__main__":
    sys.exit(main())
