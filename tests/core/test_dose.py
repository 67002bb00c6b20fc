"""The dose by region: what must rise and fall with it, and how people rank the same boards.

The judgements in dose/judged.json were made twice, apart and from memory, before anything was
computed.
"""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import spearmanr

from pine_ladder.core.dose import Dose, Region, dose_of_session
from pine_ladder.core.dose.regions import REGION_OF, regions_of, table
from pine_ladder.core.movements import Pattern, library
from pine_ladder.core.notation import parse

JUDGED = json.loads((Path(__file__).parent.parent / "dose" / "judged.json").read_text("utf-8"))


def dose(text: str) -> Dose:
    return dose_of_session(parse(text).session, library())


@pytest.mark.parametrize("region", list(Region))
def test_boards_are_ranked_as_two_people_rank_them(region: Region):
    judged = [sum(one[region] for one in row["judged"]) / 2 for row in JUDGED]
    computed = [dose(f"# T\ntrack: heavier/lighter\n\n{row['text']}").of(region) for row in JUDGED]
    assert spearmanr(judged, computed).statistic >= 0.8


def test_five_fives_weigh_by_their_percentage():
    heavy, middling, light = (
        dose(f"## Strength: 5 sets, rest 3:00\n5 back squat @ {percent}%").squat
        for percent in (90, 70, 20)
    )
    assert heavy > 1.5 * middling
    assert middling > 5 * light


def test_what_comes_before_and_after_a_piece_counts():
    bare = "## Conditioning: 3 rounds for time\n10 push-up\n"
    more = "## Conditioning: 3 rounds for time\nbuy-in: 800 m run\n10 push-up\ncash-out: 800 m run"
    assert dose(more).engine > dose(bare).engine + 10
    assert dose(more).landing > dose(bare).landing + 10


def test_a_complex_weighs_what_its_parts_weigh():
    whole = dose("## Strength: 5 sets, rest 2:00\n3 [1 power clean + 2 front squat] @ 60/40 kg")
    apart = dose(
        "## Strength: 5 sets, rest 2:00\n3 power clean @ 60/40 kg\n6 front squat @ 60/40 kg"
    )
    for region in (Region.SQUAT, Region.HINGE, Region.TRUNK):
        assert whole.of(region) == pytest.approx(apart.of(region), rel=0.35), region


def test_a_warm_up_weighs_less_than_the_same_in_earnest():
    work = "3 rounds\n10 air squat\n10 push-up\n10 ring row"
    easy, hard = dose(f"## Warm-up: {work}"), dose(f"## Strength: {work}")
    assert all(easy.of(region) <= hard.of(region) for region in Region if region != "engine")


LIFTS = ["back squat", "deadlift", "bench press", "strict press", "front squat", "power clean"]


@settings(max_examples=examples(40))
@given(st.sampled_from(LIFTS), st.integers(40, 88), st.integers(1, 5), st.integers(2, 6))
def test_more_load_more_reps_or_more_sets_never_weigh_less(
    lift: str, percent: int, reps: int, sets: int
):
    def hardest(percent: int, reps: int, sets: int) -> float:
        text = f"## Strength: {sets} sets, rest 2:00\n{reps} {lift} @ {percent}%"
        return max(dose(text).of(region) for region in (*Region,) if region != "engine")

    least = hardest(percent, reps, sets)
    assert hardest(percent + 5, reps, sets) >= least
    assert hardest(percent, reps + 1, sets) >= least
    assert hardest(percent, reps, sets + 1) >= least


@settings(max_examples=examples(40))
@given(st.sampled_from([m.name for m in library().movements]), st.integers(1, 30))
def test_a_day_weighs_at_least_what_each_of_its_pieces_weighs(name: str, amount: int):
    movement = library().find(name)
    assert movement is not None
    unit = {"reps": "", "time": " s", "distance": " m"}[movement.measure]
    piece = f"## Conditioning: 2 rounds for time\n{amount}{unit} {name}\n"
    one, two = dose(piece), dose(f"{piece}\n{piece}")
    for region in Region:
        assert 0 <= one.of(region) <= two.of(region) <= 100


def test_every_movement_loads_its_own_region_and_every_pattern_has_one():
    assert set(REGION_OF) == set(Pattern) - {Pattern.MOBILITY}
    for movement in library().movements:
        shares = regions_of(movement)
        assert all(0 < share <= 1 for share in shares.values()), movement.name
        if movement.patterns[0] is not Pattern.MOBILITY:
            assert shares, movement.name


def test_every_family_is_of_some_movement():
    """A word that stands in no name would be a typing slip in the table."""
    names = " ".join(movement.name for movement in library().movements)
    for family in table().family:
        assert any(word.lower() in names for word in family.words), family.words
