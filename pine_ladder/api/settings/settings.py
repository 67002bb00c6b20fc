"""The gym's settings: its hour, its kit and plates, and the trade schools it follows."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form, Version
from pine_ladder.core.athletes.loads import weight_kg
from pine_ladder.core.athletes.members import Rack
from pine_ladder.core.day.calendar import read_week, zone_of
from pine_ladder.core.day.closing import ClassSeason, Closing
from pine_ladder.core.day.kit_choices import kit_choices
from pine_ladder.core.day.training_style import TrainingStyle
from pine_ladder.core.movements import Library
from pine_ladder.core.scores.standings import School
from pine_ladder.core.units import WeightUnit, number_text
from pine_ladder.store.athletes.members import rack_of, schools_of, schools_of_standings
from pine_ladder.store.backups import MOST_NIGHTS, kept_of
from pine_ladder.store.catalogue.kit import keep_kit
from pine_ladder.store.floor.bookings import LATE_CANCEL, late_cancel_min
from pine_ladder.store.floor.classes import CLOSED, classes_of, closings, keep_seasons, seasons
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.styles import STYLE, style_of
from pine_ladder.store.people.people import SESSION_DAYS
from pine_ladder.usecases.classes import keep_classes
from pine_ladder.usecases.units import boards_without_unit, change_unit, unit_of

coaches = router("coach", "settings")

Mark = Annotated[str, Field(max_length=12, examples=["20", "45 lb"])]
Count = Annotated[int, Field(ge=0, le=500)]
KitName = Annotated[str, Field(min_length=2, max_length=60)]
SchoolName = Annotated[str, Field(max_length=60)]


class SchoolChoice(BaseModel):
    """A swap that the trade counts in more than one way; `chosen` is the gym's."""

    movement: str
    instead: str
    schools: list[str]
    chosen: str


class Settings(Form):
    """What a coach may set: lengths in minutes and seconds, plates and bars by their mark (`20` in
    kg, or `45 lb`), the time zone by its IANA name, the unit of loads that are written without one.

    `late_cancel_min` are the minutes before a class within which a cancellation is late (0: none),
    `closed` the days without classes. `classes` are those of every week from Monday on, a text a
    day; they and the name stay where they are left out.
    """

    name: str | None = Field(default=None, min_length=1, max_length=80)
    classes: list[Annotated[str, Field(max_length=400)]] | None = Field(
        default=None,
        min_length=7,
        max_length=7,
        examples=[["18:00"] + [""] * 6],
    )
    zone: str = Field(max_length=60, examples=["Europe/Lisbon"])
    unit: WeightUnit = "kg"
    class_min: int = Field(ge=10, le=240)
    change_s: int = Field(ge=0, le=900)
    class_size: int = Field(ge=1, le=200)
    sign_in_days: int = Field(default=SESSION_DAYS, ge=1, le=365)
    nights_kept: int = Field(default=0, ge=0, le=MOST_NIGHTS)
    late_cancel_min: int = Field(default=0, ge=0, le=1440)
    closed: list[Closing] = Field(default_factory=list, max_length=60)
    seasons: list[ClassSeason] = Field(default_factory=list, max_length=12)
    plates: dict[Mark, Count] = Field(max_length=20)
    bars: list[Mark] = Field(min_length=1, max_length=10)
    kit: dict[KitName, Count] = Field(max_length=200)
    schools: dict[SchoolName, SchoolName] = Field(default_factory=dict, max_length=100)
    standings: School = "tiers apart"
    tabata: Literal["total reps", "lowest interval"] = "total reps"
    style: TrainingStyle = Field(default_factory=TrainingStyle)


class SettingsForm(Form):
    """Settings to keep over the version that was read."""

    settings: Settings
    version: Version


class SettingsOut(BaseModel):
    """The settings at a version, and the schools and the kit there are to choose from."""

    settings: Settings
    version: int
    choices: list[SchoolChoice]
    kit_choices: tuple[str, ...]


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
    gym, rack, schools = gym_of(db).row, rack_of(db), schools_of(db)
    settings = Settings(
        name=gym.name,
        classes=classes_of(db),
        zone=gym.zone,
        unit=unit_of(gym),
        class_min=gym.class_min,
        change_s=gym.change_s,
        class_size=gym.class_size,
        sign_in_days=gym.settings.get("sign_in_days", SESSION_DAYS),
        nights_kept=kept_of(gym),
        late_cancel_min=late_cancel_min(gym),
        closed=closings(db),
        seasons=seasons(db),
        plates={_mark(kg, rack): count for kg, count in rack.plates.items()},
        bars=[_mark(kg, rack) for kg in rack.bars],
        kit=rack.kit,
        schools=schools,
        standings=schools_of_standings(db)[0],
        tabata="lowest interval" if schools_of_standings(db)[1] else "total reps",
        style=style_of(gym),
    )
    return SettingsOut(
        settings=settings,
        version=gym.settings_version,
        choices=_choices(shelf, schools),
        kit_choices=kit_choices(shelf, settings.unit),
    )


class BareLoads(BaseModel):
    """How many boards hold loads without a unit: a change of the gym's unit writes it into them."""

    boards: int


@coaches.get("/settings/bare-loads")
def count_bare_loads(db: Database) -> BareLoads:
    """What a change of the gym's unit would touch."""
    return BareLoads(boards=boards_without_unit(db))


@coaches.put("/settings", responses={409: {"model": Problem}, 422: {"model": Problem}})
def write_settings(form: SettingsForm, db: Database, shelf: Shelf) -> SettingsOut:
    """Change the gym's settings; kit that is left out is no longer owned.

    409 when somebody has changed them since they were read: nothing is saved then.
    """
    wanted = form.settings
    known = {choice.movement: choice.schools for choice in _choices(shelf, {})}
    for movement, school in wanted.schools.items():
        if school not in known.get(movement, ()):
            raise ApiError(422, f"{school} is no way of counting {movement}")
    name = " ".join((wanted.name or "").split())
    if wanted.name is not None and not name:
        raise ApiError(422, "a gym has a name")
    try:
        zone_of(wanted.zone)
        classes = None if wanted.classes is None else read_week(wanted.classes)
        for mark in (*wanted.plates, *wanted.bars):
            weight_kg(mark)
    except ValueError as error:
        raise ApiError(422, str(error)) from None
    gym = gym_of(db).row
    db.refresh(gym, with_for_update=True)
    if gym.settings_version != form.version:
        sentence = "someone else has changed the settings in the meantime: look at them again"
        raise ApiError(409, sentence, newer=read_settings(db, shelf).model_dump(mode="json"))
    gym.settings_version += 1
    change_unit(db, gym, wanted.unit)
    gym.name = name or gym.name
    if classes is not None:
        keep_classes(db, classes)
    gym.zone = wanted.zone
    gym.class_min, gym.change_s = wanted.class_min, wanted.change_s
    gym.class_size = wanted.class_size
    gym.settings = {
        **gym.settings,
        "plates": wanted.plates,
        "bars": wanted.bars,
        "sign_in_days": wanted.sign_in_days,
        "nights_kept": wanted.nights_kept,
        LATE_CANCEL: wanted.late_cancel_min,
        CLOSED: [one.model_dump(mode="json") for one in wanted.closed],
        "schools": wanted.schools,
        "standings": wanted.standings,
        "tabata": wanted.tabata,
        STYLE: wanted.style.model_dump(mode="json"),
    }
    keep_seasons(db, wanted.seasons)
    keep_kit(db, wanted.kit)
    return read_settings(db, shelf)
