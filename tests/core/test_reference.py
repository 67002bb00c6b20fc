"""The published reference of the notation: every example on the page is true."""

import re
from pathlib import Path

import pytest

from pine_ladder.core.clock import clock
from pine_ladder.core.notation import parse, print_session

PAGE = (Path(__file__).parents[2] / "docs" / "board-notation.md").read_text()
EXAMPLES = re.findall(r"```board\n(.*?)```", PAGE, re.DOTALL)


@pytest.mark.parametrize("text", EXAMPLES, ids=lambda text: text.split("\n", 1)[0][:40])
def test_examples_read_without_remark_print_and_time(text: str):
    parsed = parse(text)
    assert parsed.findings == ()
    assert parse(print_session(parsed.session)).session == parsed.session
    for piece in parsed.session.pieces:
        clock(piece)


def test_the_page_shows_every_format():
    kinds = {piece.format.kind for text in EXAMPLES for piece in parse(text).session.pieces}
    assert len(EXAMPLES) >= 15
    assert kinds == {
        "rounds", "sets", "amrap", "every", "emom", "intervals", "tabata", "for_time",
        "accumulate", "continuous", "rest",
    }  # fmt: skip
