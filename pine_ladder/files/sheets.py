"""Tables out of files as people have them: CSV of any delimiter, quote and encoding, and XLSX."""

from __future__ import annotations

import csv
import datetime as dt
import io
import zipfile
from collections.abc import Iterator

import clevercsv
from charset_normalizer import from_bytes
from openpyxl import load_workbook

from pine_ladder.files.tables import plain

MOST_BYTES = 30_000_000
MOST_ROWS = 200_000
MOST_COLUMNS = 200
SNIFFED = 20_000
"""Letters of a file that are looked at to tell how it is written."""
MARKS = ",;\t|"


class Table:
    """A table: `heads` of its columns, and `rows` of text, each with its line in the file."""

    def __init__(self, heads: list[str], rows: list[tuple[int, list[str]]]) -> None:
        self.heads, self.rows = heads, rows


def read_table(content: bytes) -> Table:
    """The table of a file; ValueError, in a sentence, for one that holds none."""
    if len(content) > MOST_BYTES:
        raise ValueError(
            f"The file has more than {MOST_BYTES // 1_000_000} MB: bring it in in parts."
        )
    rows = _sheet(content) if content[:4] == b"PK\x03\x04" else _text(content)
    heads: list[str] = []
    out: list[tuple[int, list[str]]] = []
    for line, cells in rows:
        if not any(cell for cell in cells):
            continue
        if not heads:
            # A title above the table is no heading: it stands alone.
            if sum(bool(cell) for cell in cells) > 1 or out:
                heads = cells[:MOST_COLUMNS]
            elif len(cells) == 1:
                heads = cells
            continue
        if len(out) >= MOST_ROWS:
            raise ValueError(f"The file has more than {MOST_ROWS:,} rows: bring it in in parts.")
        out.append((line, cells[:MOST_COLUMNS]))
    if not heads:
        raise ValueError("The file is empty: its first row names the columns.")
    return Table(heads, out)


def _text(content: bytes) -> Iterator[tuple[int, list[str]]]:
    text = decoded(content)
    mark, quote = _dialect(text[:SNIFFED])
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark, quotechar=quote)
    begins = 1
    try:
        for cells in reader:
            yield begins, [" ".join(plain(cell).split()) for cell in cells]
            begins = reader.line_num + 1
    except csv.Error as error:
        raise ValueError(f"Line {begins} cannot be read as a table: {error}.") from None


def decoded(content: bytes) -> str:
    """The letters of a file: UTF-8 where it is that, else as its bytes look."""
    for encoding in ("utf-8-sig",):
        try:
            return content.decode(encoding)
        except UnicodeDecodeError:
            pass
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return content.decode("utf-16", errors="replace")
    best = from_bytes(
        content[:200_000], cp_isolation=["cp1252", "cp1250", "latin_1", "utf_16"]
    ).best()
    return content.decode(best.encoding if best else "cp1252", errors="replace")


def _dialect(sample: str) -> tuple[str, str]:
    """The delimiter and the quote of a text: found by its lines, else the commonest mark."""
    whole = sample.rsplit("\n", 1)[0] if sample.count("\n") > 1 else sample
    try:
        found = clevercsv.Sniffer().sniff(whole, delimiters=MARKS)
    except clevercsv.Error:
        found = None
    first = whole.lstrip("\r\n").split("\n", 1)[0]
    usual = max(MARKS, key=first.count)
    mark = found.delimiter if found is not None else None
    if found is None or not mark or mark not in MARKS or not first.count(mark):
        return usual, '"'
    return mark, found.quotechar or '"'


def _sheet(content: bytes) -> Iterator[tuple[int, list[str]]]:
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
    except (zipfile.BadZipFile, KeyError, ValueError, OSError) as error:
        raise ValueError(f"The file cannot be read as a workbook: {error}.") from None
    sheet = book.worksheets[0]
    for line, row in enumerate(sheet.iter_rows(values_only=True), start=1):
        cells = [_cell(value) for value in row]
        while cells and not cells[-1]:
            cells.pop()
        yield line, cells


def _cell(value: object) -> str:
    """A cell of a workbook as it would be typed; a time of a result is minutes and seconds."""
    match value:
        case None:
            return ""
        case dt.datetime():
            return (
                value.date().isoformat()
                if value.time() == dt.time()
                else value.isoformat(" ", "minutes")
            )
        case dt.time():
            # A time as minutes:seconds is kept by spreadsheets as hours and minutes.
            if value.second and value.hour:
                return f"{value.hour}:{value.minute:02d}:{value.second:02d}"
            if value.second:
                return f"{value.minute}:{value.second:02d}"
            return f"{value.hour}:{value.minute:02d}"
        case bool():
            return "yes" if value else "no"
        case float():
            return f"{value:g}" if abs(value) < 1e6 else f"{value:.0f}"
    return " ".join(str(value).split())
