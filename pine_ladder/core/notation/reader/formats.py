"""The format of a part, from what was said of it and of its works.

Each rule answers with a format or leaves it to the next; what only the works say (sets, schemes,
times) comes last.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Literal

from pine_ladder.core import plan
from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation.reader.borders import LIFTING, LOOSE, MOST_OF_A_SET
from pine_ladder.core.notation.reader.facts import Range
from pine_ladder.core.notation.reader.parts import Part, is_soft
from pine_ladder.core.notation.reader.work import Work

SETS_TO_BUILD = 5
"""Sets of a piece that builds to a heavy one where nobody says how many (common practice)."""
HEAVY_REPS = 5
"""Reps of a set up to which sets of one lift are strength without a word of it."""
WINDOW_S = 300
"""Seconds with a lift from which on they are the time to build up in, and no hold."""
LONG_S = 90
"""An interval from this on holds rounds of what is under it, a shorter one one line of it."""
Works = Sequence[Work]


def format_of(part: Part, main: Works) -> plan.Format:
    """How a part is timed; one round where nothing says it."""
    _ladder(part, main)
    if part.facts.each and not (part.facts.sets or part.facts.every_s):
        for one in main:
            one.amount = one.amount or plan.Reps(low=part.facts.each[0])
    if part.facts.most and not part.facts.form:
        for work in main:
            work.amount = work.amount or plan.Max()
    found = (rule(part, main) for rule in RULES)
    return next((one for one in found if one is not None), plan.Rounds(low=1))


def _high(range_: Range) -> int | None:
    return range_[1] if len(range_) > 1 and range_[1] > range_[0] else None


def _length(part: Part) -> Range:
    """The seconds of a part: its own, or its place in the hour."""
    return part.facts.length or part.facts.slot


def _stations(main: Works) -> int:
    return len({work.station for work in main if work.station}) or 1


def _sets(part: Part, main: Works) -> Range:
    """The sets of a part: said of it, or by most of its works."""
    if part.facts.sets:
        return part.facts.sets
    counter = Counter(work.sets[0] for work in main if work.sets)
    if counter:
        return (counter.most_common(1)[0][0],)
    schemes = [work.amount for work in main if isinstance(work.amount, plan.Scheme)]
    lifts = all(work.known and work.known.reference_kg for work in main)
    lifts = lifts or (len(main) == 1 and bool(schemes) and len(set(schemes[0].values)) == 1)
    even = all(
        len(set(scheme.values)) == 1 and scheme.values[0] <= MOST_OF_A_SET for scheme in schemes
    )
    lifts = lifts or (
        even and len({len(scheme.values) for scheme in schemes}) == 1 and len(main) > 1
    )
    if schemes and len(schemes) == len(main) and (part.role in LIFTING or lifts):
        return (len(schemes[0].values),)
    return ()


def _climbs_on(steps: Sequence[int]) -> bool:
    """Whether steps rise by the same number each time."""
    rises = {after - before for before, after in pairwise(steps)}
    return len(steps) > 2 and len(rises) == 1 and min(rises) > 0


def _ladder(part: Part, main: Works) -> None:
    """`2-4-6-…`: the first step, and what each round adds."""
    facts = part.facts
    first = main[0].amount if main else None
    shared = facts.form == "amrap" and len(main) > 1 and not facts.scheme
    shared = shared and all(work.amount in (None, first) for work in main)
    if shared and isinstance(first, plan.Scheme) and _climbs_on(first.values):
        facts.scheme = first.values  # `AMRAP 7`, `3-6-9-12 of pull-ups and squats`
        for work in main:
            work.amount = None
    facts.endless |= facts.form == "amrap" and _climbs_on(facts.scheme)
    if not facts.endless or len(facts.scheme) < 2:
        return
    facts.grow = facts.grow or facts.scheme[1] - facts.scheme[0]
    for one in main:
        one.amount = one.amount or plan.Reps(low=facts.scheme[0])
    if not facts.form:
        facts.form = "amrap" if _length(part) or facts.cap else "for time"
    if facts.form == "amrap" and not _length(part):
        facts.length = (facts.cap,)


def _death(part: Part, main: Works) -> plan.Format | None:
    if part.facts.form != "death":
        return None
    for one in main:
        one.amount = one.amount or plan.Reps(low=1)
    return plan.Every(interval_s=60, rounds=None)


def _fills(work: Work) -> bool:
    """Whether as much of it is done as fits into what is left of the time."""
    return work.left_time and isinstance(work.amount, plan.Max)


def _amrap(part: Part, main: Works) -> plan.Format | None:
    length = _length(part)
    if part.facts.form != "amrap" or not length or length[0] <= 0:
        return None
    if part.facts.rest and not part.facts.times:
        # `4 sets`, `AMRAP 3`, `rest 1 min between sets`: so many blocks.
        part.facts.times = (part.facts.sets or part.facts.rounds or (part.around,))[0]
    if any(map(_fills, main)):
        # `max burpees in the time left`: a window, and what is left of it.
        return plan.Every(interval_s=length[0], rounds=max(1, part.facts.times))
    if len(main) == 1 and main[0].amount is None and main[0].named:
        main[0].amount = plan.Max()  # `5 min AMRAP burpees`
    return plan.Amrap(length_s=length[0], high_s=_high(length))


def _emom(part: Part, main: Works) -> plan.Format | None:
    if part.facts.form != "emom":
        return None
    length, sets = _length(part), _sets(part, main)
    if part.facts.rounds and not part.facts.length:
        length = (60 * part.facts.rounds[0] * _stations(main),)
    if sets and not part.facts.length:
        length = (60 * sets[0],)  # `8 x 2 @ 60 %, EMOM`: a set a minute.
    return plan.Emom(length_s=length[0], high_s=_high(length)) if length else None


def _every(part: Part, main: Works) -> plan.Format | None:
    facts = part.facts
    if facts.form != "every" or not facts.every_s:
        return None
    for one in main if facts.each else ():
        one.amount = one.amount or plan.Reps(low=facts.each[0])
    rounds, high = _windows(part, main)
    as_said = bool(facts.windows) and rounds == facts.windows[0]
    turn = _stations(main) > 1 and not as_said
    return plan.Every(interval_s=facts.every_s, rounds=rounds, high=high, said=turn)


def _windows(part: Part, main: Works) -> tuple[int, int | None]:
    """How often the windows of a part come round, and how often at most."""
    facts, stations = part.facts, _stations(main)
    if facts.windows:
        low = facts.windows[0]
        in_turn = stations > 1 and low > stations and low % stations == 0
        return low // stations if in_turn else low, _high(facts.windows)
    if facts.total_s:
        return max(1, facts.total_s // facts.every_s // stations), None
    if facts.rounds:
        low = facts.rounds[0]
        turns = facts.in_turn and stations > 1 and low % stations == 0
        return low // stations if turns else low, _high(facts.rounds)
    if sets := _sets(part, main):
        return sets[0], None
    length = _length(part)
    return (max(1, length[0] // facts.every_s // stations) if length else 1), None


def _intervals(part: Part, main: Works) -> plan.Format | None:
    facts = part.facts
    if facts.form != "intervals":
        return None
    window_s = facts.work_s + (facts.off_s or 0)
    stations = max(1, len(main))
    fills = facts.slot and window_s and facts.slot[0] % (window_s * stations) == 0
    often = (facts.slot[0] // (window_s * stations),) if fills else ()
    rounds = (facts.rounds or _sets(part, main) or often or (1,))[0]
    windows = rounds
    whole = rounds > stations or (rounds == stations and facts.rounds and facts.work_s >= LONG_S)
    if part.stations and whole and stations > 1 and rounds % stations == 0:
        rounds //= stations  # `10 x 30/30` over five stations: two rounds of them
    counts = plan.Reps | plan.Calories | plan.Distance
    counted = [work for work in main if isinstance(work.amount, counts)]
    if facts.work_s >= LONG_S and len(counted) > 1 and (facts.off_s or not part.stations):
        # So long at several amounts in turn: rounds of them, block by block.
        facts.times = windows if any(work.station for work in main) else rounds
        facts.rest = facts.rest or ((facts.off_s,) if facts.off_s else ())
        return plan.Amrap(length_s=facts.work_s)
    return plan.Intervals(
        work_s=max(1, facts.work_s),
        rest_s=facts.off_s or 0,
        rounds=rounds,
        high=_high(facts.rounds),
    )


def _tabata(part: Part, main: Works) -> plan.Format | None:
    del main
    if part.facts.form != "tabata":
        return None
    return plan.Tabata(high=_high(part.facts.rounds))


def _accumulate(part: Part, main: Works) -> plan.Format | None:
    if part.facts.form != "accumulate":
        return None
    counted = [work for work in main if isinstance(work.amount, plan.Reps | plan.Calories)]
    if part.facts.team and len(counted) > 1 and part.facts.slot:
        part.facts.cap, part.facts.slot = part.facts.cap or max(part.facts.slot), ()
        return plan.ForTime()  # `Teams of 4, in 25 min accumulate 200 cal row, 200 cleans`
    return plan.Accumulate()


def _build(part: Part, main: Works) -> plan.Format | None:
    facts = part.facts
    if not facts.builds or facts.form:
        return None
    if facts.heavier and not any(work.amount is None for work in main):
        return None
    for one in main:
        if isinstance(one.amount, plan.Duration) and one.amount.seconds >= WINDOW_S:
            # `snatch 1RM, 20 min`: the time to find it in.
            facts.slot, one.amount = facts.slot or (one.amount.seconds,), None
        if one.amount is None and (facts.build or one.known):
            one.amount = plan.Reps(low=facts.build or (facts.each or (1,))[0])
    sets = _sets(part, main)
    return plan.Sets(low=sets[0] if sets else SETS_TO_BUILD)


def _scheme(part: Part, main: Works) -> plan.Format | None:
    facts = part.facts
    if not facts.scheme or (facts.form != "for time" and _sets(part, main)):
        return None
    lift = len(main) == 1 and main[0].known is not None and main[0].known.reference_kg
    repeats = len(set(facts.scheme)) < len(facts.scheme)
    heavy = lift and max(facts.scheme) <= HEAVY_REPS and repeats
    lifting = part.role == "strength" or (heavy and not part.role)
    if lifting and facts.form != "for time" and all(work.amount is None for work in main):
        for one in main:
            one.amount = plan.Scheme(values=facts.scheme)
        return plan.Sets(low=len(facts.scheme))
    for one in main:
        if isinstance(one.amount, plan.Scheme) and one.amount.values == facts.scheme:
            _without_steps(one)
        one.amount = _the_other_way(one.amount, facts.scheme)
    if any(_counts_calories(work) for work in main):
        return _in_calories(main, facts.scheme)
    return plan.ForTime(scheme=facts.scheme)


def _without_steps(work: Work) -> None:
    """Take the steps away that the heading of the piece says, from every tier's version too."""
    steps = work.amount
    for one in (work, *work.tiers.values()):
        one.amount = None if one.amount == steps else one.amount


