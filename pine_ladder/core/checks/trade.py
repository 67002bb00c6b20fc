"""What a coach would notice reading the board: units, score rules, standards, rests, the hour."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.walk import Ground, finding, versions, with_heading, with_version
from pine_ladder.core.notation.printer import load_text
from pine_ladder.core.outline import outline
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scoring import score_kind
from pine_ladder.core.units import clock_text, lb_to_kg, number_text

BELLS_LB = (53.0, 62.0, 70.0)
"""Bells sold in pounds that would be giants in kilograms (common practice, no source)."""
SHORTEST_POWER_REST = 4
"""Power work rests at least this many times its work (common practice, no source)."""
SPRINT_REST = 12
"""Sprints rest twelve times the work and more (common practice, no source)."""
SHORTEST_AMRAP_S = 240


def pounds_written_as_kilograms(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A bell or dumbbell whose kilograms are the pounds it is sold in."""
    found = []
    for at, tier, exercise in versions(session):
        load, movement = exercise.load, ground.library.find(exercise.movement)
        if not isinstance(load, plan.Weight) or movement is None:
            continue
        handheld = any("bell" in kit and kit != "barbell" for kit in movement.kit)
        sold = [value for value in load.values if value in BELLS_LB]
        if load.unit == "kg" and handheld and sold:
            pounds = load.model_copy(update={"unit": "lb"})
            found.append(
                finding(
                    "unit-slip",
                    at.line.line,
                    f"{load_text(load)} for a {movement.name}: {number_text(sold[0])} lb, "
                    f"about {lb_to_kg(sold[0]):.0f} kg, is a usual bell; are pounds meant?",
                    repairs=[with_version(at, tier, f"write {load_text(pounds)}", load=pounds)],
                )
            )
    return found


def inches_written_as_centimetres(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A box height that is an inch size in centimetres, or the other way round."""
    found = []
    for at, tier, exercise in versions(session):
        load = exercise.load
        if not isinstance(load, plan.Height):
            continue
        top = max(load.values)
        if (load.unit == "cm" and top in (20, 24, 30)) or (load.unit == "in" and top >= 40):
            other = load.model_copy(update={"unit": "in" if load.unit == "cm" else "cm"})
            found.append(
                finding(
                    "unit-slip",
                    at.line.line,
                    f"a box of {load_text(load)}: is {number_text(top)} {other.unit} meant?",
                    "hint",
                    [with_version(at, tier, f"write {load_text(other)}", load=other)],
                )
            )
    return found


def rounds_that_may_be_windows(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """`every T x N` with stations, where N is a whole number of station rounds."""
    found = []
    for piece in session.pieces:
        form = piece.format
        if not isinstance(form, plan.Every) or not form.rounds or len(piece.blocks) != 1:
            continue
        stations = len(piece.blocks[0].lines) if piece.blocks[0].numbered else 1
        if stations > 1 and form.rounds > stations and form.rounds % stations == 0:
            rounds = form.rounds // stations
            total = form.interval_s * form.rounds * stations
            fewer = form.interval_s * form.rounds
            meant = form.model_copy(update={"rounds": rounds})
            found.append(
                finding(
                    "rounds-or-windows",
                    piece.line,
                    f"{form.rounds} rounds of {stations} stations take {clock_text(total)}; "
                    f"if {form.rounds} windows are meant, write x {rounds} ({clock_text(fewer)})",
                    "hint",
                    [with_heading(piece, f"write x {rounds}", format=meant)],
                )
            )
    return found


def longer_than_the_class(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A day that may not fit its class, with the change-overs between pieces."""
    if not session.pieces:
        return []
    hour = outline(session, ground.library, ground.class_s, ground.change_s)
    over = hour.planned_high_s - hour.class_s
    if over <= 0:
        return []
    exact = hour.planned_low_s > hour.class_s
    return [
        finding(
            "over-class",
            session.pieces[-1].line,
            f"the day {'runs' if exact else 'may run'} {clock_text(over)} over its "
            f"{hour.class_s // 60} minutes",
            "warning" if exact else "hint",
            _shortened(session, over),
        )
    ]


def _shortened(session: plan.Session, over_s: int) -> list[plan.Repair]:
    """Whole minutes off the longest AMRAP, where it stays one."""
    amraps = [p for p in session.pieces if isinstance(p.format, plan.Amrap) and len(p.blocks) < 2]
    if not amraps:
        return []
    longest = max(amraps, key=lambda p: p.format.length_s)  # type: ignore[union-attr]
    assert isinstance(longest.format, plan.Amrap)
    length = (longest.format.length_s - over_s) // 60 * 60
    if length < SHORTEST_AMRAP_S:
        return []
    label = f"make {longest.title} {clock_text(length)}"
    return [with_heading(longest, label, format=plan.Amrap(length_s=length))]


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


def rest_too_short_for_power(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Power intervals that rest too little to stay fast."""
    found = []
    for piece in session.pieces:
        form = piece.format
        if piece.role is not plan.Role.POWER or not isinstance(form, plan.Intervals):
            continue
        if form.rest_s < SHORTEST_POWER_REST * form.work_s:
            enough = -(-SPRINT_REST * form.work_s // 15) * 15
            rested = form.model_copy(update={"rest_s": enough})
            label = f"rest {clock_text(enough)}"
            found.append(
                finding(
                    "power-rest",
                    piece.line,
                    f"{clock_text(form.rest_s)} of rest is short for power: sprints rest "
                    "twelve times the work and more",
                    repairs=[with_heading(piece, label, format=rested)],
                )
            )
    return found


def kit_for_the_class(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Kit that the class would need at once and the gym has not, by piece.

    Stations and teams who take turns share.
    """
    if ground.kit is None:
        return []
    found = []
    for piece in session.pieces:
        turns = max((len(b.lines) if b.numbered else 1 for b in piece.blocks), default=1)
        taking_turns = piece.teams.size if piece.teams and piece.teams.how != "together" else 1
        heats = piece.heats or 1
        needed = -(-ground.class_size // (turns * taking_turns * heats))
        short: dict[str, int] = {}
        for line in piece.lines:
            for task in line.tasks:
                movement = ground.library.find(task.versions[0].movement)
                for kit in movement.kit if movement else ():
                    names = tuple(kit.split(" or "))
                    held = [count for name, count in ground.kit.items() if name.startswith(names)]
                    if held and 0 < sum(held) < needed:
                        short[kit] = sum(held)
        for kit, count in short.items():
            waves = -(-needed * heats // count)
            found.append(
                finding(
                    "kit-short",
                    piece.line,
                    f"{needed} need a {kit} at once and the gym has {count}: "
                    f"{waves} heats, or pairs who share",
                    "hint",
                    [with_heading(piece, f"make it {waves} heats", heats=waves)],
                )
            )
    return found
