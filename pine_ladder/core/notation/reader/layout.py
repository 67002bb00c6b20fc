"""The lines of a board without their dress: bullets, markdown, tables, number words.

Characters are replaced one for one, so that a column of a row's text is the same column of the
line as typed. Sentences of a paragraph and items of a table become rows of their own.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

_PLAIN = {
    **dict.fromkeys("“”„«»″", '"'),
    **dict.fromkeys("‘’‚′`´", "'"),
    **dict.fromkeys("–—−‐‑‒―", "-"),
    **dict.fromkeys("×✕✖", "x"),
    **dict.fromkeys("•▪‣●◦·■□–➤", "•"),
    **dict.fromkeys("→⇒➔➜", ">"),
    "⁄": "/", "∕": "/", "：": ":", "，": ",",
}  # fmt: skip
_PLAIN["–"] = "-"
_UNITS = ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine"]
_TEENS = [
    "ten",
    "eleven",
    "twelve",
    "thirteen",
    "fourteen",
    "fifteen",
    "sixteen",
    "seventeen",
    "eighteen",
    "nineteen",
]
_TENS = ["twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"]
NUMBER_WORDS = {
    **{word: value for value, word in enumerate(_UNITS, start=1)},
    **{word: value for value, word in enumerate(_TEENS, start=10)},
    **{word: 10 * value for value, word in enumerate(_TENS, start=2)},
}
_SMALL = "|".join((*_TENS, *_TEENS, *_UNITS))
_NUMBER = re.compile(
    rf"\b(?<!high )(?:(?:(?P<hundreds>{'|'.join(_UNITS)}|an?)[ -]hundred(?:[ -]and)?[ -]?)"
    rf"(?:(?P<more>{'|'.join(_TENS)})[ -]?)?(?P<last>{'|'.join((*_TEENS, *_UNITS))})?"
    rf"|(?P<tens>{'|'.join(_TENS)})(?:[ -](?P<units>{'|'.join(_UNITS)}))?"
    rf"(?:s(?= for\b|,))?"
    rf"|(?P<small>{'|'.join((*_TEENS, *_UNITS))})(?:s(?= for\b|,))?)"
    rf"(?P<half>[ -]and[ -]a[ -]half)?\b",
    re.IGNORECASE,
)
_COUNTED = re.compile(
    r"[ -]*(?:minutes?|mins?|rounds?|rds?|sets?|miles?|reps?|seconds?|secs?|hours?|k\b|km|lap|time"
    r"|kilomet|met(?:re|er)|arm|leg|of each|each|per|round|set|slash)",
    re.IGNORECASE,
)
_BULLET = re.compile(r"\s*(?:[-*•+>o]|--(?=\s[^-]*$)|\(?[ivx]+\))\s+(?=\S)")
_FRAMED = re.compile(r"\s*([-=*])\1*\s+[^\d]{3,40}?\s+\1+\s*")
_QUOTED = re.compile(r"\s*>\s?(?=.)")
_MARKED = re.compile(r"\s*#{1,6}\s+(?=\S)")
_SETS_AFTER = re.compile(
    r"\b(?:build|work up|work to|heavy|max|find)\b.*?(?P<then>,?\s+(?:and\s+)?then\s+)"
    r"(?=\d+\s*(?:x|(?:back[ -]?off\s+|drop\s+|down\s+)?sets?\b))",
    re.IGNORECASE,
)
"""Sets that follow what is built up to: `build to a heavy 3, then 2 x 5`."""
_REST_THEN = re.compile(
    r"^\s*(?:(?:and\s+)?then\s+)?rest\s+(?:for\s+)?\d+(?::\d\d)?\s*(?:min(?:ute)?s?|m|')?"
    r"(?P<then>,?\s+(?:and\s+then|and|then)\s+)(?=[a-z\d])",
    re.IGNORECASE,
)
"""The sequel of a rest that begins a sentence: `Then rest 3 minutes and find a heavy single`."""
_THEN_OTHERS = re.compile(
    r"\b\d+\s*x\s*\d[^,;]*?(?P<then>(?:,|\s-)\s+)"
    r"(?=then\s+(?:[a-z][a-z -]+\d+\s*(?:x\s*\d|sets?\b)|\d+\s*(?:rounds?|rds?|min)\b|amrap|emom"
    r"|\d+\s*(?:min(?:ute)?s?|')\s*(?:easy|steady|gentle|walk|jog|spin|cool|stretch)))",
    re.IGNORECASE,
)
"""Sets of another movement that follow sets: `kip swing 3x8, then kipping pull-ups 5 sets of 3`."""
_THEN_DEATH = re.compile(
    r",?\s+(?=then\s+(?:rest\s+[^,]{1,20},\s+then\s+)?death by\b)", re.IGNORECASE
)
"""Another piece to failure behind one: `death by burpee, then rest 5, then death by thruster`."""
_LIST_AFTER = re.compile(
    r"(?:\bro?u?n?ds?|\d\s*x)\s*\([^()]*[,/][^()]*\)(?P<then>\s*[,.;]?\s+)(?=(?:and\s+)?then\b)",
    re.IGNORECASE,
)
"""What follows a list of rounds in brackets: `3 rounds (200 m row, 10 lunges), then …`."""
_THEN_SETS = re.compile(
    r"^\s*\d+(?:-\d+)?\s*(?:min(?:ute)?s?|')[^,;]*,?\s+then\s+\d+\s*x\s*\d", re.IGNORECASE
)
_THEN_ON = re.compile(r",?\s+(?=then\s+\d)", re.IGNORECASE)
"""The parts of one line that go on: `20 min easy row, then 4 x 20 cal, then 10 min bike`."""
_EASY_FIRST = re.compile(
    r"\s*(?:[a-z]+\s*[:\-]\s*)?\d+\s*(?:min(?:ute)?s?|'|km?|miles?|m)?\s*(?:easy|jog|warm)[^,]*,"
    r".*\b\d+\s*x\s*\d",
    re.IGNORECASE,
)
_NEXT_ITEM = re.compile(r",\s+(?=\d)")
"""The parts of a session told in one line: `10 min easy, 6 x 30 s strides, 10 min easy`."""
SPOKEN = 90
"""Characters of a sentence from which on it may tell several pieces one after the other."""
_FRAME = r"amrap|emom|for time|tabata|\d+\s*sets?|\d+\s*(?:x|by)\s*\d+"
_SPOKEN_ON = re.compile(
    r"[a-z%),\d](?<!\band)(?P<then>,?\s+)(?="
    r"(?!then\s+\d+\s+[a-z][a-z -]+(?:(?:at|@|with)\s+[\d./]+\s*(?:kg|lbs?)?\s+)?for time\b[^:]*$)"
    r"(?:and\s+)?(?:then|finish(?:ing)?(?:\s+(?:up|off))?\s+with|after\s+(?:that|this)|afterwards"
    rf"|to\s+finish(?:\s+off)?|next\s+up)\b[^.;]{{0,60}}?\b(?:{_FRAME})\b"
    r"|(?:and\s+)?then\s+(?:about\s+)?\d+\s*min(?:ute)?s?\s+(?:of\s+)?"
    r"(?:easy|gentle|walk|stretch|jog|cool)"
    r"|(?:and\s+)?(?:after\s+(?:that|this)|to\s+finish(?:\s+off)?)\b.{0,40}?\b\d+\s*rounds?\b"
    r"|(?:(?:and|then|so|for|the|our|your)\s+){0,3}"
    r"(?:strength|work\s?out|met\s?con|wod|conditioning|skill|cool\s?down|finisher|cash\s?out)\s+"
    r"(?:is|are|we|today|will|it's|we've|we'll)\b)",
    re.IGNORECASE,
)
"""A new piece inside a long sentence: `…, and finish with a 12 minute AMRAP of …`, `… and then the
workout is …`.
"""
_SENTENCE = re.compile(
    r"(?!(?<=[nN]\.)\s+(?:AMRAP|EMOM|Amrap|Emom|amrap|emom|cap|CAP|Cap)\b)"
    r"(?:(?<=[a-zA-Z)%\"'][.!?])|(?<=\d\d[.!?])|(?<=[ ]\d[.!?]))\s+(?=[A-Z\"'(])"
    r"|(?<=[a-z]{2}[.!?])\s+(?=\d)|(?<=[A-Z]{2}[.])(?<!\bI[IV]\.)(?<!\bIII\.)(?<!\bVI\.)\s+(?=\d)|(?<=\d[.])\s+(?=\d+\s+(?i:rounds?|rds?)\b)|(?<=;)\s+(?=\S)|(?<=[a-z]{4}[.!?])\s+(?=[a-z])|(?<=\boff[.])\s+(?=[a-z])"
    r"|(?<=\bmin\.)\s+(?=(?:in|then|after|finish|finally)\s)|(?<=\ball[.!])\s+(?=[a-z])"
    r"|(?:(?<=[a-z]{3}[.!?])|(?<=[)%][.!?])|(?<=\d\d\.))\s+(?=(?:met\s?con|work\s?out|wod|conditioning|strength|core|cool|then|after"
    r"|finish|partner work|in (?:pairs|teams)|for time)\b)"
    r"|[,.]\s+(?=(?:every|each)\s+(?:break|drop|time\s+you)\b|if\s+you\s+(?:break|drop|stop)\b)"
    r"|(?<=\)[.!?])\s+(?=[a-z\d])"
    r"|\s+/\s+(?=then\b|[A-Z][A-Za-z -]{2,14}:\s)"
    r"|[\s,:]+(?=(?i:odds?|evens?)\b(?i: min(?:ute)?s?)?\s*(?:[:-]|(?=\d)))"
)
_MARK_OF_ROW = re.compile(r"\s*(?:[a-h][1-9]?|\d{1,2})[.!?]\s+", re.IGNORECASE)
"""The mark of a row, which ends no sentence: `A. WU: AMRAP 6`."""
MAX_READ = 3000
"""Characters of a line that are read as plain writing; what is longer is a note."""


@dataclass(frozen=True)
class Row:
    """A line, or a sentence of one: `text` begins at column `at` (from 0) of the line as typed."""

    number: int
    text: str
    typed: str
    at: int = 0
    indent: int = 0
    bullet: bool = False
    marked: bool = False
    gap: bool = False
    """A blank line stands before it."""
    first: bool = True
    """It is the first of its line."""
    ruled: bool = False
    """A rule of dashes stands before it, as between the blocks of a piece."""
    cells: tuple[str, ...] = ()

    @property
    def level(self) -> tuple[str, int]:
        """The sign of its bullet and its indentation: rows of one list have the same."""
        return f"bullet {self.typed.lstrip()[:1]}", self.indent


@lru_cache(maxsize=4096)
def plain_text(line: str) -> str:
    """A line with plain characters and digits for number words; as long as it was.

    >>> plain_text("Two rounds – 10 × 3").split()
    ['2', 'rounds', '-', '10', 'x', '3']
    """
    line = _ROMAN.sub(_lettered, line)
    line = _KEYCAP.sub(lambda match: f"{match[1]})".ljust(len(match[0])), line)
    out = "".join(_plain(one) for one in line)
    out = re.sub(r"(\*\*|__)(?=\S)|(?<=\S)(\*\*|__)", "  ", out)
    out = re.sub(r"(?<![\w*])\*(?=[^\s*])|(?<=[^\s*])\*(?![\w*])", " ", out)
    out = _SHORT_WAY.sub(r"\1 ", _INITIAL.sub(_without_point, out))
    out = re.sub(r"\b[Aa](?=\s+(?:minute|min)\b)", "1", out)
    out = re.sub(r"\b[tT]\.\s?[cC]\.(?=\s)", lambda match: "TC".ljust(len(match[0])), out)
    out = re.sub(r"\b([aA][lL][tT]|[eE][aA]|[iI]ncl|[aA]pprox|[lL]at)\.(?=\s)", r"\1 ", out)
    out = re.sub(r"/ (?=(?:side|leg|arm)\b\s*(?:$|[,;).|]))", " /", out, flags=re.IGNORECASE)
    out = _EACH_SET.sub(lambda match: match[0].replace(",", "/"), out)
    out = _ADD_ONE.sub(r"\1 1  ", out)
    out = _ROLE_IS.sub(lambda match: f"{match[1]}:".ljust(len(match[0])), out)
    out = _EACH_OF.sub(lambda match: f"{match[1]}:".ljust(len(match[0])), out)
    out = _SOME_SETS.sub(_so_many_sets, out)
    out = _IN_BRACKETS.sub(r"\1 \2)", out)
    out = _NTH_MINUTE.sub(_minute, out)
    out = re.sub(r"\bslash\b", "/    ", out, flags=re.IGNORECASE)
    out = re.sub(r"\ba couple of(?= [a-z])", "2".ljust(len("a couple of")), out, flags=re.I)
    out = _EQUALS.sub(lambda match: f"{match[1]}:{match[2]}", out)
    out = out.replace(" // ", " -  ")
    out = _BY_PAIR.sub(r"\1\4\3\2", out)
    out = _AS_HIGH.sub(r"\3\2\1", out)
    out = _DOUBLED.sub(lambda match: " " * len(match[0]), out)
    return _TWICE.sub(lambda match: match[1].ljust(len(match[0])), _NUMBER.sub(_digits, out))


DOUBLED = r"\b(?:double|dbl|dual)[ -]+(?=(?:dbs?|kbs?|dumbbell|kettlebell)\b)"
_DOUBLED = re.compile(DOUBLED, re.IGNORECASE)
"""The word that says a dumbbell or a kettlebell in each hand: `double KB front squat`."""
_AS_HIGH = re.compile(
    r"(?<= to )(\d{1,2}(?:\s*(?:\"|''|in(?:ch(?:es)?)?|cm)|-in(?:ch)?))(\s+)(target)\b", re.I
)
"""The height of a target before its word: `burpee to 6 in target`."""
_BY_PAIR = re.compile(
    r"(?<=[(\s])(2\s?x\s?)([kd]bs?)(\s+)(\d+(?:\.5)?(?:/\d+(?:\.5)?)?)(?!\s*[a-z])", re.IGNORECASE
)
"""The implement between a pair and its weight: `20 lunges, 2xKB 16/12`."""
_ROMAN = re.compile(r"^(\s*(?:[*#>-]+\s*)?)(I{1,3}|IV|VI?)([.)])(?=\s)")
_NUMERALS = ("I", "II", "III", "IV", "V", "VI")


def _lettered(match: re.Match[str]) -> str:
    """The Roman numeral that marks a row as the letter of the same place: `II.` as `B.`."""
    mark = "ABCDEF"[_NUMERALS.index(match[2])] + match[3]
    return match[1] + mark.ljust(len(match[2]) + 1)


_BRACKETED = re.compile(r"\s*\[([^\[\]|]{2,60})\]\s*:?\s*")
"""A heading in brackets: `[Skill 15']`."""
_KEYCAP = re.compile("([0-9])\ufe0f?\u20e3")
"""A figure in a key, as telephones number lists with."""
_EQUALS = re.compile(r"^(\W*[a-z][a-z\d /-]{2,18}?\s*)=(\s)(?!.*=)", re.IGNORECASE)
"""The beginning of a row up to an equals sign: `Cool down = 500 m row`."""
_TWICE = re.compile(r"\b(\d+)\s+\(\1\)")
"""A number in words and again in figures: `Twelve (12)`."""


_EACH_SET = re.compile(r"(?<![\d,.])\d{2,3}(?:,\s?\d{2,3}){2,}(?=\s*%)")
"""The percents of each set with commas between them: `(70,75,80,80 %)`."""
_ADD_ONE = re.compile(
    r"\b(add(?:ing)?)\s+one\b(?=\s+(?:more|rep|to|each|every|per)\b)", re.IGNORECASE
)
_ROLE_IS = re.compile(
    r"\b((?:skill|strength|wod|metcon|conditioning|core|finisher|cool\s?down|warm[ -]?up"
    r"|odds?|evens?|min(?:ute)?\s?\d)\s*)=(?=\s)",
    re.IGNORECASE,
)
"""A part and what it is: `mobility 5 min, then skill = double-unders`."""
_EACH_OF = re.compile(
    r"(?<=\d)(\s*(?:min(?:ute)?s?|s(?:ec(?:ond)?s?)?|')\s+each) of\b(?=[^.;]*,)", re.IGNORECASE
)
"""The time of each that is listed: `1 min each of row, step-ups and burpees`."""
_SOME_SETS = re.compile(
    r"\bsets?\s*(?P<first>\d)(?:\s*(?:-|to|&|and|\+)\s*(?P<last>\d))?\s*[:=]?\s*"
    r"(?=\d+(?:\s*-\s*\d+)?\s*(?:reps?\b|@|at\b|x\b))",
    re.IGNORECASE,
)
"""The number of some sets before what they are: `Sets 4-6: 3 @ 85 %`."""


def _so_many_sets(match: re.Match[str]) -> str:
    """`sets 4-6: ` as `3 x`, as long as it was."""
    first = int(match["first"])
    last = int(match["last"] or first)
    return f"{last - first + 1} x".ljust(len(match[0])) if last > first else match[0]


_IN_BRACKETS = re.compile(r"^(\s*)\((\d|[a-h])\)(?=\s+\S)", re.IGNORECASE)
"""The mark of a row in brackets: `(1) 10 min row`."""
_NTH = ("first", "second", "third", "fourth", "fifth")
_NTH_MINUTE = re.compile(rf"\b({'|'.join(_NTH)})\s+minute\b(?!\s+(?:of|is|after)\b)", re.IGNORECASE)


def _minute(match: re.Match[str]) -> str:
    """`second minute` as `minute 2`, as long as it was."""
    return f"minute {1 + _NTH.index(match[1].lower())}".ljust(len(match[0]))


_SHORT_WAY = re.compile(r"(?<![A-Za-z.])([ph])\.(?= ?(?:clean|snatch|jerk|press)(?:e?s)?\b)", re.I)
"""`p. cleans`, `H. SNATCH`: the way of a lift as its first letter."""
_INITIAL = re.compile(r"(?<![A-Za-z.])(?<!\d)(?<!\d )([A-Za-z])\.(?= ?[A-Z][a-z])")


def _without_point(match: re.Match[str]) -> str:
    """`P. Snatch` without its point; the mark of a row, `A. Back squat`, with it."""
    marks = match[1].lower() <= "h" and not match.string[: match.start()].strip(" *#>•-")
    return match[0] if marks else f"{match[1]} "


def _plain(one: str) -> str:
    if one in _PLAIN:
        return _PLAIN[one]
    if one < "\x7f":
        return " " if one < " " else one
    kind = unicodedata.category(one)
    if kind in ("So", "Sk", "Cf", "Cn", "Co", "Mn", "Me", "Zs", "Zl", "Zp", "Cc", "Cs"):
        return " "
    return one


def _digits(found: re.Match[str]) -> str:
    said = {key: (value or "").lower() for key, value in found.groupdict().items()}
    alone = said["small"] == "one" and not said["half"]
    if alone and not _COUNTED.match(found.string, found.end()):
        return found[0]
    total: float = 0
    if said["hundreds"]:
        total = 100 * NUMBER_WORDS.get(said["hundreds"], 1)
        total += NUMBER_WORDS.get(said["more"], 0) + NUMBER_WORDS.get(said["last"], 0)
    else:
        for key in ("tens", "units", "small"):
            total += NUMBER_WORDS.get(said[key], 0)
    number = f"{total + 0.5 if said['half'] else total:g}"
    # "a hundred and" swallows a blank that belongs to the word after it.
    tail = len(found[0]) - len(found[0].rstrip(" -"))
    return number.ljust(len(found[0]) - tail) + " " * tail


def rows(lines: Sequence[str]) -> tuple[Row, ...]:
    """The rows of a board, sentences apart; blank lines are told by `gap`."""
    return _rows_of(tuple(lines))


@lru_cache(maxsize=64)
def _rows_of(lines: tuple[str, ...]) -> tuple[Row, ...]:
    out: list[Row] = []
    gap = ruled = False
    for number, line in enumerate(lines, start=1):
        bare, of_it = _line_rows(line[:MAX_READ])
        if not of_it:
            ruled = ruled or bool(re.fullmatch(r"\s*--+\s*", bare))
            gap = gap or not bare.strip() or bool(re.fullmatch(r"[\s\-=_*~.]+", bare))
            continue
        for row in of_it:
            out.append(
                replace(
                    row,
                    number=number,
                    typed=line,
                    gap=row.gap or (gap and row.first),
                    ruled=ruled and row.first,
                )
            )
        gap = ruled = False
    return tuple(out)


@lru_cache(maxsize=4096)
def _line_rows(line: str) -> tuple[str, tuple[Row, ...]]:
    """The text of a line without its dress, and its rows by themselves; none of a line of marks."""
    text = _marked_cells(line, plain_text(line))
    bare = _QUOTED.sub(lambda m: " " * len(m[0]), text, count=1)
    if len(bare.split()) <= SHORT_WORDS and _STOP.search(bare):
        bare = _STOP.sub(lambda m: " " * len(m[0]), bare)
    return bare, tuple(_rows(line, bare)) if re.search(r"\w", bare) else ()


SHORT_WORDS = 6
"""Words of a line up to which a full stop at its end makes no sentence of it."""
_STOP = re.compile(r"(?<!^\w)(?<!^\w\d)(?<=[\w)\"'%])\.\s*$")


def _blanks(line: str) -> str:
    """A line with plain blanks for all but tabs."""
    return "".join(" " if one.isspace() and one != "\t" else one for one in line)


def _marked_cells(line: str, text: str) -> str:
    """The text with a bar where the cells of a row meet."""
    line = _blanks(line)
    if "\t" in line.strip():
        inner = len(line) - len(line.lstrip())
        last = len(line.rstrip())
        return "".join(
            "|" if line[at] == "\t" and inner <= at < last else one for at, one in enumerate(text)
        )
    if "|" in line:
        return text
    out = list(text)
    for found in re.finditer(r"(?<=\S) {3,}(?=\S)", line):
        out[found.start() + 1] = "|"
    return "".join(out)


def _rows(line: str, text: str) -> Iterator[Row]:
    marked = _MARKED.match(text)
    indent = len(text) - len(text.lstrip())
    if marked:
        text = " " * marked.end() + text[marked.end() :]
    bracketed = _BRACKETED.fullmatch(text)
    if bracketed:
        text = f" {text[1:]}" if text[:1] == "[" else text.replace("[", " ", 1)
        text = text[: bracketed.end(1)] + text[bracketed.end(1) :].replace("]", " ")
    bold = bool(bracketed) or bool(re.fullmatch(r"\s*(\*\*|__)[^*_]+(\*\*|__):?\s*", line))
    if bold:
        indent = len(line) - len(line.lstrip())
    elif not marked:
        indent = len(text) - len(text.lstrip())
    bullet = _BULLET.match(text)
    framed = bool(_FRAMED.fullmatch(text))  # `- Strength -`
    bullet = None if framed else bullet
    if bullet and not re.match(r"\s*\+\s*\d", text):
        text = " " * bullet.end() + text[bullet.end() :]
    cells = _cells(line, text)
    base = Row(
        0, text, line, 0, indent, bool(bullet), bool(marked) or bold or framed, cells=tuple(cells)
    )
    if cells:
        yield base
        return
    start, first = 0, True
    marked_until = mark.end() if (mark := _MARK_OF_ROW.match(text)) else 0
    ends = {m.end() for m in _SENTENCE.finditer(text) if m.end() > marked_until}
    ends -= {end for end in ends if _listed_for_a_tier(text[:end])}
    ends |= {m.end("then") for m in _SETS_AFTER.finditer(text)}
    ends |= {m.end("then") for m in _LIST_AFTER.finditer(text)}
    ends |= {m.end("then") for m in _THEN_OTHERS.finditer(text)}
    ends |= {m.end() for m in _THEN_DEATH.finditer(text)}
    for rule in _BEGINNINGS:
        ends |= rule(text)
    apart = {m.end() for m in _NEXT_ITEM.finditer(text)} if _EASY_FIRST.match(text) else set()
    ends |= apart
    if _THEN_SETS.match(text):
        ends |= {m.end() for m in _THEN_ON.finditer(text)}
    if len(text) > SPOKEN:
        ends |= {m.end("then") for m in _SPOKEN_ON.finditer(text)}
    for start_of in (0, *sorted(ends)):
        if (resting := _REST_THEN.match(text[start_of:])) is not None:
            ends.add(start_of + resting.end("then"))
    for end in (*sorted(ends), len(text)):
        piece = text[start:end]
        if re.search(r"\w", piece):
            parted = start in apart or bool(re.search(r"/\s+$", text[:start]))
            yield Row(0, piece, line, start, indent, bool(bullet), base.marked, parted, first=first)
            first = False
        start = end


_TIER_LIST = re.compile(
    r"(?:^|[.;]\s)\s*(?:scal(?:ed|ing|e)|sc|int(?:ermediate)?|beg(?:inners?)?|easier|options?)\b[^.;]*[:\s]"
    r"(?:[^.;]|\.\d)*(?:;(?:[^.;]|\.\d)*)*;\s+$",
    re.IGNORECASE,
)


def _listed_for_a_tier(before: str) -> bool:
    """Whether a semicolon parts what a tier does: `Scaling: 35 cal; step-ups; 5 wall walks`."""
    return before.rstrip().endswith(";") and _TIER_LIST.search(before) is not None


_MINUTE = re.compile(
    r"\b(?:min(?:ute)?|station)\s+(\d)\b(?!-|\s*(?:/|:\d|min|sec|round|rest))", re.IGNORECASE
)


def _minutes_told(text: str) -> set[int]:
    """Columns at which the stations of a spoken EMOM begin: `minute one twelve calories, …`."""
    found = [(int(match[1]), match.start()) for match in _MINUTE.finditer(text)]
    counts = [number for number, _ in found]
    if len(found) < 2 or counts != list(range(1, len(found) + 1)):
        return set()
    return {start for _, start in found if start}


_RACE = re.compile(r"^[^,;]*\b(?:for time|rft)\b|^\s*ft\b", re.IGNORECASE)
_BREAK = re.compile(
    r"(?<=[a-z\d])\s*[,;+&]\s*(?:(?:with|and|but)\s+)?"
    r"(?=(?:(?:at|on) the top of )?(?:every|each)\s+"
    r"(?:\d+(?::\d\d)?\s*(?:m\b|min|sec|s\b|')|\d:\d\d|min))",
    re.IGNORECASE,
)


def _breaks_in(text: str) -> set[int]:
    """The column where something breaks into a piece for time that is told before it: `for time:
    60 snatches, every 2 min 5 burpees`.
    """
    race, broken = _RACE.match(text), _BREAK.search(text)
    worked = race and broken and re.search(r"\d+\s*[a-z]", text[race.end() : broken.start()], re.I)
    return {broken.end()} if worked and broken else set()


_COUNT = re.compile(r"(?:(?<=\s)|(?<=:))(\d)(?:[.)]| -)\s")
FEW_ITEMS = 3


def _counted_up(text: str) -> set[int]:
    """Columns at which items of a list in a line begin: `1) 12 cal row 2) 10 burpees 3) rest`."""
    found = [(int(match[1]), match.start()) for match in _COUNT.finditer(text)]
    counts = [number for number, _ in found]
    if len(found) < FEW_ITEMS or counts != list(range(1, len(found) + 1)):
        return set()
    named = any(re.search(r"(?:min(?:ute)?|station)\s*$", text[:at], re.I) for _, at in found)
    return set() if named else {start for _, start in found if start}


_OWN_SETS = re.compile(
    r"(?:^|[,.:]\s+)(?=[a-z][a-z -]{2,25}?\s+(?P<sets>\d{1,2})\s*x\s*\d)", re.IGNORECASE
)


def _sets_listed(text: str) -> set[int]:
    """Columns at which lifts begin that are listed with sets of their own: `squat 3x5 at 60, bench
    3x5 at 60, row 3x10`.
    """
    lifts = list(_OWN_SETS.finditer(text))
    begins = [match.end() for match in lifts]
    differ = len({match["sets"] for match in lifts}) > 1
    return set(begins[1:]) if differ or len(begins) >= FEW_ITEMS else set()


_PARTNER = re.compile(r"(?:^|[:,;/]|\band\b|\s)\s*(?=(?:P|partner )([12])\b)", re.IGNORECASE)


def _partners_told(text: str) -> set[int]:
    """Columns at which the work of each partner begins: `P1 runs 400, P2 holds a plank`."""
    marks = list(_PARTNER.finditer(text))
    both = [match[1] for match in marks] == ["1", "2"] and "rest" not in text.lower()
    return {match.end() for match in marks if match.end()} if both else set()


_LETTERED = re.compile(r"(?:^\W*|(?<=\s))([A-H])([1-4])[.:)]?\s+(?=[a-z\d])", re.IGNORECASE)


def _lettered_on(text: str) -> set[int]:
    """Columns at which the halves of a superset in a line begin: `C1 curls x12 C2 flyes x15`."""
    marks = list(_LETTERED.finditer(text))
    letters = {match[1].lower() for match in marks}
    counts = [int(match[2]) for match in marks]
    if len(marks) < 2 or len(letters) > 1 or counts != list(range(1, len(marks) + 1)):
        return set()
    return {match.start() for match in marks if match.start()}


_SMALL_ITEMS = re.compile(r"(?:(?<=[:,;]\s)|(?<=[:,;]))([a-d])\)\s+(?=[a-z\d])", re.IGNORECASE)


def _small_letters(text: str) -> set[int]:
    """Columns at which lettered items in a line begin: `5 sets: a) 5 press, b) 10 rows`."""
    marks = list(_SMALL_ITEMS.finditer(text))
    letters = "".join(match[1].lower() for match in marks)
    return {match.start() for match in marks} if letters in ("ab", "abc", "abcd") else set()


_THEN_ROLE = re.compile(
    r"(?<=[a-z\d])[\s,]+(?:and\s+)?then\s+"
    r"(?=(?:skill|strength|core|met\s?con|wod|mobility|conditioning|cool\s?down)\b\s*:)",
    re.IGNORECASE,
)


def _roles_told(text: str) -> set[int]:
    """Columns at which parts begin behind a `then`: `mobility 5 min then skill: double-unders`."""
    return {match.end() for match in _THEN_ROLE.finditer(text)}


RAMP_FIRST = re.compile(
    r"\b(?:after |a few |some |do |your |\d(?: ?- ?\d)? )*(?:warm[ -]?up|ramp(?:ing|[ -]?up)?)"
    r"[ -]?sets?,?\s+then\s+(?=\d|$)",
    re.IGNORECASE,
)
"""Sets before the sets that count: `2-3 warm-up sets then 5 x 3`."""
_SCALED_TO = re.compile(
    r"(?<=[a-z\d)])[,;]\s+(?=scal(?:e|ing)\s+[a-z][\w -]*?\s+to\s)", re.IGNORECASE
)


def _scaled_to(text: str) -> set[int]:
    """The column behind which a row tells what is done instead: `10 TTB, scale du to singles`."""
    return {match.end() for match in _SCALED_TO.finditer(text)}


def _behind_a_ramp(text: str) -> set[int]:
    """The columns of sets before those that count, and of these: `bench, warm-up sets then 5x3`."""
    return {column for match in RAMP_FIRST.finditer(text) for column in match.span() if column}


_BEGINNINGS = (
    _behind_a_ramp,
    _scaled_to,
    _roles_told,
    _small_letters,
    _sets_listed,
    _partners_told,
    _lettered_on,
    _counted_up,
    _minutes_told,
    _breaks_in,
)
"""Rules that tell the columns at which items of one row begin."""


def _cells(line: str, text: str) -> list[str]:
    """The cells of a table's row; empty for a line that is none."""
    line = _blanks(line)
    parts: Iterable[str]
    if "\t" in line.strip():
        parts = line.split("\t")
    elif line.count("|") >= 2 or re.search(r"\S\s+\|\s+\S", line):
        parts = line.strip().removeprefix("|").removesuffix("|").split("|")
        if (
            line.strip().startswith("|") is False
            and line.lstrip() != line
            and len(line.strip()) < 3
        ):
            return []
    elif re.fullmatch(r"[^,]+(?:,[^\s,][^,]*){2,}", line.strip()):
        parts = line.split(",")
    elif len(re.findall(r"\S {3,}(?=\S)", line)) >= 1 and not re.search(r"[.!?]\s{3,}", line):
        parts = re.split(r"\s{3,}", line.strip())
    else:
        return []
    return [plain_text(part.strip()) for part in _without_last_stop(list(parts))]


def _without_last_stop(parts: list[str]) -> list[str]:
    return [*parts[:-1], re.sub(r"(?<=\w)\.\s*$", "", parts[-1])] if parts else parts


def without_bullets(said: Sequence[Row]) -> Sequence[Row]:
    """The rows, their bullets left out where every line has one: then they say nothing."""
    firsts = [row for row in said if row.first]
    if (
        all(first.bullet or first.gap for first in firsts[1:])
        and len({first.indent for first in firsts}) == 1
    ):
        bullets = sum(first.bullet for first in firsts)
        if bullets * 10 >= len(firsts) * 9:
            return [replace(row, bullet=False) for row in said]
    return said
