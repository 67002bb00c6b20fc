"""Two lines of sessions on one day: each its boards, classes, places and scores."""

from __future__ import annotations

import datetime as dt
import io
import zipfile

import pytest
from examples import examples
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from icalendar import Calendar
from shared import TODAY, keys, publish

DAY = f"/api/days/{TODAY.isoformat()}"
TOMORROW = TODAY + dt.timedelta(days=1)
DAILY = "# Slack Water\n\n## Conditioning: AMRAP 10:00\n10 push-up\n10 air squat\n"
HEAVY = "# Capstan\n\n## Strength: 5 sets, score load\n3 back squat\n"


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


@pytest.fixture
def club(coach):
    """The id of a second programme, whose days are Anna's too."""
    made = coach.post("/api/programmes", json={"name": " Barbell  Club "}).json()[-1]
    assert made["name"] == "Barbell Club"
    return made["id"]


def in_(line: int, path: str) -> str:
    return f"{path}{'&' if '?' in path else '?'}in_programme={line}"


def write(coach, line: int, text: str, date: dt.date = TODAY) -> None:
    day = f"/api/days/{date.isoformat()}"
    saved = coach.put(in_(line, day), json={"text": text, "version": 0})
    assert saved.status_code == 200, saved.text
    shown = coach.put(in_(line, f"{day}/published"), json={"published": True, "version": 1})
    assert shown.status_code == 200, shown.text


def classes(coach, line: int, weekly: list[str]) -> None:
    held = coach.get(in_(line, "/api/settings")).json()
    form = {"settings": {**held["settings"], "classes": weekly}, "version": held["version"]}
    assert coach.put(in_(line, "/api/settings"), json=form).status_code == 200


def ids(coach) -> dict[str, int]:
    return {one["name"].split()[0]: one["id"] for one in coach.get("/api/people").json()}


def test_two_lines_of_one_day_have_their_own_boards_versions_and_scores(coach, club):
    coach.put(DAY, json={"text": DAILY, "version": 0})
    publish(coach, DAY)
    write(coach, club, HEAVY)
    assert coach.get(DAY).json()["text"] == DAILY
    assert coach.get(in_(club, DAY)).json()["text"] == HEAVY
    # A save of one is no conflict with the other.
    assert coach.put(in_(club, DAY), json={"text": HEAVY + "\n", "version": 1}).status_code == 200
    assert coach.get(DAY).json()["version"] == 1
    (daily,) = keys(coach, DAY).values()
    there = {one["title"]: one["key"] for one in coach.get(in_(club, f"{DAY}/pieces")).json()}
    (heavy,) = there.values()
    anna = ids(coach)["Anna"]
    told = {"entered": "7+5", "tier": 0, "track": 0, "version": 0}
    assert coach.put(f"{DAY}/pieces/{daily}/scores/{anna}", json=told).status_code == 200
    load = {**told, "entered": "92.5"}
    assert coach.put(f"{DAY}/pieces/{heavy}/scores/{anna}", json=load).status_code == 404
    path = in_(club, f"{DAY}/pieces/{heavy}/scores/{anna}")
    assert coach.put(path, json=load).status_code == 200
    shown = [
        [score["display"] for score in coach.get(one).json()["scores"]]
        for one in (f"{DAY}/sheet", in_(club, f"{DAY}/sheet"))
    ]
    assert shown == [["7+5"], ["92.5 kg"]]


def test_who_follows_a_line_stands_on_its_sheet_and_so_do_its_guests(coach, club, browser_of):
    people = ids(coach)
    body = {"programmes": [club]}
    assert coach.patch(f"/api/people/{people['Bert']}", json=body).json()["programmes"] == [club]
    anna = browser_of("Anna")
    assert anna.get("/api/me").json()["programmes"] != [club]
    both = {"programmes": [anna.get("/api/me").json()["programmes"][0], club]}
    assert anna.put("/api/me/programmes", json=both).json() == both
    coach.put(DAY, json={"text": DAILY, "version": 0})
    write(coach, club, HEAVY)

    def on(path: str) -> set[str]:
        return {one["name"].split()[0] for one in coach.get(path).json()["rows"]}

    assert on(f"{DAY}/sheet") == {"Anna", "Dora", "Emma"}
    assert on(in_(club, f"{DAY}/sheet")) == {"Anna", "Bert"}
    # Whoever comes for once is on the sheet of that day.
    held = coach.put(in_(club, f"{DAY}/classes/19:15")).json()["id"]
    coach.put(f"/api/classes/{held}/here/{people['Dora']}", json={"here": True})
    assert on(in_(club, f"{DAY}/sheet")) == {"Anna", "Bert", "Dora"}


def test_who_signs_up_for_one_line_stands_on_its_sheet_and_on_no_other(coach, club, browser_of):
    for line in (1, club):
        classes(coach, line, ["18:00"] * 7)
        write(coach, line, DAILY if line == 1 else HEAVY, TOMORROW)
    (first, *_) = coach.get("/api/programmes").json()
    people = ids(coach)
    # Bert follows the club alone, Emma the first line alone; each signs up for the other's class.
    for name, own in (("Bert", club), ("Emma", first["id"])):
        coach.patch(f"/api/people/{people[name]}", json={"programmes": [own]})
    for name, line in (("Bert", first["id"]), ("Emma", club)):
        place = in_(line, f"/api/me/days/{TOMORROW}/place")
        said = browser_of(name).put(place, json={"start": "18:00", "coming": True})
        assert said.status_code == 200, said.text

    def on(line: int) -> set[str]:
        path = in_(line, f"/api/days/{TOMORROW}/sheet")
        return {one["name"].split()[0] for one in coach.get(path).json()["rows"]}

    # Both stand on both, but nobody else crosses over by a sign-up for the other line.
    assert {"Bert", "Emma"} <= on(first["id"])
    assert on(club) == {"Bert", "Emma"}
    place = in_(club, f"/api/me/days/{TOMORROW}/place")
    browser_of("Emma").put(place, json={"start": "18:00", "coming": False})
    assert on(club) == {"Bert"}


