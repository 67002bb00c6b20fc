"""Scores over HTTP: kept once, refused with reasons, ranked, trailed."""

import datetime as dt

import pytest
from pandas import DataFrame
from shared import TODAY, keys, published
from sklearn.datasets import load_linnerud
from sqlalchemy import text
from sqlalchemy.orm import Session

from pine_ladder.store.models import Person, Tier, Track

DATE = TODAY.isoformat()
KEY = "1"
BOARD = '# Neap\n\n## Conditioning "Neap": AMRAP 12:00\n10 push-up\n20 sit-up\n'
PIECE = f"/api/days/{DATE}/pieces/{KEY}"


@pytest.fixture
def coach(browser_of):
    client = browser_of("Carla")
    published(client, BOARD)
    return client


def put(client, person: int, entered: str, version: int = 0, **more):
    body = {"entered": entered, "tier": 0, "track": 0, "version": version, **more}
    return client.put(f"{PIECE}/scores/{person}", json=body)


def test_scores_rank_by_tier_and_ties_share(coach, gym):
    put(coach, gym["Anna"], "5+12")
    put(coach, gym["Bert"], "4+42")
    put(coach, gym["Emma"], "6")
    put(coach, gym["Dora"], "3", tier=1)
    found = coach.get(f"{PIECE}/standings").json()["sections"]
    first = [(p["rank"], p["entry"]["name"], p["tied"]) for p in found[0]["places"]]
    assert first == [(1, "Emma Test", False), (2, "Anna Test", True), (2, "Bert Test", True)]
    assert [section["tier"] for section in found] == [0, 1]


def test_an_entry_is_read_before_it_is_kept(coach, gym):
    put(coach, gym["Anna"], "5+12")
    body = {"entered": "5+45", "person_id": gym["Bert"]}
    seen = coach.post(f"{PIECE}/read", json=body).json()
    assert seen["score"]["display"] == "6+15"
    assert seen["rank"] == 1
    refused = coach.post(f"{PIECE}/read", json={"entered": "quick"}).json()
    assert "write rounds+reps" in refused["score"]["problems"][0]


def test_a_refused_entry_leaves_what_was_there(coach, gym):
    put(coach, gym["Anna"], "5+12")
    answer = put(coach, gym["Anna"], "quick", version=1)
    assert answer.status_code == 422
    assert "write rounds+reps" in answer.json()["detail"]
    (kept,) = coach.get(f"/api/days/{DATE}/sheet").json()["scores"]
    assert kept["display"] == "5+12"


def test_the_same_request_lands_once(coach, gym, engine):
    for _ in range(3):
        answer = put(coach, gym["Anna"], "5+12", request_key="intent-01")
        assert answer.json()["version"] == 1
    with engine.connect() as db:
        assert db.execute(text("select count(*) from score")).scalar() == 1
        assert db.execute(text("select count(*) from score_trail")).scalar() == 1


def test_two_coaches_on_one_score_see_each_other(coach, browser_of, gym):
    cyril = browser_of("Cyril")
    put(coach, gym["Anna"], "5+12")
    clash = put(cyril, gym["Anna"], "6")
    assert clash.status_code == 409
    assert clash.json()["newer"]["display"] == "5+12"
    assert put(cyril, gym["Anna"], "6", version=1).json()["display"] == "6"


def test_an_empty_entry_takes_a_score_back_and_the_trail_remembers(coach, gym, engine):
    put(coach, gym["Anna"], "5+12")
    put(coach, gym["Anna"], "5+13", version=1)
    assert put(coach, gym["Anna"], "", version=2).json() is None
    with engine.connect() as db:
        rows = db.execute(text("select before, after from score_trail order by id")).all()
    shown = [tuple(side and side["display"] for side in row) for row in rows]
    assert shown == [(None, "5+12"), ("5+12", "5+13"), ("5+13", None)]


