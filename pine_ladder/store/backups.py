"""A backup a night, kept as many nights as the gym asks for; files are named after their night."""

from __future__ import annotations

import datetime as dt
import re
from pathlib import Path
from typing import NamedTuple

from sqlalchemy import Engine, select, text
from sqlalchemy.orm import Session

from pine_ladder.store.backup import backup
from pine_ladder.store.gym.calendar import now as moment
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Gym

FROM_HOUR = 3
"""Hour of the gym's day from which its backup is due: nobody trains, and the day before is whole.
A machine that was off then makes it up once it runs."""

LATE_DAYS = 2
"""Days without a backup after which a coach is told."""

MOST_NIGHTS = 400

_NAME = re.compile(r"gym-(\d{4}-\d\d-\d\d)\.backup")


class Night(NamedTuple):
    """A backup in the folder: the gym's date it is of, and its size in bytes."""

    date: dt.date
    size: int


def file_of(folder: Path, date: dt.date) -> Path:
    """Where a date's backup is, or would be."""
    return folder / f"gym-{date}.backup"


def nights(folder: Path) -> list[Night]:
    """The backups in a folder, newest first; anything else in it is not looked at."""
    found = []
    for file in folder.glob("gym-*.backup"):
        if match := _NAME.fullmatch(file.name):
            try:
                found.append(Night(dt.date.fromisoformat(match[1]), file.stat().st_size))
            except (ValueError, OSError):
                continue
    return sorted(found, reverse=True)


def prune(folder: Path, keep: int) -> None:
    """Take away all but the newest `keep` backups."""
    for night in nights(folder)[keep:]:
        file_of(folder, night.date).unlink(missing_ok=True)


def kept_of(gym: Gym) -> int:
    """How many nights the gym keeps; 0 where it wants none."""
    return int(gym.settings.get("nights_kept", 0))


def is_late(gym: Gym, today: dt.date, made: list[Night]) -> bool:
    """Whether backups are asked for and none was made for days."""
    return kept_of(gym) > 0 and (not made or (today - made[0].date).days >= LATE_DAYS)


def make_tonights(engine: Engine, folder: Path) -> Path | None:
    """Make the backup that is due and take away what is no longer kept; None where none is due or
    another process makes it. Raises BackupError, and nothing is taken away then.
    """
    with Session(engine) as db, db.begin():
        gym = db.scalars(select(Gym)).first()
        keep = kept_of(gym) if gym else 0
        if not keep:
            return None
        now = moment(db).astimezone(gym_of(db).zone)
        file = file_of(folder, now.date())
        if now.hour < FROM_HOUR or file.exists():
            return None
        # Held until the file is there; who comes second finds it.
        if not db.scalar(text("select pg_try_advisory_xact_lock(hashtextextended('night', 0))")):
            return None
        if file.exists():
            return None
        db.execute(text("set local idle_in_transaction_session_timeout = 0"))
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        backup(engine.url.render_as_string(hide_password=False), file)
        prune(folder, keep)
        return file
