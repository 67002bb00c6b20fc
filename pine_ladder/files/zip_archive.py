"""A week of boards as one zip of text files."""

from __future__ import annotations

import datetime as dt
import io
import re
import zipfile
from collections.abc import Mapping


def board_name(date: dt.date) -> str:
    """The file name of a day's board."""
    return f"{date.isoformat()}.board"


def folder_name(programme: str, number: int) -> str:
    """The folder of a programme's boards: its place and its name, fit for any file system."""
    plain = re.sub(r"[^a-z0-9]+", "-", programme.lower()).strip("-")
    return f"{number}-{plain}" if plain else str(number)


def zip_boards(boards: Mapping[dt.date, str]) -> bytes:
    """One `.board` file a day."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for date, text in sorted(boards.items()):
            archive.writestr(board_name(date), text)
    return buffer.getvalue()
