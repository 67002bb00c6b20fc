"""A pasted list of people: each line read, held against who is there, nothing guessed."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.athletes.roster import MOST_LINES, There, read_roster
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS

THERE = [There(1, "Ada Quill", "ada@example.org", 0, 0), There(2, "Bram Osei", None, 1, 0)]


def read(text: str):
    return read_roster(text, THERE, DEFAULT_TIERS, DEFAULT_TRACKS)


def one(text: str):
    (found,) = read(text)
    return found


@pytest.mark.parametrize(
    "line",
    [
        "Finn Wicker, finn@example.org, Scaled, Lighter",
        "Finn Wicker; finn@example.org; Scaled; Lighter",
        "Finn Wicker\tFINN@example.org\tscaled\tlighter",
        "Finn Wicker <finn@example.org>, lighter, scaled",
        '"Finn Wicker","finn@example.org","Scaled","Lighter"',
        "finn@example.org, Finn  Wicker, Scaled, Lighter",
    ],
)
def test_a_line_is_read_however_it_is_parted(line):
    found = one(line)
    assert (found.what, found.name, found.email) == ("new", "Finn Wicker", "finn@example.org")
    assert (found.tier, found.track) == (1, 1)


def test_a_name_with_a_comma_stands_in_quotes_as_in_csv():
    assert one('"Wicker, Finn", finn@example.org').name == "Wicker, Finn"


@pytest.mark.parametrize(
    ("line", "what", "why"),
    [
        ("Ada Quill, ada@example.org", "there", "this address is Ada Quill’s"),
        ("Ada Q, ada@example.org", "changed", "Ada Quill → Ada Q"),
        ("bram osei", "doubtful", "there is a Bram Osei already"),
        ("Finn, fast", "doubtful", "fast: no tier or track; there are "),
        ("Finn, finn@example", "refused", "finn@example is not an e-mail address"),
        ("finn@example.org", "refused", "there is no name"),
        ("F" * 81, "refused", "this is too long for a person"),
    ],
)
def test_what_is_not_plainly_new_says_why(line, what, why):
    found = one(line)
    assert found.what == what
    assert found.why.startswith(why)


def test_a_person_who_stands_twice_is_doubtful_the_second_time():
    found = read("Finn Wicker\nFinn Wicker\nFinn Holm, f@example.org\nF. Holm, f@example.org")
    assert [line.what for line in found] == ["new", "doubtful", "new", "there"]


def test_headings_and_empty_lines_are_passed_over():
    found = read("Name, E-mail, Tier\n\nFinn, finn@example.org, Scaled\n\n")
    assert [(line.line, line.name) for line in found] == [(3, "Finn")]


def test_nobody_is_called_by_a_formula():
    assert one("=HYPERLINK(1), x@example.org").name == "HYPERLINK(1)"


def test_a_list_has_an_end_and_says_so():
    found = read("\n".join(f"Person {n}" for n in range(MOST_LINES + 5)))
    assert len(found) == MOST_LINES + 1
    assert found[-1].what == "refused"


@given(st.text(max_size=300))
def test_any_text_gets_an_answer_and_no_line_is_lost(text):
    found = read(text)
    lines = [line for line in text.splitlines() if line.strip()]
    assert len(found) >= len(lines) - 1
    assert all(line.what == "refused" or line.name for line in found)


def test_named_columns_are_read_as_what_they_say():
    lines = read(
        "e-mail,name,role,trains,tier,track,active,shoes\n"
        'cora@example.org,"Tern, Cora",coach,yes,Scaled,Lighter,yes,red\n'
        "dan@example.org,Dan Tern,coach,no,,,yes,\n"
        ",Eve Tern,athlete,,Starter,,yes,\n"
    )
    assert [(one.what, one.name, one.email) for one in lines] == [
        ("new", "Tern, Cora", "cora@example.org"),
        ("new", "Dan Tern", "dan@example.org"),
        ("new", "Eve Tern", ""),
    ]
    assert [(one.role, one.trains) for one in lines] == [
        ("coach", True), ("coach", False), ("athlete", True),
    ]  # fmt: skip
    assert [(one.tier, one.track) for one in lines] == [(1, 1), (0, 0), (2, 0)]


@pytest.mark.parametrize(
    ("row", "what", "why"),
    [
        (",,coach,,", "refused", "name"),
        ("Finn Tern,,coach,,", "refused", "a coach signs in"),
        ("Finn Tern,,owner,,", "refused", "owner is no coach or athlete"),
        ("Finn Tern,,athlete,Elite,", "doubtful", "Elite: no tier"),
        ("Finn Tern,,athlete,,no", "doubtful", "has left"),
        ("Finn Tern,finn@,athlete,,", "refused", "finn@ is not an e-mail address"),
    ],
)
def test_what_a_column_cannot_be_is_told(row, what, why):
    (found,) = read(f"name,e-mail,role,tier,active\n{row}")
    assert found.what == what
    assert why in found.why


def test_a_first_line_that_names_somebody_is_no_heading():
    assert [one.name for one in read("Name Tern\nFinn Tern")] == ["Name Tern", "Finn Tern"]


@pytest.mark.parametrize(
    ("row", "what", "changes"),
    [
        # One who is there, by address or by the only name of that kind, as they are or otherwise.
        ("Ada Quill,ada@example.org,As written,Heavier", "there", ()),
        ("Ada Quill,ada@example.org,Scaled,Lighter", "changed", ("tier", "track")),
        ("Ada Quill,ada@example.org,,", "there", ()),
        ("Bram Osei,,Scaled,Heavier", "there", ()),
        ("Bram Osei,bram@example.org,,", "changed", ("email",)),
        # Another address under the same name may be another person.
        ("Ada Quill,other@example.org,,", "doubtful", ()),
    ],
)
def test_a_table_that_comes_back_says_what_is_otherwise(row, what, changes):
    (found,) = read(f"name,e-mail,tier,track\n{row}")
    assert (found.what, found.changes) == (what, changes)
    assert (found.person is None) == (what == "doubtful")


def test_who_has_left_is_not_taken_in_again_unasked():
    gone = [There(1, "Jo Tern", None, 0, 0, active=False)]
    (found,) = read_roster("name,tier\nJo Tern,Scaled", gone, DEFAULT_TIERS, DEFAULT_TRACKS)
    assert (found.what, found.why.split(":")[0]) == ("doubtful", "Jo Tern has left")


def test_two_of_one_name_are_not_taken_for_each_other():
    twins = [There(1, "Jo Tern", None, 0, 0), There(2, "Jo Tern", None, 0, 0)]
    table = "name,tier\nJo Tern,Scaled"
    (found,) = read_roster(table, twins, DEFAULT_TIERS, DEFAULT_TRACKS)
    assert found.what == "doubtful"
