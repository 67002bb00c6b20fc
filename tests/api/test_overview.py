"""All athletes at a glance: who is missed, what waits for the coach, what limits whom."""

from __future__ import annotations

import datetime as dt

from shared import TODAY, keys, publish
from sqlalchemy import text

BOARD = "## Conditioning: AMRAP 9:00\n9 push-up\n9 sit-up"


def test_who_is_missed_what_waits_and_what_limits_whom(browser_of, gym, engine):
    coach = browser_of("Carla")
    for back, name in ((3, "Anna"), (20, "Bert"), (40, "Dora")):
        date = TODAY - dt.timedelta(days=back)
        day = f"/api/days/{date}"
        coach.put(day, json={"text": BOARD, "version": 0})
        publish(coach, day)
        held = coach.put(f"{day}/classes/18:00").json()["id"]
        coach.put(f"/api/classes/{held}/here/{gym[name]}", json={"here": True})
        (key,) = keys(coach, day).values()
        score = {"entered": "5+3", "tier": 0, "track": 0, "version": 0}
        coach.put(f"{day}/pieces/{key}/scores/{gym[name]}", json=score)
    found = coach.get(f"/api/athletes/{gym['Emma']}/profile").json()
    limited = found["profile"] | {"limits": [{"limit": "knee", "note": "left"}]}
    body = {"profile": limited, "version": found["version"]}
    assert coach.put(f"/api/athletes/{gym['Emma']}/profile", json=body).status_code == 200
    with engine.begin() as db:
        db.execute(text("update score set standing = 'doubted' where person_id = :who"), {
            "who": gym["Bert"]
        })  # fmt: skip
    told = coach.get("/api/athletes/overview").json()
    assert [(one["name"], one["last"]) for one in told["away"]] == [
        ("Emma Test", None),
        ("Dora Test", (TODAY - dt.timedelta(days=40)).isoformat()),
        ("Bert Test", (TODAY - dt.timedelta(days=20)).isoformat()),
    ]
    assert [(one["name"], one["limits"]) for one in told["limits"]] == [("Emma Test", ["knee"])]
    waiting = {one["date"]: one["count"] for one in told["doubts"]}
    assert waiting == {(TODAY - dt.timedelta(days=20)).isoformat(): 1}
    assert (told["rising"], told["fading"]) == ([], [])
    # Who has left is nobody's to miss.
    coach.patch(f"/api/people/{gym['Dora']}", json={"active": False})
    names = [one["name"] for one in coach.get("/api/athletes/overview").json()["away"]]
    assert names == ["Emma Test", "Bert Test"]
