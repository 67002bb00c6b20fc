"""A week of boards as one zip of text files."""

from __future__ import annotations

import datetime as dt
import io
import zipfile
from collections.abc import Mapping


def board_name(date: dt.date) -> str:
    """The file name of a day's board."""
    return f"{date.isoformat()}.board"


def zip_boards(boards: Mapping[dt.date, str]) -> bytes:
    """One `.board` file a day."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for date, text in sorted(boards.items()):
            archive.writestr(board_name(date), text)
    return buffer.getvalue()
