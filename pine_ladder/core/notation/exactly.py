"""Exact notation by the line: which headings and which lines of work read as they stand."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

from lark.exceptions import UnexpectedInput

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import words
from pine_ladder.core.notation.heading import Heading, heading_tree, read_heading
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.naming import AMOUNTS
from pine_ladder.core.notation.task import read_task, task_tree
from pine_ladder.core.notation.tokens import Slip

PIECE = re.compile(
    r"""\#\#\s*(?P<role>[^":#]*?)\s*(?:["“”](?P<name>[^"“”]*)["“”]\s*)?(?::(?P<rest>.*))?$"""
)
"""The first line of a piece: role, name, and its format with modifiers."""
EXTRA = re.compile(r"(?P<key>buy[- ]?in|cash[- ]?out)\s*:\s*(?P<task>.*)", re.IGNORECASE)
A_SLIP, A_FAINT_SLIP = 80, 60
"""Likeness of a slip to the role that was meant, of 100; fainter before an exact format."""
SAID_AS_NOTE = re.compile(r"—|\s>\s")
"""Marks behind which all is a note."""
_LOST = re.compile(r"[(@ ]*[\d./ x×]+\s*(?:kgs?|lbs?|#|%|cm|in|\")?[) ]*")
"""A note that is a load or a number alone."""


def format_said(rest: str, column: int = 0) -> Heading:
    """The format and modifiers behind a heading's colon; raises Slip where there are none.

    `column` is where they begin in the line, to point at what is wrong.
    """
    try:
        return read_heading(rest)
    except Slip as slip:
        moved = (slip.start + column, slip.end + column, slip.replacement, slip.code, slip.ways)
        raise Slip(slip.message, *moved) from None


def check_format(role: plan.Role, heading: Heading, start: int = 0, end: int = 0) -> None:
    """Raises Slip, from `start` to `end` of the line, for a format that a role does not have."""
    if isinstance(heading.format, plan.Rest) != (role is plan.Role.REST):
        if role is plan.Role.REST:
            raise Slip("a rest piece has a length alone: ## Rest: 2:00", start, end)
        raise Slip(
            "a length alone is a rest; how is this piece timed? for example AMRAP 12:00",
            start,
            end,
        )
    endless = isinstance(heading.format, plan.Every) and heading.format.rounds is None
    if endless and not heading.modifiers.get("until_missed"):
        raise Slip(
            "how many rounds? write x 6 after the interval, or until missed for a ladder",
            start,
            end,
        )


@lru_cache(maxsize=4096)
def heading_reads(text: str) -> bool:
    """Whether a heading with its marks reads as it stands."""
    found = PIECE.match(text)
    role = words.role_named(found["role"]) if found else None
    if found is None or role is None or found["rest"] is None:
        return False
    try:
        check_format(role, format_said(found["rest"]))
    except Slip:
        return False
    return True


@lru_cache(maxsize=4096)
def is_heading(text: str) -> bool:
    """Whether a line is a heading of the notation, or one with a slip of the pen in it.

    One whose format is no notation may still be plain writing behind a role.
    """
    if not text.startswith("##"):
        return False
    if heading_reads(text):
        return True
    found = PIECE.match(text)
    named = words.role_named(found["role"]) if found is not None else None
    if found is not None and named is not None and found["rest"] is not None:
        return _grammatical(found["rest"], heading_tree) and not _is_slot(named, found["rest"])
    role = re.match(r"##\s*([A-Za-z-]+)(:.*)?", text)
    if role is None or words.role_named(role[1]) is not None:
        return False
    timed = role[2] is not None and any(
        heading_reads(f"## {known}{role[2]}") for known in ("Conditioning", "Rest")
    )
    likeness = A_FAINT_SLIP if timed else A_SLIP
    return words.nearest(role[1], list(words.ROLE_TITLES.values()), likeness) is not None


def _is_slot(role: plan.Role, rest: str) -> bool:
    """Whether a length alone is how long a loose part lasts: `Mobility: 10 min`."""
    if role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN, plan.Role.MOBILITY):
        return False
    try:
        return isinstance(read_heading(rest).format, plan.Rest)
    except Slip:
        return False


def _grammatical(text: str, tree: Callable[[str], object]) -> bool:
    """Whether a text is made as the notation is, if not of values that make sense."""
    try:
        tree(text)
    except UnexpectedInput:
        return False
    return True


def has_wrong_value(text: str, library: Library) -> bool:
    """Whether a line is made as a line of work is, of values that make no sense: `0 push-up`."""
    extra = EXTRA.match(text)
    task = extra["task"] if extra else text
    try:
        read_task(task, library)
    except Slip:
        return _grammatical(task, task_tree)
    return False


def is_role(text: str) -> bool:
    """Whether a line is a role of the notation with a colon behind its marks."""
    found = PIECE.match(text)
    known = found is not None and words.role_named(found["role"]) is not None
    return known and found is not None and found["rest"] is not None


@lru_cache(maxsize=4096)
def task_reads(text: str, library: Library) -> bool:
    """Whether a line of work reads as it stands: no number, load or work ends up in its note."""
    extra = EXTRA.match(text)
    try:
        reading = read_task(extra["task"] if extra else text, library)
    except Slip:
        return False
    if SAID_AS_NOTE.search(text):
        return True
    if reading.slips or _sides(text, library):
        return False
    kept = [v.note for task in reading.tasks for v in task.versions if v.note]
    notes = [one for note in kept for one in note.split("; ")]
    return not any(_LOST.fullmatch(note) or _is_work(note, library) for note in notes)


def _sides(text: str, library: Library) -> bool:
    """Whether `5+5` is five for each side, and no ladder that grows by five."""
    said = tokens(text, library) if re.match(r"(\d+)\+\1\s", text) else ()
    return bool(said) and said[0].kind == "pair"


def _is_work(note: str, library: Library) -> bool:
    """Whether a detail is a task of its own: `12 lunges`, `thrusters 40/30`."""
    if not re.search(r"\d", note):
        return False
    kinds = [token.kind for token in tokens(note, library) if token.kind != "filler"]
    weighed = bool({"weight", "pair", "percent"} & set(kinds))
    return "movement" in kinds and (kinds[0] in AMOUNTS or (kinds[0] == "movement" and weighed))
