"""Connecting to PostgreSQL and bringing it to the current schema."""

import os
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine

DATABASE_URL = "PINE_LADDER_DATABASE_URL"
POOL, OVERFLOW = 10, 20
"""Connections a process keeps, and how many more it opens when they are all busy."""


def database_url() -> str:
    """The database's URL from the environment; RuntimeError when it is not given."""
    url = os.environ.get(DATABASE_URL)
    if not url:
        raise RuntimeError(f"{DATABASE_URL} is not set: which PostgreSQL database is meant?")
    return url


def connect(url: str) -> Engine:
    """An engine for a `postgresql+psycopg://` URL; a dead connection is replaced unseen."""
    return create_engine(url, pool_pre_ping=True, pool_size=POOL, max_overflow=OVERFLOW)


def migrate(url: str) -> None:
    """Bring the database to the newest migration."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    command.upgrade(config, "head")
