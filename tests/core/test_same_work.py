"""The same work said in two ways, and harder work: what every prediction must keep.

Over all movements of the library, tiers and tracks; no value is taken from the model.
"""

from __future__ import annotations

from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.movements import Movement, Pattern, library
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.rep_times import constants, in_a_row, sample
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.pace.testrun import tiers_of

CLASS = 24
SHELF = library()
COUNTED = [m for m in SHELF.movements if m.measure == "reps" and m.patterns[0] != "mobility"]
LOADED = [m for m in COUNTED if m.reference_kg]
FREE = [m for m in COUNTED if not m.reference_kg]
FAR = [
    m
    for m in SHELF.movements
    if m.measure == "distance" and not (m.kit and Pattern.ENGINE in m.patterns)
]
"""What goes somewhere; nobody turns round on a machine."""
RUNGS = [
    (low, high)
    for ladder in SHELF.ladders
    for low, high in pairwise(SHELF.find(rung) for rung in ladder.rungs)
    if low and high and low.measure == high.measure == "reps" and low.seconds <= high.seconds * 1.5
    if not (low.reference_kg or high.reference_kg)
]
tiers, tracks = st.integers(0, 2), st.integers(0, 1)


def done(text: str, tier: int = 0, track: int | None = None) -> Run:
    return run(parse(text).session.pieces[0], sample(CLASS, tier, track), SHELF, tier)


def seconds(lines: str, heading: str = "for time", tier: int = 0, track: int | None = None):
    return done(f"## Conditioning: {heading}\n{lines}", tier, track).time_s


def changes(count: int) -> float:
    """Seconds that so many ways to another task may take, breath and all."""
    return count * 1.5 * constants().change_s


@settings(max_examples=examples(60))
@given(st.sampled_from(COUNTED), st.sampled_from(COUNTED), st.integers(1, 8), tiers, tracks)
def test_a_complex_is_its_tasks_without_the_ways_between(
    one: Movement, other: Movement, times: int, tier: int, track: int
):
    whole = seconds(f"{times} [1 {one.name} + 1 {other.name}]", tier=tier, track=track)
    apart = seconds("\n".join([f"1 {one.name}\n1 {other.name}"] * times), tier=tier, track=track)
    # On the way to another task muscles come back, so that a pause may be shorter or not be needed.
    assert (whole <= 1.3 * apart + changes(2 * times)).all()
    assert (apart <= 1.3 * whole + changes(2 * times)).all()


@settings(max_examples=examples(60))
@given(st.sampled_from(COUNTED), st.integers(1, 12), st.integers(2, 5), tiers, tracks)
def test_rounds_are_the_same_written_out(
    movement: Movement, reps: int, rounds: int, tier: int, track: int
):
    line = f"{reps} {movement.name}"
    np.testing.assert_allclose(
        seconds(line, f"{rounds} rounds for time", tier, track),
        seconds("\n".join([line] * rounds), tier=tier, track=track),
        rtol=1e-6,
    )


@settings(max_examples=examples(60))
@given(st.sampled_from(LOADED), st.integers(2, 15), st.integers(10, 100), tiers, tracks)
def test_pounds_are_kilograms(movement: Movement, reps: int, kilos: int, tier: int, track: int):
    np.testing.assert_allclose(
        seconds(f"{reps} {movement.name} @ {kilos} kg", tier=tier, track=track),
        seconds(f"{reps} {movement.name} @ {kilos / 0.45359237:.3f} lb", tier=tier, track=track),
        rtol=2e-3,
    )


@settings(max_examples=examples(40))
@given(st.sampled_from(FREE), st.integers(1, 12), tiers)
def test_each_side_is_twice_as_many(movement: Movement, reps: int, tier: int):
    np.testing.assert_allclose(
        seconds(f"{reps} {movement.name}, each side", tier=tier),
        seconds(f"{2 * reps} {movement.name}", tier=tier),
        rtol=1e-6,
    )


@settings(max_examples=examples(60))
@given(st.sampled_from(COUNTED), st.integers(1, 30), st.integers(1, 20), tiers, tracks)
def test_more_reps_are_never_faster(
    movement: Movement, reps: int, more: int, tier: int, track: int
):
    few = seconds(f"{reps} {movement.name}", tier=tier, track=track)
    many = seconds(f"{reps + more} {movement.name}", tier=tier, track=track)
    assert (few < many).all()


@settings(max_examples=examples(60))
@given(st.sampled_from(LOADED), st.integers(2, 15), st.integers(4, 60), st.integers(1, 20), tiers)
def test_a_heavier_load_is_never_faster(
    movement: Movement, reps: int, kilos: int, more: int, tier: int
):
    light = seconds(f"{reps} {movement.name} @ {kilos} kg", tier=tier)
    heavy = seconds(f"{reps} {movement.name} @ {kilos + more} kg", tier=tier)
    assert (light <= heavy + 1e-6).all()


