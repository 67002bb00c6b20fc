"""Tokens of the board read as numbers, times and ranges, and slips of the pen."""

from __future__ import annotations

import re
from importlib import resources
from typing import Any, NamedTuple

from lark import Lark, Token, Transformer, Tree
from lark.exceptions import UnexpectedInput, VisitError

from pine_ladder.core.units import clock_seconds

MAX_TEXT, MAX_LINES, MAX_PIECES = 20_000, 400, 40
"""Characters, lines and pieces of a board."""
MAX_LINE = 2_000
"""Characters of a line."""
MAX_SECONDS = 6 * 3600
MAX_COUNT = 100_000
MAX_ROUNDS = 500
WHOLE_LINE = 10_000
"""An end past any line: the editor marks up to the end."""


class Slip(Exception):
    """Text that cannot be read: columns are 0-based within the text given.

    `replacement` is what to write there instead; `ways` are several, where more than one is meant
    as often.
    """

    def __init__(
        self,
        message: str,
        start: int = 0,
        end: int | None = None,
        replacement: str | None = None,
        code: str = "syntax",
        ways: tuple[str, ...] = (),
    ) -> None:
        super().__init__(message)
        self.message = message
        self.start = start
        self.end = start + 1 if end is None else end
        self.replacement = replacement
        self.code = code
        self.ways = ways or ((replacement,) if replacement else ())


_FAR_TOO_LONG = re.compile(r"\d{8,}")


def check_digits(text: str) -> None:
    """Raises Slip for a number longer than any that is meant on a board."""
    if match := _FAR_TOO_LONG.search(text):
        raise Slip("this number is far too long", match.start(), match.end())


def grammar(name: str) -> Lark:
    """The LALR parser of a grammar file beside this module."""
    text = (resources.files(__package__) / name).read_text("utf-8")
    return Lark(text, parser="lalr", lexer="contextual", maybe_placeholders=False)


def span_of(token: Token) -> tuple[int, int]:
    """Start and end of a token within its text, 0-based."""
    start = token.start_pos or 0
    return start, start + len(token)


def slip_at(token: Token, message: str, replacement: str | None = None) -> Slip:
    """A slip at a token."""
    return Slip(message, *span_of(token), replacement)


def seconds_of(token: Token) -> int:
    """Seconds of a time such as `2:30`, `90 s` or `12 min`; raises Slip."""
    text = token.strip().lower()
    if ":" in text:
        try:
            seconds = clock_seconds(text)
        except ValueError as error:
            raise slip_at(token, str(error)) from None
    else:
        match = re.match(r"[\d.]+", text)
        assert match is not None
        unit = text[match.end() :].strip()
        seconds = round(float(match[0]) * (60 if unit.startswith("m") else 1))
    if seconds > MAX_SECONDS:
        raise slip_at(token, f"{token} is longer than a class can last")
    return seconds


def positive_seconds(token: Token) -> int:
    """Seconds of a time that must have a length; raises Slip."""
    seconds = seconds_of(token)
    if seconds == 0:
        raise slip_at(token, f"{token} has no length")
    return seconds


def numbers_of(token: Token) -> tuple[int, ...]:
    """Whole numbers of at least 1 from `10` or `10-8-6`; raises Slip."""
    parts = [part.strip() for part in token.split("-")]
    if any("." in part for part in parts):
        raise slip_at(token, f"{token}: reps are whole numbers")
    numbers = tuple(int(part) for part in parts)
    if any(n > MAX_COUNT for n in numbers):
        raise slip_at(token, f"{token} is more than anyone can do")
    if 0 in numbers:
        raise slip_at(token, f"{token}: nothing to do; a number here is at least 1")
    return numbers


def count_of(token: Token) -> int:
    """One whole number; raises Slip for several."""
    numbers = numbers_of(token)
    if len(numbers) != 1:
        raise slip_at(token, f"one number is meant here, not {token}")
    return numbers[0]


def rounds_of(token: Token) -> int:
    """A number of rounds a class can do; raises Slip."""
    count = count_of(token)
    if count > MAX_ROUNDS:
        raise slip_at(token, f"{token} rounds is more than a class can do")
    return count


def rounds_range(token: Token) -> tuple[int, int | None]:
    """Rounds a class can do, or a rising range of them; raises Slip."""
    low, high = range_of(token)
    if (high or low) > MAX_ROUNDS:
        raise slip_at(token, f"{token} rounds is more than a class can do")
    return low, high


def range_of(token: Token) -> tuple[int, int | None]:
    """A number, or a rising range as low and high; raises Slip."""
    numbers = numbers_of(token)
    if len(numbers) == 1:
        return numbers[0], None
    if len(numbers) == 2 and numbers[0] < numbers[1]:
        return numbers[0], numbers[1]
    raise slip_at(token, f"a number or a rising range such as 3-5 is meant here, not {token}")


def pair_of(text: str) -> tuple[float, ...]:
    """All decimal numbers in a text, in order."""
    return tuple(float(part) for part in re.findall(r"\d+(?:\.\d+)?", text))


def token_of(items: list[Any], kind: str) -> Token | None:
    """The first token of a kind among a rule's items, or None."""
    return next((i for i in items if isinstance(i, Token) and i.type == kind), None)


def tokens_of(items: list[Any], kind: str) -> list[Token]:
    """All tokens of a kind among a rule's items."""
    return [i for i in items if isinstance(i, Token) and i.type == kind]


def run(reader: Transformer[Token, Any], tree: Tree[Token]) -> Any:
    """Apply a reader to a tree; a Slip it raises comes through as itself."""
    try:
        return reader.transform(tree)
    except VisitError as error:
        if isinstance(error.orig_exc, Slip):
            raise error.orig_exc from None
        raise


def where(text: str, error: UnexpectedInput) -> int:
    """The 0-based position at which Lark gave up on a text."""
    position = getattr(error, "pos_in_stream", None)
    token = getattr(error, "token", None)
    if token is not None and token.type != "$END" and token.start_pos is not None:
        return int(token.start_pos)
    if token is not None or position is None or position < 0:
        return len(text.rstrip())
    return int(position)


class Exact(NamedTuple):
    """A line of the board in exact notation, several where one line said them all.

    `said` is False where the line stands as it was typed.
    """

    number: int
    text: str
    said: bool
