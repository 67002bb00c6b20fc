"""Tables that go out and come back: RFC 4180 by Python's own reader, and no formulas."""

from __future__ import annotations

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.files.tables import guarded, plain, read_csv, write_csv

cells = st.text(st.characters(codec="utf-8", exclude_characters="\x00"), max_size=12)


@given(cells)
def test_a_guarded_cell_is_no_formula_and_comes_back(cell):
    out = guarded(cell)
    assert out[:1] not in {"=", "+", "-", "@", "\t", "\r"}
    assert plain(out) == cell


@given(st.lists(st.tuples(cells, cells.map(lambda c: c + ".")), max_size=6))
def test_a_table_comes_back_to_the_letter(rows):
    heads, found = read_csv(write_csv(("one", "two"), rows))
    assert heads == ["one", "two"]
    # A line feed alone inside a cell is the reader's to keep; carriage returns are kept as well.
    assert [tuple(row) for _, row in found] == rows


@given(st.lists(st.tuples(cells, cells), max_size=6))
def test_what_is_written_is_csv_to_any_reader(rows):
    text = write_csv(("one", "two"), rows)
    read = list(csv.reader(io.StringIO(text, newline="")))
    assert [[plain(cell) for cell in row] for row in read[1:]] == [list(row) for row in rows]


@pytest.mark.parametrize(
    "text", ["name;best\r\nAda;5\r\n", "\ufeffname\tbest\nAda\t5\n", "\n\nName,Best\nAda,5"]
)
def test_other_marks_and_line_ends_are_read(text):
    assert read_csv(text)[0] == ["name", "best"]
    assert [row for _, row in read_csv(text)[1]] == [["Ada", "5"]]


def test_a_row_knows_the_line_it_begins_on():
    _, rows = read_csv('note,n\n"two\nlines",1\nlast,2\n')
    assert [line for line, _ in rows] == [2, 4]


def test_an_empty_table_is_told():
    with pytest.raises(ValueError, match="the table is empty"):
        read_csv("\n \n")
