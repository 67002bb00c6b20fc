"""What is accepted on a heading or a line changes something, or a hint says that it does not."""

from __future__ import annotations

import numpy as np
import pytest

from pine_ladder.core import plan
from pine_ladder.core.checks import check
from pine_ladder.core.clock import clock, segments
from pine_ladder.core.floor.cues import script
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.pace.rep_times import sample
from pine_ladder.core.pace.runs import run
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import score_kind

FORMATS = (
    "3 rounds",
    "1 rounds",
    "4 sets",
    "AMRAP 6:00",
    "every 1:00 x 3",
    "every 1:00",
    "every 1:00 x 1",
    "EMOM 4:00",
    "intervals 0:40/0:20 x 3",
    "intervals 0:40/0:20 x 1",
    "Tabata",
    "for time",
    "3 rounds for time",
    "10-8-6 for time",
    "accumulate",
    "continuous 4:00",
)
MODIFIERS = (
    "work 0:20",
    "work 2:00",
    "cap 0:30",
    "rest 0:30",
    "+5 reps each round",
    "-2 reps each round",
    "build",
    "until missed",
)
LINES = (
    "3 thruster @ 40/30 kg",
    "max burpee",
    "6 push-up\n4 burpee\n--\n6 air squat\n4 burpee",
    "1) 3 push-up\n2) 2 burpee",
)


def done(piece: plan.Piece) -> tuple[object, ...]:
    """All that a modifier may change: clock, what athletes do by prediction, and the score rule."""
    ran = run(piece, sample(12, 0), library(), 0)
    played = script(piece, library())
    numbers = [ran.result, ran.time_s, ran.work, ran.pauses, *ran.reps.values()]
    return (
        [segment.model_dump() for segment in segments(piece)],
        [beat.model_dump() for beat in played.beats],
        played.cap_s if played.total_s is None else None,
        [np.round(one, 6).tolist() for one in numbers],
        score_kind(piece),
    )


@pytest.mark.parametrize("lines", LINES)
@pytest.mark.parametrize("form", FORMATS)
def test_a_modifier_changes_something_or_is_said_to_do_nothing(form: str, lines: str):
    plain = parse(f"## Strength: {form}\n{lines}").session.pieces[0]
    before = done(plain)
    for modifier in MODIFIERS:
        session = parse(f"## Strength: {form}, {modifier}\n{lines}").session
        said = [f for f in check(session) if f.code == "idle" and f.line == 1]
        same = done(session.pieces[0]) == before
        told = bool(said)
        if modifier == "cap 0:30" and form in ("3 rounds", "1 rounds", "4 sets", "accumulate"):
            assert not told, "a cap shows on the clock wherever a piece has none of its own"
            continue
        if modifier == "build":
            assert told == (score_kind(session.pieces[0]) is not ScoreKind.LOAD)
            continue
        if modifier == "until missed":
            assert told == (form != "every 1:00"), "only a ladder is missed"
            continue
        if modifier.startswith("rest") and form == "every 1:00" and "--" in lines:
            continue
        assert same == told, (modifier, said)


def test_leaving_out_what_does_nothing_leaves_nothing_to_say():
    text = "## Conditioning: AMRAP 6:00, rest 1:00, cap 8:00, work 0:40\n10 push-up"
    for _ in range(3):
        session = parse(text).session
        first = next(f for f in check(session) if f.code == "idle")
        text = apply(text, first.repairs[0].edits)
    assert text.splitlines()[0] == "## Conditioning: AMRAP 6:00"
    assert "idle" not in {f.code for f in check(parse(text).session)}


@pytest.mark.parametrize(
    ("form", "line", "words"),
    [
        ("3 rounds", "10 push-up, 3 sets", "3 sets of 3 is all of them"),
        ("for time", "10 +2 push-up", "+2 does nothing in one round"),
        ("accumulate", "1:00 +0:10 plank", "+10 s does nothing in one round"),
    ],
)
def test_a_detail_that_does_nothing_is_told_with_its_way_out(form: str, line: str, words: str):
    text = f"## Core: {form}\n{line}"
    (found,) = [f for f in check(parse(text).session) if f.code == "idle"]
    assert words in found.message
    text = apply(text, found.repairs[0].edits)
    assert "idle" not in {f.code for f in check(parse(text).session)}


def test_work_closes_each_window_and_the_rest_of_it_is_rest():
    piece = parse("## Core: EMOM 6:00, work 0:40\n1) max air squat\n2) 10 push-up\n3) rest").session
    timed = clock(piece.pieces[0])
    assert (timed.total_s, timed.work_s, timed.rest_s, timed.windows) == (360, 160, 200, 6)
    told = [(s.start_s, s.length_s, s.kind, s.window) for s in timed.segments[:5]]
    assert told == [
        (0, 40, "work", 1),
        (40, 20, "rest", None),
        (60, 40, "work", 2),
        (100, 20, "rest", None),
        (120, 60, "rest", 3),
    ]


def test_as_many_as_possible_ends_where_the_work_of_a_window_does():
    def reps(heading: str) -> float:
        piece = parse(
            f"## Core: {heading}, score total reps\nmax x 10 m shuttle run"
        ).session.pieces[0]
        return float(np.median(run(piece, sample(40, 0), library(), 0).result))

    closed, whole = reps("EMOM 12:00, work 0:40"), reps("EMOM 12:00")
    as_intervals = reps("intervals 0:40/0:20 x 12")
    assert closed < 0.8 * whole
    assert closed == as_intervals
    assert reps("EMOM 12:00, aim 0:40") == whole


def test_the_clock_calls_the_rest_where_the_work_of_a_window_ends():
    piece = parse("## Core: every 1:00 x 2, work 0:40\n1) max air squat\n2) max push-up").session
    beats = script(piece.pieces[0], library()).beats
    kinds = [(beat.kind, beat.length_s) for beat in beats]
    assert kinds[:2] == [("work", 40), ("rest", 20)]
    assert [beat.place for beat in beats if beat.kind == "work"] == [1, 2, 3, 4]


def test_a_ladder_is_missed_where_its_work_is_over():
    def step(heading: str) -> float:
        piece = parse(f"## Core: {heading}, +2 reps each round, until missed\n2 burpee").session
        return float(np.median(run(piece.pieces[0], sample(40, 0), library(), 0).result))

    assert step("every 1:00, work 0:30") < step("every 1:00")
