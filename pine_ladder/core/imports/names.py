"""Names in tables: which person each one means, within a table and against a gym."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from rapidfuzz import fuzz, process

from pine_ladder.core.imports.gym import Member
from pine_ladder.core.imports.headings import folded
from pine_ladder.core.imports.questions import Asked, ImportQuestion

LIKE = 86
"""Likeness (0 to 100) from which one name may be a misspelt other."""
MOST_LIKELY = 3
LONGEST = 80
NEW, NOBODY = "somebody new", "leave these rows out"
_HONOURS = {"mr", "mrs", "ms", "dr", "herr", "frau", "coach"}


class Meant(NamedTuple):
    """Who a name means: a person of the gym by `id`, or somebody new (id None) by `name`; nobody
    where `name` is empty.
    """

    id: int | None
    name: str


def tidy(name: str) -> str:
    """A name as it is written in full: blanks put right, `Quill, Ada` turned round.

    >>> tidy("  QUILL,  Ada ")
    'Ada Quill'
    """
    plain = " ".join(name.lstrip("=+-@'").split())
    if plain.count(",") == 1:
        family, given = (part.strip() for part in plain.split(","))
        if family and given:
            plain = f"{given} {family}"
    if plain.isupper() or plain.islower():
        plain = plain.title()
    else:
        plain = " ".join(
            word.title() if word.isupper() and len(word) > 3 else word for word in plain.split()
        )
    return plain[:LONGEST]


def _key(name: str) -> frozenset[str]:
    """Return the words of a name without order, case and accents."""
    return frozenset(word for word in folded(name).split() if word not in _HONOURS)


def _may_be(short: Sequence[str], full: Sequence[str]) -> bool:
    """Whether a short form may mean a full name: `Ada Q`, `A Quill`, `Ada`, `Quill`."""
    rest = list(full)
    whole = 0
    for word in sorted(short, key=len, reverse=True):
        match = next((one for one in rest if one == word), None)
        if match is None and len(word) <= 2:
            match = next((one for one in rest if one.startswith(word)), None)
        elif match is not None:
            whole += 1
        if match is None:
            return False
        rest.remove(match)
    return whole >= 1 and len(short) <= len(full)


class Names:
    """The names of a table: each meant for certain, or asked about once."""

    def __init__(self, members: Iterable[Member], said: Iterable[str]) -> None:
        self.members = list(members)
        self.by_key: dict[frozenset[str], list[Member]] = defaultdict(list)
        for member in self.members:
            self.by_key[_key(member.name)].append(member)
        # The fullest way a new name is written in the table stands for its other ways.
        self.written: dict[frozenset[str], str] = {}
        for name in said:
            full = tidy(name)
            kept = self.written.get(_key(full))
            if full and (kept is None or _better(full, kept)):
                self.written[_key(full)] = full
        self.meant: dict[str, Meant] = {}

    def who(self, name: str, asked: Asked) -> Meant:
        """Return the person a name means; a doubtful name is asked about once."""
        full = tidy(name)
        if full not in self.meant:
            self.meant[full] = self._who(full, asked)
        return self.meant[full]

    def _who(self, full: str, asked: Asked) -> Meant:
        key = _key(full)
        if not key:
            return Meant(None, "")
        same = self.by_key.get(key, [])
        if len(same) == 1:
            return Meant(same[0].id, same[0].name)
        likely = same or self._likely(full, key)
        names = [one.name for one in likely]
        if not names:
            return Meant(None, self.written.get(key, full))
        new = self.written.get(key, full)
        shown = [
            f"{one.name} ({one.email})" if names.count(one.name) > 1 else one.name for one in likely
        ]
        certain = len(key) > 1 or len(likely) == 1
        answer = asked.ask(
            ImportQuestion(
                id=f"who:{folded(full)}",
                text=f"Who is “{full}”?",
                choices=(*shown, NEW, NOBODY),
                guess=shown[0] if certain else NOBODY,
            )
        )
        if answer == NOBODY:
            return Meant(None, "")
        if answer == NEW:
            return Meant(None, new)
        chosen = likely[shown.index(answer)]
        return Meant(chosen.id or None, chosen.name)

    def _likely(self, full: str, key: frozenset[str]) -> list[Member]:
        """People of the gym, then others of the table, whose name this may be a short form or a
        slip of; the likeliest first.
        """
        words = sorted(key)
        others = [Member(0, name, None) for other, name in self.written.items() if other != key]
        found: dict[str, tuple[float, Member]] = {}
        for one in (*self.members, *others):
            theirs = sorted(_key(one.name))
            bonus = 0.5 if one.id else 0.0
            if _may_be(words, theirs) and words != theirs:
                found.setdefault(one.name, (LIKE + 5 + bonus, one))
            elif one.id == 0 and (len(words) < len(theirs) or not _fuller(one.name, full)):
                continue
        pool = {one.name: one for one in (*others, *self.members)}
        for name, score, _ in process.extract(
            full,
            list(pool),
            scorer=fuzz.token_sort_ratio,
            processor=folded,
            score_cutoff=LIKE,
            limit=MOST_LIKELY,
        ):
            one = pool[name]
            if one.id or _fuller(name, full):
                found.setdefault(name, (score, one))
        ordered = sorted(found.values(), key=lambda each: -each[0])
        return [one for _, one in ordered[:MOST_LIKELY]]


def _better(one: str, other: str) -> bool:
    """Whether a way of writing a name is the fuller: with its accents and its small letters."""
    return (sum(not c.isascii() for c in one), one) > (sum(not c.isascii() for c in other), other)


def _fuller(other: str, name: str) -> bool:
    """Whether of two names that look alike the other one is kept: the longer, else the first."""
    return (len(other), other) > (len(name), name)
