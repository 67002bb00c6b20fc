"""Scores as coaches jot them: shorthand read, normalised, ordered and shown.

What is shown reads back as the same score. An entry may end with the split at its last full round
(`tb 9:31`) and with the time of each round (`splits 1:40 1:52 …`).
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.clock import clock
from pine_ladder.core.plan import ScoreKind, Seconds
from pine_ladder.core.scoring import (
    ABSENT,
    CAPPED_KEY,
    Interval,
    Refused,
    Rounds,
    Score,
    counted_intervals,
    reps_in_all,
    reps_in_round,
    score_kind,
)
from pine_ladder.core.units import clock_text, lb_to_kg, number_text

FASTEST_REP_S = 0.25
"""No counted rep of any movement is faster (common practice, no source)."""
FASTEST_M_PER_S = 12.5
"""No human has run faster (about 12.4 m/s, the fastest stretch of a sprint; from memory)."""
MAX_LOAD_KG = 600
MAX_REPS = 20_000
DAY_S = 86_400
PUT_DOWN_KEY = 100_000
"""Seconds that weigh less than one put-down."""
MAX_ENTRY = 200


class _Context(NamedTuple):
    """What an entry is read against: the piece, and whose version of it."""

    piece: plan.Piece
    tier: int
    track: int

    def reps(self, round_: int) -> int:
        return reps_in_round(self.piece, round_, self.tier, self.track)


class _Extras(NamedTuple):
    """What follows the score itself: the deciding split, and the rounds' times, in seconds."""

    tie_s: Seconds | None = None
    splits: tuple[Seconds, ...] = ()


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _seconds(text: str) -> Seconds:
    found = re.fullmatch(
        r"(?:(\d{1,2})[:h]\s*)?(\d{1,3})\s*[:.'m]\s*(\d{2})\s*(?:\"|''|s)?", text.strip()
    )
    if not found or int(found[3]) > 59:
        raise Refused(f"“{text.strip()}”: write the time as minutes:seconds, 12:43")
    return int(found[1] or 0) * 3600 + int(found[2]) * 60 + int(found[3])


def _times(text: str) -> tuple[Seconds, ...]:
    return tuple(_seconds(part) for part in re.split(r"[\s,;]+", text.strip()) if part)


def _extras(text: str) -> tuple[str, _Extras]:
    """The score itself, and what follows it."""
    body, _, told = text.partition("splits")
    splits = _times(told) if told.strip() else ()
    found = re.fullmatch(r"(.*?)\s*(?:\btb\b|\btie\b|@|/)\s*(\d+[:.]\d\d)\s*", body)
    if found and found[1]:
        return found[1].strip(), _Extras(_seconds(found[2]), splits)
    return body.strip(), _Extras(None, splits)


def _extra_words(extras: _Extras, tie: bool) -> str:
    return f" tb {clock_text(extras.tie_s)}" if tie and extras.tie_s is not None else ""


def _tie_of(extras: _Extras, piece: plan.Piece, full: int) -> tuple[_Extras, float]:
    """The split at the last full round, and what it adds to the order (less than one rep)."""
    if not piece.tie_break:
        if extras.tie_s is not None:
            raise Refused("this piece has no tie-break: write the score alone")
        return extras, 0.0
    tie = extras.tie_s
    if tie is None and extras.splits:
        tie = sum(extras.splits[:full]) or None
    if tie is None:
        return extras, 0.0
    longest = piece.format.length_s if isinstance(piece.format, plan.Amrap) else piece.cap_s
    if longest and tie > longest:
        raise Refused(f"the split {clock_text(tie)} is after the end at {clock_text(longest)}")
    return extras._replace(tie_s=tie), 0.5 * (1 - tie / DAY_S)


def _told_splits(extras: _Extras) -> dict[str, Any]:
    out: dict[str, Any] = {}
    if extras.splits:
        out["splits"] = list(extras.splits)
    if extras.tie_s is not None:
        out["tie_s"] = extras.tie_s
    return out


def _split_rounds(extras: _Extras) -> Rounds | None:
    return Rounds(unit="s", numbers=tuple(map(float, extras.splits))) if extras.splits else None


