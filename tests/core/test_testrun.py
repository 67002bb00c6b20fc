"""The test-run: against stated facts, against SimPy, and what must hold for any piece."""

from __future__ import annotations

import numpy as np
import pytest
from calibration.fit import LEFT_OUT, Fact, check_facts, facts, from_neighbours
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from plans import pieces
from rerun import rerun

from pine_ladder.core import plan
from pine_ladder.core.clock import Open, lower
from pine_ladder.core.movements import library
from pine_ladder.core.movements.library import unfitted
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.rep_times import constants, rep_of, sample, tempo_seconds, typical
from pine_ladder.core.pace.runs import run
from pine_ladder.core.pace.testrun import test_run, words_of


def lowered_open(piece: plan.Piece) -> bool:
    return isinstance(lower(piece), Open) and not isinstance(piece.format, plan.Every)


def piece_of(board: str) -> plan.Piece:
    parsed = parse(board)
    assert not parsed.findings, parsed.findings
    return parsed.session.pieces[0]


@pytest.mark.parametrize("fact", facts(), ids=lambda fact: fact.says)
def test_a_stated_pace_holds_for_the_middle_of_an_ordinary_class(fact: Fact):
    """Common practice, no source: shared by coaches, see tools/calibration/facts.toml."""
    (checked,) = check_facts(library(), constants(), [fact])
    assert checked.holds, f"predicted {checked.predicted}"


def test_movements_left_out_are_predicted_by_their_neighbours():
    shelf = unfitted()
    errors = [
        abs(np.log(from_neighbours(name, shelf) / shelf.find(name).seconds)) for name in LEFT_OUT
    ]
    assert np.median(errors) < 0.15
    assert max(errors) < 0.3


SAME = [
    "## Conditioning: AMRAP 12:00\n10 push press @ 40 kg\n10 kettlebell swing @ 24 kg\n10 burpee",
    "## Conditioning: AMRAP 3:00, rest 1:00\n10 push-up\n10 sit-up\n--\n8 burpee\n8 air squat",
    "## Conditioning: 5 rounds for time\n15 wall ball @ 9/6 kg\n10 pull-up",
    "## Conditioning: 21-15-9 for time\nthruster @ 40/30 kg\npull-up",
    "## Conditioning: 4 rounds for time, rest 1:00\n20 air squat\n20 s hollow hold\n10 dip",
    "## Conditioning: every 2:00 x 3, score total reps\n1) 12 burpee\n2) max push-up\n3) rest",
    "## Conditioning: EMOM 12:00\n1) 16 dumbbell snatch @ 15 kg\n2) 16 goblet squat @ 18 kg"
    "\n3) 8 dip + max burpee",
    "## Conditioning: intervals 0:40/0:20 x 4, score total reps\nair squat\nsit-up\nburpee",
    "## Core: accumulate\n5:00 plank",
    "## Strength: 4 sets, rest 1:30\n8 bench press, tempo 30X0 @ 60/40 kg\n8 pull-up",
    "## Conditioning: 5 rounds for time\n400 m run\n15 overhead squat @ 40/30 kg",
    "## Conditioning: 4 rounds for time\n50 m farmer carry @ 2 x 24/16 kg"
    "\n15 goblet squat @ 24/16 kg",
    "## Conditioning: for time\n400 m farmer carry @ 2 x 24/16 kg",
    "## Conditioning: AMRAP 16:00, teams of 2, alternate, score total reps"
    "\n10 kettlebell swing @ 24/16 kg\n10 box jump @ 60/50 cm\n10 push-up",
    "## Conditioning: 3 rounds for time, teams of 2, share\n20 thruster @ 40/30 kg\n20 pull-up",
    "## Conditioning: for time\n5 rope climb",
    "## Conditioning: EMOM 10:00\n5 power clean @ 70/50 kg",
    "## Conditioning: 3 rounds for time\n60 double-under\n20 sit-up",
    "## Conditioning: 3 rounds for time\n45 s hollow hold\n15 toes-to-bar",
    "## Conditioning: for time\n20 deadlift @ 100/70 kg\n20 power clean @ 60/40 kg\n20 push-up"
    "\n10 power clean @ 50/35 kg",
    "## Conditioning: 8-6-4-2 for time\nbar muscle-up\nfront squat @ 60/42.5 kg",
]


