"""The gym's days: a day is one there, whatever the zone of a server or a browser."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from zoneinfo import ZoneInfo, available_timezones


def zone_of(name: str) -> ZoneInfo:
    """A time zone by its IANA name; ValueError, in a sentence, where there is none."""
    if name not in available_timezones():
        raise ValueError(f"{name}: no such time zone; write one as Europe/Lisbon")
    return ZoneInfo(name)


def day_of(moment: dt.datetime, zone: ZoneInfo) -> dt.date:
    """The gym's day at a moment."""
    return moment.astimezone(zone).date()


def begins(date: dt.date, zone: ZoneInfo) -> dt.datetime:
    """The moment a gym's day begins: midnight there, or the first moment after it."""
    return dt.datetime.combine(date, dt.time.min, zone).astimezone(dt.UTC)


def class_nearest(
    starts: Sequence[dt.time], now: dt.datetime, zone: ZoneInfo, class_min: int
) -> dt.time | None:
    """The class that is on at a moment, else the next one, else the day's last; None for none.

    A class is on until its length is over.
    """
    local = now.astimezone(zone)
    for start in sorted(starts):
        begun = dt.datetime.combine(local.date(), start, zone)
        if local < begun + dt.timedelta(minutes=class_min):
            return start
    return max(starts, default=None)
