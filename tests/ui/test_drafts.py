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
    drafts = page.get_by_role("list", name="Drafts").locator("> li")
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
