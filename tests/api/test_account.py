"""What everybody may do about themselves, a coach who trains, and somebody erased."""

from __future__ import annotations

import csv
import io
import json
import re
import zipfile

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st
from shared import PASSWORD, TODAY, keys, published
from sqlalchemy import insert, select, text
from sqlalchemy.orm import Session

from pine_ladder.api.app import create_app
from pine_ladder.core.day.letters import Letter
from pine_ladder.files.tables import guarded, read_csv, write_csv
from pine_ladder.store.models import Base, Day, Person, ProfileRow
from pine_ladder.usecases.mail import queue_letter

DAY = f"/api/days/{TODAY}"
BOARD = """## Conditioning "Gannet": AMRAP 10:00, teams of 2, share
10 pull-up
10 sit-up

## Strength "Shag": 3 sets
5 deadlift
"""


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


@pytest.fixture
def anna(browser_of):
    return browser_of("Anna")


def scored(coach, person: int, title: str, entered: str) -> None:
    cell = f"{DAY}/pieces/{keys(coach, DAY)[title]}/scores/{person}"
    kept = coach.put(cell, json={"entered": entered, "tier": 0, "track": 0})
    assert kept.status_code == 200, kept.text


def test_a_member_renames_themselves_and_moves_their_address(anna, stranger):
    assert anna.put("/api/me/name", json={"name": "  Anna  Skua "}).json()["name"] == "Anna Skua"
    wrong = anna.put("/api/me/address", json={"email": "new@skua.example", "password": "wrong one"})
    assert (wrong.status_code, wrong.json()["detail"]) == (400, "the present password is not right")
    moved = anna.put("/api/me/address", json={"email": "New@skua.example", "password": PASSWORD})
    assert moved.json()["email"] == "new@skua.example"
    form = {"email": "new@skua.example", "password": PASSWORD}
    assert stranger.post("/api/sign-in", json=form).status_code == 200


@pytest.mark.parametrize(
    ("email", "status"), [("", 422), ("anna", 422), ("bert@test.example", 409)]
)
def test_an_address_that_is_none_or_somebody_elses_is_refused(anna, email, status):
    answer = anna.put("/api/me/address", json={"email": email, "password": PASSWORD})
    assert answer.status_code == status
    assert anna.get("/api/me/about").json()["email"] == "anna@test.example"


def test_a_member_sees_where_they_are_signed_in_and_ends_one(anna, browser_of):
    other = browser_of("Anna")
    found = anna.get("/api/me/sign-ins").json()
    assert [one["this"] for one in found].count(True) == 1
    (elsewhere,) = [one for one in found if not one["this"]]
    assert anna.delete(f"/api/me/sign-ins/{elsewhere['mark']}").status_code == 204
    assert other.get("/api/me").status_code == 401
    assert anna.delete(f"/api/me/sign-ins/{elsewhere['mark']}").status_code == 404


def test_nobody_ends_another_persons_sign_in(anna, browser_of):
    bert = browser_of("Bert")
    (mark,) = [one["mark"] for one in bert.get("/api/me/sign-ins").json()]
    assert anna.delete(f"/api/me/sign-ins/{mark}").status_code == 404
    assert bert.get("/api/me").status_code == 200


def test_a_sign_in_lasts_as_long_as_it_is_used(anna, engine, gym):
    def left() -> float:
        with engine.connect() as db:
            return float(
                db.execute(
                    text(
                        "select extract(epoch from expires_at - now()) / 86400 from sign_in "
                        "where person_id = :id"
                    ),
                    {"id": gym["Anna"]},
                ).scalar_one()
            )

    with engine.begin() as db:
        db.execute(text("update sign_in set used_at = now() - interval '13 days', "
                        "expires_at = now() + interval '1 day'"))  # fmt: skip
    assert anna.get("/api/me").status_code == 200
    assert left() == pytest.approx(14, abs=0.1)
    with engine.begin() as db:
        db.execute(text("update gym set settings = jsonb_set(settings, '{sign_in_days}', '3')"))
        db.execute(text("update sign_in set used_at = now() - interval '2 hours'"))
    anna.get("/api/me")
    assert left() == pytest.approx(3, abs=0.1)
    with engine.begin() as db:
        db.execute(text("update sign_in set expires_at = now() - interval '1 second'"))
    assert anna.get("/api/me").status_code == 401


def test_all_that_is_kept_about_me_is_mine_to_take(coach, anna, gym):
    published(coach, BOARD)
    scored(coach, gym["Anna"], "Shag", "100")
    scored(coach, gym["Bert"], "Shag", "120")
    answer = anna.get("/api/me/everything")
    assert answer.headers["content-type"] == "application/zip"
    with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
        found = json.loads(archive.read("about-me.json"))
        table = list(csv.DictReader(io.StringIO(archive.read("scores.csv").decode())))
    assert found["person"][0]["email"] == "anna@test.example"
    assert [one["entered"] for one in found["scores"]] == ["100"]
    assert len(found["changes"]) == 1
    assert [(row["person"], row["entered"]) for row in table] == [("Anna Test", "100")]
    # Nothing that opens a door, nothing of anybody else.
    assert "argon2" not in json.dumps(found)
    assert "guard" not in found["sign_ins"][0]
    assert "Bert" not in json.dumps(found)


