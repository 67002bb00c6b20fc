"""Scaling: the class on a piece, overrides, and what is known of each athlete."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days.days import existing_day, piece_on
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id, Key, Version
from pine_ladder.core.athletes.alternatives import Choices, choices
from pine_ladder.core.athletes.loads import OneRepMax, one_rep_max
from pine_ladder.core.athletes.members import Profile
from pine_ladder.core.athletes.scaling import read_override
from pine_ladder.core.athletes.scaling_sheet import Sheet, scaling_sheet, tasks_of
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.tokens import Slip
from pine_ladder.store.athletes import members as store
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.programmes import followers
from pine_ladder.store.models import GymClass, Person
from pine_ladder.usecases import profiles

coaches = router("coach", "scaling")
members = router("member", "scaling")


class ProfileOut(BaseModel):
    """What is known of an athlete, at a version (0 when nothing has been saved)."""

    profile: Profile
    version: int


class ProfileForm(Form):
    """A profile to keep over the version that was read."""

    profile: Profile
    version: Version


class OverrideForm(Form):
    """A coach's own version of a movement for an athlete; an empty text forgets it."""

    movement: str = Field(max_length=60, description="The movement as written on the board")
    text: str = Field(max_length=200, examples=["8 ring row", "strict press @ 20 kg"])


class SetForm(Form):
    """A set that was lifted."""

    kg: float = Field(gt=0, le=600)
    reps: int = Field(ge=1, le=20)


def _athlete(db: Database, athlete_id: int) -> Person:
    person = db.get(Person, athlete_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    return person


def _known_names(profile: Profile, shelf: Library) -> Profile:
    """The profile with movements by the library's names; a 422 for one it does not have."""

    def named(values: dict[str, float], what: str) -> dict[str, float]:
        out = {}
        for name, value in values.items():
            movement = shelf.find(name)
            if movement is None:
                near = shelf.nearest(name)
                hint = f"; did you mean {near.name}?" if near else ""
                raise ApiError(422, f"{name}: no such movement{hint}")
            if not 0 < value <= 3600:
                raise ApiError(422, f"{movement.name}: {what} is more than nothing")
            out[movement.name] = value
        return out

    rungs = {}
    for ladder, rung in profile.rungs.items():
        found = next((one for one in shelf.ladders if one.name == ladder), None)
        if found is None or rung not in found.rungs:
            raise ApiError(422, f"{rung} is no rung of the {ladder} ladder")
        rungs[ladder] = rung
    return profile.model_copy(
        update={
            "bests": named(profile.bests, "a best"),
            "longest": named(profile.longest, "a set"),
            "rungs": rungs,
        }
    )


def _save(
    db: Database, shelf: Library, person: Person, form: ProfileForm, by: Person
) -> ProfileOut:
    profile = _known_names(form.profile, shelf)
    try:
        version = profiles.save_profile(db, person.id, profile, form.version, by)
    except profiles.StaleProfile:
        raise ApiError(409, "someone changed this profile in the meantime: reload it") from None
    return ProfileOut(profile=profile, version=version)


@coaches.get("/athletes/{athlete_id}/profile", responses={404: {"model": Problem}})
def read_profile(athlete_id: Id, db: Database) -> ProfileOut:
    """What is known of an athlete. Limits and notes are for coaches and the athlete alone."""
    profile, version = store.profile_of(db, _athlete(db, athlete_id).id)
    return ProfileOut(profile=profile, version=version)


@coaches.put(
    "/athletes/{athlete_id}/profile",
    responses={404: {"model": Problem}, 409: {"model": Problem}, 422: {"model": Problem}},
)
def write_profile(
    athlete_id: Id, form: ProfileForm, db: Database, shelf: Shelf, me: Myself
) -> ProfileOut:
    """Keep what is known of an athlete. Showing their heart is theirs to allow: a coach says so
    for those alone who cannot sign in.
    """
    athlete = _athlete(db, athlete_id)
    kept, _ = store.profile_of(db, athlete.id)
    if form.profile.heart_shown and not kept.heart_shown and athlete.password_hash is not None:
        raise ApiError(
            422,
            "whether the wall shows their heart rate is theirs to say: they tick it under Settings "
            "and privacy",
        )
    return _save(db, shelf, athlete, form, me)


@members.get("/me/profile")
def read_my_profile(db: Database, me: Myself) -> ProfileOut:
    """What is known of me."""
    profile, version = store.profile_of(db, me.id)
    return ProfileOut(profile=profile, version=version)


@members.put("/me/profile", responses={409: {"model": Problem}})
def write_my_profile(form: ProfileForm, db: Database, shelf: Shelf, me: Myself) -> ProfileOut:
    """Keep what I say of myself."""
    return _save(db, shelf, me, form, me)


@members.post("/one-rep-max")
def estimate_max(form: SetForm) -> OneRepMax:
    """The one-rep maximum behind a set, by each published formula."""
    return one_rep_max(form.kg, form.reps)


@coaches.put(
    "/athletes/{athlete_id}/override", status_code=204, responses={404: {"model": Problem}}
)
def write_override(
    athlete_id: Id, form: OverrideForm, db: Database, shelf: Shelf, me: Myself
) -> None:
    """Remember a coach's own version of a movement for an athlete, or forget it."""
    person, text = _athlete(db, athlete_id), form.text.strip()
    if text:
        try:
            read_override(text, shelf)
        except Slip as slip:
            raise ApiError(422, slip.message) from None
    profiles.set_override(db, person.id, form.movement, text, me)


@coaches.get("/days/{date}/pieces/{key}/scaling", responses={404: {"model": Problem}})
def read_scaling(
    date: GymDate,
    key: Key,
    db: Database,
    shelf: Shelf,
    class_id: Annotated[Id | None, Query(description="Only those of a class")] = None,
) -> Sheet:
    """Every athlete on a piece: versions with their reasons, predictions, and kit that clashes."""
    day = existing_day(db, date)
    piece = piece_on(db, day, key, shelf)
    people = followers(db, day)
    if class_id is not None:
        held = db.get(GymClass, class_id)
        if held is None:
            raise not_found("such class")
        here = {one.person_id for one in held.attendance}
        people = [person for person in people if person.id in here]
    found = store.members_of(db, people)
    size = gym_of(db).row.class_size if class_id is None else None
    tiers = len(gym_of(db).tiers) or 1
    rack, schools = store.rack_of(db), store.schools_of(db)
    return scaling_sheet(piece, found, shelf, rack, schools, size, tiers)


@coaches.get("/days/{date}/pieces/{key}/choices", responses={404: {"model": Problem}})
def read_choices(
    date: GymDate,
    key: Key,
    db: Database,
    shelf: Shelf,
    athlete: Annotated[Id, Query(description="For whom")],
    task: Annotated[int, Query(ge=0, le=500, description="Which of the sheet's lines, from 0")],
) -> Choices:
    """What a coach may choose for an athlete on a line: other loads, rungs and movements."""
    piece = piece_on(db, existing_day(db, date), key, shelf)
    tasks = tasks_of(piece)
    if task >= len(tasks):
        raise not_found("such line of this piece")
    (member,) = store.members_of(db, [_athlete(db, athlete)])
    return choices(tasks[task], member, shelf, store.rack_of(db), store.schools_of(db))
