"""The gym's settings: its hour, its kit and plates, and the trade schools it follows."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field
from sqlalchemy import delete, select

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.errors import ApiError
from pine_ladder.core.members import Rack
from pine_ladder.core.movements import Library
from pine_ladder.core.standings import School
from pine_ladder.core.strength import weight_kg
from pine_ladder.core.units import number_text
from pine_ladder.store.days import the_gym
from pine_ladder.store.members import rack_of, schools_of, schools_of_standings
from pine_ladder.store.models import Kit

coaches = router("coach", "settings")

Mark = Annotated[str, Field(max_length=12, examples=["20", "45 lb"])]
Count = Annotated[int, Field(ge=0, le=500)]
KitName = Annotated[str, Field(min_length=2, max_length=60)]


class SchoolChoice(BaseModel):
    """A swap that the trade counts in more than one way; `chosen` is the gym's."""

    movement: str
    instead: str
    schools: list[str]
    chosen: str


class Settings(BaseModel):
    """What a coach may set: lengths in minutes and seconds, plates and bars by their mark (`20` in
    kg, or `45 lb`).
    """

    class_min: int = Field(ge=10, le=240)
    change_s: int = Field(ge=0, le=900)
    class_size: int = Field(ge=1, le=200)
    plates: dict[Mark, Count] = Field(max_length=20)
    bars: list[Mark] = Field(min_length=1, max_length=10)
    kit: dict[KitName, Count] = Field(max_length=200)
    schools: dict[str, str] = Field(default_factory=dict)
    standings: School = "tiers apart"
    tabata: Literal["total reps", "lowest interval"] = "total reps"


class SettingsOut(BaseModel):
    """The settings, and the schools there are to choose from."""

    settings: Settings
    choices: list[SchoolChoice]


def _choices(shelf: Library, chosen: dict[str, str]) -> list[SchoolChoice]:
    return [
        SchoolChoice(
            movement=swap.movement,
            instead=swap.instead,
            schools=[school.name for school in swap.schools],
            chosen=chosen.get(swap.movement, swap.schools[0].name),
        )
        for swap in shelf.swaps
        if swap.schools
    ]


def _mark(kg: float, rack: Rack) -> str:
    return rack.labels.get(kg, number_text(kg))


@coaches.get("/settings")
def read_settings(db: Database, shelf: Shelf) -> SettingsOut:
    """The gym's settings."""
    gym, rack, schools = the_gym(db), rack_of(db), schools_of(db)
    settings = Settings(
        class_min=gym.class_min,
        change_s=gym.change_s,
        class_size=gym.class_size,
        plates={_mark(kg, rack): count for kg, count in rack.plates.items()},
        bars=[_mark(kg, rack) for kg in rack.bars],
        kit=rack.kit,
        schools=schools,
        standings=schools_of_standings(db)[0],
        tabata="lowest interval" if schools_of_standings(db)[1] else "total reps",
    )
    return SettingsOut(settings=settings, choices=_choices(shelf, schools))


@coaches.put("/settings")
def write_settings(form: Settings, db: Database, shelf: Shelf) -> SettingsOut:
    """Change the gym's settings; kit that is left out is no longer owned."""
    known = {choice.movement: choice.schools for choice in _choices(shelf, {})}
    for movement, school in form.schools.items():
        if school not in known.get(movement, ()):
            raise ApiError(422, f"{school} is no way of counting {movement}")
    for mark in (*form.plates, *form.bars):
        try:
            weight_kg(mark)
        except ValueError as error:
            raise ApiError(422, str(error)) from None
    gym = the_gym(db)
    gym.class_min, gym.change_s, gym.class_size = form.class_min, form.change_s, form.class_size
    gym.settings = {
        **gym.settings,
        "plates": form.plates,
        "bars": form.bars,
        "schools": form.schools,
        "standings": form.standings,
        "tabata": form.tabata,
    }
    db.execute(delete(Kit).where(Kit.name.not_in(form.kit)))
    owned = {kit.name: kit for kit in db.scalars(select(Kit))}
    for name, count in form.kit.items():
        if name in owned:
            owned[name].count = count
        else:
            db.add(Kit(name=name, count=count))
    db.flush()
    return read_settings(db, shelf)
