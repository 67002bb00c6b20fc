"""What the clock calls, format by format, and what a coach says before it."""

import pytest

from pine_ladder.core import plan
from pine_ladder.core.floor.cues import Changes, script
from pine_ladder.core.notation import parse


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


CALLS = [
    # Common practice, no source: halfway, ten seconds, three two one, and the end.
    (
        ("AMRAP 10:00", "10 burpee"),
        [
            (0, "work"), (300, "halfway"), (590, "ten"),
            (597, "count"), (598, "count"), (599, "count"), (600, "end"),
        ],
    ),
    (
        ("Tabata", "air squat"),
        [(0, "work"), (17, "count"), (18, "count"), (19, "count"), (20, "rest"), (27, "count")],
    ),
    (
        ("every 2:00 x 2", "10 burpee"),
        [(0, "work"), (60, "halfway"), (110, "ten"), (117, "count"), (118, "count")],
    ),
    (
        ("EMOM 2:00", "1) 10 burpee", "2) 12 sit-up"),
        [(0, "work"), (50, "ten"), (57, "count"), (58, "count"), (59, "count"), (60, "work"),
         (60, "halfway"), (110, "ten")],
    ),
    (
        ("for time, cap 3:00", "60 air squat"),
        [(0, "work"), (120, "minute"), (170, "ten"), (177, "count"), (178, "count"),
         (179, "count"), (180, "cap")],
    ),
    (("for time", "60 air squat"), [(0, "work")]),
    (("intervals 0:07/2:00 x 1", "max sprint"), [(0, "work"), (4, "count"), (5, "count")]),
]  # fmt: skip


@pytest.mark.parametrize(("board", "first"), CALLS)
def test_a_format_is_called_as_a_coach_would(board, first, movements):
    calls = [(call.at_s, call.kind) for call in script(piece(*board), movements).calls]
    assert calls[: len(first)] == first


def test_a_count_of_three_names_what_comes_next(movements):
    calls = script(piece("EMOM 2:00", "1) 10 burpee", "2) 12 sit-up"), movements).calls
    words = [call.words for call in calls if call.kind == "count"]
    assert words == ["12 sit-up"] * 3 + ["the end"] * 3


def test_arms_change_every_few_reps_and_never_after_the_last(movements):
    one = piece("EMOM 1:00", "15 dumbbell snatch, one arm, switch every 5 @ 15 kg")
    calls = [call for call in script(one, movements).calls if call.kind == "switch"]
    assert len(calls) == 2
    assert all(call.words == "other arm, about 5 reps in" for call in calls)


def test_a_hold_on_each_side_is_switched_halfway(movements):
    one = piece("continuous 2:00", "1:00 side plank, each side")
    (call,) = [call for call in script(one, movements).calls if call.kind == "switch"]
    assert (call.at_s, call.words) == (60, "other side")


def test_every_kind_of_tempo_mark_is_beaten_out(movements):
    beats = script(piece("EMOM 1:00", "4 front squat, tempo 32X1"), movements).beats
    told = [(step.phase, step.seconds) for step in beats[0].tempo]
    # Down, bottom, up, top; X is about half a second (common practice, no source).
    assert told == [("down", 3), ("bottom", 2), ("up", 0.5), ("top", 1)]


def test_two_tempos_in_one_window_are_not_beaten_out(movements):
    both = piece("every 2:00 x 1", "4 front squat, tempo 32X1 + 4 push-up, tempo 20X0")
    assert script(both, movements).beats[0].tempo == ()


def test_growing_intervals_and_ladders_say_the_number_of_the_round(movements):
    ladder = script(piece("every 1:00 x 3, +2 reps each round", "4 burpee"), movements)
    assert [beat.lines for beat in ladder.beats] == [("4 burpee",), ("6 burpee",), ("8 burpee",)]
    falling = script(piece("every 1:00 x 3", "10-8-6 thruster"), movements)
    assert [beat.lines[0] for beat in falling.beats] == ["10 thruster", "8 thruster", "6 thruster"]


def test_what_to_say_holds_standard_cues_and_cautions_of_every_movement(movements):
    said = script(piece("3 rounds for time", "10 box jump @ 60/50 cm", "5 pull-up"), movements).say
    assert [one.movement for one in said] == ["box jump", "pull-up"]
    assert all(one.standard and one.cues for one in said)
    assert any("step down" in caution for caution in said[0].cautions)


def test_an_unknown_movement_is_played_as_written(movements):
    played = script(piece("EMOM 1:00", "10 barnacle scrape"), movements)
    assert played.beats[0].lines == ("10 barnacle scrape",)
    assert played.say == ()


@pytest.mark.parametrize(
    ("board", "words"),
    [
        (("4 sets, rest 1:30", "5 deadlift"), "a set"),
        (("EMOM 4:00", "5 burpee"), "a round"),
        (("3 rounds", "5 burpee"), "a round"),
        (("AMRAP 8:00", "5 burpee"), "a minute"),
        (("for time", "50 burpee"), ""),
    ],
)
def test_what_can_be_added_is_said(board, words, movements):
    assert script(piece(*board), movements).add_words == words


def test_a_set_added_brings_its_rest(movements):
    one = piece("3 sets, rest 1:30", "5 deadlift")
    beats = script(one, movements, Changes(added={0: 1})).beats
    assert [beat.kind for beat in beats] == ["open", "rest"] * 3 + ["open"]


def test_changes_reach_only_the_beat_they_name(movements):
    one = piece("Tabata", "air squat")
    plain, longer = (
        script(one, movements),
        script(one, movements, Changes(longer={"0.1rest.1": 15})),
    )
    different = [
        (a.id, b.length_s) for a, b in zip(plain.beats, longer.beats, strict=True)
        if a.length_s != b.length_s
    ]  # fmt: skip
    assert different == [("0.1rest.1", 25)]
    assert longer.total_s == 255


def test_each_beat_says_its_work_and_its_load_in_every_version(movements):
    (beat,) = script(
        piece("AMRAP 9:00", "10 thruster @ 42.5/30 kg | @ 30/20 kg | 8 @ 20/15 kg", "9 sit-up"),
        movements,
    ).beats
    assert [[(one.work, one.load) for one in versions] for versions in beat.versions] == [
        [
            ("10 thruster", "42.5/30 kg"),
            ("10 thruster", "30/20 kg"),
            ("8 thruster", "20/15 kg"),
        ],
        [("9 sit-up", "")] * 3,
    ]
    # A ladder's versions grow as its lines do; a rest has none.
    climbing = script(
        piece("every 1:00 x 2, +2 reps each round", "4 burpee | 2 burpee"), movements
    ).beats
    assert [[one.work for one in beat.versions[0]] for beat in climbing] == [
        ["4 burpee", "2 burpee"],
        ["6 burpee", "4 burpee"],
    ]
