"""The day as a whole: what one piece does to another, by the dose of each."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding, tasks, with_heading, with_version
from pine_ladder.core.dose import Dose, Region, dose_of_piece
from pine_ladder.core.pace.day import losses

RUINED = 55
"""The dose of a region after which a technical lift with it is no longer clean (judgement)."""
HEAVY_PERCENT = 70
TECHNICAL = ("snatch", "clean", "jerk")
MANY_PIECES, SOME = 5, 12
"""Pieces of a day on one region that are too many, and the dose that counts (common practice)."""
TIRING, NEEDED = 30, 40
"""The dose of a warm-up that costs, where the day needs the region at least so much (judgement)."""
MUSCLES = (Region.SQUAT, Region.HINGE, Region.PRESS, Region.PULL)
HARD_ROLES = (plan.Role.STRENGTH, plan.Role.POWER, plan.Role.CONDITIONING)
EASY_ENGINE = 0.75
"""Demand of a movement above which nobody stays easy (judgement)."""
SPRINT = "sprint"


class Dosed(NamedTuple):
    """A piece with its dose."""

    piece: plan.Piece
    dose: Dose


def technical_lifts_on_tired_muscles(day: Sequence[Dosed], ground: Ground) -> list[plan.Finding]:
    """A heavy snatch, clean or jerk after a piece that took the grip or the legs for it."""
    found = []
    for at, (piece, _) in enumerate(day):
        before = [dosed for dosed in day[:at] if dosed.piece.role in HARD_ROLES]
        for task in tasks(plan.Session(pieces=(piece,))):
            first = task.task.versions[0]
            load = first.load
            if not isinstance(load, plan.Percent) or load.low < HEAVY_PERCENT:
                continue
            if not set(TECHNICAL) & set(first.movement.split()):
                continue
            spent = [
                (dosed.dose.of(region), region, dosed.piece)
                for dosed in before
                for region in (Region.PULL, Region.SQUAT, Region.HINGE)
            ]
            if not spent or max(spent, key=lambda each: each[0])[0] < RUINED:
                continue
            _, region, earlier = max(spent, key=lambda each: each[0])
            what = {"pull": "the grip", "squat": "the legs", "hinge": "the hips"}[region]
            message = (
                f"{first.movement} at {load.low:g} % after {earlier.name or earlier.role.value}, "
                f"which takes {what}: lift first, or lighter"
            )
            repair = with_version(task, 0, "60 %", load=plan.Percent(low=60))
            found.append(finding("tired-lift", task.line.line, message, "hint", [repair]))
    return found


def many_pieces_of_a_kind(day: Sequence[Dosed], ground: Ground) -> list[plan.Finding]:
    """Five pieces of a day that all press, pull, squat or hinge."""
    findings: list[plan.Finding] = []
    if ground.style.day == "one pattern":
        return findings
    for region in MUSCLES:
        loaded = [dosed.piece for dosed in day if dosed.dose.of(region) >= SOME]
        if len(loaded) >= MANY_PIECES:
            message = f"{len(loaded)} pieces load {region.value} today: spread it over the week"
            findings.append(finding("same-region", loaded[-1].line, message, "hint"))
    return findings


def tiring_warm_ups(day: Sequence[Dosed], ground: Ground) -> list[plan.Finding]:
    """A warm-up that costs what the day needs."""
    found = []
    for at, (piece, dose) in enumerate(day):
        if piece.role is not plan.Role.WARM_UP:
            continue
        for region in MUSCLES:
            after = max((dosed.dose.of(region) for dosed in day[at + 1 :]), default=0.0)
            if dose.of(region) < TIRING or after < NEEDED:
                continue
            message = (
                f"this warm-up already costs {region.value} ({dose.of(region):.0f} of 100), "
                "which the day needs fresh: fewer reps, or easier ones"
            )
            repairs = []
            if isinstance(piece.format, plan.Rounds) and piece.format.low > 1:
                fewer = plan.Rounds(low=(piece.format.low + 1) // 2)
                repairs = [with_heading(piece, f"{fewer.low} rounds", format=fewer)]
            found.append(finding("tiring-warm-up", piece.line, message, "hint", repairs))
            break
    return found


def sprints_without_rest(day: Sequence[Dosed], ground: Ground) -> list[plan.Finding]:
    """Sprints again and again without a rest that lets anybody sprint."""
    found = []
    for piece, _ in day:
        sprints = any(
            at.task.versions[0].movement == SPRINT for at in tasks(plan.Session(pieces=(piece,)))
        )
        form = piece.format
        again = isinstance(form, plan.Amrap) or (
            isinstance(form, plan.ForTime | plan.Rounds)
            and (getattr(form, "rounds", None) or getattr(form, "low", 1) or 1) > 2
        )
        if sprints and again and piece.rest is None and not piece.rest_as_needed:
            span = plan.Span(low_s=120, high_s=None)
            repairs = (
                []
                if isinstance(form, plan.Amrap)
                else [with_heading(piece, "rest 2:00", rest=span)]
            )
            message = (
                "sprints without rest are no sprints after the second: rest twelve times the work"
            )
            found.append(finding("sprint-rest", piece.line, message, "hint", repairs))
    return found


def engine_that_is_not_easy(day: Sequence[Dosed], ground: Ground) -> list[plan.Finding]:
    """An easy engine with work that nobody can keep easy."""
    found = []
    for piece, _ in day:
        if piece.purpose is not plan.Purpose.EASY_ENGINE:
            continue
        hard = sorted(
            {
                movement.name
                for at in tasks(plan.Session(pieces=(piece,)))
                for unit in at.task.versions[0].units
                if (movement := ground.library.find(unit.movement)) is not None
                and movement.demand > EASY_ENGINE
            }
        )
        if hard or piece.pace == "hard":
            what = ", ".join(hard) or "a hard pace"
            steady = with_heading(piece, "pace steady", pace="steady")
            repairs = [] if hard else [steady]
            message = f"{what} does not stay easy: choose what can be done while talking"
            found.append(finding("easy-engine", piece.line, message, "hint", repairs))
    return found


SLOWER = 1.1
"""Factor on the fresh time from which the pieces before are blamed (judgement)."""


def pieces_that_come_out_slower(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A piece that the day before it makes a good deal slower than it would be fresh."""
    found = []
    hard: list[plan.Piece] = []
    for piece, loss in zip(session.pieces, losses(session, ground.library), strict=True):
        if piece.role not in HARD_ROLES:
            continue
        if loss.whole > SLOWER and hard:
            earlier = hard[-1].name or hard[-1].role.value
            message = (
                f"after {earlier} this comes out about {loss.whole - 1:.0%} slower than fresh: "
                "other order, other muscles, or a longer rest between"
            )
            found.append(finding("slower-after", piece.line, message, "hint"))
        hard.append(piece)
    return found


DayCheck = Callable[[Sequence[Dosed], Ground], list[plan.Finding]]
DAY_CHECKS: tuple[DayCheck, ...] = (
    technical_lifts_on_tired_muscles,
    many_pieces_of_a_kind,
    tiring_warm_ups,
    sprints_without_rest,
    engine_that_is_not_easy,
)


def check_day(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Findings on what the pieces of a day do to each other."""
    day = [
        Dosed(piece, dose_of_piece(piece, ground.library))
        for piece in session.pieces
        if piece.role is not plan.Role.REST and piece.lines and not piece.unread
    ]
    found = [one for check in DAY_CHECKS for one in check(day, ground)]
    return found + pieces_that_come_out_slower(session, ground)
