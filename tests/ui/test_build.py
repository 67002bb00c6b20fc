"""Three hard pieces built by typing, and again by menus and forms alone: the same text."""

from __future__ import annotations

import pytest
from playwright.sync_api import Locator, Page, expect
from shared import TODAY

DATE = TODAY.fromordinal(TODAY.toordinal() + 7).isoformat()

HEADING = (
    '## Conditioning "Two Oars": every 1:00 x 3 rounds, score total reps, teams of 2, alternate'
)
PARTNERS = f"""{HEADING}
1) max burpee
2) max dumbbell deadlift @ 22.5/15 kg
3) rest"""
FILLED = """## Conditioning "Full Minute": EMOM 12:00, score done
1) 10 kettlebell swing @ 24/16 kg | @ 16/12 kg
2) 8 side kick, each side + 8 dip + max hollow hold
3) rest"""
LADDER = """## Conditioning "Ebb": 10-8-6-4-2 for time, cap 18:00
100-80-60-40-20 single-under
thruster @ 42.5/30 kg | dumbbell thruster @ 2 x 15/10 kg"""


def at_day(visit) -> Page:
    page = visit.enter("Maren Tolle", at=f"/day/{DATE}/write")
    page.wait_for_selector(".cm-content")
    return page


def board_text(page: Page) -> str:
    return "\n".join(page.locator(".cm-line").all_inner_texts()).replace("\u200b", "").strip()


def add_piece(page: Page, template: str) -> None:
    page.get_by_role("button", name="Add a piece").click()
    page.get_by_role("menuitem", name=template).first.click()


def piece_menu(page: Page, item: str) -> Locator:
    page.get_by_role("button", name="Change the piece").first.click()
    page.get_by_role("menuitem", name=item, exact=True).click()
    return page.get_by_role("dialog")


def choose(dialog: Locator, label: str, option: str) -> None:
    dialog.get_by_role("combobox", name=label).click()
    dialog.page.get_by_role("option", name=option, exact=True).click()


def heading(page: Page, fields: dict[str, str], choices: dict[str, str], ticks=()) -> None:
    dialog = piece_menu(page, "Name, timing and rules")
    for label, option in choices.items():
        choose(dialog, label, option)
    for label, text in fields.items():
        dialog.get_by_label(label, exact=True).fill(text)
    for label in ticks:
        dialog.get_by_label(label).check()
    dialog.get_by_role("button", name="Write this heading").click()
    expect(dialog).to_be_hidden()


def strip_lines(page: Page, count: int) -> None:
    """Remove a template's own lines with the forms."""
    lines = page.locator(".Board_line-open")
    for left in range(lines.count() - 1, lines.count() - 1 - count, -1):
        lines.first.click()
        page.get_by_role("button", name="Remove this line").click()
        expect(page.get_by_role("dialog")).to_be_hidden()
        expect(lines).to_have_count(left)


def fill(group: Locator, amount: str, movement: str, load: str = "", side: str = "") -> None:
    group.get_by_label("Amount").fill(amount)
    group.get_by_label("Movement").fill(movement)
    group.get_by_label("Load").fill(load)
    group.get_by_label("Detail").fill(side)


def add_line(page: Page, *tasks: tuple[str, ...], station: bool = False) -> None:
    """A line through the form; a task is (amount, movement, load, side), none at all is rest."""
    lines = page.locator(".Board_line-open")
    before = lines.count()
    dialog = piece_menu(page, "Add a line")
    if station:
        dialog.get_by_label("A station of its own").check()
    if not tasks:
        dialog.get_by_label("Rest here").check()
    for number, task in enumerate(tasks):
        if number:
            dialog.get_by_role("button", name="Add a task to this line").click()
        fill(dialog.get_by_role("row", name="As written").nth(number), *task)
    dialog.get_by_role("button", name="Add this line").click()
    expect(dialog).to_be_hidden()
    expect(lines).to_have_count(before + 1)


def add_scaled(page: Page, line: str, **fields: str) -> None:
    page.get_by_role("button", name=f"Change {line}").click()
    dialog = page.get_by_role("dialog")
    scaled = dialog.get_by_role("row", name="Scaled")
    for label, text in fields.items():
        scaled.get_by_label(label).fill(text)
    dialog.get_by_role("button", name="Write this line").click()
    expect(dialog).to_be_hidden()


def partners_by_forms(page: Page) -> None:
    add_piece(page, "Stations on the interval")
    heading(
        page,
        {"Name": "Two Oars", "Every": "1:00", "Rest between": "", "Teams of": "2"},
        {"Partners": "alternate"},
    )
    strip_lines(page, 3)
    add_line(page, ("max", "burpee"), station=True)
    add_line(page, ("max", "dumbbell deadlift", "22.5/15 kg"))
    add_line(page)


