"""Scores that are counted: rounds and reps, reps by interval, steps."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import (
    Interval,
    Refused,
    Rounds,
    Score,
    counted,
    counted_intervals,
    intervals_left_open,
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
from pine_ladder.core.scores.shorthand.qualifiers import Named, into_a_round, named_reps, one_of
from pine_ladder.core.units import clock_text

ROUNDS_AND_REPS = re.compile(
    # A number is never cut in two: 100 is not 10 rounds and 0.
    r"(\d{1,6})(?!\d)\s*(?:r|rd|rds|rounds?)?\s*(?:\+|and|plus|/)?\s*(?:(\d{1,6})\s*(?:reps?)?)?"
)
PARTLY = re.compile(
    r"(\d{1,4})\s*(?:r|rds?|rounds?)\s*(?:(?:\+|,|&|and|plus)\s*(?P<rest>\S.*))?"
    r"|(\d{1,4})\s*\+\s*(?P<named>\d.*[a-z].*|\d{1,4}(?:\s*\+\s*\d{1,4})+)"
)
"""Full rounds, and into the next one by name: `1 round + 30 swings`."""
ADDED = re.compile(r"(.+?)[\s,;(]+(\d{1,2})\s+(?:rounds?\s+|intervals?\s+)?added\)?")
ALL_REPS = re.compile(r"(\d{1,6})\s*(?:reps?(?:\s*(?:in\s+)?(?:total|all))?|total(?:\s*reps?)?)")


def display_of(rounds: int, extra: int) -> str:
    """Rounds and reps as they are shown: `5+12`, `5`."""
    return f"{rounds}+{extra}" if extra else f"{rounds}"


def partly(text: str, at: Context) -> tuple[int, int] | None:
    """Full rounds and the reps after them where a partial round is told by movement."""
    match = PARTLY.fullmatch(text)
    rest = (match["rest"] or match["named"]) if match else None
    if not match or (rest and re.fullmatch(r"\d+\s*(?:reps?)?", rest)):
        return None
    full = int(match[1] or match[3])
    if rest is None:
        return full, 0
    if re.fullmatch(r"\d+(?:\s*\+\s*\d+)+", rest):
        return full, sum(map(int, re.findall(r"\d+", rest)))
    named = named_reps(rest)
    return (full, into_a_round(named, at, full)) if named else None


def _with_partial(body: str, at: Context) -> str:
    """An entry whose reps are told by movement, in rounds and reps."""
    told = partly(body, at)
    if told is not None:
        return display_of(*told)
    named = named_reps(body)
    if named is None:
        return body
    order = [task.version(at.tier).movement for x in at.piece.lines for task in x.tasks]
    for one in named:
        one_of(one.movement, order)
    return f"{sum(one.reps for one in named)} reps"


def rounds(text: str, at: Context) -> Score:
    """Rounds and reps: `5+12`; reps alone, `122 reps`, are told as rounds."""
    body, extras = extras_of(text)
    body = _with_partial(body, at)
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
    reading = doubt = None
    if whole:
        reading = f"{total} reps are {display_of(rounds, extra)}"
    elif (rounds, extra) != entered:
        size = at.reps(entered[0] + 1)
        reading = f"a round is {size} reps: {entered[0]}+{entered[1]} is {rounds}+{extra}"
        if rounds > entered[0] + 1:
            # Reps of one round more are counted on; reps of several are a slip of the pen.
            doubt = f"{reading}, which is {rounds - entered[0]} rounds more"
    key = float(total) if at.reps(1) else rounds * 1000.0 + extra
    return Score(
        kind=ScoreKind.ROUNDS,
        value={"rounds": rounds, "reps": extra, **told_splits(extras)},
        display=display,
        doubt=doubt,
        order_key=key + tie,
        total_reps=total,
        reading=reading,
        rounds=split_rounds(extras),
    )


def _counts(text: str) -> list[int]:
    """Numbers as jotted: `18 17 17 16`, `18,17`, `4x15`, `40+38`."""
    out: list[int] = []
    plain = re.sub(r"\s*\b(?:reps?|total|in all|altogether)\b\s*", " ", text)
    plain = re.sub(r"\b(?:and|plus)\b", " ", plain)
    for part in re.split(r"[\s,;+&/]+", plain.strip("+& ")):
        repeated = re.fullmatch(r"(?:(\d{1,2})[x×])?(\d{1,5})(?:reps?)?", part)
        if not repeated:
            raise Refused(f"“{text}”: write the reps, as in 72 or 18 17 17 16")
        out += [int(repeated[2])] * int(repeated[1] or 1)
    if sum(out) > MAX_REPS:
        raise Refused(f"“{text}”: no one does that many")
    return out


def _told_as(text: str, at: Context) -> tuple[str, str | None]:
    """Numbers of blocks, and whether they are `rounds` or `reps`; raises Refused where both may be.

    They are what bodies can do in the blocks' time: at the pace of fresh reps, at most half as
    fast again and at least a quarter as fast (judgement). Words settle it: `8 9 10 15 rounds`.
    """
    match = re.fullmatch(r"(.*\d)\s*(rounds?|rds?|reps?)(?:\s*(?:each|a block|per block))?", text)
    numbers = match[1] if match else text
    counts_reps = all(_one_task_to_its_end(block, at) for block in at.piece.blocks)
    chain = re.sub(r"\s*\+\s*", "+", numbers.strip())
    if re.fullmatch(r"\d+(?:\+\d+){2,}", chain) and chain.count("+") == len(at.piece.blocks) - 1:
        numbers = chain.replace("+", " ")  # A number of each block.
    if "+" in numbers and not counts_reps:
        return numbers, "rounds"
    if counts_reps:
        return text, None
    parts = [part for part in re.split(r"[\s,;/]+", numbers.strip()) if part]
    if len(parts) < 2 or not all(part.isdigit() for part in parts):
        return text, None
    if match:
        return numbers, "reps" if match[2].startswith("rep") else "rounds"
    form, blocks = at.piece.format, at.piece.blocks
    assert isinstance(form, plan.Amrap)
    off = {"rounds": 0.0, "reps": 0.0}
    for part, block in zip(parts, blocks, strict=False):
        done = int(part)
        if not done:
            continue
        size, seconds = _of_block(block, at)
        for way, reps in (("rounds", done * size), ("reps", done)):
            spent = reps * seconds
            # How far beyond what can be: 0 is possible, log 2 is twice too much or too little.
            fast = math.log(max(spent, 0.1) / (form.length_s * FASTER_THAN_FRESH))
            slow = math.log(form.length_s / MOST_IDLE / max(spent, 0.1))
            off[way] = max(off[way], fast, slow)
    likely, other = sorted(off, key=lambda way: off[way])
    if off[other] > 0 and (off[likely] <= 0 or off[other] - off[likely] > math.log(CLEARLY)):
        return numbers, likely
    listed = " ".join(parts)
    raise Refused(
        f"“{text}”: rounds or reps of each block? Write {listed} rounds, or {listed} reps"
    )


def _one_task_to_its_end(block: plan.Block, at: Context) -> bool:
    """Whether a block is one task of as many reps as its time allows: it has no rounds."""
    tasks = [task.version(at.tier) for line in block.lines for task in line.tasks]
    return len(tasks) == 1 and isinstance(tasks[0].amount, plan.Max)


def _of_block(block: plan.Block, at: Context) -> tuple[int, float]:
    """Reps of a block's first round, and the usual seconds of a fresh one of them."""
    one = at.piece.model_copy(update={"blocks": (block,)})
    size = reps_in_round(one, 1, at.tier, at.track)
    seconds = 0.0
    for line in block.lines:
        for task in line.tasks:
            exercise = task.version(at.tier)
            reps = counted(exercise, 0, 1, at.tier, at.track)
            movement = library().find(exercise.movement)
            if isinstance(exercise.amount, plan.Duration):
                seconds += exercise.amount.seconds
            elif isinstance(exercise.amount, plan.Distance):
                seconds += exercise.amount.metres[0] * USUAL_METRE_S
            else:
                seconds += reps * (movement.seconds if movement else USUAL_REP_S)
    return size, seconds / max(size, 1)


