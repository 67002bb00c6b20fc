"""Progress: rounds side by side, retests, the bests board, an athlete's history and load."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id, Key
from pine_ladder.api.scores.sheet import visible_day
from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import across_bodyweights
from pine_ladder.core.floor.round_times import strip_of
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.history import (
    GymChange,
    Trend,
    WeekLoad,
    retest,
    trend,
    week_load,
)
from pine_ladder.core.scores.kinds import Rounds
from pine_ladder.core.scores.pacing import Pacing, paced
from pine_ladder.store.athletes.members import active_athletes, hidden_people, members_of
from pine_ladder.store.days import saved_workouts as bank
from pine_ladder.store.days.pieces import piece_of
from pine_ladder.store.floor import classes as floor
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Day, EffortRow, Person
from pine_ladder.store.scores import history
from pine_ladder.store.scores.sheet import TRUSTED, scores_of
from pine_ladder.usecases.classes import note_effort

members = router("member", "progress")
coaches = router("coach", "progress")

WEEKS = 8
LOAD_WORDS = (
    "Load is effort (0 to 10) times minutes; monotony is high when every day is alike; strain is "
    "both together (Foster 1998). They describe what you noted and say nothing of your health: how "
    "you feel, your coach and, where needed, a licensed clinician come first."
)


class RoundsOut(BaseModel):
    """One athlete's rounds of a piece, and how they were paced."""

    person_id: int
    name: str
    display: str
    rounds: Rounds
    pacing: Pacing | None


class SideBySide(BaseModel):
    """Rounds of several athletes beside each other; `labels` name the rounds."""

    labels: list[str]
    unit: str
    athletes: list[RoundsOut]


class RetestChange(BaseModel):
    """An athlete's two results and what became of them; `share` 0.05 is 5 % better."""

    person_id: int
    name: str
    before: str
    after: str
    share: float
    sure: str


class RetestOut(BaseModel):
    """The piece against one earlier holding; athletes in the same tier and track both times."""

    date: dt.date
    gym: GymChange | None
    changes: list[RetestChange]


class BestOut(BaseModel):
    """The gym's best on a board it keeps."""

    board: str
    piece: str
    tier: int
    track: int
    name: str
    display: str
    date: dt.date


class LiftOut(BaseModel):
    """A lift across bodyweights; only of athletes who agreed to be compared."""

    name: str
    kg: float
    points: float
    reference: str


class LiftBoard(BaseModel):
    """A lift's best across bodyweights, best first."""

    lift: str
    rows: list[LiftOut]


class BestsOut(BaseModel):
    """The bests board of the gym."""

    boards: list[BestOut]
    lifts: list[LiftBoard]


class DoneOut(BaseModel):
    """One score of an athlete's history."""

    date: dt.date
    title: str
    piece: str
    piece_key: str
    kind: ScoreKind
    display: str
    tier: int
    track: int
    rank: int | None
    of: int
    standing: str
    pacing: str | None


class Point(BaseModel):
    """One result on a board that was done several times."""

    date: dt.date
    display: str
    number: float


class BoardTrend(BaseModel):
    """The same piece over time, in one tier and track."""

    title: str
    piece: str
    kind: ScoreKind
    tier: int
    points: list[Point]
    trend: Trend


class EffortOut(BaseModel):
    """How hard a session was (0 to 10), how long, and a note for coach and athlete."""

    date: dt.date
    effort: float
    minutes: int
    note: str


class HistoryOut(BaseModel):
    """An athlete's scores, trends, and weekly load with its explanation."""

    person_id: int
    name: str
    scores: list[DoneOut]
    trends: list[BoardTrend]
    weeks: list[WeekLoad]
    efforts: list[EffortOut]
    load_words: str = LOAD_WORDS


class EffortForm(Form):
    """How hard the session was for me: CR-10, 0 nothing at all, 10 as hard as it can be."""

    effort: float = Field(ge=0, le=10)
    minutes: int | None = Field(default=None, ge=1, le=600)
    note: str = Field(default="", max_length=1000)


