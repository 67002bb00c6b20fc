"""Fixtures of every test; they import no more than the core does."""

from __future__ import annotations

import os
from pathlib import Path

import pytest
from examples import TRIED
from hypothesis import HealthCheck, settings

from pine_ladder.core.movements import Library, library

settings.register_profile(
    "suite",
    deadline=None,
    suppress_health_check=list(HealthCheck),
    max_examples=TRIED,
    derandomize="PINE_LADDER_EXPLORE" not in os.environ,
)
settings.load_profile("suite")
os.environ.setdefault("TZ", "UTC")


@pytest.fixture(scope="session")
def movements() -> Library:
    return library()


@pytest.fixture(scope="session")
def boards() -> Path:
    return Path(__file__).parent / "boards"
