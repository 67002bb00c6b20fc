"""Borders between parts of a board: whether a row begins another one.

Rules are asked in their order; each answers yes, no, or leaves it to the next.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from pine_ladder.core import plan
from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.parts import Part, is_soft
from pine_ladder.core.notation.reader.work import Work

LIFTING = ("strength", "power", "skill")
"""Roles whose parts are not followed by rounds of the same piece."""
LOOSE = ("warm-up", "cool-down", "mobility")
"""Roles whose parts hold work of several formats, line by line."""
MANY_SETS = 3
"""Sets of a lift from which on they are no warm-up that is told in its heading's line."""
LONG_S = 480
"""Seconds of engine work from which on it is no part of sets."""
NAME = re.compile(r'\s*"[^"]+"\s*(?:for\s+(?:reps|load|quality|calories|rounds))?\s*', re.I)
"""A quoted name and no more."""
_LATER = re.compile(r"\W*(?:afterwards?|after that)\b", re.IGNORECASE)
_AFTERWARDS = re.compile(
    r"\W*(?:after(?:wards?| that| class)?|finally|to finish|post(?=\s*:.*\d\s*x\s*\d))\s*:\s*\S",
    re.IGNORECASE,
)


def begins_part(clause: Clause, part: Part | None, form: Form) -> bool:
    """Whether a clause begins another part than the one it stands in."""
    if part is None or part.rest_only:
        facts = clause.facts
        return bool(
            clause.role
            or clause.slot
            or facts.frames
            or clause.works
            or clause.label
            or facts.place
        )
    if clause.marked("partner"):
        return False  # The work of partners stands side by side.
    return next(
        (answer for rule in RULES if (answer := rule(clause, part, form)) is not None), False
    )


def _bare(part: Part) -> bool:
    """A part that was only named so far."""
    return part.fresh and not part.facts.frames


WORDS_OF_TALK = 3
"""Words beside a number of rounds, which the piece has, from which on a row is talk."""


def is_talk(clause: Clause, part: Part) -> bool:
    """Whether words name a format and no length: `keep moving`, `same every minute`."""
    facts = clause.facts
    words = sum(token.kind in ("word", "everyone") for token in clause.body)
    again = facts.rounds and not facts.form and part.facts.frames and not part.fresh
    if again and words >= WORDS_OF_TALK and not (clause.works or clause.row.gap or clause.label):
        return not facts.rest  # `everyone does the full 3 rounds`
    told = facts.length or facts.rounds or facts.windows or facts.every_s or facts.scheme
    timed = told or facts.times or facts.cap
    if not facts.form or timed or clause.works or clause.role or clause.label:
        return False
    clocked = part.facts.form in ("intervals", "tabata")
    if part.fresh and not (part.facts.builds or clocked):
        return False
    again = facts.form in ("emom", "every") and facts.form == part.facts.form
    talks = any(token.kind in ("word", "couplet") for token in clause.body)
    return again or talks


def _by_opening(clause: Clause, part: Part, form: Form) -> bool | None:
    """A role, a place in the hour, `Part B`, a mark that begins parts, a quoted name alone."""
    row = clause.row
    if clause.role:
        return not (_bare(part) and not part.role and part.implied)
    if clause.slot or clause.marked("part"):
        return True
    if row.first and not part.fresh and _AFTERWARDS.match(row.text):
        return True
    apart = row.gap or row.ruled or not part.fresh
    named = apart and not row.cells and NAME.fullmatch(row.text)
    if row.first and (row.number in form.opening_rows or named):
        return True
    return None


def _by_letter(clause: Clause, part: Part, form: Form) -> bool | None:
    """`A1` and `A2` are one part, `A` and `B` are two, or stations of a part that is framed."""
    del form
    if not clause.marked("letter"):
        return None
    assert clause.label is not None
    value, facts = clause.label.value, clause.facts
    if len(value) == 2:
        follows = value[1] > "1" and not clause.row.gap and not part.label
        same = part.label[:1] == value[0] or follows
        return not same and not (part.fresh and not part.label)
    stations = (
        part.facts.frames and not facts.frames and not any(work.sets for work in clause.works)
    )
    if stations and (part.fresh or part.stations):
        return False
    if facts.form or facts.frames or part.label:
        return not (_bare(part) and not part.label and bool(part.role) and not facts.form)
    return not _bare(part) or bool(part.label)


