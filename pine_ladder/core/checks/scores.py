"""Scores: work nobody said how to score, scored movements without a standard."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.walk import Ground, finding, versions, with_heading
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import score_kind


def unclear_score_rules(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Hard work on a clock that nobody said how to score."""
    found = []
    timed = plan.Every | plan.Emom | plan.Intervals
    for piece in session.pieces:
        ways = {
            kind: with_heading(piece, f"add score {kind.value}", score=kind)
            for kind in (ScoreKind.TOTAL_REPS, ScoreKind.LOWEST_INTERVAL, ScoreKind.DONE)
        }
        unscored = piece.role is plan.Role.CONDITIONING and score_kind(piece) is None
        if unscored and isinstance(piece.format, timed) and not piece.for_quality:
            found.append(
                finding(
                    "unclear-score",
                    piece.line,
                    "no score is kept: add score total reps, score lowest interval, score done, "
                    "or for quality",
                    "hint",
                    [*ways.values(), with_heading(piece, "add for quality", for_quality=True)],
                )
            )
        if isinstance(piece.format, plan.Tabata) and piece.score is None:
            found.append(
                finding(
                    "unclear-score",
                    piece.line,
                    "ranked by total or by the lowest interval? add score total reps or "
                    "score lowest interval",
                    "hint",
                    [ways[ScoreKind.TOTAL_REPS], ways[ScoreKind.LOWEST_INTERVAL]],
                )
            )
    return found


def scored_work_without_a_standard(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A scored piece with a movement nobody has written a standard for."""
    return [
        finding(
            "no-standard",
            at.line.line,
            f"{exercise.movement} is scored but has no standard: say what counts",
            "hint",
        )
        for at, _tier, exercise in versions(session)
        if score_kind(at.piece)
        and exercise.movement
        and ground.library.find(exercise.movement) is None
    ]
