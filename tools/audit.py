"""`make audit`: movements whose seconds or sets lie far from those of their neighbours."""

from __future__ import annotations

from calibration.neighbours import outliers, upside_down

from pine_ladder.core.movements import library


def main() -> None:
    """Print what stands apart, then rungs that are the wrong way round."""
    for one in outliers(library()):
        both = f"{one.value:8g} {one.usual:8g}"
        print(f"{one.name:32} {one.field:9} {both} {one.times:+5.1f}  {one.neighbours[0]}, …")
    for lower, upper in upside_down(library()):
        print(f"{upper} has longer sets than {lower}, an easier rung")


if __name__ == "__main__":
    main()