def test_a_coach_who_trains_is_on_the_sheet_and_keeps_their_score(coach, browser_of, gym):
    published(coach, BOARD)
    assert gym["Cyril"] not in [one["id"] for one in coach.get("/api/athletes").json()]
    changed = coach.patch(f"/api/people/{gym['Cyril']}", json={"trains": True})
    assert (changed.json()["role"], changed.json()["trains"]) == ("coach", True)
    assert gym["Cyril"] in [one["id"] for one in coach.get("/api/athletes").json()]
    cyril = browser_of("Cyril")
    assert cyril.get("/api/me").json()["trains"]
    key = keys(coach, DAY)["Shag"]
    body = {"entered": "90", "tier": 0, "track": 0}
    mine = cyril.put(f"/api/me/days/{TODAY}/pieces/{key}/score", json=body)
    assert mine.status_code == 200, mine.text


def test_an_athlete_becomes_a_coach_and_the_last_coach_stays_one(coach, gym):
    made = coach.patch(f"/api/people/{gym['Anna']}", json={"role": "coach"}).json()
    assert (made["role"], made["trains"]) == ("coach", True)
    for name in ("Cyril", "Carla"):
        coach.patch(f"/api/people/{gym[name]}", json={"role": "athlete"})
    last = coach.patch(f"/api/people/{gym['Anna']}", json={"role": "athlete"})
    assert last.status_code in (403, 409)


def test_the_only_coach_cannot_become_an_athlete(coach, gym):
    coach.patch(f"/api/people/{gym['Cyril']}", json={"active": False})
    refused = coach.patch(f"/api/people/{gym['Carla']}", json={"role": "athlete"})
    assert refused.status_code == 409
    assert "last coach and cannot become an athlete" in refused.json()["detail"]


def test_who_asks_to_be_erased_is_shown_and_may_think_again(coach, anna, gym):
    assert anna.put("/api/me/erase-wish", json={"wish": True}).json()["erase_asked"]
    people = {one["id"]: one for one in coach.get("/api/people").json()}
    assert people[gym["Anna"]]["erase_asked"]
    assert anna.put("/api/me/erase-wish", json={"wish": False}).json()["erase_asked"] is None


def test_who_is_erased_leaves_nothing_and_their_team_mate_keeps_the_score(coach, anna, gym, engine):
    published(coach, BOARD)
    key = keys(coach, DAY)["Gannet"]
    team = {"entered": "5+3", "tier": 0, "track": 0}
    groups = {"groups": [[gym["Anna"], gym["Bert"]]], "version": 0}
    made = coach.put(f"{DAY}/classes/06:30/pieces/{key}/teams", json=groups)
    scored(coach, gym["Anna"], "Shag", "100")
    scored(coach, gym["Bert"], "Shag", "110")
    coach.put(f"{DAY}/pieces/{key}/scores/{gym['Bert']}", json=team)
    going = coach.get(f"/api/people/{gym['Anna']}/erasing").json()
    assert going["scores"] >= 1
    wrong = coach.post(f"/api/people/{gym['Anna']}/erase", json={"name": "Anna"})
    assert wrong.status_code == 422
    done = coach.post(f"/api/people/{gym['Anna']}/erase", json={"name": "anna test"})
    assert done.status_code == 204, (done.text, made.text)
    assert anna.get("/api/me").status_code == 401
    assert gym["Anna"] not in [one["id"] for one in coach.get("/api/people").json()]
    with engine.connect() as db:
        for table in ("score", "score_trail", "jot", "profile", "attendance", "sign_in"):
            query = text(f"select count(*) from {table} where person_id = :id")
            assert db.execute(query, {"id": gym["Anna"]}).scalar() == 0, table
    kept = coach.get(f"{DAY}/sheet").json()["scores"]
    assert {one["person_id"] for one in kept} == {gym["Bert"]}


def test_a_coach_who_is_erased_leaves_the_days_they_wrote(coach, browser_of, gym):
    published(browser_of("Cyril"), BOARD)
    done = coach.post(f"/api/people/{gym['Cyril']}/erase", json={"name": "Cyril Test"})
    assert done.status_code == 204, done.text
    assert coach.get(DAY).json()["text"] == BOARD
    own = coach.post(f"/api/people/{gym['Carla']}/erase", json={"name": "Carla Test"})
    assert own.status_code == 409


def test_the_tables_of_the_gym_are_csv(coach, gym):
    published(coach, BOARD)
    scored(coach, gym["Anna"], "Shag", "100")
    coach.patch(f"/api/people/{gym['Bert']}", json={"name": "=cmd()"})
    rows = {}
    for table in ("people", "scores", "bests", "classes", "kit"):
        answer = coach.get(f"/api/tables/{table}")
        assert answer.headers["content-type"].startswith("text/csv")
        rows[table] = list(csv.DictReader(io.StringIO(answer.text)))
    assert [row["entered"] for row in rows["scores"]] == ["100"]
    assert rows["scores"][0]["piece"] == "Shag"
    assert "'=cmd()" in [row["name"] for row in rows["people"]]


