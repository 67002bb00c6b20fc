"""The gym's own application, on a database that is never the demo's.

`gym.py` alone serves it in the foreground until it is ended; `gym.py WORDS …` runs the command line
on its database, as in `gym.py backup hall.backup`. PINE_LADDER_HOST and PINE_LADDER_PORT say where
it listens, PINE_LADDER_DATA where its data and backups lie.
"""

from __future__ import annotations

import getpass
import os
import socket
import subprocess
import sys

from cluster import ROOT, Cluster, free_port, gym_home

CLI = ROOT / ".venv" / "bin" / "pine-ladder"
HOST, PORT = "127.0.0.1", "8430"


def database() -> Cluster:
    """The gym's server, started where it does not run: on the port it had before, or a free one
    that it keeps.
    """
    server = Cluster(gym_home() / "gym")
    server.start(server.remembered_port())
    return server


def listening(host: str, port: str) -> int:
    """The port to listen on; ends with a sentence where it is none or another program has it."""
    if not port.isdigit() or not 0 < int(port) < 65536:
        sys.exit(f"PINE_LADDER_PORT is a number from 1 to 65535, not {port}.")
    with socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, int(port)))
        except OSError as error:
            sys.exit(
                f"Pine Ladder cannot listen on {host}, port {port}: {error.strerror}. Another "
                f"program may have it. Choose another with PINE_LADDER_PORT, as in "
                f"PINE_LADDER_PORT={free_port()} make serve, or another host with PINE_LADDER_HOST."
            )
    return int(port)


def on(url: str, *words: str) -> int:
    """The command line on a database; its exit code."""
    environment = {**os.environ, "PINE_LADDER_DATABASE_URL": url}
    environment.setdefault("PINE_LADDER_BACKUPS", str(gym_home() / "backups"))
    return subprocess.run([str(CLI), *words], env=environment, check=False).returncode


def set_up_code(url: str) -> str:
    """The code to open a gym with, the same until it is used; empty where one is open."""
    environment = {**os.environ, "PINE_LADDER_DATABASE_URL": url}
    words = [str(CLI), "gym", "code", "--in", str(gym_home() / "set-up-code")]
    made = subprocess.run(words, env=environment, capture_output=True, text=True, check=False)
    return made.stdout.strip()


def service() -> str:
    """A systemd unit for this place and person, and a nightly backup, to be put where it says."""
    python = ROOT / ".venv" / "bin" / "python"
    keep = gym_home() / "backups"
    return f"""\
# Put this into /etc/systemd/system/pine-ladder.service, then:
#   systemctl daemon-reload && systemctl enable --now pine-ladder
# Settings go into lines such as Environment=PINE_LADDER_HOST=0.0.0.0
[Unit]
Description=Pine Ladder
After=network.target

[Service]
User={getpass.getuser()}
WorkingDirectory={ROOT}
ExecStart={python} tools/gym.py
ExecStopPost={python} tools/gym.py stop
Restart=always
RestartSec=3

[Install]
WantedBy=multi-user.target

# The application makes nightly backups itself where the gym asks for them (Gym → Export).
# To another disk or machine as well: a line for `crontab -e` of the same person.
# 15 3 * * * cd {ROOT} && {python} tools/gym.py backup {keep} --keep 30
"""


def serve(url: str) -> None:
    """Become the server, so that whoever ends this ends it."""
    host = os.environ.get("PINE_LADDER_HOST", HOST)
    port = str(listening(host, os.environ.get("PINE_LADDER_PORT", PORT)))
    print(f"▸ Data: {gym_home() / 'gym'} · backups: {gym_home() / 'backups'}", flush=True)
    print(f"▸ Pine Ladder is at  http://{host}:{port}  (Ctrl+C ends it)", flush=True)
    environment = {**os.environ, "PINE_LADDER_DATABASE_URL": url}
    environment.setdefault("PINE_LADDER_BACKUPS", str(gym_home() / "backups"))
    processes = os.environ.get("PINE_LADDER_PROCESSES", "1")
    words = [str(CLI), "serve", "--host", host, "--port", port, "--processes", processes]
    os.execve(CLI, words, environment)


def main() -> None:
    """Serve, or run what is said."""
    words = sys.argv[1:]
    if words[:1] == ["service"]:
        print(service(), end="")
        return
    url = database().url()
    if words[:1] == ["stop"]:
        Cluster(gym_home() / "gym").stop()
        return
    if words[:1] == ["restore"]:
        sys.exit(on(url, *words))
    if code := on(url, "gym", "migrate"):
        sys.exit(code)
    if words:
        sys.exit(on(url, *words))
    if letters := set_up_code(url):
        print(
            f"▸ No gym is open here yet. Open it in the browser with this set-up code: {letters}\n"
            '  or without one: .venv/bin/python tools/gym.py gym open "Our Hall" --coach "Name" '
            "--email coach@example.org --zone Europe/Lisbon"
        )
    serve(url)


if __name__ == "__main__":
    main()
