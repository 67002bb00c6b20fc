"""Scaling: the right version for each athlete, with a reason, and never over a limit."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Limit, Member, Profile, Rack, at_home
from pine_ladder.core.athletes.scaling import Version, read_override, recommend
from pine_ladder.core.athletes.scaling_sheet import scaling_sheet, tasks_of
from pine_ladder.core.movements import library
from pine_ladder.core.movements.library import LIMITS, stresses
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.tokens import Slip

RACK = Rack(
    kit={
        "dumbbell 10 kg": 8,
        "dumbbell 15 kg": 10,
        "kettlebell 16 kg": 10,
        "barbell": 10,
        "box": 8,
    },
    plates={20: 4, 15: 4, 10: 8, 5: 8, 2.5: 8, 1.25: 4},
)


def who(tier: int = 0, track: int = 0, overrides: dict[str, str] | None = None, **known: object):
    profile = Profile.model_validate(known)
    return Member(
        id=1, name="Ada Quill", tier=tier, track=track, profile=profile, overrides=overrides or {}
    )


def version(line: str, member: Member, **more: object) -> Version:
    piece = parse(f"## Conditioning: AMRAP 9:00\n{line}").session.pieces[0]
    return recommend(tasks_of(piece)[0], member, library(), RACK, **more)


def test_the_tiers_version_stands_where_nothing_speaks_against_it():
    same = version("10 burpee | 8 burpee", who(tier=1))
    assert (same.text, same.own, same.reason) == ("8 burpee", False, "")


def test_a_shoulder_limit_takes_the_overhead_out_and_says_so():
    limits = [{"limit": "shoulder"}]
    own = version("10 push press @ 40/30 kg", who(limits=limits))
    assert own.movement == "floor press"
    assert own.reason == "shoulder noted: floor press instead of push press"


def test_where_no_version_is_known_the_coach_is_to_be_asked():
    every = [{"limit": limit} for limit in LIMITS]
    own = version("10 double-under", who(limits=every))
    assert own.agree
    assert "agree a version with the coach" in own.reason


def test_an_athletes_rung_comes_before_the_board():
    own = version("8 pull-up", who(rungs={"Pull-up": "band pull-up"}))
    assert (own.text, own.reason) == (
        "8 band pull-up",
        "stands on band pull-up of the pull-up ladder",
    )
    # A rung above the written one is no reason to make it harder.
    assert not version("8 pull-up", who(rungs={"Pull-up": "chest-to-bar pull-up"})).own


def test_too_few_in_a_row_go_down_a_rung_and_eight_are_enough():
    """Common practice, no source: eight not possible in a row, down a rung."""
    own = version("12 push-up", who(longest={"push-up": 5}))
    assert own.movement == "knee push-up"
    assert "5 push-up in a row so far" in own.reason
    assert not version("12 push-up", who(longest={"push-up": 8})).own
    lower = version("12 push-up", who(longest={"push-up": 5, "knee push-up": 6}))
    assert lower.movement == "incline push-up"


def test_a_load_near_the_best_is_lowered_to_what_goes_unbroken_and_to_the_plates():
    own = version("10 push press @ 60/40 kg", who(bests={"push press": 70}))
    assert own.text == "10 push press @ 45 kg"
    assert own.loading == "20 kg bar, 10 + 2.5 a side"
    assert "86% of a best of 70" in own.reason
    assert not version("10 push press @ 40 kg", who(bests={"push press": 90})).own


def test_percentages_become_plates():
    own = version("5 front squat @ 70%", who(bests={"front squat": 100}))
    assert own.loading == "20 kg bar, 20 + 5 a side (70 %)"
    assert "of a usual best" in version("5 front squat @ 70%", who()).loading


def test_a_slower_tempo_means_a_lighter_bar_and_that_is_said():
    """Common practice, no source."""
    plain = version("5 front squat @ 80%", who(bests={"front squat": 100}))
    slow = version("5 front squat, tempo 52X1 @ 80%", who(bests={"front squat": 100}))
    assert (plain.reason, plain.own) == ("", False)
    assert slow.reason == "tempo 52X1 makes 5 last 0:42: a lighter bar, 67 % rather than 80 %"
    assert slow.exercise.load == plan.Percent(low=67)
    # A quick tempo, or a load that is light enough, stands.
    assert version("5 front squat, tempo 10X0 @ 80%", who(bests={"front squat": 100})).reason == ""
    assert version("5 front squat, tempo 52X1 @ 60%", who(bests={"front squat": 100})).reason == ""


def test_a_weight_for_reps_at_a_tempo_is_held_against_the_best_as_well():
    heavy = version("8 front squat, tempo 40X0 @ 65 kg", who(bests={"front squat": 100}))
    assert heavy.reason.endswith("lighter, so that 8 go without a break at tempo 40X0")
    assert version("8 front squat @ 65 kg", who(bests={"front squat": 100})).reason == ""


def test_a_dumbbell_the_gym_lacks_becomes_the_next_lighter_one():
    own = version("10 dumbbell snatch, alternating @ 12.5 kg", who())
    assert own.text == "10 dumbbell snatch, alternating @ 10 kg"
    assert own.reason == "the gym has no 12.5 kg: 10 is nearest below"


def test_without_a_bell_a_pack_of_water_does():
    own = version("10 kettlebell swing @ 16 kg", who())
    assert own.loading == "16 kg kettlebell"
    piece = parse("## Conditioning: AMRAP 9:00\n10 kettlebell swing @ 16 kg").session.pieces[0]
    bare = recommend(tasks_of(piece)[0], who(), library(), Rack(kit={}, plates={}))
    assert bare.loading == "a pack with 16 litres of water"


@pytest.mark.parametrize(("school", "singles"), [("three to one", 90), ("two to one", 60)])
def test_singles_for_doubles_count_by_the_gyms_school(school: str, singles: int):
    """Common practice, no source: three singles to a double, some gyms two."""
    member = who(longest={"double-under": 3})
    own = version("30 double-under", member, schools={"double-under": school})
    assert own.text == f"{singles} single-under"


def test_one_dumbbell_for_a_barbell_counts_by_the_gyms_school_where_there_is_no_bar():
    home = Rack(kit={"dumbbell 15 kg": 1}, plates={}, complete=True)
    piece = parse("## Conditioning: AMRAP 9:00\n10 push press @ 40 kg").session.pieces[0]
    reps = {
        school: recommend(
            tasks_of(piece)[0], who(), library(), home, {"push press": school}
        ).text.split()[0]
        for school in ("full reps each arm", "split between arms")
    }
    assert reps == {"full reps each arm": "20", "split between arms": "10"}


def test_a_rung_that_a_limit_speaks_against_is_not_stepped_down_to():
    member = who(rungs={"Pull-up": "dead hang"}, limits=[{"limit": "shoulder"}])
    own = version("8 lying leg raise", member)
    assert own.movement == "lying leg raise"
    assert version("8 pull-up", member).movement != "dead hang"


def test_an_ankle_steps_where_the_board_jumps():
    own = version("20 box jump @ 60 cm", who(limits=[{"limit": "ankle"}]))
    assert own.movement == "box step-up"


def test_an_override_stands_over_everything_and_keeps_the_amount():
    member = who(limits=[{"limit": "shoulder"}], overrides={"push press": "strict press @ 20 kg"})
    own = version("10 push press @ 40 kg | 8 push press @ 30 kg", member)
    assert (own.text, own.overridden) == ("10 strict press @ 20 kg", True)
    assert own.reason == "set by the coach, knowing of the shoulder"


@pytest.mark.parametrize("text", ["zorbing", "5 dip + 5 burpee", "5 dip | 3 dip", "@@"])
def test_an_override_is_one_version_of_a_known_movement(text: str):
    with pytest.raises(Slip):
        read_override(text, library())


@given(pieces(), st.integers(0, 2), st.integers(0, 1), st.sets(st.sampled_from(LIMITS), min_size=1))
def test_no_recommendation_goes_over_a_limit_or_up_a_ladder(piece: plan.Piece, tier, track, limits):
    member = who(tier, track, limits=[Limit(limit=limit) for limit in limits])
    for task in tasks_of(piece):
        own = recommend(task, member, library(), RACK)
        for part, done in zip(
            task.version(tier).parts or (task.version(tier),),
            own.exercise.parts or (own.exercise,),
            strict=True,
        ):
            if any(stresses(limit, done.movement) for limit in limits):
                assert own.agree
                assert own.reason
            ladder = library().ladder_of(part.movement)
            if ladder and done.movement in ladder.rungs:
                rungs = ladder.rungs
                stepped = rungs.index(done.movement) <= rungs.index(part.movement)
                swapped = any(
                    swap.instead == done.movement for swap in library().swaps_for(part.movement)
                )
                assert stepped or swapped


def test_the_sheet_shows_every_athlete_and_the_kit_that_clashes():
    text = "## Conditioning: AMRAP 9:00\n10 box jump @ 60/50 cm | 10 box step-up\n10 push-up"
    piece = parse(text).session.pieces[0]
    members = [
        Member(id=n, name=f"Member {n}", tier=n % 2, track=0, profile=Profile(
            limits=(Limit(limit="ankle"),) if n == 3 else ()))
        for n in range(12)
    ]  # fmt: skip
    sheet = scaling_sheet(piece, members, library(), RACK)
    assert sheet.lines == ("10 box jump @ 60/50 cm", "10 push-up")
    assert sheet.rows[3].versions[0].movement == "box step-up"
    assert all("rounds" in row.predicted for row in sheet.rows)
    (boxes,) = sheet.kit
    assert (boxes.kit, boxes.needed, boxes.owned, boxes.heats) == ("box", 12, 8, 2)
    assert boxes.heats_add_s == 9 * 60


AT_HOME = [
    # Common sense, no source: what a coach would say to somebody with that much at home.
    ((), "10 thruster @ 40/30 kg", "10 air squat"),
    ((), "10 pull-up", "10 pull-up"),
    ((), "12 kettlebell swing @ 24/16 kg", "12 kettlebell swing @ 24 kg"),
    ((), "400 m run", "400 m run"),
    ((), "15 cal row", "15 cal run"),
    (("dumbbell",), "10 thruster @ 40/30 kg", "10 dumbbell thruster"),
    (("dumbbell",), "10 deadlift @ 100/70 kg", "10 dumbbell deadlift"),
    (("dumbbell",), "10 pull-up", "10 renegade row"),
    (("rope",), "20 double-under", "20 double-under"),
    (("box",), "8 ring dip", "8 box dip"),
    (("pull-up bar",), "10 pull-up or 10 towel row", "10 pull-up or 10 towel row"),
]


@pytest.mark.parametrize(("kit", "line", "text"), AT_HOME)
def test_at_home_what_is_there_stands_in_for_what_is_not(kit, line, text):
    profile = Profile(home_kit=kit)
    member = Member(id=1, name="Ada Quill", tier=0, track=0, profile=profile)
    (task,) = tasks_of(parse(f"## Conditioning: AMRAP 9:00\n{line}").session.pieces[0])
    own = recommend(task, member, library(), at_home(profile))
    assert own.text == text
    assert own.agree == (kit == () and "pull-up" in line)
