"""Old scores brought in from a table: looked at, kept whole, out again alike, taken back."""

from __future__ import annotations

import csv
import io

import pandas
import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from shared import TODAY, keys, published, small_gym
from sklearn.datasets import load_linnerud
from sqlalchemy import text
from sqlalchemy.orm import Session

from pine_ladder.files.tables import read_csv, write_csv
from pine_ladder.store import exports as tables
from pine_ladder.store.models import ScoreImport
from pine_ladder.usecases import importing as imports

HEADS = ("date", "piece", "person", "tier", "track", "entered", "board")
AMRAP = '## Conditioning "Gannet": AMRAP 10:00\n10 pull-up\n10 sit-up'


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


def table(*rows: tuple[str, ...]) -> str:
    return write_csv(HEADS, [(*row, *[""] * (len(HEADS) - len(row))) for row in rows])


def look(coach, told: str, **named: int) -> dict:
    answer = coach.post("/api/scores/import/look", json={"text": told, "named": named})
    assert answer.status_code == 200, answer.text
    return answer.json()


def bring(coach, told: str, **named: int) -> dict:
    answer = coach.post("/api/scores/import", json={"text": told, "named": named})
    assert answer.status_code == 201, answer.text
    return answer.json()


def test_old_scores_make_their_days_and_are_ranked(coach):
    told = table(
        ("2026-03-02", "Gannet", "Anna Test", "As written", "Heavier", "6+3", AMRAP),
        ("2026-03-02", "Gannet", "bert  test", "As written", "", "7", AMRAP),
        ("2026-03-03", "Two miles", "Anna Test", "", "", "15:12"),
    )
    seen = look(coach, told)
    assert (seen["counts"], seen["days"]) == ({"new": 3}, ["2026-03-02", "2026-03-03"])
    assert coach.get("/api/days/2026-03-02").json()["text"] == ""
    made = bring(coach, told)
    assert (made["scores"], made["days"], made["people"]) == (3, 2, 0)
    key = keys(coach, "/api/days/2026-03-02")["Gannet"]
    board = coach.get(f"/api/days/2026-03-02/pieces/{key}/standings").json()
    places = [(p["rank"], p["entry"]["name"]) for p in board["sections"][0]["places"]]
    assert places == [(1, "Bert Test"), (2, "Anna Test")]
    assert coach.get("/api/days/2026-03-03").json()["published"]


def test_the_same_table_again_changes_nothing(coach):
    told = table(("2026-03-03", "Two miles", "Anna Test", "", "", "15:12"))
    bring(coach, told)
    assert look(coach, told)["counts"] == {"there": 1}
    again = coach.post("/api/scores/import", json={"text": told})
    assert (again.status_code, again.json()["detail"]) == (
        422, "there is no new score in this table",
    )  # fmt: skip
    assert len(coach.get("/api/scores/imports").json()) == 1


def test_a_name_that_is_nobodys_for_certain_is_asked(coach, gym):
    told = table(
        ("2026-03-03", "Two miles", "Ana Test", "", "", "15:12"),
        ("2026-03-03", "Two miles", "Finn Wicker", "", "", "16:40"),
    )
    seen = look(coach, told)
    assert seen["counts"] == {"doubtful": 2}
    asks = {one["name"]: one for one in seen["asks"]}
    assert asks["Ana Test"]["likely"][0] == gym["Anna"]
    assert asks["Finn Wicker"]["scores"] == 1
    answers = {"Ana Test": gym["Anna"], "Finn Wicker": 0}
    assert look(coach, told, **answers)["counts"] == {"new": 2}
    made = bring(coach, told, **answers)
    assert (made["scores"], made["people"]) == (2, 1)
    assert "Finn Wicker" in [one["name"] for one in coach.get("/api/people").json()]


