"""Rows that say something beside the work: a condition, a harder version, a half of an interval."""

from __future__ import annotations

import re
from collections.abc import Sequence

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.parts import all_counted
from pine_ladder.core.notation.reader.work import Work

TOTAL = re.compile(r"\W*total (?:reps?|cals?|calories|met(?:re|er)s|distance)\W*", re.IGNORECASE)
CONDITION = re.compile(
    r"\W*(?:(?:every|each) (?:break|drop)\b"
    r"|(?:every|each|any) time (?:you|it|they|someone|anyone)\b|whenever\b|when(?:ever)? you\b"
    r"|on (?:every|each|any) (?:break|drop|no[- ]rep)|if you (?:break|drop|stop|rest|put)\b"
    r"|if (?:you(?:'ve got| have| still have)|there(?:'s| is)|we have) (?:any )?"
    r"(?:\d+ min|time|more|energy)"
    r"|(?:if )?time (?:allow|permit)s?(?:ing)?\b)",
    re.IGNORECASE,
)
"""Work on a condition, `every time you break, 3 burpees`: told, not planned."""
GREETING = re.compile(
    r"\W*(?:good (?:morning|afternoon|evening)|morning|hello|hi|hey)"
    r"(?:\s+(?:all|everyone|everybody|team|folks|guys|gang|crew|people|athletes))?\s*[,.!]*\s*",
    re.IGNORECASE,
)
"""Words to the class before it begins: `Good morning all.`"""
_TOLD = re.compile(
    r"\W*(?:\d+ (?:people|persons|athletes|members) (?:per|to|on|at|share)\b"
    r"|rpe\s*\d[\d.,-]*\s+(?:for|on|in)\s+(?:the\s+)?(?:last|first|final|top)\b"
    r"|rest\b[^,;]*\bbefore (?:the|we|you)\b"
    r"|(?:row(?:er)?|bike|ski)?\s*(?:damper|resistance)\b"
    r"|no (?!rest|score|time|rep)[a-z][a-z\s]*(?:,\s*(?:and\s+)?no [a-z][a-z\s]*)*\W*$)",
    re.IGNORECASE,
)
"""Words on kit, on some of the sets, on what stands before a piece: told, not planned."""
TURNS = re.compile(
    r"\W*(?:then |and )?(?:swap|switch|change(?:\s?-?over)?)(?:e?s)?\b(?!.*\d)", re.IGNORECASE
)
"""Partners' turns, `swap after every run`: told, not planned."""
ROLES = re.compile(r"\W*one \w+s\b[^\d.]*?,\s*(?:and\s+)?one \w+s\b[^\d]*")
"""Jobs in a team, `one rows, one throws, one rests`: told, not planned."""
BREAKS_IN = re.compile(
    r"\W*(?:and\s+)?every\s+\d+(?::\d\d)?\s*(?:min(?:ute)?s?|')?,?\s+(?:every(?:one|body)\s+|you\s+|we\s+|all\s+)*"
    r"(?:stops?|breaks?|pauses?|drops?|gets?\s+off|jumps?\s+off|steps?\s+off)\b",
    re.IGNORECASE,
)
"""Work that breaks into what stands above it: `every 2 minutes stop and do 10 air squats`."""
TOTAL_TIME = re.compile(r"\W*(?:score\W*)?total time\b", re.IGNORECASE)
"""A row that says a piece is for time, where nothing else did."""
PRACTICE = re.compile(r"\bpracti[cs]|\bdrills?\b|\btechnique\b|\bskill", re.IGNORECASE)
HARDER = re.compile(r"\W*rx\s?\+", re.IGNORECASE)
"""A version harder than the one that is written: told, not planned."""
HALF = re.compile(r"\s*(?:on|work|(?P<off>off|rest|recover\w*))\s*[:=]\s*(?=\D)", re.IGNORECASE)
"""The mark of what is done in one half of an interval: `ON: 12 cal row`, `OFF: walk`."""


_IF_TIME = re.compile(
    r"\W*(?:if (?:there(?:'s| is)|we have|you have) (?:any )?time(?: left)?|time permitting)\W+"
    r"(?=(?:core|midline|strength|accessor|skill|cool|finish|mobility)\w*[\w -]{0,10}[:,])",
    re.IGNORECASE,
)


def without_condition(text: str) -> str:
    """A row that heads a piece without `if there is time,` before it; any other row as it is.

    >>> without_condition("If there is time, core: 3 rounds").strip()
    'core: 3 rounds'
    """
    return _IF_TIME.sub(lambda match: " " * len(match[0]), text, count=1)


def is_aside(text: str) -> bool:
    """Whether a row is told and not planned: work on a condition, a version harder than written."""
    return bool(CONDITION.match(text) or HARDER.match(text) or _TOLD.match(text))


_CUE = re.compile(r"\s*[a-z][a-z' -]{2,30}:\s+[a-z][^\d:|/]*$", re.IGNORECASE)


def is_cue(text: str, works: Sequence[Work], library: Library) -> bool:
    """Whether a row tells how a movement is done, or what may be done for one, below work that says
    how much: `Box jumps: step down, please`, `Pull-ups: banded or ring rows`.
    """
    if not all_counted(works) or not _CUE.match(text):
        return False
    row = tokens(text, library)
    kinds = [token.kind for token in row]
    if kinds[:2] != ["movement", "colon"] or {"max", "rest"} & set(kinds):
        return False
    names = {work.name for work in works}
    return "word" in kinds[2:] or str(row[0].means["movement"]) in names


_VERBS = ("is", "are", "was", "were", "has", "have")
_ASKS = frozenset(
    ("by", "percent", "scheme", "rounds", "sets", "amrap", "emom", "every", "every n", "for time",
     "rft", "build", "max", "colon")
)  # fmt: skip
MOST_BEFORE = 4
"""Tokens before the verb of a statement at most."""


def is_statement(text: str, library: Library) -> bool:
    """Whether a row says something of a movement or a machine, and asks for none of it.

    >>> from pine_ladder.core.movements import library
    >>> [is_statement(said, library()) for said in ("rower 3 is out today", "deadlift is 5x5")]
    [True, False]
    """
    said = tokens(text, library)
    words = [text[token.start : token.end].lower() for token in said]
    verb = next((at for at, word in enumerate(words) if word in _VERBS), 0)
    if not 0 < verb <= MOST_BEFORE:
        return False
    ahead, behind = ({one.kind for one in part} for part in (said[:verb], said[verb:]))
    roles = bool(ahead & {"role", "station", "part", "first", "then", "time", "prime"})
    return "movement" in ahead and not roles and not behind & _ASKS
