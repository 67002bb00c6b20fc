"""A piece that is written again: what its results of the last time ask for, as a finding."""

from __future__ import annotations

import datetime as dt

from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import finding
from pine_ladder.core.notation.edits import rewrite
from pine_ladder.core.week.next_time import next_time
from pine_ladder.store.days.pieces import keys_of
from pine_ladder.store.scores.history import last_holding, results_on

CODE = "next-time"


def coming_again(db: Session, session: plan.Session, date: dt.date) -> list[plan.Finding]:
    """Hints on the pieces of a board that the gym has held before, each with the change that its
    results ask for as a repair. A test stays as it is, and so does what `meant next-time` says.
    """
    if session.theme == "test":
        return []
    out = []
    for piece in session.pieces:
        if piece.role is plan.Role.REST or not piece.lines or CODE in piece.meant:
            continue
        held = last_holding(db, piece, date)
        if held is None:
            continue
        day, key = held
        keys = keys_of(db, day)
        results = results_on(db, day).get(keys.index(key), []) if key in keys else []
        change = next_time(piece, results)
        if change is not None:
            edits = tuple(rewrite(line, text) for line, text in change.lines)
            repair = plan.Repair(label="take this step", edits=edits)
            message = f"last held on {day.date:%-d %B}: {change.label}"
            out.append(finding(CODE, piece.line, message, "hint", [repair]))
    return out
