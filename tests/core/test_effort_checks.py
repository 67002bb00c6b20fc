"""Checks of what a load, a rest, a purpose and a day ask for: told, put right, or meant."""

from __future__ import annotations

import pytest

from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check, foresee
from pine_ladder.core.checks.load import percent_for, reps_left
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.pace.day import Loss, losses, words_of_loss
from pine_ladder.core.pace.testrun import test_run
from pine_ladder.core.tiers import DEFAULT_TIERS


def found(text: str) -> list[plan.Finding]:
    session, ground = parse(text).session, Ground(library())
    runs = [test_run(piece, ground.library, 3, 40) for piece in session.pieces]
    return [*check(session, ground), *foresee(session, runs, ground, DEFAULT_TIERS)]


GRIP = "## Conditioning: 5 rounds for time\n15 pull-up\n15 deadlift @ 60/40 kg\n\n"
TOLD = [
    ("## Strength: 5 sets, rest 3:00\n10 back squat @ 95%", "reps-percent"),
    ("## Strength: 5 sets, rest 1:00\n3 back squat @ 85%", "short-rest"),
    ("theme: deload\n\n## Strength: 3 sets, rest 2:00\n3 back squat @ 85%", "deload-load"),
    ("## Power: 5 sets, rest 2:00, for: power\n10 box jump", "power-reps"),
    ("## Power: 5 sets, rest 0:20, for: power\n5 box jump", "power-set-rest"),
    ("## Conditioning: 3 rounds for time, cap 3:00\n30 burpee\n30 sit-up", "cap"),
    ("## Conditioning: for time, cap 30:00\n20 air squat", "cap"),
    (f"{GRIP}## Power: 5 sets, rest 2:00\n2 power snatch @ 80%", "tired-lift"),
    ("## Conditioning: 5 rounds for time\n100 m row\n10 s sprint", "sprint-rest"),
    ("## Conditioning: AMRAP 20:00, for: easy engine\n10 burpee", "easy-engine"),
    (
        "## Warm-up: 5 rounds\n15 push-up\n20 air squat\n\n"
        "## Strength: 5 sets, rest 2:00\n5 bench press @ 80%",
        "tiring-warm-up",
    ),
    ("## Conditioning: 3 rounds for time, target 2:00-3:00\n30 burpee", "doubtful-reading"),
    (
        "\n\n".join(["## Strength: 3 sets, rest 1:00\n10 push-up"] * 5),
        "same-region",
    ),
]
FINE = [
    "## Strength: 5 sets, rest 3:00\n3 back squat @ 85%",
    "## Power: 5 sets, rest 2:00, for: power\n3 box jump",
    "## Conditioning: continuous 20:00, pace steady, for: easy engine\n20:00 easy row",
    "## Conditioning: 3 rounds for time, cap 12:00\n15 burpee\n20 sit-up",
    "theme: deload\n\n## Strength: 3 sets, rest 2:00\n5 back squat @ 60%",
    "## Power: 5 sets, rest 2:00\n2 power snatch @ 80%\n\n" + GRIP,
    "## Conditioning: 3 rounds for time, target 6:00-9:00\n30 burpee",
]
CODES = {code for _, code in TOLD}


@pytest.mark.parametrize(("text", "code"), TOLD)
def test_it_is_told_and_one_press_puts_it_right(text: str, code: str):
    (first, *_) = [one for one in found(text) if one.code == code]
    if first.repairs:
        after = apply(text, first.repairs[0].edits)
        assert parse(after).findings == ()
        left = [one for one in found(after) if one.code == code and one.line == first.line]
        assert code == "tiring-warm-up" or not left


@pytest.mark.parametrize(("text", "code"), TOLD)
def test_what_is_meant_is_not_told_again(text: str, code: str):
    (first, *_) = [one for one in found(text) if one.code == code]
    assert first.meant is not None
    after = apply(text, first.meant.edits)
    assert not [one for one in found(after) if one.code == code and one.line == first.line]
    assert {one.code for one in found(after)} >= {one.code for one in found(text)} - {code}


@pytest.mark.parametrize("text", FINE)
def test_usual_days_are_left_alone(text: str):
    assert not [one for one in found(text) if one.code in CODES]


def test_reps_at_a_percentage_are_those_of_the_published_table():
    """NSCA, Essentials of Strength Training and Conditioning, from memory: within two reps."""
    for reps, percent in ((2, 95), (4, 90), (6, 85), (8, 80), (10, 75)):
        assert abs(reps_left(percent) - reps) <= 2
        assert abs(percent_for(reps) - percent) <= 5


def test_a_day_tires_by_the_muscles_it_uses():
    """The same piece after its own muscles, after others, and after a long rest."""
    work = "## Conditioning: AMRAP 8:00\n10 pull-up\n10 air squat"
    same, other, rested = (
        losses(parse(f"{before}\n\n{work}").session, library())[-1]
        for before in (
            "## Conditioning: for time\n60 pull-up",
            "## Conditioning: for time\n60 sit-up",
            "## Conditioning: for time\n60 pull-up\n\n## Rest: 40:00",
        )
    )
    assert same.whole > 1.1
    assert same.first_round > 1.1
    assert 0.98 <= other.whole < 1.05
    assert 0.98 <= rested.whole < 1.05


@pytest.mark.parametrize("times", [1, 3])
def test_nothing_before_a_piece_costs_nothing(times: int):
    alone = losses(parse("## Conditioning: AMRAP 8:00\n10 burpee").session, library())
    assert [one.whole for one in alone] == [1.0]
    rests = "\n\n".join(["## Rest: 5:00"] * times)
    after = losses(parse(f"{rests}\n\n## Conditioning: AMRAP 8:00\n10 burpee").session, library())
    assert after[-1].whole == pytest.approx(1.0)


def test_what_the_day_costs_a_piece_is_told_from_three_percent_on():
    race, laps = parse(
        "## Conditioning: 3 rounds for time\n10 burpee\n\n## Conditioning: AMRAP 8:00\n10 burpee"
    ).session.pieces
    assert words_of_loss(Loss(whole=1.02, first_round=1.0), race) == ""
    words = words_of_loss(Loss(whole=1.06, first_round=1.04), race)
    assert words == "Tired from the pieces before it: about 6 % slower than fresh."
    words = words_of_loss(Loss(whole=0.99, first_round=1.07), laps)
    assert "0 % fewer reps than fresh, the first round 7 %" in words


def test_a_piece_is_tired_from_its_own_muscles_before_it_and_fresh_where_it_comes_first():
    squats = "## Strength: 5 sets, rest 1:00\n10 back squat @ 75%"
    race = "## Conditioning: 5 rounds for time\n20 air squat"
    second, first = (
        parse(f"{one}\n\n{other}").session for one, other in ((squats, race), (race, squats))
    )
    assert words_of_loss(losses(second, library())[1], second.pieces[1])
    assert words_of_loss(losses(first, library())[0], first.pieces[0]) == ""
