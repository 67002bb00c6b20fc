"""The gym is loaded once a session, and anew after whatever changes it."""

from __future__ import annotations

import pytest
from sqlalchemy import delete, event, select, update
from sqlalchemy.orm import Session

from pine_ladder.core.movements import library
from pine_ladder.core.movements.library import OwnMovement
from pine_ladder.store.catalogue.movements import drop_movement, keep_movement
from pine_ladder.store.gym.loaded import NoProgramme, gym_of, work_on
from pine_ladder.store.models import Gym, Learning, Person, Programme, Tier

_GOBLET = library().find("goblet squat")
assert _GOBLET is not None
OWN = {"name": "cannonball squat", "aliases": (), "plural": None}
SQUAT = OwnMovement(movement=_GOBLET.model_copy(update=OWN))


def test_what_is_asked_again_is_not_read_again(engine, gym):
    statements: list[str] = []

    def note(*told: object) -> None:
        statements.append(str(told[2]))

    event.listen(engine, "before_cursor_execute", note)
    with Session(engine) as db:
        seen = [
            (g.row.name, g.programme.name, g.movements.unit, g.tiers, g.tracks, g.today, g.zone)
            for g in (gym_of(db) for _ in range(20))
        ]
    event.remove(engine, "before_cursor_execute", note)
    assert len(set(map(str, seen))) == 1
    # Gym, programme, movements (two), tiers, tracks, the moment.
    assert len(statements) <= 7


def keep(db: Session) -> None:
    keep_movement(db, SQUAT, db.scalars(select(Person)).unique().all()[0])


@pytest.mark.parametrize(
    ("change", "told"),
    [
        (lambda db: db.execute(update(Gym).values(name="Another")), lambda g: g.row.name),
        (lambda db: setattr(gym_of(db).row, "zone", "Asia/Tokyo"), lambda g: str(g.zone)),
        (lambda db: db.execute(delete(Tier).where(Tier.position == 2)), lambda g: g.tiers),
        (lambda db: db.add(Tier(position=7, name="Juniors")), lambda g: g.tiers),
        (lambda db: setattr(gym_of(db).programme, "name", "Evening"), lambda g: g.programme.name),
        (
            lambda db: db.add(Learning(medians={"burpee": 1.3}, report={})),
            lambda g: g.movements.find("burpee").seconds,
        ),
        (keep, lambda g: g.movements.find("cannonball squat") is not None),
    ],
)
def test_what_is_changed_in_a_session_is_seen_by_it(engine, gym, change, told):
    with Session(engine) as db:
        before = told(gym_of(db))
        change(db)
        db.flush()
        assert told(gym_of(db)) != before
        db.rollback()
        assert told(gym_of(db)) == before


def test_a_movement_taken_back_is_gone(engine, gym):
    with Session(engine) as db:
        keep(db)
        assert gym_of(db).movements.find("cannonball squat")
        drop_movement(db, gym_of(db).movements.find("cannonball squat").name)
        assert gym_of(db).movements.find("cannonball squat") is None


def test_a_session_is_of_the_programme_it_was_told(engine, gym):
    with Session(engine) as db:
        first = gym_of(db).programme
        other = Programme(name="Masters")
        db.add(other)
        db.flush()
        work_on(db, other.id)
        assert gym_of(db).programme is other
        work_on(db, None)
        assert gym_of(db).programme is first
        work_on(db, 999)
        with pytest.raises(NoProgramme):
            _ = gym_of(db).programme