def _rounds(text: str, at: _Context) -> Score:
    body, extras = _extras(text)
    found = re.fullmatch(
        r"(\d{1,6})\s*(?:r|rd|rds|rounds?)?\s*(?:\+|\s|and)?\s*(?:(\d{1,6})\s*(?:reps?)?)?", body
    )
    if not found:
        raise Refused(f"“{body}”: write rounds+reps, as in 5+12")
    rounds, extra = int(found[1]), int(found[2] or 0)
    if rounds > 1000 or extra > MAX_REPS:
        raise Refused(f"“{body}”: no one does that many")
    entered = (rounds, extra)
    while (size := at.reps(rounds + 1)) and extra >= size:
        rounds, extra = rounds + 1, extra - size
    total = sum(at.reps(r) for r in range(1, rounds + 1)) + extra
    piece = at.piece
    if isinstance(piece.format, plan.Amrap):
        _fits(total, piece.format.length_s, body)
        spent = sum(extras.splits)
        if spent > piece.format.length_s:
            raise Refused(
                f"the splits add up to {clock_text(spent)}, more than "
                f"{clock_text(piece.format.length_s)}"
            )
    if extras.splits and len(extras.splits) not in (rounds, rounds + 1):
        raise Refused(f"{rounds} rounds, but {len(extras.splits)} splits")
    extras, tie = _tie_of(extras, piece, rounds)
    display = (f"{rounds}+{extra}" if extra else f"{rounds}") + _extra_words(extras, True)
    reading = None
    if (rounds, extra) != entered:
        size = at.reps(entered[0] + 1)
        reading = f"a round is {size} reps: {entered[0]}+{entered[1]} is {rounds}+{extra}"
    key = float(total) if at.reps(1) else rounds * 1000.0 + extra
    return Score(
        kind=ScoreKind.ROUNDS,
        value={"rounds": rounds, "reps": extra, **_told_splits(extras)},
        display=display,
        order_key=key + tie,
        total_reps=total,
        reading=reading,
        rounds=_split_rounds(extras),
    )


def _fits(reps: int, length_s: float, text: str) -> None:
    """Refuse more reps than anybody's body can do in a time."""
    if reps * FASTEST_REP_S > length_s:
        raise Refused(
            f"“{text}”: {reps} reps in {clock_text(length_s)} cannot be: "
            f"that is {length_s / reps:.2f} s each"
        )


def _capped(text: str, found: re.Match[str], at: _Context, extras: _Extras) -> Score:
    if not at.piece.cap_s:
        raise Refused("this piece has no cap; write the time, as in 12:43")
    left = int(found[1] or 0)
    whole = reps_in_all(at.piece, at.tier, at.track)
    if whole and left > whole:
        raise Refused(f"{left} reps left, but the whole piece has {whole}")
    extras, tie = _tie_of(extras, at.piece, len(extras.splits))
    return Score(
        kind=ScoreKind.TIME,
        value={"capped": True, "reps_left": left, **_told_splits(extras)},
        display=(f"cap+{left}" if left else "cap") + _extra_words(extras, True),
        order_key=CAPPED_KEY - left + tie,
        total_reps=whole - left if whole else None,
        rounds=_split_rounds(extras),
    )


def _time(text: str, at: _Context) -> Score:
    piece = at.piece
    body, extras = _extras(text)
    if found := re.fullmatch(r"cap(?:ped)?(?:\s*\+?\s*(\d{1,5}))?(?:\s*(?:reps?|left))*", body):
        return _capped(body, found, at, extras)
    parts = _parts_of(body)
    if not body and extras.splits:
        parts = list(extras.splits)
    seconds = sum(parts)
    if len(parts) > 1 and not extras.splits:
        extras = extras._replace(splits=tuple(parts))
    if seconds == 0:
        raise Refused("0:00: nobody is that fast")
    if piece.cap_s and seconds > piece.cap_s:
        raise Refused(
            f"{clock_text(seconds)} is past the cap of {clock_text(piece.cap_s)}: "
            "write cap+ and the reps that were left"
        )
    least = clock(piece).at_least_s
    if least and seconds < least:
        raise Refused(f"{clock_text(least)} of work cannot be gathered in {clock_text(seconds)}")
    whole = reps_in_all(piece, at.tier, at.track)
    if whole:
        _fits(whole, seconds, body)
    if sum(extras.splits) > seconds:
        raise Refused(
            f"the splits add up to {clock_text(sum(extras.splits))}, more than "
            f"{clock_text(seconds)}"
        )
    extras, _ = _tie_of(extras, piece, len(extras.splits))
    reading = None
    if len(parts) > 1:
        reading = " + ".join(map(clock_text, parts)) + f" = {clock_text(seconds)}"
    elif body != clock_text(seconds):
        reading = f"read as {clock_text(seconds)}"
    return Score(
        kind=ScoreKind.TIME,
        value={"seconds": seconds, **_told_splits(extras)},
        display=clock_text(seconds) + _extra_words(extras, piece.tie_break),
        order_key=-float(seconds),
        total_reps=whole,
        reading=reading,
        rounds=_split_rounds(extras),
    )


def _parts_of(body: str) -> list[Seconds]:
    """One time, or the time of each round one after the other."""
    if re.fullmatch(r"\d{1,3} \d{2}", body):
        return [_seconds(body.replace(" ", ":"))]
    if re.search(r"\d[\s,;+]+\d", body):
        return list(_times(body.replace("+", " ")))
    return [_seconds(body)] if body else []


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


