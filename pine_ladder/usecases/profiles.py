"""Save an athlete's profile and the coach's choices for them."""

from __future__ import annotations

from sqlalchemy import delete, func
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.members import Profile
from pine_ladder.store.models import OverrideRow, Person, ProfileRow


class StaleProfile(Exception):
    """The profile has been saved by someone else since it was read."""


def save_profile(db: Session, person_id: int, profile: Profile, version: int, by: Person) -> int:
    """Keep a profile over the version that was read; raises StaleProfile."""
    values = {
        "record": profile.model_dump(mode="json"),
        "version": version + 1,
        "saved_by_id": by.id,
        "saved_at": func.now(),
    }
    made = insert(ProfileRow).values(person_id=person_id, **values)
    if version:
        keep = made.on_conflict_do_update(
            index_elements=["person_id"], set_=values, where=ProfileRow.version == version
        )
    else:
        keep = made.on_conflict_do_nothing()
    if db.execute(keep.returning(ProfileRow.version)).first() is None:
        raise StaleProfile
    return version + 1


def set_override(db: Session, person_id: int, movement: str, text: str, by: Person) -> None:
    """Remember a coach's own version of a movement; an empty text forgets it."""
    if not text:
        db.execute(
            delete(OverrideRow).where(
                OverrideRow.person_id == person_id, OverrideRow.movement == movement
            )
        )
        return
    values = {"text": text, "saved_by_id": by.id, "saved_at": func.now()}
    made = insert(OverrideRow).values(person_id=person_id, movement=movement, **values)
    db.execute(made.on_conflict_do_update(index_elements=["person_id", "movement"], set_=values))
