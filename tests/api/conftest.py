"""Tests on a database."""

from fixtures import (
    browser_of,
    database_url,
    empty,
    engine,
    gym,
    password_hash,
    same_day,
    stranger,
)

__all__ = [
    "browser_of",
    "database_url",
    "empty",
    "engine",
    "gym",
    "password_hash",
    "same_day",
    "stranger",
]
