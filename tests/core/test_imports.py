"""Tables kept elsewhere: what their columns hold, what is asked, what each row says."""

from __future__ import annotations

import csv
import datetime as dt
import io
from collections.abc import Mapping

import openpyxl
import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st

from pine_ladder.core.imports import guess_columns, kind_of_table
from pine_ladder.core.imports.dates import order_of, read_date
from pine_ladder.core.imports.entries import read_entry
from pine_ladder.core.imports.gym import GymFacts, Member, Row
from pine_ladder.core.imports.headings import missing
from pine_ladder.core.imports.names import Names, tidy
from pine_ladder.core.imports.others import read_classes, read_kit, weekdays_of
from pine_ladder.core.imports.people import read_people
from pine_ladder.core.imports.questions import Asked
from pine_ladder.core.imports.scores import ReadScores, read_scores
from pine_ladder.core.movements import library
from pine_ladder.files.sheets import read_table

TODAY = dt.date(2026, 6, 1)
GYM = GymFacts(
    people=[Member(7, "Ada Quill", "ada@skua.example"), Member(8, "Björn Marsh", None)],
    tiers=["As written", "Scaled", "Starter"],
    tracks=["heavier", "lighter"],
    unit="kg",
    today=TODAY,
)


def scores(
    *rows: tuple[str, str, str, str], answers: Mapping[str, str] | None = None
) -> tuple[ReadScores, Asked]:
    """Rows of date, person, piece, entered."""
    asked = Asked(answers)
    named = [
        Row(line, dict(zip(("date", "person", "piece", "entered"), row, strict=True)))
        for line, row in enumerate(rows, start=2)
    ]
    return read_scores(named, GYM, library(), asked), asked


@pytest.mark.parametrize(
    ("heads", "row", "kind", "fields"),
    [
        (
            ["Datum", "Athlete", "WOD", "Result", "Level"],
            ["03.04.2026", "Ada Quill", "Gull", "12:30", "Rx"],
            "scores",
            ["date", "person", "piece", "entered", "tier"],
        ),
        (
            ["Fecha", "Nombre", "Entrenamiento", "Resultado"],
            ["3/4/26", "Ada Quill", "Gull", "5+12"],
            "scores",
            ["date", "person", "piece", "entered"],
        ),
        (
            ["First", "Surname", "E-Mail Adress", "B-day", "M/F"],
            ["Ada", "Quill", "a@b.example", "3.4.1990", "f"],
            "people",
            ["given", "family", "email", "born", "sex"],
        ),
        (["Tag", "Uhrzeit", "Plätze"], ["Montag", "6:30", "12"], "classes", None),
        (["Item", "Qty"], ["Rowers", "6"], "kit", ["what", "count"]),
        (["Member", "Lift", "1RM"], ["Ada Quill", "Deadlift", "100"], "bests", None),
    ],
)
def test_columns_are_told_by_their_headings_and_what_stands_in_them(heads, row, kind, fields):
    assert kind_of_table(heads, [row]) == kind
    columns = guess_columns(kind, heads, [row])
    assert missing(kind, columns) == []
    if fields:
        assert [columns[at] for at in range(len(heads))] == fields


def test_a_column_that_nothing_tells_is_left_alone():
    columns = guess_columns("scores", ["date", "", "zzz"], [["2026-01-02", "Scaled", "Scaled"]])
    assert "person" not in columns.values()


@pytest.mark.parametrize(
    "text",
    [
        "2026-03-14", "14.03.2026", "14/03/26", "3/14/2026", "14 Mar 2026", "March 14, 2026",
        "Sat 14. März 2026", "2026/3/14", "20260314", "2026-03-14T18:30", "14 de marzo de 2026",
        "14.3.26 18:30", "46095", "14 mars 2026",
    ],
)  # fmt: skip
def test_dates_are_read_as_people_write_them(text: str):
    assert read_date(text) == dt.date(2026, 3, 14)


@settings(max_examples=examples(60))
@given(st.lists(st.dates(dt.date(2020, 1, 1), dt.date(2026, 5, 1)), min_size=30, max_size=60))
def test_a_column_of_dates_tells_its_order(dates: list[dt.date]):
    if max(date.day for date in dates) <= 12:
        return
    for order, form in (("day first", "%d/%m/%Y"), ("month first", "%m/%d/%Y")):
        cells = [date.strftime(form) for date in dates]
        assert order_of(cells) == (order, True)
        assert [read_date(cell, order) for cell in cells] == dates


