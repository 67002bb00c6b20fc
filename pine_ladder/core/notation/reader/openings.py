"""The opening of a row: its place in the hour and the role of the part it begins."""

from __future__ import annotations

import re
from collections.abc import Sequence

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.counts import seconds
from pine_ladder.core.notation.reader.facts import Range
from pine_ladder.core.notation.reader.labels import label_of
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.naming import AMOUNTS
from pine_ladder.core.notation.reader.token import Token

_MARKS = ("dash", "comma", "colon", "pipe")
_TIMES = ("time", "prime")
_AFTER_ROLE = (
    "colon", "comma", "open", "stop", "pipe", "time", "prime", "clock range", "number", "range",
    "by", "amrap", "emom", "every", "every n", "for time", "rft", "rounds", "scheme", "build",
    "tabata", "quality", "ladder", "role", "partners", "team", "easy", "slash", "sets", "part",
)  # fmt: skip
"""Kinds of token that may follow a role in a heading."""
SENTENCE_END = re.compile(r"[.!?]\s*$")
CLASS_S = 180
"""Places on the clock that all end before this are hours and minutes of the class, told as m:ss."""


def open_clause(clause: Clause, form: Form, *, first: bool) -> None:
    """Take the slot and the role from a clause's tokens."""
    body = clause.body
    at = _past(body, 0, (*_MARKS, "stop"))
    placed = clause.row.number in form.clock_rows and clause.row.first and at < len(body)
    if placed and body[at].kind == "time" and len(body[at].value) > 1:
        body[at] = body[at].as_kind("clock range")  # `10:00-12:00 rest`
    if _is_cap(body, at):
        return
    if clause.marked("part") and (within := _within(body)):
        clause.slot, clause.body = within, body[3:]
        return
    at = _spoken(body, at)
    if clause.row.number in form.hour_rows:
        at = _past(body, at, ("station",))
    shared = [token.kind for token in body[at : at + 3]]
    if shared in (["partners", "role", "comma"], ["partners", "role", "colon"]):
        clause.role = str(body[at + 1].means["role"])  # `Partner workout, 20 minutes, …`
        clause.body = [body[at], *body[at + 3 :]]
        return
    if _named_role(clause, at, form):
        return
    if _role_behind_way(clause, at):
        return
    lead = [token.kind for token in body[at : at + 4] if token.kind != "filler"]
    if lead[:1] in (["first"], ["then"]) and lead[1:3] in (["time", "role"], ["prime", "role"]):
        at = next(n for n in range(at, len(body)) if body[n].kind in _TIMES)
    clause.slot, at = _slot(clause, at, form)
    if clause.row.first and (minutes := form.day_slots.get(clause.row.number)):
        clause.slot = (60 * minutes,)
    at = _past(body, at, _MARKS)
    found = at
    while found < len(body) and found - at < MOST_LEAD and _leads_in(body[found]):
        found += 1
    if found < len(body) and "role" in body[found].means and _says_role(clause, found, first=first):
        role = str(body[found].means["role"])
        rest = body[found + 1 :]
        while rest and rest[0].kind == "role" and rest[0].means["role"] != role:
            rest = rest[1:]
        if [one.kind for one in rest[:2]] in (["slash", "role"], ["and", "role"], ["plus", "role"]):
            rest = rest[2:]  # `Skill/Strength`
        rest = rest[1:] if at < found and rest and rest[0].kind == "part" else rest
        rest = rest[_past(rest, 0, (*_MARKS, "stop")) :]
        slot: Range = ()
        if not clause.slot:
            slot, rest = _slot_after(rest, placed=clause.row.number in form.hour_rows)
        clause.role, clause.slot = role, clause.slot or slot
        clause.body = body[at:found] + rest
        return
    clause.body = body[at:]
    if clause.row.number in form.opening_rows and clause.row.first:
        _late_role(clause)


def _spoken(body: Sequence[Token], at: int) -> int:
    """The place in a row behind words that lead in: `ok so tonight we start with …`."""
    end = at
    while end < len(body) and (
        _leads_in(body[end]) or body[end].kind in ("colon", "comma", "buy-in")
    ):
        end += 1
    ahead = body[end].kind if end < len(body) else ""
    shared = any(token.kind in ("partners", "team") for token in body[at:end])
    talks = any(token.kind in ("word", "everyone") for token in body[at:end])
    return end if (ahead == "role" and not shared) or talks else at


