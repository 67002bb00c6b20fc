"""Heart rate straps for trying things out: hearts that were never anybody's, on a local socket.

Every strap sends a value a second to whoever listens, as a gym's receiver would.
"""

from __future__ import annotations

import math
import random
import socketserver
import time
from threading import Event, Thread

from pine_ladder.core.athletes.straps import Measured, frame, to_bytes

HOST = "127.0.0.1"
EVERY_S = 1.0

WORK_S, REST_S = 240.0, 120.0
"""What the hearts go through, again and again."""
RISES_S, FALLS_S = 30.0, 50.0
"""Time in which a heart comes two thirds of the way: quicker up than down (common sense)."""
LOOSE = 0.01
"""Share of seconds in which a strap has lost the skin."""


class Pulse:
    """One made-up heart: each second a step towards what the work asks, with a little noise."""

    def __init__(self, strap: int) -> None:
        self.chance = random.Random(strap)
        self.resting = self.chance.uniform(52, 72)
        self.working = self.chance.uniform(138, 182)
        self.rate = self.resting + 20
        self.late_s = self.chance.uniform(0, WORK_S)

    def beat(self, second: float) -> Measured:
        """The value of a second."""
        works = (second + self.late_s) % (WORK_S + REST_S) < WORK_S
        towards = self.working if works else self.resting + 30
        slow = RISES_S if towards > self.rate else FALLS_S
        self.rate += (towards - self.rate) * (1 - math.exp(-EVERY_S / slow))
        bpm = round(self.rate + self.chance.gauss(0, 1))
        worn = self.chance.random() >= LOOSE
        return Measured(bpm if worn else 0, worn, intervals_s=(60 / bpm,) if worn else ())


class Straps:
    """`count` straps, numbered from 1, that send to everyone who connects."""

    def __init__(self, port: int, count: int) -> None:
        self._over = over = Event()
        pulses = {number: Pulse(number) for number in range(1, count + 1)}

        class Listener(socketserver.BaseRequestHandler):
            def handle(self) -> None:
                """Send until the other side hangs up."""
                while not over.is_set():
                    second = time.time()
                    values = (frame(n, to_bytes(pulse.beat(second))) for n, pulse in pulses.items())
                    try:
                        self.request.sendall(b"".join(values))
                    except OSError:
                        return
                    over.wait(EVERY_S)

        class Server(socketserver.ThreadingTCPServer):
            allow_reuse_address = True
            daemon_threads = True

        self._server = Server((HOST, port), Listener)
        self.port = int(self._server.server_address[1])

    def start(self) -> None:
        """Send, in the background."""
        Thread(target=self._server.serve_forever, daemon=True, name="straps").start()

    def stop(self) -> None:
        """Send no more."""
        self._over.set()
        self._server.shutdown()
        self._server.server_close()
