"""Tables as CSV (RFC 4180, UTF-8) that spreadsheets take for text and never for formulas.

A cell that begins with a mark of a formula, or with an apostrophe, is written with an apostrophe
before it, which reading takes away again: what goes out comes back in to the letter.
"""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Iterable, Mapping, Sequence

MARKS = ("=", "+", "-", "@", "\t", "\r", "'", "＝", "＋", "－", "＠")
"""What spreadsheets begin a formula with (OWASP, CSV injection; from memory), and the guard."""
_AFTER_SEMICOLON = re.compile(r"(;\s*)(?=[=+\-@'＝＋－＠])")
_GUARDED_AFTER = re.compile(r"(;\s*)'(?=[=+\-@'＝＋－＠])")


def guarded(cell: str) -> str:
    """A cell as it is written, so that no spreadsheet takes it or a part of it for a formula.

    Where a list is parted by semicolons a spreadsheet may begin a cell after one.

    >>> guarded("=1+1"), guarded("5+12"), guarded("a;=1+1")
    ("'=1+1", '5+12', "a;'=1+1")
    """
    inner = _AFTER_SEMICOLON.sub(r"\1'", cell)
    return f"'{inner}" if inner.startswith(MARKS) else inner


def plain(cell: str) -> str:
    """A cell as it was before it was guarded."""
    outer = cell[1:] if cell.startswith("'") and cell[1:].startswith(MARKS) else cell
    return _GUARDED_AFTER.sub(r"\1", outer)


def write_csv(heads: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A table with its heads in the first row; lines end in CR LF, None is an empty cell."""
    out = io.StringIO()
    plainly = csv.writer(out, lineterminator="\r\n")
    quoted = csv.writer(out, lineterminator="\r\n", quoting=csv.QUOTE_ALL)
    plainly.writerow(heads)
    for row in rows:
        cells = ["" if cell is None else guarded(str(cell)) for cell in row]
        # Quotes keep a semicolon, or a guarded sign, inside its cell.
        risky = any(";" in cell or cell.startswith("'") for cell in cells)
        (quoted if risky else plainly).writerow(cells)
    return out.getvalue()


def read_csv(text: str) -> tuple[list[str], list[tuple[int, list[str]]]]:
    """The heads of a table, in small letters, and its rows, each with the line it begins on.

    Commas, semicolons or tabs part cells, whichever the first line has most of. ValueError for a
    table without heads, and for one that is no CSV.
    """
    try:
        return _read_csv(text)
    except csv.Error as error:
        raise ValueError(f"The table cannot be read as CSV: {error}.") from None


def _read_csv(text: str) -> tuple[list[str], list[tuple[int, list[str]]]]:
    text = text.removeprefix("\ufeff")
    first = text.lstrip("\r\n").split("\n", 1)[0]
    mark = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark)
    heads: list[str] = []
    rows = []
    begins = 1
    for row in reader:
        if any(cell.strip() for cell in row):
            if not heads:
                heads = [" ".join(cell.lower().split()) for cell in row]
            else:
                rows.append((begins, [plain(cell) for cell in row]))
        begins = reader.line_num + 1
    if not heads:
        raise ValueError("the table is empty: its first row names the columns")
    return heads, rows


def zip_files(files: Mapping[str, str | bytes]) -> bytes:
    """Files by their names as one zip."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in sorted(files.items()):
            archive.writestr(name, content)
    return buffer.getvalue()
