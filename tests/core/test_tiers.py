"""Beyond the first tier and the first track: every rule holds for each of them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import barbell
from pine_ladder.core.athletes.members import Member, Profile, Rack
from pine_ladder.core.athletes.scaling import recommend
from pine_ladder.core.athletes.scaling_sheet import tasks_of
from pine_ladder.core.clock import clock
from pine_ladder.core.movements import library
from pine_ladder.core.movements.library import LIMITS, stresses
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.repair import Place, changed, fixed_reps
from pine_ladder.core.scores.kinds import reps_in_all, reps_in_round, reps_of_round
from pine_ladder.core.scores.pacing import comparable
from pine_ladder.core.scores.shorthand import read_score


def piece(heading: str, *lines: str) -> plan.Piece:
    parsed = parse("\n".join([f"## Conditioning: {heading}", *lines]))
    assert not parsed.findings, parsed.findings
    return parsed.session.pieces[0]


AMRAP = piece("AMRAP 12:00", "10 burpee | 8 burpee | 6 burpee", "12/10 cal row | 10/8 cal row")


@pytest.mark.parametrize(
    ("tier", "track", "round_", "display"),
    [
        (0, 0, 22, "5+12"),
        (0, 1, 20, "5+12"),
        (1, 0, 18, "5+12"),
        (1, 1, 16, "5+12"),
        (2, 1, 14, ""),
    ],
)
def test_a_round_counts_by_its_tier_and_its_track(tier, track, round_, display):
    assert reps_in_round(AMRAP, 1, tier, track) == round_
    score = read_score("5+12", AMRAP, tier, track)
    assert score.display == (display or score.display)
    assert score.value["reps"] == 12 and score.value["rounds"] == 5
    # One rep short of a round is still that round; a whole round is the next.
    assert read_score(f"5+{round_ - 1}", AMRAP, tier, track).problems == ()
    whole = read_score(f"5+{round_}", AMRAP, tier, track)
    assert whole.problems or whole.display in {"6+0", "6"}


def test_reps_alone_become_rounds_by_the_athletes_own_round():
    shown = {(t, k): read_score("100 reps", AMRAP, t, k).display for t in (0, 1) for k in (0, 1)}
    assert shown == {(0, 0): "4+12", (0, 1): "5", (1, 0): "5+10", (1, 1): "6+4"}


SIDES = piece("21-15-9 for time", "box step-up, each side", "burpee")


def test_a_scheme_with_sides_counts_both_sides_in_every_round():
    assert [reps_of_round(SIDES, n) for n in (1, 2, 3)] == [21 * 3, 15 * 3, 9 * 3]
    assert reps_in_all(SIDES) == 45 * 3


def test_a_tier_with_a_scheme_of_its_own_counts_its_own():
    own = piece("3 rounds for time", "21-15-9 burpee | 15-12-9 burpee", "10 sit-up")
    assert [reps_of_round(own, n, 1) for n in (1, 2, 3)] == [25, 22, 19]
    assert (reps_in_all(own, 0), reps_in_all(own, 1)) == (75, 66)


def test_rounds_of_a_scaled_athlete_count_by_their_own_reps():
    ladder = piece("3 rounds for time", "21-15-9 burpee | 15-12-9 burpee")
    # Three seconds a rep in the second tier; by the first tier's reps it would look uneven.
    rounds = read_score("1:48 splits 0:45 0:36 0:27", ladder, 1).rounds
    assert rounds is not None
    told = comparable(ladder, rounds, 1)
    assert told is not None and told.numbers == (3.0, 3.0, 3.0)
    other = comparable(ladder, rounds, 0)
    assert other is not None and len(set(other.numbers)) > 1


def test_a_repair_takes_equal_numbers_of_later_tiers_along_and_no_others():
    minute = piece("EMOM 10:00", "16 goblet squat @ 24 kg | @ 16 kg | 12 air squat")
    at = Place(0, 0, 0)
    assert [fixed_reps(changed(minute, 0, {at: 10}), t)[at] for t in range(3)] == [10, 10, 12]
    assert [fixed_reps(changed(minute, 1, {at: 10}), t)[at] for t in range(3)] == [16, 10, 12]
    assert [fixed_reps(changed(minute, 2, {at: 10}), t)[at] for t in range(3)] == [16, 16, 10]


@pytest.mark.parametrize(
    ("teams", "share"),
    [
        ("teams of 2, share", 2),
        ("teams of 3, share", 3),
        ("teams of 2, alternate", 2),
        ("teams of 2, together", 1),
    ],
)
def test_partners_who_share_each_work_their_part(teams, share):
    timed = clock(piece(f"AMRAP 12:00, {teams}", "10 burpee"))
    assert timed.athlete_work_s == 12 * 60 // share


@pytest.mark.parametrize(
    ("entry", "metres"), [("1 mile", 1609.3), ("0.5 mi", 804.7), ("1.5 km", 1500), ("1609", 1609)]
)
def test_a_distance_may_be_told_in_miles(entry, metres):
    """The international mile is 1609.344 m exactly (yard and pound agreement, 1959)."""
    run = piece("continuous 12:00, score distance", "max run")
    assert read_score(entry, run).value["number"] == metres


FEW = Rack(kit={"box": 4}, plates={20: 3, 10: 1, 5: 2})


@pytest.mark.parametrize(
    ("wanted", "made", "side"),
    [(60, 60, (20.0,)), (100, 70, (20.0, 5.0)), (40, 30, (5.0,)), (80, 70, (20.0, 5.0))],
)
def test_a_plate_without_its_twin_stays_on_the_floor(wanted, made, side):
    found = barbell(wanted, FEW.plates)
    assert found is not None and (found.kg, found.per_side) == (made, side)


@given(
    wanted=st.floats(20, 250),
    plates=st.dictionaries(
        st.sampled_from([25.0, 20.0, 15.0, 10.0, 5.0, 2.5, 1.25]), st.integers(0, 9)
    ),
)
def test_no_bar_is_loaded_with_plates_the_gym_has_not(wanted, plates):
    found = barbell(wanted, plates)
    assert found is not None and found.kg <= wanted + 1e-6
    for plate in set(found.per_side):
        assert 2 * found.per_side.count(plate) <= plates[plate]


def _who(**known: object) -> Member:
    profile = Profile.model_validate(known)
    return Member(id=1, name="Ada Quill", tier=0, track=0, profile=profile, overrides={})


LOADED = ("10 push press @ 40 kg", "10 wall ball @ 9 kg", "8 pull-up", "10 box jump @ 60 cm")
RACKS = (
    Rack(kit={}, plates={}, complete=True),
    Rack(kit={"dumbbell 10 kg": 4}, plates={}, complete=True),
    Rack(kit={"barbell": 4, "box": 2}, plates={20: 4}, complete=True),
)


@pytest.mark.parametrize("line", LOADED)
@pytest.mark.parametrize("limit", LIMITS)
@pytest.mark.parametrize("rack", RACKS, ids=("nothing", "dumbbells", "bar and box"))
def test_a_limit_holds_for_what_stands_in_for_missing_kit(line, limit, rack):
    task = tasks_of(piece("AMRAP 9:00", line))[0]
    own = recommend(task, _who(limits=[{"limit": limit}]), library(), rack)
    found = library().find(own.movement)
    assert own.agree or not stresses(limit, own.movement), own
    missing = {kit for kit in found.kit if not rack.has(kit)} if found else set()
    # A bell or dumbbell may be replaced by anything of its weight; nothing else is.
    by_weight = missing <= {"dumbbell", "kettlebell"} and "something of that weight" in own.reason
    assert own.agree or not missing or by_weight, own
