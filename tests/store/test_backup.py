"""A gym in a file: out of one server, into another, whole or not at all."""

from __future__ import annotations

import datetime as dt
import json
import shutil
import stat
import tempfile
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from cluster import Cluster
from shared import TODAY
from sqlalchemy import select, text
from sqlalchemy.orm import Session

from pine_ladder.demo import load_demo
from pine_ladder.store.backup import ABOUT, BEFORE, DUMP, BackupError, backup
from pine_ladder.store.database import connect, migrate, newest_schema
from pine_ladder.store.erased import erased_since, note_erased
from pine_ladder.store.models import Base, Gym, Person, Programme
from pine_ladder.usecases import restoring
from pine_ladder.usecases.restoring import restore


@pytest.fixture
def elsewhere() -> Iterator[str]:
    """A database on another server."""
    folder = Path(tempfile.mkdtemp(prefix="pine-ladder-other-"))
    folder.chmod(0o755)
    server = Cluster(folder / "postgres", durable=False)
    try:
        yield server.start()
    finally:
        server.destroy()
        shutil.rmtree(folder, ignore_errors=True)


def everything(url: str) -> dict[str, list[str]]:
    """All rows of all tables, as PostgreSQL writes them."""
    engine = connect(url)
    with engine.connect() as db:
        found = {
            name: sorted(db.scalars(text(f"select t::text from {name} t")))
            for name in Base.metadata.tables
        }
    engine.dispose()
    return found


def small(url: str, name: str) -> None:
    migrate(url)
    engine = connect(url)
    with Session(engine) as db, db.begin():
        db.add_all([Gym(name=name, zone="Europe/Lisbon"), Programme(name="Daily")])
    engine.dispose()


def names(url: str) -> list[str]:
    engine = connect(url)
    with engine.connect() as db:
        found = list(db.scalars(text("select name from gym")))
    engine.dispose()
    return found


def test_a_gym_comes_back_on_another_server_row_by_row(empty, elsewhere, tmp_path):
    migrate(empty)
    engine = connect(empty)
    with Session(engine) as db, db.begin():
        load_demo(db, TODAY, weeks=1)
    engine.dispose()
    file = tmp_path / "gym.backup"
    about = backup(empty, file)
    assert (about.gym, about.schema_is) == ("Kittiwake Hall", newest_schema())
    assert stat.S_IMODE(file.stat().st_mode) == 0o600
    restore(elsewhere, file)
    assert everything(elsewhere) == everything(empty)
    # What is added from now on goes on where the old gym stopped.
    engine = connect(elsewhere)
    with Session(engine) as db, db.begin():
        db.add(Programme(name="Evening"))
    engine.dispose()


def test_a_gym_is_replaced_only_when_that_is_said(empty, elsewhere, tmp_path):
    small(empty, "Old Hall")
    small(elsewhere, "New Hall")
    file = tmp_path / "gym.backup"
    backup(empty, file)
    with pytest.raises(BackupError, match="holds New Hall already"):
        restore(elsewhere, file)
    assert names(elsewhere) == ["New Hall"]
    restore(elsewhere, file, replace=True)
    assert names(elsewhere) == ["Old Hall"]


