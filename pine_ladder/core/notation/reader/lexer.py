"""Tokens of a row: numbers with what they measure, and phrases of the lexicon.

A token has one kind and, where the text leaves it open, others it could be.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.adjoining import parted, read_together
from pine_ladder.core.notation.reader.by_sex import paired_by_sex
from pine_ladder.core.notation.reader.lexicon import full_key, meanings, squeeze
from pine_ladder.core.notation.reader.quantities import NUMBER, clock, metres, quantity
from pine_ladder.core.notation.reader.token import Token

_UNIT = (
    r"(?:kgs?|kilos?|kilogram\w*|lbs?|pounds?|\#|%|percent|per cent|calories|calorie|cals|cal|kcal"
    r"|kilomet\w+|km|met(?:re|er)s?|miles?|mi|feet|foot|ft|yards?|yds?|yd|cm|inches|inch(?!\s?worm)|in(?!\s+[a-z0-9]|[a-z])"
    r"|minutes?|mins?|min|seconds?|secs?|sec|(?<!\d\d\s)(?:bw|bodyweight)(?!(?<!\.\d\sbw)(?<!\.\d\sbodyweight)\s+[a-z-]+s\b)|''|s|m|k|h|'|\")"
)
_LEXEMES = re.compile(
    rf"""
    (?P<clockrange>\d{{1,2}}:\d\d\s*(?:-|to)\s*\d{{1,2}}:\d\d(?!\s*(?:min\b|s\b|rest|sec)))
  | (?P<nth>every\s+(?P<nthn>\d{{1,2}})(?:st|nd|rd|th)\s+min(?:ute)?s?\b)
  | (?P<clocked>on\s+an?\s+(?P<clockn>\d{{1,2}}(?::\d\d|\.5)?)
      \s*(?P<clocku>min(?:ute)?s?|secs?|seconds?|')?\s+clock\b)
  | (?P<warmto>warm(?:ing)?[\s-]?up\s+to
      (?=\s+(?:about\s+|around\s+|a\s+|your\s+)?(?:\d+(?!\d|\s*(?:min|'|:))|heavy|working|first)))
  | (?P<withw>(?<=\s)w\s+(?=\d+\s*(?:m|s|secs?|min)\b))
  | (?P<onthe>on\s+the\s+(?=:?\d))
  | (?P<everyclock>e(?P<ecn>\d{{1,2}}:\d\d)\b)
  | (?P<ebare>e(?P<ebaren>[1-5]|[6-9]0|120|150|180)(?=\s*x\s*\d))
  | (?P<everyn>e\s?(?P<en>\d{{1,3}}(?::\d\d|\.5)?)\s*
      (?:(?P<eu>s|sec)?\s*(?:mom|m(?:in)?\b(?!\s*[a-z]*l\b)|'(?!'))|(?P<es>s(?:ec)?)\b(?=\s*(?:x|,|:|for|\d|$))))
  | (?P<tempocode>(?<![\d.,:/-])\d\d[\dx]\d(?![\d:/x]|[.,]\d|\s*(?:m|kg|km|lb|s|cal)\b)
      |(?<![\d-])\d-[\dx]-[\dx]-[\dx](?![\d-]))
  | (?P<half>(?:(?:an?\s+half|half\s+an?|half)\s+|(?<![\d/])(?<!\d\s)(?:½|1/2)\s*)
      (?P<halfunit>miles?\b|mi\b|km?\b|kilomet\w+))
  | (?P<onemile>(?:(?<=\ba\s)|(?<=\bone\s)|(?<=\b1\s)|(?<![a-z\d.,/½]\s)(?<![a-z\d.,/½]))
      mile\b(?=\s*(?:run|row|jog|ski|walk|,|$|\.|again)))
  | (?P<sides>(?<![\d+.:])(?P<side>[2-9]|[1-5]\d)\+(?P=side)(?=\s+[a-z]))
  | (?P<cluster>(?<![\d.])\d(?:\.\d){{2,5}}(?![\d.])
      | (?<![\d.@/])(?P<pairone>[12])\.(?P=pairone)(?=\s*[x×]\s*\d)
      | (?<=\d\sx\s)(?P<pairtwo>[123])\.(?P=pairtwo)(?!\d|\.\d|\s*(?:kg|lb|k?m|%|mi)))
  | (?P<atleast>(?<![\d.+])(?P<least>\d{{1,2}})\+(?=\s*(?:@|,|$|\))))
  | (?P<pace>(?:(?<=@\s)|(?<=hold\s))[125]0?\s?k\s?[+-]\s?\d{{1,2}}\b
      |(?:\d+(?:[.,]\d+)?\s*(?:km?|miles?|mi|m)|mile)\s+(?:race\s+)?pace\b
      (?:\s*(?:plus|minus|[+-])\s*\d+\s*(?:s|secs?|seconds?)\b)?)
  | (?P<asis>\b(?:per|each)\s+climb\b
      |\b(?:week|wk|day)\s*\d{{1,2}}\s*(?:/|of)\s*\d{{1,2}}(?:\s*-(?=\s))?
      |\bsame\s+(?:\w+\s+)?as\s+last\s+\w+(?:\s+(?:plus|\+)\s*\d+(?:\.\d+)?(?:\s*(?:kgs?|lbs?)\b)?)?
      |\bamrap\s+(?:on\s+)?(?:the\s+|your\s+)?last\s+set\b|\blast\s+set\s+(?:is\s+)?amrap\b
      |\beach\s+(?:with\s+|on\s+)?(?:their\s+)?own\s+[a-z]+\b
      |(?<=max\s)minus\s+\d+\b
      |\d{{1,2}}\s*(?:s|secs?|seconds?)\s+(?:up|on\s+the\s+way\s+up)\b
      |\b(?:less|minus|drop|take\s+off)\s+\d+\s?%|(?:\A\s*)-\d+\s?%
      |\b(?:un)?till?\s+\d+:\d\d\b|\b(?:un)?till?\s+(?:the\s+)?\d+(?::\d\d)?(?:\s*min(?:ute)?s?)?\s+mark\b|\b\d\s?-?\s?positions?\b|\btwice\s+(?:as|the|that)\b|(?:\d{{1,2}}(?:[:.]\d\d)?\s*[/&,+]\s*)*\d{{1,2}}(?:[:.]\d\d)?\s?(?:am|pm)\b
      |\d\s*(?:(?:-|or|to)\s*\d\s*)?(?:reps?\s+)?(?:left\s+)?in\s+(?:the\s+(?:tank|bank)|reserve)\b
      |\d{{2,4}}\s*(?:m\b|metres?\b|meters?\b)?\s*(?:walk|jog)(?:ing)?
        \s+(?:recovery|recover|rest|back)\b)
  | (?P<ratio>(?<=rest\s)1:[1-4](?!\d)|1:[1-4]\s+(?=(?:work|rest)\b))
  | (?P<held>(?P<heldn>\d{{1,2}})\s*(?:s|secs?|seconds?)\s+(?:(?:pause|hold)\s+)?
      (?:in\s+the\s+(?:hole|bottom)|at\s+(?:the\s+)?(?:bottom|chest|knee))\b)
  | (?P<rm>(?P<rms>\d{{1,2}})[\s-]?(?:rms?|rep[\s-]?max)\b)
  | (?P<shortrest>(?<![a-z\d])r(?:\s*[:=]\s*|\s+(?=\d+(?::\d\d|\s*(?:s|secs?|min)\b|')))?
      (?=\d+(?::\d\d|\s*(?:s|secs?|seconds?|m|min(?:ute)?s?)\b|'|\")|\d{{2,3}}\b(?!\s*[a-z])))
  | (?P<upin>(?<=(?:up|ld|mp)\s)in\s+(?P<upinn>[1-9])s\b)
  | (?P<teamsaid>\bin\s+(?P<teamword>twos|threes|fours|fives|sixes)\b)
  | (?P<teamof>(?:\bin\s+|(?:(?<=team\s)|(?<=teams\s)|(?<=chipper\s)|(?<=wod\s))\()
      (?P<teamn>[2-6])s\b\)?)
  | (?P<rpebehind>(?<![\d.])(?P<effortahead>(?:10|\d)(?:[.,]5)?)\s*rpe\b(?!\s*\d))
  | (?P<percents>(?:start|begin)\w*\s+(?:at|with|from)\s+(?:about\s+)?(?P<percent1>\d{{2}})\s*%?
      [\s,;]+(?:and\s+|then\s+)?(?:finish|end|work|build|go)(?:ing)?\s+
      (?:up\s+)?(?:at|with|to|on)\s+(?:about\s+)?(?P<percent2>\d{{2,3}})\s*%)
  | (?P<rpe>rpe\s*(?:of\s*)?(?P<effort>\d+(?:[.,]5)?)(?:\s*-\s*(?P<effort2>\d+(?:[.,]5)?))?)
  | (?P<grow>\+\s*\d+\s*(?:reps?\b)?(?=\s*(?:(?:each|every|per|a)\b|/\s*(?:round|rd|set|min|time))))
  | (?P<arm>(?<![\d/])(?:1|one|single|sa)[\s-]{{0,4}}(?:arm(?:ed)?|hand(?:ed)?)\b)
  | (?P<leg>(?<![\d/])(?:1|single|sl|one)[\s-]{{1,4}}leg(?:ged)?\b)
  | (?P<rangeby>(?<![\d/.])\d{{1,2}}\s*-\s*\d{{1,2}}\s*x
      (?=\s*:?\d+(?::\d\d)?\s*(?:min|sec|s\b|'|\"|:)))
  | (?P<byn>(?<![\d/.])\d{{1,2}}\s*(?:x|times|by(?=\s*\d{{1,2}}\b))\s*
      (?=[\d:½]|max\b|amrap\b|me\b|\())
  | (?P<byonly>(?<![\d/.])\d{{1,2}}\s*x(?![a-z\d]))
  | (?P<during>x(?=\s*\d+(?::\d\d)?\s*(?:min|sec|'))
      |\bover(?=\s+(?:about\s+|around\s+)?\d+\s*(?:min(?:ute)?s?\b|')))
  | (?P<xn>(?<![a-z])x\s*(?P<xnum>\d{{1,3}}
      (?:-\d+|\s+-\s+\d+(?=\s*(?:rounds?|rds?|sets?|times|$)))?)
      (?!\s*(?:kg|lb|%|m\b|s\b)|\d|[/.:]\d))
  | (?P<primes>(?<![\d.])\d{{1,2}}'\s?[0-5]\d(?:''|\"|(?![\d'])))
  | (?P<clock>(?:\d{{1,2}}\s*-\s*)?\d*:\d\d(?:\s*(?:-|to)\s*\d*:\d\d)?)(?:\s*min(?:ute)?s?\b)?
  | (?P<tracks>(?P<track1>\d+(?:[.,]\d+)?)\s?\(\s?(?P<track2>\d+(?:[.,]\d+)?)\s?\)\s?
      (?P<trackunit>kgs?|lbs?|\#|cals?)(?![a-z]))
  | (?P<num>(?:\d+(?:\s*,\s*\d+){{2,}}(?=\s*,?\s*(?:\.\.|…))|{NUMBER})(?:
      (?:/{NUMBER})+(?!\d)(?:(?=\s+/\s)|(?:\s+/\s+{NUMBER})*(?!\d))
      |(?:\s*/\s*{NUMBER}(?!\s*x\s*\d))+(?!\d)
      |(?:(?!\s+-\s+\d[\d.,]*\s*(?:%|:\d\d))\s*-\s*(?:{NUMBER}|amrap\b|max\b))+
      |(?:\s*(?:to|or)\s+{NUMBER}(?=\s*{_UNIT}|\s+(?:reps?|rounds?|rds?|sets?|times|of)\b|\s*$))
      |(?:\ +\d{{1,2}}(?![\d.,:/%]|\s*[a-z\#"'@-])){{2,}}
      |(?:\s*,\s*\d+){{2,}})?)
    (?:(?P<ell>\s*[-,]?\s*(?:\.\.+|…|etc\.?))(?:\s*[-,]?\s*(?P<till>\d+)(?![\d:/.]))?)?
    (?:[\s-]{{0,14}}?(?P<unit>{_UNIT})(?!(?!x\d)[a-z0-9&])|(?P<ord>st|nd|rd|th)\b)?
  | (?P<word>(?:c/d|w/u|b/w|l/r|r/l|e/s|p/s|w/)(?![a-z])
      |[a-z]+(?:['&][a-z0-9]+|\d+[a-z0-9]*(?![a-z0-9]))*
      |[a-z]\d[a-z0-9]*)
  | (?P<etc>\.\.+|…)
  | (?P<sym>[,;:()\[\]+/|@=>!?.&\-])
    """,
    re.VERBOSE | re.IGNORECASE,
)
_SYMBOLS = {
    ",": "comma", ";": "semicolon", ":": "colon", "(": "open", ")": "close", "[": "open",
    "]": "close", "-": "dash", "/": "slash", "+": "plus", "@": "at", "|": "pipe", "=": "equals",
    ">": "then", "&": "word", ".": "stop", "!": "stop", "?": "stop",
}  # fmt: skip


def _every_n(match: re.Match[str]) -> Token:
    """`E2MOM`, `E90S`, `E1:30MOM`: seconds of a window; a bare number, if too long for minutes."""
    said, unit = match["en"], match["eu"] or match["es"]
    seconds = clock(said) if ":" in said else round(float(said) * (1 if unit else 60))
    if seconds >= 600 and ":" not in said and not unit:
        seconds = round(float(said))
    return Token("every n", seconds, *match.span())


SHORTEST_IN_S = 60
"""A bare length of a window from which on it is in seconds: `E90 x 8`, but `E2 x 5`."""


def _bare_window(number: str) -> int:
    """The seconds of `E90 x 8` and `E2 x 5`."""
    return int(number) * (1 if int(number) >= SHORTEST_IN_S else 60)


LONGEST_WINDOW_S = 480
"""Seconds from which on a clock is that of the whole piece."""


def _clocked(match: re.Match[str]) -> Token:
    """`on a 2 min clock`: the seconds of a window."""
    said, unit = match["clockn"], match["clocku"] or ""
    length = clock(said) if ":" in said else float(said) * (1 if unit.startswith("s") else 60)
    if length >= LONGEST_WINDOW_S:
        return Token("time", (round(length),), *match.span())  # `4 rounds on a 16 min clock`
    return Token("every n", round(length), *match.span())


def _tracks(match: re.Match[str]) -> Token:
    """`100(70) kg`: a load, or calories, for each track."""
    values = tuple(float(match[name].replace(",", ".")) for name in ("track1", "track2"))
    unit = match["trackunit"]
    if unit.startswith("cal"):
        return Token("cal", (values, "/"), *match.span())
    return Token("weight", (values, "kg" if unit.startswith("k") else "lb", "/"), *match.span())


def _span(match: re.Match[str], name: str) -> tuple[int, ...]:
    return tuple(clock(one) for one in re.split(r"-|to", match[name]))


def _numbers(text: str) -> tuple[int, ...]:
    return tuple(int(one) for one in re.findall(r"\d+", text))


def _in_primes(text: str) -> int:
    """Seconds of minutes and seconds with their marks.

    >>> _in_primes("2'30")
    150
    """
    minutes, seconds = _numbers(text)
    return 60 * minutes + seconds


def _effort(match: re.Match[str]) -> Token:
    said = [one for one in (match["effort"], match["effort2"]) if one]
    return Token("rpe", tuple(float(one.replace(",", ".")) for one in said), *match.span())


def _half(match: re.Match[str]) -> Token:
    way = (metres(0.5, match["halfunit"]),)
    return Token("distance", (way, "-"), *match.span())


def _sign(match: re.Match[str]) -> Token | None:
    """A mark between words; a hyphen inside a word is none."""
    start, end, text = match.start(), match.end(), match.string
    inside = text[start - 1 : start].isalpha() and text[end : end + 1].isalpha()
    if match["sym"] == "-" and inside:
        return None
    kind = _SYMBOLS[match["sym"]]
    return Token(kind, "&" if kind == "word" else None, start, end)


_TEAMS = {"twos": 2, "threes": 3, "fours": 4, "fives": 5, "sixes": 6}
_MADE: Mapping[str, Callable[[re.Match[str]], Token | None]] = {
    "num": lambda match: Token(*quantity(match), *match.span()),
    "sym": _sign,
    "clockrange": lambda match: Token("clock range", _span(match, "clockrange"), *match.span()),
    "everyn": _every_n,
    "clocked": _clocked,
    "during": lambda match: Token("filler", None, *match.span()),
    "tracks": _tracks,
    "warmto": lambda match: Token("build", "", *match.span()),
    "withw": lambda match: Token("and", "w", *match.span()),
    "ebare": lambda match: Token("every n", _bare_window(match["ebaren"]), *match.span()),
    "onthe": lambda match: Token("every", "", *match.span()),
    "everyclock": lambda match: Token("every n", clock(match["ecn"]), *match.span()),
    "nth": lambda match: Token("every n", 60 * int(match["nthn"]), *match.span()),
    "half": _half,
    "onemile": lambda match: Token("distance", ((metres(1, "mile"),), "-"), *match.span()),
    "sides": lambda match: Token("pair", (float(match["side"]),) * 2, *match.span()),
    "atleast": lambda match: Token(
        "number", float(match["least"]), *match.span(), {"more": "or more"}
    ),
    "cluster": lambda match: Token("number", float(sum(_numbers(match[0]))), *match.span()),
    "pace": lambda match: Token("word", match[0], *match.span()),
    "asis": lambda match: Token("word", match[0], *match.span()),
    "ratio": lambda match: Token("as needed", None, *match.span()),
    "held": lambda match: Token("held", float(match["heldn"]), *match.span()),
    "rm": lambda match: Token("rep max", int(match["rms"]), *match.span()),
    "shortrest": lambda match: Token("rest", None, *match.span()),
    "rpe": _effort,
    "upin": lambda match: Token("number", float(match["upinn"]), *match.span()),
    "teamsaid": lambda match: Token("team", _TEAMS[match["teamword"]], *match.span()),
    "teamof": lambda match: Token("team", int(match["teamn"]), *match.span()),
    "rpebehind": lambda match: Token(
        "rpe", (float(match["effortahead"].replace(",", ".")),), *match.span()
    ),
    "percents": lambda match: Token(
        "percent", (float(match["percent1"]), float(match["percent2"])), *match.span()
    ),
    "grow": lambda match: Token("grow", _numbers(match["grow"])[0], *match.span()),
    "arm": lambda match: Token("one arm", None, *match.span(), {"word": match["arm"]}),
    "leg": lambda match: Token("word", "single leg", *match.span()),
    "rangeby": lambda match: Token(
        "times n", tuple(map(int, _numbers(match[0])[:2])), *match.span()
    ),
    "byn": lambda match: Token("by", _numbers(match[0])[0], *match.span()),
    "byonly": lambda match: Token("by", _numbers(match[0])[0], *match.span()),
    "xn": lambda match: Token("times n", _numbers(match["xnum"]), *match.span()),
    "clock": lambda match: Token("time", _span(match, "clock"), *match.span()),
    "primes": lambda match: Token("time", (_in_primes(match["primes"]),), *match.span()),
    "etc": lambda match: Token("etc", None, *match.span()),
}
"""Tokens by the group of a lexeme that matched, the most frequent first."""


def _lexemes(text: str) -> list[Token]:
    out: list[Token] = []
    low = text.lower()
    for found in _LEXEMES.finditer(low):
        start, end = found.span()
        if found["word"]:
            most = text[start:end] == "ME" or (
                found["word"] == "me" and out and out[-1].kind == "by"
            )
            out += [Token("max", None, start, end)] if most else _glued(found["word"], start)
        elif found["tempocode"]:
            named = _TEMPO_BEHIND.match(low, end) is not None
            named = named or bool(out and out[-1].kind == "word" and _SLOW.match(low, start))
            if _SETS_NOT_TEMPO.match(low, start) and not named:
                count, reps = found["tempocode"].split("x")
                out.append(Token("by", int(count), start, start + 3))
                out.append(Token("number", float(reps), start + 3, end))
                continue
            if _loaded_set(text[start:end], low[end:], out) and not named:
                out.append(Token("number", float(low[start : start + 2]), start, start + 2))
                out.append(Token("times n", (int(low[end - 1]),), start + 2, end))
                continue
            out.append(_tempo(found["tempocode"], out, start, end, named=named))
        else:
            if found["num"] and (steps := _STEPS_FOR_TIME.match(low, start)) is not None:
                numbers = _numbers(steps[1])
                out.append(Token("scheme", (numbers, False), start, steps.end(1)))
                out.append(Token("for time", "", steps.start(2), steps.end(2)))
                continue
            make = next(make for name, make in _MADE.items() if found[name])
            if (token := make(found)) is not None:
                out += parted(token, out, low)
    return out


_STEPS_FOR_TIME = re.compile(r"(\d+(?:\s*-\s*\d+){2,})\s+(ft)\b")
"""Steps for time, and no feet: `21-15-9 FT`."""
_GLUED = re.compile(r"(amrap|emom|otm|tabata|rft|cap|rest|tc)x?(\d{1,3})")
"""A word of the format and the number that was typed at it: `AMRAP20`, `EMOMx16`."""


def _glued(word: str, start: int) -> list[Token]:
    """A word, or a word and the number at its end."""
    if (match := _GLUED.fullmatch(word)) is None:
        return [Token("word", word, start, start + len(word))]
    middle, end = start + match.end(1), start + len(word)
    return [
        Token("word", match[1], start, middle),
        Token("number", float(match[2]), middle, end),
    ]


_SETS_NOT_TEMPO = re.compile(r"(?:10|12|15)x\d(?=\s+(?:on|every|e\d|@|at|rest)\b|\s*(?:,|@|$))")
"""Sets and reps that look like a tempo: `10x1 every 90 s`."""
_LIKE_A_LOAD = re.compile(r"[4-9]\dx[1-9]")
_SETS_BEHIND = re.compile(r"\s*,?\s*[1-3]?\d\s*x\s*\d")


def _loaded_set(code: str, behind: str, before: Sequence[Token]) -> bool:
    """Whether what looks like a tempo is a load and its reps: `deadlift 75x5, 85x3`."""
    last = before[-1] if before else None
    tempo = last is not None and (last.kind in ("at", "number", "range") or last.value == "tempo")
    return bool(_LIKE_A_LOAD.fullmatch(code)) and not tempo and not _SETS_BEHIND.match(behind)


_TEMPO_BEHIND = re.compile(r"\s*tempo\b")


_IN_BRACKETS = re.compile(r"[1-6][0-4][0-3][0-3]")
"""Four figures in brackets that are a tempo behind a movement, and no year: `squat (3010)`."""
_SLOW = re.compile(r"[0-6]{4}(?<!00)\s*,?\s+\d+\s*x\s*\d")
"""Four seconds behind a movement and before its sets: `push-up 3131 4x6`."""


def _tempo(said: str, before: list[Token], start: int, end: int, *, named: bool) -> Token:
    """Four figures: a tempo where an x or a mark says so, a number or a scheme otherwise."""
    figures = said.replace("-", "").upper()
    last = before[-1] if before else None
    told = named or (last is not None and (last.kind == "at" or last.value == "tempo"))
    told = told or any(token.value == "tempo" for token in before)
    bracketed = last is not None and last.kind == "open" and _IN_BRACKETS.fullmatch(figures)
    told = told or (bool(bracketed) and any(token.kind == "word" for token in before))
    dashed = "-" in said
    if "X" in figures or told or (dashed and "0" in figures):
        return Token("tempo code", figures, start, end)
    if dashed:
        return Token("scheme", (tuple(int(figure) for figure in figures), False), start, end)
    return Token("number", float(figures), start, end)


_SPELT = {"rx", "tc", "cj", "rft", "ft", "amrap"}
"""Words that dictation writes letter by letter; other letters that meet abbreviate nothing."""


@lru_cache(maxsize=8192)
def tokens(text: str, library: Library) -> tuple[Token, ...]:
    """The tokens of a row's text, phrases found."""
    raw = paired_by_sex(_lexemes(text))
    said, longest = meanings(library)
    out: list[Token] = []
    at = 0
    while at < len(raw):
        token = raw[at]
        own = token.value in ("bw", "bodyweight") and out and out[-1].kind == "at"
        if own and (at + 1 == len(raw) or raw[at + 1].kind != "word"):
            out.append(Token("bodyweight", 1.0, token.start, token.end))
            at += 1
            continue
        if token.kind in ("word", "one arm", "pair") or (
            token.kind == "number" and token.value < 400
        ):
            found = _phrase(raw, at, text, said, longest)
            if found is not None and _of_a_side(found[0], raw, at, text, said, longest):
                out.append(Token("filler", None, token.start, token.end))
                at += 1
                continue
            if found is not None:
                phrase, at = _of_more_words(found, raw, at, text, library)
                out.append(_in_place(phrase, out, text))
                at += _shortened(phrase, raw[at : at + 2], text)
                continue
        ahead = raw[at + 1 : at + 2]
        shortened = token.kind == "stop" and out and out[-1].kind == "time"
        if shortened and ahead and ahead[0].value in _AFTER_MINUTES:
            at += 1  # `10 min. AMRAP`
            continue
        if token.kind == "slash" and _a_side(out, token, raw[at + 1 : at + 3]):
            out.append(Token("each side", None, token.start, raw[at + 1].end))
            at += 2
            continue
        if (
            token.value in ("l", "r")
            and out
            and out[-1].kind in ("number", "time", "distance", "prime")
        ):
            token = Token("left" if token.value == "l" else "right", None, token.start, token.end)
        ends = at + 1 == len(raw) or raw[at + 1].kind in _ENDS
        if token.value in ("l", "r") and ends and out and out[-1].kind == "movement":
            token = Token("left" if token.value == "l" else "right", None, token.start, token.end)
        if token.value == "e" and out and out[-1].kind in _COUNTS and out[-1].end == token.start:
            token = Token("each side", None, token.start, token.end)  # `8e`
        out.append(token)
        at += 1
    return tuple(read_together(out, text, library))


def _of_a_side(
    phrase: Token,
    raw: list[Token],
    at: int,
    text: str,
    meant: Mapping[str, Mapping[str, str]],
    longest: int,
) -> bool:
    """Whether `a side` begins a movement with its article: `in a side plank`."""
    if phrase.kind != "each side" or raw[at].value != "a":
        return False
    behind = _phrase(raw, at + 1, text, meant, longest)
    return behind is not None and behind[0].kind == "movement" and behind[0].end > phrase.end


_ENDS = ("comma", "semicolon", "slash", "plus", "time", "prime", "open")
_AFTER_MINUTES = frozenset(("amrap", "emom", "cap", "rest", "on", "off", "work"))
_SIDES = frozenset(("side", "sides", "leg", "arm", "hand", "foot", "way", "direction"))


def _a_side(before: Sequence[Token], slash: Token, after: Sequence[Token]) -> bool:
    """Whether a slash and the word at it are `/side` behind an amount: `30s/side`, `10/arm`."""
    if not (before and after and after[0].value in _SIDES and after[0].start == slash.end):
        return False
    counts = before[-1].end == slash.start and before[-1].kind in _COUNTS
    if len(after) > 1 and after[1].kind == "word" and before[-1].kind == "movement":
        return False  # `pigeon/side plank`
    apart = before[-1].end < slash.start or after[0].value in ("side", "sides")
    counted = any(token.kind in _COUNTS for token in before)  # `2 min couch stretch/side`
    return counts or ((apart or counted) and before[-1].kind == "movement")


_COUNTS = ("number", "range", "time", "prime", "distance", "seconds or inches")


def _shortened(phrase: Token, after: Sequence[Token], text: str) -> int:
    """1 where the next token is the point of a shortened word, `10 alt. lunges`, else 0."""
    if not after or after[0].kind != "stop" or after[0].start != phrase.end:
        return 0
    goes_on = re.match(r"\.\s+[a-z\d]", text[after[0].start :])
    return int(
        phrase.kind in ("alternating", "each side", "style", "filler", "max") and bool(goes_on)
    )


def _phrase(
    raw: list[Token], at: int, text: str, said: Mapping[str, Mapping[str, str]], longest: int
) -> tuple[Token, int] | None:
    """The longest phrase from a place, and where the text goes on after it."""
    best: tuple[Token, int] | None = None
    end = at
    start = raw[at].start
    first_is_number = raw[at].kind == "number"
    while end < len(raw) and end - at < 9:
        token = raw[end]
        if token.kind not in ("word", "one arm", "number", "dash", "slash") and not (
            end == at and token.kind == "pair"
        ):
            break
        if end > at and token.kind in ("dash", "slash"):
            glued = (
                token.start == raw[end - 1].end
                and end + 1 < len(raw)
                and raw[end + 1].start == token.end
            )
            if not glued:
                break
            end += 1
            continue
        if token.kind in ("dash", "slash"):
            break
        phrase = text[start : token.end]
        key = squeeze(phrase.replace("-", " "))
        if len(key) > longest + 12:
            break
        means = said.get(key) or said.get(full_key(phrase.replace("-", " ")))
        if means is None and end - at > 1 and (inner := _without_details(phrase)):
            means = said.get(squeeze(inner)) or said.get(full_key(inner))
            means = means if means and "movement" in means else None
        if means and end > at and key not in _SPELT and not re.search(r"[a-z]{2}|\d", phrase, re.I):
            means = None
        if means and not (first_is_number and end == at):
            kind = _first_kind(means)
            best = (Token(kind, means[kind], start, token.end, means), end + 1)
        end += 1
    return best


def _of_more_words(
    shown: tuple[Token, int],
    raw: list[Token],
    at: int,
    text: str,
    library: Library,
) -> tuple[Token, int]:
    """A phrase, or its implement alone where the words behind that name a longer movement:
    `DB hang clean and jerk` is no `DB hang clean`.
    """
    phrases, longest = meanings(library)
    means = phrases.get(squeeze(str(raw[at].value)), {})
    if "implement" not in means or shown[0].kind != "movement" or shown[1] <= at + 1:
        return shown
    behind = _phrase(raw, at + 1, text, phrases, longest)
    if behind is None or behind[0].kind != "movement" or behind[1] <= shown[1]:
        return shown
    known = library.find(str(behind[0].means["movement"]))
    if known is not None and any(means["implement"] in kit for kit in known.kit):
        return replace(behind[0], start=raw[at].start), behind[1]  # `KB goblet lunges`
    return Token("implement", means["implement"], raw[at].start, raw[at].end, means), at + 1


_ARTICLES = ("a", "an", "the", "your", "one")


def _in_place(token: Token, before: Sequence[Token], text: str) -> Token:
    """A phrase as what it means after what stands before it: `2 KBs` are two bells."""
    last = before[-1] if before else None
    both = 2
    cycle = token.means.get("movement") == "bike" and token.end - token.start == len("cycle")
    if cycle and last is not None and last.kind in ("role", "word", "movement"):
        return Token("word", "cycle", token.start, token.end)  # `strength cycle`
    counted = last is not None and last.kind == "number" and last.value <= both
    if token.kind == "movement" and "implement" in token.means and counted:
        return token.as_kind("implement")
    if token.kind == "movement" and last is not None and last.kind == "filler":
        if "implement" in token.means and text[last.start : last.end].lower() in _ARTICLES:
            return token.as_kind("implement")  # `holds a KB`
        said = [token.kind for token in before if token.kind != "filler"]
        if said[-1:] == ["percent"]:
            return token.as_kind("word")
    return token


_DETAIL = re.compile(
    r"(?<=\s)(?:(?:single|one|1|sa)[\s-]arm(?:ed)?|dbs?|kbs?|dumbbell|kettlebell|barbell|bb)\s"
)


def _without_details(phrase: str) -> str:
    """A movement's name without what stands inside it: `half-kneeling single-arm DB press`."""
    inner = _DETAIL.sub("", _DETAIL.sub("", phrase.lower().replace("-", " ")))
    return inner if inner != phrase.lower().replace("-", " ") else ""


_ORDER = (
    "movement",
    "role",
    "amrap",
    "emom",
    "every minute",
    "every",
    "rft",
    "for time",
    "easy",
    "hard",
    "heavy",
    "light",
)


def _first_kind(means: Mapping[str, str]) -> str:
    for kind in _ORDER:
        if kind in means:
            return kind
    return next((kind for kind in means if kind != "filler"), "filler")
