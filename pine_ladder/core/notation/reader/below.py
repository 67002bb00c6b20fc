"""Rows below the work of a part: its rest, its cap, a load, a tempo, rounds around or inside."""

from __future__ import annotations

import re

from pine_ladder.core import plan
from pine_ladder.core.notation.reader.clause import Clause
from pine_ladder.core.notation.reader.counts import seconds
from pine_ladder.core.notation.reader.loads import load_of
from pine_ladder.core.notation.reader.parts import Part, merge_facts
from pine_ladder.core.notation.reader.pieces import MOST_COPIES

_TEMPO = (["tempo", "colon", "tempo code"], ["tempo", "tempo code"])
"""Kinds of token of a row that is no more than a tempo."""


def say_of_the_part(clause: Clause, part: Part, *, last: bool = False) -> bool:
    """Add what a row says to the part it stands in, as the last of its board or among others; False
    where nothing of it is left to take.
    """
    facts = clause.facts
    part.facts.slot = part.facts.slot or facts.slot
    kinds = [token.kind for token in clause.body if token.kind != "filler"]
    if kinds in (["time"], ["prime"]):
        _time_alone(clause, part)
    if part.fresh and facts.form in ("amrap", "emom", "tabata") and not part.facts.form:
        part.around = (part.facts.rounds or (0,))[0] if facts.length or facts.times else 0
    if facts.each_s and part.fresh and part.facts.form == "amrap" and not part.facts.length:
        facts.length = facts.each_s  # `3 couplets`, then `6 minutes each`
    _load_of_the_lift(clause, part)
    if kinds in _TEMPO:
        for work in part.works:
            work.tempo = work.tempo or str(clause.body[-1].value)
        return False
    if last and facts.rounds and part.works and not clause.works:
        part.closed = True  # `switch, 4 rounds each`
    if facts.scheme and part.facts.scheme and facts.scheme != part.facts.scheme:
        for work in clause.works:  # `10 to 1: thrusters`, `1 to 10: pull-ups`
            work.amount = work.amount or plan.Scheme(values=facts.scheme)
    if facts.scheme and not clause.works and not part.facts.frames:
        _before_steps(part)
    _rounds_below(clause, part)
    timed = any(isinstance(work.amount, plan.Duration) for work in part.works)
    if facts.form == "accumulate" and timed:
        facts.form = ""
    if facts.rests and len(clause.works) < 2:
        part.rests.append((len(part.works) + len(clause.works), facts.rest))
    merge_facts(part.facts, facts)
    if clause.marked("letter") and part.fresh and clause.label is not None:
        part.label = part.label or clause.label.value[0]
    return True


def _before_steps(part: Part) -> None:
    """Do work with an amount of its own that stands above steps once, before them: `1 km row`, then
    `21-15-9`.
    """
    own = all(
        work.amount is not None and not isinstance(work.amount, plan.Scheme) and not work.sets
        for work in part.works
    )
    for work in part.works if own else ():
        work.place = work.place or "buy-in"


def _time_alone(clause: Clause, part: Part) -> None:
    """Take a time that stands alone: to build in, a rest between sets, or a cap."""
    token = next(token for token in clause.body if token.kind in ("time", "prime"))
    facts, length = part.facts, seconds(token)
    sets = bool(facts.sets) or any(work.sets for work in part.works)
    raced = facts.form == "for time" or bool(facts.scheme)
    if facts.builds:
        facts.slot = length
    elif sets and not facts.form and not facts.rest:
        facts.rest = length  # `4 x 6`, then `2 min`
    elif raced and not facts.cap:
        if len(length) > 1:
            part.target = length[:2]  # `for time`, its work, `8-10 min`
            part.notes.append((clause.row.number, clause.typed))
        else:
            facts.cap = length[0]  # `21-15-9`, then `16 min`
    elif facts.form in ("emom", "amrap") and not (facts.length or facts.slot or facts.rounds):
        facts.length = length  # `EMOM`, its minutes, then `12 minutes`
    elif part.fresh and not (facts.frames or facts.slot or facts.length):
        facts.length = length  # `WOD`, then `in 20 minutes complete`
    else:
        return
    clause.works = []


def _rounds_below(clause: Clause, part: Part) -> None:
    """Take rounds that are told below work of the part: around it, or inside its own rounds."""
    row, facts = clause.row, clause.facts
    counts = facts.rounds and part.works and not (_has_rounds(part) or facts.every_s)
    part.closed |= bool(counts) and bool(facts.rest) and not clause.works  # `4 rounds, 90 s rest`
    part.closed |= bool(counts) and not re.search(r"[a-wyz]{2}", row.text, re.IGNORECASE)
    if part.facts.form == "amrap" and part.facts.rest and facts.rounds and not clause.works:
        part.facts.times, facts.rounds = part.facts.times or facts.rounds[0], ()
        return  # `3 min AMRAP: …`, `rest 1 min`, `repeat 5 times`
    inside = part.facts.form == "amrap" and (part.works or clause.works)
    if inside and 1 < (facts.rounds or (0,))[0] <= MOST_COPIES:
        first, more = len(part.works), len(clause.works)
        part.inner.append((facts.rounds[0], first, first + more if more else 0))
        part.rounds_indent, facts.rounds = row.indent, ()
    letter = clause.label.value[:1] if clause.label and clause.marked("letter") else ""
    if counts and part.label and letter == part.label:
        part.closed = True  # `C1 12 curls`, `C2 15 flyes (3 rounds)`
    if counts and not part.closed:
        part.rounds_indent = row.indent
        for one in part.works:
            one.place = one.place or "buy-in"


def _load_of_the_lift(clause: Clause, part: Part) -> None:
    """Give a lift without a load that of a row which says no more: `across @ 75 %`."""
    efforts = [token for token in clause.body if token.kind in ("percent", "rpe")]
    lift = part.works[-1] if part.works else None
    if len(efforts) != 1 or clause.works or clause.facts.frames or lift is None:
        return
    if lift.known is not None and lift.known.reference_kg and lift.load is None:
        lift.load = load_of(efforts[0])


def _has_rounds(part: Part) -> bool:
    """Whether a part is framed already by more than a clock that stops with its last rep."""
    facts = part.facts
    told = facts.rounds or facts.sets or facts.scheme or facts.builds or facts.ladder
    return bool(told) or facts.form not in ("", "for time")
