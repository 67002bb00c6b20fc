"""Old scores: each row to a date, a person, a piece and an entry as the score sheet reads it."""

from __future__ import annotations

import datetime as dt
import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from pine_ladder.core.imports.dates import Order, order_of, parts, read_date
from pine_ladder.core.imports.entries import Entry, Shape, read_entry
from pine_ladder.core.imports.gym import GymFacts, Row, tier_of, track_of
from pine_ladder.core.imports.headings import folded
from pine_ladder.core.imports.names import Names
from pine_ladder.core.imports.questions import Asked, ImportQuestion, Skipped
from pine_ladder.core.movements import Library

LONGEST_TITLE = 100
FITTING = 0.7
"""The share of a piece's entries that one way of scoring must fit, or it is asked."""
KINDS: dict[str, str] = {
    "time": "Conditioning|1 round for time",
    "rounds": "Conditioning|1 round, score rounds",
    "weight": "Strength|1 set, score load",
    "reps": "Conditioning|1 round, score total reps",
    "distance": "Conditioning|1 round, score distance",
    "calories": "Conditioning|1 round, score calories",
}
"""Ways of scoring, each with the role and the heading of a piece whose work nobody has written."""
_OF_SHAPE: dict[Shape, str] = {
    "time": "time",
    "rounds": "rounds",
    "load": "weight",
    "reps": "reps",
    "distance": "distance",
    "calories": "calories",
    "cap": "time",
}
_SIGNS = str.maketrans({'"': "'", "\n": " ", "\r": " "})


class Normal(NamedTuple):
    """A score as it is brought in: its line in the file, and cells as `read_ledger` takes them."""

    line: int
    date: dt.date
    piece: str
    person: str
    person_id: int | None
    entered: str
    tier: int
    track: int
    board: str


class ReadScores(NamedTuple):
    """A table of scores as it is understood: what is brought in, and what is left out and why."""

    rows: list[Normal]
    skipped: list[Skipped]


def read_scores(
    rows: Sequence[Row], gym: GymFacts, library: Library, asked: Asked, unit_of_heading: str = ""
) -> ReadScores:
    """The scores of a table. What is doubtful in many rows is asked once."""
    skipped: list[Skipped] = []
    order = date_order((row.get("date") for row in rows), gym, asked)
    unit = _unit(rows, gym, asked, library, unit_of_heading)
    names = Names(gym.people, (name_in(row) for row in rows))
    emails = {person.email.lower(): person for person in gym.people if person.email}
    dated: list[tuple[Row, dt.date]] = []
    for row in rows:
        why = ""
        date = read_date(row.get("date"), order)
        if not name_in(row) and not row.get("email"):
            why = "there is no name"
        elif not row.get("date"):
            why = "there is no date"
        elif date is None:
            why = f"“{row.get('date')[:30]}” is no date"
        elif not row.get("piece"):
            why = "there is no name of a piece"
        if why or date is None:
            skipped.append(Skipped(row=row.line, why=why))
        else:
            dated.append((row, date))
    dated = _past(dated, gym, asked, skipped)
    kinds = _kinds(dated, library, asked)
    caps = _caps(dated, kinds)
    out: list[Normal] = []
    for row, date in dated:
        title = title_in(row)
        kind = kinds[date, title.casefold()]
        entry = _entry(row, kind, unit, title, library)
        if isinstance(entry, str):
            skipped.append(Skipped(row=row.line, why=entry))
            continue
        known = emails.get(row.get("email").lower()) if row.get("email") else None
        meant = names.who(name_in(row), asked) if known is None else None
        if meant is not None and not meant.name:
            skipped.append(Skipped(row=row.line, why=f"nobody is meant by “{name_in(row)[:60]}”"))
            continue
        tier = tier_of(row.get("tier") or entry.tier, gym, asked)
        track = track_of(row.get("track"), gym)
        member = known or next((m for m in gym.people if meant and m.id == meant.id), None)
        if track is None:
            track = member.track if member else 0
        cap = caps.get((date, title.casefold()))
        if entry.shape == "cap" and cap is None:
            why = "it was capped, and no time tells at how many minutes"
            skipped.append(Skipped(row=row.line, why=why))
            continue
        out.append(
            Normal(
                line=row.line,
                date=date,
                piece=title,
                person=member.name if member else meant.name if meant else "",
                person_id=member.id if member else meant.id if meant else None,
                entered=entry.text,
                tier=tier,
                track=track,
                board=row.get("board") if _is_board(row.get("board")) else _board(title, kind, cap),
            )
        )
    return ReadScores(out, sorted(skipped, key=lambda one: one.row))


