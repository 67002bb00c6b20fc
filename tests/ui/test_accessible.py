"""Every screen in its states, light and dark, against axe: nothing of moderate weight or more."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import partial

import pytest
from playwright.sync_api import Page
from shared import DESK, PHONE, TABLET, TODAY

FAULTS = """async () => {
  // The editor's list of offers is gone through by the keys of the text it belongs to.
  const where = { include: document, exclude: [".cm-tooltip-autocomplete"] };
  const faults = async (scheme, options) => {
    const found = await axe.run(where, { resultTypes: ["violations"], ...options });
    return found.violations
      .filter((v) => v.impact !== "minor")
      .map((v) => [scheme, v.id, ...v.nodes.map((n) => n.html.slice(0, 300))].join(", "));
  };
  const still = document.createElement("style");
  still.textContent = "*, *::before, *::after { transition: none !important; }";
  document.head.append(still);
  const root = document.documentElement;
  const lit = root.getAttribute("data-mantine-color-scheme");
  const light = await faults(lit, {});
  if (lit === null) return light;
  // In the other light only the colours differ.
  const other = lit === "dark" ? "light" : "dark";
  root.setAttribute("data-mantine-color-scheme", other);
  await new Promise((done) => setTimeout(done, 250));
  const dark = await faults(other, { runOnly: ["color-contrast"] });
  root.setAttribute("data-mantine-color-scheme", lit);
  still.remove();
  return [...light, ...dark];
}"""
SETTLED_MS = 600
DAY = TODAY.isoformat()
SCREENS = (
    ("write", f"day/{DAY}/write", ".Board_piece"),
    ("scale", f"day/{DAY}/scale", "main table td"),
    ("run", f"day/{DAY}/run", ".fields_run-head"),
    ("score", f"day/{DAY}/score", ".Cell_cell input"),
    ("compare", f"day/{DAY}/compare", ".Standings_section td"),
    ("week", f"week/{DAY}", ".Balance_balance td"),
    ("movements", "movements", "main li a"),
    ("a movement", "movements/pull-up", ".RungLadder_rungs li"),
    ("athletes", "athletes", "main a"),
    ("bests", "bests", ".Bests_bests table"),
    ("gym", "gym", "main form, main input"),
    ("people", "people", ".People_people td"),
    ("account", "account", ".Account_account"),
    ("first evening", "first-evening", ".SetupChecklist_steps li"),
    ("classes filling", "day/2031-01-06/run", ".Bookings_one"),
    ("an empty day", "day/2031-01-06/write", ".cm-content"),
    ("nothing to score", "day/2031-01-06/score", "main p"),
)


def faults(page: Page, source: str) -> list[str]:
    page.wait_for_timeout(SETTLED_MS)
    page.evaluate(source)
    return page.evaluate(FAULTS)


@pytest.fixture
def found(axe_source: str) -> Callable[[Page], list[str]]:
    """The faults of a page as it stands."""
    return partial(faults, source=axe_source)


def test_every_screen_of_the_coach(visit, found):
    door = visit.page(visit.context())
    door.goto(visit.base)
    door.wait_for_selector(".SignIn_people button")
    assert found(door) == [], "door"
    page = visit.enter("Maren Tolle")
    for name, place, ready in SCREENS:
        page.goto(f"{visit.base}/{place}")
        page.wait_for_selector(ready)
        assert found(page) == [], name
        for size in (TABLET, PHONE):
            page.set_viewport_size(size)
            assert found(page) == [], f"{name}, {size['width']} wide"
            across = page.evaluate("document.documentElement.scrollWidth")
            assert across <= size["width"], f"{name} is wider than {size['width']}"
        # Twice as large on a low desk: the header folds to a line.
        page.set_viewport_size({"width": DESK["width"] // 2, "height": DESK["height"] // 2})
        assert page.locator("header").first.bounding_box()["height"] <= 60, name
        page.set_viewport_size(DESK)


def test_what_opens_over_the_screens_of_the_coach(visit, found):
    page = visit.enter("Maren Tolle", at=f"/day/{DAY}/write")
    page.wait_for_selector(".Board_piece")
    page.get_by_role("button", name="Maren Tolle").click()
    page.get_by_role("menuitem", name="Change password").click()
    page.get_by_role("dialog").wait_for()
    assert found(page) == [], "password"
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Shortcuts").click()
    page.get_by_role("dialog").wait_for()
    assert found(page) == [], "shortcuts"
    page.keyboard.press("Escape")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+End")
    page.keyboard.type("\n## Conditioning: AMRAP 6:00\n10 frobnicate\n16 burpee")
    page.locator(".cm-lintRange-error, .cm-lintRange-warning").first.wait_for()
    assert found(page) == [], "problems on the board"
    page.get_by_role("button", name=re.compile("^Change the piece")).first.click()
    page.get_by_role("menuitem", name="Name, timing and rules").click()
    page.get_by_role("dialog").wait_for()
    assert found(page) == [], "heading"
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Notation").click()
    page.get_by_role("dialog").wait_for()
    assert found(page) == [], "the card of the notation"
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Scale", exact=True).click()
    page.locator(".AthleteLine_cell").first.click()
    page.get_by_role("button", name="Set and remember").wait_for()
    assert found(page) == [], "another version for one athlete"
    page.goto(f"{visit.base}/day/{DAY}/compare")
    page.get_by_text("Filters").click()
    assert found(page) == [], "filters"
    page.goto(f"{visit.base}/athletes")
    page.locator("main a", has_text="Ada Quill").click()
    page.get_by_role("button", name="Save", exact=True).wait_for()
    assert found(page) == [], "an athlete"


def test_what_goes_wrong_on_the_screens_of_the_coach(visit, found):
    page = visit.enter("Maren Tolle", at=f"/day/{DAY}/score")
    cell = page.get_by_label("Slack Water, Ada Quill")
    cell.fill("nonsense")
    cell.press("Enter")
    page.locator(".Cell_cell [aria-invalid=true]").first.wait_for()
    assert found(page) == [], "a refused score"
    page.context.set_offline(True)
    page.get_by_label("Slack Water, Bram Osei").fill("200")
    page.keyboard.press("Enter")
    page.get_by_text("unsent").wait_for()
    assert found(page) == [], "kept on the device"
    page.context.set_offline(False)
    page.goto(f"{visit.base}/athletes/999999")
    page.get_by_role("alert").first.wait_for()
    assert found(page) == [], "not there"


def test_every_screen_of_an_athlete_on_the_phone(visit, found):
    phone = visit.enter("Ada Quill", viewport=PHONE)
    phone.get_by_role("button", name="See everyone").first.click()
    phone.wait_for_selector(".Standings_section td")
    assert found(phone) == [], "day"
    phone.goto(f"{visit.base}/profile")
    phone.wait_for_selector(".History_history table")
    phone.wait_for_selector(".recharts-surface")
    assert found(phone) == [], "history"
    for place, ready in (
        ("profile/bests", "main form"),
        ("account", "main form"),
        ("bests", "main table"),
        ("movements/pull-up", "main li"),
    ):
        phone.goto(f"{visit.base}/{place}")
        phone.wait_for_selector(ready)
        assert found(phone) == [], place


def test_the_floor_and_the_wall_before_and_while_a_piece_runs(visit, found):
    coach = visit.enter("Maren Tolle", at=f"/day/{DAY}/run")
    coach.get_by_role("combobox", name="Class").click()
    coach.get_by_role("option", name=re.compile("06:30")).click()
    coach.get_by_role("combobox", name="Piece on the clock").click()
    coach.get_by_role("option", name="Slack Water").click()
    coach.get_by_label("Ada Quill, round 1 (1)").wait_for()
    assert found(coach) == [], "before the piece"
    coach.get_by_role("button", name="Screens", exact=True).click()
    dialog = coach.get_by_role("dialog", name="Screens")
    dialog.get_by_role("button", name="Make a link for a display").click()
    opening = dialog.get_by_role("link", name="Open Wall 1")
    opening.wait_for()
    assert found(coach) == [], "displays"
    with coach.expect_popup() as opened:
        opening.click()
    wall = opened.value
    coach.keyboard.press("Escape")
    wall.wait_for_selector(".Wall_wall[data-layout=board] .Wall_tiers")
    assert found(wall) == [], "wall, board"
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    coach.get_by_label("Ada Quill: a round is over now").wait_for()
    assert found(coach) == [], "while it runs"
    wall.wait_for_selector(".Wall_wall[data-layout=clock] .Wall_now td")
    assert found(wall) == [], "wall, clock"
