"""The night watch: one thread a process that makes the backup a gym asks for."""

from __future__ import annotations

import os
from pathlib import Path

from sqlalchemy import Engine

from pine_ladder.jobs import Loop
from pine_ladder.store.backups import make_tonights

BACKUPS = "PINE_LADDER_BACKUPS"
"""The folder nightly backups go to; without it none are made."""

ROUND_S = 300.0


def folder_said() -> Path | None:
    """The folder of the environment."""
    said = os.environ.get(BACKUPS, "")
    return Path(said).resolve() if said else None


class NightWatch:
    """Looks every few minutes whether a backup is due. What fails is tried again at the next look,
    and told by the backups there are.
    """

    def __init__(self, engine: Engine, folder: Path | None) -> None:
        self.engine, self.folder = engine, folder
        self.loop = Loop("backup", self.look, ROUND_S)

    def start(self) -> None:
        """Begin to look, where there is a folder."""
        if self.folder is not None:
            self.loop.start()

    def stop(self) -> None:
        """Look no more; a backup in hand is not waited for and leaves nothing half."""
        self.loop.stop(1)

    def look(self) -> Path | None:
        """Make the backup that is due; the file, or None where none was due. BackupError,
        SQLAlchemyError or OSError where none could be made.
        """
        assert self.folder is not None
        return make_tonights(self.engine, self.folder)
