"""Scores as people say them: understood and said back, or asked about where two are meant."""

import pytest

from pine_ladder.core import plan
from pine_ladder.core.floor.round_times import entry_of, strip_of
from pine_ladder.core.notation import parse
from pine_ladder.core.scores.shorthand import read_score


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


THIRTY = piece("AMRAP 20:00", "10 push-up | 8", "10 sit-up", "5 lunge, each side")
CAPPED = piece("3 rounds for time, cap 12:00", "10 burpee")
BLOCKS = piece(
    "AMRAP 4:00, rest 1:00", "6 burpee", "--", "6 dip", "--", "6 sit-up", "--", "6 lunge"
)
ROW = piece("AMRAP 10:00, score distance", "max rowing")
CALS = piece("AMRAP 5:00, score calories", "max rowing")
TOTAL = piece("every 2:00 x 3", "1) max push-up", "2) max sit-up")
TEAM = piece("every 1:00 x 3, teams of 2, alternate, score total reps", "max burpee")
SWINGS = piece("AMRAP 20:00", "40 kettlebell swing @ 24/16 kg", "20 push-up")
FOR_TIME = piece("3 rounds for time, cap 15:00", "40 kettlebell swing", "20 push-up")
BUY_IN = piece("2 rounds for time, cap 15:00", "buy-in: 30 burpee", "10 sit-up")
CARRY = piece("for time, score put-downs", "400 m farmer carry @ 2 x 24/16 kg")
PARTED = piece("every 1:00 x 3 rounds, score total reps", "1) max box jump", "2) max push-up")
SQUATS = parse("## Strength: 5 sets\n5 back squat @ 75%").session.pieces[0]
SAID = [
    (PARTED, "535 reps", "535", 535.0),
    (PARTED, "84 total", "84", 84.0),
    (THIRTY, "84 total", "2+24", 84.0),
    (CAPPED, "10 min", "10:00", -600.0),
    (CAPPED, "5 min 45", "5:45", -345.0),
    (CAPPED, "5 minutes and 45 seconds", "5:45", -345.0),
    (CAPPED, "5m45s", "5:45", -345.0),
    (CAPPED, "345 s", "5:45", -345.0),
    (CARRY, "unbroken 7:45", "0 put-downs 7:45", -465.0),
    (CARRY, "7 min 45 unbroken", "0 put-downs 7:45", -465.0),
    (CARRY, "7:45 3", "3 put-downs 7:45", -300_465.0),
    (CARRY, "7 min 45, 3 drops", "3 put-downs 7:45", -300_465.0),
    (CARRY, "3 in 7:45", "3 put-downs 7:45", -300_465.0),
    (PARTED, "24 box jump, 30 push-up", "54", 54.0),
    (PARTED, "push-ups: 30, box jumps: 24", "54", 54.0),
    (PARTED, "24 box jumps / 30 push ups", "54", 54.0),
    (TOTAL, "18/17/17/16", "68", 68.0),
    (SWINGS, "1 round + 30 swings", "1+30", 90.0),
    (SWINGS, "2 rounds + 40 swings, 6 push-ups", "2+46", 166.0),
    (SWINGS, "3 rounds and 30 kb swings", "3+30", 210.0),
    (SWINGS, "9/3", "9+3", 543.0),
    (FOR_TIME, "1 round + 30 swings", "cap+90", -1_000_090.0),
    (FOR_TIME, "2 rounds", "cap+60", -1_000_060.0),
    (FOR_TIME, "2 rounds + 10 reps", "cap+50", -1_000_050.0),
    (BUY_IN, "1 round", "cap+10", -1_000_010.0),
    (TEAM, "40 and 38", "78", 78.0),
    (TEAM, "40 & 38", "78", 78.0),
    (BLOCKS, "8 9 10 15", "252", 252.0),
    (BLOCKS, "8 9 10 15 rounds", "252", 252.0),
    (BLOCKS, "8 9 10 15 reps", "42", 42.0),
    (BLOCKS, "60 58 50 61", "229", 229.0),
    (SQUATS, "80", "80 kg", 80.0),
    (SQUATS, "60/70/80", "80 kg", 80.0),
    (SQUATS, "5 reps at 80", "5@80 kg", 80.0),
    (SQUATS, "100 x 3", "3@100 kg", 100.0),
    (SQUATS, "100 for 3", "3@100 kg", 100.0),
    (ROW, "1,500 m", "1500 m", 1500.0),
    (ROW, "1.5k", "1500 m", 1500.0),
    (CALS, "20+18", "38 cal", 38.0),
]


