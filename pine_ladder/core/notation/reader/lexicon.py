"""The words of the trade: what a phrase on a board may mean. Common practice, no source.

A phrase is looked up without blanks, hyphens, plurals and capitals, the longest first; a movement
of the gym's library under one of its own names comes before all that stands here.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping, Sequence
from functools import lru_cache
from importlib import resources
from weakref import WeakKeyDictionary

from pine_ladder.core.movements import Library, Movement

Meanings = Mapping[str, str]
"""Meanings of a phrase: kinds of token (see lexer.CODES), each with its value."""

_DATA = tomllib.loads(
    resources.files(__package__).joinpath("lexicon.toml").read_text(encoding="utf-8")
)
MOVEMENTS: Mapping[str, Sequence[str]] = _DATA["movements"]
"""Abbreviations and other names of movements, by the library's name."""
NO_MOVES = frozenset(_DATA["plain"]["no_moves"])
"""Nouns of the gym that name no movement."""
PROSE = frozenset(_DATA["plain"]["prose"])
"""Words of talk: what holds them is no name of a movement."""


def squeeze(words: str) -> str:
    """The key of a phrase: letters and digits alone, each word in the singular.

    >>> squeeze("Pull-Ups"), squeeze("pullup")
    ('pullup', 'pullup')
    """
    return "".join(singular(one) for one in re.findall(r"[a-z0-9/&']+", words.lower()))


_AS_THEY_ARE = {
    "abs",
    "as",
    "across",
    "es",
    "gms",
    "press",
    "cross",
    "plus",
    "pass",
    "less",
    "this",
}


@lru_cache(maxsize=8192)
def singular(word: str) -> str:
    """A word without apostrophes and the s of a plural."""
    word = word.replace("'", "")
    if word in _AS_THEY_ARE or len(word) < 3 or not word.endswith("s") or word.endswith("ss"):
        return word
    if word.endswith(("sses", "ches", "shes", "xes")):
        return word[:-2]
    return word[:-1]


def _common() -> dict[str, dict[str, str]]:
    out: dict[str, dict[str, str]] = {}

    def say(phrase: str, kind: str, value: str = "") -> None:
        out.setdefault(squeeze(phrase), {})[kind] = value

    for word in _DATA["plain"]["fillers"]:
        say(word, "filler")
    for word in _DATA["plain"]["styles"]:
        say(word, "style", word)
    tables = (("implement", "implements"), ("role", "roles"), ("team how", "team"))
    for kind, table in tables:
        for value, said in _DATA[table].items():
            for phrase in said:
                say(phrase, kind, value)
    for kind, said in (*_DATA["formats"].items(), *_DATA["words"].items()):
        for phrase in said:
            say(phrase, kind)
    return out


COMMON = _common()
_OF: WeakKeyDictionary[Library, tuple[dict[str, Meanings], int]] = WeakKeyDictionary()
_SAME = {"db": "dumbbell", "dbs": "dumbbell", "kb": "kettlebell", "bb": "barbell", "oh": "overhead",
         "sl": "singleleg", "scap": "scapular", "sq": "squat", "pwr": "power", "mb": "medicineball",
         "ctb": "chesttobar", "hr": "handrelease", "rev": "reverse", "sn": "snatch",
         "sb": "sandbag"}  # fmt: skip
"""Words that are shortened inside a movement's name."""


def spelt_out(word: str) -> str:
    """A word of a movement's name in the singular and in full."""
    word = singular(word)
    return _SAME.get(word, word)


def meanings(library: Library) -> tuple[dict[str, Meanings], int]:
    """All phrases with a gym's movements, and the length of the longest key."""
    try:
        return _OF[library]
    except KeyError:
        pass
    out = {key: dict(said) for key, said in COMMON.items()}

    def say(phrase: str, name: str) -> None:
        for key in (squeeze(phrase), full_key(phrase)):
            out.setdefault(key, {})["movement"] = name

    for name, said in MOVEMENTS.items():
        there = library.find(name)
        for phrase in (name, *said):
            say(phrase, there.name if there else OWN)
            if there is None:
                out[squeeze(phrase)]["like"] = name
    for movement in library.movements:
        for name in (movement.name, *movement.aliases):
            if squeeze(name) not in MEANT_OTHERWISE:
                say(name, movement.name)
    for movement in library.movements:
        if movement.name.endswith((" stretch", " pose")):
            short = squeeze(movement.name.rsplit(" ", 1)[0])
            if short not in out and short != "chest":
                out[short] = {"movement": movement.name}
    found: tuple[dict[str, Meanings], int] = (dict(out), max(map(len, out)))
    _OF[library] = found
    return found


def spellings(movement: Movement) -> tuple[str, ...]:
    """Words that any line that means a movement holds one of: the last word of one of its names, or
    an abbreviation. Other lines hold such words too.
    """
    names = (movement.name, *movement.aliases)
    short = (said for name in names for said in MOVEMENTS.get(name, ()))
    return tuple(dict.fromkeys((*(name.split()[-1] for name in names), *short)))


OWN = ""
"""The name of a movement that the library has not: it keeps the coach's own words."""


def special(library: Library, way: str, name: str) -> str | None:
    """The movement that a way of doing another one makes: `american`, kettlebell swing."""
    said, _ = meanings(library)
    for phrase in (f"{way} {name}", f"{name} {way}"):
        found = said.get(squeeze(phrase)) or said.get(full_key(phrase))
        if found and found.get("movement"):
            return found["movement"]
    return None


MEANT_OTHERWISE = {"squat", "clean", "jerk", "stretch"}
"""Names a library's movement has, which on a board stand for what the table above says."""


def full_key(phrase: str) -> str:
    """The key of a phrase with its short words spelt out."""
    return "".join(spelt_out(one) for one in re.findall(r"[a-z0-9/&']+", phrase.lower()))
