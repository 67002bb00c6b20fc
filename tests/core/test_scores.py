"""Scores and standings: what shorthand means, what is refused, who is ahead."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.athletes.plausibility import doubt
from pine_ladder.core.floor.round_times import entry_of
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.rep_times import constants, sample
from pine_ladder.core.pace.runs import run
from pine_ladder.core.pace.simulation import Floor
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import Rounds, reps_in_round, score_kind
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.scores.shorthand.examples import example_of
from pine_ladder.core.scores.standings import (
    SCHOOLS,
    Entry,
    by_lowest,
    rank_of,
    standings,
    strip_positions,
)
from pine_ladder.core.units import clock_text


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


THIRTY = piece("AMRAP 20:00", "10 push-up | 8", "10 sit-up", "5 lunge, each side")
LADDER = piece("AMRAP 8:00, +2 reps each round", "2 deadlift @ 60 kg", "2 burpee")
CAPPED = piece("3 rounds for time, cap 12:00", "10 burpee")
LIFT = piece("5 sets, build", "3 deadlift")
TOTAL = piece("every 2:00 x 3", "1) max push-up", "2) max sit-up")
TABATA = piece("Tabata, score lowest interval", "sit-up")
DONE = piece("EMOM 12:00, score done", "10 burpee")
BLOCKS = piece(
    "AMRAP 4:00, rest 1:00", "6 burpee", "--", "6 dip", "--", "6 sit-up", "--", "6 lunge"
)
TEAM = piece("every 1:00 x 3, teams of 2, alternate, score total reps", "max burpee")
PLANK = piece("accumulate", "5:00 plank")
DOWNS = piece("for time, score put-downs, cap 15:00", "100 kettlebell swing @ 24/16 kg")
STEPS = piece("every 1:00, +1 reps each round, until missed", "2 burpee")
ROW = piece("AMRAP 10:00, score distance", "max rowing")
CALS = piece("AMRAP 5:00, score calories", "max rowing")
TIED = piece("AMRAP 12:00, tie-break", "10 burpee")


def test_a_side_counts_and_a_tier_has_its_own_round():
    assert reps_in_round(THIRTY) == 30
    assert reps_in_round(THIRTY, tier=1) == 28
    assert [reps_in_round(LADDER, r) for r in (1, 2, 3)] == [4, 8, 12]


ENTRIES = [
    (THIRTY, "5+12", "5+12", 162.0),
    (THIRTY, "5 + 12", "5+12", 162.0),
    (THIRTY, "5 rounds 12", "5+12", 162.0),
    (THIRTY, "5 rounds", "5", 150.0),
    (THIRTY, "5", "5", 150.0),
    (THIRTY, "5+45", "6+15", 195.0),
    (THIRTY, "0+60", "2", 60.0),
    (LADDER, "3+2", "3+2", 26.0),
    (LADDER, "2+13", "3+1", 25.0),
    (CAPPED, "11:43", "11:43", -703.0),
    (CAPPED, "11.43", "11:43", -703.0),
    (CAPPED, "cap+14", "cap+14", -1_000_014.0),
    (LIFT, "80", "80 kg", 80.0),
    (LIFT, "82,5kg", "82.5 kg", 82.5),
    (LIFT, "3x5@80", "3x5@80 kg", 80.0),
    (TOTAL, "18 17 17 16", "68", 68.0),
    (TOTAL, "18,17,17,16", "68", 68.0),
    (TOTAL, "4x15", "60", 60.0),
    (TABATA, "9 8 8 7", "7", 7.0),
    (DONE, "done", "done", 1.0),
    (THIRTY, "5+12 splits 3:10 3:15 3:20 3:30 3:40", "5+12", 162.0),
    (CAPPED, "3:10 3:25 3:40", "10:15", -615.0),
    (CAPPED, "11'43", "11:43", -703.0),
    (CAPPED, "capped 14", "cap+14", -1_000_014.0),
    (LIFT, "3 x 5 @ 80 kg", "3x5@80 kg", 80.0),
    (LIFT, "70 75 82,5", "82.5 kg", 82.5),
    (LIFT, "5@80 3@90 1@95", "1@95 kg", 95.0),
    (LIFT, "175lb", "175 lb", 79.37866475),
    (BLOCKS, "4+3 5 5+2 6", "125", 125.0),
    (BLOCKS, "125", "125", 125.0),
    (TEAM, "40+38", "78", 78.0),
    (PLANK, "5:40", "5:40", -340.0),
    (DOWNS, "3 12:43", "3 put-downs 12:43", -300_763.0),
    (DOWNS, "1", "1 put-down", -199_999.0),
    (STEPS, "9+4", "9+4", 9 + 4 / 11),
    (STEPS, "step 12", "12", 12.0),
    (ROW, "1500", "1500 m", 1500.0),
    (ROW, "1.5 km", "1500 m", 1500.0),
    (CALS, "48 cal", "48 cal", 48.0),
    (CAPPED, "2+4", "cap+6", -1_000_006.0),
    (CAPPED, "cap 2 rounds", "cap+10", -1_000_010.0),
    (CAPPED, "capped at 1 round + 3", "cap+17", -1_000_017.0),
    (CAPPED, "11:43.6", "11:43", -703.0),
    (LIFT, "70, 75, 80, f", "80 kg", 80.0),
    (LIFT, "5@120 4@130 3@140 3x", "3@140 kg", 140.0),
    (TABATA, "lowest 5", "5", 5.0),
    (DOWNS, "put down 3 times 12:43", "3 put-downs 12:43", -300_763.0),
    (THIRTY, "~5 rounds and 12 reps", "5+12", 162.0),
    (THIRTY, "five rounds", "5", 150.0),
    (THIRTY, "5 rounds exactly", "5", 150.0),
    (THIRTY, "5+10+2", "5+12", 162.0),
    (THIRTY, "5 rounds + 10 pu + 2 su", "5+12", 162.0),
    (CAPPED, "TC 2+4", "cap+6", -1_000_006.0),
    (CAPPED, "12:00+14", "cap+14", -1_000_014.0),
    (CAPPED, "24 reps", "cap+6", -1_000_006.0),
    (CAPPED, "done in 11:43", "11:43", -703.0),
    (CAPPED, "3:10/3:25/3:40", "10:15", -615.0),
    (LIFT, "70-75-80-80", "80 kg", 80.0),
    (LIFT, "70/75/80/x", "80 kg", 80.0),
    (LIFT, "70 75 fail 80", "75 kg", 75.0),
    (LIFT, "70, 75, 80(f)", "75 kg", 75.0),
    (LIFT, "3x120", "3@120 kg", 120.0),
    (LIFT, "3RM 120", "120 kg", 120.0),
    (LIFT, "all at 100", "100 kg", 100.0),
    (TABATA, "9-8-8-7", "7", 7.0),
    (TABATA, "7 (low)", "7", 7.0),
    (BLOCKS, "60+58+61+56", "235", 235.0),
    (STEPS, "made 9", "9", 9.0),
    (STEPS, "out in 10", "9", 9.0),
    (STEPS, "9 rounds + 4", "9+4", 9 + 4 / 11),
    (DOWNS, "3x 12:43", "3 put-downs 12:43", -300_763.0),
    (DONE, "all rounds", "done", 1.0),
    (TIED, "5+2 tb 9:31", "5+2 tb 9:31", 52 + 0.5 * (1 - 571 / 86_400)),
]


def test_totals_of_rounds_are_not_the_first_intervals():
    stations = piece("every 1:00 x 4 rounds", *(f"{n}) max {name}" for n, name in enumerate(
        ("push-up", "sit-up", "burpee", "air squat"), start=1)))  # fmt: skip
    score = read_score("80+78+80+79", stations)
    assert score.total_reps == 317
    assert score.value["by_interval"] == []
    assert score.rounds is not None
    assert score.rounds.numbers == (80, 78, 80, 79)
    assert "the totals of 4 rounds" in str(score.reading)


@pytest.mark.parametrize(
    ("entered", "reading"),
    [("DNF knee", "did not finish: knee"), ("dnf", "did not finish"), ("injured", "injured")],
)
def test_who_did_not_finish_has_no_place_and_may_say_why(entered: str, reading: str):
    score = read_score(entered, THIRTY)
    assert (score.display, score.order_key, score.problems) == ("DNF", None, ())
    assert reading in str(score.reading)


def test_a_time_of_hours_is_a_slip_of_the_pen():
    assert read_score("21:40:00", CAPPED).problems == (
        "“21:40:00” is 21 hours: write minutes:seconds, 21:40",
    )


def test_sets_of_a_weight_are_scored_by_load_whether_or_not_they_build():
    def kind(heading: str, line: str) -> ScoreKind | None:
        return score_kind(parse(f"## {heading}\n{line}").session.pieces[0])

    assert kind("Strength: 5 sets", "5 back squat @ 75%") is ScoreKind.LOAD
    assert kind("Strength: 5 sets", "5 back squat") is ScoreKind.LOAD
    assert kind("Strength: every 2:00 x 5", "3 dumbbell row @ 22.5 kg") is ScoreKind.LOAD
    assert kind("Strength: 5 sets, for quality", "5 back squat @ 75%") is None
    assert kind("Strength: 5 sets, score done", "5 back squat @ 75%") is ScoreKind.DONE
    assert kind("Strength: 4 sets", "8 strict pull-up") is None
    assert kind("Warm-up: 3 rounds", "5 back squat @ 40%") is None


@pytest.mark.parametrize(
    ("lines", "kind"),
    [
        ("max burpee", ScoreKind.TOTAL_REPS),
        ("burpee", ScoreKind.TOTAL_REPS),
        ("max x 10 m shuttle run", ScoreKind.TOTAL_REPS),
        ("10 burpee", ScoreKind.ROUNDS),
        ("400 m run\nmax burpee", ScoreKind.ROUNDS),
        ("[1 power clean + 1 push jerk] @ 40 kg", ScoreKind.ROUNDS),
        ("max [1 power clean + 1 push jerk] @ 40 kg", ScoreKind.TOTAL_REPS),
    ],
)
def test_one_task_to_fill_a_time_with_has_no_rounds(lines: str, kind: ScoreKind):
    piece = parse(f"## Conditioning: AMRAP 7:00\n{lines}").session.pieces[0]
    assert score_kind(piece) is kind


@given(
    st.lists(
        st.tuples(
            st.sampled_from([
                "{n} push-up", "{n} burpee", "{n} lunge, each side", "{n} m run", "{n} s plank",
                "{n} cal row", "{n} m farmer carry @ 2 x 16 kg", "0:{n:02d} jumping jack",
                "{n} [1 power clean + 1 push jerk] @ 40 kg",
            ]),
            st.integers(1, 40),
        ),
        min_size=1,
        max_size=4,
    )
)  # fmt: skip
def test_a_round_counts_the_same_in_an_entry_and_in_the_prediction(lines):
    board = piece("1 rounds", *(text.format(n=n) for text, n in lines))
    floor = Floor(board, 0, sample(3, 0), library(), constants())
    done, finished = floor.lines(board.lines, np.ones(3, bool), np.inf)
    assert finished.all()
    assert done.tolist() == [reps_in_round(board)] * 3


@pytest.mark.parametrize(("on", "entered", "display", "key"), ENTRIES)
def test_shorthand_is_understood(on: plan.Piece, entered: str, display: str, key: float):
    score = read_score(entered, on)
    assert score.problems == ()
    assert (score.display, score.order_key) == (display, key)


@pytest.mark.parametrize(("on", "entered", "display", "key"), ENTRIES)
def test_what_is_shown_reads_back_as_the_same_score(on, entered, display, key):
    assert read_score(display, on).order_key == key


def test_a_rewrite_is_told():
    assert read_score("5+45", THIRTY).reading == "a round is 30 reps: 5+45 is 6+15"


REFUSED = [
    (THIRTY, "fast", "write rounds+reps"),
    (THIRTY, "400+0", "12000 reps in 20:00 cannot be"),
    (THIRTY, "", "nothing is written"),
    (CAPPED, "12:01", "past the cap of 12:00"),
    (CAPPED, "11:99", "minutes:seconds"),
    (LIFT, "900", "loads run from above 0 to 600 kg"),
    (DONE, "12", "write done"),
    (piece("accumulate", "5:00 plank"), "4:50", "5:00 of work cannot be gathered in 4:50"),
    (piece("3 rounds", "10 push-up"), "5", "no score is kept"),
    (piece("for time", "10 push-up"), "cap+3", "has no cap"),
    (CAPPED, "0:05", "30 reps in 0:05 cannot be: that is 0.17 s each"),
    (CAPPED, "cap+40", "the whole piece has 30"),
    (CAPPED, "9:00 splits 3:10 3:25 3:40", "add up to 10:15, more than 9:00"),
    (THIRTY, "5 splits 3:10 3:15", "5 rounds, but 2 splits"),
    (THIRTY, "5+12 tb 9:31", "has no tie-break"),
    (TIED, "5+2 tb 12:31", "after the end at 12:00"),
    (TABATA, "9 9 9 9 9 9 9 9 9", "8 intervals are counted, but 9 numbers"),
    (TABATA, "99 9", "99 reps in 0:20 cannot be"),
    (BLOCKS, "4+3 5 5 5 5+1", "4 blocks, but 5 numbers"),
    (STEPS, "9+11", "the whole of step 10"),
    (ROW, "20 km", "20000 m in 10:00 cannot be"),
    (piece("every 1:00 x 8, score step", "5 dip"), "9", "the ladder has 8"),
]


@pytest.mark.parametrize(("on", "entered", "why"), REFUSED)
def test_what_cannot_be_is_refused_with_the_reason(on: plan.Piece, entered: str, why: str):
    score = read_score(entered, on)
    assert score.order_key is None
    assert why in score.problems[0]


@pytest.mark.parametrize("absent", ["dns", "DNF"])
def test_who_did_not_start_or_finish_stands_without_a_place(absent: str):
    score = read_score(absent, THIRTY)
    assert score.problems == ()
    assert score.order_key is None
    assert read_score(score.display, THIRTY).value == score.value


def test_what_was_understood_is_told_with_the_movements_apart():
    score = read_score("18 17 17 16 15 14", TOTAL)
    assert score.by_movement == {"push-up": 50, "sit-up": 47}
    assert score.reading == "18 + 17 + 17 + 16 + 15 + 14 = 97: push-up 50, sit-up 47"
    assert score.rounds and score.rounds.numbers == (18, 17, 17, 16, 15, 14)


def test_the_earlier_split_wins_a_tie_and_never_beats_a_rep():
    keys = [read_score(e, TIED).order_key for e in ("5+2 tb 9:31", "5+2 tb 9:30", "5+3", "5+2")]
    assert keys[3] < keys[0] < keys[1] < keys[2]


def test_splits_make_their_own_tie_break():
    assert read_score("3 splits 2:00 2:10 2:20", TIED).display == "3 tb 6:30"


DOUBTED = [
    (
        piece("for time", "60 air squat"),
        "0:50",
        "60 air squat in 0:50 is 0.83 s each; the fastest full-standard rep we expect is 1.10 s",
    ),
    (piece("Tabata", "air squat"), "24 20 19 18 17 16 16 15", "interval 1: 24 air squat in 0:20"),
    (STEPS, "60", "step 60: 61 burpee in 1:00"),
    (piece("AMRAP 10:00", "10 burpee", "10 pull-up"), "30", "600 reps in 10:00 is 1.00 s each"),
    (piece("AMRAP 20:00", "8 burpee", "10 air squat"), "40", "40 is beyond the 32."),
    (
        piece("10 rounds for time", "15 burpee", "20 sit-up"),
        "9:00",
        "9:00 is beyond the 11:",
    ),
]


@pytest.mark.parametrize(("on", "entered", "why"), DOUBTED)
def test_what_is_unlikely_is_kept_with_the_numbers(on, entered, why, movements):
    score = read_score(entered, on)
    assert score.problems == ()
    told = doubt(on, score, movements)
    assert told and told.startswith(why)


def test_ordinary_scores_are_not_doubted(movements):
    # Common practice, no source: ordinary members' results.
    for on, entered in (
        (piece("for time", "60 air squat"), "1:40"),
        (piece("Tabata", "air squat"), "17 16 16 15 15 15 14 14"),
        (THIRTY, "9+4"),
        (STEPS, "12"),
        (CAPPED, "3:10"),
    ):
        assert doubt(on, read_score(entered, on), movements) is None, entered


@pytest.mark.parametrize("tier", [0, 1, 2])
@pytest.mark.parametrize(
    "on",
    [
        piece("AMRAP 20:00", "10 push press @ 40/30 kg", "10 kettlebell swing", "10 box jump"),
        piece("3 rounds for time", "20 goblet squat @ 24/16 kg", "15 push-up", "200 m run"),
    ],
)
def test_no_member_the_model_can_think_of_is_doubted_on_a_long_piece(on, tier, movements):
    done = run(on, sample(1000, tier), movements, tier)
    timed = score_kind(on) is ScoreKind.TIME
    best = float(done.result.min() if timed else done.result.max())
    entry = clock_text(best) if timed else f"{int(best)}"
    assert doubt(on, read_score(entry, on, tier), movements, tier) is None


def test_a_load_far_above_the_best_on_record_is_doubted(movements):
    score = read_score("140", LIFT)
    assert doubt(LIFT, score, movements, bests={"deadlift": 130}) is None
    told = doubt(LIFT, score, movements, bests={"deadlift": 115})
    assert told == "140 kg is 22% above the deadlift on record, 115 kg"


@given(pieces(), st.text(max_size=30), st.integers(0, 3))
def test_no_entry_breaks_the_doubter(one: plan.Piece, entered: str, tier: int):
    doubt(one, read_score(entered, one, tier, tier), library(), tier, tier)


jotted = st.lists(
    st.sampled_from(
        [
            "5",
            "12",
            "+",
            " ",
            "splits",
            "tb",
            "9:31",
            "cap",
            "@",
            "x",
            "kg",
            ",",
            "0",
            "/",
            "min",
            " round ",
            "rounds ",
            "burpee",
            " push-up",
            "reps",
            "scaled ",
            "unbroken ",
            "and",
            "at",
        ]
    ),
    max_size=8,
).map("".join)  # fmt: skip


@given(pieces(), jotted)
def test_an_accepted_entry_reads_back_as_the_same_score(one: plan.Piece, entered: str):
    score = read_score(entered, one)
    if not score.problems:
        again = read_score(score.display, one)
        assert (again.problems, again.order_key) == ((), score.order_key)


@given(pieces(), st.text(max_size=30), st.integers(0, 3))
def test_no_entry_breaks_the_reader(one: plan.Piece, entered: str, tier: int):
    read_score(entered, one, tier, tier)


@given(st.integers(0, 40), st.integers(0, 29), st.integers(0, 40), st.integers(0, 29))
def test_more_rounds_and_reps_are_never_behind(r1: int, e1: int, r2: int, e2: int):
    def key(rounds: int, extra: int) -> float:
        score = read_score(f"{rounds}+{extra}", THIRTY)
        assert score.order_key is not None
        return score.order_key

    assert (key(r1, e1) < key(r2, e2)) == ((r1, e1) < (r2, e2))


def test_score_kinds_follow_the_format_unless_declared():
    assert score_kind(THIRTY) is ScoreKind.ROUNDS
    assert score_kind(LIFT) is ScoreKind.LOAD
    assert score_kind(TOTAL) is ScoreKind.TOTAL_REPS
    assert score_kind(piece("AMRAP 5:00, for quality", "5 dip")) is None
    assert score_kind(piece("AMRAP 5:00, score done", "5 dip")) is ScoreKind.DONE
    assert score_kind(piece("every 1:00 x 5", "10 burpee")) is None
    warm_up = parse("## Warm-up: AMRAP 5:00\n5 dip").session.pieces[0]
    assert score_kind(warm_up) is None


def entry(number: int, name: str, key: float, tier: int = 0, track: int = 0) -> Entry:
    return Entry(
        athlete_id=number, name=name, tier=tier, track=track, display=f"{key:g}", order_key=key
    )


def test_ties_share_a_rank_and_the_next_rank_is_skipped():
    made = [entry(1, "A", 30), entry(2, "C", 20), entry(3, "B", 20), entry(4, "D", 10)]
    (section,) = standings(made)
    assert [(p.rank, p.entry.name, p.tied) for p in section.places] == [
        (1, "A", False),
        (2, "B", True),
        (2, "C", True),
        (4, "D", False),
    ]


def test_tiers_are_sections_of_their_own_and_tracks_filter():
    made = [entry(1, "A", 5, tier=1), entry(2, "B", 9), entry(3, "C", 7, tier=1, track=1)]
    assert [(s.tier, [p.rank for p in s.places]) for s in standings(made)] == [
        (0, [1]),
        (1, [1, 2]),
    ]
    assert [len(s.places) for s in standings(made, track=1)] == [1]


def test_the_rank_while_typing_is_the_rank_once_kept():
    made = [entry(1, "A", 30), entry(2, "B", 20), entry(3, "C", 20, tier=1)]
    assert rank_of(25, 0, made) == 2
    assert rank_of(20, 0, made) == 2
    assert rank_of(5, 1, made) == 2


def test_the_strip_runs_from_lowest_to_best_and_holds_capped_results_at_the_start():
    assert strip_positions([10, 20, 15]) == [0, 1, 0.5]
    assert strip_positions([-600, -700, -1_000_014]) == [1, 0, 0]


def test_the_schools_of_standings_rank_tiers_apart_in_order_or_by_work():
    made = [
        entry(1, "A", 90).model_copy(update={"reps": 90}),
        entry(2, "B", 120, tier=1).model_copy(update={"reps": 120}),
        entry(3, "C", 80).model_copy(update={"reps": 80}),
    ]
    by = {
        school: [[p.entry.name for p in s.places] for s in standings(made, school=school)]
        for school in SCHOOLS
    }
    assert by == {
        "tiers apart": [["A", "C"], ["B"]],
        "tier order": [["A", "C", "B"]],
        "total work": [["B", "A", "C"]],
    }


def test_tabata_may_rank_by_its_lowest_interval():
    rounds = Rounds(unit="reps", numbers=(20, 12, 11))
    (low,) = by_lowest([entry(1, "A", 43).model_copy(update={"rounds": rounds})])
    assert low.order_key == 11


JOTS = [
    (TABATA, {1: 9, 2: 8, 3: 7}, "9 8 7"),
    (THIRTY, {1: 190, 2: 200, 0: 12}, "2+12 splits 3:10 3:20"),
    (CAPPED, {1: 190, 2: 200, 3: 210}, "3:10 3:20 3:30"),
    (LIFT, {1: 60, 2: 70.5}, "60 70.5"),
    (LIFT, {}, ""),
]


@pytest.mark.parametrize(("on", "rounds", "made"), JOTS)
def test_jots_make_an_entry_that_is_understood(on, rounds, made):
    assert entry_of(on, rounds) == made
    assert not made or read_score(made, on).problems == ()


ONE_NUMBER = {
    "AMRAP 12:00\n10 burpee": "rounds",
    "EMOM 10:00, score total reps\nmax burpee": "total",
    "for time, score put-downs\n400 m farmer carry": "number",
    "continuous 12:00, score distance\nmax run": "number",
    "continuous 12:00, score calories\nmax row": "number",
}


@pytest.mark.parametrize("heading", ONE_NUMBER)
@given(number=st.integers(0, 9999))
def test_a_number_is_never_cut_in_two(heading, number):
    board = parse(f"## Conditioning: {heading}").session.pieces[0]
    score = read_score(str(number), board)
    if not score.problems:
        told = (
            score.total_reps if ONE_NUMBER[heading] == "total" else score.value[ONE_NUMBER[heading]]
        )
        assert told == number, score


def test_a_time_alone_is_no_number_of_put_downs():
    carry = parse("## Conditioning: for time, score put-downs\n400 m farmer carry")
    score = read_score("12:45", carry.session.pieces[0])
    assert score.problems and "write the put-downs and the time" in score.problems[0]
    both = [read_score(e, carry.session.pieces[0]) for e in ("3 7:45", "7:45 3", "7:45, 3 drops")]
    assert {one.display for one in both} == {"3 put-downs 7:45"}


@pytest.mark.parametrize(
    ("entered", "kg"),
    [("3x5@80", (80.0,) * 3), ("5x3 @ 60", (60.0,) * 5), ("2x8@47.5", (47.5,) * 2)],
)
def test_sets_of_one_load_are_as_many_rounds(entered, kg):
    (sets,) = parse("## Strength: 5 sets\n5 back squat").session.pieces
    read = read_score(entered, sets)
    assert read.rounds is not None
    assert (read.rounds.unit, read.rounds.numbers) == ("kg", kg)


def test_a_tie_break_is_the_time_of_the_last_full_round_and_changes_no_rank_of_work():
    """5+12 with a quick fifth round beats 5+12 with a slow one, and never 5+13."""
    two = piece("AMRAP 12:00, tie-break", "10 burpee", "10 sit-up")
    quick, slow, more = (read_score(e, two) for e in ("5+12 tb 9:31", "5+12 tb 11:02", "5+13"))
    assert quick.value["tie_s"] == 571
    keys = [one.order_key or 0.0 for one in (more, quick, slow)]
    assert keys == sorted(keys, reverse=True)
    assert len(set(keys)) == 3


@given(pieces())
def test_the_sample_entry_of_a_piece_reads_as_one_of_its_kind(one: plan.Piece):
    kind = score_kind(one)
    if kind is None:
        assert example_of(one) == ""
    else:
        assert read_score(example_of(one), one).kind is kind


@pytest.mark.parametrize(
    ("on", "sample"),
    [(CAPPED, "10:12"), (TABATA, "18 17 16 15"), (THIRTY, "5+15"), (DONE, "done"), (CALS, "48")],
)
def test_a_sample_entry_fits_its_piece(on: plan.Piece, sample: str):
    assert example_of(on) == sample
    assert read_score(sample, on).problems == ()
