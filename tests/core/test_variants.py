"""Facts that hold of every variant in the matrix, whatever stands before, after and beside."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from variants import PIECES, RACKS, VARIANTS, member, variants

from pine_ladder.core import plan
from pine_ladder.core.athletes.alternatives import choices
from pine_ladder.core.athletes.scaling import recommend
from pine_ladder.core.athletes.scaling_sheet import tasks_of
from pine_ladder.core.clock import clock, segments
from pine_ladder.core.day.kit import kit_line
from pine_ladder.core.day.piece_matching import fingerprint
from pine_ladder.core.floor.cues import script
from pine_ladder.core.floor.round_times import strip_of
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.pace.testrun import test_run
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import lb_to_kg
from pine_ladder.core.week.balance import day_load

L = library()


@pytest.mark.parametrize("name", VARIANTS)
def test_a_variant_reads_as_it_prints(name):
    session = plan.Session(pieces=(PIECES[name],))
    again = parse(print_session(session)).session
    assert again.pieces == session.pieces
    assert fingerprint(again.pieces[0]) == fingerprint(PIECES[name])


@pytest.mark.parametrize("name", VARIANTS)
def test_the_clock_adds_up(name):
    piece = PIECES[name]
    told, held = clock(piece), segments(piece)
    if told.total_s is None:
        return
    assert sum(one.length_s or 0 for one in held) == told.total_s
    assert told.work_s + told.rest_s <= told.total_s + 1e-9


@pytest.mark.parametrize("name", VARIANTS)
def test_kit_of_all_work_is_laid_out(name):
    """Work before and after the rounds needs its kit as the rounds do."""
    piece = PIECES[name]
    named = " ".join(kit_line(plan.Session(pieces=(piece,)), L))
    for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
        for task in line.tasks:
            first = task.versions[0]
            for movement in (first.movement, *(part.movement for part in first.parts)):
                found = L.find(movement) if movement else None
                for kit in found.kit if found else ():
                    assert kit in named, (movement, kit, named)


@pytest.mark.parametrize("rack", RACKS)
@pytest.mark.parametrize("name", VARIANTS)
def test_nothing_is_offered_that_is_not_there(name, rack):
    for task in tasks_of(PIECES[name]):
        for swap in choices(task, member(), L, RACKS[rack]).swaps:
            found = L.find(swap.movement)
            if found is None or swap.why == "on the board":
                continue
            assert all(RACKS[rack].has(kit) for kit in found.kit), swap


@pytest.mark.parametrize("bests", [{}, {"deadlift": 120}, {"deadlift": 320}])
def test_pounds_and_kilograms_are_scaled_alike(bests):
    """225 lb are 102 kg: whoever is given less of one is given less of the other."""
    rack = RACKS["a full rack"]

    def given_kg(load: str) -> float:
        piece = parse(f"## Strength: 5 sets\n5 deadlift @ {load}").session.pieces[0]
        own = recommend(tasks_of(piece)[0], member(bests=bests), L, rack).exercise.load
        assert isinstance(own, plan.Weight)
        return own.values[0] if own.unit == "kg" else lb_to_kg(own.values[0])

    assert given_kg("225 lb") == pytest.approx(given_kg("102 kg"), abs=2.6)
    assert given_kg("225 lb") <= 103


@pytest.mark.parametrize("load", ["225 lb", "102 kg"])
def test_the_words_of_a_load_are_of_its_weight_in_either_unit(load):
    piece = parse(f"## Strength: 5 sets\n5 deadlift @ {load}").session.pieces[0]
    own = recommend(tasks_of(piece)[0], member(), L, RACKS["a full rack"])
    assert own.loading.startswith("20 kg bar, 20 + 20"), own.loading


@given(variants, st.integers(0, 2), st.integers(0, 2))
def test_every_variant_goes_all_the_way(name, tier, track):
    piece = PIECES[name]
    run = test_run(piece, L, 3, 20)
    assert run is not None
    assert script(piece, L).beats
    strip_of(piece)
    load = day_load(plan.Session(pieces=(piece,)), L)
    assert load is not None
    recommend(tasks_of(piece)[0], member(tier, track), L, RACKS["an incomplete rack"])


@pytest.mark.parametrize("name", VARIANTS)
def test_work_for_quality_keeps_no_score_and_loads_no_hard_day(name):
    easy = PIECES[name].model_copy(update={"for_quality": True, "score": None})
    assert score_kind(easy) is None
    load = day_load(plan.Session(pieces=(easy,)), L)
    assert not load.hard, load
