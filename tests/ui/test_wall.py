"""Displays and schools: what the wall shows when, and how a gym's choice reaches every screen."""

from __future__ import annotations

import datetime as dt
import math
import re

from playwright.sync_api import Locator, Page, expect
from shared import PHONE, TODAY, WALL, key_of, open_display, put_on, slack_water

from pine_ladder.jobs.straps import Counting
from pine_ladder.store.database import connect

LATER = (TODAY + dt.timedelta(days=30)).isoformat()


def test_a_display_shows_the_day_then_the_piece_then_its_clock(visit, coach):
    wall = open_display(visit, coach)
    expect(wall.locator("h1")).to_have_text("Slack Water")
    expect(wall.locator(".Wall_session .Board_piece")).to_have_count(4)
    put_on(coach, "Front Line")
    expect(wall.locator("h1")).to_contain_text("Front Line")
    expect(wall.locator(".Wall_cautions b")).to_have_text("Pain stops the set: tell the coach.")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    expect(wall.locator("main")).to_have_attribute("data-layout", "clock")
    expect(wall.locator("[data-field=state]")).to_have_text("get ready")
    expect(wall.get_by_label("Safety")).to_contain_text("Pain stops the set")
    coach.get_by_role("button", name="Next", exact=True).click()
    expect(wall.locator(".Wall_now")).to_contain_text("5 front squat")
    expect(wall.get_by_label("Safety")).to_have_count(0)
    coach.get_by_role("button", name="Screens: show the board").click()
    expect(wall.locator("main")).to_have_attribute("data-layout", "board")


def test_sets_last_until_the_coach_goes_on_and_rest_counts_down(visit, coach):
    wall = open_display(visit, coach)
    put_on(coach, "Front Line")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    state, time = wall.locator("[data-field=state]"), wall.locator("[data-field=time]")
    expect(time).to_have_text(re.compile(r"0:0[1-9]"))
    expect(wall.locator("[data-field=round]")).to_have_text("1")
    coach.get_by_role("button", name="Done, next").click()
    expect(state).to_have_text("rest")
    expect(time).to_have_text(re.compile(r"1:2\d"))
    coach.get_by_role("button", name="0:15 more rest").click()
    expect(time).to_have_text(re.compile(r"1:[34]\d"))
    coach.get_by_role("button", name="Next", exact=True).click()
    expect(wall.locator("[data-field=round]")).to_have_text("2")


def test_a_display_is_readable_at_ten_metres(visit, coach):
    wall = open_display(visit, coach)
    put_on(coach, "Slack Water")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    time = wall.locator("[data-field=time]")
    time.wait_for()
    coach.get_by_role("button", name="Next", exact=True).click()
    expect(wall.locator("[data-field=state]")).to_have_text("work")
    # The time takes a third of the height, with the leading of its line.
    letter = time.evaluate("e => parseFloat(getComputedStyle(e).fontSize)")
    assert letter >= WALL["height"] / 3
    assert degrees(time) > 1
    # Every tier's loads stand on the wall, and all of it can be read.
    for load in ("52.5/37.5 kg", "42.5/30 kg", "20/15 kg"):
        expect(wall.locator(".Wall_now")).to_contain_text(load)
    for part in wall.locator(".Wall_now tbody :is(th, td)").all():
        assert degrees(part) > READABLE, part.inner_text()
    assert fits(wall)
    for width, height in ((1280, 720), (1080, 1920)):
        wall.set_viewport_size({"width": width, "height": height})
        wall.wait_for_timeout(400)
        assert fits(wall, width, height), (width, height)


SCREEN_M, AWAY_M = 1.218, 10.0
"""Width of a screen of 55 inches at 16:9, and how far the back row stands from it."""
READABLE = 1.4 * 5 / 60
"""Degrees of a capital: the smallest letter that sharp eyes read subtends five minutes of arc
(Snellen 1862; from memory), and two fifths more for who are out of breath (common sense)."""


