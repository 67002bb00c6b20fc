"""Names of sixty letters: nothing is pushed out, cut off or covered at any size of screen."""

from __future__ import annotations

import psycopg
import pytest
from playwright.sync_api import Page
from shared import DESK, TABLET, TODAY

NAME = "Wilhelmina-Constantia Featherstonehaugh-Cholmondeley-Marjor"
UNBROKEN = "Wolfeschlegelsteinhausenbergerdorffwelchevoralternwarengewiss"[:60]
NARROW = {"width": 320, "height": 640}
DAY = TODAY.isoformat()
PLACES = (
    f"day/{DAY}/score", f"day/{DAY}/run", f"day/{DAY}/floor", f"day/{DAY}/compare", "people",
)  # fmt: skip
FAULTS = """() => {
  const out = [];
  const wide = document.documentElement.scrollWidth - innerWidth;
  if (wide > 1) out.push(`scrolls sideways by ${wide}`);
  const seen = (one) => {
    const box = one.getBoundingClientRect();
    return box.width > 0 && box.height > 0 && getComputedStyle(one).visibility !== "hidden";
  };
  for (const one of document.querySelectorAll("main input, main button, main select")) {
    const box = one.getBoundingClientRect();
    const scrolls = one.closest("[style*=overflow], [class*=scroll], [class*=table], table");
    if (seen(one) && !scrolls && (box.right > innerWidth + 1 || box.left < -1))
      out.push(`outside: ${one.tagName} ${one.getAttribute("aria-label") ?? one.textContent}`);
  }
  return out;
}"""


@pytest.fixture
def long_names(site, visit):
    """The demo gym with two athletes whose names have sixty letters."""
    address = site[2].replace("postgresql+psycopg", "postgresql")
    with psycopg.connect(address, autocommit=True) as db:
        for name, at in ((NAME, 0), (UNBROKEN, 1)):
            db.execute(
                "update person set name = %s where id = (select id from person "
                "where role = 'athlete' and active order by id limit 1 offset %s)",
                (name, at),
            )
    return visit


def faults(page: Page, base: str, place: str) -> list[str]:
    page.goto(f"{base}/{place}")
    page.locator("main :is(h1, h2, h3, button, a):visible").first.wait_for()
    page.wait_for_load_state("networkidle")
    return page.evaluate(FAULTS)


@pytest.mark.parametrize("size", [NARROW, TABLET, DESK], ids=["narrow", "tablet", "desk"])
def test_a_name_of_sixty_letters_pushes_nothing_out(long_names, size):
    assert len(NAME) >= 58 and len(UNBROKEN) == 60
    page = long_names.enter("Maren Tolle", viewport=size)
    found = {place: faults(page, long_names.base, place) for place in PLACES}
    assert {place: each for place, each in found.items() if each} == {}


def test_the_whole_name_is_told_where_it_is_cut(long_names):
    page = long_names.enter("Maren Tolle", at=f"/day/{DAY}/score")
    name = page.get_by_text(UNBROKEN[:20]).first
    name.wait_for()
    whole = page.evaluate(
        """(name) => [...document.querySelectorAll("main *")].some((one) =>
             (one.getAttribute("title") === name) || (one.children.length === 0
               && one.textContent === name && one.scrollWidth <= one.clientWidth + 1))""",
        UNBROKEN,
    )
    assert whole
