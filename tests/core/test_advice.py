"""What keeps a session's intent for one athlete, and what is asked of someone new."""

from __future__ import annotations

import math

import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.athletes.advice import intent_of, off_by, questions, together
from pine_ladder.core.athletes.members import Member, Profile, Rack, athletes
from pine_ladder.core.athletes.scaling_sheet import own_piece, scaling_sheet, tasks_of
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.rep_times import Capacity, best, constants, in_a_row, stamina
from pine_ladder.core.pace.runs import run
from pine_ladder.core.pace.testrun import test_run

RACK = Rack(kit={}, plates={20: 8, 15: 8, 10: 12, 5: 12, 2.5: 12, 1.25: 8})
AMRAP = (
    "## Conditioning: AMRAP 12:00, target 6-8 rounds\n"
    "5 pull-up | ring row\n10 push-up | knee push-up\n15 air squat"
)
RACE = (
    "## Conditioning: 21-15-9 for time\n"
    "thruster @ 43/30 kg | @ 30/20 kg | @ 20/15 kg\npull-up | jumping pull-up | ring row"
)
FULL = (
    "## Conditioning: EMOM 10:00\n"
    "1) 12 thruster @ 50/35 kg | @ 40/30 kg | 8 @ 20/15 kg\n2) 15 burpee | 12 | 8"
)


def piece(board: str) -> plan.Piece:
    return parse(board).session.pieces[0]


def member(tier: int = 0, track: int = 0, pace: float | None = 0.96, **known) -> Member:
    factors = dict.fromkeys(Capacity, pace) if pace else {}
    return Member(
        id=1, name="Ada", tier=tier, track=track, profile=Profile(**known), factors=factors
    )


def row(board: str, who: Member):
    return scaling_sheet(piece(board), [who], library(), RACK).rows[0]


def test_who_keeps_the_intent_is_left_alone():
    assert row(AMRAP, member(pace=1.1)).advice is None
    assert row(RACE, member()).advice is None


def test_nobody_is_scaled_for_a_little():
    """5.8 rounds where 6 are meant."""
    near = next(
        found
        for pace in (1.10 + 0.005 * n for n in range(30))
        if "5.4" <= (found := row(AMRAP, member(pace=pace))).predicted < "6"
    )
    assert near.advice is None


@pytest.mark.parametrize("board", [AMRAP, RACE])
def test_who_is_too_slow_is_offered_the_smallest_change_that_keeps_it(board):
    found = row(board, member(pace=1.25)).advice
    assert found is not None
    assert found.keeps
    assert (found.movement, found.instead) == ("pull-up", "band pull-up")
    assert found.tier is None


def test_where_no_rung_helps_another_tier_does():
    found = row(RACE, member(track=1, pace=1.0, bests={"strict press": 28})).advice
    assert found is not None
    assert found.tier in (1, 2)


def test_who_is_too_quick_is_offered_a_harder_tier():
    found = row(RACE, member(tier=2, pace=0.85)).advice
    assert found is not None
    assert found.tier in (0, 1)


def test_what_is_offered_does_what_it_says():
    """Done apart, from the text of the override and the tier: the result is the one told."""
    who = member(pace=1.25)
    told = row(AMRAP, who).advice
    assert told is not None
    again = who.model_copy(update={"overrides": {told.movement: told.text}})
    assert row(AMRAP, again).predicted == told.after
    assert row(AMRAP, who).predicted == told.before
    slow = member(track=1, pace=1.0, bests={"strict press": 28})
    tier = row(RACE, slow).advice
    assert tier is not None
    assert row(RACE, slow.model_copy(update={"tier": tier.tier})).predicted == tier.after


def test_a_movement_that_stands_twice_keeps_its_own_numbers():
    board = (
        "## Conditioning: AMRAP 12:00, target 4-5 rounds\n"
        "7 pull-up\n10 push-up\n3 pull-up\n15 air squat"
    )
    who = member(pace=1.3)
    told = row(board, who).advice
    assert told is not None
    assert told.text == "band pull-up"
    taken = row(board, who.model_copy(update={"overrides": {told.movement: told.text}}))
    assert [v.text for v in taken.versions][::2] == ["7 band pull-up", "3 band pull-up"]
    assert taken.predicted == told.after


def test_windows_that_are_not_done_in_time_are_no_intent_kept():
    found = row(FULL, member(pace=1.25)).advice
    assert found is not None
    assert found.before == "10 of 10 windows not done in time"
    assert found.after == "done in time"
    assert found.intent == "every window done in time"


def test_what_is_beyond_an_athlete_is_said_so():
    board = "## Conditioning: AMRAP 8:00\n3 ring muscle-up | 6 ring row | 6 ring row"
    found = row(board, member(longest={"ring muscle-up": 0.4}, pace=1.0))
    # Their longest set already takes them a rung down.
    assert "ring muscle-up" not in found.versions[0].text
    assert found.advice is None or "yet" not in found.advice.after


