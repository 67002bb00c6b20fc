"""The people of a gym in the browser: added, invited by a link, renamed, let go."""

from __future__ import annotations

import re

from playwright.sync_api import expect
from shared import PHONE

GOOD = "breakwater-kettle-4"


def test_someone_new_is_added_invited_and_comes_in_on_their_phone(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Gym", exact=True).click()
    page.get_by_role("link", name="People").click()
    # The page before has a name to fill as well: that of the gym.
    adding = page.get_by_role("form", name="Add somebody")
    adding.get_by_role("textbox", name=re.compile("^Name")).fill("Finn Wicker")
    adding.get_by_role("textbox", name="E-mail").fill("finn@kittiwake")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("finn@kittiwake is no e-mail address")
    # Nothing that was typed is lost.
    expect(adding.get_by_role("textbox", name=re.compile("^Name"))).to_have_value("Finn Wicker")
    adding.get_by_role("textbox", name="E-mail").fill("finn@kittiwake.example")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Finn Wicker is in.")).to_be_visible()
    page.get_by_role("button", name="Invite: Finn Wicker").click()
    address = page.get_by_label(re.compile("Link for Finn Wicker")).input_value()

    phone = visit.page(visit.context(viewport=PHONE))
    phone.goto(address)
    expect(phone.get_by_text("Welcome, Finn Wicker.")).to_be_visible()
    phone.get_by_label(re.compile("^Password")).fill(GOOD)
    phone.get_by_label(re.compile("^The same again")).fill("another")
    phone.get_by_role("button", name="Set it and step in").click()
    expect(phone.get_by_text("the two are not the same")).to_be_visible()
    phone.get_by_label(re.compile("^The same again")).fill(GOOD)
    phone.get_by_role("button", name="Set it and step in").click()
    expect(phone).to_have_url(re.compile("/me/"))
    expect(phone.get_by_text("Slack Water").first).to_be_visible()
    phone.goto(address)
    expect(phone.get_by_role("heading", name="This link is over")).to_be_visible()
    page.reload()
    expect(page.get_by_role("row").filter(has_text="Finn Wicker")).to_contain_text("signs in")


def test_someone_is_renamed_let_go_and_brought_back(visit):
    page = visit.enter("Maren Tolle")
    page.goto(f"{visit.base}/people")
    page.get_by_role("button", name="Change Tomas Keel").click()
    page.get_by_label("Name of Tomas Keel").fill("Tomas Keel-Holm")
    page.keyboard.press("Enter")
    row = page.get_by_role("row").filter(has_text="Tomas Keel-Holm")
    expect(row).to_be_visible()
    row.get_by_role("button", name="Let go: Tomas Keel-Holm", exact=True).click()
    expect(row).to_contain_text("Scores and history stay.")
    row.get_by_role("button", name="Yes, let go: Tomas Keel-Holm").click()
    expect(row).to_contain_text("has left")
    row.get_by_role("button", name="Bring back: Tomas Keel-Holm").click()
    expect(row).to_contain_text("not yet")


def test_a_pasted_list_is_looked_at_and_added_whole(visit):
    page = visit.enter("Maren Tolle")
    page.goto(f"{visit.base}/people")
    page.get_by_role("button", name="Paste a list").click()
    box = page.get_by_label("A line for each person")
    box.fill("Finn Wicker, finn@kittiwake.example, Scaled\nTomas Keel\nOla, ola@kittiwake")
    page.get_by_role("button", name="Look at it").click()
    pasted = page.get_by_role("region", name="Paste a list")
    expect(pasted).to_contain_text("doubtful: there is a Tomas Keel already")
    expect(pasted).to_contain_text("refused: ola@kittiwake is no e-mail address")
    expect(page.get_by_label("Add Tomas Keel, line 2")).not_to_be_checked()
    page.get_by_role("button", name="Add 1").click()
    expect(page.get_by_text("1 person is in.")).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="Finn Wicker")).to_contain_text("Scaled")


def test_the_last_coach_is_kept_and_told_why(visit):
    page = visit.enter("Maren Tolle")
    page.goto(f"{visit.base}/people")
    page.get_by_label("Find").fill("kittiwake")
    coaches = page.get_by_role("row").filter(has=page.get_by_role("cell", name="coach", exact=True))
    expect(coaches.first).to_be_visible()
    own = coaches.filter(has_text="Maren Tolle")
    for other in coaches.all_inner_texts():
        name = other.split("\t")[0].strip()
        if name != "Maren Tolle":
            page.get_by_role("button", name=f"Let go: {name}", exact=True).click()
            page.get_by_role("button", name=f"Yes, let go: {name}").click()
            expect(coaches.filter(has_text=name)).to_have_count(0)
    own.get_by_role("button", name="Let go: Maren Tolle", exact=True).click()
    own.get_by_role("button", name="Yes, let go: Maren Tolle").click()
    expect(own.get_by_role("alert")).to_contain_text("the gym's last coach and cannot leave")
