"""Mail in the browser: an invitation that is used, a word to the class, what became of letters."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from cluster import free_port
from playwright.sync_api import Browser, expect
from shared import PHONE, TODAY, Served
from ui.conftest import Visit

from pine_ladder.files.letterbox import Letterbox
from pine_ladder.files.smtp import server_of
from pine_ladder.store.database import connect

LINK = re.compile(r"http://\S+/join/\S+")


@pytest.fixture
def box(tmp_path) -> Iterator[Letterbox]:
    made = Letterbox(tmp_path / "letters", free_port())
    made.start()
    yield made
    made.stop()


@pytest.fixture
def posted(site, base, browser: Browser, box: Letterbox) -> Iterator[Visit]:
    """The application with a mail server that keeps every letter."""
    engine = connect(site[2])
    server = Served(
        engine, mail_server=server_of(f"smtp://127.0.0.1:{box.port}", "hall@gym.example")
    )
    visit = Visit(browser, server.base)
    yield visit
    for context in visit.contexts:
        context.close()
    server.stop()
    engine.dispose()
    assert (visit.outside, visit.errors) == ([], [])


def letter_to(box: Letterbox, address: str, about: str, page) -> str:
    for _ in range(120):
        for one in box.kept():
            if one.to == address and about in one.subject:
                return one.body
        page.wait_for_timeout(250)
    raise AssertionError(f"no letter to {address} about {about}")


def test_an_invitation_by_mail_is_followed_and_a_word_reaches_phone_and_letterbox(posted, box):
    page = posted.enter("Maren Tolle", at="/people")
    form = page.get_by_role("form", name="Add somebody")
    form.get_by_label("Name").fill("Nora Wick")
    form.get_by_label("E-mail").fill("nora@kittiwake.example")
    form.get_by_role("button", name="Add").click()
    page.get_by_role("button", name="Invite: Nora Wick").click()
    expect(page.get_by_text("Also on its way to nora@kittiwake.example.")).to_be_visible()
    link = LINK.search(letter_to(box, "nora@kittiwake.example", "choose a password", page))
    assert link is not None

    phone = posted.page(posted.context(viewport=PHONE))
    phone.goto(link[0])
    for field in ("^Password", "^The same again"):
        phone.get_by_label(re.compile(field)).fill("seven grey gulls on a roof")
    phone.keyboard.press("Enter")
    phone.wait_for_url("**/me/**")
    phone.goto(f"{posted.base}/account")
    choices = phone.get_by_role("region", name="Letters")
    choices.get_by_role("checkbox", name="A class I signed up for changes").uncheck()
    phone.reload()
    expect(
        choices.get_by_role("checkbox", name="A class I signed up for changes")
    ).not_to_be_checked()
    expect(choices.get_by_role("checkbox", name="A coach's word to my class")).to_be_checked()

    page.goto(f"{posted.base}/day/{TODAY}/compare")
    page.get_by_role("button", name="Message the class").click()
    dialog = page.get_by_role("dialog", name="Message the class")
    dialog.get_by_role("textbox", name="Word").fill("Bring a rope tomorrow.")
    dialog.get_by_role("checkbox", name=re.compile("^With the results")).check()
    dialog.get_by_role("button", name="Send", exact=True).click()
    expect(
        page.get_by_text(re.compile("Said on their phones. \\d letters go out."))
    ).to_be_visible()
    body = letter_to(box, "nora@kittiwake.example", f"Kittiwake Hall: {TODAY:%A}", page)
    for said in ("Bring a rope tomorrow.", "AMRAP 20:00", "As written"):
        assert said in body
    phone.goto(f"{posted.base}/me/{TODAY}")
    expect(phone.get_by_role("region", name="From the coach")).to_contain_text(
        "Bring a rope tomorrow."
    )

    page.goto(f"{posted.base}/gym#mail")
    mail = page.get_by_role("region", name="Mail")
    mail.get_by_role("combobox").select_option("every Sunday")
    mail.locator("summary").click()
    expect(
        mail.get_by_role("row", name=re.compile("nora@kittiwake.example.*sent")).first
    ).to_be_visible()
    page.reload()
    expect(mail.get_by_role("combobox")).to_have_value("6")
