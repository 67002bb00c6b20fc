"""Scores of other days as a table: each row read, held against who and what is there.

Columns, in any order: `date` (2026-03-14), `piece`, `person`, `entered` (as on the score sheet);
where known `board` (the piece as it stood on the board), `tier`, `track`. Other columns are passed
over. Without its board a piece is one of times, of reps, of loads, of distances or of calories, as
all its entries say.
"""

from __future__ import annotations

import datetime as dt
import re
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Literal, NamedTuple

from rapidfuzz import fuzz, process

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.printer import print_piece
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.kinds import Score, score_kind
from pine_ladder.core.scores.shorthand import read_score

MOST_ROWS = 200_000
LIKE, MOST_LIKE = 70, 3
"""From which likeness (0 to 100) a name may be meant, and how many of them are offered."""
HEADS = {
    "date": ("date", "day"),
    "piece": ("piece", "workout", "title"),
    "person": ("person", "name", "athlete", "member"),
    "entered": ("entered", "result", "score"),
    "board": ("board",),
    "tier": ("tier", "scale"),
    "track": ("track",),
    "programme": ("programme",),
}
"""The columns, each by the words it is known by (common practice, no source)."""
NEEDED = ("date", "piece", "person", "entered")
_SHAPES = (
    (re.compile(r"\d{1,2}(:\d{2}){1,2}(\.\d)?"), "Conditioning", "1 round for time"),
    (re.compile(r"\d{1,5}"), "Conditioning", "1 round, score total reps"),
    (re.compile(r"\d{1,3}(\.\d+)? ?(kg|lb)"), "Strength", "1 set, score load"),
    (re.compile(r"\d{1,6}(\.\d+)? ?(m|km)"), "Conditioning", "1 round, score distance"),
    (re.compile(r"\d{1,5} ?cal"), "Conditioning", "1 round, score calories"),
)
_QUOTES = str.maketrans({'"': "'", "\n": " ", "\r": " "})
"""What the name of a piece on a board cannot hold."""


class LedgerLine(Frozen):
    """A row as it is understood. `what`: new; there already, to the letter; doubtful, as nobody is
    called so for certain (`likely` are who may be meant); refused, and `why`.
    """

    line: int
    what: Literal["new", "there", "doubtful", "refused"]
    why: str = ""
    date: dt.date | None = None
    piece: str = ""
    person: str = ""
    tier: int = 0
    track: int = 0
    entered: str = ""
    likely: tuple[int, ...] = ()


class Old(NamedTuple):
    """What a gym has already: people as (id, name), its tiers and tracks, the pieces of a written
    day in order with their ids (None for an unwritten one), what was entered on a piece by whom,
    and its programme.
    """

    people: Sequence[tuple[int, str]]
    tiers: Sequence[str]
    tracks: Sequence[str]
    day: Callable[[dt.date], Sequence[tuple[int, plan.Piece]] | None]
    entered: Mapping[tuple[int, int], str]
    programme: str


class At(NamedTuple):
    """The piece a score is of: by its id where the day is written, else by its place to be."""

    piece: plan.Piece
    piece_id: int | None
    place: int
    text: str
    """The piece printed: pieces of one text are read alike."""


class Found(NamedTuple):
    """A score to keep: its line, its piece, who (an id, or the name of somebody new), as read."""

    line: LedgerLine
    at: At
    person: int | str
    score: Score


class Ledger(NamedTuple):
    """A table as understood: every line, the scores to keep, and the text of each day to write."""

    lines: list[LedgerLine]
    found: list[Found]
    days: dict[dt.date, str]


class _Row(NamedTuple):
    line: int
    cells: dict[str, str]
    date: dt.date
    title: str

    @property
    def key(self) -> tuple[dt.date, str, str]:
        """What rows of one piece have in common."""
        return self.date, self.title.casefold(), self.cells.get("board", "")


def columns(heads: Sequence[str]) -> dict[str, int]:
    """Where each known column stands; ValueError that names those that are missing."""
    at = {}
    for column, words in HEADS.items():
        for word in words:
            if word in heads and column not in at:
                at[column] = heads.index(word)
    if missing := [column for column in NEEDED if column not in at]:
        names = " or ".join(missing)
        raise ValueError(f"the table has no column {names}: its first row names them")
    return at


