"""Writes of several people, at once, late or twice: each lands once, and nobody's is lost."""

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import pytest
from shared import TODAY, published
from sqlalchemy import text

DATE = TODAY.isoformat()
DAY = f"/api/days/{DATE}"
BOARD = """# Neap

## Conditioning "Neap": AMRAP 12:00
10 push-up
20 sit-up

## Conditioning "Pair": every 1:00 x 2, teams of 2, alternate, score total reps
1) max burpee
"""
PIECE = f"{DAY}/pieces/1"
ROUNDS = 6


@pytest.fixture
def coach(browser_of):
    client = browser_of("Carla")
    published(client, BOARD)
    return client


@pytest.fixture
def both(browser_of, coach):
    """Two coaches, each with an application of their own on the same database."""
    return coach, browser_of("Cyril")


def at_once(*works):
    """The answers of several calls that begin together."""
    gate = Barrier(len(works))

    def run(work):
        gate.wait()
        return work()

    with ThreadPoolExecutor(len(works)) as pool:
        return list(pool.map(run, works))


def entry(entered: str, version: int = 0, **more) -> dict:
    return {"entered": entered, "tier": 0, "track": 0, "version": version, **more}


def test_a_key_of_one_person_says_and_blocks_nothing_of_anothers(coach, browser_of, gym):
    anna, bert = browser_of("Anna"), browser_of("Bert")
    mine = f"/api/me{DAY[4:]}/pieces/1/score"
    key = {"request_key": "same-key-0001"}
    assert anna.put(mine, json=entry("5+12", **key)).json()["entered"] == "5+12"
    told = bert.put(mine, json=entry("4+3", **key)).json()
    assert (told["entered"], told["person_id"]) == ("4+3", gym["Bert"])
    by_coach = coach.put(f"{PIECE}/scores/{gym['Emma']}", json=entry("3", **key)).json()
    assert by_coach["entered"] == "3"


def test_a_key_is_for_one_cell_and_one_content(coach, gym):
    key = {"request_key": "same-key-0001"}
    coach.put(f"{PIECE}/scores/{gym['Anna']}", json=entry("5+12", **key))
    elsewhere = coach.put(f"{PIECE}/scores/{gym['Bert']}", json=entry("5+12", **key))
    other = coach.put(f"{PIECE}/scores/{gym['Anna']}", json=entry("6", 1, **key))
    assert [elsewhere.status_code, other.status_code] == [422, 422]
    assert "type it again" in elsewhere.json()["detail"]


def test_a_clear_sent_again_does_not_take_a_newer_score(coach, gym):
    cell = f"{PIECE}/scores/{gym['Anna']}"
    coach.put(cell, json=entry("5+12"))
    clear = entry("", 1, request_key="clear-key-001")
    assert coach.put(cell, json=clear).status_code == 200
    coach.put(cell, json=entry("6"))
    assert coach.put(cell, json=clear).json()["entered"] == "6"


def test_versions_go_on_after_a_clear(coach, gym):
    cell = f"{PIECE}/scores/{gym['Anna']}"
    coach.put(cell, json=entry("5+12"))
    coach.put(cell, json=entry("", 1))
    assert coach.put(cell, json=entry("6")).json()["version"] == 2
    # A page that saw the first score does not write over what was entered since.
    assert coach.put(cell, json=entry("5+13", 1)).status_code == 409


def test_two_first_scores_at_once_meet_as_a_conflict(both, gym):
    for name in ("Anna", "Bert", "Emma"):
        cell = f"{PIECE}/scores/{gym[name]}"
        found = at_once(*(lambda c=c, cell=cell: c.put(cell, json=entry("5")) for c in both))
        assert sorted(one.status_code for one in found) == [200, 409]


def test_settings_of_an_older_page_are_refused_not_undone(both):
    carla, cyril = both
    old = cyril.get("/api/settings").json()
    kept = {"settings": {**old["settings"], "class_size": 9}, "version": old["version"]}
    assert carla.put("/api/settings", json=kept).status_code == 200
    late = {"settings": {**old["settings"], "change_s": 45}, "version": old["version"]}
    refused = cyril.put("/api/settings", json=late)
    assert refused.status_code == 409
    assert refused.json()["newer"]["settings"]["class_size"] == 9
    now = carla.get("/api/settings").json()["settings"]
    assert (now["class_size"], now["change_s"]) == (9, 60)


def test_heats_and_teams_set_at_once_are_both_kept_or_told(both, gym):
    held = both[0].put(f"{DAY}/classes/06:30:00").json()["id"]
    people = [gym["Anna"], gym["Bert"]]
    for version in range(ROUNDS):
        bodies = [
            {"what": what, "groups": [people], "version": version} for what in ("heats", "teams")
        ]
        found = at_once(
            *(
                lambda c=c, b=b: c.put(f"/api/classes/{held}/lanes/2", json=b)
                for c, b in zip(both, bodies, strict=True)
            )
        )
        assert [one.status_code for one in found] == [204, 204]
    same = {"what": "heats", "groups": [people[::-1]], "version": ROUNDS}
    found = at_once(*(lambda c=c: c.put(f"/api/classes/{held}/lanes/2", json=same) for c in both))
    assert sorted(one.status_code for one in found) == [204, 409]


