"""A month after the first evening: a new coach takes over a week of small things."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from shared import PHONE, TODAY

GOOD, BETTER = "breakwater-kettle-4", "gangway-lantern-9"
LATER = TODAY.fromordinal(TODAY.toordinal() + 20)
OLD = "date,piece,person,entered\n2024-03-03,Two miles,Ada Quill,15:12\n"
DAILY = "# Slack Tide\n\n## Conditioning: AMRAP 9:00\n9 push-up\n"
HEAVY = "# Heavy Evening\n\n## Strength: 5 sets, score load\n3 back squat\n"


def enters_by(page: Page, address: str, password: str) -> None:
    page.goto(address)
    page.get_by_label(re.compile("^Password")).fill(password)
    page.get_by_label(re.compile("^The same again")).fill(password)
    page.get_by_role("button", name="Set it and step in").click()
    expect(page).to_have_url(re.compile("^(?!.*/join/)"))


def linked(page: Page, button: str) -> str:
    page.get_by_role("button", name=button).click()
    name = button.partition(": ")[2]
    return page.get_by_label(re.compile(f"Link for {name}")).input_value()


def write(page: Page, base: str, programme: str, text: str) -> None:
    page.goto(f"{base}/day/{LATER}/write")
    page.get_by_role("combobox", name="Programme").select_option(programme)
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(text)
    page.get_by_role("button", name="Publish").click()
    expect(page.get_by_role("button", name="Unpublish")).to_be_visible()


def a_second_coach(visit) -> Page:
    owner = visit.enter("Maren Tolle", at="/people")
    adding = owner.get_by_role("form", name="Add somebody")
    adding.get_by_role("textbox", name=re.compile("^Name")).fill("Nora Wick")
    adding.get_by_role("textbox", name="E-mail").fill("nora@kittiwake.example")
    adding.get_by_label("Is", exact=True).select_option("coach")
    owner.get_by_role("button", name="Add", exact=True).click()
    page = visit.page(visit.context())
    enters_by(page, linked(owner, "Invite: Nora Wick"), GOOD)
    return page


def a_forgotten_password(visit, nora: Page) -> Page:
    before = visit.enter("Cleo Vance", viewport=PHONE)
    nora.goto(f"{visit.base}/people")
    phone = visit.page(visit.context(viewport=PHONE))
    enters_by(phone, linked(nora, "New password: Cleo Vance"), BETTER)
    expect(phone).to_have_url(re.compile("/me/"))
    # Where she was signed in before, she no longer is.
    before.reload()
    expect(before.get_by_text("You were signed out.")).to_be_visible()
    assert before.evaluate("document.querySelector('form').getBoundingClientRect().right") < 371
    return phone


def a_new_name_and_a_leaver_who_comes_back(nora: Page) -> None:
    nora.get_by_role("button", name="Change Tomas Keel").click()
    nora.get_by_label("Name of Tomas Keel").fill("Tomas Keel-Holm")
    nora.keyboard.press("Enter")
    row = nora.get_by_role("row").filter(has_text="Tomas Keel-Holm")
    row.get_by_role("button", name="Deactivate: Tomas Keel-Holm", exact=True).click()
    expect(row).to_contain_text("Scores and history stay.")
    row.get_by_role("button", name="Yes, let go: Tomas Keel-Holm").click()
    expect(row).to_contain_text("has left")
    row.get_by_role("button", name="Bring back: Tomas Keel-Holm").click()
    expect(row).to_contain_text("not yet")


def scores_of_before(visit, nora: Page) -> None:
    nora.goto(f"{visit.base}/gym#import")
    old = nora.get_by_role("region", name="Old scores")
    old.get_by_label("The table").fill(OLD)
    old.get_by_role("button", name="Look at it").click()
    old.get_by_role("button", name="Import", exact=True).click()
    expect(old.get_by_text("1 score brought in.")).to_be_visible()


def another_class(nora: Page, time: str) -> None:
    comes = nora.get_by_role("region", name="Bookings")
    comes.get_by_label("Another class at").fill(time)
    comes.get_by_role("button", name="Add a class").click()
    expect(nora.get_by_role("region", name=f"Class at {time}")).to_be_visible()


def a_full_class_that_moves(visit, nora: Page, phone: Page) -> None:
    one = nora.get_by_role("region", name="Class at 10:05")
    one.get_by_role("button", name="Change the class at 10:05").click()
    one.get_by_label("Places").fill("1")
    one.get_by_role("button", name="Save", exact=True).click()
    one.get_by_label("Sign up for 10:05").fill("Bram")
    nora.get_by_role("option", name=re.compile("Bram")).first.wait_for()
    nora.keyboard.press("ArrowDown")
    nora.keyboard.press("Enter")
    expect(one).to_contain_text("1 of 1")
    phone.goto(f"{visit.base}/me/{LATER}")
    expect(phone.get_by_text("9 push-up").first).to_be_visible()
    place = phone.get_by_role("region", name="My class").get_by_role("listitem")
    others = phone.get_by_role("button", name=re.compile("^Other classes"))
    expect(place.filter(has_text="10:05").or_(others).first).to_be_visible()
    if others.count():
        others.click()
    expect(place.filter(has_text="20:05")).to_have_count(0)
    place.filter(has_text="10:05").get_by_role("button", name=re.compile("^Wait for")).click()
    expect(place.filter(has_text="10:05")).to_contain_text("you wait 1st")
    one.get_by_role("button", name="Change the class at 10:05").click()
    one.get_by_label("Move the class at 10:05 to").fill("11:15")
    one.get_by_role("button", name="Move it: all keep their places").click()
    moved = nora.get_by_role("region", name="Class at 11:15")
    expect(moved).to_contain_text("1 of 1")
    expect(moved).to_contain_text("1 waiting")
    expect(one).to_contain_text("moved to 11:15")
    phone.reload()
    expect(place.filter(has_text="you wait 1st")).to_contain_text("11:15")


def test_a_month_later(visit):
    nora = a_second_coach(visit)
    phone = a_forgotten_password(visit, nora)
    a_new_name_and_a_leaver_who_comes_back(nora)
    scores_of_before(visit, nora)
    # Two lines on one day, each with its board and its class.
    write(nora, visit.base, "Daily", DAILY)
    write(nora, visit.base, "Barbell Club", HEAVY)
    nora.get_by_role("link", name="Run", exact=True).click()
    another_class(nora, "20:05")
    nora.get_by_role("combobox", name="Programme").select_option("Daily")
    another_class(nora, "10:05")
    a_full_class_that_moves(visit, nora, phone)