def _by_number(clause: Clause, part: Part, form: Form) -> bool | None:
    """`2.` begins a part where what it says is timed or in sets, or where `1.` did."""
    if not clause.marked("number"):
        return None
    framed = bool(clause.facts.form or clause.facts.place) or any(
        work.sets for work in clause.works
    )
    own = not part.facts.form or clause.facts.rounds
    framed = bool(framed or (("number", 0) in form.levels and own))
    named_only = _bare(part) and not (part.role and part.facts.slot)
    return framed and not named_only and not part.stations


def _by_layout(clause: Clause, part: Part, form: Form) -> bool | None:
    """A bullet as those that began parts, a board of a line a part, a paragraph of prose."""
    row, facts = clause.row, clause.facts
    says = bool(clause.works or facts.frames)
    goes_on = not row.first and any(token.kind == "then" for token in clause.body[:2])
    told = not part.fresh or part.facts.slot
    loaded = any(work.load is not None and (work.sets or facts.sets) for work in clause.works)
    lifts = any(work.known and work.known.reference_kg for work in clause.works)
    counted = bool(facts.sets) or any(work.sets for work in clause.works)
    warmed = bool(part.works) and not part.facts.frames and all(map(_steady, part.works))
    warmed = warmed or (bool(part.works) and part.facts.form == "continuous")
    if goes_on and ((told and loaded) or (warmed and counted and (lifts or not part.role))):
        return True  # `10 min on the rower. Then deadlifts 5x3`
    if not part.fresh and not row.first and facts.rounds and _LATER.match(row.text):
        return True  # `8 hill sprints. Afterwards 3 rounds of …`
    if part.fresh or not row.first:
        return None
    if row.bullet and row.level in form.levels and says:
        return True
    apart = max(row.indent, part.indent) < part.works_indent
    apart = apart or (part.works_bullet and not row.bullet and bool(facts.form))
    if facts.frames and not clause.label and apart:
        return bool(part.facts.frames or part.role)  # A heading that stands out from its work.
    most = len(clause.works) == 1 and clause.works[0].most
    if most and (apart or row.gap) and isinstance(clause.works[0].amount, plan.Duration):
        return part.facts.frames and not clause.label  # `10 min max cal row` behind an AMRAP
    whole = all(work.row == part.number for work in part.works)
    if form.one_line and (facts.form or (facts.place and whole)):
        return True
    if form.by_then and says and goes_on_by_then(clause):
        # `1000 m row buy-in`, `then 21-15-9`, its work, `then 1000 m row`: one piece
        around = bool(part.works) and part.works[0].place == "buy-in"
        begun = all(work.place == "buy-in" for work in part.works)
        ways = {(work.known, work.amount) for work in part.works if work.place == "buy-in"}
        closes = {(work.known, work.amount) for work in clause.works} == ways
        return not around or not (closes or (begun and not clause.works))
    if form.prose and row.gap and says:
        return True
    if facts.place and not clause.works:
        return row.gap or row.marked
    return None


def _in_steps(clause: Clause) -> bool:
    """Whether a row is a lift in sets of few reps: `overhead squat 3-3-3`."""
    work = clause.works[0] if len(clause.works) == 1 else None
    if work is None or not isinstance(work.amount, plan.Scheme) or work.known is None:
        return False
    few = max(work.amount.values) <= HEAVY_SET and len(work.amount.values) > 2
    return few and bool(work.known.reference_kg)


def _is_wave(clause: Clause) -> bool:
    """Whether a row is one lift in several sets with a load each: `3 @ 75, 2 @ 80, 1 @ 85`."""
    loaded = [work for work in clause.works if work.load is not None or work.bare is not None]
    lifts = {work.name for work in clause.works if work.known and work.known.reference_kg}
    return len(loaded) == len(clause.works) >= FEWEST_LOADED and len(lifts) == 1


FEWEST_LOADED = 3
"""Sets of a lift, each with its load, from which on a row is no warm-up."""
HEAVY_SET = 5
"""Reps up to which steps of a lift are heavy sets of it."""


