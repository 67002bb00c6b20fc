"""Jotting on the floor: what can be noted of a piece as it happens, and the score it makes."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Literal

from pine_ladder.core import plan
from pine_ladder.core.plan import Frozen, ScoreKind
from pine_ladder.core.scores.kinds import (
    counted_intervals,
    intervals_left_open,
    own_rounds,
    reps_of_round,
    score_kind,
)
from pine_ladder.core.units import clock_text, number_text

EXTRA = 0
"""The place of reps beyond the last full round."""
MOST_ROUNDS = 200


class Strip(Frozen):
    """The places of a piece's strip: reps of each interval, seconds of each round, or kg of sets.

    `labels` name the places from 1; `more` lets places be added; `extra` asks for reps beyond the
    last full round, at place 0. `even` tells that each place takes the seconds of equal work, so
    that they can be held against each other.
    """

    unit: Literal["reps", "s", "kg"]
    labels: tuple[str, ...]
    more: bool
    extra: bool
    even: bool = False


def strip_of(piece: plan.Piece) -> Strip | None:
    """What a piece is jotted by; None where there is nothing to jot round by round."""
    form = piece.format
    match score_kind(piece):
        case ScoreKind.TOTAL_REPS | ScoreKind.LOWEST_INTERVAL:
            blocks = len(piece.blocks)
            if isinstance(form, plan.Amrap) and blocks > 1:
                labels = tuple(f"block {n}" for n in range(1, blocks + 1))
            else:
                labels = tuple(interval.label for interval in counted_intervals(piece))
            return Strip(unit="reps", labels=labels or ("reps",), more=False, extra=False)
        case ScoreKind.ROUNDS:
            count = piece.target.high if piece.target and piece.target.unit == "rounds" else 5
            labels = tuple(f"round {n}" for n in range(1, min(count, 20) + 1))
            return Strip(unit="s", labels=labels, more=True, extra=True, even=_even(piece, 2))
        case ScoreKind.TIME if isinstance(form, plan.ForTime):
            if form.scheme:
                labels = tuple(map(str, form.scheme))
            else:
                rounds = form.rounds or own_rounds(piece)
                if rounds == 1:
                    return None
                labels = tuple(f"round {n}" for n in range(1, rounds + 1))
            even = _even(piece, len(labels))
            return Strip(unit="s", labels=labels, more=False, extra=False, even=even)
        case ScoreKind.LOAD:
            count = form.low if isinstance(form, plan.Sets) else 5
            labels = tuple(f"set {n}" for n in range(1, count + 1))
            return Strip(unit="kg", labels=labels, more=True, extra=False)
    return None


def _even(piece: plan.Piece, count: int) -> bool:
    """Whether the rounds of a piece are of equal work: no ladder, no scheme that falls."""
    return len({reps_of_round(piece, n, 0, 0) for n in range(1, count + 1)}) == 1


def next_place(strip: Strip, rounds: Mapping[int, float]) -> int | None:
    """The first place from 1 that holds no note; None where the strip is full."""
    place = 1
    while place in rounds:
        place += 1
    return place if strip.more or place <= len(strip.labels) else None


def open_places(piece: plan.Piece, rounds: Mapping[int, float]) -> tuple[str, ...]:
    """The labels of places that were left out, and would make the score another than was done.

    Where places can be added, those before the last note alone are missed.
    """
    strip = strip_of(piece)
    if strip is None or not rounds:
        return ()
    last = max(rounds) if strip.more else len(strip.labels)
    return tuple(_label(strip, place) for place in range(1, last + 1) if place not in rounds)


def _label(strip: Strip, place: int) -> str:
    if place <= len(strip.labels):
        return strip.labels[place - 1]
    return f"{'set' if strip.unit == 'kg' else 'round'} {place}"


def entry_of(piece: plan.Piece, rounds: Mapping[int, float], end_s: int | None = None) -> str:
    """The entry that jots make, in shorthand; empty while there is none.

    `end_s` is the athlete's end of a piece for time, in whole seconds. It is the time: rounds that
    were noted on the way are told with it where all are there, the last as long as is left.

    >>> from pine_ladder.core.notation import parse
    >>> (piece,) = parse("## Conditioning: 3 rounds for time\\n5 burpee").session.pieces
    >>> entry_of(piece, {1: 60, 2: 65, 3: 70}, end_s=197), entry_of(piece, {1: 60}, end_s=197)
    ('1:00 1:05 1:12', '3:17')
    """
    strip = strip_of(piece)
    if end_s is not None and score_kind(piece) is ScoreKind.TIME:
        rounds = _up_to(end_s, rounds, len(strip.labels) if strip else 0)
        if not rounds:
            return clock_text(end_s)
    numbers = [rounds[n] for n in sorted(rounds) if n != EXTRA]
    if strip is None or not (numbers or rounds):
        return ""
    if strip.unit == "s":
        splits = " ".join(clock_text(seconds) for seconds in numbers)
        if score_kind(piece) is ScoreKind.TIME:
            return splits
        extra = int(rounds.get(EXTRA, 0))
        head = f"{len(numbers)}+{extra}" if extra else f"{len(numbers)}"
        return f"{head} splits {splits}" if splits else head
    told = " ".join(number_text(number) for number in numbers)
    beyond = max(rounds) - len(strip.labels) - intervals_left_open(piece)
    if not strip.more and beyond > 0:
        told += f", {beyond} added"
    # Without the word they might be read as rounds of each block.
    blocks = isinstance(piece.format, plan.Amrap) and len(piece.blocks) > 1
    return f"{told} reps" if blocks and told and strip.unit == "reps" else told


def _up_to(end_s: int, rounds: Mapping[int, float], count: int) -> dict[int, float]:
    """Rounds that add up to an end; none where they leave one out, or nothing for the last."""
    before = [rounds.get(place) for place in range(1, count)]
    numbers = [number for number in before if number is not None]
    last = end_s - sum(numbers)
    if count < 2 or len(numbers) < count - 1 or last <= 0:
        return {}
    return {place: number for place, number in enumerate([*numbers, last], start=1)}


_TIME = re.compile(r"(\d{1,3})[:.](\d\d)")
_SHAPES = {
    "s": re.compile(r"\d{1,5}"),
    "reps": re.compile(r"\d{1,5}"),
    "kg": re.compile(r"\d{1,4}([.,]\d{1,2})?"),
}


def read_jot(text: str, unit: Literal["reps", "s", "kg"]) -> float | None:
    """A number as it is jotted in a unit: plain, or minutes:seconds where seconds are noted.

    None for what is neither. Displays read the same without network, by the vectors of this.
    """
    typed = text.strip()
    if unit == "s" and (match := _TIME.fullmatch(typed)):
        return int(match[1]) * 60 + int(match[2]) if int(match[2]) < 60 else None
    if not typed.isascii() or not _SHAPES[unit].fullmatch(typed):
        return None
    return float(typed.replace(",", "."))
