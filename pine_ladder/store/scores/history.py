"""What was done before: earlier holdings of a piece, an athlete's history, the gym's bests."""

from __future__ import annotations

import datetime as dt
from collections import defaultdict
from collections.abc import Iterable
from statistics import median
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.day.piece_matching import fingerprint
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import Rounds, reps_in_round
from pine_ladder.core.scores.pacing import paced
from pine_ladder.core.week.next_time import Result
from pine_ladder.store.days.days import days_between
from pine_ladder.store.days.pieces import Held, held_by_all, keys_of, on_board, piece_of
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Day, EffortRow, PieceRow, Programme, ScoreRow
from pine_ladder.store.scores.sheet import TRUSTED, scores_of


def number_of(row: ScoreRow) -> float | None:
    """A score as one positive number to compare over time; None where there is none.

    Seconds, reps, kg, metres, calories or steps. A capped time says only that it was longer.
    """
    kind = ScoreKind(row.kind)
    if row.order_key is None or row.value.get("capped"):
        return None
    if kind in (ScoreKind.PUT_DOWNS, ScoreKind.DONE):
        return None
    if kind is ScoreKind.TIME:
        return float(row.value["seconds"])
    return float(row.reps) if kind is ScoreKind.ROUNDS and row.reps else abs(row.order_key)


def lifted_on(db: Session, day: Day) -> dict[int, dict[tuple[int, int], float]]:
    """What most lifted on a day, in kg: by the piece's place on its board, then by tier and track;
    the median of the scores that count.
    """
    rows = db.scalars(
        select(ScoreRow).where(
            ScoreRow.day_id == day.id,
            ScoreRow.kind == ScoreKind.LOAD,
            ScoreRow.standing.in_(TRUSTED),
        )
    ).unique()
    places = {int(key): at for at, key in enumerate(keys_of(db, day)) if key.isdecimal()}
    loads: defaultdict[int, defaultdict[tuple[int, int], list[float]]]
    loads = defaultdict(lambda: defaultdict(list))
    for row in rows:
        kg = number_of(row)
        if kg is not None and row.piece_id in places:
            loads[places[row.piece_id]][row.tier.position, row.track.position].append(kg)
    return {
        place: {who: median(found) for who, found in by_who.items()}
        for place, by_who in loads.items()
    }


def results_on(db: Session, day: Day) -> dict[int, list[Result]]:
    """Results of the pieces of a day, by the piece's place on its board: scores that count and were
    done as written, or scaled in a tier of its own rounds.
    """
    pieces = on_board(db, day)
    places = {key: at for at, key in enumerate(keys_of(db, day))}
    out: dict[int, list[Result]] = {}
    for row in scores_of(db, day):
        key = str(row.piece_id)
        if key not in places or row.standing not in TRUSTED or row.order_key is None:
            continue
        piece = pieces[key]
        tier, track = row.tier.position, row.track.position
        rounds = Rounds.model_validate(row.rounds) if row.rounds else None
        went = paced(piece, rounds, tier, track)
        out.setdefault(places[key], []).append(
            Result(
                done=_in_units(row, piece, tier, track),
                drop=went.drop if went else None,
                capped=bool(row.value.get("capped")),
            )
        )
    return out


def _in_units(row: ScoreRow, piece: plan.Piece, tier: int, track: int) -> float | None:
    """A score in rounds, reps or seconds as its piece is aimed at; None where it has no such."""
    if row.value.get("capped"):
        return float(piece.cap_s) if piece.cap_s else None
    if ScoreKind(row.kind) is ScoreKind.ROUNDS and "rounds" in row.value:
        full = int(row.value["rounds"])
        size = reps_in_round(piece, full + 1, tier, track)
        return full + int(row.value.get("reps") or 0) / size if size else float(full)
    return number_of(row)


def holdings(db: Session, day: Day, key: str, most: int = 6) -> list[tuple[Day, str]]:
    """Earlier days of the programme that held the same piece, the newest first, with its key."""
    piece = piece_of(db, day, key)
    return [] if piece is None else _held(db, piece, day.programme_id, day.date, most)


def last_holding(db: Session, piece: plan.Piece, before: dt.date) -> tuple[Day, str] | None:
    """The newest day before a date on which the programme held a piece, with its key there."""
    found = _held(db, piece, gym_of(db).programme.id, before, 1)
    return found[0] if found else None


def _held(
    db: Session, piece: plan.Piece, programme: int, before: dt.date, most: int
) -> list[tuple[Day, str]]:
    query = (
        select(Day, PieceRow.id)
        .join(PieceRow, PieceRow.day_id == Day.id)
        .where(
            Day.programme_id == programme,
            Day.date < before,
            Day.published,
            PieceRow.fingerprint == fingerprint(piece),
            PieceRow.position.is_not(None),
        )
        .order_by(Day.date.desc(), PieceRow.position)
        .limit(most)
    )
    return [(earlier, str(number)) for earlier, number in db.execute(query).unique()]


def last_times(db: Session, day: Day, key: str, people: frozenset[int]) -> dict[int, ScoreRow]:
    """The newest trusted score of each of some people on an earlier holding of the same piece."""
    found: dict[int, ScoreRow] = {}
    if not people:
        return found
    for earlier, other in holdings(db, day, key):
        for row in scores_of(db, earlier, other):
            if row.person_id in people and row.standing in TRUSTED:
                found.setdefault(row.person_id, row)
    return found


class OwnBest(NamedTuple):
    """A score that is better than all before it on the same piece, and the best of those."""

    row: ScoreRow
    piece: str
    before: float
    now: float


