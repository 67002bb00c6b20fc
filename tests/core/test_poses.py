"""Figures: the body's measures, what every motion keeps, and the standards as geometry."""

from __future__ import annotations

from importlib import resources
from itertools import pairwise
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st
from reportlab.lib.units import mm

from pine_ladder.core.movements import Library, Movement, OwnMovement
from pine_ladder.core.notation import parse
from pine_ladder.core.poses import Cycle, body, cycle, figure_of, names
from pine_ladder.core.poses.drawing import (
    HEAD_CM,
    draw_fault,
    faulty,
    pose_svg,
    sheet_svg,
    strip_svg,
)
from pine_ladder.core.poses.key_poses import Pose, solve
from pine_ladder.core.poses.library import OTHER_SIDE, StepSaid, turning
from pine_ladder.core.poses.motion import eased
from pine_ladder.core.poses.standards import STANDARDS, motion_faults, standards
from pine_ladder.files.printed_figures import HEIGHT, strip_scale

ALL = names()

# Drillis and Contini (1966) as told by Winter, Biomechanics and Motor Control of Human Movement,
# figure 4.1; fractions of stature, from memory.
HEIGHTS = {"ankle": 0.039, "knee": 0.285, "hip": 0.530, "shoulder": 0.818}
LENGTHS = {"upper_arm": 0.186, "forearm": 0.146, "hand": 0.108, "foot": 0.152}
BREADTHS = {"hip": 0.191, "shoulder": 0.259}


def told(name: str, movements: Library, tempo: str | None = None, stature: float = 1.75) -> Cycle:
    found = cycle(name, movements, tempo, stature)
    assert found is not None
    return found


def at_key(found: Cycle, key: str) -> dict[str, complex]:
    frame = next(each for each in found.frames if each.key == key)
    return {name: complex(*point) for name, point in frame.joints.items()}


def test_the_body_has_the_published_fractions_of_stature():
    assert {k: body.HEIGHTS[k] for k in HEIGHTS} == HEIGHTS
    assert body.LENGTHS == LENGTHS
    assert body.BREADTHS == BREADTHS
    # What lies between two heights is a segment: 0.245 thigh, 0.246 shank, 0.288 trunk.
    measured = [round(part / body.STATURE_M, 3) for part in (body.THIGH, body.SHANK, body.TRUNK)]
    assert measured == [0.245, 0.246, 0.288]


def test_the_masses_of_the_segments_make_a_whole_body():
    # Winter's table 4.1, from memory: head, arms and trunk are 0.678 of the body.
    limbs = body.LIMB_MASSES
    whole = sum(body.MASSES.values()) + 2 * sum(limbs.values())
    assert whole == pytest.approx(1)
    arms = 2 * (limbs["upper_arm"] + limbs["forearm"] + limbs["hand"])
    assert sum(body.MASSES.values()) + arms == pytest.approx(0.678)


def test_standing_upright_every_joint_is_at_its_height():
    at = solve("side", Pose()).joints
    for joint, fraction in HEIGHTS.items():
        assert at[f"{joint}_left"].imag == pytest.approx(fraction * body.STATURE_M)
    assert at["toe_right"].imag == pytest.approx(0)


@pytest.mark.parametrize("name", ALL)
def test_every_motion_keeps_lengths_limits_contacts_the_floor_and_its_end(
    name: str, movements: Library
):
    figure, movement = figure_of(name), movements.find(name)
    assert figure is not None and movement is not None and movement.name == name
    assert motion_faults(figure, figure.moves(movement)) == []
    assert [each for each in standards(figure) if not each.holds] == []


