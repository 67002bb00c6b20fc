"""Headings with slips of the pen: the exact heading that was meant."""

from __future__ import annotations

import re

from pine_ladder.core.movements import Library
from pine_ladder.core.notation import words
from pine_ladder.core.notation.exactly import heading_reads
from pine_ladder.core.notation.reader.exact import exact_board

MOST = 160
"""Characters of a line that may be a heading with slips."""
A_SLIP = 74
"""Likeness of a slip to the word of a heading that was meant, of 100."""
SHORTEST = 3
_WORDS = (
    "warm-up", "warmup", "cool-down", "cooldown", "mobility", "skill", "power", "strength", "core",
    "conditioning", "metcon", "workout", "finisher", "rest", "amrap", "emom", "every", "minutes",
    "minute", "seconds", "rounds", "round", "sets", "intervals", "tabata", "accumulate",
    "continuous", "for", "time", "cap", "target", "build", "quality", "teams", "partners",
    "alternate", "share", "together", "score", "reps", "total", "pace", "steady", "hard", "until",
    "missed", "as", "needed", "between", "of", "work", "aim", "heats", "min", "sec", "mins", "x",
)  # fmt: skip
"""Words of a heading."""


def mended(text: str, library: Library) -> str | None:
    """The exact heading a line with slips of the pen was meant to be; None where none is near."""
    if len(text) > MOST:
        return None
    parts = re.split(r"([A-Za-z-]+)", text.lstrip("# "))
    slips = 0
    for at, word in enumerate(parts):
        if not word.isalpha() or word.lower() in _WORDS or len(word) < SHORTEST:
            continue
        if near := words.nearest(word, _WORDS, A_SLIP):
            parts[at], slips = near, slips + 1
    if not slips:
        return None
    said = "".join(parts)
    reading = exact_board([said, "10 burpee"], library)
    headings = [line.text for line in reading.lines if line.text.startswith("##")]
    if len(headings) != 1 or reading.untimed or not heading_reads(headings[0]):
        return None
    return headings[0]
