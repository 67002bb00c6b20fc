"""Under a path of its host, behind nginx: every address of every page begins with it."""

from __future__ import annotations

import re
import subprocess
import time
import urllib.request
from collections.abc import Iterator
from urllib.error import URLError

import pytest
from cluster import free_port
from playwright.sync_api import expect
from shared import NGINX, NGINX_FRAME, TODAY

PATIENCE_S = 60
SERVER = """server {{ listen 127.0.0.1:{port};
location /ladder/ {{ proxy_pass {behind}/; proxy_set_header Host $http_host;
proxy_set_header X-Forwarded-Prefix /ladder; proxy_buffering off; }} }}"""


@pytest.fixture
def under(base: str, tmp_path, monkeypatch) -> Iterator[str]:
    """The address of the running application under a path, as nginx serves it."""
    assert NGINX, "nginx is not installed: make setup installs it for the tests"
    monkeypatch.setenv("PINE_LADDER_PROXIES", "127.0.0.1")
    port, config = free_port(), tmp_path / "nginx.conf"
    server = SERVER.format(port=port, behind=base)
    config.write_text(NGINX_FRAME.format(folder=tmp_path, server=server))
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    nginx = subprocess.Popen([NGINX, "-p", tmp_path, "-c", config], **quiet)
    address = f"http://127.0.0.1:{port}/ladder"
    try:
        end = time.monotonic() + PATIENCE_S
        while not answers(f"{address}/api/health"):
            assert time.monotonic() < end, (tmp_path / "error.log").read_text()
            time.sleep(0.1)
        yield address
    finally:
        nginx.terminate()
        nginx.wait(20)


def answers(address: str) -> bool:
    try:
        return urllib.request.urlopen(address, timeout=5).status == 200
    except URLError:
        return False


def test_pages_news_files_and_the_offline_program_stay_under_the_path(visit_at, under):
    page = visit_at(under).enter("Maren Tolle", at=f"/week/{TODAY}", service_workers="allow")
    page.locator(".Week_days").wait_for()
    page.get_by_role("link", name="Bests", exact=True).click()
    expect(page).to_have_url(re.compile(r"/ladder/bests"))
    expect(page.locator("main h1")).to_be_visible()
    # A page that is loaded anew in the middle of the program finds its scripts, and the way back.
    page.reload()
    expect(page.locator("main h1")).to_be_visible()
    page.go_back()
    page.locator(".Week_days").wait_for()
    page.goto(f"{under}/gym#export")
    everything = page.get_by_role("link", name="All records")
    expect(everything).to_have_attribute("href", "/ladder/api/everything")
    # The program that works without a network is kept for this path alone.
    scope = page.evaluate("navigator.serviceWorker.ready.then((it) => it.scope)")
    assert scope == f"{under}/"
    page.context.set_offline(True)
    page.goto(f"{under}/week/{TODAY}")
    expect(page).to_have_title(re.compile("^Week"))
    page.context.set_offline(False)
