"""The tokens of a clause as those of a plainer way to say it: ways named, numbers dealt out."""

from __future__ import annotations

from itertools import pairwise

from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.clause import Clause, Form
from pine_ladder.core.notation.reader.parts import Part
from pine_ladder.core.notation.reader.token import Token


def on_its_machine(clause: Clause, form: Form, library: Library) -> None:
    """Name ways and easy minutes of a row, also behind a `then`, after the machine of the title."""
    goes_on = clause.body[:1] if [token.kind for token in clause.body[:1]] == ["then"] else []
    clause.body = clause.body[len(goes_on) :]
    _named_by_the_title(clause, form, library)
    clause.body = [*goes_on, *clause.body]


def _named_by_the_title(clause: Clause, form: Form, library: Library) -> None:
    """Name ways and easy minutes of a row without a movement after the machine of the title."""
    kinds = [token.kind for token in clause.body]
    if (
        not form.engine
        or {"movement", "rest", "off", "cap"} & set(kinds[:2])
        or "movement" in kinds
    ):
        return
    laps = [
        at
        for at, token in enumerate(clause.body[:2])
        if token.kind == "number" and token.value >= SHORTEST_LAP and not token.value % SHORTEST_LAP
    ]
    if laps and (laps[0] == 0 or kinds[0] == "by"):
        token = clause.body[laps[0]]  # `Swim: 200 easy, 4x50, 6x100`
        far = ((float(token.value),), "-")
        clause.body[laps[0]] = Token("distance", far, token.start, token.end)
        kinds[laps[0]] = "distance"
    at = kinds.index("distance") if "distance" in kinds else None
    name = form.engine
    if at is None and len(kinds) > 1 and kinds[0] in ("time", "prime") and kinds[1] == "easy":
        at, easy = 1, library.find(f"easy {name}")
        name = easy.name if easy is not None else name
    if at is not None and not clause.role:
        end = clause.body[at].end
        clause.body.insert(at + 1, Token("movement", name, end, end, {"movement": name}))


SHORTEST_LAP = 25
"""Metres of a lap, of which ways without a unit on a machine or in the pool are a multiple."""
_LIST_MARKS = ("slash", "comma", "plus", "then")


def ways_in_a_list(clause: Clause) -> None:
    """Name ways without a movement between counted work as runs: `800 m / 40 lunges / 400 m`."""
    body = clause.body
    kinds = [token.kind for token in body]
    counted = any(pair == ("number", "movement") for pair in pairwise(kinds))
    if not counted or "rest" in kinds:
        return
    out: list[Token] = []
    for at, token in enumerate(body):
        out.append(token)
        before = kinds[at - 1] if at else ""
        after = kinds[at + 1] if at + 1 < len(body) else ""
        if token.kind == "cal" and after == "slash":
            machine = {"movement": "machine"}  # `14 cal / 12 burpees`
            out.append(Token("movement", "machine", token.end, token.end, machine))
        ends = after in (*_LIST_MARKS, "stop", "for time", "")
        ends = ends and before in (*_LIST_MARKS, "and", "colon", "for time", "")
        if token.kind == "distance" and ends:
            out.append(Token("movement", "run", token.end, token.end, {"movement": "run"}))
    clause.body = out


FEWEST_WAYS = 3
"""Ways of one row from which on they are a list, and no pair for the two tracks."""


def ways_one_by_one(clause: Clause, library: Library) -> None:
    """Write `row 100/200/300/400 m` out as four rows, each behind a mark."""
    body = clause.body
    moves = [token for token in body if token.kind == "movement"]
    ways = [token for token in body if token.kind == "distance"]
    known = library.find(str(moves[0].means["movement"])) if len(moves) == 1 else None
    if known is None or Pattern.ENGINE not in known.patterns or len(ways) != 1:
        return
    metres, way = ways[0].value[0], ways[0]
    if len(metres) < FEWEST_WAYS or {"by", "times n", "rounds", "amrap"} & {t.kind for t in body}:
        return
    listed: list[Token] = []
    for metre in metres:
        listed.append(Token("distance", ((metre,), "-"), way.start, way.end))
        listed.append(Token("movement", known.name, way.end, way.end, moves[0].means))
        listed.append(Token("comma", None, way.end, way.end))
    named = body.index(moves[0])
    marks = 1 if body[named + 1 : named + 2] and body[named + 1].kind == "colon" else 0
    others = [*body[:named], *body[named + 1 + marks :]]
    at = others.index(way)
    clause.body = [*others[:at], *listed, *others[at + 1 :]]
    clause.one_by_one = True


