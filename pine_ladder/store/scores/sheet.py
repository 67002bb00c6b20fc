"""Scores: saved once however often they are sent, with a trail of every change."""

from __future__ import annotations

import datetime as dt
from collections.abc import Collection, Iterable
from typing import Any, NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.core.scores.kinds import Rounds
from pine_ladder.core.scores.standings import Entry
from pine_ladder.store.days.pieces import id_of
from pine_ladder.store.models import (
    BankedBoard,
    Day,
    Person,
    PieceRow,
    ProfileRow,
    ScoreRow,
    ScoreTrail,
    Tier,
    Track,
)

TRUSTED = ("fine", "verified")
"""Scores that set bests and teach pace."""


def scores_of(db: Session, day: Day, piece_key: str | None = None) -> list[ScoreRow]:
    """The day's scores, of one piece or of all; none for a key that is no identity."""
    query = select(ScoreRow).where(ScoreRow.day_id == day.id)
    if piece_key is not None:
        try:
            query = query.where(ScoreRow.piece_id == id_of(piece_key))
        except LookupError:
            return []
    return list(db.scalars(query).unique())


class Benchmark(NamedTuple):
    """An athlete's best on a piece of a board the gym keeps, and how often they did it."""

    board: str
    piece: str
    display: str
    tier: str
    date: dt.date
    times: int


def benchmarks(db: Session, person_id: int) -> list[Benchmark]:
    """An athlete's best on each scored piece of the bank's boards, by board.

    Better is within a tier: the hardest tier done comes first.
    """
    kept = set(db.scalars(select(BankedBoard.name)))
    query = (
        select(ScoreRow, Day, PieceRow.board, PieceRow.title)
        .join(Day, Day.id == ScoreRow.day_id)
        .join(PieceRow, PieceRow.id == ScoreRow.piece_id)
        .where(
            Day.published,
            PieceRow.board.in_(kept),
            ScoreRow.person_id == person_id,
            ScoreRow.order_key.is_not(None),
            ScoreRow.standing.in_(TRUSTED),
        )
    )
    found: dict[tuple[str, str], list[tuple[ScoreRow, Day]]] = {}
    for row, day, board, title in db.execute(query).unique():
        found.setdefault((board, title), []).append((row, day))
    out = []
    for (title, piece), held in sorted(found.items()):
        row, day = min(held, key=lambda one: (one[0].tier.position, -(one[0].order_key or 0)))
        out.append(
            Benchmark(
                board=title,
                piece=piece,
                display=row.display,
                tier=row.tier.name,
                date=day.date,
                times=len(held),
            )
        )
    return out


def trail_of(db: Session, day: Day, key: str, person_id: int) -> list[tuple[ScoreTrail, str]]:
    """Every change of a score with the name of who made it, oldest first; none for a key that is
    no identity.
    """
    try:
        piece_id = id_of(key)
    except LookupError:
        return []
    query = (
        select(ScoreTrail, Person.name)
        .outerjoin(Person, Person.id == ScoreTrail.changed_by_id)
        .where(
            ScoreTrail.day_id == day.id,
            ScoreTrail.piece_id == piece_id,
            ScoreTrail.person_id == person_id,
        )
        .order_by(ScoreTrail.id)
    )
    return [(row, name or "the program") for row, name in db.execute(query)]


class Placing(NamedTuple):
    """What of a score's row makes its place in the standings."""

    person_id: int
    name: str
    tier: int
    track: int
    display: str
    order_key: float | None
    reps: int | None
    rounds: dict[str, Any] | None
    doubt: str | None
    standing: str
    team: list[int] | None
    hidden: bool
    born: int | None


def placings(db: Session, piece_key: str) -> list[Placing]:
    """The scores of a piece as standings need them, in one reading; none for a key that is none."""
    try:
        piece_id = id_of(piece_key)
    except LookupError:
        return []
    query = (
        select(
            ScoreRow.person_id,
            Person.name,
            Tier.position,
            Track.position,
            ScoreRow.display,
            ScoreRow.order_key,
            ScoreRow.reps,
            ScoreRow.rounds,
            ScoreRow.doubt,
            ScoreRow.standing,
            ScoreRow.team,
            func.coalesce(ProfileRow.record["hidden"].as_boolean(), False),
            ProfileRow.record["born"].as_integer(),
        )
        .join(Person, Person.id == ScoreRow.person_id)
        .join(Tier, Tier.id == ScoreRow.tier_id)
        .join(Track, Track.id == ScoreRow.track_id)
        .outerjoin(ProfileRow, ProfileRow.person_id == ScoreRow.person_id)
        .where(ScoreRow.piece_id == piece_id)
        .order_by(ScoreRow.id)
    )
    return [Placing(*row) for row in db.execute(query)]


def placing_of(row: ScoreRow) -> Placing:
    """The same of a score that was read whole; nothing of the profile."""
    return Placing(
        person_id=row.person_id,
        name=row.person.name,
        tier=row.tier.position,
        track=row.track.position,
        display=row.display,
        order_key=row.order_key,
        reps=row.reps,
        rounds=row.rounds,
        doubt=row.doubt,
        standing=row.standing,
        team=row.team,
        hidden=False,
        born=None,
    )


def entries(rows: Iterable[Placing], hidden: Collection[int] = ()) -> list[Entry]:
    """Rows as entries for the standings, a team as one.

    A score the present board cannot read has no place, nor has who is `hidden`.
    """
    out: list[Entry] = []
    teams: dict[tuple[int, ...], int] = {}
    for row in rows:
        if row.order_key is None or row.person_id in hidden:
            continue
        team = tuple(row.team or ())
        if team in teams and out[teams[team]].order_key == row.order_key:
            mate = out[teams[team]]
            name = f"{mate.name} & {row.name}"
            out[teams[team]] = mate.model_copy(update={"name": name})
            continue
        if team:
            teams[team] = len(out)
        doubted = row.standing in ("doubted", "asked", "answered")
        out.append(
            Entry(
                athlete_id=row.person_id,
                name=row.name,
                tier=row.tier,
                track=row.track,
                display=row.display,
                order_key=row.order_key,
                reps=row.reps,
                to_verify=row.doubt if doubted else None,
                rounds=Rounds.model_validate(row.rounds) if row.rounds else None,
                team=tuple(one for one in team if one not in hidden),
            )
        )
    return out


def scores_by_person(db: Session, piece_id: int) -> dict[int, ScoreRow]:
    """The scores of a piece by whose they are."""
    query = select(ScoreRow).where(ScoreRow.piece_id == piece_id)
    return {row.person_id: row for row in db.scalars(query).unique()}