def _named_role(clause: Clause, at: int, form: Form) -> bool:
    """Take a role that stands behind what it is for: `pull-up strength:`, `shoulder prep:`."""
    body, row = clause.body, clause.row
    kinds = [token.kind for token in body[at : at + MOST_NAMED + 4]]
    if kinds[:3] == ["movement", "role", "colon"] and row.first:
        clause.role, clause.body = str(body[at + 1].means["role"]), body[at + 3 :]
        return True
    named = 0
    while named < len(kinds) and kinds[named] in ("word", "style", "implement"):
        named += 1
    if kinds[named + 1 : named + 2] in (["comma"], ["dash"]):
        del kinds[named + 1]
        body = [*body[: at + named + 1], *body[at + named + 2 :]]
    length = body[at + named + 1] if at + named + 1 < len(body) else None
    minutes = length is not None and (
        length.kind in _TIMES
        or (length.kind == "number" and FEWEST_MIN <= length.value <= MOST_MIN)
    )
    timed = bool(minutes) and kinds[named : named + 3 : 2] == ["role", "colon"]
    behind = kinds[named : named + 2] == ["role", "colon"] or timed
    if not 0 < named <= MOST_NAMED or not behind or form.alone:
        return False
    role = body[at + named]
    if role.end - role.start == 1:
        return False
    clause.role, clause.body = str(role.means["role"]), body[at + named + 2 :]
    if timed and length is not None:
        # `pull strength 15: 5x3 weighted chins`
        clause.slot, clause.body = seconds(length, "min"), clause.body[1:]
    clause.name = row.text[body[at].start : role.end].strip()
    return True


def _role_behind_way(clause: Clause, at: int) -> bool:
    """Take the role behind how far one goes in it: `2 mile warm up`, `800 m easy cool down`."""
    body = clause.body
    role = _past(body, at + 1, ("filler", "easy"))
    if not clause.row.first or role >= len(body) or body[at].kind != "distance":
        return False
    if body[role].kind != "role" or body[role].means["role"] not in ("warm-up", "cool-down"):
        return False
    clause.role = str(body[role].means["role"])
    behind = body[role + 1 :]
    if all(token.kind in (*_MARKS, "stop", "filler") for token in behind):
        end = body[at].end
        means = {"movement": "easy run"}  # On foot, where nothing else is said.
        behind = [Token("movement", "easy run", end, end, means)]
        role = at + 1
    clause.body = [*body[at:role], *behind]
    return True


LENGTH_NEAR = 8
"""Tokens behind a role at the start within which a time says that it heads a part."""
MOST_NAMED = 2
"""Words before a role and a colon that say what it is for: `shoulder prep:`."""
MOST_LEAD = 6
"""Words that may stand before a role in a sentence."""
_SPOKEN = frozenset(
    ("ok", "okay", "so", "we", "we'll", "we're", "let's", "lets", "today", "tonight", "tomorrow",
     "everyone", "guys", "team", "will", "going", "get", "starting")
)  # fmt: skip


def _leads_in(token: Token) -> bool:
    """Whether a token may stand before the role of a part: `then`, `ok so tonight we`."""
    lead = ("filler", "then", "first", "style", "cash-out", "partners", "team", "rest between")
    return token.kind in lead or (token.kind in ("word", "everyone") and token.value in _SPOKEN)


def _within(body: Sequence[Token]) -> Range:
    """The length of `Part 1 (0-15 min)`."""
    if [token.kind for token in body[:3]] != ["open", "time", "close"]:
        return ()
    times = body[1].value
    return (times[-1] - times[0],) if len(times) > 1 else tuple(times)


def _past(body: Sequence[Token], at: int, kinds: Sequence[str]) -> int:
    while at < len(body) and body[at].kind in kinds:
        at += 1
    return at


def _is_cap(body: Sequence[Token], at: int) -> bool:
    """`30 min - cap`: a time at the start that is no slot."""
    return [token.kind for token in body[at + 1 : at + 3]] == ["dash", "cap"]


