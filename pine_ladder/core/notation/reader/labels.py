"""The marks of rows: letters, numbers, stations, minutes; and which of them begin parts."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise
from typing import NamedTuple

from pine_ladder.core.notation.reader.layout import Row

_LABEL = re.compile(
    r"\s*(?:(?P<part>part|section|block|piece|event|option)\s+(?P<p>[a-h]|\d)\b[\s.:)\-]*"
    r"|(?P<half>[ap])\.?m\.?\s*:\s*"
    r"|(?:p\s?(?P<p12>[1-4])|(?:partner|athlete|person|mate|buddy)\s?(?P<who>[1-4]|[a-d]\b))"
    r"\s*(?:[:)\-]|(?=\s))\s*"
    r"|(?P<stn>station|stn|exercise|movement|move|lane|corner|stop|group|grp|g(?=[1-6]\b))\s*(?P<s>[a-h]\b|\d{1,2}\b|one|2|two|three|four|five)"
    r"(?:\s+is(?:\s+an?\b|\s+the\b)?)?[\s.:)\-]*"
    r"|(?P<wave>(?:wave|set|round|rd)\s*\d{1,2}\s*[:)\-])\s*"
    r"|r(?P<turn>\d)\s*[:)]\s*"
    r"|(?:min(?:ute)?s?|m)\s*(?P<min>\d{1,2})(?:\s*[-&,/+]\s*\d{1,2})*\s*(?:(?!:\d\d)[:.)\-])\s*"
    r"|m(?P<glued>\d)\s+(?=[a-z\d])"
    r"|min(?:ute)?\s+(?P<atclock>\d{1,2})\s+(?=:\d\d)"
    r"|min(?:ute)?\s+(?P<said>\d)\s+(?=\d|[a-z])"
    r"|(?P<min2>\d{1,2})(?:st|nd|rd|th)(?:\s+min(?:ute)?)?\s*[:.)\-]\s*"
    r"|(?P<odd>odds?|evens?)(?:\s+min(?:ute)?s?)?(?:\s*[:\-]\s*|\s+(?=\d))"
    r"|(?P<letter>[a-h])(?P<index>[1-5])\s*[.:)\-]*\s+(?=\S)"
    r"|(?P<pair>[1-9])(?P<of>[a-e])\s*[.:)\-]\s*(?=[a-z\d])"
    r"|(?P<ord>first|second|third|fourth|fifth)\s*:\s*(?=\d|[a-z])"
    r"|(?P<alone>[a-h])\s*(?:[.):]|/(?=\s))\s*|(?P<dashed>[A-H])\s*[-]\s+|(?P<bare>[B-H])\s+(?=[A-Z][a-z]|[A-Z]{2}|\d)"
    r"|(?P<only>[A-H])\s*$"
    r"|(?P<number>\d{1,2})\s*(?:[.)]\s+(?=\S)|\)\s*$)|(?P<stroke>\d)/\s+(?=\S)|(?P<hash>\#\d{1,2})\s+)",
    re.IGNORECASE,
)


ORDINALS = ("first", "second", "third", "fourth", "fifth")
NUMBERS = {"one": "1", "two": "2", "three": "3", "four": "4", "five": "5"}


class Label(NamedTuple):
    """The mark of a row: its kind, its letter or number, and where the text begins."""

    kind: str
    value: str
    end: int


def label_of(row: Row, *, bare: bool = True) -> Label | None:
    """The mark a row begins with."""
    found = _LABEL.match(row.text)
    if not found:
        return None
    end = found.end()
    if found["part"]:
        return Label("part", found["p"].lower(), end)
    if found["half"]:
        return Label("part", found["half"].lower(), end)  # `AM: …`, `PM: …`
    if partner := found["p12"] or found["who"]:
        return Label("partner", partner.lower(), end)
    if found["stn"]:
        said = found["s"].lower()
        return Label("station", NUMBERS.get(said, said), end)
    if found["turn"]:
        return Label("station", found["turn"], end)  # `R1: 15 cal row`, `R2: 200 m run`
    if found["wave"]:
        return Label("wave", found["wave"], end)
    minute = found["min"] or found["min2"] or found["said"] or found["atclock"] or found["glued"]
    if minute:
        return Label("minute", minute, end)
    if found["odd"]:
        return Label("minute", "1" if found["odd"].lower().startswith("odd") else "2", end)
    if found["ord"]:
        return Label("block", str(1 + ORDINALS.index(found["ord"].lower())), end)
    if found["letter"]:
        return Label("letter", (found["letter"] + found["index"]).lower(), end)
    if found["pair"]:
        letter = chr(ord("a") + int(found["pair"]) - 1)
        index = 1 + ord(found["of"].lower()) - ord("a")
        return Label("letter", f"{letter}{index}", end)
    if found["alone"] or found["dashed"]:
        text = found["alone"] or found["dashed"]
        kind = "small" if text.islower() else "letter"
        return Label(kind, text.lower(), end)
    if found["only"]:
        kind = "letter" if found["only"].isupper() else ""
        return Label(kind, found["only"].lower(), end) if kind else None
    if found["bare"] and found["bare"].isupper():
        return Label("letter", found["bare"].lower(), end) if bare else None
    if found["number"]:
        return Label("number", found["number"], end)
    if found["stroke"]:
        return Label("number", found["stroke"], end)
    if found["hash"]:
        return Label("number", found["hash"][1:], end)
    return None


_FRAMES = re.compile(
    r"\b(?:(?:[3-9]|\d\d)\s*x\s*\d|2\s*x\s*\d\b(?![./])|\d+ sets|amrap|emom|for time|rft"
    r"|time trial|rest \d|\d rounds|\d rn?ds|e\d\S*mom|every \d|superset|warm[ -]?up|metcon"
    r"|cool[ -]?down)",
    re.IGNORECASE,
)


def _frames(row: Row) -> bool:
    return bool(_FRAMES.search(row.text))


def opening_rows(said: Sequence[Row]) -> set[int]:
    """The lines whose marks begin parts: alike, counted up, with other lines between them."""
    out: set[int] = set()
    by_kind: dict[tuple[str, int], list[int]] = {}
    for at, row in enumerate(said):
        if not row.first:
            continue
        label = label_of(row, bare=False)
        if label is not None and label.kind in ("number", "letter") and len(label.value) == 1:
            by_kind.setdefault((label.kind, row.indent), []).append(at)
        elif row.bullet:
            by_kind.setdefault(row.level, []).append(at)
    out |= _pictured(said)
    for (kind, indent), everywhere in by_kind.items():
        places = everywhere if kind.startswith("bullet") else _outermost(said, everywhere)
        if len(places) < 2:
            continue
        ends = [*places[1:], len(said)]
        if kind == "letter" and _below_their_heading(said, places):
            continue
        listed = kind.startswith("bullet")
        if not listed and sum(_frames(said[at]) for at in places) * 2 >= len(places):
            out |= {said[at].number for at in places}
            continue
        under = [
            any(
                said[at].number != said[start].number and (said[at].indent > indent or not listed)
                for at in range(start + 1, end)
            )
            for start, end in zip(places, ends, strict=True)
        ]
        if sum(under[:-1]) * 2 >= len(under) - 1 and sum(under) >= 2:
            out |= {said[at].number for at in places}
    return out


def _outermost(rows: Sequence[Row], places: Sequence[int]) -> list[int]:
    """The places without marks that count anew, one below the other, inside what another one heads:
    `1) EMOM 8`, `1. row`, `2. bike`, `2) AMRAP 10`.
    """
    values = [label.value for at in places if (label := label_of(rows[at], bare=False))]
    out: list[int] = []
    at = 0
    while at < len(places):
        first = values[at] == values[0]
        end = at + 1
        counted = _counted_from(values[0], len(places))
        while end < len(places) and places[end] == places[end - 1] + 1:
            if values[end] != counted[end - at]:
                break
            end += 1
        if out and first and end - at > 1:
            at = end
            continue
        out.append(places[at])
        at += 1
    return out


def _counted_from(first: str, many: int) -> list[str]:
    """Marks in their order from the first on: 1, 2, 3, or a, b, c."""
    if first.isdigit():
        return [str(int(first) + step) for step in range(many)]
    return [chr(ord(first) + step) for step in range(many)]


_SHARED = re.compile(
    r"(?:^|\W)(?:\d+\s*(?:sets|rounds|rn?ds|supersets)|supersets?\s*x\s*\d+)"
    r"(?:\W*(?:of|alternat(?:e|ing)|superset(?:ted)?|back to back))?\W*$",
    re.IGNORECASE,
)
"""The end of a row that says how often what stands below it is done: `6 sets`, `superset x 5`."""


def _below_their_heading(rows: Sequence[Row], places: Sequence[int]) -> bool:
    """Whether lettered rows stand one below the other under a row that says how often all are done:
    they are a superset.
    """
    joined = all(after == before + 1 for before, after in pairwise(places))
    above = rows[places[0] - 1] if places[0] else None
    return joined and above is not None and bool(_SHARED.search(above.text))


FEWEST_PICTURES = 3
"""Rows that begin with a picture of their own at least, where such rows begin parts."""


def _pictured(rows: Sequence[Row]) -> set[int]:
    """The lines that begin with a picture, no two with the same: one a part."""
    signs: dict[int, str] = {}
    for row in rows:
        sign = row.typed.lstrip()[:1]
        if row.first and sign and not row.bullet and unicodedata.category(sign) == "So":
            signs[row.number] = sign
    apart = len(set(signs.values())) == len(signs) >= FEWEST_PICTURES
    return set(signs) if apart else set()


_EVERY_MINUTE = re.compile(r"emom|every min|on the minute", re.IGNORECASE)
_ODD_EVEN = re.compile(r"\s*([OE])[:)]\s*(?=\S)")
_MINUTE_OF = re.compile(r"\s*(\d{1,2}):00(?:\s*[-:]\s*|\s+)(?=[^\W\d]|\d)")


_MINUTES_ALONE = re.compile(r"\s*\d{1,2}\s*(?:min(?:ute)?s?|')\s*:?\s*", re.IGNORECASE)
_ODD, _EVEN = re.compile(r"\s*odd", re.IGNORECASE), re.compile(r"\s*even", re.IGNORECASE)


def _odd_and_even(labels: Sequence[Label | None], rows: Sequence[Row]) -> bool:
    """Whether two rows are the work of odd and of even minutes."""
    marked = len(labels) > 1 and all(
        label is not None and label.kind == "minute" for label in labels
    )
    return marked and bool(_ODD.match(rows[0].text) and _EVEN.match(rows[1].text))


def minutes_as_stations(said: Sequence[Row]) -> list[Row]:
    """The rows below an EMOM that begin with `0:00`, `1:00`, `2:00`, or with `O:` and `E:` for its
    odd and even minutes, marked as stations.
    """
    out = list(said)
    for at, row in enumerate(said):
        labels = [label_of(below) for below in said[at + 1 : at + 3]]
        if _MINUTES_ALONE.fullmatch(row.text) and _odd_and_even(labels, said[at + 1 : at + 3]):
            out[at] = replace(row, text=row.text.rstrip(" :") + " emom")
            continue  # `10 min:`, `odd mins 200 m row`, `even mins 10 swings`
        if not _EVERY_MINUTE.search(row.text):
            continue
        halves = [_ODD_EVEN.match(below.text) for below in said[at + 1 : at + 3]]
        if [half[1] for half in halves if half] == ["O", "E"]:
            for number, half in enumerate(halves, start=1):
                assert half is not None
                text = out[at + number].text
                text = f"{text[: half.start(1)]}{number}){text[half.start(1) + 2 :]}"
                out[at + number] = replace(out[at + number], text=text)
        place, minute = at + 1, 0
        found: list[re.Match[str]] = []
        while place < len(said) and (one := _MINUTE_OF.match(said[place].text)):
            if int(one[1]) != minute:
                break
            found.append(one)
            place, minute = place + 1, minute + 1
        for number, one in enumerate(found if len(found) > 1 else (), start=1):
            below = said[at + number]
            mark = f"m{number}:".ljust(one.end())
            out[at + number] = replace(below, text=mark + below.text[one.end() :])
    return out


FEWEST_LETTERS = 3
"""Small letters from which on they begin parts without a format behind them."""


def letters_of_parts(rows: Sequence[Row]) -> list[Row]:
    """The rows, small letters that mark all of them but a title and a last word as capitals: they
    begin parts, as there is no heading whose stations they could be.
    """
    firsts = [row for row in rows if row.first]
    labels = [label_of(row) for row in firsts]
    if heads := _small_heads(firsts, labels):
        return _in_capitals(rows, heads)
    small = [at for at, label in enumerate(labels) if label is not None and label.kind == "small"]
    letters = [label.value for label in labels if label is not None and label.kind == "small"]
    counted = letters == [chr(ord("a") + at) for at in range(len(letters))]
    if len(small) < FEWEST_LETTERS or not counted or small[-1] - small[0] >= len(small):
        return list(rows)
    others = [row for at, row in enumerate(firsts) if at not in small]
    if len(others) > OTHERS or any(_HEADING.search(row.text) for row in others):
        return list(rows)
    return _in_capitals(rows, {firsts[at].number for at in small})


def _in_capitals(rows: Sequence[Row], marked: set[int]) -> list[Row]:
    """The rows, those of the marked lines with their first small letter as a capital."""
    return [
        replace(row, text=re.sub(r"[a-h]", lambda letter: letter[0].upper(), row.text, count=1))
        if row.first and row.number in marked
        else row
        for row in rows
    ]


def _small_heads(firsts: Sequence[Row], labels: Sequence[Label | None]) -> set[int]:
    """The lines of small letters from `a` on that head what stands below them, most of them with a
    format or nothing behind the letter, no heading above them; none where they list stations.
    """
    small = [
        (at, label)
        for at, label in enumerate(labels)
        if label is not None and label.kind == "small"
    ]
    counted = [label.value for _, label in small] == list("abcdefgh"[: len(small)])
    parted = all(firsts[at].gap for at, _ in small[1:])
    joined = small and small[-1][0] - small[0][0] < len(small) and not parted
    if len(small) < 2 or not counted or joined:
        return set()
    above = firsts[: small[0][0]]
    if len(above) > OTHERS or any(_HEADS.search(row.text) for row in above):
        return set()
    heads = [
        at
        for at, label in small
        if _frames(firsts[at]) or firsts[at].text[label.end :].strip()[-1:] in ("", ":")
    ]
    return {firsts[at].number for at, _ in small} if len(heads) * 2 >= len(small) else set()


_HEADING = re.compile(
    r"\d|:\s*$|set\b|sets\b|circuit|station|emom|amrap|round|every|warm|strength|skill|core|wod",
    re.IGNORECASE,
)
"""Signs that a row heads what stands below it, and is no title."""
_HEADS = re.compile(
    r"\dx|x\d|:\s*$|set\b|sets\b|circuit|station|emom|amrap|round|every|warm|skill|core|wod", re.I
)
"""Signs that a row above lettered ones heads them, where it may be a date: `Thu 12/6`."""
OTHERS = 2
"""Rows beside lettered ones at most: a title, a word to the class."""
