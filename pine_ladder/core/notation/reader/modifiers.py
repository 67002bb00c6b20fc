"""Modifiers of a heading that the notation itself has a word for: `work 0:40`, `pace hard`."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from functools import lru_cache
from typing import Any

from pine_ladder.core.notation.heading import read_heading
from pine_ladder.core.notation.reader.facts import Facts
from pine_ladder.core.notation.tokens import Slip
from pine_ladder.core.units import clock_text

_TURNED = (
    (re.compile(r"(\d+) heats?"), r"heats \1"),
    (re.compile(r"(\w+) pace"), r"pace \1"),
    (
        re.compile(r"(?:target|aim for) (\d+)(?::00)?-(\d+)(?::00)? ?min(?:ute)?s?"),
        r"target \1:00-\2:00",
    ),
)
"""Ways to say a modifier with its words in another order."""
BORNE = ("pace", "target", "heats", "tie_break", "aim_s", "work_s", "until_missed", "score")
"""Fields of a piece that are taken so; a grammar of their own reads the others."""


def exact_modifiers(text: str) -> Iterator[tuple[int, int, Mapping[str, Any]]]:
    """The items between commas that are modifiers: start and end in the text, and their fields."""
    start = 0
    for item in text.split(","):
        end = start + len(item)
        if fields := _fields(" ".join(item.strip(" .").lower().split())):
            yield start, end, fields
        start = end + 1


def modifier_texts(facts: Facts) -> list[str]:
    """Modifiers of a heading in exact notation that a row says of its piece."""
    rest = "-".join(map(clock_text, facts.rest))
    told = (
        f"rest {rest}" if rest else "rest as needed" if facts.rest_as_needed else "",
        f"cap {clock_text(facts.cap)}" if facts.cap else "",
        "for quality" if facts.quality else "",
        f"score {facts.score}" if facts.score else "",
    )
    return [one for one in told if one]


@lru_cache(maxsize=4096)
def _fields(item: str) -> Mapping[str, Any]:
    if not item:
        return {}
    for pattern, order in _TURNED:
        if match := pattern.fullmatch(item):
            item = match.expand(order)
    try:
        fields = read_heading(f"for time, {item}").modifiers
    except Slip:
        return {}
    return {name: value for name, value in fields.items() if name in BORNE}
