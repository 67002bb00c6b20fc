"""Ways that name no movement, as runs: `6 x 800, 2 min rest`, `400 m repeats: 6 of them`."""

from __future__ import annotations

import re

from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.token import Token

SPOKEN = re.compile(
    r"\b(?:jog(?:ging)?|run(?:ning)?|pace|track|sprints?|strides?|hills?|marathon)\b", re.IGNORECASE
)
"""Words of running."""
SHORTEST_M, LONGEST_M, STEP_M = 100, 5000, 50
"""Metres of a repeat without a unit: from, to, and what they are a multiple of."""
CLEARLY_M = 200
"""Metres from which on a repeat without a unit needs no word of running."""
_EASILY = ("easy run", "walk", "run")


def repeats(clause: Clause, here: Part | None, form: Form) -> None:
    """Name the repeats of a row that names no movement as runs, where it stands in no lift."""
    body = clause.body
    moves = [token for token in body if token.kind == "movement"]
    if form.engine or clause.marked("letter") or not _apart(here, clause):
        return
    if any(str(move.means.get("movement")) not in _EASILY for move in moves):
        return
    if (told := _so_many(body)) is not None:
        clause.body = told
        return
    spoken = bool(SPOKEN.search(clause.row.text))
    out: list[Token] = []
    for at, token in enumerate(body):
        before, behind = body[at - 1] if at else None, body[at + 1] if at + 1 < len(body) else None
        counted = before is not None and before.kind == "by"
        if behind is not None and behind.kind in ("movement", "percent", "weight", "reps"):
            counted = False
        if counted and token.kind == "number" and _is_way(token.value, spoken=spoken):
            token = Token("distance", ((float(token.value),), "-"), token.start, token.end)
        out.append(token)
        if counted and token.kind == "distance":
            out.append(Token("movement", "run", token.end, token.end, {"movement": "run"}))
    clause.body = [token for token in out if token.value not in ("repeats", "repeat")]


def _apart(here: Part | None, clause: Clause) -> bool:
    """Whether a row stands in no lift and among no counted work."""
    if here is None or clause.row.gap or clause.role:
        return True
    if here.lift is not None:
        return False
    return all(work.known and Pattern.ENGINE in work.known.patterns for work in here.works)


def _is_way(value: float, *, spoken: bool) -> bool:
    """Whether a number behind `6 x` is the metres of a repeat."""
    return SHORTEST_M <= value <= LONGEST_M and not value % STEP_M and (spoken or value >= CLEARLY_M)


def _so_many(body: list[Token]) -> list[Token] | None:
    """`400 m repeats: 6 of them` as so many runs; None where a row says nothing of the kind."""
    said = [token for token in body if token.kind not in ("filler", "colon", "comma", "dash")]
    kinds = [token.kind for token in said[:3]]
    if kinds[:2] != ["distance", "word"] or said[1].value not in ("repeats", "reps", "intervals"):
        return None
    if kinds[2:] not in (["number"], ["times n"]):
        return None
    way, _, count = said[:3]
    often = count.value[0] if count.kind == "times n" else count.value
    run = Token("movement", "run", way.end, way.end, {"movement": "run"})
    behind = body[body.index(count) + 1 :]
    return [Token("by", int(often), way.start, way.start), way, run, *behind]
