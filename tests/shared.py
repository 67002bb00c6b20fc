"""What several test files share: a small gym, sizes of screens, the browser."""

from __future__ import annotations

import datetime as dt
import json
import os
import re
import shutil
import threading
import time
import urllib.request
from collections.abc import Callable
from typing import Any, TypeVar

import uvicorn
from alembic.config import Config
from cluster import free_port
from fastapi.testclient import TestClient
from playwright.sync_api import Page, Route, expect
from sqlalchemy import Engine, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from pine_ladder.api.app import create_app
from pine_ladder.api.serving import BoundedHttp
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS
from pine_ladder.demo import load_demo
from pine_ladder.files.smtp import Server
from pine_ladder.jobs.straps import Receiver
from pine_ladder.store import database
from pine_ladder.store.models import (
    Base,
    Gym,
    Person,
    Programme,
    Tier,
    Track,
    empty_every_table,
)

PASSWORD = "wide-mooring-rope"


def _moment() -> dt.datetime:
    """The moment at which every test begins: the start of the run, or what TODAY says."""
    said = os.environ.get("PINE_LADDER_TODAY") or dt.datetime.now(dt.UTC).isoformat()
    os.environ["PINE_LADDER_TODAY"] = said
    moment = dt.datetime.fromisoformat(said)
    return moment if moment.tzinfo else moment.replace(tzinfo=dt.UTC)


MOMENT = _moment()
TODAY = MOMENT.date()
DESK = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}
TABLET = {"width": 820, "height": 1180}
WALL = {"width": 1920, "height": 1080}
TRIES = 8
Filled = TypeVar("Filled")


def start_over(engine: Engine, fill: Callable[[Session], Filled]) -> Filled:
    """Empty every table and fill them anew, in one transaction.

    A page or display closed a moment ago may still be answered: its reading and the emptying of
    all tables can meet crosswise, and then one of them is asked to try again.
    """
    for _ in range(TRIES):
        try:
            with Session(engine) as db, db.begin():
                empty_every_table(db)
                return fill(db)
        except OperationalError as error:
            if "deadlock" not in str(error) and "lock timeout" not in str(error):
                raise
            time.sleep(0.3)
    raise TimeoutError("the database stayed busy")


def demo_gym(engine: Engine) -> None:
    """The demo gym as it is loaded for today; its rows are kept aside and copied from then on."""
    tables = Base.metadata.sorted_tables

    def fill(db: Session) -> None:
        kept = db.scalar(text("select to_regnamespace('kept')"))
        if kept is None:
            load_demo(db, TODAY, weeks=3)
            db.flush()
            db.execute(text("create schema kept"))
        for table in tables:
            name = table.name
            if kept is None:
                db.execute(text(f"create table kept.{name} as table public.{name}"))
                continue
            db.execute(text(f"insert into public.{name} select * from kept.{name}"))
            if "id" in table.columns:
                last = f"select setval(pg_get_serial_sequence('{name}', 'id'), max(id)) from {name}"
                db.execute(text(last))

    start_over(engine, fill)


def small_gym(engine: Engine, password_hash: str, demo: bool = False) -> dict[str, int]:
    """An empty database with two coaches and four athletes; their ids by first name."""

    def fill(db: Session) -> dict[str, int]:
        tiers = [Tier(position=i, name=name) for i, name in enumerate(DEFAULT_TIERS)]
        tracks = [Track(position=i, name=name) for i, name in enumerate(DEFAULT_TRACKS)]
        db.add_all([Gym(name="Test Hall", demo=demo), Programme(name="Daily"), *tiers, *tracks])
        people = [
            Person(
                name=f"{name} Test",
                email=f"{name.lower()}@test.example",
                password_hash=password_hash,
                role=role,
                tier=tiers[tier],
                track=tracks[0],
            )
            for name, role, tier in (
                ("Carla", "coach", 0),
                ("Cyril", "coach", 0),
                ("Anna", "athlete", 0),
                ("Bert", "athlete", 0),
                ("Dora", "athlete", 1),
                ("Emma", "athlete", 0),
            )
        ]
        db.add_all(people)
        db.flush()
        return {person.name.split()[0]: person.id for person in people}

    return start_over(engine, fill)


def alembic(url: str) -> Config:
    """The migrations for a database, to go to any of its versions."""
    config = Config()
    folder = database.Path(database.__file__).parent / "migrations"
    config.set_main_option("script_location", str(folder))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


def key_of(page: Any, title: str, date: object = TODAY) -> str:
    """The key of a day's piece by its title, asked for through a page's own session."""
    path = f"/api/days/{date}/pieces"
    found = page.evaluate("path => fetch(path).then((answer) => answer.json())", path)
    return next(one["key"] for one in found if one["title"] == title)


def published(client: TestClient, board: str, date: dt.date = TODAY) -> None:
    """A board written on a day and shown to athletes."""
    day = f"/api/days/{date.isoformat()}"
    client.put(day, json={"text": board, "version": 0})
    publish(client, day)


def keys(client: TestClient, day: str) -> dict[str, str]:
    """The keys of a day's pieces (by its address) by their titles."""
    return {one["title"]: one["key"] for one in client.get(f"{day}/pieces").json()}


