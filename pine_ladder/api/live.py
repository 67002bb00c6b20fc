"""Live updates: what one process is told by PostgreSQL goes to every page that listens to it.

One thread a process listens on the database's channel; each page has a queue. Nothing is kept
here: a page that comes back, to this process or another, is given the present state first.
"""

from __future__ import annotations

import asyncio
import functools
import json
import threading
import time
from collections.abc import AsyncIterator, Callable, Hashable
from typing import Any

import psycopg
from fastapi.responses import StreamingResponse
from fastapi.sse import format_sse_event
from sqlalchemy import Engine
from sqlalchemy.exc import DBAPIError
from sqlalchemy.exc import TimeoutError as PoolTimeout

from pine_ladder.api.errors import is_away
from pine_ladder.jobs import Loop
from pine_ladder.store.floor.clock import CHANNEL
from pine_ladder.store.floor.hearts import HEARTS
from pine_ladder.store.people.people import LEFT

HEARTBEAT_S = 15.0
RECONNECT_S = 1.0
MOST_WAITING = 200
"""Messages a page may lag behind before it is told to look anew."""

WITHDRAWN = "withdrawn"
"""What a display is told whose link was withdrawn: the last message of its stream."""

Message = dict[str, Any]


class _Page:
    """A listening page: its event loop and what waits for it; `mark` is its sign-in's, `person`
    whose it is. A display is nobody's.
    """

    def __init__(self, mark: str, person: int | None) -> None:
        self.mark, self.person = mark, person
        self.loop = asyncio.get_running_loop()
        self.queue: asyncio.Queue[Message] = asyncio.Queue(MOST_WAITING)

    def put(self, message: Message) -> None:
        """Let a message wait for this page; called in its own event loop."""
        if self.queue.full():
            while not self.queue.empty():
                self.queue.get_nowait()
            message = {"what": "again"}
        self.queue.put_nowait(message)


class _Answer:
    """The last answer to one question, and when work on it began."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.began, self.message = -1.0, Message()


class Together:
    """One answer for all who ask the same at once, as the displays of a gym do at every change."""

    def __init__(self) -> None:
        self.guard = threading.Lock()
        self.answers: dict[Hashable, _Answer] = {}

    def ask(self, question: Hashable, work: Callable[[], Message]) -> Message:
        """The answer to a question, worked out after it was asked: by this caller or by another,
        never by two at a time.
        """
        asked = time.monotonic()
        with self.guard:
            answer = self.answers.setdefault(question, _Answer())
        with answer.lock:
            if answer.began <= asked:
                began = time.monotonic()
                answer.message = work()
                answer.began = began
            return answer.message


class Hub:
    """The pages of one process, and the thread that listens for them from the first one on."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self.pages: set[_Page] = set()
        self.guard = threading.Lock()
        self.together = Together()
        self.loop = Loop("live updates", self._listen, RECONNECT_S, RECONNECT_S)
        self.ready = threading.Event()

    def enter(self, mark: str = "", person: int | None = None) -> _Page:
        """A new page that will be told everything from now on, until its sign-in ends."""
        page = _Page(mark, person)
        with self.guard:
            self.pages.add(page)
            self.loop.start()
        return page

    def leave(self, page: _Page) -> None:
        """The page is gone."""
        with self.guard:
            self.pages.discard(page)

    def _listen(self) -> None:
        url = self.engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        try:
            with psycopg.connect(url, autocommit=True) as db:
                db.execute(f"listen {CHANNEL}")
                # Whatever was said while nobody listened is made up for by looking anew.
                self._tell({"what": "again"})
                self.ready.set()
                self.loop.succeeded()
                while not self.loop.stopping.is_set():
                    for note in db.notifies(timeout=RECONNECT_S):
                        self._tell(json.loads(note.payload))
        finally:
            self.ready.clear()

    def _tell(self, message: Message) -> None:
        with self.guard:
            pages = list(self.pages)
        if message["what"] == HEARTS:
            for page in pages:
                if (own := _heart_for(page, message)) is not None:
                    self._put([page], own)
            return
        left = message.get("marks", []) if message["what"] == LEFT else None
        told: dict[asyncio.AbstractEventLoop, list[_Page]] = {}
        for page in pages:
            if left is None or page.mark in left:
                told.setdefault(page.loop, []).append(page)
        for together in told.values():
            self._put(together, message)

    def _put(self, together: list[_Page], message: Message) -> None:
        try:
            together[0].loop.call_soon_threadsafe(_put_all, together, message)
        except RuntimeError:  # The event loop is closed.
            for page in together:
                self.leave(page)


def _heart_for(page: _Page, message: Message) -> Message | None:
    """Of hearts everybody hears their own, and a display those that may be shown."""
    if page.person is None:
        return {"what": "hearts", "tiles": message["tiles"]} if message["tiles"] else None
    own = message["people"].get(str(page.person))
    return {"what": "heart", **own} if own else None


def _put_all(pages: list[_Page], message: Message) -> None:
    """One call a loop, not one a page: waking the loop is what costs."""
    for page in pages:
        page.put(message)


@functools.lru_cache(MOST_WAITING)
def _event(what: str, data: str) -> bytes:
    return format_sse_event(event=what, data_str=data)


def _as_event(message: Message) -> bytes:
    return _event(message["what"], json.dumps(message, separators=(",", ":")))


def stream(
    hub: Hub,
    answer: Callable[[Message], Message | None] | None = None,
    mark: str = "",
    person: int | None = None,
) -> StreamingResponse:
    """An event stream of all messages, the first of them `{"what": "again"}`.

    It ends when the sign-in `mark` does; `person` hears what is for them alone.

    `answer` turns each message into what this page is sent, or None; it runs in a worker thread.
    """

    async def events() -> AsyncIterator[bytes]:
        page = hub.enter(mark, person)
        try:
            await asyncio.to_thread(hub.ready.wait, RECONNECT_S)
            message: Message | None = {"what": "again"}
            while message is None or message["what"] != LEFT:
                if message is None:
                    yield format_sse_event(comment="still here")
                else:
                    try:
                        said = (
                            message if answer is None else await asyncio.to_thread(answer, message)
                        )
                    except (DBAPIError, PoolTimeout) as error:
                        if not is_away(error):
                            raise
                        # The page keeps its stream and is told as soon as the database answers.
                        await asyncio.sleep(RECONNECT_S)
                        message = {"what": "again"}
                        continue
                    if said is not None:
                        yield _as_event(said)
                        if said["what"] == WITHDRAWN:
                            return
                try:
                    async with asyncio.timeout(HEARTBEAT_S):
                        message = await page.queue.get()
                except TimeoutError:
                    message = None
        finally:
            hub.leave(page)

    return StreamingResponse(
        events(), media_type="text/event-stream", headers={"X-Accel-Buffering": "no"}
    )
