"""A database that was filled before a migration holds the same after it."""

from __future__ import annotations

import json
import multiprocessing
from concurrent.futures import ProcessPoolExecutor

import pytest
from alembic import command
from fastapi.testclient import TestClient
from shared import PASSWORD, TODAY, alembic, keys
from sqlalchemy import Connection, create_engine, func, select, text
from sqlalchemy.orm import Session

from pine_ladder.api.app import create_app
from pine_ladder.core.clock import clock
from pine_ladder.core.notation import parse
from pine_ladder.demo import load_demo
from pine_ladder.store.database import connect, migrate
from pine_ladder.store.models import Gym, Person, ScoreRow
from pine_ladder.store.people.people import hash_password

BOARD = """# Old

## Conditioning: AMRAP 12:00
10 push-up
20 sit-up

## Conditioning: for time
60 air squat

## Conditioning "Ebb": EMOM 4:00, score total reps
max burpee
"""
GONE = "conditioning-flood"
ANNA, BERT, CARLA = 1, 2, 3


def fill(db: Connection) -> None:
    """A gym as it stood before pieces had an identity: everything points at keys made of names."""
    run = db.execute
    run(text("insert into gym (name, class_min, change_s, demo) values ('Old', 60, 60, false)"))
    run(text("insert into tier (position, name) values (0, 'As written'), (1, 'Scaled')"))
    run(text("insert into track (position, name) values (0, 'Heavier'), (1, 'Lighter')"))
    run(text("insert into programme (name) values ('Daily')"))
    who = text(
        "insert into person (name, email, password_hash, role, tier_id, track_id, active) "
        "values (:name, :email, :password, :role, 1, 1, true)"
    )
    for name, role in (("Anna", "athlete"), ("Bert", "athlete"), ("Carla", "coach")):
        email, password = f"{name.lower()}@test.example", hash_password(PASSWORD)
        run(who, {"name": name, "email": email, "password": password, "role": role})
    run(
        text(
            "insert into day (programme_id, date, text, version, published) "
            "values (1, :date, :board, 3, true)"
        ),
        {"date": TODAY, "board": BOARD},
    )
    score = text(
        "insert into score (day_id, piece_key, person_id, tier_id, track_id, entered, kind, value, "
        "display, order_key, version, request_key) values (1, :key, :who, 1, 1, :entered, :kind, "
        "'{}', :entered, :order, 2, :request)"
    )
    for key, person, entered, kind, order, request in (
        ("conditioning", ANNA, "5+12", "rounds", 162, None),
        ("conditioning", BERT, "6", "rounds", 180, "device-1"),
        ("conditioning-2", ANNA, "2:30", "time", -150, "finish/7"),
        ("conditioning-ebb", BERT, "48", "total_reps", 48, "jots/9"),
        (GONE, ANNA, "4:10", "time", -250, None),
    ):
        values = {"key": key, "who": person, "entered": entered, "kind": kind}
        run(score, {**values, "order": order, "request": request})
    trail = text(
        "insert into score_trail (day_id, piece_key, person_id, changed_by_id, before, after) "
        'values (1, :key, 1, 3, null, \'{"display": "5+12"}\')'
    )
    run(trail, {"key": "conditioning"})
    run(trail, {"key": GONE})
    jot = text(
        "insert into jot (key, day_id, piece_key, person_id, round, number, by_id, noted_at) "
        "values (:key, 1, 'conditioning-ebb', :who, 1, 12, :by, now())"
    )
    run(jot, {"key": "device-jot-1", "who": BERT, "by": CARLA})
    run(jot, {"key": "device-jot-2", "who": ANNA, "by": None})
    lanes = {"heats": {"conditioning-2": [[1], [2]]}, "teams": {"conditioning": [[1, 2]]}}
    run(
        text("insert into gym_class (day_id, start, lanes) values (1, '06:30', :lanes)"),
        {"lanes": json.dumps(lanes)},
    )
    run(
        text("insert into clock_step (class_id, press, state) values (1, 'load', :state)"),
        {"state": json.dumps({"key": "conditioning-2"})},
    )


@pytest.fixture
def old(empty: str):
    """A filled database of the schema before identities."""
    command.upgrade(alembic(empty), "0006")
    engine = create_engine(empty)
    with engine.begin() as db:
        fill(db)
    yield engine, empty
    engine.dispose()


def test_what_pointed_at_a_key_points_at_that_piece(old):
    engine, url = old
    migrate(url)
    at_piece = "select p.position, {} from {} x join piece p on p.id = x.piece_id order by x.{}"
    with engine.connect() as db:

        def told(columns: str, table: str, order: str) -> list[tuple]:
            return [tuple(row) for row in db.execute(text(at_piece.format(columns, table, order)))]

        assert told("x.person_id, x.display, x.version, x.source", "score", "id") == [
            (0, ANNA, "5+12", 2, ""),
            (0, BERT, "6", 2, ""),
            (1, ANNA, "2:30", 2, "finish"),
            (2, BERT, "48", 2, "jots"),
            # No board has this piece: it is set aside, its score with it.
            (None, ANNA, "4:10", 2, ""),
        ]
        assert [row[0] for row in told("x.person_id", "score_trail", "id")] == [0, None]
        assert told("x.person_id, x.by_id", "jot", "key") == [(2, BERT, CARLA), (2, ANNA, ANNA)]
        assert told("x.what, x.groups", "groups", "what") == [
            (1, "heats", [[1], [2]]),
            (0, "teams", [[1, 2]]),
        ]
        key = db.execute(text("select state->>'key' from clock_step")).scalar_one()
        second = db.execute(text("select id from piece where position = 1")).scalar_one()
        assert key == str(second)


