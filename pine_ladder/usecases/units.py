"""The gym's unit of weight. A change of it leaves every board what it was."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.weights import with_units
from pine_ladder.core.units import WeightUnit
from pine_ladder.store.catalogue.movements import UNIT
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import BankedBoard, Day, Gym, KeptPiece, PieceRow

Written = type[Day] | type[BankedBoard] | type[KeptPiece] | type[PieceRow]


def unit_of(gym: Gym) -> WeightUnit:
    """What a load is in at this gym where nothing else is written."""
    return "lb" if gym.settings.get(UNIT) == "lb" else "kg"


def _bare(
    db: Session, shelf: Library, what: Written
) -> Iterator[tuple[Day | BankedBoard | KeptPiece | PieceRow, str]]:
    """Rows with loads that have no unit, and their text with it written out."""
    rows: Any = db.scalars(select(what).order_by(what.id)).unique()
    for row in rows:
        told = with_units(row.text, shelf)
        if told != row.text:
            yield row, told


def boards_without_unit(db: Session) -> int:
    """How many days and kept boards or pieces hold a load that has no unit."""
    shelf = gym_of(db).movements_as_written
    return sum(1 for what in (Day, BankedBoard, KeptPiece) for _ in _bare(db, shelf, what))


def change_unit(db: Session, gym: Gym, unit: WeightUnit) -> None:
    """Have loads without a unit mean another one from now on.

    Every load that is kept without one gets the unit it had, so that no board changes what it
    says. Days so written are at a new version, as after any save.
    """
    if unit == unit_of(gym):
        return
    shelf = gym_of(db).movements_as_written
    for what in (Day, BankedBoard, KeptPiece, PieceRow):
        for row, told in list(_bare(db, shelf, what)):
            row.text = told
            if isinstance(row, Day):
                row.version += 1
                tell(db, what="day", date=row.date.isoformat())
    gym.settings = {**gym.settings, UNIT: unit}
    db.flush()