def test_a_coachs_own_version_is_not_argued_with():
    who = member(pace=1.25).model_copy(update={"overrides": {"pull-up": "5 pull-up"}})
    found = row(AMRAP, who).advice
    assert found is None or found.movement != "pull-up"


def test_the_intent_is_the_target_or_what_the_board_takes_as_written():
    assert intent_of(piece(AMRAP), library())[:3] == ("rounds", 6, 8)
    written = intent_of(piece(RACE), library())
    middle = test_run(piece(RACE), library()).tiers[0].time_s.p50
    assert (written.low, written.high) == (middle / 1.5, middle * 1.5)
    assert intent_of(piece("## Strength: 5 sets\n5 back squat @ 75%"), library()) is None


def test_those_whose_pieces_are_the_same_do_as_they_would_alone():
    written = piece(AMRAP)
    who = [member(pace=p).model_copy(update={"id": n}) for n, p in enumerate((0.9, 1.0, 1.2))]
    mine = own_piece(written, row(AMRAP, who[0]).versions)
    for one, (done, at) in zip(who, together([mine] * 3, who, library()), strict=True):
        alone = run(mine, athletes([one], library()), library(), 0)
        assert done.result[at] == pytest.approx(alone.result[0])


def test_nobody_is_off_who_cannot_be_measured():
    strength = piece("## Strength: 5 sets\n5 back squat @ 75%")
    done = run(strength, athletes([member()], library()), library(), 0)
    assert off_by(None, done) == 0


# What is known of an athlete tells of what is not.


def usual(name: str, who: Member) -> float:
    movement = library().find(name)
    return float(best(movement, athletes([who], library()), library())[0])


def test_a_best_tells_of_the_other_lifts():
    ratio = usual("deadlift", member(bests={"back squat": 180})) / usual("deadlift", member())
    asked = 180 / usual("back squat", member())
    assert 1 < ratio < asked
    assert ratio == pytest.approx(asked, rel=0.1)
    # The lift itself is what was said.
    assert usual("back squat", member(bests={"back squat": 180})) == 180


@settings(max_examples=examples(40))
@given(st.lists(st.floats(30, 200), min_size=2, max_size=2, unique=True))
def test_a_higher_best_never_means_a_lower_one_elsewhere(kilograms):
    less, more = sorted(kilograms)
    assert usual("deadlift", member(bests={"back squat": less})) <= usual(
        "deadlift", member(bests={"back squat": more})
    )


def test_two_bests_that_agree_say_more_than_one():
    squat, dead = (1.5 * usual(name, member()) for name in ("back squat", "deadlift"))
    one = usual("bench press", member(bests={"back squat": squat}))
    two = usual("bench press", member(bests={"back squat": squat, "deadlift": dead}))
    assert usual("bench press", member()) < one < two < 1.5 * usual("bench press", member()) + 1e-9


def test_a_set_in_a_row_tells_of_the_other_sets():
    def longest(who: Member) -> float:
        movement = library().find("push-up")
        one = athletes([who], library())
        return in_a_row(movement, constants()) * float(stamina(movement, one, constants())[0])

    few, many = (longest(member(longest={"pull-up": n})) for n in (1, 20))
    assert few < longest(member()) < many


def test_a_wild_number_stays_within_what_can_be():
    strong = usual("deadlift", member(bests={"back squat": 5000}))
    assert strong <= math.e * usual("deadlift", member()) + 1e-6


def asked(board: str, who: Member) -> list[tuple[str, str]]:
    tasks = tasks_of(piece(board))
    return [(one.movement, one.of) for one in questions(tasks, who, library())]


def test_someone_new_is_asked_a_few_numbers_once():
    new = member(pace=None)
    assert asked(AMRAP, new) == [("pull-up", "reps")]
    assert asked("## Strength: 5 sets\n5 back squat @ 75%", new) == [("back squat", "best")]
    known = member(pace=None, longest={"pull-up": 4}, bests={"back squat": 90})
    assert asked(AMRAP, known) == []
    # A lift of the same pattern answers as well.
    assert asked("## Strength: 5 sets\n5 front squat @ 75%", known) == []


def test_whose_scores_are_known_is_not_asked():
    assert asked(AMRAP, member()) == []


def test_never_more_than_three_questions():
    lines = ["back squat @ 75%", "deadlift @ 75%", "strict press @ 75%", "pull-up", "ring dip"]
    board = "## Conditioning: 3 rounds\n" + "\n".join(f"5 {line}" for line in lines)
    assert len(asked(board, member(pace=None))) == 3
