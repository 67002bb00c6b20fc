"""A list of people as it is pasted: a line each, read and held against who is there already.

A line holds a name and what else is known, in any order, parted by commas, semicolons or tabs: an
address (`Ada Quill <ada@example.org>` too), a tier and a track by their names. Where the first line
names the columns, each cell is read as what its column says: so the people of a gym come in as they
went out. Quoted fields are those of CSV (RFC 4180).
"""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable, Sequence
from typing import Literal, NamedTuple

from pydantic import Field as Excluded

from pine_ladder.core.athletes.addresses import LONGEST_ADDRESS, read_address
from pine_ladder.core.plan import Frozen

MOST_LINES = 1000
LONGEST_NAME = 80
_ANGLED = re.compile(r"(.*?)<\s*([^<>]+?)\s*>\s*$")
_HEADINGS = {
    "name": "name",
    "names": "name",
    "e-mail": "email",
    "email": "email",
    "mail": "email",
    "address": "email",
    "tier": "tier",
    "track": "track",
    "role": "role",
    "trains": "trains",
    "active": "active",
}
_YES, _NO = {"yes", "true", "1"}, {"no", "false", "0"}
_FORMULA = "=+-@"


Field = Literal["name", "email", "tier", "track"]


class There(NamedTuple):
    """Somebody who is there already; tier and track by position."""

    id: int
    name: str
    email: str | None
    tier: int
    track: int
    active: bool = True


class RosterLine(Frozen):
    """One line of a list: who it is, and what it means for the gym.

    `what` is new, there (nothing to do), changed (`person` is there, and the line says `changes`
    of them), doubtful (may be somebody who is there) or refused; `why` says so in a sentence.
    """

    line: int
    text: str
    what: Literal["new", "there", "changed", "doubtful", "refused"]
    person: int | None = None
    changes: tuple[Field, ...] = ()
    told: frozenset[Field] = Excluded(frozenset(), exclude=True)
    why: str = ""
    name: str = ""
    email: str = ""
    tier: int = 0
    track: int = 0
    role: Literal["coach", "athlete"] = "athlete"
    trains: bool = True


def _split(text: str, mark: str) -> list[str]:
    """The cells of a line; a line that is no CSV (a cell without end) is one cell."""
    try:
        return next(csv.reader([text], delimiter=mark, skipinitialspace=True), [])
    except csv.Error:
        return [text]


def _cells(text: str) -> list[str]:
    mark = next((one for one in "\t;" if one in text), ",")
    row = _split(text, mark)
    return [cell for each in row if (cell := " ".join(each.split()))]


def _place(cell: str, names: Sequence[str]) -> int | None:
    low = cell.casefold()
    return next((at for at, name in enumerate(names) if name.casefold() == low), None)


def _one(line: int, text: str, tiers: Sequence[str], tracks: Sequence[str]) -> RosterLine:
    name, email, tier, track = "", "", 0, 0
    fields: set[Field] = {"name"}
    over: list[str] = []
    for cell in _cells(text):
        angled = _ANGLED.fullmatch(cell)
        parts = [group for group in angled.groups() if group] if angled else [cell]
        for part in parts:
            at_tier, at_track = _place(part, tiers), _place(part, tracks)
            if "@" in part and not email:
                email = part.strip().lower()
            elif at_tier is not None and name:
                tier = at_tier
                fields.add("tier")
            elif at_track is not None and name:
                track = at_track
                fields.add("track")
            elif not name:
                name = part
            else:
                over.append(part)
    name = " ".join(name.lstrip(_FORMULA).split())
    read = RosterLine(
        line=line,
        text=text,
        what="new",
        name=name,
        email=email,
        tier=tier,
        track=track,
        told=frozenset(fields | {"email"} if email else fields),
    )
    if not name:
        return read.model_copy(update={"what": "refused", "why": "there is no name"})
    if len(name) > LONGEST_NAME or len(email) > LONGEST_ADDRESS:
        return read.model_copy(update={"what": "refused", "why": "this is too long for a person"})
    if email:
        try:
            read = read.model_copy(update={"email": read_address(email)})
        except ValueError as error:
            return read.model_copy(update={"what": "refused", "why": str(error)})
    if over:
        known = ", ".join((*tiers, *tracks))
        why = f"{', '.join(over)}: no tier or track; there are {known}"
        return read.model_copy(update={"what": "doubtful", "why": why})
    return read


