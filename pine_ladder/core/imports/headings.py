"""Guess the fields of a table's columns by their headings and their cells."""

from __future__ import annotations

import re
import tomllib
import unicodedata
from collections.abc import Callable, Mapping, Sequence
from functools import cache
from importlib import resources
from typing import Literal

from rapidfuzz import fuzz

from pine_ladder.core.imports.dates import looks_like_date
from pine_ladder.core.imports.entries import looks_like_entry

Kind = Literal["scores", "people", "bests", "classes", "kit"]
KINDS: tuple[Kind, ...] = ("scores", "people", "bests", "classes", "kit")
NEEDED: dict[Kind, tuple[str, ...]] = {
    "scores": ("date", "piece", "person", "entered"),
    "people": ("name",),
    "bests": ("person", "lift", "entered"),
    "classes": ("weekday", "time"),
    "kit": ("what",),
}
"""Fields without which a table says nothing; a given and a family name stand for a name."""
CERTAIN, WORD, NEAR, LIKELY = 100.0, 80.0, 60.0, 35.0
SLIP = 85
"""Likeness (0 to 100) from which a heading is a misspelt known one."""
SAMPLE = 200
"""Rows that are looked at to tell what a column holds."""
MOSTLY = 0.7


@cache
def words() -> Mapping[str, Mapping[str, tuple[str, ...]]]:
    """The headings by kind of table and field, folded."""
    text = (resources.files(__package__) / "headings.toml").read_text("utf-8")
    return {
        kind: {field: tuple(folded(word) for word in own) for field, own in fields.items()}
        for kind, fields in tomllib.loads(text).items()
    }


def folded(text: str) -> str:
    """A heading or a name in small letters without accents, signs as blanks.

    >>> folded("E-Mail Adresse"), folded("Prénom")
    ('e mail adresse', 'prenom')
    """
    plain = unicodedata.normalize("NFKD", text.replace("ß", "ss").replace("ø", "o"))
    letters = "".join(one for one in plain if not unicodedata.combining(one))
    return " ".join(re.sub(r"[^\w]+|_", " ", letters.lower()).split())


def _by_heading(heading: str, known: Sequence[str]) -> float:
    """Return the certainty (0 to 100) that a heading is one of some words."""
    said = folded(heading)
    if not said:
        return 0.0
    if said in known:
        return CERTAIN
    padded = f" {said} "
    if any(f" {word} " in padded for word in known if len(word) > 2):
        return WORD
    if len(said) > 3 and any(fuzz.ratio(said, word) >= SLIP for word in known if len(word) > 3):
        return NEAR
    return 0.0


_EMAIL = re.compile(r"[^@\s]+@[^@\s]+\.[^@\s]+")
_NAME = re.compile(r"[^\W\d_][\w'’.-]*(?:[ ,]+[^\W\d_][\w'’.-]*)+")
_SEX = re.compile(r"(?i)(?:m|f|w|male|female|man|woman|h|d|x)")
_TIER = re.compile(
    r"(?i)(?:rx'?d?\+?|sc(?:aled)?|beg(?:inner)?|as written|scaled|starter|foundation)"
)
_TIME = re.compile(r"\d{1,2}[:.h]\d{2}(?:\s*[ap]m)?", re.IGNORECASE)

Test = Callable[[str], bool]
VALUES: dict[str, Test] = {
    "date": looks_like_date,
    "joined": looks_like_date,
    "born": looks_like_date,
    "email": lambda cell: bool(_EMAIL.fullmatch(cell)),
    "person": lambda cell: bool(_NAME.fullmatch(cell)),
    "name": lambda cell: bool(_NAME.fullmatch(cell)),
    "entered": looks_like_entry,
    "sex": lambda cell: bool(_SEX.fullmatch(cell)),
    "track": lambda cell: bool(_SEX.fullmatch(cell)),
    "tier": lambda cell: bool(_TIER.fullmatch(cell)),
    "time": lambda cell: bool(_TIME.fullmatch(cell)),
    "count": lambda cell: cell.isdigit(),
}
"""Tests of the cells by field; other fields may hold anything."""


def _share(cells: Sequence[str], test: Test) -> float:
    """The share of the filled cells that a test holds for."""
    filled = [cell.strip() for cell in cells if cell.strip()]
    return sum(test(cell) for cell in filled) / len(filled) if filled else 0.0


def guess_columns(
    kind: Kind, heads: Sequence[str], rows: Sequence[Sequence[str]]
) -> dict[int, str]:
    """The field of each column that is one, by its place: the surest pairs first, each field once.

    What stands in a column decides where its heading says nothing, and unsays a heading that it
    does not go with.
    """
    sample = rows[:SAMPLE]
    scored: list[tuple[float, int, str]] = []
    for place, heading in enumerate(heads):
        cells = [row[place] for row in sample if place < len(row)]
        for field, known in words()[kind].items():
            sure = _by_heading(heading, known)
            test = VALUES.get(field)
            share = _share(cells, test) if test and cells else 0.0
            if test and cells:
                sure += LIKELY * share if sure else (LIKELY if share >= MOSTLY else 0.0)
                if sure and share < 0.2 and field in ("date", "email"):
                    sure -= NEAR
            # A column without a heading of its own is never taken for one that may hold anything.
            if sure > 0 and (test or _by_heading(heading, known)):
                scored.append((sure, -place, field))
    chosen: dict[int, str] = {}
    for sure, back, field in sorted(scored, reverse=True):
        if sure >= LIKELY and -back not in chosen and field not in chosen.values():
            chosen[-back] = field
    return dict(sorted(chosen.items()))


def missing(kind: Kind, columns: Mapping[int, str]) -> list[str]:
    """Fields that a table of a kind needs and no column holds."""
    held = set(columns.values())
    named = {"given", "family"} <= held
    return [
        field
        for field in NEEDED[kind]
        if field not in held and not (field in ("person", "name") and (named or "email" in held))
    ]


def kind_of_table(heads: Sequence[str], rows: Sequence[Sequence[str]]) -> Kind:
    """Return the likeliest kind of a table: it misses least and knows most of the columns."""

    def fits(kind: Kind) -> tuple[float, float]:
        columns = guess_columns(kind, heads, rows)
        known = sum(
            _by_heading(heads[place], words()[kind][field]) for place, field in columns.items()
        )
        return -float(len(missing(kind, columns))), known * len(NEEDED[kind]) ** 0.5

    return max(KINDS, key=fits)
