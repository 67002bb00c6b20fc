"""Scaling through the API: profiles, overrides, own versions, and what nobody else may see."""

from __future__ import annotations

import datetime as dt
import os
import subprocess
import sys
import time

from cluster import free_port
from shared import TODAY, keys, publish
from sqlalchemy import text

from pine_ladder.jobs import learning
from pine_ladder.jobs.learning import PAUSE, learn_if_due, learning_loop
from pine_ladder.store.database import DATABASE_URL

DAY = f"/api/days/{TODAY.isoformat()}"
BOARD = """# Tide Table
## Conditioning "Tide Table": AMRAP 9:00
10 push press @ 40/30 kg | @ 30/20 kg
10 box jump @ 60/50 cm
"""
KEY = "1"
SHOULDER = {"limits": [{"limit": "shoulder", "note": "since the winter"}]}


def write_day(coach, date: dt.date = TODAY) -> None:
    day = f"/api/days/{date.isoformat()}"
    assert coach.put(day, json={"text": BOARD, "version": 0}).status_code == 200
    assert publish(coach, day).status_code == 200


def note(client, path: str, profile: dict, version: int = 0):
    return client.put(path, json={"profile": profile, "version": version})


def test_a_shoulder_limit_reaches_the_athletes_own_board_with_its_reason(browser_of, gym):
    coach, anna = browser_of("Carla"), browser_of("Anna")
    write_day(coach)
    assert note(coach, f"/api/athletes/{gym['Anna']}/profile", SHOULDER).status_code == 200
    mine = anna.get(f"/api/me/days/{TODAY.isoformat()}").json()
    (press, jump) = [line["tasks"][0] for line in mine["view"]["pieces"][0]["blocks"][0]]
    assert (press["amount"], press["movement"]) == ("10", "floor press")
    assert press["reason"] == "shoulder noted: floor press instead of push press"
    assert (jump["movement"], jump["reason"]) == ("box jump", "")


def test_limits_never_leave_the_coachs_and_that_athletes_pages(browser_of, gym):
    coach, anna, bert = browser_of("Carla"), browser_of("Anna"), browser_of("Bert")
    write_day(coach)
    note(coach, f"/api/athletes/{gym['Anna']}/profile", SHOULDER)
    coach.put(
        f"{DAY}/pieces/{KEY}/scores/{gym['Anna']}",
        json={"entered": "5+3", "tier": 0, "track": 0, "version": 0},
    )
    assert bert.get(f"/api/athletes/{gym['Anna']}/profile").status_code == 403
    assert bert.get(f"{DAY}/pieces/{KEY}/scaling").status_code == 403
    seen = [
        f"/api/me/days/{TODAY.isoformat()}",
        f"{DAY}/pieces/{KEY}/standings",
        "/api/me/profile",
        "/api/me/pace",
        "/api/gym",
        "/api/words",
        "/api/ladders",
    ]
    for address in seen:
        answer = bert.get(address)
        assert answer.status_code == 200, address
        assert "since the winter" not in answer.text
        assert "shoulder noted" not in answer.text
    assert "since the winter" in anna.get("/api/me/profile").text
    assert "since the winter" not in coach.get(f"{DAY}/page").text
    assert "since the winter" not in coach.get(f"{DAY}/sheet").text


def test_an_override_is_remembered_until_it_is_taken_back(browser_of, gym):
    coach = browser_of("Carla")
    write_day(coach)

    def version() -> dict:
        rows = coach.get(f"{DAY}/pieces/{KEY}/scaling").json()["rows"]
        return next(row for row in rows if row["id"] == gym["Bert"])["versions"][0]

    assert not version()["own"]
    address = f"/api/athletes/{gym['Bert']}/override"
    bad = coach.put(address, json={"movement": "push press", "text": "8 zorbing"})
    assert (bad.status_code, "no such movement" in bad.json()["detail"]) == (422, True)
    own = {"movement": "push press", "text": "8 strict press @ 20 kg"}
    assert coach.put(address, json=own).status_code == 204
    assert (version()["text"], version()["overridden"]) == ("8 strict press @ 20 kg", True)
    assert coach.put(address, json={**own, "text": ""}).status_code == 204
    assert not version()["own"]


