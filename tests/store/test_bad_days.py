"""Bad days: the application killed, the power cut, while scores are written."""

from __future__ import annotations

import http.client
import io
import json
import os
import signal
import subprocess
import tempfile
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from email.message import Message
from pathlib import Path

from cluster import ROOT, Cluster, free_port, private_log
from shared import PASSWORD, TODAY, small_gym
from sqlalchemy import text

from pine_ladder.store.database import DATABASE_URL, connect, migrate
from pine_ladder.store.people.people import hash_password

ATHLETES = ("Anna", "Bert", "Dora", "Emma")
WRITES = 250
"""To each athlete's cell, one after the other: a thousand in all."""
KILLS = {150: "app", 300: "database", 500: "app", 700: "database", 850: "app"}
"""What is killed once so many writes have been confirmed."""
PATIENCE_S = 120
BOARD = "# Neap\n\n## Conditioning: AMRAP 12:00\n10 push-up\n"


class Application:
    """The served application as a process of its own, killed and started on one port."""

    def __init__(self, url: str, folder: Path) -> None:
        self.url, self.folder, self.port = url, folder, free_port()
        self.base = f"http://127.0.0.1:{self.port}"
        self.start()

    def start(self) -> None:
        """Serve; who comes too early is told that nobody answers, and tries again."""
        with private_log(self.folder / "server.log") as log:
            self.process = subprocess.Popen(
                [ROOT / ".venv" / "bin" / "pine-ladder", "serve", "--port", str(self.port)],
                env={**os.environ, DATABASE_URL: self.url},
                stdout=log,
                stderr=log,
            )

    def kill(self) -> None:
        """End it without a chance to finish anything."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()


class Answer(io.BytesIO):
    """An answer that has arrived whole, with its headers."""

    def __init__(self, content: bytes, headers: Message) -> None:
        super().__init__(content)
        self.headers = headers


class Caller:
    """A browser of the coach's: sends, and sends the same again until it is answered."""

    def __init__(self, base: str) -> None:
        self.base, self.headers = base, {"content-type": "application/json"}
        self.tries = 0
        form = {"email": "carla@test.example", "password": PASSWORD}
        answer = self.send("POST", "/api/sign-in", form)
        cookies = answer.headers.get_all("Set-Cookie", [])
        self.headers["cookie"] = "; ".join(one.split(";")[0] for one in cookies)
        self.headers["x-pine-guard"] = json.load(answer)["guard"]

    def send(self, method: str, path: str, body: object):
        """The answer, however often it must be asked for; a refusal is raised."""
        data = None if body is None else json.dumps(body).encode()
        end = time.monotonic() + PATIENCE_S
        while True:
            self.tries += 1
            request = urllib.request.Request(self.base + path, data, self.headers, method=method)
            try:
                with urllib.request.urlopen(request, timeout=10) as answer:
                    return Answer(answer.read(), answer.headers)
            except urllib.error.HTTPError as refusal:
                if refusal.code < 500:
                    raise AssertionError((path, body, refusal.read())) from None
            except (OSError, http.client.HTTPException):
                pass  # Nobody answers, or the answer broke off.
            if time.monotonic() > end:
                raise TimeoutError(path)
            time.sleep(0.1)


def write_in_order(base: str, path: str, done: Callable[[], None], faults: list[object]) -> None:
    """Every write to one cell follows from the one before."""
    try:
        caller = Caller(base)
        version = 0
        for number in range(1, WRITES + 1):
            body = {
                "entered": f"{number % 20}+{number % 9}",
                "tier": 0,
                "track": 0,
                "version": version,
                "request_key": f"{path[-12:]}-write-{number:04}".replace("/", "-"),
            }
            version = json.load(caller.send("PUT", path, body))["version"]
            done()
    except BaseException as fault:
        faults.append(fault)


