"""Learning: what the scores say of each athlete's pace, and predictions beside what happened."""

from __future__ import annotations

import datetime as dt
import math

from fastapi import BackgroundTasks, Request
from pydantic import BaseModel

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.days.days import existing_day, piece_on
from pine_ladder.api.errors import Problem, not_found
from pine_ladder.api.forms import GymDate, Id, Key
from pine_ladder.core.athletes.learning import Report
from pine_ladder.core.athletes.scaling_sheet import foretold
from pine_ladder.core.pace.rep_times import TIER_PACE, Capacity
from pine_ladder.store.athletes.members import members_of
from pine_ladder.store.models import Belief, Person
from pine_ladder.store.scores import sheet
from pine_ladder.usecases import learning

coaches = router("coach", "learning")
members = router("member", "learning")

DOES = {
    Capacity.CYCLIC: "running, rowing and rope",
    Capacity.BODYWEIGHT: "bodyweight movements",
    Capacity.LOADED: "loaded movements",
}


class CapacityPace(BaseModel):
    """An athlete's pace in one capacity; `factor` 1 is typical of the gym, less is faster."""

    capacity: Capacity
    factor: float
    words: str


class PaceOut(BaseModel):
    """What the scores say of an athlete's pace and bests (kg); how well such beliefs predict."""

    scores: int
    paces: list[CapacityPace]
    bests: dict[str, float]
    report: Report | None
    better: float | None


class BenchmarkOut(BaseModel):
    """A best on a board the gym keeps to repeat."""

    board: str
    piece: str
    display: str
    tier: str
    date: dt.date
    times: int


class Foretold(BaseModel):
    """A score beside what was predicted for that athlete."""

    person_id: int
    name: str
    actual: str
    predicted: str


class ForetoldOut(BaseModel):
    """A piece's scores beside their predictions; `middle_off` is the median miss, as a share."""

    rows: list[Foretold]
    middle_off: float | None


def after_a_score(request: Request, tasks: BackgroundTasks) -> None:
    """A dependency of whatever saves scores: learn from them once the answer is sent."""
    if request.app.state.learns:
        request.app.state.learning.start()
        tasks.add_task(request.app.state.learning.wake)


def _pace(db: Database, person: Person) -> PaceOut:
    row = db.get(Belief, person.id)
    report = learning.report_of(db)
    usual = TIER_PACE[min(person.tier.position, len(TIER_PACE) - 1)]
    paces = []
    for capacity in Capacity:
        factor = float(row.factors.get(capacity.value, usual)) if row else usual
        off = factor / usual - 1
        how = "as most of" if abs(off) < 0.015 else f"{abs(off):.0%} {_side(off)} than most of"
        words = f"{how} {person.tier.name} in {DOES[capacity]}"
        paces.append(CapacityPace(capacity=capacity, factor=factor, words=words))
    return PaceOut(
        scores=row.scores if row else 0,
        paces=paces,
        bests=row.bests if row else {},
        report=report,
        better=report.better if report else None,
    )


def _side(off: float) -> str:
    return "slower" if off > 0 else "faster"


@coaches.get("/athletes/{athlete_id}/pace", responses={404: {"model": Problem}})
def athlete_pace(athlete_id: Id, db: Database) -> PaceOut:
    """What the tool believes of an athlete's pace, and on how many scores."""
    person = db.get(Person, athlete_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    return _pace(db, person)


@coaches.get("/athletes/{athlete_id}/benchmarks", responses={404: {"model": Problem}})
def athlete_benchmarks(athlete_id: Id, db: Database) -> list[BenchmarkOut]:
    """An athlete's bests on the boards the gym keeps to repeat."""
    person = db.get(Person, athlete_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    return [BenchmarkOut(**benchmark._asdict()) for benchmark in sheet.benchmarks(db, person.id)]


@members.get("/me/benchmarks")
def my_benchmarks(db: Database, me: Myself) -> list[BenchmarkOut]:
    """My bests on the boards the gym keeps to repeat."""
    return [BenchmarkOut(**benchmark._asdict()) for benchmark in sheet.benchmarks(db, me.id)]


@members.get("/me/pace")
def my_pace(db: Database, me: Myself) -> PaceOut:
    """What the tool believes of my pace."""
    return _pace(db, me)


@coaches.get("/days/{date}/pieces/{key}/foretold", responses={404: {"model": Problem}})
def piece_foretold(date: GymDate, key: Key, db: Database, shelf: Shelf) -> ForetoldOut:
    """The scores of a piece beside what is believed of their athletes would have predicted."""
    day = existing_day(db, date)
    piece = piece_on(db, day, key, shelf)
    rows = sheet.scores_of(db, day, key)
    found = {member.id: member for member in members_of(db, [row.person for row in rows])}
    who = [
        found[row.person_id].model_copy(
            update={"tier": row.tier.position, "track": row.track.position}
        )
        for row in rows
    ]
    told = foretold(piece, who, shelf)
    out, misses = [], []
    for row, (number, words) in zip(rows, told, strict=True):
        out.append(
            Foretold(
                person_id=row.person_id,
                name=row.person.name,
                actual=row.display,
                predicted=words,
            )
        )
        value = learning.value_of_row(row, piece)
        if value and number > 0:
            misses.append(abs(math.log(number / value)))
    middle = sorted(misses)[len(misses) // 2] if misses else None
    return ForetoldOut(rows=out, middle_off=middle)