MOST_IDLE, FASTER_THAN_FRESH, CLEARLY = 4.0, 1.5, 2.0
USUAL_METRE_S, USUAL_REP_S = 0.3, 3.0


def _by_block(text: str, at: Context) -> list[int] | None:
    """Reps of each block where they are told as rounds+reps: `4+3, 5, 5+2, 6`."""
    blocks = at.piece.blocks
    if len(blocks) < 2 or not isinstance(at.piece.format, plan.Amrap):
        return None
    text, way = _told_as(text, at)
    if way != "rounds":
        return None
    parts = [p for p in re.split(r"[\s,;/]+", re.sub(r"\s*\+\s*", "+", text.strip())) if p]
    if len(parts) > len(blocks):
        raise Refused(f"{len(blocks)} blocks, but {len(parts)} numbers")
    out = []
    for part, block in zip(parts, blocks, strict=False):
        match = re.fullmatch(r"(\d{1,3})(?:\+(\d{1,4}))?", part)
        if not match:
            raise Refused(f"“{part}”: write each block as rounds+reps, as in 4+3 5 5+2 6")
        one = at.piece.model_copy(update={"blocks": (block,)})
        size = sum(reps_in_round(one, r, at.tier, at.track) for r in range(1, int(match[1]) + 1))
        out.append(size + int(match[2] or 0))
    return out


