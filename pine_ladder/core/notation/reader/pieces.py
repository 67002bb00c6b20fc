"""A part as a piece of the plan: its format, its role, its modifiers and its lines."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import line_text
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.formats import format_of
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.roles import Place, role_of
from pine_ladder.core.notation.reader.set_loads import percents_behind
from pine_ladder.core.notation.reader.tiers import closest, instead_of
from pine_ladder.core.notation.reader.work import Work, settle
from pine_ladder.core.plan import Role

MINUTE_S = 41
"""Seconds of work from which on lines of an EMOM are taken to alternate: two thirds of a minute."""
CAL_S = 3.0
"""Seconds of a calorie, to tell whether lines fit into a minute."""
MOST_COPIES, MOST_TEAM = 12, 12
_AROUND = ("buy-in", "cash-out")
_CAPPED = plan.ForTime | plan.Rounds | plan.Sets | plan.Accumulate


def piece_of(part: Part, library: Library, at: int, of: int) -> plan.Piece:
    """The plan's piece of a part that stands at a place (from 0) among so many."""
    if part.rest_only:
        length = part.facts.rest[0] if part.facts.rest else 60
        return plan.Piece(
            line=part.number, role=Role.REST, format=plan.Rest(length_s=max(1, length))
        )
    for work in part.works:
        settle(work, library)
    _join_sections(part, library)
    if of > 1 and all(work.place == "buy-in" for work in part.works):
        for work in part.works:
            work.place = ""  # `We start with 10 min row.` Nothing follows in its piece.
    _rest_in_place(part)
    _stations_in_turn(part)
    _ends_as_begun(part)
    percents_behind(part)
    _sets_of_their_own(part)
    _lifts_together(part)
    _write_out(part)
    _ladder_told(part)
    main = [work for work in part.works if work.place not in _AROUND]
    form = format_of(part, main)
    main = [work for work in part.works if work.place not in _AROUND]
    return plan.Piece(
        line=part.number,
        role=role_of(part, main, form, Place(at, of)),
        name=re.sub(r'["#:]', " ", part.name).strip() or None,
        format=form,
        blocks=_blocks(part, main, form),
        buy_in=tuple(_line([work]) for work in part.works if work.place == "buy-in"),
        cash_out=tuple(_line([work]) for work in part.works if work.place == "cash-out"),
        **_modifiers(part, form),
    )


def _ends_as_begun(part: Part) -> None:
    """Do what steps begin with once more behind them, where it stands there too: `400 m run`,
    `15-12-9`, their work, `400 m run`.
    """
    begun = [work for work in part.works if work.place == "buy-in"]
    last = part.works[-1] if part.works else None
    if last is None or not begun or not part.facts.scheme or last.place:
        return
    same = (last.known, last.amount) == (begun[0].known, begun[0].amount)
    stepped = [work for work in part.works if not work.place and work is not last]
    if same and len(begun) == 1 and stepped and all(work.amount is None for work in stepped):
        last.place = "cash-out"


def _lifts_together(part: Part) -> None:
    """Make a complex of lifts without numbers that stand in one row of a piece of windows: `every
    90 s`, then `squat clean, squat clean, jerk`.
    """
    bare = [work for work in part.works if work.amount is None and not (work.sets or work.parts)]
    lifts = all(work.known is not None and work.known.reference_kg for work in part.works)
    together = len({work.row for work in part.works}) == 1 and len(part.works) > 1
    stations = any(work.station for work in part.works)
    windows = part.facts.form in ("every", "emom") and not (part.facts.each or stations)
    if not (windows and lifts and together and len(bare) == len(part.works)):
        return
    first, once = part.works[0], plan.Reps(low=1)
    loads = [work for work in part.works if work.load is not None or work.bare is not None]
    parts = [replace(work, amount=once, load=None, bare=None, notes=[]) for work in part.works]
    notes = [note for work in part.works for note in work.notes]
    part.works = [replace(first, name="", known=None, parts=parts, notes=notes, amount=once)]
    if loads:
        part.works[0].load, part.works[0].bare = loads[-1].load, loads[-1].bare


