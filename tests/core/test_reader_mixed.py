"""Lines of many boards thrown together: no reading fails, whatever stands beside what."""

from __future__ import annotations

import json
import tomllib
from pathlib import Path

import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st

from pine_ladder.core.movements import library
from pine_ladder.core.notation.reader.exact import exact_board

PLAIN = Path(__file__).parent.parent / "plain"
NUMBERS = {"{M}": "12", "{K}": "9", "{N}": "5", "{S}": "4", "{P}": "70"}


def said(text: str) -> list[str]:
    for name, number in NUMBERS.items():
        text = text.replace(name, number)
    return [line for line in text.splitlines() if line.strip()]


LINES = sorted(
    {
        line
        for one in json.loads((PLAIN / "coaches.json").read_text())
        for line in said(one["plain"])
    }
    | {
        line
        for one in tomllib.loads((PLAIN / "two_ways.toml").read_text())["meaning"]
        for way in one["ways"]
        for line in said(way)
    }
)
SHELF = library()


@st.composite
def spoilt(draw: st.DrawFn) -> str:
    """A line, or one that lost a word, won one of another line, or was shuffled."""
    words = draw(st.sampled_from(LINES)).split(" ")
    match draw(st.sampled_from(("as it is", "less", "more", "shuffled"))):
        case "less":
            del words[draw(st.integers(0, len(words) - 1))]
        case "more":
            other = draw(st.sampled_from(LINES)).split(" ")
            words.insert(draw(st.integers(0, len(words))), draw(st.sampled_from(other)))
        case "shuffled":
            words = draw(st.permutations(words))
    return " ".join(words)


@settings(max_examples=examples(400), deadline=None)
@given(st.lists(spoilt(), min_size=1, max_size=7))
def test_lines_thrown_together_are_read_without_a_fault(lines: list[str]):
    exact_board(lines, SHELF)


@pytest.mark.parametrize(
    "text",
    [
        "Conditioning: sled 10x20m, rest 60s\n15/12 cal row",
        "Finisher\n3 x (2 on/2 min off)\n1) 15/12 cal row",
        "**A1** Back squat 4×4\n* 8 min – walk a lap, legs up the wall 2'",
        "3 rounds\n4 min ×",
    ],
)
def test_boards_that_once_failed_are_read(text: str):
    exact_board(text.splitlines(), SHELF)
