"""The people of a gym in the browser: added, invited by a link, renamed, let go."""

from __future__ import annotations

import re

from playwright.sync_api import expect
from shared import PHONE

GOOD = "breakwater-kettle-4"


def test_someone_new_is_added_invited_and_comes_in_on_their_phone(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Gym", exact=True).click()
    page.get_by_role("link", name="People", exact=True).click()
    # The page before has a name to fill as well: that of the gym.
    adding = page.get_by_role("form", name="Add somebody")
    adding.get_by_role("textbox", name=re.compile("^Name")).fill("Finn Wicker")
    adding.get_by_role("textbox", name="E-mail").fill("finn@kittiwake")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("finn@kittiwake is not an e-mail address")
    # Nothing that was typed is lost.
    expect(adding.get_by_role("textbox", name=re.compile("^Name"))).to_have_value("Finn Wicker")
    adding.get_by_role("textbox", name="E-mail").fill("finn@kittiwake.example")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Finn Wicker was added.")).to_be_visible()
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
    expect(phone.get_by_role("heading", name=re.compile("Slack Water")).first).to_be_visible()
    phone.goto(address)
    expect(phone.get_by_role("heading", name="This link is over")).to_be_visible()
    page.reload()
    expect(page.get_by_role("row").filter(has_text="Finn Wicker")).to_contain_text("signs in")


def test_a_pasted_list_is_looked_at_and_added_whole(visit):
    page = visit.enter("Maren Tolle", at="/people")
    page.get_by_role("button", name="Import a list").click()
    box = page.get_by_label("A line for each person")
    box.fill("Finn Wicker, finn@kittiwake.example, Scaled\nTomas Keel\nOla, ola@kittiwake")
    page.get_by_role("button", name="Look at it").click()
    pasted = page.get_by_role("region", name="Import a list")
    expect(pasted).to_contain_text("doubtful: there is a Tomas Keel already")
    expect(pasted).to_contain_text("refused: ola@kittiwake is not an e-mail address")
    expect(page.get_by_label("Take Tomas Keel, line 2")).not_to_be_checked()
    page.get_by_role("button", name="Add 1").click()
    expect(page.get_by_text("1 person is in as the list says.")).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="Finn Wicker")).to_contain_text("Scaled")


def test_the_last_coach_is_kept_and_told_why(visit):
    page = visit.enter("Maren Tolle", at="/people")
    page.get_by_label("Find").fill("kittiwake")
    coaches = page.get_by_role("row").filter(has=page.get_by_role("cell", name="coach", exact=True))
    expect(coaches.first).to_be_visible()
    own = coaches.filter(has_text="Maren Tolle")
    for other in coaches.all_inner_texts():
        name = other.split("\t")[0].strip()
        if name != "Maren Tolle":
            page.get_by_role("button", name=f"Deactivate: {name}", exact=True).click()
            page.get_by_role("button", name=f"Yes, let go: {name}").click()
            expect(coaches.filter(has_text=name)).to_have_count(0)
    own.get_by_role("button", name="Deactivate: Maren Tolle", exact=True).click()
    own.get_by_role("button", name="Yes, let go: Maren Tolle").click()
    expect(own.get_by_role("alert")).to_contain_text("the gym's last coach and cannot leave")


def test_a_coach_trains_too_and_has_a_day_of_their_own(visit):
    page = visit.enter("Maren Tolle", at="/people")
    page.get_by_role("button", name="Change Maren Tolle").click()
    page.get_by_label("What Maren Tolle is").select_option("both")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("row").filter(has_text="Maren Tolle")).to_contain_text("trains too")
    page.reload()
    page.get_by_role("link", name="My day").click()
    expect(page).to_have_url(re.compile("/me/"))
    expect(page.get_by_role("main").get_by_text("Slack Water").first).to_be_visible()


def test_a_member_looks_after_their_account_and_is_erased_when_they_ask(visit):
    phone = visit.enter("Cleo Vance", viewport=PHONE)
    phone.get_by_role("button", name="Me", exact=True).click()
    phone.get_by_role("link", name="Settings and privacy").click()
    own = phone.get_by_role("form", name="Name")
    own.get_by_label("Name").fill("Cleo Vance-Holm")
    own.get_by_role("button", name="Save name").click()
    expect(own.get_by_role("status")).to_have_text("Saved.")
    expect(phone.get_by_role("region", name="Signed in")).to_contain_text("this one")
    with phone.expect_download() as taken:
        phone.get_by_role("link", name="Take all of it away").click()
    assert taken.value.suggested_filename == "about-me.zip"
    phone.get_by_role("button", name="Delete my account").click()
    expect(phone.get_by_text("You asked to be erased on")).to_be_visible()
    assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]

    page = visit.enter("Maren Tolle", at="/people")
    expect(page.get_by_text("Cleo Vance-Holm asks to be erased.")).to_be_visible()
    row = page.get_by_role("row").filter(has_text="Cleo Vance-Holm")
    row.get_by_role("button", name="Erase: Cleo Vance-Holm").click()
    expect(row).to_contain_text("Goes for good:")
    row.get_by_label("Write Cleo Vance-Holm to be sure").fill("Cleo")
    row.get_by_role("button", name="Delete permanently").click()
    expect(row).to_contain_text("write Cleo Vance-Holm to erase them")
    row.get_by_label("Write Cleo Vance-Holm to be sure").fill("Cleo Vance-Holm")
    row.get_by_role("button", name="Delete permanently").click()
    expect(row).to_have_count(0)