def name_in(row: Row) -> str:
    """The name of a row, from one column or from two."""
    return row.get("person") or f"{row.get('given')} {row.get('family')}".strip()


def title_in(row: Row) -> str:
    """The name of a row's piece, as a heading can hold it."""
    return " ".join(row.get("piece").translate(_SIGNS).split())[:LONGEST_TITLE]


def date_order(cells: Iterable[str], gym: GymFacts, asked: Asked) -> Order:
    """The order of a column's dates, asked where nothing in it tells."""
    held = [cell for cell in cells if parts(cell)]
    order, certain = order_of(held)
    if certain or not held:
        return order
    guess: Order = "month first" if gym.month_first and order == "day first" else order
    example = next(iter(held))
    said = asked.ask(
        ImportQuestion(
            id="date-order",
            text=f"Is a date such as {example} written with the day or the month first?",
            choices=("day first", "month first"),
            guess=guess,
        )
    )
    return "day first" if said == "day first" else "month first"


def _past(
    dated: list[tuple[Row, dt.date]], gym: GymFacts, asked: Asked, skipped: list[Skipped]
) -> list[tuple[Row, dt.date]]:
    """Rows without those of days that are still to come, where these are not meant."""
    ahead = [one for one in dated if one[1] > gym.today]
    if not ahead:
        return dated
    latest = max(date for _, date in ahead)
    said = asked.ask(
        ImportQuestion(
            id="future",
            text=f"{len(ahead)} rows are of days to come, up to {latest.isoformat()}.",
            choices=("leave them out", "bring them in"),
            guess="leave them out",
        )
    )
    if said == "bring them in":
        return dated
    for row, date in ahead:
        skipped.append(Skipped(row=row.line, why=f"{date.isoformat()} is still to come"))
    return [one for one in dated if one[1] <= gym.today]


def _is_lift(title: str, library: Library) -> bool:
    """Whether a piece is named for a lift that is done with a weight: `Deadlift 1RM`."""
    plain = folded(
        re.sub(r"\b\d+\s*(?:rm|x\s*\d+)\b|\b(?:max|rm|heavy|single|best)\b", " ", title, flags=re.I)
    )
    movement = library.find(plain)
    return movement is not None and movement.reference_kg is not None


def _unit(rows: Sequence[Row], gym: GymFacts, asked: Asked, library: Library, heading: str) -> str:
    """The unit of loads that have none: by the heading, else asked where there are any."""
    for unit in ("kg", "lb"):
        if re.search(rf"\b{unit}s?\b", heading.lower()):
            return unit
    bare = [
        float(cell)
        for row in rows
        if re.fullmatch(r"\d+(?:[.,]\d+)?", cell := row.get("entered").replace(",", "."))
        and not row.get("unit")
        and _is_lift(title_in(row), library)
    ]
    if not bare:
        return gym.unit
    # Plates of a gym of pounds make loads of fives and tens that end so, and are heavier.
    pounds = sum(value % 5 == 0 and value >= 95 for value in bare) / len(bare) > 0.6
    halves = sum(value % 2.5 == 0 and value % 5 != 0 for value in bare) / len(bare) > 0.05
    guess = "lb" if pounds and not halves else "kg"
    return asked.ask(
        ImportQuestion(
            id="unit",
            text="Are loads without a unit kilograms or pounds?",
            choices=("kg", "lb"),
            guess=guess,
        )
    )


_Piece = tuple[dt.date, str]


def _kinds(
    dated: Sequence[tuple[Row, dt.date]], library: Library, asked: Asked
) -> dict[_Piece, str]:
    """Return the scoring of each piece: by its entries, others of its name, or the answer."""
    votes: dict[_Piece, Counter[str]] = defaultdict(Counter)
    bare: Counter[_Piece] = Counter()
    titles: dict[str, str] = {}
    for row, date in dated:
        title = title_in(row)
        titles.setdefault(title.casefold(), title)
        piece = (date, title.casefold())
        votes[piece]
        entry = read_entry(row.get("entered"), _told_unit(row))
        if entry is None or entry.shape == "absent":
            continue
        if entry.shape in _OF_SHAPE and entry.text:
            votes[piece][_OF_SHAPE[entry.shape]] += 1
        elif entry.text:
            bare[piece] += 1
    together: dict[str, Counter[str]] = defaultdict(Counter)
    for (_, title), own in votes.items():
        together[title] += own
    out: dict[_Piece, str] = {}
    unsure: dict[str, list[_Piece]] = defaultdict(list)
    for piece, own in votes.items():
        told = own or together[piece[1]]
        most = told.most_common(1)
        if most and most[0][1] >= FITTING * sum(told.values()):
            out[piece] = most[0][0]
        else:
            unsure[piece[1]].append(piece)
    return out | _asked_kinds(unsure, together, titles, library, asked)


