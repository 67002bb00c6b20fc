"""Pieces of saved days: each has an identity of its own, and everything kept hangs on it.

A key is that identity as text. When a board is saved, its pieces are matched to those of before
(`core.day.pieces`); where scores or jots hang on a piece whose fate is not certain, the coach is
asked before anything is saved.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache
from typing import Literal, NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.day.pieces import Match, fingerprint, match
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import READER, Parsed, parse
from pine_ladder.core.scores.kinds import Score
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    ClockStep,
    Day,
    GroupsRow,
    GymClass,
    HeartRow,
    Jot,
    PieceRow,
    ScoreRow,
    ScoreTrail,
)

ASIDE = -1
"""The answer that sets a piece aside: its scores stay with it as it was."""
LONGEST_KEY = 10

Why = Literal["gone", "doubt", "unreadable"]


@lru_cache(maxsize=4096)
def read_board(board: str, shelf: Library) -> Parsed:
    """A board's text as this gym reads it; the same text is read once.

    Holds a year of three programmes, and the pieces of it that stand alone.
    """
    return parse(board, shelf)


class Hanging(NamedTuple):
    """A score that hangs on a piece, as the coach is shown it."""

    name: str
    display: str


class Question(NamedTuple):
    """A piece with scores or jots whose fate a save would leave open.

    `why`: the board has it no longer (`gone`), another piece may be meant (`doubt`), or its scores
    could not be read any more (`unreadable`). `likely` is the place of the piece that continues it
    most likely.
    """

    key: str
    title: str
    why: Why
    scores: tuple[Hanging, ...]
    jots: int
    likely: int | None


class Asked(Exception):
    """The save waits for the coach's answers; `titles` are the new board's pieces in order."""

    def __init__(self, questions: Sequence[Question], titles: Sequence[str]) -> None:
        super().__init__("scores hang on pieces that this change takes away")
        self.questions, self.titles = tuple(questions), tuple(titles)


class Held(NamedTuple):
    """A piece of a day with its row; `piece` is None where its text holds none."""

    row: PieceRow
    piece: plan.Piece | None

    @property
    def key(self) -> str:
        """The identity as text."""
        return str(self.row.id)


def held_by(db: Session, day: Day, shelf: Library | None = None) -> list[Held]:
    """All pieces of a day: those on the board in its order, then those that are set aside."""
    return held_by_all(db, [day], shelf)[day.id]


def held_by_all(
    db: Session, days: Iterable[Day], shelf: Library | None = None
) -> dict[int, list[Held]]:
    """All pieces of several days, by day."""
    days, shelf = list(days), shelf or gym_of(db).movements_as_written
    rows: dict[int, list[PieceRow]] = {day.id: [] for day in days}
    query = select(PieceRow).where(PieceRow.day_id.in_(rows))
    for row in db.scalars(query.order_by(PieceRow.position, PieceRow.id)):
        rows[row.day_id].append(row)
    return {day.id: _paired(day, rows[day.id], shelf) for day in days}


def _paired(day: Day, rows: list[PieceRow], shelf: Library) -> list[Held]:
    """The rows of a day with their pieces. Nothing is written: a board that is read into another
    number of pieces than when it was saved is shown by its rows, each read alone, until it is
    saved or read again (`store.boards.rereading`).
    """
    pieces: Sequence[plan.Piece | None] = read_board(day.text, shelf).session.pieces
    standing = [row for row in rows if row.position is not None]
    if len(standing) != len(pieces):
        pieces = [_alone(row.text, shelf) for row in standing]
    aside = [row for row in rows if row.position is None]
    return [
        *(Held(row, piece) for row, piece in zip(standing, pieces, strict=True)),
        *(Held(row, _alone(row.text, shelf)) for row in aside),
    ]


def _alone(board: str, shelf: Library) -> plan.Piece | None:
    pieces = read_board(board, shelf).session.pieces
    return pieces[0] if pieces else None


def on_board(db: Session, day: Day, shelf: Library | None = None) -> dict[str, plan.Piece]:
    """The pieces on a day's board by key, in its order."""
    return {
        one.key: one.piece
        for one in held_by(db, day, shelf)
        if one.row.position is not None and one.piece is not None
    }


def keys_of(db: Session, day: Day) -> tuple[str, ...]:
    """The keys of the pieces on a day's board, in its order, a key each.

    Where the board is read into other pieces than when it was saved, those without a row are
    named as new ones are.
    """
    shelf = gym_of(db).movements_as_written
    keys = tuple(on_board(db, day, shelf))
    session = read_board(day.text, shelf).session
    return keys if len(keys) == len(session.pieces) else keys_while_writing(db, day, session)