def a_clock_that_runs(coach: Caller, day: str) -> dict[str, object]:
    """The clock of a class on the board's piece, started, with where it is asked for."""
    coach.send("PUT", f"{day}/published", {"published": True, "version": 1, "despite": False})
    held = json.load(coach.send("PUT", f"{day}/classes/06:30", {}))
    path = f"/api/classes/{held['id']}/clock"
    loaded = json.load(coach.send("POST", path, {"key": "1", "step": 0}))
    started = json.load(coach.send("POST", path, {"press": "start", "step": loaded["step"]}))
    assert started["began"]
    return {**started, "path": path}


def a_full_class(coach: Caller, day: str, people: dict[str, int]) -> None:
    """One who has a place, and one who waits."""
    coach.send("PUT", f"{day}/classes/18:00/plan", {"version": 0, "size": 1})
    for name in ("Anna", "Bert"):
        signed = {"person_id": people[name], "coming": True}
        coach.send("PUT", f"{day}/classes/18:00/place", signed)


def still_there(coach: Caller, day: str, clock: dict[str, object], people: dict[str, int]) -> None:
    """Who signed in before still is, the clock runs on, and the line stands."""
    after = json.load(coach.send("GET", str(clock["path"]), None))
    kept = ("key", "began", "step")
    assert [after[key] for key in kept] == [clock[key] for key in kept]
    filling = json.load(coach.send("GET", f"{day}/places", None))
    evening = next(one for one in filling if one["start"] == "18:00:00")
    assert [one["id"] for one in evening["coming"]] == [people["Anna"]]
    assert [one["id"] for one in evening["waiting"]] == [people["Bert"]]


def test_a_thousand_scores_land_once_each_while_everything_is_killed():
    folder = Path(tempfile.mkdtemp(prefix="pine-ladder-bad-days-"))
    folder.chmod(0o755)
    server = Cluster(folder / "postgres")
    app = None
    try:
        url = server.start()
        port = int(server.port_file.read_text())
        migrate(url)
        engine = connect(url)
        people = small_gym(engine, hash_password(PASSWORD))
        app = Application(url, folder)
        day = f"/api/days/{TODAY.isoformat()}"
        coach = Caller(app.base)
        coach.send("PUT", day, {"text": BOARD, "version": 0})
        clock = a_clock_that_runs(coach, day)
        a_full_class(coach, day, people)
        confirmed = threading.Semaphore(0)
        faults: list[object] = []
        paths = [f"{day}/pieces/1/scores/{people[name]}" for name in ATHLETES]
        writers = [
            threading.Thread(
                target=write_in_order, args=(app.base, path, confirmed.release, faults), daemon=True
            )
            for path in paths
        ]
        for writer in writers:
            writer.start()
        killed = []
        for count in range(1, WRITES * len(ATHLETES) + 1):
            while not confirmed.acquire(timeout=1):
                assert not faults, faults
            if what := KILLS.get(count):
                killed.append(what)
                if what == "app":
                    app.kill()
                    app.start()
                else:
                    server.kill()
                    server.start(port)
        for writer in writers:
            writer.join()
        assert (killed.count("app"), killed.count("database"), faults) == (3, 2, [])
        still_there(coach, day, clock, people)
        engine.dispose()
        with engine.connect() as db:
            rows = db.execute(text("select person_id, entered, version from score")).all()
            trail = db.execute(
                text("select person_id, after->>'entered' from score_trail order by id")
            ).all()
        last = f"{WRITES % 20}+{WRITES % 9}"
        assert {tuple(row) for row in rows} == {(people[n], last, WRITES) for n in ATHLETES}
        for name in ATHLETES:
            # Each write is there once, in the order it was made.
            told = [entered for person, entered in trail if person == people[name]]
            assert told == [f"{n % 20}+{n % 9}" for n in range(1, WRITES + 1)]
        engine.dispose()
    finally:
        if app is not None:
            app.kill()
        server.destroy()


def test_logs_are_private_to_their_owner():
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "server.log"
        path.write_text("before\n")
        path.chmod(0o644)
        with private_log(path) as log:
            log.write("after\n")
        assert path.stat().st_mode & 0o777 == 0o600
        assert path.read_text() == "before\nafter\n"
