"""Scores: saved once however often they are sent, with a trail of every change."""

from __future__ import annotations

import datetime as dt
from collections.abc import Collection, Iterable
from typing import Any, NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.notation import parse
from pine_ladder.core.outline import piece_keys
from pine_ladder.core.scoring import Rounds, Score
from pine_ladder.core.shorthand import read_score
from pine_ladder.core.standings import Entry
from pine_ladder.store.clock import tell
from pine_ladder.store.days import fill
from pine_ladder.store.models import BankedBoard, Day, Person, ScoreRow, ScoreTrail, Tier, Track

TRUSTED = ("fine", "verified")
"""Scores that set bests and teach pace."""


class StaleScore(Exception):
    """Someone else has saved this score since it was read; holds the newer one, if any."""

    def __init__(self, newer: ScoreRow | None) -> None:
        super().__init__("saved by someone else in the meantime")
        self.newer = newer


class Write(NamedTuple):
    """One write of a score: `version` as read (0 for none), `request_key` once per intent."""

    piece_key: str
    person: Person
    tier: Tier
    track: Track
    entered: str
    version: int
    request_key: str | None
    by: Person
    doubt: str | None = None
    team: tuple[int, ...] = ()


def piece_of(day: Day, key: str) -> plan.Piece | None:
    """The piece of a day with that key, or None."""
    session = parse(day.text).session
    return dict(zip(piece_keys(session), session.pieces, strict=True)).get(key)


def scores_of(db: Session, day: Day, piece_key: str | None = None) -> list[ScoreRow]:
    """The day's scores, of one piece or of all."""
    query = select(ScoreRow).where(ScoreRow.day_id == day.id)
    if piece_key is not None:
        query = query.where(ScoreRow.piece_key == piece_key)
    return list(db.scalars(query).unique())


class Benchmark(NamedTuple):
    """An athlete's best on a piece of a board the gym keeps, and how often they did it."""

    board: str
    piece: str
    display: str
    tier: str
    date: dt.date
    times: int


def benchmarks(db: Session, person_id: int) -> list[Benchmark]:
    """An athlete's best on each scored piece of the bank's boards, by board.

    Better is within a tier: the hardest tier done comes first.
    """
    kept = set(db.scalars(select(BankedBoard.name)))
    query = select(ScoreRow, Day).join(Day, Day.id == ScoreRow.day_id)
    query = query.where(
        ScoreRow.person_id == person_id,
        ScoreRow.order_key.is_not(None),
        ScoreRow.standing.in_(TRUSTED),
    )
    found: dict[tuple[str, str], list[tuple[ScoreRow, Day]]] = {}
    for row, day in db.execute(query.where(Day.published)).unique():
        title = parse(day.text).session.title
        if title in kept:
            found.setdefault((title, row.piece_key), []).append((row, day))
    out = []
    for (title, _key), held in sorted(found.items()):
        row, day = min(held, key=lambda one: (one[0].tier.position, -(one[0].order_key or 0)))
        piece = piece_of(day, row.piece_key)
        out.append(
            Benchmark(
                board=title,
                piece=piece.title if piece else row.piece_key,
                display=row.display,
                tier=row.tier.name,
                date=day.date,
                times=len(held),
            )
        )
    return out


def _snapshot(row: ScoreRow) -> dict[str, Any]:
    return {
        "entered": row.entered,
        "display": row.display,
        "standing": row.standing,
        "tier_id": row.tier_id,
        "track_id": row.track_id,
        "version": row.version,
    }


def save_score(db: Session, day: Day, piece: plan.Piece, write: Write) -> tuple[ScoreRow, Score]:
    """Save an accepted score. A repeated `request_key` changes nothing and gives the same answer.

    Raises StaleScore when the score is no longer at `version`; ValueError when it is refused.
    """
    # One writer a cell at a time, so that two first writes meet as a conflict, not as an error.
    lock = f"{day.id}/{write.piece_key}/{write.person.id}"
    db.execute(text("select pg_advisory_xact_lock(hashtextextended(:lock, 0))"), {"lock": lock})
    score = read_score(write.entered, piece, write.tier.position, write.track.position)
    if write.request_key:
        query = select(ScoreRow).where(ScoreRow.request_key == write.request_key)
        done = db.scalars(query).unique().one_or_none()
        if done is not None:
            return done, score
    if score.problems:
        raise ValueError(score.problems[0])
    row = _cell(db, day, write)
    if (row.version if row else 0) != write.version:
        raise StaleScore(row)
    before = _snapshot(row) if row else None
    if row is None:
        row = ScoreRow(day_id=day.id, piece_key=write.piece_key, person=write.person, version=0)
        db.add(row)
    row.tier, row.track, row.entered = write.tier, write.track, write.entered.strip()
    fill(row, score)
    row.request_key = write.request_key
    row.doubt, row.standing = write.doubt, "doubted" if write.doubt else "fine"
    row.team = list(write.team) or None
    row.version += 1
    row.saved_at = func.now()
    db.flush()
    _trail(db, day, write, before, _snapshot(row))
    tell(db, what="score", date=day.date.isoformat(), piece=write.piece_key)
    return row, score


