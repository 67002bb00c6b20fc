"""Days over HTTP: preview, versions, conflicts, classes, members."""

import datetime as dt
import json
import re
import subprocess
from pathlib import Path
from typing import get_args

from shared import TODAY, start_over
from sqlalchemy.orm import Session

from pine_ladder.api.app import create_app
from pine_ladder.api.days.testruns import TierPrediction
from pine_ladder.core.notation import parse
from pine_ladder.demo import load_demo
from pine_ladder.demo.people import ATHLETES
from pine_ladder.store.models import Day, Programme, ScoreRow

ROOT = Path(__file__).parents[2]
DAY = "/api/days/2026-06-04"
BOARD = '# Neap\n\n## Conditioning "Neap": AMRAP 12:00\n10 push-up\n20 sit-up\n'


def test_a_preview_reads_times_and_explains(browser_of):
    client = browser_of("Carla")
    text = BOARD + "10 kettelbell swing\n"
    seen = client.post("/api/preview", json={"text": text}).json()
    assert seen["title"] == "Neap"
    assert seen["outline"]["pieces"][0]["clock"]["total_s"] == 720
    messages = [finding["message"] for finding in seen["findings"]]
    assert any("did you mean kettlebell swing?" in message for message in messages)
    assert seen["view"]["pieces"][0]["blocks"][0][0]["tasks"][0]["movement"] == "push-up"


def test_a_day_nobody_wrote_is_empty_at_version_0(browser_of):
    day = browser_of("Carla").get(DAY).json()
    assert (day["text"], day["version"]) == ("", 0)


def test_saving_counts_versions_and_a_stale_save_gets_the_newer_text(browser_of):
    carla, cyril = browser_of("Carla"), browser_of("Cyril")
    assert carla.put(DAY, json={"text": BOARD, "version": 0}).json()["version"] == 1
    assert cyril.put(DAY, json={"text": "# Cyril's", "version": 1}).json()["version"] == 2
    stale = carla.put(DAY, json={"text": "# Carla's", "version": 1})
    assert stale.status_code == 409
    assert stale.json()["newer"]["text"] == "# Cyril's"
    assert "Cyril Test saved this day" in stale.json()["detail"]
    assert carla.get(DAY).json()["text"] == "# Cyril's"


def test_two_first_saves_do_not_overwrite_each_other(browser_of):
    carla, cyril = browser_of("Carla"), browser_of("Cyril")
    carla.put(DAY, json={"text": "# Carla's", "version": 0})
    answer = cyril.put(DAY, json={"text": "# Cyril's", "version": 0})
    assert answer.status_code == 409
    assert answer.json()["newer"]["text"] == "# Carla's"


def test_days_are_listed_with_their_hours(browser_of):
    client = browser_of("Carla")
    client.put(DAY, json={"text": BOARD, "version": 0})
    query = {"first": "2026-06-01", "last": "2026-06-07"}
    (found,) = client.get("/api/days", params=query).json()
    assert (found["date"], found["title"]) == ("2026-06-04", "Neap")
    backwards = {"first": "2026-06-07", "last": "2026-06-01"}
    assert client.get("/api/days", params=backwards).status_code == 422


def test_the_sheet_puts_who_came_first(browser_of, gym):
    client = browser_of("Carla")
    client.put(DAY, json={"text": BOARD, "version": 0})
    held = client.put(f"{DAY}/classes/18:00:00").json()["id"]
    for name in ("Emma", "Anna"):
        client.put(f"/api/classes/{held}/here/{gym[name]}", json={"here": True})
    rows = client.get(f"{DAY}/sheet").json()["rows"]
    assert [(row["name"], row["classes"]) for row in rows[:3]] == [
        ("Anna Test", ["18:00:00"]),
        ("Emma Test", ["18:00:00"]),
        ("Bert Test", []),
    ]


def test_members_are_added_and_changed(browser_of):
    client = browser_of("Carla")
    form = {"name": " Olga  New ", "email": "Olga@test.example", "password": "long-enough-1"}
    made = client.post("/api/athletes", json=form).json()
    assert (made["name"], made["email"], made["tier"]) == ("Olga New", "olga@test.example", 0)
    assert client.post("/api/athletes", json=form).status_code == 409
    moved = client.patch(f"/api/athletes/{made['id']}", json={"tier": 2, "track": 1}).json()
    assert (moved["tier"], moved["track"]) == (2, 1)
    assert client.patch(f"/api/athletes/{made['id']}", json={"tier": 9}).status_code == 422
    assert any(a["name"] == "Olga New" for a in client.get("/api/athletes").json())


def test_errors_are_sentences(browser_of):
    client = browser_of("Carla")
    assert client.get(f"{DAY}/sheet").json() == {"detail": "there is no session on 2026-06-04"}
    assert "version" in client.put(DAY, json={"text": "x"}).json()["detail"]


def test_the_published_description_and_the_types_made_from_it_are_current(engine, tmp_path):
    described = json.loads((ROOT / "web" / "openapi.json").read_text())
    assert described == create_app(engine).openapi(), "run make openapi"
    fresh = tmp_path / "schema.ts"
    subprocess.run(
        ["npx", "openapi-typescript", "openapi.json", "-o", str(fresh)],
        cwd=ROOT / "web",
        check=True,
        capture_output=True,
    )
    assert fresh.read_text() == (ROOT / "web/src/api/schema.ts").read_text(), "run make openapi"


def test_every_route_is_described(engine):
    described = create_app(engine).openapi()
    for methods in described["paths"].values():
        for operation in methods.values():
            assert operation["description"]
    for model in described["components"]["schemas"].values():
        if "properties" in model and not model["title"].startswith(("HTTP", "Validation")):
            assert model.get("description"), model["title"]