def _slot(clause: Clause, at: int, form: Form) -> tuple[Range, int]:
    """The place in the hour at the start, as a length in seconds, and where the row goes on."""
    body, text = clause.body, clause.row.text
    here = body[at] if at < len(body) else None
    after = next((token for token in body[at + 1 : at + 3] if token.kind != "filler"), None)
    if here is not None and here.kind == "clock range":
        start, end = here.value
        latest = form.last_place_s if clause.row.number in form.clock_rows else end
        minutes = 0 <= start < end and latest <= CLASS_S
        return ((60 if minutes else 1) * abs(end - start),), at + 1
    if here is None or after is None:
        return (), at
    if here.kind == "range" and clause.row.number in form.hour_rows and clause.row.first:
        return (60 * (here.value[1] - here.value[0]),), at + 1
    if here.kind == "range" and after.kind == "role":
        return (60 * (here.value[1] - here.value[0]),), at + 1
    loose = after.means.get("role") in ("warm-up", "cool-down", "mobility")
    if here.kind == "number" and after.kind == "role" and loose and clause.row.first:
        behind = body[body.index(after) + 1 :]
        if not behind or behind[0].kind in _MARKS:
            return seconds(here), at + 1  # `5 stretch`
    timed = here.kind in _TIMES and clause.row.number in form.timed_rows and clause.row.first
    if timed and after.kind not in ("amrap", "emom", "every"):
        return seconds(here), at + 1
    apart = after.kind in ("dash", "role", "pipe")
    apart = apart or bool(re.fullmatch(r"\s{2,}", text[here.end : after.start]))
    if here.kind in _TIMES and apart:
        return seconds(here), at + 1
    ahead = {token.kind for token in body[at:]}
    framed = bool({"on", "off", "intervals", "tabata", "rounds", "rft"} & ahead)
    own = {"amrap", "emom", "every"} & ahead  # They take their length themselves.
    named = len(body) > at + 2 and body[at + 2].kind == "role"
    if here.kind in _TIMES and after.kind == "colon" and (framed or named) and not own:
        return seconds(here), at + 1  # `8 min: 30 on 30 off swings`
    kinds = [token.kind for token in body[at : at + 5] if token.kind != "filler"]
    first = kinds[:1] in (["first"], ["then"], ["last time"])
    if first and kinds[1:3] in (["time", "colon"], ["number", "colon"]):
        # `First ten minutes: …`
        token = next(token for token in body[at:] if token.kind in ("time", "number"))
        return seconds(token), body.index(token) + 1
    return (), at


def _slot_after(rest: list[Token], *, placed: bool) -> tuple[Range, list[Token]]:
    """The minutes of a part that stand after its role: `Warm-up (8)`, `Strength, 18 min`; where it
    is `placed` in the hour, `Strength (10-25)`, those from its start to its end.
    """
    if placed and [token.kind for token in rest[:3]] == ["open", "range", "close"]:
        start, end = rest[1].value
        return (60 * (end - start),), rest[3:]
    kinds = [token.kind for token in rest[:3]]
    bracketed = kinds[:1] == ["open"] and kinds[1:2] and kinds[1] in (*_TIMES, "number", "range")
    if bracketed and kinds[2:] == ["close"]:
        return seconds(rest[1]), rest[3:]
    if bracketed and kinds[2:] == ["comma"]:
        return seconds(rest[1]), [rest[0], *rest[3:]]
    if [token.kind for token in rest[:5]] == ["open", "quality", "comma", "time", "close"]:
        return seconds(rest[3]), [rest[1], *rest[5:]]  # `Metcon (for quality, 20 min)`
    ends = len(kinds) == 1 or (kinds[1:2] and kinds[1] in (*_MARKS, "stop", "open"))
    if kinds[:1] == ["distance"] and ends and rest[0].end - rest[0].start <= len("60m"):
        return seconds(rest[0]), rest[1:]  # `Strength 20m:`
    if kinds[:1] and kinds[0] in _TIMES and ends:
        return seconds(rest[0]), rest[1:]
    bare = kinds == ["number"] or kinds[:2] == ["number", "colon"]
    if bare and FEWEST_MIN <= rest[0].value <= MOST_MIN:
        return seconds(rest[0], "min"), rest[1:]  # `WU 10`, `core 8: 3x20 hollow rocks`
    return (), rest


FEWEST_MIN, MOST_MIN = 5, 40
"""Bare numbers behind a role that are its minutes."""


