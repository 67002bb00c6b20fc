"""The gym as one session of the database sees it: loaded once, and asked by everything.

What a request is about, its programme, is said here too. A flush that changes what was loaded, and
the end of a transaction, have it loaded anew.
"""

from __future__ import annotations

import datetime as dt
from functools import cached_property
from typing import Any
from zoneinfo import ZoneInfo

from sqlalchemy import event, select
from sqlalchemy.orm import ORMExecuteState, Session

from pine_ladder.core.day.calendar import begins, day_of, zone_of
from pine_ladder.core.movements import Library
from pine_ladder.store.catalogue.movements import read_library
from pine_ladder.store.gym import calendar
from pine_ladder.store.models import (
    Gym,
    Learning,
    OwnMovementRow,
    Programme,
    Tier,
    Track,
)

_KEPT_AS = "gym"
_LOADED_FROM = (Gym, Learning, OwnMovementRow, Programme, Tier, Track)


class NoProgramme(Exception):
    """The programme asked for is not the gym's (any more)."""


class LoadedGym:
    """The gym's settings, movements, tiers, tracks, day and programme, each read when first asked
    for; `programme_id` is the programme that is worked on, None for the gym's first.
    """

    def __init__(self, db: Session, programme_id: int | None = None) -> None:
        self._db, self.programme_id = db, programme_id

    @cached_property
    def row(self) -> Gym:
        """The gym with its settings; LookupError before one is set up."""
        gym = self._db.scalars(select(Gym)).first()
        if gym is None:
            raise LookupError("no gym yet: run pine-ladder gym open")
        return gym

    @cached_property
    def programme(self) -> Programme:
        """The programme that is worked on, the gym's first where none was said.

        LookupError before a gym is set up; NoProgramme for one that there is not.
        """
        query, own = select(Programme).order_by(Programme.id).limit(1), self.programme_id
        programme = self._db.scalars(
            query if own is None else query.where(Programme.id == own)
        ).first()
        if programme is None and own is not None:
            raise NoProgramme
        if programme is None:
            raise LookupError("no programme yet: run pine-ladder gym open")
        return programme

    @cached_property
    def movements(self) -> Library:
        """The library as this gym has it, with the seconds its scores speak for."""
        return read_library(self._db)

    @cached_property
    def movements_as_written(self) -> Library:
        """The same without what was learnt from scores."""
        return read_library(self._db, learnt=False)

    @cached_property
    def tiers(self) -> tuple[str, ...]:
        """The gym's tiers in order, as written first."""
        return tuple(self._db.scalars(select(Tier.name).order_by(Tier.position)))

    @cached_property
    def tracks(self) -> tuple[str, ...]:
        """The gym's load tracks in order."""
        return tuple(self._db.scalars(select(Track.name).order_by(Track.position)))

    @property
    def zone(self) -> ZoneInfo:
        """The time zone the gym is in."""
        return zone_of(self.row.zone)

    @cached_property
    def today(self) -> dt.date:
        """The gym's day, the same for all of a transaction."""
        return day_of(calendar.now(self._db), self.zone)

    @property
    def today_began(self) -> dt.datetime:
        """The moment the gym's day began, as the database stamps its rows."""
        return calendar.as_stamped(begins(self.today, self.zone))


def gym_of(db: Session) -> LoadedGym:
    """The gym as this session has loaded it."""
    loaded = db.info.get(_KEPT_AS)
    if not isinstance(loaded, LoadedGym):
        loaded = db.info[_KEPT_AS] = LoadedGym(db)
    return loaded


def work_on(db: Session, programme: int | None) -> None:
    """Have everything done in this database session be of one programme; None is the first.

    Which programme is looked at is said once a request, as its person and its transaction are.
    """
    db.info[_KEPT_AS] = LoadedGym(db, programme)


def forget(db: Session, *_: Any) -> None:
    """Have the gym loaded anew when it is next asked for."""
    if isinstance(loaded := db.info.get(_KEPT_AS), LoadedGym):
        db.info[_KEPT_AS] = LoadedGym(db, loaded.programme_id)


def _forget_what_changed(db: Session, *_: Any) -> None:
    if any(isinstance(one, _LOADED_FROM) for one in (*db.new, *db.dirty, *db.deleted)):
        forget(db)


def _forget_what_is_written(state: ORMExecuteState) -> None:
    written = state.is_insert or state.is_update or state.is_delete
    if written and state.bind_mapper is not None and state.bind_mapper.class_ in _LOADED_FROM:
        forget(state.session)


event.listen(Session, "after_flush", _forget_what_changed)
event.listen(Session, "do_orm_execute", _forget_what_is_written)
event.listen(Session, "after_commit", forget)
event.listen(Session, "after_rollback", forget)


def tier_at(db: Session, position: int) -> Tier | None:
    """The tier at a position, 0 as written; None where there is none."""
    return db.scalars(select(Tier).where(Tier.position == position)).one_or_none()


def track_at(db: Session, position: int) -> Track | None:
    """The load track at a position; None where there is none."""
    return db.scalars(select(Track).where(Track.position == position)).one_or_none()
