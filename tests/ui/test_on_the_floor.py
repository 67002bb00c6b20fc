"""The floor in the hand of a coach who moves: tablet and phone, large tiles, one tap a round."""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect
from shared import TABLET, TODAY, Held
from ui.test_accessible import faults

LATER = TODAY.fromordinal(TODAY.toordinal() + (9 if TODAY.weekday() != 4 else 10)).isoformat()
"""Not a Sunday: there are no classes then."""
HAND = {"width": 390, "height": 844}
SMALLEST_PX = 48
SIZES = """() => [...document.querySelectorAll('section[aria-label="Floor mode"] button')]
  .filter((one) => one.offsetParent !== null)
  .map((one) => { const r = one.getBoundingClientRect();
    return [one.getAttribute('aria-label') || one.textContent, r.height, r.width]; })"""
ROUNDS = 4
COUNT_TAPS = """() => {
  window.touched = 0;
  addEventListener('pointerdown', () => { window.touched += 1; }, true);
}"""
OVERFLOWS = "() => document.documentElement.scrollWidth > document.documentElement.clientWidth"


@pytest.fixture
def floor(visit) -> Callable[..., Page]:
    """The floor of today's first class on a device that is touched, a piece on the clock."""

    def opened(size: dict[str, int], piece: str = "Slack Water") -> Page:
        page = visit.enter("Maren Tolle", viewport=size, has_touch=True, at=f"/day/{TODAY}/run")
        page.get_by_role("combobox", name="Class").click()
        page.get_by_role("option", name=re.compile("06:30")).click()
        page.get_by_role("button", name="Floor mode").click()
        shown = page.get_by_role("region", name="Floor mode")
        expect(shown).to_contain_text("Class at 06:30")
        expect(shown.get_by_text("Set up", exact=True)).to_be_visible()
        shown.get_by_role("button", name=re.compile(f"^{piece}")).click()
        expect(shown.get_by_role("timer")).to_be_visible()
        return page

    return opened


def tile(page: Page, name: str):
    return page.get_by_role("button", name=re.compile(f"^{name} ?: (?!write)"))


def names_on(page: Page) -> list[str]:
    return [one.split(":")[0] for one in page.locator(".Floor_name b").all_text_contents()]


def start(page: Page) -> None:
    page.get_by_role("button", name="Start", exact=True).tap()
    page.get_by_role("button", name="Next", exact=True).tap()
    # A round of no time at all is none.
    page.wait_for_timeout(1200)


def hold(page: Page, name: str) -> None:
    box = tile(page, name).bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 20, box["y"] + 20)
    page.mouse.down()
    page.wait_for_timeout(900)
    page.mouse.up()


@pytest.mark.parametrize(("size", "tall"), [(TABLET, 140), (HAND, 80)], ids=["tablet", "phone"])
def test_everything_is_large_the_clock_stays_and_nothing_overflows(floor, size, tall, axe_source):
    page = floor(size)
    heights = page.locator(".Floor_name").evaluate_all("all => all.map((one) => one.clientHeight)")
    assert min(heights) >= tall, "what the screen leaves is the tiles'"
    assert page.get_by_role("banner").count() == 0, "no header on the floor"
    small = [one for one in page.evaluate(SIZES) if min(one[1:]) < SMALLEST_PX]
    assert small == []
    assert not page.evaluate(OVERFLOWS)
    start(page)
    page.mouse.wheel(0, 2000)
    page.wait_for_timeout(300)
    strip = page.get_by_role("timer").bounding_box()
    assert strip is not None and strip["y"] >= 0
    assert faults(page, axe_source) == []