@pytest.mark.parametrize(("on", "entered", "display", "key"), SAID)
def test_a_score_is_understood_as_people_say_it_and_said_back(on, entered, display, key):
    score = read_score(entered, on)
    assert score.problems == ()
    assert (score.display, score.order_key) == (display, key)
    assert read_score(score.display, on).order_key == key
    if not set(entered) <= set(display) | set(" &/"):
        assert score.reading, "what is shown in other words is said"


ASKED = [
    (CAPPED, "10", "minutes or seconds? Write 10:00 or 0:10"),
    (SWINGS, "1 round + 12 push-ups", "12 reps in all, or 12 push-up after the 40"),
    (SWINGS, "1 round + 50 swings", "a round has 40 kettlebell swing, not 50"),
    (SWINGS, "1 round + 12 burpees", "which movement of this piece"),
    (BLOCKS, "20 20 20 20", "rounds or reps of each block"),
    (FOR_TIME, "3 rounds", "is all of it"),
    (PARTED, "24 burpees", "It has box jump, push-up"),
]


@pytest.mark.parametrize(("on", "entered", "why"), ASKED)
def test_what_may_be_two_things_is_asked(on: plan.Piece, entered: str, why: str):
    score = read_score(entered, on)
    assert score.order_key is None
    assert why in score.problems[0]


@pytest.mark.parametrize(
    ("entered", "tier", "key"),
    [
        ("scaled 9+3", 1, 255.0),
        ("Scaled: 9+3", 1, 255.0),
        ("9+3 (scaled)", 1, 255.0),
        ("rx 9+3", 0, 273.0),
        ("harbour 9+3", 2, 255.0),
        ("9+3", None, 273.0),
    ],
)
def test_an_entry_may_name_its_tier_and_is_counted_by_it(
    entered: str, tier: int | None, key: float
):
    score = read_score(entered, THIRTY, tiers=("As written", "Scaled", "Harbour"))
    assert (score.tier, score.order_key, score.problems) == (tier, key, ())
    if tier:
        assert score.reading == f"{('', 'Scaled', 'Harbour')[tier]}: 9+3"


def windows(heading: str) -> plan.Piece:
    return piece(f"{heading}, score total reps", "max burpee")


@pytest.mark.parametrize(
    ("times", "entry", "display"),
    [
        ("2", "9 8 7, 1 added", "24, 1 added"),
        ("2", "9 8 7 (1 added)", "24, 1 added"),
        ("2", "9 8 7 6; 2 rounds added", "30, 2 added"),
        ("2", "24, 1 added", "24, 1 added"),
        # What the board leaves to the coach needs no word.
        ("2-4", "9 8 7 6", "30"),
        ("2-4", "9 8 7 6 5, 1 added", "35, 1 added"),
    ],
)
def test_intervals_added_on_the_floor_count_when_they_are_told(times, entry, display):
    score = read_score(entry, windows(f"0:20/0:10 x {times}"))
    assert (score.display, score.problems) == (display, ())
    assert read_score(score.display, windows(f"0:20/0:10 x {times}")).order_key == (score.order_key)


def test_one_number_too_many_is_asked_about_and_the_way_out_is_accepted():
    ebb = windows("0:20/0:10 x 2")
    (problem,) = read_score("9 8 7", ebb).problems
    assert problem.startswith("2 intervals are counted, but 3 numbers are given")
    assert read_score(problem.split("write ")[1], ebb).display == "24, 1 added"


@pytest.mark.parametrize(
    "heading",
    ["0:20/0:10 x 2", "0:20/0:10 x 2-3", "EMOM 2:00-4:00", "every 2:00 x 2", "tabata x 1-2"],
)
def test_what_is_jotted_beyond_the_planned_places_makes_an_entry_that_is_accepted(heading):
    ebb = windows(heading)
    strip = strip_of(ebb)
    assert strip is not None
    for beyond in range(1, 12):
        places = len(strip.labels) + beyond
        entry = entry_of(ebb, dict.fromkeys(range(1, places + 1), 4))
        score = read_score(entry, ebb)
        assert (score.problems, score.value["reps"]) == ((), 4 * places), entry
