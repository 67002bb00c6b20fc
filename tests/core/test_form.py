"""A line as a form: filling it in and typing give the same text."""

import pytest
from hypothesis import given
from plans import lines

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.notation.form import LineForm, VersionForm, read_form, write_form
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
