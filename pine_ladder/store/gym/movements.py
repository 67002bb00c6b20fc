"""The gym's movements: the library that ships, with those the gym wrote itself."""

from __future__ import annotations

from functools import lru_cache

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library, OwnMovement, library
from pine_ladder.store.models import Learning, OwnMovementRow, Person


@lru_cache(maxsize=8)
def _with(own: tuple[OwnMovement, ...], factors: tuple[tuple[str, float], ...] = ()) -> Library:
    if factors:
        base = _with(own)
        found = ((base.find(name), factor) for name, factor in factors)
        return base.with_seconds({m.name: m.seconds * f for m, f in found if m is not None})
    return library().with_own(own) if own else library()


def own_movements(db: Session) -> tuple[OwnMovement, ...]:
    """The gym's own movements in the order they were first written."""
    rows = db.scalars(select(OwnMovementRow).order_by(OwnMovementRow.id))
    return tuple(OwnMovement.model_validate(row.record) for row in rows)


def gym_library(db: Session, learnt: bool = True) -> Library:
    """The library as this gym has it; `learnt` with the seconds its scores speak for."""
    newest = db.scalars(select(Learning.medians).order_by(Learning.id.desc()).limit(1)).first()
    factors = tuple(sorted(newest.items())) if learnt and newest else ()
    return _with(own_movements(db), factors)


def _row(db: Session, name: str) -> OwnMovementRow | None:
    return db.scalars(select(OwnMovementRow).where(OwnMovementRow.name == name)).one_or_none()


def keep_movement(db: Session, own: OwnMovement, by: Person) -> Library:
    """Keep a movement; raises ValueError, in a sentence, where it clashes with another."""
    others = [one for one in own_movements(db) if one.movement.name != own.movement.name]
    made = _with((*others, own))
    row = _row(db, own.movement.name)
    if row is None:
        row = OwnMovementRow(name=own.movement.name)
        db.add(row)
    row.record, row.saved_by_id = own.model_dump(mode="json"), by.id
    db.flush()
    return made


def drop_movement(db: Session, name: str) -> bool:
    """Forget the gym's own movement of that name; False when it has none."""
    row = _row(db, name)
    if row is not None:
        db.delete(row)
        db.flush()
    return row is not None