@pytest.mark.parametrize(
    ("cell", "text"),
    [
        ("12'34''", "12:34"), ("1:02:33", "62:33"), ("12m34s", "12:34"), ("5 rds + 12", "5+12"),
        ("5 rounds", "5+0"), ("225#", "225 lb"), ("102,5 kg", "102.5 kg"), ("187 reps", "187"),
        ("dnf", "DNF"), ("CAP+12", "cap+12"), ("cap (12)", "cap+12"), ("5.5 km", "5500 m"),
        ("12:34 Rx", "12:34"), ("1h02", "62:00"),
    ],
)  # fmt: skip
def test_entries_become_the_shorthand_of_the_sheet(cell: str, text: str):
    read = read_entry(cell)
    assert read is not None
    assert read.text == text


@pytest.mark.parametrize("cell", ["", "-", "n/a", "—"])
def test_a_cell_may_say_that_there_is_no_score(cell: str):
    assert read_entry(cell) is None


def test_one_odd_entry_never_refuses_the_piece():
    read, _ = scores(
        ("2026-03-01", "Ada Quill", "Gull", "12:30"),
        ("2026-03-01", "Bo Lund", "Gull", "DNF"),
        ("2026-03-01", "Cy Holm", "Gull", "CAP+12"),
        ("2026-03-01", "Di Rask", "Gull", "-"),
        ("2026-03-01", "Ed Voss", "Gull", "felt good"),
        ("2026-03-01", "Fy Pike", "Gull", "14:05"),
    )
    assert [one.entered for one in read.rows] == ["12:30", "DNF", "cap+12", "14:05"]
    assert {one.board for one in read.rows} == {
        '## Conditioning "Gull": 1 round for time, cap 15:00'
    }
    assert [(one.row, one.why) for one in read.skipped] == [
        (5, "there is no score"),
        (6, "“felt good” is no score that can be read"),
    ]


def test_a_row_without_a_name_is_nobodys():
    read, _ = scores(("2026-03-01", "", "Gull", "12:30"))
    assert read.rows == []
    assert read.skipped[0].why == "there is no name"


def test_plain_numbers_of_lifts_are_asked_once_and_their_unit_too():
    rows = [(f"2026-03-{n:02d}", "Ada Quill", "Deadlift", str(100 + 5 * n)) for n in range(1, 9)]
    read, asked = scores(*rows)
    assert {one.id for one in asked.questions} == {"unit", "kind:lifts"}
    assert all(one.entered.endswith((" kg", " lb")) for one in read.rows)
    pounds, _ = scores(*rows, answers={"unit": "lb"})
    assert [one.entered for one in pounds.rows][:2] == ["105 lb", "110 lb"]
    reps, _ = scores(*rows, answers={"kind:lifts": "reps"})
    assert reps.rows[0].entered == "105"


def test_days_to_come_are_asked_and_left_out():
    read, asked = scores(
        ("2026-03-01", "Ada Quill", "Gull", "12:30"), ("2031-03-01", "Ada Quill", "Gull", "12:30")
    )
    assert [one.id for one in asked.questions] == ["future"]
    assert len(read.rows) == 1
    both, _ = scores(
        ("2026-03-01", "Ada Quill", "Gull", "12:30"),
        ("2031-03-01", "Ada Quill", "Gull", "12:30"),
        answers={"future": "bring them in"},
    )
    assert len(both.rows) == 2


def test_a_wrong_answer_is_said():
    _, asked = scores(("2031-03-01", "Ada Quill", "Gull", "12:30"), answers={"future": "whatever"})
    assert asked.wrong == ["future: whatever is none of leave them out, bring them in"]


@pytest.mark.parametrize(
    "name", ["Ada Quill", "QUILL, Ada", "ada quill", "Quill Ada", " Ada  Quill"]
)
def test_a_name_in_any_order_is_the_same_person(name: str):
    asked = Asked()
    meant = Names(GYM.people, [name]).who(name, asked)
    assert (meant.id, asked.questions) == (7, [])