MOST_WAYS = 20
"""Repeats of a way at most that a number before it counts."""


def so_many_ways(clause: Clause, library: Library) -> None:
    """Take `five 200 m rows` as five times 200 m."""
    body = clause.body
    kinds = [token.kind for token in body]
    at = next((at for at, kind in enumerate(kinds) if kind not in ("filler", "then")), 0)
    if kinds[at : at + 3] != ["number", "distance", "movement"]:
        return
    known = library.find(str(body[at + 2].means["movement"]))
    count = body[at].value
    if known is None or Pattern.ENGINE not in known.patterns or not 1 < count <= MOST_WAYS:
        return
    by = Token("by", int(count), body[at].start, body[at].end)
    clause.body = [*body[:at], by, *body[at + 1 :]]


def most_in_a_time(clause: Clause) -> None:
    """Put the time of `max cals ski in 2 min` before what is done in it."""
    body = [token for token in clause.body if token.kind not in ("filler", "every")]
    kinds = [token.kind for token in body]
    timed = kinds[-1:] in (["time"], ["prime"]) and kinds[:1] == ["max"]
    if timed and kinds[1:-1] in (["movement"], ["calories", "movement"], ["reps", "movement"]):
        between = clause.row.text[body[-2].end : body[-1].start]
        if between.strip().lower() == "in":
            clause.body = [body[-1], *body[:-1]]


def fast_and_easy(clause: Clause) -> None:
    """Name the fast way of `6 x 400 fast, 200 walk`, which is run so many times with the other."""
    body = clause.body
    kinds = [token.kind for token in body[:6]]
    ways = ("distance", "number")
    if len(kinds) < 6 or kinds[0] != "by" or kinds[2] != "hard" or kinds[3] not in _LIST_MARKS:
        return
    move = str(body[5].means.get("movement", ""))
    if kinds[1] not in ways or kinds[4] not in ways or move not in ("walk", "easy run"):
        return
    end = body[0].end
    often = Token("number", float(body[0].value), body[0].start, end)
    run = Token("movement", "run", body[1].end, body[1].end, {"movement": "run"})
    rounds = Token("rounds", "", end, end)
    clause.body = [often, rounds, body[1], run, body[2], *body[3:]]


def stretched_at_a_station(clause: Clause, here: Part | None, form: Form, library: Library) -> None:
    """Take `6) stretch` among stations as the work of one, and no part of its own."""
    if clause.row.number in form.opening_rows:
        return
    turns = here is not None and here.stations and here.facts.form in ("intervals", "every", "emom")
    if not turns or clause.role != "cool-down" or clause.body:
        return
    if clause.marked("number", "station", "minute") and (known := library.find("easy stretching")):
        clause.role, end = "", len(clause.row.text)
        clause.body = [Token("movement", known.name, end, end, {"movement": known.name})]


_COMPLEX_SETS = ("number", "rounds", "colon", "number", "plus", "number")


