"""Everything a gym keeps as open records: out, by its schema, and into an empty place again."""

from __future__ import annotations

import json
import zipfile
from pathlib import Path

import jsonschema
import pytest
from shared import TODAY
from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from pine_ladder.demo import load_demo
from pine_ladder.store.database import connect, migrate
from pine_ladder.store.models import Base, Kit, MailRow, Person
from pine_ladder.store.models.base import empty_every_table
from pine_ladder.store.records import BLANKED, LEFT_OUT, RecordsError, records, schema, tables
from pine_ladder.usecases.open_records import everything, take_everything


@pytest.fixture(scope="module")
def url(database_url: str) -> str:
    """A database of its own: what is taken in may leave nothing behind in the others'."""
    own = database_url.rsplit("/", 1)[0] + "/pine_ladder_records"
    admin = connect(database_url).execution_options(isolation_level="AUTOCOMMIT")
    with admin.connect() as db:
        db.execute(text("create database pine_ladder_records"))
    migrate(own)
    return own


@pytest.fixture(scope="module")
def taken(url: str, tmp_path_factory) -> Path:
    """The demo gym's files in open formats."""
    folder = tmp_path_factory.mktemp("gym")
    with Session(connect(url)) as db:
        load_demo(db, TODAY)
        db.commit()
        for path, content in everything(db):
            (folder / path).parent.mkdir(parents=True, exist_ok=True)
            (folder / path).write_bytes(content)
    return folder


def lines(folder: Path, table: str) -> list[dict]:
    return [json.loads(one) for one in (folder / "records" / f"{table}.jsonl").open()]


@pytest.fixture
def empty(url: str) -> Session:
    with Session(connect(url)) as db:
        empty_every_table(db)
        db.commit()
        yield db
        db.rollback()


def test_every_table_is_told_or_left_out_for_a_reason():
    assert {one.name for one in tables()} | set(LEFT_OUT) == set(Base.metadata.tables)
    assert all(LEFT_OUT.values())
    secret = ("hash", "token", "guard", "password")
    for table in tables():
        for column in table.columns:
            if any(word in column.name for word in secret):
                assert (table.name, column.name) in BLANKED


def test_the_schema_that_the_docs_show_is_the_present_one():
    shown = Path(__file__).parents[2] / "docs" / "schemas" / "records.json"
    assert json.loads(shown.read_text()) == json.loads(json.dumps(schema()))


def test_each_record_is_as_the_schema_says(taken: Path):
    told = json.loads((taken / "schema.json").read_text())
    assert told == json.loads(json.dumps(schema()))
    for name, of in told.items():
        check = jsonschema.Draft202012Validator(of)
        for record in lines(taken, name)[:200]:
            check.validate(record)
    assert all(one["password_hash"] is None for one in lines(taken, "person"))


def test_the_same_gym_stands_in_an_empty_database(taken: Path, empty: Session):
    about = take_everything(empty, taken)
    assert about.gym == "Kittiwake Hall"
    assert about.records["score"] > 500
    for table in tables():
        assert list(records(empty, table)) == lines(taken, table.name), table.name
    again = dict(everything(empty))
    for file in taken.rglob("*"):
        if file.is_file():
            assert again[file.relative_to(taken).as_posix()] == file.read_bytes(), file.name


def test_new_rows_are_numbered_behind_those_that_were_taken(taken: Path, empty: Session):
    take_everything(empty, taken)
    highest = empty.scalar(select(func.max(Kit.id)))
    made = Kit(name="hammock", count=1)
    empty.add(made)
    empty.flush()
    assert made.id > highest


def test_a_zip_is_taken_like_its_folder(taken: Path, empty: Session, tmp_path):
    whole = tmp_path / "gym.zip"
    with zipfile.ZipFile(whole, "w") as archive:
        for file in taken.rglob("*"):
            archive.write(file, file.relative_to(taken))
    take_everything(empty, whole)
    assert empty.scalar(select(func.count(Person.id))) == len(lines(taken, "person"))


def test_a_letter_that_waits_is_no_record(taken: Path, empty: Session):
    take_everything(empty, taken)
    person = empty.scalar(select(Person.id).limit(1))
    letter = MailRow(person_id=person, kind="week", key="k", address="a@b.example", subject="s",
                     body="https://hall.example/join/SECRET")  # fmt: skip
    empty.add(letter)
    empty.flush()
    mail = Base.metadata.tables["mail"]
    assert all(one["id"] != letter.id for one in records(empty, mail))
    letter.state = "sent"
    empty.flush()
    (told,) = [one for one in records(empty, mail) if one["id"] == letter.id]
    assert told["body"] == ""


def spoilt(taken: Path, tmp_path: Path, file: str, change) -> Path:
    out = tmp_path / "spoilt"
    for one in taken.rglob("*"):
        if one.is_file():
            place = out / one.relative_to(taken)
            place.parent.mkdir(parents=True, exist_ok=True)
            place.write_bytes(one.read_bytes())
    (out / file).write_text(change((out / file).read_text()))
    return out


SPOILT = {
    "no JSON": ("records/kit.jsonl", lambda t: "{\n" + t, "line 1: no JSON object"),
    "a record less": ("records/kit.jsonl", lambda t: t.split("\n", 1)[1], "records of"),
    "another column": (
        "records/kit.jsonl", lambda t: t.replace('"count"', '"number"', 1), "kit, record 1"
    ),
    "a wrong date": (
        "records/day.jsonl", lambda t: t.replace('"date": "20', '"date": "x', 1), "day, record 1"
    ),
    "nobody there": (
        "records/score.jsonl", lambda t: t.replace('"person_id": ', '"person_id": 99', 1), "fit"
    ),
    "another schema": (
        "about.json", lambda t: t.replace('"schema_is": "', '"schema_is": "x'), "version"
    ),
    "nothing": ("about.json", lambda t: "", "about.json is missing"),
}  # fmt: skip


@pytest.mark.parametrize("what", list(SPOILT))
def test_records_that_are_not_whole_are_refused_with_the_place(taken, empty, tmp_path, what):
    file, change, said = SPOILT[what]
    with pytest.raises(RecordsError, match=said):
        take_everything(empty, spoilt(taken, tmp_path, file, change))


def test_a_gym_that_is_there_is_left_alone(taken: Path, empty: Session):
    take_everything(empty, taken)
    with pytest.raises(RecordsError, match="a gym already"):
        take_everything(empty, taken)
