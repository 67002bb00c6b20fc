"""Scores and the board in the browser: asked before they lose their piece, kept without network."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from shared import TODAY

DAY = f"/api/days/{TODAY.isoformat()}"
READ = "path => fetch(path).then((answer) => answer.json())"
FORTY = 40


def board_of(page: Page) -> str:
    return page.evaluate(READ, DAY)["text"]


def paste(page: Page, text: str) -> None:
    """A whole board put in place of the one that stands in the editor."""
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(text)


def without_slack_water(text: str) -> str:
    at = text.index('## Conditioning "Slack Water"')
    return text[:at] + text[text.index("## Cool-down") :]


def test_a_paste_without_a_scored_piece_asks_and_undo_takes_the_question_back(visit):
    page = visit.enter("Maren Tolle")
    page.wait_for_selector(".cm-content")
    text = board_of(page)
    paste(page, without_slack_water(text))
    asked = page.get_by_role("alert").filter(has_text="Where do these scores belong?")
    expect(asked).to_contain_text("Slack Water is no longer on the board")
    assert board_of(page) == text
    page.locator(".cm-content").click()
    page.keyboard.press("Control+z")
    expect(asked).to_have_count(0)
    expect(page.get_by_text(re.compile("^Saved "))).to_be_visible()
    assert len(page.evaluate(READ, f"{DAY}/sheet")["aside"]) == 0


def test_scores_set_aside_are_seen_in_score_and_come_back_with_their_piece(visit):
    page = visit.enter("Maren Tolle")
    page.wait_for_selector(".cm-content")
    text = board_of(page)
    paste(page, without_slack_water(text))
    page.get_by_role("button", name="Save like this").click()
    expect(page.get_by_text(re.compile("^Saved "))).to_be_visible()
    page.get_by_role("link", name="Score", exact=True).click()
    aside = page.get_by_label("Scores set aside")
    expect(aside).to_contain_text("Slack Water is no longer on the board")
    expect(aside).to_contain_text("Ada Quill")
    page.get_by_role("link", name="Write", exact=True).click()
    page.wait_for_selector(".cm-content")
    paste(page, text)
    expect(page.get_by_text(re.compile("^Saved "))).to_be_visible()
    page.get_by_role("link", name="Score", exact=True).click()
    expect(page.get_by_label("Slack Water, Ada Quill")).not_to_have_value("")
    expect(aside).to_have_count(0)


def test_a_second_tab_left_as_it_is_follows_and_one_that_was_typed_in_asks(visit):
    context = visit.context()
    first, second = visit.page(context), visit.page(context)
    first.goto(visit.base)
    first.get_by_role("button", name="Maren Tolle").click()
    first.wait_for_selector(".cm-content")
    second.goto(first.url)
    second.wait_for_selector(".cm-content")
    text = board_of(first)
    paste(first, text.replace("Slack Water", "Slack Tide"))
    expect(first.get_by_text(re.compile("^Saved "))).to_be_visible()
    expect(second.locator(".cm-content")).to_contain_text("Slack Tide")
    # What came from the other tab is no step of this one's to undo, and typing goes on from it.
    second.locator(".cm-content").click()
    second.keyboard.press("Control+z")
    expect(second.locator(".cm-content")).to_contain_text("Slack Tide")
    second.keyboard.press("Control+End")
    second.keyboard.type("5 plank")
    expect(first.locator(".cm-content")).to_contain_text("5 plank")
    for tab in (first, second):
        expect(tab.get_by_text("saved this day")).to_have_count(0)
    assert board_of(first).rstrip().endswith("5 plank")


def test_forty_scores_typed_without_network_survive_leaving_and_land_once(visit):
    context = visit.context(service_workers="allow")
    page = visit.page(context)
    page.goto(visit.base)
    page.get_by_role("button", name="Maren Tolle").click()
    page.wait_for_selector(".cm-content")
    # The program is on the device from here on, screens that were never opened too.
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    page.get_by_role("link", name="Score", exact=True).click()
    cells = page.get_by_label(re.compile("^Front Line, "))
    expect(cells).to_have_count(FORTY)
    context.set_offline(True)
    cells.first.focus()
    for number in range(FORTY):
        page.keyboard.type(str(40 + number))
        page.keyboard.press("Enter")
    expect(page.get_by_text(f"{FORTY} unsent")).to_be_visible()
    page.get_by_role("link", name="Week", exact=True).click()
    expect(page.get_by_text(f"{FORTY} unsent")).to_be_visible()
    context.set_offline(False)
    expect(page.get_by_text("unsent")).to_have_count(0)
    sheet = page.evaluate(READ, f"{DAY}/sheet")
    (key,) = [one["key"] for one in sheet["pieces"] if one["title"] == "Front Line"]
    entered = sorted(int(s["entered"]) for s in sheet["scores"] if s["piece_key"] == key)
    assert entered == list(range(40, 40 + FORTY))
