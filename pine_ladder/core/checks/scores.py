"""Scores: work nobody said how to score, scored movements without a standard."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import (
    Ground,
    finding,
    tasks,
    versions,
    with_heading,
    with_tasks,
)
from pine_ladder.core.notation.edits import rewrite
from pine_ladder.core.notation.printer import exercise_text, format_text, line_text
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import clock_text


def timed_lines_in_counted_rounds(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Rounds scored by reps whose lines last a time: nobody counts without a clock."""
    found = []
    for piece in session.pieces:
        form = piece.format
        counted = piece.score in (plan.ScoreKind.TOTAL_REPS, plan.ScoreKind.LOWEST_INTERVAL)
        if not isinstance(form, plan.Rounds | plan.Sets) or not counted or len(piece.blocks) != 1:
            continue
        times = {
            task.versions[0].amount.seconds
            for line in piece.lines
            for task in line.tasks
            if isinstance(task.versions[0].amount, plan.Duration)
        }
        alone = all(len(line.tasks) == 1 for line in piece.lines if line.tasks)
        if len(times) != 1 or not alone or not all(map(_is_timed, piece.lines)):
            continue
        (seconds,) = times
        found.append(
            finding(
                "timed-rounds",
                piece.line,
                f"reps are counted in rounds of {clock_text(seconds)} lines: a clock is meant?",
                repairs=[
                    _on_the_clock(
                        piece,
                        "intervals",
                        plan.Intervals(work_s=seconds, rest_s=0, rounds=form.low),
                        None,
                    ),
                    _on_the_clock(
                        piece,
                        "windows of as many as possible",
                        plan.Every(interval_s=seconds, rounds=form.low, said=True),
                        plan.Max(),
                    ),
                    with_heading(piece, "leave the times, score done", score=plan.ScoreKind.DONE),
                ],
            )
        )
    return found


def maximum_each_round(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Work and then a `max` in an AMRAP: one set of it each round, or what is left of the time?"""
    found = []
    for piece in session.pieces:
        form = piece.format
        if not isinstance(form, plan.Amrap) or form.high_s or len(piece.blocks) != 1:
            continue
        all_tasks = [task for line in piece.lines for task in line.tasks]
        most = [task for task in all_tasks if isinstance(task.versions[0].amount, plan.Max)]
        if len(all_tasks) < 2 or most != all_tasks[-1:]:
            continue
        length = clock_text(form.length_s)
        once = plan.Every(interval_s=form.length_s, rounds=1)
        message = (
            f"max {most[0].versions[0].movement} is one set each round here; "
            f"or is it to fill what is left of {length}?"
        )
        repair = with_heading(piece, f"once, to the end of {length}", format=once)
        line = piece.lines[-1].line
        found.append(finding("max-each-round", line, message, "hint", [repair]))
    return found


def _is_timed(line: plan.Line) -> bool:
    return bool(line.tasks) and isinstance(line.tasks[0].versions[0].amount, plan.Duration)


def _on_the_clock(
    piece: plan.Piece, label: str, form: plan.Format, amount: plan.Amount | None
) -> plan.Repair:
    """The piece in a format with a clock, its lines with another amount and as stations."""
    edits = [with_heading(piece, "", format=form).edits[0]]
    for number, line in enumerate(piece.lines, start=1):
        versions = [
            version.model_copy(update={"amount": amount}) for version in line.tasks[0].versions
        ]
        task = plan.Task(versions=tuple(versions))
        text = line_text(line.model_copy(update={"tasks": (task,)}))
        station = f"{number}) " if isinstance(form, plan.Every) else ""
        edits.append(rewrite(line.line, station + text))
    return plan.Repair(label=f"{label}: {format_text(form)}", edits=tuple(edits))


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
    """A scored piece with a movement nobody has written a standard for, once a movement.

    One that the library has not at all is told where the board is read.
    """
    told: dict[str, int] = {}
    for at, _tier, exercise in versions(session):
        movement = ground.library.find(exercise.movement)
        if score_kind(at.piece) and movement is not None and not movement.standard:
            told.setdefault(movement.name, at.line.line)
    return [
        finding(
            "no-standard",
            line,
            f"{name} is scored but has no standard: say what counts, in the library",
            "hint",
        )
        for name, line in told.items()
    ]


def versions_beyond_the_tiers(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A line with more versions than the gym has tiers: nobody would ever see the last."""
    if not ground.tiers:
        return []
    most = len(ground.tiers)
    found = []
    for at in tasks(session):
        if len(at.task.versions) <= most:
            continue
        kept = at.task.model_copy(update={"versions": at.task.versions[:most]})
        lines = tuple(kept if one is at.task else one for one in at.line.tasks)
        unseen = ", ".join(exercise_text(version) for version in at.task.versions[most:])
        found.append(
            finding(
                "beyond-tiers",
                at.line.line,
                f"{len(at.task.versions)} versions for {most} tiers ({', '.join(ground.tiers)}): "
                f"nobody is given {unseen}",
                repairs=[with_tasks(at, f"leave out {unseen}", lines)],
            )
        )
    return found
