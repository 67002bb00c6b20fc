"""The week: what each day loads, and what is said of a lopsided one."""

import datetime as dt

import pytest
from hypothesis import given
from plans import sessions

from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check, foresee
from pine_ladder.core.day.hour_ruler import outline
from pine_ladder.core.movements import Pattern, library
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.testrun import test_run
from pine_ladder.core.tiers import DEFAULT_TIERS
from pine_ladder.core.week.balance import (
    DayLoad,
    balance,
    day_load,
    on_date,
    ramps,
    regions,
    remarks,
    uses,
    volumes,
)
from pine_ladder.core.week.template import template_week

MONDAY = dt.date(2026, 6, 1)


def load(*lines: str) -> DayLoad:
    text = "\n".join(["## Conditioning: AMRAP 12:00", *lines])
    return day_load(parse(text).session, library())


def said(*days: DayLoad | None) -> set[str]:
    dated = {MONDAY + dt.timedelta(days=n): day for n, day in enumerate(days) if day}
    return {remark.code for remark in remarks(dated)}


def test_an_amrap_shares_its_time_among_its_lines_by_their_pace():
    piece = parse("## Core: AMRAP 10:00\n10 push-up\n10 sit-up").session.pieces[0]
    found = volumes(piece, library())
    assert 400 < sum(volume.seconds for volume in found) < 600
    ratio = found[0].seconds / found[1].seconds
    push_up, sit_up = library().find("push-up"), library().find("sit-up")
    assert push_up and sit_up
    assert ratio == pytest.approx(push_up.seconds / sit_up.seconds)


def test_landings_are_counted_and_a_rope_turn_is_a_small_one():
    jumps = parse("## Core: 5 rounds\n10 box jump").session
    turns = parse("## Core: 5 rounds\n10 single-under").session
    assert day_load(jumps, library()).landings == 50
    assert day_load(turns, library()).landings == 10


def test_rounds_schemes_and_windows_multiply_the_volume():
    for heading, landings in (
        ("3 rounds for time", 30),
        ("10-8-6 for time", 24),
        ("every 2:00 x 4", 40),
        ("EMOM 6:00", 60),
    ):
        line = "box jump" if "-" in heading else "10 box jump"
        session = parse(f"## Core: {heading}\n{line}").session
        assert day_load(session, library()).landings == landings, heading


def test_the_same_movement_or_pattern_hard_on_two_days_running_is_remarked():
    deadlifts = load("10 deadlift @ 80 kg")
    assert said(deadlifts, deadlifts) >= {"same-movement", "same-pattern"}
    assert "same-movement" not in said(deadlifts, None, deadlifts)


def test_a_pattern_missing_all_week_is_remarked_once_the_week_is_written():
    days = [load("10 push-up"), load("10 air squat"), load("10 lunge"), load("10 burpee")]
    dated = {MONDAY + dt.timedelta(days=2 * n): day for n, day in enumerate(days)}
    (missing,) = [r for r in remarks(dated) if r.code == "missing-pattern"]
    assert "pull" in missing.message
    assert "squat" not in missing.message
    assert missing.message.endswith("on the 4 days written")
    assert "missing-pattern" not in said(*days[:2])


def test_many_landings_on_one_day_are_remarked():
    assert "landings" in said(load("30 box jump"))
    assert "landings" not in said(load("20 sit-up"))


def test_warm_ups_and_quality_work_are_never_hard():
    session = parse("## Warm-up: AMRAP 20:00\n10 air squat").session
    assert day_load(session, library()).hard == ()


def test_what_a_session_uses_counts_tiers_and_alternatives():
    session = parse("## Core: AMRAP 5:00\n5 pull-up or 5 towel row | ring row").session
    assert uses(session, library()) == {"pull-up", "towel row", "ring row"}


def test_a_copied_board_names_its_new_day():
    moved = on_date("# A\ndate: 2026-06-01\n\n## Rest: 2:00\n", dt.date(2026, 6, 9))
    assert "date: 2026-06-09" in moved
    assert on_date("# A\n", dt.date(2026, 6, 9)) == "# A\n"


@given(sessions())
def test_every_plan_has_a_load(session: plan.Session):
    found = day_load(session, library())
    assert all(value > 0 for value in found.work.values())
    assert found.landings >= 0
    assert set(found.hard) <= set(Pattern)


