"""Movements shown: they move at the board's tempo, stand where less motion is asked, and two walls
go through a briefing together."""

from __future__ import annotations

import time

from playwright.sync_api import Page, expect
from shared import PHONE, open_display, put_on

PLAYER = ".Figure_player .Figure_figure"
"""A figure that plays; signs of the rungs are drawn alike and may be there before it."""


def seconds(page: Page) -> float:
    """How far the first figure that plays has come in its cycle."""
    return float(page.locator(PLAYER).first.get_attribute("data-t") or "nan")


def test_a_movement_s_page_plays_steps_and_takes_a_tempo(visit):
    page = visit.enter("Maren Tolle", at="/movements/back squat")
    shown = page.get_by_label("How it goes")
    figure = shown.get_by_role("img", name="back squat: standing, bottom")
    expect(figure).to_be_visible()
    expect(shown.get_by_role("list", name="Faults")).to_contain_text("chest falls")
    expect(shown.get_by_label("The rungs beside it")).to_contain_text("easier: jump squat")
    with page.expect_response("**/api/figures/**tempo=40X1"):
        shown.get_by_label("Tempo").fill("40X1")
    # Sampled against this clock: a cycle lasts 5.5 seconds now, and passes as they do.
    page.wait_for_timeout(700)
    began, first = time.monotonic(), seconds(page)
    page.wait_for_timeout(1500)
    passed, second = time.monotonic() - began, seconds(page)
    assert abs((second - first) % 5.5 - passed) < 0.4
    shown.get_by_role("button", name="Pause").click()
    held = seconds(page)
    page.wait_for_timeout(300)
    assert seconds(page) == held
    shown.get_by_role("button", name="Step").click()
    key, there = ("bottom", 4.0) if held < 4 else ("standing", 4.5 if held < 4.5 else 0.0)
    expect(shown.locator("[data-field=pose]")).to_have_text(key)
    assert seconds(page) == there
    shown.get_by_label("Tempo").fill("4")
    expect(shown).to_contain_text("Four figures")


def test_who_asks_for_less_motion_sees_the_turning_position_stand(visit):
    page = visit.enter("Maren Tolle", reduced_motion="reduce", at="/movements/air squat")
    page.locator(PLAYER).first.wait_for()
    first = seconds(page)
    page.wait_for_timeout(500)
    assert seconds(page) == first > 0
    expect(page.locator("[data-field=pose]")).to_have_text("bottom")
    page.get_by_role("button", name="Play").click()
    page.wait_for_timeout(400)
    assert seconds(page) != first


def test_a_line_pointed_at_is_shown_beside_the_board(visit):
    page = visit.enter("Maren Tolle")
    page.get_by_label("Test-run").first.wait_for()
    page.get_by_role("button", name="Change front squat").hover()
    expect(page.get_by_label("front squat, shown")).to_be_visible()
    page.mouse.move(10, 10)
    expect(page.get_by_label("front squat, shown")).to_be_hidden()


def test_a_line_pressed_on_a_phone_is_shown_with_what_counts(visit):
    page = visit.enter("Ada Quill", viewport=PHONE, has_touch=True)
    page.get_by_role("button", name="front squat", exact=True).tap()
    dialog = page.get_by_role("dialog", name="How it goes")
    expect(dialog.get_by_role("img", name="front squat: standing, bottom")).to_be_visible()
    expect(dialog).to_contain_text("Counts when the hip crease")
    assert page.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    dialog.get_by_role("button", name="Close").click()
    expect(dialog).to_be_hidden()


def test_two_walls_go_through_a_briefing_together(visit, coach):
    walls = [open_display(visit, coach)]
    walls.append(visit.page(visit.context(viewport={"width": 1280, "height": 720})))
    walls[1].goto(walls[0].url)
    put_on(coach, "Slack Water")
    coach.get_by_role("button", name="Screens: show the movements").click()
    for name in ("push press", "kettlebell swing", "box jump"):
        for wall in walls:
            brief = wall.locator("[data-shown]")
            expect(brief.get_by_role("heading", name=name)).to_be_visible()
            expect(brief).to_contain_text("Counts when")
        if name != "box jump":
            coach.get_by_role("button", name="Next movement").click()
    # The clock all displays share moves both: they are at the same place of the motion.
    for wall in walls:
        wall.locator(".Figure_figure").wait_for()
    path = "/api/figures/box%20jump"
    length = coach.evaluate(f"async () => (await (await fetch('{path}')).json()).cycle_s")
    at = [seconds(wall) for wall in walls]
    apart = (at[1] - at[0]) % length
    # What is left is the time between the two looks.
    assert min(apart, length - apart) < 0.5
    for wall in walls:
        room = wall.evaluate(
            "() => [document.documentElement.scrollHeight - innerHeight,"
            " document.documentElement.scrollWidth - innerWidth]"
        )
        assert max(room) <= 0
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    for wall in walls:
        expect(wall.locator("main")).to_have_attribute("data-layout", "clock")
        expect(wall.locator("[data-shown]")).to_have_count(0)
    expect(walls[0].locator(".Wall_now .Figure_figure")).to_be_visible()


def test_a_wall_before_the_start_goes_through_its_movements_by_itself(visit, coach):
    wall = open_display(visit, coach)
    shown = wall.get_by_role("region", name="How it goes")
    turn, others = shown.locator("li[data-on]"), shown.locator("li:not([data-on])")
    expect(turn).to_have_count(1)
    expect(shown).to_contain_text("Counts ")
    first = turn.inner_text()
    expect(turn).not_to_have_text(first, timeout=7_000)
    # One moves and the others stand, so that the eye knows where to look.
    moves, stands = turn.locator("svg"), others.first.locator("svg")
    before = [moves.get_attribute("data-t") or "", stands.get_attribute("data-t")]
    expect(moves).not_to_have_attribute("data-t", before[0])
    assert stands.get_attribute("data-t") == before[1]
    put_on(coach, "Slack Water")
    names = {"push press", "kettlebell swing", "box jump", "box step-up"}
    expect(wall.get_by_role("heading", level=1)).to_contain_text("AMRAP 20:00")
    expect(shown.get_by_text("push press")).to_be_visible()
    assert set(shown.locator("li b").all_inner_texts()) <= names