def _added(text: str) -> tuple[str, int]:
    """An entry, and how many intervals it says were added on the floor: `9 8 7, 1 added`."""
    match = ADDED.fullmatch(text)
    return (match[1], int(match[2])) if match else (text, 0)


def _checked(text: str, counts: Sequence[int], held: Sequence[Interval], room: int) -> None:
    """Refuse more numbers than intervals, and more reps than each has room for.

    `room` is how many there may have been: those of the plan, of its range and those added.
    """
    if len(counts) > room:
        more = len(counts) - room
        raise Refused(
            f"{room} intervals are counted, but {len(counts)} numbers are given; "
            f"where the coach added some, write {text}, {more} added"
        )
    for at, count in enumerate(counts):
        if count:
            check_fits(count, held[at % len(held)].length_s, str(count))


def _by_movement(counts: Sequence[int], held: Sequence[Interval]) -> dict[str, int]:
    """Reps by movement where every interval was told and there are several movements."""
    if len(counts) != len(held) or len({interval.label for interval in held}) < 2:
        return {}
    out: dict[str, int] = {}
    for count, interval in zip(counts, held, strict=True):
        out[interval.label] = out.get(interval.label, 0) + count
    return out


def _by_name(
    named: Sequence[Named], at: Context, held: Sequence[Interval], lowest: bool
) -> Score | None:
    """Reps told by movement; None where they are told interval by interval, in order."""
    names = [task.version(at.tier).movement for line in at.piece.lines for task in line.tasks]
    meant = [one_of(one.movement, names) for one in named]
    if len(named) == len(held) and [interval.label for interval in held] == meant:
        return None
    if lowest:
        raise Refused("the lowest interval counts: write the reps of each, as in 9 8 8 7")
    apart: dict[str, int] = {}
    for one, name in zip(named, meant, strict=True):
        apart[name] = apart.get(name, 0) + one.reps
    total = sum(apart.values())
    size = at.piece.teams.size if at.piece.teams else 1
    if held and total:
        check_fits(total, size * sum(interval.length_s for interval in held), str(total))
    listed = ", ".join(f"{name} {reps}" for name, reps in apart.items())
    return Score(
        kind=ScoreKind.TOTAL_REPS,
        value={"reps": total, "by_interval": []},
        display=str(total),
        order_key=float(total),
        total_reps=total,
        reading=f"{listed} = {total}",
        by_movement=apart,
    )


