"""Tables on a board: each row written out as the line it stands for.

Columns are told by their headings (sets, reps, rest, a tier…). A table without headings is read as
lines whose cells are parted by marks.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.naming import AMOUNTS
from pine_ladder.core.notation.reader.tiers import rank_named
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.tokens import WHOLE_LINE

_HEADINGS = {
    "label": r"#|no\.?|nr|part|block|set|wk|week|lap|station",
    "work": r"work|what|move|movement|exercises?|task|do|session|workout|a|b|description|lift"
    r"|details?|content|how",
    "time": r"time|clock|min|mins|minutes|when|slot|length",
    "sets": r"sets?",
    "reps": r"reps?|(?:sets?|rounds?)\s*(?:x|/|&|and|\+)\s*reps?|scheme|volume|prescription",
    "date": r"date|day",
    "tempo": r"tempo",
    "rest": r"rest",
    "load": r"load|weight|intensity|@|kg|lb|rpe|%",
    "note": r"notes?|comments?|cue|cues|focus",
}
_REPEATS = ("set", "sets", "round", "rd", "#")
"""Headings of a column that numbers the sets of one lift."""
_RULE = re.compile(r"[\s|:\-=+]*")


def _heading(cell: str) -> str:
    """The kind of a column's cells by its heading; empty where it is none."""
    said = cell.strip().lower().strip("*_: ")
    if not said:
        return ""
    if (rank := rank_named(said)) is not None:
        return f"tier {rank}"
    return next((kind for kind, pattern in _HEADINGS.items() if re.fullmatch(pattern, said)), "")


def _levels(named: list[str], cells: Sequence[str]) -> list[str]:
    """Headings, with columns `A`, `B`, `C` behind a column of work as levels from the hardest."""
    said = [cell.strip().upper() for cell in cells]
    last = len(said)
    first = next((at for at, one in enumerate(said) if one == "A"), last)
    letters = said[first:]
    counted = len(letters) > 1 and letters == [chr(ord("A") + at) for at in range(len(letters))]
    if not counted or "work" not in named[:first]:
        return _from_the_first(named, said)
    return [*named[:first], *(f"tier {at}" for at in range(len(letters)))]


_NUMBERED = re.compile(r"L(?:EVEL)?\s*\d")


def _from_the_first(named: list[str], headings: Sequence[str]) -> list[str]:
    """Headings, the numbered levels of a table that has fewer than three from its hardest on."""
    levels = [
        at
        for at, kind in enumerate(named)
        if kind.startswith("tier") and _NUMBERED.match(headings[at])
    ]
    ranks = [int(named[at].split()[1]) for at in levels]
    if len(ranks) < FEWEST_LEVELS or not min(ranks):
        return named
    shifted = {at: f"tier {rank - min(ranks)}" for at, rank in zip(levels, ranks, strict=True)}
    return [shifted.get(at, kind) for at, kind in enumerate(named)]


FEWEST_LEVELS = 2
"""Columns of numbered levels at least, of which the first is the hardest."""


def as_rows(rows: Sequence[Row], library: Library) -> list[Row]:
    """The rows of a board, those of its tables written out, of weeks the one that is on."""
    return list(_as_rows(_this_week(rows), library))


_WEEK = re.compile(r"(?:wk|week|day)s?\.?", re.IGNORECASE)
_NOW = re.compile(
    r"(?:today|now|this)\b.*?\b(?:wk|week)\s*(\d+)|\b(?:wk|week)\s*(\d+)", re.IGNORECASE
)
_POINTS = re.compile(r"\s*(?:>|\*|->|=>|→)\s*|\s*(?:<-*|\*|←)\s*$")
_DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


def _this_week(rows: Sequence[Row]) -> list[Row]:
    """The rows without those of a plan's other weeks; which week is on is pointed at or said."""
    out: list[Row] = []
    at = 0
    while at < len(rows):
        head = rows[at]
        if columns := _week_columns(head):
            end = _table_end(rows, at)
            out += _of_the_week(rows[at:end], columns, [*rows[:at], *rows[end:]])
            at = end
            continue
        if days := _day_columns(head):
            end = _table_end(rows, at)
            table, others = rows[at:end], [*rows[:at], *rows[end:]]
            on, _ = _day_on(head, days, others)
            out += [
                replace(row, text=text, typed=text, at=0, cells=())
                for row, text in _of_the_day(table, days, on)
            ]
            at = end
            continue
        if len(head.cells) < 2 or not _WEEK.fullmatch(head.cells[0].strip(" #*")):
            out.append(head)
            at += 1
            continue
        end = _table_end(rows, at)
        weeks, others = rows[at + 1 : end], [*rows[:at], *rows[end:]]
        chosen = _week_on(weeks, others)
        if chosen is None:
            out += rows[at:end]
        else:
            out.append(_week_row(head, chosen, others))
        at = end
    return out


