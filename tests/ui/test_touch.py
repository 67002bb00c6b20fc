"""On a phone and a tablet: what is touched is large enough, and the workout comes first."""

import pytest
from playwright.sync_api import Page, expect
from shared import PHONE, TABLET, TODAY, Held

SMALL = """() => {
  const shown = (one) => {
    const box = one.getBoundingClientRect();
    const style = getComputedStyle(one);
    return box.width > 0 && box.height > 0 && box.right > 0
      && style.visibility !== "hidden" && style.pointerEvents !== "none" && !one.disabled;
  };
  const box = (one) => {
    const label = ["checkbox", "radio"].includes(one.type)
      ? one.closest("label") ?? document.querySelector(`label[for="${one.id}"]`) : null;
    const [own, more] = [one, label ?? one].map((each) => each.getBoundingClientRect());
    const apart = label && !label.contains(one) ? own.width : 0;
    return [Math.max(own.width, more.width + apart), Math.max(own.height, more.height)];
  };
  return [...document.querySelectorAll("a[href], button, input, select, textarea, summary")]
    .filter((one) => shown(one) && !one.closest("p, [class*=skip]"))
    .filter((one) => box(one).some((side) => side < 43.5))
    .map((one) => `${one.tagName} ${one.className} ${box(one).map(Math.round)}`);
}"""
NARROW = {"width": 320, "height": 640}
DAY = TODAY.isoformat()
OF_AN_ATHLETE = (f"me/{DAY}", "profile", "profile/bests", "bests", "movements/air squat", "account")
OF_A_COACH = (
    f"week/{DAY}", f"day/{DAY}/write", f"day/{DAY}/scale", f"day/{DAY}/run", f"day/{DAY}/score",
    f"day/{DAY}/compare", "athletes", "people", "gym", "movements",
)  # fmt: skip


def faults(page: Page, base: str, place: str) -> list[str]:
    page.goto(f"{base}/{place}")
    page.locator("main :is(h1, h2, h3, button, a):visible").first.wait_for()
    page.wait_for_load_state("networkidle")
    across = page.evaluate("document.documentElement.scrollWidth - innerWidth")
    return [*page.evaluate(SMALL), *(["scrolls sideways"] if across > 1 else [])]


@pytest.mark.parametrize("size", [PHONE, NARROW, TABLET], ids=["phone", "narrow", "tablet"])
@pytest.mark.parametrize(
    ("name", "places"), [("Ada Quill", OF_AN_ATHLETE), ("Maren Tolle", OF_A_COACH)]
)
def test_a_finger_meets_nothing_small_and_nothing_scrolls_sideways(visit, size, name, places):
    page = visit.enter(name, viewport=size, has_touch=True, is_mobile=True)
    found = {place: faults(page, visit.base, place) for place in places}
    assert {place: each for place, each in found.items() if each} == {}


def test_the_workout_stands_on_the_first_screen_of_a_phone(visit):
    page = visit.enter("Ada Quill", viewport=PHONE, has_touch=True, is_mobile=True)
    first = page.locator("main section[data-role]").first
    expect(first).to_be_visible()
    page.wait_for_load_state("networkidle")
    box = first.bounding_box()
    assert box is not None
    assert box["y"] <= 420


def test_every_place_is_reached_from_the_tabs(visit):
    page = visit.enter("Ada Quill", viewport=PHONE, has_touch=True)
    tabs = page.get_by_role("navigation", name="Tabs")
    tabs.get_by_role("link", name="Bests").click()
    expect(tabs.get_by_role("link", name="Bests")).to_have_attribute("aria-current", "page")
    tabs.get_by_role("button", name="Me").click()
    page.get_by_role("link", name="Movements").click()
    expect(page.get_by_label("Search movements")).to_be_visible()
    tabs.get_by_role("link", name="Today").click()
    expect(page.locator("main section[data-role]").first).to_be_visible()


def test_what_was_opened_stays_open_while_the_chosen_screen_arrives(visit):
    page = visit.enter("Ada Quill", viewport=PHONE, has_touch=True)
    held = Held()
    page.route("**/assets/AboutMe*.js", held.back)
    tabs = page.get_by_role("navigation", name="Tabs")
    with page.expect_request("**/assets/AboutMe*.js"):
        tabs.get_by_role("link", name="Bests").click()
    tabs.get_by_role("button", name="Me").click()
    dialog = page.get_by_role("dialog", name="Ada Quill")
    expect(dialog.get_by_role("link", name="Movements")).to_be_visible()
    held.let_go()
    expect(
        page.get_by_role("heading", name="Ada Quill", level=1, include_hidden=True)
    ).to_be_attached()
    expect(dialog.get_by_role("link", name="Movements")).to_be_visible()
    page.go_back()
    expect(dialog).to_be_hidden()


def test_the_hour_opens_and_closes_with_a_touch(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{DAY}/score", viewport=PHONE, has_touch=True)
    hour = page.get_by_role("region", name="The class hour")
    expect(hour.get_by_text("spare")).to_be_hidden()
    hour.get_by_role("button", name="Open the class hour").click()
    expect(hour.get_by_text("Slack Water")).to_be_visible()
    hour.get_by_role("button", name="Close the class hour").click()
    expect(hour.get_by_text("Slack Water")).to_be_hidden()
