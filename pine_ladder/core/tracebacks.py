"""What may be logged of an error: where it happened and its kind, never the values it names."""

from __future__ import annotations

import traceback


def sqlstate_of(error: BaseException) -> str:
    """The SQLSTATE that PostgreSQL gave an SQLAlchemy error; empty where it gave none."""
    return str(getattr(getattr(error, "orig", None), "sqlstate", None) or "")


def traceback_without_values(error: BaseException) -> str:
    """The traceback of an error and of what caused it, without their messages.

    A message may hold a name, an address or somebody's health: psycopg quotes the row that a
    constraint refused, a parser the text it was given.
    """
    parts: list[str] = []
    seen: set[int] = set()
    current: BaseException | None = error
    while current is not None and id(current) not in seen:
        seen.add(id(current))
        kind = type(current)
        state = sqlstate_of(current)
        name = f"{kind.__module__}.{kind.__qualname__}" + (f" (SQLSTATE {state})" if state else "")
        parts.append("".join(traceback.format_tb(current.__traceback__)) + name)
        current = current.__cause__ or (
            None if current.__suppress_context__ else current.__context__
        )
    return "\nwhich was caused by\n".join(parts)
