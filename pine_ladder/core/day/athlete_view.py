"""The board as athletes read it: one tier, one track or both, words ready to show."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from pine_ladder.core import plan
from pine_ladder.core.day.hour_ruler import piece_keys
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import amount_text, detail_texts, format_text, load_text
from pine_ladder.core.notation.printer import modifier_texts as all_modifiers
from pine_ladder.core.plan import Frozen, for_track
from pine_ladder.core.poses import figure_of
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import WeightUnit, kg_to_lb, lb_to_kg, number_text

PAIN_STOPS = "Pain stops the set: tell the coach."
READINESS = (
    "New, returning or unwell? Check with a licensed clinician first. "
    "The coach, the facility's policy and local rules come before anything on this page."
)


class TaskView(Frozen):
    """One task in words; `alternatives` are the coach's for missing kit, `shows` the movements of
    it that have a figure, `tempo` as written."""

    amount: str
    movement: str
    details: tuple[str, ...]
    load: str
    note: str
    alternatives: tuple[str, ...]
    known: bool
    cautions: tuple[str, ...]
    reason: str = ""
    loading: str = ""
    shows: tuple[str, ...] = ()
    tempo: str = ""


class LineView(Frozen):
    """One line of the board; `rest` for a rest station."""

    line: int
    station: int | None
    rest: bool
    tasks: tuple[TaskView, ...]


class PieceView(Frozen):
    """One piece as it stands on the board."""

    key: str
    line: int
    role: plan.Role
    title: str
    format: str
    modifiers: tuple[str, ...]
    before: tuple[LineView, ...]
    blocks: tuple[tuple[LineView, ...], ...]
    after: tuple[LineView, ...]
    notes: tuple[str, ...]
    score: plan.ScoreKind | None
    cautions: tuple[str, ...]


class BoardView(Frozen):
    """The whole board for one tier and track."""

    title: str
    note: str
    pieces: tuple[PieceView, ...]
    pain: str = PAIN_STOPS
    readiness: str = READINESS


def shown_on(board: BoardView) -> tuple[str, ...]:
    """The movements of a board that have a figure, each once: those of the scored pieces first."""
    pieces = sorted(board.pieces, key=lambda piece: piece.score is None)
    lines = [
        line
        for piece in pieces
        for block in (piece.before, *piece.blocks, piece.after)
        for line in block
    ]
    return tuple(
        dict.fromkeys(name for line in lines for task in line.tasks for name in task.shows)
    )


def load_words(load: plan.Load, unit: WeightUnit | None = None) -> str:
    """A load as written, and what it is in somebody's own unit where that is another.

    Whole pounds, half kilograms: what is loaded is the gym's own number.
    """
    written = load_text(load)
    if not isinstance(load, plan.Weight) or unit is None or unit == load.unit:
        return written
    own = "/".join(_converted(value, unit) for value in load.values)
    counted = f"{load.count} x " if load.count > 1 else ""
    return f"{written} ({counted}{own} {unit})"


def _converted(value: float, unit: WeightUnit) -> str:
    if unit == "lb":
        return number_text(round(kg_to_lb(value)))
    return number_text(round(lb_to_kg(value) * 2) / 2)


def _words(
    exercise: plan.Exercise, library: Library, track: int | None, unit: WeightUnit | None
) -> TaskView:
    own = for_track(exercise, track)
    movement = library.find(own.movement)
    name = own.movement
    shows: tuple[str, ...] = (
        (movement.name,) if movement and figure_of(movement.name, library) else ()
    )
    if own.parts:
        parts = [_words(part, library, track, unit) for part in own.parts]
        name = " + ".join(f"{part.amount} {part.movement}".strip() for part in parts)
        shows = tuple(dict.fromkeys(shown for part in parts for shown in part.shows))
    others = [_words(other, library, track, unit) for other in own.instead]
    return TaskView(
        amount=amount_text(own.amount) if own.amount else "",
        movement=name,
        details=tuple(detail_texts(own)),
        load=load_words(own.load, unit) if own.load else "",
        note=own.note or "",
        alternatives=tuple(
            " ".join(filter(None, (o.amount, o.movement, *o.details, o.load))) for o in others
        ),
        known=movement is not None or bool(own.parts),
        cautions=movement.cautions if movement else (),
        shows=shows,
        tempo=own.tempo or "",
    )


Own = Mapping[tuple[int, int], tuple[str, str]]
"""Why a task is an athlete's own version and what to load, by line and place in the line."""


def _line(
    line: plan.Line,
    library: Library,
    tier: int,
    track: int | None,
    own: Own,
    station: int | None = None,
    unit: WeightUnit | None = None,
) -> LineView:
    tasks = []
    for place, task in enumerate(line.tasks):
        words = _words(task.version(tier), library, track, unit)
        reason, loading = own.get((line.line, place), ("", ""))
        tasks.append(words.model_copy(update={"reason": reason, "loading": loading}))
    return LineView(line=line.line, station=station, rest=line.is_rest, tasks=tuple(tasks))


def view(
    session: plan.Session,
    library: Library,
    tier: int = 0,
    track: int | None = None,
    own: Own | None = None,
    keys: Sequence[str] | None = None,
    unit: WeightUnit | None = None,
) -> BoardView:
    """The board in words for a tier (0 is as written) and a track (None shows pairs whole).

    `own` tells, for a session in one athlete's versions, why and what to load; `keys` are the
    pieces' identities where the board is saved; `unit` is one that loads are told in as well.
    """
    own = own or {}
    pieces = []
    for piece, key in zip(session.pieces, keys or piece_keys(session), strict=True):
        blocks = tuple(
            tuple(
                _line(line, library, tier, track, own, number if block.numbered else None, unit)
                for number, line in enumerate(block.lines, start=1)
            )
            for block in piece.blocks
        )
        before = tuple(_line(line, library, tier, track, own, None, unit) for line in piece.buy_in)
        after = tuple(_line(line, library, tier, track, own, None, unit) for line in piece.cash_out)
        lines = (*before, *(line for block in blocks for line in block), *after)
        cautions = dict.fromkeys(c for line in lines for task in line.tasks for c in task.cautions)
        pieces.append(
            PieceView(
                key=key,
                line=piece.line,
                role=piece.role,
                title=piece.title,
                format=format_text(piece.format),
                modifiers=tuple(all_modifiers(piece)),
                before=before,
                blocks=blocks,
                after=after,
                notes=piece.notes,
                score=score_kind(piece),
                cautions=tuple(cautions),
            )
        )
    return BoardView(title=session.title or "", note=session.note or "", pieces=tuple(pieces))
