"""What no class can do: pieces so large that reading them further would only cost time.

Bounds are far above any day a gym has held, and low enough that every later step (clock, test-run,
pages) ends soon whatever is written.
"""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.notation.tokens import MAX_ROUNDS

MAX_REPS, MAX_WINDOWS, MAX_SEGMENT_S = 20_000, 600, 36_000
MAX_TEAM, MAX_HEATS = 30, 12


def _reps(exercise: plan.Exercise, rounds: int) -> int:
    sides = 2 if exercise.side is plan.Side.EACH else 1
    inside = sum(_reps(part, 1) for part in exercise.parts) or 1
    match exercise.amount:
        case plan.Reps(low=low, high=high, grow=grow):
            most = (high or low) * rounds + abs(grow) * rounds * (rounds - 1) // 2
        case plan.Scheme(values=values, unit=None):
            most = sum(values)
        case plan.Calories(calories=calories):
            most = max(calories) * rounds
        case _:
            most = rounds
    return most * sides * inside


def rounds_of(piece: plan.Piece) -> int:
    """How often the lines of a piece come round; 1 where nobody says."""
    match piece.format:
        case plan.Rounds(low=low, high=high) | plan.Sets(low=low, high=high):
            return high or low
        case plan.Every(rounds=rounds) | plan.Intervals(rounds=rounds):
            return rounds or 1
        case plan.Emom(length_s=length):
            return -(-length // 60)
        case plan.ForTime(rounds=rounds, scheme=scheme):
            return rounds or len(scheme) or 1
    return 1


def _windows(piece: plan.Piece) -> int:
    lines = sum(len(block.lines) for block in piece.blocks) or 1
    members = piece.teams.size if piece.teams and piece.teams.how == "alternate" else 1
    match piece.format:
        case plan.Every(rounds=rounds) | plan.Intervals(rounds=rounds):
            return (rounds or 1) * lines * members
        case plan.Emom(length_s=length):
            return length // 60 * max(1, len(piece.blocks))
        case plan.Tabata():
            return 8 * max(1, len(piece.blocks)) * members
    return 1


def excess(piece: plan.Piece) -> str | None:
    """Why a piece is more than a class can do, in a sentence; None where it is not."""
    rounds, form = rounds_of(piece), piece.format
    if rounds > MAX_ROUNDS and not isinstance(form, plan.Emom):
        return f"{rounds} rounds are more than a class can do: {MAX_ROUNDS} at most"
    windows = _windows(piece)
    if windows > MAX_WINDOWS:
        return f"{windows} windows are more than a class can do: {MAX_WINDOWS} at most"
    scheme = sum(form.scheme) if isinstance(form, plan.ForTime) else 0
    lines = (*piece.buy_in, *piece.lines, *piece.cash_out)
    tasks = [version for line in lines for task in line.tasks for version in task.versions[:1]]
    reps = sum(scheme if task.amount is None else _reps(task, rounds) for task in tasks)
    if reps > MAX_REPS:
        return f"{reps} reps are more than a class can do: {MAX_REPS} at most"
    if piece.teams and piece.teams.size > MAX_TEAM:
        return f"teams of {piece.teams.size}: {MAX_TEAM} at most"
    if (piece.heats or 0) > MAX_HEATS:
        return f"{piece.heats} heats: {MAX_HEATS} at most"
    return None


def within(piece: plan.Piece) -> plan.Piece:
    """The piece with as much of it as a class can do: one round of its first lines."""
    bare = piece.model_copy(
        update={
            "format": plan.Rounds(low=1),
            "teams": None,
            "heats": None,
            "blocks": (),
            "buy_in": (),
            "cash_out": (),
        }
    )
    blocks: list[plan.Block] = []
    for block in piece.blocks:
        kept: tuple[plan.Line, ...] = ()
        for line in block.lines:
            held = block.model_copy(update={"lines": (*kept, line)})
            if excess(bare.model_copy(update={"blocks": (*blocks, held)})):
                continue
            kept = (*kept, line)
        if kept:
            blocks.append(block.model_copy(update={"lines": kept}))
    return bare.model_copy(update={"blocks": tuple(blocks)})
