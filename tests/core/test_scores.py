"""Scores and standings: what shorthand means, what is refused, who is ahead."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.notation import parse
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scoring import reps_in_round, score_kind
from pine_ladder.core.shorthand import read_score
from pine_ladder.core.standings import Entry, rank_of, standings, strip_positions


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


THIRTY = piece("AMRAP 20:00", "10 push-up | 8", "10 sit-up", "5 lunge, each side")
LADDER = piece("AMRAP 8:00, +2 reps each round", "2 deadlift @ 60 kg", "2 burpee")
CAPPED = piece("3 rounds for time, cap 12:00", "10 burpee")
LIFT = piece("5 sets, build", "3 deadlift")
TOTAL = piece("every 2:00 x 3", "1) max push-up", "2) max sit-up")
TABATA = piece("Tabata, score lowest interval", "sit-up")
DONE = piece("EMOM 12:00, score done", "10 burpee")


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
]


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
]


@pytest.mark.parametrize(("on", "entered", "why"), REFUSED)
def test_what_cannot_be_is_refused_with_the_reason(on: plan.Piece, entered: str, why: str):
    score = read_score(entered, on)
    assert score.order_key is None
    assert why in score.problems[0]


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
