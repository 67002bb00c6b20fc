"""A fault inside the reader is a finding on its line: the rest of the board is read."""

from __future__ import annotations

import logging

import pytest

from pine_ladder.core.notation import parse, parser, print_session
from pine_ladder.core.tracebacks import traceback_without_values

BOARD = "# Ebb\n\n## Conditioning: AMRAP 12:00\n10 burpee\nSECRET 5 squat\n20 sit-up\n"


def guilty(real, word: str = "SECRET"):
    """The step of reading, broken for lines that hold a word."""

    def broken(first, *rest):
        text = first if isinstance(first, str) else "".join(first)
        if word in text:
            raise KeyError(text)
        return real(first, *rest)

    return broken


@pytest.mark.parametrize("step", ["exact_board", "read_task"])
def test_a_fault_costs_its_line_alone(monkeypatch, caplog, step):
    parser.forget_readings()
    monkeypatch.setattr(parser, step, guilty(getattr(parser, step)))
    with caplog.at_level(logging.ERROR):
        parsed = parse(BOARD)
    faults = [one for one in parsed.findings if one.code == parser.NOT_READ_CODE]
    assert [(one.line, one.severity) for one in faults] == [(5, "error")]
    exact = print_session(parsed.session)
    assert "10 burpee" in exact
    assert "20 sit-up" in exact
    assert "SECRET" not in caplog.text, "the text is logged by its digest"
    assert "KeyError" in caplog.text


def test_a_piece_that_cannot_be_finished_is_said_at_its_heading(monkeypatch):
    monkeypatch.setattr(parser, "excess", lambda _piece: 1 / 0)
    parsed = parse(BOARD.replace("SECRET ", ""))
    assert [(one.line, one.code) for one in parsed.findings] == [(3, parser.NOT_READ_CODE)]


@pytest.mark.parametrize("heading", ["12 min AMRAP, 8-10 rounds", "AMRAP 12, 8-10 rounds"])
def test_a_range_of_rounds_beside_an_amrap_is_what_the_coach_expects(heading):
    parsed = parse(f"{heading}\n10 burpees\n5 pull-ups\n")
    assert "AMRAP 12:00, target 8-10 rounds" in print_session(parsed.session)
    assert not [one for one in parsed.findings if one.severity == "error"]


def test_a_traceback_names_places_and_kinds_and_no_values():
    try:
        try:
            int("Anna Quill")
        except ValueError as error:
            raise KeyError("anna@test.example") from error
    except KeyError as error:
        told = traceback_without_values(error)
    assert "test_tracebacks.py" in told
    assert "KeyError" in told
    assert "ValueError" in told
    assert 'Anna Quill")' not in told.replace('int("Anna Quill")', "")
    assert "invalid literal" not in told
