"""All athletes at a glance, for the coach."""

from __future__ import annotations

import datetime as dt

from pydantic import BaseModel

from pine_ladder.api.access import Database, router
from pine_ladder.core.scores.history import drift
from pine_ladder.store.athletes.members import limits_of
from pine_ladder.store.athletes.overview import doubts_waiting, places_since
from pine_ladder.store.floor.classes import last_seen
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.people.people import everybody_who_trains

coaches = router("coach", "athletes")

AWAY_DAYS = 14
"""Days without a class after which somebody is missed (common practice, no source)."""
RECENT, BEFORE = dt.timedelta(weeks=4), dt.timedelta(weeks=12)
"""Places of the last weeks are held against those of the weeks before, this far back."""


class Named(BaseModel):
    """An athlete."""

    id: int
    name: str


class Away(Named):
    """An athlete who has not been in a class for a while; `last` is None for never."""

    last: dt.date | None


class Limited(Named):
    """An athlete with what limits them."""

    limits: list[str]


class Waiting(BaseModel):
    """Scores of a day that wait for a coach."""

    date: dt.date
    count: int


class Overview(BaseModel):
    """Who stays away, longest first; whose places in their tier rise or fade; limits; doubts."""

    away: list[Away]
    rising: list[Named]
    fading: list[Named]
    limits: list[Limited]
    doubts: list[Waiting]


@coaches.get("/athletes/overview")
def overview(db: Database) -> Overview:
    """All athletes at a glance."""
    today = gym_of(db).today
    people = [person for person in everybody_who_trains(db) if person.active]
    seen = last_seen(db, today + dt.timedelta(days=1))
    moves: dict[str, list[Named]] = {"rising": [], "fading": []}
    placed = places_since(db, today - BEFORE)
    for one in people:
        own = placed.get(one.id, [])
        before = [place.share for place in own if place.date < today - RECENT]
        after = [place.share for place in own if place.date >= today - RECENT]
        if way := drift(before, after):
            moves[way].append(Named(id=one.id, name=one.name))
    away = [
        Away(id=person.id, name=person.name, last=seen.get(person.id))
        for person in people
        if person.id not in seen or (today - seen[person.id]).days >= AWAY_DAYS
    ]
    limits = limits_of(db)
    return Overview(
        away=sorted(away, key=lambda one: (one.last or dt.date.min, one.name)),
        rising=moves["rising"],
        fading=moves["fading"],
        limits=[
            Limited(id=person.id, name=person.name, limits=limits[person.id])
            for person in people
            if limits.get(person.id)
        ],
        doubts=[Waiting(date=date, count=count) for date, count in doubts_waiting(db)],
    )
