"""Who may do what: every route, every role, and what keeps strangers out."""

import re
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest
from access_table import FILLED, TABLE, rows
from fastapi import APIRouter, FastAPI
from fastapi.testclient import TestClient
from shared import PASSWORD, small_gym
from sqlalchemy import event, text
from sqlalchemy.orm import Session

from pine_ladder.api.access import COOKIE, GUARD_HEADER, include
from pine_ladder.api.app import create_app
from pine_ladder.api.people import sign_in_guard as door
from pine_ladder.store.people import people
from pine_ladder.usecases import signing_in

ALLOWED = {
    "public": {"stranger", "athlete", "coach"},
    "member": {"athlete", "coach"},
    "coach": {"coach"},
}


@pytest.fixture
def callers(browser_of, stranger):
    return {"stranger": stranger, "athlete": browser_of("Anna"), "coach": browser_of("Carla")}


def test_every_route_stands_in_the_table(engine):
    """A route that is added is written down here too, by who may call it."""
    written = {access: set(rows(table)) for access, table in TABLE.items()}
    described = create_app(engine).openapi()["paths"]
    there = {(m.upper(), path) for path, methods in described.items() for m in methods}
    assert set().union(*written.values()) == there
    assert sum(map(len, written.values())) == len(there), "a route stands in one table alone"


@pytest.mark.parametrize("access", TABLE)
def test_a_route_admits_exactly_whom_the_table_says(access, callers):
    for method, path in rows(TABLE[access]):
        address = re.sub(r"{(\w+)}", lambda m: FILLED[m[1]], path)
        if path == "/api/sign-out":
            continue
        for role, client in callers.items():
            if path.endswith("/live") and role in ALLOWED[access]:
                continue
            # An empty body is refused as malformed only after the guard has let it in.
            answer = client.request(method, address)
            denied = answer.status_code in (401, 403)
            assert denied == (role not in ALLOWED[access]), (role, method, path, answer.text)


def test_a_route_without_a_guard_keeps_the_application_from_starting():
    bare = APIRouter(prefix="/api")
    bare.add_api_route("/leak", lambda: {})
    with pytest.raises(RuntimeError, match="no guard"):
        include(FastAPI(), bare)


def test_the_description_of_the_api_is_not_served_to_strangers(stranger):
    assert "paths" not in stranger.get("/openapi.json").text
    assert stranger.get("/api/nowhere").status_code == 404


def test_a_write_without_the_guard_is_refused(browser_of):
    client = browser_of("Carla")
    guard = client.headers.pop(GUARD_HEADER)
    body = {"text": "# X", "version": 0}
    assert client.put("/api/days/2026-06-04", json=body).status_code == 403
    headers = {GUARD_HEADER: guard}
    assert client.put("/api/days/2026-06-04", json=body, headers=headers).status_code == 200


def test_a_sign_in_from_another_site_is_refused(stranger):
    form = {"email": "carla@test.example", "password": PASSWORD}
    answer = stranger.post("/api/sign-in", json=form, headers={"origin": "https://elsewhere.test"})
    assert answer.status_code == 403


def test_the_cookie_is_kept_from_scripts_and_other_sites(stranger):
    form = {"email": "CARLA@test.example", "password": PASSWORD}
    cookie = stranger.post("/api/sign-in", json=form).headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=lax" in cookie


def test_only_hashes_are_stored(browser_of, engine):
    client = browser_of("Carla")
    with engine.connect() as db:
        (token,) = db.execute(text("select token_hash from sign_in")).one()
        (stored,) = db.execute(
            text("select password_hash from person where email = 'carla@test.example'")
        ).one()
    assert client.cookies[COOKIE].encode() not in bytes(token)
    assert stored.startswith("$argon2id$")


def test_a_wrong_password_and_an_unknown_address_get_the_same_answer(stranger):
    wrong = stranger.post("/api/sign-in", json={"email": "carla@test.example", "password": "no"})
    unknown = stranger.post("/api/sign-in", json={"email": "who@test.example", "password": "no"})
    assert (wrong.status_code, wrong.json()) == (unknown.status_code, unknown.json())


