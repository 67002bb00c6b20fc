"""Weights of dumbbells and kettlebells as they are told: `50s/35s`, `22.5s`, `double DB 15/10`."""

from __future__ import annotations

import re
from dataclasses import replace

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.clause import Clause
from pine_ladder.core.notation.reader.layout import DOUBLED, Row
from pine_ladder.core.notation.reader.lexer import tokens

_BY_HAND = re.compile(r"\b(\d+(?:\.\d)?)s?/(\d+(?:\.\d)?)s\b", re.IGNORECASE)


_ONE_HAND = re.compile(r"(?<![\d/:.])(\d{2}(?:\.5)?)s\b(?!\s*/)", re.IGNORECASE)


def _each_by_hand(row: Row, library: Library) -> Row:
    """The row with the weight of each hand as such, behind a counted movement with dumbbells:
    `10 devil's press 22.5s`, `40 m farmer carry 24s`.
    """
    match = _ONE_HAND.search(row.text)
    if match is None:
        return row
    ahead = tokens(row.text[: match.start()], library)
    moves = [token for token in ahead if token.kind == "movement"]
    known = library.find(str(moves[-1].means["movement"])) if moves else None
    loose = known is not None and re.search("dumbbell|kettlebell", " ".join(known.kit))
    kinds = [token.kind for token in ahead]
    counted = bool({"number", "distance", "cal", "scheme"} & set(kinds)) and "by" not in kinds
    placed = kinds[-1:] and kinds[-1] in ("movement", "comma", "open", "distance", "and")
    timed = re.match(
        r"\W*(?:rest|off|on|hold|pause|down|each|per)\b", row.text[match.end() :], re.I
    )
    behind = tokens(row.text[match.end() :].lstrip(), library)
    if kinds[-1:] == ["comma"] and behind and behind[0].kind == "movement":
        return row  # `12 seal rows, 20s hollow`
    if not loose or timed or not (placed and (counted or ".5" in match[1])):
        return row
    text, start, at = row.text, match.start(), match.end(1)
    text = f"{text[:at]} {text[at + 1 :]}"
    if text[start - 1] == "(" and text[at + 1 : at + 2] == ")":
        text = f"{text[: at + 1]} {text[at + 2 :]}"
    return replace(row, text=f"{text[: start - 1]}@{text[start:]}")


def by_hand(row: Row, library: Library) -> Row:
    """The row with the weights of dumbbells as such: `10 DB thrusters 50s/35s`, which are no times
    of work and rest, as those fill half minutes or stand before their work.
    """
    row = _each_by_hand(row, library)
    match = _BY_HAND.search(row.text)
    if match is None or float(match[1]) <= float(match[2]):
        return row
    ahead = tokens(row.text[: match.start()], library)
    moves = [token for token in ahead if token.kind == "movement"]
    known = library.find(str(moves[-1].means["movement"])) if moves else None
    counted = any(token.kind == "number" for token in ahead)
    fills = (float(match[1]) + float(match[2])) % 30 == 0
    if known is None or known.reference_kg is None or (fills and not counted):
        return row
    text = f"{match[1]}/{match[2]}".ljust(len(match[0]))
    return replace(row, text=row.text[: match.start()] + text + row.text[match.end() :])


_DOUBLED = re.compile(DOUBLED, re.IGNORECASE)


def in_each_hand(clause: Clause) -> None:
    """Take the weights of `double DB snatch 15/10` as those of each of two."""
    for match in _DOUBLED.finditer(clause.typed):
        at = match.end() + len(clause.row.text) - len(clause.row.text.lstrip())
        ahead = [work for work in clause.works if work.start <= at]
        if not ahead:
            continue
        load, bare = ahead[-1].load, ahead[-1].bare
        if bare is not None and bare.of == 1:
            ahead[-1].bare = bare._replace(of=2)
        elif isinstance(load, plan.Weight) and load.count == 1:
            ahead[-1].load = load.model_copy(update={"count": 2})
        elif bare is None and load is None:
            ahead[-1].notes.append(match[0].strip(" -"))


_OF_AN_IMPLEMENT = re.compile(r"(kb|kettlebell|db|dumbbell)s?\b", re.IGNORECASE)


def with_the_named_implement(clause: Clause, library: Library) -> None:
    """Do what a piece named after its implement lists with it: `KB complex: 5 cleans, 5 press`."""
    named = _OF_AN_IMPLEMENT.match(clause.name)
    if named is None:
        return
    implement = "kettlebell" if named[1].lower().startswith("k") else "dumbbell"
    for work in clause.works:
        short = work.name.split()[-1] if work.name else ""
        ways = (work.name, short, f"front {short}")
        known = (library.find(f"{implement} {way}") for way in ways if short)
        other = next((move for move in known if move is not None), None)
        if other is not None and work.known is not None and implement not in work.known.kit:
            work.name, work.known = other.name, other