def test_a_migrated_gym_is_read_and_written_as_before(old):
    _, url = old
    migrate(url)
    engine = connect(url)
    client = TestClient(create_app(engine, learns=False))
    form = {"email": "Carla@Test.example", "password": PASSWORD}
    client.headers["x-pine-guard"] = client.post("/api/sign-in", json=form).json()["guard"]
    day = f"/api/days/{TODAY.isoformat()}"
    sheet = client.get(f"{day}/sheet").json()
    shown = {(one["person_id"], one["display"]) for one in sheet["scores"]}
    assert shown >= {(ANNA, "5+12"), (BERT, "6"), (ANNA, "2:30"), (BERT, "48")}
    assert [one["display"] for one in sheet["aside"][0]["scores"]] == ["4:10"]
    ebb = keys(client, day)["Ebb"]
    body = {"entered": "50", "tier": 0, "track": 0, "version": 2}
    assert client.put(f"{day}/pieces/{ebb}/scores/{BERT}", json=body).status_code == 200
    stale = client.put(f"{day}/pieces/{ebb}/scores/{BERT}", json=body)
    assert stale.status_code == 409
    engine.dispose()


def test_going_back_a_version_keeps_the_scores(old):
    engine, url = old
    migrate(url)
    command.downgrade(alembic(url), "0006")
    with engine.connect() as db:
        rows = db.execute(text("select person_id, display, day_id from score order by id")).all()
    assert [tuple(row) for row in rows] == [
        (ANNA, "5+12", 1), (BERT, "6", 1), (ANNA, "2:30", 1), (BERT, "48", 1), (ANNA, "4:10", 1),
    ]  # fmt: skip
    migrate(url)
    with engine.connect() as db:
        assert db.execute(text("select count(*) from score")).scalar_one() == 5


def test_two_people_of_one_address_are_named_before_anything_changes(old):
    engine, url = old
    with engine.begin() as db:
        db.execute(text("update person set email = 'ANNA@test.example' where name = 'Bert'"))
    with pytest.raises(RuntimeError, match=r"Anna and Bert share the address anna@test\.example"):
        migrate(url)
    with engine.connect() as db:
        version = db.execute(text("select version_num from alembic_version")).scalar_one()
        assert (version, db.execute(text("select count(piece_key) from score")).scalar_one()) == (
            "0006",
            5,
        )


def _migrate_and_load(url: str) -> str:
    migrate(url)
    engine = connect(url, patient=True)
    try:
        with Session(engine) as db, db.begin():
            load_demo(db, TODAY, weeks=1)
        return "loaded"
    except Exception as error:
        return type(error).__name__
    finally:
        engine.dispose()


def test_work_on_a_stored_heading_becomes_the_aim_it_was(empty):
    """`work T` told what the coach hoped for; now it would end the work of each window."""
    url = empty
    command.upgrade(alembic(url), "0007")
    board = (
        "# Bells\n\n## Core: EMOM 12:00, work 0:40, score done\n10 sit-up\n"
        "> work 0:40 of each minute\n\n## Power: intervals 0:07/2:00 x 6\nmax sprint\n"
    )
    engine = create_engine(url)
    with engine.begin() as db:
        db.execute(text("insert into programme (name) values ('Daily')"))
        form = {"date": TODAY, "board": board}
        db.execute(
            text(
                "insert into day (programme_id, date, text, version) values (1, :date, :board, 1)"
            ),
            form,
        )
        db.execute(text("insert into banked_board (name, text) values ('Bells', :board)"), form)

    def texts() -> set[str]:
        with engine.connect() as db:
            return {
                row for table in ("day", "banked_board")
                for row in db.scalars(text(f"select text from {table}"))
            }  # fmt: skip

    migrate(url)
    (told,) = texts()
    assert told == board.replace("12:00, work 0:40", "12:00, aim 0:40")
    piece = parse(told).session.pieces[0]
    assert (piece.aim_s, clock(piece).work_s) == (40, 720)
    command.downgrade(alembic(url), "0007")
    assert texts() == {board}
    engine.dispose()


def test_numbers_that_were_kept_as_reps_stay_reps(old):
    engine, url = old
    command.upgrade(alembic(url), "0007")
    with engine.begin() as db:
        ids = db.execute(text("select id from score order by id")).scalars().all()
        for row, entered, kind in (
            (ids[0], "8 9 10 15", "total reps"),
            (ids[1], "60 70 75", "load"),
            (ids[2], "42", "total reps"),
        ):
            change = text("update score set entered = :entered, kind = :kind where id = :id")
            db.execute(change, {"entered": entered, "kind": kind, "id": row})

    def entered() -> list[str]:
        with engine.connect() as db:
            return list(db.scalars(text("select entered from score order by id limit 3")))

    migrate(url)
    assert entered() == ["8 9 10 15 reps", "60 70 75", "42"]
    command.downgrade(alembic(url), "0007")
    assert entered() == ["8 9 10 15", "60 70 75", "42"]


def test_two_processes_may_migrate_and_load_the_demo_at_once(empty):
    with ProcessPoolExecutor(2, multiprocessing.get_context("spawn")) as pool:
        told = list(pool.map(_migrate_and_load, [empty, empty]))
    assert told == ["loaded", "loaded"]
    engine = connect(empty)
    with Session(engine) as db:
        assert db.scalar(select(func.count()).select_from(Gym)) == 1
        names = list(db.scalars(select(Person.name)))
        assert len(names) == len(set(names))
        twice = select(ScoreRow.piece_id, ScoreRow.person_id).group_by(
            ScoreRow.piece_id, ScoreRow.person_id
        )
        assert db.execute(twice.having(func.count() > 1)).all() == []
    engine.dispose()