def test_a_class_is_run_from_its_start_to_its_scores_with_a_tap_a_round(floor, visit):
    page = floor(TABLET)
    start(page)
    names = names_on(page)
    assert len(names) >= 10
    screen = page.evaluate("innerHeight")
    last = tile(page, names[-1]).bounding_box()
    assert last is not None and last["y"] + last["height"] <= screen, "a class on one screen"
    page.evaluate(COUNT_TAPS)
    for round_ in range(1, ROUNDS + 1):
        for name in names:
            tile(page, name).tap()
            expect(tile(page, name)).to_contain_text(re.compile(rf"{round_} · 0:\d\d"))
        page.wait_for_timeout(1100)
    # A slip of the finger is taken back by holding.
    ada = names[0]
    hold(page, ada)
    expect(tile(page, ada)).to_contain_text(re.compile(rf"{ROUNDS - 1} · 0:\d\d"))
    # What was missed is written on the pad.
    page.get_by_role("button", name=f"{ada}: write a number, or stop early").tap()
    pad = page.get_by_role("dialog", name=ada)
    for digit in "1", "5", "3":
        pad.get_by_role("button", name=digit, exact=True).tap()
    expect(pad.get_by_label("Number")).to_contain_text("1:53")
    pad.get_by_role("button", name="Note it").tap()
    expect(tile(page, ada)).to_contain_text(f"{ROUNDS} · 1:53")
    # The clock is ended, the scores are kept.
    page.get_by_role("button", name="Next", exact=True).tap()
    page.get_by_role("button", name="Save as scores").tap()
    expect(page.get_by_text(re.compile(r"kept as scores"))).to_be_visible()
    # Everything that was touched, the slip and its mending with it. The start came before, and in
    # its place stands the skip: a clock that is not hurried ends by itself.
    touched = page.evaluate("() => window.touched")
    assert touched / (ROUNDS * len(names)) <= 1.2


def test_without_network_taps_are_kept_and_land_later(floor):
    page = floor(HAND)
    start(page)
    name = names_on(page)[0]
    page.context.set_offline(True)
    tile(page, name).tap()
    expect(tile(page, name)).to_contain_text("1 · 0:")
    expect(page.get_by_text("1 saved on this device, not sent yet")).to_be_visible()
    page.context.set_offline(False)
    expect(page.get_by_text("1 saved on this device, not sent yet")).to_be_hidden()
    expect(tile(page, name)).to_contain_text("1 · 0:")


def test_a_pause_without_network_holds_the_clock_at_once_and_counts_from_its_press(floor):
    page = floor(HAND)
    start(page)
    page.context.set_offline(True)
    page.get_by_role("button", name="Pause", exact=True).tap()
    expect(page.get_by_text("1 press waits")).to_be_visible()
    resume = page.get_by_role("button", name="Resume", exact=True)
    expect(resume).to_be_visible()
    held = page.locator(".Floor_strip").get_by_text(re.compile(r"^\d+:\d\d$")).first.inner_text()
    page.wait_for_timeout(2500)
    page.context.set_offline(False)
    expect(page.get_by_text("press waits")).to_be_hidden()
    # The server holds it where it was pressed, not where the press arrived.
    page.reload()
    expect(resume).to_be_visible()
    shown = page.locator(".Floor_strip").get_by_text(re.compile(r"^\d+:\d\d$")).first
    expect(shown).to_have_text(held)


def test_a_round_that_has_landed_counts_before_it_is_read_back(floor):
    page = floor(TABLET)
    start(page)
    name = names_on(page)[0]
    held = Held()
    page.route(
        "**/jots",
        lambda route: held.back(route) if route.request.method == "GET" else route.continue_(),
    )
    for told in ("1 · 0:", "2 · 0:", "3 · 0:"):
        tile(page, name).tap()
        expect(page.get_by_text("not sent yet")).to_be_hidden()
        expect(tile(page, name)).to_contain_text(told)
        page.wait_for_timeout(1100)
    held.let_go()
    expect(tile(page, name)).to_contain_text("3 · 0:0")