@pytest.mark.parametrize("stature", [1.45, 1.75, 2.05])
def test_the_told_joints_are_as_far_apart_as_the_segments_are_long(
    stature: float, movements: Library
):
    links = {("hip", "knee"): 0.245, ("knee", "ankle"): 0.246, ("shoulder", "elbow"): 0.186}
    links |= {("elbow", "wrist"): 0.146}
    for name in ALL[::9]:
        for frame in told(name, movements, stature=stature).frames:
            at = {key: complex(*point) for key, point in frame.joints.items()}
            for (one, other), fraction in links.items():
                for side in ("left", "right"):
                    length = abs(at[f"{one}_{side}"] - at[f"{other}_{side}"])
                    assert length == pytest.approx(fraction * stature, abs=0.0004)


def test_a_cycle_is_told_in_order_and_ends_where_it_began(movements: Library):
    for name in ALL:
        found = told(name, movements)
        times = [frame.t_s for frame in found.frames]
        assert len(times) >= 24
        assert times[0] == 0 and times[-1] == found.cycle_s
        assert all(a < b for a, b in pairwise(times))
        assert found.frames[0].joints == found.frames[-1].joints
        figure = figure_of(name)
        assert figure is not None
        keys = {frame.key for frame in found.frames if frame.key}
        assert {figure.first, *(step.key for step in figure.cycle)} <= keys


def test_every_rung_of_every_ladder_and_the_demo_s_boards_are_drawn(movements: Library):
    assert len(ALL) >= 220
    assert [rung for each in movements.ladders for rung in each.rungs if rung not in ALL] == []
    folder = resources.files("pine_ladder.demo") / "boards"
    files = [*folder.iterdir(), *(folder / "club").iterdir()]
    texts = [each.read_text("utf-8") for each in files if each.name.endswith(".board")]
    asked = {
        found.name
        for text in texts
        for piece in parse(text).session.pieces
        for line in piece.lines
        for task in line.tasks
        for version in task.versions
        for part in (version, *version.parts)
        if (found := movements.find(part.movement)) is not None
    }
    assert len(asked) > 60
    assert asked - set(ALL) == set()


@pytest.mark.parametrize(
    "name",
    ["air squat", "front squat", "back squat", "overhead squat", "thruster", "wall ball"],
)
def test_at_the_bottom_of_a_squat_the_hip_crease_is_below_the_top_of_the_knee(
    name: str, movements: Library
):
    at = at_key(told(name, movements), "bottom")
    assert at["hip_right"].imag < at["knee_right"].imag


def test_a_finished_deadlift_is_straight_with_the_bar_over_the_foot(movements: Library):
    found = told("deadlift", movements)
    at = at_key(found, "finish")
    one, other = at["shoulder_right"] - at["hip_right"], at["hip_right"] - at["knee_right"]
    assert abs((one / other).imag / (one / other).real) < 0.21
    bar = next(frame for frame in found.frames if frame.key == "finish").objects[0]
    assert bar.kind == "bar"
    middle = at["toe_right"].real - 0.152 * 1.75 / 2
    assert abs(bar.at[0] - middle) < 0.06


def test_feet_that_carry_do_not_slide_and_hands_stay_on_the_bar(movements: Library):
    squat = told("front squat", movements)
    toes = {frame.joints["toe_left"] for frame in squat.frames}
    assert len(toes) == 1
    hang = told("strict pull-up", movements)
    figure = figure_of("strict pull-up")
    assert figure is not None
    for frame in hang.frames:
        wrist = complex(*frame.joints["wrist_right"])
        assert abs(abs(wrist - complex(*figure.scene[0].at)) - body.PALM) < 0.001


def test_a_tempo_moves_the_figure_at_that_tempo(movements: Library):
    found = told("back squat", movements, "42X1")
    times = {key: [f.t_s for f in found.frames if f.key == key] for key in ("bottom", "standing")}
    # Four seconds down, two below, up as fast as possible, one above.
    assert times["bottom"] == pytest.approx([4, 6])
    assert times["standing"] == pytest.approx([0, 6.5, 7.5])
    assert told("back squat", movements).cycle_s < 4