@members.get("/days/{date}/pieces/{key}/rounds", responses={404: {"model": Problem}})
def side_by_side(
    date: GymDate,
    key: Key,
    db: Database,
    me: Myself,
    people: Annotated[list[Id] | None, Query(description="Whose; all who told rounds")] = None,
) -> SideBySide:
    """Rounds of a piece beside each other, with each athlete's pacing."""
    day = visible_day(db, date, me)
    piece = piece_of(db, day, key)
    if piece is None:
        raise not_found("such piece on this day")
    hidden = hidden_people(db) - {me.id} if me.role != "coach" else frozenset()
    out = []
    for row in scores_of(db, day, key):
        if row.rounds and row.person_id not in hidden and (not people or row.person_id in people):
            rounds = Rounds.model_validate(row.rounds)
            out.append(
                RoundsOut(
                    person_id=row.person_id,
                    name=row.person.name,
                    display=row.display,
                    rounds=rounds,
                    pacing=paced(piece, rounds, row.tier.position, row.track.position),
                )
            )
    out.sort(key=lambda one: (people or []).index(one.person_id) if people else one.name)
    strip = strip_of(piece)
    return SideBySide(
        labels=list(strip.labels) if strip else [],
        unit=out[0].rounds.unit if out else strip.unit if strip else "reps",
        athletes=out,
    )


@members.get("/days/{date}/pieces/{key}/retests", responses={404: {"model": Problem}})
def piece_retests(date: GymDate, key: Key, db: Database, me: Myself) -> list[RetestOut]:
    """Earlier holdings of the same piece, the newest first, and what changed since each."""
    day = visible_day(db, date, me)
    hidden = hidden_people(db) - {me.id} if me.role != "coach" else frozenset()

    def results(of: Day, piece_key: str) -> dict[int, tuple[tuple[int, int], float, str]]:
        found = {}
        for row in scores_of(db, of, piece_key):
            number = history.number_of(row)
            if number and row.standing in TRUSTED and row.person_id not in hidden:
                version = (row.tier.position, row.track.position)
                found[row.person_id] = (version, number, row.display)
        return found

    names = {person.id: person.name for person in active_athletes(db)}
    now = results(day, key)
    piece = piece_of(db, day, key)
    kinds = {ScoreKind(row.kind) for row in scores_of(db, day, key)}
    out = []
    for earlier, other in history.holdings(db, day, key):
        then = results(earlier, other)
        both = [n for n in now if n in then and now[n][0] == then[n][0] and n in names]
        kind = next(iter(kinds), ScoreKind.TOTAL_REPS)
        each, whole = retest(kind, {n: then[n][1] for n in both}, {n: now[n][1] for n in both})
        out.append(
            RetestOut(
                date=earlier.date,
                gym=whole,
                changes=[
                    RetestChange(
                        person_id=one.athlete_id,
                        name=names[one.athlete_id],
                        before=then[one.athlete_id][2],
                        after=now[one.athlete_id][2],
                        share=one.share,
                        sure=one.sure,
                    )
                    for one in each
                ],
            )
        )
    return out if piece is not None else []


@members.get("/bests")
def bests(
    db: Database,
    programme: Annotated[str | None, Query(description="Of this programme", max_length=60)] = None,
) -> BestsOut:
    """The gym's bests on the boards it keeps, and lifts across bodyweights."""
    hidden = hidden_people(db)
    boards = frozenset(bank.board_names(db))
    found = history.best_scores(db, boards, hidden, programme)
    lifts: dict[str, list[LiftOut]] = {}
    for member in members_of(db, [p for p in active_athletes(db) if p.id not in hidden]):
        profile = member.profile
        if profile.strength_as is None or profile.body_kg is None:
            continue
        for lift, kg in profile.bests.items():
            points = across_bodyweights(kg, profile.body_kg, profile.strength_as)
            lifts.setdefault(lift, []).append(
                LiftOut(
                    name=member.name,
                    kg=kg,
                    points=round(points, 1),
                    reference=profile.strength_as,
                )
            )
    return BestsOut(
        boards=[
            BestOut(
                board=one.board,
                piece=one.piece,
                tier=one.row.tier.position,
                track=one.row.track.position,
                name=one.row.person.name,
                display=one.row.display,
                date=one.date,
            )
            for one in found
        ],
        lifts=[
            LiftBoard(lift=lift, rows=sorted(rows, key=lambda row: -row.points))
            for lift, rows in sorted(lifts.items())
        ],
    )