@settings(max_examples=examples(60))
@given(st.sampled_from(COUNTED), st.sampled_from(COUNTED), st.integers(1, 15), tiers)
def test_one_more_task_is_never_faster(one: Movement, other: Movement, reps: int, tier: int):
    alone = seconds(f"{reps} {one.name}", tier=tier)
    both = seconds(f"{reps} {one.name}\n{reps} {other.name}", tier=tier)
    assert (alone < both).all()


@settings(max_examples=examples(40))
@given(st.sampled_from(COUNTED), st.integers(3, 12), st.integers(5, 60), st.integers(5, 90))
def test_less_rest_never_makes_the_work_shorter(
    movement: Movement, reps: int, rest: int, more: int
):
    def work(rest: int) -> np.ndarray:
        heading = f"5 rounds for time, rest {rest // 60}:{rest % 60:02d}"
        return seconds(f"{reps} {movement.name}", heading) - 4 * rest

    assert (work(rest + more) <= work(rest) + 1e-6).all()


@settings(max_examples=examples(40))
@given(st.sampled_from(COUNTED), st.sampled_from(COUNTED), st.integers(4, 12), tiers)
def test_twice_the_time_is_about_twice_the_rounds(
    one: Movement, other: Movement, reps: int, tier: int
):
    def rounds(minutes: int) -> float:
        board = f"## Conditioning: AMRAP {minutes}:00\n{reps} {one.name}\n{reps} {other.name}"
        ran = done(board, tier)
        return float(np.median(ran.result[ran.able]))

    short, long = rounds(10), rounds(20)
    assert 1.6 * short - 1 <= long <= 2.1 * short + 1


LASTING = [m for m in COUNTED if in_a_row(m, constants()) >= 10]
"""Movements that partners can do in sets worth sharing."""


@settings(max_examples=examples(40))
@given(st.sampled_from(LASTING), st.integers(5, 30), st.integers(2, 5))
def test_a_team_of_two_lies_between_half_and_whole(movement: Movement, reps: int, rounds: int):
    """A little under half where who is alone has to wait: a partner takes over in a moment."""
    alone = seconds(f"{reps} {movement.name}", f"{rounds} rounds for time")
    team = seconds(f"{reps} {movement.name}", f"{rounds} rounds for time, teams of 2, share")
    assert (team <= alone + 1.5 * rounds * reps).all()
    assert np.median(team) >= 0.4 * np.median(alone)


@settings(max_examples=examples(40))
@given(st.sampled_from(COUNTED), st.integers(5, 40), st.integers(30, 600), tiers)
def test_a_cap_changes_nobody_who_finishes(movement: Movement, reps: int, cap: int, tier: int):
    free = seconds(f"{reps} {movement.name}", tier=tier)
    heading = f"for time, cap {cap // 60}:{cap % 60:02d}"
    capped = done(f"## Conditioning: {heading}\n{reps} {movement.name}", tier)
    np.testing.assert_allclose(capped.time_s, np.minimum(free, cap))
    np.testing.assert_array_equal(capped.capped, free > cap)


@settings(max_examples=examples(30))
@given(st.sampled_from(FAR), st.integers(5, 30), st.integers(60, 300), tiers)
def test_trips_cover_no_more_than_going_straight_on(
    movement: Movement, metres: int, length: int, tier: int
):
    heading = f"AMRAP {length // 60}:{length % 60:02d}, score distance"
    straight = done(f"## Conditioning: {heading}\nmax {movement.name}", tier).result
    turned = done(f"## Conditioning: {heading}\nmax x {metres} m {movement.name}", tier).result
    assert (turned <= straight + metres).all()
    assert (turned >= 0.3 * straight - 2 * metres).all()


@settings(max_examples=examples(40))
@given(st.sampled_from(RUNGS))
def test_a_rung_further_up_is_never_many_more_reps(rungs: tuple[Movement, Movement]):
    """A harder rung gives fewer reps in two minutes; a slip of a second a rep is none."""
    low, high = (
        done(f"## Conditioning: AMRAP 2:00, score total reps\nmax {one.name}").result
        for one in rungs
    )
    assert np.median(high) <= 1.35 * np.median(low) + 1


BOARDS = sorted((Path(__file__).parent.parent / "boards").glob("*.board"))


@pytest.mark.parametrize("board", BOARDS, ids=lambda file: file.stem)
def test_a_tiers_own_version_takes_between_half_and_twice_the_first_ones(board: Path):
    for piece in parse(board.read_text("utf-8")).session.pieces:
        if not isinstance(piece.format, plan.ForTime) or tiers_of(piece) < 2:
            continue
        free = piece.model_copy(update={"cap_s": None})
        first, *others = (
            np.median(run(free, sample(60, tier), SHELF, tier).time_s) for tier in range(3)
        )
        assert all(0.5 * first <= other <= 2 * first for other in others), piece.title
