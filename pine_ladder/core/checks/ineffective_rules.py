"""What is written but changes nothing where it stands: the clock, the work and the score are the
same without it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import At, Ground, finding, tasks, with_heading, with_version
from pine_ladder.core.clock import clock, window_s
from pine_ladder.core.notation.printer import modifier_texts
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import own_rounds, score_kind
from pine_ladder.core.units import clock_text


class Idle(NamedTuple):
    """A modifier of a heading: the field it fills, and why it does nothing (None: it does)."""

    field: str
    why: Callable[[plan.Piece], str | None]


def _rounds(piece: plan.Piece) -> int | None:
    """How often the lines are done; None where they go on until a time is over."""
    match piece.format:
        case plan.Rounds(low=low, high=high) | plan.Sets(low=low, high=high):
            return high or low
        case plan.Every(rounds=rounds, high=high):
            return high or rounds
        case plan.Intervals(rounds=rounds, high=high):
            return high or rounds
        case plan.ForTime(rounds=rounds, scheme=scheme):
            return rounds or len(scheme) or own_rounds(piece)
        case plan.Amrap() | plan.Emom() | plan.Tabata():
            return None
    return 1


def _work(piece: plan.Piece) -> str | None:
    window = window_s(piece)
    if window is None:
        return "this piece has no windows that it could end"
    long = piece.work_s and piece.work_s >= window
    return f"a window lasts only {clock_text(window)}" if long else None


def _aim(piece: plan.Piece) -> str | None:
    window = window_s(piece)
    if window is None:
        return "this piece has no windows"
    long = piece.aim_s and piece.aim_s > (piece.work_s or window)
    return f"a window gives only {clock_text(piece.work_s or window)} to work" if long else None


def _cap(piece: plan.Piece) -> str | None:
    if isinstance(piece.format, plan.Every):
        return "the ladder ends where it is missed"
    total = clock(piece).total_s
    return None if total is None else f"the clock ends this piece at {clock_text(total)}"


def _rest(piece: plan.Piece) -> str | None:
    if isinstance(piece.format, plan.Continuous):
        return "a continuous piece goes on without a stop"
    if len(piece.blocks) > 1:
        return None
    by_rounds = plan.Rounds | plan.Sets | plan.Intervals | plan.ForTime | plan.Every
    if isinstance(piece.format, plan.Every) and piece.format.rounds is None:
        return None
    rounds = _rounds(piece) or 1
    if isinstance(piece.format, by_rounds) and rounds > 1:
        return None
    return "there are no rounds or blocks it could stand between"


def _rest_as_needed(piece: plan.Piece) -> str | None:
    return _rest(piece) or (
        "the clock says when to rest" if clock(piece).total_s is not None else None
    )


def _grow(piece: plan.Piece) -> str | None:
    if _rounds(piece) == 1 and not (
        isinstance(piece.format, plan.Every) and piece.format.rounds is None
    ):
        return "there is only one round"
    counted = any(
        isinstance(part.amount, plan.Reps)
        for line in piece.lines
        for task in line.tasks
        for version in task.versions
        for part in (version, *version.parts)
    )
    return None if counted else "no line has a count that could grow"


def _until_missed(piece: plan.Piece) -> str | None:
    ladder = isinstance(piece.format, plan.Every) and piece.format.rounds is None
    return None if ladder else "only a ladder has steps to miss: write every 1:00 without rounds"


def _build(piece: plan.Piece) -> str | None:
    if score_kind(piece) is ScoreKind.LOAD:
        return None
    return "no load is scored here"


def _tie_break(piece: plan.Piece) -> str | None:
    kind = score_kind(piece)
    if kind in (ScoreKind.ROUNDS, ScoreKind.TIME):
        return None
    return "only rounds and times are parted by a split"


IDLE = (
    Idle("work_s", _work),
    Idle("aim_s", _aim),
    Idle("cap_s", _cap),
    Idle("rest", _rest),
    Idle("rest_as_needed", _rest_as_needed),
    Idle("grow_reps", _grow),
    Idle("until_missed", _until_missed),
    Idle("build", _build),
    Idle("tie_break", _tie_break),
)


def _word(piece: plan.Piece, field: str) -> str:
    """How a modifier is written: what the heading loses with it."""
    empty = plan.Piece.model_fields[field].default
    without = modifier_texts(piece.model_copy(update={field: empty}))
    return ", ".join(text for text in modifier_texts(piece) if text not in without)


def modifiers_that_do_nothing(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A modifier of a heading that its format has no use for."""
    found = []
    for piece in session.pieces:
        for field, why in IDLE:
            empty = plan.Piece.model_fields[field].default
            if getattr(piece, field) == empty or (reason := why(piece)) is None:
                continue
            word = _word(piece, field)
            repair = with_heading(piece, f"leave out {word}", **{field: empty})
            found.append(
                finding("idle", piece.line, f"{word} does nothing here: {reason}", "hint", [repair])
            )
    return found


def _idle_details(at: At, version: plan.Exercise) -> Iterator[tuple[str, dict[str, Any]]]:
    """What of a line does nothing, in words, and the fields without it."""
    rounds = _rounds(at.piece)
    if version.sets and rounds is not None and version.sets >= rounds:
        words = f"{version.sets} sets" if version.sets > 1 else "1 set"
        yield f"{words} of {rounds} is all of them", {"sets": None}
    once = rounds == 1
    match version.amount:
        case plan.Reps(grow=grow) if grow and once:
            amount: plan.Amount = version.amount.model_copy(update={"grow": 0})
            yield f"{grow:+d} does nothing in one round", {"amount": amount}
        case plan.Duration(grow_s=grow) if grow and once:
            amount = version.amount.model_copy(update={"grow_s": 0})
            yield f"{grow:+d} s does nothing in one round", {"amount": amount}


def details_that_do_nothing(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A detail of a line that its piece has no use for."""
    return [
        finding(
            "idle",
            at.line.line,
            f"{version.movement or 'the complex'}: {words}",
            "hint",
            [with_version(at, tier, "leave it out", **fields)],
        )
        for at in tasks(session)
        for tier, version in enumerate(at.task.versions)
        for words, fields in _idle_details(at, version)
    ]
