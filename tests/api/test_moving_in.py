"""A gym's old tables brought in as one and taken back as one."""

from __future__ import annotations

import datetime as dt

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.files.sheets import read_table
from pine_ladder.store.models import ClassTime, Kit, Person, ProfileRow, ScoreImport, ScoreRow
from pine_ladder.usecases import moving_in

PEOPLE = """First;Surname;E-Mail Adress;B-day;Level;In case of emergency
Ada;Quill;ada@quill.example;14.3.1990;RX;Mum 0123
Björn;Marsh;fam@marsh.example;2.12.1985;beg;
Tove;Marsh;fam@marsh.example;;sc;
;;nobody@nowhere.example;;;
"""
SCORES = """Datum,Athlete,WOD,Result,Level
14/03/2026,"Quill, Ada",Gull,12:30,Rx
14/03/2026,Björn Marsh,Gull,CAP+12,beg
14/03/2026,Tove Marsh,Gull,-,sc
14/03/2026,,Gull,9:59,
15/03/2026,Ada Q,Deadlift,100,
"""
BESTS = "Member\tLift\t1RM (kg)\nAda Quill\tBack Squat\t80\n"
CLASSES = "Day,Time,Places\nMon-Wed,6:30,12\n"
KIT = "Item,Qty\nRowers,6\nKB 16kg,8\n"


@pytest.fixture
def db(engine, gym):
    with Session(engine) as held:
        yield held


def table(text: str):
    read = read_table(text.encode())
    return read.heads, read.rows


def bring(db: Session, text: str) -> moving_in.Looked:
    told = moving_in.bring_in(db, table(text), None, {}, None)
    db.flush()
    return told


def take_back(db: Session, told: moving_in.Looked) -> None:
    row = db.get(ScoreImport, told.saved)
    assert row is not None
    moving_in.take_back(db, row)


def names(db: Session) -> set[str]:
    return set(db.scalars(select(Person.name)))


def test_people_and_their_scores_come_in_and_go_as_one(db):
    before = names(db)
    looked = moving_in.look(db, table(PEOPLE))
    assert (looked.what, looked.new, looked.rows) == ("people", 3, 4)
    assert names(db) == before
    people = bring(db, PEOPLE)
    assert names(db) - before == {"Ada Quill", "Björn Marsh", "Tove Marsh"}
    born = [row.record["born"] for row in db.scalars(select(ProfileRow))]
    assert {1990, 1985} <= set(born)
    scores = bring(db, SCORES)
    assert (scores.what, scores.new) == ("scores", 3)
    assert [one.row for one in scores.skipped] == [4, 5]
    assert moving_in.look(db, table(SCORES)).same == 3
    assert names(db) - before == {"Ada Quill", "Björn Marsh", "Tove Marsh"}
    take_back(db, scores)
    assert moving_in.look(db, table(SCORES)).new == 3
    take_back(db, people)
    assert names(db) == before
    assert not db.scalars(select(ScoreRow)).all()


def test_who_is_there_is_changed_and_as_before_when_taken_back(db):
    bring(db, PEOPLE)
    again = "Name,E-Mail,Level\nAda Quill,new@quill.example,Starter\n"
    told = moving_in.look(db, table(again))
    assert (told.new, told.changed) == (0, 1)
    kept = bring(db, again)
    ada = db.scalars(select(Person).where(Person.name == "Ada Quill")).unique().one()
    assert ada.email == "new@quill.example"
    take_back(db, kept)
    db.refresh(ada)
    assert ada.email == "ada@quill.example"


def test_bests_classes_and_kit_come_in_once_and_go_as_one(db):
    bring(db, PEOPLE)
    for text, what in ((BESTS, "bests"), (CLASSES, "classes"), (KIT, "kit")):
        told = bring(db, text)
        assert (told.what, told.skipped) == (what, ())
        assert told.new > 0
        again = moving_in.look(db, table(text))
        assert (again.new, again.same) == (0, told.new)
        take_back(db, told)
        assert moving_in.look(db, table(text)).new == told.new
    assert db.scalars(select(ClassTime).where(ClassTime.start == dt.time(6, 30))).all() == []
    assert not db.scalars(select(Kit).where(Kit.name == "kettlebell 16 kg")).all()


def test_a_table_without_what_it_needs_says_which_columns_there_are(db):
    with pytest.raises(
        ValueError, match="No column holds the piece or the entered: the columns are"
    ):
        moving_in.look(db, table("Datum,Name\n14/03/2026,Ada Quill\n"), "scores")


def test_a_column_is_what_the_coach_says_it_is(db):
    text = "When,Who,What,How\n2026-03-14,Ada Quill,Gull,12:30\n"
    said = {"When": "date", "Who": "person", "What": "piece", "How": "entered"}
    told = moving_in.look(db, table(text), "scores", columns=said)
    assert told.columns == said
    assert told.new == 1