def test_scores_follow_a_renamed_piece_and_are_read_by_the_new_board(coach, gym):
    put(coach, gym["Anna"], "5+29")
    renamed = BOARD.replace('"Neap"', '"Spring"').replace("20 sit-up", "10 sit-up")
    coach.put(f"/api/days/{DATE}", json={"text": renamed, "version": 1})
    (kept,) = coach.get(f"/api/days/{DATE}/sheet").json()["scores"]
    assert kept["piece_key"] == KEY
    assert kept["entered"] == "5+29"
    assert kept["display"] == "6+9"


def test_a_score_whose_piece_is_gone_is_told_and_stands_again_with_it(coach, gym):
    put(coach, gym["Anna"], "5+12")
    address = f"/api/days/{DATE}"
    gone = {"text": "# Neap\n", "version": 1}
    asked = coach.put(address, json=gone)
    assert asked.status_code == 409
    (question,) = asked.json()["questions"]
    assert (question["title"], question["why"]) == ("Neap", "gone")
    assert question["scores"] == [{"name": "Anna Test", "display": "5+12"}]
    assert coach.get(address).json()["text"] == BOARD
    aside = {**gone, "answers": [{"key": KEY, "place": None}]}
    assert coach.put(address, json=aside).status_code == 200
    sheet = coach.get(f"{address}/sheet").json()
    assert sheet["scores"] == []
    (kept,) = sheet["aside"]
    assert (kept["title"], [score["display"] for score in kept["scores"]]) == ("Neap", ["5+12"])
    coach.put(address, json={"text": BOARD, "version": 2})
    sheet = coach.get(f"{address}/sheet").json()
    assert sheet["aside"] == []
    assert sheet["scores"][0]["rank"] == 1


def test_a_score_the_new_board_cannot_read_keeps_its_words_and_says_so(coach, gym):
    put(coach, gym["Anna"], "5+12")
    timed = BOARD.replace("AMRAP 12:00", "3 rounds for time")
    changed = {"text": timed, "version": 1}
    asked = coach.put(f"/api/days/{DATE}", json=changed).json()
    (question,) = asked["questions"]
    assert (question["why"], question["likely"]) == ("unreadable", 0)
    answered = {**changed, "answers": [{"key": KEY, "place": 0}]}
    assert coach.put(f"/api/days/{DATE}", json=answered).status_code == 200
    (kept,) = coach.get(f"/api/days/{DATE}/sheet").json()["scores"]
    assert (kept["entered"], kept["rank"]) == ("5+12", None)
    assert "write it anew" in kept["reading"]


def test_an_athlete_sees_their_version_and_keeps_their_own_score(coach, browser_of, gym):
    dora = browser_of("Dora")
    day = dora.get(f"/api/me/days/{DATE}").json()
    assert (day["tier"], day["track"], day["scores"]) == (1, 0, [])
    body = {"entered": "4+3", "tier": 1, "track": 0}
    kept = dora.put(f"/api/me/days/{DATE}/pieces/{KEY}/score", json=body).json()
    assert (kept["person_id"], kept["rank"]) == (gym["Dora"], 1)
    assert dora.get(f"/api/me/days/{DATE}").json()["scores"][0]["display"] == "4+3"
    tomorrow = (TODAY + dt.timedelta(days=1)).isoformat()
    early = dora.put(f"/api/me/days/{tomorrow}/pieces/{KEY}/score", json=body)
    assert early.status_code == 422


def test_an_athlete_cannot_score_for_somebody_else(coach, browser_of, gym):
    assert put(browser_of("Dora"), gym["Anna"], "9").status_code == 403


def test_what_does_not_exist_is_said_so(coach, gym):
    assert put(coach, 999999, "5").status_code == 404
    nowhere = coach.get(f"/api/days/{DATE}/pieces/nowhere/standings")
    assert nowhere.json() == {"detail": "there is no such scored piece on this day"}


