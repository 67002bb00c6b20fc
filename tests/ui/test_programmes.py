"""Two lines of sessions on one day, in the browser: nothing of one lands in the other."""

from __future__ import annotations

from playwright.sync_api import Page, expect
from shared import PHONE, TODAY

LATER = TODAY.fromordinal(TODAY.toordinal() + 20).isoformat()
DAILY = "# Slack Tide\n\n## Conditioning: AMRAP 9:00\n9 push-up\n"
HEAVY = "# Heavy Evening\n\n## Strength: 5 sets, score load\n3 back squat\n"


def write(page: Page, text: str) -> None:
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(text)


def choose(page: Page, name: str) -> None:
    page.get_by_role("combobox", name="Programme").select_option(name)


def choose_on_phone(phone: Page, name: str) -> None:
    phone.get_by_role("button", name="Me", exact=True).click()
    phone.get_by_role("dialog").get_by_role("combobox", name="Programme").select_option(name)


def texts(page: Page) -> list[str]:
    """The day as kept in each of the gym's programmes."""
    ask = """async (day) => {
      const get = (path) => fetch(path).then((answer) => answer.json());
      const { programmes } = await get("/api/gym");
      const at = (one) => get(`/api/days/${day}?in_programme=${one.id}`);
      return (await Promise.all(programmes.map(at))).map((one) => one.text);
    }"""
    return list(page.evaluate(ask, LATER))


def test_what_is_typed_lands_in_the_line_it_was_typed_in_however_soon_one_switches(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{LATER}/write")
    page.wait_for_selector(".cm-content")
    write(page, DAILY)
    # Before the pause after which it is saved.
    choose(page, "Barbell Club")
    expect(page.locator(".cm-content")).not_to_contain_text("push-up")
    write(page, HEAVY)
    choose(page, "Daily")
    expect(page.locator(".cm-content")).to_contain_text("9 push-up")
    for _ in range(40):
        if texts(page) == [DAILY, HEAVY]:
            break
        page.wait_for_timeout(250)
    assert texts(page) == [DAILY, HEAVY]
    # The week and the day's other steps follow the switch, through a reload too.
    page.goto(f"{visit.base}/week/{LATER}")
    expect(page.locator(".Week_days")).to_contain_text("Slack Tide")
    choose(page, "Barbell Club")
    expect(page.locator(".Week_days")).to_contain_text("Heavy Evening")
    page.reload()
    expect(page.locator(".Week_days")).to_contain_text("Heavy Evening")
    expect(page.locator(".Week_days")).not_to_contain_text("Slack Tide")


def test_a_gym_adds_a_line_and_a_member_follows_it_on_the_phone(visit):
    page = visit.enter("Maren Tolle", at="/gym#programmes")
    section = page.get_by_role("region", name="Programmes")
    section.get_by_role("textbox", name="Name of a new programme").fill("daily")
    section.get_by_role("button", name="Add").click()
    expect(section).to_contain_text("there is a programme daily already")
    section.get_by_role("textbox", name="Name of a new programme").fill("Rowing")
    section.get_by_role("button", name="Add").click()
    expect(section.get_by_role("textbox", name="Name of Rowing")).to_be_visible()
    section.get_by_role("button", name="Remove Barbell Club").click()
    expect(section).to_contain_text("Barbell Club has boards")
    choose(page, "Rowing")
    page.get_by_role("button", name="Classes", exact=True).click()
    expect(page.get_by_role("group", name="Classes of the week: Rowing")).to_be_visible()

    phone = visit.enter("Bram Osei", viewport=PHONE, at="/account")
    own = phone.get_by_role("region", name="Programmes")
    own.get_by_role("checkbox", name="Rowing").check()
    phone.get_by_role("button", name="Me", exact=True).click()
    followed = phone.get_by_role("dialog").get_by_role("combobox", name="Programme")
    expect(followed.locator("option", has_text="Rowing")).to_be_attached()
    phone.goto(f"{visit.base}/me/{TODAY}")
    expect(phone.locator("h1")).not_to_contain_text("Rowing")
    choose_on_phone(phone, "Rowing")
    expect(phone.get_by_text("The coach has not written this day yet.")).to_be_visible()
    choose_on_phone(phone, "Daily")
    expect(phone.get_by_text("The coach has not written this day yet.")).to_be_hidden()
    # What was taken away meanwhile leads back to what there is.
    choose_on_phone(phone, "Rowing")
    expect(phone.get_by_text("The coach has not written this day yet.")).to_be_visible()
    choose(page, "Daily")
    page.get_by_role("button", name="Remove Rowing").click()
    expect(page.get_by_role("textbox", name="Name of Rowing")).to_be_hidden()
    phone.reload()
    expect(phone.get_by_role("heading", name="Session")).to_be_hidden()
    expect(phone.get_by_text("The coach has not written this day yet.")).to_be_hidden()