def test_sides_take_turns_alike(movements: Library):
    for name in ("lunge", "pistol squat", "lateral lunge", "mountain climber"):
        found = told(name, movements)
        figure = figure_of(name)
        assert figure is not None
        sign = -1 if found.view == "front" else 1
        for step in figure.cycle:
            if step.key == figure.first:
                continue
            one, other = (at_key(found, step.key), at_key(found, f"{step.key}{OTHER_SIDE}"))
            for joint, point in one.items():
                swapped = joint.replace("left", "x").replace("right", "left").replace("x", "right")
                mirrored = complex(sign * point.real, point.imag)
                assert abs(other[swapped] - mirrored) < 0.001


@given(
    st.floats(0.2, 0.99),
    st.floats(-140, 140),
    st.sampled_from(["side", "front"]),
    st.sampled_from(["l", "r"]),
    st.floats(-30, 80),
)
def test_a_leg_reaches_whatever_is_within_its_length(share, towards, view, side, pitch):
    hip = 1.0j
    ankle = hip + body.heading(towards) * share * (body.THIGH + body.SHANK)
    toe = ankle + body.toe_of(view, side, pitch)
    half = body.outward(view, side) * body.HALF_HIP if view == "front" else 0
    angles = dict.fromkeys(solve(view, Pose()).angles, 0.0)
    angles |= body.leg_to(view, side, hip + half, 0.0, toe + half, pitch)
    at = body.forward(view, hip, angles)
    assert abs(at[f"toe_{body.NAMES[side]}"] - toe - half) < 1e-9
    assert 0 <= angles[f"knee_{side}"] <= 180


@given(st.sampled_from(["smooth", "even", "up", "down"]), st.floats(0, 1), st.floats(0, 1))
def test_a_step_never_turns_back_on_its_way(way, one, other):
    assert eased(way, 0) == pytest.approx(0) and eased(way, 1) == pytest.approx(1)
    early, late = sorted((one, other))
    assert eased(way, early) <= eased(way, late) + 1e-12


def test_what_falls_short_of_its_standard_is_told():
    figure = figure_of("air squat")
    assert figure is not None
    shallow = figure.pose["bottom"].model_copy(update={"thigh": 70.0})
    short = figure.model_copy(update={"pose": figure.pose | {"bottom": shallow}})
    failed = [each for each in standards(short) if not each.holds]
    assert [(each.pose, each.what) for each in failed] == [("bottom", "hip below knee")]
    assert failed[0].value < 0


def test_what_a_motion_does_not_keep_is_told(movements: Library):
    figure, squat = figure_of("air squat"), movements.find("air squat")
    assert figure is not None and squat is not None
    for change, said in (
        ({"shin": 75.0}, "beyond its limit"),
        ({"at": (0.0, -0.1)}, "under the floor"),
    ):
        bent = figure.pose["bottom"].model_copy(update=change)
        other = figure.model_copy(update={"pose": figure.pose | {"bottom": bent}})
        assert said in " ".join(motion_faults(other, other.moves(squat)))
    far = figure.pose["bottom"].model_copy(update={"palm": (3.0, 0.0)})
    other = figure.model_copy(update={"pose": figure.pose | {"bottom": far}})
    assert "a contact moves" in " ".join(motion_faults(other, other.moves(squat)))


def test_sixty_movements_show_a_fault_that_differs_where_it_is_marked():
    faults = 0
    for name in ALL:
        figure = figure_of(name)
        assert figure is not None
        for fault in figure.fault:
            right = solve(figure.view, figure.pose[fault.pose], figure.load)
            wrong = faulty(figure, fault)
            moved = {key: abs(wrong.joints[key] - right.joints[key]) for key in right.joints}
            assert max(moved.values()) > 0.05, (name, fault.word)
            # The joint is elsewhere, or bends otherwise where it is.
            joint = fault.mark.replace("_left", "_l").replace("_right", "_r")
            bent = abs(wrong.angles.get(joint, 0.0) - right.angles.get(joint, 0.0))
            assert moved[fault.mark] > 0.015 or bent > 20, (name, fault.word)
            assert fault.word in draw_fault(figure, fault).elements
        faults += bool(figure.fault)
    assert faults >= 60


