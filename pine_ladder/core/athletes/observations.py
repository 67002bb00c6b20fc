"""Scores as observations: what of a score is learnt from, and as what."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pine_ladder.core import plan
from pine_ladder.core.plan import ScoreKind

LEARNT = (ScoreKind.ROUNDS, ScoreKind.TIME, ScoreKind.TOTAL_REPS, ScoreKind.LOWEST_INTERVAL)


@dataclass(frozen=True)
class Observation:
    """A recorded score: rounds (fractional), seconds, reps or kg, on a piece in a tier and track.

    `at_least` where the cap came first: it would have taken longer. `team` are those who did it
    together, the athlete among them; they share one observation.
    """

    athlete: int
    piece: plan.Piece
    tier: int
    track: int
    kind: ScoreKind
    value: float
    at_least: bool = False
    team: tuple[int, ...] = ()

    @property
    def seats(self) -> tuple[int, ...]:
        """Whose work it was."""
        return self.team or (self.athlete,)

    @property
    def says_alone(self) -> bool:
        """Whether it is a number of one athlete's own."""
        return not self.at_least and not self.team


def value_of(kind: ScoreKind, value: Mapping[str, object], total: float | None) -> float | None:
    """A stored score as the number that is learnt from; None where there is nothing to learn.

    `total` is the score's order key. A capped time says only that it was longer.
    """
    if kind is ScoreKind.TIME:
        return None if value.get("capped") else float(value["seconds"])  # type: ignore[arg-type]
    if kind in (ScoreKind.TOTAL_REPS, ScoreKind.LOWEST_INTERVAL):
        return float(value["reps"])  # type: ignore[arg-type]
    return total if kind is ScoreKind.ROUNDS else None


def usable(observation: Observation) -> bool:
    """Whether the fit can learn from it: a number of a kind, of as many as the piece is for."""
    alone = (observation.piece.teams is None) == (len(observation.team) < 2)
    return observation.kind in LEARNT and observation.value > 0 and alone


def sense(kind: ScoreKind) -> int:
    """1 where more means slower, -1 where more means faster."""
    return 1 if kind is ScoreKind.TIME else -1


def groups(seen: Sequence[Observation]) -> dict[tuple[plan.Piece, int], list[int]]:
    """Scores that one run predicts: those on the same piece in the same tier."""
    keys: dict[tuple[int, int], tuple[plan.Piece, int]] = {}
    found: dict[tuple[plan.Piece, int], list[int]] = {}
    for at, observation in enumerate(seen):
        key = keys.setdefault(
            (id(observation.piece), observation.tier), (observation.piece, observation.tier)
        )
        found.setdefault(key, []).append(at)
    return found
