"""Writing a day: the ruler, suggestions, conflicts, and nothing typed is lost."""

from __future__ import annotations

import re

from playwright.sync_api import Page, Route, expect
from shared import TODAY, key_of

WIDTHS = """(ruler, names) => names.map((name) =>
  [...ruler.querySelectorAll('button')]
    .find((one) => (one.getAttribute('aria-label') ?? one.textContent).startsWith(name))
    .getBoundingClientRect().width)"""
LATER = TODAY.fromordinal(TODAY.toordinal() + 40).isoformat()
NEXT_WEEK = TODAY.fromordinal(TODAY.toordinal() + 7).isoformat()
BOARD = """# Neap Tide
class: 60 min

## Warm-up: continuous 6:00
6:00 easy run

## Conditioning "Neap Tide": AMRAP 15:00
10 push-up
"""


def at_day(visit) -> Page:
    page = visit.enter("Maren Tolle", at=f"/day/{NEXT_WEEK}/write")
    page.wait_for_selector(".cm-content")
    return page


def open_day(page: Page, visit, date: str = NEXT_WEEK) -> None:
    page.goto(f"{visit.base}/day/{date}/write")
    page.wait_for_selector(".cm-content")


def write(page: Page, text: str) -> None:
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text(text)


def text_of(page: Page) -> str:
    return "\n".join(page.locator(".cm-line").all_inner_texts()).replace("\u200b", "").strip()


def deaf(visit) -> Page:
    """Maren's page, which does not hear what others save: else an untouched one would follow."""
    page = visit.enter("Maren Tolle")
    page.route("**/api/live", lambda route: route.abort())
    page.reload()
    page.wait_for_selector("main > *")
    return page


def saved(page: Page, version: int) -> None:
    """Saved at this version, or a later one where a slow hand was saved between two changes."""
    expect(page.get_by_role("status").first).to_contain_text(re.compile(f"version [{version}-9]"))


def test_a_coach_writes_a_board_and_reads_its_minutes_off_the_ruler(visit):
    page = at_day(visit)
    write(page, BOARD)
    ruler = page.get_by_label("The class hour", exact=True)
    expect(ruler.get_by_role("button", name="Neap Tide 15:00, AMRAP 15:00")).to_be_visible()
    expect(ruler.get_by_role("button", name="Warm-up 6:00, continuous 6:00")).to_be_visible()
    expect(page.get_by_text("Planned 22 of 60 min")).to_be_visible()
    # The first save gives each piece its key and draws it anew: both are measured in one look.
    tide, warm_up = ruler.evaluate(WIDTHS, ["Neap Tide", "Warm-up"])
    assert abs(tide / warm_up - 15 / 6) < 0.05
    saved(page, 1)
    page.reload()
    page.wait_for_selector(".cm-content")
    assert text_of(page).startswith("# Neap Tide")


def test_choosing_a_piece_on_the_ruler_marks_it_in_every_step(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_label("The class hour", exact=True).get_by_role(
        "button", name="Slack Water"
    ).click()
    expect(page.locator(".Board_piece[data-selected] h3")).to_contain_text("Slack Water")
    assert f"piece={key_of(page, 'Slack Water')}" in page.url


def test_a_typo_gets_a_suggestion_that_one_click_applies(visit):
    page = at_day(visit)
    write(page, BOARD + "10 kettelbell swing @ 24/16 kg\n")
    # It stands at its line, with its way out.
    findings = page.locator(".cm-note")
    expect(findings).to_contain_text("no such movement; did you mean kettlebell swing?")
    expect(page.locator(".cm-lintRange-warning").first).to_be_visible()
    findings.get_by_role("button", name="write kettlebell swing").click()
    expect(page.locator(".Write_board")).to_contain_text("kettlebell swing")
    expect(findings.get_by_text("no such movement")).to_have_count(0)


def test_the_other_lines_stand_while_one_is_half_typed(visit):
    page = at_day(visit)
    write(page, BOARD + "10 sit-up @ ")
    expect(page.get_by_label("Findings")).to_contain_text("a load is missing after @")
    expect(page.locator(".Write_board")).to_contain_text("push-up")


def test_movements_are_completed_while_typing(visit):
    page = at_day(visit)
    write(page, BOARD)
    page.keyboard.press("Control+End")
    page.keyboard.type("12 thrus", delay=30)
    expect(page.locator(".cm-tooltip-autocomplete")).to_contain_text("thruster")
    page.wait_for_timeout(150)
    page.keyboard.press("Tab")
    expect(page.locator(".cm-content")).to_contain_text("12 thruster")
    # A choice made with the arrows is taken with Enter as well.
    page.keyboard.type("\n9 burp", delay=30)
    expect(page.locator(".cm-tooltip-autocomplete")).to_contain_text("burpee")
    page.wait_for_timeout(150)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.locator(".cm-content")).to_contain_text("9 burpee")


