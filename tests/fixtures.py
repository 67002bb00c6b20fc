"""Fixtures of tests on a database: a throw-away server, a small gym, clients by role."""

from __future__ import annotations

import itertools
import tempfile
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from argon2 import PasswordHasher
from cluster import Cluster
from fastapi.testclient import TestClient
from shared import MOMENT, PASSWORD, small_gym
from sqlalchemy import Engine

from pine_ladder.api.access import GUARD_HEADER
from pine_ladder.api.app import create_app
from pine_ladder.store.database import connect, migrate
from pine_ladder.store.gym import calendar
from pine_ladder.store.people import people
from pine_ladder.store.people.people import hash_password


@pytest.fixture(autouse=True)
def same_day() -> None:
    """However long a run takes, and whenever it began: each test begins at the same moment."""
    calendar.move_to(MOMENT)


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    """A server of this run's own, so that a second run or a demo beside it is not disturbed."""
    folder = Path(tempfile.mkdtemp(prefix="pine-ladder-test-"))
    server = Cluster(folder, durable=False)
    try:
        url = server.start()
        migrate(url)
        yield url
    finally:
        server.destroy()


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

NUMBERS = itertools.count(1)


@pytest.fixture
def empty(database_url: str) -> Iterator[str]:
    """The URL of a database with nothing in it."""
    name = f"pine_ladder_empty_{next(NUMBERS)}"
    admin = database_url.replace("postgresql+psycopg", "postgresql")
    with psycopg.connect(admin, autocommit=True) as db:
        db.execute(f"create database {name}")
        yield database_url.removesuffix("/pine_ladder") + f"/{name}"
        db.execute(f"drop database {name} with (force)")


@pytest.fixture(scope="session")
def engine(database_url: str) -> Iterator[Engine]:
    made = connect(database_url)
    yield made
    made.dispose()


@pytest.fixture(scope="session")
def password_hash() -> str:
    return hash_password(PASSWORD)


@pytest.fixture
def gym(engine: Engine, password_hash: str) -> dict[str, int]:
    return small_gym(engine, password_hash)


@pytest.fixture
def browser_of(engine: Engine, gym: dict[str, int]):
    """Sign somebody in: `browser_of("Carla")` is a client that carries their session."""

    def sign_in(name: str) -> TestClient:
        client = TestClient(create_app(engine, learns=False))
        form = {"email": f"{name.lower()}@test.example", "password": PASSWORD}
        answer = client.post("/api/sign-in", json=form)
        assert answer.status_code == 200, answer.text
        client.headers[GUARD_HEADER] = answer.json()["guard"]
        return client

    return sign_in


@pytest.fixture
def stranger(engine: Engine, gym: dict[str, int]) -> TestClient:
    return TestClient(create_app(engine))


# Hashes as weak as the library allows: hundreds of tests sign in, and none of them is a guess.
people._hasher = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)
