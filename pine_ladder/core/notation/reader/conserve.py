"""Conservation: every word and number that was typed stands in the plan, in a note or in a name.

Runs over any reading: the rows as typed on one side, the exact text on the other.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.labels import label_of
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.units import M_PER_FT, clock_text, number_text

_NUMBERS = (
    "number", "range", "scheme", "pair", "by", "times n", "time", "distance", "cal", "height",
    "weight", "percent", "rpe", "bodyweight", "tempo code", "prime", "seconds or inches",
    "grow", "every n", "clock range",
)  # fmt: skip


_FIGURES, _DIGITS = re.compile(r"\d+:\d\d|\d+(?:[.,]\d+)?"), re.compile(r"\d+")
_WORDS, _MARK = re.compile(r"[a-z]+"), re.compile(r"[a-z]\d?")


_SHOWN_AS = {
    "max": ("max", "amrap", ":", " s "),
    "amrap": ("amrap", "max", "every", "continuous"),
    "emom": ("emom", "every"),
    "tabata": ("tabata",),
    "unbroken": ("unbroken",),
    "each side": ("each side", "alternat", "left", "right", "each", "per"),
    "alternating": ("alternat", "each side", "teams", "1)"),
    "one arm": ("one arm", "one-arm", "single", "dumbbell", "kettlebell"),
    "build": ("build", "heavy", "max"),
    "sub": ("|", " or "),
    "scaled": ("|",),
}
"""Words of the trade by kind, each with the words by which a plan may show it."""


_EASED = re.compile(r"sub|scal|sc\b")
"""The words that give an easier version, of those that may."""


class Lost(NamedTuple):
    """Text that stands in no plan, note or name: its line and columns, from 1."""

    line: int
    column: int
    text: str
    amount: bool
    """It is a number or a movement, not a word."""


def _values(value: object) -> Iterator[float]:
    if isinstance(value, int | float) and not isinstance(value, bool):
        yield float(value)
    elif isinstance(value, tuple | list):
        for one in value:
            yield from _values(one)


@lru_cache(maxsize=4096)
def _ways(value: float, *, in_seconds: bool) -> frozenset[str]:
    """The ways a number may be printed in exact text."""
    seconds = value if in_seconds else value * 60
    ways = {number_text(value), number_text(round(value, 1)), str(int(value))}
    if seconds < 24 * 3600:
        ways |= {clock_text(round(seconds)), str(round(seconds)), clock_text(round(value))}
        if seconds % 60 == 0:
            ways.add(str(round(seconds / 60)))
    ways.add(number_text(round(value * M_PER_FT, 3)))
    ways.add(number_text(round(value * 100)))
    return frozenset(ways)


def _shown(token: Token, value: float, words: set[str]) -> bool:
    """Whether a number stands in the exact text in one of the ways it may be printed."""
    in_seconds = token.kind in ("time", "seconds or inches", "every n")
    return not _ways(value, in_seconds=in_seconds).isdisjoint(words)


def numbers_of(text: str) -> set[str]:
    """The numbers and times that stand in a text."""
    return set(_FIGURES.findall(text)) | set(_DIGITS.findall(text))


def implied(session: plan.Session) -> set[str]:
    """Numbers that a plan says without printing them: copies of a block, a total of windows, the
    steps of a ladder, stations.
    """
    out = set()
    for piece in session.pieces:
        form = piece.format
        out.add(len(piece.blocks))
        out |= set(range(1, 1 + max((len(block.lines) for block in piece.blocks), default=0)))
        if isinstance(form, plan.Every) and form.rounds:
            total = form.interval_s * form.rounds * max(1, len(piece.lines))
            out |= {form.interval_s * form.rounds // 60, total // 60}
            out.add(form.rounds * max(1, len(piece.lines)))
        if isinstance(form, plan.Intervals):
            each = (form.work_s + form.rest_s) * form.rounds
            out |= {each // 60, each * max(1, len(piece.lines)) // 60}
        if isinstance(form, plan.Tabata):
            out |= {8, 20, 10, 4 * max(1, len(piece.blocks))}
        if piece.grow_reps:
            versions = [
                version for line in piece.lines for task in line.tasks for version in task.versions
            ]
            steps = {
                version.amount.low for version in versions if isinstance(version.amount, plan.Reps)
            }
            out |= {step + piece.grow_reps * by for step in steps for by in range(12)}
    return {str(one) for one in out}


def lost(
    rows: Sequence[Row], exact: str, library: Library, implies: Iterable[str] = ()
) -> list[Lost]:
    """Words and numbers of the rows that the exact text does not hold."""
    low = exact.lower()
    words = set(_WORDS.findall(low))
    numbers = numbers_of(low) | set(implies)
    out: list[Lost] = []
    for row in rows:
        mark = label_of(row)
        start = mark.end if mark is not None else 0
        for token in tokens(row.text, library):
            if token.start >= start and not _held(token, row, low, words, numbers):
                said = _as_typed(row, token)
                slot = (
                    token.kind in ("range", "clock range") and not row.text[: token.start].strip()
                )
                said_of_work = (*_NUMBERS, "movement", "sub", "scaled", "max", "unbroken")
                amount = token.kind in said_of_work and not slot
                out.append(Lost(row.number, row.at + token.start + 1, said, amount))
    return out


def _held(token: Token, row: Row, low: str, words: set[str], numbers: set[str]) -> bool:
    typed = row.typed[row.at + token.start : row.at + token.end].lower()
    if token.kind == "word" and _MARK.fullmatch(typed):
        return True
    eased = token.kind not in ("sub", "scaled") or _EASED.match(typed)
    if token.kind in _SHOWN_AS and eased and typed not in ("each", "ea", "alt"):
        return any(word in low for word in (*_SHOWN_AS[token.kind], typed))
    if token.kind == "tempo code":
        return str(token.value).lower() in low or typed in low
    if token.kind == "word":
        return all(one in words for one in _WORDS.findall(typed))
    if token.kind == "movement":
        name = str(token.means["movement"]).lower()
        return bool(name and name in low) or all(one in words for one in _WORDS.findall(typed))
    first = not row.text[: token.start].strip()
    ranges = token.kind in ("range", "time") and first and len(token.value) > 1
    if token.kind == "clock range" or ranges:
        # A place in the hour is told by how long it is.
        length = abs(token.value[1] - token.value[0])
        told = {clock_text(round(60 * length)), clock_text(round(length)), str(round(length))}
        if told & numbers or typed in low:
            return True
    if token.kind in _NUMBERS:
        values = [one for one in _values(token.value) if one]
        return all(_shown(token, value, numbers) for value in values) or typed.strip() in low
    return True


def said_twice(
    rows: Sequence[Row],
    items: Sequence[tuple[int, str]],
    told: Sequence[Lost],
    library: Library,
    implies: Iterable[str] = (),
) -> Iterator[Lost]:
    """Numbers that a line says more often than what was made of it: `AMRAP 4, rest 2, x4`.

    `items` are the printed lines with the line that said each; those that are `told` already, and
    lines of which nothing was made, are passed over.
    """
    known = {lost_word.line for lost_word in told}
    implied_by, whole = set(implies), " ".join(text for _, text in items)
    for number in dict.fromkeys(row.number for row in rows):
        own = [text for line, text in items if line == number]
        if not own or number in known:
            continue
        printed = Counter(_DIGITS.findall(" ".join(own)))
        said = [
            (row, token)
            for row in rows
            if row.number == number
            for token, after in _with_next(tokens(row.text, library))
            if token.kind in ("number", "times n") and token.start >= _mark_end(row)
            if not _heads(token, after, whole) or _heads(token, after, " ".join(own))
        ]
        for row, token in said:
            (value, *more) = (str(int(one)) for one in _values(token.value))
            if more or value in implied_by or value not in printed:
                continue
            printed[value] -= 1
            if printed[value] < 0:
                yield Lost(number, row.at + token.start + 1, _as_typed(row, token), True)


def _as_typed(row: Row, token: Token) -> str:
    """The typed text of a token; of a number word, `ten` read as `10 `, the whole word."""
    start, end = row.at + token.start, row.at + token.end
    if row.typed[start:end].isalpha():
        end += len(row.typed[end:]) - len(row.typed[end:].lstrip(_LETTERS))
    return row.typed[start:end]


_LETTERS = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"


def _with_next(said: Sequence[Token]) -> Iterator[tuple[Token, str]]:
    """Tokens, each with the kind of the one behind it; empty for the last."""
    return zip(said, [*(token.kind for token in said[1:]), ""], strict=True)


def _heads(token: Token, after: str, whole: str) -> bool:
    """Whether a number counts rounds or sets that a heading holds, in whatever line it stands."""
    counted = after in ("rounds", "rft", "sets")
    number = number_text(next(_values(token.value), 0))
    return counted and re.search(rf"\b{re.escape(number)} (?:rounds|sets)\b", whole) is not None


def _mark_end(row: Row) -> int:
    mark = label_of(row)
    return mark.end if mark is not None else 0
