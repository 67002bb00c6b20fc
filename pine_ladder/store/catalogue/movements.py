"""The gym's movements: the library that ships, with those the gym wrote itself."""

from __future__ import annotations

from functools import lru_cache

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library, OwnMovement, library
from pine_ladder.core.units import WeightUnit
from pine_ladder.store.models import Gym, Learning, OwnMovementRow, Person

UNIT = "unit"
"""The setting of what a load is in where no unit is written."""


@lru_cache(maxsize=8)
def _with(
    own: tuple[OwnMovement, ...],
    factors: tuple[tuple[str, float], ...],
    unit: WeightUnit,
    width: float = 1.0,
) -> Library:
    if width != library().width:
        return _with(own, factors, unit).of_width(width)
    if factors:
        base = _with(own, (), unit)
        found = ((base.find(name), factor) for name, factor in factors)
        return base.with_seconds({m.name: m.seconds * f for m, f in found if m is not None})
    if unit != library().unit:
        return _with(own, (), library().unit).in_unit(unit)
    return library().with_own(own) if own else library()


def own_movements(db: Session) -> tuple[OwnMovement, ...]:
    """The gym's own movements in the order they were first written."""
    rows = db.scalars(select(OwnMovementRow).order_by(OwnMovementRow.id))
    return tuple(OwnMovement.model_validate(row.record) for row in rows)


def read_library(db: Session, learnt: bool = True) -> Library:
    """The library as this gym has it; `learnt` with the seconds its scores speak for."""
    last = select(Learning).order_by(Learning.id.desc()).limit(1).subquery()
    newest = select(last.c.medians).scalar_subquery()
    width = select(last.c.report["width"].as_float()).scalar_subquery()
    unit = select(Gym.settings[UNIT].as_string()).limit(1).scalar_subquery()
    medians, apart, said = db.execute(select(newest, width, unit)).one()
    factors = tuple(sorted(medians.items())) if learnt and medians else ()
    wide = apart if learnt and apart else 1.0
    return _with(own_movements(db), factors, "lb" if said == "lb" else "kg", wide)


def keep_movement(db: Session, own: OwnMovement, by: Person) -> Library:
    """Keep a movement; raises ValueError, in a sentence, where it clashes with another."""
    others = [one for one in own_movements(db) if one.movement.name != own.movement.name]
    made = _with((*others, own), (), "kg")
    values = {"record": own.model_dump(mode="json"), "saved_by_id": by.id, "saved_at": func.now()}
    row = insert(OwnMovementRow).values(name=own.movement.name, **values)
    db.execute(row.on_conflict_do_update(index_elements=["name"], set_=values))
    return made


def drop_movement(db: Session, name: str) -> bool:
    """Forget the gym's own movement of that name; False when it has none."""
    gone = delete(OwnMovementRow).where(OwnMovementRow.name == name).returning(OwnMovementRow.id)
    return db.execute(gone).first() is not None
