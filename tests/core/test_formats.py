"""Every format in one place: text, form and rules agree with the plan and the parser."""

from __future__ import annotations

import re
from typing import get_args

import pytest
from hypothesis import given
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.formats import FORMATS, kind_of
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.form import HeadingForm, Kind

RECORDS = get_args(get_args(plan.Format)[0])


def test_every_format_of_a_plan_is_registered_once_and_by_its_own_name():
    assert {kind.record for kind in FORMATS.values()} == set(RECORDS)
    assert set(FORMATS) == set(get_args(Kind))
    assert len({kind.label for kind in FORMATS.values()}) == len(FORMATS)


def test_fields_and_rules_are_those_of_the_form():
    fields = set(HeadingForm.model_fields)
    for kind in FORMATS.values():
        assert {one.field for one in kind.fields} <= fields
        assert kind.rules <= fields


@given(pieces())
def test_what_a_record_fills_its_form_with_writes_its_text(piece):
    kind = kind_of(piece.format)
    blank = {"count": "", "length": "", "off": "", "scheme": ""}
    filled = blank | kind.fill(piece.format)
    # The form sends its own fields alone: whatever else a record filled would be lost.
    assert {name for name, text in filled.items() if text} <= {one.field for one in kind.fields}
    # A form may write 1 rounds; the parser reads it as it reads the text.
    for text in (kind.text(piece.format), kind.write(filled)):
        (read,) = parse(f"## Core: {text}\n10 burpee").session.pieces
        assert read.format == piece.format


@pytest.mark.parametrize("name", [name for name in FORMATS if name != "rest"])
def test_the_examples_of_a_form_make_a_heading(name):
    kind = FORMATS[name]
    blank = {"count": "", "length": "", "off": "", "scheme": ""}
    examples = {one.field: re.split(",| or ", one.example)[0] for one in kind.fields}
    if name == "for_time":
        del examples["scheme"]
    (piece,) = parse(f"## Core: {kind.write(blank | examples)}\n10 burpee").session.pieces
    assert piece.format.kind == name
