"""Scores in the browser: the keyboard sheet, standings, an athlete's phone, accessibility."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect
from shared import PHONE, TODAY, Held, slack_water

NEXT_WEEK = TODAY.fromordinal(TODAY.toordinal() + 7).isoformat()
BOARD = '# Neap\n\n## Conditioning "Neap": AMRAP 12:00\n10 push-up\n20 sit-up\n'


def written(visit, date: str = NEXT_WEEK, board: str = BOARD) -> Page:
    """A coach's score sheet of a day with that board."""
    page = visit.enter("Maren Tolle", at=f"/day/{date}/write")
    page.wait_for_selector(".cm-content")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(board)
    expect(page.get_by_role("status").first).to_contain_text("version")
    page.get_by_role("link", name="Score").click()
    page.wait_for_selector(".Cell_cell input")
    return page


def test_three_scores_entered_by_keyboard_rank_with_a_tie(visit):
    page = written(visit)
    names = ["Bram Osei", "Cedric Vale", "Emil Tarn"]  # three of the first tier
    for name, entry in zip(names, ["5+12", "4+42", "6"], strict=True):
        page.get_by_label(f"Neap, {name}").focus()
        page.keyboard.type(entry)
        page.keyboard.press("Enter")
    ranks = [
        page.locator("[aria-label=Scores] tr", has_text=name).locator(".Cell_rank")
        for name in names
    ]
    expect(ranks[0]).to_have_text("#2")
    expect(ranks[1]).to_have_text("#2")
    expect(ranks[2]).to_have_text("#1")
    row = page.locator("[aria-label=Scores] tr", has_text="Cedric Vale")
    expect(row).to_contain_text("a round is 30 reps: 4+42 is 5+12")
    page.get_by_role("link", name="Compare").click()
    section = page.locator(".Standings_section", has_text="As written")
    expect(section.locator("tr").nth(0)).to_contain_text("Emil Tarn")
    expect(section.locator("tr").nth(1).locator("td").first).to_have_text("2=")
    expect(section.locator("tr").nth(2).locator("td").first).to_have_text("2=")


TWO_PIECES = """# Ebb

## Conditioning "Ebb": AMRAP 12:00
10 push-up
20 sit-up

## Conditioning "Flood": 3 rounds for time, cap 15:00
20 air squat
10 burpee
"""


def test_a_class_of_twenty_with_two_pieces_is_entered_by_keyboard_alone(visit, record_property):
    page = written(visit, board=TWO_PIECES)
    pressed = {"count": 0}

    def press(keys: list[str]) -> None:
        for key in keys:
            page.keyboard.press(key)
            pressed["count"] += 1

    first = [f"{5 + at % 4}+{at % 30}" for at in range(20)]
    # Every fourth is beaten by the cap; coaches type the point that stands beside the digits.
    second = [f"cap+{at}" if at % 4 == 3 else f"{8 + at % 5}.{10 + at}" for at in range(20)]
    for column, entries in enumerate((first, second)):
        page.locator(f"[data-cell='{column}:0']").focus()
        for at, entry in enumerate(entries):
            expect(page.locator(f"[data-cell='{column}:{at}']")).to_be_focused()
            press([*entry, "Enter"])
    kept = 40
    expect(page.locator(".Cell_rank:not(:empty)")).to_have_count(kept)
    expect(page.locator("[data-state=refused]")).to_have_count(0)
    per_score = pressed["count"] / kept
    record_property("keystrokes per score", per_score)
    assert per_score <= 8
    page.reload()
    page.wait_for_selector(".Cell_cell input")
    assert page.locator("[data-cell='0:7']").input_value() == "8+7"
    assert page.locator("[data-cell='1:3']").input_value() == "cap+3"
    assert page.locator("[data-cell='1:4']").input_value() == "12:14"


def test_a_doubted_score_is_verified_on_the_sheet(visit):
    page = written(visit, board="# Ebb\n\n## Conditioning: for time\n60 air squat\n")
    first = page.locator(".Cell_cell input").nth(0)
    first.fill("0:50")
    expect(page.locator(".Cell_cell").nth(0)).to_contain_text("is 0.83 s each")
    first.press("Enter")
    doubt = page.locator(".doubt_doubt")
    expect(doubt).to_contain_text("needs checking")
    page.get_by_role("button", name="Ask").click()
    page.get_by_label("Question to the athlete").fill("full depth?")
    page.keyboard.press("Enter")
    expect(doubt).to_contain_text("Maren Tolle: “full depth?”")
    page.get_by_role("button", name="Accept", exact=True).click()
    expect(doubt).to_contain_text("verified")
    page.get_by_role("button", name="Trail").click()
    expect(doubt.locator("li")).to_have_count(3)


