"""The database from nothing: migrations up and down, a gym of one's own, the demo gym."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from shared import TODAY, alembic
from sqlalchemy import Engine, inspect, select
from sqlalchemy.orm import Session
from typer.testing import CliRunner

from pine_ladder.cli import app
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.demo import load_demo, reset
from pine_ladder.demo.people import ATHLETES, SLIP
from pine_ladder.store import database
from pine_ladder.store.database import DATABASE_URL, connect, migrate
from pine_ladder.store.days.days import find_day
from pine_ladder.store.days.pieces import on_board
from pine_ladder.store.models import Base, Day, Gym, Person, Programme, ScoreRow
from pine_ladder.store.people.people import hash_fits, session_of, stored_password
from pine_ladder.store.scores.history import holdings
from pine_ladder.usecases.signing_in import open_session


@pytest.fixture
def fresh(empty: str) -> Iterator[Engine]:
    """A migrated database without a gym."""
    migrate(empty)
    engine = connect(empty)
    yield engine
    engine.dispose()


def test_the_migrations_make_just_the_tables_of_the_models(fresh):
    with fresh.connect() as db:
        assert compare_metadata(MigrationContext.configure(db), Base.metadata) == []


def test_migrations_go_down_to_nothing_and_up_again(empty):
    migrate(empty)
    migrate(empty)
    command.downgrade(alembic(empty), "base")
    engine = connect(empty)
    assert inspect(engine).get_table_names() == ["alembic_version"]
    migrate(empty)
    assert set(inspect(connect(empty)).get_table_names()) > set(Base.metadata.tables)
    engine.dispose()


@pytest.fixture
def run(monkeypatch):
    """The command line on a database."""

    def call(url: str, *words: str, typed: str = ""):
        monkeypatch.setenv(DATABASE_URL, url)
        return CliRunner().invoke(app, ["gym", *words], input=typed)

    return call


def test_a_gym_of_ones_own_begins_with_its_coach(empty, run):
    assert run(empty, "migrate").exit_code == 0
    words = (
        "open",
        "Our Hall",
        "--coach",
        "Nora Stone",
        "--email",
        "Nora@hall.example",
        "--zone",
        "Europe/Lisbon",
    )
    short = run(empty, *words, typed="short\nshort\n")
    assert short.exit_code != 0
    assert "characters" in short.output
    made = run(empty, *words, typed="wide-harbour-wall\nwide-harbour-wall\n")
    assert made.exit_code == 0, made.output
    with Session(connect(empty)) as db:
        (coach,) = db.scalars(select(Person)).unique()
        assert (coach.name, coach.email, coach.role) == ("Nora Stone", "nora@hall.example", "coach")
        assert hash_fits(stored_password(coach), "wide-harbour-wall")
        assert not hash_fits(stored_password(coach), "wide-harbour-walls")
        assert [one.name for one in db.scalars(select(Programme))] == ["Daily"]
    again = run(empty, *words, typed="wide-harbour-wall\nwide-harbour-wall\n")
    assert again.exit_code != 0
    assert "holds a gym already" in again.output


def test_the_demo_is_loaded_once_and_anew_when_asked(empty, run, monkeypatch):
    monkeypatch.setattr("pine_ladder.demo.load_demo", partial(load_demo, weeks=2))
    run(empty, "migrate")
    assert "demo gym loaded" in run(empty, "demo").output
    assert "kept what is there" in run(empty, "demo").output
    learnt = run(empty, "learn")
    assert learnt.exit_code == 0
    assert int(learnt.output.split()[2]) > 150
    with Session(connect(empty)) as db, db.begin():
        db.query(Gym).one().name = "Another"
    assert "demo gym loaded" in run(empty, "demo", "--reset").output
    with Session(connect(empty)) as db:
        assert db.query(Gym).one().name == "Kittiwake Hall"


def test_a_missing_database_is_said_so(run, monkeypatch):
    monkeypatch.delenv(DATABASE_URL, raising=False)
    with pytest.raises(RuntimeError, match="which PostgreSQL database is meant"):
        database.database_url()


@pytest.fixture
def demo(fresh) -> Iterator[Session]:
    with Session(fresh) as db:
        load_demo(db, TODAY, weeks=3)
        yield db


def told(db: Session) -> list[tuple]:
    query = select(Day.date, ScoreRow.piece_id, Person.name, ScoreRow.entered)
    query = query.join(ScoreRow, ScoreRow.day_id == Day.id)
    query = query.join(Person, Person.id == ScoreRow.person_id)
    return sorted(tuple(row) for row in db.execute(query))


def test_the_demo_gym_is_the_same_from_the_same_seed(demo):
    first = told(demo)
    reset(demo)
    load_demo(demo, TODAY, weeks=3)
    assert told(demo) == first
    assert len(first) > 300
    athletes = select(Person).where(Person.role == "athlete")
    assert len(list(demo.scalars(athletes).unique())) == len(ATHLETES) == 40


def test_every_score_of_the_demo_reads_back_as_it_is_kept(demo):
    for day in demo.scalars(select(Day)).unique():
        pieces = on_board(demo, day)
        for row in demo.scalars(select(ScoreRow).where(ScoreRow.day_id == day.id)).unique():
            piece = pieces[str(row.piece_id)]
            score = read_score(row.entered, piece, row.tier.position, row.track.position)
            assert score.problems == ()
            assert (score.display, score.order_key) == (row.display, row.order_key)


def test_the_demo_has_one_slip_to_settle_and_boards_done_before(demo):
    doubted = demo.scalars(select(ScoreRow).where(ScoreRow.standing != "fine")).unique().all()
    today = find_day(demo, TODAY)
    assert today is not None
    titles = {key: piece.title for key, piece in on_board(demo, today).items()}
    told = [(row.person.name, titles[str(row.piece_id)], row.display) for row in doubted]
    assert told == [SLIP]
    assert len(holdings(demo, today, str(doubted[0].piece_id))) >= 1


def test_the_demo_never_takes_the_place_of_a_gym(fresh, empty, run):
    with Session(fresh) as db, db.begin():
        db.add_all([Gym(name="Northern Quay", zone="UTC"), Programme(name="Daily")])
    for words in (["demo"], ["demo", "--reset"]):
        done = run(empty, *words)
        assert done.exit_code == 1
        assert "Northern Quay, which is not the demo: nothing was done" in done.output
    with Session(fresh) as db:
        assert list(db.scalars(select(Gym.name))) == ["Northern Quay"]


def test_a_forgotten_password_is_set_anew_at_the_command_line(fresh, empty, run):
    words = ["Northern Quay", "--coach", "Ines", "--email", "ines@quay.example", "--zone", "UTC"]
    first, second = "harbour-lantern-9", "breakwater-kettle-4"
    assert run(empty, "open", *words, typed=f"{first}\n{first}\n").exit_code == 0
    with Session(fresh) as db, db.begin():
        person = db.scalars(select(Person)).one()
        token, _ = open_session(db, person)
    missing = run(empty, "reset-password", "nobody@quay.example")
    assert missing.exit_code != 0
    assert "nobody signs in" in missing.output
    weak = run(empty, "reset-password", "ines@quay.example", typed="password\npassword\n")
    assert weak.exit_code != 0
    done = run(empty, "reset-password", " Ines@Quay.example ", typed=f"{second}\n{second}\n")
    assert done.exit_code == 0, done.output
    with Session(fresh) as db:
        person = db.scalars(select(Person)).one()
        assert hash_fits(stored_password(person), second)
        assert not hash_fits(stored_password(person), first)
        assert session_of(db, token) is None
