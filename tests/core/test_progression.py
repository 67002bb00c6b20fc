"""Stepping a week forward: the stated steps, each alone or together."""

from hypothesis import given
from plans import sessions

from pine_ladder.core import plan
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.week.step_up import steps, take


def offered(text: str) -> list[str]:
    return [step.label for step in steps(parse(text).session)]


def test_the_stated_steps_are_offered():
    # Common practice, no source.
    sprints = "## Power: intervals 0:07/2:00 x 6\nmax sprint"
    assert offered(sprints) == ["0:07/2:00 → 0:10/3:00"]
    rolling = "## Mobility: continuous 5:00\n5:00 foam rolling"
    assert offered(rolling) == ["5:00 → 6:00 foam rolling"]
    strength = "## Strength: 4 sets, rest 2:00\n5 front squat @ 70%"
    assert offered(strength) == ["4 sets → 5 sets", "5 front squat @ 70%: 5 → 6"]
    sides = "## Core: 3 rounds\n8 dead bug, alternating"
    assert offered(sides)[0].endswith("8 → 10")


def test_taking_a_step_changes_its_lines_alone():
    text = "# A\n\n## Mobility: continuous 9:00\n5:00 foam rolling\n4:00 walk\n> slowly\n"
    (rolling, walking) = steps(parse(text).session)
    both = take(text, [rolling.key, walking.key])
    assert "continuous 11:00" in both
    assert "6:00 foam" in both
    assert "5:00 walk" in both
    assert take(text, [rolling.key]) == text.replace("9:00", "10:00").replace(
        "5:00 foam", "6:00 foam"
    )
    assert take(text, []) == text
    assert take(text, ["nothing 1"]) == text


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
