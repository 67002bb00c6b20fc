"""The numbers and times that tokens say, and the marks between tokens."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pine_ladder.core.notation.reader.facts import Range
from pine_ladder.core.notation.reader.token import Token

MOST_STEPS = 30
"""Steps of a ladder that is told by its ends."""
LEAST_PERCENT, MOST_PERCENT = 30, 105
"""Percents of a best between which bare numbers behind an `@` may be read as such."""
MARKS = ("comma", "colon", "dash", "open", "pipe")
TIMES = ("time", "clock range", "prime", "number", "range", "seconds or inches", "distance")


def seconds(token: Token, unit: Literal["min", "s"] = "min") -> Range:
    """The time a token says; a bare number is in `unit`."""
    if token.kind in ("time", "clock range"):
        return tuple(token.value)
    each = 60 if unit == "min" else 1
    if token.kind == "prime":
        return tuple(round(60 * one) for one in token.value[0])
    if token.kind == "seconds or inches":
        return tuple(round(one) for one in token.value)
    if token.kind == "number":
        return (round(each * token.value),)
    if token.kind == "range":
        return tuple(round(each * one) for one in token.value)
    if token.kind == "distance" and len(token.value[0]) == 1:
        return (round(60 * token.value[0][0]),)
    return ()


def count_of(token: Token) -> Range:
    """The number a token says, or the two of a range."""
    if token.kind == "range":
        return tuple(int(one) for one in token.value)
    if token.kind == "times n":
        return tuple(int(one) for one in token.value)
    return (int(token.value),)


def first_of(tokens: Sequence[Token], *kinds: str) -> Token | None:
    """The first token of some kinds; None where there is none."""
    return next((token for token in tokens if token.kind in kinds), None)


def by_ones(first: int, last: int) -> tuple[int, ...]:
    """The steps of `ladder 10 to 1`; the two numbers themselves where they are far apart."""
    step = 1 if last > first else -1
    if abs(last - first) > MOST_STEPS:
        return first, last
    return tuple(range(first, last + step, step))
