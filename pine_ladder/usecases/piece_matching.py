"""Match pieces to their rows when a board is saved, so that scores stay with their piece."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.day.piece_matching import Match, fingerprint, match
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import READER
from pine_ladder.core.scores.kinds import Score
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.store.days.pieces import ASIDE, Why, held_by, read_alone, read_board, text_of
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
    were = [read_alone(row.text, shelf) for row in old]
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


def hanging_on(db: Session, piece_id: int) -> tuple[list[ScoreRow], int]:
    """The scores on a piece by name, and how many notes are jotted of it."""
    scores = list(db.scalars(select(ScoreRow).where(ScoreRow.piece_id == piece_id)).unique())
    jots = db.scalar(select(func.count()).select_from(Jot).where(Jot.piece_id == piece_id)) or 0
    return sorted(scores, key=lambda row: row.person.name), jots


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


_BLANK = plan.Piece(role=plan.Role.REST, format=plan.Rest(length_s=1))


def _answered(
    match: Match, old: Sequence[PieceRow], answers: Mapping[str, int], count: int
) -> list[int | None]:
    """The old piece of each new one, as matched and as the coach says."""
    of_new: list[int | None] = list(match.of_new)
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
    same = [row for row in aside if read_alone(row.text, shelf) == piece]
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
    match: Match,
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
        elif i in match.doubtful:
            why, shown = "doubt", scores
        else:
            piece = session.pieces[place]
            shown = [
                score for score in scores if score.order_key is not None and _lost(score, piece)
            ]
            if not shown:
                continue
            why = "unreadable"
        questions.append(
            Question(
                key=str(row.id),
                title=row.title,
                why=why,
                scores=tuple(Hanging(score.person.name, score.display) for score in shown),
                jots=jots,
                likely=place,
            )
        )
    if questions:
        raise Asked(questions, [piece.title for piece in session.pieces])


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
        if any(db.execute(hang.limit(1)).first() for hang in hangs):
            continue
        if played is None:
            played = set(db.scalars(clocks))
        if str(row.id) not in played:
            db.delete(row)
    db.flush()


def _lost(row: ScoreRow, piece: plan.Piece) -> bool:
    read = read_score(row.entered, piece, row.tier.position, row.track.position)
    return bool(read.problems)