def _the_other_way(amount: plan.Amount | None, steps: Sequence[int]) -> plan.Amount | None:
    """`10-1 swings`, `1-10 burpees`: the steps of a scheme from its end; any other amount as is."""
    back = tuple(reversed(steps))
    if isinstance(amount, plan.Reps) and (amount.low, amount.high) == (back[0], back[-1]):
        return plan.Scheme(values=back)
    return amount


_CALORIES = ("cal", "cals", "calories", "calorie")


def _counts_calories(work: Work) -> bool:
    """Whether the steps of a scheme are calories of a work: `21-15-9`, `cal row`."""
    return work.amount is None and any(map(_says_calories, work.notes))


def _says_calories(note: str) -> bool:
    """Whether a note says calories, of `cal row` or `cal air bike`."""
    return note.strip(" ()").lower().split()[:1] in [[word] for word in _CALORIES]


def _in_calories(main: Works, steps: Sequence[int]) -> plan.Format:
    """Rounds in which each work has its steps of a scheme, some of them in calories."""
    for one in main:
        unit: Literal["cal", "reps"] = "cal" if _counts_calories(one) else "reps"
        if unit == "cal":
            one.notes = [
                note.strip(" ()").partition(" ")[2] if _says_calories(note) else note
                for note in one.notes
            ]
        one.amount = one.amount or plan.Scheme(values=tuple(steps), unit=unit)
    return plan.ForTime(rounds=len(steps))


