"""Who sees what: hidden from standings means hidden, and only coaches see who came."""

import json
import time
import urllib.error
import urllib.request
from concurrent.futures import ThreadPoolExecutor

import pytest
from fastapi.testclient import TestClient
from shared import TODAY, Served, press, published
from sqlalchemy import create_engine

from pine_ladder.api.app import create_app
from pine_ladder.store.database import connect
from pine_ladder.store.people.people import weakness

DATE = TODAY.isoformat()
DAY = f"/api/days/{DATE}"
BOARD = """# Neap

## Conditioning "Neap": AMRAP 12:00
10 push-up
20 sit-up

## Conditioning "Ebb": for time, cap 5:00
60 air squat
"""
PIECE = f"{DAY}/pieces/1"
HIDDEN = {"profile": {"hidden": True}, "version": 0}


@pytest.fixture
def coach(browser_of, gym):
    client = browser_of("Carla")
    published(client, BOARD)
    browser_of("Anna").put("/api/me/profile", json=HIDDEN)
    body = {"entered": "7+3", "tier": 0, "track": 0, "version": 0}
    client.put(f"{PIECE}/scores/{gym['Anna']}", json=body)
    return client


def test_reading_an_entry_does_not_tell_where_the_hidden_one_stands(coach, browser_of):
    bert = browser_of("Bert")
    for entered in ("1", "7+2", "7+3", "7+4", "12"):
        read = bert.post(f"/api/me{PIECE[4:]}/read", json={"entered": entered}).json()
        assert read["rank"] == 1, entered


def test_no_rank_of_mine_counts_the_hidden_one_but_the_coachs_sheet_does(coach, browser_of, gym):
    bert = browser_of("Bert")
    body = {"entered": "5", "tier": 0, "track": 0, "version": 0}
    kept = bert.put(f"/api/me{PIECE[4:]}/score", json=body).json()
    assert kept["rank"] == 1
    assert bert.get(f"/api/me/days/{DATE}").json()["scores"][0]["rank"] == 1
    (place,) = bert.get(f"{PIECE}/standings").json()["sections"][0]["places"]
    assert place["entry"]["athlete_id"] == gym["Bert"]
    ranks = {one["person_id"]: one["rank"] for one in coach.get(f"{DAY}/sheet").json()["scores"]}
    assert ranks == {gym["Anna"]: 1, gym["Bert"]: 2}


def test_who_came_to_a_class_is_for_coaches(coach, browser_of, gym):
    held = coach.put(f"{DAY}/classes/06:30:00").json()["id"]
    coach.put(f"/api/classes/{held}/here/{gym['Anna']}", json={"here": True})
    bert = browser_of("Bert")
    assert bert.get(f"{PIECE}/standings?class_id={held}").status_code == 403
    assert coach.get(f"{PIECE}/standings?class_id={held}").status_code == 200
    (seen,) = bert.get(f"/api/me{DAY[4:]}/classes").json()["classes"]
    assert (seen["others"], seen["names"]) == (1, [])


def test_members_see_who_comes_where_they_allow_it(coach, browser_of, gym):
    held = coach.put(f"{DAY}/classes/06:30:00").json()["id"]
    coach.put(f"/api/classes/{held}/here/{gym['Emma']}", json={"here": True})
    browser_of("Emma").put("/api/me/profile", json={"profile": {"seen": True}, "version": 0})
    (seen,) = browser_of("Bert").get(f"/api/me{DAY[4:]}/classes").json()["classes"]
    assert seen["names"] == ["Emma Test"]


def test_ends_of_the_hidden_are_on_no_display_and_no_other_phone(coach, browser_of, stranger, gym):
    held = coach.put(f"{DAY}/classes/06:30:00").json()["id"]
    state = press(coach, held, None, 0, key="2").json()
    state = press(coach, held, "start", state["step"], lead_s=0).json()
    time.sleep(0.1)
    for name in ("Anna", "Bert"):
        end = {"athlete_id": gym[name], "key": "2"}
        state = press(coach, held, "finish", state["step"], **end).json()
    assert len(state["finishes"]) == 2
    token = coach.post("/api/walls", json={"name": "Main"}).json()["token"]
    wall = stranger.get(f"/api/wall/{token}").json()["clock"]["finishes"]
    bert = browser_of("Bert").get("/api/me/clock").json()["finishes"]
    mine = browser_of("Anna").get("/api/me/clock").json()["finishes"]
    assert [one["person_id"] for one in wall] == [gym["Bert"]]
    assert [one["person_id"] for one in bert] == [gym["Bert"]]
    assert len(mine) == 2


