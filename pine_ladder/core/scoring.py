"""Score kinds: shorthand read, normalised, ordered and shown.

Every kind gives an `order_key` that is larger for the better score, so that ranking needs no
knowledge of the kind.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from pine_ladder.core import plan
from pine_ladder.core.clock import clock
from pine_ladder.core.plan import Frozen, ScoreKind, Seconds
from pine_ladder.core.units import clock_text, lb_to_kg, number_text

CAPPED_KEY = -1_000_000.0
"""Below every finished time; the fewer reps left, the better."""
FASTEST_REP_S = 0.25
"""No counted rep of any movement is faster (common practice, no source)."""
MAX_LOAD_KG = 600
MAX_REPS = 20_000


class Score(Frozen):
    """A score as understood. `problems` say why it is refused; `reading` how it was rewritten."""

    kind: ScoreKind
    value: dict[str, Any]
    display: str
    order_key: float | None
    total_reps: int | None = None
    reading: str | None = None
    problems: tuple[str, ...] = ()


class Refused(Exception):
    """The entry cannot be; the message says why."""


def score_kind(piece: plan.Piece) -> ScoreKind | None:
    """How a piece is scored, or None when no score is kept.

    A declared kind wins. Warm-ups, cool-downs and work for quality keep none unless declared.
    """
    if piece.for_quality or piece.role is plan.Role.REST:
        return None
    if piece.score:
        return piece.score
    if piece.role in (plan.Role.WARM_UP, plan.Role.MOBILITY, plan.Role.COOL_DOWN):
        return None
    if piece.until_missed:
        return ScoreKind.STEP
    if piece.build:
        return ScoreKind.LOAD
    match piece.format:
        case plan.Amrap():
            return ScoreKind.ROUNDS if len(piece.blocks) < 2 else ScoreKind.TOTAL_REPS
        case plan.ForTime() | plan.Accumulate():
            return ScoreKind.TIME
        case plan.Tabata():
            return ScoreKind.TOTAL_REPS
        case plan.Every() | plan.Emom() if _fills(piece):
            return ScoreKind.TOTAL_REPS
    return None


def _fills(piece: plan.Piece) -> bool:
    return any(
        isinstance(task.versions[0].amount, plan.Max | plan.Trips)
        for line in piece.lines
        for task in line.tasks
    )


def _counted(exercise: plan.Exercise, grow: int, round_: int, tier: int, track: int) -> int:
    sides = 2 if exercise.side is plan.Side.EACH else 1
    match exercise.amount:
        case plan.Reps(low=low, grow=own):
            return sides * max(0, low + (own + grow) * (round_ - 1))
        case plan.Scheme(values=values, unit="reps"):
            return sides * values[min(round_, len(values)) - 1]
        case plan.Calories(calories=calories):
            return calories[min(track, len(calories) - 1)]
        case plan.Distance() | plan.Duration():
            return 1
    return 0


def reps_in_round(piece: plan.Piece, round_: int = 1, tier: int = 0, track: int = 0) -> int:
    """Reps of one round of a tier's version: a side counts, a distance or a hold counts as one.

    `round_` is 1-based; a ladder inside an AMRAP has a bigger round each time.
    """
    grow = piece.grow_reps or 0
    return sum(
        _counted(task.version(tier), grow, round_, tier, track)
        for line in piece.lines
        for task in line.tasks
    )


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _rounds(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    found = re.fullmatch(
        r"(\d{1,6})\s*(?:r|rd|rds|rounds?)?\s*(?:\+|\s)?\s*(?:(\d{1,6})\s*(?:reps?)?)?", text
    )
    if not found:
        raise Refused(f"“{text}”: write rounds+reps, as in 5+12")
    rounds, extra = int(found[1]), int(found[2] or 0)
    if rounds > 1000 or extra > MAX_REPS:
        raise Refused(f"“{text}”: no one does that many")
    entered = (rounds, extra)
    while (size := reps_in_round(piece, rounds + 1, tier, track)) and extra >= size:
        rounds, extra = rounds + 1, extra - size
    total = sum(reps_in_round(piece, r, tier, track) for r in range(1, rounds + 1)) + extra
    if isinstance(piece.format, plan.Amrap) and total * FASTEST_REP_S > piece.format.length_s:
        raise Refused(f"“{text}”: {total} reps in {clock_text(piece.format.length_s)} cannot be")
    display = f"{rounds}+{extra}" if extra else f"{rounds}"
    reading = None
    if (rounds, extra) != entered:
        size = reps_in_round(piece, entered[0] + 1, tier, track)
        reading = f"a round is {size} reps: {entered[0]}+{entered[1]} is {rounds}+{extra}"
    key = float(total) if reps_in_round(piece, 1, tier, track) else rounds * 1000.0 + extra
    value = {"rounds": rounds, "reps": extra}
    return Score(
        kind=ScoreKind.ROUNDS,
        value=value,
        display=display,
        order_key=key,
        total_reps=total,
        reading=reading,
    )


def _seconds(text: str) -> Seconds:
    found = re.fullmatch(r"(?:(\d{1,2}):)?(\d{1,3})[:.](\d{2})", text)
    if not found or int(found[3]) > 59:
        raise Refused(f"“{text}”: write the time as minutes:seconds, 12:43, or cap+14")
    return int(found[1] or 0) * 3600 + int(found[2]) * 60 + int(found[3])


def _time(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    if capped := re.fullmatch(r"cap(?:\s*\+\s*(\d{1,5}))?(?:\s*reps?)?", text):
        if not piece.cap_s:
            raise Refused("this piece has no cap; write the time, as in 12:43")
        left = int(capped[1] or 0)
        return Score(
            kind=ScoreKind.TIME,
            value={"capped": True, "reps_left": left},
            display=f"cap+{left}" if left else "cap",
            order_key=CAPPED_KEY - left,
        )
    seconds = _seconds(text)
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
    reading = f"read as {clock_text(seconds)}" if "." in text else None
    return Score(
        kind=ScoreKind.TIME,
        value={"seconds": seconds},
        display=clock_text(seconds),
        order_key=-float(seconds),
        reading=reading,
    )


def _counts(text: str) -> list[int]:
    """Numbers as jotted: `18 17 17 16`, `18,17`, `4x15`."""
    out: list[int] = []
    for part in re.split(r"[\s,;]+", text.strip()):
        repeated = re.fullmatch(r"(?:(\d{1,2})[x×])?(\d{1,5})(?:reps?)?", part)
        if not repeated:
            raise Refused(f"“{text}”: write the reps, as in 72 or 18 17 17 16")
        out += [int(repeated[2])] * int(repeated[1] or 1)
    if sum(out) > MAX_REPS:
        raise Refused(f"“{text}”: no one does that many")
    return out


def _total(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    counts = _counts(text)
    total = sum(counts)
    jotted = " + ".join(map(str, counts))
    return Score(
        kind=ScoreKind.TOTAL_REPS,
        value={"reps": total, "by_interval": counts if len(counts) > 1 else []},
        display=str(total),
        order_key=float(total),
        total_reps=total,
        reading=f"{jotted} = {total}" if len(counts) > 1 else None,
    )


def _lowest(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    counts = _counts(text)
    lowest = min(counts)
    reading = f"lowest of {len(counts)} is {lowest}" if len(counts) > 1 else None
    return Score(
        kind=ScoreKind.LOWEST_INTERVAL,
        value={"reps": lowest, "by_interval": counts if len(counts) > 1 else []},
        display=str(lowest),
        order_key=float(lowest),
        total_reps=sum(counts) if len(counts) > 1 else None,
        reading=reading,
    )


def _load(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    found = re.fullmatch(
        r"(?:(?:(\d{1,2})\s*[x×]\s*)?(\d{1,3})\s*@\s*)?(\d{1,4}(?:[.,]\d{1,2})?)\s*(kg|kgs|lb|lbs)?",
        text,
    )
    if not found:
        raise Refused(f"“{text}”: write the load, as in 80, 80 kg, 175 lb or 3x5@80")
    value = _number(found[3])
    pounds = bool(found[4]) and found[4].startswith("l")
    kilograms = lb_to_kg(value) if pounds else value
    if not 0 < kilograms <= MAX_LOAD_KG:
        raise Refused(f"“{text}”: loads run from above 0 to {MAX_LOAD_KG} kg")
    display = f"{number_text(value)} {'lb' if pounds else 'kg'}"
    sets = f"{found[1]}x" if found[1] else ""
    reps = f"{sets}{found[2]}@" if found[2] else ""
    return Score(
        kind=ScoreKind.LOAD,
        value={"kg": round(kilograms, 3), "sets": found[1], "reps": found[2]},
        display=f"{reps}{display}",
        order_key=kilograms,
        reading=f"{display} is {kilograms:.1f} kg" if pounds else None,
    )


def _done(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
    if text not in ("done", "d", "yes", "y", "x", "ok", "✓"):
        raise Refused(f"“{text}”: this piece is only ticked off; write done")
    return Score(kind=ScoreKind.DONE, value={"done": True}, display="done", order_key=1.0)


def _single(kind: ScoreKind, unit: str, better: int) -> Callable[..., Score]:
    """A kind that is one number: `better` is 1 where more is better, -1 where less is."""

    def read(text: str, piece: plan.Piece, tier: int, track: int) -> Score:
        found = re.fullmatch(r"(\d{1,6}(?:[.,]\d)?)\s*[a-z]*", text)
        if not found:
            raise Refused(f"“{text}”: write one number" + (f" of {unit}" if unit else ""))
        value = _number(found[1])
        display = f"{number_text(value)} {unit}".strip()
        return Score(kind=kind, value={"number": value}, display=display, order_key=better * value)

    return read


_READERS: dict[ScoreKind, Callable[[str, plan.Piece, int, int], Score]] = {
    ScoreKind.ROUNDS: _rounds,
    ScoreKind.TIME: _time,
    ScoreKind.TOTAL_REPS: _total,
    ScoreKind.LOWEST_INTERVAL: _lowest,
    ScoreKind.LOAD: _load,
    ScoreKind.STEP: _single(ScoreKind.STEP, "", 1),
    ScoreKind.PUT_DOWNS: _single(ScoreKind.PUT_DOWNS, "put-downs", -1),
    ScoreKind.DISTANCE: _single(ScoreKind.DISTANCE, "m", 1),
    ScoreKind.CALORIES: _single(ScoreKind.CALORIES, "cal", 1),
    ScoreKind.DONE: _done,
}


def read_score(text: str, piece: plan.Piece, tier: int = 0, track: int = 0) -> Score:
    """Understand an entry as the piece's score kind. Never raises: refusals are `problems`.

    `tier` and `track` are indexes (0 is as written, the heavier column).
    """
    kind = score_kind(piece)
    if kind is None:
        return Score(
            kind=ScoreKind.DONE,
            value={},
            display=text.strip(),
            order_key=None,
            problems=("no score is kept for this piece",),
        )
    cleaned = " ".join(text.lower().split())
    try:
        if not cleaned:
            raise Refused("nothing is written")
        return _READERS[kind](cleaned, piece, tier, track)
    except Refused as refusal:
        return Score(
            kind=kind,
            value={},
            display=text.strip(),
            order_key=None,
            problems=(str(refusal),),
        )