def _for_time(part: Part, main: Works) -> plan.Format | None:
    facts = part.facts
    if facts.form != "for time":
        return None
    first = main[0].amount if main else None
    steps = len(first.values) if isinstance(first, plan.Scheme) else 0
    # `for time: 21-15-9 thrusters, pull-ups`, which are three rounds.
    whole = steps and (not facts.rounds or facts.rounds[0] == steps)
    if whole and (form := _by_the_first(part, main)) is not None:
        return form
    if often := facts.rounds or facts.sets:
        return plan.ForTime(rounds=often[0])
    sets = _sets(part, main)
    if sets and all(work.sets for work in main):
        return plan.ForTime(rounds=sets[0])
    schemes = [work.amount for work in main if isinstance(work.amount, plan.Scheme)]
    if schemes and len(schemes) == len(main):
        if len({scheme.values for scheme in schemes}) > 1:
            return plan.ForTime(rounds=len(schemes[0].values))
        for one in main:
            _without_steps(one)
        return plan.ForTime(scheme=schemes[0].values)
    return plan.ForTime()


def _by_the_first(part: Part, main: Works) -> plan.Format | None:
    """A scheme on the first line alone is that of all: `15-12-9 cal bike, push-ups`."""
    first = main[0].amount if main else None
    if part.role in LIFTING or len(main) < 2 or not isinstance(first, plan.Scheme):
        return None
    steps = first.values
    falls = steps[0] > HEAVY_REPS and list(steps) == sorted(set(steps), reverse=True)
    ways = [work for work in main[1:] if isinstance(work.amount, plan.Distance)]
    if len(main) - len(ways) < 2 or (ways and not falls):
        return None  # `10-8-6-4-2 deadlifts and burpees, a 200 m run after each round`
    if any(work.amount is not None for work in main[1:] if work not in ways):
        return None
    if first.unit == "cal":
        _by_rounds(part, main, first)
        return plan.ForTime()
    _without_steps(main[0])
    if any(map(_counts_calories, main)):
        return _in_calories(main, first.values)
    return plan.ForTime(scheme=first.values)