def _falls(work: Work) -> bool:
    """Whether a work has falling steps of many reps, as in a workout for time."""
    steps = work.amount.values if isinstance(work.amount, plan.Scheme) else ()
    return len(steps) > 2 and steps[0] > MOST_OF_A_SET and list(steps) == sorted(steps)[::-1]


FEWEST_CLIMBED = 4
"""Rising steps from which on they are a ladder of a workout."""


def _climbs(work: Work) -> bool:
    """Whether a work has rising steps to many reps, as in a workout for time."""
    steps = work.amount.values if isinstance(work.amount, plan.Scheme) else ()
    return (
        len(steps) >= FEWEST_CLIMBED
        and steps[-1] > MOST_OF_A_SET
        and list(steps) == sorted(set(steps))
    )


ANY_MACHINE = (
    "machine", "any machine", "erg", "any erg", "choice of machine", "machine of choice",
    "cardio", "any cardio", "cardio of choice", "machine of your choice",
)  # fmt: skip
"""Names of engine work of which the athlete chooses the machine."""
MOST_OF_A_SET = 12
"""Reps of the first step beyond which falling steps are no sets of a lift."""


def _steady(work: Work) -> bool:
    """Whether a work goes on for a time on a machine or on foot."""
    engine = work.known is not None and Pattern.ENGINE in work.known.patterns
    engine = engine or work.name.lower() in ANY_MACHINE
    return engine and isinstance(work.amount, plan.Duration)


def _easily(work: Work) -> bool:
    """Whether a work is an easy time on a machine or on foot."""
    return _steady(work) and work.known is not None and work.known.easy


def goes_on_by_then(clause: Clause) -> bool:
    """Whether a clause begins with `then`, or with one word before it."""
    return any(token.kind == "then" for token in clause.body[:2])


def _by_steps(clause: Clause, part: Part, form: Form) -> bool | None:
    """Steps below an easy time on a machine: `10 min easy row`, then `10-8-6 reps of`."""
    del form
    heads = clause.row.first and bool(clause.facts.scheme) and not clause.works
    eased = bool(part.works) and all(map(_easily, part.works)) and not part.facts.rounds
    return True if heads and eased else None


def _by_cap(clause: Clause, part: Part, form: Form) -> bool | None:
    """A cap that heads a list below sets: `3 x 6 @ 80 %`, then `12 min cap:`."""
    del form
    heads = clause.row.first and bool(clause.facts.cap) and not clause.works
    in_sets = bool(part.facts.sets) or any(work.sets for work in part.works)
    if heads and clause.row.text.rstrip().endswith(":") and in_sets and not part.facts.form:
        return True
    return None


