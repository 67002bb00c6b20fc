"""What an entry was meant to be, where what was typed can hardly be: one slip undone."""

from __future__ import annotations

import re
from collections.abc import Iterator

from pine_ladder.core import plan
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import Score, score_kind
from pine_ladder.core.scores.shorthand import read_score

SEPARATORS = {ScoreKind.ROUNDS: "+", ScoreKind.TIME: ":"}
_TIME = re.compile(r"\d{1,3}:[0-5]\d")
LONGEST = 12
"""Letters of an entry from which a slip is no longer guessed at."""
MOST_ROUNDS = 60
"""Rounds from which a correction is no likelier than what was typed (common sense)."""


def meant(score: Score, text: str, piece: plan.Piece, tier: int = 0, track: int = 0) -> str | None:
    """An entry one slip away that reads cleanly, for one that was refused or is in doubt; None
    where nothing near is any better.

    A separator that was left out or mistyped comes before a digit too many, two digits that stand
    the wrong way round last.
    """
    kind = score_kind(piece)
    mark = SEPARATORS.get(kind) if kind else None
    typed = text.strip()
    if mark is None or not (score.problems or score.doubt) or len(typed) > LONGEST:
        return None
    if _TIME.fullmatch(typed):
        # A whole time past the cap was read off a clock: which digit is wrong nobody knows.
        return None
    for other in _near(typed, mark):
        read = read_score(other, piece, tier, track)
        if read.problems or read.doubt or read.reading or read.order_key is None:
            continue
        if kind is ScoreKind.ROUNDS and read.value.get("rounds", 0) > MOST_ROUNDS:
            continue
        return read.display
    return None


def _near(typed: str, mark: str) -> Iterator[str]:
    """Entries one slip away, the likeliest first."""
    if re.search(r"\d \d", typed):
        yield re.sub(r"(?<=\d) (?=\d)", "", typed)
    if swapped := re.fullmatch(r"(\d+)[^\d]+(\d+)", typed):
        yield f"{swapped[1]}{mark}{swapped[2]}"
    if typed.isdigit():
        # Two digits after the separator are what coaches write most.
        for after in (2, 1, 3):
            if len(typed) > after:
                yield f"{typed[:-after]}{mark}{typed[-after:]}"
    digits = [at for at, letter in enumerate(typed) if letter.isdigit()]
    doubled = [at for at in digits if at and typed[at - 1] == typed[at]]
    for at in (*reversed(doubled), *reversed(digits)):
        yield typed[:at] + typed[at + 1 :]
    for at in digits:
        if at + 1 in digits and typed[at] != typed[at + 1]:
            yield typed[:at] + typed[at + 1] + typed[at] + typed[at + 2 :]