def _by_block(text: str, at: _Context) -> list[int] | None:
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


def _checked(counts: Sequence[int], held: Sequence[Interval], team: bool) -> None:
    """Refuse more numbers than intervals, and more reps than an interval has room for."""
    if held and len(counts) > 1 and not team:
        if len(counts) > len(held):
            raise Refused(f"{len(held)} intervals are counted, but {len(counts)} numbers are given")
        for count, interval in zip(counts, held, strict=False):
            if count:
                _fits(count, interval.length_s, str(count))
    elif held and sum(counts):
        _fits(sum(counts), sum(one.length_s for one in held) * (2 if team else 1), str(sum(counts)))


def _by_movement(counts: Sequence[int], held: Sequence[Interval]) -> dict[str, int]:
    """Reps by movement where every interval was told and there are several movements."""
    if len(counts) != len(held) or len({one.label for one in held}) < 2:
        return {}
    out: dict[str, int] = {}
    for count, interval in zip(counts, held, strict=True):
        out[interval.label] = out.get(interval.label, 0) + count
    return out


def _counted_score(text: str, at: _Context, lowest: bool) -> Score:
    by_block = _by_block(text, at)
    counts = by_block or _counts(text)
    held, team = counted_intervals(at.piece), at.piece.teams is not None
    _checked(counts, held, team)
    several = len(counts) > 1
    total = sum(counts)
    number = min(counts) if lowest else total
    jotted = " + ".join(map(str, counts))
    reading = None
    if several:
        reading = f"lowest of {len(counts)} is {number}" if lowest else f"{jotted} = {total}"
        if not team and len(counts) < len(held):
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


def _total(text: str, at: _Context) -> Score:
    return _counted_score(text, at, lowest=False)


def _lowest(text: str, at: _Context) -> Score:
    return _counted_score(text, at, lowest=True)


def _one_load(text: str, entry: str) -> tuple[int, str | None, float, float, bool]:
    """Sets, reps, the number as written, kilograms, and whether it was in pounds."""
    found = re.fullmatch(
        r"(?:(?:(\d{1,2})\s*[x×]\s*)?(\d{1,3})\s*@\s*)?(\d{1,4}(?:[.,]\d{1,2})?)\s*(kg|kgs|lb|lbs)?",
        text,
    )
    if not found:
        raise Refused(f"“{entry}”: write the load, as in 80, 80 kg, 175 lb or 3x5@80")
    value = _number(found[3])
    pounds = bool(found[4]) and found[4].startswith("l")
    kilograms = lb_to_kg(value) if pounds else value
    if not 0 < kilograms <= MAX_LOAD_KG:
        raise Refused(f"“{entry}”: loads run from above 0 to {MAX_LOAD_KG} kg")
    return int(found[1] or 1), found[2], value, kilograms, pounds


def _load(text: str, at: _Context) -> Score:
    joined = re.sub(r"(?<=\d)\s+(?=kg|lb)", "", re.sub(r"\s*([@x×])\s*", r"\1", text))
    # A comma before one or two digits and a unit, or at the end of a lone number, is a decimal.
    lone = re.fullmatch(r"\d{1,3},\d{1,2}(?:kgs?|lbs?)?", joined)
    parts = [joined] if lone else [p for p in re.split(r"[\s;]+|,(?=\s|\d{2,})", joined) if p]
    sets = [_one_load(part, text) for part in parts]
    if not sets:
        raise Refused(f"“{text}”: write the load, as in 80, 80 kg, 175 lb or 3x5@80")
    number, reps, value, kilograms, pounds = max(sets, key=lambda one: one[3])
    shown = f"{number_text(value)} {'lb' if pounds else 'kg'}"
    times = f"{number}x" if number > 1 else ""
    display = f"{times}{reps}@{shown}" if reps else shown
    reading = f"{shown} is {kilograms:.1f} kg" if pounds else None
    if len(sets) > 1:
        reading = f"heaviest of {len(sets)} sets is {shown}"
    numbers = tuple(round(kg, 3) for n, _, _, kg, _ in sets for _ in range(n))
    return Score(
        kind=ScoreKind.LOAD,
        value={
            "kg": round(kilograms, 3),
            "sets": str(number) if number > 1 else None,
            "reps": reps,
            **({"set_kg": list(numbers)} if len(numbers) > 1 else {}),
        },
        display=display,
        order_key=kilograms,
        reading=reading,
        rounds=Rounds(unit="kg", numbers=numbers) if len(numbers) > 1 else None,
    )


def _step(text: str, at: _Context) -> Score:
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
        _fits(reps, form.interval_s, f"step {step}")
    total = sum(at.reps(r) for r in range(1, step + 1)) + extra
    return Score(
        kind=ScoreKind.STEP,
        value={"number": step, "reps": extra},
        display=f"{step}+{extra}" if extra else f"{step}",
        order_key=step + extra / (size or MAX_REPS),
        total_reps=total or None,
    )


