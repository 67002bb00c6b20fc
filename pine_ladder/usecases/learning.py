"""Learning kept: scores as observations, the fit, and what it believes of whom."""

from __future__ import annotations

from sqlalchemy import delete, func, select, text
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.learning import Learnt, Report, learn
from pine_ladder.core.athletes.members import Member
from pine_ladder.core.athletes.observations import Observation, value_of
from pine_ladder.core.pace.rep_times import Capacity
from pine_ladder.core.plan import Piece, ScoreKind
from pine_ladder.core.scores.kinds import reps_in_round
from pine_ladder.store.athletes.members import members_of
from pine_ladder.store.days.pieces import held_by_all
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Belief, Day, Learning, Person, ScoreRow


def _pieces(db: Session) -> dict[int, Piece]:
    """The pieces of all days by their identity."""
    shelf = gym_of(db).movements_as_written
    held = held_by_all(db, db.scalars(select(Day)).unique(), shelf)
    return {one.row.id: one.piece for ones in held.values() for one in ones if one.piece}


def value_of_row(row: ScoreRow, piece: Piece) -> float | None:
    """A stored score as the number that is predicted: rounds fractional; None where none is."""
    if row.order_key is None:
        return None
    kind = ScoreKind(row.kind)
    value = value_of(kind, row.value, row.order_key)
    if kind is ScoreKind.ROUNDS:
        rounds = int(row.value["rounds"])
        size = reps_in_round(piece, rounds + 1, row.tier.position, row.track.position)
        return rounds + (row.value["reps"] / size if size else 0)
    return value


def observations(db: Session) -> list[Observation]:
    """Every score that can be learnt from; a doubted one not before a coach has verified it."""
    pieces = _pieces(db)
    found = []
    teams: set[tuple[int, tuple[int, ...]]] = set()
    trusted = select(ScoreRow).where(ScoreRow.standing.in_(("fine", "verified")))
    for row in db.scalars(trusted).unique():
        piece = pieces.get(row.piece_id)
        value = _told(row, piece) if piece is not None else None
        team = tuple(sorted({row.person_id, *(row.team or ())})) if row.team else ()
        if piece is None or value is None or (row.piece_id, team) in teams:
            continue
        if team:
            # A team's score is kept with each of its members; it was done once.
            teams.add((row.piece_id, team))
        found.append(
            Observation(
                athlete=row.person_id,
                piece=piece,
                tier=row.tier.position,
                track=row.track.position,
                kind=ScoreKind(row.kind),
                value=value,
                at_least=_capped(row),
                team=team if len(team) > 1 else (),
            )
        )
    return found


def _capped(row: ScoreRow) -> bool:
    return row.kind == ScoreKind.TIME and bool(row.value.get("capped"))


def _told(row: ScoreRow, piece: Piece) -> float | None:
    """What a score says as a number; of one that was capped, the cap."""
    if _capped(row):
        return float(piece.cap_s) if piece.cap_s else None
    if row.kind == ScoreKind.LOAD:
        return row.order_key
    return value_of_row(row, piece)


def relearn(db: Session) -> Learnt | None:
    """Fit anew to all scores and keep what is believed; None while another process does so."""
    if not db.scalar(text("select pg_try_advisory_xact_lock(hashtextextended('learning', 0))")):
        return None
    seen = observations(db)
    people = db.scalars(select(Person).where(Person.trains)).unique()
    members: dict[int, Member] = {member.id: member for member in members_of(db, people)}
    seen = [one for one in seen if members.keys() >= set(one.seats)]
    learnt = learn(seen, members, gym_of(db).movements_as_written)
    db.execute(delete(Belief))
    db.execute(delete(Learning))
    db.add_all(
        Belief(
            person_id=number,
            factors={capacity.value: factor for capacity, factor in factors.items()},
            scores=learnt.counts.get(number, 0),
            bests=learnt.bests.get(number, {}),
        )
        for number, factors in _believed(learnt, members).items()
    )
    db.add(Learning(medians=dict(learnt.medians), report=learnt.report.model_dump(mode="json")))
    db.flush()
    return learnt


def _believed(learnt: Learnt, members: dict[int, Member]) -> dict[int, dict[Capacity, float]]:
    """Factors of everybody of whom the scores say something; those of the tier where it is but of
    their strength.
    """
    of_strength: dict[int, dict[Capacity, float]] = {
        number: {} for number in learnt.bests if number in members
    }
    return {**of_strength, **learnt.factors}


def newest(db: Session) -> Learning | None:
    """The newest fit, or None before the first."""
    return db.scalars(select(Learning).order_by(Learning.id.desc())).first()


def report_of(db: Session) -> Report | None:
    """How well the newest fit predicts."""
    row = newest(db)
    return Report.model_validate(row.report) if row else None


def is_stale(db: Session) -> bool:
    """Whether scores were saved since the newest fit."""
    row = newest(db)
    latest = db.scalar(select(func.max(ScoreRow.saved_at)))
    return latest is not None and (row is None or latest > row.learned_at)
