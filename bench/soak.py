"""A long class: 12 tablets that tap, 50 screens, 300 streams; server and database killed once each.

`make soak` runs it for an hour, `make soak MINUTES=6` for less. It stops by itself, speaks to this
machine alone, and fails where a tap is lost, a stream does not come back, or the server's memory
grows by more than 5 % after a sixth of the time.
"""

from __future__ import annotations

import asyncio
import datetime as dt
import json
import os
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from cluster import ROOT, Cluster, free_port
from served import Site
from sqlalchemy.orm import Session

from pine_ladder.demo import load_demo
from pine_ladder.store.database import DATABASE_URL, connect, migrate

TABLETS, SCREENS, STREAMS = 12, 50, 300
TAP_S = float(os.environ.get("TAP_S", "6"))
"""Seconds between the taps of a tablet; TAP_S=1 makes a short run as long as a class."""
MOST_GROWTH = 0.05
MEMORY_TOLD = 30
"""Readings of the memory that are printed, spread over the run."""
HOST = "127.0.0.1"


@dataclass
class Tally:
    """What happened: taps entered and landed, streams open, messages heard."""

    tapped: int = 0
    landed: int = 0
    open: int = 0
    most_open: int = 0
    heard: int = 0
    memory: list[tuple[float, int]] = field(default_factory=list)


class Server:
    """The application as a process that can be killed and started again on its port."""

    def __init__(self, url: str) -> None:
        self.url, self.port = url, free_port()
        self.base = f"http://{HOST}:{self.port}"
        self.start()

    def start(self) -> None:
        """Serve; a stopped database does not keep it from starting."""
        self.process = subprocess.Popen(
            [ROOT / ".venv" / "bin" / "pine-ladder", "serve", "--port", str(self.port)],
            env={**os.environ, DATABASE_URL: self.url},
        )

    def memory_kb(self) -> int:
        """Resident memory of the process."""
        status = Path(f"/proc/{self.process.pid}/status").read_text()
        line = next(line for line in status.splitlines() if line.startswith("VmRSS"))
        return int(line.split()[1])

    def kill(self) -> None:
        """End it as a power cut would."""
        self.process.kill()
        self.process.wait(10)


async def request(server: Server, head: str, body: bytes = b"") -> tuple[int, bytes]:
    """One request on a connection of its own; OSError while the server is away."""
    reader, writer = await asyncio.open_connection(HOST, server.port)
    try:
        writer.write(head.encode() + b"\r\n" + body)
        await writer.drain()
        async with asyncio.timeout(20):
            answer = await reader.read()
        status = int(answer.split(b" ", 2)[1]) if answer else 0
        return status, answer.partition(b"\r\n\r\n")[2]
    finally:
        writer.close()


def head(server: Server, method: str, path: str, site: Site | None, length: int = 0) -> str:
    """The head of a request, signed in where a site is given."""
    lines = [f"{method} {path} HTTP/1.1", f"Host: {HOST}:{server.port}", "Connection: close"]
    if site is not None:
        lines += [f"{name}: {value}" for name, value in site.headers.items()]
    if length:
        lines += ["Content-Type: application/json", f"Content-Length: {length}"]
    return "\r\n".join(lines) + "\r\n"


async def listen(server: Server, path: str, site: Site | None, until: float, tally: Tally) -> None:
    """Hold a stream open, and come back where it was lost, until the end."""
    while time.monotonic() < until:
        try:
            reader, writer = await asyncio.open_connection(HOST, server.port)
        except OSError:
            await asyncio.sleep(1)
            continue
        counted = False
        try:
            writer.write((head(server, "GET", path, site) + "\r\n").encode())
            await writer.drain()
            while time.monotonic() < until:
                async with asyncio.timeout(40):
                    line = await reader.readline()
                if not line:
                    break
                if line.startswith(b"event:"):
                    tally.heard += 1
                    if not counted:
                        counted, tally.open = True, tally.open + 1
                        tally.most_open = max(tally.most_open, tally.open)
        except (OSError, TimeoutError):
            pass
        finally:
            tally.open -= counted
            writer.close()
        await asyncio.sleep(0.5)


