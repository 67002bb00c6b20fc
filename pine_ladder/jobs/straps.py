"""The ear for heart rate straps: one thread of one process listens to the gym's receiver.

Once a second it tells phones and displays, and every few seconds it keeps what it counted. A
process that dies loses those few seconds; another one then listens in its place.
"""

from __future__ import annotations

import contextlib
import json
import os
import socket
import time
from collections import Counter, defaultdict
from collections.abc import Iterator
from typing import Any, NamedTuple

from sqlalchemy import Connection, Engine, text
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.heart import asked, where
from pine_ladder.core.athletes.straps import Frames, Measured
from pine_ladder.core.movements import Library
from pine_ladder.jobs import Loop
from pine_ladder.store.floor import clock, hearts
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.usecases.hearts import add_seconds

STRAPS = "PINE_LADDER_STRAPS"
"""Host and port of the receiver, as 127.0.0.1:8427; without it nobody listens."""

FRESH_S = 3.0
"""Seconds after which a value is too old to be told or counted."""
LOOKS_S = 5.0
"""Seconds between looks at who works on what, and between two times of keeping."""
AGAIN_S = 5.0
PATIENCE_S = 15.0
"""Silence after which the receiver is called anew."""
STOPS_S = 10.0
"""Seconds in which what was counted last is kept when the application stops."""
MOST_BYTES = 7000
"""Length of a message; PostgreSQL passes on 8000 bytes."""
TOLD_TOGETHER = 40
"""People of one message."""

ONE_LISTENS = "select pg_try_advisory_lock(hashtextextended('straps', 0))"
STILL_HERE = "select 1"


class Receiver(NamedTuple):
    """Where the straps' values come from."""

    host: str
    port: int


def receiver_said() -> Receiver | None:
    """The receiver of the environment; ValueError where it is no address."""
    said = os.environ.get(STRAPS, "")
    if not said:
        return None
    host, _, port = said.rpartition(":")
    if not host or not port.isdigit():
        raise ValueError(f"{STRAPS} is host:port, as 127.0.0.1:8427")
    return Receiver(host, int(port))


class Counting:
    """What is heard, told and counted, second by second; times are the caller's, in seconds."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self._heard: dict[int, tuple[Measured, float]] = {}
        self._counted: defaultdict[tuple[int, int], Counter[int]] = defaultdict(Counter)
        self._wearers: dict[int, hearts.Wearer] = {}
        self._working: dict[int, hearts.Working] = {}
        self._shelf: Library | None = None
        self._year = 0

    def hear(self, strap: int, measured: Measured, now: float) -> None:
        """A strap has said something."""
        self._heard[strap] = (measured, now)

    def look(self) -> None:
        """Keep what was counted, and look anew who wears what and works on what."""
        with Session(self.engine) as db, db.begin():
            add_seconds(db, self._counted)
            self._wearers, self._working = hearts.wearers(db), {}
            if self._wearers:
                self._shelf = gym_of(db).movements
                self._working = hearts.working(db, self._shelf)
                self._year = gym_of(db).today.year
        self._counted.clear()

    def second(self, now: float) -> dict[str, Any] | None:
        """Count one second and tell it; what was told, None where nobody's heart was heard."""
        people: dict[str, dict[str, Any]] = {}
        tiles: list[dict[str, Any]] = []
        for strap, (measured, heard) in sorted(self._heard.items()):
            wearer = self._wearers.get(strap)
            if wearer is None or now - heard > FRESH_S or not measured.plausible:
                continue
            said: dict[str, Any] = {"bpm": measured.bpm}
            work = self._working.get(wearer.id)
            if work is not None:
                self._counted[wearer.id, work.piece_id][measured.bpm] += 1
                said |= self._range(wearer, work, measured.bpm)
                if wearer.profile.heart_shown:
                    own = {"class_id": work.class_id, "programme_id": work.programme_id}
                    tiles.append({"name": wearer.name, **own, **said})
            people[str(wearer.id)] = said
        return {"people": people, "tiles": tiles} if people else None

    def _range(self, wearer: hearts.Wearer, work: hearts.Working, bpm: int) -> dict[str, Any]:
        """What the piece asks of this heart, and where it is."""
        assert self._shelf is not None
        known = wearer.profile
        range_ = asked(work.piece, self._shelf, known.heart, known.born, self._year)
        if range_ is None:
            return {}
        return {
            "effort": range_.effort,
            "low": range_.low,
            "high": range_.high,
            "where": where(bpm, range_),
        }

    def tell(self, said: dict[str, Any]) -> None:
        """Tell every process; where it is too much for one message, the tiles come first."""
        with Session(self.engine) as db, db.begin():
            for part in _parts(said):
                clock.tell(db, what=hearts.HEARTS, **part)


def _parts(said: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """A message in pieces that PostgreSQL passes on. A display's tiles stay together: those that
    do not fit are left out.
    """
    people, tiles = list(said["people"].items()), list(said["tiles"])
    while len(json.dumps(tiles)) > MOST_BYTES:
        tiles.pop()
    if len(json.dumps(said)) <= MOST_BYTES:
        yield said
        return
    if tiles:
        yield {"people": {}, "tiles": tiles}
    for start in range(0, len(people), TOLD_TOGETHER):
        yield {"people": dict(people[start : start + TOLD_TOGETHER]), "tiles": []}


class NotTheOne(Exception):
    """Another process listens already."""


class StrapWatch:
    """Listens as long as the application runs, where there is a receiver."""

    def __init__(self, engine: Engine, receiver: Receiver | None) -> None:
        self.engine, self.receiver = engine, receiver
        self.loop = Loop("straps", self._round, AGAIN_S)

    def start(self) -> None:
        """Begin to listen."""
        if self.receiver is not None:
            self.loop.start()

    def stop(self) -> None:
        """Listen no more; what was counted is kept."""
        self.loop.stop(STOPS_S)

    def _round(self) -> None:
        """Listen until the receiver falls silent; nothing to do while another process listens."""
        assert self.receiver is not None
        with (
            contextlib.suppress(NotTheOne),
            self._the_ear() as holds,
            socket.create_connection(self.receiver, 5) as line,
        ):
            self.loop.succeeded()
            self._listen(line, holds)

    @contextlib.contextmanager
    def _the_ear(self) -> Iterator[Connection]:
        """The lock of the one process that listens; raises NotTheOne while another has it."""
        with self.engine.connect().execution_options(isolation_level="AUTOCOMMIT") as holds:
            if not holds.scalar(text(ONE_LISTENS)):
                raise NotTheOne
            try:
                yield holds
            finally:
                # The lock goes with the connection, whatever state that is in.
                holds.invalidate()

    def _listen(self, line: socket.socket, holds: Connection) -> None:
        frames, counting = Frames(), Counting(self.engine)
        line.settimeout(0.2)
        counting.look()
        last = looked = second = time.monotonic()
        try:
            while not self.loop.stopping.is_set():
                with contextlib.suppress(TimeoutError):
                    more = line.recv(4096)
                    if not more:
                        return
                    last = time.monotonic()
                    for strap, measured in frames.feed(more):
                        counting.hear(strap, measured, last)
                now = time.monotonic()
                if now - last > PATIENCE_S:
                    return
                if now - second >= 1:
                    # Seconds that were slept through were not heard: they are not made up.
                    second = second + 1 if now - second < 2 else now
                    if (said := counting.second(now)) is not None:
                        counting.tell(said)
                if now - looked >= LOOKS_S:
                    holds.execute(text(STILL_HERE))
                    looked = now
                    counting.look()
        finally:
            with contextlib.suppress(SQLAlchemyError):
                counting.look()