def _asked_kinds(
    unsure: Mapping[str, Sequence[_Piece]],
    together: Mapping[str, Counter[str]],
    titles: Mapping[str, str],
    library: Library,
    asked: Asked,
) -> dict[_Piece, str]:
    """How pieces are scored whose entries do not tell: those with bare numbers are asked together,
    lifts and others, those whose entries are at odds each by itself.
    """
    out: dict[_Piece, str] = {}
    lifts = [title for title in unsure if not together[title] and _is_lift(titles[title], library)]
    plain = [title for title in unsure if not together[title] and title not in lifts]
    for what, group, guess in (("lifts", lifts, "weight"), ("others", plain, "reps")):
        if not group:
            continue
        shown = ", ".join(titles[title] for title in group[:4]) + (" …" if len(group) > 4 else "")
        said = asked.ask(
            ImportQuestion(
                id=f"kind:{what}",
                text=f"What are the plain numbers of {shown}?",
                choices=("weight", "reps", "rounds", "time in minutes", "calories", "metres"),
                guess=guess,
            )
        )
        kind = {"time in minutes": "time", "metres": "distance"}.get(said, said)
        for title in group:
            out |= {piece: kind for piece in unsure[title]}
    for title, pieces in unsure.items():
        if title in lifts or title in plain:
            continue
        guess = together[title].most_common(1)[0][0]
        said = asked.ask(
            ImportQuestion(
                id=f"kind:{folded(titles[title])}",
                text=f"The scores of {titles[title]} are of several kinds. What is it scored by?",
                choices=tuple(KINDS),
                guess=guess,
            )
        )
        out |= {piece: said for piece in pieces}
    return out


def _told_unit(row: Row) -> str:
    """Return the unit column's word for an entry; empty where it adds nothing."""
    unit = row.get("unit").lower()
    if unit in ("time", "min", "mins", "minutes", "min:sec", "mm:ss", "weight"):
        return ""
    return unit


def _entry(row: Row, kind: str, unit: str, title: str, library: Library) -> Entry | str:
    """A row's entry for how its piece is scored, or why it has none."""
    said = row.get("entered")
    entry = read_entry(said, _told_unit(row))
    if entry is None:
        return "there is no score"
    if entry.shape == "absent":
        return entry
    if not entry.text:
        return f"“{said[:40]}” is no score that can be read"
    if _OF_SHAPE.get(entry.shape) == kind:
        return entry
    if entry.shape == "number":
        made = _number(entry, kind, unit)
        if made is not None:
            return made
    return f"{title} is scored by {kind}; “{said[:40]}” is none"


def _number(entry: Entry, kind: str, unit: str) -> Entry | None:
    """A bare number as what its piece is scored by, None where it cannot be."""
    whole = entry.value == int(entry.value)
    match kind:
        case "weight":
            return entry._replace(text=f"{entry.value:g} {unit}", shape="load")
        case "reps" | "rounds" if whole:
            return entry._replace(text=str(int(entry.value)))
        case "calories" if whole:
            return entry._replace(text=f"{int(entry.value)} cal")
        case "distance":
            return entry._replace(text=f"{entry.value:g} m")
        case "time":
            minutes, point, seconds = entry.text.partition(".")
            if not point:
                return entry._replace(text=f"{int(minutes)}:00") if int(minutes) < 100 else None
            if len(seconds) == 2 and int(seconds) < 60:
                return entry._replace(text=f"{int(minutes)}:{seconds}")
    return None


def _caps(dated: Sequence[tuple[Row, dt.date]], kinds: Mapping[_Piece, str]) -> dict[_Piece, int]:
    """Minutes of the cap of each piece that was capped: the next whole ones after its last time."""
    last: dict[_Piece, float] = defaultdict(float)
    capped = set()
    for row, date in dated:
        piece = (date, title_in(row).casefold())
        entry = read_entry(row.get("entered"))
        if entry is None or kinds[piece] != "time":
            continue
        if entry.shape == "cap":
            capped.add(piece)
        elif entry.shape == "time":
            last[piece] = max(last[piece], entry.value)
    return {piece: int(-(-last[piece] // 60)) for piece in capped if last[piece]}


def _board(title: str, kind: str, cap: int | None) -> str:
    role, form = KINDS[kind].split("|")
    ends = f", cap {cap}:00" if cap and kind == "time" else ""
    return f'## {role} "{title}": {form}{ends}'


def _is_board(text: str) -> bool:
    """Whether a cell holds a piece of a board, as it goes out of here."""
    return text.startswith("## ")