async def tap(
    server: Server, site: Site, number: int, path: str, until: float, tally: Tally
) -> None:
    """A tablet: a round every few seconds, sent again with its key until it has landed."""
    count = 0
    people = json.load(site.send("GET", "/api/athletes"))
    while time.monotonic() < until:
        count += 1
        tally.tapped += 1
        note: dict[str, Any] = {
            "key": f"soak-{number}-{count:06d}",
            "person_id": people[(number + count) % len(people)]["id"],
            "round": 1 + count % 6,
            "number": 60 + count % 40,
            "noted_at": dt.datetime.now(dt.UTC).isoformat(),
        }
        body = json.dumps({"jots": [note]}).encode()
        landed = False
        while not landed and time.monotonic() < until + 30:
            try:
                status, _ = await request(server, head(server, "POST", path, site, len(body)), body)
                landed = status == 200
            except (OSError, TimeoutError):
                pass
            if not landed:
                await asyncio.sleep(1)
        tally.landed += landed
        await asyncio.sleep(TAP_S)


async def soak(server: Server, database: Cluster, site: Site, minutes: float) -> Tally:
    """The whole class; server and database are killed in its first sixth."""
    tally, begun = Tally(), time.monotonic()
    until = begun + 60 * minutes
    today = dt.date.today()
    pieces = json.load(site.send("GET", f"/api/days/{today}/pieces"))
    path = f"/api/days/{today}/pieces/{pieces[-1]['key']}/jots"
    walls = [
        json.load(site.send("POST", "/api/walls", {"name": f"Screen {n}"}))["token"]
        for n in range(SCREENS)
    ]
    work = [listen(server, f"/api/wall/{token}/live", None, until, tally) for token in walls]
    work += [listen(server, "/api/live", site, until, tally) for _ in range(STREAMS - SCREENS)]
    work += [tap(server, site, n, path, until, tally) for n in range(TABLETS)]

    async def trouble() -> None:
        await asyncio.sleep(60 * minutes / 15)
        server.kill()
        await asyncio.sleep(3)
        server.start()
        await asyncio.sleep(60 * minutes / 15)
        port = int(database.port_file.read_text())
        await asyncio.to_thread(database.kill)
        await asyncio.sleep(3)
        await asyncio.to_thread(database.start, port)

    async def watch() -> None:
        while time.monotonic() < until:
            await asyncio.sleep(min(10, 60 * minutes / 20))
            try:
                tally.memory.append((time.monotonic() - begun, server.memory_kb()))
            except (OSError, StopIteration):
                continue

    await asyncio.gather(*work, trouble(), watch())
    return tally


def main() -> int:
    """Run it and tell what came of it."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 60.0
    with tempfile.TemporaryDirectory(prefix="pine-ladder-soak-") as folder:
        Path(folder).chmod(0o755)
        database = Cluster(Path(folder) / "postgres", durable=True)
        url = database.start()
        migrate(url)
        engine = connect(url, patient=True)
        with Session(engine) as db, db.begin():
            load_demo(db, dt.date.today(), weeks=3)
        server = Server(url)
        try:
            for _ in range(300):
                try:
                    site = Site(server.base, engine)
                    break
                except OSError:
                    time.sleep(0.2)
            tally = asyncio.run(soak(server, database, site, minutes))
        finally:
            server.kill()
            engine.dispose()
            database.destroy()
    settled = [kb for at, kb in tally.memory if at > 60 * minutes / 6]
    first, last = settled[0], max(settled[-3:])
    growth = last / first - 1
    print(f"{minutes:g} min: {tally.landed} of {tally.tapped} taps landed, at most")
    print(f"{tally.most_open} of {STREAMS} streams open at once, {tally.heard} messages heard")
    grown = f"{first / 1024:.0f} MB after a sixth, {last / 1024:.0f} MB at the end: {growth:+.1%}"
    print(f"memory {grown}")
    every = max(1, len(tally.memory) // MEMORY_TOLD)
    print("MB: " + " ".join(f"{kb / 1024:.0f}" for _, kb in tally.memory[::every]))
    well = tally.landed == tally.tapped and tally.most_open == STREAMS and growth <= MOST_GROWTH
    print("well" if well else "not well")
    return 0 if well else 1


if __name__ == "__main__":
    sys.exit(main())
