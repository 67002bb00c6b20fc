"""Scores from the floor: what was jotted round by round, or pressed at the end, kept for all."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Mapping
from typing import Literal

from fastapi import Depends
from pydantic import BaseModel

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days import existing_day
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.floor import class_of, piece_on
from pine_ladder.api.learning import after_a_score
from pine_ladder.api.scores import ScoreForm, write
from pine_ladder.core.jots import entry_of
from pine_ladder.store import clock, floor, scores
from pine_ladder.store.members import active_athletes
from pine_ladder.store.models import Day, Person, ScoreRow

coaches = router("coach", "floor")

Source = Literal["jots", "finish"]


class NotKept(BaseModel):
    """A score that was not kept, and why."""

    person_id: int
    name: str
    reason: str


class KeptOut(BaseModel):
    """How many scores stand as noted, and which do not."""

    kept: int
    refused: list[NotKept]


def _form(
    place: str, person: Person, entry: str, row: ScoreRow | None, source: Source
) -> ScoreForm:
    """The entry to write. What this source kept is its own to replace; else it meets as a conflict.

    The same notes in the same `place` have the same request key: kept twice is kept once.
    """
    own = row is not None and (row.request_key or "").startswith(f"{source}/")
    version = row if row is not None else person
    digest = hashlib.sha256(f"{place}/{entry}".encode()).hexdigest()[:24]
    return ScoreForm(
        entered=entry,
        tier=version.tier.position,
        track=version.track.position,
        version=row.version if row is not None and own else 0,
        request_key=f"{source}/{person.id}/{digest}",
    )


def _keep(
    db: Database, day: Day, key: str, entries: Mapping[int, str], source: Source, me: Person
) -> KeptOut:
    out = KeptOut(kept=0, refused=[])
    held = {row.person_id: row for row in scores.scores_of(db, day, key)}
    for person in active_athletes(db):
        entry, row = entries.get(person.id), held.get(person.id)
        if not entry:
            continue
        try:
            if row is None or row.entered != entry:
                with db.begin_nested():
                    form = _form(f"{day.id}/{key}", person, entry, row, source)
                    write(db, day, key, person, form, me)
            out.kept += 1
        except ApiError as refusal:
            out.refused.append(
                NotKept(person_id=person.id, name=person.name, reason=refusal.detail)
            )
    return out


@coaches.post(
    "/days/{date}/pieces/{key}/jots/keep",
    dependencies=[Depends(after_a_score)],
    responses={404: {"model": Problem}},
)
def keep_jots(date: dt.date, key: str, db: Database, shelf: Shelf, me: Myself) -> KeptOut:
    """Keep what stands jotted as scores; a score that came another way is not replaced."""
    day = existing_day(db, date)
    piece = piece_on(day, key, shelf)
    noted = floor.jots_of(db, day, key)
    entries = {person: entry_of(piece, rounds) for person, rounds in noted.items()}
    return _keep(db, day, key, entries, "jots", me)


@coaches.post(
    "/classes/{class_id}/finishes/keep",
    dependencies=[Depends(after_a_score)],
    responses={404: {"model": Problem}},
)
def keep_finishes(class_id: int, db: Database, me: Myself) -> KeptOut:
    """Keep the pressed ends of an open piece as scores; others' scores are not replaced."""
    day = db.get_one(Day, class_of(db, class_id).day_id)
    stood = clock.stands(db, class_id)
    if stood is None:
        raise ApiError(404, "no piece is on this class's clock")
    entries = {one.athlete_id: one.shown for one in stood.state.finishes}
    return _keep(db, day, stood.state.key, entries, "finish", me)
