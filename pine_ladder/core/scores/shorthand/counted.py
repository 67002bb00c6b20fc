"""Scores that are counted: rounds and reps, reps by interval, steps."""

from __future__ import annotations

import re
from collections.abc import Sequence

from pine_ladder.core import plan
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import (
    Interval,
    Refused,
    Rounds,
    Score,
    counted_intervals,
    reps_in_round,
)
from pine_ladder.core.scores.shorthand.parts import (
    MAX_REPS,
    Context,
    check_fits,
    extra_words,
    extras_of,
    split_rounds,
    tie_of,
    told_splits,
)
from pine_ladder.core.units import clock_text

ROUNDS_AND_REPS = re.compile(
    # A number is never cut in two: 100 is not 10 rounds and 0.
    r"(\d{1,6})(?!\d)\s*(?:r|rd|rds|rounds?)?\s*(?:\+|and)?\s*(?:(\d{1,6})\s*(?:reps?)?)?"
)
ALL_REPS = re.compile(r"(\d{1,6})\s*(?:reps?(?:\s*(?:in\s+)?(?:total|all))?|total(?:\s*reps?)?)")


def display_of(rounds: int, extra: int) -> str:
    """Rounds and reps as they are shown: `5+12`, `5`."""
    return f"{rounds}+{extra}" if extra else f"{rounds}"


def rounds(text: str, at: Context) -> Score:
    """Rounds and reps: `5+12`; reps alone, `122 reps`, are told as rounds."""
    body, extras = extras_of(text)
    whole = ALL_REPS.fullmatch(body) if at.reps(1) else None
    found = whole or ROUNDS_AND_REPS.fullmatch(body)
    if not found:
        raise Refused(f"“{body}”: write rounds+reps, as in 5+12")
    # Reps alone are rounds from nothing on.
    rounds, extra = (0, int(whole[1])) if whole else (int(found[1]), int(found[2] or 0))
    if rounds > 1000 or extra > MAX_REPS:
        raise Refused(f"“{body}”: no one does that many")
    entered = (rounds, extra)
    while (size := at.reps(rounds + 1)) and extra >= size:
        rounds, extra = rounds + 1, extra - size
    total = sum(at.reps(r) for r in range(1, rounds + 1)) + extra
    piece = at.piece
    if isinstance(piece.format, plan.Amrap):
        check_fits(total, piece.format.length_s, body)
        spent = sum(extras.splits)
        if spent > piece.format.length_s:
            raise Refused(
                f"the splits add up to {clock_text(spent)}, more than "
                f"{clock_text(piece.format.length_s)}"
            )
    if extras.splits and len(extras.splits) not in (rounds, rounds + 1):
        raise Refused(f"{rounds} rounds, but {len(extras.splits)} splits")
    extras, tie = tie_of(extras, piece, rounds)
    display = display_of(rounds, extra) + extra_words(extras, True)
    reading = None
    if whole:
        reading = f"{total} reps are {display_of(rounds, extra)}"
    elif (rounds, extra) != entered:
        size = at.reps(entered[0] + 1)
        reading = f"a round is {size} reps: {entered[0]}+{entered[1]} is {rounds}+{extra}"
    key = float(total) if at.reps(1) else rounds * 1000.0 + extra
    return Score(
        kind=ScoreKind.ROUNDS,
        value={"rounds": rounds, "reps": extra, **told_splits(extras)},
        display=display,
        order_key=key + tie,
        total_reps=total,
        reading=reading,
        rounds=split_rounds(extras),
    )


def _counts(text: str) -> list[int]:
    """Numbers as jotted: `18 17 17 16`, `18,17`, `4x15`, `40+38`."""
    out: list[int] = []
    for part in re.split(r"[\s,;+]+", text.strip("+ ")):
        repeated = re.fullmatch(r"(?:(\d{1,2})[x×])?(\d{1,5})(?:reps?)?", part)
        if not repeated:
            raise Refused(f"“{text}”: write the reps, as in 72 or 18 17 17 16")
        out += [int(repeated[2])] * int(repeated[1] or 1)
    if sum(out) > MAX_REPS:
        raise Refused(f"“{text}”: no one does that many")
    return out


