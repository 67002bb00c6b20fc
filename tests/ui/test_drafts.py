"""An empty day drafted in Write, and a warm-up made for a board."""

import datetime as dt
import re

from playwright.sync_api import expect
from shared import TODAY

EMPTY = (TODAY + dt.timedelta(days=40)).isoformat()


def test_an_empty_day_is_drafted_and_one_draft_used(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{EMPTY}/write")
    page.get_by_label("Without").fill("jumping")
    page.get_by_role("button", name="Draft three days").click()
    drafts = page.get_by_role("list", name="Drafts", exact=True).locator("> li")
    expect(drafts).to_have_count(3)
    first = drafts.first
    title = first.locator("h3").inner_text().split("\n")[0]
    first.get_by_text("Why").click()
    expect(first.locator("details li").first).to_be_visible()
    first.get_by_role("button", name=re.compile("^Use the draft")).click()
    expect(page.locator(".cm-content")).to_contain_text("## ")
    expect(page.locator("main h2").first).to_be_visible()
    assert title.split(" about")[0].strip() in page.locator(".cm-content").inner_text()


def test_a_warm_up_is_added_in_one_press_and_taken_back(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{EMPTY}/write")
    page.locator(".cm-content").click()
    page.keyboard.type("## Conditioning: AMRAP 12:00\n10 burpee\n15 air squat")
    add = page.get_by_role("button", name="Add warm-up and cool-down")
    add.click()
    expect(page.locator(".cm-content")).to_contain_text("## Warm-up")
    expect(page.locator(".cm-content")).to_contain_text("## Cool-down")
    expect(page.get_by_text("the first round takes")).to_be_visible()
    expect(add).to_be_hidden()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.locator(".cm-content")).not_to_contain_text("## Warm-up")


AHEAD, LATER, LATEST = (
    TODAY - dt.timedelta(days=TODAY.weekday()) + dt.timedelta(weeks=weeks) for weeks in (6, 8, 10)
)
"""Mondays of weeks without a board, one for each test that writes."""


def test_the_empty_days_of_a_week_are_drafted_one_again_one_left_and_undone(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{AHEAD}")
    page.get_by_role("button", name="Draft empty days").click()
    for day in ("Thu", "Fri", "Sat", "Sun"):
        page.get_by_role("checkbox", name=re.compile(f"^{day} ")).uncheck()
    page.get_by_role("button", name="Draft 3 days").click()
    drafts = page.get_by_role("list", name="Drafts", exact=True).locator("> li")
    expect(drafts).to_have_count(3)
    write = page.get_by_role("button", name="Write 3 days")
    expect(write).to_be_visible()
    expect(page.get_by_role("table", name=re.compile("What the week would load"))).to_be_visible()
    before = drafts.first.locator("pre").inner_text()
    page.get_by_role("button", name=re.compile("^Another draft for Mon")).click()
    expect(drafts.first.locator("pre")).not_to_have_text(before)
    page.get_by_role("button", name=re.compile("^Leave Wed .* empty")).click()
    page.get_by_role("button", name="Write 2 days").click()
    expect(page.get_by_text("2 days written")).to_be_visible()
    week = page.locator("ol > li").filter(has=page.get_by_role("link", name="Write this day"))
    expect(week).to_have_count(5)
    page.get_by_role("button", name="Undo").click()
    expect(week).to_have_count(7)


def test_what_a_colleague_wrote_in_the_meantime_stays(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{LATER}")
    page.get_by_role("button", name="Draft empty days").click()
    for day in ("Wed", "Thu", "Fri", "Sat", "Sun"):
        page.get_by_role("checkbox", name=re.compile(f"^{day} ")).uncheck()
    page.get_by_role("button", name="Draft 2 days").click()
    expect(page.get_by_role("button", name="Write 2 days")).to_be_visible()
    board = "# Written by hand\n\n## Conditioning: AMRAP 10:00\n10 burpee\n"
    page.evaluate(
        """async ([date, text]) => {
          const { guard } = await (await fetch("/api/me")).json();
          await fetch(`/api/days/${date}`, {
            method: "PUT",
            headers: { "content-type": "application/json", "X-Pine-Guard": guard },
            body: JSON.stringify({ text, version: 0, answers: [] }),
          });
        }""",
        [LATER.isoformat(), board],
    )
    page.get_by_role("button", name="Write 2 days").click()
    expect(page.get_by_text("had been written in the meantime and stays as it is")).to_be_visible()
    expect(page.get_by_role("link", name="Written by hand")).to_be_visible()


def test_a_cycle_shows_its_weeks_drafts_a_day_and_stands_in_its_week(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{LATEST}")
    page.get_by_role("button", name="Plan a cycle").click()
    page.get_by_role("combobox", name="Leads to").fill("no such lift")
    page.get_by_role("button", name="Show the weeks").click()
    expect(page.get_by_role("alert")).to_contain_text("No cycle")
    page.get_by_role("combobox", name="Leads to").fill("back squat")
    page.get_by_label("Weeks", exact=True).select_option("4")
    for day in ("Wednesday", "Friday"):
        page.get_by_role("checkbox", name=day).uncheck()
    page.get_by_role("button", name="Show the weeks").click()
    expect(page.get_by_role("table").filter(has_text="back squat cycle")).to_contain_text("test")
    page.get_by_role("button", name="Draft 4 days").click()
    page.get_by_role("button", name="Write 4 days").click()
    expect(page.get_by_text("4 days written")).to_be_visible()
    cycles = page.get_by_role("region", name="Cycles")
    expect(cycles).to_contain_text("back squat cycle, 4 weeks")
    expect(cycles.get_by_role("listitem")).to_have_count(4)