def test_enter_goes_down_and_the_rank_shows_while_typing(visit):
    page = written(visit)
    first = page.locator(".Cell_cell input").nth(0)
    first.focus()
    page.keyboard.type("5+12")
    expect(page.locator(".Cell_rank").nth(0)).to_have_text("#1")
    page.keyboard.press("Enter")
    expect(page.locator(".Cell_cell input").nth(1)).to_be_focused()
    page.keyboard.press("Shift+Enter")
    expect(first).to_be_focused()
    expect(first).to_have_value("5+12")


def test_a_refusal_is_explained_in_place_and_keeps_the_entry(visit):
    page = written(visit)
    first = page.locator(".Cell_cell input").nth(0)
    first.focus()
    page.keyboard.type("quick")
    expect(page.locator(".Cell_cell").nth(0)).to_contain_text("write rounds+reps, as in 5+12")
    page.keyboard.press("Enter")
    expect(first).to_be_focused()
    expect(first).to_have_value("quick")
    page.keyboard.press("Escape")
    expect(first).to_have_value("")


def test_tier_and_track_change_by_key_and_the_score_moves_with_them(visit):
    page = written(visit)
    cell = page.get_by_label("Neap, Bram Osei")
    cell.focus()
    page.keyboard.press("Alt+3")
    page.keyboard.press("Alt+t")
    row = page.locator("[aria-label=Scores] tr", has_text="Bram Osei")
    expect(row).to_contain_text("Starter")
    expect(row).to_contain_text("Lighter")
    page.keyboard.type("4")
    page.keyboard.press("Enter")
    expect(row.locator(".Cell_rank")).to_have_text("#1")
    page.reload()
    expect(page.locator("[aria-label=Scores] tr", has_text="Bram Osei")).to_contain_text("Starter")


def test_two_coaches_scoring_one_athlete_see_the_conflict(visit):
    maren = written(visit)
    idris = visit.enter("Idris Penn", at=f"/day/{NEXT_WEEK}/score")
    cell = "Neap, Bram Osei"
    idris.wait_for_selector(".Cell_cell input")
    idris.get_by_label(cell).fill("6")
    maren.get_by_label(cell).fill("5+12")
    maren.get_by_label(cell).press("Enter")
    expect(
        maren.locator("[aria-label=Scores] tr", has_text="Bram Osei").locator(".Cell_rank")
    ).to_have_text("#1")
    # The sheet is live; what was typed before the other's score stays typed.
    other = "Neap, Cleo Vance"
    maren.get_by_label(other).fill("4")
    maren.get_by_label(other).press("Enter")
    expect(idris.get_by_label(other)).to_have_value("4")
    expect(idris.get_by_label(cell)).to_have_value("6")
    idris.get_by_label(cell).press("Enter")
    row = idris.locator("[aria-label=Scores] tr", has_text="Bram Osei")
    expect(row).to_contain_text("someone else scored this in the meantime: 5+12")
    idris.get_by_label(cell).focus()
    expect(idris.get_by_label(cell)).to_have_value("6")
    idris.get_by_label(cell).press("Enter")
    expect(row.locator(".words_cell-words")).to_have_count(0)
    expect(idris.get_by_label(cell)).to_have_value("6")


def test_an_athlete_on_a_phone_logs_a_score_and_finds_their_place(visit):
    page = visit.enter("Bram Osei", viewport=PHONE, has_touch=True)
    page.get_by_role("button", name=re.compile("^As written .* Change$")).click()
    tier = page.get_by_role("combobox", name="My tier")
    expect(tier.locator("option:checked")).to_have_text("As written")
    piece = slack_water(page)
    expect(piece).to_contain_text("52.5 kg")
    piece.get_by_label("My score").fill("30")
    expect(piece).to_contain_text("Read as 30: place 1 in As written")
    piece.get_by_role("button", name="Save", exact=True).click()
    expect(piece).to_contain_text("Place 1 in As written")
    piece.get_by_role("button", name="See everyone").click()
    expect(piece.locator("tr[data-mine]")).to_contain_text("Bram Osei")
    expect(piece.locator(".DotStrip_dot[data-mine]")).to_have_count(1)
    width = page.evaluate("document.documentElement.scrollWidth")
    assert width <= PHONE["width"]