def publish(client: TestClient, day: str, shown: bool = True) -> Any:
    """A day (by its address) shown to athletes as it stands, or taken back."""
    seen = client.get(day).json()["version"]
    return client.put(f"{day}/published", json={"published": shown, "version": seen})


def press(client: TestClient, held: int, what: str | None, step: int, **more: object) -> Any:
    """A press of the remote on a class's clock, made on a step that was seen."""
    return client.post(f"/api/classes/{held}/clock", json={"press": what, "step": step, **more})


def slack_water(page: Any) -> Any:
    """The demo's piece Slack Water on a phone, with everything below it."""
    return page.locator(".MyDay_mine > div[id]").filter(has_text="Slack Water").first


class Served:
    """The application on a port of this machine, stopped and started at will."""

    def __init__(
        self,
        engine: Engine,
        log_level: str = "critical",
        mail_server: Server | None = None,
        straps: Receiver | None = None,
    ) -> None:
        self.engine, self.log_level, self.port = engine, log_level, free_port()
        self.mail_server, self.straps = mail_server, straps
        self.base = f"http://127.0.0.1:{self.port}"
        self.start()

    def start(self) -> None:
        """Serve on the same port as before."""
        self.server = uvicorn.Server(
            uvicorn.Config(
                create_app(
                    self.engine,
                    learns=False,
                    mail_server=self.mail_server,
                    straps=self.straps,
                ),
                port=self.port,
                http=BoundedHttp,
                log_level=self.log_level,
                timeout_graceful_shutdown=1,
            )
        )
        self.thread = threading.Thread(target=self.server.run, daemon=True)
        self.thread.start()
        while not self.server.started:
            time.sleep(0.02)

    def stop(self) -> None:
        """Stop serving; once is enough."""
        self.server.should_exit = True
        self.thread.join(10)


def chromium_path() -> str:
    """Debian's Chromium."""
    found = shutil.which("chromium")
    assert found, "Chromium is not installed: make setup installs it"
    return found


def open_display(visit: Any, coach: Page) -> Page:
    """A link made in the menu, opened by a browser that is signed in nowhere."""
    coach.get_by_role("button", name="Screens", exact=True).click()
    dialog = coach.get_by_role("dialog", name="Screens")
    dialog.get_by_role("button", name="Make a link for a display").click()
    address = dialog.get_by_role("textbox", name="Wall 1").input_value()
    assert address == dialog.get_by_role("link", name="Open Wall 1").evaluate("link => link.href")
    expect(dialog.get_by_role("img", name=re.compile("address of Wall 1"))).to_be_visible()
    coach.keyboard.press("Escape")
    expect(dialog).to_be_hidden()
    page = visit.page(visit.context(viewport=WALL))
    page.goto(address)
    page.wait_for_selector(".Wall_wall[data-layout]")
    return page


def put_on(coach: Page, title: str) -> None:
    """A piece put on the clock from Run."""
    coach.get_by_role("combobox", name="Piece on the clock").click()
    coach.get_by_role("option", name=title).click()


class Listener:
    """Reads a stream of server-sent events in a thread."""

    def __init__(self, url: str, headers: dict[str, str] | None = None) -> None:
        self.events: list[tuple[float, str, dict]] = []
        self.ended = False
        request = urllib.request.Request(url, headers=headers or {})
        self.answer = urllib.request.urlopen(request, timeout=30)
        threading.Thread(target=self._read, daemon=True).start()

    def _read(self) -> None:
        event = ""
        try:
            for line in self.answer:
                if line.startswith(b"event: "):
                    event = line[7:].strip().decode()
                elif line.startswith(b"data: "):
                    self.events.append((time.time(), event, json.loads(line[6:])))
        except (OSError, ValueError):
            pass
        self.ended = True

    def wait(self, count: int) -> list[tuple[float, str, dict]]:
        for _ in range(200):
            if len(self.events) >= count:
                return self.events
            time.sleep(0.05)
        raise TimeoutError(f"{len(self.events)} of {count} events")


def in_time(seen: Callable[[], bool]) -> None:
    """Wait until something is so; a page is told within moments."""
    for _ in range(300):
        if seen():
            return
        time.sleep(0.05)
    raise TimeoutError("it was never so")


class Held:
    """Requests that are held back until they are let go."""

    def __init__(self) -> None:
        self.routes: list[Route] | None = []

    def back(self, route: Route) -> None:
        """Hold one back, or let it pass once all may."""
        if self.routes is None:
            route.continue_()
        else:
            self.routes.append(route)

    def let_go(self) -> None:
        """Let all pass from now on."""
        waiting, self.routes = self.routes, None
        for route in waiting or []:
            route.continue_()


NGINX = shutil.which("nginx", path=f"{os.environ['PATH']}:/usr/sbin")
NGINX_FRAME = """
daemon off; pid {folder}/pid; error_log {folder}/error.log;
events {{}}
http {{ access_log off; client_body_temp_path {folder}/a; proxy_temp_path {folder}/b;
fastcgi_temp_path {folder}/c; uwsgi_temp_path {folder}/d; scgi_temp_path {folder}/e;
{server} }}
"""
"""Settings of an nginx that runs by itself, around its servers."""
