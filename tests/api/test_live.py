"""Live pages over HTTP: one press tells every display of every process, whatever breaks between."""

import asyncio
import datetime as dt
import json
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator

import pytest
from shared import PASSWORD, TODAY, Listener, Served, in_time, press, published
from sqlalchemy import create_engine, text
from sqlalchemy.exc import OperationalError

from pine_ladder.api.app import create_app
from pine_ladder.api.live import Hub, Together, stream

DATE = TODAY.isoformat()
BOARD = """# Neap

## Conditioning "Neap": EMOM 4:00, score total reps
1) max push-up
2) max air squat
"""
NEAP = f"/api/days/{DATE}/pieces/1"


@pytest.fixture
def coach(browser_of):
    client = browser_of("Carla")
    published(client, BOARD)
    return client


@pytest.fixture
def held(coach) -> int:
    return coach.put(f"/api/days/{DATE}/classes/06:30:00").json()["id"]


@pytest.fixture
def processes(engine) -> Iterator[list[str]]:
    """Two servers on one database, as two processes would be."""
    servers = [Served(engine), Served(engine)]
    yield [server.base for server in servers]
    for server in servers:
        server.stop()


def test_displays_on_two_processes_are_told_of_one_press(coach, held, processes):
    token = coach.post("/api/walls", json={"name": "Wall"}).json()["token"]
    walls = [Listener(f"{url}/api/wall/{token}/live") for url in processes]
    for wall in walls:
        wall.wait(1)
    press(coach, held, None, 0, key="1")
    seen = []
    for wall in walls:
        events = wall.wait(2)
        while not events[-1][2]["clock"]:
            events = wall.wait(len(events) + 1)
        seen.append(events[-1][2]["clock"])
    assert seen[0] == seen[1]
    assert seen[0]["key"] == "1"


def link(coach) -> str:
    return coach.post("/api/walls", json={"name": "Wall"}).json()["token"]


def test_a_lost_database_connection_is_made_again_and_nothing_is_missed(
    coach, held, processes, engine
):
    wall = Listener(f"{processes[0]}/api/wall/{link(coach)}/live")
    wall.wait(1)
    with engine.connect() as db:
        cut = db.execute(
            text(
                "select pg_terminate_backend(pid) from pg_stat_activity "
                "where query ilike 'listen %' and pid <> pg_backend_pid()"
            )
        ).all()
    assert cut
    # Pressed while nobody listens: told when the process looks anew.
    press(coach, held, None, 0, key="1")
    in_time(lambda: bool(wall.events[-1][2].get("clock")))
    assert wall.events[-1][2]["clock"]["key"] == "1"


@pytest.mark.parametrize("first", [True, False])
def test_a_display_keeps_its_stream_while_the_database_is_away(first):
    """It is told what stands as soon as the database answers, and the server logs no defect."""
    asked = []

    def answer(message: dict) -> dict | None:
        asked.append(message["what"])
        if len(asked) in ((1, 2) if first else (2, 3)):
            raise OperationalError("select", {}, Exception("gone"))
        return {"what": "wall", "n": len(asked)}

    async def told() -> list[bytes]:
        hub = Hub(create_engine("postgresql+psycopg://nobody@127.0.0.1:1/none"))
        hub.ready.set()
        body = stream(hub, answer).body_iterator
        heard = [await anext(body)]
        if not first:
            next(iter(hub.pages)).put({"what": "clock"})
            heard.append(await anext(body))
        await body.aclose()
        hub.loop.stop(wait_s=2)
        return heard

    assert b'"n":' + str(3 if first else 4).encode() in asyncio.run(told())[-1]


def test_a_withdrawn_link_goes_dark_at_once_and_opens_nothing(coach, processes):
    token = link(coach)
    wall = Listener(f"{processes[0]}/api/wall/{token}/live")
    wall.wait(1)
    coach.delete(f"/api/walls/{token}")
    in_time(lambda: wall.events[-1][1] == "withdrawn")
    # The stream ends with it: nothing of the gym goes there any more.
    in_time(lambda: wall.ended)
    with pytest.raises(urllib.error.HTTPError, match="404"):
        urllib.request.urlopen(f"{processes[0]}/api/wall/{token}/live", timeout=10)


def test_live_news_is_for_those_who_are_signed_in(processes):
    with pytest.raises(urllib.error.HTTPError, match="401"):
        urllib.request.urlopen(f"{processes[0]}/api/live", timeout=10)


@pytest.mark.parametrize("how", ["signs out", "is deactivated", "changes the password elsewhere"])
def test_live_news_end_for_who_is_out(how, coach, browser_of, processes, gym):
    anna = browser_of("Anna")
    cookie = "; ".join(f"{name}={value}" for name, value in anna.cookies.items())
    page = Listener(f"{processes[1]}/api/live", {"Cookie": cookie})
    page.wait(1)
    if how == "signs out":
        anna.post("/api/sign-out")
    elif how == "is deactivated":
        coach.patch(f"/api/athletes/{gym['Anna']}", json={"active": False})
    else:
        form = {"current": PASSWORD, "new": "quite another mooring rope"}
        assert browser_of("Anna").post("/api/password", json=form).status_code < 300
    in_time(lambda: page.ended)
    heard = len(page.events)
    body = {"entered": "12 11 10 9", "tier": 0, "track": 0, "version": 0}
    coach.put(f"{NEAP}/scores/{gym['Bert']}", json=body)
    time.sleep(0.3)
    assert len(page.events) == heard


