"""Rows that give each set its load: `sets 1-3 @ 70 %, 4-5 @ 80 %`."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import TYPE_CHECKING, NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.work import Work, set_by_set

if TYPE_CHECKING:
    from pine_ladder.core.notation.reader.board import Board

_EACH = re.compile(
    r"(?:sets?\s*)?(?P<first>\d{1,2})(?:\s*(?:-|to|&|and)\s*(?P<last>\d{1,2}))?"
    r"\s*(?:at\b|@|=|:(?=\s))\s*(?P<load>\d{2,3}(?:\.5)?)\s*(?P<mark>%?)(?:[\s,;]|\band\b|\bthen\b)*",
    re.IGNORECASE,
)
_FROM_THE_FIRST = re.compile(r"\s*(?=sets?\s*1\b)", re.IGNORECASE)
_ON = re.compile(r"\s*(?=sets?\s*\d)", re.IGNORECASE)
_OF = re.compile(
    r"of\s+(?:(?:your|the|today's)\s+)?[\w&]+(?:\s+(?:max|1rm|single))?", re.IGNORECASE
)


class SetLoads(NamedTuple):
    """The percent of each set, and the column behind the last of them."""

    percents: tuple[float, ...]
    end: int


def percents_by_set(text: str, before: tuple[float, ...] = ()) -> SetLoads | None:
    """The percents of the sets that a row gives from the first on, or from those that rows above it
    gave `before`; None where it gives none.

    >>> percents_by_set("sets 1-2 @ 70 %, 3-5 @ 80 %").percents
    (70.0, 70.0, 80.0, 80.0, 80.0)
    >>> percents_by_set("sets 2-3 @ 80 %, 4-5 @ 85 %") is None
    True
    """
    begins = (_ON if before else _FROM_THE_FIRST).match(text)
    at, marked = begins.end() if begins else 0, False
    percents = list(before)
    while begins and (found := _EACH.match(text, at)):
        first, last = int(found["first"]), int(found["last"] or found["first"])
        if first != len(percents) + 1 or last < first:
            return None
        percents += [float(found["load"])] * (last - first + 1)
        at, marked = found.end(), marked or bool(found["mark"])
    several = len(percents) > len(before)
    if of := _OF.match(text, at):
        at = of.end()
    return SetLoads(tuple(percents), at) if several and marked else None


def _sets_of(part: Part) -> int:
    """The number of sets or windows of a part; 0 where it is not told."""
    sets = part.facts.sets or next((work.sets for work in part.works if work.sets), ())
    return part.facts.window_count or (sets[0] if sets else 0)


def _as_one(works: list[Work]) -> Work | None:
    """The only work, or one complex of lifts that are joined; None where there are several."""
    if len(works) < 2 or not all(work.joined for work in works[1:]):
        return works[0] if len(works) == 1 else None
    parts = [replace(work, load=None, bare=None, notes=[], joined=False) for work in works]
    notes = [note for work in works for note in work.notes]
    once = plan.Reps(low=1)
    return replace(works[0], name="", known=None, parts=parts, amount=once, notes=notes)


def _set_a_window(part: Part, whole: Work, percents: tuple[float, ...]) -> None:
    """Make each window of a part one set with the load of its own."""
    part.works = [
        replace(whole, load=plan.Percent(low=percent), sets=(), station=number)
        for number, percent in enumerate(percents, start=1)
    ]
    if part.facts.form == "every":
        part.facts.windows, part.facts.rounds, part.facts.sets = (1,), (), ()


_LISTED = re.compile(r"\(?(\d{2,3}(?:\s*[,/]\s*\d{2,3})+)\s*%\)?")
"""The percents of all sets behind what is done in them: `(70,75,80,80 %)`."""


def percents_behind(part: Part) -> None:
    """Give each window of a lift or a complex the percent that is listed for it behind them."""
    named = [work for work in part.works if work.named]
    notes = named[-1].notes if named else []
    listed = [note for note in notes if _LISTED.fullmatch(note.strip())]
    if len(listed) != 1 or len({work.row for work in named}) != 1:
        return
    percents = tuple(float(number) for number in re.findall(r"\d+", listed[0]))
    if len(percents) != part.facts.window_count or (whole := _as_one(named)) is None:
        return
    whole.notes = [note for note in whole.notes if note not in listed]
    _set_a_window(part, whole, percents)


def take_set_loads(board: Board, row: Row) -> Row | None:
    """Give the lift of the part under way the percents of its sets, and answer what is left of
    the row; the whole row where it says none.

    Of several lifts in one set nobody is told which the percents are of: they are a note.
    """
    part = board.here
    loads = percents_by_set(row.text, part.percents) if part is not None else None
    if loads is None or part is None or part.exactly is not None:
        return row
    if len(loads.percents) < _sets_of(part):
        part.percents = loads.percents  # More of them are given below.
        return None if not row.text[loads.end :].strip() else row
    named = [work for work in part.works if work.named]
    lift = named[0] if named else part.lift or board.lift
    windows = len(loads.percents) == part.facts.window_count
    if len(named) == 1 and len(set(loads.percents)) == 1 and named[0].load is None:
        named[0].load = plan.Percent(low=loads.percents[0])  # `sets 1-5 @ 70 %`: all of them.
    elif windows and (whole := _as_one(named)) is not None:
        _set_a_window(part, whole, loads.percents)
    elif lift is None or len(named) > 1 or part.facts.form not in ("", "for time"):
        board.note(row.number, row.typed[row.at : row.at + loads.end].strip(" ,;."))
    else:
        each = part.facts.each[:1]
        amount = lift.amount or (plan.Reps(low=each[0]) if each else None)
        number = lift.row if named else row.number
        made = replace(lift, row=number, amount=amount, load=None, sets=(), percents=loads.percents)
        part.works = [work for work in part.works if work is not lift] + set_by_set(made)
        part.facts.sets, part.facts.each = (), ()
    rest = row.text[loads.end :]
    if not re.search(r"\w", rest):
        return None
    return replace(row, text=" " * loads.end + rest, first=False)
