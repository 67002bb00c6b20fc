"""A background loop outlives whatever its work raises, and says since when it fails."""

from __future__ import annotations

import logging
import threading

import pytest

from pine_ladder.jobs import Loop

SECRET = "anna@test.example"


class Work:
    """Work that raises what it is given, then succeeds."""

    def __init__(self, *errors: Exception) -> None:
        self.errors = list(errors)
        self.runs = 0
        self.well = threading.Event()

    def __call__(self) -> None:
        self.runs += 1
        if self.errors:
            raise self.errors.pop(0)
        self.well.set()


@pytest.mark.parametrize(
    "error", [ValueError(SECRET), KeyError(SECRET), RecursionError(), UnicodeError(SECRET)]
)
def test_a_loop_goes_on_after_any_error(error, caplog):
    work = Work(error, error)
    loop = Loop("mail", work, 0.01)
    with caplog.at_level(logging.ERROR, "pine_ladder"):
        loop.start()
        assert work.well.wait(5)
        loop.stop(2)
    assert work.runs >= 3
    assert f"{type(error).__name__}" in caplog.text
    assert "test_loop.py" in caplog.text, "the traceback is logged"
    assert SECRET not in caplog.text, "values are not"


def test_health_says_since_when_a_loop_fails_and_that_it_is_well_again():
    loop = Loop("backup", Work(), 0.01)
    loop._failed(ValueError("x"))
    assert (loop.health().error, loop.health().running) == ("ValueError", False)
    since = loop.health().failing_since
    loop._failed(KeyError("y"))
    assert (loop.health().failing_since, loop.health().error) == (since, "KeyError")
    loop.succeeded()
    assert loop.health().failing_since is None


def test_a_loop_starts_once_and_stops():
    work = Work()
    loop = Loop("straps", work, 0.01)
    loop.start()
    loop.start()
    assert loop.health().running
    loop.stop(2)
    assert not loop.health().running
