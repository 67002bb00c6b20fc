"""Ways that name no movement, as runs: `6 x 800, 2 min rest`, `400 m repeats: 6 of them`."""

from __future__ import annotations

import re

from pine_ladder.core import plan
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Work

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
    name = form.last_way or "run"
    if form.engine or clause.marked("letter") or not _apart(here, clause):
        return
    if any(str(move.means.get("movement")) not in _EASILY for move in moves):
        return
    ahead = next((token.kind for token in body if token.kind != "filler"), "")
    if ahead == "movement" and any(token.kind == "colon" for token in body[:3]):
        return  # `Run: 4 x 750 m` names it.
    if (rewritten := _so_many(body)) is not None:
        clause.body = rewritten
        return
    spoken = bool(SPOKEN.search(clause.row.text))
    out: list[Token] = []
    for at, token in enumerate(body):
        before, behind = body[at - 1] if at else None, body[at + 1] if at + 1 < len(body) else None
        counted = before is not None and before.kind == "by"
        if behind is not None and behind.kind in ("movement", "percent", "weight", "reps"):
            counted = False
        way = _way(token, spoken=spoken) if counted else None
        out.append(way or token)
        if way is not None:
            out.append(Token("movement", name, token.end, token.end, {"movement": name}))
    clause.body = [token for token in out if token.value not in ("repeats", "repeat")]


def _apart(here: Part | None, clause: Clause) -> bool:
    """Whether a row stands in no lift and among no counted work."""
    if here is None or clause.row.gap or clause.role:
        return True
    if here.works and all(_on_foot(work) for work in here.works):
        return True  # `6 x 400 m`, then `4 x 200 m`
    return here.fresh and here.lift is None


def _on_foot(work: Work) -> bool:
    """Whether a work is a way that is run or walked."""
    return work.name in _EASILY and isinstance(work.amount, plan.Distance)


def _way(token: Token, *, spoken: bool) -> Token | None:
    """The way of a repeat behind `6 x`; None where a token is none."""
    if token.kind != "number":
        return token if token.kind == "distance" else None
    value = float(token.value)
    way = SHORTEST_M <= value <= LONGEST_M and not value % STEP_M
    if not way or not (spoken or value >= CLEARLY_M):
        return None
    return Token("distance", ((value,), "-"), token.start, token.end)


def _so_many(body: list[Token]) -> list[Token] | None:
    """`400 m repeats: 6 of them` as so many runs; None where a row says nothing of the kind."""
    words = [token for token in body if token.kind not in ("filler", "colon", "comma", "dash")]
    kinds = [token.kind for token in words[:3]]
    if kinds[:2] != ["distance", "word"] or words[1].value not in ("repeats", "reps", "intervals"):
        return None
    if kinds[2:] not in (["number"], ["times n"]):
        return None
    way, _, count = words[:3]
    often = count.value[0] if count.kind == "times n" else count.value
    run = Token("movement", "run", way.end, way.end, {"movement": "run"})
    behind = body[body.index(count) + 1 :]
    return [Token("by", int(often), way.start, way.start), way, run, *behind]


def laps(clause: Clause, here: Part | None) -> None:
    """Take laps alone under a warm-up that has no work yet as a run: `Warm up`, `2 laps`."""
    body = [token for token in clause.body if token.kind != "filler"]
    fresh = here is not None and here.fresh and here.role in LOOSE and not here.facts.frames
    if not fresh or [token.kind for token in body] != ["number", "rounds"]:
        return
    if clause.row.text[body[1].start : body[1].end].lower().startswith("lap"):
        run = Token("movement", "run", body[1].start, body[1].end, {"movement": "run"})
        clause.body = [body[0], run]
