"""One row as a clause: its mark, its role, its facts on the piece, its works and loose words."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.borders import LIFTING, LOOSE
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.counts import seconds
from pine_ladder.core.notation.reader.grammar import read_facts
from pine_ladder.core.notation.reader.hands import (
    by_hand,
    in_each_hand,
    with_the_named_implement,
)
from pine_ladder.core.notation.reader.labels import label_of
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.lexicon import PROSE
from pine_ladder.core.notation.reader.loads import load_of
from pine_ladder.core.notation.reader.modifiers import exact_modifiers
from pine_ladder.core.notation.reader.openings import open_clause
from pine_ladder.core.notation.reader.parts import Part, all_counted
from pine_ladder.core.notation.reader.rewording import (
    reworded,
    stretched_at_a_station,
    without_dash,
)
from pine_ladder.core.notation.reader.shared_loads import heading_load
from pine_ladder.core.notation.reader.takes import two_sided
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.ways import (
    LONGEST_M,
    SHORTEST_M,
    SPOKEN,
    STEP_M,
    laps,
    repeats,
)
from pine_ladder.core.notation.reader.work import Scope, Work
from pine_ladder.core.notation.reader.works import read_works

LISTED = 46
"""Characters of a row that may be one of a list."""
_COMPLEX = re.compile(r"\W*((?:[a-z]+\s+){1,3}complex)\b", re.IGNORECASE)
_IN_QUOTES = re.compile(r'"([^"]{2,60})"(?=\s*:\s*\S|\s+\d)')
_NAMED = re.compile(r'\W*([a-z][a-z\' ]{2,30}?)"?\s*:\s', re.IGNORECASE)
"""Beginnings of a row that are the name of its piece."""
_FRAMING = {"rounds", "rft", "for time", "amrap", "emom", "every", "every n", "scheme", "tabata"}


def clause_of(row: Row, here: Part | None, form: Form, library: Library) -> Clause:
    """A row as a clause, read by itself; `here` is the part under way."""
    row = by_hand(row, library)
    label = label_of(row) if row.number not in form.hour_rows else None
    start = label.end if label else 0
    body = [
        Token(token.kind, token.value, token.start + start, token.end + start, token.means)
        for token in tokens(row.text[start:], library)
    ]
    if body and body[-1].kind == "stop":
        body.pop()
    clause = Clause(row, label, _unwrapped(without_dash(body)))
    open_clause(clause, form, first=here is None)
    stretched_at_a_station(clause, here, form, library)
    if is_goal(clause.body):
        return clause
    _name(clause)
    _maximum(clause, here)
    reworded(clause, form, library)
    repeats(clause, here, form)
    laps(clause, here)
    clause.facts = read_facts(clause.body, library)
    _no_work_and_rest(clause, here)
    _at_a_pace(clause, library)
    _effort_of_intervals(clause)
    if clause.marked("partner"):
        clause.facts.team, clause.facts.how = clause.facts.team or 2, "together"
        if not clause.facts.length:
            clause.facts.form = ""  # `P2: AMRAP of 5 burpees, 10 wall balls`, until P1 is back.
    clause.facts.slot = clause.slot or clause.facts.slot
    _steady_piece(clause, here, form)
    _exactly(clause)
    scope = _scope(clause, here, library)
    left = _left(clause)
    clause.works, clause.loose = read_works(left, scope)
    in_each_hand(clause)
    with_the_named_implement(clause, library)
    _as_a_complex(clause)
    _without_label(clause)
    _side_by_side(clause, here)
    _rest_behind_sets(clause, library)
    _rests_one_by_one(clause)
    _before_rounds(clause)
    _behind_a_closed_list(clause)
    _in_several_places(clause)
    _effort_of_sets(clause, left)
    lifted = clause.facts.sets or any(isinstance(work.load, plan.Percent) for work in clause.works)
    if clause.facts.place == "buy-in" and lifted and not clause.facts.form:
        clause.facts.place = ""  # `We start with front squat: 3 sets of 3`
    if (load := heading_load(clause, left)) is not None:
        clause.load, clause.loose = load, []
    _on_foot(clause, library)
    _rests_within(clause)
    _rests_last(clause)
    _rests_at_a_station(clause, form)
    return clause


def _no_work_and_rest(clause: Clause, here: Part | None) -> None:
    """Leave `15 / 15` alone below counted work to its words: it is the work once more, for less."""
    pair = [token.kind for token in clause.body] == ["pair"]
    if pair and here is not None and all_counted(here.works) and clause.facts.form == "intervals":
        clause.facts.form, clause.facts.work_s, clause.facts.off_s = "", 0, 0
        clause.facts.used = []


_CLOCKED = ("intervals", "every", "emom", "tabata", "amrap")
"""Formats of a clause that begin work of their own."""


def _counted_above(clause: Clause, here: Part | None) -> int:
    """The works of the part under way where each says how much, and the row begins no other."""
    own = clause.facts.form in _CLOCKED
    return 0 if own or here is None or not all_counted(here.works) else len(here.works)


def _says_the_lift(clause: Clause) -> bool:
    """Whether a clause says the role of a part and its movement, and no more: `The strength is the
    push press`.
    """
    kinds = [token.kind for token in clause.body if token.kind not in ("filler", "stop")]
    return clause.role in LIFTING and kinds == ["movement"]


def _rests_last(clause: Clause) -> None:
    """Take a rest that ends a list of stations as long as theirs: `1 min each: row, step-ups,
    rest`.
    """
    facts, works = clause.facts, clause.works
    if facts.rest or len(works) < 2 or [note.lower() for note in works[-1].notes[-1:]] != ["rest"]:
        return
    times = [work.amount.seconds for work in works if isinstance(work.amount, plan.Duration)]
    each = facts.work_s if facts.form == "intervals" and not facts.off_s else 0
    if not each and len(times) == len(works) and len(set(times)) == 1:
        each = times[0]
    if each:
        facts.rest = (each,)
        works[-1].notes.pop()


def _rests_at_a_station(clause: Clause, form: Form) -> None:
    """Take a rest alone at a station as that of no rounds: `4) rest 1 min`."""
    resting = [token.kind for token in clause.body[:1]] == ["rest"] and not clause.works
    opens = clause.row.first and clause.row.number in form.opening_rows
    if resting and not opens and clause.marked("number", "minute", "station"):
        clause.facts.rest = ()


def _steady_piece(clause: Clause, here: Part | None, form: Form) -> None:
    """Take an easy time that heads a piece as its length, and no rest: `20 min at an easy pace`."""
    body = [token for token in clause.body if token.kind not in ("filler", "colon")]
    kinds = [token.kind for token in body]
    heads = here is None or here.fresh or clause.role or clause.marked("part", "letter")
    heads = heads or clause.row.number in form.opening_rows
    words = all(token.value in ("pace", "effort") for token in body[2:])
    if kinds[:2] not in (["time", "easy"], ["prime", "easy"]) or not heads or not words:
        return
    facts = clause.facts
    facts.slot = facts.slot or facts.rest or seconds(body[0], "min")
    facts.rest, facts.rests = (), []
    facts.used += [token for token in clause.body if token not in facts.used]


def _without_label(clause: Clause) -> None:
    """`Snatch: every 1:30 x 8: 1 hang snatch + 1 snatch`: the first names what follows it."""
    if len(clause.works) < 2 or not clause.facts.form or clause.works[0].known is None:
        return
    first, *others = clause.works
    bare = first.amount is None and first.load is None and not first.sets
    kinds = [token.kind for token in clause.body if token.kind != "filler"]
    last = first.name.split()[-1]
    named = kinds[:2] == ["movement", "colon"] and any(last in other.name for other in others)
    if bare and named:
        clause.works = others


def _as_a_complex(clause: Clause) -> None:
    """Make one complex of what stands behind the word: `complex: 1 clean + 1 squat + 1 jerk`."""
    works = clause.works
    kinds = [token.kind for token in clause.body[:2]]
    named = kinds == ["word", "colon"] and clause.body[0].value == "complex"
    lifts = all(work.known is not None and work.known.reference_kg for work in works)
    if not (named and lifts and len(works) > 1 and all(work.joined for work in works[1:])):
        return
    parts = [replace(work, load=None, bare=None, notes=[], joined=False) for work in works]
    whole = replace(works[-1], name="", known=None, parts=parts, amount=plan.Reps(low=1))
    whole.notes, whole.joined = [note for note in whole.notes if note != "complex"], False
    clause.works = [whole]


def _side_by_side(clause: Clause, here: Part | None) -> None:
    """Take two equal times of what is done on each side, in a list, as a time a side:
    `side plank 30s/30s`.
    """
    facts = clause.facts
    listed = here is not None and not here.fresh and bool(here.facts.rounds or here.facts.sets)
    times = [token for token in facts.used if token.kind == "time"]
    if facts.form != "intervals" or not listed or len(clause.works) != 1 or len(times) != 2:
        return
    work = clause.works[0]
    equal = facts.work_s == facts.off_s and not facts.rounds
    if equal and work.amount is None and work.known is not None and two_sided(work.known):
        work.amount, work.side = plan.Duration(seconds=facts.work_s), plan.Side.EACH
        facts.form, facts.work_s, facts.off_s = "", 0, 0


SHORTEST_REST_S = 15
"""Seconds below which a time behind sets is a pause in each rep: `pause squat 5x3 (3 sec)`."""


def _rest_behind_sets(clause: Clause, library: Library) -> None:
    """Take a time alone behind sets of a lift as their rest: `belt squat 4 x 10, RPE 8, 2 min`."""
    if clause.facts.rest or clause.facts.form or len(clause.works) != 1:
        return
    work = clause.works[0]
    if not work.sets or isinstance(work.amount, plan.Duration):
        return
    for note in work.notes:
        said = [token for token in tokens(note, library) if token.kind != "filler"]
        if [token.kind for token in said] == ["time"] and said[0].value[0] < SHORTEST_REST_S:
            work.pause_s = work.pause_s or float(said[0].value[0])
            work.notes = [one for one in work.notes if one != note]
            return
        if [token.kind for token in said] == ["time"]:
            clause.facts.rest = tuple(said[0].value)
            work.notes = [one for one in work.notes if one != note]
            return


def _in_several_places(clause: Clause) -> None:
    """Place each work behind the word that says it: `buy-in 100 singles, then 5 rounds (12 lunges,
    6 pull-ups), cash-out 100 singles`.
    """
    facts = clause.facts
    if len(facts.places) < 2:
        return
    rounds = [(token.start, "") for token in facts.used if token.kind in ("rounds", "rft")]
    marks = sorted([*facts.places, *rounds])
    for work in clause.works:
        before = [place for start, place in marks if start <= work.start]
        work.place = before[-1] if before else ""
    facts.place = ""


_ROUNDS_OF = re.compile(r"[a-z)],\s+\d+\s+(?:rounds?|rds?)(?:\s+of\s|:)", re.IGNORECASE)
FAR = len("rounds of ")
"""Columns in which `500 m row, 2 rounds of …` has its last words."""


def _before_rounds(clause: Clause) -> None:
    """Place what stands before rounds in the same row: `250 m row, then 5 rounds of …`."""
    told = [token.start for token in clause.facts.used if token.kind in ("rounds", "rft", "twice")]
    begins = any(token.kind == "then" and told and token.start < told[0] for token in clause.body)
    begins = begins or bool(told and _ROUNDS_OF.search(clause.row.text, 0, told[0] + FAR))
    if not begins or clause.facts.form not in ("", "for time") or clause.facts.sets:
        return
    ahead = [work for work in clause.works if work.start < told[0]]
    if len(ahead) < len(clause.works):
        for one in ahead:
            one.place = one.place or "buy-in"
        if clause.facts.place == "buy-in":
            clause.facts.place = ""  # `we start with 4 min bike, then twice through …`
        _closes_as_begun(clause, ahead)


def _rests_one_by_one(clause: Clause) -> None:
    """Put the rest of ways that are listed behind each but the last, all of them for time."""
    facts = clause.facts
    if not clause.one_by_one or facts.form not in ("", "for time"):
        return
    facts.form = "for time"
    for work in clause.works[:-1] if facts.rest else ():
        work.rest_s = facts.rest[0]
    facts.rest, facts.rests = (), []


def _behind_a_closed_list(clause: Clause) -> None:
    """Place what stands behind `then` once behind the rounds, where an `and` has closed their list:
    `3 rounds of 3 burpees and 6 squats, then 500 m row`. Without the `and` it ends the list.
    """
    rounds = [token.start for token in clause.facts.used if token.kind in ("rounds", "rft")]
    if not rounds or clause.facts.form not in ("", "for time") or clause.facts.sets:
        return
    for work in clause.works:
        listed = [before.start for before in clause.works if rounds[0] < before.start < work.start]
        joins = [token.start for token in clause.body if token.kind == "and"]
        if work.then and len(listed) > 1 and any(listed[0] < at < listed[-1] for at in joins):
            work.place = work.place or "cash-out"


def _closes_as_begun(clause: Clause, ahead: Sequence[Work]) -> None:
    """Place the last work of a row behind its rounds where it is what stands before them once
    more: `run 1 mile, then 5 rounds of …, then run 1 mile again`.
    """
    last = clause.works[-1]
    starts = [token.start for token in clause.body if token.kind == "then"]
    again = any(token.known is last.known and token.amount == last.amount for token in ahead)
    if again and last not in ahead and starts and clause.works[-2].start < starts[-1] < last.start:
        last.place = "cash-out"


def _effort_of_sets(clause: Clause, left: Sequence[Token]) -> None:
    """Take how heavy sets are that name no lift, `5 sets of 4 @ 77.5 %`, for the lift above."""
    efforts = [token for token in left if token.kind in ("percent", "rpe")]
    if clause.works or not clause.facts.sets or clause.facts.builds or len(efforts) != 1:
        return
    effort = efforts[0]
    work = Work(clause.row.number, effort.start, load=load_of(effort))
    if work.load is not None:
        said = clause.row.text[effort.start : effort.end]
        clause.works = [work]
        clause.loose = [one for one in clause.loose if said not in one]


def _effort_of_intervals(clause: Clause) -> None:
    """Leave the effort of intervals to their movement: `bike: 5 x 2 min @ 90 %, 2 min easy`."""
    moves = any(token.kind == "movement" for token in clause.body)
    if clause.facts.form == "intervals" and moves:
        efforts = ("percent", "rpe")
        clause.facts.used = [token for token in clause.facts.used if token.kind not in efforts]


def _at_a_pace(clause: Clause, library: Library) -> None:
    """Take long times at a pace with easy ones between them as intervals of a run: `3 x 12 min at
    half marathon pace, 3 min easy`.
    """
    facts = clause.facts
    moves = any(token.kind == "movement" for token in clause.body)
    if facts.form != "amrap" or not facts.times or moves or not SPOKEN.search(clause.row.text):
        return
    facts.form, facts.work_s, facts.rounds = "intervals", facts.length[0], (facts.times,)
    facts.off_s, facts.length, facts.times = (facts.rest or (0,))[0], (), 0
    facts.rest, facts.rests = (), []
    end = clause.body[-1].end
    clause.body.append(Token("movement", "run", end, end, {"movement": "run"}))


def _on_foot(clause: Clause, library: Library) -> None:
    """Name sets of metres without a movement where the row speaks of running: `6x400 @ 5k pace`."""
    if not SPOKEN.search(clause.row.text) or any(work.named for work in clause.works):
        return
    for work in clause.works:
        amount = work.amount
        if isinstance(amount, plan.Reps) and amount.high is None and work.sets:
            runs = SHORTEST_M <= amount.low <= LONGEST_M and amount.low % STEP_M == 0
            amount = plan.Distance(metres=(float(amount.low),)) if runs else amount
        if isinstance(amount, plan.Duration) and (way := set(work.notes) & {"easy", "hard"}):
            name = "easy run" if "easy" in way else "run"
            work.name, work.known = name, library.find(name)
            work.notes = [note for note in work.notes if note != "easy"]
        if isinstance(amount, plan.Distance):
            work.amount, work.name, work.known = amount, "run", library.find("run")


def _rests_within(clause: Clause) -> None:
    """Give works the rests said behind them: several in a row, or that of `A1` before `A2`."""
    facts, label = clause.facts, clause.label
    superset = clause.marked("letter") and label is not None and len(label.value) > 1
    several = len(facts.rests) > 1 and len(clause.works) > 1
    if not (several or (superset and facts.rests)) or not clause.works:
        return
    for start, length in facts.rests:
        done = [work for work in clause.works if work.start < start]
        if not done or not length:
            return
        done[-1].rest_s = length[0]
    facts.rest, facts.rests = (), []


def _name(clause: Clause) -> None:
    """Take the name a row begins with: `Press complex: …`, `Lantern: 5 rounds of …`."""
    start = clause.body[0].start if clause.body else 0
    found = _COMPLEX.match(clause.row.text, start) or _IN_QUOTES.match(clause.row.text, start - 1)
    if found is None:
        found = _NAMED.match(clause.row.text, start)
        kinds = {token.kind for token in clause.body if found and token.start < found.end(1)}
        ahead = {token.kind for token in clause.body if found and token.start > found.end(1)}
        if not kinds <= {"word", "filler"} or "word" not in kinds or not ahead & _FRAMING:
            return
    assert found is not None
    row = clause.row
    clause.name = row.typed[row.at + found.start(1) : row.at + found.end(1)].strip()
    clause.body = [token for token in clause.body if token.start >= found.end(1)]


_IN_WHAT_IS_LEFT = ("amrap", "remaining", "then")


def _maximum(clause: Clause, here: Part | None) -> None:
    """`AMRAP burpees` inside a piece is as many as possible, no piece of its own."""
    if clause.marked("partner"):
        kinds = [token.kind for token in clause.body]
        if kinds[:2] == ["amrap", "movement"]:
            clause.body[0] = clause.body[0].as_kind("max")  # `P2: AMRAP burpees`
    body = [token for token in clause.body if token.kind != "filler"]
    kinds = [token.kind for token in body]
    timed = {"number", "range", "time", "prime"} & set(kinds)
    open_end = here is not None and not here.facts.form and here.works
    if here is not None and open_end and {"amrap", "remaining"} <= set(kinds):
        # `in 20 minutes`, `1 mile run`, `then in the remaining time AMRAP of`
        here.facts.form = "amrap"
        for work in here.works:
            work.place = "buy-in"
    blocks = here is not None and here.facts.form == "intervals" and here.works
    if here is not None and blocks and {"amrap", "remaining"} <= set(kinds):
        # `4 x 5 min, rest 2 min`, `500 m row`, `in the remaining time AMRAP of`
        for work in here.works:
            work.place = "buy-in"
        clause.body = [token for token in clause.body if token.kind not in _IN_WHAT_IS_LEFT]
        return
    inside = here is not None and here.facts.form == "amrap" and "remaining" in kinds
    if inside and "amrap" in kinds and not {"time", "prime"} & set(kinds):
        clause.body = [token for token in clause.body if token.kind != "amrap"]
        return  # `AMRAP 12`, `1000 m row`, then `rest of time AMRAP 7 thrusters`
    windows = here is not None and here.fresh and here.facts.form in ("intervals", "every")
    if windows and "amrap" in kinds and "movement" in kinds and not {"time", "prime"} & set(kinds):
        # `4 x 6 min on, 2 min off`, then `200 m run, 12 burpees, amrap each`: rounds of them.
        at = next(n for n, token in enumerate(clause.body) if token.kind == "amrap")
        each = clause.body[at + 1 : at + 2]
        more = 1 if each and each[0].kind == "each side" else 0
        del clause.body[at : at + 1 + more]
        return
    stations = here is not None and here.facts.form == "intervals" and clause.label is not None
    if stations and "amrap" in kinds and not {"time", "prime"} & set(kinds):
        clause.body = [token for token in clause.body if token.kind != "amrap"]
        return
    for at, one in enumerate(clause.body[1:], start=1):
        if one.kind == "amrap" and clause.body[at - 1].kind == "by" and not timed:
            clause.body[at] = one.as_kind("max")  # `pull-ups 3 x AMRAP`
    for at, one in enumerate(clause.body[:-2]):
        lifts = one.kind == "amrap" and clause.body[at + 1].kind == "at"
        if lifts and clause.body[at + 2].kind in ("percent", "weight", "number"):
            clause.body[at] = one.as_kind("max")  # `5 @ 75 %, AMRAP @ 75 %`
    framed = here is not None and here.facts.frames
    if framed and kinds[:2] == ["amrap", "movement"] and not timed and not clause.label:
        clause.body[clause.body.index(body[0])] = body[0].as_kind("max")


def _exactly(clause: Clause) -> None:
    """Take the modifiers of a heading that are words of the notation."""
    facts = clause.facts
    if not (facts.frames or clause.role):
        return
    used = {id(token) for token in facts.used}
    for start, end, fields in exact_modifiers(clause.row.text):
        inside = [token for token in clause.body if start <= token.start < end]
        if all(id(token) in used for token in inside):
            continue
        facts.fields |= {name: value for name, value in fields.items() if name != "score"}
        facts.score = fields["score"].value if "score" in fields else facts.score
        facts.used += inside
    if facts.form == "amrap" and len(set(facts.rounds)) > 1:
        # `AMRAP 12, 8-10 rounds`: what the coach expects.
        low, high = facts.rounds
        facts.fields.setdefault("target", plan.Target(unit="rounds", low=low, high=high))
        facts.rounds = ()
    left = [token for token in clause.body if id(token) not in used and token.kind == "time"]
    if facts.rounds and len(left) == 1 and len(left[0].value) == 2 and not facts.every_s:
        # `3 rounds, 5-6 min`
        low, high = left[0].value
        facts.fields.setdefault("target", plan.Target(unit="time", low=low, high=high))
        facts.used += left


def _scope(clause: Clause, here: Part | None, library: Library) -> Scope:
    row, text = clause.row, clause.row.text
    given = here is not None and bool(
        here.facts.scheme
        or here.facts.form in ("intervals", "tabata", "death")
        or (clause.marked("minute", "station") and here.facts.form)
    )
    given = given or clause.facts.form in ("intervals", "tabata", "death", "continuous")
    listed = row.bullet or clause.label is not None or row.indent > 0
    if here is not None and here.works and all(work.row == here.number for work in here.works):
        given = given and (listed or any(token.kind == "movement" for token in clause.body))
    prose = bool(PROSE & set(re.findall(r"[a-z']+", text.lower())))
    return Scope(
        library=library,
        row=row.number,
        text=text,
        typed=row.typed,
        at=row.at,
        open=here is not None or bool(clause.facts.form or clause.role),
        first=next((token.start for token in clause.body if token.kind != "filler"), 0),
        listed=here is not None and row.first and (listed or len(text.strip()) < LISTED),
        loose=(clause.role or (here.role if here is not None else "")) in LOOSE,
        talk=prose and clause.facts.form != "continuous",
        names=given,
        counted=_counted_above(clause, here),
        builds=clause.facts.builds,
        framed=_says_windows(clause) or _says_the_lift(clause),
    )


def _says_windows(clause: Clause) -> bool:
    """Whether a clause says how often and how long its work is done."""
    facts = clause.facts
    return bool((facts.form == "emom" and facts.length) or (facts.sets and facts.each))


def is_goal(body: Sequence[Token]) -> bool:
    """Whether a clause tells a goal, a stimulus or a hint."""
    kinds = [token.kind for token in body[:3]]
    return kinds[:1] == ["goal"] and bool({"colon", "comma", "dash", "pipe"} & set(kinds[1:3]))


def _without_first_brackets(body: list[Token]) -> list[Token]:
    """`(snatch pull + hang snatch) x 3` without the brackets round its first works."""
    kinds = [token.kind for token in body]
    if kinds[:1] != ["open"] or "close" not in kinds:
        return body
    end = kinds.index("close")
    if "plus" not in kinds[:end] or "movement" not in kinds[:end]:
        return body
    return [*body[1:end], *body[end + 1 :]]


def _unwrapped(body: list[Token]) -> list[Token]:
    """`2 x (10 squats, 5 push-ups)` without its brackets: rounds of what stands in them."""
    out: list[Token] = []
    inside = False
    body = _without_first_brackets(body)
    for at, token in enumerate(body):
        after = body[at + 1].kind if at + 1 < len(body) else ""
        if token.kind == "by" and after == "open":
            out.append(Token("number", token.value, token.start, token.end))
            out.append(Token("rounds", "", token.end, token.end))
            inside = True
        elif token.kind == "rounds" and after == "open" and _listed(body, at + 1):
            out.append(token)
            inside = True
        elif inside and token.kind == "open":
            out.append(Token("colon", None, token.start, token.end))
        elif inside and token.kind == "close":
            inside = False
        else:
            out.append(token)
    return out


def _listed(body: list[Token], opened: int) -> bool:
    """Whether brackets hold a list of two movements and more: `3 rounds (10 rows, 5 dips), …`."""
    close = next((n for n in range(opened, len(body)) if body[n].kind == "close"), len(body))
    kinds = [token.kind for token in body[opened:close]]
    return kinds.count("movement") > 1 and "open" not in kinds[1:] and "comma" in kinds


def _out_of_brackets(said: list[Token]) -> list[Token]:
    """`AMRAP 15 (5 cleans (60/40), 6 burpees)`: the list without the brackets round all of it."""
    if len(said) < 2 or said[0].kind != "open" or said[-1].kind != "close":
        return said
    depth = 0
    for at, token in enumerate(said):
        depth += {"open": 1, "close": -1}.get(token.kind, 0)
        if not depth and at < len(said) - 1:
            return said
    return said[1:-1]


def _left(clause: Clause) -> list[Token]:
    """The tokens no fact has taken; a gap between two of them parts what they say."""
    facts = clause.facts
    words = [token for token in clause.body if token.kind == "word"]
    talk = 4
    if facts.quality and not clause.role and not facts.frames and len(words) > talk:
        facts.used = []
    used = {id(token) for token in facts.used}
    out: list[Token] = []
    for one in clause.body:
        if id(one) not in used:
            out.append(one)
        elif out and out[-1].kind != "comma":
            out.append(Token("comma", None, one.start, one.start))
    while out and out[0].kind in ("comma", "colon", "dash"):
        out.pop(0)
    return _out_of_brackets(out)
