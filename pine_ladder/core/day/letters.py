"""What a gym writes to its members: plain letters, each with what it is about in its first line."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import NamedTuple

from pine_ladder.core.plan import Frozen

CHOICES = ("week", "class", "question", "told")
"""The kinds of letters that members choose to get or not; links are sent to whom they are for."""


class Letter(Frozen):
    """A letter: one line of subject, plain text."""

    subject: str
    body: str


class DayAhead(NamedTuple):
    """A day as a member will find it: its date, programme (empty where a gym has one), title, its
    pieces a line each, the kit their own version needs, and the starts of its classes.
    """

    date: dt.date
    programme: str
    title: str
    pieces: Sequence[str]
    kit: Sequence[str]
    starts: Sequence[dt.time]


class ClassTold(NamedTuple):
    """A class of a date as people know it by its start, and how it is held: `now_at` is its start
    now, None where it stays.
    """

    date: dt.date
    start: dt.time
    cancelled: bool
    word: str
    now_at: dt.time | None = None


def one_line(text: str) -> str:
    """Text fit for a subject: no line breaks, no more than a screen shows."""
    words = " ".join(text.split())
    return words if len(words) <= 150 else f"{words[:149]}…"


def spoken(date: dt.date) -> str:
    """A date as a member reads it: `Monday 30 November`."""
    return f"{date:%A} {date.day} {date:%B}"


def _letter(subject: str, *parts: str) -> Letter:
    return Letter(subject=one_line(subject), body="\n\n".join(filter(None, parts)) + "\n")


def link_letter(gym: str, name: str, link: str, until: dt.date, new: bool) -> Letter:
    """An invitation (`new`), or the way back in for who has no password any more."""
    what = "choose a password" if new else "choose a new password"
    return _letter(
        f"{gym}: {what}",
        f"Hello {name},",
        f"to sign in to {gym}, {what} here:",
        link,
        f"The link works once, until {spoken(until)}. If you did not expect it, leave it be.",
    )


def class_letter(gym: str, name: str, told: ClassTold) -> Letter:
    """A class somebody signed up for is moved, cancelled, held again, or has a word for those who
    come.
    """
    when = f"{spoken(told.date)}, {told.start:%H:%M}"
    off = f"the class on {when} is cancelled."
    if told.now_at not in (None, told.start):
        return _letter(
            f"{gym}: class on {when} is at {told.now_at:%H:%M}",
            f"Hello {name},",
            f"the class on {when} is held at {told.now_at:%H:%M} instead. You keep your place; if"
            " you cannot come then, say so on your phone.",
            told.word,
        )
    on = f"about the class on {when}, which is held:"
    return _letter(
        f"{gym}: class on {when}{' cancelled' if told.cancelled else ''}",
        f"Hello {name},",
        off if told.cancelled else on if told.word else f"the class on {when} is held after all.",
        told.word,
    )


def place_letter(
    gym: str, name: str, date: dt.date, start: dt.time, until: dt.time, address: str
) -> Letter:
    """A place has become free for somebody who waited; `until` when they may decline it freely."""
    when = f"{spoken(date)}, {start:%H:%M}"
    return _letter(
        f"{gym}: you have a place on {when}",
        f"Hello {name},",
        f"a place in the class on {when} is yours now.",
        f"If you cannot come, cancel it on your phone by {until:%H:%M}, so that the next on the"
        " waiting list can have it.",
        address,
    )


def week_letter(gym: str, name: str, days: Sequence[DayAhead], address: str) -> Letter:
    """What is on, day by day, with the kit that this member's own version needs."""
    first = spoken(days[0].date) if days else ""
    return _letter(
        f"{gym}: the days from {first}", f"Hello {name},", *map(_day_ahead, days), address
    )


def _day_ahead(day: DayAhead) -> str:
    line = f" ({day.programme})" if day.programme else ""
    lines = [f"{spoken(day.date)}: {day.title}{line}", *(f"  {piece}" for piece in day.pieces)]
    if day.kit:
        lines.append(f"  Kit: {', '.join(day.kit)}")
    if day.starts:
        lines.append(f"  Classes: {', '.join(f'{start:%H:%M}' for start in day.starts)}")
    return "\n".join(lines)


def question_letter(
    gym: str, name: str, coach: str, date: dt.date, piece: str, entered: str, note: str, link: str
) -> Letter:
    """A coach asks about a score."""
    return _letter(
        f"{gym}: {coach} asks about your score on {piece}",
        f"Hello {name},",
        f"{coach} asks about “{entered}” on {piece}, {spoken(date)}.",
        note,
        f"Answer here: {link}",
    )


def told_letter(
    gym: str, name: str, coach: str, date: dt.date, word: str, board: str, results: Sequence[str]
) -> Letter:
    """A word of the coach to a class, with the board and the results where they are wanted."""
    return _letter(
        f"{gym}: {spoken(date)}",
        f"Hello {name},",
        word,
        board.strip(),
        "\n".join(results),
        coach,
    )
