"""The movement library: complete records, ladders that climb, swaps that lead somewhere."""

import pytest

from pine_ladder.core.movements import Library, Movement, OwnMovement
from pine_ladder.core.movements.library import LIMITS, stresses


def test_the_library_is_sound(movements: Library):
    assert len(movements.movements) >= 320
    for movement in movements.movements:
        assert movement.floor_s <= movement.seconds
        assert movement.standard.startswith("Counts")
        assert movement.muscles and len(movement.cues) >= 2 and movement.faults
        plural = "es" if movement.name.endswith(("s", "ch")) else "s"
        assert movements.find(movement.name.upper() + plural) is movement
        if movement.parent:
            assert movements.find(movement.parent) is not None


def test_a_name_cannot_mean_two_movements(movements: Library):
    first = movements.movements[0]
    clash = first.model_copy(update={"name": "other", "aliases": (first.name,)})
    with pytest.raises(ValueError, match="names both"):
        Library([first, Movement.model_validate(clash.model_dump())])


def test_search_forgives_slips(movements: Library):
    assert movements.search("kettlebel swng")[0].name == "kettlebell swing"
    assert movements.nearest("xyzzy") is None


@pytest.mark.parametrize(
    ("typed", "meant"),
    [
        ("ketlebell swing", "kettlebell swing"),
        ("kettle bell swings", "kettlebell swing"),
        ("revers lunge", "reverse lunge"),
        ("trhuster", "thruster"),
        ("swing kettlebel", "kettlebell swing"),
        # A word that the library knows is no slip of another one.
        ("inclined push-up", "incline push-up"),
        ("decline pull-up", None),
        ("dumbbell burpee run", None),
        ("half thruster", None),
        ("underhand thruster", None),
    ],
)
def test_a_slip_is_mended_and_another_movement_never_suggested(movements, typed, meant):
    near = movements.nearest(typed)
    assert (near and near.name) == meant


def test_what_coaches_name_is_known(movements: Library):
    # Common practice, no source.
    for said in (
        "chin-up", "band chin-up", "negative chin-up", "jumping chin-up", "lat pull-down",
        "inverted row", "towel row", "windmill", "sprawl", "half burpee", "strict burpee",
        "prone Y", "lizard stretch", "pigeon stretch", "sumo squat", "cyclist squat",
        "narrow squat", "one-and-a-quarter squat", "pipe overhead squat", "deficit push-up",
        "decline push-up", "plyo push-up", "T push-up", "hindu push-up", "calf raise",
        "trap-bar deadlift", "single-leg deadlift", "muscle clean", "dumbbell row",
        "barbell row", "plank row", "single-arm hold", "suitcase hold", "plank tap", "heel tap",
        "curtsy lunge", "cossack squat", "bear crawl", "backward bear crawl",
        "lateral bear crawl", "crab walk", "side kick", "round kick", "knee strike",
        "rotational jump", "rotational slam", "hop and stick", "kneeling chest pass",
        "weighted sit-up", "dumbbell sit-up", "hollow hold", "hollow rock", "straddle lift",
        "shoulder primer", "thoracic twist", "foam rolling", "rowing", "air bike",
        "burpee to plate", "sots press", "sandbag clean", "stone to shoulder", "depth jump",
        "snatch-grip RDL", "snatch balance", "close-grip bench press", "nordic curl",
        "copenhagen plank", "tire flip", "yoke carry", "partner carry", "log press",
        "triple-under", "skin the cat", "box breathing", "monster walk", "leg press",
    ):  # fmt: skip
        assert movements.find(said) is not None, said


def test_every_ladder_climbs_over_known_movements_once(movements: Library):
    assert len(movements.ladders) >= 30
    seen = [rung for ladder in movements.ladders for rung in ladder.rungs]
    assert len(seen) == len(set(seen)), "a movement stands on one rung of one ladder"
    for ladder in movements.ladders:
        assert ladder.up and ladder.down
        for rung in ladder.rungs:
            movement = movements.find(rung)
            assert movement is not None and movement.name == rung
            assert movements.ladder_of(rung) is ladder


def test_swaps_lead_from_one_known_movement_to_another(movements: Library):
    for swap in movements.swaps:
        for name in (swap.movement, swap.instead):
            movement = movements.find(name)
            assert movement is not None and movement.name == name, name
        assert swap.movement != swap.instead
        assert swap.because in LIMITS or swap.because == "skill" or swap.because.startswith("no ")
    for limit in LIMITS:
        assert any(swap.because == limit for swap in movements.swaps), limit


def test_a_swap_for_missing_kit_does_not_need_that_kit(movements: Library):
    for swap in movements.swaps:
        instead = movements.find(swap.instead)
        assert instead is not None
        if swap.because.startswith("no "):
            assert swap.because.removeprefix("no ") not in instead.kit, swap


def test_what_lands_or_goes_overhead_is_spared_whom_it_would_hurt(movements: Library):
    for movement in movements.movements:
        if movement.landings >= 1:
            for limit in ("knee", "ankle", "pregnancy"):
                assert stresses(limit, movement.name), (limit, movement.name)
        if any("verhead" in caution for caution in movement.cautions):
            assert stresses("shoulder", movement.name), movement.name


def test_a_swap_for_a_shoulder_is_not_overhead(movements: Library):
    for swap in movements.swaps:
        instead = movements.find(swap.instead)
        assert instead is not None
        if swap.because == "shoulder":
            assert not any("Overhead" in caution for caution in instead.cautions), swap


def test_both_schools_are_given_where_the_trade_differs(movements: Library):
    # Common practice, no source: singles for doubles three to one, some gyms two to one; one
    # dumbbell for a barbell in full each arm, or split; a brace tap for a row twice the reps.
    (singles,) = [s for s in movements.swaps_for("double-under") if s.instead == "single-under"]
    assert {school.ratio for school in singles.schools} == {3, 2}
    (thruster,) = [s for s in movements.swaps_for("thruster") if s.because == "no barbell"]
    assert {school.name for school in thruster.schools} == {
        "full reps each arm",
        "split between arms",
    }
    (tap,) = [s for s in movements.swaps_for("renegade row") if s.instead == "brace tap"]
    assert tap.ratio == 2


def own(name: str, **fields: object) -> OwnMovement:
    base = {"name": name, "patterns": ["jump"], "seconds": 2, "floor_s": 1, "demand": 0.5}
    return OwnMovement(movement=Movement.model_validate(base | fields))


def test_a_gym_adds_a_movement_and_puts_it_on_a_rung(movements: Library):
    quay = own("quay hop").model_copy(update={"above": "box jump"})
    gym = movements.with_own([quay])
    assert gym.find("Quay Hops") is quay.movement
    ladder = gym.ladder_of("quay hop")
    assert ladder is not None
    assert ladder.rungs.index("quay hop") == ladder.rungs.index("box jump") + 1
    assert movements.find("quay hop") is None


def test_a_gym_has_its_own_version_of_a_movement(movements: Library):
    slower = own("burpee", seconds=4.5)
    assert movements.with_own([slower]).find("burpee") is slower.movement


def test_a_gym_cannot_take_a_name_twice_or_hang_a_rung_in_the_air(movements: Library):
    with pytest.raises(ValueError, match="KB swing names both"):
        movements.with_own([own("quay hop", aliases=["KB swing"])])
    with pytest.raises(ValueError, match="no rung of a ladder"):
        movements.with_own([own("quay hop").model_copy(update={"above": "pier dive"})])
    with pytest.raises(ValueError, match="cannot be slower"):
        own("quay hop", floor_s=3)
