"""Facts of a clause on its piece: patterns over the kinds of its tokens.

A pattern is a regular expression over one character a token (lexer.CODES), fillers left out; what
it takes is masked for those after it. What no pattern takes is left for the works of the clause.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import Literal

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader import phrases
from pine_ladder.core.notation.reader.counts import (
    MARKS,
    TIMES,
    by_ones,
    count_of,
    first_of,
    seconds,
)
from pine_ladder.core.notation.reader.facts import Facts
from pine_ladder.core.notation.reader.token import CODES, Token

FEWEST_WINDOWS = 3
"""A number below this before `every 90 s` is the reps of each window, not their number."""
SHORTEST_S = 30
"""Seconds below which the length of an AMRAP is in minutes: `AMRAP 8s` are several of them."""
LONG_S = 180
"""Seconds from which on a length given so many times holds rounds of what is listed below."""
MINUTES_ALONE = 15
"""A rest of a bare number below this is minutes, from it on seconds."""


Take = Callable[[Facts, list[Token]], bool | None]
_T = "[ti]"
_TN = "[tinrK]"


def _every(facts: Facts, tokens: list[Token]) -> bool:
    lead = tokens[0]
    rest = tokens[1:]
    if lead.kind == "every n":
        facts.every_s = lead.value
    else:
        times = [one for one in rest if one.kind in ("time", "prime")]
        total = sum(seconds(time_)[0] for time_ in times[:1])
        at = rest.index(times[0])
        rest = rest[at + 1 :]
        if rest and rest[0].kind == "time" and times[0].kind == "time" and seconds(rest[0])[0] < 60:
            total += seconds(rest[0])[0]
            rest = rest[1:]
        facts.every_s = total
    facts.form = "every"
    for at, token in enumerate(rest):
        if token.kind in ("rounds", "sets", "rft"):
            facts.rounds, facts.windows = count_of(rest[at - 1]), facts.windows
        elif token.kind == "times n":
            facts.windows = count_of(token)
        elif token.kind in ("time", "prime"):
            facts.total_s = seconds(token)[0]
        elif token.kind in ("number", "range") and (
            at + 1 == len(rest) or rest[at + 1].kind not in ("rounds", "sets", "times")
        ):
            if lead.kind == "every n":
                facts.total_s = 60 * int(count_of(token)[0])
            else:
                facts.windows = count_of(token)
        elif token.kind == "times" and at:
            facts.windows = count_of(rest[at - 1])
    if lead.kind == "every n" and facts.every_s == 60 and len(facts.windows) == 1:
        facts.total_s, facts.windows = 60 * facts.windows[0], ()  # `E1MOM x 12`: twelve minutes.
    if facts.every_s == 60 and not facts.windows:
        facts.form = "emom"
        facts.length = (facts.total_s,) if facts.total_s else facts.length
    return facts.every_s > 0


def _in_each(facts: Facts, tokens: list[Token]) -> bool:
    """`snatch: 2 every 90 s`: so many in each window."""
    if tokens[0].value >= FEWEST_WINDOWS:
        return False
    facts.each = count_of(tokens[0])
    return True


def _on_clock(facts: Facts, tokens: list[Token]) -> bool:
    """`6 sets on 3:00`."""
    last = tokens[-1]
    facts.form, facts.windows = "every", count_of(tokens[0])
    facts.every_s = int(last.value) if last.kind == "every n" else seconds(last)[0]
    return facts.every_s > 0


def _emom(facts: Facts, tokens: list[Token]) -> bool:
    facts.form = facts.form or "emom"
    many = first_of(tokens, "times n")
    token = first_of(tokens, *TIMES)
    if many is not None:
        facts.length = tuple(60 * one for one in many.value)
    elif token is not None and tokens[-1].kind == "rounds":
        facts.rounds = count_of(token)
    elif token is not None:
        facts.length = seconds(token)
    return True


def _amrap(facts: Facts, tokens: list[Token]) -> bool:
    if facts.form and facts.form != "amrap":
        return False
    facts.form = "amrap"
    if any(token.kind == "partners" for token in tokens):
        facts.team = facts.team or 2  # `20 min partner AMRAP`
    by, many = first_of(tokens, "by"), first_of(tokens, "times n")
    rounds = next((at for at, token in enumerate(tokens) if token.kind == "rounds"), 0)
    behind = by is not None and tokens[0].kind == "amrap"
    if by is not None and behind and (often := first_of(tokens, "number")) is not None:
        facts.length, facts.times = (60 * by.value,), int(often.value)  # `AMRAP 6 x 2`
        return True
    if by is not None:
        facts.times = by.value
    elif many is not None:
        facts.times = many.value[0]
    elif rounds:
        facts.times = count_of(tokens[rounds - 1])[0]
        tokens = [token for token in tokens if token is not tokens[rounds - 1]]
    elif tokens[0].kind == "number" and tokens[-1].kind in TIMES and len(tokens) > 2:
        facts.times, tokens = int(tokens[0].value), tokens[1:]  # `two AMRAP 8s`
    token = first_of(tokens, *TIMES)
    if token is not None:
        length = seconds(token)
        few = token.kind == "time" and length[0] < SHORTEST_S
        facts.length = tuple(60 * one for one in length) if few else length
    return True


def _amrap_and_off(facts: Facts, tokens: list[Token]) -> bool:
    """`AMRAP 3 / off 1 x 5`: so many AMRAPs with a rest between."""
    times = [token for token in tokens if token.kind in ("time", "prime", "number")]
    by, many = first_of(tokens, "by"), first_of(tokens, "times n")
    if facts.form:
        return False
    facts.form, facts.length = "amrap", seconds(times[0])
    if by is not None:
        facts.rest, facts.times = (60 * int(by.value),), int(times[-1].value)
    else:
        facts.rest = seconds(times[1], "min")
        facts.times = int(many.value[0]) if many is not None else 0
    return True


def _for_time(facts: Facts, tokens: list[Token]) -> bool:
    number = first_of(tokens, "number", "range")
    rounds = any(token.kind in ("rounds", "rft") for token in tokens)
    if facts.form in ("amrap", "emom", "every"):
        if number is not None and rounds and facts.form == "every" and not facts.windows:
            facts.rounds = facts.rounds or count_of(number)  # `5 rounds for time, every 3 min`
        return True
    facts.form = "for time"
    if number is not None and number.kind == "range" and not rounds:
        facts.scheme = by_ones(*count_of(number))  # `1-10 for time`
    elif number is not None:
        facts.rounds = count_of(number)
    scheme = first_of(tokens, "scheme")
    if scheme is not None:
        facts.scheme, facts.endless = scheme.value
        if len(facts.scheme) == 2 and facts.scheme[1] == 1 and not facts.endless:
            facts.scheme = by_ones(*facts.scheme)
    return True


def _times_for_time(facts: Facts, tokens: list[Token]) -> bool:
    """`500 m row, 20 thrusters x 3 for time`."""
    if facts.form:
        return False
    facts.form, facts.rounds = "for time", count_of(tokens[0])
    return True


def _counted_down(facts: Facts, tokens: list[Token]) -> bool:
    """`10 to 1 for time`."""
    first, last = (int(token.value) for token in tokens[:2])
    if 1 not in (first, last) or first == last:
        return False
    facts.form, facts.scheme = "for time", by_ones(first, last)
    return True


def _at_stations(facts: Facts, tokens: list[Token]) -> bool:
    """`3 min at each station`."""
    there = [token for token in tokens if token.kind == "station"]
    if facts.form or any("station only" not in token.means for token in there):
        return False  # `8 minutes of movement`
    length = first_of(tokens, "time", "prime") or tokens[0]
    facts.form, facts.work_s = "intervals", seconds(length)[0]
    facts.off_s = facts.off_s or 0
    return True


def _stations_and_rest(facts: Facts, tokens: list[Token]) -> bool:
    """`2 min max effort stations, 1 min rest`: work and rest at each."""
    if not _at_stations(facts, tokens):
        return False
    times = [token for token in tokens if token.kind in ("time", "prime")]
    facts.off_s = seconds(times[1])[0]
    return True


def _change(facts: Facts, tokens: list[Token]) -> bool:
    """`1 min to change`."""
    facts.off_s = seconds(tokens[0])[0]
    return True


def _rotate(facts: Facts, tokens: list[Token]) -> bool:
    """`3 groups, rotate every 10 min`: a station lasts so long."""
    length = first_of(tokens, "time", "prime")
    if facts.form or length is None:
        return False
    facts.form, facts.every_s = "every", seconds(length)[0]
    return True


def _tabata(facts: Facts, tokens: list[Token]) -> bool:
    facts.form = "tabata"
    often = first_of(tokens, "range")
    if often is not None:
        facts.rounds = count_of(often)
    return True


BOTH_HANDS = 2
"""Copies of a pair up to which it is weights: two dumbbells."""
SHORTEST_ON = 10
"""A bare length of work below this is in minutes: `2 on, 1 off`."""


def _unit_of(halves: Sequence[Token]) -> Literal["min", "s"]:
    """The unit of bare numbers in work and rest: minutes where the work is said in minutes."""
    work = halves[0]
    if work.kind == "number":
        bare = [half.value for half in halves if half.kind == "number"]
        minutes = all(value < SHORTEST_ON for value in bare)
        minutes = minutes and all(min(seconds(half)) >= 60 for half in halves[len(bare) :])
        return "min" if minutes else "s"
    whole = work.kind == "time" and work.value[0] >= 60 and work.value[0] % 60 == 0
    return "min" if work.kind == "prime" or whole else "s"


def _intervals(facts: Facts, tokens: list[Token]) -> bool:
    times = [
        token for token in tokens if token.kind in ("time", "prime", "number", "seconds or inches")
    ]
    pair = first_of(tokens, "pair")
    by, many = first_of(tokens, "by"), first_of(tokens, "times n")
    rounds_at = next(
        (at for at, token in enumerate(tokens) if token.kind in ("rounds", "sets", "times")), None
    )
    if pair is not None:
        if len(pair.value) != 2 or min(pair.value) < 5 or facts.loaded:
            return False
        if any(one % 5 for one in pair.value) or (by is not None and by.value <= BOTH_HANDS):
            return False  # `max thrusters 2x16/12`, `2x15/10`
        work, off = int(pair.value[0]), int(pair.value[1])
    else:
        counted = tokens[rounds_at - 1] if rounds_at else None
        if counted is not None and rounds_at == 1 and (by is not None or many is not None):
            facts.times = int(count_of(counted)[0])  # `2 sets of 10 x :30 on / :30 off`
        times = [time_ for time_ in times if time_ is not counted]
        if len(times) < 2:
            return False
        unit = _unit_of(times[:2])
        work, off = seconds(times[0], unit)[0], seconds(times[1], unit)[0]
    facts.form, facts.work_s, facts.off_s = "intervals", work, off
    if by is not None:
        facts.rounds = (by.value,)
    elif many is not None:
        facts.rounds = tuple(many.value)
    elif rounds_at:
        facts.rounds = count_of(tokens[rounds_at - 1])
    return True


def _work_and_rest(facts: Facts, tokens: list[Token]) -> bool:
    """`Tonight is 45/15.`: seconds of work and rest that fill half minutes."""
    pair = first_of(tokens, "pair")
    if facts.form or pair is None or len(pair.value) != 2:
        return False
    work, off = (int(one) for one in pair.value)
    if off < 5 or work % 5 or off % 5 or (work + off) % 30 or work > 120:
        return False
    facts.form, facts.work_s, facts.off_s = "intervals", work, off
    return True


USUAL = ((20, 10), (30, 15), (30, 30), (40, 20), (45, 15), (50, 10), (60, 20), (60, 30), (60, 60))
"""Seconds of work and rest at stations: common practice, no source."""


def _rounds_of_work(facts: Facts, tokens: list[Token]) -> bool:
    """`3 rounds, 50/10`: so many rounds of work and rest at each station."""
    pair = tuple(int(number) for number in tokens[-1].value)
    if facts.form or facts.loaded or pair not in USUAL:
        return False
    facts.form, (facts.work_s, facts.off_s) = "intervals", pair
    facts.rounds = count_of(tokens[0])
    return True


def _times_of_length(facts: Facts, tokens: list[Token]) -> bool:
    """`3 x 10:00 @ 80 %` above a list: as often, rounds of it for so long."""
    length = seconds(tokens[1])
    if facts.form or facts.loaded or length[0] < LONG_S:
        return False
    facts.form, facts.times, facts.length = "amrap", int(tokens[0].value), length
    return True


def _accumulate(facts: Facts, tokens: list[Token]) -> bool:
    if facts.form:
        return False
    facts.form = "accumulate"
    if tokens[0].kind in ("time", "prime"):
        facts.slot = seconds(tokens[0])  # `In 25:00 accumulate`
    return True


def _death(facts: Facts, tokens: list[Token]) -> bool:
    del tokens
    facts.form = "death"
    return True


MOST_BUILT = 20
"""Reps of a heavy set at most; a number beyond them is its load."""


def _build(facts: Facts, tokens: list[Token]) -> bool:
    facts.builds = True
    for end in (tokens[0], tokens[-1]):
        if end.kind in ("time", "prime"):
            facts.slot = seconds(end)
    token = first_of(tokens, "number", "rep max", "single", "double", "triple")
    if token is not None:
        reps = {"single": 1, "double": 2, "triple": 3}.get(token.kind) or int(token.value)
        facts.build = reps if reps <= MOST_BUILT else facts.build  # `build to 70`: a load.
    return True


def _slowly_heavier(facts: Facts, tokens: list[Token]) -> bool:
    """`add 2.5 kg every 2 min`: heavier as it goes on; a rep more now and then stays as told."""
    if any(token.kind in ("weight", "percent") for token in tokens):
        facts.builds = facts.heavier = True
    return True


def _heavier(facts: Facts, tokens: list[Token]) -> bool:
    """`+2.5 kg each set`."""
    del tokens
    facts.builds = facts.heavier = True
    return True


def _rounds(facts: Facts, tokens: list[Token]) -> bool:
    token = first_of(tokens, "number", "range", "by", "times n")
    if token is None or (facts.rounds and token.kind in ("number", "range")):
        return False  # `5 rounds (scaled: 4 rounds)`
    facts.rounds = (token.value,) if token.kind == "by" else count_of(token)
    return True


def _rounds_by_tier(facts: Facts, tokens: list[Token]) -> bool:
    """`5/4/3 rounds`: those of the first tier; the others are told."""
    facts.rounds = facts.rounds or (int(tokens[0].value[0]),)
    if any(token.kind in ("for time", "rft") for token in tokens):
        facts.form = facts.form or "for time"
    return True


def _sets_by_tier(facts: Facts, tokens: list[Token]) -> bool:
    """`5/4/3 sets`: those of the first tier; the others are told."""
    facts.sets = facts.sets or (int(tokens[0].value[0]),)
    return True


def _twice(facts: Facts, tokens: list[Token]) -> bool:
    del tokens
    facts.rounds = facts.rounds or (2,)
    return True


def _sets(facts: Facts, tokens: list[Token]) -> bool:
    numbers = [token for token in tokens if token.kind in ("number", "range")]
    if not numbers:
        return False
    facts.sets = count_of(numbers[0])
    if len(numbers) > 1:
        facts.each = count_of(numbers[1])
    many = first_of(tokens, "times n")
    if many is not None:
        facts.each = tuple(many.value)
    return True


def _rounds_of_sets(facts: Facts, tokens: list[Token]) -> bool:
    """`Superset x 4`."""
    many = first_of(tokens, "times n")
    facts.sets = count_of(many) if many is not None else ()
    return bool(facts.sets)


def _scheme(facts: Facts, tokens: list[Token]) -> bool:
    token = first_of(tokens, "scheme", "range")
    numbers = [token for token in tokens if token.kind == "number"]
    if token is None and len(numbers) == 2:
        ends = (int(numbers[0].value), int(numbers[1].value))
        if 1 not in ends:
            return False
        token = Token("scheme", (by_ones(*ends), False), numbers[0].start, numbers[1].end)
    if token is None:
        return False
    if token.kind == "range":
        token = Token("scheme", (tuple(token.value), False), token.start, token.end)
    if tokens[0].kind in ("time", "prime"):
        facts.length = facts.length or seconds(tokens[0])  # `10 min ladder: 2-4-6-…`
    facts.scheme, facts.endless = token.value
    ladder = any(token.kind in ("ladder", "down") for token in tokens) or facts.scheme[-1] == 1
    if ladder and len(facts.scheme) == 2:
        facts.scheme = by_ones(*facts.scheme)
    facts.ladder = facts.ladder or any(token.kind == "ladder" for token in tokens)
    facts.endless = facts.endless or any(token.kind == "etc" for token in tokens)
    return True


def _cap(facts: Facts, tokens: list[Token]) -> bool:
    token = first_of(tokens, *TIMES)
    if token is not None:
        facts.cap = max(seconds(token))
    return token is not None


def _most_of_race(facts: Facts, tokens: list[Token]) -> bool:
    """`For time, 20 minutes maximum`."""
    return facts.form == "for time" and _cap(facts, tokens)


def _cap_of_race(facts: Facts, tokens: list[Token]) -> bool:
    """`4 RFT (20:00)`."""
    return facts.form == "for time" and not facts.cap and bool(_cap(facts, tokens))


def _rest(facts: Facts, tokens: list[Token]) -> bool:
    if any(token.kind == "as needed" for token in tokens):
        facts.rest_as_needed = True
        return True
    token = first_of(tokens, *TIMES)
    moves = [str(token.means["movement"]) for token in tokens if token.kind == "movement"]
    if any(move != "walk" and not move.startswith("easy ") for move in moves):
        return False
    if token is None or any(token.kind == "hard" for token in tokens):
        return False
    bare = token.kind in ("number", "range")
    first = token.value if token.kind == "number" else token.value[0] if bare else 0
    facts.rest = seconds(token, "min" if bare and first < MINUTES_ALONE else "s")
    if not any(token.kind == "rest between" for token in tokens):
        facts.rests.append((token.start, facts.rest))
    return True


def _quality(facts: Facts, tokens: list[Token]) -> bool:
    del tokens
    facts.quality = True
    return True


def _rounds_for_quality(facts: Facts, tokens: list[Token]) -> bool:
    """`4 RNFT`."""
    if facts.rounds or facts.sets or str(tokens[-1].means.get("quality", "")):
        return False
    facts.rounds, facts.quality = count_of(tokens[0]), True
    return True


SHORTEST_WINDOW_S = 120
"""Seconds of each of some rounds from which on they are filled, and no stations."""


def _windows_of_rounds(facts: Facts, tokens: list[Token]) -> bool:
    """`4 rounds, 3 min each, 1 min rest`: as many AMRAPs with a rest between them."""
    length, rest = (seconds(token) for token in tokens if token.kind in ("time", "prime"))
    if facts.form or length[0] < SHORTEST_WINDOW_S:
        return False
    facts.form, facts.times = "amrap", count_of(tokens[0])[0]
    facts.length, facts.rest = length, rest
    return True


def _couplets(facts: Facts, tokens: list[Token]) -> bool:
    """`3 couplets, 5 min each`: so many AMRAPs."""
    facts.form, facts.times = "amrap", int(tokens[0].value)
    facts.length = seconds(tokens[-2])
    return True


def _couplets_below(facts: Facts, tokens: list[Token]) -> bool:
    """`3 couplets.`, of which more is said below."""
    facts.form, facts.times = "amrap", int(tokens[0].value)
    return True


def _each_so_long(facts: Facts, tokens: list[Token]) -> bool:
    """`6 minutes each, 2 minutes off between`: the length of each AMRAP that was told above."""
    facts.each_s = seconds(tokens[0])
    return True


def _team(facts: Facts, tokens: list[Token]) -> bool:
    if tokens[0].kind == "partners":
        facts.team = facts.team or 2
        return True
    if isinstance(tokens[0].value, int) and tokens[0].kind == "team":
        facts.team = tokens[0].value  # `chipper in 4s`
        return True
    if tokens[-1].kind == "partners":
        return False  # `10 partner deadlifts`
    number = first_of(tokens, "number")
    if number is None:
        return False
    facts.team = int(number.value)
    return True


def _how(facts: Facts, tokens: list[Token]) -> bool:
    facts.how = facts.how or str(tokens[0].means["team how"])
    return True


def _others_rest(facts: Facts, tokens: list[Token]) -> bool:
    """`one works, two rest`: partners take turns, in a team of them all."""
    number = first_of(tokens, "number")
    if number is None or not 0 < number.value < MOST_RESTING:
        return False
    facts.how = facts.how or str(tokens[0].means["team how"])
    facts.team = max(facts.team, 1 + int(number.value))
    return True


MOST_RESTING = 6
"""Partners who rest while one works, below which a number of them is meant."""


def _grow(facts: Facts, tokens: list[Token]) -> bool:
    token = first_of(tokens, "grow", "number", "time")
    if token is None:
        return False
    value = token.value[0] if token.kind == "time" else token.value
    if not 0 < value <= 20:
        return False
    facts.grow = int(value)
    return True


def _ladder(facts: Facts, tokens: list[Token]) -> bool:
    facts.ladder = True
    token = first_of(tokens, "time", "number")
    if token is not None:
        facts.length = facts.length or seconds(token)
    return True


def _place(facts: Facts, tokens: list[Token]) -> bool:
    facts.place = tokens[0].kind
    facts.places.append((tokens[0].start, facts.place))
    return True


PATTERNS: tuple[tuple[str, Take], ...] = (
    (r"(?<![b(])n(?=V[ti])", _in_each),
    (r"[nr][OS]1t", _on_clock),
    (r"bV[ti]|(?<![bS])[nr]V[ti](?!,?[xnr])|[nr][OS][,-]?V[ti](?!,?x)", _on_clock),
    (r"V[ti][,:-]*[nr][OS]", _every),
    (r"\+[wn%.r3]{0,3}(?:V[tin]|µ|v)[O3]?", _slowly_heavier),
    (r"[nr][OS][,-]?v(?!,?x)", _on_clock),
    (r"v[,:(-]*(?:x|[nr][OS2]|[nr](?![M.k3l])|t)?", _every),
    (rf"V{_T}t?[,:(-]*(?:x|[nr][OS2J]|[nr](?![M.k3l])|{_T})?", _every),
    (r"A[:,(-]?[tinr][/,-]{0,3}[0Z](?:b[ni]|[tin]x)", _amrap_and_off),
    (r"t[&.]{1,3}A(?![,:>(-]*t)", _amrap),
    (r"A-?3?\)[,:-]?[ti]", _amrap),
    (
        rf"(?:b|nO-?|n)?A(?!:[nr][_yk]*M)[:,>(-]*b?{_TN}(?!0)(?:x|[,(]?nO)?|(?:b|nO)?(?:{_T}m?[,:>-]*|(?<!m)[nr][:-]*)z?,?Ax?|bA|A",
        _amrap,
    ),
    (rf"[Eµ][:,>(-]*(?:x|[nr]O|{_TN}(?!3))|[tinr][,:-]*E|[tinr][,:-]*µ|[Eµ]", _emom),
    (r"x,?F", _times_for_time),
    (r"nn,?-?F(?![:,-]*[nr]O)", _counted_down),
    (r"pO(?:-?F)?|pJ", _rounds_by_tier),
    (r"sJ|s3?\)?-?F|F-?s|r-?F|F:?r$|[nr]J|[nr]O-?F|J|F", _for_time),
    (r"b?L(?:[,:]*(?:x|[nr][O¤]?))?", _tabata),
    (r"(?:[nr][OS],?|x)?b?[tij][zX1]?(?:@?[%e])?[/,&-]?[tij][z0](?:x|,?[nr][OS])?", _intervals),
    (r"(?:[nr][OS],?|x,?)?b?[nti]1[/,-]?[nti][0Z]?(?:x|[,-]?[nr][OS])?", _intervals),
    (
        r"(?:[nr]O,?)?b[tij]/[tij]|(?!(?<=[Ml])[ti]/[ti]M)[tij]/[tij](?:x|,?[nr][OS])?|bp(?![wM])|px|p,?[nr]O|Ip(?:x|[,-]?[nr][OS])?",
        _intervals,
    ),
    (r"[nr]O,?p(?![wM.])", _rounds_of_work),
    (r"1[tijn],?[0Z][tijn](?:x|,?[nr][OS])?", _intervals),
    (r"^[.]?[.]?p[.]?$", _work_and_rest),
    (r"^b[ti](?=$|@|[,(-](?:[ti]M?B|Z|@))", _times_of_length),
    (r"^[._]?b[ti],?[ti]Z$", _intervals),
    (r"ç[lV]?b?[ti]|V[ti]ç", _rotate),
    (r"b[ti],?[ti]ç", _intervals),
    (r"[ti]ç", _change),
    (r"[nr]O,?[ti]l,?(?:[ti]ZB?|Z[ti])", _windows_of_rounds),
    (r"[ti]X[5R],?[ti]Z", _stations_and_rest),
    (r"[ti]X[5R]", _at_stations),
    (
        r"[nr][5R]x?,?[ti](?!Z)|[nr][5R],?[ti]l|[ti]l,?[nr]5|[ti]l[5R]|[ti]\.?5|(?<=O)[,-]?[ti]l(?=[,.:]?$)",
        _at_stations,
    ),
    (r"n£,?[ti]l", _couplets),
    (r"^n£[.,:]*$", _couplets_below),
    (r"^[ti]l(?=$|[,.(])", _each_so_long),
    (r"[ti]?U", _accumulate),
    (r"D~?", _death),
    (r"·[,(-]?[ti]X(?=[.):]|$)", _most_of_race),
    (r"·(?:\([ti]\)|[.,-]*[ti]$)", _cap_of_race),
    (rf"C[:,=-]*{_TN}|[ti]-?C|(?<!m)[nr]C(?![:=-]*[nti])", _cap),
    (r"\*[,&]?nZ(?![,:]*[tijnr])", _others_rest),
    (r"[tij][.y]Z", _rest),
    (r"(?:Z[:,-]*)?[tij]0?\.?B[OSlm.]*|[tij]MB[OSlm.]*|[tij]z?MB[OSlm.]*", _rest),
    (r"Z[:,(B-]*[tijnr](?:B[OSlm.]*)?|&?[tij]Z(?:B[OSlm.]*)?|Z[:,]*\?|[tij]0(?![M.])", _rest),
    (r"\+[wn%.]{0,2}Ž", _heavier),
    (
        r"[ti][:,-]*H[YB_]*-?[n89]?(?![%w.])|H[YB_]*-?S?[n89](?:[ti](?![Z0Bz]))?(?![%w.])[-,]?|H[Y8]*(?![Mn])|H",
        _build,
    ),
    (r"(?<![%@])9|Y8|YS[nr]|(?<=[-:M,])Yn(?=$|[,(-]?[ti]|[,)(])", _build),
    (r"(?<!b)[nr],?q(?![nr])", _rounds_for_quality),
    (r"q", _quality),
    (r"mn|nm", _team),
    (r"(?<!n)m|m(?!M)", _team),
    (r"(?<![nr])\*|\*(?!M)", _how),
    (r"g|(?<![ntr])\+[nt]3?(?:Ž|O|l|$|[,;:)])", _grow),
    (r"xO|[nr]¤(?![M])|[nr]z?O|bO", _rounds),
    (r"pS", _sets_by_tier),
    (r"2", _twice),
    (r"^[bx]$|^b(?=:)|(?:(?<=[.RM])|^)x(?=:)|\([bx]\)", _rounds),
    (r"^[tij]z\.?$", _rest),
    (r"^S[.,:]*x", _rounds_of_sets),
    (r"[nr]S[,x]*[nr](?![/SOMky])|[nr]Sx|[nr]S", _sets),
    (r"P[,:-]*[tn](?![.M])|[ti]-?P(?!:?[nsr])", _ladder),
    (r"^[_,-]*s~?(?=:)|[ti]?P:?[sr]~?|s~|n7n|P:?nn|nn,?P|^nn:?$|[sr],?P", _scheme),
    (r"P", _ladder),
    (r"[<$]", _place),
)
_COMPILED = tuple((re.compile(pattern), take) for pattern, take in PATTERNS)
MASK = "·"
_ALONE = re.compile("(?:[ti]?P)?:?s~?")
"""A scheme in a clause without a movement."""


def read_facts(tokens: Sequence[Token], library: Library) -> Facts:
    """Facts that the tokens of a clause tell of its piece; `used` are those that said it."""
    facts = Facts()
    moves = [token for token in tokens if token.kind == "movement"]
    known = [library.find(str(move.means["movement"])) for move in moves]
    facts.loaded = any(one is not None and one.reference_kg is not None for one in known)
    body = phrases.listed(tokens)
    phrases.one_every(facts, body)
    phrases.off_half(facts, body)
    phrases.off_on_foot(facts, body)
    phrases.way_and_easy(facts, body)
    phrases.length_ahead(facts, body)
    phrases.named_time(facts, body)
    phrases.timed_list(facts, body)
    phrases.two_on(facts, body)
    phrases.in_steps(facts, body)
    phrases.at_each(facts, tokens)
    said = "".join(MASK if token in facts.used else CODES[token.kind] for token in body)
    for pattern, take in _COMPILED:
        alone = take is _scheme and not moves and "s" in said
        said = _find(_ALONE if alone else pattern, take, facts, body, said)
    for one in body:
        if one.kind == "scheme" and one.value[1] and one not in facts.used and not facts.scheme:
            facts.scheme, facts.endless = one.value  # `AMRAP 12: 1-2-3… of burpees and swings`
            facts.used.append(one)
    phrases.length_behind(facts, tokens)
    phrases.time_to_build(facts, body)
    phrases.in_turns(facts, body)
    phrases.again(facts, body)
    phrases.and_back(facts, body)
    phrases.of_each(facts, body)
    phrases.most_in(facts, body)
    phrases.most_of_each(facts, body)
    phrases.ramp_on_a_machine(facts, body, library)
    return facts


def _find(
    pattern: re.Pattern[str], take: Take, facts: Facts, body: Sequence[Token], said: str
) -> str:
    """Take all that a pattern finds among kinds that were not taken before; those that are left."""
    at = 0
    while (match := pattern.search(said, at)) is not None:
        start, end = match.span()
        if start == end:
            break
        part = body[start:end]
        if take(facts, [one for one in part if one.kind not in MARKS]):
            facts.used += part
            said = said[:start] + MASK * (end - start) + said[end:]
        at = end
    return said