def _turns_told(counts: Sequence[int], held: Sequence[Interval]) -> int:
    """The number of rounds of several stations that are totalled; 0 where they are intervals."""
    stations = len({interval.label for interval in held})
    rounds = len(held) // stations if stations > 1 else 0
    return rounds if rounds > 1 and len(counts) == rounds and len(held) > rounds else 0


def _counted_score(text: str, at: Context, lowest: bool) -> Score:
    held, size = counted_intervals(at.piece), at.piece.teams.size if at.piece.teams else 1
    text, added = _added(text)
    if added and not held:
        raise Refused("no intervals are counted here, so none can have been added")
    room = len(held) + intervals_left_open(at.piece) + added
    named = named_reps(text)
    if named is not None and (told := _by_name(named, at, held, lowest)):
        return told
    by_block = _by_block(text, at)
    counts = by_block or ([one.reps for one in named] if named else _counts(text))
    several = len(counts) > 1
    total = sum(counts)
    turns = 0 if lowest or by_block or named or added else _turns_told(counts, held)
    if turns:
        each = sum(one.length_s for one in held) / turns
        for count in counts:
            check_fits(count, each, str(count))
    elif several and size == 1 and held:
        _checked(text, counts, held, room)
    elif held and total:
        longest = sum(held[n % len(held)].length_s for n in range(room))
        check_fits(total, size * longest, str(total))
    number = min(counts) if lowest else total
    jotted = " + ".join(map(str, counts))
    reading = None
    if by_block and "+" not in text:
        reading = f"rounds of each block: {jotted} = {total} reps"
    elif several:
        reading = f"lowest of {len(counts)} is {number}" if lowest else f"{jotted} = {total}"
        if turns:
            reading += f", the totals of {turns} rounds"
        elif size == 1 and len(counts) < len(held):
            reading += f" ({len(counts)} of {len(held)} intervals)"
    if added and reading:
        reading += f", {added} added"
    apart = _by_movement(counts, held) if several else {}
    if apart:
        reading = f"{reading}: " + ", ".join(f"{name} {n}" for name, n in apart.items())
    return Score(
        kind=ScoreKind.LOWEST_INTERVAL if lowest else ScoreKind.TOTAL_REPS,
        value={"reps": number, "by_interval": counts if several and not turns else []},
        display=f"{number}, {added} added" if added else str(number),
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
    """Reps of each interval, the lowest counts; `lowest 5` tells it alone."""
    text = re.sub(r"^(?:lowest|low)\s*:?\s*(?=\d)", "", text)
    return _counted_score(text, at, lowest=True)


def step(text: str, at: Context) -> Score:
    """The highest step of a ladder."""
    match = re.fullmatch(r"(?:step|round)?\s*(\d{1,4})(?:\s*\+\s*(\d{1,4})\s*(?:reps?)?)?", text)
    if not match:
        raise Refused(f"“{text}”: write the highest step reached, as in 12, or 12+5")
    step, extra = int(match[1]), int(match[2] or 0)
    form = at.piece.format
    last = form.rounds if isinstance(form, plan.Every) else None
    if last and step > last:
        raise Refused(f"step {step}, but the ladder has {last}")
    size = at.reps(step + 1)
    if size and extra >= size:
        raise Refused(f"{extra} reps are the whole of step {step + 1}: write {step + 1}")
    reps = at.reps(step)
    if isinstance(form, plan.Every) and reps:
        check_fits(reps, at.piece.work_s or form.interval_s, f"step {step}")
    total = sum(at.reps(r) for r in range(1, step + 1)) + extra
    return Score(
        kind=ScoreKind.STEP,
        value={"number": step, "reps": extra},
        display=f"{step}+{extra}" if extra else f"{step}",
        order_key=step + extra / (size or MAX_REPS),
        total_reps=total or None,
    )