def _put_downs(text: str, at: _Context) -> Score:
    found = re.fullmatch(
        r"(\d{1,4})\s*(?:put-?downs?|drops?)?\s*[,;/@]?\s*(\d{1,3}[:.]\d{2})?", text
    )
    if not found:
        raise Refused(f"“{text}”: write the put-downs and the time, as in 3 12:43")
    downs = int(found[1])
    seconds = _seconds(found[2]) if found[2] else None
    if at.piece.cap_s and seconds and seconds > at.piece.cap_s:
        raise Refused(f"{clock_text(seconds)} is past the cap of {clock_text(at.piece.cap_s)}")
    told = f" {clock_text(seconds)}" if seconds is not None else ""
    # Without a time the slowest is meant, so that a time is never worse than none.
    behind = PUT_DOWN_KEY - 1 if seconds is None else seconds
    return Score(
        kind=ScoreKind.PUT_DOWNS,
        value={"number": downs, "seconds": seconds},
        display=f"{downs} put-down{'' if downs == 1 else 's'}{told}",
        order_key=-float(downs * PUT_DOWN_KEY + behind),
    )


def _distance(text: str, at: _Context) -> Score:
    found = re.fullmatch(r"(\d{1,6}(?:[.,]\d{1,3})?)\s*(m|metres?|meters?|km|mi|miles?)?", text)
    if not found:
        raise Refused(f"“{text}”: write the distance, as in 1500, 1500 m or 1.5 km")
    unit = found[2] or "m"
    scale = 1000.0 if unit == "km" else 1609.344 if unit.startswith("mi") else 1.0
    metres = _number(found[1]) * scale
    length = clock(at.piece).total_s
    if length and metres > FASTEST_M_PER_S * length:
        raise Refused(f"“{text}”: {metres:.0f} m in {clock_text(length)} cannot be")
    shown = number_text(round(metres, 1))
    return Score(
        kind=ScoreKind.DISTANCE,
        value={"number": round(metres, 1)},
        display=f"{shown} m",
        order_key=round(metres, 1),
        reading=f"{found[1]} {unit} is {shown} m" if scale != 1 else None,
    )


def _calories(text: str, at: _Context) -> Score:
    found = re.fullmatch(r"(\d{1,5})\s*(?:cals?|calories)?", text)
    if not found:
        raise Refused(f"“{text}”: write the calories, as in 48")
    length = clock(at.piece).total_s
    if length:
        _fits(int(found[1]), length, text)
    return Score(
        kind=ScoreKind.CALORIES,
        value={"number": int(found[1])},
        display=f"{int(found[1])} cal",
        order_key=float(found[1]),
    )


def _done(text: str, at: _Context) -> Score:
    if text not in ("done", "d", "yes", "y", "x", "ok", "✓"):
        raise Refused(f"“{text}”: this piece is only ticked off; write done")
    return Score(kind=ScoreKind.DONE, value={"done": True}, display="done", order_key=1.0)


_READERS: dict[ScoreKind, Callable[[str, _Context], Score]] = {
    ScoreKind.ROUNDS: _rounds,
    ScoreKind.TIME: _time,
    ScoreKind.TOTAL_REPS: _total,
    ScoreKind.LOWEST_INTERVAL: _lowest,
    ScoreKind.LOAD: _load,
    ScoreKind.STEP: _step,
    ScoreKind.PUT_DOWNS: _put_downs,
    ScoreKind.DISTANCE: _distance,
    ScoreKind.CALORIES: _calories,
    ScoreKind.DONE: _done,
}


def read_score(text: str, piece: plan.Piece, tier: int = 0, track: int = 0) -> Score:
    """Understand an entry as the piece's score kind. Never raises: refusals are `problems`.

    `tier` and `track` are indexes (0 is as written, the heavier column). `dns` and `dnf` stand
    for any kind and have no place.
    """
    kind = score_kind(piece)
    shown = text.strip()[:MAX_ENTRY]
    if kind is None:
        problem = "no score is kept for this piece"
        return _refused(ScoreKind.DONE, shown, problem)
    cleaned = " ".join(text.lower().split())
    if cleaned in ABSENT:
        return Score(
            kind=kind,
            value={"absent": cleaned},
            display=cleaned.upper(),
            order_key=None,
            reading=ABSENT[cleaned],
        )
    try:
        if not cleaned:
            raise Refused("nothing is written")
        return _READERS[kind](cleaned, _Context(piece, tier, track))
    except Refused as refusal:
        return _refused(kind, shown, str(refusal))


def _refused(kind: ScoreKind, shown: str, problem: str) -> Score:
    return Score(kind=kind, value={}, display=shown, order_key=None, problems=(problem,))
