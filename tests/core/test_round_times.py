"""Jotting: what each format is jotted by, and the score that the notes make."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.floor.round_times import EXTRA, entry_of, open_places, strip_of
from pine_ladder.core.notation import parse
from pine_ladder.core.scores.kinds import counted_intervals, intervals_left_open
from pine_ladder.core.scores.shorthand import read_score


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


STRIPS = [
    (("EMOM 4:00, score total reps", "1) max burpee", "2) max sit-up"), "reps", 4),
    (("Tabata", "air squat"), "reps", 8),
    (("Tabata, score lowest interval", "air squat", "sit-up"), "reps", 8),
    (("intervals 0:40/0:20 x 3, score total reps", "max push-up", "rest"), "reps", 3),
    (("AMRAP 5:00, rest 1:00", "6 burpee", "--", "6 dip", "--", "6 sit-up"), "reps", 3),
    (("AMRAP 20:00, target 5-7 rounds", "10 burpee"), "s", 7),
    (("AMRAP 20:00", "10 burpee"), "s", 5),
    (("3 rounds for time", "10 burpee"), "s", 3),
    (("21-15-9 for time", "thruster"), "s", 3),
    (("5 sets, build", "3 deadlift"), "kg", 5),
]


@pytest.mark.parametrize(("board", "unit", "places"), STRIPS)
def test_each_format_is_jotted_in_its_own_unit(board, unit, places):
    strip = strip_of(piece(*board))
    assert strip is not None
    assert (strip.unit, len(strip.labels)) == (unit, places)


@pytest.mark.parametrize(
    "board",
    [
        ("for time", "60 air squat"),
        ("EMOM 10:00, score done", "5 burpee"),
        ("every 1:00, +1 reps each round, until missed", "2 burpee"),
        ("3 rounds", "10 burpee"),
        ("accumulate", "5:00 plank"),
    ],
)
def test_where_nothing_happens_round_by_round_there_is_no_strip(board):
    one = piece(*board)
    assert strip_of(one) is None
    assert entry_of(one, {1: 10}) == ""


MADE = [
    (("EMOM 3:00, score total reps", "max burpee"), {1: 12, 2: 11, 3: 9}, "12 11 9", "32"),
    (("AMRAP 20:00", "10 burpee"), {1: 61, 2: 65}, "2 splits 1:01 1:05", "2"),
    (("AMRAP 20:00", "10 burpee"), {1: 61, 2: 65, EXTRA: 7}, "2+7 splits 1:01 1:05", "2+7"),
    (("AMRAP 20:00", "10 burpee"), {EXTRA: 7}, "0+7", "0+7"),
    (("2 rounds for time", "10 burpee"), {1: 61, 2: 65}, "1:01 1:05", "2:06"),
    (("3 sets, build", "3 deadlift"), {1: 60, 2: 72.5, 3: 80}, "60 72.5 80", "80 kg"),
]  # fmt: skip


@pytest.mark.parametrize(("board", "noted", "entry", "display"), MADE)
def test_notes_make_an_entry_that_reads_back(board, noted, entry, display):
    one = piece(*board)
    assert entry_of(one, noted) == entry
    score = read_score(entry, one)
    assert (score.problems, score.display) == ((), display)


def test_no_notes_make_no_entry():
    assert entry_of(piece("AMRAP 20:00", "10 burpee"), {}) == ""


@given(pieces(), st.dictionaries(st.integers(0, 30), st.floats(0, 900), max_size=12))
def test_no_notes_break_the_entry(one: plan.Piece, noted):
    entry = entry_of(one, noted)
    if entry:
        read_score(entry, one)


@given(pieces())
def test_places_of_counted_intervals_are_named_by_their_movement(one: plan.Piece):
    strip = strip_of(one)
    held = counted_intervals(one)
    blocks = isinstance(one.format, plan.Amrap) and len(one.blocks) > 1
    if strip and strip.unit == "reps" and held and not blocks:
        assert strip.labels == tuple(interval.label for interval in held)


@pytest.mark.parametrize("noted", [(8, 9, 10, 15), (20, 20, 20, 20), (60, 58, 50, 61)])
def test_reps_noted_of_each_block_are_never_read_as_rounds(noted: tuple[int, ...]):
    board = ("6 burpee", "--", "6 dip", "--", "6 sit-up", "--", "6 lunge")
    blocks = piece("AMRAP 4:00, rest 1:00", *board)
    entry = entry_of(blocks, dict(enumerate(map(float, noted), start=1)))
    score = read_score(entry, blocks)
    assert (score.problems, score.total_reps) == ((), sum(noted))


def test_places_that_were_left_out_are_named_those_added_on_the_floor_too():
    amrap = piece("AMRAP 20:00", "10 burpee")
    noted = dict.fromkeys((1, 2, 4, 6, 8), 60.0)
    assert open_places(amrap, noted) == ("round 3", "round 5", "round 7")
    sets = piece("3 sets, build", "3 deadlift")
    assert open_places(sets, {1: 60, 2: 70, 5: 90}) == ("set 3", "set 4")


def test_where_no_place_can_be_added_all_that_are_planned_are_missed():
    three = piece("3 rounds for time", "10 burpee")
    assert open_places(three, {1: 60}) == ("round 2", "round 3")
    assert open_places(three, {1: 60, 2: 61, 3: 62}) == ()
    assert open_places(three, {}) == ()


def test_one_number_of_a_piece_without_blocks_needs_no_word_for_what_it_counts():
    windows = piece("AMRAP 5:00, score total reps", "max burpee")
    assert entry_of(windows, {1: 61}) == "61"
    assert entry_of(piece("3 sets, build", "3 deadlift"), {1: 60}) == "60"


@pytest.mark.parametrize(
    ("heading", "more"),
    [
        ("EMOM 12:00-20:00, score total reps", 8),
        ("every 2:00 x 4-5, score total reps", 1),
        ("intervals 0:40/0:20 x 6-9, score total reps", 3),
        ("Tabata, 1-3 times", 16),
        ("EMOM 12:00, score total reps", 0),
        ("every 2:00 x 4, score total reps", 0),
    ],
)
def test_the_intervals_that_a_range_leaves_open_are_counted(heading, more):
    assert intervals_left_open(piece(heading, "max burpee")) == more


def test_the_first_round_may_be_the_one_that_was_missed():
    for_time = piece("3 rounds for time", "10 burpee")
    assert open_places(for_time, {2: 70, 3: 80}) == ("round 1",)
    assert open_places(for_time, {1: 60, 2: 70}) == ("round 3",)
    amrap = piece("AMRAP 20:00", "10 burpee")
    assert open_places(amrap, {3: 80}) == ("round 1", "round 2")


def test_a_set_more_is_a_set_and_an_interval_more_is_added():
    lift = piece("3 sets, build", "3 deadlift")
    kilograms = {1: 100, 2: 110, 3: 120, 4: 130}
    assert entry_of(lift, kilograms) == "100 110 120 130"
    emom = piece("EMOM 3:00, score total reps", "max burpee")
    assert entry_of(emom, {1: 9, 2: 8, 3: 7, 4: 6}) == "9 8 7 6, 1 added"


@given(st.lists(st.integers(20, 200), min_size=3, max_size=3), st.integers(60, 900))
def test_rounds_told_with_an_end_add_up_to_it(laps, end_s):
    """The end is the score; a round that was noted late or twice never makes another time."""
    (piece,) = parse("## Conditioning: 3 rounds for time\n5 burpee").session.pieces
    for rounds in (dict(enumerate(laps, 1)), dict(enumerate(laps[:2], 1)), {}, {2: 60}):
        read = read_score(entry_of(piece, rounds, end_s), piece)
        assert not read.problems
        assert read.value["seconds"] == end_s


def test_a_piece_that_is_done_once_has_its_end_alone():
    (piece,) = parse("## Conditioning: for time\n50 burpee\n50 sit-up").session.pieces
    assert entry_of(piece, {}, 251) == "4:11"
