"""Heats and partners: everybody once, even in number, the slower first, fast with slow."""

from itertools import combinations, permutations

from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.floor.heats import PAIRINGS, by_speed, heats, teams

CLASSES = st.lists(st.integers(1, 500), unique=True, max_size=24)
SPEEDS = st.dictionaries(st.integers(1, 500), st.floats(0.1, 50), max_size=40)


@given(CLASSES, st.integers(1, 8), SPEEDS)
def test_everybody_stands_in_one_heat_and_heats_are_even(who, waves, speed):
    made = heats(who, waves, speed)
    assert sorted(one for heat in made for one in heat.lanes) == sorted(who)
    sizes = [len(heat.lanes) for heat in made]
    assert max(sizes) - min(sizes) <= 1
    assert [heat.number for heat in made] == list(range(1, len(made) + 1))


@given(CLASSES, st.integers(2, 4), SPEEDS)
def test_the_slower_start_first(who, waves, speed):
    known = [one for one in who if one in speed]
    lined = [one for heat in heats(known, waves, speed) for one in heat.lanes]
    assert [speed[one] for one in lined] == sorted(speed[one] for one in known)


@given(CLASSES, st.integers(2, 4), SPEEDS, st.sampled_from(PAIRINGS))
def test_everybody_is_in_one_team_and_one_team_at_most_is_short(who, size, speed, how):
    made = teams(who, size, speed, how)
    assert sorted(one for team in made for one in team) == sorted(who)
    assert all(len(team) <= size for team in made)
    assert len(made) == -(-len(who) // size)


def test_no_other_pairing_of_four_is_more_even():
    speed = {1: 1.0, 2: 2.5, 3: 3.0, 4: 6.0}

    def uneven(pairs) -> float:
        sums = [speed[a] + speed[b] for a, b in pairs]
        return max(sums) - min(sums)

    all_pairings = []
    for first in combinations(speed, 2):
        rest = tuple(one for one in speed if one not in first)
        all_pairings.append((first, rest))
    assert uneven(teams(list(speed), 2, speed)) == min(map(uneven, all_pairings))


def test_like_with_like_keeps_neighbours_together():
    speed = {1: 1.0, 2: 9.0, 3: 1.1, 4: 8.0}
    made = teams([1, 2, 3, 4], 2, speed, "like with like")
    assert {frozenset(team) for team in made} == {frozenset({1, 3}), frozenset({2, 4})}


def test_who_has_no_speed_counts_as_the_middle():
    for order in permutations((1, 2, 3)):
        assert by_speed(order, {1: 1.0, 3: 9.0, 4: 5.0}) == [1, 2, 3]
    assert by_speed([7, 8], {}) == [7, 8]


def test_a_class_of_nobody_has_no_heats_to_fill():
    assert [heat.lanes for heat in heats([], 3, {})] == [()]
    assert teams([], 2, {}) == ()


@given(st.integers(0, 14), st.sampled_from(["even teams", "like with like"]))
def test_teams_of_three_hold_everybody_once_and_nobody_is_a_fourth(people, how):
    names = list(range(people))
    made = teams(names, 3, {one: float(one) for one in names}, how)
    assert sorted(one for team in made for one in team) == names
    assert all(1 <= len(team) <= 3 for team in made)
    assert len(made) == -(-people // 3)
