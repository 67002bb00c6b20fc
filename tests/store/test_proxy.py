"""Behind nginx, as the page on running a gym sets it up: two processes, with TLS and without, on
ports of their own, and under a path of the host.
"""

from __future__ import annotations

import http.client
import json
import os
import re
import ssl
import subprocess
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from cluster import ROOT, free_port
from shared import NGINX, NGINX_FRAME, PASSWORD, TODAY, small_gym

from pine_ladder.store.database import DATABASE_URL, connect, migrate

PAGE = ROOT / "docs" / "running-a-gym.md"
HOST = "gym.example"
PUBLIC = f"https://{HOST}"
PREFIX = "/ladder"
PATIENCE_S = 60


def server_block(folder: Path, port: int, behind: int, tls: bool, prefix: str = "") -> str:
    """The page's own words, with this machine's ports and certificate in them."""
    page = PAGE.read_text("utf-8")
    server = re.search(r"^server \{.*?^\}", page, re.S | re.M)
    under = re.search(r"^    location (/\w+)/ \{\n.*?(?=^```)", page, re.S | re.M)
    assert server and under, "the page shows how nginx is set up"
    words = server[0]
    if prefix:
        assert under[1] == prefix
        words = re.sub(r"    location / \{\n.*?\n", under[0], words, count=1)
    words = words.replace("127.0.0.1:8430", f"127.0.0.1:{behind}")
    words = words.replace("listen 443 ssl http2", f"listen 127.0.0.1:{port}{' ssl http2' * tls}")
    words = words.replace("/etc/ssl/gym.", f"{folder}/gym.")
    if not tls:
        words = re.sub(r"^ *ssl_certificate.*\n", "", words, flags=re.M)
    return words


def certificate(folder: Path) -> None:
    made = [
        "openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2",
        "-keyout", folder / "gym.key", "-out", folder / "gym.pem", "-subj", f"/CN={HOST}",
        "-addext", f"subjectAltName=DNS:{HOST},IP:127.0.0.1",
    ]  # fmt: skip
    subprocess.run(made, check=True, capture_output=True)


class Outside:
    """Somebody who knows the gym's public address alone."""

    def __init__(self, port: int, pem: Path | None, prefix: str = "") -> None:
        self.port, self.prefix = port, prefix
        self.origin = f"http{'s' * bool(pem)}://{HOST}:{port}"
        self.safe = ssl.create_default_context(cafile=str(pem)) if pem else None
        self.headers = {
            "Host": f"{HOST}:{port}",
            "Origin": self.origin,
            "Content-Type": "application/json",
        }

    def open(self) -> http.client.HTTPConnection:
        if self.safe is None:
            return http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
        return http.client.HTTPSConnection("127.0.0.1", self.port, timeout=30, context=self.safe)

    def ask(self, method: str, path: str, body: object = None):
        link = self.open()
        data = None if body is None else json.dumps(body)
        link.request(method, self.prefix + path, data, self.headers)
        answer = link.getresponse()
        answer.said = json.loads(answer.read() or "null")
        return answer


@pytest.fixture(params=["TLS", "plain", "under a path"])
def outside(request, behind) -> Outside:
    folder, with_tls, plain, under = behind
    if request.param == "TLS":
        return Outside(with_tls, folder / "gym.pem")
    return Outside(plain, None) if request.param == "plain" else Outside(under, None, PREFIX)


