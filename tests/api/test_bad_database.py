"""A database in trouble, and clocks that are off: told in a sentence, and nothing half done."""

import datetime as dt
from collections.abc import Iterator

import pytest
import time_machine
from shared import TODAY, press, published
from sqlalchemy import Engine, text

DAY = f"/api/days/{TODAY.isoformat()}"
BOARD = '# Neap\n\n## Conditioning "Neap": AMRAP 12:00\n10 push-up\n'


@pytest.fixture
def coach(browser_of):
    client = browser_of("Carla")
    published(client, BOARD)
    return client


@pytest.fixture
def no_room(engine: Engine) -> Iterator[Engine]:
    """PostgreSQL as it answers where a score needs a page that the disk has not."""
    with engine.begin() as db:
        db.execute(
            text(
                "create or replace function no_room() returns trigger language plpgsql as $$ begin "
                "raise exception 'could not extend file' using errcode = 'disk_full'; end $$"
            )
        )
        db.execute(text("create trigger no_room before insert on score execute function no_room()"))
    yield engine
    with engine.begin() as db:
        db.execute(text("drop trigger if exists no_room on score"))
        db.execute(text("drop function no_room"))


def score(coach, person: int):
    body = {"entered": "5+3", "tier": 0, "track": 0, "version": 0, "request_key": "one-write-01"}
    return coach.put(f"{DAY}/pieces/1/scores/{person}", json=body)


def test_a_full_disk_is_told_and_the_same_write_lands_once_there_is_room(coach, gym, no_room):
    refused = score(coach, gym["Anna"])
    assert (refused.status_code, refused.headers["retry-after"]) == (503, "2")
    assert "no room left. Nothing was changed" in refused.json()["detail"]
    # Reading goes on.
    assert coach.get(f"{DAY}/sheet").json()["scores"] == []
    with no_room.begin() as db:
        db.execute(text("drop trigger no_room on score"))
    assert score(coach, gym["Anna"]).status_code == 200
    assert score(coach, gym["Anna"]).json()["version"] == 1


def test_a_write_that_somebody_else_holds_up_is_told_and_not_waited_for_long(coach, gym, engine):
    with engine.begin() as other:
        other.execute(text("lock table score in exclusive mode"))
        refused = score(coach, gym["Anna"])
        assert (refused.status_code, refused.json()["detail"]) == (
            503,
            "someone else is writing the same just now: try again",
        )
    assert score(coach, gym["Anna"]).status_code == 200


@pytest.mark.parametrize("off", [dt.timedelta(days=-3), dt.timedelta(hours=-2), dt.timedelta(1)])
def test_an_application_whose_clock_is_off_keeps_the_days_and_the_time_of_the_others(
    coach, browser_of, gym, off
):
    told = coach.get("/api/gym").json()["today"]
    held = coach.put(f"{DAY}/classes/18:00:00", json={}).json()["id"]
    press(coach, held, None, 0, key="1")
    press(coach, held, "start", 1)
    right = coach.get(f"/api/classes/{held}/clock").json()["began"]
    with time_machine.travel(dt.datetime.now(dt.UTC) + off, tick=True):
        # Still signed in, and whoever signs in now is as well.
        wrong = browser_of("Cyril")
        for client in (coach, wrong):
            assert client.get("/api/gym").json()["today"] == told
            assert client.get(f"/api/classes/{held}/clock").json()["began"] == right
        assert score(wrong, gym["Bert"]).status_code == 200
        version = wrong.get(DAY).json()["version"]
        saved = wrong.put(DAY, json={"text": f"{BOARD}5 burpee\n", "version": version}).json()
        when = dt.datetime.fromisoformat(saved["saved_at"])
        displays = wrong.get("/api/time").json()["now"]
    now = dt.datetime.now(dt.UTC)
    assert abs((now - when).total_seconds()) < 60
    assert abs(now.timestamp() - displays) < 60
    assert coach.get(f"{DAY}/sheet").status_code == 200


@pytest.mark.parametrize(
    ("sqlstate", "status"),
    [
        ("42703", 500), ("42P01", 500), ("22012", 500), ("23502", 500), ("25P02", 500),
        ("57014", 503), ("57P01", 503), ("40P01", 503), ("25P03", 503), ("53100", 503),
        ("23505", 409), ("23503", 409), ("22001", 422), ("22003", 422),
    ],
)  # fmt: skip
def test_only_troubles_of_the_world_are_told_as_such(coach, gym, engine, sqlstate, status, caplog):
    """A missing column is a fault of ours: a 500 with its traceback, and without the values."""
    with engine.begin() as db:
        db.execute(
            text(
                "create or replace function breaks() returns trigger language plpgsql as $$ begin "
                f"raise exception 'Anna Test has 5+3' using errcode = '{sqlstate}'; end $$"
            )
        )
        db.execute(text("create trigger breaks before insert on score execute function breaks()"))
    try:
        with caplog.at_level("INFO"):
            answer = score(coach, gym["Anna"])
    finally:
        with engine.begin() as db:
            db.execute(text("drop trigger breaks on score"))
            db.execute(text("drop function breaks"))
    assert answer.status_code == status
    assert "Anna" not in answer.text
    if status == 500:
        assert "Traceback" in caplog.text or "sheet.py" in caplog.text
        assert sqlstate in caplog.text
    assert "Anna Test" not in caplog.text
