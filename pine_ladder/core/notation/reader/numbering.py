"""Bare numbers and letters before rows: which of them count the rows, and are their marks."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core.notation.reader.layout import Row

_BARE_NUMBER = re.compile(
    r"\s*(\d{1,2})(?:(?P<mark>[.)])?\s+(?=[A-Za-z]|\d|:\d\d)|\s?(?P<dash>[-:])\s+(?=\S))"
)


_BARE_LETTER = re.compile(r"\s*([a-h]) (?=\d)", re.IGNORECASE)


def _lettered(said: Sequence[Row]) -> list[Row]:
    """The rows, small letters that count them from `a` on marked: `a 12 wall balls`, `b 9 …`."""
    out = list(said)
    at = 0
    while at < len(out):
        run = 0
        while at + run < len(out) and (letter := _BARE_LETTER.match(out[at + run].text)):
            if letter[1].lower() != "abcdefgh"[run : run + 1]:
                break
            run += 1
        for place in range(at, at + run if run > 1 else at):
            match = _BARE_LETTER.match(out[place].text)
            assert match is not None
            text = out[place].text
            out[place] = replace(out[place], text=f"{text[: match.end(1)]}){text[match.end() :]}")
        at += max(1, run)
    return out


_A_ALONE = re.compile(r"\s*(A) (?=[A-Z\d])")
_B_BEHIND = re.compile(r"\s*B[1-5]?(?:[.):]| (?=[A-Z\d]))")


def _marked_a(rows: Sequence[Row]) -> list[Row]:
    """The rows, an `A` before a capital marked as a letter where a later row is marked `B`: it is
    no article.
    """
    out = list(rows)
    for at, row in enumerate(out):
        match = _A_ALONE.match(row.text)
        behind = any(_B_BEHIND.match(later.text) for later in out[at + 1 :] if later.first)
        if match is not None and row.first and behind:
            out[at] = replace(row, text=f"{row.text[: match.end(1)]}){row.text[match.end() :]}")
    return out


def numbered(said: list[Row]) -> list[Row]:
    """The rows with a mark behind numbers that count them: `1 Row`, `2 Bike`, `3 Ski`; two that
    count with a dash, `1 - 15 cal row`, are enough.
    """
    out = _lettered(_marked_a(said))
    at = 0
    while at < len(out):
        run = 0
        while at + run < len(out):
            found = _BARE_NUMBER.match(out[at + run].text)
            if found is None or int(found[1]) != run + 1 or (run and out[at + run].gap):
                break
            if not (out[at + run].first or found["mark"] or found["dash"]):
                break  # `… . 3 sets every 2 min` inside a line counts nothing.
            run += 1
        texts = {re.sub(r"\d+", "", out[place].text) for place in range(at, at + run)}
        run = 0 if run > 1 and len(texts) == 1 else run  # `1 burpee`, `2 burpees`: a ladder.
        dashed = run > 1 and all(_dash(out[place]) for place in range(at, at + run))
        run = run if run > FEW_COUNTED or dashed else 0
        run = 0 if run and _counts_reps(out, at, run) else run
        for place in range(at, at + run):
            found = _BARE_NUMBER.match(out[place].text)
            assert found is not None
            row, end = out[place], found.end(1)
            if found["mark"]:
                continue
            if found["dash"]:
                dash = found.start("dash")
                text = f"{row.text[:end]}){' ' * (dash - end)}{row.text[dash + 1 :]}"
                out[place] = replace(row, text=text)
                continue
            if row.text[end + 1 : end + 2] == " ":
                out[place] = replace(row, text=f"{row.text[:end]}){row.text[end + 1 :]}")
            else:
                whole = row.typed[row.at : row.at + len(row.text)]
                out[place] = replace(
                    row,
                    text=f"{row.text[:end]}) {row.text[end + 1 :]}",
                    typed=f"{whole[:end]}) {whole[end + 1 :]}",
                    at=0,
                )
        at += max(1, run)
    return out


_OF_REPS = re.compile(
    r"\bamrap\b|\brft\b|\b(?:rounds?|rds?)\b|\bfor time\b|\bladder\b", re.IGNORECASE
)
_OF_STATIONS = re.compile(
    r"\bevery\b|\be\d|mom\b|\binterval|\bstations?\b|\b(?:on|off|each|work)\b|\d\s*/\s*\d",
    re.IGNORECASE,
)


_AMOUNT_BEHIND = re.compile(
    r"^\W*\d|\bx\s*\d|\bmax\b|\d\s*(?:m|cals?|s|secs?|seconds?|min|minutes?|reps?)\b", re.I
)
"""An amount of what stands behind the number of a station."""


def _counts_reps(rows: Sequence[Row], at: int, run: int) -> bool:
    """Whether bare numbers below a heading of rounds are reps: `AMRAP 10`, then `1 wall walk`,
    `2 power cleans`, `3 thrusters`. Stations have amounts of their own, or a clock.
    """
    heading = rows[at - 1].text if at else ""
    if not _OF_REPS.search(heading) or _OF_STATIONS.search(heading):
        return False
    matches = [(row, _BARE_NUMBER.match(row.text)) for row in rows[at : at + run]]
    return not any(
        match is None
        or match["mark"]
        or match["dash"]
        or _AMOUNT_BEHIND.search(row.text[match.end(1) :])
        for row, match in matches
    )


FEW_COUNTED = 2
"""More rows than this that begin with 1, 2, 3 are counted by them."""


def _dash(row: Row) -> bool:
    match = _BARE_NUMBER.match(row.text)
    return match is not None and bool(match["dash"])
