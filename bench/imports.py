"""A hundred thousand old scores brought in, beside pandas reading and ranking the same table."""

from __future__ import annotations

import datetime as dt
import io
import random
import time

import pandas
from shared import small_gym
from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session

from pine_ladder.files.tables import read_csv, write_csv
from pine_ladder.store.models import Person, Tier, Track
from pine_ladder.usecases import importing as imports

PEOPLE, DAYS = 200, 500


def table() -> str:
    """A score of each of many people on each of many days."""
    chance = random.Random(7)
    begin = dt.date(2020, 1, 1)
    rows = [
        (
            (begin + dt.timedelta(days=day)).isoformat(),
            "Daily piece",
            f"Person {who:03}",
            str(chance.randint(40, 250)),
        )
        for day in range(DAYS)
        for who in range(PEOPLE)
    ]
    return write_csv(("date", "piece", "person", "entered"), rows)


def pandas_ranks(text: str) -> pandas.DataFrame:
    """The same table read and ranked by pandas, day by day."""
    frame = pandas.read_csv(io.StringIO(text))
    frame["rank"] = frame.groupby(["date", "piece"])["entered"].rank("min", ascending=False)
    return frame


def report(url: str) -> None:
    """Print both times and their ratio (one run: it fills the database)."""
    engine: Engine = create_engine(url)
    small_gym(engine, "no password")
    with Session(engine) as db, db.begin():
        tier, track = db.query(Tier).first(), db.query(Track).first()
        for who in range(PEOPLE):
            db.add(Person(name=f"Person {who:03}", role="athlete", tier=tier, track=track))
    text = table()
    start = time.perf_counter()
    pandas_ranks(text)
    theirs = time.perf_counter() - start
    start = time.perf_counter()
    with Session(engine) as db:
        imports.look(db, read_csv(text))
    looked = time.perf_counter() - start
    start = time.perf_counter()
    with Session(engine) as db, db.begin():
        row, _ = imports.bring_in(db, read_csv(text), {}, None)
        count = len(row.made["scores"])
    kept = time.perf_counter() - start
    print(f"\n{count} old scores: pandas reads and ranks {theirs:.2f} s")
    print(f"  looked at {looked:.2f} s  {looked / theirs:6.2f} ×")
    print(f"  kept      {kept:.2f} s  {kept / theirs:6.2f} ×")
    engine.dispose()
