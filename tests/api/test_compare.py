"""Comparing over HTTP: schools, filters, rounds side by side, bests; what others may see."""

import datetime as dt

import pytest
from shared import TODAY, keys, publish, published
from sqlalchemy.orm import Session

from pine_ladder.store.models import BankedBoard, Day, Programme

DATE = TODAY.isoformat()
BOARD = """# Neap

## Conditioning "Neap": AMRAP 12:00, pace steady
5 pull-up | 5 ring row
10 push-up

## Core "Short": Tabata
sit-up

## Strength "Lift": 3 sets, build
5 deadlift
"""
PIECES = f"/api/days/{DATE}/pieces"
NEAP, SHORT, LIFT = f"{PIECES}/1", f"{PIECES}/2", f"{PIECES}/3"


@pytest.fixture
def coach(browser_of):
    client = browser_of("Carla")
    published(client, BOARD)
    return client


def put(client, piece: str, person: int, entered: str, tier: int = 0, track: int = 0):
    body = {"entered": entered, "tier": tier, "track": track, "version": 0}
    answer = client.put(f"{piece}/scores/{person}", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def places(client, piece: str, **query) -> list[tuple[int | None, list[tuple[int, str]]]]:
    """Sections as their tier and the ranks by first name."""
    found = client.get(f"{piece}/standings", params=query).json()["sections"]
    return [
        (s["tier"], [(p["rank"], p["entry"]["name"].split()[0]) for p in s["places"]])
        for s in found
    ]


def choose(client, **schools: str) -> None:
    found = client.get("/api/settings").json()
    body = {"settings": {**found["settings"], **schools}, "version": found["version"]}
    assert client.put("/api/settings", json=body).status_code == 200


def test_another_unit_of_the_gym_changes_no_board(coach, browser_of):
    """Loads without a unit keep the one they had; from now on they are in the new one."""
    far, later = "2026-07-01", "2026-07-02"
    plain = "Swings\nAMRAP 10\n10 KBS 24/16\n10 burpees\n"
    saved = coach.put(f"/api/days/{far}", json={"text": plain, "version": 0}).json()
    before = coach.get(f"/api/days/{far}/plan").json()
    keys = [one["key"] for one in coach.get(f"/api/days/{far}/pieces").json()]
    assert coach.get("/api/settings/bare-loads").json() == {"boards": 1}
    choose(coach, unit="lb")
    after = coach.get(f"/api/days/{far}").json()
    assert after["text"] == plain.replace("10 KBS 24/16", "10 kettlebell swing @ 24/16 kg")
    assert after["version"] == saved["version"] + 1
    assert coach.get(f"/api/days/{far}/plan").json() == before
    assert [one["key"] for one in coach.get(f"/api/days/{far}/pieces").json()] == keys
    assert coach.get("/api/settings/bare-loads").json() == {"boards": 0}
    coach.put(f"/api/days/{later}", json={"text": plain, "version": 0})
    said = [
        f["message"] for f in coach.post("/api/preview", json={"text": plain}).json()["findings"]
    ]
    assert "read as 10 kettlebell swing @ 24/16 lb" in said
    load = coach.get(f"/api/days/{later}/plan").json()["pieces"][0]["blocks"][0]["lines"][0]
    assert load["tasks"][0]["versions"][0]["load"]["unit"] == "lb"
    choose(coach, unit="kg")
    assert "24/16 lb" in coach.get(f"/api/days/{later}").json()["text"]


def test_the_gyms_name_and_weekly_classes_are_its_own(coach, browser_of):
    classes = ["6:30, 6 pm", "", "18:00", "", "", "", ""]
    choose(coach, name=" Northern  Quay ", classes=classes)
    found = coach.get("/api/settings").json()["settings"]
    assert found["name"] == "Northern Quay"
    assert found["classes"] == ["06:30, 18:00", "", "18:00", "", "", "", ""]
    gym = browser_of("Anna").get("/api/gym").json()
    assert gym["name"] == "Northern Quay"
    assert [(one["weekday"], one["start"]) for one in gym["class_times"]] == [
        (0, "06:30:00"), (0, "18:00:00"), (2, "18:00:00"),
    ]  # fmt: skip
    monday = "2026-06-01"
    starts = [one["start"] for one in coach.get(f"/api/days/{monday}/floor").json()["classes"]]
    assert starts == ["06:30:00", "18:00:00"]
    # Who leaves them out changes neither.
    held = coach.get("/api/settings").json()
    body = {**held["settings"], "name": None, "classes": None}
    done = coach.put("/api/settings", json={"settings": body, "version": held["version"]})
    assert done.status_code == 200
    assert coach.get("/api/settings").json()["settings"] == held["settings"]


def test_a_class_at_no_time_is_refused_with_its_day(coach):
    held = coach.get("/api/settings").json()
    body = {**held["settings"], "name": "Other", "classes": ["", "", "noon", "", "", "", ""]}
    done = coach.put("/api/settings", json={"settings": body, "version": held["version"]})
    assert done.status_code == 422
    assert done.json()["detail"] == (
        "Wednesday: noon is no time: write 18:00, or 18:00 75 min 8 places in the shed"
    )
    assert coach.get("/api/settings").json() == held


@pytest.fixture
def scored(coach, gym):
    put(coach, NEAP, gym["Anna"], "9+3")
    put(coach, NEAP, gym["Bert"], "11", track=1)
    put(coach, NEAP, gym["Dora"], "13", tier=1)
    put(coach, NEAP, gym["Emma"], "9+3")
    return coach


def test_tiers_stand_apart_unless_the_gym_has_another_school(scored):
    assert places(scored, NEAP) == [
        (0, [(1, "Bert"), (2, "Anna"), (2, "Emma")]),
        (1, [(1, "Dora")]),
    ]
    choose(scored, standings="total work")
    assert places(scored, NEAP) == [(None, [(1, "Dora"), (2, "Bert"), (3, "Anna"), (3, "Emma")])]


def test_a_school_may_be_asked_for_by_hand(scored):
    assert places(scored, NEAP, school="tier order") == [
        (None, [(1, "Bert"), (2, "Anna"), (2, "Emma"), (4, "Dora")])
    ]
    assert places(scored, NEAP, school="total work")[0][1][0] == (1, "Dora")
    assert scored.get(f"{NEAP}/standings?school=shoe size").status_code == 422


def test_standings_are_filtered_by_track_tier_class_and_age(scored, browser_of, gym):
    assert places(scored, NEAP, track=1) == [(0, [(1, "Bert")])]
    assert places(scored, NEAP, tier=1) == [(1, [(1, "Dora")])]
    held = scored.put(f"/api/days/{DATE}/classes/18:00:00").json()["id"]
    for name in ("Anna", "Dora"):
        scored.put(f"/api/classes/{held}/here/{gym[name]}", json={"here": True})
    assert places(scored, NEAP, class_id=held) == [(0, [(1, "Anna")]), (1, [(1, "Dora")])]
    assert places(scored, NEAP, class_id=999) == []
    for name, born in (("Anna", TODAY.year - 34), ("Emma", TODAY.year - 35)):
        form = {"profile": {"born": born}, "version": 0}
        browser_of(name).put("/api/me/profile", json=form)
    assert places(scored, NEAP, age="under 35") == [(0, [(1, "Anna")])]
    assert places(scored, NEAP, age="35 to 49") == [(0, [(1, "Emma")])]
    assert places(scored, NEAP, age="50 and over") == []


def test_a_tabata_goes_by_its_lowest_interval_where_the_gym_says_so(coach, gym):
    put(coach, SHORT, gym["Anna"], "12 11 10 9 8 7 6 5")
    put(coach, SHORT, gym["Bert"], "8 8 8 8 8 8 8 8")
    assert places(coach, SHORT) == [(0, [(1, "Anna"), (2, "Bert")])]
    choose(coach, tabata="lowest interval")
    assert places(coach, SHORT) == [(0, [(1, "Bert"), (2, "Anna")])]
    (section,) = coach.get(f"{SHORT}/standings").json()["sections"]
    assert section["places"][0]["entry"]["display"] == "8 (lowest; 64 in all)"


def test_who_did_not_start_has_no_place(coach, gym):
    put(coach, NEAP, gym["Anna"], "9")
    kept = put(coach, NEAP, gym["Bert"], "dns")
    assert (kept["display"], kept["rank"]) == ("DNS", None)
    assert places(coach, NEAP) == [(0, [(1, "Anna")])]


def test_rounds_are_laid_side_by_side_in_the_order_asked(coach, gym):
    even = " ".join(["1:20"] * 9)
    put(coach, NEAP, gym["Anna"], f"9 splits {even}")
    put(coach, NEAP, gym["Bert"], "8 splits 1:00 1:10 1:20 1:30 1:40 1:45 1:45 1:50")
    put(coach, NEAP, gym["Emma"], "7")
    told = coach.get(f"{NEAP}/rounds", params={"people": [gym["Bert"], gym["Anna"]]}).json()
    assert [one["name"] for one in told["athletes"]] == ["Bert Test", "Anna Test"]
    assert [one["pacing"]["verdict"] for one in told["athletes"]] == ["collapsed", "steady"]
    assert told["unit"] == "s"
    everybody = coach.get(f"{NEAP}/rounds").json()["athletes"]
    assert [one["name"] for one in everybody] == ["Anna Test", "Bert Test"]
    assert coach.get(f"{PIECES}/nowhere/rounds").status_code == 404


def test_who_hides_is_not_beside_others_either(coach, browser_of, gym):
    for name in ("Anna", "Bert"):
        put(coach, SHORT, gym[name], "12 11 10 9 8 7 6 5")
    anna, bert = browser_of("Anna"), browser_of("Bert")
    anna.put("/api/me/profile", json={"profile": {"hidden": True}, "version": 0})

    def beside(client) -> list[str]:
        return [one["name"] for one in client.get(f"{SHORT}/rounds").json()["athletes"]]

    assert beside(bert) == ["Bert Test"]
    assert beside(anna) == ["Anna Test", "Bert Test"]
    assert beside(coach) == ["Anna Test", "Bert Test"]


def test_history_and_effort_are_the_coachs_and_ones_own(coach, browser_of, gym):
    anna = browser_of("Anna")
    anna.put(f"/api/me/days/{DATE}/effort", json={"effort": 6, "minutes": 50, "note": "knee fine"})
    read = coach.get(f"/api/athletes/{gym['Anna']}/history").json()
    assert [(one["effort"], one["note"]) for one in read["efforts"]] == [(6, "knee fine")]
    assert "say nothing of your health" in read["load_words"]
    assert browser_of("Bert").get(f"/api/athletes/{gym['Anna']}/history").status_code == 403
    assert coach.get(f"/api/athletes/{gym['Carla']}/history").status_code == 404


def test_a_piece_that_is_only_ticked_off_has_no_places(coach, browser_of, gym):
    board = "# Ebb\n\n## Conditioning: EMOM 4:00, score done\n10 burpee\n"
    coach.put(f"/api/days/{DATE}", json={"text": board, "version": 1})
    (key,) = keys(coach, f"/api/days/{DATE}").values()
    kept = put(coach, f"{PIECES}/{key}", gym["Anna"], "done")
    assert kept["rank"] is None
    (score,) = coach.get(f"/api/days/{DATE}/sheet").json()["scores"]
    assert score["rank"] is None
    mine = browser_of("Anna").get("/api/me/history").json()["scores"]
    assert [(one["display"], one["rank"]) for one in mine] == [("done", None)]


@pytest.fixture
def banked(coach, engine):
    with Session(engine) as db, db.begin():
        db.add(BankedBoard(name="Neap", text=BOARD))
    return coach


def bests(client, **query) -> list[tuple[str, str, str]]:
    found = client.get("/api/bests", params=query).json()["boards"]
    return [(one["piece"], one["name"].split()[0], one["display"]) for one in found]


def test_the_bests_of_a_kept_board_are_those_of_trusted_scores(banked, gym):
    put(banked, NEAP, gym["Anna"], "9+3")
    put(banked, NEAP, gym["Bert"], "9+4")
    put(banked, LIFT, gym["Anna"], "80")
    # Nobody does 60 rounds: kept, marked, and no best before a coach has verified it.
    doubted = put(banked, NEAP, gym["Emma"], "60")
    assert doubted["standing"] == "doubted"
    assert bests(banked) == [("Neap", "Bert", "9+4"), ("Lift", "Anna", "80 kg")]
    banked.post(f"{NEAP}/scores/{gym['Emma']}/judge", json={"verdict": "verified", "version": 1})
    assert bests(banked)[0] == ("Neap", "Emma", "60")


def test_bests_are_those_of_a_programme(banked, engine, gym):
    put(banked, NEAP, gym["Anna"], "9+3")
    with Session(engine) as db, db.begin():
        evening = Programme(name="Evening")
        db.add(evening)
        db.flush()
        before = TODAY - dt.timedelta(days=7)
        db.add(Day(programme_id=evening.id, date=before, text=BOARD, published=True))
    assert bests(banked, programme="Daily") == [("Neap", "Anna", "9+3")]
    assert bests(banked, programme="Evening") == []
    assert bests(banked, programme="Nowhere") == []
    lines = banked.get("/api/gym").json()["programmes"]
    assert [one["name"] for one in lines] == ["Daily", "Evening"]


def test_an_athlete_compares_only_what_is_published(browser_of, coach):
    publish(coach, f"/api/days/{DATE}", shown=False)
    bert = browser_of("Bert")
    for question in ("standings", "rounds", "retests"):
        assert bert.get(f"{NEAP}/{question}").status_code == 404
    assert coach.get(f"{NEAP}/standings").status_code == 200
