"""Words around a score: the tier it was done in, and reps that are told with their movement."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.movements.library import fold
from pine_ladder.core.scores.kinds import Refused, counted
from pine_ladder.core.scores.shorthand.parts import Context
from pine_ladder.core.tiers import DEFAULT_TIERS

_TIER_WORDS = (
    ("as written", "as prescribed", "rx'd", "rx"),
    ("scaled", "scale", "sc"),
    ("foundation", "beginner", "starter"),
)
"""What coaches say of the first tiers, whatever a gym calls them (common practice, no source)."""
_PARTS = re.compile(r"\s*(?:[,;+&/]|\band\b|\bplus\b|\bthen\b)\s*")
_NAMED = re.compile(
    r"(\d{1,5})\s*(?:x\s*)?([a-z][a-z' -]*[a-z])|([a-z][a-z' -]*?)\s*:?\s*(\d{1,5})"
)
_NO_NAMES = {
    "rep",
    "reps",
    "round",
    "rounds",
    "total",
    "left",
    "tb",
    "tie",
    "splits",
    "cal",
    "cals",
}


def tier_told(text: str, tiers: Sequence[str] = DEFAULT_TIERS) -> tuple[int | None, str]:
    """The tier an entry names before or after the score, as its index, and the entry without it.

    >>> tier_told("scaled 9+3"), tier_told("9+3")
    ((1, '9+3'), (None, '9+3'))
    """
    names = {" ".join(name.lower().split()): at for at, name in enumerate(tiers)}
    for at, words in enumerate(_TIER_WORDS[: len(tiers)]):
        for word in words:
            names.setdefault(word, at)
    cleaned = " ".join(text.split())
    for name in sorted(names, key=len, reverse=True):
        if not re.search(r"[a-z]", name):
            continue
        word = re.escape(name)
        first = re.match(rf"{word}(?:\s*[:,-]\s*|\s+)(?=\S)", cleaned, re.IGNORECASE)
        if first:
            return names[name], cleaned[first.end() :]
        last = re.search(rf"(?<=\S)[\s,]+\(?{word}\)?$", cleaned, re.IGNORECASE)
        if last:
            return names[name], cleaned[: last.start()]
    return None, text


class Named(NamedTuple):
    """Reps of a movement as told."""

    reps: int
    movement: str


def named_reps(text: str) -> list[Named] | None:
    """`24 box jump, 30 push-up`; None where any part of it is no number with a name."""
    out = []
    for part in _PARTS.split(text.strip()):
        match = _NAMED.fullmatch(part)
        if not match:
            return None
        reps, name = (match[1], match[2]) if match[1] else (match[4], match[3])
        if name.strip() in _NO_NAMES or name.strip() == "x":
            return None
        out.append(Named(int(reps), name.strip()))
    return out


def same_movement(said: str, name: str) -> bool:
    """Whether what was said means a movement: its name, an alias, or the end of its name."""
    if fold(said) == fold(name):
        return True
    meant = library().find(said)
    if meant is not None:
        return meant.name == name
    if fold(name).endswith(" " + fold(said)):
        return True
    initials = "".join(word[0] for word in re.findall(r"[a-z]+", name.lower()))
    return len(initials) > 1 and re.sub(r"s$", "", said.lower()) in (initials, initials.rstrip("s"))


def one_of(said: str, names: Sequence[str]) -> str:
    """The movement of a piece that was meant; raises Refused where it is none or several."""
    exact = [name for name in names if fold(said) == fold(name)]
    found = exact or [name for name in dict.fromkeys(names) if same_movement(said, name)]
    if len(found) == 1:
        return found[0]
    listed = ", ".join(dict.fromkeys(names))
    raise Refused(f"“{said}”: which movement of this piece? It has {listed}")


def _of_round(at: Context, round_: int) -> list[tuple[str, int]]:
    """Movements of a round in order, each with its reps."""
    scheme = at.piece.format.scheme if isinstance(at.piece.format, plan.ForTime) else ()
    out = []
    for line in at.piece.lines:
        for task in line.tasks:
            one = task.version(at.tier)
            reps = counted(one, at.piece.grow_reps or 0, round_, at.tier, at.track)
            if one.amount is None and scheme:
                sides = 2 if one.side is plan.Side.EACH else 1
                reps = sides * scheme[min(round_, len(scheme)) - 1]
            out.append((one.movement, reps))
    return out


def into_a_round(named: Sequence[Named], at: Context, full: int) -> int:
    """Reps of the round after `full` ones, told by movement; raises Refused where two are meant.

    `30 swings` is 30 reps where the round begins with swings, and two things where it does not.
    """
    order = _of_round(at, full + 1)
    names = [one_of(one.movement, [name for name, _ in order]) for one in named]
    if [name for name, _ in order[: len(names)]] == names:
        whole = [(one.reps, reps) for one, (_, reps) in zip(named, order, strict=False)]
        short = next((n for n, (told, reps) in enumerate(whole[:-1]) if told < reps), None)
        over = next((n for n, (told, reps) in enumerate(whole) if reps and told > reps), None)
        if short is None and over is None:
            return sum(one.reps for one in named)
        wrong = short if short is not None else over
        assert wrong is not None
        raise Refused(
            f"a round has {order[wrong][1]} {names[wrong]}, not {named[wrong].reps}: "
            f"write rounds+reps, as in {full}+{sum(one.reps for one in named)}"
        )
    if len(named) > 1:
        raise Refused(
            f"tell the reps in the order of the round, or as {full}+reps: "
            + ", ".join(f"{reps} {name}" for name, reps in order)
        )
    place = next(n for n, (name, _) in enumerate(order) if name == names[0])
    before = sum(reps for _, reps in order[:place])
    reps = named[0].reps
    raise Refused(
        f"{reps} reps in all, or {reps} {names[0]} after the {before} reps before? "
        f"Write {full}+{reps} or {full}+{before + reps}"
    )
