"""Signing up: places, the waiting line, classes cancelled or held beside the week's."""

from __future__ import annotations

import datetime as dt
from concurrent.futures import ThreadPoolExecutor

import pytest
from shared import TODAY, published
from sqlalchemy import text
from sqlalchemy.orm import Session

from pine_ladder.store.floor import bookings as signups

TOMORROW = TODAY + dt.timedelta(days=1)
PLACES = f"/api/me/days/{TOMORROW}/places"
BOARD = "## Conditioning: AMRAP 10:00\n10 kettlebell swing @ 24/16 kg | @ 16/12 kg\n50 double-under"


@pytest.fixture
def coach(browser_of, engine, gym):
    with engine.begin() as db:
        db.execute(
            text(
                "insert into class_time (programme_id, weekday, start) "
                "values (1, :d, '06:30'), (1, :d, '18:00')"
            ),
            {"d": TOMORROW.weekday()},
        )
    return browser_of("Carla")


def come(member, start: str = "18:00", coming: bool = True, date: dt.date = TOMORROW):
    body = {"start": start, "coming": coming}
    return member.put(f"/api/me/days/{date}/place", json=body)


def plan(coach, start: str = "18:00", version: int = 0, **more):
    body = {"version": version, **more}
    return coach.put(f"/api/days/{TOMORROW}/classes/{start}/plan", json=body)


def at(found: dict, start: str = "18:00:00") -> dict:
    return next(one for one in found["classes"] if one["start"] == start)


def test_a_member_takes_a_place_before_the_day_is_written(coach, browser_of):
    anna = browser_of("Anna")
    before = anna.get(PLACES).json()
    assert [one["start"] for one in before["classes"]] == ["06:30:00", "18:00:00"]
    assert (at(before)["coming"], at(before)["size"], at(before)["mine"]) == (0, 12, "no")
    for _ in range(2):
        assert at(come(anna).json())["mine"] == "coming"
    assert at(anna.get(PLACES).json())["coming"] == 1
    assert at(come(anna, coming=False).json())["coming"] == 0


def test_a_full_class_has_a_line_and_who_leaves_makes_room(coach, browser_of):
    plan(coach, size=1)
    anna, bert, dora = (browser_of(name) for name in ("Anna", "Bert", "Dora"))
    assert at(come(anna).json())["mine"] == "coming"
    assert (at(come(bert).json())["mine"], at(come(dora).json())["place"]) == ("waiting", 2)
    come(anna, coming=False)
    assert at(bert.get(PLACES).json())["mine"] == "coming"
    assert at(dora.get(PLACES).json())["place"] == 1
    # Who said no and comes back is at the end of the line.
    assert at(come(anna).json())["place"] == 2


def test_many_who_come_at_once_never_overfill_a_class(coach, browser_of):
    plan(coach, size=2)
    members = [browser_of(name) for name in ("Anna", "Bert", "Dora", "Emma")]
    with ThreadPoolExecutor(4) as pool:
        list(pool.map(come, members))
    mine = sorted(at(member.get(PLACES).json())["mine"] for member in members)
    assert mine == ["coming", "coming", "waiting", "waiting"]


def test_a_cancelled_class_is_told_to_who_signed_up_and_takes_nobody(coach, browser_of, gym):
    anna = browser_of("Anna")
    come(anna)
    filling = plan(coach, cancelled=True, word="the hall is flooded").json()
    (one,) = [one for one in filling if one["cancelled"]]
    assert [person["id"] for person in one["coming"]] == [gym["Anna"]]
    seen = at(anna.get(PLACES).json())
    assert (seen["cancelled"], seen["word"], seen["mine"]) == (
        True, "the hall is flooded", "coming",
    )  # fmt: skip
    refused = come(browser_of("Bert"))
    assert (refused.status_code, refused.json()["detail"]) == (
        409, "the class at 18:00 is cancelled",
    )  # fmt: skip
    floor = coach.get(f"/api/days/{TOMORROW}/floor").json()
    assert [one["start"] for one in floor["classes"]] == ["06:30:00"]


def test_a_class_is_held_beside_the_weeks(coach, browser_of):
    assert plan(coach, start="10:00", size=4, word="open hour").status_code == 200
    found = at(browser_of("Anna").get(PLACES).json(), "10:00:00")
    assert (found["size"], found["word"]) == (4, "open hour")