def _by_block(text: str, at: Context) -> list[int] | None:
    """Reps of each block where they are told as rounds+reps: `4+3, 5, 5+2, 6`."""
    blocks = at.piece.blocks
    if len(blocks) < 2 or not isinstance(at.piece.format, plan.Amrap) or "+" not in text:
        return None
    parts = re.split(r"[\s,;]+", re.sub(r"\s*\+\s*", "+", text.strip()))
    if len(parts) > len(blocks):
        raise Refused(f"{len(blocks)} blocks, but {len(parts)} numbers")
    out = []
    for part, block in zip(parts, blocks, strict=False):
        found = re.fullmatch(r"(\d{1,3})(?:\+(\d{1,4}))?", part)
        if not found:
            raise Refused(f"“{part}”: write each block as rounds+reps, as in 4+3 5 5+2 6")
        one = at.piece.model_copy(update={"blocks": (block,)})
        size = sum(reps_in_round(one, r, at.tier, at.track) for r in range(1, int(found[1]) + 1))
        out.append(size + int(found[2] or 0))
    return out


def _checked(counts: Sequence[int], held: Sequence[Interval], size: int) -> None:
    """Refuse more numbers than intervals, and more reps than a team of `size` has room for."""
    if held and len(counts) > 1 and size == 1:
        if len(counts) > len(held):
            raise Refused(f"{len(held)} intervals are counted, but {len(counts)} numbers are given")
        for count, interval in zip(counts, held, strict=False):
            if count:
                check_fits(count, interval.length_s, str(count))
    elif held and sum(counts):
        total = sum(counts)
        check_fits(total, size * sum(one.length_s for one in held), str(total))


def _by_movement(counts: Sequence[int], held: Sequence[Interval]) -> dict[str, int]:
    """Reps by movement where every interval was told and there are several movements."""
    if len(counts) != len(held) or len({one.label for one in held}) < 2:
        return {}
    out: dict[str, int] = {}
    for count, interval in zip(counts, held, strict=True):
        out[interval.label] = out.get(interval.label, 0) + count
    return out


def _counted_score(text: str, at: Context, lowest: bool) -> Score:
    by_block = _by_block(text, at)
    counts = by_block or _counts(text)
    held, size = counted_intervals(at.piece), at.piece.teams.size if at.piece.teams else 1
    _checked(counts, held, size)
    several = len(counts) > 1
    total = sum(counts)
    number = min(counts) if lowest else total
    jotted = " + ".join(map(str, counts))
    reading = None
    if several:
        reading = f"lowest of {len(counts)} is {number}" if lowest else f"{jotted} = {total}"
        if size == 1 and len(counts) < len(held):
            reading += f" ({len(counts)} of {len(held)} intervals)"
    apart = _by_movement(counts, held) if several else {}
    if apart:
        reading = f"{reading}: " + ", ".join(f"{name} {n}" for name, n in apart.items())
    return Score(
        kind=ScoreKind.LOWEST_INTERVAL if lowest else ScoreKind.TOTAL_REPS,
        value={"reps": number, "by_interval": counts if several else []},
        display=str(number),
        order_key=float(number),
        total_reps=total if several or not lowest else None,
        reading=reading,
        rounds=Rounds(unit="reps", numbers=tuple(map(float, counts))) if several else None,
        by_movement=apart,
    )


def total(text: str, at: Context) -> Score:
    """Reps in all, or interval by interval."""
    return _counted_score(text, at, lowest=False)


def lowest(text: str, at: Context) -> Score:
    """Reps of each interval, the lowest counts."""
    return _counted_score(text, at, lowest=True)


def step(text: str, at: Context) -> Score:
    """The highest step of a ladder."""
    found = re.fullmatch(r"(?:step|round)?\s*(\d{1,4})(?:\s*\+\s*(\d{1,4})\s*(?:reps?)?)?", text)
    if not found:
        raise Refused(f"“{text}”: write the highest step reached, as in 12, or 12+5")
    step, extra = int(found[1]), int(found[2] or 0)
    form = at.piece.format
    last = form.rounds if isinstance(form, plan.Every) else None
    if last and step > last:
        raise Refused(f"step {step}, but the ladder has {last}")
    size = at.reps(step + 1)
    if size and extra >= size:
        raise Refused(f"{extra} reps are the whole of step {step + 1}: write {step + 1}")
    reps = at.reps(step)
    if isinstance(form, plan.Every) and reps:
        check_fits(reps, form.interval_s, f"step {step}")
    total = sum(at.reps(r) for r in range(1, step + 1)) + extra
    return Score(
        kind=ScoreKind.STEP,
        value={"number": step, "reps": extra},
        display=f"{step}+{extra}" if extra else f"{step}",
        order_key=step + extra / (size or MAX_REPS),
        total_reps=total or None,
    )
