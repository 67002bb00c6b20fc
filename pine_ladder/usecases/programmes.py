"""Programmes added, renamed, removed and followed."""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session

from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.programmes import MOST, programmes_of
from pine_ladder.store.models import (
    ClassPlan,
    ClassTime,
    Day,
    Follow,
    Person,
    Programme,
    ScoreRow,
    SignUp,
)


class StillUsed(Exception):
    """The programme has boards, scores or people who signed up: it cannot go."""


def name_of(db: Session, said: str, own: int | None = None) -> str:
    """The name of a programme as it is to be kept; ValueError where it cannot be.

    `own` is the programme that is being renamed.
    """
    name = " ".join(said.split())
    if not name:
        raise ValueError("a programme has a name")
    if len(name) > Programme.name.type.length:
        raise ValueError(f"{name[:20]}… is too long for a name")
    same = select(Programme.id).where(func.lower(Programme.name) == name.lower())
    if db.scalar(same.where(Programme.id != (own or 0))) is not None:
        raise ValueError(f"there is a programme {name} already")
    return name


def add_programme(db: Session, said: str) -> Programme:
    """A new programme after the others; ValueError for its name, or for one too many."""
    if len(programmes_of(db)) >= MOST:
        raise ValueError(f"a gym has {MOST} programmes at most")
    made = Programme(name=name_of(db, said))
    db.add(made)
    db.flush()
    tell(db, what="again")
    return made


def rename_programme(db: Session, programme: Programme, said: str) -> None:
    """Give a programme another name; ValueError where it cannot have it."""
    programme.name = name_of(db, said, programme.id)
    db.flush()
    tell(db, what="again")


def remove_programme(db: Session, programme: Programme) -> None:
    """Take away a programme that holds nothing; raises StillUsed for any other, and the first."""
    first = programmes_of(db)[0]
    own = (
        select(Day.id).where(Day.programme_id == programme.id, Day.text != "").limit(1),
        select(ScoreRow.id).join(Day).where(Day.programme_id == programme.id).limit(1),
        select(SignUp.id).where(SignUp.programme_id == programme.id).limit(1),
    )
    if programme.id == first.id or any(db.scalar(query) is not None for query in own):
        raise StillUsed
    for table in (ClassTime, ClassPlan, Day):
        db.execute(delete(table).where(table.programme_id == programme.id))
    db.delete(programme)
    db.flush()
    tell(db, what="again")


def follow(db: Session, person: Person, programmes: Iterable[int]) -> None:
    """Have somebody follow these; ValueError for none, or for one that there is not."""
    wanted = set(programmes)
    known = {one.id for one in programmes_of(db)}
    if not wanted:
        raise ValueError("everybody follows a programme")
    if not wanted <= known:
        raise ValueError("that is no programme of this gym")
    db.execute(delete(Follow).where(Follow.person_id == person.id))
    db.add_all(Follow(person_id=person.id, programme_id=one) for one in sorted(wanted))
    db.flush()
