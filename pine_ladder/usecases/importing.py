"""Scores of other days brought in from a table: looked at first, kept whole, taken back whole."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

import psycopg
from psycopg import sql
from psycopg.types.json import Jsonb
from sqlalchemy import delete, func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.scores.scored_parts import Found, Ledger, Old, read_ledger
from pine_ladder.store.days.pieces import held_by
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    Attendance,
    Day,
    GymClass,
    Jot,
    Person,
    PieceRow,
    ScoreImport,
    ScoreRow,
    ScoreTrail,
    Tier,
    Track,
)
from pine_ladder.usecases.piece_matching import settle

LOCK = 7410229
Rows = tuple[Sequence[str], Sequence[tuple[int, Sequence[str]]]]
"""The heads of a table, and its rows with the line each begins on."""


class TakenBack(NamedTuple):
    """What taking an import back did: what went, and how many scores stay as they were changed."""

    scores: int
    days: int
    people: int
    kept: int


def _names(db: Session, column: type[Tier] | type[Track]) -> list[Any]:
    return list(db.scalars(select(column).order_by(column.position)))


def look(db: Session, table: Rows, named: Mapping[str, int] | None = None) -> Ledger:
    """What a table of scores means for the gym; nothing is kept. ValueError as `read_ledger`."""
    heads, rows = table
    shelf = gym_of(db).movements_as_written
    programme = gym_of(db).programme
    known: dict[dt.date, list[tuple[int, plan.Piece]] | None] = {}

    def on(date: dt.date) -> list[tuple[int, plan.Piece]] | None:
        if date not in known:
            query = select(Day).where(Day.date == date, Day.programme_id == programme.id)
            day = db.scalars(query).unique().one_or_none()
            known[date] = (
                [
                    (held.row.id, held.piece)
                    for held in held_by(db, day, shelf)
                    if held.piece is not None and held.row.position is not None
                ]
                if day is not None and day.text.strip()
                else None
            )
        return known[date]

    entered = select(ScoreRow.piece_id, ScoreRow.person_id, ScoreRow.entered)
    old = Old(
        people=[(n, name) for n, name in db.execute(select(Person.id, Person.name))],
        tiers=[tier.name for tier in _names(db, Tier)],
        tracks=[track.name for track in _names(db, Track)],
        day=on,
        entered={(piece, person): told for piece, person, told in db.execute(entered)},
        programme=programme.name,
    )
    return read_ledger(heads, rows, old, shelf, named)


def bring_in(
    db: Session, table: Rows, named: Mapping[str, int], by: Person | None
) -> tuple[ScoreImport, Ledger]:
    """Keep the scores of a table that are new, with the days and people they need."""
    db.execute(text("select pg_advisory_xact_lock(:lock)"), {"lock": LOCK})
    ledger = look(db, table, named)
    days = _days(db, ledger, by)
    people = _people(db, ledger)
    scores = _scores(db, ledger, people, by)
    made = {"scores": scores, "days": days, "people": list(people.values())}
    row = ScoreImport(made=made, by_id=by.id if by else None)
    db.add(row)
    db.flush()
    db.refresh(row)
    for date in {one.line.date for one in ledger.found if one.line.date}:
        tell(db, what="day", date=date.isoformat())
    return row, ledger


def _days(db: Session, ledger: Ledger, by: Person | None) -> list[int]:
    programme, made = gym_of(db).programme, []
    for date, board in sorted(ledger.days.items()):
        query = select(Day).where(Day.date == date, Day.programme_id == programme.id)
        day = db.scalars(query).unique().one_or_none()
        if day is None:
            day = Day(programme_id=programme.id, date=date, version=0)
            db.add(day)
        day.text, day.published, day.version = board, True, day.version + 1
        day.saved_by = by
        db.flush()
        settle(db, day, {})
        made.append(day.id)
    return made


def _people(db: Session, ledger: Ledger) -> dict[str, int]:
    tier, track = _names(db, Tier)[0], _names(db, Track)[0]
    made: dict[str, int] = {}
    for one in ledger.found:
        if isinstance(one.person, str) and one.person.casefold() not in made:
            person = Person(name=one.person, role="athlete", tier=tier, track=track)
            db.add(person)
            db.flush()
            made[one.person.casefold()] = person.id
    return made


def _scores(db: Session, ledger: Ledger, people: Mapping[str, int], by: Person | None) -> list[int]:
    tiers, tracks = _names(db, Tier), _names(db, Track)
    dates = {one.line.date for one in ledger.found}
    programme = gym_of(db).programme
    query = (
        select(Day.date, PieceRow.position, Day.id, PieceRow.id)
        .join(PieceRow, PieceRow.day_id == Day.id)
        .where(
            Day.date.in_(dates),
            Day.programme_id == programme.id,
            PieceRow.position.is_not(None),
        )
    )
    places: dict[tuple[dt.date, int], int] = {}
    days: dict[dt.date, int] = {}
    for date, place, day, piece in db.execute(query):
        assert place is not None
        places[date, place], days[date] = piece, day
    rows = [_row(one, people, days, places, tiers, tracks) for one in ledger.found]
    if not rows:
        return []
    ids = _numbers(db, ScoreRow, len(rows))
    _copy(db, ScoreRow, [{"id": number, **row} for number, row in zip(ids, rows, strict=True)])
    trail = [
        {
            "day_id": row["day_id"],
            "piece_id": row["piece_id"],
            "person_id": row["person_id"],
            "changed_by_id": by.id if by else None,
            "after": {
                "entered": row["entered"],
                "display": row["display"],
                "tier_id": row["tier_id"],
                "track_id": row["track_id"],
                "version": 1,
            },
        }
        for row in rows
    ]
    numbers = _numbers(db, ScoreTrail, len(trail))
    _copy(db, ScoreTrail, [{"id": n, **row} for n, row in zip(numbers, trail, strict=True)])
    return ids


Filled = type[ScoreRow] | type[ScoreTrail]


def _numbers(db: Session, table: Filled, count: int) -> list[int]:
    """Ids for so many rows, nobody else's."""
    sequence = func.pg_get_serial_sequence(table.__tablename__, "id")
    return list(db.scalars(select(func.nextval(sequence)).select_from(
        func.generate_series(1, count)
    )))  # fmt: skip


