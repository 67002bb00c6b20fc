"""The scaling sheet and what reaches the athlete's phone."""

from __future__ import annotations

import datetime as dt
import re

from playwright.sync_api import expect
from shared import PHONE, TODAY, key_of


def open_sheet(page, visit) -> None:
    key = key_of(page, "Slack Water")
    page.goto(f"{visit.base}/day/{TODAY.isoformat()}/scale?piece={key}")
    page.wait_for_selector(".Scale_grid")


def test_an_override_is_set_in_a_click_and_still_there_after_a_reload(visit):
    page = visit.enter("Maren Tolle")
    open_sheet(page, visit)
    page.get_by_role("button", name="Tomas Keel: 10 kettlebell swing").click()
    box = page.get_by_label("Tomas Keel does")
    box.fill("8 zorbing")
    page.get_by_role("button", name="Set and remember").click()
    expect(page.get_by_text("no such movement")).to_be_visible()
    box.fill("10 dumbbell swing @ 15 kg")
    page.get_by_role("button", name="Set and remember").click()
    own = page.get_by_role("button", name="Tomas Keel: 10 dumbbell swing @ 15 kg")
    expect(own).to_contain_text("coach’s choice")
    page.reload()
    page.wait_for_selector(".Scale_grid")
    expect(own).to_contain_text("coach’s choice")
    own.click()
    page.get_by_role("button", name="Back to the recommendation").click()
    expect(page.get_by_role("button", name="Tomas Keel: 10 kettlebell swing")).to_be_visible()


def test_a_shoulder_limit_explains_itself_on_the_sheet(visit):
    page = visit.enter("Maren Tolle")
    open_sheet(page, visit)
    cell = page.get_by_role("button", name="Petra Cove: 10 floor press")
    why = "shoulder noted: floor press instead of push press"
    expect(cell).to_have_accessible_description(why)
    expect(cell).to_have_attribute("title", why)


def test_a_tiers_version_stands_once_and_its_athletes_say_what_differs(visit):
    page = visit.enter("Maren Tolle")
    open_sheet(page, visit)
    head = page.get_by_role("row").filter(has=page.locator("th[scope=rowgroup]"))
    expect(head.first).to_contain_text("10 push press @ 52.5/37.5 kg")
    expect(head.nth(1)).to_contain_text("10 push press @ 42.5/30 kg")
    cell = page.get_by_role("button", name="Bram Osei: 10 push press @ 52.5 kg")
    assert cell.locator("[aria-hidden]").inner_text() == "52.5 kg 20 kg bar, 15 + 1.25 a side"
    # At least fifteen athletes are on the screen at once.
    rows = page.locator(".Scale_grid th[scope=row]")
    heights = rows.evaluate_all("rows => rows.map(row => row.getBoundingClientRect().height)")
    assert sorted(heights)[len(heights) // 2] * 15 <= 800 - 330
    page.get_by_label("Changes only").check()
    expect(page.get_by_text("As the tier: ").first).to_contain_text("Nadia Kelp 1")
    assert rows.count() < len(heights)


def test_a_lighter_bar_a_rung_and_a_note_are_chosen_without_typing_the_line(visit):
    page = visit.enter("Maren Tolle")
    open_sheet(page, visit)
    page.get_by_role("button", name="Nadia Kelp: 10 push press @ 37.5 kg").click()
    page.get_by_role("button", name="Lighter").click()
    expect(page.get_by_role("group", name="Load")).to_contain_text(
        "35 kg 20 kg bar, 5 + 2.5 a side"
    )
    page.get_by_label("Note for them").fill("feet still")
    page.get_by_role("button", name="Set and remember").click()
    own = page.get_by_role("button", name="Nadia Kelp: 10 push press @ 35 kg — feet still")
    expect(page.get_by_text("35 kg — feet still, remembered.")).to_be_visible()
    own.click()
    page.get_by_role("button", name="Back to the recommendation").click()
    page.get_by_role("button", name="Nadia Kelp: 10 kettlebell swing").click()
    rungs = page.get_by_role("group", name="Rungs")
    rungs.get_by_role("button", name="10 dead-stop swing").click()
    expect(page.get_by_label("Nadia Kelp does")).to_have_value(re.compile("10 dead-stop swing"))
    # The sheet stays in view beside it, and another athlete is a press away.
    page.get_by_role("button", name="Anouk Berrow: 10 push press").click()
    expect(page.get_by_role("dialog", name="Anouk Berrow · push press")).to_be_visible()
    page.keyboard.press("Escape")
    expect(rungs).to_be_hidden()


def test_what_an_athlete_notes_changes_their_own_board_at_once(visit):
    page = visit.enter("Ada Quill", viewport=PHONE)
    page.get_by_role("link", name="Progress").click()
    page.get_by_role("link", name="Settings and privacy").click()
    page.get_by_label("shoulder", exact=True).check()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_label("Note on shoulder")).to_be_visible()
    page.goto(f"{visit.base}/me/{TODAY.isoformat()}")
    expect(page.get_by_text("shoulder noted: floor press instead of push press")).to_be_visible()
    expect(page.get_by_text("push press", exact=True)).to_have_count(0)


