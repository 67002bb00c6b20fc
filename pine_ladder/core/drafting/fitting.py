"""Pieces brought to a length: by their time, their rounds or their reps."""

from __future__ import annotations

import numpy as np

from pine_ladder.core import plan
from pine_ladder.core.drafting.constraints import minutes_of
from pine_ladder.core.drafting.material import Material
from pine_ladder.core.drafting.wishes import Wish
from pine_ladder.core.pace.rep_times import sample
from pine_ladder.core.pace.runs import run

CHANGE_MIN = 1.0
"""Minutes to change from one piece to the next (common practice, no source)."""
EVEN = 1.2
"""Largest ratio of rounds between blocks of one length."""


def length(piece: plan.Piece, material: Material) -> float:
    """Minutes of a piece at the slow end, with changing over and explaining."""
    alone = plan.Session(pieces=(piece,))
    return minutes_of(alone, material).p90 + CHANGE_MIN


def least_minutes(wish: Wish, material: Material) -> float:
    """The minutes that a wished piece takes at least."""
    if wish.piece is None:
        return wish.minutes or 0.0
    piece = wish.piece
    match piece.format:
        case (
            plan.Amrap(length_s=length)
            | plan.Emom(length_s=length)
            | plan.Continuous(length_s=length)
        ):
            return length / 60
        case plan.Every(interval_s=interval, rounds=int(rounds)):
            return interval * rounds / 60
        case plan.Intervals(work_s=work, rest_s=rest, rounds=rounds):
            return (work + rest) * rounds * max(1, len(piece.lines)) / 60
        case plan.Sets(low=sets) | plan.Rounds(low=sets) if piece.rest:
            return ((sets - 1) * piece.rest.low_s + sets * 20) / 60
    return wish.minutes or (piece.cap_s or 0) / 60


def fitted(piece: plan.Piece, minutes: float, material: Material) -> plan.Piece:
    """A piece brought to about so many minutes by its length or its rounds."""
    form = piece.format
    seconds = 60 * minutes
    match form:
        case plan.Amrap():
            return piece.model_copy(update={"format": plan.Amrap(length_s=60 * round(minutes))})
        case plan.Every(interval_s=interval) if form.rounds:
            stations = max((len(b.lines) if b.numbered else 1) for b in piece.blocks)
            rounds = max(1, int(seconds / interval / stations))
            return piece.model_copy(
                update={
                    "format": form.model_copy(
                        update={
                            "rounds": min(form.rounds, rounds) if rounds < form.rounds else rounds,
                            "high": None,
                        }
                    )
                }
            )
        case plan.Sets(low=sets):
            while sets > 2 and length(piece, material) - 1.5 > minutes:
                sets -= 1
                piece = piece.model_copy(update={"format": plan.Sets(low=sets, high=None)})
        case plan.ForTime():
            return _for_so_long(piece, seconds, material)
    return piece


FILLS = 0.75
"""The middle of a class is through in this part of a cap (judgement)."""
MOST_SCALED = (0.5, 2.5)


def _for_so_long(piece: plan.Piece, seconds: float, material: Material) -> plan.Piece:
    """Work for time whose middle is through in about three quarters of so many seconds."""
    free = piece.model_copy(update={"cap_s": None})
    for _ in range(3):
        done = run(free, sample(24, 0), material.library)
        factor = FILLS * seconds / max(20.0, float(np.median(done.time_s[done.able])))
        form = free.format
        if 0.85 <= factor <= 1.2 or not isinstance(form, plan.ForTime) or form.scheme:
            break
        factor = min(MOST_SCALED[1], max(MOST_SCALED[0], factor))
        rounds = form.rounds or 1
        fewer, more_of_them = factor < 0.7 and rounds > 2, factor > 1.4 and rounds < 8
        if form.rounds and (fewer or more_of_them):
            more = max(2, min(8, round(rounds * factor)))
            free = free.model_copy(update={"format": plan.ForTime(rounds=more)})
        else:
            free = _scaled(free, min(1.6, factor))
    cap = min(seconds, max(180.0, float(np.quantile(done.time_s[done.able], 0.85))))
    return free.model_copy(update={"cap_s": 60 * max(3, round(cap / 60))})


def even(pieces: list[plan.Piece], material: Material) -> list[plan.Piece]:
    """AMRAPs of one length brought to about the same rounds, by their reps."""
    own = [at for at, piece in enumerate(pieces) if isinstance(piece.format, plan.Amrap)]
    if len(own) < 3:
        return pieces
    rounds = [_rounds(pieces[at], material) for at in own]
    for _ in range(8):
        middle = float(np.median(rounds))
        furthest = max(range(len(own)), key=lambda i: abs(np.log(rounds[i] / middle)))
        if max(rounds) <= EVEN * 0.92 * min(rounds) or max(rounds) <= 1.08 * min(rounds):
            break
        at = own[furthest]
        pieces[at] = _scaled(pieces[at], rounds[furthest] / middle)
        rounds[furthest] = _rounds(pieces[at], material)
    return pieces


def _rounds(piece: plan.Piece, material: Material) -> float:
    done = run(piece, sample(24, 0), material.library)
    return max(0.2, float(np.median(done.result)))


def round_number(wanted: float) -> int:
    """The number of reps nearest to one that coaches write: all up to ten, then even ones, tens.

    >>> round_number(31.2), round_number(7.4), round_number(17.0)
    (30, 7, 16)
    """
    if wanted <= 10:
        return max(2, round(wanted))
    if wanted <= 24:
        return 2 * round(wanted / 2)
    return min(MOST_REPS, 5 * round(wanted / 5))


MOST_REPS = 60
"""More of one movement in a row is asked of nobody (judgement)."""


def _scaled(piece: plan.Piece, factor: float) -> plan.Piece:
    """A piece with so many times the reps, metres and seconds, by the nearest single steps."""

    def scaled(exercise: plan.Exercise) -> plan.Exercise:
        match exercise.amount:
            case plan.Reps(low=low):
                more = round_number(low * factor)
                even = exercise.side is plan.Side.ALTERNATING
                return exercise.model_copy(
                    update={"amount": plan.Reps(low=more + (more % 2 if even else 0))}
                )
            case plan.Distance(metres=metres):
                step = 10 if metres[0] < 100 else 50
                values = tuple(max(step, step * round(m * factor / step)) for m in metres)
                return exercise.model_copy(
                    update={"amount": plan.Distance(metres=tuple(float(v) for v in values))}
                )
            case plan.Duration(seconds=seconds):
                return exercise.model_copy(
                    update={
                        "amount": plan.Duration(seconds=max(10, 5 * round(seconds * factor / 5)))
                    }
                )
        return exercise

    blocks = tuple(
        block.model_copy(
            update={
                "lines": tuple(
                    line.model_copy(
                        update={
                            "tasks": tuple(
                                task.model_copy(
                                    update={"versions": tuple(map(scaled, task.versions))}
                                )
                                for task in line.tasks
                            )
                        }
                    )
                    for line in block.lines
                )
            }
        )
        for block in piece.blocks
    )
    return piece.model_copy(update={"blocks": blocks})
