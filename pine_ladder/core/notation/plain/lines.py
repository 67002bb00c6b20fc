"""A line of work as said: `15 KB swings 24/16`, `5/5 step-ups`, `run 400m`, `3x10 rows @ 60%`."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from pine_ladder.core.movements import Library, Movement
from pine_ladder.core.movements.library import fold
from pine_ladder.core.notation.plain.amounts import EACH, OF_CALORIES, OF_METRES, amount_said
from pine_ladder.core.notation.plain.times import (
    DASH,
    MAX_SAID,
    SPAN,
    TIME,
    seconds,
    span,
)
from pine_ladder.core.notation.task import read_task
from pine_ladder.core.notation.tokens import Slip

SHORT = {
    "du": "double-under", "dus": "double-under", "dubs": "double-under",
    "su": "single-under", "sus": "single-under",
    "kbs": "kettlebell swing", "t2b": "toes-to-bar", "ttb": "toes-to-bar",
    "c2b": "chest-to-bar pull-up", "ctb": "chest-to-bar pull-up", "hspu": "handstand push-up",
    "k2e": "knees-to-elbow", "kte": "knees-to-elbow",
    "ohs": "overhead squat", "sdhp": "sumo deadlift high pull", "rdl": "romanian deadlift",
    "mu": "ring muscle-up", "bmu": "bar muscle-up", "rmu": "ring muscle-up", "wb": "wall ball",
    "wbs": "wall ball", "bj": "box jump", "bjo": "box jump-over", "tgu": "turkish get-up",
    "bbjo": "burpee box jump-over", "hpc": "hang power clean", "hps": "hang power snatch",
    "pc": "power clean", "ps": "power snatch", "bs": "back squat", "fs": "front squat",
    "dl": "deadlift", "pp": "push press", "pj": "push jerk", "sj": "split jerk",
    "s2oh": "shoulder-to-overhead", "g2oh": "ground-to-overhead", "gtoh": "ground-to-overhead",
    "sto": "shoulder-to-overhead", "gto": "ground-to-overhead", "c&j": "clean and jerk",
    "cj": "clean and jerk", "pu": "push-up", "hr push-up": "hand-release push-up",
    "hrpu": "hand-release push-up", "ghd": "ghd sit-up", "amsu": "sit-up", "fc": "farmer carry",
    "hsw": "handstand walk", "bw squat": "air squat", "skipping": "single-under",
    "snatch": "power snatch", "row, one arm": "dumbbell row", "muscle up": "ring muscle-up",
}  # fmt: skip
"""Abbreviations of the trade; common practice, no source."""
WORDS = {
    "db": "dumbbell", "dbs": "dumbbell", "kb": "kettlebell", "kbs": "kettlebell", "bb": "barbell",
    "alt": "alternating", "oh": "overhead", "sl": "single-leg", "sa": "single-arm", "bw": "",
    "scap": "scapular", "hr": "hand-release", "c2b": "chest-to-bar", "mb": "medicine ball",
    "mt": "mountain",
}  # fmt: skip
FILLED = re.compile(
    rf"(?:(?P<before>{TIME})\s+(?:of\s+)?)?max\s+(?:reps?\s+(?:of\s+)?)?(?P<what>[a-z][^,@|+]*?)"
    rf"(?:\s+cal(?:orie)?s?)?(?:\s+(?:in|for)\s+(?P<after>{TIME}))?"
    rf"(?(before)|(?(after)|(?!)))",
    re.IGNORECASE,
)
"""`1 min max burpees`, `max burpees in 1 min`: as many as the time holds."""
_WEIGHT_UNIT = r"kgs?|kilos?|kg\.|lbs?\.?|pounds?|#"
_HEIGHT_UNIT = r"cm|inch(?:es)?|in\.?|[\"”″]|['’]{2}"
_PAIR = r"\d+(?:[.,]\d+)?(?:\s*/\s*\d+(?:[.,]\d+)?)?"
_LOADS = re.compile(
    rf"(?<![^\s(\[,;@])[\s,;(\[]*(?:@|\bat\b|\bwith\b|\bw/|\busing\b|\bon\b(?=\s*\d))?\s*(?:a\s+)?[(\[]?\s*(?:"
    rf"(?P<count>\d)\s*[x×]\s*(?P<counted>{_PAIR})\s*(?P<cunit>{_WEIGHT_UNIT})?"
    rf"|(?P<height>{_PAIR})\s*(?P<hunit>{_HEIGHT_UNIT})(?:\s*box)?"
    rf"|(?P<weight>{_PAIR})\s*(?P<wunit>{_WEIGHT_UNIT})"
    rf"|(?P<percent>\d+(?:\s*[-–]\s*\d+)?)\s*%(?:\s*(?:of\s*)?(?:1\s*rm|max))?"
    rf"|(?P<bw>\d(?:[.,]\d+)?)\s*(?:x\s*)?(?:bw|bodyweight)"
    rf"|rpe\s*(?P<rpe>\d+(?:\.\d)?)"
    rf"|(?P<feel>heavy|light)"
    rf"|(?P<bare>{_PAIR})"
    rf")\s*[)\]]?\s*(?:(?:kettlebells?|dumbbells?|bells?|kb|db|each hand)\s*)?$",
    re.IGNORECASE,
)
_STATION = re.compile(
    r"(?:(?P<number>\d{1,2})\s*(?:\)\s*|\.\s+)|(?P<letter>[a-h])\s*[.):]\s+|"
    r"(?P<nth>\d{1,2})(?:st|nd|rd|th)(?:\s+min(?:ute)?)?\s*[:.)–-]\s*|"
    r"(?:min(?:ute)?|station)\s*(?P<minute>\d{1,2})\s*[:.)–-]\s*|(?P<odd>odds?|even)(?:\s+min(?:ute)?s?)?\s*[:–-]\s*)",
    re.IGNORECASE,
)
_BARE_STATION = re.compile(r"(\d{1,2})\s+(?=(?:max|rest|amrap)\b|\d+\s+[a-z])", re.IGNORECASE)
_BULLET = re.compile(r"[-*•·]\s+")
_REST = re.compile(
    rf"(?:(?:then\s+)?rest(?:ing)?(?:\s*(?:for\s*)?(?P<after>{SPAN}))?|(?P<before>{SPAN})\s*(?:of\s+)?rest)"
    r"(?:\s*(?:between|after)\s*(?:each\s*)?(?:rounds?|sets?))?\.?",
    re.IGNORECASE,
)
_EXTRA = re.compile(
    r"(?:(?P<out>cash[\s-]?out|then|finish(?: with)?|to finish)"
    r"|(?P<buy>buy[\s-]?in|start(?: with)?|first))\s*[:,-]?\s*",
    re.IGNORECASE,
)
_DETAILS = (
    (re.compile(r"unbroken|ub", re.I), "unbroken"),
    (re.compile(r"alternating|alternate(?: sides| arms| legs)?|alt\.?", re.I), "alternating"),
    (re.compile(r"(?:single|one|1)[\s-]arm(?:ed)?|sa", re.I), "one arm"),
    (re.compile(r"left(?: side| arm| leg)?", re.I), "left"),
    (re.compile(r"right(?: side| arm| leg)?", re.I), "right"),
    (re.compile(EACH, re.I), "each side"),
)
_EXACT_DETAILS = {exact for _, exact in _DETAILS}
_STYLE = re.compile(
    r"strict|slow|weighted|controlled|deep|big|kipping|banded|fast|full|heavy|light"
    r"|russian|american|synchro(?:ni[sz]ed)?|sync(?:ed)?",
    re.I,
)
_AIM = re.compile(
    rf"[\s,(]*(?:aim|target|goal)\s*(?:for|:)?\s*(\d+)(?:{DASH}(\d+))?\s*(?:reps?)?\)?$", re.I
)
_TEMPO = re.compile(r"[\s,(@]*(?:tempo\s*)?@?\s*([0-9x]{4})\s*(?:tempo)\)?$", re.I)
_TEMPO_ANYWHERE = re.compile(r"[\s,(]+@?\s*tempo\s*:?\s*([0-9x]{4})\)?(?=[\s,]|$)", re.I)
_TEMPO_WORD = re.compile(
    r"[\s,(]*(?:@\s*)?tempo\s*:?\s*([0-9x])[\s.-]?([0-9x])[\s.-]?([0-9x])[\s.-]?([0-9x])\)?$", re.I
)
_PRACTICE = re.compile(r"\s+(?:practice|work|drills?|technique)$", re.I)
_DECIMAL = re.compile(r"(?<![\d.,])(\d{1,3}),(\d{1,2})(?=\s*(?:/|kg|lbs?\b|\)|$))")
LEFT_OVER = re.compile(
    r"(?<=\w),?\s+(?:in|for|with) (?:the )?(?:time (?:left|remaining)|remaining time"
    r"|(?:rest|remainder) of the (?:time|window|minute|interval))$",
    re.I,
)
"""`max double-unders in the remaining time`: a maximum always fills what is left."""
_INTO = re.compile(r"\s+(?:into|straight to|to(?=\s+[a-z])|then straight into)\s+", re.I)


_TASKS = re.compile(r"\s+\+\s+(?=\S)|\s+plus\s+|\s+(?:straight )?into\s+(?=\d)", re.I)
_NO_NAME = re.compile(
    r"\b(?:rounds?|sets?|min(?:ute)?s?|rest|cap|into|then|or|each|every|for|amrap|emom|x)\b", re.I
)


class Work(NamedTuple):
    """A line read as exact text, with the sets it asks of a strength heading and its station.

    `place` is `cash-out` or `buy-in`; `rest` the rest it asks for after each round, as exact text.
    """

    text: str
    station: int | None = None
    sets: int | None = None
    place: str = ""
    rest: str = ""
    seconds: int | None = None
    known: bool = True
    counts: str = ""
    """What a score of it counts where that is not reps: `calories`, `distance`."""
    most: bool = False
    """As many as a time of its own holds: somebody counts them."""


@lru_cache(maxsize=8192)
def understood(library: Library, text: str, station_due: int | None) -> Work | None:
    """The exact text of a line, remembered by library and text."""
    return Reader(library).understand(text, station_due)


class Reader:
    """Reads lines with a gym's library and its usual unit of weight."""

    def __init__(self, library: Library) -> None:
        self.library = library
        self.misses = 0

    def read(self, raw: str, station_due: int | None = None) -> Work | None:
        """The exact text of a line as said, or None where it is not understood."""
        text = _DECIMAL.sub(r"\1.\2", " ".join(raw.strip().split()))
        if len(text) > MAX_SAID or self.misses >= MOST_MISSES:
            return None
        work = understood(self.library, text, station_due)
        self.misses += work is None
        return work

    def understand(self, text: str, station_due: int | None) -> Work | None:
        """The exact text of a line whose blanks are single, or None where it is not understood."""
        station, text = self._station(text, station_due)
        text = _BULLET.sub("", text, count=1) if _BULLET.match(text) else text
        rest = _REST.fullmatch(text)
        if rest:
            said = rest["after"] or rest["before"]
            return Work("rest", station, rest=f"rest {span(said, 's')}" if said else "rest")
        if re.fullmatch(r"rest as (?:needed|required)", text, re.IGNORECASE):
            return Work("rest", station, rest="rest as needed")
        filled = FILLED.fullmatch(text)
        if filled:
            what = OF_CALORIES.sub("", filled["what"], count=1)
            text = f"{filled['before'] or filled['after']} {what}"
        place = ""
        extra = _EXTRA.match(text)
        if extra:
            place, text = ("cash-out" if extra["out"] else "buy-in"), text[extra.end() :]
        tasks, sets, timed, known, counts = [], None, None, True, ""
        for part in self._parts(text):
            first, *others = part.split("|")
            one = self.task(first)
            tiers = [self._tier(other.strip()) for other in others]
            if one is None or None in tiers:
                return None
            tasks.append(" | ".join([one.text, *filter(None, tiers)]))
            sets, timed, known = sets or one.sets, one.seconds, known and one.known
            counts = counts or one.counts
        line = " + ".join(tasks)
        return Work(line, station, sets, place, "", timed, known, counts, filled is not None)

    def _parts(self, text: str) -> list[str]:
        """The tasks of a line; a comma parts two where each is work with a number of its own."""
        parts = _TASKS.split(text)
        if len(parts) > 1 or "|" in text:
            return parts
        listed = re.split(r",\s+(?=\d)", text)
        read = [self.task(part) for part in listed] if len(listed) > 1 else []
        return listed if read and all(one is not None and one.known for one in read) else parts

    def _tier(self, text: str) -> str | None:
        """What a tier does instead: a number, a load, or work of its own."""
        if re.fullmatch(r"\d+(?:\s*-\s*\d+)?", text):
            return text
        load = _LOADS.fullmatch(text)
        if load and (load["bare"] is None or "/" in text or "@" in text):
            return f"@ {self._load(load, None)}"
        own = self.task(text)
        return own.text if own else None

    def _station(self, text: str, due: int | None) -> tuple[int | None, str]:
        found = _STATION.match(text)
        if found:
            number = (
                int(found["number"] or found["minute"] or found["nth"] or 0)
                or (found["letter"] and ord(found["letter"].lower()) - 96)
                or (1 if found["odd"] and found["odd"].lower().startswith("odd") else 2)
            )
            return number, text[found.end() :]
        bare = _BARE_STATION.match(text)
        if bare and due == int(bare[1]):
            return due, text[bare.end() :]
        return None, text

    def task(self, text: str) -> Work | None:
        """One task: amount, movement, details, load, in whichever order they were said."""
        text = LEFT_OVER.sub("", text.strip(" .;"))
        details: list[str] = []
        aim = _AIM.search(text)
        if aim:
            text = text[: aim.start()]
        tempo = _TEMPO_WORD.search(text) or _TEMPO.search(text) or _TEMPO_ANYWHERE.search(text)
        if tempo:
            details.append("tempo " + "".join(tempo.groups()).upper())
            text = text[: tempo.start()] + text[tempo.end() :]
        first_is_amount = re.match(r"\d|max|half|an? ", text, re.I) is not None
        sets, amount, text = amount_said(text)
        counts = ""
        for word, said in (("calories", OF_CALORIES), ("distance", OF_METRES)):
            if amount == "max" and (found := said.match(text)):
                counts, text = word, text[found.end() :]
        load = ""
        whole = self._named(text, details, amount)
        if whole is None:
            whole, load = self._named_with_load(text, details, amount)
        known = whole is not None
        if whole is None and amount and first_is_amount:
            found = _LOADS.search(text)
            bare = text[: found.start()] if found and found.start() > 0 else text
            load = self._load(found, None) if found and found.start() > 0 else ""
            whole = _unknown(bare, details, amount)
        if whole is None:
            return None
        name, movement, amount = whole
        if aim:
            details.append(f"aim {aim[1]}" + (f"-{aim[2]}" if aim[2] else ""))
        sided = amount.endswith("/each")
        if sided:
            amount = amount.removesuffix("/each")
            if movement is not None and not _one_sided(name, movement):
                return None
            details.append("each side")
        timed = seconds(amount) if re.fullmatch(r"\d+:\d\d", amount) else None
        parts = dict.fromkeys(details)
        if "each side" in parts:
            parts.pop("alternating", None)
            timed = timed and 2 * timed
        line = ", ".join([f"{amount} {name}".strip(), *parts])
        line += f" @ {load}" if load else ""
        try:
            read_task(line, self.library)
        except Slip:
            return None
        return Work(line, sets=sets, seconds=timed, known=known, counts=counts)

    def _named_with_load(
        self, text: str, details: list[str], amount: str
    ) -> tuple[tuple[str, Movement | None, str] | None, str]:
        """A movement with its load behind it, details before or after that; and the load."""
        after: list[str] = []
        for _ in range(3):
            found = _LOADS.search(text)
            if found and found.start() > 0:
                said: list[str] = []
                whole = self._named(text[: found.start()], said, amount)
                if whole is not None:
                    details += [one for one in (*said, *after) if one not in details]
                    return whole, self._load(found, whole[1])
            shorter = _without_detail(text, after)
            if shorter is None or after[-1] not in _EXACT_DETAILS:
                break
            text = shorter
        return None, ""

    def _named(
        self, text: str, details: list[str], amount: str
    ) -> tuple[str, Movement | None, str] | None:
        """The movement's exact name with what was said around it; None for an unknown one."""
        text = text.strip(" ,.;:-")
        text = re.sub(r"^(?:reps?\s+(?:of\s+)?|of\s+|in an?\s+|in\s+)", "", text, flags=re.I)
        joined = _INTO.split(text)
        if len(joined) == 2 and not self.library.find(text):
            both = [self._find(part) for part in joined]
            if all(both):
                names = " + ".join(f"1 {one[0].name}" for one in both if one)
                return f"[{names}]", None, amount
        found = self._find(text)
        if found is None:
            return None
        movement, said = found
        details += [one for one in said if one not in details]
        return movement.name, movement, amount

    def _find(self, text: str) -> tuple[Movement, list[str]] | None:
        said: list[str] = []
        text = text.strip(" ,.;:")
        text = _PRACTICE.sub("", text) if self._known(text) is None else text
        for _ in range(6):
            movement = self._known(text, "one arm" in said)
            if movement is not None:
                return movement, [one for one in said if one not in movement.kit]
            shorter = _without_detail(text, said)
            if shorter is None:
                return None
            text = shorter
        return None

    def _known(self, text: str, one_arm: bool = False) -> Movement | None:
        """A movement by its name, its abbreviation, or with abbreviated words written out."""
        low = " ".join(text.lower().replace("’", "'").replace(" & ", " and ").split())
        if one_arm and f"{fold(low)}, one arm" in SHORT:
            low = SHORT[f"{fold(low)}, one arm"]
        tries = [low, SHORT.get(low, "")]
        parts = [WORDS.get(word, SHORT.get(word, word)) for word in low.replace("/", " ").split()]
        tries.append(" ".join(filter(None, parts)))
        tries.append(SHORT.get(fold(low), ""))
        if tries[2].startswith("barbell "):
            tries.append(tries[2].split(" ", 1)[1])
        for name in tries:
            found = self.library.find(name) if name else None
            if found is not None:
                return found
        # One word or two: inch worms, pullups.
        return _squashed(self.library).get(fold(low).replace(" ", ""))

    def _load(self, found: re.Match[str], movement: Movement | None) -> str:
        def numbers(text: str) -> str:
            return re.sub(r"\s+", "", text).replace(",", ".")

        def unit(said: str | None) -> str:
            if not said:
                return self.library.unit
            return "lb" if said[0].lower() in "lp#" else "kg"

        if found["count"]:
            return f"{found['count']} x {numbers(found['counted'])} {unit(found['cunit'])}"
        if found["height"]:
            return f"{numbers(found['height'])} {'cm' if found['hunit'].lower() == 'cm' else 'in'}"
        if found["weight"]:
            return f"{numbers(found['weight'])} {unit(found['wunit'])}"
        if found["percent"]:
            return re.sub(r"\s*[-–]\s*", "-", found["percent"]) + "%"
        if found["bw"]:
            return f"{numbers(found['bw'])} bw"
        if found["rpe"]:
            return f"RPE {found['rpe']}"
        if found["feel"]:
            return found["feel"].lower()
        bare = numbers(found["bare"])
        if movement is not None and "box" in movement.kit:
            tall = max(float(part) for part in bare.split("/"))
            return f"{bare} {'in' if tall <= TALLEST_IN else 'cm'}"
        return f"{bare} {self.library.unit}"


