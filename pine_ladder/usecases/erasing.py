"""Somebody erased: what goes, and what stays of others."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path
from typing import Any, NamedTuple

from sqlalchemy import (
    JSON,
    ColumnElement,
    String,
    Text,
    cast,
    delete,
    event,
    func,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from pine_ladder.store.erased import note_erased
from pine_ladder.store.gym.calendar import stamped_now
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    Base,
    ClockStep,
    Day,
    EffortRow,
    FailedSignIn,
    GroupsRow,
    GymClass,
    Jot,
    OverrideRow,
    OwnMovementRow,
    Person,
    ProfileRow,
    ScoreRow,
    ScoreTrail,
)
from pine_ladder.usecases.signing_in import deactivate

BOARDS = ("day", "piece", "banked_board", "kept_piece", "own_movement")
"""Tables of boards and movements, whose words are seldom people."""


class Going(NamedTuple):
    """What goes with somebody: how many scores, classes, notes of rounds and of effort."""

    scores: int
    classes: int
    rounds: int
    efforts: int
    profile: bool


def going(db: Session, person: Person) -> Going:
    """What erasing somebody would take along."""

    def count(table: Any) -> int:
        query = select(func.count()).select_from(table).where(table.person_id == person.id)
        return db.scalar(query) or 0

    return Going(
        scores=count(ScoreRow),
        classes=count(Attendance),
        rounds=count(Jot),
        efforts=count(EffortRow),
        profile=count(ProfileRow) > 0,
    )


FORMER = "a former member"


def _forget_name(db: Session, person: Person) -> None:
    """Take somebody's name and address out of whatever others wrote: letters, notes, words.

    A name of one word is left in boards, where it may be any word.
    """
    for words in filter(None, (person.name, person.email)):
        pattern = rf"\m{re.escape(words)}\M"
        single = " " not in words and "@" not in words
        for table in Base.metadata.sorted_tables:
            if table.name == "person" or (single and table.name in BOARDS):
                continue
            for column in table.columns:
                if column.primary_key or column.foreign_keys:
                    continue
                if isinstance(column.type, String):
                    new: ColumnElement[Any] = func.regexp_replace(column, pattern, FORMER, "gi")
                    db.execute(update(table).where(column.op("~*")(pattern)).values({column: new}))
                elif isinstance(column.type, JSON):
                    as_text = cast(column, Text)
                    new = cast(func.regexp_replace(as_text, pattern, FORMER, "gi"), JSONB)
                    db.execute(update(table).where(as_text.op("~*")(pattern)).values({column: new}))


def remember_erased(db: Session, folder: Path | None, person_id: int) -> None:
    """Note beside the backups, once this transaction is kept, that somebody was erased."""
    if folder is None:
        return
    gym, at = gym_of(db).row.name, stamped_now(db)
    event.listen(db, "after_commit", lambda _: note_erased(folder, gym, person_id, at), once=True)


def erase_again(db: Session, ids: Iterable[int]) -> int:
    """Erase people whom a restored backup has brought back; how many there were."""
    by = db.scalar(select(Person).where(Person.role == "coach").order_by(Person.id).limit(1))
    if by is None:
        return 0
    back = [person for number in ids if (person := db.get(Person, number)) is not None]
    others = [person for person in back if person.id != by.id]
    for person in others:
        erase(db, person, by)
    return len(others)


def erase(db: Session, person: Person, by: Person) -> None:
    """Forget somebody for good: scores, their trail, notes and profile.

    What they saved as a coach stays without their name; rounds they noted of others are `by`'s.
    Team mates keep their scores, and the team has one name less.
    """
    deactivate(db, person)
    for table, column in (
        (ProfileRow, "saved_by_id"),
        (OverrideRow, "saved_by_id"),
        (Day, "saved_by_id"),
        (OwnMovementRow, "saved_by_id"),
        (GymClass, "coach_id"),
        (ScoreTrail, "changed_by_id"),
        (ClockStep, "by_id"),
    ):
        of = getattr(table, column) == person.id
        db.execute(update(table).where(of).values({column: None}))
    db.execute(delete(Jot).where(Jot.person_id == person.id))
    # A key is of the device that noted: two people's may be the same, one of them is marked.
    db.execute(
        text(
            "update jot set by_id = :by, key = left(key, 60) || '/' || cast(:gone as text) "
            "where by_id = :gone"
        ),
        {"by": by.id, "gone": person.id},
    )
    for row in db.scalars(select(ScoreRow).where(ScoreRow.team.contains([person.id]))).unique():
        row.team = [one for one in row.team or [] if one != person.id]
    for groups in db.scalars(select(GroupsRow)):
        if any(person.id in group for group in groups.groups):
            left = [[one for one in group if one != person.id] for group in groups.groups]
            groups.groups = [group for group in left if group]
            groups.version += 1
    addresses = [f"password of {person.id}", *([person.email.lower()] if person.email else [])]
    db.execute(delete(FailedSignIn).where(FailedSignIn.email.in_(addresses)))
    db.flush()
    _forget_name(db, person)
    db.expunge(person)
    db.execute(delete(Person).where(Person.id == person.id))
    db.expire_all()