def complex_in_sets(clause: Clause) -> None:
    """Put the reps of `hang snatch + snatch: 6 x (1+1)` before its movements, and its sets."""
    body = clause.body
    kinds = [token.kind for token in body]
    at = next((at for at in range(len(kinds)) if tuple(kinds[at : at + 6]) == _COMPLEX_SETS), 0)
    end = at + 3
    while end < len(kinds) and kinds[end] in ("number", "plus"):
        end += 1
    counts = [token for token in body[at + 3 : end] if token.kind == "number"]
    moves = [token for token in body[:at] if token.kind == "movement"]
    joined = kinds[:at].count("plus")
    if not at or len(moves) != len(counts) or joined != len(moves) - 1:
        return
    lifts: list[Token] = []
    for token in body[:at]:
        if token.kind == "movement":
            count = counts[moves.index(token)].value
            lifts.append(Token("number", count, token.start, token.start))
        if token.kind != "colon":
            lifts.append(token)
    sets = Token("sets", "", body[at].end, body[at].end)
    colon = Token("colon", None, body[at].end, body[at].end)
    clause.body = [body[at], sets, colon, *lifts, *body[end:]]


def complex_counts(clause: Clause) -> None:
    """Put the reps of `pull + hang clean + clean: 1+1+1 x 6 sets` before its movements."""
    body = clause.body
    kinds = [token.kind for token in body]
    moves = [at for at, kind in enumerate(kinds) if kind == "movement"]
    first = next((at for at in range(len(kinds)) if kinds[at : at + 2] == ["number", "plus"]), 0)
    end = first
    while end < len(kinds) and kinds[end] in ("number", "plus") and kinds[end - 1] != kinds[end]:
        end += 1
    times = kinds[end : end + 1] == ["by"] and kinds[end - 1] == "plus"
    end += times
    counts = [token.value for token in body[first:end] if token.kind in ("number", "by")]
    joined = kinds[moves[0] if moves else 0 : first].count("plus")
    if not moves or moves[-1] > first or len(counts) != len(moves) or joined != len(moves) - 1:
        return
    lifts: list[Token] = []
    for at, token in enumerate(body[:first]):
        if at in moves:
            count = float(counts[moves.index(at)])
            lifts.append(Token("number", count, token.start, token.start))
        lifts.append(token)
    behind = body[end:]
    if times and behind and behind[0].kind == "number" and kinds[end + 1 : end + 2] != ["sets"]:
        sets = Token("sets", "", behind[0].end, behind[0].end)
        behind = [behind[0], sets, *behind[1:]]
    clause.body = [*lifts, *([Token("comma", None, body[end - 1].end, body[end - 1].end)]), *behind]


_OVER_AGAIN = ("repeat", "repeated", "redo")


def said_again(clause: Clause) -> None:
    """Take `repeat x 5`, `repeat 4 times` as so many rounds of what stands above."""
    body = [token for token in clause.body if token.kind not in ("filler", "colon")]
    kinds = [token.kind for token in body]
    if not body or body[0].value not in _OVER_AGAIN:
        return
    if kinds[1:] in (["times n"], ["by"], ["number", "times"], ["number", "rounds"]):
        count = body[1].value[0] if body[1].kind == "times n" else body[1].value
        rounds = Token("rounds", "", body[1].end, body[-1].end)
        clause.body = [Token("number", float(count), body[0].start, body[1].end), rounds]


def time_trial(clause: Clause) -> None:
    """Put `time trial` before the way it is of: `2k TT row`."""
    kinds = [token.kind for token in clause.body[:3]]
    if kinds == ["distance", "for time", "movement"]:
        way, trial, *others = clause.body
        clause.body = [trial, way, *others]


FEWEST_DEALT = 3


def dealt_out(clause: Clause) -> None:
    """Deal numbers out to the movements they stand before: `5/10/15 pull-ups, push-ups, squats`."""
    body = clause.body
    for at, token in enumerate(body):
        if token.kind not in ("pair", "scheme") or at + 1 == len(body):
            continue
        counts = token.value if token.kind == "pair" else token.value[0]
        behind = [other for other in body[at + 1 :] if other.kind != "filler"]
        moves = [other for other in behind if other.kind == "movement"]
        marked = {other.kind for other in behind} <= {"movement", "comma", "and", "slash"}
        rises = list(counts) == sorted(counts) or token.kind == "pair"
        if len(counts) < FEWEST_DEALT or len(moves) != len(counts) or not (marked and rises):
            continue
        dealt: list[Token] = []
        for count, move in zip(counts, moves, strict=True):
            dealt += [Token("number", float(count), move.start, move.start), move]
            dealt.append(Token("comma", None, move.end, move.end))
        timed = at and body[at - 1].kind in ("time", "prime")
        colon = [Token("colon", None, token.start, token.start)] if timed else []
        clause.body = [*body[:at], *colon, *dealt[:-1]]
        return


