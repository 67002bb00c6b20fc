"""What the test-run shows of windows: too full, nearly empty, off their aim, never filled."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import At, Ground, finding, with_heading, with_tasks
from pine_ladder.core.clock import window_s
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.pace.intensity import Wanted, ease, first_within, places_of
from pine_ladder.core.pace.repair import (
    FEW_LATE,
    WORK_SLACK_S,
    as_repair,
    fill_window,
    station_work,
)
from pine_ladder.core.pace.testrun import PieceRun, test_run, trial
from pine_ladder.core.units import clock_text

LONGER, LONGER_STEP_S, LONGEST_WINDOW_S, EMOM_S = (1.5, 2.0, 3.0), 15, 240, 60
"""How much longer a window is proposed, in steps that coaches write, up to how long (judgement)."""
NOTHING_HELPS = "; neither numbers nor load help: ask for something else"
OVERFULL = 0.3
"""More than this share of windows not done in time is overfull."""
HALF = 0.5
"""Most reach what fills a window when no more than this share does not."""
NEARLY_EMPTY = 0.4
"""Work under this share of its window is nearly empty (common practice: aim at two thirds)."""
GOOD_WORK = 2 / 3


def tier_name(tiers: Sequence[str], tier: int) -> str:
    """A tier as the gym calls it."""
    return tiers[tier] if tier < len(tiers) else f"tier {tier + 1}"


def number_words(value: float) -> str:
    """A number with one digit where it needs it: 9.8, 12."""
    return f"{value:.1f}".removesuffix(".0")


def windows_too_full_or_empty(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A window whose work does not fit, or off the seconds aimed at, or hardly any."""
    if (whole_s := window_s(piece)) is None:
        return []
    length = piece.work_s or whole_s
    found = []
    told: set[tuple[str, int]] = set()
    for one in run.tiers:
        for window in one.windows:
            if _fills(piece, window.station, one.tier):
                continue
            work = window.work_s.p50
            wanted = piece.aim_s or round(length * GOOD_WORK)
            who = tier_name(tiers, one.tier)
            if window.overfull > OVERFULL:
                code = "overfull"
                message = (
                    f"{who}: {window.overfull:.0%} do not get through this in {clock_text(length)}"
                )
            elif piece.aim_s and abs(work - piece.aim_s) > WORK_SLACK_S:
                code = "off-work"
                message = (
                    f"{who}: about {clock_text(work)} of work, "
                    f"{clock_text(piece.aim_s)} is aimed at"
                )
            elif not piece.aim_s and work < NEARLY_EMPTY * length:
                code = "nearly-empty"
                message = f"{who}: only {clock_text(work)} of {clock_text(length)} is work"
            else:
                continue
            # One finding a station and kind: the tiers after the first say the same.
            if (code, window.station) in told:
                continue
            told.add((code, window.station))
            proposal = fill_window(piece, ground.library, one.tier, window.station, wanted)
            repairs = [as_repair(piece, proposal)] if proposal else []
            if code == "overfull":
                repairs += _eased_window(piece, ground, one.tier, window.station)
                repairs += _longer_window(piece, piece, ground, one.tier, window.station)
                if not repairs:
                    message += NOTHING_HELPS
            severity = "warning" if code == "overfull" else "hint"
            line = _station_line(piece, window.station)
            found.append(finding(code, line, message, severity, repairs))  # type: ignore[arg-type]
    return found


def _eased_window(piece: plan.Piece, ground: Ground, tier: int, station: int) -> list[plan.Repair]:
    """A lighter load or an easier rung with which nearly everybody gets through a window."""

    def late(other: plan.Piece) -> float:
        return station_work(trial(other, ground.library, tier), station)[1]

    return ease(
        piece,
        ground.library,
        tier,
        places_of(piece, station),
        late,
        Wanted(0, FEW_LATE),
        lambda share: f"{share:.0%} late",
        ground.kit,
    )


def _longer_window(
    piece: plan.Piece, bare: plan.Piece, ground: Ground, tier: int, station: int
) -> list[plan.Repair]:
    """The first longer window in which most get through a station's work, half as long again, twice
    or three times; `bare` is the piece without what fills its windows. None where work closes them.
    """
    if piece.work_s or len(piece.blocks) != 1:
        return []
    forms = [form for factor in LONGER if (form := _with_windows(bare, factor))]
    possible = [form for form in forms if not excess(piece.model_copy(update={"format": form}))]

    def late(form: plan.Every) -> float:
        longer = bare.model_copy(update={"format": form})
        return station_work(trial(longer, ground.library, tier), station)[1]

    found = first_within(possible, late, Wanted(0, OVERFULL), 1.0)
    if found is None:
        return []
    words = f"windows of {clock_text(found[0].interval_s)}"
    return [with_heading(piece, words, format=found[0])]