def test_a_slow_hand_that_ends_a_line_keeps_what_it_typed(visit):
    page = at_day(visit)
    write(page, "# Slack Water\n\n## Cool-down: continuous 5:00\n")
    for line in ("walk", "5/5 leg swing"):
        page.keyboard.type(line)
        offered = page.locator(".cm-tooltip-autocomplete")
        expect(offered).to_be_visible()
        page.wait_for_timeout(200)
        page.keyboard.press("Enter")
    assert text_of(page).endswith("continuous 5:00\nwalk\n5/5 leg swing")


def test_tier_and_track_show_the_athletes_own_numbers(visit):
    page = visit.enter("Maren Tolle")
    board = page.locator(".Write_board")
    expect(board).to_contain_text("52.5/37.5 kg")
    page.get_by_text("Starter", exact=True).first.click()
    page.get_by_role("combobox", name="Track").click()
    page.get_by_role("option", name="Lighter").click()
    expect(board).to_contain_text("15 kg")
    expect(board).to_contain_text("box step-up")


def test_two_tabs_conflict_and_nothing_is_lost(visit):
    maren = deaf(visit)
    idris = visit.enter("Idris Penn")
    open_day(maren, visit)
    open_day(idris, visit)
    write(idris, "# From Idris\n")
    saved(idris, 1)
    write(maren, "# From Maren\n")
    alert = maren.get_by_role("alert")
    expect(alert).to_contain_text("Idris Penn saved this day")
    expect(alert).to_contain_text("# From Idris")
    assert text_of(maren) == "# From Maren"
    # What is typed during the conflict survives a crash of the tab as well.
    maren.reload()
    maren.wait_for_selector(".cm-content")
    assert text_of(maren) == "# From Maren"
    maren.get_by_role("button", name="Take theirs").click()
    expect(maren.locator(".cm-content")).to_contain_text("# From Idris")
    maren.get_by_role("button", name="Undo").click()
    expect(maren.locator(".cm-content")).to_contain_text("# From Maren")
    saved(maren, 2)


def test_keeping_mine_saves_over_the_newer_version_knowingly(visit):
    maren, idris = deaf(visit), visit.enter("Idris Penn")
    open_day(maren, visit)
    open_day(idris, visit)
    write(idris, "# From Idris\n")
    saved(idris, 1)
    write(maren, "# From Maren\n")
    maren.get_by_role("button", name="Save mine").click()
    saved(maren, 2)
    idris.reload()
    idris.wait_for_selector(".cm-content")
    assert text_of(idris) == "# From Maren"


def test_a_lost_connection_and_a_crash_lose_nothing(visit):
    context = visit.context()
    page = visit.page(context)
    page.goto(visit.base)
    page.get_by_role("button", name="Maren Tolle").click()
    page.wait_for_selector(".cm-content")
    open_day(page, visit)

    def cut(route: Route) -> None:
        if route.request.method == "PUT":
            route.abort()
        else:
            route.continue_()

    context.route("**/api/days/**", cut)
    write(page, "# Typed without a line\n")
    expect(page.get_by_role("status").first).to_contain_text("No connection")
    page.close(run_before_unload=False)
    context.unroute("**/api/days/**")
    again = visit.page(context)
    open_day(again, visit)
    assert text_of(again) == "# Typed without a line"
    expect(again.get_by_text("Not saved: what you typed at")).to_be_visible()
    # Offered, not saved: somebody else may sit at this device now.
    again.get_by_role("button", name="Save", exact=True).click()
    saved(again, 1)


