"""Changes of a piece that comes again, by how it went: one at a time, each with the
numbers behind it.

Under the aim, fewer reps; beyond it, more; where the pace went by more than a fifth from the first
rounds to the last, fewer or shorter; where everybody was inside, one step of density, a rep or a
round (common practice, no source). Fewer than six scores say nothing.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from statistics import median
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.notation.edits import heading_text, numbered_text
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.pacing import FALLING, STEADY
from pine_ladder.core.units import clock_text, number_text

LONG_ENOUGH, HELD_OFTEN = dt.timedelta(weeks=6), 3
"""What has come so often over so long makes room for another piece (common practice, no source)."""
FEWEST = 6
"""Scores from which what most did says something."""
CAPPED_OFTEN = 0.3
"""Share of a class that the cap stopped, beyond which there was too much work."""
NEARLY_ALL = 0.8
"""Share of a class inside a target from which the piece may grow."""
MOST_CHANGE = 0.6
"""Reps are never cut below this share of what they were, nor raised beyond its inverse."""
SHORTER = 0.8
LONGEST_ROUNDS = 8
DENSER_S = 60
SHORTEST_AMRAP_S = 240


class Result(NamedTuple):
    """One score of a piece: `done` in the unit of its target (rounds, reps, seconds; None where
    it says none), the drop of its pace as a share, and whether the cap stopped it.
    """

    done: float | None
    drop: float | None = None
    capped: bool = False


class Change(NamedTuple):
    """A change of a piece: its rule's name, in words, and the lines of text it replaces."""

    rule: str
    label: str
    lines: tuple[tuple[int, str], ...]


class Advice(Frozen):
    """Advice for the next time from a piece's results: in words, and the step that does it.

    `step` is the key of a step of the day (`progression.steps`), None where nothing is changed.
    """

    told: str
    step: str | None = None


def advice(
    piece: plan.Piece,
    results: Sequence[Result],
    theme: plan.Theme | None,
    earlier: Sequence[dt.date],
    repeats: bool = False,
) -> Advice | None:
    """Advice for the next time from the results of a piece; None for one that keeps no results.

    `earlier` are the dates that held the same piece before, this one last. A retest stays as it
    is, and so does what fewer than six have a score on. What has come for six weeks makes room,
    but in a gym that `repeats` on purpose.
    """
    if piece.role in (plan.Role.WARM_UP, plan.Role.COOL_DOWN):
        return None
    if theme == "test":
        return Advice(told="A test stays as it is, so that it can be compared.")
    if len(results) < FEWEST:
        return Advice(told=f"Too few scores to say: {len(results)} of {FEWEST}.")
    often = len(earlier) >= HELD_OFTEN and not repeats
    if often and earlier[-1] - earlier[0] >= LONG_ENOUGH:
        since = f"{earlier[0]:%-d %B}"
        return Advice(told=f"Held {len(earlier)} times since {since}: time for another piece.")
    change = next_time(piece, results)
    if change is None:
        return Advice(told="The scores ask for no change: keep it, or take a usual step.")
    return Advice(told=change.label, step=step_key(piece, change))


def step_key(piece: plan.Piece, change: Change) -> str:
    """The key of a change among the steps of its day."""
    return f"next {change.rule} {piece.line}"


def next_time(piece: plan.Piece, results: Sequence[Result]) -> Change | None:
    """The one change that the results of a piece ask for; None where they ask for none, are too
    few, or the piece is of a kind that other steps are for.
    """
    if len(results) < FEWEST or piece.role in (plan.Role.WARM_UP, plan.Role.COOL_DOWN):
        return None
    if not isinstance(piece.format, plan.Amrap | plan.ForTime | plan.Emom | plan.Every):
        return None
    done = [result.done for result in results if result.done is not None]
    drops = [result.drop for result in results if result.drop is not None]
    drop = median(drops) if len(drops) >= FEWEST else None
    capped = sum(result.capped for result in results) / len(results)
    aimed = _aimed(piece, done)
    if aimed is not None:
        return aimed
    if capped > CAPPED_OFTEN:
        return _reps(piece, 1 - capped / 2, f"the cap stopped {capped:.0%} of {len(results)}")
    if drop is not None and drop > FALLING:
        return _shorter(piece, f"the last rounds were {drop:.0%} slower than the first")
    target = piece.target
    if target is not None and len(done) >= FEWEST:
        inside = sum(target.low <= one <= target.high for one in done) / len(done)
        if inside >= NEARLY_ALL:
            who = "everybody" if inside == 1 else f"{inside:.0%}"
            return _further(piece, f"{who} inside the target")
        return None
    if target is None and drop is not None and drop <= STEADY:
        return _further(piece, "the pace held to the end")
    return None


