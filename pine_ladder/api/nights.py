"""The night watch: one thread a process that makes the backup a gym asks for."""

from __future__ import annotations

import logging
import os
import threading
from pathlib import Path

from sqlalchemy import Engine
from sqlalchemy.exc import SQLAlchemyError

from pine_ladder.store.backup import BackupError
from pine_ladder.store.nights import make_tonights

log = logging.getLogger("pine_ladder")

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
        self._over = threading.Event()
        self._thread: threading.Thread | None = None

    def start(self) -> None:
        """Begin to look, where there is a folder."""
        if self.folder is not None:
            self._thread = threading.Thread(target=self._rounds, daemon=True, name="night watch")
            self._thread.start()

    def stop(self) -> None:
        """Look no more; a backup in hand is not waited for and leaves nothing half."""
        self._over.set()
        if self._thread is not None:
            self._thread.join(1)

    def _rounds(self) -> None:
        while not self._over.is_set():
            self.look()
            self._over.wait(ROUND_S)

    def look(self) -> Path | None:
        """Make what is due; the file, or None where none was due or none could be made."""
        assert self.folder is not None
        try:
            return make_tonights(self.engine, self.folder)
        except (BackupError, SQLAlchemyError, OSError) as error:
            log.warning("no nightly backup: %s", str(error).splitlines()[0][:300])
            return None