def test_two_coaches_on_one_class_see_each_other(coach):
    assert plan(coach, size=3).status_code == 200
    assert plan(coach, size=5).status_code == 409
    assert plan(coach, size=5, version=1).status_code == 200


def test_what_is_over_or_nowhere_takes_nobody(coach, browser_of, engine):
    anna = browser_of("Anna")
    assert come(anna, start="03:00").status_code == 404
    yesterday = TODAY - dt.timedelta(days=1)
    with engine.begin() as db:
        made = text("insert into class_plan (programme_id, date, start) values (1, :d, '06:30')")
        db.execute(made, {"d": yesterday})
    assert "has begun" in come(anna, start="06:30", date=yesterday).json()["detail"]
    assert come(coach).status_code == 403


def test_the_coach_sees_limits_and_the_kit_against_what_is_there(coach, browser_of, gym, engine):
    published(coach, BOARD, TOMORROW)
    with engine.begin() as db:
        db.execute(text("insert into kit (name, count) values ('rope', 1)"))
    profile = {"profile": {"limits": [{"limit": "wrist"}]}, "version": 0}
    anna = browser_of("Anna")
    kept = anna.put("/api/me/profile", json=profile)
    assert kept.status_code == 200, kept.text
    come(anna)
    bert = {"person_id": gym["Bert"], "coming": True}
    path = f"/api/days/{TOMORROW}/classes/18:00/place"
    (_, evening) = coach.put(path, json=bert).json()
    assert [(p["name"], p["limits"]) for p in evening["coming"]] == [
        ("Anna Test", ["wrist"]), ("Bert Test", []),
    ]  # fmt: skip
    assert {k["name"]: (k["need"], k["there"]) for k in evening["kit"]} == {
        "kettlebell": (2, None), "rope": (2, 1),
    }  # fmt: skip
    assert anna.get(PLACES).json()["kit"] == ["kettlebell 24 kg", "rope"]
    assert coach.put(path, json={"person_id": gym["Carla"], "coming": True}).status_code == 422


def test_who_leaves_the_gym_leaves_the_line(coach, browser_of, gym):
    plan(coach, size=1)
    come(browser_of("Anna"))
    bert = browser_of("Bert")
    come(bert)
    coach.patch(f"/api/people/{gym['Anna']}", json={"active": False})
    assert at(bert.get(PLACES).json())["mine"] == "coming"


def test_a_class_has_its_own_length_size_and_hall_until_a_date_says_otherwise(coach, browser_of):
    held = coach.get("/api/settings").json()
    weekly = ["18:00 75 min 1 places in the shed"] * 7
    form = {"settings": {**held["settings"], "classes": weekly}, "version": held["version"]}
    kept = coach.put("/api/settings", json=form).json()["settings"]["classes"]
    assert kept == weekly
    assert come(browser_of("Anna")).json()["classes"][0]["mine"] == "coming"
    second = come(browser_of("Bert")).json()["classes"][0]
    assert (second["mine"], second["minutes"], second["hall"]) == ("waiting", 75, "the shed")
    assert plan(coach, size=2, minutes=45, version=0).status_code == 200
    second = browser_of("Bert").get(PLACES).json()["classes"][0]
    assert (second["mine"], second["minutes"], second["hall"]) == ("coming", 45, "the shed")


def move(coach, to: str, start: str = "18:00", version: int = 0):
    body = {"to": to, "version": version}
    return coach.post(f"/api/days/{TOMORROW}/classes/{start}/move", json=body)


