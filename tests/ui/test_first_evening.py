"""The first evening: from an empty database to a published day on a member's phone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect
from shared import PHONE, Served
from sqlalchemy.orm import Session

from pine_ladder.store.database import connect, migrate
from pine_ladder.usecases import setup as opening

GOOD = "breakwater-kettle-4"


@pytest.fixture
def bare(empty):
    """Address of an application where no gym is, and the code that opens one."""
    migrate(empty)
    engine = connect(empty)
    with Session(engine) as db, db.begin():
        code = opening.new_code(db)
    server = Served(engine, log_level="warning")
    yield server.base, code
    server.stop()
    engine.dispose()


def test_a_gym_is_opened_filled_and_its_first_day_shown_to_a_member(visit, bare):
    base, code = bare
    visit.homes.append(f"{base}/")
    page = visit.page(visit.context(timezone_id="Europe/Lisbon"))
    page.goto(base)
    expect(page.get_by_role("heading", name="Open your gym")).to_be_visible()
    page.get_by_label("Set-up code").fill("AAAA-AAAA-AAAA")
    page.get_by_label("Name of the gym").fill("Skua Hall")
    page.get_by_label("Your name").fill("Ada Quill")
    page.get_by_label("E-mail").fill("ada@skua.example")
    page.get_by_label("Password", exact=False).first.fill(GOOD)
    page.get_by_label("Tiers, a line each").fill("As written\nLighter day")
    page.get_by_label("Monday").fill("6:30, 18:00")
    expect(page.get_by_role("combobox", name="Time zone of the gym")).to_have_value("Europe/Lisbon")
    page.get_by_role("button", name="Open the gym").click()
    expect(page.get_by_role("alert")).to_contain_text("not the set-up code")
    # A slip costs nothing that was typed.
    expect(page.get_by_label("Name of the gym")).to_have_value("Skua Hall")
    page.get_by_label("Set-up code").fill(code)
    page.get_by_role("button", name="Open the gym").click()

    expect(page.get_by_role("heading", name="The first evening")).to_be_visible()
    expect(page.get_by_text("4 of 5 still open")).to_be_visible()
    page.get_by_role("button", name="Begin today from the template").click()
    expect(page.get_by_text("1 day is written, as drafts.")).to_be_visible()
    expect(page.get_by_text("3 of 5 still open")).to_be_visible()
    page.get_by_role("link", name="Add people").click()
    page.get_by_role("button", name="Import a list").click()
    page.get_by_label("A line for each person").fill(
        "Finn Wicker, finn@skua.example, Lighter day\nOla Brandt"
    )
    page.get_by_role("button", name="Look at it").click()
    page.get_by_role("button", name="Add 2").click()
    expect(page.get_by_text("2 people are in as the list says.")).to_be_visible()
    page.get_by_role("button", name="Invite: Finn Wicker").click()
    address = page.get_by_label(re.compile("Link for Finn Wicker")).input_value()
    page.goto(f"{base}/first-evening")
    page.get_by_role("link", name="Look at today, then publish").click()
    page.get_by_role("button", name="Publish").click()
    expect(page.get_by_role("button", name="Unpublish")).to_be_visible()

    phone = visit.page(visit.context(viewport=PHONE))
    phone.goto(address)
    phone.get_by_label(re.compile("^Password")).fill(GOOD)
    phone.get_by_label(re.compile("^The same again")).fill(GOOD)
    phone.get_by_role("button", name="Set it and step in").click()
    expect(phone.get_by_role("heading", name=re.compile("Warm-up")).first).to_be_visible()
    page.goto(f"{base}/first-evening")
    expect(page.get_by_text("1 of 5 still open")).to_be_visible()


def test_a_tier_is_merged_after_what_it_does_was_said(visit):
    page = visit.enter("Maren Tolle", at="/gym#training")
    shape = page.get_by_role("region", name="Tiers and tracks")
    shape.get_by_label("tier 2").fill("Lighter")
    shape.get_by_role("button", name="Remove Starter").click()
    expect(shape.get_by_label("Starter is merged into")).to_have_value("1")
    shape.get_by_role("button", name="Save tiers and tracks").click()
    expect(shape.get_by_role("status")).to_contain_text("move from Starter to Scaled")
    shape.get_by_role("button", name="Yes, merge").click()
    expect(shape.get_by_text("Saved.")).to_be_visible()
    expect(shape.get_by_label("tier 2")).to_have_value("Lighter")
    expect(shape.get_by_label("tier 3")).to_have_count(0)
    page.goto(f"{visit.base}/people")
    expect(page.get_by_role("row").filter(has_text="Lighter").first).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="Starter")).to_have_count(0)
