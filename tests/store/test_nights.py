"""A backup a night: once whoever looks, as many as asked for, nothing lost when one fails."""

from __future__ import annotations

import datetime as dt
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import text

from pine_ladder.jobs.backup import NightWatch
from pine_ladder.store import backups as kept
from pine_ladder.store.backup import BackupError
from pine_ladder.store.backups import Night, file_of, is_late, make_tonights, nights, prune
from pine_ladder.store.database import connect, migrate
from pine_ladder.store.models import Gym

NIGHT = dt.date(2031, 3, 4)


@pytest.fixture
def hall(empty, monkeypatch):
    """A gym two hours east of Greenwich, and a clock to set: an hour of the gym's NIGHT."""
    migrate(empty)
    engine = connect(empty)
    with engine.begin() as db:
        db.execute(
            text(
                "insert into gym (name, class_min, change_s, demo, zone, settings)"
                """ values ('Hall', 60, 60, false, 'Africa/Cairo', '{"nights_kept": 3}')"""
            )
        )

    def at(hour: float, date: dt.date = NIGHT) -> None:
        moment = dt.datetime.combine(date, dt.time(), dt.UTC) + dt.timedelta(hours=hour - 2)
        monkeypatch.setattr(kept, "moment", lambda _db: moment)

    yield engine, at
    engine.dispose()


def test_it_is_made_from_three_in_the_gyms_night_and_once(hall, tmp_path):
    engine, at = hall
    at(2.9)
    assert make_tonights(engine, tmp_path / "new") is None
    at(3.1)
    with ThreadPoolExecutor(4) as four:
        made = list(four.map(lambda _n: make_tonights(engine, tmp_path / "new"), range(4)))
    assert [file.name for file in made if file] == ["gym-2031-03-04.backup"]
    assert make_tonights(engine, tmp_path / "new") is None
    assert [night.date for night in nights(tmp_path / "new")] == [NIGHT]


def test_a_machine_that_was_off_at_night_makes_it_up(hall, tmp_path):
    engine, at = hall
    at(21)
    assert make_tonights(engine, tmp_path) == file_of(tmp_path, NIGHT)


def test_a_gym_that_asks_for_none_gets_none(hall, tmp_path):
    engine, at = hall
    with engine.begin() as db:
        db.execute(text("update gym set settings = '{}'"))
    at(4)
    assert make_tonights(engine, tmp_path) is None


def test_the_oldest_go_once_the_new_one_is_there_and_not_before(hall, tmp_path, monkeypatch):
    engine, at = hall
    for back in range(1, 5):
        file_of(tmp_path, NIGHT - dt.timedelta(back)).write_text("of before")
    (tmp_path / "gym-before-the-move.backup").write_text("somebody's own")
    at(4)

    def full(_url: str, file: Path) -> None:
        raise BackupError(f"{file} cannot be written: No space left on device")

    with monkeypatch.context() as disk:
        disk.setattr(kept, "backup", full)
        with pytest.raises(BackupError):
            NightWatch(engine, tmp_path).look()
    assert len(nights(tmp_path)) == 4
    assert NightWatch(engine, tmp_path).look() == file_of(tmp_path, NIGHT)
    assert [(NIGHT - night.date).days for night in nights(tmp_path)] == [0, 1, 2]
    assert (tmp_path / "gym-before-the-move.backup").exists()


def test_a_gym_without_a_backup_for_two_days_is_told():
    gym = Gym(name="Hall", settings={"nights_kept": 7})
    made = [Night(NIGHT, 1)]
    assert not is_late(gym, NIGHT + dt.timedelta(1), made)
    assert is_late(gym, NIGHT + dt.timedelta(2), made)
    assert is_late(gym, NIGHT, [])
    assert not is_late(Gym(name="Hall", settings={}), NIGHT, [])


@given(st.sets(st.dates(dt.date(2030, 1, 1), dt.date(2032, 1, 1)), max_size=12), st.integers(1, 9))
def test_whatever_nights_there_are_the_newest_stay(dates, keep):
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for date in dates:
            file_of(folder, date).touch()
        prune(folder, keep)
        assert [night.date for night in nights(folder)] == sorted(dates, reverse=True)[:keep]