def _with_windows(piece: plan.Piece, factor: float) -> plan.Every | None:
    """The format with windows longer by a factor, over about the same time."""
    form = piece.format
    stations = max(1, len(piece.lines)) if any(b.numbered for b in piece.blocks) else 1
    match form:
        case plan.Every(rounds=int(rounds)):
            interval, whole = form.interval_s, form.interval_s * rounds * stations
        case plan.Emom():
            interval, whole = EMOM_S, form.length_s
        case _:
            return None
    longer = LONGER_STEP_S * round(interval * factor / LONGER_STEP_S)
    if not interval < longer <= LONGEST_WINDOW_S:
        return None
    rounds = max(1, round(whole / longer / stations))
    return plan.Every(interval_s=longer, rounds=rounds, said=stations > 1)


def fill_that_is_never_reached(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A window whose fixed work leaves no time for the `max` after it."""
    whole_s = window_s(piece)
    if whole_s is None or len(piece.blocks) != 1:
        return []
    length = piece.work_s or whole_s
    found = []
    for number, line in enumerate(piece.blocks[0].lines, start=1):
        *fixed, last = line.tasks or (None,)
        if not fixed or last is None or not isinstance(last.versions[0].amount, plan.Max):
            continue
        bare = line.model_copy(update={"tasks": tuple(fixed)})
        lines = tuple(bare if one is line else one for one in piece.blocks[0].lines)
        block = piece.blocks[0].model_copy(update={"lines": lines})
        short = piece.model_copy(update={"blocks": (block,)})
        station = number if block.numbered else 1
        windows = test_run(short, ground.library, 1).tiers[0].windows
        window = next((window for window in windows if window.station == station), None)
        if window is None or window.overfull <= OVERFULL:
            continue
        proposal = fill_window(short, ground.library, 0, station, GOOD_WORK * length, HALF)
        repairs = [as_repair(piece, proposal)] if proposal else []
        repairs += _longer_window(piece, short, ground, 0, station)
        at = At(piece, piece.blocks[0], line, last)
        words = f"without max {last.versions[0].movement}"
        repairs.append(with_tasks(at, words, tuple(t for t in fixed if t is not None)))
        message = f"max {last.versions[0].movement} is never reached: the rest fills the window"
        found.append(finding("fill-never", line.line, message, "warning", repairs))
    return found


def _fills(piece: plan.Piece, station: int, tier: int) -> bool:
    lines = [
        block.lines[station - 1 : station] if block.numbered else block.lines
        for block in piece.blocks
    ]
    return any(
        isinstance(task.version(tier).amount, plan.Max | plan.Trips | None)
        for some in lines
        for line in some
        for task in line.tasks
    )


def _station_line(piece: plan.Piece, station: int) -> int:
    block = piece.blocks[0]
    return block.lines[min(station, len(block.lines)) - 1].line if block.numbered else piece.line


def off_the_aim_of_a_station(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A station whose middle lies outside what the coach hopes for at it (`aim 15-20`)."""
    if len(piece.blocks) != 1:
        return []
    block = piece.blocks[0]
    findings: list[plan.Finding] = []
    for number, line in enumerate(block.lines, start=1):
        if len(line.tasks) != 1 or (len(block.lines) > 1 and not block.numbered):
            continue
        for one in run.tiers:
            aim = line.tasks[0].version(one.tier).aim
            window = next((w for w in one.windows if w.station == number), None)
            if aim is None or window is None or aim.low <= window.reps.p50 <= aim.high:
                continue
            if any(other.line == line.line for other in findings):
                break
            message = (
                f"{tier_name(tiers, one.tier)}: about {number_words(window.reps.p50)}, "
                f"{number_words(aim.low)} to {number_words(aim.high)} is aimed at"
            )
            station = number if block.numbered else None

            def middle(
                other: plan.Piece, tier: int = one.tier, station: int | None = station
            ) -> float:
                done = trial(other, ground.library, tier)
                held = [
                    reps[done.able]
                    for (at, *_), reps in zip(done.windows, done.intervals, strict=True)
                    if station in (None, at)
                ]
                return float(np.median(np.concatenate(held)))

            wanted = Wanted(aim.low, aim.high)
            places = list(places_of(piece, station))
            repairs = ease(
                piece, ground.library, one.tier, places, middle, wanted, number_words, ground.kit
            )
            findings.append(finding("off-aim", line.line, message, "hint", repairs))
    return findings