def test_a_piece_is_added_from_the_menu_after_the_one_being_written(visit):
    page = at_day(visit)
    write(page, BOARD)
    page.locator(".cm-line", has_text="## Warm-up").click()
    page.get_by_role("button", name="Add a piece").click()
    page.get_by_role("menuitem", name="Tabata").click()
    ruler = page.get_by_label("The class hour", exact=True)
    names = ruler.get_by_role("button")
    expect(names).to_have_count(3)
    expect(names.nth(1)).to_have_attribute("aria-label", "Core 10:00, Tabata")
    saved(page, 1)


def test_a_piece_is_inserted_where_it_is_wanted(visit):
    page = at_day(visit)
    write(page, BOARD)
    names = page.get_by_label("The class hour", exact=True).get_by_role("button")
    expect(names).to_have_count(2)
    page.get_by_role("button", name="Insert a piece before Warm-up").click()
    page.get_by_role("menuitem", name="Tabata").click()
    expect(names).to_have_count(3)
    expect(names.first).to_have_attribute("aria-label", "Core 10:00, Tabata")
    page.get_by_role("button", name="Insert a piece after Warm-up").click()
    page.get_by_role("menuitem", name="AMRAP ladder").click()
    expect(names).to_have_count(4)
    expect(names.nth(2)).to_have_attribute("aria-label", re.compile("AMRAP"))


def test_a_line_changed_in_its_form_rewrites_its_text(visit):
    page = at_day(visit)
    write(page, BOARD)
    page.get_by_role("button", name="Change push-up").click()
    dialog = page.get_by_role("dialog", name="Change this line")
    written = dialog.get_by_role("row", name="As written").get_by_label("Amount")
    written.fill("0")
    dialog.get_by_role("button", name="Write this line").click()
    expect(dialog.get_by_role("alert")).to_contain_text("nothing to do")
    written.fill("12")
    scaled = dialog.get_by_role("row", name="Scaled")
    # What the tier above does stands there, not to be typed again.
    assert scaled.get_by_label("Amount").get_attribute("placeholder") == "12"
    scaled.get_by_label("Movement").fill("incline push-up")
    dialog.get_by_role("button", name="Write this line").click()
    expect(dialog).to_be_hidden()
    expect(page.locator(".cm-content")).to_contain_text("12 push-up | incline push-up")


def test_an_empty_day_begins_with_an_example_a_format_or_an_earlier_day(visit):
    page = at_day(visit)
    hour = page.get_by_label("The class hour", exact=True).first.get_by_role("button")
    page.get_by_role("button", name="Write over this example").click()
    expect(hour).to_have_count(3)
    write(page, "")
    page.keyboard.press("Backspace")
    page.get_by_role("button", name="AMRAP ladder").click()
    expect(hour).to_have_count(1)
    expect(page.locator(".cm-content")).to_contain_text("+2 reps each round")
    page.get_by_role("button", name="Undo").click()
    page.get_by_label("Words").fill("harbour")
    page.get_by_role("combobox", name="Movement").fill("goblet squat")
    page.keyboard.press("Escape")
    first = page.get_by_label("Earlier days").locator("li").first
    expect(first).to_contain_text("Harbour Bells")
    first.get_by_role("button", name=re.compile("^Piece: Bells, EMOM")).click()
    expect(hour).to_have_count(1)
    expect(page.locator(".cm-content")).to_contain_text("16 goblet squat")


def test_a_piece_kept_by_name_is_put_in_by_typing_its_name(visit):
    page = at_day(visit)
    write(page, "## Warm-up: 2 rounds\n10 air squat\n8 cat-camel\n\n" + BOARD.partition("\n\n")[2])
    page.get_by_role("button", name="Change the piece Warm-up").first.click()
    page.get_by_role("menuitem", name="Save as template").click()
    dialog = page.get_by_role("dialog", name="Save this piece as a template")
    dialog.get_by_role("textbox", name="Name").fill("Slipway warm-up")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_contain_text("a piece called Slipway warm-up is kept already")
    dialog.get_by_role("textbox", name="Name").fill("Quay steps")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(dialog).to_be_hidden()
    write(page, "# Ebb\n")
    page.keyboard.press("Enter")
    page.keyboard.type("Quay")
    page.get_by_role("option", name="Quay steps").click()
    expect(page.locator(".cm-content")).to_contain_text("8 cat-camel")
    assert text_of(page).endswith("## Warm-up: 2 rounds\n10 air squat\n8 cat-camel")
    page.keyboard.press("Control+z")
    expect(page.locator(".cm-content")).not_to_contain_text("8 cat-camel")


