"""The real application on its own database, in Debian's Chromium."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import psycopg
import pytest
from fixtures import *  # noqa: F403
from playwright.sync_api import Browser, BrowserContext, Page, expect
from shared import DESK, TODAY, Served, chromium_path, demo_gym

from pine_ladder.store.database import connect, migrate

# A busy machine may take its time; a wrong screen stays wrong however long one looks.
expect.set_options(timeout=30_000)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, object]:
    return {
        "executable_path": chromium_path(),
        "args": [
            "--no-sandbox",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--no-first-run",
        ],
    }


@pytest.fixture(scope="session")
def site(database_url: str) -> Iterator[tuple[str, Callable[[], None], str]]:
    """Address of the running application, a way to put the demo gym back, and its database."""
    url = database_url.replace("/pine_ladder", "/pine_ladder_ui").replace(
        "//pine_ladder_ui:", "//pine_ladder:"
    )
    admin = database_url.replace("postgresql+psycopg", "postgresql")
    with psycopg.connect(admin, autocommit=True) as db:
        db.execute("create database pine_ladder_ui")
    migrate(url)
    engine = connect(url)

    def fresh() -> None:
        demo_gym(engine)

    fresh()
    server = Served(engine, log_level="warning")
    yield server.base, fresh, url
    server.stop()
    engine.dispose()


@pytest.fixture
def base(site: tuple[str, Callable[[], None], str]) -> str:
    site[1]()
    return site[0]


class Visit:
    """Opens pages as one of the demo's people and notes what goes wrong or outside."""

    def __init__(self, browser: Browser, base: str) -> None:
        self.browser, self.base = browser, base
        self.homes = ["data:", "blob:", f"{base}/"]
        self.contexts: list[BrowserContext] = []
        self.outside: list[str] = []
        self.errors: list[str] = []

    def context(self, **options: object) -> BrowserContext:
        options.setdefault("service_workers", "block")
        made = self.browser.new_context(viewport=options.pop("viewport", DESK), **options)
        self.contexts.append(made)
        return made

    def page(self, context: BrowserContext) -> Page:
        page = context.new_page()
        page.on("request", lambda r: None if r.url.startswith(tuple(self.homes))
                else self.outside.append(r.url))  # fmt: skip
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        return page

    def enter(self, name: str, at: str = "/", **options: object) -> Page:
        """A page of somebody who has signed in; the form they do it with has tests of its own."""
        context = self.context(**options)
        door = context.request.get(f"{self.base}/api/front-door").json()
        person = next(one for one in door["people"] if one["name"] == name)
        form = {"person_id": person["id"]}
        assert context.request.post(f"{self.base}/api/demo/sign-in", data=form).ok
        page = self.page(context)
        page.goto(f"{self.base}{at}")
        # The header is that of somebody signed in; on a phone it does not name them.
        page.locator("header nav").first.wait_for(state="attached")
        page.wait_for_selector("main > *")
        return page


@pytest.fixture
def visit_at(browser: Browser) -> Iterator[Callable[[str], Visit]]:
    """Visits to an address of the application, which ask for nothing elsewhere."""
    made: list[Visit] = []

    def begin(address: str) -> Visit:
        made.append(Visit(browser, address))
        return made[-1]

    yield begin
    for visit in made:
        for context in visit.contexts:
            context.close()
        assert visit.outside == []
        assert visit.errors == []


@pytest.fixture
def visit(visit_at: Callable[[str], Visit], base: str) -> Visit:
    return visit_at(base)


@pytest.fixture(scope="session")
def axe_source() -> str:
    return (Path(__file__).parents[2] / "web/node_modules/axe-core/axe.min.js").read_text()


@pytest.fixture
def coach(visit: Visit) -> Page:
    """A coach on Run, today."""
    page = visit.enter("Maren Tolle", at=f"/day/{TODAY}/run")
    page.get_by_role("combobox", name="Piece on the clock").wait_for()
    return page