def test_guessing_slows_down_even_with_the_right_password(stranger):
    bad = {"email": "carla@test.example", "password": "guess"}
    for _ in range(signing_in.PER_PAIR.free):
        assert stranger.post("/api/sign-in", json=bad).status_code == 401
    good = {**bad, "password": PASSWORD}
    slowed = stranger.post("/api/sign-in", json=good)
    assert slowed.status_code == 429
    assert 0 < int(slowed.headers["retry-after"]) <= 3
    other = {"email": "cyril@test.example", "password": PASSWORD}
    assert stranger.post("/api/sign-in", json=other).status_code == 200
    time.sleep(int(slowed.headers["retry-after"]))
    assert stranger.post("/api/sign-in", json=good).status_code == 200


@pytest.mark.parametrize(
    "written", [" carla@test.example ", "CARLA@test.example", "\tCarla@test.example"]
)
def test_an_address_written_another_way_is_the_same_account_to_the_limit(stranger, written):
    for n in range(signing_in.PER_PAIR.free):
        email = "carla@test.example" if n % 2 else written
        stranger.post("/api/sign-in", json={"email": email, "password": "guess"})
    again = stranger.post("/api/sign-in", json={"email": written, "password": PASSWORD})
    assert again.status_code == 429


def test_a_device_that_is_known_is_not_slowed_by_anybody_elses_guesses(stranger, engine):
    mine = TestClient(create_app(engine, learns=False))
    good = {"email": "carla@test.example", "password": PASSWORD}
    assert mine.post("/api/sign-in", json=good).status_code == 200
    for _ in range(signing_in.PER_PAIR.free):
        stranger.post("/api/sign-in", json={**good, "password": "guess"})
    assert stranger.post("/api/sign-in", json=good).status_code == 429
    assert mine.post("/api/sign-in", json=good).status_code == 200


def test_a_burst_of_guesses_at_once_is_held_as_well(stranger, engine):
    form = {"email": "carla@test.example", "password": "guess"}

    def guess(_: int) -> int:
        client = TestClient(create_app(engine, learns=False))
        return client.post("/api/sign-in", json=form).status_code

    with ThreadPoolExecutor(8) as pool:
        answers = list(pool.map(guess, range(signing_in.PER_PAIR.free + 8)))
    assert answers.count(401) <= signing_in.PER_PAIR.free + 4
    assert answers.count(429) >= 4


class Elsewhere:
    """Clients whose requests come from network addresses that were never seen before."""

    def __init__(self, engine):
        self.app = create_app(engine, learns=False)
        self.number = 0

    def next(self) -> TestClient:
        self.number += 1
        address = (f"10.9.{self.number // 250}.{self.number % 250}", 5000)
        return TestClient(self.app, client=address)


def test_guesses_from_everywhere_do_not_lock_out_a_new_device_of_the_owner(engine, gym):
    """One guess after the other from new addresses, and the right password in between."""
    elsewhere = Elsewhere(engine)
    bad = {"email": "carla@test.example", "password": "guess"}
    for _ in range(signing_in.PER_ACCOUNT.free + 2):
        elsewhere.next().post("/api/sign-in", json=bad)
    answers = []
    for _ in range(3):
        assert elsewhere.next().post("/api/sign-in", json=bad).status_code == 401
        good = elsewhere.next().post("/api/sign-in", json={**bad, "password": PASSWORD})
        answers.append(good.status_code)
    assert answers == [200] * 3
    # Who has failed there before is slowed as ever.
    same = elsewhere.next()
    assert same.post("/api/sign-in", json=bad).status_code == 401
    assert same.post("/api/sign-in", json=bad).status_code == 429


def test_newcomers_to_a_guessed_account_wait_in_order_and_not_for_ever(engine, gym):
    with Session(engine) as db, db.begin():
        for number in range(signing_in.PER_ACCOUNT.free):
            signing_in.admit(db, "carla@test.example", f"10.8.0.{number}", False)
        delays, refused = [], []
        for number in range(14):
            admission = signing_in.admit(db, "carla@test.example", f"10.7.0.{number}", False)
            (refused if admission.refused_s else delays).append(admission)
    waits = [one.delay_s for one in delays]
    assert waits == sorted(waits)
    assert len(waits) >= signing_in.NEWCOMER_WAIT_S / signing_in.NEWCOMER_GAP_S
    assert max(waits) <= signing_in.NEWCOMER_WAIT_S
    assert refused, "the queue has an end"


