"""Getting around: one line for the whole program, titles, focus, skip link; slow networks."""

from __future__ import annotations

import re

import bundle
from playwright.sync_api import expect
from shared import PHONE, TODAY, Held

LINE = "A day, an athlete, a movement, a place"


def test_one_line_leads_anywhere_by_a_few_letters(visit):
    page = visit.enter("Maren Tolle", at="/gym")
    page.locator("main form").first.wait_for()
    expect(page).to_have_title(re.compile("^Gym"))
    for typed, where, title in (
        ("quill", r"/athletes/\d+$", "Athletes"),
        ("box jump", r"/movements/box%20jump$", "Movements"),
        ("24 nov", r"/day/\d{4}-11-24/write$", "Write"),
        ("score", r"/day/\d{4}-11-24/score$", "Score"),
        ("peop", r"/people$", "Gym"),
    ):
        page.keyboard.press("Control+k")
        line = page.get_by_placeholder(LINE)
        line.fill(typed)
        page.locator(".mantine-Spotlight-action").first.wait_for()
        page.keyboard.press("Enter")
        expect(page).to_have_url(re.compile(where))
        # Once it has its name a screen hears its keys.
        expect(page).to_have_title(re.compile(f"^{title}"))
        expect(line).to_be_hidden()
    page.keyboard.press("Control+k")
    page.get_by_placeholder(LINE).fill("zzz")
    expect(page.get_by_text("Nothing is called that.")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_placeholder(LINE)).to_be_hidden()


def test_a_screen_has_a_title_and_takes_the_focus_and_the_first_stop_skips_the_header(visit):
    page = visit.enter("Maren Tolle", at=f"/week/{TODAY}")
    page.locator(".Week_days").wait_for()
    expect(page).to_have_title(re.compile(r"^Week.* · Kittiwake Hall$"))
    page.keyboard.press("Tab")
    skip = page.get_by_role("link", name="To the content")
    expect(skip).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_be_focused()
    page.get_by_role("link", name="Bests", exact=True).click()
    expect(page).to_have_title(re.compile(r"^Bests"))
    expect(page.locator("main")).to_be_focused()
    expect(page.locator("h1")).to_have_count(1)
    # From day to day the arrow keeps it.
    page.goto(f"{visit.base}/day/{TODAY}/score")
    after = page.get_by_role("link", name="Day after")
    after.click()
    expect(page).to_have_url(re.compile(str(TODAY.fromordinal(TODAY.toordinal() + 1))))
    expect(after).to_be_focused()


def test_keys_pressed_before_the_screen_is_there_go_on_from_where_it_leads(visit):
    page = visit.enter("Maren Tolle")
    page.keyboard.press("s")
    page.wait_for_selector(".Cell_cell input")
    # The next screen's part of the program comes late, as over a weak network.
    held, late = [], [True]

    def hold(route):
        if late:
            held.append(route)
        else:
            route.continue_()

    page.route("**/assets/Compare*.js", hold)
    page.keyboard.press("c")
    page.keyboard.press("]")
    page.keyboard.press("]")
    late.clear()
    for route in held:
        route.continue_()
    later = TODAY.fromordinal(TODAY.toordinal() + 2).isoformat()
    page.wait_for_url(f"**/{later}/compare")


def test_the_frame_is_there_before_styles_and_scripts_come(visit):
    page = visit.page(visit.context(viewport=PHONE))
    held = Held()
    page.route("**/assets/*", held.back)
    page.goto(f"{visit.base}/me/{TODAY}", wait_until="commit")
    frame = page.locator(".shell b")
    expect(frame).to_be_visible()
    assert frame.evaluate("e => getComputedStyle(e).backgroundColor") == "rgb(18, 38, 31)"
    painted = "performance.getEntriesByName('first-contentful-paint').length"
    for _ in range(100):
        if page.evaluate(painted):
            break
        page.wait_for_timeout(50)
    assert page.evaluate(painted) == 1, "seen while everything else is still on its way"
    assert held.routes, "styles and scripts were asked for"
    held.let_go()
    expect(page.get_by_role("button", name="Ada Quill")).to_be_visible()
    assert page.locator(".shell").count() == 0


def test_the_screen_and_who_looks_at_it_are_asked_for_together(visit):
    phone = visit.enter("Ada Quill", viewport=PHONE)
    phone.evaluate("localStorage.clear()")
    held = Held()
    phone.route("**/api/me", held.back)
    with phone.expect_request(f"**/api/me/days/{TODAY}*"), phone.expect_request("**/api/gym*"):
        phone.goto(f"{visit.base}/me/{TODAY}", wait_until="commit")
    assert held.routes, "nothing has said who that is yet"
    held.let_go()
    expect(phone.locator(".Board_piece").first).to_be_visible()


def test_a_first_visit_is_sent_no_more_than_its_bar():
    beyond = [one for one in bundle.visits() if one.bar is not None and one.scripts > one.bar]
    assert beyond == []