def test_a_coach_finds_an_athletes_pace_ladders_and_best_from_a_set(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_role("link", name="Athletes").click()
    page.get_by_label("Find an athlete").fill("ada")
    page.get_by_role("link", name="Ada Quill").click()
    expect(page.locator(".RungLadder_rungs li[aria-current]").first).to_be_visible()
    expect(page.get_by_label("Pace", exact=True)).to_contain_text("Scaled")
    page.get_by_label("Kilograms lifted").fill("70")
    page.get_by_role("button", name="Estimate").click()
    expect(page.get_by_text("the formulas lie between")).to_be_visible()
    page.get_by_role("combobox", name="Bests: movement").fill("push press")
    page.get_by_label("Bests: kg", exact=True).fill("55")
    page.get_by_role("button", name="Add", exact=True).first.click()
    page.get_by_role("button", name="Save", exact=True).click()
    page.reload()
    expect(page.get_by_label("Bests: push press")).to_have_value("55 kg")


STIFF = """# Stiff Breeze

## Conditioning "Stiff": AMRAP 12:00, target 9-11 rounds
5 pull-up
10 push-up
15 air squat
"""


def written(page, text: str, day: object) -> str:
    """A board saved on a day through the page's own session; the key of its first piece."""
    return page.evaluate(
        """async ([day, text]) => {
          const me = await (await fetch("/api/me")).json();
          await fetch(`/api/days/${day}`, {
            method: "PUT",
            headers: {"content-type": "application/json", "x-pine-guard": me.guard},
            body: JSON.stringify({text, version: 0}),
          });
          return (await (await fetch(`/api/days/${day}/pieces`)).json())[0].key;
        }""",
        [str(day), text],
    )


def test_what_keeps_the_aim_is_told_and_taken_with_a_press(visit):
    page = visit.enter("Maren Tolle")
    far = TODAY + dt.timedelta(days=40)
    key = written(page, STIFF, far)
    page.goto(f"{visit.base}/day/{far}/scale?piece={key}")
    take = page.get_by_role("button", name=re.compile(": take "))
    expect(take.first).to_be_visible()
    name, rung = take.first.get_attribute("aria-label").split(": take ")
    row = page.get_by_role("row").filter(has_text=name)
    expect(row).to_contain_text("(aim 9–11 rounds)")
    take.first.click()
    expect(row.get_by_role("button", name=re.compile(rung)).first).to_contain_text("coach’s choice")
    expect(page.get_by_role("button", name=f"{name}: take {rung}")).to_have_count(0)


def test_someone_new_is_asked_once_and_scaled_by_the_answer(visit):
    page = visit.enter("Maren Tolle")
    far = TODAY + dt.timedelta(days=41)
    strength = '# Heavy\n\n## Strength "Stack": 5 sets, rest 2:00\n5 back squat @ 75%\n'
    key = written(page, strength, far)
    page.goto(f"{visit.base}/day/{far}/scale?piece={key}")
    new = page.get_by_role("button", name=re.compile("No data yet: ask")).first
    name = new.get_attribute("aria-label").split("ask ")[1]
    new.click()
    page.get_by_label("Heaviest back squat").fill("100")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("button", name=f"No data yet: ask {name}")).to_have_count(0)
    row = page.get_by_role("row").filter(has_text=name)
    # 75 kg: the bar of 20 and 27.5 a side.
    expect(row).to_contain_text("20 kg bar, 25 + 2.5 a side (75 %)")
