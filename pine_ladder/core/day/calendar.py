"""The gym's days: a day is one there, whatever the zone of a server or a browser."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterable, Sequence
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


WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
MOST_CLASSES = 24
_TIME = re.compile(r"(\d{1,2})(?:[:.h](\d{2}))?\s*(am|pm)?", re.IGNORECASE)


def read_times(text: str) -> tuple[dt.time, ...]:
    """The classes of a day as they are written, `6:30, 12.15, 6 pm`, in order; ValueError, in a
    sentence, for what is no time, stands twice, or is more than a day holds.
    """
    found: list[dt.time] = []
    for said in filter(None, (one.strip() for one in re.split(r"[,;\n]|\band\b", text))):
        read = _TIME.fullmatch(said)
        if read is None:
            raise ValueError(f"{said} is no time: write 18:00")
        hour, minute = int(read[1]), int(read[2] or 0)
        if half := (read[3] or "").lower():
            if not 1 <= hour <= 12:
                raise ValueError(f"{said} is no time: write 18:00")
            hour = hour % 12 + 12 * (half == "pm")
        if hour > 23 or minute > 59:
            raise ValueError(f"{said} is no time of a day")
        start = dt.time(hour, minute)
        if start in found:
            raise ValueError(f"{start:%H:%M} stands twice")
        found.append(start)
    if len(found) > MOST_CLASSES:
        raise ValueError(f"a day holds up to {MOST_CLASSES} classes")
    return tuple(sorted(found))


def read_week(texts: Sequence[str]) -> list[tuple[dt.time, ...]]:
    """The classes of each weekday, a text a day; ValueError that names the day of what is wrong."""
    out = []
    for day, text in zip(WEEKDAYS, texts, strict=True):
        try:
            out.append(read_times(text))
        except ValueError as error:
            raise ValueError(f"{day}: {error}") from None
    return out


def read_named_days(texts: Iterable[str]) -> list[tuple[dt.time, ...]]:
    """The same of texts that begin with their weekday, `Mon 6:30, 18:00`; days left out are free.

    ValueError for a day that is none or stands twice.
    """
    weekly = [""] * len(WEEKDAYS)
    for text in texts:
        word, _, times = text.strip().partition(" ")
        low = word.rstrip(":,").lower()
        day = next((i for i, d in enumerate(WEEKDAYS) if d.lower().startswith(low[:3])), None)
        if day is None or len(low) < 3 or not WEEKDAYS[day].lower().startswith(low):
            raise ValueError(f"{text}: begin with a weekday, as in Monday 6:30, 18:00")
        if weekly[day]:
            raise ValueError(f"{WEEKDAYS[day]} stands twice")
        weekly[day] = times
    return read_week(weekly)


def times_text(starts: Iterable[dt.time]) -> str:
    """The same the other way: `06:30, 12:15, 18:00`."""
    return ", ".join(f"{start:%H:%M}" for start in sorted(starts))
