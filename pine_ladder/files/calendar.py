"""A week as iCalendar (RFC 5545), for any calendar program."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from typing import NamedTuple
from zoneinfo import ZoneInfo

from icalendar import Alarm, Calendar, Event


class Held(NamedTuple):
    """A class to put on the calendar: when, how long in seconds, and the day's board."""

    date: dt.date
    start: dt.time
    length_s: int
    title: str
    board: str
    sequence: int = 0
    """Counts the changes of the class, so that a subscriber takes the newest."""
    cancelled: bool = False
    place: str = ""
    """Where in the gym; empty where it has one hall."""
    line: int | None = None
    """Tells classes at one time apart, where a gym writes more than one programme."""
    waiting: bool = False
    """The owner of the calendar waits for a place in it: it is tentative for them."""
    busy: bool = False
    """The owner of the calendar goes there: their time is taken."""


def calendar(
    gym: str,
    classes: Iterable[Held],
    now: dt.datetime,
    zone: ZoneInfo,
    alarm_min: int = 0,
) -> bytes:
    """An iCalendar file of classes in the gym's time zone, the board as description, each with an
    alarm so many minutes before it (0: none).
    """
    file = Calendar()
    file.add("prodid", "-//Pine Ladder//EN")
    file.add("version", "2.0")
    file.add("x-wr-calname", gym)
    for held in classes:
        begins = dt.datetime.combine(held.date, held.start, zone)
        event = Event()
        line = f"-{held.line}" if held.line is not None else ""
        event.add("uid", f"{begins:%Y%m%dT%H%M}{line}@pine-ladder")
        event.add("dtstamp", now)
        event.add("dtstart", begins)
        event.add("duration", dt.timedelta(seconds=held.length_s))
        event.add("summary", held.title)
        event.add("description", held.board)
        event.add("location", f"{gym}, {held.place}" if held.place else gym)
        event.add("sequence", held.sequence)
        state = "TENTATIVE" if held.waiting else "CONFIRMED"
        event.add("status", "CANCELLED" if held.cancelled else state)
        event.add("transp", "OPAQUE" if held.busy and not held.cancelled else "TRANSPARENT")
        if alarm_min and held.busy and not held.cancelled:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", held.title)
            alarm.add("trigger", dt.timedelta(minutes=-alarm_min))
            event.add_component(alarm)
        file.add_component(event)
    file.add_missing_timezones()
    return bytes(file.to_ical())