@pytest.mark.parametrize(
    ("row", "why"),
    [
        (("3/3/26", "Run", "Anna Test", "", "", "15:12"), "is no date: write 2026-03-14"),
        (("2026-03-03", "", "Anna Test", "", "", "15:12"), "piece is empty"),
        (("2026-03-03", "Run", "Anna Test", "Elite", "", "15:12"), "Elite is none of As written"),
        (("2026-03-03", "Run", "Anna Test", "", "", "5+12"), "give the piece in a column board"),
        (("2026-03-03", "Gannet", "Anna Test", "", "", "5+45x", AMRAP), "rounds"),
        ((str(TODAY), "Skua", "Anna Test", "", "", "15:12"), "that day is written already"),
    ],
)
def test_what_cannot_be_taken_is_told_and_the_rest_may_be(coach, row, why):
    published(coach, AMRAP)
    told = table(row, ("2026-03-04", "Two miles", "Bert Test", "", "", "15:00"))
    seen = look(coach, told)
    assert seen["counts"] == {"refused": 1, "new": 1}
    assert why in seen["lines"][0]["why"]
    assert seen["lines"][0]["line"] == 2
    assert bring(coach, told)["scores"] == 1


def test_a_score_that_is_kept_is_never_overwritten(coach, gym):
    published(coach, AMRAP)
    key = keys(coach, f"/api/days/{TODAY}")["Gannet"]
    cell = f"/api/days/{TODAY}/pieces/{key}/scores/{gym['Anna']}"
    coach.put(cell, json={"entered": "5+1", "tier": 0, "track": 0})
    told = table(
        (str(TODAY), "gannet", "Anna Test", "", "", "9"),
        (str(TODAY), "Gannet", "Bert Test", "", "", "4"),
        (str(TODAY), "Gannet", "Bert Test", "", "", "8"),
    )
    seen = look(coach, told)
    assert [line["why"] for line in seen["lines"]] == [
        "another score is kept there already: 5+1", "a second score in this table",
    ]  # fmt: skip
    bring(coach, told)
    kept = {
        s["person_id"]: s["display"] for s in coach.get(f"/api/days/{TODAY}/sheet").json()["scores"]
    }
    assert kept == {gym["Anna"]: "5+1", gym["Bert"]: "4"}


def test_two_pieces_of_one_name_are_told_apart_by_their_boards(coach):
    long = "## Conditioning: 5 rounds for time\n10 push-up"
    short = "## Conditioning: 1 round for time\n400 m run"
    told = table(
        ("2026-03-02", "Conditioning", "Anna Test", "", "", "9:10", long),
        ("2026-03-02", "Conditioning", "Anna Test", "", "", "1:35", short),
    )
    assert bring(coach, told)["scores"] == 2
    assert look(coach, coach.get("/api/tables/scores").text)["counts"] == {"there": 2}
    bare = table(("2026-03-02", "Conditioning", "Bert Test", "", "", "9:10"))
    assert look(coach, bare)["counts"] == {"refused": 1}


def test_an_import_is_taken_back_but_for_what_was_changed_since(coach, gym, engine):
    told = table(
        ("2026-03-02", "Gannet", "Anna Test", "", "", "6+3", AMRAP),
        ("2026-03-02", "Gannet", "Bert Test", "", "", "7", AMRAP),
        ("2026-03-03", "Two miles", "Finn Wicker", "", "", "15:12"),
    )
    made = bring(coach, told, **{"Finn Wicker": 0})
    key = keys(coach, "/api/days/2026-03-02")["Gannet"]
    cell = f"/api/days/2026-03-02/pieces/{key}/scores/{gym['Anna']}"
    changed = coach.put(cell, json={"entered": "6+4", "tier": 0, "track": 0, "version": 1})
    assert changed.status_code == 200, changed.text
    back = coach.delete(f"/api/scores/imports/{made['id']}")
    assert back.json() == {"scores": 2, "days": 1, "people": 1, "kept": 1}
    assert coach.get("/api/days/2026-03-03").json()["text"] == ""
    assert coach.delete(f"/api/scores/imports/{made['id']}").status_code == 404
    with engine.connect() as db:
        assert db.execute(text("select count(*) from score")).scalar() == 1