def test_a_profile_keeps_the_librarys_names_and_two_savers_meet(browser_of, gym):
    coach, anna = browser_of("Carla"), browser_of("Anna")
    path = f"/api/athletes/{gym['Anna']}/profile"
    saved = note(coach, path, {"bests": {"Back Squats": 80}, "longest": {"pull ups": 4}}).json()
    assert saved["profile"]["bests"] == {"back squat": 80}
    assert saved["profile"]["longest"] == {"pull-up": 4}
    late = note(anna, "/api/me/profile", {"bests": {}}, version=0)
    assert (late.status_code, "reload" in late.json()["detail"]) == (409, True)
    assert note(anna, "/api/me/profile", {"bests": {}}, version=1).status_code == 200
    slip = note(coach, path, {"bests": {"bakc squat": 80}}, version=2).json()["detail"]
    assert slip == "bakc squat: no such movement; did you mean back squat?"
    rung = note(coach, path, {"rungs": {"Pull-up": "burpee"}}, version=2).json()["detail"]
    assert rung == "burpee is no rung of the Pull-up ladder"
    assert note(coach, path, {"limits": [{"limit": "soul"}]}, version=2).status_code == 422


def test_a_test_run_answers_for_every_tier_with_its_aim(browser_of):
    coach = browser_of("Carla")
    text = "## Conditioning: AMRAP 20:00, target 1-2 rounds\n10 burpee\n10 sit-up"
    found = coach.post("/api/testrun", json={"text": text}).json()
    (piece,) = found["pieces"]
    assert [tier["aim"] for tier in piece["tiers"]] == ["over"] * 3
    assert piece["target_words"] == "1-2 rounds"
    assert "off-target" in {finding["code"] for finding in found["findings"]}


def test_a_test_run_tells_what_the_day_before_a_piece_costs_it(browser_of):
    text = (
        "## Strength: 5 sets, rest 1:00\n10 back squat @ 75%\n\n"
        "## Conditioning: 5 rounds for time\n20 air squat"
    )
    squats, race = browser_of("Carla").post("/api/testrun", json={"text": text}).json()["pieces"]
    assert squats["after"] == ""
    assert race["after"].startswith("Tired from the pieces before it: about ")


def test_a_maximum_is_estimated_with_its_spread(browser_of):
    found = browser_of("Anna").post("/api/one-rep-max", json={"kg": 100, "reps": 5}).json()
    assert found["low_kg"] < found["middle_kg"] < found["high_kg"]


def test_the_gym_learns_after_scores_and_foretells(browser_of, gym):
    coach = browser_of("Carla")
    coach.app.state.learns = True
    write_day(coach)
    for name, entered in (("Anna", "6+4"), ("Bert", "5+2"), ("Dora", "5")):
        address = f"{DAY}/pieces/{KEY}/scores/{gym[name]}"
        form = {"entered": entered, "tier": 0, "track": 0, "version": 0}
        assert coach.put(address, json=form).status_code == 200
    # Another process learns meanwhile.
    for _ in range(600):
        pace = coach.get(f"/api/athletes/{gym['Anna']}/pace").json()
        if pace["scores"]:
            break
        time.sleep(0.2)
    assert pace["scores"] == 1
    assert len(pace["paces"]) == 3
    told = coach.get(f"{DAY}/pieces/{KEY}/foretold").json()
    assert {row["actual"] for row in told["rows"]} == {"6+4", "5+2", "5"}
    assert all("rounds" in row["predicted"] for row in told["rows"])
    assert told["middle_off"] is not None


def test_scores_of_the_pause_after_a_fit_are_learnt_when_it_is_over(
    browser_of, gym, engine, monkeypatch
):
    fits = []
    monkeypatch.setattr(learning.subprocess, "run", lambda *_, **__: fits.append(1))
    coach = browser_of("Carla")
    write_day(coach)
    form = {"entered": "6+4", "tier": 0, "track": 0, "version": 0}
    coach.put(f"{DAY}/pieces/{KEY}/scores/{gym['Anna']}", json=form)
    ago = text("insert into learning (medians, report, learned_at) values "
               "('{}', '{}', now() - cast(:ago as interval))")  # fmt: skip
    with engine.begin() as db:
        db.execute(text("update score set saved_at = now() - interval '30 seconds'"))
        db.execute(ago, {"ago": "1 minute"})
    # A score of half a minute ago, a fit of a minute ago: not yet, and not never.
    assert learn_if_due(engine) is False
    with engine.begin() as db:
        db.execute(text("update learning set learned_at = now() - interval '6 minutes'"))
    assert learn_if_due(engine) is True
    assert fits == [1]
    loop = learning_loop(engine)
    assert loop.every_s < PAUSE.total_seconds(), "it looks again by itself"


