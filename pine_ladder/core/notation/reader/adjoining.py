"""Tokens that mean something else beside others: two loads, a scheme in strokes, an easy half."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from itertools import pairwise

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.counts import LEAST_PERCENT, MOST_PERCENT, by_ones
from pine_ladder.core.notation.reader.lexicon import meanings, squeeze
from pine_ladder.core.notation.reader.token import Token


def read_together(found: list[Token], text: str, library: Library) -> list[Token]:
    """The tokens of a row, each as what it means where it stands."""
    said, _ = meanings(library)
    out = _two_weights(_either_load(_easy_half(found, text, said), text))
    out = _paired_steps(_counted_to(out, text))
    out = _bare_loads(_apart(_percents_told(out, text)), library)
    out = _sets_behind_loads(_of_the_last(_load_reps_sets(out)))
    out = _spaced_steps(
        [
            token if _by_tier(token, out[at + 1 : at + 2]) else _steps(token, out[:at])
            for at, token in enumerate(out)
        ]
    )
    return [_in_its_place(one, at, out, text) for at, one in enumerate(out)]


def _in_its_place(token: Token, place: int, row: Sequence[Token], text: str) -> Token:
    """A token as what it is between the tokens of its row before and behind it."""
    said = text[token.start : token.end].lower()
    if token.kind == "clock range" and place and row[place - 1].kind in ("rest", "by"):
        return Token("time", token.value, token.start, token.end)  # `rest 2:00-3:00`
    if said == "ab" and place and row[place - 1].kind == "cal":
        return Token(
            "movement", "bike", token.start, token.end, {"movement": "bike"}
        )  # `50 cal AB`
    if token.kind == "of 1rm" and said == "of max":
        ahead = [other.kind for other in row[:place] if other.kind != "filler"]
        if ahead[-1:] != ["percent"]:
            return Token("max", None, token.start, token.end)  # `5 sets of max pull-ups`
    if token.kind == "filler" and said == "to":
        around = [other.kind for other in row[max(0, place - 1) : place + 2]]
        if around == ["movement", "filler", "movement"]:
            return Token("then", None, token.start, token.end)  # `2 power cleans to push jerks`
    ahead = [other.kind for other in row[max(0, place - 2) : place]]
    if token.kind == "rounds" and said.startswith("lap") and ahead == ["movement", "number"]:
        listed = any(other.kind == "number" for other in row[: place - 2])
        if not listed:
            return Token("word", said, token.start, token.end)  # `run 2 laps`
    if token.kind == "rounds" and said.startswith("lap") and ahead[-1:] == ["number"]:
        behind = row[place + 1].kind if place + 1 < len(row) else ""
        parted = behind in ("comma", "slash", "then", "and", "semicolon")
        listed = any(other.kind == "movement" for other in row[:place])
        if parted or (not behind and listed):
            means = {"movement": "run"}  # `2 laps, 10 squats`; `5 burpees, 1 lap`
            return Token("movement", "run", token.start, token.end, means)
    if (
        token.kind == "role"
        and "station" in token.means
        and (text[: token.start].lower().endswith(_OF_EACH) or ahead[-1:] in (["time"], ["prime"]))
    ):
        return token.as_kind("station")  # `3 min per station`
    if (
        token.kind == "role"
        and said.startswith("work")
        and "set" in said
        and ahead[-1:] == ["number"]
    ):
        return Token("sets", None, token.start, token.end)  # `5 working sets of 5`
    if token.kind == "scheme" and _three_figures(token, row[:place]):
        figures = "".join(map(str, token.value[0]))
        return Token("tempo code", f"{figures}0", token.start, token.end)
    behind = row[place + 1].value if place + 1 < len(row) else ""
    if token.kind == "build" and behind in ("pace", "speed", "intensity", "effort"):
        return Token("word", said, token.start, token.end)  # `3 rounds, increasing pace`
    if said == "building" and text[: token.start].lower().endswith(("the ", "a ", "our ")):
        return Token("word", said, token.start, token.end)  # `2 laps of the building`
    around = [other.kind for other in row[max(0, place - 1) : place + 2]]
    if token.kind == "build" and said in ("ascending", "climbing") and "scheme" in around:
        return Token("ladder", None, token.start, token.end)  # `3-6-9-12 ascending`
    if token.kind == "and" and said.startswith("w"):
        two = [other.kind for other in row[place + 1 : place + 3]]
        if two in (["time", "down"], ["number", "down"]):
            return Token("filler", None, token.start, token.end)  # `5 x 3 w/ 3 sec down`
    if token.kind == "number" and ahead == ["change", "every"]:
        return Token("time", (round(60 * token.value),), token.start, token.end)  # `rotate every 5`
    if token.kind == "build" and said == "find" and not _finds_a_load(row[place + 1 :]):
        return Token("word", said, token.start, token.end)  # `Find a stair or a box`
    if token.kind == "build" and said == "climbs":
        return Token("word", said, token.start, token.end)  # `6 to 8 climbs`
    if token.kind == "movement" and "hard" in token.means and ahead[-1:] == ["movement"]:
        return token.as_kind("hard")  # `row sprints`
    return _as_single(token, place, row) if token.kind == "movement" else token


FIGURES = 3
"""Figures of a tempo that leaves the pause above out: seconds down, below and up."""


def _three_figures(token: Token, before: Sequence[Token]) -> bool:
    """Whether three small numbers are a tempo: `tempo squat 3x3 (5-2-1)`, `tempo 3-1-1`."""
    kinds = [other.kind for other in before if other.kind not in ("filler", "open", "colon")]
    counted = "by" in kinds or "sets" in kinds or kinds[-1:] == ["tempo"]
    figures = token.value[0]
    return "tempo" in kinds and counted and len(figures) == FIGURES and max(figures) < 10


_SETS_OF = ("single", "double", "triple")
_LOAD_KINDS = ("number", "heavy", "rep max", "max", "of 1rm", "percent", *_SETS_OF)
NEAR = 6
"""Tokens behind a word within which its object stands."""


def _finds_a_load(behind: Sequence[Token]) -> bool:
    """Whether what is to be found is a load: `find a heavy double`, `find your working weight`."""
    return any(
        token.kind in _LOAD_KINDS or token.value in ("weight", "load") or "double" in token.means
        for token in behind[:NEAR]
    )


_OF_EACH = ("per ", "each ", "every ", "a ", "at ")
_LIFTED = ("build", "percent", "sets", "every", "every n", "emom", "every minute", "rpe")
"""Kinds of token that speak of a lift."""


def _as_single(token: Token, place: int, row: Sequence[Token]) -> Token:
    """`single` as a set of one where a lift is spoken of, and as the jump of the rope elsewhere."""
    kind = next((kind for kind in _SETS_OF if kind in token.means), None)
    if kind is None:
        return token
    last = row[place - 1].kind if place else ""
    after = row[place + 1].kind if place + 1 < len(row) else ""
    lifted = any(other.kind in _LIFTED for other in row)
    top = place and row[place - 1].value == "top"
    behind = last == "comma" and any(other.kind == "movement" for other in row[:place])
    sets = last in ("heavy", "build") or top or after == "movement" or (lifted and behind)
    counted = last in ("number", "filler", "times n")
    return token.as_kind(kind) if sets or (lifted and counted) else token


def parted(token: Token, before: Sequence[Token], text: str) -> list[Token]:
    """A token, or the two numbers that a dash parts behind a format: `AMRAP 8 - 8 pull-ups`."""
    whole = text[token.start : token.end]
    if token.kind == "time" and len(token.value) == 2 and " / " in whole:
        low, high = token.value
        size, _, minutes = whole.partition(" / ")
        if low < high and size.isdigit() and low >= 60:  # `teams of 3 / 35 minutes`
            slash = token.start + len(size) + 1
            people = Token("number", float(size), token.start, slash - 1)
            stroke = Token("slash", None, slash, slash + 1)
            return [people, stroke, Token("time", (high,), token.end - len(minutes), token.end)]
    parts = whole.split(" - ")
    last = before[-1].value if before else ""
    named = last in ("amrap", "emom")
    if token.kind == "time" and last in ("heavy", "of") and len(parts) == 2 and parts[0].isdigit():
        start = token.start + text[token.start : token.end].index(" - ")
        length = Token("time", token.value[-1:], start + 3, token.end)
        number = Token("number", float(parts[0]), token.start, start)
        return [number, Token("dash", None, start + 1, start + 2), length]
    if token.kind not in ("range", "scheme") or not named or len(parts) != 2:
        return [token]
    if not all(part.strip().isdigit() for part in parts):
        return [token]
    dash = token.start + len(parts[0]) + 1
    return [
        Token("number", float(parts[0]), token.start, dash - 1),
        Token("dash", None, dash, dash + 1),
        Token("number", float(parts[1]), dash + 2, token.end),
    ]


def _easy_half(found: list[Token], text: str, said: Mapping[str, Mapping[str, str]]) -> list[Token]:
    """The tokens, an `easy bike` behind `1 min hard / 1 min` as the easy half of the bike."""
    out: list[Token] = []
    for at, token in enumerate(found):
        words = text[token.start : token.end].lower()
        halves = out and out[-1].kind in ("time", "prime") and any(o.kind == "hard" for o in out)
        if token.kind == "movement" and words.startswith("easy ") and halves:
            means = said.get(squeeze(words[5:]))
            if means and "movement" in means and at:
                middle = token.start + 4
                out.append(Token("easy", None, token.start, middle))
                out.append(Token("movement", means["movement"], middle + 1, token.end, means))
                continue
        out.append(token)
    return out


MOST_REPS = 20
"""Reps behind a load at most: `60 kg x 20`."""
FEWEST_LOADS = 2
"""Loads of a list whose last says the unit of all."""
FEWEST_STEPS, MOST_STEPS = 3, 12
"""Numbers between strokes at least that may be the steps of a scheme: `21/15/9`."""


FEWEST_COUNTED = 4
"""Steps of one from which on numbers with *to* between them are a ladder: `10 to 1: thrusters`."""


def _counted_to(row: list[Token], text: str) -> list[Token]:
    """The tokens, two numbers of which one is 1 as the steps between them, before their work."""
    out: list[Token] = []
    for at, token in enumerate(row):
        first = out[-1] if out and out[-1].kind in ("filler", "down") else None
        start = next((n for n in (-2, -3, -4) if len(out) >= -n and out[n].kind == "number"), 0)
        joint = text[out[start].end : token.start].lower().split() if start and first else []
        behind = row[at + 1].kind if at + 1 < len(row) else ""
        ends = [int(out[start].value), int(token.value)] if joint and token.kind == "number" else []
        joint = joint[1:] if joint[:1] == ["reps"] else joint
        if joint not in (["to"], ["down", "to"]) or behind not in ("colon", "movement", "close"):
            ends = []
        if token.kind == "range" and behind == "colon" and not at:
            ends, start = list(map(int, token.value)), len(out)  # `1-10: pull-ups`
        if ends and min(ends) == 1 and max(ends) >= FEWEST_COUNTED:
            begins = out[start].start if out[start:] else token.start
            out[start:] = [Token("scheme", (by_ones(*ends), False), begins, token.end)]
            continue
        out.append(token)
    return out


MOST_BY_TIER = 10
"""Rounds up to which numbers between strokes are those of tiers: `5/4/3 rounds for time`."""


def _by_tier(token: Token, behind: Sequence[Token]) -> bool:
    """Whether numbers between strokes are rounds or sets by tier, and no steps."""
    if token.kind != "pair" or not behind:
        return False
    few = max(token.value) <= MOST_BY_TIER
    return behind[0].kind in ("rounds", "sets") or (few and behind[0].kind == "rft")


def _steps(token: Token, before: Sequence[Token]) -> Token:
    """Falling numbers between strokes that stand where a scheme stands, as one."""
    if token.kind != "pair" or len(token.value) < FEWEST_STEPS:
        return token
    ahead = [token.kind for token in before if token.kind != "filler"][-1:]
    rises = {after - before for before, after in pairwise(token.value)}
    if ahead == ["ladder"] and len(rises) == 1 and min(rises) > 0:
        steps = tuple(int(value) for value in token.value)
        return Token("scheme", (steps, True), token.start, token.end)  # `ladder 3/6/9/12…`
    places: tuple[list[str], ...] = ([], ["colon"], ["for time"], ["dash"], ["role"], ["rft"])
    falls = all(one > two for one, two in pairwise(token.value))
    few = len(token.value) > FEWEST_STEPS and max(token.value) <= MOST_STEPS
    falls = falls or (few and all(one >= two for one, two in pairwise(token.value)))
    if ahead not in places or not falls or any(one != int(one) for one in token.value):
        return token
    return Token("scheme", (tuple(int(one) for one in token.value), False), token.start, token.end)


def _sets_behind_loads(said: list[Token]) -> list[Token]:
    """The tokens, sets behind a load with a mark between them: `1x5 @ 75 % 1x3 @ 85 %`."""
    out: list[Token] = []
    for place, token in enumerate(said):
        last = [other.kind for other in out[-2:]]
        loaded = last[-1:] in (["percent"], ["weight"], ["rpe"]) or last == ["at", "number"]
        after = said[place + 1].kind if place + 1 < len(said) else ""
        again = token.kind == "number" and after == "at" and last == ["at", "number"]
        if (token.kind == "by" and loaded) or again:
            out.append(Token("comma", None, token.start, token.start))
        if token.kind == "by" and last[-1:] == ["slash"] and len(out) > 1:
            # `3x5 @ 80 / 1x3 @ 85`
            behind = [other.kind for other in out[-3:-1]]
            if behind[-1] in ("percent", "weight", "rpe") or behind == ["at", "number"]:
                out[-1] = out[-1].as_kind("comma")
        out.append(token)
    return out


def _load_reps_sets(tokens: list[Token]) -> list[Token]:
    """The tokens, a load with its reps and sets behind it as sets: `70 % x 2 x 3`, `80 %x2`."""
    out: list[Token] = []
    at = 0
    while at < len(tokens):
        token = tokens[at]
        behind = [other.kind for other in tokens[at + 1 : at + 3]]
        begins = not out or out[-1].kind in ("movement", *_APART)
        if token.kind == "percent" and behind == ["by", "number"] and begins:
            counts, end = tokens[at + 1 : at + 3], tokens[at + 2].end
            load = Token(token.kind, token.value, end, end, token.means)
            out += [*counts, Token("at", None, end, end), load]  # `snatch: 60 % 2x3, 70 % 2x2`
            at += 3
            continue
        if token.kind in ("percent", "weight") and behind[:1] == ["times n"]:
            reps = tokens[at + 1].value[0]
            twice = behind[1:] == ["times n"]
            sets = tokens[at + 2].value[0] if twice else 1
            end = tokens[at + 2 if twice else at + 1].end
            if len(tokens[at + 1].value) == 1 and reps <= MOST_REPS:
                many = [Token("by", int(sets), token.start, token.start)] if twice else []
                out += [
                    *many,
                    Token("number", float(reps), token.start, token.start),
                    Token("at", None, token.start, token.start),
                    Token(token.kind, token.value, token.start, end, token.means),
                ]
                at += 3 if twice else 2
                continue
        out.append(token)
        at += 1
    return out


LEAST_LOAD = 40
"""A number from which on it is a load and no sets before an `x`: `deadlift 75x5, 85x3`."""
MOST_HEAVY = 12
"""Reps of a set with such a load at most."""
_APART = ("comma", "colon", "semicolon", "slash", "dash", "then", "stop", "open", "close", "plus")


_IN_PERCENT = re.compile(r"(?<!\d)(?<!\d )%\s*(?:of\s+)?(?:1\s*)?r?m?\b|\(\s*%\s*\)", re.IGNORECASE)
"""Words that say that the numbers of a row are percents: `(%1RM)`."""


def _percents_told(row: list[Token], text: str) -> list[Token]:
    """The tokens, numbers behind an `@` as percents where the row says so at its end."""
    if not _IN_PERCENT.search(text):
        return row
    return [
        Token("percent", (float(token.value),), token.start, token.end)
        if token.kind == "number"
        and at
        and row[at - 1].kind == "at"
        and LEAST_PERCENT <= token.value <= MOST_PERCENT
        else token.as_kind("filler")
        if token.kind == "rep max" and at and row[at - 1].kind == "open"
        else token
        for at, token in enumerate(row)
    ]


def _apart(row: list[Token]) -> list[Token]:
    """The tokens with a comma between sets that follow each other: `3 @ 65 % 3 @ 70 %`."""
    out: list[Token] = []
    for at, token in enumerate(row):
        out.append(token)
        kinds = [other.kind for other in row[at + 1 : at + 4]]
        sets = kinds == ["number", "at", "percent"] and token.kind == "percent"
        if sets and at > 1 and [other.kind for other in row[at - 2 : at]] == ["number", "at"]:
            out.append(Token("comma", None, token.end, token.end))
    return out


def _bare_loads(row: list[Token], library: Library) -> list[Token]:
    """The tokens, a load without a unit before its reps, and their sets, as a set of the lift."""
    moves = [token for token in row if token.kind == "movement"]
    known = [library.find(str(move.means["movement"])) for move in moves]
    if any(move is None or not move.reference_kg for move in known):
        return row
    out: list[Token] = []
    at = 0
    while at < len(row):
        load, counts = row[at], _counts_behind(row[at : at + 3])
        after = row[at + len(counts) + 1 :][:1]
        begins = not out or out[-1].kind in ("movement", *_APART)
        ends = not after or after[0].kind in ("number", "by", "filler", *_APART)
        heavy = load.kind in ("number", "by") and load.value >= LEAST_LOAD
        if not (heavy and counts and counts[0] <= MOST_HEAVY and begins and ends):
            out.append(load)
            at += 1
            continue
        start, end = load.start, row[at + len(counts)].end
        if len(counts) > 1:
            out.append(Token("by", int(counts[1]), start, start))
        more = {"more": "or more"} if after and after[0].kind == "plus" else row[at + 1].means
        out.append(Token("number", counts[0], start, start, more))
        out.append(Token("at", None, start, start))
        out.append(Token("number", float(load.value), start, end))
        at += len(counts) + 1
        if after and after[0].kind in ("number", "by", "plus"):
            out.append(Token("comma", None, end, end))
            at += after[0].kind == "plus"
    return out


def _counts_behind(row: Sequence[Token]) -> list[float]:
    """The reps and the sets that stand behind a number and an `x`: `75 x 5`, `75 x 4 x 3`."""
    kinds = [token.kind for token in row]
    behind = row[1:] if kinds[:1] == ["number"] else []
    if behind and all(token.kind == "times n" and len(token.value) == 1 for token in behind):
        return [float(token.value[0]) for token in behind]
    if kinds[:2] == ["number", "times n"] and len(row[1].value) == 1:
        return [float(row[1].value[0])]
    if kinds == ["by", "by", "number"]:
        return [float(row[1].value), row[2].value]
    return [row[1].value] if kinds[:2] == ["by", "number"] else []


def _of_the_last(tokens: list[Token]) -> list[Token]:
    """The tokens, loads of a list of sets in the unit of its last: `1x5 @ 65, 3x5 @ 80 %`."""
    at_load = [
        at
        for at in range(3, len(tokens))
        if [token.kind for token in tokens[at - 3 : at]] == ["by", "number", "at"]
    ]
    kinds = [tokens[at].kind for at in at_load]
    if len(at_load) < FEWEST_LOADS or kinds[-1] not in ("percent", "weight"):
        return tokens
    if set(kinds[:-1]) != {"number"}:
        return tokens
    last = tokens[at_load[-1]]
    out = list(tokens)
    for at in at_load[:-1]:
        bare = tokens[at]
        value = (bare.value,) if last.kind == "percent" else ((bare.value,), *last.value[1:])
        out[at] = Token(last.kind, value, bare.start, bare.end)
    return out


FEWEST_PAIRS = 2


def _paired_steps(tokens: list[Token]) -> list[Token]:
    """The tokens, pairs of equal numbers that rise by the same step as an endless scheme:
    `3/3 6/6 9/9…`, of two movements in turn.
    """
    out: list[Token] = []
    at = 0
    while at < len(tokens):
        end, steps = at, [tokens[at].value[0]] if _even(tokens[at]) else []
        while steps:
            more = (
                end + 2
                if tokens[end + 1 : end + 2] and tokens[end + 1].kind == "comma"
                else end + 1
            )
            if more >= len(tokens) or not _even(tokens[more]):
                break
            steps.append(tokens[more].value[0])
            end = more
        gaps = {after - before for before, after in pairwise(steps)}
        if len(steps) >= FEWEST_PAIRS and len(gaps) == 1 and min(gaps) > 0:
            values = tuple(int(step) for step in steps)
            out.append(Token("scheme", (values, True), tokens[at].start, tokens[end].end))
            at = end + 1
            continue
        out.append(tokens[at])
        at += 1
    return out


def _even(token: Token) -> bool:
    """Whether a token is a pair of two equal whole numbers."""
    return token.kind == "pair" and len(set(token.value)) == 1 and token.value[0] % 1 == 0


def _spaced_steps(said: list[Token]) -> list[Token]:
    """The tokens, three falling numbers and more with spaces alone before a movement as a scheme:
    `21 15 9 of thrusters`.
    """
    out: list[Token] = []
    at = 0
    while at < len(said):
        end = at
        while end < len(said) and said[end].kind == "number":
            end += 1
        values = [token.value for token in said[at:end]]
        after = [token.kind for token in said[end:] if token.kind != "filler"][:1]
        whole = all(value == int(value) for value in values)
        falls = all(value > two for value, two in pairwise(values))
        if len(values) >= FEWEST_STEPS and whole and falls and after == ["movement"]:
            steps = (tuple(int(value) for value in values), False)
            out.append(Token("scheme", steps, said[at].start, said[end - 1].end))
            at = end
        else:
            out.append(said[at])
            at += 1
    return out


def _two_weights(said: list[Token]) -> list[Token]:
    """Two weights in one unit with a stroke between them as one, a track each: `20kg / 12kg`."""
    out: list[Token] = []
    for token in said:
        pair = [*out[-2:], token]
        kinds = [other.kind for other in pair]
        if kinds == ["seconds or inches", "slash", "seconds or inches"]:
            inches = (*pair[0].value, *token.value)
            out[-2:] = [Token("height", (inches, "in"), pair[0].start, token.end)]
            continue
        if kinds == ["weight", "slash", "weight"] and pair[0].value[1] == token.value[1]:
            first = pair[0]
            if len(first.value[0]) == len(token.value[0]) == 1:
                values = (*first.value[0], *token.value[0])
                out[-2:] = [Token("weight", (values, token.value[1], "/"), first.start, token.end)]
                continue
        out.append(token)
    return out


def _either_load(said: list[Token], text: str) -> list[Token]:
    """Two loads with an `or` between them as a pair: `at 22.5 or 15`."""
    out: list[Token] = []
    at = 0
    while at < len(said):
        three = said[at : at + 3]
        before = text[out[-1].start : out[-1].end].lower() if out else ""
        kinds = [one.kind for one in three]
        ahead = [token.kind for token in said[at + 3 : at + 4]]
        ends = not ahead or ahead[0] in ("comma", "stop", "close", "semicolon")
        several = before in ("@", "at", "with") and kinds == ["number", "and", "weight"]
        if several and len(three[2].value[0]) == 1 and three[0].value > three[2].value[0][0]:
            values = (three[0].value, *three[2].value[0])
            weight = (values, three[2].value[1], "/")  # `push press at 40 and 30 kg`
            out.append(Token("weight", weight, three[0].start, three[2].end))
            at += 3
            continue
        if before in ("@", "at", "with") and kinds == ["number", "or", "number"] and ends:
            values = (three[0].value, three[2].value)
            out.append(Token("pair", values, three[0].start, three[2].end))
            at += 3
            continue
        out.append(said[at])
        at += 1
    return out
