"""A line of the board as a small form, and back: for those who would rather fill in than type."""

from __future__ import annotations

import re

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import (
    amount_text,
    detail_texts,
    exercise_text,
    line_text,
    load_text,
)
from pine_ladder.core.notation.task import read_task
from pine_ladder.core.notation.tokens import Slip
from pine_ladder.core.plan import Frozen

MAX_FIELD = 120
_PREFIX = re.compile(r"\s*(?P<prefix>(?:\d+\)|buy-?in:|cash-?out:)\s*)?(?P<rest>.*)", re.IGNORECASE)


class VersionForm(Frozen):
    """One tier's version of a task in fields; empty text is nothing. `details` holds the rarer
    ones as written (`one arm, pause 2 s`), `instead` the alternatives for missing kit.
    """

    amount: str = Field(default="", max_length=MAX_FIELD)
    movement: str = Field(max_length=400)
    side: plan.Side | None = None
    tempo: str = Field(default="", max_length=MAX_FIELD)
    details: str = Field(default="", max_length=MAX_FIELD)
    load: str = Field(default="", max_length=MAX_FIELD)
    instead: str = Field(default="", max_length=400)
    note: str = Field(default="", max_length=400)


class LineForm(Frozen):
    """A line: what stands before its tasks (`1) `, `buy-in: `), then versions of each task."""

    prefix: str = Field(default="", max_length=20)
    tasks: tuple[tuple[VersionForm, ...], ...] = Field(max_length=12)


def _fields(exercise: plan.Exercise) -> VersionForm:
    parts = [exercise_text(part) for part in exercise.parts]
    rarer = exercise.model_copy(update={"side": None, "tempo": None})
    return VersionForm(
        amount=amount_text(exercise.amount) if exercise.amount else "",
        movement=f"[{' + '.join(parts)}]" if parts else exercise.movement,
        side=exercise.side,
        tempo=exercise.tempo or "",
        details=", ".join(detail_texts(rarer)),
        load=load_text(exercise.load) if exercise.load else "",
        instead=" or ".join(exercise_text(other) for other in exercise.instead),
        note=exercise.note or "",
    )


def read_form(text: str, library: Library) -> LineForm:
    """The form of a task line; raises Slip where the line cannot be read."""
    found = _PREFIX.match(text)
    assert found is not None
    reading = read_task(found["rest"], library)
    tasks = tuple(tuple(_fields(version) for version in task.versions) for task in reading.tasks)
    return LineForm(prefix=(found["prefix"] or "").strip(), tasks=tasks)


def _text(version: VersionForm) -> str:
    tempo = version.tempo.strip()
    details = [version.side or "", f"tempo {tempo}" if tempo else "", version.details.strip()]
    head = f"{version.amount.strip()} {version.movement.strip()}".strip()
    out = ", ".join(filter(None, [head, *details]))
    if load := version.load.strip().removeprefix("@").strip():
        out += f" @ {load}"
    if instead := version.instead.strip():
        out += f" or {instead}"
    return f"{out} — {version.note.strip()}" if version.note.strip() else out


def write_form(form: LineForm, library: Library) -> str:
    """The form as one canonical line of the board; raises Slip that says what cannot be read."""
    for versions in form.tasks:
        for version in versions:
            if not version.movement.strip():
                raise Slip("a movement is missing")
    tasks = [" | ".join(_text(version) for version in versions) for versions in form.tasks]
    reading = read_task(" + ".join(tasks), library)
    text = line_text(plan.Line(tasks=reading.tasks))
    return f"{form.prefix} {text}".strip()
