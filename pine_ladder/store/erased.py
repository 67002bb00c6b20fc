"""People erased for good, by number alone: a list beside the backups, for the next restore.

A backup holds people whom the gym erased after it was made. The list says which of them to erase
again; it has a line for each, with the moment, and the name of the gym at its head.
"""

from __future__ import annotations

import datetime as dt
import os
from pathlib import Path

FILE = "erased"


def note_erased(folder: Path, gym: str, person_id: int, at: dt.datetime) -> None:
    """Add somebody to the list; a list of another gym is put aside. Only its owner can read it."""
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / FILE
    if file.exists() and _head(file) != gym:
        file.replace(folder / f"{FILE}-before-{at:%Y-%m-%d}")
    handle = os.open(file, os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600)
    with os.fdopen(handle, "a", encoding="utf-8") as out:
        if out.tell() == 0:
            out.write(f"{gym}\n")
        out.write(f"{at.isoformat()} {person_id}\n")


def erased_since(folder: Path, gym: str, moment: dt.datetime) -> list[int]:
    """The ids of those whom a gym erased after a moment; empty for another gym's list."""
    file = folder / FILE
    if not file.exists() or _head(file) != gym:
        return []
    found = []
    for line in file.read_text(encoding="utf-8").splitlines()[1:]:
        at, _, number = line.partition(" ")
        if number.isdigit() and dt.datetime.fromisoformat(at) > moment:
            found.append(int(number))
    return list(dict.fromkeys(found))


def _head(file: Path) -> str:
    with file.open(encoding="utf-8") as held:
        return held.readline().rstrip("\n")
