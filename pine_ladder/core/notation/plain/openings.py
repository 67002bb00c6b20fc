"""A line that says a heading and its work at once: `21-15-9 for time: thrusters, pull-ups`."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.plain.headings import (
    Said,
    continues,
    heading_said,
    modifiers_said,
    role_said,
    with_its_rounds,
)
from pine_ladder.core.notation.plain.lines import FILLED, Reader
from pine_ladder.core.notation.plain.times import SPAN, TIME, clock, span
from pine_ladder.core.plan import Role

Opened = tuple[Said, list[str]]
"""A heading that a line says, and the lines of work it says with it."""
NOTHING = Said(None, None, "", (), None, ())
LIFTS = (Role.STRENGTH, Role.POWER, Role.SKILL, Role.CORE)
TAIL = re.compile(
    r"(?:[,;(]\s*((?:with\s+)?rest\b[^,]*|build(?:ing)?\b[^,]*|[\d:.]+\s*\w+ rest\b[^,]*"
    r"|\+\s*\d[^,]*\bset|split\b[^,]*|shar(?:e|ing)\b[^,]*)\)?|\s+(r\s*\d+:\d\d))$",
    re.IGNORECASE,
)
"""What a line says of the whole piece at its end: `, rest 2 min`, `(split as you like)`."""
_WITHOUT_CALORIES = re.compile(r"^cal(?:orie)?s?\s+(?=[a-z])", re.IGNORECASE)
_SURE = re.compile(r":|\bmin|for time", re.IGNORECASE)
_WORD = re.compile(r"[a-z0-9]", re.IGNORECASE)
_SETS_OF_HEAVY = "5"
"""Sets in which one builds to a heavy one; common practice, no source."""
_HEAVY = re.compile(
    r"(?:(?:build|work)(?:ing)?\s+(?:up\s+)?to|find|establish|(?:for\s+)?max out)\s+"
    r"(?:an?\s+|your\s+|the\s+)?(?P<what>.+)",
    re.IGNORECASE,
)
_WITHIN = re.compile(rf"(?:in\s+)?({TIME})\s*(?:to|:)\s*(?=build|work|find|establish)", re.I)
_WITHIN_AFTER = re.compile(
    rf"^((?:build|work|find|establish)\b.+?)\s+(?:in|within)\s+({TIME})$", re.I
)
"""`Build to a 1RM back squat in 15 min`."""
_NAMED_FIRST = re.compile(
    r"([a-z][a-z -]+?)\s*[:,-]\s+((?:build|work)(?:ing)?\s+(?:up\s+)?to\b[^:]+)", re.I
)
"""`Deadlift: build to a heavy 5`."""
_TOP = re.compile(
    r"(?P<before>.*?)\b(?:heavy\s+)?(?:(?P<reps>\d{1,2})\s*-?\s*(?:rm|rep max)"
    r"|heavy\s+(?:set of\s+)?(?P<heavy>\d{1,2}|single|double|triple)|(?P<max>max))\b(?P<after>.*)",
    re.IGNORECASE,
)
_REPEATS = re.compile(
    r"^(?P<way>run|row|ski|swim|sprint)(?:ning|ing|s)?\s+(?:(?:intervals|repeats)\s*:?\s*)?"
    r"(?P<times>\d{1,2}\s*[x×]\s*)(?P<far>\d{2,4})\s*m?(?![a-z\d:])",
    re.IGNORECASE,
)
"""`Row intervals 5x500`."""
_BETWEEN = (
    r"[,;]\s+|\s+\+\s+(?=\d)",
    r"[,;]\s+|\s+(?:&|and)\s+",
    r"\s+(?=\d+\s+[a-z])",
    r"\s+/\s+(?=[a-z])",
)
"""What stands between works that are listed on one line, the surest first."""
_ONE_SET = re.compile(r"(\d{1,2})\s*(?:reps?\s*)?(@\s*\S+(?: (?:kg|lb))?)", re.IGNORECASE)
_COUNT = re.compile(r"\d+\s*[x×]", re.IGNORECASE)
_LIST = re.compile(r",\s+")
_LISTED = ("scheme", "rounds", "rounds for time")
_OF = (*_LISTED, "amrap", "emom", "every for")
_SCHEME = re.compile(r"(?P<numbers>\d+(?:-\d+)+)\s+(?:reps?\s+)?(?:of:?\s+)?(?P<works>[A-Za-z].*)")
_ODD_EVEN = re.compile(r"odds?:?\s+(\S.*?)[,;/]?\s+evens?:?\s+(\S.*)", re.IGNORECASE)
_CLIMB = re.compile(
    r"(?P<first>\d+)-(?P<second>\d+)(?:-\d+)*(?P<more>-?\s*(?:\.{2,}|…|etc\.?))\s*(?:reps?\s+)?"
    r"(?:of:?\s+)?(?P<works>[A-Za-z].*)",
    re.IGNORECASE,
)
_STATED = re.compile(
    r"(?P<name>[A-Za-z][A-Za-z '’&-]{2,40}?)[\s,–-]+"
    r"(?P<head>(?:\d|amrap|emom|every|tabata|for time).*?):\s+(?P<work>\S.*)",
    re.IGNORECASE,
)
_TURNS = re.compile(
    r"(?P<way>(?:air )?bike|row|run|ski|sprint)\s+(?P<rounds>\d{1,2})\s*[x×]\s*"
    r"(?P<on>\d{1,3})\s*/\s*(?P<off>\d{1,3})",
    re.IGNORECASE,
)
"""`Bike 10 x 30/30`."""
_EASED = re.compile(
    rf"(?P<rounds>\d{{1,2}})\s*[x×]\s*(?P<on>{TIME})\s+(?:of\s+)?(?P<work>[a-z][a-z -]*?),?\s+"
    rf"(?:with\s+)?(?P<off>{TIME})\s+(?:easy|rest|off|recovery)(?:\s+(?:between|after|each).*)?",
    re.IGNORECASE,
)
"""`4 x 4 min rowing, 2 min easy between`."""
_TIMES_FIRST = re.compile(
    rf"^(\S.*?)\s*[x×]\s*(\d{{1,2}}),?\s+(?:with\s+)?({SPAN})\s+(?:of\s+)?rest(?:\s+between.*)?$",
    re.I,
)
"""`Run 400 m x 5 with 90 s rest`."""
_IN_WORDS = {"single": 1, "double": 2, "triple": 3}


@lru_cache(maxsize=8192)
def opened(library: Library, text: str, apart: bool) -> Opened | None:
    """The piece that a line opens, remembered by library and text."""
    return Openings(Reader(library)).open(text, apart)


class Openings:
    """Reads lines that open a piece and say its work."""

    def __init__(self, reader: Reader) -> None:
        self.reader = reader

    def read(self, text: str, apart: bool) -> Opened | None:
        """What a line opens; one that stands `apart` may be work that brings its own heading."""
        return opened(self.reader.library, text, apart)

    def open(self, text: str, apart: bool) -> Opened | None:
        """What a line opens, read anew."""
        text = re.sub(
            r"^(\d{1,2}) sets of (\d{1,3}) (?=[a-z])", r"\1 x \2 ", text, flags=re.IGNORECASE
        )
        text = re.sub(r"^test(?:ing)?\s*:\s+", "", text, flags=re.IGNORECASE)
        text = re.sub(r"^(?:max(?:imal)?|all[- ]out) effort\s*:?\s+(?=\d)", "", text, flags=re.I)
        text = _WITHIN_AFTER.sub(r"\2 to \1", text)
        named = _NAMED_FIRST.fullmatch(text)
        if named and role_said(named[1])[0] is None:
            text = f"{named[2]} {named[1]}"
        text = re.sub(r"\s+-\s+(?=\d+\s*[x×])", " ", text)
        text = re.sub(r"(?<=amrap) ladder(?=\s*:)", "", text, flags=re.IGNORECASE)
        return (
            self._after_a_colon(text)
            or self._lift(text)
            or self._with_work(text)
            or self._death_by(text)
            or self._loads(text)
            or self._stated(text)
            or (self._implied(text) if apart else None)
        )

    def _works(self, text: str) -> list[str] | None:
        """The lines that one line lists: `7 burpees, 7 swings`; None where one is not understood.

        The first has to be a movement that is known, so that no sentence is taken for work.
        """
        for between in _BETWEEN:
            works = [part.strip() for part in re.split(between, text) if part.strip()]
            if self._all_read(works):
                return works
        return None

    def _all_read(self, works: list[str]) -> bool:
        read = [self.reader.read(_WITHOUT_CALORIES.sub("", work)) for work in works]
        if not read or None in read or not _WORD.match(works[0]):
            return False
        known = all(one is not None and one.known for one in read)
        return known and all(_WORD.match(work) for work in works)

    def _after_a_colon(self, text: str) -> Opened | None:
        """`21-15-9 for time: thrusters, pull-ups`, `Finisher: 100 sit-ups`."""
        head, colon, rest = text.partition(": ")
        said = heading_said(head) if colon else None
        if said is None or said.role is Role.REST:
            return None
        rest, modifiers = without_tail(rest)
        timed = re.match(rf"({TIME})\s+(?:of\s+)?(?=[a-z])", rest, re.IGNORECASE)
        if by_scheme := self._by_scheme(said, rest):
            inner, listed = by_scheme
            return inner._replace(modifiers=(*inner.modifiers, *modifiers)), listed
        by_turns = _ODD_EVEN.fullmatch(rest)
        if by_turns and said.form == "emom" and all(map(self._works, by_turns.groups())):
            return said, [f"odd: {by_turns[1]}", f"even: {by_turns[2]}"]
        if climbing := self._climbing(said, rest):
            return climbing
        filled = not said.form and FILLED.fullmatch(rest)
        works = None if filled else self._works(rest)
        if works is None and not said.form and (opened := self._implied(rest)):
            inner, works = opened
            return inner._replace(role=inner.role or said.role, name=said.name), works
        if works is None and said.role is Role.SKILL and timed and self.reader.read(rest):
            works = [rest]
        if works is None:
            return None
        if not said.form:
            if said.role in LIFTS and self._lift(text):
                return None
            said = said._replace(form="rounds", numbers=("1",))
            if said.role is Role.SKILL and timed and len(works) == 1:
                said = said._replace(form="continuous", numbers=(clock(timed[1]),))
            elif said.role in (Role.WARM_UP, Role.COOL_DOWN, Role.MOBILITY):
                said = said._replace(form="", numbers=())
        return said._replace(modifiers=(*said.modifiers, *modifiers)), works

    def _with_work(self, text: str) -> Opened | None:
        """`Cool-down 5:00 walk`, `Tabata squats`, `30-20-10 burpees, sit-ups`: a heading and work.

        A bare number between the two could be either's: `AMRAP 12 burpees` is left as it is.
        """
        words = text.split()
        for end in range(len(words) - 1, 0, -1):
            head, work = " ".join(words[:end]), " ".join(words[end:])
            said = None if _COUNT.fullmatch(head) else heading_said(head)
            if said is None or not said.form or (said.form == "time" and said.role is None):
                continue
            if by_scheme := self._by_scheme(said, work):
                return by_scheme
            works = self._works(work)
            if works is None:
                continue
            several = said.form in _LISTED and len(works) > 1
            of = said.form in _OF and words[end - 1].lower() == "of"
            if several or of or said.form == "tabata" or _SURE.search(head):
                return said, works
        return None

    def _by_scheme(self, said: Said, text: str) -> Opened | None:
        """`12-9-6 deadlift, push-up` under a role, or under as many rounds: the numbers are those
        of every work, not of the first alone.
        """
        found = _SCHEME.fullmatch(text)
        works = self._works(found["works"]) if found else None
        if found is None or works is None or len(works) < 2 or any(w[0].isdigit() for w in works):
            return None
        rounds = found["numbers"].count("-") + 1
        race = NOTHING._replace(form="scheme", numbers=(found["numbers"],))
        if continues(said, race):
            return with_its_rounds(said, race), works
        if said.form and (said.form not in _LISTED[1:] or said.numbers != (str(rounds),)):
            return None
        return said._replace(form="scheme", numbers=(found["numbers"],)), works

    def _climbing(self, said: Said, text: str) -> Opened | None:
        """`8 min AMRAP: 2-4-6... burpees and box jumps`: so many more each round."""
        found = _CLIMB.fullmatch(text)
        works = self._works(found["works"]) if found else None
        if found is None or said.form != "amrap" or works is None or not found["more"]:
            return None
        first, second = int(found["first"]), int(found["second"])
        if second <= first or any(work[0].isdigit() for work in works):
            return None
        grown = said._replace(modifiers=(*said.modifiers, f"+{second - first} reps each round"))
        return grown, [f"{first} {work}" for work in works]

    def _lift(self, text: str) -> Opened | None:
        """`Strength: 5x5 back squat @ 75%, rest 2 min`."""
        role, rest = role_said(text)
        work, modifiers = without_tail(rest.strip(" :,-–"))
        read = self.reader.read(work) if role in LIFTS and work else None
        if read is None or not read.known or not (read.sets or scheme(read.text)):
            return None
        far = re.match(r"\d+(?:\.\d+)? (?:m|cal) ", read.text)
        if far and role is Role.STRENGTH and text.startswith("Strength "):
            # Stretches of running or rowing are rounds on the clock.
            said = NOTHING._replace(form="rounds for time", numbers=(str(read.sets),))
            return said._replace(modifiers=modifiers), [work]
        return NOTHING._replace(role=role, modifiers=modifiers), [work]

    def _stated(self, text: str) -> Opened | None:
        """`Press complex, 5 rounds: 1 strict press + 2 push press`, `Bike 10 x 30/30`."""
        turns = _TURNS.fullmatch(text)
        if turns and self.reader.read(turns["way"]):
            numbers = (clock(turns["on"], "s"), clock(turns["off"], "s"), turns["rounds"])
            return NOTHING._replace(form="intervals", numbers=numbers), [turns["way"]]
        found = _STATED.fullmatch(text)
        said = heading_said(found["head"]) if found else None
        if found is None or said is None or not said.form or self.reader.read(found["name"]):
            return None
        whole = self._one(found["work"]) if " + " in found["work"] else None
        works = whole or self._works(found["work"])
        return (said._replace(name=said.name or found["name"].strip()), works) if works else None

    def _loads(self, text: str) -> Opened | None:
        """`Back squat: 5 @ 70%, 3 @ 80%, 1 @ 90%`: the sets of a lift with their loads."""
        lift, colon, rest = text.partition(": ")
        sets = [_ONE_SET.fullmatch(one) for one in _LIST.split(rest)]
        if not colon or len(sets) < 2 or None in sets:
            return None
        works = [f"{one[1]} {lift} {one[2]}" for one in sets if one]
        if not self._all_read(works):
            return None
        return NOTHING._replace(role=Role.STRENGTH, form="rounds", numbers=("1",)), works

    def _death_by(self, text: str) -> Opened | None:
        """`Death by burpees`: one more in every minute until it is missed."""
        found = re.fullmatch(r"death by:?\s+(?:an?\s+)?(.+)", text, re.IGNORECASE)
        work = f"1 {found[1]}" if found else ""
        read = self.reader.read(work) if work else None
        if read is None or not read.known:
            return None
        said = NOTHING._replace(form="every for", numbers=("1:00", ""))
        return said._replace(modifiers=("+1 reps each round", "until missed")), [work]

    def _implied(self, text: str) -> Opened | None:
        """Work that brings its own heading: `accumulate 5 min plank`, `5x5 deadlift 100 kg`."""
        hold = re.match(r"accumulate\s+(.+)", text, re.IGNORECASE)
        if hold and self.reader.read(hold[1]):
            return NOTHING._replace(form="accumulate"), [hold[1]]
        text = re.sub(r"^(run|row|ski|bike|walk) (\d.*?) easy$", r"\2 easy \1", text, flags=re.I)
        race = re.fullmatch(r"(.+?),?\s+for time(\s+[(\d@].*)?", text, re.IGNORECASE)
        if race:
            raced = race[1] + (race[2] or "")
            if works := self._works(raced) or self._one(raced):
                return NOTHING._replace(form="for time"), works
        read = self.reader.read(text)
        if (
            read is not None
            and not read.place
            and re.fullmatch(r"\d+(?:\.\d+)? m [a-z ]+", read.text)
        ):
            return NOTHING._replace(form="for time"), [text]
        tested = read is not None and read.known and text.lower().startswith("max")
        if tested and read is not None and re.fullmatch(r"max [a-z -]+", read.text):
            return NOTHING._replace(role=Role.STRENGTH, form="sets", numbers=("1",)), [text]
        if (most := FILLED.fullmatch(text)) and read is not None and read.known:
            length, what = most["before"] or most["after"], most["what"]
            return NOTHING._replace(form="amrap", numbers=(clock(length), "")), [f"max {what}"]
        text = _REPEATS.sub(r"\g<times>\g<far> m \g<way>", text)
        return self._heavy(text) or self._repeats(text) or self._lift(f"Strength {text}")

    def _one(self, text: str) -> list[str] | None:
        return [text] if self.reader.read(text) else None

    def _heavy(self, text: str) -> Opened | None:
        """`Build to a heavy 3 front squat`, `Deadlift 3RM`, `10 min to find 1RM snatch`."""
        within = _WITHIN.match(text)
        rest = text[within.end() :] if within else text
        asked = _HEAVY.fullmatch(rest)
        found = _TOP.fullmatch(asked["what"] if asked else rest)
        if found is None or (found["max"] and not asked):
            return None
        reps = found["reps"] or found["heavy"] or "1"
        reps = str(_IN_WORDS.get(reps.lower(), reps))
        lift = re.sub(
            r"^(?:of|in|the|set)\s+", "", " ".join(f"{found['before']} {found['after']}".split())
        )
        work = f"{reps} {lift.strip(' -–:,')}"
        read = self.reader.read(work)
        if read is None or not read.known:
            return None
        modifiers = ("build", f"cap {clock(within[1])}") if within else ("build",)
        said = NOTHING._replace(form="sets", numbers=(_SETS_OF_HEAVY,), modifiers=modifiers)
        return said, [work]

    def _repeats(self, text: str) -> Opened | None:
        """`8x 200 m sprints every 90 sec`, `Run 400 rest 1 min x 6`."""
        every = re.fullmatch(rf"(\d{{1,2}})\s*[x×]\s*(.+?)\s+(?:every|on)\s+({TIME})", text, re.I)
        if every and self._works(every[2]):
            said = NOTHING._replace(
                form="every for", numbers=(clock(every[3]), ""), rounds=every[1]
            )
            return said, [every[2]]
        eased = _EASED.fullmatch(text)
        if eased and self._works(eased["work"]):
            numbers = (span(eased["on"], "min"), span(eased["off"], "min"), eased["rounds"])
            return NOTHING._replace(form="intervals", numbers=numbers), [eased["work"]]
        text = _TIMES_FIRST.sub(r"\1 rest \3 x \2", text)
        resting = re.fullmatch(rf"(.+?),?\s+rest\s+({SPAN})\s*[x×,]\s*(\d{{1,2}})", text, re.I)
        if resting and self._works(resting[1]):
            said = NOTHING._replace(form="rounds for time", numbers=(resting[3],))
            return said._replace(modifiers=(f"rest {span(resting[2], 's')}",)), [resting[1]]
        return None


def without_tail(text: str) -> tuple[str, tuple[str, ...]]:
    """A line without what it says of the whole piece, and that as modifiers."""
    out: list[str] = []
    for tail, rest in _tails(text):
        modifiers = modifiers_said(tail)
        if not modifiers:
            break
        text, out = rest, [*modifiers, *out]
    return text, tuple(out)


def _tails(text: str) -> Iterator[tuple[str, str]]:
    while found := TAIL.search(text):
        text = text[: found.start()].strip()
        yield found[1] or re.sub(r"^r\s*", "rest ", found[2], flags=re.IGNORECASE), text


def scheme(text: str) -> int | None:
    """How many numbers a line names, one a set: `5-5-3-3-1 back squat` asks for five."""
    found = re.match(r"\d+(?:-\d+){2,}(?=\s)", text.strip())
    return found[0].count("-") + 1 if found else None
