"""Pictures of the main views from the running demo: `shots.py [folder]`.

One PNG a view; the desk views at 1280×800, the floor at a tablet's width, the athlete's at a
phone's.
"""

from __future__ import annotations

import json
import shutil
import sys
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

from cluster import ROOT
from playwright.sync_api import Browser, BrowserContext, Page, ViewportSize, sync_playwright

from pine_ladder.core.poses import figure_of, names
from pine_ladder.core.poses.drawing import sheet_svg

FLAGS = [
    "--no-sandbox",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]
DESK: ViewportSize = {"width": 1280, "height": 800}
WALL: ViewportSize = {"width": 1920, "height": 1080}
TABLET: ViewportSize = {"width": 820, "height": 1180}
HOLD_MS = 900
PHONE: ViewportSize = {"width": 390, "height": 844}


def base_url() -> str:
    """Address of the demo this checkout runs."""
    try:
        state = json.loads((ROOT / ".pine" / "server.json").read_text())
    except OSError:
        sys.exit("the demo is not running: make demo starts it")
    return f"http://127.0.0.1:{state['port']}"


def people(base: str) -> dict[str, str]:
    """Whom the front door offers: a coach and an athlete by name."""
    with urllib.request.urlopen(f"{base}/api/front-door") as answer:
        offered = json.load(answer)["people"]
    return {
        role: next(p["name"] for p in offered if p["role"] == role) for role in ("coach", "athlete")
    }


def enter(browser: Browser, base: str, name: str, **context: Any) -> Page:
    """A page signed in as that person."""
    page = browser.new_context(**context).new_page()
    page.goto(base)
    page.get_by_role("button", name=name).click()
    page.wait_for_url("**/day/**" if context["viewport"] == DESK else "**/me/**")
    page.wait_for_selector(".HourRuler_piece")
    page.wait_for_timeout(900)
    return page


MAKE_WALL = """async () => {
  const walls = await (await fetch('/api/walls')).json();
  if (walls.length) return walls[0].token;
  const me = await (await fetch('/api/me')).json();
  const answer = await fetch('/api/walls', {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-pine-guard': me.guard },
    body: JSON.stringify({ name: 'Main wall' }),
  });
  return (await answer.json()).token;
}"""


def run(browser: Browser, base: str, page: Page, phone: Page, shoot: Callable[..., None]) -> None:
    """The remote, a phone and both layouts of the wall, a few seconds into a piece."""
    page.get_by_role("combobox", name="Class").click()
    page.get_by_role("option", name="06:30").click()
    page.get_by_role("combobox", name="Piece on the clock").click()
    page.get_by_role("option", name="Slack Water").click()
    wall = browser.new_context(viewport=WALL).new_page()
    wall.goto(f"{base}/wall/{page.evaluate(MAKE_WALL)}")
    wall.wait_for_selector(".Wall_wall[data-layout=board] h1")
    shoot(wall, "wall-board")
    page.get_by_role("button", name="Start (10 s countdown)").click()
    wall.wait_for_timeout(15_000)
    shoot(wall, "wall-clock")
    shoot(page, "run", full=True)
    shoot(phone, "phone", full=True)
    floor(page, shoot)
    page.get_by_role("button", name="Undo start").click()
    page.get_by_role("dialog").get_by_role("button", name="Undo", exact=True).click()
    wall.wait_for_selector(".Wall_wall[data-layout=board] h1")


def floor(page: Page, shoot: Callable[..., None]) -> None:
    """The floor on a coach's tablet: two have ended a round, one of them two."""
    page.set_viewport_size(TABLET)
    page.get_by_role("button", name="Floor mode").click()
    tiles = page.locator(".Floor_name")
    for tile in (0, 1, 0):
        tiles.nth(tile).click()
        page.wait_for_timeout(1500)
    shoot(page, "floor")
    for tile in (0, 0, 1):
        tiles.nth(tile).click(delay=HOLD_MS)
    page.get_by_role("button", name="Exit floor mode").click()
    page.set_viewport_size(DESK)


def compare(page: Page, shoot: Callable[..., None]) -> None:
    """Standings, two athletes' rounds side by side, and what changed since the last time."""
    page.get_by_role("link", name="Compare").click()
    page.wait_for_selector(".Standings_section table")
    for place in range(2):
        page.locator(".tables_rounds-table").last.get_by_role("checkbox").nth(place).check()
    shoot(page, "compare", full=True)


