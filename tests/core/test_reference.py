"""The published reference of the notation: every example on the page is true."""

import re
from pathlib import Path
from typing import get_args

import pytest

from pine_ladder.core import plan
from pine_ladder.core.checks import check
from pine_ladder.core.clock import clock
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.card import CARD, CardExample
from pine_ladder.core.notation.templates import EXAMPLE, TEMPLATES, Template

PAGE = (Path(__file__).parents[2] / "docs" / "board-notation.md").read_text()
KINDS = {form.model_fields["kind"].default for form in get_args(get_args(plan.Format)[0])}
EXAMPLES = re.findall(r"```board\n(.*?)```", PAGE, re.DOTALL)


@pytest.mark.parametrize("text", EXAMPLES, ids=lambda text: text.split("\n", 1)[0][:40])
def test_examples_read_without_remark_print_and_time(text: str):
    parsed = parse(text)
    assert parsed.findings == ()
    assert parse(print_session(parsed.session)).session == parsed.session
    for piece in parsed.session.pieces:
        clock(piece)


@pytest.mark.parametrize("template", TEMPLATES, ids=lambda t: t.label)
def test_templates_are_canonical_and_without_fault(template: Template):
    parsed = parse(template.text)
    assert parsed.findings == ()
    assert print_session(parsed.session) == f"{template.text}\n"
    serious = [f for f in check(parsed.session) if f.severity != "hint"]
    assert serious == []
    assert template.when.endswith(".")


def test_there_is_a_template_for_every_format():
    kinds = {parse(t.text).session.pieces[0].format.kind for t in TEMPLATES}
    assert kinds == KINDS


def test_the_page_shows_every_format():
    kinds = {piece.format.kind for text in EXAMPLES for piece in parse(text).session.pieces}
    assert len(EXAMPLES) >= 15
    assert kinds == KINDS


@pytest.mark.parametrize(
    "example", [one for section in CARD for one in section.examples], ids=lambda one: one.text
)
def test_every_example_of_the_card_reads_as_it_stands(example: CardExample):
    text = f"## Conditioning: 3 rounds\n{example.text}" if example.line else example.text
    parsed = parse(text)
    assert [f.message for f in parsed.findings if f.code != "read-as"] == []
    assert len(parsed.session.pieces) == 1


def test_the_example_of_an_empty_day_is_plain_and_whole():
    parsed = parse(EXAMPLE)
    assert {f.code for f in parsed.findings} == {"read-as"}
    assert [len(piece.lines) for piece in parsed.session.pieces] == [2, 2, 1]