CAPITAL_PX = """e => {
  const style = getComputedStyle(e);
  const pen = document.createElement("canvas").getContext("2d");
  pen.font = `${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
  return pen.measureText("H").actualBoundingBoxAscent;
}"""


def seen_under(px: float) -> float:
    """The angle in degrees under which so many pixels of a wall are seen from the back row."""
    return math.degrees(math.atan(px / WALL["width"] * SCREEN_M / AWAY_M))


def degrees(text: Locator) -> float:
    """The angle under which a capital of a text on a wall is seen from the back row."""
    return seen_under(text.evaluate(CAPITAL_PX))


CUT = """() => [...document.querySelectorAll(".Wall_work, .Wall_results, .Wall_safety")]
  .filter((e) => e.scrollHeight > e.clientHeight + 2 || e.scrollWidth > e.clientWidth + 2)
  .map((e) => e.className)"""


def fits(wall: Page, width: int = WALL["width"], height: int = WALL["height"]) -> bool:
    """Whether all of a display is on the screen and nothing cut; nobody scrolls a wall.

    Letters that arrive late move everything once, so a display has two seconds to settle.
    """
    page = "document.documentElement"
    for _ in range(20):
        across, down = wall.evaluate(f"[{page}.scrollWidth, {page}.scrollHeight]")
        if across <= width and down <= height and wall.evaluate(CUT) == []:
            return True
        wall.wait_for_timeout(100)
    return False


LONG = """# Ebb

## Conditioning "Ebb": AMRAP 20:00
10 push press @ 40/30 kg
10 kettlebell swing @ 24/16 kg
10 box jump @ 60/50 cm
10 toes-to-bar
10 burpee over the bar
200 m run
10 pull-up
20 double-under
"""


PUT_BOARD = """async ([date, text]) => {
  const me = await (await fetch('/api/me')).json();
  const headers = { 'content-type': 'application/json', 'x-pine-guard': me.guard };
  const send = (path, body) => fetch(path, { method: 'PUT', headers, body: JSON.stringify(body) });
  await send(`/api/days/${date}`, { text, version: 0 });
  await send(`/api/days/${date}/classes/18:00:00`, {});
}"""


def test_no_display_of_a_long_piece_leaves_the_screen(visit, coach):
    coach.evaluate(PUT_BOARD, [LATER, LONG])
    wall = open_display(visit, coach)
    assert fits(wall), "the day"
    coach.goto(f"{visit.base}/day/{LATER}/run")
    put_on(coach, "Ebb")
    expect(wall.locator("h1")).to_contain_text("Ebb")
    assert fits(wall), "the piece"
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    wall.get_by_label("Safety").wait_for()
    expect(wall.locator("[data-field=state]")).to_have_text("get ready")
    assert fits(wall), "the lead-in"
    coach.get_by_role("button", name="Next", exact=True).click()
    expect(wall.locator("[data-field=state]")).to_have_text("work")
    expect(wall.locator(".Wall_now li")).to_have_count(8)
    assert fits(wall), "the clock"


MANY = """# Flood

## Conditioning "Flood": for time, cap 25:00
10 push press @ 40/30 kg | @ 30/20 kg | @ 20/15 kg
10 kettlebell swing @ 24/16 kg | @ 16/12 kg | @ 12/8 kg
10 box jump @ 60/50 cm | 10 box step-up @ 50/40 cm | 8 box step-up @ 40/30 cm
10 toes-to-bar | 10 hanging knee raise | 10 v-up
10 pull-up | 8 pull-up | 10 ring row
20 double-under | 40 single-under | 30 single-under
10 thruster @ 40/30 kg | @ 30/20 kg | @ 20/15 kg
10 deadlift @ 80/55 kg | @ 60/42.5 kg | @ 40/30 kg
10 front squat @ 50/35 kg | @ 40/27.5 kg | @ 20/15 kg
"""