def _aimed(piece: plan.Piece, done: Sequence[float]) -> Change | None:
    """More or fewer reps where the middle of the class missed the piece's target."""
    target = piece.target
    if target is None or len(done) < FEWEST:
        return None
    middle, aim = median(done), (target.low + target.high) / 2
    if target.low <= middle <= target.high:
        return None
    timed = target.unit == "time"
    said = clock_text(round(middle)) if timed else f"{middle:.1f} {target.unit}"
    span = (
        f"{clock_text(target.low)}-{clock_text(target.high)}"
        if timed
        else f"{target.low}-{target.high}"
    )
    return _reps(piece, aim / middle if timed else middle / aim, f"most did {said}, aim {span}")


def _reps(piece: plan.Piece, factor: float, why: str) -> Change | None:
    """The reps of every line by a factor, in numbers that coaches write."""
    factor = min(1 / MOST_CHANGE, max(MOST_CHANGE, factor))
    lines, told = [], []
    for block in piece.blocks:
        for line in block.lines:
            tasks = tuple(_scaled(task, factor) for task in line.tasks)
            if tasks == line.tasks:
                continue
            lines.append((line.line, numbered_text(block, line, _with(line, tasks))))
            told += [
                f"{_low(old)} → {_low(new)} {old.versions[0].movement}"
                for old, new in zip(line.tasks, tasks, strict=True)
                if old != new
            ]
    if not lines:
        return None
    return Change("reps", f"{', '.join(told)}: {why}", tuple(lines))


def _low(task: plan.Task) -> str:
    amount = task.versions[0].amount
    return number_text(amount.low) if isinstance(amount, plan.Reps) else ""


def _scaled(task: plan.Task, factor: float) -> plan.Task:
    return task.model_copy(
        update={"versions": tuple(_fewer_or_more(version, factor) for version in task.versions)}
    )


def _fewer_or_more(exercise: plan.Exercise, factor: float) -> plan.Exercise:
    amount = exercise.amount
    if not isinstance(amount, plan.Reps) or amount.high:
        return exercise
    step = 2 if exercise.side is plan.Side.ALTERNATING or amount.low >= EVEN_FROM else 1
    low = max(step, step * round(amount.low * factor / step))
    return exercise.model_copy(update={"amount": amount.model_copy(update={"low": low})})


EVEN_FROM = 12
"""Reps from which coaches write even numbers."""


def _with(line: plan.Line, tasks: tuple[plan.Task, ...]) -> plan.Line:
    return line.model_copy(update={"tasks": tasks})


def _shorter(piece: plan.Piece, why: str) -> Change | None:
    """A shorter piece, or fewer reps where its length is not what is too long."""
    form = piece.format
    if isinstance(form, plan.Amrap) and not form.high_s and form.length_s >= 2 * DENSER_S:
        length = max(DENSER_S, 60 * round(form.length_s * SHORTER / 60))
        if length < form.length_s:
            return _heading(piece, form.model_copy(update={"length_s": length}), why)
    if isinstance(form, plan.ForTime) and (form.rounds or 1) > 2:
        return _heading(piece, form.model_copy(update={"rounds": (form.rounds or 1) - 1}), why)
    return _reps(piece, SHORTER, why)


def _further(piece: plan.Piece, why: str) -> Change | None:
    """One step on: a round of what is raced, a rep or two of what stands first otherwise."""
    form = piece.format
    if isinstance(form, plan.ForTime) and 1 < (form.rounds or 1) < LONGEST_ROUNDS:
        more = form.model_copy(update={"rounds": (form.rounds or 1) + 1})
        return _heading(piece, more, why)
    for block in piece.blocks:
        for line in block.lines:
            first, *others = line.tasks or (None,)
            if first is None or not isinstance(first.versions[0].amount, plan.Reps):
                continue
            low = first.versions[0].amount.low
            tasks = (_scaled(first, (low + (2 if low >= 10 else 1)) / low), *others)
            if tasks == line.tasks or first.versions[0].amount.high:
                continue
            text = numbered_text(block, line, _with(line, tuple(tasks)))
            label = f"{low} → {_low(tasks[0])} {first.versions[0].movement}: {why}"
            return Change("rep", label, ((line.line, text),))
    return None


def _heading(piece: plan.Piece, form: plan.Format, why: str) -> Change | None:
    changed = piece.model_copy(update={"format": form})
    if excess(changed):
        return None
    before, after = (heading_text(one).split(":", 1)[1].strip() for one in (piece, changed))
    return Change("length", f"{before} → {after}: {why}", ((piece.line, heading_text(changed)),))