def test_the_demo_gym_is_whole_and_loads_once(engine, gym):
    assert start_over(engine, lambda db: load_demo(db, TODAY, weeks=3))
    with Session(engine) as db, db.begin():
        assert not load_demo(db, TODAY)
        drafts = db.query(Day).filter(Day.published.is_(False)).order_by(Day.date).all()
        assert [(day.date - TODAY).days for day in drafts] == [1, 2]
        first = min(one.id for one in db.query(Programme))
        own = db.query(Day).filter(Day.published).order_by(Day.date)
        days = own.filter(Day.programme_id == first).all()
        assert days[-1].date == TODAY
        assert own.filter(Day.programme_id != first).count() == 4
        assert 18 <= len(days) <= 19
        assert len(ATHLETES) == 40
        assert db.query(ScoreRow).filter(ScoreRow.order_key.is_(None)).count() == 0
        assert db.query(ScoreRow).count() > 500
        for day in days:
            errors = [f for f in parse(day.text).findings if f.severity != "hint"]
            assert errors == []


def test_the_demo_gym_is_the_same_from_the_same_seed(engine, gym):
    def load() -> list[tuple[str, str]]:
        start_over(engine, lambda db: load_demo(db, dt.date(2026, 6, 3), weeks=3))
        with Session(engine) as db:
            rows = db.query(ScoreRow).order_by(ScoreRow.id)
            return [(row.person.name, row.entered) for row in rows]

    assert load() == load()


def test_the_gyms_own_movement_is_known_to_every_reading(browser_of):
    coach, athlete = browser_of("Carla"), browser_of("Anna")
    board = {"text": "## Core: AMRAP 5:00\n10 quay vaults"}

    def codes() -> set[str]:
        return {f["code"] for f in coach.post("/api/preview", json=board).json()["findings"]}

    assert "unknown-movement" in codes()
    movement = {"name": "quay vault", "patterns": ["jump"], "seconds": 3, "floor_s": 2, "demand": 1}
    own = {"movement": movement, "above": "box jump"}
    assert athlete.put("/api/movements", json=own).status_code == 403
    assert coach.put("/api/movements", json=own).status_code == 200
    assert "unknown-movement" not in codes()
    page = athlete.get("/api/movements/quay vault").json()
    assert page["own"] and "quay vault" in page["ladder"]["rungs"]
    names = [m["name"] for m in coach.get("/api/words").json()["movements"]]
    assert "quay vault" in names
    clash = {"movement": {**movement, "name": "pier vault", "aliases": ["quay vault"]}}
    answer = coach.put("/api/movements", json=clash)
    assert (answer.status_code, "names both" in answer.json()["detail"]) == (409, True)
    slow = {"movement": {**movement, "floor_s": 9}}
    assert "cannot be slower" in coach.put("/api/movements", json=slow).json()["detail"]
    assert coach.delete("/api/movements/quay vault").status_code == 204
    assert "unknown-movement" in codes()
    assert coach.delete("/api/movements/quay vault").status_code == 404


def test_boards_change_by_request_and_say_what_cannot_be(browser_of):
    coach = browser_of("Carla")
    text = "## Core: EMOM 6:00\n1) 5 dip\n2) 5 burpee\n"

    def change(**how: object) -> dict[str, str]:
        body = {"text": text, "line": 1, "change": "add line", **how}
        return coach.post("/api/boards/change", json=body).json()

    assert change(added="rest")["text"].endswith("3) rest\n")
    assert change(change="move line", line=3, by=-1)["text"].splitlines()[1] == "1) 5 burpee"
    assert "no piece stands" in change(text="# Title\n", change="remove piece")["detail"]
    heading = {"role": "core", "format": "amrap", "length": "soon"}
    answer = coach.post("/api/headings/write", json=heading)
    assert answer.status_code == 422
    read = coach.post("/api/headings/read", json={"text": "## Core: AMRAP 7:00, rest 1:00"}).json()
    assert (read["format"], read["length"], read["rest"]) == ("amrap", "7:00", "1:00")


def test_publishing_asks_while_athletes_would_not_see_a_line(browser_of):
    carla, anna = browser_of("Carla"), browser_of("Anna")
    text = "## Strength: 5 sets\n3 back squat @ 80 of what\n10 push-up\n"
    day = carla.put(DAY, json={"text": text, "version": 0}).json()
    publish = {"published": True, "version": day["version"]}
    asked = carla.put(f"{DAY}/published", json=publish)
    assert asked.status_code == 409
    (unread,) = asked.json()["unread"]
    assert (unread["line"], unread["text"]) == (2, "3 back squat @ 80 of what")
    assert not carla.get(DAY).json()["published"]
    assert carla.put(f"{DAY}/published", json={**publish, "despite": True}).json()["published"]
    mended = text.replace("80 of what", "80%")
    day = carla.put(DAY, json={"text": mended, "version": day["version"]}).json()
    for shown in (False, True):
        form = {"published": shown, "version": carla.get(DAY).json()["version"]}
        assert carla.put(f"{DAY}/published", json=form).status_code == 200
    assert anna.get("/api/me/days/2026-06-04").status_code == 200


def test_the_styles_of_an_aim_name_words_that_are_sent():
    """An aim that is met is drawn in pine: a style for another word would leave it amber."""
    style = (Path(__file__).parents[2] / "web/src/training/TestrunBand.module.css").read_text()
    sent = get_args(TierPrediction.model_fields["aim"].annotation)
    styled = re.findall(r'data-aim="([^"]+)"', style)
    assert "on target" in styled
    assert set(styled) <= set(sent)