@pytest.mark.parametrize("name", ["Ada Q", "A Quill", "Ada Quil"])
def test_a_short_form_or_a_slip_is_asked_with_the_best_guess(name: str):
    asked = Asked()
    assert Names(GYM.people, [name]).who(name, asked).id == 7
    assert asked.questions[0].guess == "Ada Quill"
    new = Asked({asked.questions[0].id: "somebody new"})
    assert Names(GYM.people, [name]).who(name, new).id is None


def test_somebody_else_is_somebody_new_without_a_question():
    asked = Asked()
    meant = Names(GYM.people, ["Tove Sund"]).who("Tove Sund", asked)
    assert (meant.id, meant.name, asked.questions) == (None, "Tove Sund", [])
    assert tidy("BJÖRN MARSH") == "Björn Marsh"


def test_a_shared_address_is_asked_and_kept_once():
    rows = [
        Row(2, {"name": "Ann Voss", "email": "fam@voss.example"}),
        Row(3, {"name": "Ben Voss", "email": "fam@voss.example"}),
    ]
    asked = Asked()
    read = read_people(rows, GYM, asked)
    assert [one.email for one in read.people] == ["fam@voss.example", ""]
    assert [one.id for one in asked.questions] == ["email:fam@voss.example"]


def test_what_a_list_says_of_somebody_who_is_there_is_a_change():
    rows = [Row(2, {"name": "Marsh, Björn", "email": "b@skua.example", "tier": "Starter"})]
    (read,) = read_people(rows, GYM, Asked()).people
    assert (read.what, read.id, read.changes) == ("changed", 8, ("email", "tier"))


def test_timetables_and_kit_are_read_as_they_are_written():
    rows = [
        Row(2, {"weekday": "Mon-Fri", "time": "6:30"}),
        Row(3, {"weekday": "Sa, So", "time": "9.30 - 10.30"}),
        Row(4, {"weekday": "someday", "time": "9:30"}),
    ]
    read = read_classes(rows)
    assert [one.weekday for one in read.classes] == [0, 1, 2, 3, 4, 5, 6]
    assert read.classes[-1].minutes == 60
    assert [one.row for one in read.skipped] == [4]
    assert weekdays_of("lunes, miércoles") == [0, 2]
    kit = read_kit(
        [Row(2, {"what": "6 rowers"}), Row(3, {"what": "KB 16kg", "count": "8"})], library()
    )
    assert [(one.name, one.number) for one in kit.kit] == [("rower", 6), ("kettlebell 16 kg", 8)]


TABLE = [
    ["Name", "Résultat", "Note"],
    ["Chloé Nord", "12:30", 'a; "b"'],
    ["Dörte Sund", "5+12", ""],
]


@pytest.mark.parametrize("mark", [",", ";", "\t", "|"])
@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "cp1252", "utf-16"])
def test_a_file_is_read_whatever_its_delimiter_and_encoding(mark: str, encoding: str):
    text = io.StringIO(newline="")
    csv.writer(text, delimiter=mark).writerows(TABLE)
    table = read_table(text.getvalue().encode(encoding))
    assert table.heads == TABLE[0]
    assert [cells for _, cells in table.rows] == TABLE[1:]


def test_a_workbook_is_read_as_it_would_be_typed():
    book = openpyxl.Workbook()
    sheet = book.active
    sheet.append(["Date", "Result", "Kg"])
    sheet.append([dt.datetime(2026, 3, 14), dt.time(0, 12, 30), 102.5])
    buffer = io.BytesIO()
    book.save(buffer)
    table = read_table(buffer.getvalue())
    assert table.rows == [(2, ["2026-03-14", "12:30", "102.5"])]


@pytest.mark.parametrize("content", [b"", b"\n\n", b"PK\x03\x04nothing"])
def test_a_file_that_holds_nothing_is_refused_in_a_sentence(content: bytes):
    with pytest.raises(ValueError, match=r"\.$"):
        read_table(content)


cells = st.text(max_size=20)


@settings(max_examples=examples(80))
@given(st.lists(st.tuples(cells, cells, cells, cells), max_size=12))
def test_any_table_is_read_and_every_row_is_kept_or_listed(rows):
    read, _ = scores(*rows)
    lines = [one.line for one in read.rows] + [one.row for one in read.skipped]
    assert sorted(lines) == list(range(2, 2 + len(rows)))