def test_the_card_of_the_notation_is_searched_and_its_examples_put_in(visit):
    page = at_day(visit)
    write(page, BOARD)
    page.locator(".cm-content").press("Escape")
    page.get_by_role("button", name="Undo").focus()
    page.keyboard.press("?")
    card = page.get_by_role("dialog", name="What can be written")
    card.get_by_label("Search").fill("tempo")
    expect(card.get_by_role("listitem")).to_have_count(1)
    card.get_by_role("button", name="tempo").click()
    expect(page.locator(".cm-content")).to_contain_text("10 push-up5 front squat, tempo 40X0")
    card.get_by_label("Search").fill("nothing of the kind")
    expect(card).to_contain_text("Nothing on the card holds that.")
    card.get_by_role("button", name="Close the card").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".cm-content")).not_to_contain_text("tempo")


def test_single_keys_move_between_steps_and_days_but_not_while_typing(visit):
    page = visit.enter("Maren Tolle")
    page.keyboard.press("s")
    page.wait_for_selector(".Cell_cell input")
    page.keyboard.press("c")
    page.wait_for_url(f"**/{TODAY.isoformat()}/compare")
    page.wait_for_selector(".Standings_section td")
    page.keyboard.press("]")
    tomorrow = TODAY.fromordinal(TODAY.toordinal() + 1).isoformat()
    page.wait_for_url(f"**/{tomorrow}/compare")
    expect(page.locator(".Compare_compare, .states_state").first).to_be_visible()
    page.keyboard.press("t")
    page.wait_for_url(f"**/{TODAY.isoformat()}/compare")
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Shortcuts")
    expect(dialog).to_be_visible()
    dialog.get_by_role("switch", name="Single-key shortcuts").click()
    page.keyboard.press("Escape")
    expect(dialog).to_be_hidden()
    page.keyboard.press("w")
    page.wait_for_timeout(200)
    assert page.url.split("?")[0].endswith("/compare")


def test_single_keys_are_letters_where_something_is_typed(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Score", exact=True).click()
    cell = page.locator(".Cell_cell input").first
    cell.fill("")
    cell.focus()
    page.keyboard.type("cwm[t?")
    expect(cell).to_have_value("cwm[t?")
    page.wait_for_timeout(200)
    assert page.url.split("?")[0].endswith("/score")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_the_test_run_follows_the_text_and_one_click_fills_the_minute(visit):
    page = at_day(visit)
    write(
        page,
        "## Conditioning: EMOM 10:00, aim 0:40, score done\n"
        "1) 24 dumbbell snatch, alternating @ 15 kg\n2) 16 goblet squat @ 18 kg\n",
    )
    testrun = page.get_by_label("Test-run")
    expect(testrun).to_contain_text("not done")
    findings = page.get_by_label("Findings")
    page.locator(".cm-note").get_by_role("button", name="24 → ").first.click()
    expect(page.locator(".cm-content")).not_to_contain_text("24 dumbbell")
    expect(findings).not_to_contain_text("As written: 6")


def test_four_uneven_blocks_are_balanced_with_one_click(visit):
    page = at_day(visit)
    blocks = ["10 push-up", "8 burpee", "6 thruster @ 40/30 kg", "4 devil's press @ 15/10 kg"]
    write(page, "## Conditioning: AMRAP 7:00, rest 1:00\n" + "\n--\n".join(blocks))
    findings = page.get_by_label("Findings")
    page.locator(".Findings_noticed summary").click()
    # The whole list stands before it is touched: what comes in above moves the button away.
    for message in ("at once", "no warm-up stands", "without a cool-down", "the blocks give"):
        expect(findings).to_contain_text(message)
    findings.get_by_role("button", name="apart").click()
    expect(findings).not_to_contain_text("As written: the blocks give")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".cm-content")).to_contain_text("10 push-up")


PLAIN_DAY = """Saturday

Warm up 3 rounds
10 jumping jacks
5/5 leg swings
20 s hollow hold

Strength
5x5 back squat 75%, rest 2 min
then 8/8 DB rows 20

AMRAP 12
15 KB swings 24/16
9 burpees
200 m run

3 rounds for time, 10 min cap
21 wall balls 9/6
15 sit-ups
12 box jumps 24/20"

Tabata
mountain climbers

Cool down 5 min
walk
"""
MOST_KEYS = 420
"""A day like this one took 590 keystrokes in exact notation."""