def _modifiers(part: Part, form: plan.Format) -> dict[str, Any]:
    """Modifiers of the piece, as far as the format bears it."""
    facts = part.facts
    values: dict[str, Any] = {}
    if facts.rest and facts.rest[0] > 0:
        high = facts.rest[1] if len(facts.rest) > 1 and facts.rest[1] > facts.rest[0] else None
        values["rest"] = plan.Span(low_s=facts.rest[0], high_s=high)
    elif facts.rest_as_needed:
        values["rest_as_needed"] = True
    cap = facts.cap or (facts.slot[-1] if facts.slot else 0)
    if cap and isinstance(form, _CAPPED):
        values["cap_s"] = cap
    if facts.builds and isinstance(form, plan.Sets | plan.Every):
        values["build"] = True
    kind = _measured(part, form)
    if kind and not (facts.score or facts.quality):
        values["score"] = kind
    values |= {name: value for name, value in facts.fields.items() if _bears(name, form)}
    if facts.score:
        values["score"] = plan.ScoreKind(facts.score)
    elif facts.quality or (isinstance(form, plan.Accumulate) and not part.alone):
        values["for_quality"] = True
    if facts.grow and isinstance(form, plan.Amrap | plan.Every):
        values["grow_reps"] = facts.grow
    if facts.form == "death":
        values["grow_reps"], values["until_missed"] = facts.grow or 1, True
    if facts.team > 1:
        size = min(facts.team, MOST_TEAM)
        values["teams"] = plan.Teams.model_validate({"size": size, "how": facts.how or "share"})
    elif facts.how and facts.how != "share":
        values["teams"] = plan.Teams.model_validate({"size": 2, "how": facts.how})
    if part.target and isinstance(form, plan.ForTime | plan.Rounds):
        low, high = part.target
        values["target"] = plan.Target(unit="time", low=low, high=high)
    return values


def _bears(name: str, form: plan.Format) -> bool:
    """Whether a format bears a modifier of its own words."""
    windows = isinstance(form, plan.Every | plan.Emom)
    return windows if name in ("work_s", "aim_s", "until_missed") else True


def _measured(part: Part, form: plan.Format) -> plan.ScoreKind | None:
    """The score that maximums ask for: calories or metres where they are said, reps in rounds."""
    said = {work.measured for work in part.works if work.measured}
    most = [work for work in part.works if work.most]
    if part.facts.most:
        return plan.ScoreKind.TOTAL_REPS
    if isinstance(form, plan.Rounds) and most and len(most) == len(part.works):
        return plan.ScoreKind.TOTAL_REPS
    if len(said) == 1 and isinstance(form, plan.Amrap | plan.Intervals):
        return plan.ScoreKind(said.pop())
    return None