def test_linnerud_scores_entered_through_the_api_rank_as_in_pandas(coach, engine):
    # Linnerud's 20 men of a fitness club, shipped with scikit-learn: real chin-ups, sit-ups, jumps.
    frame: DataFrame = load_linnerud(as_frame=True).data
    with Session(engine) as db, db.begin():
        tier, track = db.query(Tier).first(), db.query(Track).first()
        members = [
            Person(name=f"Member {i:02}", role="athlete", tier=tier, track=track)
            for i in range(len(frame))
        ]
        db.add_all(members)
        db.flush()
        ids = [member.id for member in members]
    board = "\n".join(
        f'## Conditioning "{name}": every 2:00 x 1, score total reps\nmax {movement}'
        for name, movement in (("Chins", "pull-up"), ("Situps", "sit-up"), ("Jumps", "box jump"))
    )
    coach.put(f"/api/days/{DATE}", json={"text": board, "version": 1})
    named = keys(coach, f"/api/days/{DATE}")
    for column in frame.columns:
        address = f"/api/days/{DATE}/pieces/{named[column]}"
        for number, value in zip(ids, frame[column], strict=True):
            body = {"entered": f"{value:g}", "tier": 0, "track": 0}
            answer = coach.put(f"{address}/scores/{number}", json=body)
            assert answer.status_code == 200, answer.text
        (section,) = coach.get(f"{address}/standings").json()["sections"]
        got = {place["entry"]["athlete_id"]: place["rank"] for place in section["places"]}
        expected = frame[column].rank(method="min", ascending=False).astype(int)
        assert [got[number] for number in ids] == list(expected)


def test_an_entry_that_names_its_tier_is_kept_in_that_tier(coach, gym):
    names = coach.get("/api/gym").json()["tiers"]
    entered = f"{names[1].lower()} 6+3"
    body = {"entered": entered, "tier": 0, "track": 0, "person_id": gym["Anna"]}
    read = coach.post(f"{PIECE}/read", json=body).json()
    assert (read["score"]["tier"], read["score"]["display"]) == (1, "6+3")
    assert read["score"]["reading"] == f"{names[1]}: 6+3"
    kept = put(coach, gym["Anna"], entered).json()
    assert (kept["tier"], kept["display"], kept["reading"]) == (1, "6+3", f"{names[1]}: 6+3")
    (section,) = coach.get(f"{PIECE}/standings").json()["sections"]
    assert section["tier"] == 1


def test_easy_and_hard_parts_tell_what_they_ask_of_the_heart(browser_of, gym):
    published(
        browser_of("Carla"),
        "## Conditioning: AMRAP 9:00\n9 burpee\n\n## Cool-down: continuous 5:00\nwalk\n",
        TODAY + dt.timedelta(days=1),
    )
    anna = browser_of("Anna")
    day = f"/api/me/days/{TODAY + dt.timedelta(days=1)}"
    # Nothing is made up of somebody whose age nobody knows.
    assert anna.get(day).json()["hearts"] == {}
    born = TODAY.year - 40
    anna.put("/api/me/profile", json={"profile": {"born": born}, "version": 0})
    hearts = anna.get(day).json()["hearts"]
    assert [one["effort"] for one in hearts.values()] == ["hard", "easy"]
    assert [one["low"] for one in hearts.values()] == [round(0.77 * 180), round(0.57 * 180)]
    measured = {"profile": {"heart": {"highest": 190, "resting": 50}}, "version": 1}
    anna.put("/api/me/profile", json=measured)
    assert "measured" in next(iter(anna.get(day).json()["hearts"].values()))["words"]
    slip = {"profile": {"heart": {"highest": 19}}, "version": 2}
    assert anna.put("/api/me/profile", json=slip).status_code == 422


def test_the_same_key_with_another_track_is_another_write(coach, gym):
    """What a request key stands for is all of its content: entry, tier, track and version."""
    body = {"entered": "5+3", "request_key": "one-intent-01"}
    for _ in range(2):
        assert put(coach, gym["Anna"], **body).json()["version"] == 1
    for other in ({"track": 1}, {"tier": 1}, {"entered": "5+4"}):
        answer = put(coach, gym["Anna"], **{**body, **other})
        assert answer.status_code in (409, 422), other