def test_a_moved_class_takes_everybody_along_in_their_order(coach, browser_of, gym):
    plan(coach, size=1, minutes=75, word="bring a rope")
    for name in ("Bert", "Anna", "Dora"):
        come(browser_of(name))
    found = move(coach, "18:45", version=1).json()
    old, new = (
        next(one for one in found if one["start"] == start) for start in ("18:00:00", "18:45:00")
    )
    assert (old["cancelled"], old["word"], old["coming"]) == (True, "moved to 18:45", [])
    assert [one["id"] for one in new["coming"]] == [gym["Bert"]]
    assert [one["id"] for one in new["waiting"]] == [gym["Anna"], gym["Dora"]]
    assert (new["size"], new["minutes"], new["word"]) == (1, 75, "bring a rope")
    assert come(browser_of("Emma")).status_code == 409
    # And back again, as if nothing had been.
    back = move(coach, "18:00", start="18:45", version=new["version"]).json()
    held = next(one for one in back if one["start"] == "18:00:00")
    assert (held["cancelled"], held["word"]) == (False, "bring a rope")
    assert [one["id"] for one in held["waiting"]] == [gym["Anna"], gym["Dora"]]


def test_a_class_moves_once_and_onto_no_other(coach):
    assert move(coach, "06:30").status_code == 409
    assert move(coach, "07:00", start="05:00").status_code == 404
    with ThreadPoolExecutor(2) as two:
        codes = list(two.map(lambda to: move(coach, to).status_code, ("18:15", "18:30")))
    assert sorted(codes) == [200, 409]
    assert move(coach, "19:00").status_code == 409


def test_who_signs_up_while_a_class_moves_is_in_it_or_is_told(coach, browser_of, gym):
    members = {name: browser_of(name) for name in ("Anna", "Bert", "Dora", "Emma")}
    with ThreadPoolExecutor(5) as five:
        moving = five.submit(move, coach, "18:30")
        signed = {name: five.submit(come, one) for name, one in members.items()}
    held = next(one for one in moving.result().json() if one["start"] == "18:30:00")
    held = next(
        one
        for one in coach.get(f"/api/days/{TOMORROW}/places").json()
        if one["start"] == held["start"]
    )
    in_it = {one["id"] for one in held["coming"]}
    assert in_it == {gym[name] for name, one in signed.items() if one.result().status_code == 200}


def test_who_is_marked_as_here_stays_so_in_a_class_that_moves(coach, gym):
    published(coach, BOARD, TOMORROW)
    held = coach.put(f"/api/days/{TOMORROW}/classes/18:00").json()["id"]
    coach.put(f"/api/classes/{held}/here/{gym['Anna']}", json={"here": True})
    assert move(coach, "18:30").status_code == 200
    again = coach.put(f"/api/days/{TOMORROW}/classes/18:30").json()
    assert (again["id"], again["here"]) == (held, [gym["Anna"]])


def test_a_coach_signs_nobody_up_for_a_class_that_has_moved_away(coach, gym):
    assert move(coach, "18:30").status_code == 200
    path = f"/api/days/{TOMORROW}/classes/18:00/place"
    body = {"person_id": gym["Anna"], "coming": True}
    assert coach.put(path, json=body).status_code == 409


def test_phone_wall_and_run_tell_one_number_of_a_class(coach, browser_of, gym, stranger, engine):
    """Booked, checked in, or both: whoever has a place is counted once, everywhere alike."""
    published(coach, BOARD, TOMORROW)
    members = {name: browser_of(name) for name in ("Anna", "Bert", "Dora")}
    plan(coach, size=2)
    come(members["Anna"])
    day = f"/api/me/days/{TOMORROW}"

    def numbers() -> set[tuple[int, int]]:
        phone = at(members["Emma"].get(PLACES).json())
        filling = next(
            one for one in coach.get(f"/api/days/{TOMORROW}/places").json()
            if one["start"] == "18:00:00"
        )  # fmt: skip
        with Session(engine) as db:
            found = signups.signed(db, TOMORROW, dt.time(18), 2)
        return {
            (phone["coming"], phone["waiting"]),
            (len(filling["coming"]), len(filling["waiting"])),
            (len(found.coming), len(found.waiting)),
        }

    members["Emma"] = browser_of("Emma")
    assert numbers() == {(1, 0)}
    # Checking in books a place, also without a booking, and counts a booked one once.
    for name in ("Anna", "Bert"):
        body = {"start": "18:00", "here": True}
        assert members[name].put(f"{day}/check-in", json=body).status_code == 200
    assert numbers() == {(2, 0)}
    assert at(members["Bert"].get(PLACES).json())["mine"] == "coming"
    # Who walks into a full class is there all the same; who waits goes on waiting.
    members["Dora"].put(f"{day}/check-in", json={"start": "18:00", "here": True})
    assert numbers() == {(3, 0)}
    members["Bert"].put(f"{day}/check-in", json={"start": "18:00", "here": False})
    assert at(members["Bert"].get(PLACES).json())["mine"] == "no"


