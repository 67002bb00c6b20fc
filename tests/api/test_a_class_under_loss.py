"""A class in which coach, athletes and a wall act in any order while the network comes and goes.

What was entered ends the same as if no answer had ever been lost: each device sends what waits in
its order, again with the same key until it is answered.
"""

from __future__ import annotations

import datetime as dt
from collections import deque
from dataclasses import dataclass, field
from typing import Any

import pytest
from examples import examples
from fastapi.testclient import TestClient
from hypothesis import given, settings
from hypothesis import strategies as st
from shared import PASSWORD, TODAY, keys, press, published, small_gym
from sqlalchemy import Engine

from pine_ladder.api.access import GUARD_HEADER
from pine_ladder.api.app import create_app

DAY = f"/api/days/{TODAY.isoformat()}"
BOARD = """# Ebb

## Conditioning "Ebb": AMRAP 9:00
9 burpee

## Strength "Flood": 3 sets
5 deadlift
"""
NAMES = ("Carla", "Anna", "Bert")
NOTED = dt.datetime.now(dt.UTC)

#: Who does what: a score of one's own, or (the coach) of Emma; a round; a look at the wall.
acts = st.tuples(
    st.sampled_from(NAMES),
    st.sampled_from(["score", "again", "round", "back", "here", "wall"]),
    st.integers(1, 9),
)
#: What becomes of a message: it arrives, is lost on the way, or its answer is.
fates = st.lists(st.sampled_from(["arrives", "lost", "answer lost"]), max_size=60)


@dataclass
class Device:
    """A person's device: what waits to be sent, in its order, and the versions it has seen."""

    client: TestClient
    waiting: deque[tuple[str, str, dict[str, Any]]] = field(default_factory=deque)
    versions: dict[str, int] = field(default_factory=dict)

    def flush(self, fate: str) -> None:
        """Send the oldest message; what is not answered stays and is sent again."""
        if not self.waiting or fate == "lost":
            return
        method, path, body = self.waiting[0]
        if "version" in body:
            body["version"] = self.versions.get(path, 0)
        answer = self.client.request(method, path, json=body)
        assert answer.status_code in (200, 201), (path, body, answer.text)
        if fate == "answer lost":
            return
        if "version" in body:
            self.versions[path] = (answer.json() or {}).get("version", 0)
        self.waiting.popleft()


class Hall:
    """A gym with a class under way, and a device for each who acts."""

    def __init__(self, engine: Engine, password_hash: str) -> None:
        self.ids = small_gym(engine, password_hash)
        self.app = create_app(engine, learns=False)
        self.devices = {name: Device(self._signed_in(name)) for name in NAMES}
        self.coach = self.devices["Carla"].client
        published(self.coach, BOARD)
        found = keys(self.coach, DAY)
        self.ebb, self.flood = found["Ebb"], found["Flood"]
        self.held = self.coach.put(f"{DAY}/classes/06:30:00").json()["id"]
        step = press(self.coach, self.held, None, 0, key=self.ebb).json()["step"]
        press(self.coach, self.held, "start", step, lead_s=0)
        token = self.coach.post("/api/walls", json={"name": "Wall"}).json()["token"]
        self.wall = f"/api/wall/{token}"
        self.count = 0

    def _signed_in(self, name: str) -> TestClient:
        client = TestClient(self.app)
        form = {"email": f"{name.lower()}@test.example", "password": PASSWORD}
        client.headers[GUARD_HEADER] = client.post("/api/sign-in", json=form).json()["guard"]
        return client

    def act(self, name: str, what: str, number: int) -> None:
        """Enter something on somebody's device."""
        self.count += 1
        device, key = self.devices[name], f"{name}-{self.count:06d}"
        mine = name != "Carla"
        person = self.ids[name] if mine else self.ids["Emma"]
        if what == "wall":
            assert self.coach.get(self.wall).status_code == 200
        elif what in ("score", "again"):
            piece = self.ebb if what == "score" else self.flood
            path = (
                f"/api/me/days/{TODAY}/pieces/{piece}/score"
                if mine
                else f"{DAY}/pieces/{piece}/scores/{person}"
            )
            entered = f"{number}+3" if what == "score" else f"{60 + 2.5 * number:g}"
            body = {"entered": entered, "tier": 0, "track": 0, "version": 0, "request_key": key}
            device.waiting.append(("PUT", path, body))
        elif what in ("round", "back"):
            note = {
                "key": key,
                "person_id": person,
                "round": number,
                "number": 60.0 + number if what == "round" else None,
                "noted_at": (NOTED + dt.timedelta(seconds=self.count)).isoformat(),
            }
            path = f"{DAY}/pieces/{self.ebb}/jots"
            if mine:
                del note["person_id"]
                path = f"/api/me/days/{TODAY}/pieces/{self.ebb}/jots"
            device.waiting.append(("POST", path, {"jots": [note]}))
        elif mine:
            body = {"start": "06:30", "here": number % 2 == 0}
            device.waiting.append(("PUT", f"/api/me/days/{TODAY}/check-in", body))

    def told(self) -> tuple[Any, ...]:
        """All that was entered, as the coach finds it."""
        sheet = self.coach.get(f"{DAY}/sheet").json()["scores"]
        names = {number: name for name, number in self.ids.items()}
        scores = sorted((names[s["person_id"]], s["piece_key"], s["entered"]) for s in sheet)
        jots = self.coach.get(f"{DAY}/pieces/{self.ebb}/jots").json()["people"]
        rounds = sorted((names[one["person_id"]], tuple(one["rounds"].items())) for one in jots)
        classes = self.coach.get(f"{DAY}/floor").json()["classes"]
        here = sorted(names[one] for held in classes for one in held["here"])
        return scores, rounds, here


def play(hall: Hall, entered: list[tuple[str, str, int]], lost: list[str]) -> tuple[Any, ...]:
    """Enter all of it, each followed by one try to send; then send what is left."""
    ways = iter(lost)
    for name, what, number in entered:
        hall.act(name, what, number)
        for device in hall.devices.values():
            device.flush(next(ways, "arrives"))
    for device in hall.devices.values():
        while device.waiting:
            device.flush("arrives")
    return hall.told()


@pytest.fixture
def halls(engine: Engine, password_hash: str):
    return lambda: Hall(engine, password_hash)


@settings(max_examples=examples(5))
@given(st.lists(acts, min_size=1, max_size=14), fates)
def test_what_was_entered_ends_the_same_however_often_the_network_is_lost(halls, entered, lost):
    assert play(halls(), entered, lost) == play(halls(), entered, [])