def _by_rounds(part: Part, main: Works, first: plan.Scheme) -> None:
    """Write a scheme of calories that is said on the first line out, round by round."""
    at = part.works.index(main[0])
    around = [work for work in part.works if work not in main]
    out = []
    for step in first.values:
        out.append(replace(main[0], amount=plan.Calories(calories=(step,))))
        out += [replace(work, amount=plan.Reps(low=step)) for work in main[1:]]
    last = max(work.row for work in main)
    for work in out[len(main) :]:
        work.row = last  # In the order they are done, whatever lines said them.
    part.works[:] = [*around[:at], *out, *around[at:]]


def _falling(part: Part, main: Works) -> plan.Format | None:
    """`50-40-30 double-unders`, `25-20-15 toes-to-bar`, with no word of a format: for time."""
    steps = [work.amount.values for work in main if isinstance(work.amount, plan.Scheme)]
    if part.role in (*LOOSE, *LIFTING) or len(steps) < max(2, len(main)):
        return None
    alike = len({len(step) for step in steps}) == 1 and len(steps[0]) > 2
    falls = all(step[0] > HEAVY_REPS * 2 and list(step) == sorted(step)[::-1] for step in steps)
    return plan.ForTime(rounds=len(steps[0])) if alike and falls else None


def _in_sets(part: Part, main: Works) -> plan.Format | None:
    facts, sets = part.facts, _sets(part, main)
    if not sets:
        return None
    engine = bool(main) and all(
        work.known
        and Pattern.ENGINE in work.known.patterns
        and not isinstance(work.amount, plan.Reps)
        for work in main
    )
    if engine and part.role not in (*LOOSE, *LIFTING):
        amount = main[0].amount
        if len(main) == 1 and isinstance(amount, plan.Duration):
            # `4 x 4 min row, 2 min easy between`
            off_s, main[0].amount, facts.rest = (facts.rest or (0,))[0], None, ()
            return plan.Intervals(work_s=amount.seconds, rest_s=off_s, rounds=sets[0])
        return plan.ForTime(rounds=sets[0])
    for one in main if facts.each else ():
        high = facts.each[1] if len(facts.each) > 1 else None
        one.amount = one.amount or plan.Reps(low=facts.each[0], high=high)
    return plan.Sets(low=sets[0], high=_high(facts.sets))


def _in_rounds(part: Part, main: Works) -> plan.Format | None:
    rounds = part.facts.rounds
    if not rounds:
        return None
    if part.facts.cap and part.role in ("", "conditioning"):
        return plan.ForTime(rounds=rounds[0])
    only = main[0] if len(main) == len(part.works) == 1 and part.facts.rest else None
    if (
        only is not None
        and only.most
        and part.facts.rest
        and isinstance(only.amount, plan.Duration)
    ):
        # `10 rounds`, `30 s max bike`, `90 s rest`
        work_s, only.amount, off_s = only.amount.seconds, plan.Max(), part.facts.rest[0]
        part.facts.rest = ()
        return plan.Intervals(work_s=work_s, rest_s=off_s, rounds=rounds[0], high=_high(rounds))
    hard = part.role not in (*LOOSE, *LIFTING)
    if hard and only is not None and isinstance(only.amount, plan.Distance) and _is_way(only):
        return plan.ForTime(rounds=rounds[0])  # `6 rounds of 250 m row, 1:30 rest`
    lifted = all(isinstance(work.amount, plan.Reps) for work in main)
    if part.role == "strength" and part.facts.rest and main and lifted:
        return plan.Sets(low=rounds[0], high=_high(rounds))
    return plan.Rounds(low=rounds[0], high=_high(rounds))