def test_the_gym_is_backed_up_by_a_button(visit):
    page = visit.enter("Maren Tolle", at="/gym#export")
    with page.expect_download() as made:
        page.get_by_role("button", name="Back up", exact=True).click()
    assert made.value.suggested_filename.endswith(".backup")
    expect(page.get_by_text("Store it on another machine.")).to_be_visible()


def with_a_class_tomorrow(page, start: str):
    """The coach's page, where another class has been added to the next day."""
    page.get_by_role("link", name="Day after").click()
    page.get_by_role("link", name="Run", exact=True).click()
    bookings = page.get_by_role("region", name="Bookings")
    bookings.get_by_label("Another class at").fill(start)
    bookings.get_by_role("button", name="Add a class").click()
    return page


def test_a_full_class_has_a_waiting_line_on_phone_and_desk(visit):
    page = with_a_class_tomorrow(visit.enter("Maren Tolle"), "10:05")
    one = page.get_by_role("region", name="Class at 10:05")
    one.get_by_role("button", name="Change the class at 10:05").click()
    one.get_by_label("Places").fill("1")
    one.get_by_role("button", name="Save", exact=True).click()
    expect(one).to_contain_text("0 of 1")
    one.get_by_label("Sign up for 10:05").fill("Bram")
    page.get_by_role("option", name=re.compile("Bram")).first.wait_for()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(one).to_contain_text("1 of 1")

    phone = visit.enter("Cleo Vance", viewport=PHONE)
    phone.get_by_role("link", name="Day after").click()
    mine = phone.get_by_role("region", name="My class")
    row = mine.get_by_role("listitem").filter(has_text="10:05")
    others = mine.get_by_role("button", name=re.compile("^Other classes"))
    others.click()
    expect(row).to_contain_text("Full")
    row.get_by_role("button", name="Wait for a place at 10:05").click()
    # She is booked earlier on that day: a second class is asked about.
    asked = phone.get_by_role("dialog", name="Two classes on one day?")
    asked.get_by_role("button", name="Book both").click()
    expect(row).to_contain_text("Full: you wait 1st")
    page.reload()
    one.get_by_role("button", name=re.compile("Bram.* does not come")).click()
    expect(row).to_contain_text("Booked")
    one.get_by_role("button", name="Change the class at 10:05").click()
    one.get_by_label("Note to those booked").fill("storm")
    one.get_by_role("button", name="Cancel this class").click()
    asked = page.get_by_role("dialog", name="Cancel the class at 10:05?")
    expect(asked).to_contain_text("1 person has booked")
    asked.get_by_role("button", name="Cancel this class").click()
    expect(one).to_contain_text("cancelled")
    expect(row).to_contain_text("Cancelled: storm")


def test_a_phone_that_missed_a_change_shows_it_once_it_is_heard_again(visit):
    """A change may come after the day was read and before the live stream is open."""
    phone = visit.enter("Cleo Vance", viewport=PHONE)
    phone.route("**/api/live", lambda route: route.abort())
    phone.get_by_role("link", name="Day after").click()
    phone.reload()
    mine = phone.get_by_role("region", name="My class")
    mine.get_by_role("button", name=re.compile("^Other classes")).click()
    late = mine.get_by_role("listitem").filter(has_text="20:45")
    expect(mine.get_by_role("listitem").first).to_be_visible()
    expect(late).to_have_count(0)

    page = with_a_class_tomorrow(visit.enter("Maren Tolle"), "20:45")
    expect(page.get_by_role("region", name="Class at 20:45")).to_be_visible()
    expect(late).to_have_count(0)
    phone.unroute("**/api/live")
    expect(late).to_be_visible()


def test_bests_are_typed_in_the_members_own_unit_and_kept_to_the_pound(visit):
    phone = visit.enter("Bram Osei", viewport=PHONE, at="/profile/bests")
    phone.get_by_role("combobox", name="Bests: movement").fill("deadlift")
    phone.get_by_label("Bests: lb").fill("315")
    phone.get_by_role("group", name="Bests").get_by_role("button", name="Add").click()
    phone.get_by_role("button", name="Save", exact=True).click()
    expect(phone.get_by_text("Saved.", exact=True)).to_be_visible()
    phone.reload()
    expect(phone.get_by_label("Bests: deadlift")).to_have_value("315 lb")
    kept = phone.evaluate("fetch('/api/me/profile').then((answer) => answer.json())")
    assert round(kept["profile"]["bests"]["deadlift"], 1) == 142.9