def _by_heads(
    line: int,
    text: str,
    heads: Sequence[str],
    tiers: Sequence[str],
    tracks: Sequence[str],
) -> RosterLine:
    """A line whose columns are named; empty cells and unknown columns say nothing."""
    mark = next((one for one in "\t;" if one in text), ",")
    row = _split(text, mark)
    said = {head: " ".join(cell.split()) for head, cell in zip(heads, row, strict=False) if head}
    name = said.get("name", "").replace('"', '""')
    read = _one(line, f'"{name}",{said.get("email", "")}', tiers, tracks)
    read = read.model_copy(update={"text": text})
    if read.what == "refused":
        return read
    places: dict[str, object] = {}
    told = set(read.told)
    columns: tuple[tuple[Field, Sequence[str]], ...] = (("tier", tiers), ("track", tracks))
    for head, names in columns:
        cell = said.get(head, "")
        if cell and (at := _place(cell, names)) is not None:
            places[head] = at
            told.add(head)
        elif cell:
            why = f"{cell}: no {head}; there are {', '.join(names)}"
            return read.model_copy(update={"what": "doubtful", "why": why})
    if (role := said.get("role", "athlete").lower() or "athlete") not in ("coach", "athlete"):
        return read.model_copy(update={"what": "refused", "why": f"{role} is no coach or athlete"})
    if said.get("active", "").lower() in _NO:
        why = "has left, as the list says: take them in if they are back"
        return read.model_copy(update={**places, "what": "doubtful", "why": why})
    if role == "coach" and not read.email:
        why = "a coach signs in, and needs an e-mail address for that"
        return read.model_copy(update={"what": "refused", "why": why})
    trains = role == "athlete" or said.get("trains", "").lower() in _YES
    update = {**places, "role": role, "trains": trains, "told": frozenset(told)}
    return read.model_copy(update=update)


def _heads(text: str) -> list[str] | None:
    """The columns that a first line names ("" for those unknown), None where it names nobody's."""
    mark = next((one for one in "\t;" if one in text), ",")
    cells = [" ".join(cell.split()).casefold() for cell in _split(text, mark)]
    known = [_HEADINGS.get(cell, "") for cell in cells]
    return known if "name" in known and "@" not in text else None


def _against(
    read: RosterLine, person: There, tiers: Sequence[str], tracks: Sequence[str]
) -> RosterLine:
    """A line about somebody who is there: what it says otherwise than the gym has it."""
    values: dict[Field, tuple[str, str]] = {
        "name": (person.name, read.name),
        "email": (person.email or "no address", read.email),
        "tier": (tiers[person.tier], tiers[read.tier]),
        "track": (tracks[person.track], tracks[read.track]),
    }
    if not person.active:
        why = f"{person.name} has left: bring them back on this page if it is them"
        return read.model_copy(update={"what": "doubtful", "why": why})
    changes = tuple(
        field for field, (was, now) in values.items() if field in read.told and was != now
    )
    if not changes:
        why = f"this address is {person.name}’s" if read.email else f"this is {person.name}"
        return read.model_copy(update={"what": "there", "why": why, "person": person.id})
    why = ", ".join(f"{values[field][0]} → {values[field][1]}" for field in changes)
    update = {"what": "changed", "why": why, "person": person.id, "changes": changes}
    return read.model_copy(update=update)


def read_roster(
    text: str,
    there: Iterable[There],
    tiers: Sequence[str],
    tracks: Sequence[str],
) -> list[RosterLine]:
    """Each line of a pasted list, in order; `there` is who is there.

    An address that is there already is that person. So is a name that one person has, in a table
    with named columns that gives no other address: it came from here. Any other name that is there
    already, or stands twice in the list, is doubtful: two people may share it.
    """
    by_name: dict[str, list[There]] = {}
    by_address: dict[str, There] = {}
    for one in there:
        by_name.setdefault(one.name.casefold(), []).append(one)
        if one.email:
            by_address[one.email.lower()] = one
    names: dict[str, str] = {}
    addresses: dict[str, str] = {}
    out: list[RosterLine] = []
    lines = [(at, one.strip()) for at, one in enumerate(text.splitlines(), 1) if one.strip()]
    heads = _heads(lines[0][1].removeprefix("\ufeff")) if lines else None
    for number, line in lines[heads is not None :][:MOST_LINES]:
        read = (
            _by_heads(number, line, heads, tiers, tracks)
            if heads
            else _one(number, line, tiers, tracks)
        )
        if read.what != "refused":
            name, is_new = read.name.casefold(), read.what == "new"
            same = by_name.get(name, [])
            person = by_address.get(read.email) if read.email else None
            if person is None and heads and len(same) == 1:
                person = same[0] if not (read.email and same[0].email) else None
            if known := addresses.get(read.email) if read.email else None:
                why = f"this address is {known}’s"
                read = read.model_copy(update={"what": "there", "why": why})
            elif is_new and name in names:
                why = f"there is a {names[name]} already"
                read = read.model_copy(update={"what": "doubtful", "why": why})
            elif is_new and person:
                read = _against(read, person, tiers, tracks)
            elif is_new and same:
                why = f"there is a {same[0].name} already"
                read = read.model_copy(update={"what": "doubtful", "why": why})
            names.setdefault(name, read.name)
            if read.email:
                addresses.setdefault(read.email, person.name if person else read.name)
        out.append(read)
    if len(lines) > MOST_LINES:
        number, line = lines[MOST_LINES]
        why = f"a list ends after {MOST_LINES} people: the rest in a second one"
        out.append(RosterLine(line=number, text=line[:LONGEST_NAME], what="refused", why=why))
    return out
