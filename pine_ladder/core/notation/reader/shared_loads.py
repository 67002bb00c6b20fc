"""Loads that are said once for all lifts of a piece: `AMRAP 15 (60/42.5)`, `Barbell 43/30`,
`RX 60/40 | INT 45/30 | BEG 30/20`.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.clause import Clause
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.loads import load_of
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.tiers import RANKS
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Bare, Work, settle

BAR = "barbell"
LIGHTEST_BAR = 15
"""A pair of bare numbers in a heading is a load where both are at least this."""
_TIER = re.compile(
    rf"\s*(?:(?:barbell|bar|weights?|loads?|kgs?)\s*:?\s*)?(?P<name>{'|'.join(RANKS.values())})"
    r"\b\s*[:=\-]?\s*(?=[@\d])",
    re.IGNORECASE,
)
_MARKS = ("and", "at", "open", "close", "colon", "comma", "dash", "filler", "stop")


def loads_said(row: Row, library: Library) -> dict[int, Work]:
    """The load of each tier, from 0, in a row that says no more than those; empty otherwise."""
    parts = re.split(r"\s*[|;]\s*|,\s+|\s+/\s+", row.text.strip())
    found: dict[int, Work] = {}
    for text in parts:
        named = _TIER.match(text)
        rank = _rank(named["name"]) if named else 0
        said = tokens(text[named.end() :] if named else text, library)
        led = [token.kind for token in said] in (["and", "pair"], ["at", "pair"])  # `w/ 60/40`
        load = _only_load(said, row.number, bar=named is not None or led)
        if load is None or rank in found or (named is None and len(parts) > 1):
            return {}
        found[rank] = load
    return found


def _rank(name: str) -> int:
    return next(
        rank for rank, said in RANKS.items() if re.fullmatch(said, name.strip(), re.IGNORECASE)
    )


def _only_load(said: Sequence[Token], row: int, *, bar: bool) -> Work | None:
    """A load alone among some tokens; where `bar` is False the bar has to be named with it."""
    tokens = [token for token in said if token.kind not in _MARKS]
    named = [
        token
        for token in tokens
        if ("implement" in token.means and token.kind != "movement")
        or token.value in _WEIGHTS
        or token.kind == "everyone"  # `all at 43/30`
    ]
    rest = [token for token in tokens if token not in named]
    alone = len(tokens) == 1 and tokens[0].kind == "weight" and len(tokens[0].value[0]) > 1
    if len(rest) != 1 or not (bar or named or alone or "by sex" in rest[0].means):
        return None
    made = _load(rest[0], row)
    held = [token.means["implement"] for token in named if token.means.get("implement")]
    if made is not None and held:
        made.implement = held[0]
    return made


_WEIGHTS = ("weight", "weights", "load", "loads", "throughout")


def _load(token: Token, row: int) -> Work | None:
    """A token that is a load by its unit, or a pair of numbers that may be one."""
    made = Work(row, token.start)
    if token.kind == "pair" and min(token.value) >= LIGHTEST_BAR:
        made.bare = Bare(tuple(token.value))
        return made
    load = load_of(token)
    if not isinstance(load, plan.Weight):
        return None
    made.load = load
    return made


def heading_load(clause: Clause, left: Sequence[Token]) -> Work | None:
    """The load that is left of a heading: `For time @ 60/40 kg`."""
    if not (clause.facts.frames or clause.role):
        return None
    if clause.works:
        ends = [at for at, token in enumerate(left) if token.kind in ("colon", "close")]
        left = left[: ends[0]] if ends else ()
    tokens = [token for token in left if token.kind not in _MARKS]
    return _load(tokens[0], clause.row.number) if len(tokens) == 1 else None


def give_loads(part: Part, loads: Mapping[int, Work], library: Library) -> None:
    """Give a part's lifts of the bar, or of an implement that was named, their common loads."""
    for work in part.works:
        kit = next((load.implement for load in loads.values() if load.implement), BAR)
        held = work.known is not None and kit in work.known.kit and work.known.reference_kg
        if not held or not (work.load is None or isinstance(work.load, plan.Weight)):
            continue
        own = work.load is not None
        for rank in sorted(loads):
            if rank == 0 and not own:
                work.load, work.bare = loads[0].load, loads[0].bare
                settle(work, library)
            elif rank:
                before = work.tiers.get(rank) or replace(work, tiers={}, notes=[], instead=[])
                other = replace(before, load=loads[rank].load, bare=loads[rank].bare)
                settle(other, library)
                work.tiers[rank] = other


def wants_loads(part: Part) -> bool:
    """Whether a part has lifts, and none of them has a load."""
    lifts = [work for work in part.works if work.known is not None and work.known.reference_kg]
    return bool(lifts) and all(lift.load is None and lift.bare is None for lift in lifts)
