"""Tests on a database: what stands in tests/fixtures.py."""

from fixtures import *  # noqa: F403
