"""Off the main path: what is hidden, unpublished or of another day is shown nowhere."""

import datetime as dt

import pytest
from shared import TODAY, keys, press, publish, published
from sqlalchemy import text

from pine_ladder.cli import server_options

DATE = TODAY.isoformat()
DAY = f"/api/days/{DATE}"
BEFORE = TODAY - dt.timedelta(days=28)
BOARD = """# Neap

## Conditioning "Neap": AMRAP 12:00
10 push-up
20 sit-up
"""


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


def scored(coach, gym, date, name: str, entered: str) -> None:
    day = f"/api/days/{date.isoformat()}"
    body = {"entered": entered, "tier": 0, "track": 0, "version": 0}
    path = f"{day}/pieces/{keys(coach, day)['Neap']}/scores/{gym[name]}"
    answer = coach.put(path, json=body)
    assert answer.status_code == 200, answer.text


def test_a_draft_is_on_no_wall(coach, stranger):
    token = coach.post("/api/walls", json={"name": "Wall"}).json()["token"]
    coach.put(DAY, json={"text": BOARD, "version": 0})
    assert stranger.get(f"/api/wall/{token}").json()["board"] is None
    publish(coach, DAY)
    assert stranger.get(f"/api/wall/{token}").json()["board"]["title"] == "Neap"
    publish(coach, DAY, shown=False)
    assert stranger.get(f"/api/wall/{token}").json()["board"] is None


def test_a_wall_shows_no_clock_that_was_pressed_on_another_day(coach, stranger, engine):
    token = coach.post("/api/walls", json={"name": "Wall"}).json()["token"]
    published(coach, BOARD)
    held = coach.put(f"{DAY}/classes/06:30:00").json()["id"]
    state = press(coach, held, None, 0, key=keys(coach, DAY)["Neap"]).json()
    press(coach, held, "start", state["step"])
    assert stranger.get(f"/api/wall/{token}").json()["clock"]["class_id"] == held
    with engine.begin() as db:
        db.execute(text("update clock_step set made_at = made_at - interval '1 day'"))
    shown = stranger.get(f"/api/wall/{token}").json()
    assert (shown["clock"], shown["board"]["title"]) == (None, "Neap")


def test_a_retest_names_nobody_who_hides(coach, browser_of, gym):
    for date, scores in ((BEFORE, ("5", "6")), (TODAY, ("6", "7"))):
        published(coach, BOARD, date)
        for name, entered in zip(("Anna", "Bert"), scores, strict=True):
            scored(coach, gym, date, name, entered)
    browser_of("Anna").put("/api/me/profile", json={"profile": {"hidden": True}, "version": 0})
    retests = f"{DAY}/pieces/{keys(coach, DAY)['Neap']}/retests"

    def named(name: str) -> list[str]:
        (held,) = browser_of(name).get(retests).json()
        return [one["name"] for one in held["changes"]]

    assert named("Bert") == ["Bert Test"]
    assert "Anna Test" in named("Anna")


def test_a_retest_against_a_day_taken_back_is_not_told_to_members(coach, browser_of, gym):
    for date in (BEFORE, TODAY):
        published(coach, BOARD, date)
        scored(coach, gym, date, "Bert", "6")
    path = f"{DAY}/pieces/{keys(coach, DAY)['Neap']}/retests"
    assert len(browser_of("Bert").get(path).json()) == 1
    publish(coach, f"/api/days/{BEFORE.isoformat()}", shown=False)
    assert browser_of("Bert").get(path).json() == []


def test_one_refused_note_leaves_the_others_kept(coach, gym):
    board = '# Ebb\n\n## Conditioning "Ebb": EMOM 3:00, score total reps\nmax burpee\n'
    published(coach, board)
    piece = f"{DAY}/pieces/{keys(coach, DAY)['Ebb']}"
    notes = [
        {
            "key": f"device-{name}-{n}",
            "person_id": gym[name],
            "round": n,
            "number": number,
            "noted_at": f"{DATE}T10:0{n}:00Z",
        }
        # Nobody does six hundred burpees in a minute.
        for name, number in (("Anna", 600), ("Bert", 12))
        for n in (1, 2, 3)
    ]
    assert coach.post(f"{piece}/jots", json={"jots": notes}).status_code == 200
    told = coach.post(f"{piece}/jots/keep", json={}).json()
    assert (told["kept"], len(told["refused"])) == (1, 1)
    scores = coach.get(f"{DAY}/sheet").json()["scores"]
    assert [(one["person_id"], one["display"]) for one in scores] == [(gym["Bert"], "36")]
    # What was refused is still there to be put right.
    assert len(coach.get(f"{piece}/jots").json()["people"]) == 2


@pytest.mark.parametrize(
    ("proxies", "headers", "trusted"),
    [
        ("", False, ""),
        ("10.0.0.2", True, "10.0.0.2"),
        ("10.0.0.2,10.0.0.3", True, "10.0.0.2,10.0.0.3"),
    ],
)
def test_forwarded_addresses_are_believed_from_named_proxies_alone(proxies, headers, trusted):
    told = server_options({"PINE_LADDER_PROXIES": proxies})
    assert (told["proxy_headers"], told["forwarded_allow_ips"]) == (headers, trusted)


def test_a_forwarded_address_is_nothing_to_a_server_without_proxies(stranger, engine):
    """Whoever makes up an address gets no fresh row of guesses for it."""
    codes = [
        stranger.post(
            "/api/sign-in",
            json={"email": "anna@test.example", "password": f"guess {n}"},
            headers={"X-Forwarded-For": f"203.0.113.{n}"},
        ).status_code
        for n in range(30)
    ]
    assert 429 in codes
