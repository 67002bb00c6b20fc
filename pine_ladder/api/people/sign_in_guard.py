"""The door: passwords are looked at a few at a time, outside the threads that answer requests."""

from __future__ import annotations

import asyncio
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

from pine_ladder.api.errors import ApiError
from pine_ladder.store.people import people

AT_ONCE = 2
"""A password takes some 64 MB and tens of milliseconds of one core to look at."""
MOST_WAITING = 40
"""Who comes when so many wait is asked to come again."""
MOST_ARRIVING = 200
"""Tries that wait to be counted at once."""
MOST_REMEMBERED = 10_000
"""Refusals that are remembered; the oldest are forgotten, and asked of the database again."""
WAIT_S = 5
CROWD = "many people are signing in just now: try again in a few seconds"

Answer = TypeVar("Answer")
Asked = TypeVar("Asked", bound=tuple[Any, ...])


def slowed(wait_s: int) -> ApiError:
    """What is answered to tries that come too fast."""
    return ApiError(429, f"too many tries: wait {wait_s} seconds, then try again", wait_s=wait_s)


class Door:
    """Threads of its own for hashing, and a bound on who waits for them.

    Tries are counted here too, in their own threads, in the order of arrival: a crowd of guesses
    waits for the lock of an account with `AT_ONCE` database connections at most. Who was told to
    wait is refused until then without asking the database.
    """

    def __init__(self) -> None:
        self.threads = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="door")
        self.counting = ThreadPoolExecutor(AT_ONCE, thread_name_prefix="tries")
        self.waiting = self.arriving = 0
        self.refused: OrderedDict[tuple[str, ...], float] = OrderedDict()

    async def admit(self, who: tuple[str, ...], ask: Callable[[], Asked]) -> Asked:
        """Count a try with `ask`, and wait for its turn; ApiError for one that comes too fast.

        `who` names the account, the network address and the device that the try is of. `ask` runs
        in a thread and returns the admission first.
        """
        left_s = self.refused.get(who, 0.0) - time.monotonic()
        if left_s > 0:
            raise slowed(int(left_s) + 1)
        if self.arriving >= MOST_ARRIVING:
            raise ApiError(503, CROWD, wait_s=WAIT_S)
        self.arriving += 1
        try:
            asked = await asyncio.get_running_loop().run_in_executor(self.counting, ask)
        finally:
            self.arriving -= 1
        admission = asked[0]
        if admission.refused_s:
            self._remember(who, time.monotonic() + admission.refused_s - 1)
            raise slowed(admission.refused_s)
        await asyncio.sleep(admission.delay_s)
        return asked

    def _remember(self, who: tuple[str, ...], until: float) -> None:
        self.refused[who] = until
        self.refused.move_to_end(who)
        while len(self.refused) > MOST_REMEMBERED:
            self.refused.popitem(last=False)

    async def _do(self, work: Callable[[], Answer]) -> Answer:
        if self.waiting >= MOST_WAITING:
            raise ApiError(503, CROWD, wait_s=WAIT_S)
        self.waiting += 1
        try:
            return await asyncio.get_running_loop().run_in_executor(self.threads, work)
        finally:
            self.waiting -= 1

    async def fits(self, stored: str, password: str) -> bool:
        """Whether a password is that of a stored hash."""
        return await self._do(lambda: people.hash_fits(stored, password))

    async def check_strength(self, password: str, *known: str) -> None:
        """Raise a 400 that says why a new password is too easy to guess; `known` are its owner's
        words. The estimate runs in these threads, so that no clock or screen waits for it.
        """
        if why := await self._do(lambda: people.weakness(password, *known)):
            raise ApiError(400, why)

    async def hash(self, password: str) -> str:
        """The hash to store of a new password."""
        return await self._do(lambda: people.hash_password(password))