def test_tiers_take_turns_where_all_of_them_would_be_too_small_to_read(visit, coach):
    coach.evaluate(PUT_BOARD, [LATER, MANY])
    wall = open_display(visit, coach)
    coach.goto(f"{visit.base}/day/{LATER}/run")
    put_on(coach, "Flood")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    tier = wall.locator("[data-field=tier]")
    expect(tier).to_be_visible()
    seen: set[str] = set()
    # A busy machine may sleep through a turn; the next one comes.
    for _ in range(9):
        if len(seen) == 3:
            break
        now = tier.inner_text()
        seen.add(now)
        work = wall.locator(".Wall_work")
        expect(work.locator("li")).to_have_count(9)
        # All lines in one look: the next turn may come between two.
        capitals = work.evaluate(f"e => [...e.querySelectorAll('li')].map({CAPITAL_PX})")
        assert len(capitals) == 9
        assert min(map(seen_under, capitals)) > READABLE
        assert fits(wall)
        expect(tier).not_to_have_text(now)
    assert len(seen) == 3


def test_a_withdrawn_display_goes_dark(visit, coach):
    wall = open_display(visit, coach)
    coach.get_by_role("button", name="Screens", exact=True).click()
    coach.get_by_role("button", name="Withdraw Wall 1").click()
    question = coach.get_by_role("dialog", name="Withdraw Wall 1?")
    question.get_by_role("button", name="Withdraw").click()
    expect(wall.get_by_text("This display link was withdrawn.")).to_be_visible()


def test_a_link_nobody_made_shows_nothing(visit):
    page = visit.page(visit.context(viewport=WALL))
    page.goto(f"{visit.base}/wall/not-a-link")
    expect(page.get_by_text("No board at this link yet")).to_be_visible()


def test_the_gyms_school_reaches_compare_and_the_phone(visit, coach):
    coach.goto(f"{visit.base}/gym#training")
    coach.get_by_role("combobox", name="Standings of tiers").click()
    coach.get_by_role("option", name="tier order").click()
    coach.get_by_role("button", name="Save", exact=True).click()
    coach.goto(f"{visit.base}/day/{TODAY}/compare?piece={key_of(coach, 'Slack Water')}")
    expect(coach.locator(".Standings_section h2")).to_have_count(1)
    phone = visit.enter("Ada Quill", viewport=PHONE)
    slack_water(phone).get_by_role("button", name="See everyone").click()
    expect(phone.locator(".Standings_section h2")).to_contain_text("All tiers")
    expect(phone.locator("tr[data-mine]")).to_contain_text("Ada Quill you")