def test_a_fault_breaks_the_standard_it_is_about():
    for name, word, what in (
        ("air squat", "not deep enough", "hip below knee"),
        ("push-up", "chest stays high", "chest down"),
        ("pull-up", "chin below the bar", "chin over bar"),
        ("strict press", "soft lockout", "elbows straight"),
        ("box jump", "hips not open", "hips open"),
        ("lunge", "knee stays high", "knee down"),
    ):
        figure = figure_of(name)
        assert figure is not None
        fault = next(each for each in figure.fault if each.word == word)
        standard = STANDARDS[what]
        right = standard.of(solve(figure.view, figure.pose[fault.pose], figure.load), figure)
        wrong = standard.of(faulty(figure, fault), figure)
        assert standard.low <= right <= standard.high
        assert not standard.low <= wrong <= standard.high


def test_a_movement_is_told_at_a_look_by_the_pose_furthest_from_its_first(movements: Library):
    for name, key in (
        ("push press", "overhead"),
        ("burpee", "on the floor"),
        ("box jump", "tall"),
        ("air squat", "bottom"),
    ):
        assert told(name, movements).turning == key


def test_one_of_the_gym_s_own_movements_has_the_figure_of_what_it_is_much_like(movements: Library):
    squat = movements.find("goblet squat")
    assert squat is not None
    own = squat.model_copy(update={"name": "harbour squat", "aliases": ()})
    plain = movements.with_own([OwnMovement(movement=own)])
    assert cycle("harbour squat", plain) is None
    like = Movement.model_validate(own.model_dump() | {"looks_like": "goblet squat"})
    found = cycle("harbour squat", movements.with_own([OwnMovement(movement=like)]))
    assert found is not None
    assert (found.movement, found.frames) == (
        "harbour squat",
        told("goblet squat", movements).frames,
    )


@pytest.mark.parametrize(
    ("said", "step"),
    [
        ("bottom .5 lower", ("bottom", 0.5, "smooth", 0, 0.0)),
        ("in the air .2 up over .3", ("in the air", 0.2, "up", None, 0.3)),
        ("standing .5", ("standing", 0.5, "smooth", None, 0.0)),
    ],
)
def test_a_step_is_read_from_a_few_words(said: str, step: tuple):
    read = StepSaid.read(said)
    assert (read.key, read.share, read.way, read.tempo, read.over) == step


def test_a_step_without_its_share_of_time_is_refused():
    with pytest.raises(ValueError, match="tells no share"):
        StepSaid.read("bottom lower")


def test_pictures_are_sound_and_name_what_they_show():
    figure = figure_of("devil's press")
    assert figure is not None
    for picture in (
        pose_svg(figure, "overhead"),
        strip_svg(figure, faults=True),
        sheet_svg([figure, figure]),
    ):
        root = ElementTree.fromstring(picture)
        assert root.tag.endswith("svg")
        assert "nan" not in picture and "inf" not in picture
    strip = strip_svg(figure, faults=True)
    assert all(key in strip for key in ("hands down", "overhead", "soft lockout"))
    assert 'aria-label="devil&#x27;s press"' in strip


@pytest.mark.parametrize("name", ALL)
def test_no_pose_is_higher_than_the_room_a_strip_gives_it(name):
    """Strips on paper are so high for all: head and hands fit in."""
    figure = figure_of(name)
    assert figure is not None
    for key in dict.fromkeys((figure.first, turning(figure))):
        at = solve(figure.view, figure.pose[key], figure.load)
        top = max(joint.imag for joint in at.joints.values())
        top = max(top, at.joints["head"].imag + HEAD_CM / 100)
        assert top * strip_scale(figure) <= HEIGHT - 5 * mm + 1e-6, (key, top)
