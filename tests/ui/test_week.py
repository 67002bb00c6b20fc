"""The week and the library in the browser."""

from __future__ import annotations

import datetime as dt
import re

from playwright.sync_api import expect
from shared import PHONE, TODAY

FREE_MONDAY = TODAY.fromordinal(TODAY.toordinal() - TODAY.weekday() + 28).isoformat()


def test_a_day_is_copied_moved_cleared_and_every_step_undone(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{FREE_MONDAY}/write")
    page.get_by_role("button", name="Write over this example").click()
    expect(page.get_by_role("status").first).to_contain_text("version 1")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Week").click()
    days = page.locator(".Week_days > li")
    expect(days.nth(0)).to_contain_text("Slack Water")
    days.nth(0).get_by_role("button").last.click()
    page.get_by_role("menuitem", name="Move to Wed").click()
    expect(days.nth(2)).to_contain_text("Slack Water")
    expect(days.nth(0)).to_contain_text("Write this day")
    page.get_by_role("button", name="Undo").first.click()
    expect(days.nth(0)).to_contain_text("Slack Water")
    expect(days.nth(2)).to_contain_text("Write this day")
    days.nth(0).get_by_role("button").last.click()
    page.get_by_role("menuitem", name="Copy to Thu").click()
    expect(days.nth(3)).to_contain_text("Slack Water")
    expect(days.nth(0)).to_contain_text("Slack Water")
    page.get_by_role("button", name="Undo").first.click()
    expect(days.nth(3)).to_contain_text("Write this day")
    days.nth(0).get_by_role("button").last.click()
    page.get_by_role("menuitem", name="Clear the day").click()
    expect(days.nth(0)).to_contain_text("Write this day")
    page.get_by_role("button", name="Undo").first.click()
    expect(days.nth(0)).to_contain_text("Slack Water")


def test_a_day_is_copied_a_week_on_with_the_steps_accepted(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{FREE_MONDAY}/write")
    page.wait_for_selector(".cm-content")
    page.locator(".cm-content").click()
    page.keyboard.insert_text("# Speed\n\n## Power: intervals 0:07/2:00 x 6\nmax sprint\n")
    expect(page.get_by_role("status").first).to_contain_text("version 1")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Week").click()
    page.locator(".Week_days > li").first.get_by_role("button").last.click()
    page.get_by_role("menuitem", name="Copy a week on, with steps").click()
    page.get_by_label("0:07/2:00 → 0:10/3:00").check()
    page.get_by_role("button", name="Copy with 1 step").click()
    expect(page.get_by_text(re.compile("^Copied to"))).to_be_visible()
    page.get_by_role("link", name="Week after").click()
    first = page.locator(".Week_days > li").first
    after = dt.date.fromisoformat(FREE_MONDAY) + dt.timedelta(days=7)
    expect(first).to_contain_text(f"{after.day} {after:%B}")
    first.get_by_role("link", name="Speed").click()
    expect(page.locator(".cm-content")).to_contain_text("intervals 0:10/3:00 x 6")


def test_a_board_from_the_bank_is_written_as_a_retest(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{FREE_MONDAY}")
    first = page.locator(".Week_days > li").first
    first.get_by_role("button").click()
    page.get_by_role("menuitem", name="Falling Tide").click()
    expect(first.get_by_role("link", name="Falling Tide")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(first).to_contain_text("Write this day")


def test_a_draft_is_published_from_the_board_and_athletes_see_it(visit):
    tomorrow = TODAY.fromordinal(TODAY.toordinal() + 1).isoformat()
    ada = visit.enter("Ada Quill", viewport=PHONE, at=f"/me/{tomorrow}")
    expect(ada.get_by_text("has not written this day yet")).to_be_visible()
    maren = visit.enter("Maren Tolle", at=f"/day/{tomorrow}/write")
    expect(maren.get_by_text("Draft", exact=True)).to_be_visible()
    maren.get_by_role("button", name="Publish", exact=True).click()
    expect(maren.get_by_text("Published", exact=True)).to_be_visible()
    ada.reload()
    expect(ada.locator(".Board_piece").first).to_be_visible()


def test_publishing_names_the_lines_nobody_would_see_and_asks(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{FREE_MONDAY}/write")
    page.locator(".cm-content").click()
    board = "# Squats\n\n## Strength: 5 sets\n3 back squat @ 80 of what\n10 push-up\n"
    page.keyboard.insert_text(board)
    expect(page.get_by_role("status").first).to_contain_text("version 1")
    page.get_by_role("button", name="Publish", exact=True).click()
    asked = page.get_by_role("alertdialog")
    expect(asked).to_contain_text("3 back squat @ 80 of what")
    expect(page.get_by_text("Draft", exact=True)).to_be_visible()
    asked.get_by_role("button", name="Not yet").click()
    expect(asked).to_have_count(0)
    page.get_by_role("button", name="Publish", exact=True).click()
    asked.get_by_role("button", name="Publish without them").click()
    expect(page.get_by_text("Published", exact=True)).to_be_visible()


def test_the_week_shows_what_it_loads_in_words(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Week").click()
    heading = page.get_by_role("heading", level=1)
    # Which weeks are lopsided goes by the day the demo begins on.
    for _ in range(8):
        expect(heading).to_have_text(re.compile("^Week of "))
        if "hard on" in page.get_by_label("Remarks").inner_text():
            break
        seen = heading.inner_text()
        page.get_by_role("link", name="Week before").click()
        expect(heading).not_to_have_text(seen)
    expect(page.get_by_label("Remarks")).to_contain_text("hard on")
    expect(page.locator(".Balance_bar[data-again] b").first).to_have_text("hard")
    loads = page.get_by_role("region", name="What the week loads")
    expect(loads.get_by_role("row", name="landings")).to_have_count(1)
    expect(loads.get_by_role("row", name="conditioning")).to_contain_text(":")


def test_a_day_is_moved_with_the_keyboard_and_by_dragging_and_comes_back(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{FREE_MONDAY}")
    days = page.locator(".Week_days > li")
    empty = days.filter(has_text="Write this day")
    expect(empty).to_have_count(7)
    days.nth(1).get_by_role("button", name="From saved workouts").click()
    page.get_by_role("menuitem", name="Slack Water").click()
    expect(empty).to_have_count(6)
    grip = days.nth(1).get_by_role("button", name="Move ")
    grip.press("ArrowDown")
    expect(days.nth(2)).to_contain_text("Slack Water")
    expect(days.nth(1)).to_contain_text("Write this day")
    days.nth(2).get_by_role("button", name="Move ").press("Shift+ArrowUp")
    expect(days.nth(1)).to_contain_text("Slack Water")
    expect(empty).to_have_count(5)
    days.nth(1).drag_to(days.nth(4))
    expect(days.nth(4)).to_contain_text("Slack Water")
    expect(days.nth(1)).to_contain_text("Write this day")
    page.get_by_role("button", name="Undo").last.click()
    expect(days.nth(1)).to_contain_text("Slack Water")
    expect(days.nth(4)).to_contain_text("Write this day")


def test_what_a_week_is_about_stands_on_its_days(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Week").click()
    own = page.get_by_label("This week")
    own.fill("Heavier squats, an easy Thursday")
    # A colleague was quicker: what is typed stays, beside what is kept now.
    quicker = """async (day) => {
      const me = await (await fetch("/api/me")).json();
      await fetch(`/api/week/${day}/theme`, {
        method: "PUT",
        headers: {"content-type": "application/json", "x-pine-guard": me.guard},
        body: JSON.stringify({text: "Grip first", version: 0}),
      });
    }"""
    page.evaluate(quicker, TODAY.isoformat())
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("It says now: Grip first")).to_be_visible()
    expect(own).to_have_value("Heavier squats, an easy Thursday")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("button", name="Save", exact=True)).to_be_hidden()
    page.goto(f"{visit.base}/day/{TODAY}/write")
    expect(page.get_by_text("This week: Heavier squats")).to_be_visible()
    phone = visit.enter("Ada Quill", viewport=PHONE)
    expect(phone.get_by_text("This week: Heavier squats")).to_be_visible()


def test_a_movement_is_found_despite_a_slip_and_its_ladder_climbed(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Movements").click()
    page.get_by_label("Search movements").fill("pul up")
    page.get_by_role("link", name="pull-up pull", exact=True).click()
    expect(page.get_by_role("heading", name="pull-up", exact=True)).to_be_visible()
    rungs = page.locator(".RungLadder_rungs li")
    expect(rungs.first).to_have_text("ring muscle-up")
    expect(page.locator(".RungLadder_rungs li[aria-current]")).to_have_text("pull-up")
    expect(page.locator(".Movements_swaps")).to_contain_text("shoulder")
    rungs.filter(has_text="band pull-up").get_by_role("link").click()
    expect(page.get_by_role("heading", name="band pull-up", exact=True)).to_be_visible()


def test_four_and_thirteen_weeks_tell_what_came_and_what_is_due(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{TODAY}")
    weeks = page.get_by_role("region", name="The weeks before")
    expect(weeks.locator("thead th")).to_have_count(1 + 4)
    expect(
        weeks.get_by_role("region", name="Most frequent").get_by_role("link").first
    ).to_be_visible()
    weeks.get_by_text("13 weeks").click()
    expect(weeks.locator("thead th")).to_have_count(1 + 13)
    due = weeks.get_by_role("region", name="Saved workouts to retest")
    expect(due).to_be_visible()


def test_an_odd_week_leads_to_this_one(visit):
    """An address that is no date: no crash, the week of today."""
    page = visit.enter("Maren Tolle")
    for odd in ("foo", "2026-13-45x", "2026-6-4"):
        page.goto(f"{visit.base}/week/{odd}")
        expect(page).to_have_url(re.compile(rf"/week/{TODAY}$"))
        page.get_by_role("heading", level=1).first.wait_for()
