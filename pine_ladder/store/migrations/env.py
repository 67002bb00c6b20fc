"""Alembic's entry: migrate online, one process at a time."""

from alembic import context
from sqlalchemy import create_engine, text

from pine_ladder.store.models import Base

url = context.config.get_main_option("sqlalchemy.url")
assert url is not None
with create_engine(url).connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        # Two processes that start together must not migrate together.
        connection.execute(text("select pg_advisory_xact_lock(7410226)"))
        context.run_migrations()
    connection.commit()
