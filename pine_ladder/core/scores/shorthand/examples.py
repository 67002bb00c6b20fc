"""A sample entry for a piece: one that reads, and that somebody might have done."""

from __future__ import annotations

from collections.abc import Iterator

from pine_ladder.core import plan
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import counted_intervals, reps_in_round, score_kind
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.units import clock_text

USUAL = {ScoreKind.LOAD: "80", ScoreKind.PUT_DOWNS: "3", ScoreKind.DONE: "done"}
BEFORE_THE_CAP = 0.85
"""Share of the cap that the sample time takes."""
MOST_NUMBERS = 4


def example_of(piece: plan.Piece) -> str:
    """An entry of the piece's score kind that reads without a problem; empty where no score is
    kept.

    >>> from pine_ladder.core.notation import parse
    >>> board = "## Conditioning: for time, cap 8:00\\n50 burpee"
    >>> example_of(parse(board).session.pieces[0])
    '6:48'
    """
    kind = score_kind(piece)
    if kind is None:
        return ""
    samples = list(_samples(piece, kind))
    return next(
        (sample for sample in samples if not read_score(sample, piece).problems), samples[-1]
    )


def _samples(piece: plan.Piece, kind: ScoreKind) -> Iterator[str]:
    """Entries of a kind, those that fit the piece best first."""
    match kind:
        case ScoreKind.TIME:
            if piece.cap_s:
                yield clock_text(round(piece.cap_s * BEFORE_THE_CAP))
            yield from ("12:43", "24:10", "48:20")
        case ScoreKind.ROUNDS:
            size = reps_in_round(piece, 6)
            for rounds in (5, 3, 1):
                yield f"{rounds}+{size // 2}" if size > 1 else str(rounds)
            yield "0+5"
        case ScoreKind.TOTAL_REPS | ScoreKind.LOWEST_INTERVAL:
            held = min(len(counted_intervals(piece)), MOST_NUMBERS)
            for most in (18, 9, 4, 2):
                yield " ".join(str(max(1, most - at)) for at in range(max(1, held)))
            yield "1"
        case ScoreKind.STEP:
            yield from ("12", "6", "3", "1")
        case ScoreKind.DISTANCE:
            yield from ("1500", "400", "60")
        case ScoreKind.CALORIES:
            yield from ("48", "12", "3")
        case _:
            yield USUAL[kind]
