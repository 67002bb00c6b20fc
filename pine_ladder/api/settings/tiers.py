"""The gym's shape: its tiers and tracks, as many as it wants, under its own names."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form, Place, Version
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Tier, Track
from pine_ladder.usecases import tiers

coaches = router("coach", "shape")


class ColumnName(Form):
    """A tier or track as it is to be: its place today, none for a new one, and its name."""

    was: Place | None = None
    name: str = Field(max_length=80)


class Columns(Form):
    """Tiers or tracks in order; `into` says for the place of each that goes which takes it over."""

    names: list[ColumnName] = Field(max_length=20)
    into: dict[Annotated[int, Field(ge=0, le=50)], Place] = Field(
        default_factory=dict, max_length=20
    )


class ShapeForm(Form):
    """The tiers and tracks a gym is to have, over the version of the settings that was read."""

    tiers: Columns
    tracks: Columns
    version: Version


class Merge(BaseModel):
    """What merging a tier or track does to what is stored."""

    gone: str
    into: str
    people: int
    scores: int
    boards: int


class Shape(BaseModel):
    """The gym's tiers and tracks, at the version of its settings."""

    tiers: list[str]
    tracks: list[str]
    version: int


def _wanted(columns: Columns) -> tiers.Wanted:
    return tiers.Wanted([tiers.Named(one.was, one.name) for one in columns.names], columns.into)


@coaches.get("/shape")
def read_shape(db: Database) -> Shape:
    """The gym's tiers and tracks."""
    return Shape(
        tiers=[row.name for row in tiers.rows_of(db, Tier)],
        tracks=[row.name for row in tiers.rows_of(db, Track)],
        version=gym_of(db).row.settings_version,
    )


@coaches.post("/shape/look", responses={422: {"model": Problem}})
def look_at_shape(form: ShapeForm, db: Database) -> list[Merge]:
    """What a change would do to people, scores and boards; nothing is changed."""
    try:
        found = [
            *tiers.effects(db, Tier, _wanted(form.tiers)),
            *tiers.effects(db, Track, _wanted(form.tracks)),
        ]
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return [Merge(**one._asdict()) for one in found]


@coaches.put("/shape", responses={409: {"model": Problem}, 422: {"model": Problem}})
def change_shape(form: ShapeForm, db: Database) -> Shape:
    """Rename, add or merge tiers and tracks; all of it or nothing."""
    gym = gym_of(db).row
    db.refresh(gym, with_for_update=True)
    if gym.settings_version != form.version:
        raise ApiError(
            409, "someone else has changed the settings in the meantime: look at them again"
        )
    gym.settings_version += 1
    try:
        tiers.change(db, Tier, _wanted(form.tiers))
        tiers.change(db, Track, _wanted(form.tracks))
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    return read_shape(db)
