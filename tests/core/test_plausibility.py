"""Unlikely scores: each kind of work held against the fastest honest rep, and nothing else."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.athletes.plausibility import doubt, round_floor
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.units import clock_text

COUNTED = [m for m in library().movements if m.floor_s > 0.3 and m.measure == "reps"]


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


def doubted(one: plan.Piece, entered: str, tier: int = 0, track: int = 0) -> str | None:
    score = read_score(entered, one, tier, track)
    assert score.problems == (), score.problems
    return doubt(one, score, library(), tier, track)


@pytest.mark.parametrize("movement", COUNTED, ids=lambda m: m.name)
def test_every_movement_is_doubted_below_its_fastest_honest_rep_and_not_above(movement):
    reps = max(4, int(120 / movement.floor_s))
    one = piece("for time", f"{reps} {movement.name}")
    least = reps * movement.floor_s
    assert doubted(one, clock_text(int(least) + 2)) is None
    told = doubted(one, clock_text(int(0.9 * least)))
    assert told and f"we expect is {movement.floor_s:.2f} s" in told


def test_a_movements_fastest_rep_is_well_under_the_ordinary_one():
    for movement in COUNTED:
        assert 0.25 < movement.floor_s / movement.seconds < 0.95, movement.name


TOLD = [
    # Sides count twice; a hold takes its own time; a complex is all its parts.
    (("for time", "30 lunge, each side"), "1:00", "60 lunge in 1:00 is 1.00 s each"),
    (("for time", "2:00 plank", "20 burpee"), "2:20", "21 reps in 2:20"),
    (("3 rounds for time", "400 m run", "20 air squat"), "3:30", "63 reps in 3:30"),
    (("21-15-9 for time", "thruster", "pull-up"), "1:20", "90 reps in 1:20"),
    (("for time", "60/45 cal row"), "0:50", "60 row in 0:50 is 0.83 s each"),
    (("AMRAP 7:00, rest 1:00", "6 burpee", "--", "6 dip"), "216 60", "block 1: 216 reps in 7:00"),
    (("every 1:00 x 2", "max burpee"), "20 45", "interval 2: 45 burpee in 1:00 is 1.33 s each"),
    (("every 1:00 x 2", "20 air squat + max burpee"), "28 12", "interval 1: 28 burpee in"),
    (("Tabata, score lowest interval", "burpee"), "16", "interval 1: 16 burpee in 0:20"),
    (("every 1:00 x 3", "max x 10 m shuttle run"), "30 20 20", "interval 1: 30 shuttle run in"),
]  # fmt: skip


@pytest.mark.parametrize(("board", "entered", "why"), TOLD)
def test_the_reason_is_in_numbers(board, entered, why):
    told = doubted(piece(*board), entered)
    assert told and told.startswith(why), told


FINE = [
    (("for time", "30 lunge, each side"), "2:20"),
    (("for time", "2:00 plank", "20 burpee"), "3:10"),
    (("3 rounds for time", "400 m run", "20 air squat"), "7:30"),
    (("21-15-9 for time", "thruster", "pull-up"), "4:30"),
    (("for time", "60/45 cal row"), "3:40"),
    (("AMRAP 7:00, rest 1:00", "6 burpee", "--", "6 dip"), "66 60"),
    (("every 1:00 x 2", "max burpee"), "18 15"),
    (("every 1:00 x 2", "20 air squat + max burpee"), "8 6"),
    (("every 1:00 x 3", "max x 10 m shuttle run"), "14 13 12"),
    (("every 1:00, +1 reps each round, until missed", "2 burpee"), "14"),
    (("accumulate", "5:00 plank"), "5:30"),
    (("accumulate, score put-downs", "100 kettlebell swing"), "2 6:10"),
    (("EMOM 10:00, score done", "10 burpee"), "done"),
    (("for time", "20 barnacle scrape"), "0:20"),
]


@pytest.mark.parametrize(("board", "entered"), FINE)
def test_what_ordinary_members_do_is_not_doubted(board, entered):
    # Common practice, no source: results an ordinary class hands in.
    assert doubted(piece(*board), entered) is None


def test_partners_who_share_may_be_as_fast_as_both_together():
    alone = piece("for time", "100 air squat")
    both = piece("for time, teams of 2, share", "100 air squat")
    assert doubted(alone, "1:20") is not None
    assert doubted(both, "1:20") is None
    together = piece("for time, teams of 2, together", "100 air squat")
    assert doubted(together, "1:20") is not None


def test_a_tiers_own_version_is_what_counts():
    one = piece("for time", "50 pull-up | 50 single-under")
    assert doubted(one, "0:40", tier=0) is not None
    assert doubted(one, "0:40", tier=1) is None


def test_a_track_rows_its_own_calories():
    one = piece("for time", "60/30 cal row")
    assert doubted(one, "0:45", track=0) is not None
    assert doubted(one, "0:45", track=1) is None


def test_who_did_not_start_or_was_refused_is_not_doubted():
    one = piece("for time", "60 air squat")
    assert doubted(one, "dns") is None
    assert doubt(one, read_score("0:02", one), library()) is None


@pytest.mark.parametrize(
    ("lift", "bests", "entered", "doubt_it"),
    [
        ("3 deadlift", {"deadlift": 100}, "114", False),
        ("3 deadlift", {"deadlift": 100}, "116", True),
        ("3 deadlift", {}, "200", False),
        ("3 deadlift", {"back squat": 60}, "200", False),
        ("3 overhead squat", {"back squat": 100}, "130", True),
        ("3 barnacle press", {"deadlift": 100}, "300", False),
    ],
)
def test_a_load_is_held_against_the_lift_it_belongs_to(lift, bests, entered, doubt_it):
    one = piece("5 sets, build", lift)
    told = doubt(one, read_score(entered, one), library(), bests=bests)
    assert bool(told) is doubt_it, told


@given(st.integers(1, 30), st.integers(1, 20))
def test_a_ladders_round_takes_longer_the_higher_it_is(start: int, grow: int):
    one = piece(f"AMRAP 10:00, +{grow} reps each round", f"{start} burpee")
    floors = [round_floor(one, n, library(), 0, 0) for n in range(1, 6)]
    assert floors == sorted(floors)
    assert floors[0] == pytest.approx(start * library().find("burpee").floor_s)


@pytest.mark.parametrize(
    ("board", "entered"),
    [
        (("AMRAP 12:00", "10 push-up", "20 sit-up"), "1"),
        (("EMOM 4:00, score total reps", "1) max push-up", "2) max air squat"), "18"),
        (("Tabata", "sit-up"), "5"),
    ],
)
def test_a_score_of_the_first_minute_is_doubted_as_too_low(board, entered):
    assert "was the whole piece done?" in doubted(piece(*board), entered)


def floor_s(name: str) -> float:
    found = library().find(name)
    assert found is not None
    return found.floor_s


@pytest.mark.parametrize(
    ("heading", "line", "round_", "seconds"),
    [
        # Own growth and the piece's together, from the second round on: 4 + 2 x (2 + 3) = 14.
        ("AMRAP 20:00, +3 reps each round", "4 +2 burpee", 3, 14 * floor_s("burpee")),
        ("AMRAP 20:00, +3 reps each round", "4 +2 burpee", 1, 4 * floor_s("burpee")),
        ("AMRAP 20:00, +2 reps each round", "5 lunge, each side", 2, 14 * floor_s("lunge")),
        # A hold takes its own time, on both sides, and five seconds more each round.
        ("3 rounds for time", "0:20 +0:05 side plank, each side", 3, 60.0),
        ("3 rounds for time", "20-30-40 burpee", 2, 30 * floor_s("burpee")),
        ("3 rounds for time", "20-30-40 burpee", 5, 40 * floor_s("burpee")),
        # A calorie takes at least a second.
        ("3 rounds for time", "30/24 cal row", 1, 30.0),
        ("3 rounds for time", "400 m run", 1, 400 * floor_s("run")),
        (
            "3 rounds for time",
            "5 [1 power clean + 2 front squat]",
            1,
            5 * (floor_s("power clean") + 2 * floor_s("front squat")),
        ),
    ],
)
def test_the_fewest_seconds_of_a_round_are_counted_as_by_hand(heading, line, round_, seconds):
    one = piece(heading, line)
    assert round_floor(one, round_, library(), 0, 0) == pytest.approx(seconds)


def test_a_track_beyond_the_written_ones_takes_the_last_of_them():
    one = piece("for time", "60/30 cal row")
    assert round_floor(one, 1, library(), 0, 2) == 30.0


def test_reps_into_a_round_count_in_the_order_of_its_lines():
    burpee, squat = floor_s("burpee"), floor_s("air squat")
    # Three whole rounds, the burpees of the fourth and half of its squats.
    least = 3 * (10 * burpee + 20 * squat) + 10 * burpee + 10 * squat
    for seconds, unlikely in ((int(least) - 2, True), (int(least) + 2, False)):
        one = piece(f"AMRAP {clock_text(seconds)}", "10 burpee", "20 air squat")
        told = doubted(one, "3+20")
        assert (told is not None and "110 reps" in told) is unlikely, told


def test_a_step_of_a_ladder_is_held_against_its_window():
    one = piece("every 1:00, +1 reps each round, until missed", "1 burpee")
    most = int(60 / floor_s("burpee"))
    assert doubted(one, str(most - 1)) is None
    told = doubted(one, str(most + 2))
    assert told is not None
    assert told.startswith(f"step {most + 2}: {most + 2} burpee in 1:00")


@pytest.mark.parametrize(
    "lines", [("buy-in: 60 burpee", "10 air squat"), ("10 air squat", "cash-out: 60 burpee")]
)
def test_work_before_and_after_the_rounds_takes_its_time_as_well(lines):
    assert doubted(piece("for time", "10 air squat"), "1:00") is None
    assert "70" in (doubted(piece("for time", *lines), "1:00") or "")
