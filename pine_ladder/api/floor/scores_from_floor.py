"""Scores from the floor: what was jotted round by round, or pressed at the end, kept for all."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, get_args

from fastapi import Depends
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.athletes.learning import after_a_score
from pine_ladder.api.days.days import existing_day, piece_on
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.floor.classes import class_of
from pine_ladder.api.forms import Form, GymDate, Id, Key
from pine_ladder.api.scores.forms import ScoreForm
from pine_ladder.api.scores.sheet import write
from pine_ladder.core.floor.round_times import entry_of, open_places
from pine_ladder.store.athletes.members import active_athletes
from pine_ladder.store.days.days import classes_of
from pine_ladder.store.floor import classes as floor
from pine_ladder.store.floor import clock
from pine_ladder.store.models import Day, Person, ScoreRow
from pine_ladder.store.scores import sheet
from pine_ladder.usecases import scores

coaches = router("coach", "floor")

Source = Literal["jots", "finish"]
FROM_THE_FLOOR: tuple[Source, ...] = get_args(Source)


class NotKept(BaseModel):
    """A score that was not kept, and why."""

    person_id: int
    name: str
    reason: str


class Unfinished(BaseModel):
    """Notes that leave places out: kept as a score only when the coach says so."""

    person_id: int
    name: str
    entry: str
    missing: str


class KeepForm(Form):
    """Whose unfinished notes to keep as they are."""

    unfinished: list[Id] = Field(default_factory=list, max_length=200)


class KeptOut(BaseModel):
    """How many scores stand as noted, which do not, and whose notes leave places out."""

    kept: int
    refused: list[NotKept]
    unfinished: list[Unfinished]


def _form(person: Person, entry: str, row: ScoreRow | None) -> ScoreForm:
    """The entry to write. What the floor has saved is its own to replace; else it is a conflict."""
    own = row is not None and row.source in FROM_THE_FLOOR
    version = row if row is not None else person
    return ScoreForm(
        entered=entry,
        tier=version.tier.position,
        track=version.track.position,
        version=row.version if row is not None and own else 0,
    )


def _keep(
    db: Database, day: Day, key: str, entries: Mapping[int, str], source: Source, me: Person
) -> KeptOut:
    out = KeptOut(kept=0, refused=[], unfinished=[])
    scores.lock_piece(db, key)
    held = {row.person_id: row for row in sheet.scores_of(db, day, key)}
    for person in active_athletes(db):
        entry, row = entries.get(person.id), held.get(person.id)
        if not entry:
            continue
        try:
            if row is None or row.entered != entry:
                with db.begin_nested():
                    write(db, day, key, person, _form(person, entry, row), me, source)
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
def keep_jots(
    date: GymDate, key: Key, form: KeepForm, db: Database, shelf: Shelf, me: Myself
) -> KeptOut:
    """Save what stands noted of a piece as scores: rounds, and the ends that were pressed. A score
    that came another way is not replaced.

    Notes that leave places out are named, and kept only for those the form names.
    """
    day = existing_day(db, date)
    piece = piece_on(db, day, key, shelf)
    noted = floor.jots_of(db, key)
    ends = _ends_of(db, day, key)
    gaps = {person: open_places(piece, rounds) for person, rounds in noted.items()}
    waiting = {
        person
        for person, gap in gaps.items()
        if gap and person not in form.unfinished and person not in ends
    }
    entries = {
        person: entry_of(piece, noted.get(person, {}), ends.get(person))
        for person in {*noted, *ends}
    }
    done = {person: entry for person, entry in entries.items() if person not in waiting}
    out = _keep(db, day, key, done, "jots", me)
    out.unfinished = [
        Unfinished(
            person_id=person.id,
            name=person.name,
            entry=entries[person.id],
            missing=", ".join(gaps[person.id]),
        )
        for person in active_athletes(db)
        if person.id in waiting
    ]
    return out


@coaches.post(
    "/classes/{class_id}/finishes/keep",
    dependencies=[Depends(after_a_score)],
    responses={404: {"model": Problem}},
)
def keep_finishes(class_id: Id, db: Database, shelf: Shelf, me: Myself) -> KeptOut:
    """Save the piece on a class's clock as scores: each athlete's end with the rounds noted on the
    way, and the rounds of those whose rounds are complete. Others' scores are not replaced.
    """
    day = db.get_one(Day, class_of(db, class_id).day_id)
    stood = clock.stands(db, class_id)
    if stood is None:
        raise ApiError(404, "no piece is on this class's clock")
    piece, noted = stood.state.piece, floor.jots_of(db, stood.state.key)
    ends = _ends_of(db, day, stood.state.key)
    complete = {person for person, rounds in noted.items() if not open_places(piece, rounds)}
    entries = {
        person: entry_of(piece, noted.get(person, {}), ends.get(person))
        for person in {*ends, *complete}
    }
    return _keep(db, day, stood.state.key, entries, "finish", me)


def _ends_of(db: Database, day: Day, key: str) -> dict[int, int]:
    """Whole seconds of each athlete's end of a piece, in whichever class of the day it was."""
    ends: dict[int, int] = {}
    for held in classes_of(db, day):
        stood = clock.stands(db, held.id)
        if stood is not None and stood.state.key == key:
            ends |= {
                finish.athlete_id: max(1, int(finish.seconds)) for finish in stood.state.finishes
            }
    return ends
