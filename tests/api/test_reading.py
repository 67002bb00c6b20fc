"""Reading never writes, costs the same however many boards there are, and forgets no score."""

from __future__ import annotations

import datetime as dt
import re

import pytest
from access_table import FILLED, TABLE, rows
from shared import TODAY, keys, publish
from sqlalchemy import Engine, event, select, text, update
from sqlalchemy.orm import Session

from pine_ladder.core.notation import READER
from pine_ladder.store.days import pieces as stored
from pine_ladder.store.models import BankedBoard, Day, PieceRow, ScoreRow
from pine_ladder.usecases.reread_boards import reread_boards

DAY = f"/api/days/{TODAY.isoformat()}"
BOARD = (
    "# Slack Water\n\n## Warm-up: 3 rounds\n10 air squat\n\n"
    '## Conditioning "Slack Water": AMRAP 12:00\n10 push-up\n'
)


class Statements:
    """What is said to the database while this is open."""

    def __init__(self, engine: Engine) -> None:
        self.engine, self.said = engine, []

    def __enter__(self) -> list[str]:
        event.listen(self.engine, "before_cursor_execute", self._note)
        return self.said

    def __exit__(self, *_: object) -> None:
        event.remove(self.engine, "before_cursor_execute", self._note)

    def _note(self, _connection, _cursor, statement: str, *_: object) -> None:
        self.said.append(statement)


def write(client, date: dt.date, board: str = BOARD) -> str:
    day = f"/api/days/{date.isoformat()}"
    seen = client.get(day).json().get("version", 0) if client.get(day).status_code == 200 else 0
    assert client.put(day, json={"text": board, "version": seen}).status_code == 200
    publish(client, day)
    return day


def score(client, day: str, person: int, entered: str, title: str = "Slack Water") -> None:
    body = {
        "entered": entered,
        "tier": 0,
        "track": 0,
        "version": 0,
        "request_key": f"{day}{entered}",
    }
    answer = client.put(f"{day}/pieces/{keys(client, day)[title]}/scores/{person}", json=body)
    assert answer.status_code == 200, answer.text


def keep_board(engine: Engine) -> None:
    with Session(engine) as db, db.begin():
        db.add(BankedBoard(name="Slack Water", text=BOARD))


@pytest.fixture
def coach(browser_of):
    return browser_of("Carla")


def test_no_reading_writes_even_where_a_board_reads_otherwise_than_it_was_saved(coach, gym, engine):
    write(coach, TODAY)
    score(coach, DAY, gym["Anna"], "5+3")
    own = coach.put("/api/me/days/2026-06-04/place", json={})
    assert own.status_code != 500
    with engine.begin() as db:
        # As after an upgrade of the reader: three pieces where two were saved.
        db.execute(text("update day set text = text || E'\\n## Cool-down: 1 round\\n5 burpee\\n'"))
    filled = FILLED | {"date": TODAY.isoformat(), "key": keys(coach, DAY)["Slack Water"]}
    filled |= {"person_id": str(gym["Anna"]), "athlete_id": str(gym["Anna"])}
    for access in ("member", "coach"):
        for method, path in rows(TABLE[access]):
            if method != "GET" or path.endswith("/live"):
                continue
            with Statements(engine) as said:
                answer = coach.get(re.sub(r"{(\w+)}", lambda m: filled[m[1]], path))
            assert answer.status_code < 500, (path, answer.text)
            writing = [s for s in said if re.match(r"\s*(insert|update|delete|merge)", s, re.I)]
            assert writing == [], (path, writing[:1])
    with Session(engine) as db:
        titles = select(PieceRow.title).order_by(PieceRow.position)
        assert list(db.scalars(titles)) == ["Warm-up", "Slack Water"]


def test_a_board_read_by_an_older_reader_is_read_again_once_and_told(coach, gym, engine):
    write(coach, TODAY)
    score(coach, DAY, gym["Anna"], "5+3")
    with Session(engine) as db, db.begin():
        assert reread_boards(db) == []
        longer = f"{BOARD}\n## Cool-down: 1 round\n5 burpee\n"
        db.execute(update(Day).values(text=longer, reader=READER - 1))
        db.execute(update(ScoreRow).values(display="something else"))
    with Session(engine) as db, db.begin():
        (told,) = reread_boards(db)
    assert told.date == TODAY
    assert (told.before, told.after) == (
        ("Warm-up", "Slack Water"), ("Warm-up", "Slack Water", "Cool-down")
    )  # fmt: skip
    assert told.scores == 1
    with Session(engine) as db:
        assert reread_boards(db) == []
        assert db.scalar(select(ScoreRow.display)) == "5+3"
        assert set(db.scalars(select(Day.reader))) == {READER}