def test_what_is_typed_of_a_profile_stays_when_a_coach_keeps_another_part_of_it(visit):
    phone = visit.enter("Bram Osei", viewport=PHONE, at="/account")
    phone.get_by_label("Notes").fill("back from the coast")
    change = """async () => {
      const { profile, version } = await (await fetch("/api/me/profile")).json();
      const me = await (await fetch("/api/me")).json();
      const body = JSON.stringify({ profile: { ...profile, body_kg: 81 }, version });
      const headers = { "Content-Type": "application/json", "X-Pine-Guard": me.guard };
      return (await fetch("/api/me/profile", { method: "PUT", headers, body })).status;
    }"""
    assert phone.evaluate(change) == 200
    keep = phone.get_by_role("button", name="Save", exact=True)
    keep.click()
    expect(phone.get_by_role("alert")).to_contain_text("Somebody else saved this profile meanwhile")
    expect(phone.get_by_label("Notes")).to_have_value("back from the coast")
    expect(phone.get_by_label("Bodyweight", exact=True)).to_have_value("178.6 lb")
    keep.click()
    expect(phone.get_by_text("Saved.", exact=True)).to_be_visible()


def test_settings_that_were_typed_are_not_left_by_a_slip(visit):
    page = visit.enter("Maren Tolle", at="/gym")
    asked: list[str] = []
    page.on("dialog", lambda dialog: (asked.append(dialog.message), dialog.dismiss()))
    field = page.get_by_label("Name of the gym")
    field.fill("Kittiwake Hall East")
    page.get_by_role("link", name="Week").click()
    expect(page).to_have_url(re.compile("/gym$"))
    assert asked == ["What you typed here is not saved. Leave without saving?"]
    expect(field).to_have_value("Kittiwake Hall East")


def test_unsaved_changes_are_in_sight_from_anywhere_and_can_be_discarded(visit):
    page = visit.enter("Maren Tolle", viewport=PHONE, at="/gym#kit")
    bar = page.get_by_text("Unsaved changes", exact=True)
    expect(bar).to_be_hidden()
    first = page.get_by_role("group", name="Plates").get_by_role("textbox").first
    before = first.input_value()
    first.fill("77")
    expect(bar).to_be_in_viewport()
    page.get_by_role("button", name="Discard").click()
    expect(bar).to_be_hidden()
    expect(first).to_have_value(before)
    page.get_by_role("link", name="Week").click()
    expect(page).to_have_url(re.compile("/week"))


def test_what_is_typed_on_one_tab_of_the_gym_stays_while_another_is_looked_at(visit):
    page = visit.enter("Maren Tolle", at="/gym#classes")
    tabs = page.get_by_role("navigation", name="Gym")
    sunday = page.get_by_label("Sunday")
    sunday.fill("11:15")
    kit = page.get_by_role("group", name="Kit")
    expect(kit).to_be_hidden()
    tabs.get_by_role("button", name="Training and scoring").click()
    expect(sunday).to_be_hidden()
    expect(kit).to_be_hidden()
    page.get_by_label("tier 1").fill("As on the board")
    page.get_by_role("combobox", name="Power work").click()
    page.get_by_role("option", name=re.compile("Two paired")).click()
    tabs.get_by_role("button", name="Classes", exact=True).click()
    expect(sunday).to_have_value("11:15")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("status").filter(has_text="Saved.")).to_be_visible()
    tabs.get_by_role("button", name="Training and scoring").click()
    expect(page.get_by_label("tier 1")).to_have_value("As on the board")
    expect(page.get_by_role("combobox", name="Power work")).to_have_value(re.compile("Two paired"))


def test_everybody_without_an_account_gets_a_sheet_of_codes(visit):
    page = visit.enter("Maren Tolle", at="/people")
    for name in ("Finn Wicker", "Nora Wick"):
        adding = page.get_by_role("form", name="Add somebody")
        adding.get_by_role("textbox", name="Name").fill(name)
        adding.get_by_role("textbox", name="E-mail").fill(f"{name.split()[0].lower()}@skua.example")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_role("status").filter(has_text=f"{name} was added.")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Invite everybody without an account")).click()
    dialog = page.get_by_role("dialog", name="Invite")
    dialog.get_by_role("button", name="Make a sheet to print").click()
    sheet = dialog.get_by_role("list", name="Invitations")
    expect(sheet).to_contain_text("You sign in as finn@skua.example")
    expect(sheet.get_by_role("img", name="The link for Nora Wick")).to_be_visible()


SWIPE = """([from, to]) => {
    const main = document.querySelector("main");
    const touch = (x) => new Touch({identifier: 1, target: main, clientX: x, clientY: 400});
    const event = (name, x, down) => main.dispatchEvent(new TouchEvent(name, {
        bubbles: true, touches: down ? [touch(x)] : [], changedTouches: [touch(x)],
    }));
    event("touchstart", from, true);
    event("touchend", to, false);
}"""


def test_a_finger_drawn_sideways_goes_to_the_day_beside(visit):
    phone = visit.enter("Cleo Vance", viewport=PHONE)
    today = phone.get_by_role("heading", level=1)
    expect(today).to_contain_text("Today")
    phone.evaluate(SWIPE, [300, 90])
    expect(today).not_to_contain_text("Today")
    phone.evaluate(SWIPE, [90, 300])
    expect(today).to_contain_text("Today")
