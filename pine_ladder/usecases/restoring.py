"""Bringing a gym back from its backup."""

from __future__ import annotations

from pathlib import Path

from pine_ladder.store.backup import About, put_in_place
from pine_ladder.usecases.upgrade import upgrade


def restore(url: str, file: Path, replace: bool = False) -> About:
    """Put a backup in place of what the database holds; all of it or nothing.

    Raises BackupError, and then leaves everything as it was: for a damaged file, a schema newer
    than this program's, or a gym that is there already unless it may be replaced.
    """
    return put_in_place(url, file, replace, upgrade)
