"""The floor as a coach and athletes use it: keys, ends, heats, classes, comparing."""

from __future__ import annotations

import datetime as dt
import re

import pytest
from playwright.sync_api import Page, Route, expect
from shared import DESK, PHONE, TODAY, key_of

LATER = TODAY + dt.timedelta(days=30)
SPRINT = '# Ebb\n\n## Conditioning "Ebb": 3 rounds for time, cap 12:00\n3 burpee\n'
NAMES = ("Ada Quill", "Bram Osei", "Cleo Vance")


def written(coach: Page, base: str, board: str, date: dt.date = LATER) -> None:
    """A board on a day, with a class of three."""
    coach.evaluate(
        """async ([date, text, names]) => {
          const me = await (await fetch('/api/me')).json();
          const headers = { 'content-type': 'application/json', 'x-pine-guard': me.guard };
          const send = (method, path, body) =>
            fetch(path, { method, headers, body: JSON.stringify(body) }).then((a) => a.json());
          await send('PUT', `/api/days/${date}`, { text, version: 0 });
          const held = await send('PUT', `/api/days/${date}/classes/18:00:00`, {});
          const { people } = await (await fetch(`/api/days/${date}/floor`)).json();
          for (const one of people.filter((person) => names.includes(person.name))) {
            await send('PUT', `/api/classes/${held.id}/here/${one.id}`, { here: true });
          }
        }""",
        [date.isoformat(), board, list(NAMES)],
    )
    coach.goto(f"{base}/day/{date}/run")


def on_the_clock(coach: Page, title: str) -> None:
    coach.get_by_role("combobox", name="Piece on the clock").click()
    coach.get_by_role("option", name=title).click()
    coach.wait_for_selector(".Run_cockpit")


def days_to_the_one_before(coach: Page) -> int:
    """How many days back the gym trained last."""
    back = 1
    while not coach.evaluate(
        "date => fetch(`/api/days/${date}`).then(async (a) => a.ok && (await a.json()).text)",
        (TODAY - dt.timedelta(days=back)).isoformat(),
    ):
        back += 1
    return back


@pytest.fixture
def coach(visit) -> Page:
    return visit.enter("Maren Tolle")


def test_the_remote_is_played_by_keys(visit, coach):
    written(coach, visit.base, "# Ebb\n\n## Conditioning: EMOM 4:00\n1) 10 burpee\n2) 12 sit-up\n")
    on_the_clock(coach, "Conditioning")
    state, now = coach.locator("[data-field=state]"), coach.locator(".Run_remote-now")
    expect(state).to_have_text("ready")
    coach.locator(".Run_remote-face").click()
    coach.keyboard.press("Space")
    expect(state).to_have_text("get ready")
    coach.keyboard.press("n")
    expect(now).to_have_text("10 burpee")
    coach.keyboard.press("n")
    expect(now).to_have_text("12 sit-up")
    coach.keyboard.press("Space")
    expect(state).to_contain_text("paused")
    coach.keyboard.press("u")
    expect(state).not_to_contain_text("paused")
    coach.keyboard.press("u")
    expect(now).to_have_text("10 burpee")


def test_a_press_made_on_two_remotes_at_once_is_told(visit, coach):
    written(coach, visit.base, SPRINT)
    on_the_clock(coach, "Ebb")
    coach.get_by_role("button", name="Start (10 s countdown)").wait_for()
    # This remote has not heard of the other's press.
    coach.route("**/api/live", lambda route: route.abort())
    coach.reload()
    coach.get_by_role("button", name="Start (10 s countdown)").wait_for()
    idris = visit.enter("Idris Penn", at=f"/day/{LATER}/run")
    idris.get_by_role("button", name="Start (10 s countdown)").click()
    idris.get_by_role("button", name="Pause").wait_for()
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    expect(coach.get_by_role("alert")).to_have_text("someone else pressed in the meantime")
    expect(coach.get_by_role("button", name="Pause")).to_be_visible()


