"""Places in the hour: rows that tell from when to when, at which time or minute they begin."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.quantities import clock

_MINUTES = re.compile(
    r"\s*(?:min(?:ute)?s?\s*|[a-z][a-z /&-]{1,20}\(\s*)?(\d{1,3})\s*-\s*(\d{1,3})\b", re.IGNORECASE
)


def hour_rows(said: Sequence[Row]) -> set[int]:
    """The lines that begin with minutes of the hour, each where the one before it ends."""
    found = [(row.number, one) for row in said if row.first and (one := _MINUTES.match(row.text))]
    places = [(int(one[1]), int(one[2])) for _, one in found]
    return _in_the_hour([number for number, _ in found], places, MOST_BETWEEN)


MOST_BETWEEN = 15
"""Minutes between two places in the hour at most."""


def _in_the_hour(
    numbers: Sequence[int], places: Sequence[tuple[int, int]], between: int
) -> set[int]:
    """The lines whose places, from and to, follow one another; the first two join or begin at 0."""
    numbers, places = _without_ranges(numbers, places)
    out: set[int] = set()
    for (number, before), (other, after) in pairwise(zip(numbers, places, strict=True)):
        joins = before[1] == after[0] or number in out or before[0] == 0
        follows = before[0] < before[1] <= after[0] < after[1]
        if joins and follows and after[0] - before[1] <= between:
            out |= {number, other}
    kept = [place for number, place in zip(numbers, places, strict=True) if number in out]
    # `6-8 press`, `8-10 row` are reps: places in the hour begin at 0, or reach further.
    reaches = bool(kept) and (kept[0][0] == 0 or kept[-1][1] - kept[0][0] > between)
    return out if reaches else set()


def _without_ranges(
    numbers: Sequence[int], places: Sequence[tuple[int, int]]
) -> tuple[list[int], list[tuple[int, int]]]:
    """The lines and their places, without ranges of reps, `8-10 pull-ups`, that stand between a
    place and the one that begins where it ends.
    """
    kept: list[int] = []
    for at, place in enumerate(places):
        if not kept:
            kept.append(at)
            continue
        end = places[kept[-1]][1]
        if place[0] != end and any(later[0] == end for later in places[at + 1 :]):
            continue
        kept.append(at)
    return [numbers[at] for at in kept], [places[at] for at in kept]


_CLOCKS = re.compile(r"\s*(\d{1,2}:\d\d)\s*-\s*(\d{1,2}:\d\d)\b")


def clock_rows(said: Sequence[Row]) -> dict[int, int]:
    """The lines that begin with a place on the clock, each where the one before it ends, with the
    seconds at which it ends.
    """
    found = [(row.number, one) for row in said if row.first and (one := _CLOCKS.match(row.text))]
    places = [(clock(one[1]), clock(one[2])) for _, one in found]
    kept = _in_the_hour([number for number, _ in found], places, 60 * MOST_BETWEEN)
    return {
        number: end for (number, _), (_, end) in zip(found, places, strict=True) if number in kept
    }


_BEGINS_AT = re.compile(r"\s*(\d{1,2}:\d\d)\s*-?\s+(?=[^\W\d])")


def without_last_place(rows: Sequence[Row], places: Mapping[int, int]) -> list[Row]:
    """The rows, the last one without the place on the clock at which it begins, `50:00 cool down`,
    where the rows before it are told by theirs.
    """
    out = list(rows)
    begins = _BEGINS_AT.match(out[-1].text) if out and places else None
    if begins is not None and out[-1].first and clock(begins[1]) >= max(places.values()):
        out[-1] = replace(out[-1], text=" " * begins.end() + out[-1].text[begins.end() :])
    return out


_OF_DAY = re.compile(
    r"\s*(?:at\s+)?(?P<h>\d{1,2})[.:](?P<m>[0-5]\d)\s*(?:am|pm|h\b)?\s*[:\-]?\s+(?=[^\W\d]|\d)",
    re.IGNORECASE,
)
FEWEST_TIMES, LONGEST_SLOT, LONGEST_DAY = 3, 50, 150
"""Lines that begin with a time of day at least, and minutes between two of them, and of all."""


def day_rows(said: Sequence[Row]) -> dict[int, tuple[int, int]]:
    """The lines that begin with a time of the day, `18.15 warm-up`, or of the hour, `0:10 skill`:
    the minutes to the next one (0 for the last), and the column where the text begins.
    """
    found = [(row, one) for row in said if row.first and (one := _OF_DAY.match(row.text))]
    minutes = [60 * int(one["h"]) + int(one["m"]) for _, one in found]
    steps = [after - before for before, after in pairwise(minutes)]
    if len(found) < FEWEST_TIMES or not all(0 < step <= LONGEST_SLOT for step in steps):
        return {}
    earliest = 5 * 60
    if minutes[-1] - minutes[0] > LONGEST_DAY or 0 < minutes[0] < earliest:
        return {}
    return {
        row.number: (step, one.end()) for (row, one), step in zip(found, [*steps, 0], strict=True)
    }


def without_times(said: Sequence[Row]) -> tuple[list[Row], dict[int, int]]:
    """The rows without the times of day they begin with, and the minutes of each such line."""
    times = day_rows(said)
    out = [
        replace(row, text=" " * times[row.number][1] + row.text[times[row.number][1] :])
        if row.first and row.number in times
        else row
        for row in said
    ]
    return out, {number: minutes for number, (minutes, _) in times.items()}


_STARTS_AT = re.compile(r"\s*(?:on|at|@)\s+(?:the\s+)?(\d{1,2}:\d\d)\s*[-:,]*\s+(?=\S)", re.I)
FEWEST_STARTS = 2


def starts(rows: Sequence[Row]) -> list[Row]:
    """The rows that begin with the time each starts at, evenly spaced, as the stations of windows:
    `on the 0:00 - run 800`, `on the 6:00 - 50 burpees`.
    """
    matches = [(at, match) for at, row in enumerate(rows) if (match := _STARTS_AT.match(row.text))]
    times = [clock(match[1]) for _, match in matches]
    steps = {after - before for before, after in pairwise(times)}
    joined = all(after == before + 1 for (before, _), (after, _) in pairwise(matches))
    rises = len(matches) >= FEWEST_STARTS and min(steps) > 0
    if rises and times[0] == 0 and (len(steps) > 1 or not joined):
        return _at_their_times(rows, matches)
    if not rises or len(steps) != 1 or not joined:
        return list(rows)
    out = list(rows)
    for number, (at, match) in enumerate(matches, start=1):
        row = out[at]
        mark = f"{number})".ljust(match.end())
        out[at] = replace(row, text=mark + row.text[match.end() :], first=True)
    first = matches[0][0]
    step = next(iter(steps))
    text = f"every {step // 60}:{step % 60:02d}, 1 round"
    out.insert(first, replace(rows[first], text=text))
    return out


def _at_their_times(rows: Sequence[Row], matches: Sequence[tuple[int, re.Match[str]]]) -> list[Row]:
    """The rows that begin with the time each starts at, unevenly spaced, as parts of their own:
    `at 0:00 - 1 mile run`, `at 12:00 - 5 min max bike`.
    """
    out = list(rows)
    for number, (at, match) in enumerate(matches, start=1):
        text = f"part {number}".ljust(match.end()) + out[at].text[match.end() :]
        out[at] = replace(out[at], text=text, first=True, gap=True)
    return out


_PHASE = re.compile(
    r"\s*(?:(?:min(?:ute)?s?|m|sets?|rounds?|rds?)\s*(\d{1,2})\s*(?:-|to)\s*(\d{1,2})\b\s*[:.)\-]?"
    r"|(\d{1,2})\s*-\s*(\d{1,2})\s*:)\s*(?![\s@=]|at\b)",
    re.IGNORECASE,
)
_WINDOWS = re.compile(r"emom|every|on the minute|\be\d+[a-z:]*\b", re.IGNORECASE)


def phases(said: Sequence[Row]) -> tuple[list[Row], dict[int, int]]:
    """The rows without the minutes of their phase, `min 6-10`, each but the first behind a rule;
    and the windows of each such line. Phases are of one length and join from the first window.
    """
    found = {at: one for at, row in enumerate(said) if (one := _PHASE.match(row.text))}
    ends = [(int(one[1] or one[3]), int(one[2] or one[4])) for one in found.values()]
    joined = all(after[0] == before[1] + 1 for before, after in pairwise(ends))
    lengths = {last - first + 1 for first, last in ends}
    above = said[: min(found, default=0)]
    if not any(_WINDOWS.search(row.text) for row in above):
        return list(said), {}
    if len(ends) < 2 or ends[0][0] != 1 or not joined or len(lengths) > 1 or lengths == {1}:
        return list(said), {}
    first = min(found)
    out = [
        replace(row, text=" " * found[at].end() + row.text[found[at].end() :], ruled=at > first)
        if at in found
        else row
        for at, row in enumerate(said)
    ]
    return out, {said[at].number: next(iter(lengths)) for at in found}
