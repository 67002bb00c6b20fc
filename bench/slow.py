"""A phone on a slow network: what is seen when, of a first visit and of the next.

The network is of 150 ms and 1.6 Mbit/s, the processor a quarter as quick: what measuring tools for
pages call a slow phone (from memory).
"""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Iterator
from statistics import median
from typing import NamedTuple

from playwright.sync_api import BrowserContext, Page, sync_playwright
from served import Site
from shared import PHONE, chromium_path

LATENCY_MS, DOWN_BIT, UP_BIT, SLOWER = 150, 1_638_400, 750_000, 4
ARGS = (
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
)
VISITS = 3
WORKER_MS = 15_000
"""Time in which the worker fetches what it keeps."""
FIRST_PAINT = "performance.getEntriesByName('first-paint')[0]?.startTime"
WATCH = """() => {
  window.seen = {};
  const look = () => {
    for (const [name, what] of [['header', 'header'], ['day', '.Board_piece']]) {
      const found = document.querySelector(what);
      if (!window.seen[name] && found && found.getBoundingClientRect().height > 20) {
        window.seen[name] = performance.now();
      }
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}"""


class Seen(NamedTuple):
    """Milliseconds from the address to the first paint, the header, and the day to read."""

    visit: str
    first: float
    header: float
    day: float


def _slowly(context: BrowserContext, page: Page) -> None:
    talk = context.new_cdp_session(page)
    talk.send("Network.enable")
    talk.send(
        "Network.emulateNetworkConditions",
        {
            "offline": False,
            "latency": LATENCY_MS,
            "downloadThroughput": DOWN_BIT / 8,
            "uploadThroughput": UP_BIT / 8,
        },
    )
    talk.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})


def _look(page: Page, address: str, visit: str) -> Seen:
    page.add_init_script(f"({WATCH})()")
    page.goto(address, wait_until="commit")
    page.wait_for_selector(".Board_piece", timeout=60_000)
    page.wait_for_timeout(500)
    seen = page.evaluate("window.seen")
    return Seen(visit, float(page.evaluate(FIRST_PAINT) or 0), seen["header"], seen["day"])


def _median(seen: list[Seen]) -> Seen:
    return Seen(seen[0].visit, *(median(one[at] for one in seen) for at in (1, 2, 3)))


def visits(site: Site) -> Iterator[Seen]:
    """An athlete's day: the medians of some first visits, and of visits that the worker serves."""
    door = json.load(site.send("GET", "/api/front-door"))["people"]
    athlete = next(one["id"] for one in door if one["role"] == "athlete")
    address = f"{site.base}/me/{dt.date.today()}"
    first, again = list[Seen](), list[Seen]()
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=list(ARGS))
        for _ in range(1 + VISITS):
            context = browser.new_context(viewport=PHONE, has_touch=True)
            context.request.post(f"{site.base}/api/demo/sign-in", data={"person_id": athlete})
            page = context.new_page()
            _slowly(context, page)
            first.append(_look(page, address, "a phone's first visit"))
            page.evaluate("navigator.serviceWorker.ready.then(() => true)")
            page.wait_for_timeout(WORKER_MS)
            page.close()
            page = context.new_page()
            _slowly(context, page)
            again.append(_look(page, address, "its next visits"))
            context.close()
        browser.close()
    # The first of them finds a server that has answered nobody yet.
    yield _median(first[1:])
    yield _median(again[1:])


def report(site: Site) -> None:
    """Print what is seen when."""
    for one in visits(site):
        told = f"first frame {one.first:.0f}, header {one.header:.0f}, day {one.day:.0f} ms"
        print(f"{one.visit + ' on a slow network':58} {told}")
