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
    for class_ in classes:
        begins = dt.datetime.combine(class_.date, class_.start, zone)
        event = Event()
        line = f"-{class_.line}" if class_.line is not None else ""
        event.add("uid", f"{begins:%Y%m%dT%H%M}{line}@pine-ladder")
        event.add("dtstamp", now)
        event.add("dtstart", begins)
        event.add("duration", dt.timedelta(seconds=class_.length_s))
        event.add("summary", class_.title)
        event.add("description", class_.board)
        event.add("location", f"{gym}, {class_.place}" if class_.place else gym)
        event.add("sequence", class_.sequence)
        state = "TENTATIVE" if class_.waiting else "CONFIRMED"
        event.add("status", "CANCELLED" if class_.cancelled else state)
        event.add("transp", "OPAQUE" if class_.busy and not class_.cancelled else "TRANSPARENT")
        if alarm_min and class_.busy and not class_.cancelled:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", class_.title)
            alarm.add("trigger", dt.timedelta(minutes=-alarm_min))
            event.add_component(alarm)
        file.add_component(event)
    file.add_missing_timezones()
    return bytes(file.to_ical())
