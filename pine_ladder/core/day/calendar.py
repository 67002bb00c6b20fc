"""The gym's days: a day is one there, whatever the zone of a server or a browser."""

from __future__ import annotations

import datetime as dt
import functools
import re
from collections.abc import Iterable, Sequence
from typing import NamedTuple
from zoneinfo import ZoneInfo, available_timezones


@functools.cache
def _zones() -> frozenset[str]:
    # Naming them walks the whole database of zones: 25 ms each time.
    return frozenset(available_timezones())


def zone_of(name: str) -> ZoneInfo:
    """A time zone by its IANA name; ValueError, in a sentence, where there is none."""
    if name not in _zones():
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
MOST_PLACES = 200
SHORTEST, LONGEST = 10, 240
"""Bounds of a class in minutes."""
_BETWEEN = re.compile(r"[,;\n]|\band\b(?=\s*\d)", re.IGNORECASE)
_CLASS = re.compile(
    r"(?P<time>\d{1,2}(?:[:.h]\d{2})?\s*(?:am|pm)?)"
    r"(?:\s+(?P<minutes>\d{1,4})\s*min(?:utes)?)?"
    r"(?:\s+(?P<size>\d{1,4})\s*places?)?"
    r"(?:\s+(?:in|at)\s+(?P<place>\S.{0,39}))?",
    re.IGNORECASE,
)
_TIME = re.compile(r"(\d{1,2})(?:[:.h](\d{2}))?\s*(am|pm)?", re.IGNORECASE)


class Slot(NamedTuple):
    """A class of the week: its start and, where it is not as the gym has it, how many minutes it
    lasts, how many fit, and where it is held.
    """

    start: dt.time
    minutes: int | None = None
    size: int | None = None
    place: str = ""


def _time(said: str) -> dt.time:
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
    return dt.time(hour, minute)


def _slot(said: str) -> Slot:
    read = _CLASS.fullmatch(said)
    if read is None:
        raise ValueError(f"{said} is no time: write 18:00, or 18:00 75 min 8 places in the shed")
    minutes, size = (int(read[name]) if read[name] else None for name in ("minutes", "size"))
    if minutes is not None and not SHORTEST <= minutes <= LONGEST:
        raise ValueError(f"{said}: a class lasts {SHORTEST} to {LONGEST} minutes")
    if size is not None and not 1 <= size <= MOST_PLACES:
        raise ValueError(f"{said}: a class has 1 to {MOST_PLACES} places")
    return Slot(_time(read["time"].strip()), minutes, size, " ".join((read["place"] or "").split()))


def read_classes(text: str) -> tuple[Slot, ...]:
    """The classes of a day as they are written, `6:30, 6 pm 75 min 8 places in the shed`, in order.

    ValueError, in a sentence, for what is no time, stands twice, or is more than a day holds.
    """
    found: dict[dt.time, Slot] = {}
    for said in filter(None, (one.strip() for one in _BETWEEN.split(text))):
        slot = _slot(said)
        if slot.start in found:
            raise ValueError(f"{slot.start:%H:%M} stands twice")
        found[slot.start] = slot
    if len(found) > MOST_CLASSES:
        raise ValueError(f"a day holds up to {MOST_CLASSES} classes")
    return tuple(found[start] for start in sorted(found))


def read_times(text: str) -> tuple[dt.time, ...]:
    """Times alone, as `read_classes` reads them."""
    return tuple(slot.start for slot in read_classes(text))


def read_week(texts: Sequence[str]) -> list[tuple[Slot, ...]]:
    """The classes of each weekday, a text a day; ValueError that names the day of what is wrong."""
    out = []
    for day, text in zip(WEEKDAYS, texts, strict=True):
        try:
            out.append(read_classes(text))
        except ValueError as error:
            raise ValueError(f"{day}: {error}") from None
    return out


def read_named_days(texts: Iterable[str]) -> list[tuple[Slot, ...]]:
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


def classes_text(slots: Iterable[Slot]) -> str:
    """The same the other way: `06:30, 12:15, 18:00 75 min 8 places in the shed`."""
    out = []
    for slot in sorted(slots, key=lambda slot: slot.start):
        parts = [f"{slot.start:%H:%M}"]
        parts += [f"{slot.minutes} min"] if slot.minutes is not None else []
        parts += [f"{slot.size} places"] if slot.size is not None else []
        parts += [f"in {slot.place}"] if slot.place else []
        out.append(" ".join(parts))
    return ", ".join(out)
