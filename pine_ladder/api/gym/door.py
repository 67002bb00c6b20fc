"""The door: passwords are looked at a few at a time, outside the threads that answer requests."""

from __future__ import annotations

import asyncio
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

from pine_ladder.api.errors import ApiError
from pine_ladder.store.gym import people

AT_ONCE = 2
"""A password takes some 64 MB and tens of milliseconds of one core to look at."""
MOST_WAITING = 40
"""Who comes when so many wait is asked to come again."""
WAIT_S = 5

Answer = TypeVar("Answer")


class Door:
    """Threads of its own for hashing, and a bound on who waits for them."""

    def __init__(self) -> None:
        self.threads = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="door")
        self.waiting = 0

    async def _do(self, work: Callable[[], Answer]) -> Answer:
        if self.waiting >= MOST_WAITING:
            sentence = "many people are signing in just now: try again in a few seconds"
            raise ApiError(503, sentence, wait_s=WAIT_S)
        self.waiting += 1
        try:
            return await asyncio.get_running_loop().run_in_executor(self.threads, work)
        finally:
            self.waiting -= 1

    async def fits(self, stored: str, password: str) -> bool:
        """Whether a password is that of a stored hash."""
        return await self._do(lambda: people.hash_fits(stored, password))

    async def hash(self, password: str) -> str:
        """The hash to store of a new password."""
        return await self._do(lambda: people.hash_password(password))