def _table_end(rows: Sequence[Row], at: int) -> int:
    """The place behind the last row of the table that begins at `at`."""
    end = at + 1
    while end < len(rows) and rows[end].cells and not rows[end].gap:
        end += 1
    return end


_DAY_COLUMN = re.compile(
    r"\W*((?:mon|tues?|wed(?:nes)?|thu(?:rs?)?|fri|sat(?:ur)?|sun)(?:day)?)\b.{0,12}", re.IGNORECASE
)


def _day_columns(head: Row) -> dict[int, str]:
    """The places of columns that are weekdays, with their names; empty for any other row."""
    found = {
        at: one[1].capitalize()
        for at, cell in enumerate(head.cells)
        if (one := _DAY_COLUMN.fullmatch(cell.strip()))
    }
    return found if len(found) > 1 and len(head.cells) - len(found) <= 1 else {}


def _day_on(head: Row, days: Mapping[int, str], others: Sequence[Row]) -> tuple[int, bool]:
    """The column of the day that is meant, the first where nothing tells; whether it is told."""
    typed = [cell.strip() for cell in head.typed.strip().strip("|").split("|")]
    bold = [at for at in days if at < len(typed) and _BOLD.search(typed[at])]
    named = [at for at, day in days.items() if any(_says_day(day, row.text) for row in others)]
    meant = next((columns for columns in (bold, named) if len(columns) == 1), [])
    return (meant or list(days))[0], bool(meant)


def _of_the_day(
    table: Sequence[Row], days: Mapping[int, str], chosen: int
) -> list[tuple[Row, str]]:
    """The rows of a table whose columns are days, each with the text of one of them."""
    head, *body = table
    title = " ".join(cell.strip() for at, cell in enumerate(head.cells) if at not in days)
    out = [(head, f"{title} {days[chosen]}".strip())]
    for row in body:
        cells = [cell.strip() for cell in row.cells]
        name = ": ".join(cell for at, cell in enumerate(cells) if at not in days and cell)
        cell = cells[chosen] if chosen < len(cells) else ""
        if re.search(r"\w", cell):
            out.append((row, f"{name}: {cell}" if name else cell))
    return out


def which_day(rows: Sequence[Row]) -> list[plan.Finding]:
    """A question for each table of a week's days where nothing tells which of them is meant."""
    out = []
    for at, head in enumerate(rows):
        days = _day_columns(head)
        if not days:
            continue
        table = rows[at : _table_end(rows, at)]
        others = [row for row in rows if row not in table]
        chosen, is_told = _day_on(head, days, others)
        if is_told or len(table) == 1:
            continue
        repairs = []
        for place in (chosen, *(day for day in days if day != chosen)):
            texts = {row.number: text for row, text in _of_the_day(table, days, place)}
            edits = tuple(
                plan.Edit(line=row.number, start=1, end=WHOLE_LINE, text=texts.get(row.number, ""))
                for row in table
            )
            repairs.append(plan.Repair(label=days[place], edits=edits))
        names = ", ".join(days.values())
        out.append(
            plan.Finding(
                code="which-day", severity="question", line=head.number, column=1, end_column=0,
                message=f"{names}: which day is this board for?", repairs=tuple(repairs),
            )
        )  # fmt: skip
    return out


_WEEK_COLUMN = re.compile(r"\**\s*(?:wk|week|w)\s*(\d+)\s*\**", re.IGNORECASE)
_BOLD = re.compile(r"\*\*|__")


def _week_columns(head: Row) -> dict[int, str]:
    """The places of columns that are weeks, with their numbers; empty for any other row."""
    found = {
        at: one[1]
        for at, cell in enumerate(head.cells)
        if (one := _WEEK_COLUMN.fullmatch(cell.strip()))
    }
    return found if len(found) > 1 else {}