@pytest.mark.parametrize("told", ["", "date,piece\n2026-03-03,Run"])
def test_a_table_without_its_columns_is_refused_in_a_sentence(coach, told):
    answer = coach.post("/api/scores/import/look", json={"text": told})
    assert answer.status_code == 422
    assert "first row" in answer.json()["detail"]


def linnerud() -> list[tuple[str, str, str]]:
    """The twenty members of scikit-learn's data set: piece, person, result."""
    data = load_linnerud()
    return [
        (piece, f"Member {at + 1:02}", str(int(row[column])))
        for column, piece in enumerate(("Chin-ups", "Sit-ups", "Jumps"))
        for at, row in enumerate(data.data)
    ]


def test_twenty_members_come_in_go_out_identical_and_rank_as_pandas_ranks_them(coach):
    rows = [("2026-03-02", piece, who, "", "", score) for piece, who, score in linnerud()]
    named = {who: 0 for _, who, _ in linnerud()}
    made = bring(coach, table(*rows), **named)
    assert (made["scores"], made["people"]) == (60, 20)
    out = list(csv.DictReader(io.StringIO(coach.get("/api/tables/scores").text)))
    assert sorted((row["piece"], row["person"], row["entered"]) for row in out) == sorted(
        linnerud()
    )
    frame = pandas.DataFrame(linnerud(), columns=["piece", "who", "score"]).astype({"score": int})
    frame["rank"] = frame.groupby("piece")["score"].rank(method="min", ascending=False).astype(int)
    for piece, key in keys(coach, "/api/days/2026-03-02").items():
        board = coach.get(f"/api/days/2026-03-02/pieces/{key}/standings").json()
        ours = {p["entry"]["name"]: p["rank"] for p in board["sections"][0]["places"]}
        own = frame[frame.piece == piece]
        assert ours == dict(zip(own.who, own["rank"], strict=True))


entries = st.fixed_dictionaries(
    {
        "day": st.integers(1, 5),
        "piece": st.sampled_from(["Gannet", "Two miles", 'The "long" one', "=Sums"]),
        "who": st.sampled_from(["Anna Test", "Bert Test", "Dora Test", "+Finn, the 2nd"]),
        "tier": st.sampled_from(["As written", "Scaled"]),
        "seconds": st.integers(60, 3599),
    }
)


@settings(max_examples=examples(12))
@given(st.lists(entries, max_size=25, unique_by=lambda e: (e["day"], e["piece"], e["who"])))
def test_what_goes_out_comes_in_again_identical_and_back_out(engine, password_hash, drawn):
    rows = [
        (f"2026-03-0{e['day']}", e["piece"], e["who"], e["tier"], "Lighter",
         f"{e['seconds'] // 60}:{e['seconds'] % 60:02}")
        for e in drawn
    ]  # fmt: skip
    small_gym(engine, password_hash)
    named = {"+Finn, the 2nd": 0}

    def state(db: Session) -> tuple[str, str]:
        return write_csv(*tables.scores(db)), write_csv(*tables.people(db))

    with Session(engine) as db, db.begin():
        imports.bring_in(db, read_csv(table(*rows)), named, None)
        out = state(db)
        assert out[0].count("\r\n") - 1 == len(rows)
    small_gym(engine, password_hash)
    with Session(engine) as db, db.begin():
        before = state(db)
        imports.bring_in(db, read_csv(out[0]), named, None)
        assert state(db) == out
        imports.take_back(db, db.query(ScoreImport).one())
        assert state(db) == before


# Bests, class times and kit.


def take(coach, name: str, told: str, keep: bool = False):
    return coach.post(f"/api/tables/{name}", json={"text": told, "keep": keep})


