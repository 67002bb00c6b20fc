"""Everything a gym keeps as open records: a JSON object a row, by table, with a schema.

Left out is what signs somebody in or shows a screen (`LEFT_OUT`, `BLANKED`), and what the heart
rates of others are: each athlete takes those away alone.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Iterator
from typing import Any

from sqlalchemy import Boolean, Column, Date, DateTime, Float, Integer, Table, Time, select, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from pine_ladder.store.models import Gym
from pine_ladder.store.models.base import Base

LEFT_OUT = {
    "calendar_link": "an address that shows somebody's classes",
    "failed_sign_in": "tries to sign in",
    "heart_rate": "the athlete's alone",
    "known_device": "who signed in where",
    "one_time_link": "a link that signs somebody in",
    "request": "presses that were on their way",
    "setup_code": "the code that opens the gym",
    "sign_in": "who is signed in",
    "wall_link": "an address that shows a screen",
}
"""Tables that no record is made of, with the reason."""
BLANKED = {
    ("person", "password_hash"): None,
    ("mail", "body"): "",
}
"""Columns whose value is a secret, or may hold one, with what stands in its place."""
WAITING = "waiting"
"""The state of a letter that has not gone out: it is no record yet."""


class RecordsError(ValueError):
    """Why records cannot be taken, in a sentence."""


def tables() -> list[Table]:
    """The tables that records are made of, each behind those it refers to."""
    return [table for table in Base.metadata.sorted_tables if table.name not in LEFT_OUT]


def records(db: Session, table: Table) -> Iterator[dict[str, Any]]:
    """The rows of a table by its key, ready for JSON: dates and times as ISO 8601 says them."""
    query = select(table).order_by(*table.primary_key.columns)
    if table.name == "mail":
        query = query.where(table.c.state != WAITING)
    for row in db.execute(query).mappings():
        yield {
            column.name: BLANKED.get((table.name, column.name), _out(row[column.name]))
            for column in table.columns
        }


def _out(value: Any) -> Any:
    return value.isoformat() if isinstance(value, dt.date | dt.time) else value


def schema() -> dict[str, Any]:
    """A JSON Schema (2020-12) of a record of each table, by the table's name."""
    said = {
        mapper.local_table: (mapper.class_.__doc__ or "").strip()
        for mapper in Base.registry.mappers
    }
    return {
        table.name: {
            "$schema": "https://json-schema.org/draft/2020-12/schema",
            "title": table.name,
            "description": said.get(table, ""),
            "type": "object",
            "properties": {column.name: _property(column) for column in table.columns},
            "required": [column.name for column in table.columns],
            "additionalProperties": False,
        }
        for table in tables()
    }


def _property(column: Column[Any]) -> dict[str, Any]:
    """The schema of a column: its type, its format, what it refers to."""
    out: dict[str, Any] = {}
    match column.type:
        case JSONB():
            return {"description": "JSON of the application"}
        case Boolean():
            kind = "boolean"
        case Integer():
            kind = "integer"
        case Float():
            kind = "number"
        case DateTime():
            kind, out["format"] = "string", "date-time"
        case Date():
            kind, out["format"] = "string", "date"
        case Time():
            kind, out["format"] = "string", "time"
        case _:
            kind = "string"
    for key in column.foreign_keys:
        out["description"] = f"refers to {key.column.table.name}.{key.column.name}"
    return {"type": [kind, "null"] if column.nullable else kind, **out}


def take(db: Session, given: dict[str, Iterable[dict[str, Any]]]) -> int:
    """Put records into an empty gym, in place of nothing, and answer how many.

    Raises RecordsError, and leaves everything as it was, where a gym is there, a table is not
    known, or a record does not fit its table.
    """
    if db.scalar(select(Gym.name)) is not None:
        raise RecordsError("This database holds a gym already: take records into an empty one.")
    known = {table.name: table for table in tables()}
    if strange := sorted(set(given) - set(known)):
        raise RecordsError(f"{strange[0]}: no table of that name is known to this program.")
    count = 0
    for name, table in known.items():
        rows = [_row(table, number, one) for number, one in enumerate(given.get(name, ()), start=1)]
        if rows:
            db.execute(table.insert(), rows)
        count += len(rows)
    if db.scalar(select(Gym.name)) is None:
        raise RecordsError("No gym is in these records: gym.jsonl holds none.")
    for table in known.values():
        _count_on(db, table)
    db.execute(text("delete from setup_code"))
    return count


def _row(table: Table, number: int, record: dict[str, Any]) -> dict[str, Any]:
    """A record as a row of its table; raises RecordsError where it does not fit."""
    columns = {column.name: column for column in table.columns}
    if set(record) != set(columns):
        odd = sorted(set(record) ^ set(columns))[0]
        what = "is missing" if odd in columns else "is not known"
        raise RecordsError(f"{table.name}, record {number}: {odd} {what}.")
    try:
        return {name: _in(column, record[name]) for name, column in columns.items()}
    except (TypeError, ValueError) as error:
        raise RecordsError(f"{table.name}, record {number}: {error}.") from None


def _in(column: Column[Any], value: Any) -> Any:
    if value is None:
        if not column.nullable and not isinstance(column.type, JSONB):
            raise ValueError(f"{column.name} is empty")
        return None
    match column.type:
        case DateTime():
            return dt.datetime.fromisoformat(value)
        case Date():
            return dt.date.fromisoformat(value)
        case Time():
            return dt.time.fromisoformat(value)
    return value


def _count_on(db: Session, table: Table) -> None:
    """Have new rows of a table numbered behind those that were taken."""
    if "id" not in table.c:
        return
    own = db.scalar(text("select pg_get_serial_sequence(:name, 'id')"), {"name": table.name})
    highest = db.scalar(select(table.c.id).order_by(table.c.id.desc()).limit(1))
    if own is not None and highest is not None:
        db.execute(text("select setval(:own, :highest)"), {"own": own, "highest": highest})