def _is_way(work: Work) -> bool:
    """Whether a work is a run or a machine, and not an easy one."""
    known = work.known
    return known is not None and Pattern.ENGINE in known.patterns and not known.easy


def _continuous(part: Part, main: Works) -> plan.Format | None:
    del main
    length = _length(part)
    return plan.Continuous(length_s=length[0]) if part.facts.form == "continuous" else None


def _by_the_clock(part: Part, main: Works) -> plan.Format | None:
    """A cap alone is for time; a length alone, or timed lines, go on steadily."""
    timed = [work.amount for work in main if isinstance(work.amount, plan.Duration)]
    if part.facts.cap and part.role not in LOOSE and len(timed) < len(main):
        return plan.ForTime()
    one = main[0] if len(main) == 1 and part.role not in LOOSE else None
    if one is not None and one.most and isinstance(one.amount, plan.Duration):
        # `2 min max burpees`
        length_s, one.amount = one.amount.seconds, plan.Max()
        return plan.Amrap(length_s=length_s)
    if part.alone and not _length(part) and _raced(part, main):
        return plan.ForTime()
    length = _length(part)
    if part.role == "strength" and main and all(_is_loaded_set(work) for work in main):
        return None  # `Strength (20:00)`, and a lift set by set, each with its load
    filled = main[-1:] if len(main) > 1 and isinstance(main[-1].amount, plan.Max) else []
    counted = filled and all(isinstance(work.amount, _COUNTS) for work in main[:-1])
    if length and counted and part.role not in LOOSE and not part.facts.team:
        filled[0].left_time = True  # `In 10 minutes: 1 mile run, then max snatches`
    if length and length[0] > 0 and any(map(_fills, main)):
        return plan.Every(interval_s=length[0], rounds=1)  # `10 minute clock`, `max … in the rest`
    if length and length[0] > 0 and _comes_round(part, main):
        return plan.Amrap(length_s=length[0], high_s=_high(length))
    alone = len(main) == 1 and isinstance(main[0].amount, plan.Max)
    if length and length[0] > 0 and alone and part.role not in LOOSE:
        return plan.Amrap(length_s=length[0], high_s=_high(length))  # `min 0-5: max cal row`
    if length and length[0] > 0:
        return plan.Continuous(length_s=length[0])
    if timed and len(timed) * 2 >= len(main):
        total = sum(
            work.amount.seconds * (2 if work.side is plan.Side.EACH else 1)
            for work in main
            if isinstance(work.amount, plan.Duration)
        )
        return plan.Continuous(length_s=max(1, total))
    return None


_COUNTS = plan.Reps | plan.Calories | plan.Distance


def _is_loaded_set(work: Work) -> bool:
    """Whether a work is a set of a lift with its load."""
    lift = work.known is not None and bool(work.known.reference_kg)
    return lift and work.load is not None and isinstance(work.amount, plan.Reps)


def _comes_round(part: Part, main: Works) -> bool:
    """Whether several counted works stand in a time of which no more is said: `9 mins: 9 squats, 9
    burpees`. They are done round and round, where the part is no warm-up and no lifting.
    """
    eased = part.facts.quality and part.role != "conditioning"
    if part.role not in ("", "conditioning") or eased or part.facts.builds:
        return False
    shared = (_COUNTS, plan.Max) if part.facts.team else (_COUNTS,)
    counted = all(isinstance(work.amount, shared) and not work.sets for work in main)
    easy = any(work.known is not None and work.known.easy for work in main)
    soft = any(is_soft(work) for work in main)
    return counted and len(main) > 1 and not easy and not soft


def _raced(part: Part, main: Works) -> bool:
    """Whether a board's only piece, of which nothing else is said, is a way to go: `5k row`."""
    if part.role or part.facts.any or not main:
        return False
    ways = [work for work in main if isinstance(work.amount, plan.Distance)]
    engine = any(way.known and Pattern.ENGINE in way.known.patterns for way in ways)
    return engine and all(work.amount is not None for work in main)


Rule = Callable[[Part, Works], plan.Format | None]
RULES: tuple[Rule, ...] = (
    _death,
    _amrap,
    _emom,
    _every,
    _intervals,
    _tabata,
    _accumulate,
    _continuous,
    _build,
    _scheme,
    _for_time,
    _by_the_first,
    _falling,
    _in_sets,
    _in_rounds,
    _by_the_clock,
)
