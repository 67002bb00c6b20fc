"""Tables of bests, of class times and of kit as they come in: each row read and held against what
is there. Nothing that a table leaves out is taken away.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from pine_ladder.core.day.calendar import WEEKDAYS, Slot, read_classes
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Frozen
from pine_ladder.core.units import lb_to_kg, number_text

Rows = Sequence[tuple[int, Sequence[str]]]
"""Rows of a table, each with the line it begins on."""
MOST_KIT, MOST_BEST, LONGEST_KIT = 500, 10_000, 60


class IntakeLine(Frozen):
    """A row as it is understood, in words; `why` says why it is refused, or what was there."""

    line: int
    what: Literal["new", "changed", "there", "refused"]
    text: str
    why: str = ""


class Best(NamedTuple):
    """A best of somebody: a load in kg (`loaded`), or reps or seconds in a row."""

    person: int
    movement: str
    number: float
    loaded: bool


def _cells(
    heads: Sequence[str], rows: Rows, needed: Sequence[str]
) -> list[tuple[int, dict[str, str]]]:
    """Each row by its heads; ValueError where a column is missing."""
    if missing := [one for one in needed if one not in heads]:
        raise ValueError(
            f"the table has no column {' or '.join(missing)}: its first row names them"
        )
    return [
        (line, {head: " ".join(cell.split()) for head, cell in zip(heads, row, strict=False)})
        for line, row in rows
    ]


def _number(text: str, most: float) -> float:
    try:
        number = float(text.replace(",", "."))
    except ValueError:
        raise ValueError(f"{text or 'nothing'} is no number") from None
    if not 0 < number <= most:
        raise ValueError(f"{text} is out of reach")
    return number


def _line(line: int, text: str, before: float | None, now: float) -> tuple[IntakeLine, bool]:
    """A row that is understood, and whether it changes anything."""
    if before is None:
        return IntakeLine(line=line, what="new", text=text), True
    if abs(before - now) < 1e-6:
        return IntakeLine(line=line, what="there", text=text), False
    why = f"{number_text(before)} was there"
    return IntakeLine(line=line, what="changed", text=text, why=why), True


def read_bests(
    heads: Sequence[str],
    rows: Rows,
    people: Sequence[tuple[int, str]],
    known: Mapping[tuple[int, str, bool], float],
    library: Library,
) -> tuple[list[IntakeLine], list[Best]]:
    """Bests by person and movement; `unit` is kg, lb, or `in a row`.

    ValueError without its columns. `known` are bests that are there, by (person, movement,
    whether it is a load).
    """
    by_name: dict[str, list[int]] = {}
    for person, name in people:
        by_name.setdefault(name.casefold(), []).append(person)
    lines, keep = [], []
    for line, cell in _cells(heads, rows, ("person", "movement", "best", "unit")):
        text = f"{cell['person']}: {cell['movement']} {cell['best']} {cell['unit']}"
        try:
            found = by_name.get(cell["person"].casefold(), [])
            if len(found) != 1:
                many = "several are" if found else "nobody is"
                raise ValueError(f"{many} called {cell['person']}")
            movement = library.find(cell["movement"])
            if movement is None:
                raise ValueError(f"there is no movement {cell['movement']}")
            number = _number(cell["best"], MOST_BEST)
            unit = cell["unit"].lower()
            if unit not in ("kg", "lb", "in a row"):
                raise ValueError(f"{cell['unit'] or 'no unit'}: write kg, lb or in a row")
        except ValueError as error:
            lines.append(IntakeLine(line=line, what="refused", text=text, why=str(error)))
            continue
        best = Best(
            found[0],
            movement.name,
            round(lb_to_kg(number), 2) if unit == "lb" else number,
            unit != "in a row",
        )
        read, changes = _line(line, text, known.get((*best[:2], best.loaded)), best.number)
        lines.append(read)
        if changes:
            keep.append(best)
    return lines, keep


def read_kit(
    heads: Sequence[str], rows: Rows, owned: Mapping[str, int]
) -> tuple[list[IntakeLine], dict[str, int]]:
    """Kit and how many there are. ValueError without its columns."""
    lines, keep = [], {}
    for line, cell in _cells(heads, rows, ("kit", "count")):
        name, text = cell["kit"], f"{cell['kit']}: {cell['count']}"
        try:
            if not 2 <= len(name) <= LONGEST_KIT:
                raise ValueError("kit has a name of 2 to 60 letters")
            count = _number(cell["count"], MOST_KIT)
            if count != int(count):
                raise ValueError(f"{cell['count']} is no whole number")
        except ValueError as error:
            lines.append(IntakeLine(line=line, what="refused", text=text, why=str(error)))
            continue
        read, changes = _line(line, text, owned.get(name), count)
        lines.append(read)
        if changes:
            keep[name] = int(count)
    return lines, keep


def _class_said(said: Mapping[str, str]) -> str:
    """A row as a class is written: `18:00 75 min 8 places in the shed`."""
    parts = (("minutes", "{} min"), ("places", "{} places"), ("hall", "in {}"))
    return " ".join(
        [said["start"], *(form.format(said[name]) for name, form in parts if said.get(name))]
    )


def read_class_times(
    heads: Sequence[str], rows: Rows, weekly: Sequence[Sequence[dt.time]]
) -> tuple[list[IntakeLine], list[tuple[int, Slot]]]:
    """Classes of the week, a row each: its weekday (0 is Monday), its start and, where they are
    told, `minutes`, `places` and `hall`. ValueError without weekday and start.
    """
    lines: list[IntakeLine] = []
    keep: list[tuple[int, Slot]] = []
    for line, cell in _cells(heads, rows, ("weekday", "start")):
        text = f"{cell['weekday']} {cell['start']}"
        try:
            low = cell["weekday"].casefold()
            if low not in (day.casefold() for day in WEEKDAYS):
                raise ValueError(f"{cell['weekday'] or 'nothing'} is no weekday")
            (slot,) = read_classes(_class_said(cell)) or (None,)
            if slot is None:
                raise ValueError("it has no time")
        except ValueError as error:
            why = "one class a row" if "unpack" in str(error) else str(error)
            lines.append(IntakeLine(line=line, what="refused", text=text, why=why))
            continue
        day = next(at for at, name in enumerate(WEEKDAYS) if name.casefold() == low)
        there = slot.start in weekly[day] or any(
            (day, slot.start) == (other, kept.start) for other, kept in keep
        )
        lines.append(IntakeLine(line=line, what="there" if there else "new", text=text))
        if not there:
            keep.append((day, slot))
    return lines, keep
