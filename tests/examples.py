"""How many examples a property is tried on: by its own measure, fewer in a quick run."""

from __future__ import annotations

import os

THOROUGH = 60
"""The measure that the properties' own numbers are meant for."""
TRIED = int(os.environ.get("PINE_LADDER_EXAMPLES", "40"))
"""Examples of a property that names no number; `PINE_LADDER_EXAMPLES=400 make test` tries more."""


def examples(count: int) -> int:
    """A property's own number of examples, in proportion to this run's."""
    return max(2, round(count * TRIED / THOROUGH))