def test_a_backup_is_made_at_the_press_of_a_button(coach):
    answer = coach.post("/api/backup")
    assert answer.status_code == 200, answer.text
    with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
        assert json.loads(archive.read("about.json"))["gym"] == "Test Hall"


def test_nightly_backups_are_told_as_they_lie_in_the_folder(coach, tmp_path):
    assert coach.get("/api/backups").json() == {"folder": None, "made": [], "late": False}
    coach.app.state.watch.folder = tmp_path
    read = coach.get("/api/settings").json()
    settings = read["settings"] | {"nights_kept": 14}
    form = {"settings": settings, "version": read["version"]}
    assert coach.put("/api/settings", json=form).json()["settings"]["nights_kept"] == 14
    assert coach.get("/api/backups").json()["late"]
    today = coach.get("/api/gym").json()["today"]
    (tmp_path / f"gym-{today}.backup").write_bytes(b"12345")
    told = coach.get("/api/backups").json()
    assert (told["made"], told["late"]) == ([{"date": today, "size": 5}], False)
    coach.app.state.watch.folder = None


def test_nothing_that_others_wrote_names_who_was_erased(coach, anna, gym, engine):
    """Letters to others, a coach's word and note, and a wrong try at signing in."""
    published(coach, BOARD)
    with Session(engine) as db, db.begin():
        bert = db.get_one(Person, gym["Bert"])
        for key, body in (("a", "Anna Test won. Write to anna@test.example"), ("b", "ANNA TEST")):
            letter = Letter(subject=f"{key}: Anna Test", body=body)
            assert queue_letter(db, bert, "told", key, letter)
        db.execute(
            insert(ProfileRow).values(
                person_id=bert.id, record={"note": "trains with Anna Test"}, version=1
            )
        )
        day = db.scalars(select(Day)).unique().one()
        day.text += "> Anna Test shows the swing\n"
    bad = {"email": "Anna@test.example", "password": "wrong-one"}
    TestClient(coach.app).post("/api/sign-in", json=bad)
    done = coach.post(f"/api/people/{gym['Anna']}/erase", json={"name": "Anna Test"})
    assert done.status_code == 204, done.text
    with engine.connect() as db:
        for table in Base.metadata.sorted_tables:
            for row in db.execute(select(table)):
                assert "anna test" not in str(row).lower(), table.name
                assert "anna@test" not in str(row).lower(), table.name
        bodies = db.scalars(text("select body from mail order by key")).all()
    assert bodies[0] == "a former member won. Write to a former member"


@given(st.text(st.sampled_from("=+-@;' ab,\"\t"), max_size=8))
def test_no_cell_is_a_formula_and_all_come_back_to_the_letter(cell):
    written = guarded(cell)
    for part in re.split(r";\s*", written):
        assert not part.startswith(("=", "+", "-", "@")) or part == written[:0]
    text_out = write_csv(["a", "b"], [[cell, "x"]])
    if cell.strip():
        assert read_csv(text_out)[1][0][1][0] == cell


def test_a_cell_without_end_is_refused_in_a_sentence(coach):
    long = "x" * 140_000
    table = coach.post("/api/tables/kit", json={"text": f"name,count\n{long},1\n", "keep": False})
    assert (table.status_code, "cannot be read as CSV" in table.text) == (422, True)
    pasted = coach.post("/api/people/read", json={"text": f"{long}, y"})
    assert pasted.status_code in (200, 422)


@pytest.mark.parametrize("key", ["nothing", "99999999999999999999", "-1", "٣", "1e3"])
def test_the_trail_of_a_piece_there_is_not_is_empty_or_nowhere(coach, anna, gym, key):
    published(coach, BOARD)
    for client, path in (
        (coach, f"{DAY}/pieces/{key}/scores/{gym['Anna']}/trail"),
        (anna, f"/api/me/days/{TODAY.isoformat()}/pieces/{key}/trail"),
    ):
        answer = client.get(path)
        assert answer.status_code in (200, 404, 422)
        assert answer.status_code != 200 or answer.json() == []


def test_who_is_erased_stands_by_number_beside_the_backups(engine, gym, tmp_path):
    with TestClient(create_app(engine, learns=False, backups=tmp_path)) as carla:
        body = {"email": "carla@test.example", "password": PASSWORD}
        carla.headers["X-Pine-Guard"] = carla.post("/api/sign-in", json=body).json()["guard"]
        path = f"/api/people/{gym['Anna']}/erase"
        assert carla.post(path, json={"name": "somebody else"}).status_code == 422
        assert not (tmp_path / "erased").exists()
        assert carla.post(path, json={"name": "Anna Test"}).status_code == 204
    head, line = (tmp_path / "erased").read_text().splitlines()
    assert head == "Test Hall"
    assert line.split()[1:] == [str(gym["Anna"])]