def _unknown(text: str, details: list[str], amount: str) -> tuple[str, Movement | None, str] | None:
    """A movement the library has not: its name as typed, where it looks like one."""
    said: list[str] = []
    text = re.sub(r"^(?:reps?\s+(?:of\s+)?|of\s+)", "", text.strip(" ,.;:-"), flags=re.I)
    for _ in range(4):
        shorter = _without_detail(text, said)
        if shorter is None or not shorter or said[-1] not in _EXACT_DETAILS:
            break
        text = shorter
    known = [one for one in said if one in _EXACT_DETAILS]
    if not re.fullmatch(r"[A-Za-z][A-Za-z'’ -]{2,50}", text) or _NO_NAME.search(text):
        return None
    details += known
    return text, None, amount


MOST_MISSES = 60
"""A board with so many lines that say nothing is no board: it costs no more reading."""
TALLEST_IN = 36
"""A bare height up to this is in inches: no box is that low in centimetres."""


@lru_cache(maxsize=16)
def _squashed(library: Library) -> dict[str, Movement]:
    """Movements by their folded names without spaces."""
    return {
        fold(name).replace(" ", ""): movement
        for movement in library.movements
        for name in (movement.name, *movement.aliases)
    }


def _one_sided(name: str, movement: Movement) -> bool:
    """Whether a movement has a left and a right: then five and five are five each side."""
    words = (
        r"single|one[- ]|side|step|lunge|split|pistol|kick|leg|arm|half|bird|dead bug|cross"
        r"|turkish|windmill"
    )
    loose = {"dumbbell", "kettlebell"} & set(movement.kit)
    return movement.sides == "alternating" or bool(loose) or bool(re.search(words, name))


def _without_detail(text: str, said: list[str]) -> str | None:
    """The text without one word of detail at an end, which is added to `said`; None for none."""
    for pattern, exact in _DETAILS:
        first = re.compile(rf"(?:{pattern.pattern})(?![\w])[\s,]+", re.I).match(text)
        if first:
            said.append(exact)
            return text[first.end() :].strip(" ,()")
        last = re.compile(rf"[\s,(]+(?:{pattern.pattern})\)?$", re.I).search(text)
        if last:
            said.append(exact)
            return text[: last.start()].strip(" ,()")
    held = re.match(r"(dumbbell|kettlebell|db|kb)s?\s+", text, re.I)
    if held:
        # The library has no movement of that name with this bell: its name, and the bell as said.
        said.append(WORDS.get(held[1].lower(), held[1].lower()))
        return text[held.end() :]
    first = re.compile(rf"({_STYLE.pattern})[\s,]+", re.I).match(text)
    if first:
        said.append(first[1].lower())
        return text[first.end() :]
    noted = re.search(r"\s*\(([^()\d]{2,40})\)$", text)
    if noted:
        said.append(noted[1])
        return text[: noted.start()]
    return None