@pytest.mark.parametrize("track", [0, 1])
@pytest.mark.parametrize("board", SAME)
def test_simpy_rep_by_rep_agrees_within_a_percent(board: str, track: int):
    piece, who = piece_of(board), typical(0, track)
    done, again = run(piece, who, library()), rerun(piece, who, library())
    assert done.time_s[0] == pytest.approx(again.finished_at, rel=0.01)
    assert sum(r[0] for r in done.reps.values()) == pytest.approx(again.reps, rel=0.01)
    if isinstance(piece.format, plan.Amrap) and len(piece.blocks) == 1 and not piece.teams:
        assert done.result[0] == pytest.approx(again.rounds + again.part / 30, rel=0.01)
    if again.work:
        ours = [float(work[0]) for _, _, work, _, _ in done.windows]
        assert ours == pytest.approx(again.work, rel=0.01)


def middle(board: str, count: int = 40) -> float:
    return float(np.median(run(piece_of(board), sample(count), library()).result))


def plates_lost(board: str) -> float:
    """Seconds that the middle athlete spends between tasks."""
    return float(run(piece_of(board), typical(0), library()).changes[0])


def test_a_bar_is_loaded_anew_only_where_its_lines_are_done_once():
    """Lines that come back have a bar of their own each; other weights lie ready on the floor."""
    chipper = "## Conditioning: for time\n20 deadlift @ {}/70 kg\n20 power clean @ 60/40 kg"
    rounds = "## Conditioning: 3 rounds for time\n5 deadlift @ {}/70 kg\n5 power clean @ 60/40 kg"
    bells = "## Conditioning: for time\n20 kettlebell swing @ {} kg\n20 goblet squat @ 16 kg"
    model = constants()
    assert plates_lost(chipper.format(60)) < 2 * model.same_change_s
    assert plates_lost(chipper.format(100)) == pytest.approx(model.plates_s)
    assert plates_lost(rounds.format(100)) < 1.5 * plates_lost(rounds.format(60))
    assert plates_lost(bells.format(24)) < 1.5 * plates_lost(bells.format(16))


def test_plates_are_changed_in_a_rest_that_is_long_enough():
    board = "## Conditioning: for time, rest {}\n20 thruster @ 40/30 kg\n--\n15 thruster @ 50/35 kg"
    assert plates_lost(board.format("0:05")) == pytest.approx(constants().plates_s - 5)
    assert plates_lost(board.format("1:00")) == 0


@given(st.sampled_from(["thruster", "kettlebell swing", "power clean"]), st.integers(8, 50))
@settings(max_examples=examples(25))
def test_more_load_is_never_faster(name: str, kilos: int):
    def times(load: int) -> np.ndarray:
        board = f"## Conditioning: for time\n12 {name} @ {load} kg"
        return run(piece_of(board), sample(20), library()).time_s

    assert (times(kilos) <= times(kilos + 6) + 1e-9).all()


def test_a_maximum_alone_fills_the_whole_time():
    """As many burpees as rounds of one, give or take where the last one is cut."""
    assert middle("## Conditioning: AMRAP 7:00\nmax burpee") == pytest.approx(
        middle("## Conditioning: AMRAP 7:00\n1 burpee"), rel=0.02
    )
    assert (
        middle("## Conditioning: AMRAP 6:00\nmax push-up")
        > middle("## Conditioning: AMRAP 2:00\nmax push-up")
        > 20
    )


def test_a_machine_is_counted_in_what_the_score_counts():
    """A calorie is about ten to fifteen metres of a rower (common practice, no source)."""
    for heading in ("AMRAP 10:00", "every 10:00 x 1"):
        metres = middle(f"## Conditioning: {heading}, score distance\nmax row")
        assert 8 < metres / middle(f"## Conditioning: {heading}, score calories\nmax row") < 20


@given(st.integers(10, 100), st.integers(1, 90))
@settings(max_examples=examples(25))
def test_more_rest_never_lowers_a_max_rep_result(rest: int, more: int):
    def reps(off: int) -> np.ndarray:
        board = (
            f"## Conditioning: intervals 0:30/{off // 60}:{off % 60:02d} x 5, score total reps"
            "\nburpee\npush-up"
        )
        return run(piece_of(board), sample(20), library()).result

    short, long = reps(rest), reps(rest + more)
    # Reps are whole: a set that goes on longer may put the last pause across the bell.
    assert (short <= long + 1 + 1e-9).all()
    assert short.sum() <= long.sum()