def _amounts(body: Sequence[Token]) -> bool:
    """Whether tokens say how much, or lead to a list: `Warm up the shoulders` does not."""
    return any(token.kind in (*AMOUNTS, *_TIMES, "colon", "rounds") for token in body)


_LEADS_ON = re.compile(r"\s*(?:is|of|with|together|as always|was|a|the)\b", re.IGNORECASE)
"""Words behind a role that say what it is: `Warm-up is …`."""


def _says_role(clause: Clause, at: int, *, first: bool) -> bool:
    """Whether a word that may be a role is one where it stands."""
    row, body = clause.row, clause.body
    token = body[at]
    after = body[at + 1] if at + 1 < len(body) else None
    if (
        at > 0
        and not row.first
        and all(token.kind in (*_TIMES, "filler") for token in body[at + 1 :])
    ):
        return True  # `then we'll stretch for 5 min`
    if "movement" in token.means or token.kind != "role":
        return after is None and (row.gap or first or clause.label is not None)
    if after is None or row.marked:
        return True
    if after.kind in _AFTER_ROLE:
        return True
    if after.kind == "dash":
        return row.text[after.start - 1] == " "
    if _LEADS_ON.match(row.text, token.end):
        return first or row.gap or not row.first or _amounts(body[at + 1 :]) or at > 0
    kinds = [token.kind for token in body[at + 1 : at + 5]]
    called = kinds.index("colon") if row.first and at <= 1 and "colon" in kinds else 0
    if called and set(kinds[:called]) <= {"word", "filler", "and", "style"}:
        return True  # `Warm-up well: …`
    if at == 0 and {"time", "prime"} & {token.kind for token in body[1:LENGTH_NEAR]}:
        return True  # `Warm up on your own, 10 minutes, …`
    if after.kind == "movement":
        goes_on = {token.kind for token in body[:at]} >= {"then"} and token.means["role"] in LOOSE
        timed = any(token.kind in _TIMES for token in body[at + 1 :])
        return row.first or (goes_on and timed)  # `Then cool down bike 8 min easy`
    words = [token for token in body if token.kind == "word"]
    return row.first and len(words) <= 3 and at <= 1 and not SENTENCE_END.search(row.text)


def _late_role(clause: Clause) -> None:
    """A role that ends the heading of a marked part: `A. Muscle-up skill, 12:00`."""
    body = clause.body
    late = next((at for at, token in enumerate(body[:5]) if token.kind == "role"), None)
    if late is None:
        return
    rest = body[late + 1 :]
    if all(one.kind in (*_TIMES, *_MARKS, "open", "close") for one in rest):
        clause.role = str(body[late].means["role"])
        times = [seconds(one) for one in rest if one.kind == "time"]
        clause.slot = clause.slot or (times[0] if times else ())
        clause.body = body[:late]


def looks_like_opening(row: Row, library: Library) -> bool:
    """Whether a row begins with a mark, a role or a format."""
    body = [token for token in tokens(row.text, library) if token.kind != "filler"]
    opens = ("role", "amrap", "emom", "clock range")
    return bool(row.marked or label_of(row) or (body and body[0].kind in opens))


FEWEST_TIMED, SHORTEST_S = 3, 300
"""Lines that begin with their minutes at least, and seconds of each, where they are parts."""
OTHERS = 2
"""Other lines of such a board at most: its title, a word to the class."""
_PARTS_OF = ("role", "by", "sets", "amrap", "emom", "rft", "for time", "every", "style", "build")


def timed_rows(rows: Sequence[Row], library: Library) -> set[int]:
    """The lines of a board whose parts begin with their minutes, as most of its lines do; some of
    them say what they are for or how they are done, as minutes on machines do not.
    """
    out: set[int] = set()
    framed = 0
    for row in rows:
        body = [token for token in tokens(row.text, library) if token.kind != "filler"]
        minutes = body[:1] and body[0].kind in ("time", "prime") and min(seconds(body[0]))
        if row.first and minutes and minutes >= SHORTEST_S and len(body) > 1:
            out.add(row.number)
            framed += any(token.kind in _PARTS_OF for token in body[1:])
    whole = len(out) >= FEWEST_TIMED and len(out) + OTHERS >= len({row.number for row in rows})
    return out if whole and framed >= FEWEST_TIMED - 1 else set()
