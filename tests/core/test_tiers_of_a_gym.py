"""A gym's tiers: their names, and boards when one of them goes."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import sessions

from pine_ladder.core.day.calendar import classes_text, read_named_days
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.columns import without_tier
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS, read_names

BOARDS = sorted((Path(__file__).parents[1] / "boards").glob("*.board"))


def did(text: str, tiers: int) -> list[tuple]:
    """Every task of a board: what each of the tiers does in it."""
    found = parse(text, library()).session
    return [
        tuple(task.version(tier) for tier in range(tiers))
        for piece in found.pieces
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out)
        for task in line.tasks
    ]


def left(tasks: list[tuple], gone: int) -> list[tuple]:
    return [(*versions[:gone], *versions[gone + 1 :]) for versions in tasks]


@pytest.mark.parametrize("gone", [1, 2])
@pytest.mark.parametrize("board", BOARDS, ids=lambda path: path.stem)
def test_a_board_without_a_tier_says_the_same_of_all_others(board, gone):
    text = board.read_text()
    told = without_tier(text, gone, 3, library())
    assert did(told, 2) == left(did(text, 3), gone)


@given(sessions(), st.integers(2, 5), st.data())
def test_any_board_without_a_tier_keeps_the_others(session, tiers, data):
    gone = data.draw(st.integers(1, tiers - 1))
    text = print_session(session)
    told = without_tier(text, gone, tiers, library())
    assert did(told, tiers - 1) == left(did(text, tiers), gone)


def test_lines_without_the_tier_stay_as_they_were_typed():
    text = "## Conditioning: AMRAP 10:00\n10 pull-up | ring row | hang\n  12   sit-up\n"
    told = without_tier(text, 1, 3, library())
    assert told.splitlines()[2] == "  12   sit-up"
    assert told.splitlines()[1] == "10 pull-up | hang"


def test_the_first_column_does_not_go():
    with pytest.raises(ValueError, match="board as written"):
        without_tier("## Conditioning: AMRAP 10:00\n10 pull-up", 0, 3, library())


def test_the_defaults_are_names_a_gym_may_have():
    assert read_names(DEFAULT_TIERS, "tier") == DEFAULT_TIERS
    assert read_names([" Heavier ", "Lighter"], "track") == DEFAULT_TRACKS


@pytest.mark.parametrize(
    ("names", "why"),
    [
        ([], "between one tier and 8"),
        (["One"] * 9, "between one tier and 8"),
        (["As written", " "], "every tier has a name"),
        (["As written", "as  Written"], "two tiers called as Written"),
        (["A|B"], "holds no |"),
        (["12"], "holds a letter"),
        (["x" * 41], "too long"),
    ],
)
def test_names_that_boards_or_lists_could_not_hold_are_refused(names, why):
    with pytest.raises(ValueError) as refused:
        read_names(names, "tier")
    assert why in str(refused.value)


def test_classes_are_named_by_their_weekday():
    weekly = read_named_days(["Mon 6:30, 18:00", "saturday: 9 am"])
    assert [classes_text(day) for day in weekly] == ["06:30, 18:00", "", "", "", "", "09:00", ""]


@pytest.mark.parametrize("said", ["6:30, 18:00", "Mo 6:30", "Monk 6:30", "Mon 6:30|Monday 7:00"])
def test_what_names_no_weekday_or_one_twice_is_refused(said):
    with pytest.raises(ValueError, match=r"begin with a weekday|stands twice"):
        read_named_days(said.split("|"))
