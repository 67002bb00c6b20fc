"""All athletes at a glance: who stays away, whose places move, what waits for a coach."""

from __future__ import annotations

import datetime as dt
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.store.models import Day, ScoreRow
from pine_ladder.store.scores.sheet import TRUSTED

WAITING = ("doubted", "asked", "answered")


class Placed(NamedTuple):
    """A score's day and its place among its tier on its piece, from 0 (last) to 1 (first)."""

    date: dt.date
    share: float


def places_since(db: Session, first: dt.date) -> dict[int, list[Placed]]:
    """Everybody's places since a date, where several of a tier were scored."""
    section = (ScoreRow.piece_id, ScoreRow.tier_id)
    ranked = (
        select(
            ScoreRow.person_id,
            Day.date,
            func.percent_rank().over(partition_by=section, order_by=ScoreRow.order_key).label("at"),
            func.count().over(partition_by=section).label("of"),
        )
        .join(Day, Day.id == ScoreRow.day_id)
        .where(
            Day.date >= first,
            Day.published,
            ScoreRow.order_key.is_not(None),
            ScoreRow.standing.in_(TRUSTED),
        )
        .subquery()
    )
    out: dict[int, list[Placed]] = {}
    for person, date, share in db.execute(
        select(ranked.c.person_id, ranked.c.date, ranked.c.at).where(ranked.c.of > 2)
    ):
        out.setdefault(person, []).append(Placed(date, float(share)))
    return out


def doubts_waiting(db: Session) -> list[tuple[dt.date, int]]:
    """Days with scores that wait for a coach, the newest first, and how many."""
    query = (
        select(Day.date, func.count())
        .join(ScoreRow, ScoreRow.day_id == Day.id)
        .where(ScoreRow.standing.in_(WAITING))
        .group_by(Day.date)
        .order_by(Day.date.desc())
    )
    return [(date, count) for date, count in db.execute(query)]
