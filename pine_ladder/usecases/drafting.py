"""Drafts for the gym as it is: its people, kit, boards and the days before."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Mapping

from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.drafting.prompt import Before, Prompt
from pine_ladder.core.week.cycles import CycleBoard, CycleDone, cycles_of
from pine_ladder.store.athletes.members import active_athletes, members_of
from pine_ladder.store.catalogue.kit import kit_of
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.styles import style_of
from pine_ladder.store.models import Day

MATERIAL = dt.timedelta(weeks=26)
"""Boards of so long before a day are its material."""
RECENT = dt.timedelta(days=14)
"""Days of so long before a day are what it follows."""
AHEAD = dt.timedelta(days=1)
"""Days of so long after a day are what it leaves fresh."""
CYCLES = dt.timedelta(weeks=14)
"""Cycles are looked for among boards of so long before and after a day: the longest is 12 weeks."""


def gym_prompt(
    db: Session,
    date: dt.date,
    people: int | None = None,
    drafted: Mapping[dt.date, str] | None = None,
) -> Prompt:
    """The prompt of a day as the gym itself gives it: class, kit, limits, levels, bests, what was
    done before it and what is written after it.

    `drafted` are boards that are not saved yet, by their dates; a written day keeps its own.
    """
    gym = gym_of(db)
    members = members_of(db, active_athletes(db))
    bests: dict[str, list[float]] = {}
    for member in members:
        for lift, kg in member.bests.items():
            bests.setdefault(lift, []).append(kg)
    limits = Counter(one.limit for member in members for one in member.profile.limits)
    levels = Counter(gym.tiers[member.tier] for member in members if member.tier < len(gym.tiers))
    boards = dict(drafted or {})
    for day in days.days_between(db, date - RECENT, date + AHEAD):
        if day.text.strip():
            boards[day.date] = day.text
    beside = [
        Before(session=read_board(text, gym.movements).session, date=on)
        for on, text in sorted(boards.items())
        if date - RECENT <= on <= date + AHEAD and on != date
    ]
    return Prompt(
        date=date,
        style=style_of(gym.row),
        minutes=gym.row.class_min,
        people=people or gym.row.class_size,
        kit=kit_of(db) or None,
        limits=dict(limits),
        levels=dict(levels),
        bests={lift: tuple(sorted(loads, reverse=True)) for lift, loads in bests.items()},
        recent=tuple(one for one in beside if one.date is not None and one.date < date),
        ahead=tuple(one for one in beside if one.date is not None and one.date > date),
    )


def gym_boards(db: Session, date: dt.date) -> dict[str, plan.Session]:
    """The gym's boards before a day, by title and date."""
    gym = gym_of(db)
    found = days.days_between(db, date - MATERIAL, date - dt.timedelta(days=1))
    out = {}
    for day in found:
        if day.text:
            session = read_board(day.text, gym.movements).session
            out[f"{session.title or 'untitled'}, {day.date:%-d %B}"] = session
    return out


def gym_cycles(db: Session, date: dt.date) -> list[CycleDone]:
    """The cycles that the gym's boards around a date belong to, the one begun last first."""
    marked = cycle_days(db, date)
    held = days.held_among(db, marked)
    library = gym_of(db).movements
    boards = [
        CycleBoard(day.date, read_board(day.text, library).session, day.date in held)
        for day in marked
    ]
    return cycles_of(boards, library)


def cycle_days(db: Session, date: dt.date, name: str | None = None) -> list[Day]:
    """The days around a date that belong to a cycle: to the one of a name, or to any."""
    library = gym_of(db).movements
    found = []
    for day in days.days_between(db, date - CYCLES, date + CYCLES):
        cycle = read_board(day.text, library).session.cycle if "cycle" in day.text.lower() else None
        if cycle is not None and name in (None, cycle.name):
            found.append(day)
    return found