def _copy(db: Session, table: Filled, rows: Sequence[Mapping[str, Any]]) -> None:
    """Rows by PostgreSQL's COPY, in the transaction of the session."""
    driver = db.connection().connection.driver_connection
    assert isinstance(driver, psycopg.Connection)
    names = list(rows[0])
    into = sql.SQL("copy {} ({}) from stdin").format(
        sql.Identifier(table.__tablename__), sql.SQL(", ").join(map(sql.Identifier, names))
    )
    with driver.cursor() as cursor, cursor.copy(into) as copy:
        for row in rows:
            copy.write_row(
                [Jsonb(cell) if isinstance(cell, dict) else cell for cell in row.values()]
            )


def _row(
    entry: Found,
    people: Mapping[str, int],
    days: Mapping[dt.date, int],
    places: Mapping[tuple[dt.date, int], int],
    tiers: list[Any],
    tracks: list[Any],
) -> dict[str, Any]:
    assert entry.line.date is not None
    piece_id = entry.at.piece_id or places[entry.line.date, entry.at.place]
    score = entry.score
    person = people[entry.person.casefold()] if isinstance(entry.person, str) else entry.person
    return {
        "day_id": days[entry.line.date],
        "piece_id": piece_id,
        "person_id": person,
        "tier_id": tiers[entry.line.tier].id,
        "track_id": tracks[entry.line.track].id,
        "entered": entry.line.entered,
        "kind": score.kind.value,
        "value": score.value,
        "display": score.display,
        "order_key": score.order_key,
        "reps": score.total_reps,
        "rounds": score.rounds.model_dump(mode="json") if score.rounds else None,
        "version": 1,
    }


def take_back(db: Session, row: ScoreImport) -> TakenBack:
    """Undo an import. What has been changed or added to since stays as it is."""
    made = row.made
    gone = list(
        db.scalars(
            delete(ScoreRow)
            .where(ScoreRow.id.in_(made["scores"]), ScoreRow.version == 1)
            .returning(ScoreRow.id)
            .execution_options(synchronize_session=False)
        )
    )
    kept = db.scalar(select(func.count(ScoreRow.id)).where(ScoreRow.id.in_(made["scores"]))) or 0
    db.expire_all()
    days = 0
    for day in db.scalars(select(Day).where(Day.id.in_(made["days"]))).unique():
        if not _in_use(db, day):
            tell(db, what="day", date=day.date.isoformat())
            db.execute(delete(ScoreTrail).where(ScoreTrail.day_id == day.id))
            db.execute(delete(PieceRow).where(PieceRow.day_id == day.id))
            db.execute(delete(Day).where(Day.id == day.id))
            days += 1
    people = 0
    for person in db.scalars(select(Person).where(Person.id.in_(made["people"]))).unique():
        held = select(func.count(ScoreRow.id)).where(ScoreRow.person_id == person.id)
        came = select(func.count()).where(Attendance.person_id == person.id)
        if not db.scalar(held) and not db.scalar(came) and person.password_hash is None:
            db.execute(delete(Person).where(Person.id == person.id))
            people += 1
    db.delete(row)
    db.flush()
    db.expire_all()
    return TakenBack(len(gone), days, people, kept)


def _in_use(db: Session, day: Day) -> bool:
    """Whether scores, notes or classes hang on a day, or it was written on since."""
    pieces = select(PieceRow.id).where(PieceRow.day_id == day.id)
    return bool(
        day.version > 1
        or db.scalar(select(func.count(ScoreRow.id)).where(ScoreRow.day_id == day.id))
        or db.scalar(select(func.count()).select_from(Jot).where(Jot.piece_id.in_(pieces)))
        or db.scalar(select(func.count(GymClass.id)).where(GymClass.day_id == day.id))
    )


def imports_of(db: Session) -> list[ScoreImport]:
    """Return the imports of scores, newest first."""
    return list(db.scalars(select(ScoreImport).order_by(ScoreImport.id.desc())))
