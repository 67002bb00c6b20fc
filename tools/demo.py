"""Start, restart and stop the demo: database, migrations, demo gym, server.

`demo.py start [--reset]` leaves everything running in the background; `demo.py stop` ends it.
"""

from __future__ import annotations

import argparse
import contextlib
import fcntl
import hashlib
import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

from cluster import ROOT, Cluster, free_port, home, private_log

RUN = ROOT / ".pine"
STATE = RUN / "server.json"
CLI = ROOT / ".venv" / "bin" / "pine-ladder"
USUAL_PORT, USUAL_PAGE = 8420, 8425
PATIENCE_S = 30


def say(text: str) -> None:
    """One line of progress."""
    print(f"▸ {text}", flush=True)


def fingerprint() -> str:
    """Changes whenever the program or the built front end does."""
    digest = hashlib.sha256()
    files = sorted((ROOT / "pine_ladder").rglob("*"))
    for file in [*files, ROOT / "web" / "dist" / "index.html"]:
        if file.is_file() and "__pycache__" not in file.parts:
            digest.update(file.read_bytes())
    return digest.hexdigest()


def running() -> dict[str, object] | None:
    """The server this checkout started, if it still runs."""
    try:
        state: dict[str, object] = json.loads(STATE.read_text())
        command = Path(f"/proc/{state['pid']}/cmdline").read_bytes().decode()
    except (OSError, ValueError, KeyError):
        return None
    return state if str(CLI) in command else None


def stop_server() -> None:
    """End the server and wait until it is gone."""
    state = running()
    if state is None:
        return
    pid = int(str(state["pid"]))
    for stand_in in ("letterbox", "straps"):
        if stand_in in state:
            with contextlib.suppress(ProcessLookupError):
                os.kill(int(str(state[stand_in])), signal.SIGTERM)
    os.kill(pid, signal.SIGTERM)
    for _ in range(100):
        if running() is None:
            return
        time.sleep(0.1)
    os.kill(pid, signal.SIGKILL)


def usual_or_free(usual: int) -> int:
    """The usual port when it is free, so that the address stays the same."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", usual))
        except OSError:
            return free_port()
    return usual


def healthy(port: int) -> bool:
    """True when the server answers."""
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=2) as answer:
            return bool(answer.status == 200)
    except OSError:
        return False


def answers(port: int) -> bool:
    """True when something listens there."""
    with socket.socket() as probe:
        probe.settimeout(1)
        return probe.connect_ex(("127.0.0.1", port)) == 0


def start_letterbox() -> dict[str, int]:
    """Start the mail server that keeps every letter; its process, its port, and its page's."""
    ports = {"mail": free_port(), "page": usual_or_free(USUAL_PAGE)}
    with private_log(RUN / "mail.log") as log:
        process = subprocess.Popen(
            [str(CLI), "mail", "--port", str(ports["mail"]), "--page", str(ports["page"]),
             "--folder", str(RUN / "letters")],
            cwd=ROOT, stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True,
        )  # fmt: skip
    for _ in range(PATIENCE_S * 5):
        if answers(ports["page"]):
            return {"letterbox": process.pid, **ports}
        time.sleep(0.2)
    sys.exit(f"the letterbox did not come up; see {RUN / 'mail.log'}")


def start_straps() -> dict[str, int]:
    """Start the made-up heart rate straps; their process and port."""
    port = free_port()
    with private_log(RUN / "straps.log") as log:
        process = subprocess.Popen(
            [str(CLI), "straps", "--port", str(port)],
            cwd=ROOT, stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True,
        )  # fmt: skip
    return {"straps": process.pid, "straps_port": port}


def start_server(environment: dict[str, str], mark: str) -> dict[str, int]:
    """Start the server, its letterbox and straps in the background and wait until it answers; their
    ports.
    """
    port = usual_or_free(USUAL_PORT)
    box = {**start_letterbox(), **start_straps()}
    environment = {
        **environment,
        "PINE_LADDER_SMTP": f"smtp://127.0.0.1:{box['mail']}",
        "PINE_LADDER_STRAPS": f"127.0.0.1:{box['straps_port']}",
        "PINE_LADDER_MAIL_FROM": "hall@kittiwake.example",
    }
    with private_log(RUN / "server.log") as log:
        process = subprocess.Popen(
            [str(CLI), "serve", "--port", str(port)],
            env=environment, cwd=ROOT, stdin=subprocess.DEVNULL, stdout=log, stderr=log,
            start_new_session=True,
        )  # fmt: skip
    STATE.write_text(json.dumps({"pid": process.pid, "port": port, "mark": mark, **box}))
    for _ in range(PATIENCE_S * 5):
        if healthy(port):
            return {"port": port, **box}
        if process.poll() is not None:
            break
        time.sleep(0.2)
    sys.exit(f"the server did not come up; see {RUN / 'server.log'}")


def start(over: bool) -> None:
    """Bring everything up and say where it is."""
    say("Starting PostgreSQL")
    url = Cluster(home() / "postgres").start()
    environment = {**os.environ, "PINE_LADDER_DATABASE_URL": url}
    say("Bringing the database up to date")
    subprocess.run([str(CLI), "gym", "migrate"], env=environment, check=True)
    say("Loading the demo gym")
    if over:
        for letter in (RUN / "letters").glob("*/*"):
            letter.unlink(missing_ok=True)
    reset = ["--reset"] if over else []
    subprocess.run([str(CLI), "gym", "demo", *reset], env=environment, check=True)
    mark = fingerprint() + url
    state = running()
    if state and state.get("mark") == mark and healthy(int(str(state["port"]))):
        ports = {"port": int(str(state["port"])), "page": int(str(state["page"]))}
    else:
        stop_server()
        say("Starting the server")
        ports = start_server(environment, mark)
    print(
        f"\nPine Ladder is at  http://127.0.0.1:{ports['port']}\n"
        f"Its letters are at  http://127.0.0.1:{ports['page']}  (none is sent on)\n\n"
        "  coach    coach@kittiwake.example   lifeboat-slipway\n"
        "  athlete  ada@kittiwake.example     lifeboat-slipway\n\n"
        "The front page also offers sign-in with one click. make stop ends it,\n"
        "make demo-reset starts the demo gym over."
    )


def main() -> None:
    """One start or stop at a time."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("action", choices=["start", "stop"])
    parser.add_argument("--reset", action="store_true")
    arguments = parser.parse_args()
    RUN.mkdir(exist_ok=True)
    with open(RUN / "demo.lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if arguments.action == "stop":
            stop_server()
            Cluster(home() / "postgres").stop()
            say("Stopped")
        else:
            start(arguments.reset)


if __name__ == "__main__":
    main()
