"""Keeping scores: each write once, none over another that was not seen."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable
from typing import Any, NamedTuple

from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.scores.kinds import Score
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.store.days.pieces import id_of
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.models import (
    Day,
    Person,
    RequestRow,
    ScoreRow,
    ScoreTrail,
    Tier,
    Track,
)
from pine_ladder.usecases.piece_matching import fill


class StaleScore(Exception):
    """Someone else has saved this score since it was read; holds the newer one, if any."""

    def __init__(self, newer: ScoreRow | None) -> None:
        super().__init__("saved by someone else in the meantime")
        self.newer = newer


class KeyTaken(Exception):
    """The request key has been used by the same person for another write."""


class Write(NamedTuple):
    """One write of a score: `version` as read (0 for none), `request_key` once per intent.

    A request key belongs to who sends it, and to this cell and content. `source` is told where
    the score comes from the floor.
    """

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
    source: str = ""

    @property
    def piece_id(self) -> int:
        """The identity of the piece."""
        return id_of(self.piece_key)

    @property
    def digest(self) -> str:
        """The content of the write, as its request key stands for it."""
        content = [self.entered.strip(), self.tier.position, self.track.position, self.version]
        return hashlib.sha256(json.dumps(content).encode()).hexdigest()


def lock_piece(db: Session, key: str) -> None:
    """No other writer on a piece until the transaction ends: before many cells are written."""
    lock = {"lock": f"piece/{key}"}
    db.execute(text("select pg_advisory_xact_lock(hashtextextended(:lock, 0))"), lock)


def lock_cell(db: Session, write: Write) -> None:
    """One writer a cell at a time, or a piece where teams share, so that writes meet in order."""
    where = "" if write.team else f"/{write.person.id}"
    for lock in dict.fromkeys((f"piece/{write.piece_key}", f"cell/{write.piece_key}{where}")):
        shared = lock.startswith("piece") and not write.team
        take = "pg_advisory_xact_lock_shared" if shared else "pg_advisory_xact_lock"
        db.execute(text(f"select {take}(hashtextextended(:lock, 0))"), {"lock": lock})


def landed(db: Session, write: Write) -> bool:
    """Whether this very write has landed before, by its request key.

    Raises KeyTaken when the sender used the key for something else.
    """
    if not write.request_key:
        return False
    done = db.get(RequestRow, (write.by.id, write.request_key))
    if done is None:
        return False
    if (done.piece_id, done.person_id, done.digest) != (
        write.piece_id,
        write.person.id,
        write.digest,
    ):
        raise KeyTaken
    return True


def save_score(db: Session, day: Day, piece: plan.Piece, write: Write) -> tuple[ScoreRow, Score]:
    """Save an accepted score.

    Raises StaleScore when the score is no longer at `version`; ValueError when it is refused.
    """
    lock_cell(db, write)
    score = read_score(write.entered, piece, write.tier.position, write.track.position)
    if score.problems:
        raise ValueError(score.problems[0])
    row = cell_of(db, write)
    if (row.version if row else 0) != write.version:
        raise StaleScore(row)
    before = _snapshot(row) if row else None
    if row is None:
        row = ScoreRow(day_id=day.id, piece_id=write.piece_id, person=write.person)
        row.version = _version_after(db, write)
        db.add(row)
    else:
        row.version += 1
    row.tier, row.track, row.entered = write.tier, write.track, write.entered.strip()
    fill(row, score)
    row.source = write.source
    row.doubt, row.standing = write.doubt, "doubted" if write.doubt else "fine"
    row.team = list(write.team) or None
    row.saved_at = func.now()
    db.flush()
    _trail(db, day, write, before, _snapshot(row))
    _note_landed(db, write)
    tell(db, what="score", date=day.date.isoformat(), piece=write.piece_key)
    return row, score


def clear_score(db: Session, day: Day, write: Write) -> None:
    """Take a score back; raises StaleScore when it is no longer at the version read."""
    lock_cell(db, write)
    row = cell_of(db, write)
    if row is None:
        return
    if row.version != write.version:
        raise StaleScore(row)
    _trail(db, day, write, _snapshot(row), None)
    _note_landed(db, write)
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
        row = cell_of(db, theirs)
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
    db: Session, day: Day, row: ScoreRow, version: int, by: Person, standing: str, note: str = ""
) -> ScoreRow:
    """Verify a doubted score, ask the athlete about it, or keep the athlete's answer; on the trail.

    Raises StaleScore when it is no longer in doubt, or no longer at the version that was seen.
    """
    db.refresh(row, with_for_update={"of": ScoreRow})
    if row.standing not in ("doubted", "asked", "answered") or row.version != version:
        raise StaleScore(row)
    before = _snapshot(row)
    row.standing = standing
    row.version += 1
    db.add(
        ScoreTrail(
            day_id=day.id,
            piece_id=row.piece_id,
            person_id=row.person_id,
            changed_by_id=by.id,
            before=before,
            after={**_snapshot(row), "note": note},
        )
    )
    db.flush()
    tell(db, what="score", date=day.date.isoformat(), piece=str(row.piece_id))
    return row


def _snapshot(row: ScoreRow) -> dict[str, Any]:
    return {
        "entered": row.entered,
        "display": row.display,
        "standing": row.standing,
        "tier_id": row.tier_id,
        "track_id": row.track_id,
        "version": row.version,
    }


def _note_landed(db: Session, write: Write) -> None:
    if write.request_key:
        db.add(
            RequestRow(
                by_id=write.by.id,
                key=write.request_key,
                piece_id=write.piece_id,
                person_id=write.person.id,
                digest=write.digest,
            )
        )


def _version_after(db: Session, write: Write) -> int:
    """The version a first score of a cell gets: one past any the cell ever had."""
    numbers = [column["version"].as_integer() for column in (ScoreTrail.before, ScoreTrail.after)]
    query = select(func.max(func.greatest(*numbers))).where(
        ScoreTrail.piece_id == write.piece_id, ScoreTrail.person_id == write.person.id
    )
    return (db.scalar(query) or 0) + 1


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
            piece_id=write.piece_id,
            person_id=write.person.id,
            changed_by_id=write.by.id,
            before=before,
            after=after,
        )
    )
    db.flush()


def cell_of(db: Session, write: Write) -> ScoreRow | None:
    """The score that stands in a cell, locked until the transaction ends."""
    query = (
        select(ScoreRow)
        .where(ScoreRow.piece_id == write.piece_id, ScoreRow.person_id == write.person.id)
        .with_for_update(of=ScoreRow)
        .execution_options(populate_existing=True)
    )
    return db.scalars(query).unique().one_or_none()
