"""Bringing a gym's database to this program: its tables first, then its boards."""

from __future__ import annotations

from sqlalchemy.orm import Session

from pine_ladder.store.database import connect, migrate
from pine_ladder.usecases.reread_boards import Reread, reread_boards


def upgrade(url: str) -> list[Reread]:
    """Migrate the tables of a database and read its boards with this program's reader.

    Returns the days that read otherwise than before. Safe to repeat.
    """
    migrate(url)
    engine = connect(url, patient=True)
    try:
        with Session(engine) as db, db.begin():
            return reread_boards(db)
    finally:
        engine.dispose()
