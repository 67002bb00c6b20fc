"""Checks that need a prediction: what the test-run shows that reading the board does not."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import takewhile

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding, spoken, tasks, with_heading
from pine_ladder.core.checks.whole_day import check_day
from pine_ladder.core.checks.window_fit import (
    NOTHING_HELPS,
    fill_that_is_never_reached,
    number_words,
    off_the_aim_of_a_station,
    tier_name,
    windows_too_full_or_empty,
)
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.notation.printer import format_text, line_text
from pine_ladder.core.pace.intensity import Place, Wanted, ease, first_within, places_of
from pine_ladder.core.pace.rep_times import tempo_seconds
from pine_ladder.core.pace.repair import (
    MOST_CHANGE,
    as_repair,
    balance_blocks,
    reach_target,
)
from pine_ladder.core.pace.testrun import PieceRun, in_target, trial, unable_of
from pine_ladder.core.scores.kinds import is_filled
from pine_ladder.core.units import clock_text

SOME_UNABLE, FEW_UNABLE = 0.2, 0.1
"""A share of a tier who cannot do it that is told, and one that is left to scaling (judgement)."""
UNEVEN = 1.2
MANY_LANDINGS = 120
NEW_MOVEMENT_REPS = 40
"""Nobody does a hundred of a new movement on the first day (common practice, no source)."""
LONG_SET_S = 75
SLOWING = 1.15

Foresight = Callable[[plan.Piece, PieceRun, Ground, Sequence[str]], list[plan.Finding]]


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

            def unable(
                other: plan.Piece, tier: int = one.tier, others: frozenset[str] = others
            ) -> float:
                shares = unable_of(other, ground.library, tier)
                return max((part for said, part in shares.items() if said not in others), default=0)

            repairs = ease(
                piece,
                ground.library,
                one.tier,
                places,
                unable,
                Wanted(0, FEW_UNABLE),
                lambda share: f"{share:.0%} cannot",
                ground.kit,
            )
            line = piece.blocks[places[0].block].lines[places[0].line].line
            message = (
                f"{tier_name(tiers, one.tier)}: {_part(share)} cannot do {name} as asked: scale it"
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


def blocks_that_will_not_be_equal(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """AMRAP blocks of one length that give very different rounds."""
    if not isinstance(piece.format, plan.Amrap) or len(piece.blocks) < 2:
        return []
    if any(is_filled(block.lines) for block in piece.blocks):
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
        message = f"{tier_name(tiers, one.tier)}: the blocks give {told} rounds"
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
        show = clock_text if target.unit == "time" else number_words
        proposal = reach_target(piece, ground.library, one.tier)
        repairs = [as_repair(piece, proposal, show)] if proposal else []
        repairs = repairs or _eased_to_target(piece, target, ground, one.tier, show)
        repairs = repairs or _other_rounds(piece, target, ground, one.tier, middle)
        unit = "" if target.unit == "time" else f" {target.unit}"
        message = (
            f"{tier_name(tiers, one.tier)}: about {show(middle)}{unit}, "
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

    def middle(other: plan.Piece) -> float:
        done = trial(other, ground.library, tier)
        values = done.time_s if target.unit == "time" else done.result
        return float(np.median(values[done.able]))

    return ease(
        piece,
        ground.library,
        tier,
        places_of(piece),
        middle,
        Wanted(target.low, target.high),
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
    forms = [form.model_copy(update={"rounds": rounds}) for rounds in wanted]
    possible = takewhile(lambda one: not excess(piece.model_copy(update={"format": one})), forms)

    def middle(time: plan.ForTime) -> float:
        other = piece.model_copy(update={"format": time})
        done = trial(other, ground.library, tier)
        return float(np.median(done.time_s[done.able]))

    found = first_within(list(possible), middle, Wanted(target.low, target.high), now)
    if found is None:
        return []
    other, after = found
    label = f"{form.rounds} → {other.rounds} rounds: {clock_text(now)} → {clock_text(after)}"
    return [with_heading(piece, label, format=other)]


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
                f"{tier_name(tiers, one.tier)}: meant steady, but the last rounds come out "
                f"{one.last_round.p50 - 1:.0%} slower than the first"
            )
            return [finding("collapse", piece.line, message, "hint")]
    return []


DOUBTFUL = 1.5
"""Factor off the target, in every tier, from which the reading of a piece is doubted."""


def far_off_in_every_tier(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A piece that lies far from its target in every tier: it may have been read otherwise than it
    was meant.
    """
    target = piece.target
    middles = [in_target(target, tier) for tier in run.tiers]
    if target is None or None in middles:
        return []
    aimed = math.sqrt(max(target.low, 0.5) * max(target.high, 0.5))
    times = [max(middle or 0.0, 0.1) / aimed for middle in middles]
    if not (min(times) > DOUBTFUL or max(times) < 1 / DOUBTFUL):
        return []
    work = "; ".join(line_text(line) for line in piece.lines[:4])
    message = f"I read this as {format_text(piece.format)}: {work}. Is that what you meant?"
    return [finding("doubtful-reading", piece.line, message)]


NOBODY, EARLY = 0.85, 0.5
"""The share of a tier that is capped, and the part of a cap that everybody needs, at which the cap
says nothing (judgement).
"""


def caps_that_say_nothing(
    piece: plan.Piece, run: PieceRun, ground: Ground, tiers: Sequence[str]
) -> list[plan.Finding]:
    """A cap that nearly nobody meets, or that everybody is through in half of."""
    if piece.cap_s is None:
        return []
    first = run.tiers[0]
    nobody = min(tier.capped_share for tier in run.tiers) >= NOBODY
    early = max(tier.time_s.p90 for tier in run.tiers) < EARLY * piece.cap_s
    if not nobody and not early:
        return []
    free = trial(piece.model_copy(update={"cap_s": None}), ground.library, first.tier)
    usual = 30 * math.ceil(float(np.quantile(free.time_s[free.able], 0.8)) / 30)
    repair = with_heading(piece, f"cap {clock_text(usual)}", cap_s=usual)
    message = (
        f"hardly anybody finishes under the cap of {clock_text(piece.cap_s)}"
        if nobody
        else f"everybody is done in half of the cap of {clock_text(piece.cap_s)}"
    )
    return [finding("cap", piece.line, message, "hint", [repair])]


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
    caps_that_say_nothing,
    far_off_in_every_tier,
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
    found += check_day(session, ground)
    return sorted(spoken(found, session), key=lambda f: (f.line, f.code))