def test_a_verified_score_loses_its_mark_everywhere(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/compare?piece={key_of(coach, 'Slack Water')}")
    marked = coach.locator(".words_verify")
    expect(marked).to_have_count(1)
    coach.goto(f"{visit.base}/day/{TODAY}/score")
    coach.locator(".doubt_doubt").get_by_role("button", name="Accept", exact=True).click()
    expect(coach.locator(".doubt_doubt")).to_contain_text("verified")
    coach.goto(f"{visit.base}/day/{TODAY}/compare?piece={key_of(coach, 'Slack Water')}")
    coach.locator(".Standings_section").first.wait_for()
    expect(marked).to_have_count(0)


def test_history_tells_places_pacing_and_trends(visit):
    phone = visit.enter("Ada Quill", viewport=PHONE, at="/profile")
    history = phone.locator(".History_history")
    expect(history).to_contain_text("Trends")
    # A chart is a picture of a table that is read aloud in its place.
    board = history.get_by_role("region").first
    expect(board.locator(".recharts-surface").first).to_be_attached()
    assert board.locator("tr").count() > 1
    assert board.locator("p b").inner_text().startswith(board.locator("td").first.inner_text())
    expect(history).to_contain_text(re.compile(r"place \d+ of \d+"))
    expect(history).to_contain_text(re.compile("steady|falling|collapsed|all out"))
    expect(history).to_contain_text("say nothing of your health")
    rows = history.locator("table").last.locator("tr")
    few = rows.count()
    history.get_by_role("button", name=re.compile(r"^All \d+ scores")).click()
    assert rows.count() > few


SKERROW = [
    "Ada Quill",
    "Ada Weir",
    "Bram Osei",
    "Cedric Vale",
    "Dimitri Sallow",
    "Emil Tarn",
    "Farah Linden",
    "Kaspar Lock",
    "Kerstin Dale",
    "Oskar Weir",
    "Rosa Tiller",
    "Una Pell",
]


def beating(site, tiles: list[dict], people: dict[str, dict]) -> None:
    engine = connect(site[2])
    Counting(engine).tell({"people": people, "tiles": tiles})
    engine.dispose()


def test_hearts_stand_on_the_wall_and_nothing_leaves_the_screen_for_them(visit, coach, site):
    wall = open_display(visit, coach)
    put_on(coach, "Slack Water")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    expect(wall.locator("[data-field=state]")).to_have_text("work")
    held = wall.evaluate("async (at) => (await (await fetch(at)).json()).clock.class_id",
                         f"/api{wall.url.removeprefix(visit.base)}")  # fmt: skip
    tiles = [
        {"name": name, "class_id": held, "bpm": bpm, "low": 138, "high": 170, "where": where}
        for name, bpm, where in zip(
            SKERROW, range(120, 180, 5), ["below"] * 4 + ["in"] * 7 + ["above"], strict=True
        )
    ]
    other = {"name": "Of another class", "class_id": held + 1, "bpm": 99}
    hearts = wall.get_by_role("list", name="Hearts")
    for width, height in ((1920, 1080), (1280, 720), (1080, 1920)):
        wall.set_viewport_size({"width": width, "height": height})
        beating(site, [*tiles, other], {})
        expect(hearts.get_by_role("listitem")).to_have_count(len(SKERROW))
        # Two of one first name are told apart.
        expect(hearts.get_by_role("listitem").first).to_contain_text("Ada Quill")
        expect(hearts.get_by_role("listitem").nth(2)).to_have_text(re.compile(r"^Bram130 ▽$"))
        expect(hearts.get_by_role("listitem").last).to_have_text(re.compile(r"^Una175 ▲$"))
        assert fits(wall, width, height), (width, height)
    # What is not heard any more is nobody's heart.
    expect(hearts).to_have_count(0, timeout=15_000)


def test_a_phone_tells_its_own_heart_what_the_piece_asks(visit, coach, site):
    phone = visit.enter("Ada Quill", viewport=PHONE, has_touch=True)
    expect(phone.get_by_text("The strap is not heard.")).to_be_visible()
    number = phone.evaluate("async () => (await (await fetch('/api/me')).json()).id")
    own = {"bpm": 151, "effort": "easy", "low": 102, "high": 136, "where": "above"}
    beating(site, [], {str(number): own, str(number + 1): {"bpm": 60}})
    expect(phone.get_by_text("above the range: slow down until you can talk")).to_be_visible()
    expect(phone.locator(".MyHeart_beating b")).to_have_text("151")
    phone.goto(f"{visit.base}/profile")
    expect(phone.get_by_label("Heart", exact=True)).to_contain_text("in the range for")
    phone.goto(f"{visit.base}/account")
    straps = phone.get_by_role("form", name="Heart rate strap")
    straps.get_by_label("Strap number").fill("2")
    straps.get_by_role("button", name="Save strap").click()
    expect(straps).to_contain_text("strap 2 is somebody else's: a coach can free it")
    expect(straps.get_by_label("Strap number")).to_have_value("2")
    straps.get_by_label("Strap number").fill("77")
    straps.get_by_role("button", name="Save strap").click()
    expect(straps.get_by_role("status")).to_have_text("Strap 77 is worn from now on.")
    straps.get_by_role("button", name="Delete my heart-rate data").click()
    expect(straps.get_by_role("status")).to_have_text("Forgotten.")
    phone.goto(f"{visit.base}/profile")
    expect(phone.get_by_role("heading", name="Scores")).to_be_visible()
    expect(phone.get_by_label("Heart", exact=True)).to_have_count(0)