def _of_the_week(
    table: Sequence[Row], columns: Mapping[int, str], others: Sequence[Row]
) -> list[Row]:
    """The rows of a table whose columns are weeks, each with the cell of the one that is on."""
    head, *body = table
    said = [match[1] or match[2] for other in others if (match := _NOW.search(other.text))]
    typed = [cell.strip() for cell in head.typed.strip().strip("|").split("|")]
    bold = [at for at in columns if at < len(typed) and _BOLD.search(typed[at])]
    on = bold or [at for at, number in columns.items() if number in said[-1:]]
    if len(on) != 1:
        return list(table)
    out = []
    for row in body:
        kept = [cell for at, cell in enumerate(row.cells) if at not in columns or at == on[0]]
        text = " ".join(cell.strip() for cell in kept if cell.strip())
        if re.search(r"\w", text):
            out.append(replace(row, text=text, typed=text, at=0, cells=()))
    return out


def _week_on(weeks: Sequence[Row], others: Sequence[Row]) -> Row | None:
    pointed = [week for week in weeks if _POINTS.search(week.cells[0])]
    if len(pointed) == 1:
        return pointed[0]
    said = [match[1] or match[2] for other in others if (match := _NOW.search(other.text))]
    return next((week for week in weeks if said and week.cells[0].strip(" #.") == said[-1]), None)


def _week_row(head: Row, week: Row, others: Sequence[Row]) -> Row:
    """The work of a week as a line: its columns, of those by day the one of today."""
    columns = [cell.strip().lower() for cell in head.cells]
    days = [column for column in columns if column[:3] in _DAYS]
    said = [day for day in days if any(_says_day(day, other.text) for other in others)]
    today = (said or days or [""])[0]
    told = []
    for name, cell in zip(columns[1:], week.cells[1:], strict=False):
        if name in days and name != today:
            continue
        named = name in ("rest", "tempo") or name.startswith("rest")
        told.append(f"{name} {cell}" if named else cell)
    text = ", ".join(one for one in told if one.strip())
    return replace(week, text=text, typed=text, at=0, cells=(), gap=True)


def _says_day(day: str, text: str) -> bool:
    return bool(re.search(rf"\b{re.escape(day[:3])}", text, re.IGNORECASE))


def _as_rows(rows: Sequence[Row], library: Library) -> Iterator[Row]:
    columns: list[str] = []
    by_move: list[str] = []
    tiers: dict[str, str] = {}
    width, open_left = 0, False
    for at in range(len(rows)):
        row = rows[at]
        if not row.cells:
            columns = columns if row.gap is False and columns and row.indent else []
            yield row
            continue
        if _RULE.fullmatch(row.text):
            continue
        if row.gap:
            columns = []
        if columns and open_left and row.typed.lstrip().startswith("|"):
            row = replace(row, cells=("", *row.cells))  # An empty cell under the first heading.
        named = _levels([_heading(cell) for cell in row.cells], row.cells)
        if named.count("work") > 1 and "label" not in named:
            named[named.index("work")] = "label"  # `Time | What | Detail`
        filled = [cell for cell in row.cells if cell.strip()]
        known = sum(1 for one in named if one)
        if (
            len(filled) >= 2
            and known >= max(2, len(filled) - 1)
            and not _says_amount(filled, library)
        ) or (known == len(filled) >= 2 and any(one.startswith("tier") for one in named)):
            below = rows[at + 1] if at + 1 < len(rows) else None
            if below is not None and below.cells:
                columns, width = named, len(row.cells)
                open_left = not row.typed.lstrip().startswith("|")
                rows = _with_lengths(rows, at + 1, named)
                tiers = dict(zip(named, (cell.strip("* ") for cell in row.cells), strict=False))
                continue
        if not columns and (found := _without_headings(row, rows, at, library)):
            columns, width = found, len(row.cells)
            tiers = {}
        moves = [_movement(cell, library) for cell in filled]
        below = rows[at + 1] if at + 1 < len(rows) else None
        if (
            len(filled) >= 2
            and all(moves)
            and below is not None
            and below.cells
            and rank_named(below.cells[0].strip()) is not None
        ):
            by_move = filled
            continue
        if by_move and row.cells and rank_named(row.cells[0].strip()) is not None:
            said = ", ".join(
                f"{move} {cell}"
                for move, cell in zip(by_move, row.cells[1:], strict=False)
                if cell.strip()
            )
            text = f"{row.cells[0].strip()}: {said}"
            yield replace(row, text=text, typed=text, at=0, cells=())
            continue
        if columns and 1 < len(row.cells) <= width + 1:
            yield from _written(row, columns, tiers)
            continue
        if len(filled) == 1 and len(row.cells) > 1:
            yield replace(row, text=row.text.replace("|", " "), cells=())
            continue
        yield from _versions(row, library)