TABLES_IN = {
    "bests": (
        "person,movement,best,unit\r\nAnna Test,back squat,100,kg\r\n"
        "Anna Test,pull-up,12,in a row\r\n"
    ),
    "classes": "weekday,start,minutes,places,hall\r\nMonday,06:30,,,\r\n"
    "Monday,18:00,75,8,the shed\r\nSaturday,09:00,,,\r\n",
    "kit": "kit,count\r\nbox,8\r\nkettlebell 24 kg,6\r\n",
}


@pytest.mark.parametrize("name", TABLES_IN)
def test_a_table_comes_in_and_goes_out_alike(coach, name):
    rows = TABLES_IN[name].count("\r\n") - 1
    look = take(coach, name, TABLES_IN[name]).json()
    assert [line["what"] for line in look] == ["new"] * rows
    assert coach.get(f"/api/tables/{name}").text.count("\r\n") == 1
    assert take(coach, name, TABLES_IN[name], keep=True).status_code == 200
    out = coach.get(f"/api/tables/{name}").text
    assert sorted(out.splitlines()) == sorted(TABLES_IN[name].splitlines())
    assert {line["what"] for line in take(coach, name, out).json()} == {"there"}


def test_bests_in_pounds_are_kept_in_kilograms_and_a_change_says_what_was_there(coach, gym):
    take(coach, "bests", TABLES_IN["bests"], keep=True)
    told = "person,movement,best,unit\nanna test,Back Squat,225,lb\n"
    (line,) = take(coach, "bests", told, keep=True).json()
    assert (line["what"], line["why"]) == ("changed", "100 was there")
    profile = coach.get(f"/api/athletes/{gym['Anna']}/profile").json()["profile"]
    # 225 lb at 0.45359237 kg (the international pound).
    assert profile["bests"]["back squat"] == pytest.approx(102.06, abs=0.005)
    assert profile["longest"] == {"pull-up": 12}


@pytest.mark.parametrize(
    ("name", "row", "why"),
    [
        ("bests", "Nobody,back squat,100,kg", "nobody is called Nobody"),
        ("bests", "Anna Test,flying,100,kg", "there is no movement flying"),
        ("bests", "Anna Test,back squat,heavy,kg", "heavy is no number"),
        ("bests", "Anna Test,back squat,100,stone", "write kg, lb or in a row"),
        ("classes", "Funday,18:00", "Funday is no weekday"),
        ("classes", "Monday,25:00", "25:00"),
        ("classes", 'Monday,"6:30, 18:00"', "one class a row"),
        ("kit", "box,2.5", "2.5 is no whole number"),
        ("kit", "b,2", "2 to 60 letters"),
    ],
)
def test_a_row_that_cannot_be_is_told_and_not_kept(coach, name, row, why):
    told = TABLES_IN[name].split("\r\n")[0] + "\n" + row
    (line,) = take(coach, name, told, keep=True).json()
    assert line["what"] == "refused"
    assert why in line["why"]
    assert coach.get(f"/api/tables/{name}").text.count("\r\n") == 1


def test_a_table_of_another_kind_is_refused(coach):
    refused = take(coach, "kit", TABLES_IN["classes"])
    assert (refused.status_code, "no column kit or count" in refused.text) == (422, True)


def test_whoever_has_joined_since_stays_when_an_import_is_taken_back(coach, engine, gym):
    told = table(("2026-03-03", "Two miles", "Nils Adder", "", "", "15:12"))
    made = bring(coach, told, **{"Nils Adder": 0})
    assert made["people"] == 1, made
    with engine.begin() as db:
        db.execute(text("update person set password_hash = 'x' where name = 'Nils Adder'"))
    coach.delete(f"/api/scores/imports/{made['id']}")
    names = [one["name"] for one in coach.get("/api/people").json()]
    assert "Nils Adder" in names
