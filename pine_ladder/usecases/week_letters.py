"""The weekly email: the next days of a programme, to its followers."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Iterable

from sqlalchemy.orm import Session

from pine_ladder.core.day.kit import kit_line
from pine_ladder.core.day.letters import DayAhead, week_letter
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import format_text
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.floor.bookings import planned
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of, work_on
from pine_ladder.store.gym.programmes import followed_by, followers, programmes_of
from pine_ladder.store.models import Day, Person
from pine_ladder.usecases.mail import Queue
from pine_ladder.usecases.setup import is_open

AHEAD = 7
"""Days that a weekly letter looks ahead."""


WEEKLY_HOUR = 17
"""From this hour on, where the gym is, the weekly letter goes out."""


def _ahead(
    db: Session, first: dt.date, last: dt.date, programmes: Iterable[int]
) -> list[tuple[int, Day]]:
    """The published days of programmes, by date."""
    found: list[tuple[int, Day]] = []
    for line in programmes:
        work_on(db, line)
        held = days.days_between(db, first, last)
        found += [(line, day) for day in held if day.published and day.text.strip()]
    return sorted(found, key=lambda one: (one[1].date, one[0]))


def write_week(
    db: Session, queue: Queue, first: dt.date, last: dt.date, address: str, only: int | None = None
) -> int:
    """Queue what is on from `first` to `last` for everybody who follows it (`only` one programme,
    or all); how many letters wait. The same week in the same words goes to nobody twice.
    """
    shelf, gym = gym_of(db).movements, gym_of(db).row
    lines = {one.id: one.name for one in programmes_of(db)}
    names = lines if len(lines) > 1 else {}
    wanted = [only] if only is not None else list(lines)
    held = _ahead(db, first, last, wanted)
    starts = {day.id: _starts(db, day) for _, day in held}
    people: dict[int, Person] = {}
    for line in wanted:
        work_on(db, line)
        people |= {person.id: person for person in followers(db) if person.email}
    letters = 0
    for person in people.values():
        own = {one.id for one in followed_by(db, person)}
        ahead = [
            _day_ahead(shelf, day, names.get(line, ""), person, starts[day.id])
            for line, day in held
            if line in own
        ]
        if not ahead:
            continue
        letter = week_letter(gym.name, person.name, ahead, address)
        mark = hashlib.sha256(letter.body.encode()).hexdigest()[:16]
        letters += queue(db, person, "week", f"{first}/{mark}", letter)
    return letters


def write_weekly(db: Session, queue: Queue, address: str) -> None:
    """Write to members what the next days hold, on the evening the gym has chosen, once.

    Of several processes one does.
    """
    gym = gym_of(db).row if is_open(db) else None
    if gym is None or gym.settings.get("weekly_word") is None:
        return
    local = now(db).astimezone(gym_of(db).zone)
    today = local.date().isoformat()
    due = local.weekday() == gym.settings["weekly_word"] and local.hour >= WEEKLY_HOUR
    if not due or gym.settings.get("weekly_written") == today:
        return
    db.refresh(gym, with_for_update=True)
    if gym.settings.get("weekly_written") == today:
        return
    gym.settings = {**gym.settings, "weekly_written": today}
    first = local.date() + dt.timedelta(days=1)
    last = local.date() + dt.timedelta(days=AHEAD)
    write_week(db, queue, first, last, address)


def _starts(db: Session, day: Day) -> list[dt.time]:
    work_on(db, day.programme_id)
    return [one.start for one in planned(db, day.date) if not one.cancelled]


def _day_ahead(
    shelf: Library, day: Day, line: str, person: Person, starts: list[dt.time]
) -> DayAhead:
    session = read_board(day.text, shelf).session
    pieces = [
        f"{piece.title}: {format_text(piece.format)}" for piece in session.pieces if piece.lines
    ]
    return DayAhead(
        date=day.date,
        programme=line,
        title=session.title or "Session",
        pieces=pieces,
        kit=kit_line(session, shelf, person.tier.position, person.track.position),
        starts=starts,
    )
