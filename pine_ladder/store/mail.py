"""Letters that wait to go out: queued with what they are about, handed over at most once.

A letter is taken by one process, whose claim is kept before the mail server hears of it. Where the
claim is never settled, because the process was killed or the server fell silent, the letter counts
as `unsure` and is not sent again by itself: twice is worse than late, and a coach can send it anew.
"""

from __future__ import annotations

import datetime as dt
from typing import NamedTuple

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from pine_ladder.core.day.letters import CHOICES
from pine_ladder.store.models import MailRow, MailUnwanted, Person

WAITS = (
    dt.timedelta(minutes=1),
    dt.timedelta(minutes=10),
    dt.timedelta(hours=1),
    dt.timedelta(hours=6),
    dt.timedelta(hours=24),
)
"""How long a letter waits after each try that was not taken; after the last it is refused."""
CLAIM = dt.timedelta(minutes=10)
"""After so long a letter that is going is `unsure`."""
SECRET = ("invitation", "password")
"""Kinds that hold a link: their text is forgotten once they are gone."""
FORGOTTEN = "(the link is not kept)"


class Queued(NamedTuple):
    """How many letters a queue holds: waiting, sent, and in need of a coach's eye."""

    waiting: int
    sent: int
    troubled: int


def wanted_by(db: Session, person: Person) -> dict[str, bool]:
    """Of each kind of letter there is a choice of, whether somebody wants it."""
    without = set(db.scalars(select(MailUnwanted.kind).where(MailUnwanted.person_id == person.id)))
    return {kind: kind not in without for kind in CHOICES}


def queued(db: Session) -> Queued:
    """How many letters the queue holds."""
    rows = db.execute(select(MailRow.state, func.count()).group_by(MailRow.state))
    count = {state: number for state, number in rows}
    return Queued(
        waiting=count.get("waiting", 0) + count.get("going", 0),
        sent=count.get("sent", 0),
        troubled=count.get("unsure", 0) + count.get("refused", 0),
    )


def newest(db: Session, most: int) -> list[MailRow]:
    """The letters queued last."""
    return list(db.scalars(select(MailRow).order_by(MailRow.id.desc()).limit(most)).unique())