_START = re.compile(r"\s*(\d{1,2}):(\d\d)\s*")


def _with_lengths(rows: Sequence[Row], first: int, columns: Sequence[str]) -> Sequence[Row]:
    """The rows, times that rise from row to row of a table, `0:00`, `0:12`, as the minutes until
    the next one; the last of them says nothing.
    """
    if columns.count("time") != 1:
        return rows
    at, end = columns.index("time"), first
    while end < len(rows) and len(rows[end].cells) > at and not rows[end].gap:
        end += 1
    table = [place for place in range(first, end) if not _RULE.fullmatch(rows[place].text)]
    times = [_START.fullmatch(rows[place].cells[at]) for place in table]
    starts = [60 * int(time[1]) + int(time[2]) for time in times if time]
    lengths = [after - before for before, after in pairwise(starts)]
    if len(starts) < max(3, len(table)) or min(lengths) < 1 or max(lengths) > LONGEST_PART:
        return rows
    out = list(rows)
    for place, length in zip(table, [*lengths, 0], strict=True):
        cells = list(rows[place].cells)
        cells[at] = f"{length} min" if length else ""
        out[place] = replace(rows[place], cells=tuple(cells))
    return out


LONGEST_PART = 60
"""Minutes from one row of a table to the next at most, where its times are those of the hour."""
_MINUTES = re.compile(r"(\d{1,3})\s*-\s*(\d{1,3})")


def _without_headings(row: Row, rows: Sequence[Row], at: int, library: Library) -> list[str]:
    """The columns of a table of lifts without headings: a movement, sets, reps, load, rest."""
    near = [one for one in rows[max(0, at - 1) : at + 2] if one is not row and one.cells]
    if len(row.cells) < FEWEST_CELLS or not any(len(one.cells) == len(row.cells) for one in near):
        return []
    others = row.cells[1:]
    counts = [bool(re.fullmatch(r"\d{1,2}(?:-\d{1,2})?", cell.strip())) for cell in others[:2]]
    if counts != [True, True] or any(_kind(cell, library) == "movement" for cell in others):
        return []
    names = ["work", "sets", "reps"]
    for cell in others[2:]:
        kind = _kind(cell, library)
        load = kind in ("percent", "weight", "rpe", "") and "load" not in names
        names.append("rest" if kind == "time" else "load" if load else "note")
    return names


FEWEST_CELLS = 3


def _kind(cell: str, library: Library) -> str:
    """The kind of the first token of a cell that says something; empty for none."""
    return next(
        (
            token.kind
            for token in tokens(cell, library)
            if token.kind not in ("filler", "at", "dash")
        ),
        "",
    )


def _length(cell: str) -> str:
    """A place in the hour, `8-28`, as its length; any other time as it is."""
    if re.fullmatch(r"\d{1,2}", cell.strip()):
        return f"{cell.strip()} min"
    match = _MINUTES.fullmatch(cell.strip())
    if match is None or int(match[1]) >= int(match[2]):
        return cell
    return f"{int(match[2]) - int(match[1])} min"


_LOADS = ("weight", "pair", "number", "percent", "height", "at", "by", "bodyweight")


def _versions(row: Row, library: Library) -> Iterator[Row]:
    """`10 pull-ups | 10 ring rows`: a line whose cells are its versions; any other as it is."""
    first, *others = row.cells
    said = [tokens(cell, library) for cell in row.cells]
    if " | " not in row.text or not 1 <= len(others) <= MOST_VERSIONS or not _asks(said[0]):
        yield row
        return
    base = _moved(said[0], library)
    for version in said[1:]:
        moved = _moved(version, library)
        eased = moved is not None and base is not None and _eases(base, moved, library)
        if not (eased or (version and all(one.kind in _LOADS for one in version))):
            yield row
            return
    yield replace(row, text=first, typed=first, at=0, cells=())
    for rank, cell in enumerate(others, start=1):
        text = f"tier {rank} of it ({rank + 1}): {cell}"
        yield replace(row, text=text, typed=text, at=0, cells=(), gap=False, first=False)