def piece_of(db: Session, day: Day, key: str, shelf: Library | None = None) -> plan.Piece | None:
    """The piece of a day with that key, on the board or set aside; None where there is none."""
    return next((one.piece for one in held_by(db, day, shelf) if one.key == key), None)


def id_of(key: str) -> int:
    """The identity of a key; LookupError for text that is none."""
    if not (key.isascii() and key.isdigit() and len(key) < LONGEST_KEY):
        raise LookupError(key)
    return int(key)


def keys_while_writing(db: Session, day: Day | None, session: plan.Session) -> tuple[str, ...]:
    """Keys for a board as it stands in the editor: saved pieces keep theirs, new ones are named."""
    fresh = [f"new-{number}" for number in range(1, len(session.pieces) + 1)]
    if day is None:
        return tuple(fresh)
    old = [one for one in held_by(db, day) if one.row.position is not None]
    found = match([one.piece for one in old if one.piece], session.pieces)
    return tuple(fresh[j] if i is None else old[i].key for j, i in enumerate(found.of_new))


def text_of(board: str, session: plan.Session, place: int) -> str:
    """The lines of a piece as they stand on the board."""
    lines = board.splitlines()
    ends = [*(piece.line - 1 for piece in session.pieces[place + 1 :]), len(lines)]
    return "\n".join(lines[session.pieces[place].line - 1 : ends[0]]).strip()


def settle(db: Session, day: Day, answers: Mapping[str, int], asks: bool = False) -> None:
    """Match the pieces of a day's text to its rows and keep the rows by it.

    `answers` say for keys which place of the new board continues them, or ASIDE. With `asks`,
    raises Asked where scores or jots hang on a piece whose fate is not certain. Scores are read
    anew by their piece.
    """
    db.execute(text("select pg_advisory_xact_lock(hashtextextended(:key, 0))"), {
        "key": f"pieces/{day.id}"
    })  # fmt: skip
    query = select(PieceRow).where(PieceRow.day_id == day.id).order_by(PieceRow.position)
    rows = list(db.scalars(query))
    old = [row for row in rows if row.position is not None]
    aside = [row for row in rows if row.position is None]
    shelf = gym_of(db).movements_as_written
    session = read_board(day.text, shelf).session
    were = [_alone(row.text, shelf) for row in old]
    found = match([one or _BLANK for one in were], session.pieces)
    of_new = _answered(found, old, answers, len(session.pieces))
    if asks:
        _ask(db, day, old, of_new, found, answers, session)
    continued = {i for i in of_new if i is not None}
    for i, left in enumerate(old):
        if i not in continued:
            left.position = None
    kept: list[PieceRow] = []
    for j, before in enumerate(of_new):
        own = text_of(day.text, session, j)
        row = old[before] if before is not None else _returned(aside, session.pieces[j], shelf)
        if row is None:
            row = PieceRow(day_id=day.id)
            db.add(row)
        row.position, row.title, row.text = j, session.pieces[j].title[:200], own
        row.fingerprint = fingerprint(session.pieces[j])
        row.board = (session.title or "")[:200]
        kept.append(row)
    day.reader = READER
    db.flush()
    _forget(db, day)
    read_anew(db, zip(kept, session.pieces, strict=True))


_BLANK = plan.Piece(role=plan.Role.REST, format=plan.Rest(length_s=1))


def _answered(
    found: Match, old: Sequence[PieceRow], answers: Mapping[str, int], count: int
) -> list[int | None]:
    """The old piece of each new one, as matched and as the coach says."""
    of_new: list[int | None] = list(found.of_new)
    for i, row in enumerate(old):
        if str(row.id) not in answers:
            continue
        place = answers[str(row.id)]
        of_new = [None if one == i else one for one in of_new]
        if 0 <= place < count:
            of_new[place] = i
    return of_new


def _returned(aside: list[PieceRow], piece: plan.Piece, shelf: Library) -> PieceRow | None:
    """A piece that was set aside and stands on the board again to the letter."""
    same = [row for row in aside if _alone(row.text, shelf) == piece]
    if not same:
        return None
    row = max(same, key=lambda one: one.id)
    aside.remove(row)
    return row