def _as_modifier(clause: Clause, part: Part, form: Form) -> bool | None:
    """A row right below work, that says something of the piece it stands in."""
    del form
    row, facts = clause.row, clause.facts
    if row.gap or part.fresh or row.marked:
        return None
    if facts.form == part.facts.form == "intervals" and clause.works and part.works:
        return (
            True  # `bike 4 x (3 min hard / 2 min easy)`, then `row 4 x (2 min hard / 1 min easy)`
        )
    if part.facts.form == "continuous" and part.works:
        in_heading = all(work.row == part.number for work in part.works)
        begun = clause.works[0] if clause.works else None
        own = begun is not None and (begun.sets or isinstance(begun.amount, plan.Duration))
        if facts.sets or facts.rounds or (in_heading and own and row.first):
            return True  # `10 min flow: pigeon, couch stretch`, then `3 sets`, or `5 min walk`
    in_sets = bool(part.facts.sets) or any(work.sets for work in part.works)
    rested = bool(part.facts.rest) and in_sets
    if rested and facts.form and (facts.length or facts.windows) and not part.facts.form:
        return True  # `press 3x8, rest 2 min`, then `every minute for 10 min`
    lifts = [work for work in part.works if work.known and work.known.reference_kg]
    heads = facts.form in ("for time", "amrap") and not clause.works and row.first
    if heads and in_sets and len(lifts) == len(part.works) and not part.facts.form:
        return True  # `3 x 5 @ 70 %`, then `for time`
    if rested and facts.scheme and not clause.works and not part.facts.form and row.first:
        return True  # `RDL 4 x 6, rest 2 min`, then `50-40-30 of`
    placed = part.role and part.facts.slot and not part.facts.frames
    if facts.scheme and placed and not clause.works:
        return True  # `10 min: skill, double unders`, then `21-15-9`.
    sets = [work.sets[0] for work in part.works if work.sets]
    goes_on = bool(clause.works) or (goes_on_by_then(clause) and not row.first)
    if facts.rounds and any(goes_on or count != facts.rounds[0] for count in sets):
        return True  # `5 x 5 squat`, then `3 rounds`: sets are no buy-in of rounds.
    stepped = [isinstance(work.amount, plan.Scheme) for work in part.works]
    if facts.scheme and not clause.works and stepped and all(stepped) and not part.facts.form:
        return True  # `front squat 5-5-3-3-1-1`, then `15-12-9` and its own work
    again = facts.sets and part.facts.sets and (facts.sets != part.facts.sets or part.facts.rest)
    if again and not clause.works and not facts.rest:
        return True  # `3 sets`, their work, `rest 90 s`, then `3 sets` of other work
    timed = bool(facts.length or facts.windows)
    if facts.form and timed and goes_on_by_then(clause) and any(work.sets for work in part.works):
        return True  # `squat 3x12, 60 s rest`, then `then: 10 min EMOM`
    heading = all(work.row == part.number for work in part.works)
    if part.role in LOOSE and facts.form and timed and row.first and heading:
        return True  # `warm up: 2 rounds 200 m jog, 10 lunges`, then `teams of 3, 24 min AMRAP`
    whole = all(isinstance(work.amount, plan.Duration) for work in part.works)
    if whole and facts.form and any(token.kind == "then" for token in clause.body[:1]):
        return None  # `10 min bike`, then `then AMRAP 12`
    goes_on = any(token.kind == "then" for token in clause.body[:2])
    easy = bool(clause.works) and all(
        work.known is not None and work.known.easy and work.amount is not None
        for work in clause.works
    )
    timed_most = bool(clause.works) and all(work.most for work in clause.works)
    eased = easy and all(isinstance(work.amount, plan.Duration) for work in clause.works)
    clocked = part.facts.form in ("every", "emom", "intervals", "amrap")
    timed_form = facts.form in ("emom", "amrap", "every", "tabata") and (
        facts.length or facts.windows
    )
    in_one_row = bool(part.facts.rounds) and all(work.row == part.number for work in part.works)
    if goes_on and timed_form and in_one_row:
        return True  # `warm-up is 2 rounds of …`, then `then a 12 min EMOM: …`
    if goes_on and (
        ((easy or timed_most) and clocked) or (eased and part.facts.form == "for time")
    ):
        return True  # `12 x 200 m, leave every 1:15`, `then 10 min easy jog`
    if goes_on and facts.rounds and part.role in LIFTING and not clause.works:
        return True  # `skill: handstands, 10 min`, then `then 4 rounds of`
    if not clause.works and (not facts.form or not part.facts.form):
        return False
    timed = any(isinstance(work.amount, plan.Duration) for work in part.works)
    if facts.form == "accumulate" and timed:
        return False
    first = next((token for token in clause.body if token.kind != "filler"), None)
    if facts.form and first is not None and first.kind == "then":
        return None
    other = facts.form != part.facts.form and bool(facts.length) and bool(clause.works)
    if facts.form and part.facts.form and first is not None and first not in facts.used:
        return other and row.first
    return None


