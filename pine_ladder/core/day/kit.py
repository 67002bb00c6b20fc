"""The kit of a day: what a member needs for it, and whether there is enough of it for a class."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import load_text
from pine_ladder.core.plan import Frozen


class KitNeed(Frozen):
    """A piece of kit, how many a class needs at once, and how many there are (None: not listed)."""

    name: str
    need: int
    there: int | None
    short: bool


def kit_line(
    session: plan.Session, library: Library, tier: int = 0, track: int | None = None
) -> tuple[str, ...]:
    """What a tier and track need for a board, each once, in the order of the board, with its load
    where it has one of its own: `("rope", "kettlebell 16 kg", "box 50 cm")`.

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


def at_once(piece: plan.Piece, people: int) -> int:
    """How many of a class work at once on each line of a piece: stations share, teams who take
    turns share, heats follow each other.
    """
    stations = max((len(b.lines) if b.numbered else 1 for b in piece.blocks), default=1)
    turns = piece.teams.size if piece.teams and piece.teams.how != "together" else 1
    return -(-people // (stations * turns * (piece.heats or 1)))


def held(name: str, kit: Mapping[str, int]) -> int | None:
    """How many there are of a movement's kit (`box or bench` is either); None where not listed."""
    options = tuple(name.split(" or "))
    found = [count for own, count in kit.items() if own.startswith(options)]
    return sum(found) if found else None


def kit_needed(
    session: plan.Session, library: Library, people: int, kit: Mapping[str, int]
) -> tuple[KitNeed, ...]:
    """What so many people need at once of a board as written, against what is there.

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
        out.append(KitNeed(name=name, need=need, there=there, short=short))
    return tuple(out)
