"""Works, sets of a lift that was named before, and words that a row puts into its part."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import pairwise

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.lexicon import special
from pine_ladder.core.notation.reader.openings import SENTENCE_END
from pine_ladder.core.notation.reader.parts import Part, all_counted, complete
from pine_ladder.core.notation.reader.work import Work, own_words

NAMED = 44
"""Characters of a row that may be a name alone."""


def fill(clause: Clause, part: Part, title_lift: Work | None, form: Form, library: Library) -> None:
    """Put a row's works and words into its part; `title_lift` is the lift that the title names."""
    row, facts, works, loose = clause.row, clause.facts, clause.works, clause.loose
    quoted = re.search(r'"([^"]{2,60})"', row.text)
    if quoted and not works and not part.name and part.number == row.number:
        part.name = row.typed[row.at + quoted.start(1) : row.at + quoted.end(1)].strip()
        loose = [one for one in loose if part.name not in one]
    station = station_of(clause, part)
    works = works or _at_a_station(clause, part, station)
    if not works and not facts.any and loose and _is_name(clause, part):
        start = clause.label.end if clause.label else 0
        name = own_words(row.typed[row.at + start : row.at + len(row.text)])
        works, loose = [Work(row.number, 0, name=name)], []
    if part.lift is None and part.fresh and not any(work.named for work in works):
        part.lift = title_lift
    works = _lifted(part, works, library)
    for before, work in pairwise(works if part.role in LOOSE else ()):
        if isinstance(before.amount, plan.Scheme):
            work.amount = work.amount or before.amount  # `10-8-6 of squats and push-ups`
    part.closing |= closes(clause, part)
    if clause.marked("block") and part.facts.times > 1 and clause.label is not None:
        part.block = int(clause.label.value) - 1
    for work in works:
        work.station, work.block = station, part.block
        if part.closing and work.named and not clause.facts.frames:
            work.place = "cash-out"
        framed = part.facts.form not in ("", "for time")
        if work.left_time and not framed and (part.facts.rounds or (1,))[0] > 1 and work.named:
            work.place = "cash-out"  # `4 rounds`, their work, `in the time left: max row`
        if work.left_time and part.facts.form == "amrap" and not isinstance(work.amount, plan.Max):
            for earlier in part.works:
                earlier.place = earlier.place or "buy-in"  # `1000 m row`, `rest of time 7 …`
        if facts.place and work.named:
            work.place = facts.place
    words = [one for one in loose if re.search(r"[a-z]{2}", one, re.IGNORECASE)]
    if works and words and part.number != row.number:
        works[0].notes[:0] = words
    elif words and not works and not facts.any:
        part.notes.append((row.number, clause.typed))
    works = [work for work in works if not _loads_another(work, part)]
    if part.fresh and works and row.first and row.number != part.number:
        part.works_indent = row.indent
        part.works_bullet = row.bullet and not part.typed.lstrip().startswith(tuple("-*•+"))
    if part.tier and works:
        part.sections.setdefault(part.tier, []).extend(works)
    else:
        part.works += [work for work in works if work.named]
    ways = {
        work.name for work in part.works if work.known and Pattern.ENGINE in work.known.patterns
    }
    if len(ways) == 1 and all(work.name in ways for work in part.works):
        form.last_way = ways.pop().removeprefix("easy ")


def _at_a_station(clause: Clause, part: Part, station: int | None) -> list[Work]:
    """The work of a station that names no movement: a rest, or calories on any machine."""
    rests = any(token.kind in ("rest", "off") for token in clause.body)
    turns = part.facts.form in ("intervals", "emom", "every") and len(clause.body) == 1
    if (station is not None or turns) and rests:
        return [Work(clause.row.number, 0, name="rest")]
    words = [token for token in clause.body if token.kind not in ("comma", "stop", "filler")]
    if station is not None and [token.kind for token in words] == ["cal"]:
        numbers, joint = words[0].value
        counted = plan.Calories(
            calories=tuple(int(number) for number in numbers[: 1 + (joint == "/")])
        )
        return [Work(clause.row.number, 0, name="machine", amount=counted)]  # `4. 15/12 cal`
    return []


def _loads_another(work: Work, part: Part) -> bool:
    """Give a movement of the part its load where a row below says no more: `thrusters 43/30`."""
    loaded = work.load is not None or work.bare is not None
    if work.amount is not None or work.sets or not loaded or work.known is None or part.tier:
        return False
    alike = [one for one in part.works if one.known is work.known and one.row != work.row]
    free = [
        work for work in alike if work.amount is not None and work.load is None and not work.bare
    ]
    for one in free:
        one.load, one.bare = work.load, work.bare
    return bool(free)


