"""Messages of a coach to everybody of a day, or to one of its classes."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.store.floor.clock import tell
from pine_ladder.store.models import Day, GymClass, Person, Word


def say(db: Session, day: Day, class_: GymClass | None, text: str, key: str, by: Person) -> None:
    """Show a word on the phones of a class, or of a day; the same key is the same word."""
    said = insert(Word).values(
        day_id=day.id, class_id=class_.id if class_ else None, text=text, key=key, by_id=by.id
    )
    db.execute(said.on_conflict_do_nothing(index_elements=["day_id", "key"]))
    tell(db, what="day", date=day.date.isoformat())


def said_on(db: Session, day: Day) -> list[tuple[Word, GymClass | None]]:
    """Return the messages of a day with the class each was sent to, newest first."""
    query = select(Word, GymClass).outerjoin(GymClass, GymClass.id == Word.class_id)
    found = db.execute(query.where(Word.day_id == day.id).order_by(Word.id.desc())).unique()
    return [(word, held) for word, held in found]
