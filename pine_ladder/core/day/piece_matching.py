"""Which piece of a new board is which of the old: by content, name and order together.

What hangs on a piece (scores, jots, heats) points at an identity the store gives it. When a board
is saved anew, `match` says which identity each new piece continues, and of which it is not sure.
"""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from rapidfuzz import fuzz
from scipy.optimize import linear_sum_assignment

from pine_ladder.core import plan
from pine_ladder.core.notation.printer import format_text, line_text, modifier_texts, print_piece

CONTENT, NAME, ORDER = 0.5, 0.3, 0.2
"""What each counts for when two pieces are held against each other (judgement)."""
ALIKE = 0.4
"""Below this two pieces have nothing to do with each other."""
SURE = 0.55
"""From this on a match is taken without asking, if none comes within `MARGIN` of it."""
MARGIN = 0.15


class Match(NamedTuple):
    """What became of the old pieces, all as places in their lists.

    `of_new` is the old piece that each new one continues, None where it is new; `gone` are old
    pieces without a successor; `doubtful` are old pieces whose successor is only likely.
    """

    of_new: tuple[int | None, ...]
    gone: tuple[int, ...]
    doubtful: tuple[int, ...]


def fingerprint(piece: plan.Piece) -> str:
    """32 letters that are equal for pieces that are equal, whatever board they stand on.

    A digest of the piece in canonical text, which reads back as itself.
    """
    return hashlib.sha256(print_piece(piece).encode(errors="replace")).hexdigest()[:32]


def _lines(piece: plan.Piece) -> list[str]:
    held = [*piece.buy_in, *(line for block in piece.blocks for line in block.lines)]
    return [line_text(line) for line in [*held, *piece.cash_out]]


def _shared(a: Sequence[str], b: Sequence[str]) -> float:
    """Share of lines that two pieces have in common, 0 to 1; nearly equal lines count in part."""
    if not a or not b:
        return 1.0 if not a and not b else 0.0
    left, total = list(b), 0.0
    for line in a:
        best = max(left, key=lambda other: fuzz.ratio(line, other), default=None)
        if best is None:
            break
        likeness = fuzz.ratio(line, best) / 100
        if likeness >= 0.6:
            total += likeness
            left.remove(best)
    return 2 * total / (len(a) + len(b))


def _content(a: plan.Piece, b: plan.Piece) -> float:
    heading = 0.5 * (format_text(a.format) == format_text(b.format))
    heading += 0.3 * (type(a.format) is type(b.format))
    heading += 0.1 * (a.role == b.role) + 0.1 * (modifier_texts(a) == modifier_texts(b))
    return 0.3 * heading + 0.7 * _shared(_lines(a), _lines(b))


def _name(a: plan.Piece, b: plan.Piece) -> float:
    if a.name and b.name:
        likeness = fuzz.ratio(a.name.lower(), b.name.lower()) / 100
        return likeness if likeness >= 0.7 else 0.0
    return 0.5


def _same_work(old: Sequence[plan.Piece], new: Sequence[plan.Piece], i: int, j: int) -> bool:
    """Whether two pieces are the same but for the name, and no other is like either of them."""
    if _content(old[i], new[j]) < 1.0 - 1e-9:
        return False
    rivals = [other for n, other in enumerate(new) if n != j]
    rivals += [other for n, other in enumerate(old) if n != i]
    return all(_content(old[i], other) < ALIKE for other in rivals)


def _equals(
    old: Sequence[plan.Piece], new: Sequence[plan.Piece], found: dict[int, int]
) -> set[int]:
    """Match pieces that are the same to the letter, in order; answers those that are ambiguous."""
    ambiguous: set[int] = set()
    for piece in dict.fromkeys(old):
        here = [i for i, one in enumerate(old) if one == piece]
        there = [j for j, one in enumerate(new) if one == piece]
        if there and len(here) != len(there):
            ambiguous.update(here)
        for i, j in zip(here, there, strict=False):
            found[j] = i
    return ambiguous


def _order(i: int, j: int, sizes: tuple[int, int], found: dict[int, int]) -> float:
    """Whether the neighbours of two pieces continue each other, 0 to 1."""
    old, new = sizes
    before = (i == 0) if j == 0 else found.get(j - 1) == i - 1 and i > 0
    after = (i == old - 1) if j == new - 1 else found.get(j + 1) == i + 1
    return 0.5 * before + 0.5 * after


def match(old: Sequence[plan.Piece], new: Sequence[plan.Piece]) -> Match:
    """Which old piece each new one continues.

    Pieces that are equal continue each other whatever their order; the rest are paired so that the
    pairs are as alike as can be. A pair that is only just alike, or that another comes close to, is
    in doubt, and so is a piece that stands there more or fewer times than before.
    """
    found: dict[int, int] = {}
    doubtful = _equals(old, new, found)
    sizes = (len(old), len(new))
    rest_old = [i for i in range(len(old)) if i not in found.values()]
    rest_new = [j for j in range(len(new)) if j not in found]
    if rest_old and rest_new:
        plain = {**found}
        if len(rest_old) == len(rest_new):
            # What changed beside it does not take a piece out of its order.
            plain.update(zip(rest_new, rest_old, strict=True))
        alike = np.array(
            [
                [
                    CONTENT * _content(old[i], new[j])
                    + NAME * _name(old[i], new[j])
                    + ORDER * _order(i, j, sizes, plain)
                    for j in rest_new
                ]
                for i in rest_old
            ]
        )
        for row, column in zip(*linear_sum_assignment(-alike), strict=True):
            value = alike[row, column]
            if value < ALIKE:
                continue
            i, j = rest_old[row], rest_new[column]
            found[j] = i
            others = [*np.delete(alike[row], column), *np.delete(alike[:, column], row)]
            close = value < SURE or any(other > value - MARGIN for other in others)
            if close and not _same_work(old, new, i, j):
                doubtful.add(i)
    for i, piece in enumerate(old):
        # A copy beside the original: which of the two was meant?
        twins = [j for j, one in enumerate(new) if one == piece]
        if len(twins) > sum(one == piece for one in old):
            doubtful.add(i)
    gone = tuple(i for i in range(len(old)) if i not in found.values())
    return Match(
        of_new=tuple(found.get(j) for j in range(len(new))),
        gone=gone,
        doubtful=tuple(sorted(doubtful - set(gone))),
    )