def _lifted(part: Part, works: list[Work], library: Library) -> list[Work]:
    """Sets without a movement under the lift they are sets of."""
    out: list[Work] = []
    for work in works:
        if work.named:
            out.append(work)
            continue
        lifts = (work for work in reversed(part.works) if work.known and work.known.reference_kg)
        lift = part.lift or next(lifts, part.works[-1] if part.works else None)
        if lift is None and out and work.sets:
            lift = out[-1]  # `Back squat`, then `1x5 @ 65 %, 3x5 @ 80 %`
        titled = lift is not None and lift is part.lift
        loads = lift is not None and lift.known is not None and lift.known.reference_kg
        if lift is not None and work.sets and not (titled or loads):
            lift = None
        if lift is None or (work.amount is None and work.load is None and not work.sets):
            continue
        if lift.name == "air squat":
            lift = replace(lift, name="back squat", known=library.find("back squat"))
        if lift in part.works and lift.amount is None and not lift.sets and _bare_sets(work):
            lift.amount, lift.sets = work.amount, work.sets  # `squat @ 80 %`, then `5 x 3`.
            lift.side, lift.tempo = lift.side or work.side, lift.tempo or work.tempo
            lift.notes += work.notes
            continue
        another = lift.amount is not None and work.amount is not None
        another = another and (work.load is not None or work.bare is not None)
        if part.lift is None and not (work.sets or another or isinstance(work.amount, plan.Scheme)):
            complete(lift, work)
            continue
        if lift in part.works and lift.amount is None and lift.load is None and not lift.sets:
            part.works.remove(lift)  # The heading named it; its sets are here.
        for way in work.notes if len(work.notes) == 1 else ():
            if (other := special(library, way.strip().lower(), lift.name)) is not None:
                lift = replace(lift, name=other, known=library.find(other))
                work.notes = []
        out.append(
            replace(work, name=lift.name, known=lift.known, parts=list(lift.parts), said=lift.said)
        )
    return out


def _bare_sets(work: Work) -> bool:
    """Whether a work is sets and reps without a load."""
    return bool(work.amount is not None and work.load is None and work.bare is None)


def closes(clause: Clause, part: Part) -> bool:
    """Whether a row goes on behind the rounds of its part: `then 50 burpees`."""
    kinds = [token.kind for token in clause.body if token.kind != "filler"]
    listed = part.listed
    part.listed = listed or (
        part.role in LOOSE and bool(clause.facts.rounds) and len(clause.works) > 1
    )
    if listed and clause.works and clause.row.first and clause.row.indent <= part.indent:
        return True
    rounds = bool(part.facts.rounds and part.facts.rounds[0] > 1) or bool(part.facts.scheme)
    counted = any(work.amount is not None for work in clause.works)
    if part.rounds_indent is not None and counted and clause.row.first:
        deeper = clause.row.indent > part.rounds_indent
        if part.within_rounds and not deeper:
            return True
        part.within_rounds = deeper
    windows = bool(part.facts.every_s)  # `every 4:00: 250 m ski, then 8 burpees`
    return kinds[:1] == ["then"] and rounds and counted and not (part.fresh or windows)


def station_of(clause: Clause, part: Part) -> int | None:
    """The station that a row's mark names, where the windows of its part turn."""
    label = clause.label
    if label is None or label.kind not in ("minute", "station", "number", "letter", "small"):
        return None
    if part.number == clause.row.number and label.kind != "minute" and clause.row.first:
        return None  # It names the part.
    short = len(label.value) == 1
    windows = part.facts.form in ("emom", "every")
    windows |= part.facts.form == "amrap" and part.facts.times > 1 and short
    turns = label.kind == "minute" or (windows and (short or label.kind != "letter"))
    station = None
    if turns and label.value.isdigit():
        station = int(label.value)
    elif turns and short:
        station = ord(label.value) - 96
    lists = label.kind != "letter" or short
    part.stations |= lists or station is not None
    return station


def _is_name(clause: Clause, part: Part) -> bool:
    """Whether words alone name a movement: where the piece gives the amounts."""
    row, body = clause.row, clause.body
    given = part.facts.scheme or part.facts.form in (
        "intervals", "tabata", "emom", "every", "death"
    )  # fmt: skip
    words = [token for token in body if token.kind in ("word", "implement", "style", "movement")]
    few = 5
    if not given or not words or len(words) > few or part.role == "finisher":
        return False
    listed = bool(part.works) and all(work.row == part.number for work in part.works)
    listed = listed or all_counted(part.works)
    plain = clause.label is None and not row.bullet
    if listed and plain and all(token.kind == "word" for token in words):
        return False  # `Tabata squats`, then `stay tight`
    if len(words) < len([token for token in body if token.kind != "dash"]):
        return False
    if SENTENCE_END.search(row.text) or len(row.text.strip()) > NAMED or "," in row.text:
        return False
    return clause.label is not None or row.bullet or not row.gap
