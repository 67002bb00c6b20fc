"""What a coach may choose instead: nothing the gym cannot load, nothing that a limit forbids."""

from __future__ import annotations

from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core.athletes.alternatives import Choices, choices
from pine_ladder.core.athletes.members import Member, Profile, Rack
from pine_ladder.core.athletes.scaling import read_override, recommend
from pine_ladder.core.athletes.scaling_sheet import tasks_of
from pine_ladder.core.movements import library
from pine_ladder.core.movements.library import LIMITS, stresses
from pine_ladder.core.notation import parse

RACK = Rack(
    kit={"kettlebell 12 kg": 4, "kettlebell 16 kg": 4, "kettlebell 24 kg": 4, "barbell": 6},
    plates={20: 4, 10: 8, 5: 8, 2.5: 8},
)


def who(tier: int = 0, **known: object) -> Member:
    profile = Profile.model_validate(known)
    return Member(id=1, name="Ada Quill", tier=tier, track=0, profile=profile)


def offered(line: str, member: Member, rack: Rack = RACK) -> Choices:
    piece = parse(f"## Conditioning: AMRAP 9:00\n{line}").session.pieces[0]
    return choices(tasks_of(piece)[0], member, library(), rack)


def test_loads_are_those_the_gyms_plates_make_around_the_recommended_one():
    found = offered("5 push press @ 45/30 kg", who())
    assert [one.text.split("@ ")[1] for one in found.loads] == [
        "25 kg",
        "30 kg",
        "35 kg",
        "40 kg",
        "45 kg",
        "50 kg",
        "55 kg",
        "60 kg",
        "65 kg",
    ]
    assert found.loads[found.at].text == "5 push press @ 45 kg"
    assert found.loads[0].loading == "20 kg bar, 2.5 a side"


def test_a_rack_of_bells_offers_its_sizes_and_keeps_how_many_are_held():
    found = offered("10 kettlebell swing @ 16 kg", who())
    assert [one.text for one in found.loads] == [
        "10 kettlebell swing @ 12 kg",
        "10 kettlebell swing @ 16 kg",
        "10 kettlebell swing @ 24 kg",
    ]
    assert found.at == 1
    pair = offered("10 farmer carry @ 2 x 16 kg", who())
    assert all("2 x " in one.text for one in pair.loads)


def test_a_percentage_becomes_the_loads_around_it_of_the_athletes_own_best():
    found = offered("5 back squat @ 75%", who(bests={"back squat": 100}))
    assert found.loads[found.at].text == "5 back squat @ 75 kg"


def test_rungs_are_offered_from_the_easiest_and_the_harder_one_too():
    found = offered("8 pull-up", who())
    whys = [one.why for one in found.rungs]
    assert whys == ["easier", "easier", "easier", "as the tier", "harder"]
    assert found.rungs[3].text == "8 pull-up"
    ladder = library().ladder_of("pull-up").rungs
    at = ladder.index("pull-up")
    assert [one.movement for one in found.rungs] == list(ladder[at - 3 : at + 2])


def test_the_coachs_own_alternative_comes_before_the_trades():
    found = offered("500 m row or 400 m run", who())
    first = found.swaps[0]
    assert (first.text, first.why) == ("400 m run", "on the board")
    # Running also stands in where there is no rower: it is offered once.
    assert "run" not in [one.movement for one in found.swaps[1:]]


@settings(max_examples=examples(60))
@given(pieces(), st.integers(0, 2), st.sets(st.sampled_from(LIMITS), max_size=3))
def test_whatever_is_offered_can_be_set_and_no_limit_speaks_against_it(piece, tier, limits):
    member = who(tier, limits=[{"limit": limit} for limit in limits])
    for task in tasks_of(piece):
        found = choices(task, member, library(), RACK)
        for one in (*found.rungs, *found.swaps):
            assert not any(stresses(limit, one.movement) for limit in limits)
        for one in (*found.loads, *found.rungs, *found.swaps):
            read_override(one.text, library())
        if found.loads:
            mine = recommend(task, member, library(), RACK)
            assert found.loads[found.at].movement == mine.movement
            texts = [one.text for one in found.loads]
            assert len(set(texts)) == len(texts)


@given(st.sampled_from(["10 pull-up", "10 box jump @ 60 cm", "20 cal row", "10 kettlebell swing"]))
def test_no_swap_needs_kit_that_is_not_there(line):
    """At home with a rucksack, and in a hall with a barbell alone."""
    for rack in (Rack(kit={"backpack": 1}, plates={}), Rack(kit={"barbell": 2}, plates={20: 2})):
        for swap in offered(line, who(), rack).swaps:
            movement = library().find(swap.movement)
            assert movement is not None
            assert all(rack.has(kit) for kit in movement.kit), (line, swap.text)