def test_the_template_week_has_six_boards_that_find_no_fault_and_fit_the_hour():
    boards = template_week()
    assert len(boards) == 6
    for board in boards:
        read = parse(board, library())
        assert read.findings == (), board
        found = [
            *check(read.session),
            *foresee(
                read.session,
                [test_run(piece, library()) for piece in read.session.pieces],
                Ground(library()),
                DEFAULT_TIERS,
            ),
        ]
        assert [one.message for one in found if one.severity != "hint"] == []
        hour = outline(read.session, library())
        assert hour.planned_high_s <= hour.class_s, board


def test_the_template_week_is_not_lopsided():
    loads = {
        dt.date(2026, 6, 1) + dt.timedelta(days=n): day_load(
            parse(one, library()).session, library()
        )
        for n, one in enumerate(template_week())
    }
    assert list(remarks(loads)) == []


def loads(*texts: str) -> dict[dt.date, DayLoad]:
    """Boards on the days of a week, from its Monday on; empty text is a day off."""
    read = {MONDAY + dt.timedelta(days=n): parse(text) for n, text in enumerate(texts) if text}
    return {date: day_load(one.session, library()) for date, one in read.items()}


SQUATS = "## Strength: 5 sets, rest 2:00\n20 back squat @ 60 kg"
PULLS = "## Strength: 5 sets, rest 2:00\n10 pull-up"


def test_a_pattern_is_told_day_by_day_against_the_weeks_before():
    dates = [MONDAY + dt.timedelta(days=n) for n in range(7)]
    week = loads(SQUATS, SQUATS, "", PULLS)
    before = dict(enumerate(loads(SQUATS, PULLS, PULLS, PULLS).values()))
    squat = next(one for one in balance(dates, week, [before]) if one.pattern == "squat")
    assert squat.daily[0] == squat.daily[1] > 0
    assert squat.daily[2] == squat.daily[3] == 0
    assert squat.whole == pytest.approx(2 * squat.usual, abs=0.2)
    # The third day is not written: it is not held against the usual week.
    assert squat.in_a_row == (dates[1],)
    pull = next(one for one in balance(dates, week, [before]) if one.pattern == "pull")
    assert pull.usual == pytest.approx(2 * pull.whole, abs=0.5)
    # A week that was hardly written says nothing of what is usual.
    assert balance(dates, week, [{0: before[0], 1: before[1]}])[0].usual is None


def test_regions_are_told_by_their_dose_and_what_jumps_up():
    dates = [MONDAY + dt.timedelta(days=n) for n in range(7)]
    week = loads(SQUATS, SQUATS, "", PULLS)
    easy = dict(enumerate(loads(PULLS, PULLS, PULLS, PULLS).values()))
    squat = next(one for one in regions(dates, week, [easy]) if one.region == "squat")
    assert squat.daily == tuple(week[d].dose.squat if d in week else 0 for d in dates)
    assert squat.hard == tuple(d for d in dates if d in week and week[d].dose.squat >= 60)
    told = [one.message for one in ramps(dates, week, [easy]) if one.code == "ramp"]
    assert squat.usual is not None
    assert any("squat" in one for one in told) == (squat.whole > 1.5 * squat.usual > 0)
    assert not ramps(dates, week, [])
    same = dict(enumerate(loads(SQUATS, SQUATS, PULLS, PULLS).values()))
    assert not ramps(dates, week, [same])
    assert [one.code for one in ramps(dates, week, [same], deload=True)] != []


@pytest.mark.parametrize(
    ("line", "seconds"),
    [
        ("30 s plank", 90),
        ("10 push-up", 0),
        ("5 back squat, tempo 40X1", 3 * 5 * 5),
        ("30 s couch stretch", 0),
    ],
)
def test_slow_lifts_and_holds_count_as_time_under_tension(line: str, seconds: float):
    session = parse(f"## Core: 3 rounds\n{line}").session
    assert day_load(session, library()).tension_s == pytest.approx(seconds, abs=16)


def test_a_carry_is_under_tension_as_long_as_it_lasts():
    session = parse("## Core: 3 rounds\n30 m farmer carry @ 24 kg").session
    assert 30 < day_load(session, library()).tension_s < 120


@pytest.mark.parametrize("word", ["", ", for quality"])
def test_work_for_quality_is_no_hard_work(word):
    board = f"## Conditioning: 5 rounds{word}\n15 thruster @ 40 kg\n"
    load = day_load(parse(board).session, library())
    assert bool(load.hard or load.hard_movements) == (not word)