def test_classes_and_places_of_two_lines_at_one_time_are_apart(coach, club, browser_of):
    weekly = ["18:00"] * 7
    for line in (1, club):
        classes(coach, line, weekly)
    anna = browser_of("Anna")
    place, said = f"/api/me/days/{TOMORROW}/place", {"start": "18:00", "coming": True}
    assert anna.put(in_(club, place), json=said).json()["classes"][0]["mine"] == "coming"
    assert anna.get(f"{place}s").json()["classes"][0]["mine"] == "no"
    off = {"cancelled": True, "version": 0}
    plan = f"/api/days/{TOMORROW}/classes/18:00/plan"
    assert coach.put(plan, json=off).status_code == 200
    assert coach.get(in_(club, f"/api/days/{TOMORROW}/places")).json()[0]["cancelled"] is False
    classes(coach, club, ["19:15"] + [""] * 6)
    assert coach.get("/api/settings").json()["settings"]["classes"] == weekly


def test_a_calendar_holds_the_lines_that_are_followed_each_with_its_own_marks(
    coach, club, browser_of
):
    for line in (1, club):
        classes(coach, line, ["18:00"] * 7)
    write(coach, club, HEAVY, TOMORROW)
    anna = browser_of("Anna")
    address = anna.post("/api/me/calendar", json={"all": True}).json()["address"]
    path = "/" + address.split("/", 3)[3]

    def held() -> list[tuple[str, str]]:
        found = Calendar.from_ical(anna.get(path).content).walk("VEVENT")
        return [
            (str(one["uid"]), str(one["summary"]))
            for one in found
            if one["dtstart"].dt.date() == TOMORROW
        ]

    assert len(held()) == 1
    anna.put("/api/me/programmes", json={"programmes": [1, club]})
    both = held()
    assert len({uid for uid, _ in both}) == len(both) == 2
    assert {title for _, title in both} == {"Capstan", "Test Hall"}


def test_a_display_shows_its_own_line(coach, club, stranger):
    write(coach, club, HEAVY)
    walls = [
        coach.post("/api/walls", json={"name": "Hall", "programme": line}).json()
        for line in (None, club)
    ]
    boards = [stranger.get(f"/api/wall/{one['token']}").json()["board"] for one in walls]
    assert boards[0] is None
    assert boards[1]["title"] == "Capstan"
    assert walls[1]["shown"]["address"].endswith(f"/wall/{walls[1]['token']}")
    assert coach.post("/api/walls", json={"name": "x", "programme": 99}).status_code == 404


def test_a_name_is_one_lines_own_and_what_holds_something_stays(coach, club):
    def add(name: str) -> str:
        return coach.post("/api/programmes", json={"name": name}).json().get("detail", "")

    assert add("barbell club") == "there is a programme barbell club already"
    assert add("  ") == "a programme has a name"
    assert "too long" in add("x" * 61)
    renamed = coach.put(f"/api/programmes/{club}", json={"name": "BARBELL CLUB"})
    assert [one["name"] for one in renamed.json()] == ["Daily", "BARBELL CLUB"]
    first = renamed.json()[0]["id"]
    write(coach, club, HEAVY)
    for line in (first, club):
        assert "it stays" in coach.delete(f"/api/programmes/{line}").json()["detail"]
    coach.put(in_(club, DAY), json={"text": "", "version": 1})
    assert [one["id"] for one in coach.delete(f"/api/programmes/{club}").json()] == [first]
    # Who looks at what is gone is told so, and nothing is written elsewhere instead.
    lost = coach.put(in_(club, DAY), json={"text": DAILY, "version": 0})
    assert (lost.status_code, lost.json()["detail"]) == (404, "there is no such programme")
    assert coach.get(DAY).json()["text"] == ""


def test_everybody_follows_something_there_is(coach, club):
    anna = f"/api/people/{ids(coach)['Anna']}"
    assert coach.patch(anna, json={"programmes": [77]}).status_code == 422
    assert coach.patch(anna, json={"programmes": []}).status_code == 422
    made = {"name": "Nora New", "programmes": [club]}
    assert coach.post("/api/people", json=made).json()["programmes"] == [club]


def test_a_week_taken_away_is_that_of_its_line(coach, club):
    coach.put(DAY, json={"text": DAILY, "version": 0})
    write(coach, club, HEAVY)
    content = coach.get(in_(club, f"/api/week/{TODAY}/boards")).content
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        (name,) = archive.namelist()
        assert b"Capstan" in archive.read(name)


@settings(
    max_examples=examples(12),
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
)
@given(st.lists(st.tuples(st.booleans(), st.integers(1, 9)), max_size=8))
def test_whatever_is_written_in_one_line_leaves_the_other_as_it_was(coach, club, steps):
    there = {}
    for line in (1, club):
        found = coach.get(in_(line, DAY)).json()
        there[line] = [found["version"], found["text"]]
    for second, reps in steps:
        line = club if second else 1
        text = f"## Conditioning: AMRAP 9:00\n{reps} burpee\n"
        body = {"text": text, "version": there[line][0]}
        assert coach.put(in_(line, DAY), json=body).status_code == 200
        there[line] = [there[line][0] + 1, text]
        for each, (version, board) in there.items():
            found = coach.get(in_(each, DAY)).json()
            assert (found["version"], found["text"]) == (version, board)