def without_dash(body: list[Token]) -> list[Token]:
    """The tokens without the dash of `80 - double-unders`."""
    kinds = [token.kind for token in body[:3]]
    counted = kinds[:2] == ["number", "dash"] and kinds[2:] in (["movement"], ["implement"])
    return [body[0], *body[2:]] if counted else body


def each_station(clause: Clause) -> None:
    """Part movements with strokes between them that are a station each: `run/row/bike, 2 min each
    station`, `Tabata: pull-ups/push-ups/sit-ups`.
    """
    body = clause.body
    kinds = [token.kind for token in body]
    turns = "station" in kinds or kinds[:1] == ["tabata"]
    if not turns or kinds.count("movement") < FEWEST_STATIONS:
        return
    if kinds[0] == "tabata":
        body = [token for token in body if token.kind != "each side"]  # `…, 8 x 20/10 each`
        kinds = [token.kind for token in body]
    clause.body = [
        token.as_kind("comma")
        if token.kind == "slash" and kinds[at - 1 : at + 2] == ["movement", "slash", "movement"]
        else token
        for at, token in enumerate(body)
    ]


FEWEST_STATIONS = 3


def named_scheme(clause: Clause) -> None:
    """Leave the name of a scheme before a colon out, where its sets stand behind it: `deadlift
    5/3/1 week: 5 @ 75 %, 3 @ 85 %, 1+ @ 95 %`.
    """
    body = clause.body
    kinds = [token.kind for token in body]
    at = kinds.index("colon") if "colon" in kinds[: MOST_NAME + 1] else 0
    names = kinds[:2] == ["movement", "pair"] and set(kinds[2:at]) <= {"word", "filler"}
    if at and names and kinds[at + 1 : at + 4] == ["number", "at", "percent"]:
        clause.body = [body[0], *body[at:]]


MOST_NAME = 4
"""Tokens of a lift and its scheme before a colon at most."""


_ENDS_A_WAY = ("easy", "comma", "stop", "then", "and", "plus")


def easy_way_alone(clause: Clause, form: Form, library: Library) -> None:
    """Name a way alone that a warm-up or a cool-down begins with: `c/d 1 mile`."""
    body = clause.body
    kinds = [token.kind for token in body]
    at = next((at for at, kind in enumerate(kinds) if kind not in ("filler", "easy")), len(kinds))
    ends = kinds[at + 1 : at + 2] == [] or kinds[at + 1] in _ENDS_A_WAY
    if clause.role not in LOOSE or kinds[at : at + 1] != ["distance"] or not ends:
        return
    way, end = form.engine.removeprefix("easy ") or "run", body[at].end
    name = f"easy {way}" if library.find(f"easy {way}") is not None else way
    moved = Token("movement", name, end, end, {"movement": name})
    behind = [
        token for token in body[at + 1 :] if token is not body[at + 1] or token.kind != "easy"
    ]
    clause.body = [*body[: at + 1], moved, *behind]


def reworded(clause: Clause, form: Form, library: Library) -> None:
    """Say a clause in the plainer way, as far as its own words tell it."""
    on_its_machine(clause, form, library)
    ways_in_a_list(clause)
    fast_and_easy(clause)
    most_in_a_time(clause)
    so_many_ways(clause, library)
    easy_way_alone(clause, form, library)
    ways_one_by_one(clause, library)
    named_scheme(clause)
    for rule in (time_trial, each_station, dealt_out, complex_in_sets, complex_counts, said_again):
        rule(clause)