def test_first_writes_at_once_are_no_server_error(both, browser_of, gym):
    carla = both[0]
    anna, again = browser_of("Anna"), browser_of("Anna")
    profile = {"profile": {"body_kg": 70}, "version": 0}
    effort, felt = {"effort": 7, "minutes": 50}, f"/api/me{DAY[4:]}/effort"
    member = {"name": "New Member", "email": "new@test.example"}
    override = {"movement": "push-up", "text": "5 ring row"}
    held = carla.put(f"{DAY}/classes/06:30:00").json()["id"]
    here = f"/api/classes/{held}/here/{gym['Anna']}"
    pairs = {
        "profile": [lambda c=c: c.put("/api/me/profile", json=profile) for c in (anna, again)],
        "effort": [lambda c=c: c.put(felt, json=effort) for c in (anna, again)],
        "address": [lambda c=c: c.post("/api/athletes", json=member) for c in both],
        "bank": [lambda c=c: c.post("/api/bank", json={"date": DATE}) for c in both],
        "override": [
            lambda c=c: c.put(f"/api/athletes/{gym['Anna']}/override", json=override) for c in both
        ],
        "here": [lambda c=c: c.put(here, json={"here": True}) for c in both],
        "gone": [lambda c=c: c.put(here, json={"here": False}) for c in both],
        "day": [
            lambda c=c: c.put("/api/days/2031-01-01", json={"text": "# A", "version": 0})
            for c in both
        ],
    }
    codes = {
        what: sorted(one.status_code for one in at_once(*works)) for what, works in pairs.items()
    }
    assert codes == {
        "profile": [200, 409],
        "effort": [200, 200],
        "address": [201, 409],
        "bank": [201, 409],
        "override": [204, 204],
        "here": [200, 200],
        "gone": [200, 200],
        "day": [200, 409],
    }


def test_a_team_writing_from_two_phones_waits_for_each_other(both, browser_of, gym):
    held = both[0].put(f"{DAY}/classes/06:30:00").json()["id"]
    pair = {"what": "teams", "groups": [[gym["Anna"], gym["Bert"]]], "version": 0}
    both[0].put(f"/api/classes/{held}/lanes/2", json=pair)
    mine = f"/api/me{DAY[4:]}/pieces/2/score"
    phones = [browser_of("Anna"), browser_of("Bert")]
    found = at_once(*(lambda c=c: c.put(mine, json=entry("31")) for c in phones))
    assert {one.status_code for one in found} <= {200, 409}
    scores = both[0].get(f"{DAY}/sheet").json()["scores"]
    assert {(one["person_id"], one["entered"]) for one in scores} == {
        (gym["Anna"], "31"),
        (gym["Bert"], "31"),
    }


def test_a_teams_score_with_a_key_lands_whole_and_once(coach, gym, engine):
    held = coach.put(f"{DAY}/classes/06:30:00").json()["id"]
    pair = {"what": "teams", "groups": [[gym["Anna"], gym["Bert"]]], "version": 0}
    coach.put(f"/api/classes/{held}/lanes/2", json=pair)
    body = entry("31", request_key="team-key-0001")
    for _ in range(3):
        told = coach.put(f"{DAY}/pieces/2/scores/{gym['Anna']}", json=body).json()
        assert (told["version"], told["team"]) == (1, [gym["Anna"], gym["Bert"]])
    with engine.connect() as db:
        assert db.execute(text("select count(*) from score")).scalar() == 2


def test_a_jot_key_belongs_to_who_notes(coach, browser_of, gym):
    note = {"key": "device-0001", "round": 1, "number": 60, "noted_at": f"{DATE}T10:00:00Z"}
    anna = browser_of("Anna")
    anna.post(f"/api/me{DAY[4:]}/pieces/1/jots", json={"jots": [note]})
    of_bert = {**note, "person_id": gym["Bert"], "number": 70}
    told = coach.post(f"{PIECE}/jots", json={"jots": [of_bert]}).json()
    assert {one["person_id"]: one["rounds"] for one in told["people"]} == {
        gym["Anna"]: {"1": 60},
        gym["Bert"]: {"1": 70},
    }
    changed = coach.post(f"{PIECE}/jots", json={"jots": [{**of_bert, "number": 80}]})
    assert changed.status_code == 422


def test_unfinished_jots_are_named_and_kept_only_when_the_coach_says_so(coach, gym):
    notes = [
        {
            "key": f"device-000{n}",
            "person_id": gym["Anna"],
            "round": n,
            "number": 60,
            "noted_at": f"{DATE}T10:0{n}:00Z",
        }
        for n in (1, 3)
    ]
    coach.post(f"{PIECE}/jots", json={"jots": notes})
    told = coach.post(f"{PIECE}/jots/keep", json={}).json()
    assert (told["kept"], [one["missing"] for one in told["unfinished"]]) == (0, ["round 2"])
    assert coach.get(f"{DAY}/sheet").json()["scores"] == []
    kept = coach.post(f"{PIECE}/jots/keep", json={"unfinished": [gym["Anna"]]}).json()
    assert kept["kept"] == 1