def _blocks(part: Part, main: Sequence[Work], form: plan.Format) -> tuple[plan.Block, ...]:
    windowed = isinstance(form, plan.Every | plan.Emom)
    if (
        isinstance(form, plan.Emom)
        and not any(work.station for work in main)
        and (part.facts.in_turn or _turn(main))
    ):
        for number, one in enumerate(main, start=1):
            one.station = number
    several = sorted({work.block for work in main})
    if len(several) > 1:
        of_each = [[work for work in main if work.block == block] for block in several]
        for works in of_each:
            for one in works:
                one.block = several[0]
        return tuple(block for works in of_each for block in _blocks(part, works, form)[:1])
    groups: list[list[Work]] = []
    if windowed and all(work.station for work in main):
        main = sorted(main, key=lambda work: work.station or 0)  # `even: …, odd: …`
    for one in main:
        last = groups[-1] if groups else []
        same = windowed and one.station is not None and last and last[0].station == one.station
        if last and (same or (one.joined and last[-1].row == one.row)):
            last.append(one)
        else:
            groups.append([one])
    if not groups:
        return ()
    lines = tuple(map(_line, groups))
    numbered = windowed and any(group[0].station is not None for group in groups)
    block = plan.Block(line=part.number, lines=lines, numbered=numbered)
    rows = sorted({group[0].row for group in groups})
    if part.stations and part.facts.times == len(rows) > 1:
        # `3 x AMRAP 5`, then `1. …`, `2. …`, `3. …`: each row is a block of its own.
        of_row = [tuple(line for line in lines if line.line == row) for row in rows]
        return tuple(plan.Block(line=row, lines=of) for row, of in zip(rows, of_row, strict=True))
    stations = sorted({group[0].station or 0 for group in groups})
    if part.facts.times > 1 and isinstance(form, plan.Amrap) and min(stations) > 0:
        # `6 x 3:00 on / 1:30 off`, `odd: …`, `even: …`: the stations take turns.
        of_station = [
            tuple(
                line
                for line, group in zip(lines, groups, strict=True)
                if group[0].station == station
            )
            for station in stations
        ]
        often = min(part.facts.times, MOST_COPIES)
        turns = [of_station[turn % len(stations)] for turn in range(often)]
        return tuple(plan.Block(line=part.number, lines=turn) for turn in turns)
    if part.facts.times > 1 and isinstance(form, plan.Amrap | plan.Intervals):
        return (block,) * min(part.facts.times, MOST_COPIES)
    if isinstance(form, plan.Tabata) and len(lines) > 1:
        return tuple(plan.Block(line=line.line, lines=(line,)) for line in lines)
    return (block,)


def _turn(main: Sequence[Work]) -> bool:
    """Whether the lines of minutes take turns: what all of them ask would not fit in one."""
    if len(main) < 2 or any(work.joined for work in main):
        return False
    if any(isinstance(work.amount, plan.Max) for work in main):
        return True
    return sum(map(_seconds, main)) > MINUTE_S


def _seconds(work: Work) -> float:
    """About how long a work takes, by the library's usual rep."""
    amount, rep = work.amount, work.known.seconds if work.known is not None else 0.0
    match amount:
        case plan.Duration():
            return float(amount.seconds)
        case plan.Reps():
            return amount.low * rep
        case plan.Calories():
            return CAL_S * amount.calories[0]
        case plan.Distance():
            return amount.metres[0] * rep
    return 0.0


def work_lines(works: Sequence[Work], form: str) -> list[str]:
    """Works as lines of exact notation, those of a station in one line."""
    turns = form in ("emom", "every")
    groups: list[list[Work]] = []
    for work in works:
        station = turns and work.station is not None
        if groups and (station or work.joined):
            groups[-1].append(work)
        else:
            groups.append([work])
    marks = [f"{group[0].station}) " if turns and group[0].station else "" for group in groups]
    return [mark + line_text(_line(group)) for mark, group in zip(marks, groups, strict=True)]


def _line(works: Sequence[Work]) -> plan.Line:
    """Works that are done together as one line; `rest` alone as a rest."""
    if len(works) == 1 and works[0].name == "rest":
        return plan.Line(line=works[0].row)
    real = [work for work in works if work.name != "rest"]
    return plan.Line(line=works[0].row, tasks=tuple(map(_task, real)))


def _task(work: Work) -> plan.Task:
    versions = [_clean(work.exercise())]
    for rank in range(1, max(work.tiers, default=0) + 1):
        other = work.tiers.get(rank)
        versions.append(_clean(other.exercise()) if other is not None else versions[-1])
    return plan.Task(versions=tuple(versions))


def _clean(exercise: plan.Exercise) -> plan.Exercise:
    """An exercise within what a line can hold; what is not becomes its note."""
    amount = exercise.amount
    if isinstance(amount, plan.Scheme) and min(amount.values) < 1:
        said = "-".join(map(str, amount.values))
        note = "; ".join(one for one in (said, exercise.note) if one)
        return exercise.model_copy(update={"amount": None, "note": note})
    if isinstance(amount, plan.Reps) and amount.low < 1:
        return exercise.model_copy(update={"amount": None})
    return exercise


