"""Scores as coaches jot them: shorthand read, normalised, ordered and shown.

What is shown reads back as the same score. An entry may end with the split at its last full round
(`tb 9:31`) and with the time of each round (`splits 1:40 1:52 …`).
"""

from __future__ import annotations

from collections.abc import Callable

from pine_ladder.core import plan
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import ABSENT, Refused, Score, score_kind
from pine_ladder.core.scores.shorthand import counted, measured
from pine_ladder.core.scores.shorthand.parts import MAX_ENTRY, Context

_READERS: dict[ScoreKind, Callable[[str, Context], Score]] = {
    ScoreKind.ROUNDS: counted.rounds,
    ScoreKind.TIME: measured.time,
    ScoreKind.TOTAL_REPS: counted.total,
    ScoreKind.LOWEST_INTERVAL: counted.lowest,
    ScoreKind.LOAD: measured.load,
    ScoreKind.STEP: counted.step,
    ScoreKind.PUT_DOWNS: measured.put_downs,
    ScoreKind.DISTANCE: measured.distance,
    ScoreKind.CALORIES: measured.calories,
    ScoreKind.DONE: measured.done,
}


def read_score(text: str, piece: plan.Piece, tier: int = 0, track: int = 0) -> Score:
    """Understand an entry as the piece's score kind. Never raises: refusals are `problems`.

    `tier` and `track` are indexes (0 is as written, the heavier column). `dns` and `dnf` stand
    for any kind and have no place.
    """
    kind = score_kind(piece)
    shown = text.strip()[:MAX_ENTRY]
    if kind is None:
        problem = "no score is kept for this piece"
        return _refused(ScoreKind.DONE, shown, problem)
    cleaned = " ".join(text.lower().split())
    if cleaned in ABSENT:
        return Score(
            kind=kind,
            value={"absent": cleaned},
            display=cleaned.upper(),
            order_key=None,
            reading=ABSENT[cleaned],
        )
    try:
        if not cleaned:
            raise Refused("nothing is written")
        return _READERS[kind](cleaned, Context(piece, tier, track))
    except Refused as refusal:
        return _refused(kind, shown, str(refusal))


def _refused(kind: ScoreKind, shown: str, problem: str) -> Score:
    return Score(kind=kind, value={}, display=shown, order_key=None, problems=(problem,))