def test_a_correction_before_the_score_is_read_back_is_no_conflict_with_oneself(visit):
    phone = visit.enter("Bram Osei", viewport=PHONE, has_touch=True)
    piece = slack_water(phone)
    held = Held()
    phone.route(f"**/api/me/days/{TODAY}?*", held.back)
    piece.get_by_label("My score").fill("30")
    piece.get_by_role("button", name="Save", exact=True).click()
    expect(piece.get_by_label("Correct my score")).to_be_visible()
    piece.get_by_label("Correct my score").fill("31")
    expect(piece).to_contain_text("Read as 31")
    piece.get_by_role("button", name="Save", exact=True).click()
    expect(piece).to_contain_text("Saved on this device")
    expect(piece.get_by_text("Saved on this device")).to_be_hidden()
    expect(piece).not_to_contain_text("in the meantime")
    held.let_go()
    coach = visit.enter("Maren Tolle", at=f"/day/{TODAY}/score")
    expect(coach.get_by_label("Slack Water, Bram Osei")).to_have_value("31")


def test_an_athlete_cannot_open_the_coachs_pages(visit):
    page = visit.enter("Ada Quill", viewport=PHONE)
    for step in ("write", "score", "compare"):
        page.goto(f"{visit.base}/day/{TODAY.isoformat()}/{step}")
        page.wait_for_url("**/me/**")
        expect(page.get_by_role("link", name="Score")).to_have_count(0)
    status = page.evaluate("fetch('/api/athletes').then(r => r.status)")
    assert status == 403


def test_cautions_and_the_pain_line_stand_on_the_athletes_page(visit):
    page = visit.enter("Ada Quill", viewport=PHONE)
    expect(page.get_by_text("Pain stops the set")).to_be_visible()
    expect(slack_water(page)).to_contain_text("Overhead: clear space")


def test_signing_in_by_hand_and_out_again(visit):
    page = visit.page(visit.context())
    page.goto(visit.base)
    page.get_by_label("E-mail").fill("coach@kittiwake.example")
    page.get_by_role("textbox", name="Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("Email or password is wrong")).to_be_visible()
    page.get_by_role("textbox", name="Password").fill("lifeboat-slipway")
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("button", name="Maren Tolle", exact=True).click()
    page.get_by_role("menuitem", name="Sign out").click()
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()


def test_the_sheet_finds_names_asks_about_slips_and_ranks_beside_it(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{TODAY}/score")
    cell = page.get_by_label("Slack Water, Cleo Vance")
    expect(cell).to_have_value("")
    assert cell.get_attribute("placeholder") is None
    page.get_by_label("Find a name").fill("cleo")
    expect(page.locator("tbody th")).to_have_text(["Cleo Vance"])
    page.keyboard.press("Enter")
    page.keyboard.press("Tab")
    expect(cell).to_be_focused()
    beside = page.get_by_role("complementary", name="Standings of Slack Water")
    expect(beside).to_be_visible()
    expect(beside).not_to_contain_text("Cleo Vance")
    page.keyboard.type("7+144")
    page.get_by_role("button", name="Did you mean 7+14?").click()
    expect(cell).to_have_value("7+14")
    cell.press("Enter")
    expect(beside).to_contain_text("Cleo Vance")
    page.get_by_label("Find a name").fill("")
    page.get_by_text("To verify (1)").click()
    expect(page.locator("tbody th")).to_have_text(["Emil Tarn"])


def test_what_holds_while_nothing_is_chosen_is_as_dark_as_a_choice(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{TODAY}/compare")
    page.locator(".Standings_section td").first.wait_for()
    field = page.get_by_placeholder("as the gym has it")
    shades = field.evaluate(
        "e => [getComputedStyle(e, '::placeholder').color, getComputedStyle(document.body).color]"
    )
    assert shades[0] == shades[1]


def test_a_day_that_cannot_be_read_is_told_once(visit):
    page = visit.enter("Maren Tolle")
    outage = {"detail": "The gym's database does not answer."}
    page.route("**/api/days/**", lambda route: route.fulfill(status=503, json=outage))
    page.goto(f"{visit.base}/day/{TODAY.isoformat()}/compare")
    failed = page.get_by_role("alert").filter(has_text="does not answer")
    expect(failed.first).to_be_visible()
    expect(failed).to_have_count(1)