def gym(context: BrowserContext, base: str, shoot: Callable[..., None]) -> None:
    """The screens of the gym itself."""
    page = context.new_page()
    page.goto(f"{base}/people")
    page.wait_for_selector(".People_people td")
    shoot(page, "people")
    page.close()


def library(page: Page, base: str, shoot: Callable[..., None]) -> None:
    """A movement of the library, and the gym's bests."""
    page.goto(f"{base}/movements/kettlebell swing")
    page.wait_for_selector(".RungLadder_rungs li")
    shoot(page, "movements")
    page.goto(f"{base}/bests")
    page.wait_for_selector(".Bests_bests table")
    shoot(page, "bests")


CLOSED = '{"gym": "", "opened": false, "demo": false, "people": []}'


def set_up(browser: Browser, base: str, shoot: Callable[..., None]) -> None:
    """The form that opens a gym, as an empty database shows it."""
    page = browser.new_context(viewport=DESK, timezone_id="Europe/Lisbon").new_page()
    page.route("**/api/front-door", lambda route: route.fulfill(body=CLOSED, status=200))
    page.goto(base)
    page.get_by_role("heading", name="Open your gym").wait_for()
    shoot(page, "set-up")


def filling(page: Page, shoot: Callable[..., None]) -> None:
    """Tomorrow's classes filling up."""
    page.get_by_role("link", name="Day after").click()
    page.locator(".Bookings_one").first.wait_for()
    shoot(page, "filling")
    page.get_by_role("link", name="Day before").click()
    page.wait_for_selector(".HourRuler_piece")


def figures(browser: Browser, shoot: Callable[..., None]) -> None:
    """Every figure the program draws, on one sheet."""
    page = browser.new_context(viewport={"width": 2240, "height": 800}).new_page()
    drawn = [found for found in map(figure_of, names()) if found]
    page.set_content(f"<body style='margin:0'>{sheet_svg(drawn, columns=14, cell=160)}")
    shoot(page, "figures", full=True)


def take(folder: Path) -> None:
    """All pictures into a folder."""
    base = base_url()
    cast = people(base)
    chromium = shutil.which("chromium")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium, args=FLAGS)

        def shoot(page: Page, name: str, full: bool = False) -> None:
            page.wait_for_timeout(500)
            page.screenshot(path=folder / f"{name}.png", full_page=full)

        set_up(browser, base, shoot)
        figures(browser, shoot)
        for scheme, suffix in (("light", ""), ("dark", "-dark")):
            page = enter(browser, base, cast["coach"], viewport=DESK, color_scheme=scheme)
            shoot(page, f"write{suffix}")
            if scheme == "dark":
                continue
            page.wait_for_selector(".TestrunBand_testrun")
            page.goto(f"{page.url.split('?')[0].replace('/write', '/scale')}")
            page.wait_for_selector(".Scale_grid")
            shoot(page, "scale")
            page.get_by_role("link", name="Ada Quill").click()
            page.wait_for_selector(".fields_profile")
            shoot(page, "athlete")
            page.go_back()
            gym(page.context, base, shoot)
            page.get_by_role("link", name="Run").click()
            phone = enter(browser, base, cast["athlete"], viewport=PHONE, has_touch=True)
            filling(page, shoot)
            run(browser, base, page, phone, shoot)
            phone.goto(f"{base}/profile")
            phone.wait_for_selector(".History_history .recharts-bar")
            phone.locator(".History_history").screenshot(path=folder / "history.png")
            page.get_by_role("link", name="Score").click()
            page.wait_for_selector(".Cell_cell input")
            page.locator(".Cell_cell input").nth(3).fill("5+55")
            shoot(page, "score")
            page.locator(".Cell_cell input").nth(3).press("Escape")
            compare(page, shoot)
            page.get_by_role("link", name="Week").click()
            page.get_by_role("link", name="Week before").click()
            page.wait_for_selector(".Balance_balance td")
            shoot(page, "week")
            library(page, base, shoot)
        browser.close()


if __name__ == "__main__":
    target = Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "docs" / "screenshots"
    target.mkdir(parents=True, exist_ok=True)
    take(target)
