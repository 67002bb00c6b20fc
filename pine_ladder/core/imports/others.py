"""Bests, classes and kit of old lists."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Sequence
from typing import NamedTuple

from pine_ladder.core.imports.entries import read_entry
from pine_ladder.core.imports.gym import GymFacts, Row
from pine_ladder.core.imports.headings import folded
from pine_ladder.core.imports.names import Names
from pine_ladder.core.imports.questions import Asked, ImportQuestion, Skipped
from pine_ladder.core.imports.scores import name_in
from pine_ladder.core.movements import Library
from pine_ladder.core.units import lb_to_kg


class Best(NamedTuple):
    """A best as it is brought in: whose (id None is somebody new), of which lift, in kg."""

    line: int
    person_id: int | None
    person: str
    lift: str
    kg: float


class ReadBests(NamedTuple):
    """A list of bests as it is understood."""

    bests: list[Best]
    skipped: list[Skipped]


_RM = re.compile(r"\b(\d+)\s*(?:rm|reps?)\b|\b(?:1\s*rm|max|pr|pb|best)\b", re.IGNORECASE)


def read_bests(
    rows: Sequence[Row], gym: GymFacts, library: Library, asked: Asked, heading: str = ""
) -> ReadBests:
    """The bests of a list; a best of several reps counts as what one would be (Epley 1985)."""
    skipped: list[Skipped] = []
    out: list[Best] = []
    names = Names(gym.people, (name_in(row) for row in rows))
    unit = next((u for u in ("kg", "lb") if re.search(rf"\b{u}s?\b", heading.lower())), "")
    for row in rows:
        if not name_in(row):
            skipped.append(Skipped(row=row.line, why="there is no name"))
            continue
        match = _RM.search(row.get("lift"))
        movement = library.find(" ".join(_RM.sub(" ", row.get("lift")).split()))
        if movement is None or movement.reference_kg is None:
            why = f"“{row.get('lift')[:40]}” is no lift of the library"
            skipped.append(Skipped(row=row.line, why=why))
            continue
        entry = read_entry(row.get("entered"), row.get("unit"))
        if entry is None or entry.shape not in ("load", "number") or not entry.text:
            why = f"“{row.get('entered')[:40]}” is no load"
            skipped.append(Skipped(row=row.line, why=why))
            continue
        own = "lb" if entry.text.endswith("lb") else "kg" if entry.text.endswith("kg") else unit
        if not own:
            own = asked.ask(
                ImportQuestion(
                    id="unit",
                    text="Are loads without a unit kilograms or pounds?",
                    choices=("kg", "lb"),
                    guess=gym.unit,
                )
            )
        kg = entry.value if own == "kg" else lb_to_kg(entry.value)
        reps = _reps(row.get("reps"), match)
        kg = kg if reps <= 1 else kg * (1 + reps / 30)
        meant = names.who(name_in(row), asked)
        if not meant.name:
            skipped.append(Skipped(row=row.line, why=f"nobody is meant by “{name_in(row)[:60]}”"))
            continue
        out.append(Best(row.line, meant.id, meant.name, movement.name, round(kg, 1)))
    return ReadBests(out, skipped)


def _reps(column: str, match: re.Match[str] | None) -> int:
    """The reps of a best: by their own column, else by its name (`5RM`), else one."""
    if column.isdigit():
        return int(column)
    return int(match[1]) if match and match[1] else 1


class Weekly(NamedTuple):
    """A class of every week as it is brought in; weekday 0 is Monday."""

    line: int
    weekday: int
    start: dt.time
    size: int | None
    minutes: int | None


class ReadClasses(NamedTuple):
    """A timetable as it is understood."""

    classes: list[Weekly]
    skipped: list[Skipped]


_DAYS = (
    "mon montag lunes lundi lun lunedi maandag mandag mo",
    "tue tues dienstag martes mardi mar martedi dinsdag tirsdag tisdag di tu",
    "wed mittwoch miercoles mercredi mie mer mercoledi woensdag onsdag mi we",
    "thu thur thurs donnerstag jueves jeudi jue jeu giovedi gio donderdag torsdag do th",
    "fri freitag viernes vendredi vie ven venerdi vrijdag fredag fr",
    "sat samstag sonnabend sabado samedi sab sam sabato zaterdag lordag lordag sa",
    "sun sonntag domingo dimanche dom dim domenica zondag sondag so su",
)
_DAY_NAMES = {name: number for number, names in enumerate(_DAYS) for name in names.split()}
_FULL = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
_CLOCK = re.compile(r"(\d{1,2})(?:[:.h](\d{2}))?\s*(am|pm|a\.m\.|p\.m\.|uhr|h)?", re.IGNORECASE)


def weekdays_of(text: str) -> list[int]:
    """The weekdays that a cell names, `Mon, Wed/Fri` or `Mon-Fri`; none for no weekday."""
    out: list[int] = []
    for part in re.split(r"[,;/&+]|\band\b|\bund\b|\by\b|\bet\b", text.lower()):
        ends = [
            day
            for word in re.split(r"\s*(?:-|–|\bto\b|\bbis\b)\s*", part.strip())
            if (day := _weekday(word)) is not None
        ]
        if len(ends) == 2 and ends[0] <= ends[1]:
            out += range(ends[0], ends[1] + 1)
        else:
            out += ends
    return sorted(set(out))


def _weekday(word: str) -> int | None:
    plain = folded(word)
    if plain in _FULL:
        return _FULL.index(plain)
    if plain.rstrip("s") in _FULL:
        return _FULL.index(plain.rstrip("s"))
    return _DAY_NAMES.get(plain)


def time_of(text: str) -> dt.time | None:
    """The time of day that a cell begins with, `6:30`, `6.30 pm`, `18h30`; None for none."""
    found = _CLOCK.match(text.strip())
    if not found:
        return None
    hour, minute = int(found[1]), int(found[2] or 0)
    half = (found[3] or "").lower().replace(".", "")
    if half == "pm" and hour < 12:
        hour += 12
    if half == "am" and hour == 12:
        hour = 0
    return dt.time(hour, minute) if hour < 24 and minute < 60 else None


def read_classes(rows: Sequence[Row]) -> ReadClasses:
    """The classes of a timetable, one for each weekday that a row names."""
    skipped: list[Skipped] = []
    out: list[Weekly] = []
    for row in rows:
        days = weekdays_of(row.get("weekday"))
        start = time_of(row.get("time"))
        if not days or start is None:
            what = row.get("weekday") if not days else row.get("time")
            kind = "weekday" if not days else "time of day"
            skipped.append(Skipped(row=row.line, why=f"“{what[:30]}” is no {kind}"))
            continue
        clock = re.split(r"\s*(?:-|–|\bto\b)\s*", row.get("time"))
        end = time_of(clock[1]) if len(clock) > 1 else None
        minutes = None
        if end is not None:
            minutes = (end.hour - start.hour) * 60 + end.minute - start.minute
        size = row.get("places")
        out += [
            Weekly(
                row.line,
                day,
                start,
                int(size) if size.isdigit() and int(size) else None,
                minutes if minutes and 0 < minutes <= 600 else None,
            )
            for day in days
        ]
    return ReadClasses(out, skipped)


class Thing(NamedTuple):
    """Kit as it is brought in."""

    line: int
    name: str
    number: int


class ReadKit(NamedTuple):
    """A list of kit as it is understood."""

    kit: list[Thing]
    skipped: list[Skipped]


_COUNTED = re.compile(r"(?:(\d+)\s*(?:x|×|\*)?\s+)?(.*?)(?:\s*(?:x|×)\s*(\d+))?", re.IGNORECASE)
_NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")


def read_kit(rows: Sequence[Row], library: Library) -> ReadKit:
    """The kit of a list: `6 rowers`, `DB 22.5 lb x 2`, or a bell with its count beside it."""
    skipped: list[Skipped] = []
    out: dict[str, Thing] = {}
    for row in rows:
        words = row.get("what").split()
        if words and words[0].lower() in _NUMBERS:
            words[0] = str(_NUMBERS.index(words[0].lower()))
        match = _COUNTED.fullmatch(" ".join(words))
        if not match or not match[2]:
            skipped.append(Skipped(row=row.line, why="there is nothing named"))
            continue
        said = row.get("count")
        count = int(said) if said.isdigit() else int(match[1] or match[3] or 1)
        name = kit_name(match[2], row.get("size"), row.get("unit"), library)
        if not 0 < count <= 1000:
            why = f"{count} of {name} is no number of things"
            skipped.append(Skipped(row=row.line, why=why))
            continue
        kept = out.get(name)
        out[name] = Thing(row.line, name, count + (kept.number if kept else 0))
    return ReadKit(list(out.values()), skipped)


_SIZE = re.compile(r"(\d+(?:[.,]\d+)?)\s*(kg|lbs?|#|cm|in|\")", re.IGNORECASE)
_SHORT = {
    "db": "dumbbell",
    "kb": "kettlebell",
    "bb": "barbell",
    "mb": "medicine ball",
    "wall ball": "medicine ball",
}


def kit_name(what: str, size: str, unit: str, library: Library) -> str:
    """The name of a piece of kit as the library says it, with its size where it has one."""
    told = f"{what} {size}{' ' + unit if size and not _SIZE.search(size) and unit else ''}"
    match = _SIZE.search(told)
    name = folded(_SIZE.sub(" ", what) if _SIZE.search(what) else what)
    for short, full in _SHORT.items():
        name = re.sub(rf"\b{short}s?\b", full, name)
    held = (need for movement in library.movements for need in movement.kit)
    needs = {word for need in held for word in need.split(" or ")}
    singular = re.sub(r"(?<=[^s])s\b", "", name)
    known = next((need for need in needs if folded(need) in (name, singular)), None)
    name = known or singular or name
    if not match:
        return name[:60]
    unit = match[2].lower().replace("lbs", "lb").replace("#", "lb").replace('"', "in")
    return f"{name} {float(match[1].replace(',', '.')):g} {unit}"[:60]