def test_a_second_booking_of_a_day_is_asked_about(coach, browser_of):
    anna = browser_of("Anna")
    come(anna, "06:30")
    asked = come(anna, "18:00")
    assert asked.status_code == 409 and asked.json()["asks"] == "also"
    assert "06:30" in asked.json()["detail"]
    body = {"start": "18:00", "coming": True, "also": True}
    both = anna.put(f"/api/me/days/{TOMORROW}/place", json=body).json()
    assert [one["mine"] for one in both["classes"]] == ["coming", "coming"]


def test_a_class_that_is_cancelled_is_no_second_booking(coach, browser_of):
    anna = browser_of("Anna")
    come(anna, "06:30")
    plan(coach, "06:30", cancelled=True)
    assert come(anna, "18:00").status_code == 200


def test_who_moves_up_is_told_and_has_an_hour_to_decline(coach, browser_of, engine):
    plan(coach, size=1)
    anna, bert = browser_of("Anna"), browser_of("Bert")
    come(anna)
    come(bert)
    assert at(bert.get(PLACES).json())["decline_until"] is None
    come(anna, coming=False)
    mine = at(bert.get(PLACES).json())
    assert mine["mine"] == "coming" and mine["decline_until"] is not None
    with engine.begin() as db:
        db.execute(text("update sign_up set moved_up_at = moved_up_at - interval '61 minutes'"))
    assert at(bert.get(PLACES).json())["decline_until"] is None


def test_of_two_who_leave_at_once_each_moves_up_somebody(coach, browser_of):
    plan(coach, size=2)
    phones = {name: browser_of(name) for name in ("Anna", "Bert", "Dora", "Emma")}
    with ThreadPoolExecutor(2) as two:
        for _ in range(5):
            for phone in phones.values():
                come(phone)
            leavers = [phones["Anna"], phones["Bert"]]
            answers = list(two.map(lambda phone: come(phone, coming=False), leavers))
            assert [answer.status_code for answer in answers] == [200, 200]
            for name in ("Dora", "Emma"):
                assert at(phones[name].get(PLACES).json())["decline_until"] is not None, name
                come(phones[name], coming=False)


def test_a_larger_class_moves_up_who_waited(coach, browser_of):
    plan(coach, size=1)
    anna, bert = browser_of("Anna"), browser_of("Bert")
    come(anna)
    come(bert)
    plan(coach, size=2, version=1)
    assert at(bert.get(PLACES).json())["decline_until"] is not None
    assert at(anna.get(PLACES).json())["decline_until"] is None


def test_a_class_that_grows_while_somebody_leaves_moves_up_each_once(coach, browser_of):
    phones = {name: browser_of(name) for name in ("Anna", "Bert", "Dora", "Emma")}
    plan(coach, size=1)
    for version in range(1, 6):
        for phone in phones.values():
            come(phone)
        with ThreadPoolExecutor(2) as two:
            leaves = two.submit(come, phones["Anna"], coming=False)
            grows = two.submit(plan, coach, size=2, version=2 * version - 1)
            assert [leaves.result().status_code, grows.result().status_code] == [200, 200]
        for name in ("Bert", "Dora"):
            assert at(phones[name].get(PLACES).json())["decline_until"] is not None, name
        assert at(phones["Emma"].get(PLACES).json())["mine"] == "waiting"
        for phone in phones.values():
            come(phone, coming=False)
        assert plan(coach, size=1, version=2 * version).status_code == 200


def settings(coach, **more):
    found = coach.get("/api/settings").json()
    wanted = {**found["settings"], **more}
    return coach.put("/api/settings", json={"settings": wanted, "version": found["version"]})


