"""Heart rate straps: who wears which, who works on what, and the seconds kept of it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from sqlalchemy import select, text
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.heart import Beats
from pine_ladder.core.athletes.members import Profile
from pine_ladder.core.floor.cues import script
from pine_ladder.core.floor.remote import Running
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Piece
from pine_ladder.store.days.pieces import id_of
from pine_ladder.store.floor.clock import moment
from pine_ladder.store.models import (
    Attendance,
    ClockStep,
    Day,
    GymClass,
    HeartRow,
    Person,
    ProfileRow,
    Strap,
)

HEARTS = "hearts"
"""What is told each second: to everybody their own heart, to displays those they may show."""
LOOKS_BACK_H = 4
"""Hours after its last press in which a clock may still run."""
LONGEST_OPEN_S = 3600.0
"""Seconds a piece without an end of its own is taken to run at most."""

Seconds = Mapping[Beats, int]
"""Seconds a heart beat at each rate."""


class Wearer(NamedTuple):
    """Who wears a strap, and what is known of them."""

    id: int
    name: str
    profile: Profile


class Working(NamedTuple):
    """What somebody works on: the class whose clock runs, its programme, and the piece."""

    class_id: int
    programme_id: int
    piece_id: int
    piece: Piece


def strap_of(db: Session, person_id: int) -> int | None:
    """The strap somebody wears."""
    return db.scalar(select(Strap.number).where(Strap.person_id == person_id))


def wearers(db: Session) -> dict[int, Wearer]:
    """Who wears which strap, of those who are still members."""
    query = (
        select(Strap.number, Person.id, Person.name, ProfileRow.record)
        .join(Person, Person.id == Strap.person_id)
        .outerjoin(ProfileRow, ProfileRow.person_id == Person.id)
        .where(Person.active)
    )
    return {
        number: Wearer(person, name, Profile.model_validate(record or {}))
        for number, person, name, record in db.execute(query)
    }


def _runs(state: Running, now: float, shelf: Library) -> bool:
    position = state.at(now)
    if state.ended or state.held is not None or position is None or position < 0:
        return False
    played = script(state.piece, shelf, state.changes)
    end = played.total_s or played.cap_s or LONGEST_OPEN_S
    return position < end + state.heats[-1]


def working(db: Session, shelf: Library) -> dict[int, Working]:
    """Who is in a class whose clock runs, and what on; the clock pressed last counts."""
    newest = (
        select(ClockStep)
        .ext(distinct_on(ClockStep.class_id))
        .where(
            ClockStep.made_at > text(f"now() - interval '{LOOKS_BACK_H} hours'"),
            ~ClockStep.undone,
        )
        .order_by(ClockStep.class_id, ClockStep.id.desc())
    )
    now, found = moment(db), dict[int, Working]()
    for step in sorted(db.scalars(newest), key=lambda step: step.id):
        state = Running.model_validate(step.state)
        if not _runs(state, now, shelf):
            continue
        here = select(Attendance.person_id).where(Attendance.class_id == step.class_id)
        programme = db.scalar(
            select(Day.programme_id)
            .join(GymClass, GymClass.day_id == Day.id)
            .where(GymClass.id == step.class_id)
        )
        assert programme is not None
        work = Working(step.class_id, programme, id_of(state.key), state.piece)
        found.update(dict.fromkeys(db.scalars(here), work))
    return found


def kept_of(
    db: Session, person_id: int, pieces: Iterable[int] | None = None
) -> dict[int, dict[Beats, int]]:
    """The seconds kept of somebody by piece, of all pieces or of some."""
    query = select(HeartRow).where(HeartRow.person_id == person_id)
    if pieces is not None:
        query = query.where(HeartRow.piece_id.in_(list(pieces)))
    return {
        row.piece_id: {int(bpm): length for bpm, length in row.seconds.items()}
        for row in db.scalars(query)
    }
