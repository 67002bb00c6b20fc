"""Checks that need a prediction: what the test-run shows that reading the board does not."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.checks.walk import At, Ground, finding, tasks, with_heading, with_tasks
from pine_ladder.core.clock import window_s
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.pace.ease import Place, ease, places_of
from pine_ladder.core.pace.piece import Run
from pine_ladder.core.pace.piece import run as run_piece
from pine_ladder.core.pace.rep import sample, tempo_seconds
from pine_ladder.core.pace.repair import (
    FEW_LATE,
    MOST_CHANGE,
    WORK_SLACK_S,
    as_repair,
    balance_blocks,
    fill_window,
    reach_target,
    station_work,
)
from pine_ladder.core.pace.testrun import PieceRun, in_target, test_run
from pine_ladder.core.units import clock_text

SOME_UNABLE, FEW_UNABLE = 0.2, 0.1
"""A share of a tier who cannot do it that is told, and one that is left to scaling (judgement)."""
LONGER, LONGER_STEP_S, LONGEST_WINDOW_S, EMOM_S, LOOK = (1.5, 2.0, 3.0), 15, 240, 60, 40
"""How much longer a window is proposed, in steps that coaches write, up to how long, and for how
many athletes it is tried (judgement).
"""
NOTHING_HELPS = "; neither numbers nor load help: ask for something else"
OVERFULL = 0.3
HALF = 0.5
"""Most reach what fills a window when no more than this share does not."""
"""More than this share of windows not done in time is overfull."""
NEARLY_EMPTY = 0.4
"""Work under this share of its window is nearly empty (common practice: aim at two thirds)."""
GOOD_WORK = 2 / 3
UNEVEN = 1.2
MANY_LANDINGS = 120
NEW_MOVEMENT_REPS = 40
"""Nobody does a hundred of a new movement on the first day (common practice, no source)."""
LONG_SET_S = 75
SLOWING = 1.15

Foresight = Callable[[plan.Piece, PieceRun, Ground, Sequence[str]], list[plan.Finding]]


def _tier(tiers: Sequence[str], tier: int) -> str:
    return tiers[tier] if tier < len(tiers) else f"tier {tier + 1}"


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
            who = _tier(tiers, one.tier)
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

    def late(done: Run) -> float:
        return station_work(done, station)[1]

    return ease(
        piece,
        ground.library,
        tier,
        places_of(piece, station),
        late,
        lambda share: share <= FEW_LATE,
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
    for factor in LONGER:
        form = _with_windows(bare, factor)
        if form is None or excess(piece.model_copy(update={"format": form})):
            continue
        longer = bare.model_copy(update={"format": form})
        _, late = station_work(run_piece(longer, sample(LOOK, tier), ground.library, tier), station)
        if late <= OVERFULL:
            words = f"windows of {clock_text(form.interval_s)}"
            return [with_heading(piece, words, format=form)]
    return []


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


def beyond_some_of_the_tier(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A load or a skill that a good part of a tier cannot do at all: scale it for them."""
    found = []
    told = set()
    for one in run.tiers:
        for name, share in one.unable.items():
            if share < SOME_UNABLE or name in told:
                continue
            told.add(name)
            places = [at for at in places_of(piece) if _names(piece, at, one.tier, ground) == name]
            if not places:
                continue

            others = frozenset(one.unable) - {name}

            def unable(done: Run, others: frozenset[str] = others) -> float:
                masks = (m for said, m in done.unable.items() if said not in others)
                return max((float(mask.mean()) for mask in masks), default=0.0)

            repairs = ease(
                piece,
                ground.library,
                one.tier,
                places,
                unable,
                lambda share: share <= FEW_UNABLE,
                lambda share: f"{share:.0%} cannot",
                ground.kit,
            )
            line = piece.blocks[places[0].block].lines[places[0].line].line
            message = (
                f"{_tier(tiers, one.tier)}: {_part(share)} cannot do {name} as asked: scale it"
            )
            found.append(finding("unable", line, message, "warning", repairs))
    return found


def _names(piece: plan.Piece, at: Place, tier: int, ground: Ground) -> str:
    said = piece.blocks[at.block].lines[at.line].tasks[at.task].version(tier).movement
    known = ground.library.find(said)
    return known.name if known else said


