"""People of a gym: added, renamed, invited, let go; and the way back of who forgot a password."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

import pytest
from fastapi.testclient import TestClient
from shared import PASSWORD, TODAY, published
from sqlalchemy import text

from pine_ladder.api.access import GUARD_HEADER
from pine_ladder.api.app import create_app

GOOD = "breakwater-kettle-4"


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


@pytest.fixture
def stranger(engine):
    return TestClient(create_app(engine, learns=False))


def added(coach, **more):
    answer = coach.post("/api/people", json={"name": "Finn Skerry", **more})
    assert answer.status_code == 201, answer.text
    return answer.json()


def link(coach, person: int) -> str:
    answer = coach.post(f"/api/people/{person}/link")
    assert answer.status_code == 200, answer.text
    return answer.json()["path"].removeprefix("/join/")


def test_everybody_is_listed_coaches_first_and_who_left_last(coach, gym):
    coach.patch(f"/api/people/{gym['Anna']}", json={"active": False})
    found = coach.get("/api/people").json()
    assert [one["name"].split()[0] for one in found] == [
        "Carla", "Cyril", "Bert", "Dora", "Emma", "Anna",
    ]  # fmt: skip


def test_someone_new_is_invited_sets_a_password_and_steps_in(coach, stranger):
    person = added(coach, email=" Finn@Example.org ", tier=1)
    assert (person["email"], person["signs_in"]) == ("finn@example.org", False)
    token = link(coach, person["id"])
    seen = stranger.get(f"/api/links/{token}").json()
    assert seen == {
        "gym": "Test Hall", "name": "Finn Skerry", "email": "finn@example.org", "signs_in": False,
    }  # fmt: skip
    weak = stranger.post(f"/api/links/{token}", json={"password": "finn skerry"})
    assert weak.status_code == 400
    inside = stranger.post(f"/api/links/{token}", json={"password": GOOD})
    assert inside.status_code == 200, inside.text
    assert inside.json()["name"] == "Finn Skerry"
    assert stranger.get("/api/me").json()["id"] == person["id"]
    form = {"email": "finn@example.org", "password": GOOD}
    assert stranger.post("/api/sign-in", json=form).status_code == 200


def test_a_link_is_used_once_and_a_new_one_ends_the_one_before(coach, stranger):
    person = added(coach, email="finn@example.org")
    first = link(coach, person["id"])
    second = link(coach, person["id"])
    assert stranger.get(f"/api/links/{first}").status_code == 404
    assert stranger.post(f"/api/links/{second}", json={"password": GOOD}).status_code == 200
    again = stranger.post(f"/api/links/{second}", json={"password": "another-harbour-kettle-7"})
    assert again.status_code == 404
    assert "ask a coach for a new one" in again.json()["detail"]


def test_of_two_who_use_a_link_at_once_one_comes_in(coach, engine):
    token = link(coach, added(coach, email="finn@example.org")["id"])

    def enter(number: int) -> int:
        client = TestClient(create_app(engine, learns=False))
        body = {"password": f"breakwater-kettle-{number}"}
        return client.post(f"/api/links/{token}", json=body).status_code

    with ThreadPoolExecutor(4) as pool:
        assert sorted(pool.map(enter, range(4))) == [200, 404, 404, 404]


def test_a_link_does_not_last_for_ever(coach, stranger, engine):
    token = link(coach, added(coach, email="finn@example.org")["id"])
    with engine.begin() as db:
        db.execute(text("update one_time_link set expires_at = now() - interval '1 second'"))
    assert stranger.get(f"/api/links/{token}").status_code == 404
    assert stranger.post(f"/api/links/{token}", json={"password": GOOD}).status_code == 404


def test_a_forgotten_password_is_set_anew_and_ends_every_sign_in(coach, browser_of, stranger, gym):
    before = browser_of("Anna")
    token = link(coach, gym["Anna"])
    assert stranger.get(f"/api/links/{token}").json()["signs_in"] is True
    # Until the link is used nothing changes.
    assert before.get("/api/me").status_code == 200
    assert stranger.post(f"/api/links/{token}", json={"password": GOOD}).status_code == 200
    assert before.get("/api/me").status_code == 401
    old = {"email": "anna@test.example", "password": PASSWORD}
    assert stranger.post("/api/sign-in", json=old).status_code == 401


def test_who_is_let_go_is_out_the_address_is_free_and_the_scores_stay(coach, browser_of, gym):
    published(coach, '# Day\n\n## Conditioning "Neap": AMRAP 10:00\n10 burpee\n')
    day = f"/api/days/{TODAY.isoformat()}"
    key = coach.get(f"{day}/pieces").json()[0]["key"]
    body = {"entered": "9+3", "tier": 0, "track": 0, "version": 0}
    coach.put(f"{day}/pieces/{key}/scores/{gym['Anna']}", json=body)
    anna = browser_of("Anna")
    token = link(coach, gym["Anna"])
    gone = coach.patch(f"/api/people/{gym['Anna']}", json={"active": False}).json()
    assert (gone["active"], gone["email"], gone["signs_in"]) == (False, None, False)
    assert anna.get("/api/me").status_code == 401
    assert anna.get(f"/api/links/{token}").status_code == 404
    places = coach.get(f"{day}/pieces/{key}/standings").json()["sections"][0]["places"]
    assert [place["entry"]["display"] for place in places] == ["9+3"]
    assert added(coach, email="anna@test.example")["email"] == "anna@test.example"
    back = coach.patch(f"/api/people/{gym['Anna']}", json={"active": True}).json()
    assert back["active"]


def test_the_last_coach_cannot_leave(coach, gym):
    assert coach.patch(f"/api/people/{gym['Cyril']}", json={"active": False}).status_code == 200
    last = coach.patch(f"/api/people/{gym['Carla']}", json={"active": False})
    assert last.status_code == 409
    assert last.json()["detail"] == "Carla Test is the gym's last coach and cannot leave"
    assert coach.get("/api/me").status_code == 200


def test_two_coaches_who_let_each_other_go_at_once_do_not_both_leave(browser_of, gym):
    pairs = [(browser_of("Carla"), gym["Cyril"]), (browser_of("Cyril"), gym["Carla"])]

    def let_go(pair) -> int:
        client, other = pair
        return client.patch(f"/api/people/{other}", json={"active": False}).status_code

    with ThreadPoolExecutor(2) as pool:
        statuses = sorted(pool.map(let_go, pairs))
    assert statuses[0] == 200
    assert statuses[1] in (401, 409)


def test_a_new_coach_coaches(coach, stranger):
    person = added(coach, name="Ines Holm", email="ines@example.org", role="coach")
    token = link(coach, person["id"])
    stranger.headers[GUARD_HEADER] = stranger.post(
        f"/api/links/{token}", json={"password": GOOD}
    ).json()["guard"]
    assert stranger.get("/api/people").status_code == 200


@pytest.mark.parametrize(
    ("body", "status", "sentence"),
    [
        ({"name": "   "}, 422, "everybody has a name"),
        ({"name": "Finn", "email": "finn"}, 422, "finn is not an e-mail address"),
        ({"name": "Finn", "email": "a b@c.de"}, 422, "a b@c.de is not an e-mail address"),
        ({"name": "Finn", "role": "coach"}, 422, "a coach signs in"),
        ({"name": "Finn", "tier": 9}, 422, "there is no tier 9"),
        ({"name": "Finn", "email": "ANNA@test.example"}, 409, "already somebody's address"),
        ({"name": "Finn", "role": "king"}, 422, ""),
        ({"name": "Finn", "password": "secret"}, 422, ""),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(coach, body, status, sentence):
    before = coach.get("/api/people").json()
    answer = coach.post("/api/people", json=body)
    assert answer.status_code == status, answer.text
    assert sentence in answer.text
    assert coach.get("/api/people").json() == before


def test_renaming_and_a_new_address_show_everywhere(coach, gym):
    body = {"name": " Anna  Reed ", "email": "reed@example.org", "tier": 2, "track": 1}
    found = coach.patch(f"/api/people/{gym['Anna']}", json=body).json()
    assert (found["name"], found["email"]) == ("Anna Reed", "reed@example.org")
    listed = next(one for one in coach.get("/api/athletes").json() if one["id"] == gym["Anna"])
    assert (listed["name"], listed["tier"], listed["track"]) == ("Anna Reed", 2, 1)
    clash = coach.patch(f"/api/people/{gym['Bert']}", json={"email": "Reed@example.org"})
    assert clash.status_code == 409
    unknown = coach.patch(f"/api/people/{gym['Bert']}", json={"shoe_size": 43})
    assert unknown.status_code == 422


def test_nobody_is_invited_without_an_address(coach):
    person = added(coach)
    answer = coach.post(f"/api/people/{person['id']}/link")
    assert answer.status_code == 422
    assert answer.json()["detail"] == "Finn Skerry needs an e-mail address first"


def test_a_list_is_looked_at_first_and_then_added_whole(coach):
    text = "Name, E-mail\nFinn Wicker, finn@example.org\nAnna Test\nOla, ola@example\n"
    read = coach.post("/api/people/read", json={"text": text}).json()
    assert [one["what"] for one in read] == ["new", "there", "refused"]
    assert "Finn Wicker" not in [one["name"] for one in coach.get("/api/people").json()]
    wanted = [
        {key: one[key] for key in ("name", "email", "tier", "track")}
        for one in read
        if one["what"] == "new"
    ]
    done = coach.post("/api/people/many", json={"people": wanted})
    assert done.status_code == 201, done.text
    again = coach.post("/api/people/read", json={"text": text}).json()
    assert again[0]["what"] == "there"


def test_what_a_list_says_otherwise_is_changed_with_the_rest_or_not_at_all(coach, gym):
    table = "name,e-mail,tier\nAnna Test,,Scaled\nFinn Wicker,,\n"
    read = coach.post("/api/people/read", json={"text": table}).json()
    assert [(one["what"], one["why"]) for one in read] == [
        ("changed", "As written → Scaled"),
        ("new", ""),
    ]
    change = {"id": read[0]["person"], "tier": read[0]["tier"]}
    broken = {"people": [{"name": "Finn", "email": "none"}], "changes": [change]}
    assert coach.post("/api/people/many", json=broken).status_code == 422
    anna = next(one for one in coach.get("/api/people").json() if one["id"] == gym["Anna"])
    assert anna["tier"] == 0
    done = coach.post("/api/people/many", json={"people": [{"name": "Finn"}], "changes": [change]})
    assert done.status_code == 201, done.text
    now = next(one for one in coach.get("/api/people").json() if one["id"] == gym["Anna"])
    assert now == anna | {"tier": 1}


def test_of_a_list_with_trouble_nobody_is_added(coach):
    before = coach.get("/api/people").json()
    people = [
        {"name": "Finn", "email": "finn@example.org"},
        {"name": "Ola", "email": "anna@test.example"},
    ]
    answer = coach.post("/api/people/many", json={"people": people})
    assert answer.status_code == 409
    assert coach.get("/api/people").json() == before


def test_people_go_out_and_come_into_another_gym_alike(coach, gym, engine, password_hash):
    added(coach, email="finn@example.org", tier=1, track=1)
    coach.patch(f"/api/people/{gym['Cyril']}", json={"trains": True})
    out = coach.get("/api/tables/people").text
    for name in ("Anna", "Bert", "Dora", "Emma", "Cyril"):
        coach.post(f"/api/people/{gym[name]}/erase", json={"name": f"{name} Test"})
    lines = coach.post("/api/people/read", json={"text": out}).json()
    new = [one for one in lines if one["what"] == "new"]
    assert [one["what"] for one in lines].count("there") == 2
    fields = ("name", "email", "role", "tier", "track", "trains")
    people = [{field: one[field] for field in fields} for one in new]
    assert coach.post("/api/people/many", json={"people": people}).status_code == 201
    again = coach.get("/api/tables/people").text
    assert sorted(again.splitlines()) == sorted(out.splitlines())


def test_everybody_without_an_account_is_invited_at_once(coach, stranger, gym):
    finn, nora = (
        added(coach, email=f"{name}@example.org")["id"] for name in ("finn", "nora")
    )  # fmt: skip
    nameless = added(coach)["id"]
    everybody = [one["id"] for one in coach.get("/api/people").json()]
    answer = coach.post("/api/people/invitations", json={"people": everybody})
    assert answer.status_code == 200, answer.text
    invited = {one["person_id"]: one for one in answer.json()}
    assert {finn, nora} <= set(invited)
    assert nameless not in invited, "who has no address cannot sign in"
    for one in answer.json():
        token = one["path"].removeprefix("/join/")
        assert stranger.get(f"/api/links/{token}").json()["email"] == one["email"]
    coach.patch(f"/api/people/{nora}", json={"active": False})
    again = coach.post("/api/people/invitations", json={"people": [finn, nora]}).json()
    assert [one["person_id"] for one in again] == [finn]
    assert again[0]["path"] != invited[finn]["path"], "the link before it is over"