def piece_text(title: str, entries: Iterable[str]) -> str | None:
    """A piece for entries whose board is not known, by their common shape; None for none."""
    said = {entry.strip().lower() for entry in entries}
    for shape, role, form in _SHAPES:
        if said and all(shape.fullmatch(one) for one in said):
            return f'## {role} "{title.translate(_QUOTES)}": {form}'
    return None


def read_ledger(
    heads: Sequence[str],
    rows: Sequence[tuple[int, Sequence[str]]],
    old: Old,
    library: Library,
    named: Mapping[str, int] | None = None,
) -> Ledger:
    """A table of scores against a gym; ValueError where columns are missing or it is too long.

    `named` says for names that are nobody's for certain who is meant, 0 for somebody new.
    """
    at = columns(heads)
    if len(rows) > MOST_ROWS:
        raise ValueError(f"a table holds up to {MOST_ROWS} scores: bring it in in parts")
    lines: list[LedgerLine] = []
    read: list[_Row] = []
    for number, cells in rows:
        said = {name: cells[i].strip() if i < len(cells) else "" for name, i in at.items()}
        row = _row(number, said)
        if isinstance(row, LedgerLine):
            lines.append(row)
        else:
            read.append(row)
    pieces, days, wrong = _pieces(read, old, library)
    who = _Who(old.people, named or {})
    matches: list[Found] = []
    seen: set[tuple[int | None, dt.date, int, int | str]] = set()
    cache: dict[tuple[object, ...], Score] = {}
    for row in read:
        line = _line(row, old, wrong)
        if line.what != "refused":
            person, likely = who.is_meant(line.person)
            at_piece = pieces[row.key]
            # Most of a table repeats itself: the same entry on the same work is read once.
            key = (at_piece.text, line.entered, line.tier, line.track)
            score = cache.get(key)
            if score is None:
                score = cache[key] = read_score(line.entered, at_piece.piece, line.tier, line.track)
            line = _held(line, at_piece, score, person, likely, old, seen)
            if line.what == "new" and person is not None:
                matches.append(Found(line, at_piece, person, score))
        lines.append(line)
    used = {one.line.date for one in matches}
    lines.sort(key=lambda one: one.line)
    return Ledger(lines, matches, {date: text for date, text in days.items() if date in used})


def _row(number: int, said: dict[str, str]) -> _Row | LedgerLine:
    for column in NEEDED:
        if not said[column]:
            return LedgerLine(line=number, what="refused", why=f"{column} is empty")
    try:
        date = dt.date.fromisoformat(said["date"])
    except ValueError:
        why = f"{said['date'][:20]} is no date: write 2026-03-14"
        return LedgerLine(line=number, what="refused", why=why, person=said["person"])
    return _Row(number, said, date, said["piece"].translate(_QUOTES)[:200])


_Key = tuple[dt.date, str, str]


def _pieces(
    rows: Sequence[_Row], old: Old, library: Library
) -> tuple[dict[_Key, At], dict[dt.date, str], dict[_Key, str]]:
    """The piece of each date, title and board, the text of days that are to be written, and what
    is wrong with those that cannot be read.
    """
    entries: dict[_Key, list[_Row]] = defaultdict(list)
    for row in rows:
        entries[row.key].append(row)
    pieces: dict[_Key, At] = {}
    wrong: dict[_Key, str] = {}
    texts: dict[dt.date, list[str]] = defaultdict(list)
    parsed: dict[str, tuple[plan.Piece, ...]] = {}
    for key, own in entries.items():
        date, title, board = key
        text = board or piece_text(own[0].title, (row.cells["entered"] for row in own)) or ""
        if text not in parsed:
            parsed[text] = parse(text, library).session.pieces
        read = parsed[text]
        told = read[0] if len(read) == 1 and not read[0].unread else None
        there = old.day(date)
        try:
            if there is not None:
                pieces[key] = _there(title, told if board else None, there)
            else:
                pieces[key] = _anew(title, told, len(texts[date]))
                texts[date].append(text)
        except ValueError as error:
            wrong[key] = str(error)
    return pieces, {date: "\n\n".join(parts) + "\n" for date, parts in texts.items()}, wrong