def _part(share: float) -> str:
    """A share as coaches say it: `about a third`."""
    said = ((0.9, "nearly all"), (0.6, "most"), (0.42, "about half"), (0.29, "about a third"))
    return next((words for least, words in said if share >= least), "about a quarter")


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
        window = next((one for one in windows if one.station == station), None)
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


def blocks_that_will_not_be_equal(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """AMRAP blocks of one length that give very different rounds."""
    if not isinstance(piece.format, plan.Amrap) or len(piece.blocks) < 2:
        return []
    for one in run.tiers:
        rounds = [block.rounds.p50 for block in one.blocks]
        if max(rounds) <= UNEVEN * max(min(rounds), 0.1):
            continue
        told = ", ".join(f"{r:.1f}" for r in rounds)
        proposal = balance_blocks(piece, ground.library, one.tier)
        repairs = (
            [as_repair(piece, proposal, lambda ratio: f"×{ratio:.2f} apart")] if proposal else []
        )
        message = f"{_tier(tiers, one.tier)}: the blocks give {told} rounds"
        return [finding("uneven-blocks", piece.line, message, "hint", repairs)]
    return []


def far_from_the_target(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A piece whose middle lies outside what the coach aims at, tier by tier."""
    target = piece.target
    if target is None:
        return []
    found = []
    for one in run.tiers:
        middle = in_target(target, one)
        if middle is None or target.low <= middle <= target.high:
            continue
        show = clock_text if target.unit == "time" else _rounds
        proposal = reach_target(piece, ground.library, one.tier)
        repairs = [as_repair(piece, proposal, show)] if proposal else []
        repairs = repairs or _eased_to_target(piece, target, ground, one.tier, show)
        repairs = repairs or _other_rounds(piece, target, ground, one.tier, middle)
        unit = "" if target.unit == "time" else f" {target.unit}"
        message = (
            f"{_tier(tiers, one.tier)}: about {show(middle)}{unit}, "
            f"{show(target.low)} to {show(target.high)} is aimed at"
        )
        message += "" if repairs else NOTHING_HELPS
        found.append(finding("off-target", piece.line, message, "warning", repairs))
    return found


def _eased_to_target(
    piece: plan.Piece,
    target: plan.Target,
    ground: Ground,
    tier: int,
    show: Callable[[float], str],
) -> list[plan.Repair]:
    """A lighter load or an easier rung that brings the middle of a tier into the target."""

    def middle(done: Run) -> float:
        values = done.time_s if target.unit == "time" else done.result
        return float(np.median(values[done.able]))

    return ease(
        piece,
        ground.library,
        tier,
        places_of(piece),
        middle,
        lambda value: target.low <= value <= target.high,
        show,
        ground.kit,
    )


def _other_rounds(
    piece: plan.Piece, target: plan.Target, ground: Ground, tier: int, now: float
) -> list[plan.Repair]:
    """The number of rounds nearest to what is written with which a time lands in its target."""
    form = piece.format
    if target.unit != "time" or not isinstance(form, plan.ForTime) or not form.rounds:
        return []
    fewest, most = math.ceil(form.rounds / MOST_CHANGE), math.floor(form.rounds * MOST_CHANGE)
    wanted = (
        range(form.rounds + 1, most + 1)
        if now < target.low
        else range(form.rounds - 1, fewest - 1, -1)
    )
    for rounds in wanted:
        changed = form.model_copy(update={"rounds": rounds})
        other = piece.model_copy(update={"format": changed})
        if excess(other):
            return []
        done = run_piece(other, sample(LOOK, tier), ground.library, tier)
        after = float(np.median(done.time_s[done.able]))
        if target.low <= after <= target.high:
            label = f"{form.rounds} → {rounds} rounds: {clock_text(now)} → {clock_text(after)}"
            return [with_heading(piece, label, format=changed)]
    return []


def _rounds(value: float) -> str:
    return f"{value:.1f}".removesuffix(".0")


def off_the_aim_of_a_station(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A station whose middle lies outside what the coach hopes for at it (`aim 15-20`)."""
    if len(piece.blocks) != 1:
        return []
    block = piece.blocks[0]
    found: list[plan.Finding] = []
    for number, line in enumerate(block.lines, start=1):
        if len(line.tasks) != 1 or (len(block.lines) > 1 and not block.numbered):
            continue
        for one in run.tiers:
            aim = line.tasks[0].version(one.tier).aim
            window = next((w for w in one.windows if w.station == number), None)
            if aim is None or window is None or aim.low <= window.reps.p50 <= aim.high:
                continue
            if any(other.line == line.line for other in found):
                break
            message = (
                f"{_tier(tiers, one.tier)}: about {_rounds(window.reps.p50)}, "
                f"{_rounds(aim.low)} to {_rounds(aim.high)} is aimed at"
            )
            station = number if block.numbered else None

            def middle(done: Run, station: int | None = station) -> float:
                held = [
                    reps[done.able]
                    for (at, *_), reps in zip(done.windows, done.intervals, strict=True)
                    if station in (None, at)
                ]
                return float(np.median(np.concatenate(held)))

            def fits(value: float, aim: plan.Aim = aim) -> bool:
                return aim.low <= value <= aim.high

            places = list(places_of(piece, station))
            repairs = ease(
                piece, ground.library, one.tier, places, middle, fits, _rounds, ground.kit
            )
            found.append(finding("off-aim", line.line, message, "hint", repairs))
    return found


def many_landings(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """More jumping than calves and shins like on one day (common practice, no source)."""
    landings = run.tiers[0].landings.p50
    if landings <= MANY_LANDINGS:
        return []
    message = f"about {landings:.0f} landings for most: above {MANY_LANDINGS}"
    return [finding("many-landings", piece.line, message, "hint")]


def much_of_a_new_movement(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A large volume of a movement the gym has not done before."""
    if not ground.known:
        return []
    return [
        finding(
            "first-exposure",
            piece.line,
            f"{name} is new here and most will do {reps.p50:.0f}: "
            "let everybody try a couple first, or halve it",
            "hint",
        )
        for name, reps in run.tiers[0].reps.items()
        if name not in ground.known and reps.p50 >= NEW_MOVEMENT_REPS
    ]


def long_under_tension(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """Slow sets that last longer than strength is trained in (common practice, no source)."""
    found = []
    for at in tasks(plan.Session(pieces=(piece,))):
        first = at.task.versions[0]
        if not first.tempo or not isinstance(first.amount, plan.Reps):
            continue
        reps = first.amount.low * (2 if first.side is plan.Side.EACH else 1)
        seconds = reps * tempo_seconds(first.tempo)
        if seconds > LONG_SET_S:
            message = (
                f"{reps} at tempo {first.tempo} are {clock_text(seconds)} under tension a set: "
                "fewer reps, or a lighter load than usual"
            )
            found.append(finding("tension", at.line.line, message, "hint"))
    return found


def steady_that_will_collapse(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A piece meant steady whose last rounds are predicted much slower."""
    if piece.pace != "steady":
        return []
    for one in run.tiers:
        if one.last_round and one.last_round.p50 > SLOWING:
            message = (
                f"{_tier(tiers, one.tier)}: meant steady, but the last rounds come out "
                f"{one.last_round.p50 - 1:.0%} slower than the first"
            )
            return [finding("collapse", piece.line, message, "hint")]
    return []


FORESIGHT: tuple[Foresight, ...] = (
    windows_too_full_or_empty,
    beyond_some_of_the_tier,
    fill_that_is_never_reached,
    blocks_that_will_not_be_equal,
    far_from_the_target,
    off_the_aim_of_a_station,
    many_landings,
    much_of_a_new_movement,
    long_under_tension,
    steady_that_will_collapse,
)


def foresee(
    session: plan.Session,
    runs: Sequence[PieceRun | None],
    ground: Ground,
    tiers: Sequence[str],
) -> list[plan.Finding]:
    """All findings of the test-run, in the order of the board; `runs` has one a piece."""
    found = [
        one
        for piece, run in zip(session.pieces, runs, strict=True)
        if run is not None and piece.lines and not piece.unread
        for check in FORESIGHT
        for one in check(piece, run, ground, tiers)
    ]
    return sorted(found, key=lambda f: (f.line, f.code))
