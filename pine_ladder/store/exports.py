"""The gym as tables, for whoever wants to take it away: people, scores, bests, classes, kit."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Iterable
from typing import Any, NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core.day.calendar import WEEKDAYS
from pine_ladder.core.units import number_text
from pine_ladder.store.floor.classes import weekly_slots
from pine_ladder.store.models import (
    Attendance,
    Day,
    EffortRow,
    Follow,
    GymClass,
    HeartRow,
    Jot,
    Kit,
    LateCancel,
    MailRow,
    MailUnwanted,
    OverrideRow,
    Person,
    PieceRow,
    ProfileRow,
    Programme,
    ScoreRow,
    ScoreTrail,
    SignIn,
    SignUp,
    Strap,
    Tier,
    Track,
)


class Table(NamedTuple):
    """A table: the heads of its columns and its rows."""

    heads: tuple[str, ...]
    rows: list[tuple[Any, ...]]


def people(db: Session) -> Table:
    """Everybody, with tier and track by name."""
    found = db.scalars(select(Person).order_by(Person.id)).unique()
    return Table(
        ("name", "e-mail", "role", "trains", "tier", "track", "active"),
        [
            (p.name, p.email, p.role, _yes(p.trains), p.tier.name, p.track.name, _yes(p.active))
            for p in found
        ],
    )


def _yes(is_so: bool) -> str:
    return "yes" if is_so else "no"


def scores(db: Session, person: Person | None = None) -> Table:
    """Scores in long form, oldest first; those of one person where one is given."""
    query = (
        select(
            Day.date,
            Programme.name,
            PieceRow.title,
            PieceRow.text,
            Person.name,
            Tier.name,
            Track.name,
            ScoreRow.entered,
            ScoreRow.display,
            ScoreRow.standing,
        )
        .join_from(ScoreRow, PieceRow, PieceRow.id == ScoreRow.piece_id)
        .join(Day, Day.id == ScoreRow.day_id)
        .join(Programme, Programme.id == Day.programme_id)
        .join(Person, Person.id == ScoreRow.person_id)
        .join(Tier, Tier.id == ScoreRow.tier_id)
        .join(Track, Track.id == ScoreRow.track_id)
        .order_by(Day.date, Programme.id, PieceRow.position, PieceRow.id, Person.name, Person.id)
    )
    if person is not None:
        query = query.where(ScoreRow.person_id == person.id)
    heads = (
        "date", "programme", "piece", "board", "person", "tier", "track", "entered", "score",
        "standing",
    )  # fmt: skip
    return Table(heads, [tuple(row) for row in db.execute(query)])


def bests(db: Session) -> Table:
    """What is known of athletes: loads in kg and sets in a row, a row each."""
    rows: list[tuple[Any, ...]] = []
    known = select(ProfileRow, Person.name).join(Person, Person.id == ProfileRow.person_id)
    for profile, name in db.execute(known.order_by(Person.id)):
        for kind, what in (("bests", "kg"), ("longest", "in a row")):
            for movement, number in sorted((profile.record.get(kind) or {}).items()):
                rows.append((name, movement, number_text(number), what))
    return Table(("person", "movement", "best", "unit"), rows)


def classes(db: Session) -> Table:
    """The programme's classes of the week."""
    return Table(
        ("weekday", "start", "minutes", "places", "hall"),
        [
            (WEEKDAYS[day], f"{slot.start:%H:%M}", slot.minutes, slot.size, slot.place)
            for day in range(7)
            for slot in weekly_slots(db, day)
        ],
    )


def kit(db: Session) -> Table:
    """What the gym owns."""
    found = db.scalars(select(Kit).order_by(Kit.name))
    return Table(("kit", "count"), [(one.name, one.count) for one in found])


TABLES: dict[str, Callable[[Session], Table]] = {
    "people": people,
    "scores": scores,
    "bests": bests,
    "classes": classes,
    "kit": kit,
}


def boards(db: Session) -> list[tuple[str, dt.date, str]]:
    """Every board as (programme, date, text), the first programme first."""
    query = (
        select(Programme.name, Day.date, Day.text)
        .join(Day, Day.programme_id == Programme.id)
        .where(Day.text != "")
    )
    return [(*row,) for row in db.execute(query.order_by(Programme.id, Day.date))]


def _columns(row: Any) -> dict[str, Any]:
    return {c.key: getattr(row, c.key) for c in row.__table__.columns}


def about(db: Session, person: Person) -> dict[str, Any]:
    """Everything that is kept about somebody, as records ready for JSON; no secrets."""
    secret = {"password_hash", "token_hash", "guard"}
    own: dict[str, Iterable[Any]] = {
        "person": [person],
        "profile": db.scalars(select(ProfileRow).where(ProfileRow.person_id == person.id)),
        "versions": db.scalars(select(OverrideRow).where(OverrideRow.person_id == person.id)),
        "scores": db.scalars(select(ScoreRow).where(ScoreRow.person_id == person.id)).unique(),
        "changes": db.scalars(select(ScoreTrail).where(ScoreTrail.person_id == person.id)),
        "rounds": db.scalars(select(Jot).where(Jot.person_id == person.id)),
        "efforts": db.scalars(select(EffortRow).where(EffortRow.person_id == person.id)),
        "strap": db.scalars(select(Strap).where(Strap.person_id == person.id)),
        "heart_rates": db.scalars(select(HeartRow).where(HeartRow.person_id == person.id)),
        "letters": db.scalars(select(MailRow).where(MailRow.person_id == person.id)).unique(),
        "letters_unwanted": db.scalars(
            select(MailUnwanted).where(MailUnwanted.person_id == person.id)
        ),
        "programmes": db.scalars(select(Follow).where(Follow.person_id == person.id)),
        "late_cancellations": db.scalars(
            select(LateCancel).where(LateCancel.person_id == person.id)
        ),
        "sign_ups": db.scalars(select(SignUp).where(SignUp.person_id == person.id)),
        "sign_ins": db.scalars(select(SignIn).where(SignIn.person_id == person.id)).unique(),
    }
    out: dict[str, Any] = {
        name: [
            {key: value for key, value in _columns(row).items() if key not in secret}
            for row in rows
        ]
        for name, rows in own.items()
    }
    came = (
        select(Day.date, GymClass.start)
        .join(Attendance, Attendance.class_id == GymClass.id)
        .join(Day, Day.id == GymClass.day_id)
        .where(Attendance.person_id == person.id)
    )
    out["classes"] = [
        {"date": date, "start": start} for date, start in db.execute(came.order_by(Day.date))
    ]
    return out