def own_bests(db: Session, first: dt.date, last: dt.date, people: frozenset[int]) -> list[OwnBest]:
    """Scores of some people between two dates that beat their own earlier ones, newest first."""
    found: list[OwnBest] = []
    published = [day for day in days_between(db, first, last) if day.published]
    held = held_by_all(db, published)
    for day in sorted(published, key=lambda one: one.date, reverse=True):
        for one in held[day.id]:
            if one.piece is None or one.row.position is None:
                continue
            now = [row for row in scores_of(db, day, one.key) if row.person_id in people]
            trusted = [row for row in now if row.standing in TRUSTED]
            if not trusted:
                continue
            earlier = [
                row
                for before, key in holdings(db, day, one.key)
                for row in scores_of(db, before, key)
            ]
            for row in trusted:
                best = _beaten(row, earlier)
                if best is not None:
                    found.append(OwnBest(row, one.piece.title, best, number_of(row) or 0.0))
    return found


def _beaten(row: ScoreRow, earlier: Iterable[ScoreRow]) -> float | None:
    """The best number of one's earlier scores in the same version, where this one is better."""
    own = [
        other
        for other in earlier
        if (other.person_id, other.tier_id, other.track_id)
        == (row.person_id, row.tier_id, row.track_id)
        and other.standing in TRUSTED
        and other.order_key is not None
    ]
    best = max(own, key=lambda other: other.order_key or 0.0, default=None)
    if best is None or row.order_key is None or row.order_key <= (best.order_key or 0.0):
        return None
    return number_of(best)


def _by_id(db: Session, days: Iterable[Day]) -> dict[int, Held]:
    """The pieces of some days by their identity."""
    unique = {day.id: day for day in days}
    held = held_by_all(db, unique.values())
    return {one.row.id: one for ones in held.values() for one in ones}


class Done(NamedTuple):
    """A score of an athlete with its day, its piece, and its place among its tier."""

    row: ScoreRow
    day: Day
    title: str
    piece: plan.Piece
    rank: int | None
    of: int


def scores_of_person(
    db: Session, person_id: int, hidden: frozenset[int], most: int = 200
) -> list[Done]:
    """An athlete's scores on published days, the newest first, with their places then."""
    query = (
        select(ScoreRow, Day)
        .join(Day, Day.id == ScoreRow.day_id)
        .where(ScoreRow.person_id == person_id, Day.published)
        .order_by(Day.date.desc(), ScoreRow.id)
        .limit(most)
    )
    rows = list(db.execute(query).unique())
    places = _places(db, person_id, [day.id for _, day in rows], hidden)
    pieces = _by_id(db, (day for _, day in rows))
    out = []
    for row, day in rows:
        held = pieces.get(row.piece_id)
        if held is not None and held.piece is not None:
            rank, of = places.get(row.id, (None, 0))
            out.append(Done(row, day, held.row.board, held.piece, rank, of))
    return out


def _places(
    db: Session, person_id: int, days: list[int], hidden: frozenset[int]
) -> dict[int, tuple[int | None, int]]:
    """The rank of each of a person's scores in its tier, and among how many."""
    section = (ScoreRow.piece_id, ScoreRow.tier_id)
    best_first = ScoreRow.order_key.desc()
    ranked = (
        select(
            ScoreRow.id,
            ScoreRow.person_id,
            func.rank().over(partition_by=section, order_by=best_first).label("rank"),
            func.count().over(partition_by=section).label("of"),
        )
        .where(
            ScoreRow.day_id.in_(days),
            ScoreRow.order_key.is_not(None),
            ScoreRow.person_id.not_in(hidden - {person_id}),
        )
        .subquery()
    )
    query = select(ranked.c.id, ranked.c.rank, ranked.c.of).where(ranked.c.person_id == person_id)
    return {number: (rank, of) for number, rank, of in db.execute(query)}


class Best(NamedTuple):
    """The gym's best on a piece of a board, in a tier and track."""

    board: str
    piece: str
    row: ScoreRow
    date: dt.date


def best_scores(
    db: Session, boards: frozenset[str], hidden: frozenset[int], programme: str | None = None
) -> list[Best]:
    """The best trusted score on each piece of some boards, by tier and track.

    Scores on a piece that was set aside count: they are still theirs.
    """
    line = (
        db.scalars(select(Programme).where(Programme.name == programme)).first()
        if programme
        else gym_of(db).programme
    )
    if line is None:
        return []
    query = (
        select(ScoreRow, Day.date, PieceRow.board, PieceRow.title, PieceRow.position)
        .join(Day, Day.id == ScoreRow.day_id)
        .join(PieceRow, PieceRow.id == ScoreRow.piece_id)
        .where(
            Day.published,
            Day.programme_id == line.id,
            PieceRow.board.in_(boards),
            ScoreRow.kind != ScoreKind.DONE,
            ScoreRow.order_key.is_not(None),
            ScoreRow.standing.in_(TRUSTED),
            ScoreRow.person_id.not_in(hidden),
        )
    )
    best: dict[tuple[str, str, int, int], Best] = {}
    order: dict[tuple[str, str, int, int], tuple[str | int, ...]] = {}
    for row, date, board, title, position in db.execute(query).unique():
        place = (board, title, row.tier.position, row.track.position)
        before = best.get(place)
        if before is None or (row.order_key or 0) > (before.row.order_key or 0):
            best[place] = Best(board, title, row, date)
            order[place] = (board, position or 0, *place[1:])
    return [best[place] for place in sorted(best, key=lambda place: order[place])]


def efforts_of(db: Session, person_id: int, most: int) -> list[tuple[EffortRow, dt.date]]:
    """Return a person's effort ratings with their dates, newest first."""
    query = (
        select(EffortRow, Day.date)
        .join(Day, Day.id == EffortRow.day_id)
        .where(EffortRow.person_id == person_id)
        .order_by(Day.date.desc())
        .limit(most)
    )
    return [(row, date) for row, date in db.execute(query)]