def _by_format(clause: Clause, part: Part, form: Form) -> bool | None:
    """A format begins a part, unless the part above has none yet."""
    del form
    row, facts = clause.row, clause.facts
    if facts.form:
        return not _continues(part, clause)
    steps = [token.kind for token in clause.body if token.kind != "filler"][:1] == ["scheme"]
    if steps and row.gap and len(clause.works) > 1 and part.facts.frames and not part.fresh:
        return True  # `4 sets`, and behind a blank line `15-12-9 of sit-ups and thrusters`
    lifted = bool(part.facts.sets) or any(work.sets for work in part.works)
    laddered = [work for work in clause.works[:1] if _falls(work) or _climbs(work)]
    if lifted and row.first and laddered and len(clause.works) > 1:
        return True  # `2 x 2 @ 85 %`, then `15-10-5 power snatch + muscle-up`
    if facts.scheme and not clause.works and part.facts.scheme and part.works:
        return True  # `50-40-30`, its work, then `10-8-6` and its own
    if facts.scheme and not clause.works:
        framed = bool(part.facts.form and part.facts.form != "for time")
        return not part.fresh and (row.gap or framed)
    named = all(
        work.amount is None and work.load is None and not work.sets and work.known
        for work in part.works
    )
    lift = clause.works[0].known if clause.works else None
    loose = part.fresh and part.role in LOOSE and row.first
    if facts.builds and loose and lift is not None and lift.reference_kg:
        return True  # `warm up game (10)`, then `bench 1RM test, 20 minutes`
    if facts.builds and named:
        return False  # `Strength - back squat`, then `build to a heavy 3`.
    if facts.builds and not part.fresh:
        return row.gap or not any(work.joined for work in clause.works)
    return None


def _continues(part: Part, clause: Clause) -> bool:
    """Whether a format belongs to the part above it."""
    facts, gap = clause.facts, clause.row.gap
    if part.fresh and part.role in LOOSE and (part.facts.slot or part.idle_s):
        return False  # `Warm-up 10 min`, and no more: what is timed below is another part.
    if part.fresh and part.facts.builds and (part.lift is not None or gap):
        return False  # `Back squats today. Find a 5 rep max. Then AMRAP 10 of …`
    if part.fresh and part.facts.form == facts.form:
        return not gap and not (part.facts.rest and facts.length)
    if part.fresh:
        more = ("every", "for time", "intervals", "amrap")
        narrower = part.facts.form in ("for time", "every", "tabata") and facts.form in more
        rising = part.facts.form == "death" and facts.form == "emom"
        return not part.facts.form or narrower or rising
    if gap:
        return False
    # Work listed above its own format: `buy-in`, then `4 rounds for time`.
    ahead = facts.form == "for time" and all(work.place for work in part.works)
    sets = bool(part.facts.sets or any(work.sets for work in part.works))
    own = sets and bool(clause.works or part.facts.rest)
    windows = bool(facts.every_s) and len(part.works) <= 3 and not any(w.place for w in part.works)
    windows = windows and not (clause.works and part.facts.rounds)
    return (not part.facts.frames and ahead) or (not part.facts.form and windows and not own)


def _by_lift(clause: Clause, part: Part, form: Form) -> bool | None:
    """Sets behind a `then`, another lift in steps, sets that fall off from what was built up to."""
    row, facts = clause.row, clause.facts
    sets = [work for work in clause.works if work.sets]
    if row.number in form.joined_rows:
        return False
    if _names_another_lift(clause, part):
        return True
    goes_on = any(token.kind == "then" for token in clause.body[:2])
    if goes_on and (sets or facts.sets) and part.facts.rounds and not part.fresh:
        return True  # `4 rounds`, their work, `then 3 sets of 10 curls`
    framed = bool(part.facts.form) and not part.fresh
    if goes_on and row.first and facts.sets and clause.works and framed:
        return True  # `EMOM 8: …`, then `then 4 supersets: 8 dips, 8 toes-to-bar`
    joins = [token.kind for token in clause.body if token.kind != "filler"][:1] == ["and"]
    if joins and not row.gap and not part.fresh:
        return False  # `bench press 4x8`, then `superset with rows 4x8`
    if not row.first and facts.sets and clause.works and (part.facts.rounds or part.facts.form):
        return True  # `…, with a cap of 10. After that, 3 sets of 15 pull-aparts`
    backs_off = any(isinstance(work.load, plan.Percent) and work.amount for work in clause.works)
    if part.facts.builds and part.works and backs_off and row.first and not facts.builds:
        return True  # `build to a heavy 3`, then `10 @ 80 % of it`
    if _steps_of_a_lift(clause, part):
        return True
    if row.gap and row.first and _in_steps(clause) and not part.fresh and not clause.label:
        return part.role in LOOSE or part.facts.frames
    tested = bool(clause.works) and all(isinstance(work.amount, plan.Max) for work in clause.works)
    if part.facts.builds and part.works and tested and row.first and not joins:
        return True  # `1RM strict press - 15 min`, then `max strict pull-ups, 1 attempt`
    steady = bool(part.works) and all(map(_steady, part.works)) and not part.facts.any
    if sets and steady and row.first and not part.role and not clause.label and not part.label:
        return True  # `20 min easy on any machine`, then `3 x 8 goblet squat`
    if row.number in form.after_then and clause.works and not sets and not facts.sets:
        return True  # `10 x 100 m sprint`, `then`, `100 sit-ups`
    if (
        (part.role in LOOSE or (part.facts.rounds and part.works))
        and row.first
        and _is_wave(clause)
    ):
        return True  # `warm up 400 m easy`, then `squat: 3 @ 75, 2 @ 80, 1 @ 85`
    begun = bool(part.works) and all(work.row == part.number for work in part.works)
    if begun and row.first and _in_steps(clause) and part.facts.form in ("emom", "every"):
        return True  # `snatch EMOM 10: 1 @ 75 %`, then `overhead squat 3-3-3`
    return None


