"""A background thread that does its work again and again, whatever the work raises."""

from __future__ import annotations

import datetime as dt
import logging
import threading
from collections.abc import Callable
from typing import NamedTuple

from pine_ladder.core.tracebacks import traceback_without_values

log = logging.getLogger("pine_ladder")

LONGEST_PAUSE_S = 60.0
"""Seconds between two tries at most, however often the work has failed."""


class LoopHealth(NamedTuple):
    """How a loop is: since when its work fails (None while it succeeds) and with which error."""

    name: str
    running: bool
    failing_since: dt.datetime | None
    error: str


class Loop:
    """Runs `work` every `every_s` seconds in a thread of its own until it is stopped.

    An exception of the work is logged with its traceback and the loop goes on, a little later each
    time it fails in a row, at most `longest_pause_s` seconds. Work that blocks for long calls
    `succeeded()` once it is under way and looks at `stopping`.
    """

    def __init__(
        self,
        name: str,
        work: Callable[[], object],
        every_s: float,
        longest_pause_s: float = LONGEST_PAUSE_S,
    ) -> None:
        self.name, self.work, self.every_s = name, work, every_s
        self.longest_pause_s = longest_pause_s
        self.stopping = threading.Event()
        self._awake = threading.Event()
        self._thread: threading.Thread | None = None
        self._failing_since: dt.datetime | None = None
        self._failures = 0
        self._error = ""

    def start(self) -> None:
        """Begin; a second call does nothing."""
        if self._thread is None:
            self._thread = threading.Thread(target=self._run, daemon=True, name=self.name)
            self._thread.start()

    def stop(self, wait_s: float) -> None:
        """End after the work in hand, which is waited for at most `wait_s` seconds."""
        self.stopping.set()
        self._awake.set()
        if self._thread is not None:
            self._thread.join(wait_s)

    def wake(self) -> None:
        """Have the work done now instead of after the pause."""
        self._awake.set()

    def succeeded(self) -> None:
        """Note that the work is well: by itself after each run."""
        self._failing_since, self._failures, self._error = None, 0, ""

    def health(self) -> LoopHealth:
        """How the loop is at this moment."""
        running = self._thread is not None and self._thread.is_alive()
        return LoopHealth(self.name, running, self._failing_since, self._error)

    def _run(self) -> None:
        while not self.stopping.is_set():
            pause = self.every_s
            # Whoever wakes it while it works has it work once more.
            self._awake.clear()
            try:
                self.work()
                self.succeeded()
            except Exception as error:  # Whatever it is, the next round is not lost with it.
                self._failed(error)
                pause = min(self.every_s * 2 ** min(self._failures - 1, 8), self.longest_pause_s)
            self._awake.wait(max(pause, self.every_s))

    def _failed(self, error: Exception) -> None:
        self._failures += 1
        again = self._error == type(error).__name__
        self._error = type(error).__name__
        self._failing_since = self._failing_since or dt.datetime.now(dt.UTC)
        if again and self._failures & (self._failures - 1):
            # The same over and over, a database that is away: told ever less often.
            return
        log.error("%s failed:\n%s", self.name, traceback_without_values(error))