def _done(done: history.Done) -> DoneOut:
    rounds = Rounds.model_validate(done.row.rounds) if done.row.rounds else None
    went = paced(done.piece, rounds, done.row.tier.position, done.row.track.position)
    return DoneOut(
        date=done.day.date,
        title=done.title,
        piece=done.piece.title,
        piece_key=str(done.row.piece_id),
        kind=ScoreKind(done.row.kind),
        display=done.row.display,
        tier=done.row.tier.position,
        track=done.row.track.position,
        rank=done.rank if done.row.kind != ScoreKind.DONE else None,
        of=done.of,
        standing=done.row.standing,
        pacing=went.words if went else None,
    )


def _trends(done: list[history.Done]) -> list[BoardTrend]:
    groups: dict[tuple[plan.Piece, int, int], list[history.Done]] = {}
    for one in done:
        version = (one.row.tier.position, one.row.track.position)
        if one.piece.teams:
            continue  # A team's score says little of one athlete.
        if history.number_of(one.row) and one.row.standing in TRUSTED:
            groups.setdefault((one.piece, *version), []).append(one)
    out = []
    for (piece, tier, _track), group in groups.items():
        if len(group) < 2:
            continue
        kind = ScoreKind(group[0].row.kind)
        points = [
            Point(date=one.day.date, display=one.row.display, number=number)
            for one in reversed(group)
            if (number := history.number_of(one.row))
        ]
        out.append(
            BoardTrend(
                title=group[0].title,
                piece=piece.title,
                kind=kind,
                tier=tier,
                points=points,
                trend=trend(kind, [(p.date, p.number) for p in points]),
            )
        )
    return sorted(out, key=lambda one: one.points[-1].date, reverse=True)


def _weeks(db: Database, person_id: int, today: dt.date) -> list[WeekLoad]:
    """Weeks from the oldest to this one; those before the first note are left out."""
    this = today - dt.timedelta(days=today.weekday())
    first = this - dt.timedelta(weeks=WEEKS - 1)
    loads = floor.loads_of(db, person_id, first)
    out: list[WeekLoad] = []
    for number in range(WEEKS):
        monday = first + dt.timedelta(weeks=number)
        daily = [loads.get(monday + dt.timedelta(days=n), 0.0) for n in range(7)]
        if any(daily) or out:
            earlier = [week.load for week in out]
            out.append(week_load(monday, daily, earlier, over=monday < this))
    return out


MOST_EFFORTS = 60


def _history(db: Database, person: Person) -> HistoryOut:
    done = history.scores_of_person(db, person.id, hidden_people(db))
    return HistoryOut(
        person_id=person.id,
        name=person.name,
        scores=[_done(one) for one in done],
        trends=_trends(done),
        weeks=_weeks(db, person.id, gym_of(db).today),
        efforts=[
            EffortOut(date=date, effort=row.effort, minutes=row.minutes, note=row.note)
            for row, date in history.efforts_of(db, person.id, MOST_EFFORTS)
        ],
    )


@coaches.get("/athletes/{athlete_id}/history", responses={404: {"model": Problem}})
def athlete_history(athlete_id: Id, db: Database) -> HistoryOut:
    """An athlete's scores, trends and weekly load."""
    person = db.get(Person, athlete_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    return _history(db, person)


@members.get("/me/history")
def my_history(db: Database, me: Myself) -> HistoryOut:
    """My scores, trends and weekly load."""
    return _history(db, me)


@members.get("/me/days/{date}/effort", responses={404: {"model": Problem}})
def my_effort(date: GymDate, db: Database, me: Myself) -> EffortOut | None:
    """How hard the day was for me, if I noted it."""
    day = visible_day(db, date, me)
    row = db.get(EffortRow, (day.id, me.id))
    if row is None:
        return None
    return EffortOut(date=date, effort=row.effort, minutes=row.minutes, note=row.note)


@members.put("/me/days/{date}/effort", responses={403: {"model": Problem}, 404: {"model": Problem}})
def put_effort(date: GymDate, form: EffortForm, db: Database, me: Myself) -> EffortOut:
    """Note how hard the session was for me; minutes default to the class's."""
    if not me.trains:
        raise ApiError(403, "athletes note their own effort")
    day = visible_day(db, date, me)
    minutes = form.minutes or gym_of(db).row.class_min
    row = note_effort(db, day, me, form.effort, minutes, form.note.strip())
    return EffortOut(date=date, effort=row.effort, minutes=row.minutes, note=row.note)