def test_the_next_piece_is_a_swipe_away_but_never_from_one_that_runs(floor):
    page = floor(TABLET)
    heading = page.locator(".Floor_bar h1")
    expect(heading).to_have_text("Slack Water")
    page.get_by_role("button", name="Piece before").tap()
    expect(heading).to_have_text("Front Line")
    page.keyboard.press("ArrowRight")
    expect(heading).to_have_text("Slack Water")
    page.get_by_role("button", name="What to say").tap()
    expect(page.get_by_role("region", name="What to say")).to_contain_text("kettlebell swing")
    page.get_by_role("button", name="Start", exact=True).tap()
    expect(page.get_by_role("button", name="Piece before")).to_be_disabled()
    page.keyboard.press("ArrowLeft")
    expect(heading).to_have_text("Slack Water")
    page.reload()
    expect(heading).to_have_text("Slack Water")
    page.get_by_role("button", name="Exit floor mode").tap()
    expect(page.get_by_role("banner")).to_be_visible()


def test_a_piece_that_each_ends_alone_takes_a_tap_for_the_end(visit):
    page = visit.enter("Maren Tolle", viewport=TABLET, has_touch=True, at=f"/day/{LATER}/write")
    page.wait_for_selector(".cm-content")
    page.locator(".cm-content").click()
    page.keyboard.insert_text('# Ebb\n\n## Conditioning "Ebb": for time, cap 12:00\n30 burpee\n')
    expect(page.get_by_role("status").first).to_contain_text("version 1")
    page.goto(f"{visit.base}/day/{LATER}/run?floor")
    page.get_by_role("button", name="Exit floor mode").tap()
    page.get_by_role("combobox", name="Class").click()
    page.get_by_role("option").filter(has_text="open it").first.click()
    for name in ("Ada Quill", "Emil Tarn"):
        page.get_by_role("combobox", name="Attendance").fill(name.split()[0])
        page.get_by_role("option", name=name).click()
    page.get_by_role("button", name="Floor mode").tap()
    floor = page.get_by_role("region", name="Floor mode")
    floor.get_by_role("button", name=re.compile("^Ebb")).tap()
    start(page)
    tile(page, "Ada Quill").tap()
    expect(tile(page, "Ada Quill")).to_contain_text(re.compile(r"0:0\d"))
    # Tapped again it stays; held it is taken back.
    tile(page, "Ada Quill").tap()
    expect(tile(page, "Ada Quill")).to_contain_text(re.compile(r"0:0\d"))
    hold(page, "Ada Quill")
    expect(tile(page, "Ada Quill")).not_to_contain_text(re.compile(r"0:0\d"))
    tile(page, "Emil Tarn").tap()
    page.get_by_role("button", name="Save as scores").tap()
    expect(page.get_by_role("status").filter(has_text="kept")).to_be_visible()


def test_who_comes_late_and_who_stops_early_are_told_on_the_floor(floor):
    page = floor(TABLET)
    help_ = page.get_by_role("region", name="How the floor works")
    expect(help_).to_contain_text("Press and hold")
    help_.get_by_role("button", name="Close").tap()
    expect(help_).to_be_hidden()
    before = names_on(page)
    page.get_by_role("button", name="Add an athlete").tap()
    page.get_by_role("combobox", name="Athlete").tap()
    late = page.get_by_role("option").first.text_content()
    page.get_by_role("option").first.tap()
    expect(page.locator(".Floor_name b").last).to_contain_text(late or "")
    assert [one.strip() for one in names_on(page)][:-1] == [one.strip() for one in before]
    start(page)
    name = before[0].strip()
    page.get_by_role("button", name=f"{name}: write a number, or stop early").tap()
    page.get_by_role("button", name="Stops early").tap()
    page.get_by_label("Reason").fill("knee")
    page.get_by_role("button", name="Stop", exact=True).tap()
    expect(tile(page, name)).to_contain_text("stopped: knee")
    tile(page, name).tap()
    expect(tile(page, name)).to_contain_text("stopped: knee")
    page.reload()
    expect(tile(page, name)).to_contain_text("stopped: knee")
    hold(page, name)
    expect(tile(page, name)).not_to_contain_text("stopped")