@pytest.fixture(scope="module")
def behind(database_url, password_hash, tmp_path_factory) -> Iterator[tuple[Path, int, int, int]]:
    """nginx on three ports, with TLS, without, and with the application under a path, in front of
    two processes; its folder and ports.
    """
    assert NGINX, "nginx is not installed: make setup installs it for the tests"
    folder = tmp_path_factory.mktemp("proxy")
    url = f"{database_url}_behind"
    admin = database_url.replace("postgresql+psycopg", "postgresql")
    with psycopg.connect(admin, autocommit=True) as db:
        db.execute("create database pine_ladder_behind")
    migrate(url)
    engine = connect(url)
    small_gym(engine, password_hash)
    engine.dispose()
    app, ports = free_port(), (free_port(), free_port(), free_port())
    certificate(folder)
    servers = [
        server_block(folder, ports[0], app, True),
        server_block(folder, ports[1], app, False),
        server_block(folder, ports[2], app, False, PREFIX),
    ]
    config = folder / "nginx.conf"
    config.write_text(NGINX_FRAME.format(folder=folder, server="\n".join(servers)))
    environment = {
        **os.environ,
        DATABASE_URL: url,
        "PINE_LADDER_PROXIES": "127.0.0.1",
        "PINE_LADDER_PUBLIC_URL": PUBLIC,
    }
    serve = [ROOT / ".venv/bin/pine-ladder", "serve", "--port", str(app), "--processes", "2"]
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    running = [
        subprocess.Popen(serve, env=environment, **quiet),
        subprocess.Popen([NGINX, "-p", folder, "-c", config], **quiet),
    ]
    try:
        end = time.monotonic() + PATIENCE_S
        while not up(Outside(ports[1], None)):
            assert time.monotonic() < end, (folder / "error.log").read_text()
            time.sleep(0.2)
        yield folder, *ports
    finally:
        for one in running:
            one.terminate()
        for one in running:
            one.wait(20)


def up(outside: Outside) -> bool:
    try:
        return bool(outside.ask("GET", "/api/health").status == 200)
    except (OSError, ValueError):
        return False


def test_signing_in_writing_links_and_live_news_go_through_the_proxy(outside):
    form = {"email": "carla@test.example", "password": PASSWORD}
    inside = outside.ask("POST", "/api/sign-in", form)
    assert inside.status == 200, inside.said
    cookies = inside.headers.get_all("Set-Cookie")
    assert all(("Secure" in one) == bool(outside.safe) for one in cookies)
    assert bool(inside.headers["Strict-Transport-Security"]) == bool(outside.safe)
    outside.headers["Cookie"] = "; ".join(one.split(";")[0] for one in cookies)
    outside.headers["X-Pine-Guard"] = inside.said["guard"]

    # A link is at the public address, whatever the application is called behind the proxy.
    people = outside.ask("GET", "/api/people").said
    anna = next(one["id"] for one in people if one["name"] == "Anna Test")
    link = outside.ask("POST", f"/api/people/{anna}/link").said
    assert link["shown"]["address"] == f"{PUBLIC}{link['path']}"

    # News arrive at once: nothing on the way keeps them back.
    live = outside.open()
    live.request("GET", f"{outside.prefix}/api/live", headers=outside.headers)
    stream = live.getresponse()
    heard: list[str] = []
    told = threading.Event()

    def hear() -> None:
        for line in stream:
            heard.append(line.decode().strip())
            if "event: day" in heard[-1]:
                told.set()
                return

    threading.Thread(target=hear, daemon=True).start()
    while not heard:
        time.sleep(0.05)
    there = outside.ask("GET", f"/api/days/{TODAY}").said
    body = {"text": there["text"] + "# Neap\n", "version": there["version"]}
    began = time.monotonic()
    assert outside.ask("PUT", f"/api/days/{TODAY}", body).status == 200
    assert told.wait(10), heard
    assert time.monotonic() - began < 10
    live.close()

    # Another site's page writes nothing, though it is sent through the same proxy.
    outside.headers["Origin"] = "https://elsewhere.example"
    assert outside.ask("POST", "/api/sign-in", form).status == 403
    outside.headers["Origin"] = outside.origin
    # Who knocks too often is told by their own address, not by the proxy's.
    outside.headers["X-Forwarded-For"] = "203.0.113.9"
    assert outside.ask("GET", "/api/me").status == 200


def test_a_page_counts_its_addresses_from_where_the_application_is(outside):
    for path in ("/", "/week/2026-03-02", "/wall/some-screen"):
        link = outside.open()
        link.request("GET", outside.prefix + path, headers=outside.headers)
        answer = link.getresponse()
        page = answer.read().decode()
        assert answer.status == 200, page
        assert f'<base href="{outside.prefix}/" />' in page
        script = re.search(r'src="\./(assets/[^"]+\.js)"', page)
        assert script, page
        link.request("GET", f"{outside.prefix}/{script[1]}", headers=outside.headers)
        assert link.getresponse().status == 200
        link.close()
