"""A request that is half sent is not waited for: neither its head nor its body."""

from __future__ import annotations

import asyncio
import socket
import time

import pytest
from shared import Served

from pine_ladder.api import request_limits as bounds
from pine_ladder.api import serving
from pine_ladder.api.request_limits import Bounds

SHORT_S = 0.4


@pytest.fixture
def server(engine, gym, monkeypatch):
    monkeypatch.setattr(serving, "HEAD_S", SHORT_S)
    monkeypatch.setattr(bounds, "BODY_S", SHORT_S)
    served = Served(engine)
    yield served
    served.stop()


def closed_after(server, sent: bytes) -> tuple[float, bytes]:
    """Seconds until the server closes a connection that sent this and no more, and its answer."""
    with socket.create_connection(("127.0.0.1", server.port), 10) as line:
        if sent:
            line.sendall(sent)
        begun, answer = time.monotonic(), b""
        while more := line.recv(4096):
            answer += more
            if b"in time" in answer:
                break
        return time.monotonic() - begun, answer


@pytest.mark.parametrize("sent", [b"", b"GET /api/time HTTP/1.1\r\nHo"])
def test_a_head_that_does_not_arrive_ends_the_connection(server, sent):
    took, answer = closed_after(server, sent)
    assert (SHORT_S / 2 < took < 5, answer) == (True, b"")


def test_the_second_head_of_a_kept_connection_is_bounded_as_well(server):
    whole = b"GET /api/time HTTP/1.1\r\nHost: x\r\n\r\n"
    took, answer = closed_after(server, whole + b"GET /api/ti")
    assert took < 5
    assert answer.startswith(b"HTTP/1.1 200")


def test_a_body_that_does_not_arrive_is_told_in_a_sentence(server):
    head = b"POST /api/sign-in HTTP/1.1\r\nHost: x\r\nContent-Length: 50\r\n\r\n{"
    took, answer = closed_after(server, head)
    assert took < 5
    assert b"408" in answer
    assert b"did not arrive in time" in answer


class Clockwork(asyncio.SelectorEventLoop):
    """An event loop whose clock jumps to its next timer: a busy machine changes nothing."""

    def __init__(self) -> None:
        super().__init__()
        self.now = 0.0
        select = self._selector.select

        def at_once(timeout: float | None = None):
            self.now += timeout or 0.0
            return select(0)

        self._selector.select = at_once  # type: ignore[method-assign]

    def time(self) -> float:
        """Seconds that its timers have asked for so far."""
        return self.now


def test_a_body_that_keeps_coming_is_given_the_time_its_length_takes(monkeypatch):
    """Each kilobyte buys a tenth of a second; a trickle of single bytes buys nothing."""
    monkeypatch.setattr(bounds, "BODY_S", 0.2)

    async def read(chunk: bytes, count: int) -> bytes | int:
        left = count

        async def receive():
            nonlocal left
            await asyncio.sleep(0.05)
            left -= 1
            return {"type": "http.request", "body": chunk, "more_body": left > 0}

        reader = Bounds(None)  # type: ignore[arg-type]
        try:
            return len(await reader._read({"path": "/api/days", "headers": []}, receive))
        except bounds.Refused as refused:
            return refused.status

    with asyncio.Runner(loop_factory=Clockwork) as runner:
        assert runner.run(read(b"x" * 1000, 12)) == 12_000
        assert runner.run(read(b"x", 12)) == 408
