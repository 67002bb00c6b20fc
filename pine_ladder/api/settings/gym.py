"""The gym and its words."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable

from pydantic import BaseModel

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.core.formats import FORMATS, FormField, RuleName
from pine_ladder.core.notation import words
from pine_ladder.core.notation.card import CARD, CardSection
from pine_ladder.core.notation.form import Kind
from pine_ladder.core.notation.templates import EXAMPLE, TEMPLATES, Template
from pine_ladder.core.units import WeightUnit
from pine_ladder.store.catalogue.kit import kit_of
from pine_ladder.store.floor.classes import class_times
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.programmes import programmes_of
from pine_ladder.usecases.units import unit_of

members = router("member", "gym")


class ClassTimeOut(BaseModel):
    """A weekly class; weekday 0 is Monday."""

    weekday: int
    start: dt.time


class KitOut(BaseModel):
    """Equipment and how much of it."""

    name: str
    count: int


class ProgrammeOut(BaseModel):
    """A line of sessions; a request says with `in_programme` which one it is about."""

    id: int
    name: str


class GymOut(BaseModel):
    """What every screen needs to know of the gym. Tiers and tracks are told by position, classes
    are those of the programme asked about. Loads without a unit are in `unit`.
    """

    name: str
    today: dt.date
    zone: str
    unit: WeightUnit
    tiers: list[str]
    tracks: list[str]
    programmes: list[ProgrammeOut]
    class_min: int
    class_times: list[ClassTimeOut]
    kit: list[KitOut]


class MovementName(BaseModel):
    """A movement as completion offers it."""

    name: str
    aliases: tuple[str, ...]
    patterns: tuple[str, ...]


class FormatOut(BaseModel):
    """A format as its form shows it: its fields, and the rules that make sense with it."""

    kind: Kind
    label: str
    fields: tuple[FormField, ...]
    rules: list[RuleName]


class BoardWords(BaseModel):
    """The words of the notation, for completion and highlighting, and the forms of formats."""

    roles: list[str]
    formats: tuple[str, ...]
    kinds: list[FormatOut]
    modifiers: tuple[str, ...]
    details: tuple[str, ...]
    movements: list[MovementName]
    loads: list[str]
    templates: tuple[Template, ...]
    card: tuple[CardSection, ...]
    example: str


@members.get("/gym")
def gym(db: Database) -> GymOut:
    """The gym's settings."""
    found = gym_of(db).row
    return GymOut(
        name=found.name,
        today=gym_of(db).today,
        zone=found.zone,
        unit=unit_of(found),
        tiers=list(gym_of(db).tiers),
        tracks=list(gym_of(db).tracks),
        programmes=[ProgrammeOut(id=one.id, name=one.name) for one in programmes_of(db)],
        class_min=found.class_min,
        class_times=[ClassTimeOut(weekday=t.weekday, start=t.start) for t in class_times(db)],
        kit=[KitOut(name=name, count=count) for name, count in kit_of(db).items()],
    )


def _loads(names: Iterable[str]) -> list[str]:
    """Loads to offer after @: the trade's pairs, the gym's own implements, and the other ways."""
    owned = {match[0] for name in names if (match := re.search(r"\b\d+(\.\d+)? kg$", name))}
    kilos = sorted(owned, key=lambda text: float(text.split()[0]))
    return [*words.LOAD_PAIRS, *kilos, *words.LOAD_WORDS]


@members.get("/words")
def board_words(db: Database, shelf: Shelf) -> BoardWords:
    """Words of the notation, loads, and names of movements."""
    return BoardWords(
        roles=list(words.ROLE_TITLES.values()),
        formats=words.FORMAT_WORDS,
        kinds=[
            FormatOut.model_validate(
                {
                    "kind": name,
                    "label": kind.label,
                    "fields": kind.fields,
                    "rules": sorted(kind.rules),
                }
            )
            for name, kind in FORMATS.items()
        ],
        modifiers=words.MODIFIER_WORDS,
        details=words.DETAIL_WORDS,
        movements=[
            MovementName(name=m.name, aliases=m.aliases, patterns=m.patterns)
            for m in shelf.movements
        ],
        loads=_loads(kit_of(db)),
        templates=TEMPLATES,
        card=CARD,
        example=EXAMPLE,
    )
