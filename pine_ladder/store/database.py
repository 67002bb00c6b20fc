"""Connecting to PostgreSQL and bringing it to the current schema."""

import os
from functools import cache
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, text

DATABASE_URL = "PINE_LADDER_DATABASE_URL"
POOL, OVERFLOW = 10, 20
"""Connections a process keeps, and how many more it opens when they are all busy."""
CONNECT_S, POOL_WAIT_S = 4, 6
STATEMENT_MS, LOCK_MS, IDLE_MS = 15_000, 5_000, 60_000
"""How long one statement may run, wait for a lock, or leave its transaction lying."""


def database_url() -> str:
    """The database's URL from the environment; RuntimeError when it is not given."""
    url = os.environ.get(DATABASE_URL)
    if not url:
        raise RuntimeError(f"{DATABASE_URL} is not set: which PostgreSQL database is meant?")
    return url


def connect(url: str, patient: bool = False) -> Engine:
    """An engine for a `postgresql+psycopg://` URL; a dead connection is replaced unseen.

    `patient` lets statements run for as long as they take, for work beside the requests. What an
    error says holds no values: they may be somebody's health.
    """
    limits = "" if patient else (
        f"-c statement_timeout={STATEMENT_MS} -c lock_timeout={LOCK_MS} "
        f"-c idle_in_transaction_session_timeout={IDLE_MS}"
    )  # fmt: skip
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=POOL,
        max_overflow=OVERFLOW,
        pool_timeout=POOL_WAIT_S,
        hide_parameters=True,
        connect_args={"connect_timeout": CONNECT_S, "options": limits},
    )


def _config(url: str) -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def migrate(url: str) -> None:
    """Bring the database to the newest migration; one process at a time, the others wait."""
    command.upgrade(_config(url), "head")


@cache
def newest_schema() -> str:
    """The schema this program wants, as the number of its newest migration; read once."""
    return str(ScriptDirectory.from_config(_config("")).get_current_head())


def schema_of(db: Connection) -> str:
    """The schema the database has."""
    return str(db.scalar(text("select version_num from alembic_version")) or "")