def _ask(
    db: Session,
    day: Day,
    old: Sequence[PieceRow],
    of_new: Sequence[int | None],
    found: Match,
    answers: Mapping[str, int],
    session: plan.Session,
) -> None:
    places = {i: j for j, i in enumerate(of_new) if i is not None}
    questions = []
    for i, row in enumerate(old):
        place = places.get(i)
        answer = answers.get(str(row.id))
        scores, jots = hanging_on(db, row.id)
        if not scores and not jots:
            continue
        if answer is not None and answer in (ASIDE, place):
            continue
        why: Why
        if place is None:
            why, shown = "gone", scores
        elif i in found.doubtful:
            why, shown = "doubt", scores
        else:
            piece = session.pieces[place]
            shown = [one for one in scores if one.order_key is not None and _lost(one, piece)]
            if not shown:
                continue
            why = "unreadable"
        questions.append(
            Question(
                key=str(row.id),
                title=row.title,
                why=why,
                scores=tuple(Hanging(one.person.name, one.display) for one in shown),
                jots=jots,
                likely=place,
            )
        )
    if questions:
        raise Asked(questions, [piece.title for piece in session.pieces])


def _lost(row: ScoreRow, piece: plan.Piece) -> bool:
    read = read_score(row.entered, piece, row.tier.position, row.track.position)
    return bool(read.problems)


def hanging_on(db: Session, piece_id: int) -> tuple[list[ScoreRow], int]:
    """The scores on a piece by name, and how many notes are jotted of it."""
    scores = list(db.scalars(select(ScoreRow).where(ScoreRow.piece_id == piece_id)).unique())
    jots = db.scalar(select(func.count()).select_from(Jot).where(Jot.piece_id == piece_id)) or 0
    return sorted(scores, key=lambda row: row.person.name), jots


def _forget(db: Session, day: Day) -> None:
    """Drop the rows of pieces that are gone and on which nothing hangs."""
    gone = select(PieceRow).where(PieceRow.day_id == day.id, PieceRow.position.is_(None))
    clocks = (
        select(ClockStep.state["key"].astext)
        .join(GymClass, GymClass.id == ClockStep.class_id)
        .where(GymClass.day_id == day.id)
    )
    played: set[str] | None = None
    for row in db.scalars(gone).all():
        hangs = (
            select(ScoreRow.id).where(ScoreRow.piece_id == row.id),
            select(ScoreRow.id).where(ScoreRow.origin_id == row.id),
            select(ScoreTrail.id).where(ScoreTrail.piece_id == row.id),
            select(Jot.round).where(Jot.piece_id == row.id),
            select(GroupsRow.version).where(GroupsRow.piece_id == row.id),
            select(HeartRow.person_id).where(HeartRow.piece_id == row.id),
        )  # fmt: skip
        if any(db.execute(one.limit(1)).first() for one in hangs):
            continue
        if played is None:
            played = set(db.scalars(clocks))
        if str(row.id) not in played:
            db.delete(row)
    db.flush()


def fill(row: ScoreRow, score: Score) -> None:
    """Put what was understood of an entry into its row."""
    row.kind, row.value, row.display = score.kind.value, score.value, score.display
    row.order_key, row.reps = score.order_key, score.total_reps
    row.rounds = score.rounds.model_dump(mode="json") if score.rounds else None


def read_anew(db: Session, pieces: Iterable[tuple[PieceRow, plan.Piece]]) -> None:
    """Read the scores of some pieces by the pieces as they are now."""
    by_id = {row.id: piece for row, piece in pieces}
    query = select(ScoreRow).where(ScoreRow.piece_id.in_(by_id))
    for row in db.scalars(query).unique():
        piece = by_id[row.piece_id]
        fill(row, read_score(row.entered, piece, row.tier.position, row.track.position))
    db.flush()


class Occupied(Exception):
    """Scores cannot be put onto a piece where some of their athletes have others."""

    def __init__(self, names: Sequence[str]) -> None:
        super().__init__(", ".join(names))
        self.names = tuple(names)


def put_scores(db: Session, day: Day, start: str, to: str) -> int:
    """Put the scores of one piece onto another of the same day; how many.

    Put onto a piece they came from, they go back to it alone. Raises LookupError for a piece the
    day does not have, Occupied where athletes have a score there already.
    """
    held = {one.key: one for one in held_by(db, day)}
    source, target = held[start], held[to]
    if source is target or target.piece is None:
        raise LookupError(to)
    rows, _ = hanging_on(db, source.row.id)
    if any(row.origin_id == target.row.id for row in rows):
        rows = [row for row in rows if row.origin_id == target.row.id]
    there = {row.person_id for row in hanging_on(db, target.row.id)[0]}
    if clash := [row.person.name for row in rows if row.person_id in there]:
        raise Occupied(clash)
    for row in rows:
        back = row.origin_id == target.row.id
        row.origin_id = None if back else row.origin_id or source.row.id
        row.piece_id = target.row.id
        row.version += 1
    db.flush()
    read_anew(db, [(target.row, target.piece)])
    return len(rows)