def filled_by_forms(page: Page) -> None:
    add_piece(page, "EMOM with stations")
    heading(page, {"Name": "Full Minute", "Work hoped for in a window": ""}, {})
    strip_lines(page, 3)
    add_line(page, ("10", "kettlebell swing", "24/16 kg"), station=True)
    add_line(page, ("8", "side kick", "", "each side"), ("8", "dip"), ("max", "hollow hold"))
    add_line(page)
    add_scaled(page, "kettlebell swing", Load="16/12 kg")


def ladder_by_forms(page: Page) -> None:
    add_piece(page, "AMRAP ladder")
    heading(
        page,
        {"Name": "Ebb", "Or a scheme": "10-8-6-4-2", "Cap": "18:00", "Reps more each round": ""},
        {"How it is timed": "for time"},
    )
    strip_lines(page, 2)
    add_line(page, ("100-80-60-40-20", "single-under"))
    add_line(page, ("", "thruster", "42.5/30 kg"))
    add_scaled(page, "thruster", Movement="dumbbell thruster", Load="2 x 15/10 kg")


@pytest.mark.parametrize(
    ("text", "by_forms"),
    [(PARTNERS, partners_by_forms), (FILLED, filled_by_forms), (LADDER, ladder_by_forms)],
    ids=["partners", "filled-minute", "descending-ladder"],
)
def test_typing_and_forms_give_the_same_text(visit, text: str, by_forms):
    page = at_day(visit)
    by_forms(page)
    assert board_text(page) == text
    expect(page.get_by_role("status").first).to_contain_text("Saved")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    for line in text.splitlines():
        page.keyboard.insert_text(line)
        page.keyboard.press("Escape")
        page.keyboard.press("Enter")
    assert board_text(page) == text
    expect(page.locator(".Findings_findings")).not_to_contain_text("no such")
    expect(page.locator(".Board_format")).to_have_count(1)


def test_pieces_move_and_go_without_typing_and_undo_brings_them_back(visit):
    page = at_day(visit)
    add_piece(page, "Tabata")
    add_piece(page, "Rounds for quality")
    expect(page.locator(".Board_piece h3")).to_have_count(2)
    piece_menu(page, "Move down")
    expect(page.locator(".Board_piece h3").first).to_contain_text("Warm-up")
    piece_menu(page, "Remove")
    expect(page.locator(".Board_piece h3")).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".Board_piece h3")).to_have_count(2)


def test_a_new_movement_joins_the_library_in_one_step(visit):
    page = at_day(visit)
    page.locator(".cm-content").click()
    page.keyboard.insert_text("## Core: AMRAP 5:00\n10 quay vault\n")
    page.get_by_role("button", name="add it to the library").click()
    dialog = page.get_by_role("dialog", name="Add a movement")
    expect(dialog.get_by_label("Name")).to_have_value("quay vault")
    # It begins as the nearest that is known.
    expect(dialog.get_by_role("combobox", name="Based on")).not_to_have_value("")
    dialog.get_by_label("Based on").fill("box jump-over")
    page.get_by_role("option", name="box jump-over", exact=True).click()
    expect(dialog.get_by_label("Landings a rep")).not_to_have_value("0")
    dialog.get_by_label("On the ladder above").fill("box jump")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_be_hidden()
    expect(page.locator(".Findings_findings")).not_to_contain_text("no such movement")
    page.goto(f"{visit.base}/movements/quay%20vault")
    expect(page.locator(".RungLadder_rungs li[aria-current]")).to_contain_text("quay vault")
    page.get_by_role("button", name="Remove").click()
    question = page.get_by_role("dialog", name="Remove quay vault?")
    question.get_by_role("button", name="Remove").click()
    expect(page.get_by_role("heading", name="quay vault")).to_have_count(0)


def test_a_heading_s_form_asks_only_what_goes_with_its_timing(visit):
    page = at_day(visit)
    page.locator(".cm-content").click()
    page.keyboard.insert_text("## Conditioning: AMRAP 9:00, heats 2\n10 burpee\n")
    page.get_by_role("button", name="Change the piece").click()
    page.get_by_role("menuitem", name="Name, timing and rules").click()
    dialog = page.get_by_role("dialog", name="Change this piece")
    expect(dialog.get_by_label("Target")).to_be_visible()
    for other in ("Cap", "Until missed", "Build to a heavy set"):
        expect(dialog.get_by_label(other)).to_have_count(0)
    dialog.get_by_role("combobox", name="How it is timed").click()
    page.get_by_role("option", name="accumulate").click()
    expect(dialog.get_by_label("Cap")).to_be_visible()
    # What is already said stays in sight, though it goes with another timing.
    expect(dialog.get_by_label("Heats")).to_have_value("2")
    dialog.get_by_role("button", name="All rules").click()
    expect(dialog.get_by_label("Until missed")).to_be_visible()
