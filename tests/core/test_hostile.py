"""Whatever stands on a board: every step after reading ends soon and breaks nothing."""

import time

import pytest
from examples import examples
from hostile import BOARDS
from hypothesis import given, settings
from hypothesis import strategies as st

from pine_ladder.core.checks import Ground, check, foresee
from pine_ladder.core.clock import clock
from pine_ladder.core.day.athlete_view import view
from pine_ladder.core.day.hour_ruler import outline
from pine_ladder.core.day.piece_matching import match
from pine_ladder.core.floor.cues import script
from pine_ladder.core.floor.round_times import strip_of
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.bounds import MAX_WINDOWS, excess
from pine_ladder.core.notation.tokens import MAX_LINES, MAX_PIECES
from pine_ladder.core.pace.testrun import test_run
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.week.balance import day_load, uses
from pine_ladder.core.week.progression import steps

PATIENCE_S = 60
"""Far above what any of these takes; what breaks here takes minutes or never ends."""


def everything(text: str, foretold: bool = True) -> None:
    """All that a day's board goes through on its way to screens, phones and pages.

    `foretold` has it test-run for every tier, with the repairs that are sought for it.
    """
    shelf = library()
    session = parse(text, shelf).session
    print_session(session)
    outline(session, shelf)
    for tier, track in ((0, None), (2, 1)):
        view(session, shelf, tier, track)
    check(session)
    if foretold:
        runs = [test_run(one, shelf, 3, 20) if one.lines else None for one in session.pieces]
        foresee(session, runs, Ground(library=shelf), ["As written", "Scaled", "Starter"])
    day_load(session, shelf)
    uses(session, shelf)
    steps(session)
    match(session.pieces, session.pieces)
    for piece in session.pieces:
        assert excess(piece) is None
        assert len(clock(piece).segments) <= 3 * MAX_WINDOWS
        script(piece, shelf)
        strip_of(piece)
        for entry in ("5", "5+5", "12:43", "9" * 5000, "cap+9", "3x5@80", "splits 1:00 2:00"):
            read_score(entry, piece, 1, 1)
    assert len(session.pieces) <= MAX_PIECES


@pytest.mark.parametrize("kind", BOARDS)
def test_a_hostile_board_costs_little_and_breaks_nothing(kind):
    begun = time.monotonic()
    everything(BOARDS[kind])
    assert time.monotonic() - begun < PATIENCE_S


@pytest.mark.parametrize(
    "kind", [k for k in BOARDS if BOARDS[k].count("\n") < MAX_LINES - 10 and "marks" not in k]
)
def test_what_cannot_be_read_is_said_on_a_line_of_its_own(kind):
    fine = "\n\n## Cool-down: continuous 5:00\n5:00 walk\n"
    session = parse(BOARDS[kind] + fine).session
    if kind != "hundreds of pieces":
        assert session.pieces[-1] == parse(fine).session.pieces[0]


LETTERS = st.characters(codec="utf-8", exclude_characters="\n")
LINES = st.one_of(
    st.text(LETTERS, max_size=40),
    st.sampled_from(["## Conditioning: AMRAP 12:00", "## Core: Tabata", "10 burpee", "--", "# x"]),
    st.builds(
        "{} {}".format, st.integers(0, 10**12), st.sampled_from(["burpee", "m run", "s plank"])
    ),
)


@settings(max_examples=examples(60))
@given(st.lists(LINES, max_size=8))
def test_any_text_at_all_goes_through_everything(lines):
    everything("\n".join(lines), foretold=False)