def _sets_of_their_own(part: Part) -> None:
    """Sets of one lift whose numbers or loads differ, `3 x 2 @ 70 %`, `2 x 1 @ 85 %`, written out
    one after the other; sets of one work among others without are told beside it.
    """
    works = [work for work in part.works if work.named]
    counted = [work for work in works if work.sets]
    alone = len({work.name for work in works}) == 1
    if alone and counted and len(counted) < len(works) and not part.facts.sets:
        single = [work for work in works if not work.sets]
        if all(work.amount is not None and work.load is not None for work in works):
            for one in single:
                one.sets = (1,)
            counted = works
    numbers = {work.sets[0] for work in counted}
    loads = [work.load for work in works if work.load is not None]
    own = len(loads) == len(works) and all(loads.count(load) == 1 for load in loads)
    own = own and max(numbers, default=0) > 1
    differ = len(numbers) > 1 or own
    in_all = sum(work.sets[0] for work in counted)
    if alone and not counted and len(loads) == len(works) == part.facts.window_count > 1:
        for work in works:
            work.sets = (1,)  # `every 3:00 x 3: 2 clean pulls @ 70/75/80 %`
        counted, in_all = works, len(works)
    if alone and len(counted) == len(works) > 1 and part.facts.window_count == in_all <= MOST_SETS:
        part.works = [
            replace(work, sets=(), tiers=dict(work.tiers))
            for work in works
            for _ in range(work.sets[0])
        ]
        part.facts.windows, part.facts.rounds, part.facts.sets = (1,), (), ()
        for number, work in enumerate(part.works, start=1):
            work.station = number  # `every 2:30 x 7: 2x5 @ 65 %, 2x4 @ 75 %, 3x3 @ 80 %`
        return
    if alone and len(counted) == len(works) > 1 and differ and not part.facts.form:
        if sum(work.sets[0] for work in works) > MOST_SETS:
            return
        part.works = [
            replace(work, sets=(), tiers=dict(work.tiers))
            for work in works
            for _ in range(work.sets[0])
        ]
        part.facts.rounds = (1,)
    elif len(counted) == 1 and len(works) > 1 and part.role in LOOSE and not part.facts.sets:
        one = counted[0]
        one.notes.append(f"{one.sets[0]} sets")
        one.sets = ()


_GOES_ON = re.compile(
    r"\b(?:and so on|etc|and so forth|keep going|continue|up by)\b|\.\.\s*$|…", re.IGNORECASE
)
FEWEST_STEPS = 3
"""Steps of a ladder that need no word to go on."""