def _by_sets(clause: Clause, part: Part, form: Form) -> bool | None:
    """Other sets than those above are another part: `5 x 5 squat`, then `3 x 10 row`."""
    del form
    row, facts = clause.row, clause.facts
    sets = [work for work in clause.works if work.sets]
    goes_on = goes_on_by_then(clause)
    begun = bool(part.works) and all(work.row == part.number for work in part.works)
    if not (facts.sets or sets):
        return None
    if sets and _awaits_sets(part, clause.works):
        return False  # `back squat every 2:00 for 6 sets`, then `3 x 5 @ 70 %`
    heavy = any(work.load is not None or work.bare is not None for work in sets)
    heavy = heavy or any(
        work.known and work.known.reference_kg and work.sets[0] >= MANY_SETS for work in sets
    )
    heavy = heavy or (
        bool(facts.sets)
        and facts.sets[0] >= MANY_SETS
        and any(work.known and work.known.reference_kg for work in clause.works)
    )
    if (
        part.fresh
        and part.role in LOOSE
        and (part.facts.slot or _says_more(part))
        and heavy
        and not clause.marked()
    ):
        return True  # `warm up 10 min easy`, then `snatch 5x1 @ 70`
    if part.fresh and part.facts.builds and part.lift is not None:
        return True  # `work up to a heavy single`, then `4 x 6 @ 80 %`.
    if _bare(part) or (part.fresh and part.facts.form in ("", "every")):
        return False
    told = part.role in LOOSE and part.works[:1] and part.works[0].row == part.number
    heavy = any(
        work.known and work.known.reference_kg and work.sets[0] >= MANY_SETS for work in sets
    )
    listed = part.role in LOOSE and part.facts.frames and not (row.bullet or clause.label)
    far = len(sets) == 1 and isinstance(sets[0].amount, plan.Distance)
    if listed and row.first and (heavy or far) and facts.rest and len(sets) == 1 and not part.fresh:
        return True  # `AMRAP 6`, its work, `front squat 4 x 8, 2 min rest`
    if told and row.first and sets and (facts.rest or heavy) and row.indent <= part.indent:
        return True  # `warm up jog 1 mile`, then `4 x 800 m, 2 min jog between`, `deadlift 5x5`
    if part.role in LOOSE and row.first and not part.facts.rounds and repeats_a_way(sets):
        return True  # `warm up 1 mile easy`, then `6 x 400 m @ 5k pace`
    if not row.gap and (part.role in LOOSE or row.indent > part.indent):
        return False
    windows = part.facts.form in ("emom", "every") and any(work.sets for work in part.works)
    if (
        windows
        and sets
        and not facts.form
        and {work.known for work in sets}.isdisjoint({work.known for work in part.works})
    ):
        return True  # `snatch 6x1 EMOM`, then `back squat 3x3`
    if part.facts.form and begun and row.first and sets and not facts.form:
        return True  # `AMRAP 8 of 3 devil's press, 9 box jumps`, then `3x15 face pulls`
    if part.facts.builds or (part.facts.form and sets):
        return row.gap or part.facts.builds
    if row.gap and any(token.kind == "then" for token in clause.body[:2]):
        return True
    stepped = any(isinstance(work.amount, plan.Scheme) for work in part.works)
    if goes_on and sets and stepped and not part.facts.form:
        return True  # `3-3-2-2-1`, then `then 2x3 @ 85 % of it`
    if facts.sets and not clause.works and row.gap and part.works:
        return True  # sets of a lift, line by line, and behind a blank line `superset x 4`
    if part.lift is not None and not any(work.known for work in clause.works):
        return False
    if sets and facts.rest and part.facts.rest and not facts.form and not part.label:
        return True  # Sets with a rest of their own: `4x5, rest 2 min. Row 4x8, rest 90 s.`
    lifts = {work.known for work in part.works}
    same = all(not work.named or work.known in lifts for work in sets)
    if sets and same and len(lifts) == 1 and not row.gap and all(work.load for work in sets):
        return False  # `1 x 8 @ 60 %`, `3 x 4 @ 80 %`: sets of one lift.
    now = sets[0].sets[0] if sets else facts.sets[0]
    before = [work.sets[0] for work in part.works if work.sets]
    steps = [len(work.amount.values) for work in part.works if isinstance(work.amount, plan.Scheme)]
    if steps and not part.facts.form and now not in steps and not part.label:
        return True  # `squat 10-8-6-4`, then `RDL 3 x 10`
    differs = bool(before) and (before[-1] != now or (not part.label and not part.role))
    return row.gap or differs


