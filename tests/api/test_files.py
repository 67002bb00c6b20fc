"""What can be taken away, read back with libraries of other hands."""

import io
import json
import zipfile
from pathlib import Path

import jsonschema
import pytest
import vobject
from fastapi.testclient import TestClient
from pypdf import PdfReader
from shared import TODAY, demo_gym
from typer.testing import CliRunner

from pine_ladder.api.app import create_app
from pine_ladder.cli import app
from pine_ladder.cli.outputs import schema_of
from pine_ladder.core.day.athlete_view import view
from pine_ladder.core.day.hour_ruler import outline
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.files.printed_page import day_page

DATE = TODAY.isoformat()
DOCS = Path(__file__).parents[2] / "docs" / "schemas"


@pytest.fixture
def coach(engine):
    """A coach of the demo gym."""
    demo_gym(engine)
    made = TestClient(create_app(engine))
    made.post("/api/demo/sign-in", json={"person_id": 1})
    return made


def test_a_board_leaves_as_the_text_it_is(coach):
    answer = coach.get(f"/api/days/{DATE}/board")
    assert answer.text == coach.get(f"/api/days/{DATE}").json()["text"]
    assert f"{DATE}.board" in answer.headers["content-disposition"]


def test_a_week_is_a_zip_of_boards_that_read(coach):
    archive = zipfile.ZipFile(io.BytesIO(coach.get(f"/api/week/{DATE}/boards").content))
    assert f"{DATE}.board" in archive.namelist()
    for name in archive.namelist():
        assert parse(archive.read(name).decode()).session.date.isoformat() == name[:10]


def test_a_week_is_a_calendar_that_another_library_reads(coach):
    content = coach.get(f"/api/week/{DATE}/calendar").text
    events = vobject.readOne(content).vevent_list
    today = [event for event in events if event.dtstart.value.date() == TODAY]
    if TODAY.weekday() < 6:
        assert [f"{event.dtstart.value:%H:%M}" for event in today] == ["06:30", "12:15", "18:00"]
        assert today[0].summary.value == "Slack Water"
        assert today[0].duration.value.total_seconds() == 3600
        assert today[0].description.value.startswith("# Slack Water")
    else:
        # The demo gym rests on Sundays.
        assert today == []
        assert len(events) > 0
    assert len({event.uid.value for event in events}) == len(events)


def test_a_day_is_one_page_of_a4_that_says_what_the_board_says(coach):
    answer = coach.get(f"/api/days/{DATE}/page", params={"tier": 2, "track": 1})
    (page,) = PdfReader(io.BytesIO(answer.content)).pages
    assert (round(page.mediabox.width), round(page.mediabox.height)) == (595, 842)
    words = page.extract_text()
    for said in (
        "Slack Water",
        "Kittiwake Hall",
        "push press",
        "kettlebell swing",
        "15 kg",
        "AMRAP 20:00",
        "Pain",
    ):
        assert said in words


def test_all_tiers_stand_on_one_sheet_each_with_what_it_does_differently(coach):
    answer = coach.get(f"/api/days/{DATE}/page")
    (page,) = PdfReader(io.BytesIO(answer.content)).pages
    words = page.extract_text()
    for said in ("52.5/37.5 kg", "Scaled", "42.5/30 kg", "Starter", "20/15 kg", "box step-up"):
        assert said in words
    alone = coach.get(f"/api/days/{DATE}/page", params={"tier": 0})
    assert "Scaled" not in PdfReader(io.BytesIO(alone.content)).pages[0].extract_text()


def test_a_long_board_still_fits_one_page():
    text = "# Long\n" + "\n".join(
        f"## Core: AMRAP 5:00\n10 push-up\n10 sit-up — {'slow and steady ' * 4}" for _ in range(12)
    )
    session = parse(text).session
    page = day_page("Somewhere", outline(session, library()), view(session, library()))
    assert len(PdfReader(io.BytesIO(page)).pages) == 1


def test_a_plan_leaves_as_json_that_fits_its_published_schema(coach):
    plan = coach.get(f"/api/days/{DATE}/plan").json()
    jsonschema.validate(plan, json.loads((DOCS / "plan.json").read_text()))


@pytest.mark.parametrize("name", ["plan", "check", "clock", "testrun", "score", "figure"])
def test_published_schemas_are_current(name: str):
    assert json.loads((DOCS / f"{name}.json").read_text()) == schema_of(name), "run make openapi"


@pytest.mark.parametrize("board", ["slack-water", "two-in-a-boat", "spring-ladder"])
def test_the_command_line_prints_what_its_schemas_say(boards: Path, board: str):
    file = str(boards / f"{board}.board")
    for name, words in (
        ("check", ["board", "check", file, "--json"]),
        ("clock", ["board", "clock", file, "--json"]),
        ("testrun", ["board", "testrun", file, "--json", "--athletes", "20"]),
        ("score", ["score", "parse", "5+12", "--board", file, "--piece", "2", "--json"]),
    ):
        printed = json.loads(CliRunner().invoke(app, words).output)
        jsonschema.validate(printed, json.loads((DOCS / f"{name}.json").read_text()))


def test_the_command_line_test_run_tells_the_tiers_apart_and_repeats_itself(boards: Path):
    file = str(boards / "slack-water.board")
    words = ["board", "testrun", file, "--json", "--athletes", "60", "--seed", "4"]
    first, again = (CliRunner().invoke(app, words).output for _ in range(2))
    assert first == again
    amrap = next(p for p in json.loads(first)["pieces"] if p["name"] == "Slack Water")
    assert [tier["result"]["kind"] for tier in amrap["tiers"]] == ["rounds"] * 3
    for tier in amrap["tiers"]:
        result = tier["result"]
        assert result["p10"] < result["p50"] < result["p90"]
        assert tier["time_s"]["p50"] == 1200
    told = CliRunner().invoke(app, words[:3]).output
    assert "Starter" in told
    assert "rounds" in told