MOST_VERSIONS = 3


def _asks(said: Sequence[Token]) -> bool:
    """Whether a cell is an amount of one movement."""
    kinds = [token.kind for token in said]
    return kinds.count("movement") == 1 and bool(kinds) and kinds[0] in AMOUNTS


def _moved(said: Sequence[Token], library: Library) -> Movement | None:
    moves = [token for token in said if token.kind == "movement"]
    return library.find(str(moves[0].means["movement"])) if len(moves) == 1 else None


def _eases(base: Movement, other: Movement, library: Library) -> bool:
    """Whether a movement is an easier version: on the same ladder, or of the same pattern."""
    ladder = library.ladder_of(base.name)
    if ladder is not None and other.name in ladder.rungs:
        return True
    return base.name != other.name and bool(set(base.patterns) & set(other.patterns))


def _movement(cell: str, library: Library) -> bool:
    kinds = [token.kind for token in tokens(cell.strip(), library) if token.kind != "filler"]
    return bool(kinds) and all(kind in ("movement", "implement") for kind in kinds)


def _says_amount(cells: Sequence[str], library: Library) -> bool:
    return any(
        token.kind in ("time", "distance", "weight", "by", "cal")
        for cell in cells
        for token in tokens(cell, library)
    )


def _written(row: Row, columns: Sequence[str], headings: Mapping[str, str]) -> Iterator[Row]:
    """A table's row as a line, and a line for each tier that has a cell of its own.

    `headings` are the columns' headings by what they are.
    """
    cells = list(row.cells) + [""] * (len(columns) - len(row.cells))
    by: dict[str, str] = {}
    tiers: dict[int, str] = {}
    loose: list[str] = []
    for name, cell in zip(columns, cells, strict=False):
        text = cell.strip().strip("*")
        if not text or text in ("-", "–"):
            continue
        if name.startswith("tier"):
            tiers[int(name.split()[1])] = text
        elif name and name not in by:
            by[name] = text
        else:
            loose.append(text)
    several = any("," in text for text in tiers.values()) and "," in by.get("work", "")
    whole = dict(tiers) if several else {}
    tiers = {} if several else tiers
    ranks = [int(name.split()[1]) for name in columns if name.startswith("tier")]
    first = tiers.pop(min(ranks), "") if tiers else ""
    sets, reps = by.get("sets"), by.get("reps")
    amount = f"{sets} x {reps}" if sets and reps else f"{sets} sets" if sets else reps or ""
    rest = by.get("rest", "")
    label = "" if headings.get("label", "").lower() in _REPEATS else by.get("label", "")
    if re.fullmatch(r"[A-Za-z]\d?|\d", label):
        label = f"{label}. " if not re.fullmatch(r"[A-Za-z]\d", label) else f"{label} "
    elif label:
        label = f"{label}: "
    parts = [
        f"{_length(by['time'])} -" if "time" in by else "",
        " ".join([*loose[:1], by.get("work", "")]).strip(),
        amount,
        first,
        f"tempo {by['tempo']}" if "tempo" in by else "",
        f"@ {by['load']}" if re.match(r"\d", by.get("load", "")) else by.get("load", ""),
        ", ".join([*loose[1:], by.get("note", "")]).strip(", "),
        f"rest {rest}" if rest and rest != "0" else "",
    ]
    time, *others = parts
    line = ", ".join(other for other in others if other)
    # A place in the hour stands before the role or the letter of the part.
    ahead = bool(time) and re.match(r"\d+ min -$", time) is not None and not label.endswith(". ")
    line = f"{time} {label}{line}" if ahead else f"{label}{time} {line}" if time else label + line
    if not by and not loose:
        return
    yield replace(row, text=line, typed=line, at=0, cells=(), indent=0)
    for rank, text in sorted(whole.items()):
        said = f"{('RX', 'Scaled', 'Beginner')[min(rank, 2)]}: {text}"
        yield replace(row, text=said, typed=said, at=0, cells=(), gap=False, first=False)
    for rank, text in sorted(tiers.items()):
        # The row's own versions, tier by tier.
        said = f"tier {rank} of it ({headings[f'tier {rank}']}): {text}"
        yield replace(row, text=said, typed=said, at=0, cells=(), gap=False, first=False)
