"""Amounts and loads told for men and women one after the other, as one pair: `20 kg men, 14 women`.

The first of a pair is that of the heavier track (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from pine_ladder.core.notation.reader.token import Token

MEN = frozenset(("men", "man", "male", "males", "gents", "guys", "lads", "boys", "dudes"))
WOMEN = frozenset(("women", "woman", "female", "females", "ladies", "lady", "girls", "gals"))
_VALUES = ("number", "weight", "cal", "height")
_BETWEEN = (
    "slash",
    "comma",
    "colon",
    "dash",
    "and",
    "filler",
    "pipe",
    "semicolon",
    "open",
    "close",
)


PAIR = 2
"""Sexes of one amount, the heavier track's and the lighter's."""


def paired_by_sex(tokens: Sequence[Token]) -> list[Token]:
    """The tokens, each two values for men and women as one."""
    out = list(tokens)
    sexes = [at for at in range(len(out)) if _names(out, at)]
    while len(sexes) > PAIR and not len(sexes) % PAIR:
        # Several pairs in a row, the last first.
        begins = _ahead(out, sexes[-PAIR]) or sexes[-PAIR]
        out = [*out[:begins], *paired_by_sex(out[begins:])]
        sexes = sexes[:-PAIR]
    if len(sexes) != 2 or _men(out[sexes[0]]) == _men(out[sexes[1]]):
        return out
    near = [at for at in range(max(0, sexes[0] - 3), min(len(out), sexes[1] + 4))]
    values = [at for at in near if out[at].kind in _VALUES]
    ahead = [_ahead(out, at) for at in sexes]
    if len(values) > len(sexes) and None not in ahead and len(set(ahead)) == len(sexes):
        values = [at for at in ahead if at is not None]  # `40 kilos for the men and 30 for …`
    if len(values) > len(sexes):
        behind = [
            at + 2 if out[at + 1].kind == "colon" else at + 1 for at in sexes if at + 1 < len(out)
        ]
        values = [at for at in values if at in behind]
    between = range(min(*sexes, *values[:1]), max(*sexes, *values[-1:]) + 1)
    others = [out[at] for at in between if at not in values and at not in sexes]
    words = [other for other in others if other.kind == "word"]
    if len(values) != 2 or any(other.kind not in (*_BETWEEN, "word") for other in others):
        return out
    first, second = (out[at] for at in values)
    men_first = _men(out[sexes[0]])
    made = _pair(*((first, second) if men_first else (second, first)))
    if made is None:
        return out
    return [*out[: between.start], made, *words, *out[between.stop :]]


def _ahead(tokens: Sequence[Token], at: int) -> int | None:
    """The place of the value that stands before men or women, with no word but `for the` between;
    None where there is none.
    """
    place = at - 1
    while place > max(0, at - 4) and tokens[place].value in ("for", "the"):
        place -= 1
    return place if place >= 0 and tokens[place].kind in _VALUES else None


def _men(token: Token) -> bool:
    return token.value in MEN or token.value == "m"


def _names(found: Sequence[Token], at: int) -> bool:
    """Whether a token names men or women: by a word, or by a letter before a colon or a value."""
    if found[at].value in MEN or found[at].value in WOMEN:
        return True
    letter = found[at].kind == "word" and found[at].value in ("m", "w", "f")
    ahead = [token.kind for token in found[at + 1 : at + 2]]
    return letter and bool(ahead) and ahead[0] in ("colon", "weight", "cal", "number")


def _pair(men: Token, women: Token) -> Token | None:
    """One token of two; None where they measure different things."""
    numbers = [_number(one) for one in (men, women)]
    start, end = min(men.start, women.start), max(men.end, women.end)
    like = next((one for one in (men, women) if one.kind != "number"), men)
    if any(one.kind not in (like.kind, "number") for one in (men, women)):
        return None
    kind, value = like.kind, like.value
    if kind == "number":
        kind, value = "pair", tuple(numbers)
    elif kind == "cal":
        value = (tuple(numbers), "/")
    elif kind == "height":
        value = (tuple(numbers), value[1])
    else:
        value = (tuple(numbers), value[1], "/")
    return type(men)(kind, value, start, end, {"by sex": ""})


def _number(token: Token) -> float:
    return float(token.value if token.kind == "number" else token.value[0][0])