def _there(title: str, told: plan.Piece | None, there: Sequence[tuple[int, plan.Piece]]) -> At:
    """The piece of a written day; ValueError where it holds none that is so called and scored."""
    so_called = [
        At(piece, number, 0, print_piece(piece))
        for number, piece in there
        if piece.title.casefold() == title and score_kind(piece) is not None
    ]
    if len(so_called) > 1 and told is not None:
        so_called = [at for at in so_called if at.text == print_piece(told)]
    if len(so_called) == 1:
        return so_called[0]
    names = ", ".join(piece.title for _, piece in there) or "nothing"
    raise ValueError(f"that day is written already and holds {names}")


def _anew(title: str, piece: plan.Piece | None, place: int) -> At:
    """A piece of a day that is to be written; ValueError where it cannot be told."""
    if piece is None or score_kind(piece) is None:
        raise ValueError("what was done is not told: give the piece in a column board")
    if piece.title.casefold() != title:
        raise ValueError(f"its board calls the piece {piece.title}")
    return At(piece, None, place, print_piece(piece))


class _Who:
    """Names to people."""

    def __init__(self, people: Sequence[tuple[int, str]], named: Mapping[str, int]) -> None:
        self.by_name: dict[str, list[int]] = defaultdict(list)
        for number, name in people:
            self.by_name[_folded(name)].append(number)
        self.named = {_folded(name): number for name, number in named.items()}
        self.known = {number for number, _ in people}
        self.likes: dict[str, tuple[int, ...]] = {}

    def is_meant(self, name: str) -> tuple[int | str | None, tuple[int, ...]]:
        """Who is meant (an id, a new name, None where it is not certain), and who may be."""
        low = _folded(name)
        if low in self.named:
            number = self.named[low]
            if number in self.known:
                return number, ()
            if number == 0:
                return " ".join(name.split())[:80], ()
        same = self.by_name.get(low, [])
        if len(same) == 1:
            return same[0], ()
        if low not in self.likes:
            near = process.extract(
                low, list(self.by_name), scorer=fuzz.WRatio, score_cutoff=LIKE, limit=MOST_LIKE
            )
            self.likes[low] = tuple(same) or tuple(
                number for found in near for number in self.by_name[found[0]]
            )
        return None, self.likes[low]


def _folded(name: str) -> str:
    return " ".join(name.split()).casefold()


def _place(said: str, names: Sequence[str]) -> int | None:
    if not said:
        return 0
    low = said.casefold()
    return next((at for at, name in enumerate(names) if name.casefold() == low), None)


def _line(row: _Row, old: Old, wrong: Mapping[_Key, str]) -> LedgerLine:
    said = row.cells
    line = LedgerLine(
        line=row.line,
        what="new",
        date=row.date,
        piece=row.title,
        person=said["person"],
        entered=said["entered"][:200],
    )
    tier = _place(said.get("tier", ""), old.tiers)
    track = _place(said.get("track", ""), old.tracks)
    why = ""
    if tier is None or track is None:
        names = old.tiers if tier is None else old.tracks
        cell = said["tier"] if tier is None else said["track"]
        why = f"{cell} is none of {', '.join(names)}"
    elif said.get("programme") and said["programme"].casefold() != old.programme.casefold():
        why = (
            f"a score of {said['programme']}; scores come into {old.programme} here: "
            f"choose the programme first"
        )
    elif row.key in wrong:
        why = wrong[row.key]
    if why:
        return line.model_copy(update={"what": "refused", "why": why})
    return line.model_copy(update={"tier": tier, "track": track})


def _held(
    line: LedgerLine,
    at: At,
    score: Score,
    person: int | str | None,
    likely: tuple[int, ...],
    old: Old,
    seen: set[tuple[int | None, dt.date, int, int | str]],
) -> LedgerLine:
    """The line held against what is there and what stood above it in the table."""
    if score.problems:
        return line.model_copy(update={"what": "refused", "why": score.problems[0]})
    if person is None:
        why = f"nobody is called {line.person} for certain"
        return line.model_copy(update={"what": "doubtful", "why": why, "likely": likely})
    assert line.date is not None
    cell = (at.piece_id, line.date, at.place, person)
    there = old.entered.get((at.piece_id or 0, person)) if isinstance(person, int) else None
    if there:
        if there == line.entered:
            return line.model_copy(update={"what": "there"})
        why = f"another score is kept there already: {there}"
        return line.model_copy(update={"what": "refused", "why": why})
    if cell in seen:
        return line.model_copy(update={"what": "refused", "why": "a second score in this table"})
    seen.add(cell)
    return line
