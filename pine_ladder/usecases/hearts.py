"""Heart-rate straps: who wears which, and what is kept of a piece."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import delete, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from pine_ladder.store.floor.hearts import Seconds, strap_of
from pine_ladder.store.models import (
    HeartRow,
    Person,
    Strap,
)


class StrapTaken(Exception):
    """Somebody else wears this strap."""


def give_strap(db: Session, person_id: int, number: int | None) -> None:
    """Somebody wears this strap from now on, or none. Raises StrapTaken while another does."""
    if strap_of(db, person_id) == number:
        return
    try:
        with db.begin_nested():
            # Who is no longer a member wears nothing.
            left = select(Person.id).where(~Person.active)
            freed = (Strap.number == number) & Strap.person_id.in_(left)
            db.execute(delete(Strap).where((Strap.person_id == person_id) | freed))
            if number is not None:
                db.add(Strap(number=number, person_id=person_id))
                db.flush()
    except IntegrityError:
        raise StrapTaken from None


def add_seconds(db: Session, counted: Mapping[tuple[int, int], Seconds]) -> None:
    """Add seconds to what is kept, by person and piece; one that is gone by now is passed over."""
    for (person, piece), more in sorted(counted.items()):
        try:
            with db.begin_nested():
                row = db.get(HeartRow, (person, piece), with_for_update=True)
                if row is None:
                    row = HeartRow(person_id=person, piece_id=piece, seconds={})
                    db.add(row)
                sums = dict(row.seconds)
                for bpm, length in more.items():
                    sums[str(bpm)] = sums.get(str(bpm), 0) + length
                row.seconds = sums
                db.flush()
        except IntegrityError:
            continue


def forget_hearts(db: Session, person_id: int) -> None:
    """Forget what is kept of somebody's heart."""
    db.execute(delete(HeartRow).where(HeartRow.person_id == person_id))