FEWEST_WAYS = 3
"""Times a way is done from which on it is no part of a warm-up."""
SHORTEST_REPEAT_M = 200
"""Metres of a repeat that is no stride of a warm-up."""


def repeats_a_way(sets: Sequence[Work]) -> bool:
    """Whether sets are repeats of a way in engine work: `6 x 400 m run`."""
    first = sets[0] if sets else None
    if first is None or first.known is None or Pattern.ENGINE not in first.known.patterns:
        return False
    far = isinstance(first.amount, plan.Distance) and first.amount.metres[0] >= SHORTEST_REPEAT_M
    return far and bool(first.sets) and first.sets[0] >= FEWEST_WAYS


def _awaits_sets(part: Part, more: Sequence[Work]) -> bool:
    """Whether the windows of a part that has one lift are more than its sets so far, and hold those
    of a row that names no movement.
    """
    lifts = {work.name for work in part.works}
    if len(lifts) != 1 or any(work.named or not work.sets for work in more):
        return False
    so_far = [work.sets[0] if work.sets else 0 for work in part.works]
    return sum(so_far) + sum(work.sets[0] for work in more) <= part.facts.window_count


WORDS_OF_A_ROLE = 2
"""Words of a row that says a role and no more: `warm up`."""


def _says_more(part: Part) -> bool:
    """Whether the row that begins a part says more than its role: `warmup dodge ball`."""
    return len(re.findall(r"[a-z]{2,}", part.typed, re.IGNORECASE)) > WORDS_OF_A_ROLE


def _names_another_lift(clause: Clause, part: Part) -> bool:
    """Whether a row is a lift in steps or sets of its own below one that is in sets: `snatch pull
    3x3`, then `front squat 6-5-4-3-2-1`; or names a skill below a warm-up's time alone.
    """
    work = clause.works[0] if clause.works else None
    if work is None or work.known is None or not clause.row.first or clause.label:
        return False
    kinds = [token.kind for token in clause.body[:2]]
    if kinds == ["movement", "colon"] and part.fresh and part.role in LOOSE and part.facts.slot:
        return bool(work.sets) or any(each.sets for each in clause.works)
    if kinds in (["movement", "dash"], ["movement", "colon"]) and part.fresh and _says_more(part):
        built = clause.facts.builds or work.sets
        return part.role in LOOSE and bool(built) and bool(work.known.reference_kg)
    stepped = isinstance(work.amount, plan.Scheme) and len(work.amount.values) > 2
    in_sets = bool(part.works) and all(each.sets for each in part.works) and not part.label
    others = all(each.known is not work.known for each in part.works)
    return len(clause.works) == 1 and stepped and in_sets and others


