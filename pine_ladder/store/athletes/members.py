"""Members with what is known of them, their overrides, and the gym's rack."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.loads import USUAL_RACKS, weight_kg
from pine_ladder.core.athletes.members import Member, Profile, Rack
from pine_ladder.core.pace.rep_times import Capacity
from pine_ladder.core.scores.standings import SCHOOLS, School
from pine_ladder.store.catalogue.movements import UNIT
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Belief, Kit, OverrideRow, Person, ProfileRow


def rack_of(db: Session) -> Rack:
    """The gym's kit, plates and bars; usual ones in its unit until it says which it has."""
    settings = gym_of(db).row.settings
    usual = USUAL_RACKS[settings.get(UNIT, "kg")]
    plates = settings.get("plates") or usual.plates
    bars = settings.get("bars") or usual.bars
    marks = [*plates, *bars]
    return Rack(
        kit={kit.name: kit.count for kit in db.scalars(select(Kit))},
        plates={weight_kg(mark): count for mark, count in plates.items()},
        bars=tuple(weight_kg(mark) for mark in bars),
        labels={weight_kg(mark): mark for mark in marks if mark.endswith("lb")},
    )


def schools_of(db: Session) -> dict[str, str]:
    """The gym's way of counting a swap where the trade has two, by movement."""
    return dict(gym_of(db).row.settings.get("schools", {}))


def profile_of(db: Session, person_id: int) -> tuple[Profile, int]:
    """What is known of an athlete, and its version (0 when nothing is)."""
    row = db.get(ProfileRow, person_id)
    return (Profile.model_validate(row.record), row.version) if row else (Profile(), 0)


def hidden_people(db: Session) -> frozenset[int]:
    """Who wishes to be left out of standings."""
    wish = ProfileRow.record["hidden"].as_boolean()
    return frozenset(db.scalars(select(ProfileRow.person_id).where(wish)))


def limits_of(db: Session) -> dict[int, list[str]]:
    """What athletes are careful with, by person; those without a limit are left out."""
    query = select(ProfileRow.person_id, ProfileRow.record["limits"])
    return {
        person: [limit["limit"] for limit in limits]
        for person, limits in db.execute(query)
        if limits
    }


def seen_people(db: Session) -> dict[int, str]:
    """The names of those who let members see which classes they come to, by id."""
    wish = ProfileRow.record["seen"].as_boolean()
    query = select(Person.id, Person.name).join(ProfileRow, ProfileRow.person_id == Person.id)
    return {number: name for number, name in db.execute(query.where(wish))}


def changes_shown(db: Session) -> frozenset[int]:
    """Who lets displays show what changed since they last did a piece."""
    wish = ProfileRow.record["on_the_wall"].as_boolean()
    return frozenset(db.scalars(select(ProfileRow.person_id).where(wish)))


def schools_of_standings(db: Session) -> tuple[School, bool]:
    """How the gym ranks tiers, and whether its Tabata counts by the lowest interval."""
    settings = gym_of(db).row.settings
    chosen = settings.get("standings", SCHOOLS[0])
    school = next((one for one in SCHOOLS if one == chosen), SCHOOLS[0])
    return school, settings.get("tabata") == "lowest interval"


def _by_person(rows: Iterable[Any]) -> dict[int, Any]:
    return {row.person_id: row for row in rows}


def members_of(db: Session, people: Iterable[Person]) -> list[Member]:
    """People as scaling and prediction see them."""
    people = list(people)
    ids = [person.id for person in people]
    profiles = _by_person(db.scalars(select(ProfileRow).where(ProfileRow.person_id.in_(ids))))
    beliefs = _by_person(db.scalars(select(Belief).where(Belief.person_id.in_(ids))))
    overrides: dict[int, dict[str, str]] = {}
    for row in db.scalars(select(OverrideRow).where(OverrideRow.person_id.in_(ids))):
        overrides.setdefault(row.person_id, {})[row.movement] = row.text
    return [
        Member(
            id=person.id,
            name=person.name,
            tier=person.tier.position,
            track=person.track.position,
            profile=Profile.model_validate(profiles[person.id].record)
            if person.id in profiles
            else Profile(),
            overrides=overrides.get(person.id, {}),
            factors={Capacity(k): v for k, v in beliefs[person.id].factors.items()}
            if person.id in beliefs
            else {},
            lifted=beliefs[person.id].bests if person.id in beliefs else {},
        )
        for person in people
    ]


def active_athletes(db: Session) -> list[Person]:
    """The gym's active athletes by name."""
    query = select(Person).where(Person.trains, Person.active)
    return list(db.scalars(query.order_by(Person.name)).unique())