def test_an_end_that_waited_for_the_network_counts_from_when_it_was_pressed(coach, gym):
    held = coach.put(f"{DAY}/classes/06:30:00").json()["id"]
    state = press(coach, held, None, 0, key="2").json()
    begun = press(coach, held, "start", state["step"], lead_s=0).json()["began"]
    time.sleep(3.2)
    end = {"athlete_id": gym["Bert"], "key": "2", "at": begun + 1.5}
    told = press(coach, held, "finish", 0, **end).json()
    assert [one["shown"] for one in told["finishes"]] == ["0:01"]


def test_deactivated_people_are_out_at_once_and_for_good(coach, browser_of, gym):
    anna = browser_of("Anna")
    coach.patch(f"/api/athletes/{gym['Anna']}", json={"active": False})
    assert anna.get("/api/me").status_code == 401
    coach.patch(f"/api/athletes/{gym['Anna']}", json={"active": True})
    # An old cookie stays dead when the person comes back.
    assert anna.get("/api/me").status_code == 401


def test_a_crowd_at_the_door_keeps_nobody_inside_waiting(coach, engine):
    server = Served(engine)

    def knock(n: int) -> int:
        body = json.dumps({"email": f"n{n}@test.example", "password": "guess"}).encode()
        request = urllib.request.Request(f"{server.base}/api/sign-in", body)
        request.add_header("content-type", "application/json")
        try:
            return urllib.request.urlopen(request, timeout=50).status
        except urllib.error.HTTPError as refusal:
            return refusal.code

    try:
        with ThreadPoolExecutor(40) as pool:
            crowd = [pool.submit(knock, n) for n in range(60)]
            begun = time.monotonic()
            urllib.request.urlopen(f"{server.base}/api/time", timeout=50).read()
            waited = time.monotonic() - begun
            answers = [one.result() for one in crowd]
    finally:
        server.stop()
    assert set(answers) <= {401, 429, 503}
    assert waited < 10


@pytest.mark.parametrize(
    "password", ["short", "password1234", "lighthouse1", "Carla Test 1", "qwertyuiop1"]
)
def test_a_password_that_is_easily_guessed_is_refused_with_a_reason(coach, password):
    assert weakness(password, "Carla Test", "carla@test.example")
    form = {"current": "wide-mooring-rope", "new": password}
    answer = coach.post("/api/password", json=form)
    assert answer.status_code == 400
    assert "password" in answer.json()["detail"]


def test_a_database_that_is_away_is_a_503_with_a_sentence():
    away = create_engine(
        "postgresql+psycopg://nobody:x@127.0.0.1:1/none", connect_args={"connect_timeout": 1}
    )
    client = TestClient(create_app(away, learns=False))
    answer = client.get("/api/front-door")
    assert answer.status_code == 503
    assert "try again" in answer.json()["detail"]
    assert int(answer.headers["retry-after"]) > 0
    health = client.get("/api/health")
    assert (health.status_code, health.json()["database"]) == (503, "does not answer")


def test_health_tells_of_database_and_schema(stranger):
    health = stranger.get("/api/health").json()
    assert all(one["failing_since"] is None for one in health.pop("loops"))
    assert health == {
        "version": "0.2.0",
        "database": "answers",
        "schema_is": "current",
        "mail": {"on": False, "waiting": 0, "troubled": 0},
    }


def test_what_goes_wrong_in_the_database_is_told_without_values(database_url, caplog):
    from sqlalchemy import text
    from sqlalchemy.exc import DBAPIError

    with connect(database_url).connect() as db, pytest.raises(DBAPIError) as failed:
        db.execute(text("select cast(:note as integer)"), {"note": "a health note"})
    assert "parameters hidden" in str(failed.value)


def test_headers_keep_the_browser_at_home(stranger):
    found = stranger.get("/api/health").headers
    assert "camera=()" in found["permissions-policy"]
    assert "strict-transport-security" not in found
    secure = TestClient(stranger.app, base_url="https://testserver").get("/api/health").headers
    assert secure["strict-transport-security"].startswith("max-age=")


def test_nobody_but_a_coach_filters_standings_by_age(coach, browser_of, gym):
    anna = browser_of("Anna")
    for client, status in ((coach, 200), (anna, 403)):
        path = f"/api/days/{TODAY}/pieces/1/standings"
        assert client.get(path, params={"age": "35 to 49"}).status_code == status
        assert client.get(path).status_code == 200
