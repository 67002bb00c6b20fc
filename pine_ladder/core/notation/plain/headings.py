"""A heading as said: `20 min AMRAP`, `3 RFT`, `Strength 5 sets, rest 90s`, read piece by piece.

Every word must be understood: text that is left over is no heading.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

from rapidfuzz import fuzz, process

from pine_ladder.core.notation.plain.times import (
    BARE,
    DASH,
    MAX_SAID,
    SPAN,
    SPAN_OR_BARE,
    TIME,
    clock,
    seconds,
    span,
)
from pine_ladder.core.notation.words import HEADER_WORDS, ROLE_TITLES
from pine_ladder.core.plan import Role
from pine_ladder.core.units import clock_text

_ROLES = {
    Role.WARM_UP: r"(?:general |specific )?warm[\s-]?ups?|wu",
    Role.COOL_DOWN: r"cool[\s-]?downs?|cd",
    Role.MOBILITY: r"mobility|stretch(?:ing|es)?",
    Role.SKILL: r"skills?(?: work| practice)?|gymnastics|practice|technique",
    Role.POWER: r"power|olympic lifting|weightlifting",
    Role.STRENGTH: r"strength|lift(?:ing)?",
    Role.CORE: r"core|midline|abs|trunk",
    Role.CONDITIONING: r"conditioning|met[\s-]?con|w\.?o\.?d\.?|workout|finisher|cardio|engine",
    Role.REST: r"rest|break|pause",
}
_ROLE = re.compile(
    r"(?P<lead>(?:part\s+)?[a-h]\s*[:.)]\s+)?(?:"
    + "|".join(f"(?P<{role.name}>{words})" for role, words in _ROLES.items())
    + r")(?![\w'])\s*(?:work(?=\s*[:,-]|\s*$))?",
    re.IGNORECASE,
)
_NAME = re.compile(r"[\s:,-]*[\"“”]([^\"“”]+)[\"“”]\s*")
_PARTNERS = re.compile(r"^(?:partner|team|buddy)\s+(w\.?o\.?d\.?|workout|metcon)\b", re.IGNORECASE)
_TITLED = re.compile(r"([A-Za-z][A-Za-z '’&-]{2,40}?)\s*:\s+(\S.*)")
"""A piece of a name of its own: `Clean complex: 5 sets`."""
_NUM = r"(\d+)"
_NUMS = rf"(\d+(?:{DASH}\d+)?)"
_ROUNDS = r"(?:rounds?|rds?|sets?|times|x)(?![a-z])"


class Said(NamedTuple):
    """What a heading says: a role and a name, a format with its numbers, rounds and modifiers.

    `form` is empty where no format is said; numbers and modifiers are exact text.
    """

    role: Role | None
    name: str | None
    form: str
    numbers: tuple[str, ...]
    rounds: str | None
    modifiers: tuple[str, ...]


Found = re.Match[str]


# A format's pattern, its kind, and its numbers as exact text.
_FORMATS: tuple[tuple[str, str, Callable[[Found], tuple[str, ...]]], ...] = (
    (
        rf"(?:{_NUM}\s*x?\s*)?"
        r"(?:amrap|as many (?:rounds|reps)(?: and reps)? as possible)s?(?![a-z])"
        rf"\s*(?:in|for|of|x|:|-|–)?\s*({SPAN_OR_BARE})(?!\d|:\d)(?:\s*x\s*{_NUM})?",
        "amrap",
        lambda m: (span(m[2]), m[1] or m[3] or ""),
    ),
    (
        rf"(?:{_NUM}\s*x\s*)?({SPAN})\s*"
        r"(?:amrap|as many (?:rounds|reps)(?: and reps)? as possible)s?\b",
        "amrap",
        lambda m: (span(m[2]), m[1] or ""),
    ),
    (
        rf"{_NUM}\s*(?:rounds?|rds?)\s*of\s*(?:an?\s+)?({SPAN})\s*amraps?\b",
        "amrap",
        lambda m: (span(m[2]), m[1]),
    ),
    (r"(\d{1,2})\s*amrap\b", "amrap", lambda m: (span(m[1]), "")),
    (r"(\d{1,2})\s*(?:emom|e1mom)\b", "emom", lambda m: (span(m[1]),)),
    (
        r"(?:emom|e1mom|every minute(?: on the minute)?|on the minute)(?![a-z])"
        r"\s*(?:in|for|of|x|:|-|–)?\s*"
        rf"({SPAN_OR_BARE})(?!\d|:\d|\s*{_ROUNDS})",
        "emom",
        lambda m: (span(m[1]),),
    ),
    (rf"({SPAN})\s*(?:emom|e1mom)\b", "emom", lambda m: (span(m[1]),)),
    (r"(?:emom|e1mom|every minute(?: on the minute)?|on the minute)\b", "emom", lambda m: ("",)),
    (
        rf"(?:e(\d)mom)\b\s*(?:(?:for|of|:)?\s*({SPAN_OR_BARE})(?!\s*{_ROUNDS}))?",
        "every for",
        lambda m: (clock_text(60 * int(m[1])), clock(m[2]) if m[2] else ""),
    ),
    (
        rf"e(\d+:\d\d|\d{{2,3}})(?:mom|s)?\b(?:\s*for\s*({SPAN_OR_BARE}))?",
        "every for",
        lambda m: (clock(m[1], "s"), clock(m[2]) if m[2] else ""),
    ),
    (
        rf"(?:every|on the)\s+({TIME}|{BARE})(?:\s*on the (?:minute|\S+))?"
        rf"(?:\s*(?:for|until)\s*({SPAN_OR_BARE})(?!\s*{_ROUNDS}))?",
        "every for",
        lambda m: (clock(m[1]), clock(m[2]) if m[2] else ""),
    ),
    (
        rf"{_NUM}\s*(?:rounds?|x)\s*(?:of\s*|[:,]\s*)?({TIME}|{BARE})\s*(?:on|work|hard)\s*[,/]?\s*"
        rf"({TIME}|{BARE})\s*(?:off|rest|easy)",
        "intervals",
        lambda m: (clock(m[2], "s"), clock(m[3], "s"), m[1]),
    ),
    (
        rf"(?:intervals?:?\s*(?:of\s*)?)?({TIME}|{BARE})\s*(?:on|work|hard)\s*[,/]?\s*"
        rf"({TIME}|{BARE})\s*(?:off|rest|easy)",
        "intervals",
        lambda m: (clock(m[1], "s"), clock(m[2], "s")),
    ),
    (
        rf"(?:intervals?:?\s*(?:of\s*)?)?({TIME}|{BARE})\s*/\s*({TIME}|{BARE})(?=[\s,]|$)",
        "intervals",
        lambda m: (clock(m[1], "s"), clock(m[2], "s")),
    ),
    (
        r"(?:8 rounds (?:of )?|(\d+)\s*(?:x\s*)?)?tabatas?\b(?:[\s,]*8\s*rounds)?"
        r"(?:[\s,x]*1\s*(?:-|–|to)\s*(\d)(?:\s*times)?)?",
        "tabata",
        lambda m: (m[2] or "", m[1] or ""),
    ),
    (
        rf"{_NUM}\s*(?:rounds?|rds?|r)?,?\s*(?:each (?:round )?)?(?:for time|f\.?t\.?)(?![a-z])",
        "rounds for time",
        lambda m: (m[1],),
    ),
    (
        r"(?:ladder\s*(?:of|:)?\s*)?(\d+)\s*[-–,]\s*(\d+)\s*[-–,]\s*(\d+)(?:\s*[-–,]\s*\d+)*"
        r"\s*[-–,]?\s*(?:\.{2,}|…|up to|to)\s*[-–,]?\s*(?:to\s*)?(\d+)"
        r"(?:\s*(?:reps?|rounds?))?(?:\s*(?:for time|r?ft)(?![a-z]))?",
        "scheme",
        lambda m: (_steps(*map(int, m.groups())),),
    ),
    (
        r"(?:ladder\s*(?:of|:)?\s*)?(?:(?:from\s+)?(\d{1,2})\s*(?:down\s+to|up\s+to)\s*(1|\d{1,2})"
        r"|(10|1|20)\s*[-–]\s*(1|10|20)(?![-–\d:/]))(?:\s*ladder)?(?:\s*for time)?",
        "scheme",
        lambda m: (_by_ones(int(m[1] or m[3]), int(m[2] or m[4])),),
    ),
    (
        r"(\d+(?:\s*[-–]\s*\d+){2,}|\d+\s*[-–]\s*\d+(?=\s*(?:reps?\s*)?(?:for time|ft|rft)))"
        r"(?:\s*(?:reps?|rounds?))?(?:\s*(?:for time|r?ft)(?![a-z]))?",
        "scheme",
        lambda m: (re.sub(r"\s*[-–]\s*", "-", m[1]),),
    ),
    (
        rf"({TIME}|{BARE}(?=\s*min))\s*(?:time\s*)?cap(?![a-z])(?:\s*,?\s*for time)?",
        "for time",
        lambda m: (clock(m[1]),),
    ),
    (r"(?:for time|ft)(?![a-z])", "for time", lambda m: ()),
    (
        rf"{_NUM}\s*(?:rounds?|rds?)[\s,:]*(?:of\s*)?({TIME})\s*(?:at\s*|per\s*|on\s*)?(?:each\s*|a\s*)?"
        r"(?:stations?|exercises?|movements?)",
        "stations",
        lambda m: (clock(m[2]), m[1]),
    ),
    (rf"{_NUMS}\s*(?:rounds?|rds?)(?![a-z])(?:\s*of)?", "rounds", lambda m: (_range(m[1]),)),
    (rf"{_NUM}\s*x\s*:?\s*$", "rounds", lambda m: (m[1],)),
    (rf"{_NUMS}\s*(?:super\s*)?sets?(?![a-z])(?:\s*of)?", "sets", lambda m: (_range(m[1]),)),
    (r"accumulate\b", "accumulate", lambda m: ()),
    (
        rf"(?:continuous|steady)\b\s*(?:for)?\s*({TIME}|{BARE})",
        "continuous",
        lambda m: (clock(m[1]),),
    ),
    (rf"({SPAN})", "time", lambda m: (span(m[1]),)),
)

_WORD = {"two": 2, "three": 3, "four": 4}
_HOW = {
    "alternate": r"alternat(?:e|ing)(?: rounds?)?|i go,? you go|you go,? i go|igyg|ygig|"
    r"one works,? (?:the other|one) rests|taking turns",
    "share": r"shar(?:e|ing|ed)(?: the)?(?: work| reps)?|split(?:ting)?(?: the)?(?: work| reps)?"
    r"(?: as (?:needed|desired|you like))?(?: any ?how| however(?: you like)?)?",
    "together": r"together|synchro(?:nised|nized)?|sync(?:ed)?|side by side",
}
_MODIFIERS: tuple[tuple[str, Callable[[Found], tuple[str, ...]]], ...] = (
    (r"rest(?:ing)? as (?:needed|required|you like)", lambda m: ("rest as needed",)),
    (
        rf"(?:with\s+)?(?:a\s+)?rest(?:ing)?\s*:?\s*(?:of\s*)?({SPAN})"
        r"(?:\s*(?:between|after|btw|b/w)(?: (?:each|every|the))?(?: (?:sets?|rounds?|blocks?))?)?",
        lambda m: (f"rest {span(m[1], 's')}",),
    ),
    (
        rf"(?:with\s+)?({SPAN})\s*(?:of\s*)?rest"
        r"(?:\s*(?:between|after|btw|b/w)(?: (?:each|every|the))?(?: (?:sets?|rounds?|blocks?))?)?",
        lambda m: (f"rest {span(m[1], 's')}",),
    ),
    (
        rf"(?:(?:time\s*)?cap(?:ped)?|t\.?\s?c\.?(?=[\s:]*\d))\s*:?\s*(?:at|of)?\s*({TIME}|{BARE})",
        lambda m: (f"cap {clock(m[1])}",),
    ),
    (rf"({TIME}|{BARE})\s*(?:time\s*)?cap\b", lambda m: (f"cap {clock(m[1])}",)),
    (r"(?:for|on) quality|not for time|nft", lambda m: ("for quality",)),
    (r"build(?:ing)?(?: (?:up|to (?:a )?heavy(?: single)?))?\b", lambda m: ("build",)),
    (r"(?:at (?:a )?)?(?:pace\s+)?(steady|hard)(?: pace)?\b", lambda m: (f"pace {m[1].lower()}",)),
    (r"tie[\s-]?break\b", lambda m: ("tie-break",)),
    (r"(?:score|count)(?:ed)?\s*:?\s*(?:the\s*)?total reps", lambda m: ("score total reps",)),
    (r"score\s*:?\s*([a-z][a-z -]*)", lambda m: (f"score {m[1].strip()}",)),
    (rf"work(?:ing)?\s*:?\s*({TIME}|{BARE})", lambda m: (f"work {clock(m[1], 's')}",)),
    (
        # One time alone is no range: how far from it is well is the coach's to say.
        rf"(?:target|aim|goal)\s*:?\s*({TIME}{DASH}{TIME}|{BARE}{DASH}{TIME})",
        lambda m: (f"target {span(m[1])}",),
    ),
    (
        rf"(?:target|aim|goal)\s*:?\s*{_NUMS}\s*(rounds?|reps?)\b",
        lambda m: (f"target {_range(m[1])} {m[2]}",),
    ),
    (
        r"(?:add|plus|\+)\s*(\d+)\s*(?:reps?)?\s*(?:(?:each|every|a|per)\s*(?:round|minute|window))",
        lambda m: (f"+{m[1]} reps each round",),
    ),
    (r"until (?:missed|you miss|failure|you fail)", lambda m: ("until missed",)),
    (r"(?:in\s+)?teams? of (\d)", lambda m: (f"teams of {m[1]}",)),
    (r"(?:in\s+)?teams? of (two|three|four)\b", lambda m: (f"teams of {_WORD[m[1].lower()]}",)),
    (r"(?:in|with|as)?\s*(?:a\s+)?(?:pairs?|partners?|twos|buddy)\b", lambda m: ("teams of 2",)),
    (r"in threes\b", lambda m: ("teams of 3",)),
    *((how, lambda m, word=word: (word,)) for word, how in _HOW.items()),
    (r"\(?(?:through\s+)?\d stations?\)?", lambda m: ()),
    (
        r"(?:add|\+)\s*\d+(?:[.,]\d+)?\s*(?:kg|lbs?)\s*(?:each|every|per|a)\s*set",
        lambda m: ("build",),
    ),
    (r"heats?\s*:?\s*(\d)", lambda m: (f"heats {m[1]}",)),
    (r"(?:in\s+)?(\d)\s*heats?\b", lambda m: (f"heats {m[1]}",)),
)
_ROUNDS_OF = re.compile(
    rf"(?:(?:x|for)\s*{_NUMS}(?:\s*{_ROUNDS})?|{_NUMS}\s*{_ROUNDS})(?!\w)", re.IGNORECASE
)
_JOINT = re.compile(
    r"[\s,;:.()&]+|[-–—]+\s|\b(?:and|with|then|of|a|an|the|chipper|couplet|triplet|complete|perform)\b",
    re.IGNORECASE,
)
_TAKES_ROUNDS = ("emom", "every for", "intervals", "tabata", "amrap")


def _range(text: str) -> str:
    return re.sub(DASH, "-", text.strip())


def _steps(first: int, second: int, third: int, last: int) -> str:
    """All numbers of a ladder of which the first and the last are said; these alone if uneven."""
    step = second - first
    if not step or third - second != step or (last - third) % step or (last - third) // step < 1:
        return f"{first}-{second}-{third}"
    return "-".join(map(str, range(first, last + step // abs(step), step)))


def _by_ones(first: int, last: int) -> str:
    step = 1 if last > first else -1
    return "-".join(map(str, range(first, last + step, step)))


def continues(first: Said, second: Said) -> bool:
    """Whether a second line says the rounds of a race that the first one names."""
    return (
        first.form == "for time"
        and second.role is None
        and second.form in ("scheme", "rounds", "rounds for time")
    )


def with_its_rounds(first: Said, second: Said) -> Said:
    """The race of the first line by the rounds of the second."""
    caps = tuple(f"cap {one}" for one in first.numbers)
    form = "scheme" if second.form == "scheme" else "rounds for time"
    modifiers = tuple(dict.fromkeys((*first.modifiers, *caps, *second.modifiers)))
    return first._replace(form=form, numbers=second.numbers, modifiers=modifiers)


def role_said(text: str) -> tuple[Role | None, str]:
    """The role a line begins with, if any, and the rest of the line."""
    found = _ROLE.match(text)
    if not found:
        return None, text
    role = next(role for role in _ROLES if found[role.name])
    return role, text[found.end() :]


@lru_cache(maxsize=4096)
def heading_said(text: str, titled: bool = True) -> Said | None:
    """What a line says as a heading; None where a word of it is not understood.

    Where it may be `titled`, words before a colon are the name of the piece.
    """
    if len(text) > MAX_SAID:
        return None
    if text.strip(" :").lower() == "chipper":
        return Said(None, None, "for time", (), None, ())
    text = _PARTNERS.sub(r"\1 in pairs", text.strip())
    role, rest = role_said(text)
    if role is None and titled and (named := _TITLED.fullmatch(text)) and not _a_slip(named[1]):
        said = heading_said(named[2], titled=False)
        race = heading_said(named[1], titled=False)
        if said is not None and race is not None and continues(race, said):
            return with_its_rounds(race, said)
        if said is not None and said.form and not modifiers_said(named[1]):
            return said._replace(name=said.name or named[1].strip())
    named = _NAME.match(rest)
    name = None
    if role is not None and named:
        name, rest = " ".join(named[1].split()), rest[named.end() :]
    form, rounds = "", None
    numbers: tuple[str, ...] = ()
    modifiers: list[str] = []
    at = 0
    while at < len(rest):
        joint = _JOINT.match(rest, at)
        if joint:
            at = joint.end()
            continue
        step = _modifier(rest, at) if form else None
        if step is None and not form:
            chosen = _format(rest, at)
            if chosen:
                form, numbers, at = chosen
                continue
            step = _modifier(rest, at)
        if step is None and form in _TAKES_ROUNDS and rounds is None:
            counted = _ROUNDS_OF.match(rest, at)
            if counted:
                rounds, at = _range(counted[1] or counted[2]), counted.end()
                continue
        if step is None and form in ("rounds", "sets", "for time", "rounds for time", "accumulate"):
            timed = re.compile(SPAN, re.IGNORECASE).match(rest, at)
            if timed and re.search(DASH, timed[0]):
                step = (f"target {span(timed[0])}",), timed.end()
        if step is None:
            return None
        modifiers += [one for one in step[0] if one not in modifiers]
        at = step[1]
    if not form and role is None and modifiers == ["for quality"]:
        return Said(None, None, "rounds", ("1",), None, ("for quality",))
    if not form and (role is None or modifiers):
        return None if role is None else Said(role, name, "", (), None, tuple(modifiers))
    if form in ("emom", "every for") and re.search(r"\balternating\b(?! rounds)", rest, re.I):
        # The stations take turns, not two people.
        modifiers = [one for one in modifiers if one != "alternate"]
    return Said(role, name, form, numbers, rounds, tuple(modifiers))


@lru_cache(maxsize=4096)
def modifiers_said(text: str) -> tuple[str, ...] | None:
    """Modifiers alone, as in `15 min cap` or `rest 90s, build`; None where a word is left over."""
    out: list[str] = []
    at = 0
    while at < len(text):
        joint = _JOINT.match(text, at)
        if joint:
            at = joint.end()
            continue
        step = _modifier(text, at)
        if step is None:
            return None
        out += step[0]
        at = step[1]
    return tuple(out) or None


def _format(text: str, at: int) -> tuple[str, tuple[str, ...], int] | None:
    for pattern, kind, numbers in _FORMATS:
        found = re.compile(pattern, re.IGNORECASE).match(text, at)
        if found:
            return kind, numbers(found), found.end()
    return None


def _modifier(text: str, at: int) -> tuple[tuple[str, ...], int] | None:
    for pattern, exact in _MODIFIERS:
        found = re.compile(pattern, re.IGNORECASE).match(text, at)
        if found and found.end() > at:
            return exact(found), found.end()
    return None


def exact_rest(said: Said, stations: int, seconds_of_lines: int | None) -> str | None:
    """What follows the colon, the lines being known; None where the heading leaves it open.

    `stations` are the windows of one round, `seconds_of_lines` the sum of lines that are timed.
    """
    rounds, turns = said.rounds, max(1, stations)
    match said.form:
        case "amrap":
            form = f"AMRAP {said.numbers[0]}"
        case "emom" if said.numbers[0]:
            form = f"EMOM {said.numbers[0]}"
        case "emom" if rounds:
            form = f"EMOM {_minutes(rounds, turns)}"
        case "every for":
            interval, whole = said.numbers
            if whole and not rounds:
                rounds = str(max(1, round(seconds(whole) / seconds(interval) / turns)))
                # The whole length was said: nobody need ask whether windows are meant.
                rounds += f" round{'s' * (rounds != '1')}" if turns > 1 else ""
            form = f"every {interval}" + (f" x {rounds}" if rounds else "")
        case "intervals" if rounds or len(said.numbers) > 2:
            form = f"intervals {said.numbers[0]}/{said.numbers[1]} x {rounds or said.numbers[2]}"
        case "tabata":
            form = "Tabata" + (f" x 1-{said.numbers[0]}" if said.numbers[0] else "")
        case "rounds for time":
            form = f"{said.numbers[0]} round{'s' * (said.numbers[0] != '1')} for time"
        case "scheme":
            form = f"{said.numbers[0]} for time"
        case "for time" if said.numbers:
            form = f"for time, cap {said.numbers[0]}"
        case "for time" | "accumulate":
            form = said.form
        case "rounds" | "sets":
            one = said.numbers[0] == "1"
            form = f"{said.numbers[0]} {said.form[:-1] if one else said.form}"
        case "continuous":
            form = f"continuous {said.numbers[0]}"
        case "time" if said.role is Role.REST:
            form = said.numbers[0].split("-")[0]
        case "time" if said.role in (Role.WARM_UP, Role.COOL_DOWN, Role.MOBILITY, Role.SKILL):
            form = f"continuous {said.numbers[0].split('-')[0]}"
        case "" if said.role in (Role.WARM_UP, Role.COOL_DOWN, Role.MOBILITY) and seconds_of_lines:
            form = f"continuous {clock_text(seconds_of_lines)}"
        case "" if said.role in (Role.WARM_UP, Role.COOL_DOWN, Role.MOBILITY):
            form = "1 round"
        case _:
            return None
    return ", ".join([form, *_teams(said.modifiers)])


def _teams(modifiers: tuple[str, ...]) -> list[str]:
    """A way of working together without a number means two."""
    how = any(one in _HOW for one in modifiers)
    sized = any(one.startswith("teams of") for one in modifiers)
    return [*modifiers, "teams of 2"] if how and not sized else list(modifiers)


def _minutes(rounds: str, turns: int) -> str:
    return "-".join(clock_text(60 * turns * int(part)) for part in rounds.split("-"))


_WORDS = (
    "warm-up", "warmup", "cool-down", "cooldown", "mobility", "skill", "power", "strength", "core",
    "conditioning", "metcon", "workout", "finisher", "rest", "amrap", "emom", "every", "minutes",
    "minute", "seconds", "rounds", "round", "sets", "intervals", "tabata", "accumulate",
    "continuous", "for", "time", "cap", "target", "build", "quality", "teams", "partners",
    "alternate", "share", "together", "score", "reps", "total", "pace", "steady", "hard", "until",
    "missed", "as", "needed", "between", "of", "work", "aim", "heats", "min", "sec", "mins", "x",
)  # fmt: skip
A_SLIP = 74
_BEFORE_COLONS = (*(title.lower() for title in ROLE_TITLES.values()), *HEADER_WORDS)


def _a_slip(name: str) -> bool:
    """Whether a name is near a word that stands before colons, so that a slip was made in it."""
    near = process.extractOne(name.lower().strip(), _BEFORE_COLONS, scorer=fuzz.ratio)
    return near is not None and near[1] >= A_SLIP


def mended(text: str) -> str | None:
    """The exact heading a line with slips of the pen was meant to be; None where none is near."""
    if len(text) > MAX_SAID:
        return None
    words = re.split(r"([A-Za-z-]+)", text.lstrip("# "))
    slips = 0
    for at, word in enumerate(words):
        if not word.isalpha() or word.lower() in _WORDS or len(word) < 3:
            continue
        near = process.extractOne(word.lower(), _WORDS, scorer=fuzz.ratio, score_cutoff=A_SLIP)
        if near:
            words[at], slips = near[0], slips + 1
    said = heading_said("".join(words)) if slips else None
    if said is None or not said.form:
        return None
    rest = exact_rest(said, 0, None)
    name = f' "{said.name}"' if said.name else ""
    return f"## {ROLE_TITLES[default_role(said)]}{name}: {rest}" if rest else None


def default_role(said: Said) -> Role:
    """What a piece is for where its heading does not say."""
    if said.role is not None:
        return said.role
    return {"sets": Role.STRENGTH, "accumulate": Role.SKILL}.get(said.form, Role.CONDITIONING)
