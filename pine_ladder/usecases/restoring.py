"""Bringing a gym back from its backup."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from sqlalchemy.orm import Session

from pine_ladder.store.backup import About, put_in_place
from pine_ladder.store.database import connect
from pine_ladder.store.erased import erased_since
from pine_ladder.usecases.erasing import erase_again
from pine_ladder.usecases.upgrade import upgrade


class Restored(NamedTuple):
    """A gym that was brought back, and how many people were erased again."""

    about: About
    erased: int


def restore(url: str, file: Path, replace: bool = False, backups: Path | None = None) -> Restored:
    """Put a backup in place of what the database holds; all of it or nothing. Whom the gym has
    erased since, by the list beside its `backups`, is erased again.

    Raises BackupError, and then leaves everything as it was: for a damaged file, a schema newer
    than this program's, or a gym that is there already unless it may be replaced.
    """
    about = put_in_place(url, file, replace, upgrade)
    gone = erased_since(backups, about.gym, about.made_at) if backups is not None else []
    erased = 0
    if gone:
        engine = connect(url, patient=True)
        with Session(engine) as db, db.begin():
            erased = erase_again(db, gone)
        engine.dispose()
    return Restored(about, erased)