@pytest.fixture
def season(coach, gym):
    """The same board every other day, another one in between; and how to add days to it."""

    def add(first: int, last: int) -> None:
        for back in range(first, last):
            date = TODAY - dt.timedelta(days=back)
            other = f"# Day {back}\n\n## Core: {back + 1} rounds\n10 sit-up\n"
            day = write(coach, date, other if back % 2 else BOARD)
            if not back % 2:
                score(coach, day, gym["Anna"], f"{5 + back % 3}+3")

    return add


PATHS = ("/bests", "/days/{day}/pieces/{key}/retests", "/me/benchmarks")


@pytest.mark.parametrize("path", PATHS)
def test_looking_back_asks_as_much_of_two_days_as_of_twelve(coach, season, engine, path):
    season(0, 3)
    keep_board(engine)

    def asked() -> int:
        key = keys(coach, DAY)["Slack Water"]
        address = "/api" + path.format(day=TODAY.isoformat(), key=key)
        with Statements(engine) as said:
            assert coach.get(address).status_code == 200
        return len(said)

    asked()
    few = asked()
    season(3, 13)
    more = asked()
    # A retest reads the scores of each earlier holding, six at the most.
    assert more <= few + (5 if "retests" in path else 0)


def test_looking_back_reads_no_board_that_holds_another_piece(coach, season, monkeypatch):
    season(0, 5)
    read: list[str] = []
    plain = stored.read_board

    def noted(board: str, shelf):
        read.append(board)
        return plain(board, shelf)

    monkeypatch.setattr(stored, "read_board", noted)
    key = keys(coach, DAY)["Slack Water"]
    read.clear()
    assert len(coach.get(f"{DAY}/pieces/{key}/retests").json()) == 2
    assert not [board for board in read if board.startswith("# Day")]


def test_scores_of_a_piece_that_was_set_aside_count_in_bests(coach, gym, browser_of, engine):
    keep_board(engine)
    write(coach, TODAY)
    score(coach, DAY, gym["Anna"], "7+3")

    def best() -> list[str]:
        return [one["display"] for one in coach.get("/api/bests").json()["boards"]]

    assert best() == ["7+3"]
    key = keys(coach, DAY)["Slack Water"]
    version = coach.get(DAY).json()["version"]
    gone = {"text": "# Ebb\n\n## Core: 3 rounds\n10 sit-up\n", "version": version}
    assert coach.put(DAY, json=gone).status_code == 409
    assert (
        coach.put(DAY, json={**gone, "answers": [{"key": key, "place": None}]}).status_code == 200
    )
    assert best() == ["7+3"]
    anna = browser_of("Anna")
    assert [one["display"] for one in anna.get("/api/me/benchmarks").json()] == ["7+3"]


def test_a_movement_of_the_gyms_own_changes_what_earlier_boards_hold(coach, gym, engine):
    """Boards that name it are read again, so that earlier holdings are still found."""
    board = '# Neap\n\n## Conditioning "Neap": AMRAP 9:00\n10 cannonball squat\n'
    for back in (2, 0):
        write(coach, TODAY - dt.timedelta(days=back), board)
    movement = coach.get("/api/movements/air squat").json()["movement"]
    own = {"movement": {**movement, "name": "cannonball squat", "aliases": []}}
    answer = coach.put("/api/movements", json=own)
    assert answer.status_code == 200, answer.text
    with Session(engine) as db:
        prints = set(db.scalars(select(PieceRow.fingerprint)))
    assert len(prints) == 1
    key = keys(coach, DAY)["Neap"]
    assert len(coach.get(f"{DAY}/pieces/{key}/retests").json()) == 1


def test_a_word_explained_once_is_read_from_then_on(coach):
    board = {"text": "AMRAP 8\n10 cannonball squats\n5 burpees"}

    def unknown() -> list[str]:
        found = coach.post("/api/preview", json=board).json()["findings"]
        return [one["code"] for one in found if one["code"] == "unknown-movement"]

    assert unknown() == ["unknown-movement"]
    movement = coach.get("/api/movements/goblet squat").json()["movement"]
    movement["aliases"] = [*movement["aliases"], "cannonball squats"]
    assert coach.put("/api/movements", json={"movement": movement}).status_code == 200
    assert unknown() == []
