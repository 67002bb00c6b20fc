"""Keys pressed on Score, Scale and Compare of a gym of two hundred: until the screen shows them."""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Callable, Iterator
from statistics import median
from typing import NamedTuple

from playwright.sync_api import Page, sync_playwright
from served import Site
from shared import DESK, chromium_path
from slow import ARGS
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import Attendance, Day, GymClass, Person, Programme, ScoreRow

ATHLETES = 200
WATCH = """() => {
  window.keys = [];
  new PerformanceObserver((list) => {
    for (const one of list.getEntries()) {
      if (one.name === 'keydown') window.keys.push(one.duration);
    }
  }).observe({ type: 'event', durationThreshold: 16, buffered: true });
}"""
"""From the press until the next frame is painted, in steps of 8 ms; under 16 is not told."""


class Keys(NamedTuple):
    """Milliseconds a key took on a screen: the middle and the worst of some."""

    screen: str
    middle: float
    worst: float
    count: int


def fill(site: Site) -> None:
    """As many athletes in today's first class, every other one scored like somebody who was."""
    today = dt.date.today()
    with Session(site.engine) as db, db.begin():
        programme = select(Programme.id).order_by(Programme.id).limit(1).scalar_subquery()
        day = db.scalars(select(Day).where(Day.date == today, Day.programme_id == programme)).one()
        classes = select(GymClass).where(GymClass.day_id == day.id).order_by(GymClass.start)
        held = db.scalars(classes).unique().all()[0]
        rows = db.scalars(select(ScoreRow).where(ScoreRow.day_id == day.id)).unique().all()
        there = db.scalar(select(func.count()).where(Person.role == "athlete")) or 0
        for number in range(ATHLETES - there):
            row = rows[number % len(rows)]
            made = Person(
                name=f"{row.person.name} {number}",
                role="athlete",
                tier_id=row.tier_id,
                track_id=row.track_id,
            )
            db.add(made)
            db.flush()
            db.add(Attendance(class_id=held.id, person_id=made.id))
            if number % 2:
                columns = {one.key for one in ScoreRow.__table__.columns} - {"id", "person_id"}
                same = {key: getattr(row, key) for key in columns}
                db.add(ScoreRow(person_id=made.id, **same))


def _score(page: Page) -> None:
    page.locator(".Cell_cell input").first.focus()
    for _ in range(8):
        page.keyboard.type("11+20", delay=60)
        page.keyboard.press("Enter")
        page.wait_for_timeout(300)


def _find(page: Page) -> None:
    page.get_by_label("Find a name").focus()
    for name in ("keel", "quill"):
        page.keyboard.type(name, delay=120)
        for _ in name:
            page.keyboard.press("Backspace", delay=60)


def _tab(page: Page) -> None:
    for _ in range(30):
        page.keyboard.press("Tab", delay=40)


def _open(page: Page) -> None:
    for at in range(4):
        page.locator("main tbody button").nth(at).focus()
        page.keyboard.press("Enter")
        page.wait_for_timeout(700)
        page.keyboard.press("Escape")
        page.wait_for_timeout(400)


SCREENS: tuple[tuple[str, str, str, Callable[[Page], None]], ...] = (
    ("score: a result typed", "score", ".Cell_cell input", _score),
    ("score: a name found", "score", ".Cell_cell input", _find),
    ("scale: from athlete to athlete", "scale", "main table td", _tab),
    ("scale: an athlete opened and closed", "scale", "main table td", _open),
    ("compare: from result to result", "compare", ".Standings_section td", _tab),
)


def presses(site: Site) -> Iterator[Keys]:
    """What each kind of key takes, one screen after the other."""
    fill(site)
    coach = json.load(site.send("GET", "/api/front-door"))["people"][0]["id"]
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=list(ARGS))
        context = browser.new_context(viewport=DESK, service_workers="block")
        context.request.post(f"{site.base}/api/demo/sign-in", data={"person_id": coach})
        for name, step, ready, press in SCREENS:
            page = context.new_page()
            page.add_init_script(f"({WATCH})()")
            page.goto(f"{site.base}/day/{dt.date.today()}/{step}")
            page.wait_for_selector(ready)
            page.wait_for_timeout(1500)
            page.evaluate("window.keys.length = 0")
            press(page)
            page.wait_for_timeout(500)
            took = sorted(page.evaluate("window.keys")) or [16]
            yield Keys(name, median(took), took[-1], len(took))
            page.close()
        browser.close()


def report(site: Site) -> None:
    """Print what each kind of key takes."""
    for one in presses(site):
        told = f"p50 {one.middle:.0f}, worst {one.worst:.0f} ms of {one.count} over 16"
        print(f"{one.screen + f', {ATHLETES} athletes':58} {told}")
