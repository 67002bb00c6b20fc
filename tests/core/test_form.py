"""Lines and headings as forms, and boards changed: the same text as typing gives."""

import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from plans import lines, sessions

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.notation import edits, parse, print_session
from pine_ladder.core.notation.form import (
    HeadingForm,
    LineForm,
    VersionForm,
    read_form,
    read_heading_form,
    write_form,
    write_heading_form,
)
from pine_ladder.core.notation.printer import line_text
from pine_ladder.core.notation.tokens import Slip


@given(lines())
def test_every_line_goes_through_its_form_unchanged(line: plan.Line):
    text = line_text(line)
    assert write_form(read_form(text, library()), library()) == text


def test_a_form_makes_the_line_a_coach_would_type():
    form = LineForm(
        prefix="1)",
        tasks=(
            (
                VersionForm(amount="10", movement="push presses", load="40/30 kg", tempo="20x0"),
                VersionForm(amount="10", movement="push press", load="20/15 kg", tempo="20X0"),
            ),
            (VersionForm(amount="max", movement="hollow hold"),),
        ),
    )
    text = write_form(form, library())
    assert text == "1) 10 push press, tempo 20X0 @ 40/30 kg | @ 20/15 kg + max hollow hold"


def test_the_prefix_stays():
    for text in ("2) 5 dip", "buy-in: 400 m run", "5 dip"):
        assert write_form(read_form(text, library()), library()) == text


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"movement": ""}, "a movement is missing"),
        ({"movement": "dip", "amount": "10", "load": "24"}, "in which unit?"),
        ({"movement": "dip", "amount": "0"}, "nothing to do"),
        ({"movement": "dip", "amount": "10", "tempo": "fast"}, "write it as tempo 30X0"),
    ],
)
def test_what_cannot_be_is_said(fields: dict[str, str], says: str):
    with pytest.raises(Slip, match=says.replace("?", r"\?")):
        write_form(LineForm(tasks=((VersionForm(**fields),),)), library())


@settings(max_examples=examples(60))
@given(sessions())
def test_every_heading_goes_through_its_form_unchanged(session: plan.Session):
    for piece in session.pieces:
        text = edits.heading_text(piece)
        assert write_heading_form(read_heading_form(text, library()), library()) == text


def test_a_heading_form_makes_the_heading_a_coach_would_type():
    form = HeadingForm(
        role="conditioning",
        name="Two in a Boat",
        format="every",
        length="1:00",
        count="3",
        score="total reps",
        team_size="2",
        team_how="alternate",
    )
    assert write_heading_form(form, library()) == (
        '## Conditioning "Two in a Boat": every 1:00 x 3, score total reps, teams of 2, alternate'
    )
    ladder = form.model_copy(update={"count": "", "until_missed": True, "each_round": "+1"})
    assert "+1 reps each round, until missed" in write_heading_form(ladder, library())


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"format": "amrap"}, "how long"),
        ({"format": "for_time", "count": "3", "scheme": "10-8"}, "one of the two"),
        ({"format": "tabata", "team_size": "2"}, "do they alternate"),
        ({"format": "rounds", "count": "3", "rest": "soon"}, "rest"),
    ],
)
def test_a_heading_form_says_what_is_missing(fields: dict[str, str], says: str):
    with pytest.raises(Slip, match=says):
        write_heading_form(HeadingForm(role="core", **fields), library())


BOARD = """# Neap
## Warm-up: 2 rounds
10 air squat

## Core: EMOM 6:00
1) 5 dip
2) 5 burpee
3) rest
> breathe
"""


def test_a_piece_moves_with_all_its_lines_and_stops_at_the_ends():
    moved = edits.move_piece(BOARD, 6, -1)
    assert moved.splitlines()[1].startswith("# Neap") or moved.startswith("# Neap\n\n## Core")
    assert moved.endswith("## Warm-up: 2 rounds\n10 air squat\n")
    assert edits.move_piece(moved, 3, -1) == moved
    assert edits.remove_piece(moved, 3) == "# Neap\n\n## Warm-up: 2 rounds\n10 air squat\n"


def test_stations_are_counted_again_when_lines_come_go_and_move():
    core = BOARD.split("\n\n")[1]
    added = edits.add_line(core, 1, "max hollow hold")
    assert added == core.replace("> breathe", "4) max hollow hold\n> breathe")
    assert edits.remove_line(core, 2).startswith("## Core: EMOM 6:00\n1) 5 burpee\n2) rest\n")
    assert edits.move_line(core, 2, 1).splitlines()[1:3] == ["1) 5 burpee", "2) 5 dip"]
    assert edits.move_line(core, 2, -1) == core
    assert edits.add_line("## Core: EMOM 6:00\n", 1, "5 dip", station=True).endswith("1) 5 dip\n")


@settings(max_examples=examples(60))
@given(sessions(), st.integers(1, 40), st.sampled_from([-1, 1]))
def test_moving_pieces_loses_none(session: plan.Session, line: int, by: int):
    text = print_session(session)
    try:
        moved = edits.move_piece(text, line, by)
    except ValueError:
        return
    after = parse(moved).session
    assert sorted(map(str, after.pieces)) == sorted(map(str, session.pieces))
    assert after.title == session.title