def test_athletes_end_one_by_one_and_their_times_are_kept(visit, coach):
    written(coach, visit.base, SPRINT)
    on_the_clock(coach, "Ebb")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    ends = coach.locator(".Finishes_finishes")
    expect(coach.locator("[data-field=state]")).to_contain_text("work")
    expect(coach.locator("[data-field=time]")).to_have_text(re.compile("0:0[4-9]|0:[1-5]"))
    ends.get_by_role("button", name="Bram Osei").click()
    bram = ends.get_by_role("button", name="Bram Osei")
    expect(bram).to_have_attribute("aria-pressed", "true")
    expect(bram.locator("b")).to_have_text(re.compile(r"\d:\d\d"))
    shown = bram.locator("b").text_content()
    ends.get_by_role("button", name="Cleo Vance").click()
    expect(ends.get_by_role("button", name="Cleo Vance")).to_have_attribute("aria-pressed", "true")
    ends.get_by_role("button", name="Cleo Vance").click()
    expect(ends.get_by_role("button", name="Cleo Vance")).to_have_attribute("aria-pressed", "false")
    ends.get_by_role("button", name="Save 1 as scores").click()
    expect(ends.get_by_role("status")).to_have_text("1 kept as scores")
    coach.goto(f"{visit.base}/day/{LATER}/score")
    expect(coach.get_by_label("Ebb, Bram Osei")).to_have_value(shown)


def test_heats_are_proposed_from_the_kit_and_changed_by_two_presses(visit, coach):
    written(coach, visit.base, SPRINT.replace("cap 12:00", "cap 12:00, heats 3"))
    on_the_clock(coach, "Ebb")
    heats = coach.locator(".lanes .HeatsAndTeams_groups").first
    expect(heats.locator("li")).to_have_count(3)
    expect(coach.locator(".lanes")).to_contain_text("the board asks for 3 heats")
    before = heats.locator("li button").all_text_contents()
    assert sorted(before) == sorted(NAMES)
    heats.get_by_role("button", name=before[0]).click()
    heats.get_by_role("button", name=before[2]).click()
    expect(heats.locator("li button")).to_have_text([before[2], before[1], before[0]])
    coach.get_by_role("button", name="propose again").click()
    expect(heats.locator("li button")).to_have_text(before)
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    # Who stands in a later heat cannot end before it has begun.
    coach.locator(".Finishes_finishes").get_by_role("button", name=before[1]).click()
    expect(coach.get_by_role("alert")).to_have_text("heat 2 has not begun")
    coach.get_by_role("button", name="Start heat 2").click()
    coach.get_by_role("button", name="Start heat 3").wait_for()


def test_heats_go_on_a_running_clock_only_when_asked_twice(visit, coach):
    written(coach, visit.base, SPRINT)
    on_the_clock(coach, "Ebb")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Pause").wait_for()
    # The board asks for heats while the class runs: another coach has written it so.
    asked = SPRINT.replace("cap 12:00", "cap 12:00, heats 3")
    coach.evaluate(
        """async ([date, text]) => {
          const me = await (await fetch('/api/me')).json();
          const headers = { 'content-type': 'application/json', 'x-pine-guard': me.guard };
          const { version } = await (await fetch(`/api/days/${date}`)).json();
          await fetch(`/api/days/${date}`,
            { method: 'PUT', headers, body: JSON.stringify({ text, version }) });
        }""",
        [LATER.isoformat(), asked],
    )
    put = coach.get_by_role("button", name="Put 3 heats on the clock")
    put.click()
    sure = coach.get_by_role("button", name="The clock runs: start it anew with 3 heats?")
    expect(sure).to_be_visible()
    expect(coach.get_by_role("button", name="Pause")).to_be_visible()
    sure.click()
    expect(coach.get_by_role("button", name="Start (10 s countdown)")).to_be_visible()


def test_a_round_added_on_the_remote_is_jotted_and_scored(visit, coach):
    windows = '# Ebb\n\n## Conditioning "Ebb": 0:20/0:10 x 2, score total reps\nmax burpee\n'
    written(coach, visit.base, windows)
    on_the_clock(coach, "Ebb")
    third = coach.get_by_label("Ada Quill, round 3 (3)")
    expect(coach.get_by_label(re.compile("Ada Quill, .* \\(2\\)"))).to_be_visible()
    expect(third).to_have_count(0)
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    coach.get_by_role("button", name="Add a round").click()
    for place, reps in enumerate(("9", "8", "7"), 1):
        cell = coach.get_by_label(re.compile(f"Ada Quill, .* \\({place}\\)"))
        cell.fill(reps)
        cell.press("Enter")
    coach.get_by_role("button", name="Save as scores").click()
    expect(coach.locator(".RoundTimes_strip-jots")).to_contain_text("1 kept as scores")
    coach.goto(f"{visit.base}/day/{LATER}/score")
    expect(coach.get_by_label("Ebb, Ada Quill")).to_have_value("24, 1 added")