def test_a_late_cancellation_is_asked_about_and_shown_to_the_coach(coach, browser_of):
    assert settings(coach, late_cancel_min=1440).status_code == 200
    plan(coach, "00:00")
    anna = browser_of("Anna")
    come(anna, "00:00")
    asked = come(anna, "00:00", coming=False)
    body = {"start": "00:00", "coming": False, "late": True}
    assert asked.json()["asks"] == "late"
    assert anna.put(f"/api/me/days/{TOMORROW}/place", json=body).status_code == 200
    seen = coach.get(f"/api/days/{TOMORROW}/places").json()
    first = next(one for one in seen if one["start"] == "00:00:00")
    assert [one["name"] for one in first["late"]] == ["Anna Test"]
    come(anna, "00:00")
    seen = coach.get(f"/api/days/{TOMORROW}/places").json()
    assert not any(one["late"] for one in seen), "who comes after all is not late"


def test_who_has_just_moved_up_declines_without_being_late(coach, browser_of):
    settings(coach, late_cancel_min=1440)
    plan(coach, size=1)
    anna, bert = browser_of("Anna"), browser_of("Bert")
    come(anna)
    come(bert)
    body = {"start": "18:00", "coming": False, "late": True}
    anna.put(f"/api/me/days/{TOMORROW}/place", json=body)
    assert come(bert, coming=False).status_code == 200
    seen = coach.get(f"/api/days/{TOMORROW}/places").json()
    assert "Bert" not in str([one["late"] for one in seen])


def test_no_class_of_the_week_is_held_on_a_closing_day(coach, browser_of):
    closed = [{"first": str(TOMORROW), "last": str(TOMORROW), "reason": "Holiday"}]
    assert settings(coach, closed=closed).status_code == 200
    anna = browser_of("Anna")
    found = anna.get(PLACES).json()
    assert found["classes"] == [] and found["closed"] == "Holiday"
    assert coach.get(f"/api/days/{TOMORROW}").json()["closed"] == "Holiday"
    assert come(anna).status_code == 404
    plan(coach, "10:00", version=0)
    assert [one["start"] for one in anna.get(PLACES).json()["classes"]] == ["10:00:00"]
    assert settings(coach, closed=[]).status_code == 200
    assert anna.get(PLACES).json()["closed"] is None


def test_in_a_season_its_classes_are_held_in_place_of_the_weeks(coach, browser_of):
    season = {
        "name": "Regatta", "first": str(TOMORROW), "last": str(TOMORROW),
        "classes": ["07:00, 20:30 45 min 3 places"] * 7,
    }  # fmt: skip
    assert settings(coach, seasons=[season]).status_code == 200
    anna = browser_of("Anna")
    found = anna.get(PLACES).json()["classes"]
    assert [one["start"] for one in found] == ["07:00:00", "20:30:00"]
    assert found[1]["size"] == 3
    assert settings(coach, seasons=[]).status_code == 200
    assert "07:00:00" not in [one["start"] for one in anna.get(PLACES).json()["classes"]]


def test_a_season_whose_times_cannot_be_read_is_refused_with_the_day(coach):
    season = {"name": "Regatta", "first": str(TOMORROW), "last": str(TOMORROW),
              "classes": ["", "25:00", "", "", "", "", ""]}  # fmt: skip
    refused = settings(coach, seasons=[season])
    assert refused.status_code == 422
    assert "Tuesday" in refused.text


def test_a_closing_that_ends_before_it_begins_is_refused(coach):
    wrong = [{"first": "2026-12-26", "last": "2026-12-24"}]
    assert settings(coach, closed=wrong).status_code == 422


def test_who_booked_and_did_not_come_is_shown_to_the_coach(coach, browser_of, gym, engine):
    published(coach, BOARD)
    with engine.begin() as db:
        db.execute(
            text("insert into class_time (programme_id, weekday, start) values (1, :d, '00:00')"),
            {"d": TODAY.weekday()},
        )
    for name in ("Anna", "Bert"):
        body = {"person_id": gym[name], "coming": True}
        coach.put(f"/api/days/{TODAY}/classes/00:00/place", json=body)

    def missed():
        seen = coach.get(f"/api/days/{TODAY}/places").json()
        return [one["name"] for one in seen[0]["no_shows"]]

    assert missed() == []
    held = coach.put(f"/api/days/{TODAY}/classes/00:00").json()["id"]
    coach.put(f"/api/classes/{held}/here/{gym['Anna']}", json={"here": True})
    assert missed() == ["Bert Test"]
