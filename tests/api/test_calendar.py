"""A member's calendar: subscribed to, followed through changes, withdrawn. Read by icalendar."""

from __future__ import annotations

import datetime as dt
import re

import pytest
from icalendar import Calendar
from shared import TODAY, published
from sqlalchemy import text

TOMORROW = TODAY + dt.timedelta(days=1)
BOARD = "# Skua\n\n## Conditioning: AMRAP 10:00\n10 kettlebell swing @ 24/16 kg"


@pytest.fixture
def coach(browser_of, engine, gym):
    with engine.begin() as db:
        db.execute(text("update gym set zone = 'Europe/Lisbon'"))
        db.execute(
            text("insert into class_time (programme_id, weekday, start) values (1, :d, '18:00')"),
            {"d": TOMORROW.weekday()},
        )
    return browser_of("Carla")


def subscribe(member) -> str:
    made = member.post("/api/me/calendar", json={})
    assert made.status_code == 201, made.text
    assert made.json()["qr"].startswith("data:image/svg+xml")
    return re.sub(r"^https?://[^/]+", "", made.json()["address"])


def events_of(stranger, path: str):
    answer = stranger.get(path)
    assert answer.status_code == 200, answer.text
    assert answer.headers["content-type"].startswith("text/calendar")
    return Calendar.from_ical(answer.content).walk("VEVENT")


def tomorrow(stranger, path: str):
    events = events_of(stranger, f"{path}?all=true")
    return next(e for e in events if e.decoded("dtstart").date() == TOMORROW)


def test_classes_are_in_the_gyms_zone_with_what_is_on_and_my_kit(coach, browser_of, stranger):
    path = subscribe(browser_of("Anna"))
    bare = tomorrow(stranger, path)
    assert (bare["summary"], bare["description"]) == ("Test Hall", "")
    published(coach, BOARD, TOMORROW)
    event = tomorrow(stranger, path)
    assert event["uid"] == bare["uid"]
    assert event["sequence"] > bare["sequence"]
    assert event["dtstart"].params["TZID"] == "Europe/Lisbon"
    assert event.decoded("dtstart").hour == 18
    assert event.decoded("duration") == dt.timedelta(hours=1)
    assert event["summary"] == "Skua"
    assert event["description"].startswith("Kit: kettlebell 24 kg")


def test_signing_up_cancelling_and_a_word_follow(coach, browser_of, stranger):
    anna = browser_of("Anna")
    path = subscribe(anna)
    before = tomorrow(stranger, path)
    assert (before["status"], before["transp"]) == ("CONFIRMED", "TRANSPARENT")
    anna.put(f"/api/me/days/{TOMORROW}/place", json={"start": "18:00", "coming": True})
    booked = tomorrow(stranger, path)
    assert (booked["status"], booked["transp"]) == ("CONFIRMED", "OPAQUE")
    plan = {"cancelled": True, "word": "storm", "version": 0}
    coach.put(f"/api/days/{TOMORROW}/classes/18:00/plan", json=plan)
    event = tomorrow(stranger, path)
    assert (event["status"], event["uid"]) == ("CANCELLED", before["uid"])
    assert event["sequence"] > before["sequence"]
    assert event["description"].startswith("storm")


def test_a_draft_is_not_in_it(coach, browser_of, stranger):
    coach.put(f"/api/days/{TOMORROW}", json={"text": BOARD, "version": 0})
    assert tomorrow(stranger, subscribe(browser_of("Anna")))["summary"] == "Test Hall"


def test_an_address_is_over_when_it_is_withdrawn_renewed_or_its_owner_leaves(
    coach, browser_of, stranger, gym
):
    anna = browser_of("Anna")
    first = subscribe(anna)
    second = subscribe(anna)
    assert stranger.get(first).status_code == 404
    assert stranger.get(second).status_code == 200
    assert anna.get("/api/me/calendar").json()["made_at"]
    assert anna.delete("/api/me/calendar").status_code == 204
    assert stranger.get(second).status_code == 404
    third = subscribe(anna)
    coach.patch(f"/api/people/{gym['Anna']}", json={"active": False})
    assert stranger.get(third).status_code == 404


def test_an_address_is_told_as_it_is_known_outside(browser_of, monkeypatch):
    monkeypatch.setenv("PINE_LADDER_PUBLIC_URL", "https://skua.example/")
    made = browser_of("Anna").post("/api/me/calendar", json={}).json()
    assert made["address"].startswith("https://skua.example/api/calendar/")


def test_it_holds_my_own_classes_alone_unless_all_are_asked_for(coach, browser_of, stranger):
    anna = browser_of("Anna")
    path = subscribe(anna)
    assert events_of(stranger, path) == []
    anna.put(f"/api/me/days/{TOMORROW}/place", json={"start": "18:00", "coming": True})
    assert [one.decoded("dtstart").date() for one in events_of(stranger, path)] == [TOMORROW]
    assert len(events_of(stranger, f"{path}?all=true")) > 1


def test_a_class_i_wait_for_is_tentative(coach, browser_of, stranger):
    plan = {"size": 1, "version": 0}
    coach.put(f"/api/days/{TOMORROW}/classes/18:00/plan", json=plan)
    anna, bert = browser_of("Anna"), browser_of("Bert")
    for one in (anna, bert):
        one.put(f"/api/me/days/{TOMORROW}/place", json={"start": "18:00", "coming": True})
    (event,) = events_of(stranger, subscribe(bert))
    assert (event["status"], event["transp"]) == ("TENTATIVE", "TRANSPARENT")
    assert event["summary"].endswith("(waiting)")


@pytest.mark.parametrize(("alarm", "alarms"), [(0, 0), (45, 1)])
def test_an_alarm_rings_before_my_own_classes_where_it_is_asked_for(
    coach, browser_of, stranger, alarm, alarms
):
    anna = browser_of("Anna")
    anna.put(f"/api/me/days/{TOMORROW}/place", json={"start": "18:00", "coming": True})
    (event,) = events_of(stranger, f"{subscribe(anna)}?alarm={alarm}")
    found = event.walk("VALARM")
    assert len(found) == alarms
    assert all(one["trigger"].dt == dt.timedelta(minutes=-alarm) for one in found)