def _steps_of_a_lift(clause: Clause, part: Part) -> bool:
    """Whether a row is a lift in steps, `front squat 5-5-3-3`, below a row that lists a round."""
    work = clause.works[0] if len(clause.works) == 1 else None
    steps = work.amount.values if work and isinstance(work.amount, plan.Scheme) else ()
    lift = work is not None and work.known is not None and bool(work.known.reference_kg)
    if not lift or len(steps) <= 2 or steps[0] > MOST_OF_A_SET or not part.facts.rounds:
        return False
    last = part.works[-1].row if part.works else 0
    listed = sum(work.row == last for work in part.works) > 1
    return listed and clause.row.first and clause.row.indent <= part.indent


def _by_rounds(clause: Clause, part: Part, form: Form) -> bool | None:
    """Rounds after work that has its own, or after a blank line."""
    del form
    if not clause.facts.rounds:
        return None
    facts = part.facts
    if part.fresh:
        return bool(facts.rounds) and clause.row.gap
    counted = facts.rounds or facts.sets or facts.scheme or facts.builds
    lifted = [work.known is not None and bool(work.known.reference_kg) for work in part.works]
    stepped = [isinstance(work.amount, plan.Scheme) for work in part.works]
    if lifted and all(lifted) and all(stepped) and clause.works and not facts.form:
        return True  # `bench 10-8-6-4-2`, then `5 rounds of 250 m row, 15 push-ups`
    if facts.form == "for time" and not counted and not clause.row.gap:
        return False  # `for time`, `1 mile run`, then `10 rounds of 5 pull-ups, …`
    return clause.row.gap or facts.frames


def _by_kind(clause: Clause, part: Part, form: Form) -> bool | None:
    """Stretches after work of another kind."""
    del form
    works = clause.works
    if works and part.closed and clause.row.gap:
        return True
    raced = part.facts.form in ("for time", "amrap") or bool(part.facts.scheme)
    ends = part.closing or clause.row.gap
    if works and ends and raced and all(map(_easily, works)):
        return True  # `10-8-6`, its work, `then`, `8 min easy row`
    lifted = part.role not in LOOSE and (
        part.facts.sets
        or any(work.sets or isinstance(work.load, plan.Percent) for work in part.works)
    )
    steady = bool(works) and all(
        (
            (work.known is not None and Pattern.ENGINE in work.known.patterns)
            or work.name in ANY_MACHINE
        )
        and isinstance(work.amount, plan.Duration)
        and work.amount.seconds >= LONG_S
        for work in works
    )
    only = works[0] if len(works) == 1 and clause.row.first and not works[0].sets else None
    if only is not None and only.known is None and not only.side:
        length = only.amount.seconds if isinstance(only.amount, plan.Duration) else 0
        steady = steady or length >= LONG_S  # `10 min of hips`
    if lifted and steady and not clause.label:
        return True  # `bench 3 x 5`, then `20 min bike`
    if steady and clause.row.gap and part.facts.rounds and part.works and not clause.label:
        return True  # `warm-up: 2 rounds of …`, and behind a blank line `20 min easy row`
    if not works or part.role in LOOSE or not all(is_soft(work) for work in works):
        return None
    before = [work for work in part.works if work.known]
    if not before or all(is_soft(work) for work in before):
        return None
    timed = all(isinstance(work.amount, plan.Duration) for work in (*part.works, works[0]))
    if timed and clause.row.first and not part.facts.frames:
        return True  # `20 min bike or row`, then `10 min couch stretch`
    named = len(works) == 1 and works[0].amount is None and clause.row.first
    if named and part.facts.frames and works[0].name == "easy stretching":
        return True  # `3 rounds: 10 cal ski, 8 step-ups`, then `stretch out`
    return clause.row.gap or (not clause.row.first and part.facts.frames)


Rule = Callable[[Clause, Part, Form], bool | None]
RULES: tuple[Rule, ...] = (
    _by_opening,
    _by_letter,
    _by_number,
    _by_layout,
    _by_steps,
    _by_cap,
    _as_modifier,
    _by_format,
    _by_lift,
    _by_sets,
    _by_rounds,
    _by_kind,
)
