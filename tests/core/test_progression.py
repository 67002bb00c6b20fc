"""Stepping a week forward: the stated steps, each alone or together."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import sessions

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.week.earlier import earlier_board
from pine_ladder.core.week.progression import NEARLY, steps, take


def offered(text: str) -> list[str]:
    return [step.label for step in steps(parse(text).session)]


def test_the_stated_steps_are_offered():
    # Common practice, no source.
    sprints = "## Power: intervals 0:07/2:00 x 6\nmax sprint"
    assert offered(sprints) == ["0:07/2:00 → 0:10/3:00"]
    rolling = "## Mobility: continuous 5:00\n5:00 foam rolling"
    assert offered(rolling) == ["5:00 → 6:00 foam rolling"]
    strength = "## Strength: 4 sets, rest 2:00\n5 front squat @ 70%"
    assert offered(strength) == [
        "4 sets → 5 sets",
        "front squat @ 70% → 72.5%",
        "5 front squat @ 70%: 5 → 6",
    ]
    sides = "## Core: 3 rounds\n8 dead bug, alternating"
    assert offered(sides) == ["3 rounds → 4 rounds", "8 dead bug, alternating: 8 → 10"]


def test_taking_a_step_changes_its_lines_alone():
    text = "# A\n\n## Mobility: continuous 9:00\n5:00 foam rolling\n4:00 couch stretch\n> slowly\n"
    (rolling, stretch) = steps(parse(text).session)
    both = take(text, [rolling.key, stretch.key])
    assert "continuous 11:00" in both
    assert "6:00 foam" in both
    assert "5:00 couch" in both
    assert take(text, [rolling.key]) == text.replace("9:00", "10:00").replace(
        "5:00 foam", "6:00 foam"
    )
    assert take(text, []) == text
    assert take(text, ["nothing 1"]) == text


@pytest.mark.parametrize(
    "board",
    [
        "## Cool-down: continuous 6:00\n6:00 walk",
        "## Conditioning: continuous 30:00\n30:00 walk",
        "## Mobility: continuous 8:00\n4:00 walk\n4:00 easy run",
        "## Warm-up: 2 rounds\n10 air squat\n30s plank",
    ],
)
def test_nobody_walks_or_warms_up_longer(board: str):
    assert offered(board) == []


@pytest.mark.parametrize(
    ("hold", "longer"), [("20 s", "25 s"), ("30 s", "40 s"), ("1:00", "1:15"), ("2:00", None)]
)
def test_a_short_hold_in_sets_grows_by_seconds(hold: str, longer: str | None):
    board = f"## Core: 3 rounds\n{hold} plank"
    labels = [label for label in offered(board) if "plank" in label]
    assert labels == ([f"{hold} → {longer} plank"] if longer else [])


def test_rounds_for_quality_grow_and_raced_rounds_do_not():
    assert "3 rounds → 4 rounds" in offered("## Core: 3 rounds\n8 dead bug")
    assert offered("## Conditioning: 3 rounds for time\n8 burpee") == []
    assert "6 rounds → 7 rounds" not in offered("## Core: 6 rounds\n8 dead bug")


STRENGTH = "## Strength: 5 sets, rest 2:00\n5 {} @ {} kg | {} kg"


def stepped(board: str, **lifted: float) -> str:
    """The board with its loads stepped; `t0m=80` is 80 kg by tier 0 in track m (the first)."""
    known = {(int(who[1]), "mw".index(who[2])): kg for who, kg in lifted.items()}
    session = parse(board).session
    keys = [step.key for step in steps(session, lifted={0: known}) if step.key.startswith("load")]
    return take(board, keys, lifted={0: known})


def test_a_bar_takes_the_smallest_plates_and_a_heavy_squat_or_pull_two_pairs():
    press = stepped(STRENGTH.format("strict press", "40/27.5", "30/20"))
    assert "@ 42.5/30 kg | @ 32.5/22.5 kg" in press
    squat = stepped(STRENGTH.format("back squat", "100/57.5", "60/40"))
    assert "@ 105/60 kg | @ 65/42.5 kg" in squat


def test_a_load_goes_up_only_where_it_was_lifted():
    board = STRENGTH.format("strict press", "40/27.5", "30/20")
    # Those of the second track stayed under what was prescribed.
    held = stepped(board, t0m=40, t0w=25, t1m=30, t1w=20)
    assert "@ 42.5/27.5 kg | @ 32.5/22.5 kg" in held
    # Whoever has lifted more already goes on from there, a tenth at most.
    further = stepped(board, t0m=43, t0w=40, t1m=20, t1w=15)
    assert "@ 42.5/30 kg | @ 30/20 kg" in further
    assert stepped(board, t0m=30, t0w=20, t1m=20, t1w=15) == board


def test_dumbbells_and_bells_make_no_small_steps():
    assert stepped(STRENGTH.format("kettlebell swing", "24/16", "16/12")).count("24/16") == 1


def test_an_earlier_board_takes_one_step_a_piece():
    board = "# A\n\n## Strength: 4 sets\n5 front squat @ 70%\n\n## Core: 3 rounds\n8 dead bug\n"
    taken = earlier_board(board, library()).stepped
    assert taken == board.replace("4 sets", "5 sets").replace("3 rounds", "4 rounds")


loads = st.integers(8, 80).map(lambda half: half * 2.5)


@given(loads, loads, st.floats(5, 260), st.floats(5, 260))
def test_no_step_leaves_the_plates_or_leaps(first: float, second: float, did: float, they: float):
    board = f"## Strength: 5 sets\n5 back squat @ {first:g}/{second:g} kg"
    after = parse(stepped(board, t0m=did, t0w=they)).session.pieces[0].lines[0]
    load = after.tasks[0].versions[0].load
    assert isinstance(load, plan.Weight)
    for before, now, lifted in zip((first, second), load.values, (did, they), strict=True):
        assert now % 2.5 == 0
        assert before <= now <= max(before * 1.1, before + 5)
        assert (now > before) == (lifted >= before * NEARLY)


def test_races_and_scored_work_are_left_as_they_are():
    for heading in ("AMRAP 12:00", "3 rounds for time", "5 sets, build"):
        labels = offered(f"## Conditioning: {heading}\n10 push-up")
        assert all("set" in label for label in labels)


@given(sessions())
def test_every_step_leaves_a_board_that_reads(session: plan.Session):
    text = print_session(session)
    for step in steps(parse(text).session):
        errors = [f for f in parse(take(text, [step.key])).findings if f.severity == "error"]
        assert errors == [], step


@pytest.mark.parametrize("percent", ["90-97%", "95-100%", "97-100%", "100%"])
def test_a_percentage_is_never_stepped_beyond_its_limit_at_either_end(percent):
    session = parse(f"## Strength: 5 sets\n5 back squat @ {percent}").session
    assert not [one for one in steps(session) if one.key.startswith("load")]
    below = parse("## Strength: 5 sets\n5 back squat @ 70-80%").session
    (step,) = [one for one in steps(below) if one.key.startswith("load")]
    assert "@ 72.5-82.5%" in step.lines[0][1]


@pytest.mark.parametrize(
    ("load", "lifted_kg", "stepped"),
    [
        # 225 lb are 102 kg: who lifted 90 kg did not lift it, who lifted 110 kg lifted 242 lb.
        ("225 lb", 90.0, None),
        ("225 lb", 110.0, "240 lb"),
        ("102.5 kg", 90.0, None),
        ("102.5 kg", 110.0, "110 kg"),
    ],
)
def test_what_was_lifted_is_compared_in_the_unit_of_the_board(load, lifted_kg, stepped):
    session = parse(f"## Strength: 5 sets\n5 back squat @ {load}").session
    found = [
        one.lines[0][1]
        for one in steps(session, None, {0: {(0, 0): lifted_kg}})
        if one.key.startswith("load")
    ]
    assert [text.split("@ ")[1] for text in found] == ([stepped] if stepped else [])
