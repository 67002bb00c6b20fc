"""Kit to choose from: what movements ask for, in the gym's unit, in sizes that checks can read."""

import pytest

from pine_ladder.core.checks.registry import check
from pine_ladder.core.checks.traversal import Ground
from pine_ladder.core.day.kit_choices import kit_choices
from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.notation import parse


@pytest.mark.parametrize(("unit", "other"), [("kg", " lb"), ("lb", " kg")])
def test_sizes_are_in_the_gyms_unit_alone(movements: Library, unit, other):
    names = kit_choices(movements, unit)
    assert len(names) == len(set(names)) > 30
    assert not [one for one in names if one.endswith(other)]
    assert not [one for one in names if one.endswith(" cm" if unit == "lb" else " in")]


def test_what_a_gyms_own_movement_asks_for_is_among_them(movements: Library):
    own = Movement.model_validate(
        {"name": "mast climb", "patterns": ["pull"], "kit": ["mast or rope ladder"],
         "seconds": 9, "floor_s": 5, "demand": 0.6}
    )  # fmt: skip
    names = kit_choices(Library([*movements.movements, own]), "kg")
    assert {"mast", "rope ladder", "rower", "bench"} <= set(names)
    assert {"wall", "pool", "plate"}.isdisjoint(names)


@pytest.mark.parametrize("unit", ["kg", "lb"])
def test_a_gym_with_all_of_it_lacks_no_size_it_chose(movements: Library, unit):
    kit = dict.fromkeys(kit_choices(movements, unit), 20)
    asks = {"kg": ("24 kg", "60 cm"), "lb": ("53 lb", "24 in")}[unit]
    board = f"## Conditioning: AMRAP 10:00\n10 kettlebell swing @ {asks[0]}\n8 box jump @ {asks[1]}"
    said = check(parse(board).session, Ground(movements, kit=kit))
    assert [one.code for one in said if one.code.startswith("kit")] == []
