"""Starting from an earlier day: its board, its pieces apart, each with its stated steps."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.printer import format_text
from pine_ladder.core.plan import Frozen
from pine_ladder.core.week.balance import uses
from pine_ladder.core.week.progression import steps, take, usual


class EarlierPiece(Frozen):
    """A piece of an earlier board as it was typed, and with its stated steps taken, if it has any.

    `found` where the piece itself holds what was looked for.
    """

    title: str
    format: str
    text: str
    stepped: str | None
    found: bool


class EarlierBoard(Frozen):
    """An earlier board whole and in pieces."""

    title: str
    text: str
    stepped: str | None
    pieces: tuple[EarlierPiece, ...]


def _part(text: str, session: plan.Session, at: int) -> str:
    """The lines of the piece at a place, as they were typed, without blank lines at the end."""
    first = session.pieces[at].line
    later = session.pieces[at + 1].line if at + 1 < len(session.pieces) else None
    return "\n".join(text.splitlines()[first - 1 : later - 1 if later else None]).rstrip()


def pieces_of(text: str, library: Library) -> tuple[str, ...]:
    """The text of each piece of a board, as it was typed."""
    session = parse(text, library).session
    return tuple(_part(text, session, at) for at in range(len(session.pieces)))


def earlier_board(
    text: str, library: Library, words: str = "", movement: str | None = None
) -> EarlierBoard:
    """A board to start from; pieces that hold all `words` and the `movement` are marked as found.

    `movement` is a name the library knows, or stands as it is.
    """
    session = parse(text, library).session
    keys = usual(session, steps(session, library))
    taken = take(text, keys, library) if keys else None
    sought = words.casefold().split()
    found = []
    for at, piece in enumerate(session.pieces):
        typed = _part(text, session, at)
        stepped = _part(taken, session, at) if taken is not None else typed
        alone = session.model_copy(update={"pieces": (piece,)})
        found.append(
            EarlierPiece(
                title=piece.title,
                format=format_text(piece.format),
                text=typed,
                stepped=stepped if stepped != typed else None,
                found=bool(sought or movement)
                and all(word in typed.casefold() for word in sought)
                and (movement is None or holds(alone, library, movement)),
            )
        )
    return EarlierBoard(title=session.title or "", text=text, stepped=taken, pieces=tuple(found))


def holds(session: plan.Session, library: Library, movement: str) -> bool:
    """Whether a movement, by any of its names, is on a board in any tier."""
    known = library.find(movement)
    if known is not None:
        return known.name in uses(session, library)
    return any(
        movement.casefold() in piece.model_dump_json().casefold() for piece in session.pieces
    )
