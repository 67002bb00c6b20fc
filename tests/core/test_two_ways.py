"""Two ways to say the same board read as the same plan, however the board is dressed."""

from __future__ import annotations

import random
import tomllib
from collections.abc import Iterator
from pathlib import Path

import pytest

from pine_ladder.core import plan
from pine_ladder.core.notation import parse

MEANINGS = tomllib.loads((Path(__file__).parent.parent / "plain" / "two_ways.toml").read_text())
DRAWS = {
    "S": (3, 4, 5), "N": (3, 5, 8), "K": (6, 10, 12), "M": (8, 10, 15), "P": (70, 75, 80),
    "R": (2, 3),
}  # fmt: skip
"""Values that a placeholder may have."""
DRESS = (
    lambda text: text,
    lambda text: text.upper(),
    lambda text: f"Monday\n\n{text}",
    lambda text: f'"Grey Slate"\n{text}\n\nKeep moving, no heroes today',
    lambda text: text.replace("\n", "\r\n") + "\n",
)


def cases() -> Iterator[tuple[str, str]]:
    """Each way with the exact text it means, with values drawn for its place in the list."""
    for at, meaning in enumerate(MEANINGS["meaning"]):
        for number, way in enumerate(meaning["ways"]):
            draw = random.Random(100 * at + number)
            values = {name: draw.choice(of) for name, of in DRAWS.items()}
            yield way.format(**values), meaning["exact"].format(**values)


def work(lines: tuple[plan.Line, ...]) -> list[list[tuple[object, ...]]]:
    """The work of lines, version by version: tasks of one line as lines of their own."""
    return [
        [
            (one.movement, repr(one.amount), repr(one.load), one.side, one.tempo, one.pause_s)
            for one in task.versions
        ]
        for line in lines
        for task in line.tasks
    ] + [["rest"] for line in lines if not line.tasks]


def meant(text: str) -> list[dict[str, object]]:
    """The plan of a board, without its title, its notes and the roles that nobody said."""
    return [
        {
            "format": {k: v for k, v in piece.format.model_dump().items() if k != "said"},
            "blocks": [work(block.lines) for block in piece.blocks],
            "around": (work(piece.buy_in), work(piece.cash_out)),
            "rest": piece.rest,
            "cap": piece.cap_s,
            "teams": piece.teams,
            "build": piece.build,
            "grows": piece.grow_reps,
        }
        for piece in parse(text).session.pieces
    ]


@pytest.mark.parametrize(("way", "exact"), list(cases()))
def test_each_way_to_say_it_reads_as_the_exact_board(way, exact):
    assert meant(way) == meant(exact)


@pytest.mark.parametrize("dress", DRESS[1:])
def test_dress_changes_no_plan(dress):
    differs = [way for way, _ in cases() if meant(dress(way)) != meant(way)]
    assert not differs


def test_every_exact_board_reads_without_a_finding():
    for _, exact in cases():
        wrong = [one for one in parse(exact).findings if one.severity == "error"]
        assert not wrong, exact