def spoilt(file: Path, how: str) -> Path:
    out = file.with_name(f"{how}.backup")
    if how == "cut short":
        out.write_bytes(file.read_bytes()[: file.stat().st_size // 2])
    elif how == "no backup":
        out.write_text("a letter to the coach")
    else:
        with zipfile.ZipFile(file) as whole, zipfile.ZipFile(out, "w") as other:
            about: dict[str, Any] = json.loads(whole.read(ABOUT))
            dump = bytearray(whole.read(DUMP))
            if how == "one byte off":
                dump[len(dump) // 2] ^= 1
            if how == "from the future":
                about["schema_is"] = "9999"
            other.writestr(ABOUT, json.dumps(about))
            other.writestr(DUMP, bytes(dump))
    return out


@pytest.mark.parametrize(
    ("how", "why"),
    [
        ("cut short", "is damaged or no backup"),
        ("no backup", "is damaged or no backup"),
        ("one byte off", "is damaged or no backup"),
        ("from the future", "is newer than this program"),
    ],
)
def test_what_is_not_whole_changes_nothing(empty, tmp_path, how, why):
    small(empty, "Old Hall")
    file = tmp_path / "gym.backup"
    backup(empty, file)
    before = everything(empty)
    with pytest.raises(BackupError, match=why):
        restore(empty, spoilt(file, how), replace=True)
    assert everything(empty) == before


def test_a_restore_that_fails_half_way_leaves_the_gym_of_before(empty, tmp_path, monkeypatch):
    small(empty, "Old Hall")
    file = tmp_path / "gym.backup"
    backup(empty, file)

    def broken(url: str) -> None:
        raise RuntimeError("the migration fell over")

    monkeypatch.setattr(restoring, "upgrade", broken)
    before = everything(empty)
    with pytest.raises(RuntimeError):
        restore(empty, file, replace=True)
    assert everything(empty) == before


def test_a_restore_that_was_killed_is_made_good_by_the_next(empty, tmp_path):
    small(empty, "Old Hall")
    file = tmp_path / "gym.backup"
    backup(empty, file)
    engine = connect(empty)
    with engine.begin() as db:
        # As after a power cut: the gym of before is aside, the new one not there yet.
        db.execute(text(f"alter schema public rename to {BEFORE}"))
        db.execute(text("create schema public"))
    engine.dispose()
    with pytest.raises(BackupError, match="holds Old Hall already"):
        restore(empty, file)
    assert names(empty) == ["Old Hall"]


def test_an_older_backup_is_brought_to_the_present_schema(empty, elsewhere, tmp_path):
    from alembic import command
    from shared import alembic

    small(empty, "Old Hall")
    command.downgrade(alembic(empty), "0009")
    file = tmp_path / "gym.backup"
    assert backup(empty, file).schema_is == "0009"
    restore(elsewhere, file)
    engine = connect(elsewhere)
    with engine.connect() as db:
        assert db.scalar(text("select version_num from alembic_version")) == newest_schema()
    engine.dispose()
    assert names(elsewhere) == ["Old Hall"]


def test_where_there_is_no_gym_there_is_nothing_to_back_up(empty, tmp_path):
    migrate(empty)
    with pytest.raises(BackupError, match="no gym yet"):
        backup(empty, tmp_path / "gym.backup")
    assert list(tmp_path.iterdir()) == []


def test_a_folder_that_cannot_be_written_is_said_so(empty, tmp_path):
    small(empty, "Old Hall")
    with pytest.raises(BackupError, match="cannot be written"):
        backup(empty, tmp_path / "nowhere" / "gym.backup")


def test_who_was_erased_since_a_backup_is_erased_again_by_its_restore(empty, elsewhere, tmp_path):
    migrate(empty)
    with Session(connect(empty)) as db, db.begin():
        load_demo(db, TODAY, weeks=1)
        gone = db.scalars(select(Person.id).where(Person.role == "athlete")).first()
    file = tmp_path / "hall.backup"
    about = backup(empty, file)
    note_erased(tmp_path, about.gym, gone, about.made_at + dt.timedelta(minutes=1))
    note_erased(tmp_path, about.gym, 999_999, about.made_at + dt.timedelta(minutes=2))
    assert restore(elsewhere, file, backups=tmp_path).erased == 1
    with Session(connect(elsewhere)) as db:
        assert db.get(Person, gone) is None


def test_a_list_of_another_gym_or_of_before_the_backup_erases_nobody(tmp_path):
    moment = dt.datetime(2026, 6, 4, 12, 0, tzinfo=dt.UTC)
    note_erased(tmp_path, "Kittiwake Hall", 7, moment)
    assert erased_since(tmp_path, "Kittiwake Hall", moment - dt.timedelta(hours=1)) == [7]
    assert erased_since(tmp_path, "Kittiwake Hall", moment + dt.timedelta(hours=1)) == []
    assert erased_since(tmp_path, "Gannet Shed", moment - dt.timedelta(hours=1)) == []
    note_erased(tmp_path, "Gannet Shed", 8, moment)
    assert erased_since(tmp_path, "Gannet Shed", moment - dt.timedelta(hours=1)) == [8]
    assert oct((tmp_path / "erased").stat().st_mode & 0o777) == "0o600"