def test_who_is_here_is_typed_in_and_taken_out(visit, coach):
    written(coach, visit.base, SPRINT)
    here = coach.locator(".Attendance_here")
    expect(here.locator("h2")).to_have_text("Present 3")
    coach.get_by_role("combobox", name="Attendance").fill("Emil")
    coach.get_by_role("option", name="Emil Tarn").click()
    expect(here.locator("h2")).to_have_text("Present 4")
    coach.get_by_label("Ada Quill is not here").click()
    expect(here.locator("h2")).to_have_text("Present 3")
    expect(here.locator("ul")).not_to_contain_text("Ada Quill")


def test_who_checks_in_by_phone_is_here_at_once(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/run")
    coach.get_by_role("combobox", name="Class").click()
    coach.get_by_role("option", name=re.compile("12:15")).click()
    here = coach.locator(".Attendance_here ul")
    phone = visit.enter("Cleo Vance", viewport=PHONE)
    mine = phone.get_by_role("region", name="My class")
    mine.get_by_role("button", name=re.compile("^Other classes")).click()
    button = mine.get_by_role("button", name=re.compile("heck.in at 12:15"))
    came = (button.text_content() or "") == "Undo"
    if came:
        expect(here).to_contain_text("Cleo Vance")
    button.click()
    if came:
        expect(here).not_to_contain_text("Cleo Vance")
    else:
        expect(here).to_contain_text("Cleo Vance")


def test_a_call_switched_off_stays_off_on_this_device(visit, coach):
    written(coach, visit.base, SPRINT)
    on_the_clock(coach, "Ebb")
    coach.get_by_text("Sounds on this device").click()
    coach.get_by_label("Halfway").uncheck()
    coach.reload()
    coach.get_by_text("Sounds on this device").click()
    expect(coach.get_by_label("Halfway")).not_to_be_checked()
    expect(coach.get_by_label("Work begins")).to_be_checked()


def test_the_line_on_pain_stands_on_the_phone_before_a_piece(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/run")
    on_the_clock(coach, "Slack Water")
    phone = visit.enter("Ada Quill", viewport=PHONE)
    clock = phone.get_by_label("The class's clock")
    expect(clock).to_contain_text("about to start")
    expect(clock.get_by_label("Safety")).to_contain_text("Pain stops the set")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    expect(clock.get_by_label("Safety")).to_have_count(0)


def test_the_sheet_can_hold_one_class(visit, coach):
    written(coach, visit.base, SPRINT)
    coach.goto(f"{visit.base}/day/{TODAY}/score")
    names = coach.locator(".Score_sheet tbody th")
    names.first.wait_for()
    everybody = names.count()
    coach.get_by_role("radiogroup", name="Class").get_by_text("06:30").click()
    expect(coach.locator(".Score_split")).to_have_count(0)
    assert 5 <= names.count() < everybody


def test_rounds_lie_side_by_side_and_earlier_times_beside_them(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/compare?piece={key_of(coach, 'Slack Water')}")
    rounds = coach.locator("details", has_text="Round times")
    expect(rounds).to_contain_text("Tick two or more")
    boxes = rounds.get_by_role("checkbox")
    boxes.nth(0).check()
    boxes.nth(1).check()
    table = coach.get_by_role("table", name="Side by side")
    expect(coach.locator(".recharts-line")).to_have_count(2)
    expect(table.locator("thead th")).to_have_count(3)
    expect(table.locator("tbody tr").first.locator("td")).to_have_text(
        [re.compile(r"^\d:\d\d$")] * 2
    )
    before = coach.locator("details.tables_retest")
    expect(before).to_contain_text("did both")
    expect(before.locator("tbody tr").first).to_contain_text("%")


def test_standings_are_filtered_on_compare(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/compare?piece={key_of(coach, 'Slack Water')}")
    sections = coach.locator(".Standings_section h2")
    expect(sections).to_have_count(3)
    coach.get_by_text("Filters").click()
    coach.get_by_role("combobox", name="Tiers rank").click()
    coach.get_by_role("option", name="total work").click()
    expect(sections).to_have_count(1)
    expect(sections).to_contain_text("All tiers")
    coach.get_by_role("combobox", name="Tier", exact=True).click()
    coach.get_by_role("option", name="Scaled").click()
    expect(coach.locator(".Standings_section tbody tr")).to_have_count(5)


def test_one_athlete_is_followed_from_piece_to_piece_and_day_to_day(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/compare?piece={key_of(coach, 'Slack Water')}")
    coach.get_by_role("button", name="Ada Quill", exact=True).click()
    own = coach.get_by_role("region", name="Following Ada Quill")
    expect(own).to_contain_text(re.compile(r"Slack Water 12\+\d+ \d+ of \d+"))
    expect(own.locator(".recharts-surface").first).to_be_attached()
    expect(coach.locator(".DotStrip_dot[data-mine]")).to_have_count(1)
    own.get_by_role("button", name="Front Line").click()
    expect(coach.get_by_role("heading", name="Front Line", level=2)).to_be_visible()
    expect(own).to_contain_text("→")
    # The day before may be one without a session, on a Monday for one.
    for _ in range(days_to_the_one_before(coach)):
        coach.get_by_role("link", name="Day before").click()
    expect(coach).to_have_url(re.compile("/compare"))
    expect(own.get_by_role("button").nth(1)).to_be_visible()
    own.get_by_role("button", name="Follow no more").click()
    expect(own).to_be_hidden()


def test_an_athlete_hides_from_standings_by_their_own_wish(visit):
    ada = visit.enter("Ada Quill", viewport=PHONE, at="/account")
    ada.get_by_label("Leave me out of standings").check()
    ada.get_by_role("button", name="Save", exact=True).click()
    expect(ada.get_by_label("Leave me out of standings")).to_be_checked()
    bram = visit.enter("Bram Osei", viewport=DESK)
    bram.get_by_role("button", name="See everyone").last.click()
    bram.locator(".Standings_section").first.wait_for()
    expect(bram.locator(".Standings_sections")).not_to_contain_text("Ada Quill")


def test_a_screen_seen_before_opens_without_waiting_for_who_this_is(visit, coach):
    coach.goto(f"{visit.base}/day/{TODAY}/run")
    expect(coach.get_by_role("combobox", name="Class")).to_be_visible()
    # What was read is kept a moment after it is shown.
    kept = """() => ['me', 'gym', 'floor'].every(
      (one) => localStorage['pine-kept']?.includes(`"${one}"`))"""
    coach.wait_for_function(kept)
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    coach.route("**/api/me", hold)
    coach.reload()
    expect(coach.get_by_role("combobox", name="Class")).to_be_visible()
    assert held, "who is signed in is asked anew at each start"
    for one in held:
        one.continue_()


def test_the_remote_opens_on_the_class_that_is_on_now_and_stays(visit, coach):
    path = f"/api/days/{TODAY}/floor"
    read = "path => fetch(path).then((answer) => answer.json())"
    shown = coach.evaluate(read, path)["nearest"][:5]
    # The device's own clock has no say.
    coach.clock.set_fixed_time(dt.datetime.combine(TODAY, dt.time(3, 0)))
    coach.goto(f"{visit.base}/day/{TODAY}/run")
    chosen = coach.get_by_role("combobox", name="Class")
    expect(chosen).to_have_value(re.compile(f"^{shown}"))
    expect(coach.get_by_role("alert")).to_contain_text("By this device it is")
    coach.clock.set_fixed_time(dt.datetime.combine(TODAY, dt.time(23, 0)))
    coach.get_by_role("combobox", name="Piece on the clock").click()
    coach.get_by_role("option", name="Warm-up").click()
    coach.wait_for_selector(".Run_cockpit")
    expect(chosen).to_have_value(re.compile(f"^{shown}"))


def test_a_note_that_is_refused_says_so_and_is_mended_or_given_up(visit):
    page = visit.enter("Maren Tolle", at=f"/day/{TODAY}/run")
    page.get_by_role("combobox", name="Class").click()
    page.get_by_role("option", name=re.compile("06:30")).click()
    page.get_by_role("combobox", name="Piece on the clock").click()
    page.get_by_role("option", name="Slack Water").click()
    first, second = (page.get_by_label(f"Ada Quill, round {n} ({n})") for n in (1, 2))
    keep = page.get_by_role("button", name="Save as scores")
    first.fill("25000")
    first.press("Enter")
    alert = page.get_by_role("alert").filter(has_text="Ada Quill, 1:")
    expect(alert).to_contain_text("20000")
    expect(page.get_by_role("button", name="1 unsent · 1 refused")).to_be_visible()
    expect(keep).to_be_hidden()
    # Written anew in its place, it is the new one that stands.
    first.fill("1:35")
    first.press("Enter")
    expect(keep).to_be_visible()
    expect(first).to_have_value("1:35")
    expect(alert).to_be_hidden()
    # Or it is given up where everything stands that waits, and taken back.
    second.fill("25000")
    second.press("Enter")
    page.get_by_role("button", name="1 unsent · 1 refused").click()
    listed = page.get_by_role("dialog", name="Waiting on this device")
    expect(listed).to_contain_text("round 2: 25000")
    listed.get_by_role("button", name="Discard round 2: 25000").click()
    listed.get_by_role("button", name="Restore round 2: 25000").click()
    listed.get_by_role("button", name="Discard round 2: 25000").click()
    page.keyboard.press("Escape")
    expect(second).to_have_value("")
    expect(page.get_by_text("unsent")).to_have_count(0)
    expect(keep).to_be_visible()


def test_a_running_clock_is_not_lost_by_a_slip(visit, coach):
    """Replaced, restarted or undone only after a question; redo shows the time it would show."""
    board = f'{SPRINT}\n## Core "Neap": 3 rounds\n10 sit-up\n'
    written(coach, visit.base, board)
    on_the_clock(coach, "Ebb")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    time = coach.locator("[data-field=time]")
    expect(time).to_have_text(re.compile(r"0:0[1-9]"))
    question = coach.get_by_role("dialog", name="Ebb is running")
    for ask in (
        lambda: coach.get_by_role("button", name="Restart", exact=True).click(),
        lambda: (
            coach.get_by_role("combobox", name="Piece on the clock").click(),
            coach.get_by_role("option", name="Neap").click(),
        ),
    ):
        ask()
        expect(question).to_be_visible()
        question.get_by_role("button", name="Cancel").click()
        expect(question).to_be_hidden()
        expect(coach.locator("[data-field=state]")).to_contain_text("work")
    coach.get_by_role("button", name="Undo skip").click()
    coach.get_by_role("button", name="Undo start").click()
    question.get_by_role("button", name="Undo").click()
    expect(coach.locator("[data-field=state]")).to_have_text("ready")
    coach.get_by_role("button", name="Redo start").click()
    expect(coach.locator("[data-field=state]")).to_contain_text(re.compile("get ready|work"))
    coach.get_by_role("button", name="Redo skip").click()
    expect(time).to_have_text(re.compile(r"0:0[2-9]|0:[1-5]"))


def test_the_last_round_of_a_piece_for_time_is_its_end(visit, coach):
    """Three taps are three rounds and the finish: tile and score tell one time."""
    written(coach, visit.base, SPRINT)
    on_the_clock(coach, "Ebb")
    coach.get_by_role("button", name="Start (10 s countdown)").click()
    coach.get_by_role("button", name="Next", exact=True).click()
    coach.get_by_role("button", name="Floor mode").click()
    floor = coach.get_by_role("region", name="Floor mode")
    tile = floor.locator(".Floor_tile").filter(has_text="Bram Osei")
    strip = floor.get_by_role("timer")
    for number in (1, 2, 3):
        seconds = re.compile(rf"0:0[{2 * number}-9]|0:[1-5]\d")
        expect(strip).to_have_text(seconds)
        tile.locator("button").first.click()
        expect(tile).to_contain_text(f"{number} of 3")
    expect(tile).to_have_attribute("data-ended", "true")
    expect(floor.get_by_role("button", name="Undo Bram Osei: finished")).to_be_visible()
    floor.get_by_role("button", name="Undo Bram Osei: finished").click()
    expect(tile).to_contain_text("2 of 3")
    expect(tile).not_to_have_attribute("data-ended", "true")
    tile.locator("button").first.click()
    expect(tile).to_have_attribute("data-ended", "true")
    floor.get_by_role("button", name="Save as scores").click()
    expect(coach.get_by_text("1 kept as scores")).to_be_visible()
    shown = re.search(r"\d:\d\d", tile.text_content() or "")
    assert shown
    coach.goto(f"{visit.base}/day/{LATER}/score")
    expect(coach.get_by_label("Ebb, Bram Osei")).to_have_value(re.compile(rf"^{shown[0]}"))
