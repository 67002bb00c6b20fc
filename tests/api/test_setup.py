"""Opening a gym where none is, and changing its shape once it lives."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import pytest
from fastapi.testclient import TestClient
from shared import TODAY, keys, published
from sqlalchemy import text
from sqlalchemy.orm import Session
from typer.testing import CliRunner

from pine_ladder.api.access import GUARD_HEADER
from pine_ladder.api.app import create_app
from pine_ladder.cli import app as command_line
from pine_ladder.store.database import connect, migrate
from pine_ladder.usecases import setup as opening

GOOD = "breakwater-kettle-4"
DAY = f"/api/days/{TODAY}"
BOARD = """## Conditioning "Gannet": AMRAP 10:00
10 pull-up | 10 ring row | 5 ring row
10 sit-up
"""


@pytest.fixture
def bare(empty):
    """An application on a database with the tables alone, and its engine."""
    migrate(empty)
    engine = connect(empty)
    yield engine
    engine.dispose()


def code_of(engine) -> str:
    with Session(engine) as db, db.begin():
        return opening.new_code(db)


def form(code: str, **more) -> dict:
    return {
        "code": code,
        "name": "Skua Hall",
        "zone": "Europe/Lisbon",
        "coach": "Ada Quill",
        "email": " Ada@skua.example",
        "password": GOOD,
        **more,
    }


def client_of(engine) -> TestClient:
    return TestClient(create_app(engine, learns=False))


def test_an_empty_database_says_so_at_the_door(bare):
    door = client_of(bare).get("/api/front-door").json()
    assert door == {"gym": "", "opened": False, "demo": False, "people": []}


def test_a_gym_is_opened_with_the_code_once(bare):
    client, code = client_of(bare), code_of(bare)
    said = form(
        code.lower().replace("-", " "),
        unit="lb",
        tiers=["As written", "Lighter day"],
        tracks=["Red", "Blue"],
        classes=["6:30, 6 pm", "", "", "", "", "9.00", ""],
    )
    inside = client.post("/api/setup", json=said)
    assert inside.status_code == 201, inside.text
    assert (inside.json()["name"], inside.json()["role"]) == ("Ada Quill", "coach")
    gym = client.get("/api/gym").json()
    assert (gym["name"], gym["zone"]) == ("Skua Hall", "Europe/Lisbon")
    assert [one["name"] for one in gym["programmes"]] == ["Daily"]
    assert (gym["tiers"], gym["tracks"]) == (["As written", "Lighter day"], ["Red", "Blue"])
    settings = client.get("/api/settings").json()["settings"]
    assert (settings["unit"], settings["classes"][0]) == ("lb", "06:30, 18:00")
    assert settings["bars"] == ["45 lb", "35 lb"]
    assert "45 lb" in settings["plates"] and "20" not in settings["plates"]
    again = client_of(bare).post("/api/setup", json=said)
    assert (again.status_code, again.json()["detail"]) == (
        409, "a gym is open here already: sign in",
    )  # fmt: skip


def test_what_is_still_open_is_listed(bare):
    client = client_of(bare)
    client.headers[GUARD_HEADER] = client.post("/api/setup", json=form(code_of(bare))).json()[
        "guard"
    ]
    assert [one["key"] for one in client.get("/api/setup/open").json() if not one["done"]] == [
        "classes", "kit", "people", "first day", "published",
    ]  # fmt: skip
    client.post("/api/people", json={"name": "Finn Wicker"})
    published(client, BOARD)
    assert [one["key"] for one in client.get("/api/setup/open").json() if not one["done"]] == [
        "classes", "kit",
    ]  # fmt: skip


def test_days_that_old_scores_brought_in_are_no_first_day(bare):
    client = client_of(bare)
    guard = client.post("/api/setup", json=form(code_of(bare))).json()["guard"]
    client.headers[GUARD_HEADER] = guard
    published(client, BOARD)
    with bare.begin() as db:
        db.execute(
            text(
                "insert into score_import (made) select jsonb_build_object('scores', '[]'::jsonb, "
                "'people', '[]'::jsonb, 'days', jsonb_agg(id)) from day"
            )
        )
    left = [one["key"] for one in client.get("/api/setup/open").json() if not one["done"]]
    assert {"first day", "published"} <= set(left)


@pytest.mark.parametrize(
    ("wrong", "why"),
    [
        ({"code": "AAAA-AAAA-AAAA"}, "not the set-up code"),
        ({"name": "  "}, "a gym has a name"),
        ({"email": "ada"}, "ada is not an e-mail address"),
        ({"password": "skua hall 1"}, "easily guessed"),
        ({"zone": "Skerrow"}, "no such time zone"),
        ({"tiers": ["One", "one"]}, "two tiers called one"),
        ({"classes": ["", "25:00", "", "", "", "", ""]}, "Tuesday: 25:00"),
        ({"role": "coach"}, "role"),
    ],
)
def test_what_is_wrong_is_said_and_nothing_is_set_up(bare, wrong, why):
    client, code = client_of(bare), code_of(bare)
    refused = client.post("/api/setup", json={**form(code), **wrong})
    assert refused.status_code in (400, 403, 422)
    assert why in refused.text
    assert not client.get("/api/front-door").json()["opened"]
    assert client.post("/api/setup", json=form(code)).status_code == 201


def test_guesses_at_the_code_are_slowed(bare):
    client = client_of(bare)
    code_of(bare)
    tries = [client.post("/api/setup", json=form("AAAA")).status_code for _ in range(12)]
    assert (tries[0], tries[-1]) == (403, 429)


def test_of_two_who_open_at_once_one_does(bare):
    code, client = code_of(bare), client_of(bare)
    with ThreadPoolExecutor(2) as pool:
        answers = pool.map(
            lambda name: client.post("/api/setup", json=form(code, name=name)).status_code,
            ["Skua Hall", "Tern Hall"],
        )
    assert sorted(answers) == [201, 409]


def test_the_command_line_opens_one_too(bare, empty, monkeypatch):
    monkeypatch.setenv("PINE_LADDER_DATABASE_URL", empty)
    run = CliRunner()
    words = ["gym", "open", "Skua Hall", "--coach", "Ada Quill", "--email", "ada@skua.example",
             "--zone", "Europe/Lisbon", "--tier", "As written", "--class", "Mon 6:30"]  # fmt: skip
    done = run.invoke(command_line, words, input=f"{GOOD}\n{GOOD}\n")
    assert done.exit_code == 0, done.output
    assert "Skua Hall is open" in done.output
    assert run.invoke(command_line, ["gym", "code"]).exit_code == 1
    again = run.invoke(command_line, words, input=f"{GOOD}\n{GOOD}\n")
    assert again.exit_code != 0
    assert "holds a gym already" in again.output


# The shape of a gym that lives.


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


def shape(coach, **change) -> dict:
    now = coach.get("/api/shape").json()
    columns = {
        what: {"names": [{"was": i, "name": name} for i, name in enumerate(now[what])]}
        for what in ("tiers", "tracks")
    }
    return {**columns, "version": now["version"], **change}


MERGED = {
    "names": [{"was": 0, "name": "As written"}, {"was": 2, "name": "Easier"}],
    "into": {"1": 2},
}


def test_tiers_are_renamed_and_added(coach):
    form = shape(coach, tiers={"names": [
        {"was": 0, "name": "Scaled"}, {"was": 1, "name": "As written"},
        {"was": 2, "name": "Starter"}, {"name": "First month"},
    ]})  # fmt: skip
    assert coach.post("/api/shape/look", json=form).json() == []
    done = coach.put("/api/shape", json=form)
    assert done.status_code == 200, done.text
    assert done.json()["tiers"] == ["Scaled", "As written", "Starter", "First month"]


def test_a_tier_is_merged_with_its_people_scores_and_boards(coach, gym):
    published(coach, BOARD)
    key = keys(coach, DAY)["Gannet"]
    for who, tier, entered in (("Dora", 1, "5+3"), ("Emma", 2, "6+7")):
        cell = f"{DAY}/pieces/{key}/scores/{gym[who]}"
        kept = coach.put(cell, json={"entered": entered, "tier": tier, "track": 0})
        assert kept.status_code == 200, kept.text
    form = shape(coach, tiers=MERGED)
    look = coach.post("/api/shape/look", json=form).json()
    assert look == [{"gone": "Scaled", "into": "Starter", "people": 1, "scores": 1, "boards": 1}]
    assert coach.put("/api/shape", json=form).status_code == 200
    assert coach.get("/api/gym").json()["tiers"] == ["As written", "Easier"]
    day = coach.get(DAY).json()
    assert "10 pull-up | 5 ring row\n" in day["text"]
    assert keys(coach, DAY)["Gannet"] == key
    board = coach.get(f"{DAY}/pieces/{key}/standings").json()
    (section,) = board["sections"]
    assert section["tier"] == 1
    # 6+7 of fifteen reps a round is ahead of 5+3 of twenty, which is read in that version now.
    found = {
        place["entry"]["name"]: (place["rank"], place["entry"]["display"])
        for place in section["places"]
    }
    assert found == {"Emma Test": (1, "6+7"), "Dora Test": (2, "5+3")}


@pytest.mark.parametrize(
    ("tiers", "why"),
    [
        ({"names": [{"was": 0, "name": "As written"}]}, "Scaled is in use"),
        ({"names": [{"was": 1, "name": "A"}], "into": {"0": 1, "2": 1}}, "first column"),
        ({"names": [{"was": 1, "name": "A"}, {"was": 0, "name": "B"}, {"was": 2, "name": "C"}]},
         "keep their order"),
        ({"names": [{"was": 7, "name": "A"}]}, "changed in the meantime"),
        ({"names": []}, "between one tier and 8"),
    ],
)  # fmt: skip
def test_what_would_lose_something_is_refused(coach, tiers, why):
    form = shape(coach, tiers=tiers)
    for refused in (coach.post("/api/shape/look", json=form), coach.put("/api/shape", json=form)):
        assert (refused.status_code, why in refused.text) == (422, True), refused.text
    assert coach.get("/api/gym").json()["tiers"] == ["As written", "Scaled", "Starter"]


def test_the_last_track_is_merged_and_the_first_stays(coach, gym):
    coach.patch(f"/api/people/{gym['Anna']}", json={"track": 1})
    first = shape(coach, tracks={"names": [{"was": 1, "name": "One"}], "into": {"0": 1}})
    assert coach.put("/api/shape", json=first).status_code == 422
    last = shape(coach, tracks={"names": [{"was": 0, "name": "One"}], "into": {"1": 0}})
    assert coach.put("/api/shape", json=last).status_code == 200
    assert coach.get("/api/gym").json()["tracks"] == ["One"]
    anna = next(p for p in coach.get("/api/people").json() if p["id"] == gym["Anna"])
    assert anna["track"] == 0


def test_a_second_coach_who_was_quicker_is_not_overwritten(coach):
    form = shape(coach)
    assert coach.put("/api/shape", json=form).status_code == 200
    assert coach.put("/api/shape", json=form).status_code == 409


def test_the_set_up_code_stays_the_same_until_it_is_used(bare):
    with Session(bare) as db, db.begin():
        first = opening.code_to_open(db, "")
    with Session(bare) as db, db.begin():
        assert opening.code_to_open(db, first) == first
        assert opening.code_to_open(db, "KTWQ-3H7P-ADLX") != first


def test_how_the_gym_trains_is_kept_and_followed_by_checks(browser_of):
    client = browser_of("Carla")
    board = "## Power: 5 sets, rest 0:20, for: power\n3 box jump\n4 push-up\n"

    def remarked() -> bool:
        body = {"text": board, "tier": 0, "track": None, "date": "2026-06-01"}
        found = client.post("/api/preview", json=body).json()["findings"]
        return any(one["code"] == "power-set-rest" for one in found)

    kept = client.get("/api/settings").json()
    assert kept["settings"]["style"]["power"] == "rested"
    assert remarked()
    kept["settings"]["style"]["power"] = "paired"
    form = {"settings": kept["settings"], "version": kept["version"]}
    assert client.put("/api/settings", json=form).json()["settings"]["style"]["power"] == "paired"
    assert not remarked()