def test_a_crowd_of_guesses_holds_two_connections_at_most(engine, gym):
    """While tries wait for the lock of an account, members go on working."""
    app = create_app(engine, learns=False)
    with engine.connect() as holder:
        lock = "try/carla@test.example"
        holder.execute(text("select pg_advisory_lock(hashtextextended(:lock, 0))"), {"lock": lock})
        form = {"email": "carla@test.example", "password": "guess"}
        with ThreadPoolExecutor(30) as pool:
            for _ in range(30):
                pool.submit(lambda: TestClient(app).post("/api/sign-in", json=form))
            time.sleep(0.5)
            assert engine.pool.checkedout() - 1 <= door.AT_ONCE
            assert TestClient(app).get("/api/front-door").status_code == 200
            holder.execute(
                text("select pg_advisory_unlock(hashtextextended(:lock, 0))"), {"lock": lock}
            )


def test_who_was_told_to_wait_is_refused_without_asking_the_database(stranger, engine):
    form = {"email": "carla@test.example", "password": "guess"}
    for _ in range(signing_in.PER_PAIR.free + 1):
        stranger.post("/api/sign-in", json=form)
    slowed = stranger.post("/api/sign-in", json=form)
    statements = []
    event.listen(engine, "before_cursor_execute", lambda *told: statements.append(told[2]))
    assert slowed.status_code == 429
    if int(slowed.headers["retry-after"]) > 1:
        assert stranger.post("/api/sign-in", json=form).status_code == 429
        assert statements == []


LEET = "P4$$w0rd1" * 8


@pytest.mark.parametrize("password", [LEET, "4@8({[<369&#!1/|0$5+7%2" * 3, "aA1!" * 40])
def test_a_password_of_any_shape_is_looked_at_in_a_blink(password):
    begun = time.process_time()
    people.weakness(password, "Carla Test", "carla@test.example", "Test Hall" * 8)
    assert time.process_time() - begun < 3, "41 seconds for 72 characters before"


@pytest.mark.parametrize(
    ("password", "taken"),
    [
        ("the tide comes in twice a day and so do we", True),
        ("Test Hall Test Hall Test Hall Test Hall", False),
        ("aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa", False),
        ("abcabcabcabcabcabcabcabcabcabcabcabcabc", False),
    ],
)
def test_a_long_pass_phrase_is_taken_and_a_long_repetition_is_not(password, taken):
    why = people.weakness(password, "Carla Test", "carla@test.example", "Test Hall")
    assert (why is None) == taken


def test_a_strength_check_runs_outside_the_event_loop(browser_of, monkeypatch):
    threads = []

    def noted(*_known: str) -> None:
        threads.append(threading.current_thread().name)

    monkeypatch.setattr(people, "weakness", noted)
    client = browser_of("Anna")
    form = {"current": PASSWORD, "new": "another-wide-rope"}
    assert client.post("/api/password", json=form).status_code == 204
    assert threads[0].startswith("door")


def test_signing_out_ends_the_session(browser_of):
    client = browser_of("Anna")
    token = client.cookies[COOKIE]
    assert client.post("/api/sign-out").status_code == 204
    client.cookies.set(COOKIE, token)
    assert client.get("/api/me").status_code == 401


def test_a_new_password_ends_the_other_sessions(browser_of):
    here, there = browser_of("Anna"), browser_of("Anna")
    short = {"current": PASSWORD, "new": "short"}
    assert here.post("/api/password", json=short).status_code == 400
    wrong = {"current": "nope", "new": "long-enough-now"}
    assert here.post("/api/password", json=wrong).status_code == 400
    assert here.post("/api/password", json={**wrong, "current": PASSWORD}).status_code == 204
    assert here.get("/api/me").status_code == 200
    assert there.get("/api/me").status_code == 401


def test_someone_who_has_left_cannot_come_in(browser_of, gym):
    anna, carla = browser_of("Anna"), browser_of("Carla")
    carla.patch(f"/api/athletes/{gym['Anna']}", json={"active": False})
    assert anna.get("/api/me").status_code == 401


def test_one_click_sign_in_exists_in_the_demo_alone(engine, password_hash):
    people_of = small_gym(engine, password_hash, demo=False)
    client = TestClient(create_app(engine))
    form = {"person_id": people_of["Carla"]}
    assert client.get("/api/front-door").json()["people"] == []
    assert client.post("/api/demo/sign-in", json=form).status_code == 403
    people_of = small_gym(engine, password_hash, demo=True)
    form = {"person_id": people_of["Carla"]}
    assert client.post("/api/demo/sign-in", json=form).json()["role"] == "coach"
