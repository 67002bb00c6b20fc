"""Kit to choose from when a gym says what it owns: what its movements ask for, in usual sizes."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core.movements import Library
from pine_ladder.core.units import WeightUnit, number_text

_WEIGHTS: Mapping[WeightUnit, Mapping[str, tuple[float, ...]]] = {
    "kg": {
        "kettlebell": (8, 12, 16, 20, 24, 28, 32),
        "dumbbell": (5, 7.5, 10, 12.5, 15, 17.5, 20, 22.5, 25, 30),
        "medicine ball": (4, 6, 9),
        "sandbag": (20, 30, 40, 50),
    },
    "lb": {
        "kettlebell": (18, 26, 35, 44, 53, 62, 70),
        "dumbbell": (10, 15, 20, 25, 30, 35, 40, 45, 50, 60),
        "medicine ball": (10, 14, 20),
        "sandbag": (40, 60, 80, 100),
    },
}
"""Sizes that are usually sold (common practice, no source)."""
_BOXES: Mapping[WeightUnit, tuple[str, ...]] = {
    "kg": ("50 cm", "60 cm", "75 cm"),
    "lb": ("20 in", "24 in", "30 in"),
}
_OF_THE_HALL = frozenset(("wall", "stairs", "pool", "plate", "plates"))
"""Things that movements ask for and nobody counts: the house, and plates, which have a list."""


def kit_choices(library: Library, unit: WeightUnit) -> tuple[str, ...]:
    """Names of kit by the alphabet, those with sizes once a size: `("bench", "box 50 cm", …)`."""
    names = {
        name.strip()
        for movement in library.movements
        for kit in movement.kit
        for name in kit.split(" or ")
    }
    out: list[str] = []
    for name in sorted(names - _OF_THE_HALL):
        weights = _WEIGHTS[unit].get(name, ())
        heights = _BOXES[unit] if name == "box" else ()
        sizes = [f"{number_text(weight)} {unit}" for weight in weights] + list(heights)
        out += [f"{name} {size}" for size in sizes] or [name]
    return tuple(out)
