"""A gym taken away in open formats, and taken into an empty database again.

The files: `records/<table>.jsonl` (a JSON object a line), `schema.json` (a JSON Schema a table),
`about.json`; beside them, for people and spreadsheets, the tables as CSV and the boards as text.
"""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterator, Mapping
from pathlib import Path, PurePosixPath
from typing import Any

from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import DataError, IntegrityError
from sqlalchemy.orm import Session

from pine_ladder import __version__
from pine_ladder.files.tables import write_csv
from pine_ladder.files.zip_archive import board_name, folder_name
from pine_ladder.store.database import newest_schema
from pine_ladder.store.exports import TABLES, boards
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.records import RecordsError, records, schema, tables, take

ABOUT, SCHEMA, RECORDS = "about.json", "schema.json", "records"


class About(BaseModel):
    """The origin of a set of records: the gym's name, the program's version and its tables' schema,
    and how many records there are, by table.
    """

    gym: str
    version: str
    schema_is: str
    records: dict[str, int]


def everything(db: Session) -> Iterator[tuple[str, bytes]]:
    """The files of a gym in open formats, each with its path; one moment of the gym."""
    if not db.in_transaction():
        db.connection(execution_options={"isolation_level": "REPEATABLE READ"})
    counts: dict[str, int] = {}
    for table in tables():
        lines = [json.dumps(record, ensure_ascii=False) for record in records(db, table)]
        counts[table.name] = len(lines)
        yield f"{RECORDS}/{table.name}.jsonl", "".join(f"{line}\n" for line in lines).encode()
    yield SCHEMA, json.dumps(schema(), indent=2, ensure_ascii=False).encode()
    about = About(
        gym=gym_of(db).row.name,
        version=__version__,
        schema_is=newest_schema(),
        records=counts,
    )
    yield ABOUT, about.model_dump_json(indent=2).encode()
    for name, made in TABLES.items():
        yield f"{name}.csv", write_csv(*made(db)).encode()
    numbers: dict[str, int] = {}
    for programme, date, board in boards(db):
        number = numbers.setdefault(programme, len(numbers) + 1)
        yield f"boards/{folder_name(programme, number)}/{board_name(date)}", board.encode()


def zipped(db: Session) -> bytes:
    """The files of a gym in open formats as one zip."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, content in everything(db):
            archive.writestr(path, content)
    return buffer.getvalue()


def _files(place: Path) -> Mapping[str, bytes]:
    """The files of a folder or a zip by their paths; raises RecordsError for anything else."""
    if place.is_dir():
        paths = [path for path in place.rglob("*") if path.is_file()]
        return {path.relative_to(place).as_posix(): path.read_bytes() for path in paths}
    try:
        with zipfile.ZipFile(place) as archive:
            return {name: archive.read(name) for name in archive.namelist()}
    except (OSError, zipfile.BadZipFile):
        raise RecordsError(f"{place} is no folder and no zip of records.") from None


def take_everything(db: Session, place: Path) -> About:
    """Take a gym's records from a folder or a zip into an empty database; all or nothing is left
    to the caller's transaction.

    Raises RecordsError where they are another schema's, are not whole, or a gym is there.
    """
    files = _files(place)
    try:
        about = About.model_validate_json(files[ABOUT])
    except (KeyError, ValidationError):
        raise RecordsError(f"{place} holds no records of a gym: {ABOUT} is missing.") from None
    if about.schema_is != newest_schema():
        raise RecordsError(
            f"These records were made by version {about.version}, whose tables differ from this "
            f"program's {__version__}: use that version, or a backup, which is brought up to date."
        )
    given: dict[str, list[dict[str, Any]]] = {}
    for path, content in files.items():
        own = PurePosixPath(path)
        if own.parent.name == RECORDS and own.suffix == ".jsonl":
            given[own.stem] = _lines(path, content)
    for name, count in about.records.items():
        there = len(given.get(name, ()))
        if there != count:
            raise RecordsError(f"{name}: {there} records of {count} are there.")
    try:
        take(db, dict(given))
        db.flush()
    except (IntegrityError, DataError) as error:
        reason = str(error.orig).splitlines()[0]
        raise RecordsError(f"The records do not fit together: {reason}.") from None
    return about


def _lines(path: str, content: bytes) -> list[dict[str, Any]]:
    """The objects of a file of lines; raises RecordsError with the line that is none."""
    out = []
    for number, line in enumerate(content.decode("utf-8", errors="replace").splitlines(), start=1):
        try:
            record = json.loads(line)
        except ValueError:
            record = None
        if not isinstance(record, dict):
            raise RecordsError(f"{path}, line {number}: no JSON object.")
        out.append(record)
    return out
