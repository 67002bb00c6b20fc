"""Facts that the order of a clause's tokens tells, before and after the patterns of grammar.py."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation.reader.counts import MARKS, TIMES, by_ones, count_of, seconds
from pine_ladder.core.notation.reader.facts import Facts
from pine_ladder.core.notation.reader.token import Token

_NAMES = ("word", "goal", "easy", "style", "role", "at", "percent", "quality", "station")
MOST_NAMES = 4
"""Words between a time and a colon that say what the time is for."""
_EASIER = ("easy", "rest", "off")


def listed(tokens: Sequence[Token]) -> list[Token]:
    """The tokens without fillers, a colon for the *of* of `AMRAP of 5 burpees, 10 swings`."""
    kinds = [token.kind for token in tokens]
    return [
        token.as_kind("colon") if token.kind == "filler" else token
        for at, token in enumerate(tokens)
        if token.kind != "filler"
        or (at and kinds[at - 1] == "amrap" and kinds[at + 1 : at + 3] == ["number", "movement"])
    ]


LONG_S = 180
"""Seconds from which on a time at the end of a row is that of the whole."""


def length_behind(facts: Facts, tokens: Sequence[Token]) -> None:
    """`AMRAP of 5 burpees, 10 swings in 12 minutes`: the length stands last."""
    if facts.length or facts.rounds or not (facts.form == "amrap" or facts.endless):
        return
    kinds = [token.kind for token in tokens[-2:]]
    if kinds in (["filler", "time"], ["filler", "prime"]) and tokens[-1] not in facts.used:
        length = seconds(tokens[-1])
        if length[0] >= LONG_S:
            facts.length = length
            facts.used.append(tokens[-1])


def at_each(facts: Facts, tokens: Sequence[Token]) -> None:
    """`90 s at each, then 90 s off`: the time at each of the stations below."""
    kinds = [token.kind for token in tokens[:4]]
    timed = kinds[:3] in (["time", "filler", "each side"], ["prime", "filler", "each side"])
    if timed and not facts.form and kinds[3:] in ([], ["comma"], ["stop"], ["open"]):
        facts.form, facts.work_s, facts.off_s = "intervals", seconds(tokens[0])[0], 0
        facts.used += [tokens[0], tokens[2]]


FEWEST_MIN, MOST_MIN = 8, 40
"""Minutes that a lift is built up in: a bare number between them behind its reps is that time."""


def time_to_build(facts: Facts, body: Sequence[Token]) -> None:
    """`build to a heavy single for the day, 18 minutes`: the time to build up in stands last."""
    last = body[-1] if body else None
    if not facts.builds or facts.slot or last is None or last in facts.used:
        return
    if last.kind in ("time", "prime") and seconds(last)[0] >= LONG_S:
        facts.slot = seconds(last)
        facts.used.append(last)
    kinds = [token.kind for token in body[-3:]]
    bare = kinds in (["rep max", "comma", "number"], ["heavy", "comma", "number"])
    if bare and FEWEST_MIN <= last.value <= MOST_MIN:
        facts.slot = seconds(last, "min")  # `build bench to 3RM, 20`
        facts.used.append(last)


def in_steps(facts: Facts, body: Sequence[Token]) -> None:
    """`1-1-1, 2-2-2, 3-3-3 …`: a ladder, whose every step says what each of its works is given."""
    steps = [token for token in body if token.kind == "scheme"]
    counts = [step.value[0] for step in steps]
    even = all(len(set(count)) == 1 for count in counts)
    firsts = [count[0] for count in counts]
    rises = {after - before for before, after in pairwise(firsts)}
    if len(steps) < 2 or not even or len(rises) != 1 or 0 in rises:
        return
    facts.scheme = tuple(firsts)
    facts.endless = any(token.kind == "etc" for token in body) or steps[-1].value[1]
    first, last = body.index(steps[0]), body.index(steps[-1])
    behind = [token for token in body[last + 1 :] if token.kind in ("etc", "comma", "stop")]
    facts.used += [*body[first : last + 1], *behind]


def most_of_each(facts: Facts, body: Sequence[Token]) -> None:
    """`5 rounds, max reps each`: as many as possible of all that is listed below."""
    most = next((token for token in body if token.kind == "max"), None)
    moves = any(token.kind in ("movement", "cal", "distance") for token in body)
    if most is not None and not moves and (facts.rounds or facts.sets):
        facts.most = True
        behind = body[body.index(most) + 1 :]
        facts.used += [most, *_until(behind, ("reps", "each side", "unbroken", "sets", "each"))]


def most_in(facts: Facts, body: Sequence[Token]) -> None:
    """`max reps in 60 s, 3 rounds, 30 s to change`: intervals of what is listed below."""
    kinds = [token.kind for token in body[:3] if token.kind != "reps"][:2]
    moves = any(token.kind == "movement" for token in body)
    if kinds not in (["max", "time"], ["max", "prime"]) or moves or facts.form or not facts.rounds:
        return
    length = next(token for token in body if token.kind in ("time", "prime"))
    off = facts.off_s if facts.off_s is not None else (facts.rest or (0,))[0]
    facts.form, facts.work_s, facts.off_s = "intervals", seconds(length)[0], off
    facts.rest, facts.rests = (), []
    facts.used += [body[0], length]


def ramp_on_a_machine(facts: Facts, body: Sequence[Token], library: Library) -> None:
    """Take `5 min ramp on the bike` as so long on it: nothing is built up to on a machine alone."""
    moves = [token for token in body if token.kind == "movement"]
    known = [library.find(str(token.means["movement"])) for token in moves]
    alone = moves and all(move is None or Pattern.ENGINE in move.patterns for move in known)
    times = [token for token in body if token.kind in ("time", "prime")]
    names = [
        token.value in ("", "machine") or move for token, move in zip(moves, known, strict=True)
    ]
    if facts.builds and alone and all(names) and len(times) == 1 and not facts.build:
        facts.builds, facts.slot = False, ()
        facts.used = [token for token in facts.used if token not in times]


def one_every(facts: Facts, body: Sequence[Token]) -> None:
    """`4 sets of 8, one every 2 minutes`: a set in each window, and no rep."""
    for at, token in enumerate(body[:-1]):
        single = token.kind == "number" and token.value == 1
        ahead = {before.kind for before in body[:at]}
        if (
            single
            and body[at + 1].kind in ("every", "every n")
            and ahead & {"sets", "by", "rounds"}
        ):
            facts.used.append(token)


def of_each(facts: Facts, body: Sequence[Token]) -> None:
    """`3 rounds, 10 each`: so many of everything that is listed below."""
    last = body[-2:]
    kinds = [one.kind for one in last]
    listed = facts.rounds or facts.form in ("amrap", "for time")
    moves = any(token.kind == "movement" for token in body)
    if kinds == ["number", "each side"] and listed and not moves and last[0] not in facts.used:
        facts.each = count_of(last[0])
        facts.used += last


def and_back(facts: Facts, body: Sequence[Token]) -> None:
    """`1-10 and back down`: a ladder whose steps come back to the first."""
    if (facts.scheme and len(facts.scheme) < 3) or facts.endless:
        return
    at = next(
        (place for place, token in enumerate(body) if token.kind in ("scheme", "range")), None
    )
    behind = body[at + 1 :] if at is not None else []
    run = _until(behind, ("word", "and", "then", "down", "comma"))
    words = {str(token.value) for token in run if token.kind == "word"}
    if "back" not in words or not words <= {"back", "up", "again"}:
        return
    steps = facts.scheme
    if not steps and at == 0 and body[0].kind == "range":
        steps = by_ones(*map(int, body[0].value))  # `1-5 and back down to 1`
        facts.used.append(body[0])
    if not steps:
        return
    last = behind[len(run) : len(run) + 1]
    ends = last if last and last[0].kind == "number" and last[0].value == steps[0] else []
    facts.scheme = (*steps, *reversed(steps[:-1]))
    facts.used += [*run, *ends]


def _until(body: Sequence[Token], kinds: Sequence[str]) -> list[Token]:
    """The tokens at the start that are of some kinds."""
    out = []
    for token in body:
        if token.kind not in kinds:
            break
        out.append(token)
    return out


def length_ahead(facts: Facts, body: Sequence[Token]) -> None:
    """`12 min clean complex EMOM: …`: the length stands before what it is of."""
    last = body[-1] if body else None
    if len(body) > 2 and last is not None and last.kind == "every minute":
        first, mark = body[:2]  # `20 minutes: 1 get-up a side, every minute on the minute`
        if first.kind in ("time", "prime") and mark.kind in ("colon", "comma", "dash"):
            facts.form, facts.length = "emom", seconds(first)
            facts.used += [first, mark, last]
            return
    named = next((at for at, token in enumerate(body) if token.kind == "emom"), 0)
    between = {token.kind for token in body[1:named]}
    ahead = bool(body) and body[0].kind in ("time", "prime") and "movement" in between
    if ahead and between <= {"movement", "word", "style", "implement", "colon"}:
        facts.form, facts.length = "emom", seconds(body[0])
        behind = any(token.kind == "movement" for token in body[named:])
        facts.used += [
            token
            for token in body[: named + 1]
            if behind or token.kind in ("time", "prime", "emom")
        ]


def timed_list(facts: Facts, body: Sequence[Token]) -> None:
    """`10 min: 5 burpees, 10 swings`: how long all that is listed goes on."""
    kinds = [token.kind for token in body[:3]]
    amounts = ("number", "cal", "distance", "pair", "max")
    counted = sum(token.kind in amounts for token in body[2:])
    moves = sum(token.kind == "movement" for token in body[2:])
    timed = kinds[:1] in (["time"], ["prime"]) and kinds[1:2] == ["colon"]
    if kinds[:1] in (["time"], ["prime"]) and kinds[1:] == ["number", "movement"]:
        listed_in = sum(token.kind in ("number", "cal", "distance") for token in body[1:])
        commas = sum(token.kind in ("comma", "and") for token in body)
        if seconds(body[0])[0] >= LONG_S and min(listed_in, moves + 1) > 1 and commas:
            facts.length = facts.length or seconds(body[0])
            facts.used.append(body[0])  # `ten minutes of eight deadlifts, six push-ups, …`
            return
    times = sum(token.kind in ("time", "prime") for token in body[2:])
    if timed and kinds[2:] == ["movement"] and min(times, moves) > 1:
        facts.length = facts.length or seconds(body[0])
        facts.used += body[:2]  # `60 minutes: run 10 min / bike 10 min / row 10 min`
    if timed and kinds[2:] in (["number"], ["cal"], ["distance"]) and min(counted, moves) > 1:
        facts.length = facts.length or seconds(body[0])
        facts.used += body[:2]


def two_on(facts: Facts, body: Sequence[Token]) -> None:
    """`teams of 4, 2 on 2 off`: partners take turns, where the two numbers are the team."""
    sizes = [
        two.value for token, two in pairwise(body) if (token.kind, two.kind) == ("team", "number")
    ]
    for at in range(len(body) - 3):
        run = body[at : at + 4]
        kinds = [token.kind for token in run]
        if kinds == ["number", "on", "number", "off"] and run[0].value + run[2].value in sizes:
            facts.how = "alternate"
            facts.used += run


def named_time(facts: Facts, body: Sequence[Token]) -> None:
    """`10 min flow: …`, `40 min at talking pace:`: how long what follows goes on."""
    ahead = _until(body, ("word", "and", "first", "buy-in", "then"))
    at = len(ahead) if len(ahead) <= MOST_NAMES else 0
    run = _until(body[at + 1 :], _NAMES)
    ends = body[at + 1 + len(run) : at + 2 + len(run)]
    worded = bool(ahead) or any(token.kind in ("word", "goal", "easy") for token in run)
    named = len(run) <= MOST_NAMES and worded
    timed = body[at : at + 1]
    if named and ends and ends[0].kind == "colon" and timed[0].kind in ("time", "prime"):
        facts.form, facts.length = "continuous", seconds(timed[0])
        facts.used += [*ahead, *timed, *ends, *(token for token in run if token.kind == "station")]


def way_and_easy(facts: Facts, body: Sequence[Token]) -> None:
    """`500 m hard / 2 min easy x 5`: so many ways, with a rest between."""
    run = [token for token in body if token.kind != "hard"]
    for at in range(len(run) - 4):
        part = run[at : at + 5]
        kinds = [one.kind for one in part]
        marked = kinds[0] == "distance" and kinds[1] in ("slash", "comma", "then", "plus")
        if marked and kinds[2] in ("time", "prime") and kinds[3:] == ["easy", "times n"]:
            facts.form, facts.rounds, facts.rest = "for time", count_of(part[4]), seconds(part[2])
            facts.used += part[1:]
            return


def off_half(facts: Facts, body: Sequence[Token]) -> None:
    """`5 x 30 s hard bike / 90 s easy`: the work stands between the two times."""
    kinds = [token.kind for token in body]
    for at, kind in enumerate(kinds[:-3]):
        if kind != "by" or kinds[at + 1] not in ("time", "prime", "seconds or inches"):
            continue
        ahead = next((n for n in range(at + 2, len(kinds)) if kinds[n] in TIMES), 0)
        marked = ahead and kinds[ahead - 1] in ("slash", "comma", "dash", "then", "plus", "and")
        if not marked or "movement" not in kinds[at + 2 : ahead]:
            continue
        behind = body[ahead + 1 : ahead + 2]
        if not behind or behind[0].kind not in _EASIER or len(body) > ahead + 3:
            continue
        times = (seconds(body[at + 1], "s"), seconds(body[ahead], "s"))
        facts.form, facts.rounds = "intervals", (int(body[at].value),)
        facts.work_s, facts.off_s = times[0][0], times[1][0]
        facts.used += [body[at], body[at + 1], *body[ahead - 1 : ahead + 2]]
        return


def off_on_foot(facts: Facts, body: Sequence[Token]) -> None:
    """`run 6 x 1 min hard / 90 s walk`: what is walked or jogged is the off half."""
    kinds = [token.kind for token in body]
    at = kinds.index("by") if "by" in kinds else 0
    behind = body[at + 1 :]
    if not at or kinds[at - 1] not in ("movement", "colon") or facts.form:
        return
    marks = ("slash", "comma", "then", "and")
    spoken = [token for token in behind if token.kind not in ("hard", *marks)]
    if [token.kind for token in spoken] != ["time", "time", "movement"]:
        return
    if str(spoken[2].means["movement"]) not in ("walk", "easy run"):
        return
    facts.form, facts.rounds = "intervals", (int(body[at].value),)
    facts.work_s, facts.off_s = seconds(spoken[0], "s")[0], seconds(spoken[1], "s")[0]
    facts.used += body[at:]


def again(facts: Facts, body: Sequence[Token]) -> None:
    """`AMRAP 4, rest 2, x4`: how often the whole is done, said behind its rest."""
    if facts.form != "amrap" or not facts.rest or facts.times:
        return
    free = [token for token in body if token not in facts.used and token.kind not in MARKS]
    if len(free) == 1 and free[0].kind == "times n" and free[0] is body[-1]:
        facts.times = int(free[0].value[0])
        facts.used.append(free[0])


def in_turns(facts: Facts, body: Sequence[Token]) -> None:
    """`in pairs, alternating`: partners take turns, where no movement stands behind the word."""
    around = zip((None, *body), body, (*body[1:], None), strict=False)
    for before, one, after in around:
        counted = before is not None and before.kind in ("number", "range")
        if counted and after is not None and after.kind == "movement":
            continue  # `100 synchro air squats`: how that line is done
        if facts.team and not facts.how and one.kind == "style" and "team how" in one.means:
            facts.how = one.means["team how"]
            facts.used.append(one)
    first = next(
        (token for token in body if token not in facts.used and token.kind not in MARKS), None
    )
    if facts.form == "emom" and first is not None and first.kind == "alternating":
        facts.used.append(first)  # `EMOM alternating 12 cal row / 10 push press`
        facts.in_turn = True
        behind = body[body.index(first) + 1 :][:1]
        facts.used += [token for token in behind if token.kind == "rest between"]
    moves = any(token.kind == "movement" for token in body)
    turns = [token for token in body if token.kind == "alternating" and token not in facts.used]
    if facts.form == "every" and not facts.team and not moves and turns:
        facts.in_turn = bool(facts.windows) or any(token.kind == "sets" for token in facts.used)
        facts.used += turns
    for one, after in zip(body, (*body[1:], None), strict=False):
        free = one.kind == "alternating" and one not in facts.used
        if facts.team and not facts.how and free and (after is None or after.kind != "movement"):
            facts.how = "alternate"
            facts.used.append(one)
            if after is not None and after.kind == "rounds":
                facts.used.append(after)