def test_learning_without_its_database_says_so():
    url = f"postgresql+psycopg://nobody@127.0.0.1:{free_port()}/nothing"
    command = [sys.executable, "-m", "pine_ladder.cli", "gym", "learn"]
    told = subprocess.run(
        command, env={**os.environ, DATABASE_URL: url}, capture_output=True, text=True, check=False
    )
    assert told.returncode == 1
    assert told.stderr == "The database went away: nothing was learnt.\n"


def test_settings_change_what_the_gym_loads_and_how_it_counts(browser_of, gym):
    coach = browser_of("Carla")
    found = coach.get("/api/settings").json()
    settings = found["settings"]

    def keep(wanted: dict, version: int):
        return coach.put("/api/settings", json={"settings": wanted, "version": version})

    ropes = next(c for c in found["choices"] if c["movement"] == "double-under")
    assert ropes["chosen"] == "three to one"
    settings |= {
        "plates": {"10": 2, "5": 2, "45 lb": 2},
        "bars": ["15"],
        "kit": {"barbell": 4, "rope": 3},
        "class_size": 8,
        "schools": {"double-under": "two to one"},
    }
    assert keep(settings, found["version"]).status_code == 200
    again = coach.get("/api/settings").json()["settings"]
    assert (again["bars"], again["kit"]) == (["15"], {"barbell": 4, "rope": 3})
    write_day(coach)
    sheet = coach.get(f"{DAY}/pieces/{KEY}/scaling").json()
    loading = sheet["rows"][0]["versions"][0]["loading"]
    assert loading == "15 kg bar, 10 a side"
    assert again["plates"] == {"10": 2, "5": 2, "45 lb": 2}
    heavy = keep(settings | {"bars": ["heavy"]}, found["version"] + 1)
    assert heavy.json()["detail"] == "heavy: write a weight such as 20 or 45 lb"
    bad = keep(settings | {"schools": {"double-under": "one to one"}}, found["version"] + 1)
    assert "no way of counting" in bad.json()["detail"]
    assert browser_of("Anna").get("/api/settings").status_code == 403


def test_at_home_the_board_is_done_with_what_is_there(browser_of, gym):
    coach, anna = browser_of("Carla"), browser_of("Anna")
    write_day(coach)
    note(anna, "/api/me/profile", {"home_kit": ["dumbbell 10 kg"]})
    mine = anna.get(f"/api/me/days/{TODAY.isoformat()}", params={"home": True}).json()
    tasks = [line["tasks"][0] for line in mine["view"]["pieces"][0]["blocks"][0]]
    assert all(task["reason"].startswith("no ") for task in tasks)
    kit = [anna.get(f"/api/movements/{task['movement']}").json()["movement"] for task in tasks]
    assert all(set(one["kit"]) <= {"dumbbell"} for one in kit)


def test_the_best_on_a_kept_board_is_the_better_of_the_hardest_tier_done(browser_of, gym):
    coach, anna = browser_of("Carla"), browser_of("Anna")
    last_week = TODAY - dt.timedelta(days=7)
    for date, entered, tier in ((last_week, "5+3", 0), (TODAY, "6", 0)):
        write_day(coach, date)
        day = f"/api/days/{date.isoformat()}"
        (key,) = keys(coach, day).values()
        address = f"{day}/pieces/{key}/scores/{gym['Anna']}"
        form = {"entered": entered, "tier": tier, "track": 0, "version": 0}
        assert coach.put(address, json=form).status_code == 200
    assert anna.get("/api/me/benchmarks").json() == []
    assert coach.post("/api/bank", json={"date": TODAY.isoformat()}).status_code == 201
    (best,) = anna.get("/api/me/benchmarks").json()
    assert (best["board"], best["display"], best["times"]) == ("Tide Table", "6", 2)
    assert coach.get(f"/api/athletes/{gym['Anna']}/benchmarks").json() == [best]