def test_the_wall_is_told_of_the_class_on_its_clock_and_of_nobody_else(coach, held, processes, gym):
    wall = Listener(f"{processes[0]}/api/wall/{link(coach)}/live")
    wall.wait(1)
    body = {"entered": "12 11 10 9", "tier": 0, "track": 0, "version": 0}
    assert coach.put(f"{NEAP}/scores/{gym['Anna']}", json=body).status_code == 200
    press(coach, held, None, 0, key="1")
    in_time(lambda: bool(wall.events[-1][2].get("clock")))
    assert {event for _, event, _ in wall.events} == {"wall"}
    assert wall.events[-1][2]["clock"]["finishes"] == []
    assert "Anna" not in json.dumps([told for _, _, told in wall.events])
    coach.put(f"/api/classes/{held}/here/{gym['Anna']}", json={"here": True})
    in_time(lambda: bool(wall.events[-1][2]["results"]))
    assert [one["name"] for one in wall.events[-1][2]["results"]] == ["Anna Test"]


def test_every_page_is_told_of_scores_classes_and_jots_but_not_what_they_hold(
    coach, held, processes, gym
):
    cookie = "; ".join(f"{name}={value}" for name, value in coach.cookies.items())
    page = Listener(f"{processes[1]}/api/live", {"Cookie": cookie})
    page.wait(1)
    body = {"entered": "12 11 10 9", "tier": 0, "track": 0, "version": 0}
    coach.put(f"{NEAP}/scores/{gym['Anna']}", json=body)
    coach.put(f"/api/classes/{held}/here/{gym['Anna']}", json={"here": True})
    note = {
        "key": "device-0001", "person_id": gym["Bert"], "round": 1, "number": 12,
        "noted_at": dt.datetime.now(dt.UTC).isoformat(),
    }  # fmt: skip
    coach.post(f"{NEAP}/jots", json={"jots": [note]})
    in_time(lambda: {"score", "class", "jots"} <= {event for _, event, _ in page.events})
    for _, event, data in page.events:
        if event == "score":
            assert data == {"what": "score", "date": DATE, "piece": "1"}


def test_a_press_stands_for_a_process_that_starts_later(coach, held, engine):
    state = press(coach, held, None, 0, key="1").json()
    state = press(coach, held, "start", state["step"], lead_s=0).json()
    from fastapi.testclient import TestClient

    with TestClient(create_app(engine, learns=False)) as later:
        later.cookies.update(coach.cookies)
        found = later.get(f"/api/classes/{held}/clock").json()
    assert (found["step"], found["began"]) == (state["step"], state["began"])


def test_what_many_ask_at_once_is_worked_out_after_each_asked_but_not_for_each():
    together, works, begun = Together(), [], threading.Event()
    go = threading.Event()

    def work() -> dict:
        works.append(time.monotonic())
        begun.set()
        go.wait(10)
        return {"n": len(works)}

    heard: list[tuple[float, int]] = []

    def ask() -> None:
        asked = time.monotonic()
        heard.append((asked, together.ask("wall", work)["n"]))

    threads = [threading.Thread(target=ask)]
    threads[0].start()
    begun.wait(10)
    threads += [threading.Thread(target=ask) for _ in range(20)]
    for thread in threads[1:]:
        thread.start()
    time.sleep(0.05)
    go.set()
    for thread in threads:
        thread.join(10)
    # Nobody is told what was seen before they asked, and twenty share one answer.
    assert all(works[n - 1] >= asked for asked, n in heard)
    assert len(works) == 2


def test_a_question_that_could_not_be_answered_is_asked_anew():
    together = Together()
    with pytest.raises(ZeroDivisionError):
        together.ask("wall", lambda: {"n": 1 // 0})
    assert together.ask("wall", lambda: {"n": 2}) == {"n": 2}


def test_a_crowd_of_displays_at_once_does_not_starve_the_rest(coach, held, processes):
    token = coach.post("/api/walls", json={"name": "Wall"}).json()["token"]
    walls: list[Listener] = []
    opened = threading.Lock()

    def listen() -> None:
        wall = Listener(f"{processes[0]}/api/wall/{token}/live")
        with opened:
            walls.append(wall)

    threads = [threading.Thread(target=listen) for _ in range(100)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(25)
    assert len(walls) == 100
    with urllib.request.urlopen(f"{processes[0]}/api/time", timeout=10) as answer:
        assert json.load(answer)["now"] > 0
    press(coach, held, None, 0, key="1")
    for wall in walls:
        for _ in range(200):
            if wall.events and wall.events[-1][2].get("clock"):
                break
            time.sleep(0.05)
        assert wall.events[-1][2]["clock"]["key"] == "1"
