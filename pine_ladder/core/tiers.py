"""The tiers and tracks a gym begins with, and how it may name its own."""

from __future__ import annotations

from collections.abc import Sequence

DEFAULT_TIERS = ("As written", "Scaled", "Starter")
DEFAULT_TRACKS = ("Heavier", "Lighter")
MOST, LONGEST = 8, 40
_MARKS = set("|,;@<>/\n\t")
"""What boards and lists part their columns with."""


def read_names(said: Sequence[str], what: str) -> tuple[str, ...]:
    """Names of tiers or tracks as they are kept; ValueError, in a sentence, for none at all, too
    many, one that is empty, too long, there twice or a mark of the notation. `what` is `tier` or
    `track`.
    """
    names = tuple(" ".join(one.split()) for one in said)
    if not 1 <= len(names) <= MOST:
        raise ValueError(f"a gym has between one {what} and {MOST}")
    for at, name in enumerate(names):
        if not name:
            raise ValueError(f"every {what} has a name")
        if len(name) > LONGEST:
            raise ValueError(
                f"{name[:20]}… is too long: a {what}'s name has up to {LONGEST} letters"
            )
        if marks := _MARKS & set(name):
            raise ValueError(f"{name}: a {what}'s name holds no {min(marks)}")
        if not any(letter.isalpha() for letter in name):
            raise ValueError(f"{name}: a {what}'s name holds a letter, scores are numbers")
        if name.casefold() in (other.casefold() for other in names[:at]):
            raise ValueError(f"there are two {what}s called {name}")
    return names
