"""The gym's kit: how many it has of what."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import Kit


def kit_of(db: Session) -> dict[str, int]:
    """How many there are of each implement, by name in order."""
    return {kit.name: kit.count for kit in db.scalars(select(Kit).order_by(Kit.name))}


def keep_kit(db: Session, wanted: Mapping[str, int]) -> None:
    """Have the gym own what is wanted, and nothing else."""
    db.execute(delete(Kit).where(Kit.name.not_in(wanted)))
    owned = {kit.name: kit for kit in db.scalars(select(Kit))}
    for name, count in wanted.items():
        if name in owned:
            owned[name].count = count
        else:
            db.add(Kit(name=name, count=count))
    db.flush()
