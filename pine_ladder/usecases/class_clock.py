"""The class's clock: presses kept, undone, done again."""

from __future__ import annotations

from sqlalchemy import delete, func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core.floor.remote import Running
from pine_ladder.store.floor.clock import MOST_STEPS, Stood, first_undone, stands, tell
from pine_ladder.store.models import ClockStep, Person


class OutOfStep(Exception):
    """Someone pressed in between; holds where the clock stands now."""

    def __init__(self, now: Stood | None) -> None:
        super().__init__("someone else pressed in the meantime")
        self.now = now


def lock(db: Session, class_id: int, after: int | None) -> Stood | None:
    """One presser at a time; raises OutOfStep when the clock is not at the step that was seen."""
    key = f"clock/{class_id}"
    db.execute(text("select pg_advisory_xact_lock(hashtextextended(:key, 0))"), {"key": key})
    now = stands(db, class_id)
    if after is not None and (now.step if now else 0) != after:
        raise OutOfStep(now)
    return now


def keep(
    db: Session,
    class_id: int,
    press: str,
    state: Running,
    by: Person | None,
    at: float | None = None,
) -> Stood:
    """Keep the state after a press and tell every process; what was undone before is gone.

    `at` is the moment the press counts from, in seconds since the epoch; None is now.
    """
    db.execute(delete(ClockStep).where(ClockStep.class_id == class_id, ClockStep.undone))
    row = ClockStep(
        class_id=class_id,
        press=press,
        state=state.model_dump(mode="json"),
        by_id=by.id if by else None,
        made_at=func.clock_timestamp() if at is None else func.to_timestamp(at),
    )
    db.add(row)
    db.flush()
    old = select(ClockStep.id).where(ClockStep.class_id == class_id)
    for each in db.scalars(old.order_by(ClockStep.id.desc()).offset(MOST_STEPS)).all():
        db.delete(db.get_one(ClockStep, each))
    tell(db, what="clock", class_id=class_id)
    return Stood(row.id, press, state)


def undo(db: Session, class_id: int) -> Stood | None:
    """Take the newest press back, unless it is the only one; where the clock stands then."""
    query = select(ClockStep).where(ClockStep.class_id == class_id, ~ClockStep.undone)
    rows = list(db.scalars(query.order_by(ClockStep.id.desc()).limit(2)))
    if len(rows) == 2:
        rows[0].undone = True
        db.flush()
        tell(db, what="clock", class_id=class_id)
    return stands(db, class_id)


def redo(db: Session, class_id: int) -> Stood | None:
    """Bring the press back that was undone last; where the clock stands then."""
    row = first_undone(db, class_id)
    if row is not None:
        row.undone = False
        db.flush()
        tell(db, what="clock", class_id=class_id)
    return stands(db, class_id)
