"""A line or a heading of the board as a small form, and back: for those who rather fill in."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.formats import FORMATS, kind_of
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.edits import heading_text
from pine_ladder.core.notation.parser import READ_AS
from pine_ladder.core.notation.printer import (
    amount_text,
    detail_texts,
    exercise_text,
    line_text,
    load_text,
    modifier_texts,
    target_text,
)
from pine_ladder.core.notation.reading import parse
from pine_ladder.core.notation.task import read_task
from pine_ladder.core.notation.tokens import Slip
from pine_ladder.core.notation.words import ROLE_TITLES
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
    """The form as one canonical line of the board; raises Slip that says what cannot be read.

    A form without tasks is a rest station.
    """
    if not form.tasks:
        return f"{form.prefix} rest".strip()
    for versions in form.tasks:
        for version in versions:
            if not version.movement.strip():
                raise Slip("a movement is missing")
    tasks = [" | ".join(_text(version) for version in versions) for versions in form.tasks]
    reading = read_task(" + ".join(tasks), library)
    text = line_text(plan.Line(tasks=reading.tasks))
    return f"{form.prefix} {text}".strip()


Kind = Literal[
    "rounds",
    "sets",
    "amrap",
    "every",
    "emom",
    "intervals",
    "tabata",
    "for_time",
    "accumulate",
    "continuous",
    "rest",
]


class HeadingForm(Frozen):
    """A piece's heading in fields, each as it would be written; empty text is nothing.

    `count` is rounds or sets (`3`, `3-5`), `length` the length, the interval or the work, `off`
    the rest of work/rest intervals, `scheme` the reps round by round.
    """

    role: plan.Role
    name: str = Field(default="", max_length=MAX_FIELD, pattern=r'^[^"“”\n]*$')
    format: Kind
    count: str = Field(default="", max_length=MAX_FIELD)
    length: str = Field(default="", max_length=MAX_FIELD)
    off: str = Field(default="", max_length=MAX_FIELD)
    scheme: str = Field(default="", max_length=MAX_FIELD)
    rest: str = Field(default="", max_length=MAX_FIELD)
    cap: str = Field(default="", max_length=MAX_FIELD)
    target: str = Field(default="", max_length=MAX_FIELD)
    work: str = Field(default="", max_length=MAX_FIELD)
    aim: str = Field(default="", max_length=MAX_FIELD)
    score: plan.ScoreKind | None = None
    pace: Literal["steady", "hard"] | None = None
    team_size: str = Field(default="", max_length=MAX_FIELD)
    team_how: Literal["alternate", "share", "together"] | None = None
    heats: str = Field(default="", max_length=MAX_FIELD)
    each_round: str = Field(default="", max_length=MAX_FIELD)
    build: bool = False
    for_quality: bool = False
    until_missed: bool = False
    tie_break: bool = False
    purpose: plan.Purpose | None = None
    meant: tuple[Annotated[str, Field(max_length=MAX_FIELD)], ...] = Field(
        default=(), max_length=40
    )
    """Codes of findings that are meant as written; no form shows them, none loses them."""


def _only_piece(text: str, library: Library) -> plan.Piece:
    parsed = parse(text, library)
    for finding in parsed.findings:
        if finding.code != READ_AS:
            raise Slip(finding.message)
    if len(parsed.session.pieces) != 1:
        raise Slip("a piece begins with ##, as in ## Warm-up: 3 rounds")
    return parsed.session.pieces[0]


def read_heading_form(text: str, library: Library) -> HeadingForm:
    """The form of a heading line; raises Slip where it cannot be read."""
    piece = _only_piece(text, library)
    words = dict(word.split(" ", 1) for word in modifier_texts(piece) if " " in word)
    return HeadingForm(
        role=piece.role,
        name=piece.name or "",
        format=piece.format.kind,
        **kind_of(piece.format).fill(piece.format),
        rest=words.get("rest", ""),
        cap=words.get("cap", ""),
        target=target_text(piece.target) if piece.target else "",
        work=words.get("work", ""),
        aim=words.get("aim", ""),
        score=piece.score,
        pace=piece.pace,
        team_size=str(piece.teams.size) if piece.teams else "",
        team_how=piece.teams.how if piece.teams else None,
        heats=words.get("heats", ""),
        each_round=f"{piece.grow_reps:+d}" if piece.grow_reps else "",
        build=piece.build,
        for_quality=piece.for_quality,
        until_missed=piece.until_missed,
        tie_break=piece.tie_break,
        purpose=piece.purpose,
        meant=piece.meant,
    )


def _format(form: HeadingForm) -> str:
    fields = {"count": form.count, "length": form.length, "off": form.off, "scheme": form.scheme}
    try:
        return FORMATS[form.format].write({name: text.strip() for name, text in fields.items()})
    except ValueError as error:
        raise Slip(str(error)) from None


def write_heading_form(form: HeadingForm, library: Library) -> str:
    """The form as one canonical heading line; raises Slip that says what cannot be read."""
    told = {
        "rest": form.rest,
        "cap": form.cap,
        "score": form.score.value if form.score else "",
        "pace": form.pace or "",
        "target": form.target,
        "work": form.work,
        "aim": form.aim,
        "teams of": form.team_size,
        "heats": form.heats,
    }
    given = {word: text.strip() for word, text in told.items() if text.strip()}
    parts = [_format(form), *(f"{word} {text}" for word, text in given.items())]
    parts += [form.team_how] if form.team_how else []
    parts += [f"{form.each_round.strip()} reps each round"] if form.each_round.strip() else []
    parts += ["build"] * form.build
    parts += ["for quality"] * form.for_quality
    parts += ["until missed"] * form.until_missed
    parts += ["tie-break"] * form.tie_break
    parts += [f"for: {form.purpose.value}"] if form.purpose else []
    parts += [f"meant {code}" for code in form.meant]
    name = f' "{form.name.strip()}"' if form.name.strip() else ""
    text = f"## {ROLE_TITLES[form.role]}{name}: {', '.join(parts)}"
    return heading_text(_only_piece(text, library))