def _ladder_told(part: Part) -> None:
    """`3 thrusters, 3 pull-ups, 6 thrusters, 6 pull-ups, …` as a step and what each adds."""
    works = part.works
    if part.facts.form != "amrap" or part.facts.grow:
        return
    names = [work.name for work in works]
    size = names.index(names[0], 1) if names[:1] and names[0] in names[1:] else 0
    if not size or len(works) % size or names != names[:size] * (len(works) // size):
        return
    steps = [works[at : at + size] for at in range(0, len(works), size)]
    if not all(isinstance(work.amount, plan.Reps) for work in works):
        return
    counts = [
        [one.amount.low for one in step if isinstance(one.amount, plan.Reps)] for step in steps
    ]
    rises = {
        after - before
        for count, two in pairwise(counts)
        for before, after in zip(count, two, strict=True)
    }
    told = any(_GOES_ON.search(note) for _, note in part.notes) or part.facts.endless
    if len(rises) != 1 or min(rises) < 1 or not (told or len(steps) >= FEWEST_STEPS):
        return
    part.facts.grow = rises.pop()
    part.works = works[:size]


MOST_SETS = 20


def _write_out(part: Part) -> None:
    """Work that is done in rounds of its own inside each round, written out; work that stands
    before such rounds and again behind them closes the piece.
    """
    for often, first, till in reversed(part.inner):
        last = [at for at, work in enumerate(part.works) if work.place == "cash-out"]
        end = till or (last[0] if last else len(part.works))
        inside = part.works[first:end]
        more = [
            replace(token, row=inside[-1].row, tiers=dict(token.tiers))
            for _ in range(often - 1)
            for token in inside
        ]
        for one in part.works[end:]:
            one.place = ""
        part.works[end:end] = more
    main = [work for work in part.works if work.place not in _AROUND]
    if part.rounds_indent is None or len(main) < 2 or main[-1] is not part.works[-1]:
        return
    end_of_all = main[-1]
    opening = [work for work in part.works if work.place == "buy-in"]
    if any((work.name, work.amount) == (end_of_all.name, end_of_all.amount) for work in opening):
        end_of_all.place = "cash-out"


def _stations_in_turn(part: Part) -> None:
    """Make a station of each row below windows that are told to alternate: `every 2 min x 10,
    alternating`, `5 pull-ups`, `30 s plank`.
    """
    if part.facts.form != "every" or not part.facts.in_turn:
        return
    rows = sorted({work.row for work in part.works} - {part.number})
    if len(rows) > 1 and not any(work.station for work in part.works):
        for work in part.works:
            work.station = 1 + rows.index(work.row) if work.row in rows else None


def _rest_in_place(part: Part) -> None:
    """Rests in several places of a round stand behind the works they follow; one behind the last
    work alone is the rest between rounds.
    """
    if len({place for place, _ in part.rests if place}) > 1:
        for place, length in part.rests:
            if place > len(part.works):
                continue  # A row that gave another its load.
            part.works[place - 1].rest_s = length[0] if length else None
        part.facts.rest = ()
    _in_intervals(part)
    resting = [work for work in part.works if work.rest_s]
    sets = part.facts.form == "" and not part.facts.scheme
    if sets and resting == part.works[-1:] and resting and not part.facts.rest:
        part.facts.rest = (part.works[-1].rest_s or 0,)
        part.works[-1].rest_s = None


def _in_intervals(part: Part) -> None:
    """Make intervals of lines that are all done for one time with one rest behind each: `4 sets`,
    `40 s plank, 20 s rest`, `40 s hollow hold, 20 s rest`.
    """
    facts, works = part.facts, part.works
    times = {work.amount.seconds for work in works if isinstance(work.amount, plan.Duration)}
    rests = {work.rest_s for work in works}
    timed = all(isinstance(work.amount, plan.Duration) and not work.side for work in works)
    if len(works) < 2 or not timed or len(times) > 1 or len(rests) > 1 or None in rests:
        return
    if facts.form or not (facts.sets or facts.rounds):
        return
    facts.form, facts.work_s, facts.off_s = "intervals", times.pop(), rests.pop()
    facts.rounds, facts.sets = facts.rounds or facts.sets, ()
    for work in works:
        work.amount = work.rest_s = None


def _join_sections(part: Part, library: Library) -> None:
    """Give the works of the first version what the sections of other tiers say, in order."""
    if not part.sections:
        return
    if not part.works:
        part.works = part.sections.pop(min(part.sections))
    for tier, works in part.sections.items():
        for other in works:
            settle(other, library)
        for work, other in _stand_ins(part.works, works, tier, library):
            work.tiers[max(1, tier)] = other


def _stand_ins(
    works: Sequence[Work], others: Sequence[Work], tier: int, library: Library
) -> Iterator[tuple[Work, Work]]:
    """Works with what a tier does instead of each: one by one where a section tells them all,
    otherwise those that are most alike.
    """
    if len(others) >= len(works):
        for work, other in zip(works, others, strict=False):
            if other.named:
                yield work, replace(other, tiers={})
        return
    for other in others:
        like = closest(other, works, tier, library) if other.named else None
        if like is not None:
            yield like, instead_of(like, other, None, library)
