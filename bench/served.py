"""The application in a process of its own, on a throw-away database, for measuring."""

from __future__ import annotations

import datetime as dt
import json
import os
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from cluster import ROOT, Cluster, free_port
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from pine_ladder.demo import load_demo
from pine_ladder.store.database import DATABASE_URL, connect, migrate


class Site:
    """A running application, signed in as the demo's coach."""

    def __init__(self, base: str, engine: Engine) -> None:
        self.base, self.engine = base, engine
        self.headers: dict[str, str] = {}
        answer = self.send("POST", "/api/demo/sign-in", {"person_id": 1})
        self.headers["Cookie"] = "; ".join(
            cookie.split(";")[0] for cookie in answer.headers.get_all("Set-Cookie", [])
        )
        self.headers["X-Pine-Guard"] = json.load(answer)["guard"]

    def send(self, method: str, path: str, body: object = None):
        """One request; raises where it is refused."""
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", **self.headers}
        request = urllib.request.Request(self.base + path, data, headers, method=method)
        return urllib.request.urlopen(request, timeout=60)


@contextmanager
def throw_away() -> Iterator[str]:
    """An empty database with the newest schema, until the block ends."""
    with tempfile.TemporaryDirectory(prefix="pine-ladder-bench-") as folder:
        Path(folder).chmod(0o755)
        database = Cluster(Path(folder) / "postgres", durable=False)
        try:
            url = database.start()
            migrate(url)
            yield url
        finally:
            database.destroy()


@contextmanager
def served() -> Iterator[Site]:
    """The demo gym, served until the block ends."""
    with tempfile.TemporaryDirectory(prefix="pine-ladder-bench-") as folder:
        Path(folder).chmod(0o755)
        database = Cluster(Path(folder) / "postgres", durable=False)
        url = database.start()
        port = free_port()
        server = None
        engine = connect(url, patient=True)
        try:
            migrate(url)
            with Session(engine) as db, db.begin():
                load_demo(db, dt.date.today())
            server = subprocess.Popen(
                [ROOT / ".venv" / "bin" / "pine-ladder", "serve", "--port", str(port)],
                env={**os.environ, DATABASE_URL: url},
            )
            base = f"http://127.0.0.1:{port}"
            for _ in range(900):
                try:
                    urllib.request.urlopen(f"{base}/api/health", timeout=5)
                    break
                except urllib.error.URLError:
                    time.sleep(0.1)
            yield Site(base, engine)
        finally:
            if server:
                server.terminate()
                server.wait(10)
            engine.dispose()
            database.stop()