def test_a_set_to_the_end_of_it_has_a_length_also_when_its_muscles_are_used_up():
    piece = parse(
        "## Conditioning: for time\n400 ab wheel roll-out\nmax ab wheel roll-out, unbroken\n"
    ).session.pieces[0]
    assert np.isfinite(run(piece, sample(6, 1), library(), 1).time_s).all()


@settings(max_examples=examples(60))
@given(pieces(), st.integers(0, 2))
def test_every_piece_can_be_run_and_its_parts_add_up(piece: plan.Piece, tier: int):
    done = run(piece, sample(6, tier), library(), tier)
    assert np.isfinite(done.time_s).all()
    assert (done.time_s >= 0).all()
    if piece.cap_s and lowered_open(piece):
        assert (done.time_s <= piece.cap_s + 1e-6).all()
    for _, _, work, length, _ in done.windows:
        assert ((work >= -1e-6) & (work <= length + 1e-6)).all()
    for one in test_run(piece, library(), 1, 6).tiers:
        assert words_of(one)


@pytest.mark.parametrize("board", SAME[:8])
def test_doubling_the_athletes_leaves_the_quantiles_where_they_were(board: str):
    piece = piece_of(board)
    few, many = (test_run(piece, library(), 1, n).tiers[0] for n in (200, 400))
    for name in ("p10", "p50", "p90"):
        assert getattr(few.time_s, name) == pytest.approx(getattr(many.time_s, name), rel=0.05)
        if few.result and many.result:
            ours, theirs = getattr(few.result, name), getattr(many.result, name)
            assert ours == pytest.approx(theirs, rel=0.06, abs=1)


def test_ranges_are_explored_at_both_ends():
    reps = run(piece_of("## Core: 3 rounds\n6-10 push-up"), sample(50), library()).reps["push-up"]
    assert (reps.min(), reps.max()) == (18, 30)


def test_partners_who_alternate_rest_while_the_other_works_and_add_up():
    alone = run(
        piece_of("## Conditioning: every 1:00 x 4, score total reps\nmax burpee"),
        typical(0),
        library(),
    )
    pair = run(
        piece_of(
            "## Conditioning: every 1:00 x 4, score total reps, teams of 2, alternate\nmax burpee"
        ),
        typical(0),
        library(),
    )
    assert pair.result[0] > 2 * alone.result[0]
    assert pair.time_s[0] == 2 * alone.time_s[0] == 480


def test_a_cap_cuts_and_a_ladder_ends_where_the_minute_is_too_short():
    capped = test_run(
        piece_of("## Conditioning: 9 rounds for time, cap 5:00\n10 burpee\n9 thruster @ 40 kg"),
        library(),
    ).tiers[0]
    assert capped.capped_share == 1
    assert capped.time_s.p50 == 300
    ladder = "## Conditioning: every 1:00, +1 reps each round, until missed\n1 burpee"
    assert 10 <= middle(ladder) <= 17


def test_tempo_and_pauses_lengthen_reps():
    fast, slow, paused = (
        rep_of(piece_of(f"## Core: 3 rounds\n8 air squat{how}").lines[0].tasks[0].versions[0],
               typical(), library()).seconds[0]
        for how in ("", ", tempo 40X0", ", pause 2 s")
    )  # fmt: skip
    assert slow == tempo_seconds("40X0") == 4.5
    assert paused == pytest.approx(fast + 2)


def test_landings_and_tonnage_are_counted():
    one = test_run(piece_of("## Core: 5 rounds for time\n10 box jump\n5 deadlift @ 100/70 kg"),
                   library()).tiers[0]  # fmt: skip
    assert one.landings.p50 == 50
    assert (one.tonnage_kg.p10, one.tonnage_kg.p90) == (1750, 2500)


def test_a_steady_long_piece_falls_off_less_than_a_hard_one():
    easy, hard = (
        test_run(piece_of(f"## Conditioning: 8 rounds for time\n{line}"), library()).tiers[0]
        for line in ("100 m run", "15 thruster @ 45/35 kg")
    )
    assert easy.last_round and hard.last_round
    assert 1 <= easy.last_round.p50 < hard.last_round.p50
