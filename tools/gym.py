"""The gym's own application, on a database that is never the demo's.

`gym.py` alone serves it in the foreground until it is ended; `gym.py WORDS …` runs the command line
on its database, as in `gym.py backup hall.backup`. PINE_LADDER_HOST and PINE_LADDER_PORT say where
it listens.
"""

from __future__ import annotations

import os
import subprocess
import sys

from cluster import ROOT, Cluster, home

CLI = ROOT / ".venv" / "bin" / "pine-ladder"
DATABASE_PORT = 54320
HOST, PORT = "127.0.0.1", "8430"


def database() -> Cluster:
    """The gym's server, started where it does not run, always on the same port."""
    server = Cluster(home() / "gym")
    server.start(DATABASE_PORT)
    return server


def on(url: str, *words: str) -> int:
    """The command line on a database; its exit code."""
    environment = {**os.environ, "PINE_LADDER_DATABASE_URL": url}
    return subprocess.run([str(CLI), *words], env=environment, check=False).returncode


def serve(url: str) -> None:
    """Become the server, so that whoever ends this ends it."""
    host = os.environ.get("PINE_LADDER_HOST", HOST)
    port = os.environ.get("PINE_LADDER_PORT", PORT)
    print(f"▸ Pine Ladder is at  http://{host}:{port}  (Ctrl+C ends it)", flush=True)
    environment = {**os.environ, "PINE_LADDER_DATABASE_URL": url}
    words = [str(CLI), "serve", "--host", host, "--port", port]
    os.execve(CLI, words, environment)


def main() -> None:
    """Serve, or run what is said."""
    words = sys.argv[1:]
    url = database().url()
    if words[:1] == ["stop"]:
        Cluster(home() / "gym").stop()
        return
    if words[:1] == ["restore"]:
        sys.exit(on(url, *words))
    if code := on(url, "gym", "migrate"):
        sys.exit(code)
    if words:
        sys.exit(on(url, *words))
    if on(url, "gym", "there"):
        print(
            "▸ No gym is set up yet:\n"
            '  .venv/bin/python tools/gym.py gym init "Our Hall" --coach "Name" '
            "--email coach@example.org --zone Europe/Lisbon"
        )
        sys.exit(1)
    serve(url)


if __name__ == "__main__":
    main()
