"""A token of a row: a word, number or sign with its kind, and the kinds as single characters."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

CODES = {
    "number": "n", "range": "r", "scheme": "s", "pair": "p", "by": "b", "times n": "x",
    "time": "t", "clock range": "K", "distance": "d", "cal": "c", "height": "h", "weight": "w",
    "percent": "%", "rpe": "e", "bodyweight": "B", "tempo code": "T", "prime": "i",
    "seconds or inches": "j", "each": "l", "grow": "g", "interval": "N",
    "movement": "M", "implement": "k", "role": "R", "style": "y", "filler": "_", "word": ".",
    "amrap": "A", "emom": "E", "every minute": "µ", "every": "V", "every n": "v",
    "for time": "F", "rft": "J",
    "tabata": "L", "accumulate": "U", "death": "D", "ladder": "P", "intervals": "I",
    "rounds": "O", "sets": "S", "times": "¤", "rest": "Z", "off": "0", "on": "1", "cap": "C",
    "score": "Q", "goal": "G", "build": "H", "quality": "q", "as needed": "?", "max": "X",
    "calories": "a", "rest between": "b", "or": "o", "and": "&", "then": ">", "buy-in": "<",
    "cash-out": "$", "sub": "u", "rx": "f", "scaled": "f", "beginner": "f", "everyone": "f",
    "each side": "l", "alternating": "l", "left": "l", "right": "l", "one arm": "l",
    "unbroken": "l", "total": "T", "heavy": "Y", "light": "Y", "easy": "z", "hard": "z",
    "tempo": "6", "down": "7", "single": "8", "double": "8", "triple": "8", "of 1rm": "9",
    "reps": "3", "slot": "_", "odd": "4", "even": "4", "station": "5", "part": "W", "couplet": "£",
    "first": "^", "team": "m", "partners": "m", "team how": "*", "twice": "2", "adding": "+",
    "change": "ç", "held": "l",
    "last time": "_", "each time": "Ž", "rep max": "9", "remaining": "_",
    "comma": ",", "semicolon": ";", "colon": ":", "open": "(", "close": ")", "dash": "-",
    "slash": "/", "plus": "+", "at": "@", "pipe": ",", "stop": ".", "equals": "=", "mark": "!",
    "etc": "~",
}  # fmt: skip
CODES["rest between"] = "B"
CODES["bodyweight"] = "w"
CODES["stop"] = "."
CODES["total"] = "_"


@dataclass
class Token:
    """A word, number or sign at [start, end) of a row's text, with its kind and value."""

    kind: str
    value: Any
    start: int
    end: int
    means: Mapping[str, str] = field(default_factory=dict)

    @property
    def code(self) -> str:
        """Its kind as one character."""
        return CODES[self.kind]

    def as_kind(self, kind: str) -> Token:
        """The same text as another kind it may be."""
        return Token(kind, self.means.get(kind, self.value), self.start, self.end, self.means)


def codes(tokens: Sequence[Token]) -> str:
    """A character a token."""
    return "".join(CODES[token.kind] for token in tokens)
