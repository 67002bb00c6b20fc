"""Drafts for the gym as it is: its people, kit, boards and the days before."""

from __future__ import annotations

import datetime as dt
from collections import Counter

from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.drafting.prompt import Before, Prompt
from pine_ladder.store.athletes.members import active_athletes, members_of
from pine_ladder.store.catalogue.kit import kit_of
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.gym.loaded import gym_of

MATERIAL = dt.timedelta(weeks=26)
"""Boards of so long before a day are its material."""
RECENT = dt.timedelta(days=14)
"""Days of so long before a day are what it follows."""


def gym_prompt(db: Session, date: dt.date, people: int | None = None) -> Prompt:
    """The prompt of a day as the gym itself gives it: class, kit, limits, levels, bests, and what
    was done before it.
    """
    gym = gym_of(db)
    members = members_of(db, active_athletes(db))
    bests: dict[str, list[float]] = {}
    for member in members:
        for lift, kg in member.bests.items():
            bests.setdefault(lift, []).append(kg)
    limits = Counter(one.limit for member in members for one in member.profile.limits)
    levels = Counter(gym.tiers[member.tier] for member in members if member.tier < len(gym.tiers))
    before = days.days_between(db, date - RECENT, date - dt.timedelta(days=1))
    return Prompt(
        minutes=gym.row.class_min,
        people=people or gym.row.class_size,
        kit=kit_of(db) or None,
        limits=dict(limits),
        levels=dict(levels),
        bests={lift: tuple(sorted(loads, reverse=True)) for lift, loads in bests.items()},
        recent=tuple(
            Before(session=read_board(day.text, gym.movements).session, date=day.date)
            for day in before
            if day.text
        ),
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
