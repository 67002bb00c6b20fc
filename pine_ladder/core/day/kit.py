"""The kit of a day: what a member needs for it, and whether there is enough of it for a class."""

from __future__ import annotations

import re
from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import load_text
from pine_ladder.core.plan import Frozen


class KitNeed(Frozen):
    """A piece of kit, how many a class needs at once, and how many there are (None: not listed)."""

    name: str
    words: str
    """Its name for so many: `11 barbells`, `8 boxes`."""
    need: int
    there: int | None
    short: bool


_PAIRS = ("rings", "parallel bars", "stairs")
"""Kit whose name says several already."""


def in_words(name: str, count: int) -> str:
    """A number of a piece of kit, as it is said.

    >>> [in_words("kettlebell 16 kg", 11), in_words("box or bench", 8), in_words("rings", 2)]
    ['11 kettlebells 16 kg', '8 boxes or benches', '2 rings']
    """
    if count == 1:
        return f"1 {name}"
    return f"{count} " + " or ".join(map(_plural, name.split(" or ")))


def _plural(name: str) -> str:
    kind, *size = re.split(r"(?= \d)", name, maxsplit=1)
    if kind not in _PAIRS and not kind.endswith("s"):
        kind += "es" if kind.endswith(("x", "ch", "sh")) else "s"
    return "".join((kind, *size))


def kit_line(
    session: plan.Session, library: Library, tier: int = 0, track: int | None = None
) -> tuple[str, ...]:
    """The kit that a tier and track need for a board, each once, in the order of the board, with
    its load where it has one of its own: `("rope", "kettlebell 16 kg", "box 50 cm")`.

    With `track` None pairs are shown whole.
    """
    out: dict[str, None] = {}
    for piece in session.pieces:
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                exercise = plan.for_track(task.version(tier), track)
                for part in exercise.units:
                    load = part.load or exercise.load
                    sized = load is not None and load.kind in ("weight", "height")
                    movement = library.find(part.movement)
                    for at, kit in enumerate(movement.kit if movement else ()):
                        own = f" {load_text(load)}" if load and sized and at == 0 else ""
                        out[f"{kit}{own}"] = None
    # What is named with its load need not be named without.
    return tuple(one for one in out if not any(other.startswith(f"{one} ") for other in out))


SHARED_REST_S, SHARERS = 90, 2
"""From such a rest between sets on, so many share a bar: one lifts while the other rests (common
practice, no source)."""


def at_once(piece: plan.Piece, people: int) -> int:
    """How many of a class work at once on each line of a piece: stations share, teams who take
    turns share, heats follow each other, and two share what sets with a long rest, and those up to
    their weight, are done with.
    """
    stations = max((len(b.lines) if b.numbered else 1 for b in piece.blocks), default=1)
    turns = piece.teams.size if piece.teams and piece.teams.how != "together" else 1
    long_rest = piece.rest is not None and piece.rest.low_s >= SHARED_REST_S
    in_sets = isinstance(piece.format, plan.Sets) and long_rest
    if turns == 1 and (in_sets or _ramp(piece)):
        turns = SHARERS
    return -(-people // (stations * turns * (piece.heats or 1)))


def _ramp(piece: plan.Piece) -> bool:
    """Whether a piece is the warm-up sets of a lift: every line at a percentage or an effort."""
    return piece.role is plan.Role.WARM_UP and all(
        isinstance(task.versions[0].load, plan.Percent | plan.Effort)
        for line in piece.lines
        for task in line.tasks
    )


def held(name: str, kit: Mapping[str, int]) -> int | None:
    """How many there are of a movement's kit (`box or bench` is either); None where not listed."""
    options = tuple(name.split(" or "))
    found = [count for own, count in kit.items() if own.startswith(options)]
    return sum(found) if found else None


def kit_needed(
    session: plan.Session, library: Library, people: int, kit: Mapping[str, int]
) -> tuple[KitNeed, ...]:
    """The kit that so many people need at once for a board as written, against what is there.

    Stations share, teams who take turns share, heats follow each other.
    """
    needs: dict[str, int] = {}
    for piece in session.pieces:
        need = at_once(piece, people)
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                first = task.versions[0]
                for part in first.units:
                    movement = library.find(part.movement)
                    for name in movement.kit if movement else ():
                        needs[name] = max(needs.get(name, 0), need)
    out = []
    for name, need in needs.items():
        there = held(name, kit)
        short = there is not None and there < need
        out.append(
            KitNeed(name=name, words=in_words(name, need), need=need, there=there, short=short)
        )
    return tuple(out)