def test_a_day_is_typed_plainly_and_each_line_says_how_it_was_read(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{NEXT_WEEK}/write")
    page.wait_for_selector(".cm-content")
    page.locator(".cm-content").click()
    page.keyboard.press("Control+a")
    page.keyboard.type(PLAIN_DAY)
    assert len(PLAIN_DAY) <= MOST_KEYS
    ghosts = page.locator(".cm-ghost")
    expect(ghosts.first).to_have_text("# Saturday")
    expect(ghosts.filter(has_text="15 kettlebell swing @ 24/16 kg")).to_be_visible()
    expect(ghosts.filter(has_text="## Strength: 5 sets")).to_be_visible()
    board = page.locator(".Write_board")
    expect(board).to_contain_text("kettlebell swing")
    expect(board).to_contain_text("5 leg swing")
    # What is read is no fault: nothing of it stands among the findings.
    expect(page.locator(".Findings_findings")).not_to_contain_text("read as")
    # Tab writes the reading of its line into the text, and one undo takes it back.
    page.locator(".cm-line", has_text="15 KB swings").click()
    page.keyboard.press("Tab")
    expect(page.locator(".cm-content")).to_contain_text("15 kettlebell swing @ 24/16 kg")
    page.keyboard.press("Control+z")
    expect(page.locator(".cm-content")).to_contain_text("15 KB swings 24/16")
    # What was typed is what is kept.
    path = f"/api/days/{NEXT_WEEK}"
    read = "path => fetch(path).then((answer) => answer.json())"
    for _ in range(40):
        kept = page.evaluate(read, path)["text"]
        if kept == PLAIN_DAY:
            break
        page.wait_for_timeout(250)
    assert kept == PLAIN_DAY
    page.goto(f"{visit.base}/day/{NEXT_WEEK}/run")
    expect(page.get_by_role("button", name="Strength")).to_be_visible()


def test_the_line_being_typed_stays_in_sight_and_what_is_noticed_folds(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{LATER}/write")
    page.locator(".cm-content").wait_for()
    # The key goes to the text without a pointer.
    page.locator("body").press("w")
    expect(page.locator(".cm-content")).to_be_focused()
    warm = "## Warm-up: 3 rounds\n" + "10 air squat\n" * 20
    hard = "\n## Conditioning: AMRAP 6:00, cap 9:00, rest 1:00\n9 lunge, alternating\n10 zorbing\n"
    page.keyboard.insert_text(warm + hard + "12 push-up @")
    bar = page.locator(".Findings_noticed summary")
    expect(bar).to_contain_text("1 error · ")
    expect(page.get_by_label("Findings").locator("li").first).to_contain_text("missing after @")
    shown = page.locator(".cm-scroller").bounding_box()
    typed = page.locator(".cm-activeLine").bounding_box()
    assert shown and typed
    assert shown["y"] <= typed["y"]
    assert typed["y"] + typed["height"] <= shown["y"] + shown["height"]
    # What is wrong stands below its line, but not below the one that is being typed.
    notes = page.locator(".cm-note")
    expect(notes.filter(has_text="zorbing")).to_be_visible()
    expect(notes.filter(has_text="missing after @")).to_have_count(0)
    page.keyboard.press("Control+Home")
    expect(notes.filter(has_text="missing after @")).to_be_attached()
    expect(page.get_by_label("Findings")).to_be_hidden()
    bar.click()
    expect(page.get_by_label("Findings")).to_be_visible()
    bar.click()
    expect(page.get_by_label("Findings")).to_be_hidden()


def test_what_stands_below_the_text_stays_beside_the_board(visit):
    page = visit.enter("Maren Tolle", viewport={"width": 1280, "height": 800})
    open_day(page, visit, LATER)
    write(page, "Neap Tide\n\n5 RFT\n20 air squats\n10 burpees")
    saved(page, 1)
    foot = page.get_by_role("button", name="Publish").bounding_box()
    board = page.get_by_role("region", name="Board text and problems").bounding_box()
    assert foot is not None
    assert board is not None
    assert foot["x"] + foot["width"] <= board["x"] + board["width"]