def clear_score(db: Session, day: Day, write: Write) -> None:
    """Take a score back; raises StaleScore when it is no longer at the version read."""
    row = _cell(db, day, write)
    if row is None:
        return
    if row.version != write.version:
        raise StaleScore(row)
    _trail(db, day, write, _snapshot(row), None)
    db.delete(row)
    db.flush()
    tell(db, what="score", date=day.date.isoformat(), piece=write.piece_key)


def share(db: Session, day: Day, piece: plan.Piece, write: Write, mates: Iterable[int]) -> None:
    """Give a team's score to its other members as well, or take it from them.

    Raises ValueError when one of them has another score that was not this team's.
    """
    for number in mates:
        person = db.get(Person, number)
        if person is None:
            continue
        theirs = write._replace(person=person, request_key=None, version=0)
        row = _cell(db, day, theirs)
        theirs = theirs._replace(version=row.version if row else 0)
        other = row is not None and tuple(row.team or ()) != write.team
        if not write.entered.strip():
            if not other:
                clear_score(db, day, theirs)
        elif row is not None and other and row.entered != write.entered.strip():
            raise ValueError(
                f"{person.name} of this team has another score, {row.display}: clear that first"
            )
        else:
            save_score(db, day, piece, theirs)


def judge(
    db: Session, day: Day, row: ScoreRow, by: Person, standing: str, note: str = ""
) -> ScoreRow:
    """Verify a doubted score, ask the athlete about it, or keep the athlete's answer; on the trail.

    Raises StaleScore when it is no longer in doubt.
    """
    db.refresh(row, with_for_update={"of": ScoreRow})
    if row.standing not in ("doubted", "asked", "answered"):
        raise StaleScore(row)
    before = _snapshot(row)
    row.standing = standing
    row.version += 1
    db.add(
        ScoreTrail(
            day_id=day.id,
            piece_key=row.piece_key,
            person_id=row.person_id,
            changed_by_id=by.id,
            before=before,
            after={**_snapshot(row), "note": note},
        )
    )
    db.flush()
    tell(db, what="score", date=day.date.isoformat(), piece=row.piece_key)
    return row


def trail_of(db: Session, day: Day, key: str, person_id: int) -> list[tuple[ScoreTrail, str]]:
    """Every change of a score with the name of who made it, oldest first."""
    query = (
        select(ScoreTrail, Person.name)
        .outerjoin(Person, Person.id == ScoreTrail.changed_by_id)
        .where(
            ScoreTrail.day_id == day.id,
            ScoreTrail.piece_key == key,
            ScoreTrail.person_id == person_id,
        )
        .order_by(ScoreTrail.id)
    )
    return [(row, name or "the program") for row, name in db.execute(query)]


def _cell(db: Session, day: Day, write: Write) -> ScoreRow | None:
    query = (
        select(ScoreRow)
        .where(
            ScoreRow.day_id == day.id,
            ScoreRow.piece_key == write.piece_key,
            ScoreRow.person_id == write.person.id,
        )
        .with_for_update(of=ScoreRow)
        .execution_options(populate_existing=True)
    )
    return db.scalars(query).unique().one_or_none()


def _trail(
    db: Session,
    day: Day,
    write: Write,
    before: dict[str, Any] | None,
    after: dict[str, Any] | None,
) -> None:
    db.add(
        ScoreTrail(
            day_id=day.id,
            piece_key=write.piece_key,
            person_id=write.person.id,
            changed_by_id=write.by.id,
            before=before,
            after=after,
        )
    )
    db.flush()


def entries(rows: Iterable[ScoreRow], hidden: Collection[int] = ()) -> list[Entry]:
    """Rows as entries for the standings, a team as one.

    A score the present board cannot read has no place, nor has who is `hidden`.
    """
    out: list[Entry] = []
    teams: dict[tuple[int, ...], int] = {}
    for row in rows:
        if row.order_key is None or row.person_id in hidden:
            continue
        team = tuple(row.team or ())
        if team in teams and out[teams[team]].order_key == row.order_key:
            mate = out[teams[team]]
            name = f"{mate.name} & {row.person.name}"
            out[teams[team]] = mate.model_copy(update={"name": name})
            continue
        if team:
            teams[team] = len(out)
        doubted = row.standing in ("doubted", "asked", "answered")
        out.append(
            Entry(
                athlete_id=row.person_id,
                name=row.person.name,
                tier=row.tier.position,
                track=row.track.position,
                display=row.display,
                order_key=row.order_key,
                reps=row.reps,
                to_verify=row.doubt if doubted else None,
                rounds=Rounds.model_validate(row.rounds) if row.rounds else None,
                team=team,
            )
        )
    return out
