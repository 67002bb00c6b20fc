"""The works of a clause: its parts, which of them ask work, and what belongs to which."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

from pine_ladder.core import plan
from pine_ladder.core.movements import Pattern
from pine_ladder.core.notation.reader.lexicon import NO_MOVES, PROSE, special
from pine_ladder.core.notation.reader.naming import AMOUNTS, HEADS, NO_NAME
from pine_ladder.core.notation.reader.takes import STEADILY, work_of
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Scope, Work, on_foot, set_by_set, settle

_SEPARATORS = (
    "comma",
    "semicolon",
    "plus",
    "then",
    "stop",
    "dash",
    "open",
    "close",
    "and",
    "slash",
    "pipe",
    "colon",
)


def chunks(tokens: Sequence[Token]) -> Iterator[tuple[str, list[Token]]]:
    """Parts of a clause, each with the kind of mark before it; what stands in brackets apart."""
    before, depth = "", 0
    part: list[Token] = []
    for at, token in enumerate(tokens):
        kind = token.kind
        if kind == "open" and not depth and _lists(part, tokens[at + 1 :]):
            yield before, part
            before, part = "colon", []
        elif kind == "open":
            yield before, part
            before, part, depth = "open", [], depth + 1
        elif kind == "close":
            yield before, part
            before, part, depth = "close", [], max(0, depth - 1)
        elif kind in _SEPARATORS and not depth:
            if kind == "colon" and _most(part) and _begins_work(tokens[at + 1 :]):
                continue  # `max effort in the remaining time: burpees`
            if kind == "colon" and _timed(part) and _begins_work(tokens[at + 1 :]):
                continue  # `2 min: row`
            if kind == "and" and not _begins_work(tokens[at + 1 :]):
                part.append(token)
                continue
            goes_on = _begins_work(tokens[at + 1 :]) or _begins_set(tokens[at + 1 :])
            goes_on = goes_on or (kind == "slash" and _names_work(tokens[at + 1 :]))
            if kind == "slash" and not (_spaced(tokens, at) and goes_on):
                part.append(token)
                continue
            yield before, part
            before, part = kind, []
        elif part and kind in AMOUNTS and not depth and _second_work(part, tokens[at:]):
            yield before, part
            before, part = "next", [token]
        else:
            part.append(token)
    yield before, part


def _lists(part: Sequence[Token], inside: Sequence[Token]) -> bool:
    """Whether brackets hold a list that words before them name: `drills (skips, butt kicks)`."""
    kinds = [token.kind for token in inside]
    kinds = kinds[: kinds.index("close")] if "close" in kinds else []
    named = {token.kind for token in part} & {"movement", *AMOUNTS}
    moves = kinds.count("movement")
    words = any(token.kind == "word" for token in part)
    return words and not named and moves > 1 and kinds.count("comma") >= moves - 1


def _timed(part: Sequence[Token]) -> bool:
    """Whether a part is a time or a scheme alone, that what follows its colon is done for."""
    kinds = [token.kind for token in part if token.kind != "filler"]
    return kinds in (["time"], ["prime"], ["scheme"])


def _most(part: Sequence[Token]) -> bool:
    """Whether a part says no more than that as much as possible is done."""
    kinds = {token.kind for token in part if token.kind != "filler"}
    return bool(kinds & {"max", "remaining"}) and kinds <= {"max", "remaining", "reps"}


def _spaced(tokens: Sequence[Token], at: int) -> bool:
    return 0 < at < len(tokens) - 1 and (
        tokens[at - 1].end < tokens[at].start and tokens[at].end < tokens[at + 1].start
    )


def _begins_work(rest: Sequence[Token]) -> bool:
    for token in rest[:6]:
        if token.kind == "movement":
            return True
        if token.kind not in (
            *AMOUNTS,
            "filler",
            "style",
            "easy",
            "hard",
            "each side",
            "alternating",
            "one arm",
            "reps",
            "implement",
            "heavy",
            "light",
            "times n",
        ):
            return False
    return False


def _names_work(rest: Sequence[Token]) -> bool:
    """Whether a count and words of the coach's own follow: `300 row / 10 kang squats`."""
    return [token.kind for token in rest[:2]] == ["number", "word"]


def _begins_set(rest: Sequence[Token]) -> bool:
    """Whether another set of the lift follows: `5 reps @ 70 %`, `70 % x 3`."""
    kinds = [token.kind for token in rest[:6] if token.kind not in ("filler", "reps", "at")][:2]
    counts, loads = ("number", "by", "range", "times n"), ("percent", "weight")
    return len(kinds) == 2 and (
        (kinds[0] in counts and kinds[1] in loads) or (kinds[0] in loads and kinds[1] in counts)
    )


def _second_work(part: Sequence[Token], rest: Sequence[Token]) -> bool:
    """Whether a number begins the next work where no mark stands between them."""
    if not any(token.kind == "movement" for token in part) or part[-1].kind in (
        "by",
        "at",
        "or",
        "times n",
    ):
        return False
    following = [
        token
        for token in rest[1:8]
        if token.kind not in ("filler", "style", "each side", "alternating", "easy", "calories")
    ]
    first = rest[0].kind
    if first == "by":
        return False
    return bool(following) and following[0].kind == "movement" and first in AMOUNTS


def read_works(tokens: Sequence[Token], scope: Scope) -> tuple[list[Work], list[str]]:
    """The works of a clause in order, and what was said before any of them."""
    reading = _Reading(scope, tokens)
    reading.read()
    _share_times(reading.works)
    works = [one for work in reading.works for one in set_by_set(work)]
    for work in works:
        if work.tempo is not None:  # `tempo bench 3x8 (30X1)`
            work.notes = [note for note in work.notes if note.strip().lower() != "tempo"]
    for work in works:
        settle(work, scope.library)
    return works, reading.loose


FEWEST_LISTED = 5
"""Tokens of a list of three at least."""


_SIDED = re.compile(r"side|leg|arm|way|direction|hand|foot", re.IGNORECASE)


class _Reading:
    """State of one clause's reading: its works so far, and what belongs to none of them."""

    def __init__(self, scope: Scope, tokens: Sequence[Token]) -> None:
        self.scope, self.tokens = scope, tokens
        self.parts = list(chunks(tokens))
        self.works: list[Work] = []
        self.loose: list[str] = []
        self.sub = False
        """True behind `sub` or `if you can't`: movements there are the next tier's."""
        self.each: plan.Amount | None = None
        """`ten of each:` is the amount of all that is listed."""
        self.side: plan.Side | None = None
        """`3 min per side:` is that of each side of all that is listed."""
        self.ahead = ""
        """Words at the start that may name what the amount behind them is of."""

    def read(self) -> None:
        """Take the parts in order."""
        for at, (mark, part) in enumerate(self.parts):
            body = [one for one in part if one.kind != "filler"]
            if body:
                after, following = self.parts[at + 1] if at + 1 < len(self.parts) else ("", [])
                if after == "colon" and _says_each(body):
                    self.each = plan.Reps(low=int(body[0].value))  # `…, 10 each: squat, ring row`
                    continue
                self._take(mark, part, body, following)

    def _note(self, words: str) -> None:
        (self.works[-1].notes if self.works else self.loose).append(words)

    def _take(
        self, mark: str, part: list[Token], body: list[Token], following: Sequence[Token]
    ) -> None:
        if all(token.kind == "reps" for token in body):
            return
        words = self.scope.said(part[0].start, part[-1].end)
        if any(token.kind == "equals" for token in part):
            # `1 cal = 1 rep`, `every break = 5 squats`: said of the work, no work itself.
            self._note(words)
            return
        if [token.kind for token in body] == ["number", "each side"] and not self.works:
            self.each = plan.Reps(low=int(body[0].value))
            return
        kinds = [token.kind for token in body]
        named = kinds[0] in ("word", "style", "implement")
        lists = kinds[-1:] == ["each side"] and "movement" not in kinds and not self.works
        lists = lists and not named  # `terminal knee extension 2x20/side`
        if lists and (of_each := work_of(part, self.scope)) is not None:
            # `10 m down and back x 2 of each: …`
            self.each = of_each.amount
            self.side = of_each.side if _SIDED.search(words) else None
            self.loose.append(words)
            return
        subs = ("sub", "scaled", "beginner") if mark in ("open", "dash") else ("sub",)
        if body[0].kind in subs and self.works and len(body) > 1:
            self.sub, part = True, [token for token in part if token is not body[0]]
        elif self.sub and mark not in ("open", "comma"):
            self.sub = False
        if body[0].kind == "or" and self.works and len(body) > 1:
            self._instead(part[part.index(body[0]) + 1 :], words)
            return
        made = _alternatives(part, self.scope)
        if not made and (name := self._in_a_bare_list(mark, words)):
            self.works.append(Work(self.scope.row, part[0].start, name=name, amount=self.each))
            return
        if not made:
            easily = kinds == ["easy"] and words.strip().lower() not in STEADILY
            self._words(words, easily=easily)
            return
        first = made[0]
        if self.sub and self.works and not first.named:
            self._other_load(first)
            return
        self._name_ahead(first, mark)
        if first.named:
            first.amount = first.amount or self.each
            first.side = first.side or (self.side if first.amount is self.each else None)
            first.instead += made[1:]
            self._work(first, mark, part, words, following)
        else:
            self._more(first, mark, words)

    def _in_a_bare_list(self, mark: str, words: str) -> str:
        """Words that name a movement the library has not, among others whose amount the piece
        gives: `front squat, lateral jump over bar, push-up`; empty where they are none.
        """
        bare = all(work.named and work.amount in (None, self.each) for work in self.works)
        if mark != "comma" or not self.works or not bare or len(self.tokens) < FEWEST_LISTED:
            return ""
        name = _bare_name(words)
        return name if {word.rstrip("s") for word in name.lower().split()} & HEADS else ""

    def _instead(self, part: Sequence[Token], words: str) -> None:
        """`or ring rows`: what may be done instead."""
        others = _alternatives(part, self.scope)
        if others and others[0].named:
            self.works[-1].instead += others
        else:
            self.works[-1].notes.append(words)

    def _other_load(self, work: Work) -> None:
        """`(sub 50/35)`: the work before it with another load or amount, for the next tier."""
        last = self.works[-1]
        load = work.load or (last.load if work.bare is None else None)
        amount = work.amount or last.amount
        other = replace(last, tiers={}, instead=[], amount=amount, load=load, bare=work.bare)
        other.notes = work.notes
        last.tiers.setdefault(1, other)

    def _name_ahead(self, work: Work, mark: str) -> None:
        """`puppy pose, 1 min`: the words before the amount are its name."""
        counted = work.amount is not None or bool(work.sets)
        if work.named or self.works or not (self.ahead and self.scope.listed and counted):
            return
        if mark in ("comma", "dash", "colon", "pipe"):
            work.name = self.ahead
            self.loose.pop()

    def _work(
        self,
        work: Work,
        mark: str,
        part: Sequence[Token],
        words: str,
        following: Sequence[Token],
    ) -> None:
        """A part that names a movement: work, a tier's, or only talk of it."""
        if self.sub and self.works:
            self.works[-1].tiers.setdefault(1, work)
            return
        if mark == "open" and self.works:
            self.works[-1].notes.append(words)
            return
        counted = work.amount is None and (
            _amount_alone(following) or (_stretches(work) and _stretched(following))
        )
        framed = any(token.kind in ("by", "percent", "scheme") for token in self.tokens)
        if mark == "then" and self.works and _into(self.works[-1], work):
            return
        if self.works and _is_its_load(self.works[-1], work, part):
            self.works[-1].load, self.works[-1].bare = work.load, work.bare
            return
        if mark == "plus" and self.works and _goes_on(self.works[-1], work):
            work.amount = plan.Reps(low=1)
        asked = counted or (framed and not self.works)
        if asked or _meant(work, part, self.scope, self.works):
            work.joined, work.then = mark == "plus", mark == "then"
            self.works.append(work)
        else:
            self._note(words)

    def _more(self, more: Work, mark: str, words: str) -> None:
        """A part that names none: another set of the lift, or more of the work before it."""
        last = self.works[-1] if self.works else None
        if last is not None and _another_set(last, more, mark):
            if last.amount is None and last.load is None and not last.sets:
                self.works.pop()
                more = _with_details_of(last, more)
            self.works.append(
                replace(
                    more, name=last.name, known=last.known, parts=list(last.parts), said=last.said
                )
            )
        elif last is None and not (_a_set(more) or self._reps_alone()):
            self.loose.append(words)
        elif last is None or (
            not last.named and _a_set(more) and mark in ("comma", "semicolon", "next")
        ):
            self.works.append(more)
        else:
            _merge(last, more, words, self.scope)

    def _reps_alone(self) -> bool:
        """Whether the clause is `8 reps`, of the lift above it."""
        marks = ("filler", "comma", "at", "dash", "open", "close")
        kinds = [token.kind for token in self.tokens if token.kind not in marks]
        return kinds[:2] == ["number", "reps"] and kinds[2:] in (
            [],
            ["percent"],
            ["rpe"],
            ["weight"],
        )

    def _words(self, words: str, *, easily: bool = False) -> None:
        """A part of words alone: a way to do it, a note, or what stands before all work."""
        if not self.works:
            self.ahead = _bare_name(words) if not self.loose else ""
            self.loose.append(words)
            return
        last = self.works[-1]
        easy = self.scope.library.find(f"easy {last.name}")
        if easily and easy is not None:
            last.name, last.known = easy.name, easy  # `bike 40 min, easy pace`
            return
        way = special(self.scope.library, words.strip().lower(), last.name)
        if way:
            last.name, last.known = way, self.scope.library.find(way)
        else:
            last.notes.append(words)


def _is_its_load(last: Work, work: Work, part: Sequence[Token]) -> bool:
    """Whether a word that may be a movement names the implement of the one before it and its load:
    `single-leg RDL 3 x 8, KB 20/12 kg`.
    """
    loaded = work.load is not None or work.bare is not None
    free = last.load is None and last.bare is None and last.amount is not None
    names = [token for token in part if token.kind == "movement"]
    implement = len(names) == 1 and "implement" in names[0].means
    return free and loaded and implement and work.amount is None and not work.sets


def _goes_on(before: Work, work: Work) -> bool:
    """Whether a lift without a count is once like the one before it: `1 clean + front squat`."""
    lifts = all(each.known is not None and each.known.reference_kg for each in (before, work))
    return lifts and work.amount is None and before.amount == plan.Reps(low=1)


def _says_each(body: Sequence[Token]) -> bool:
    """Whether a part says the amount of all that is listed behind it: `10 each`."""
    return [token.kind for token in body] == ["number", "each side"]


def _stretches(work: Work) -> bool:
    return work.known is not None and Pattern.MOBILITY in work.known.patterns


def _stretched(part: Sequence[Token]) -> bool:
    """Whether a part tells a time for what is listed: `calves and hip flexors 1 min a side`."""
    kinds = {token.kind for token in part}
    return "movement" in kinds and bool(kinds & {"time", "prime"})


def _share_times(works: Sequence[Work]) -> None:
    """Give stretches without a time that of the stretch behind them."""
    for work, after in reversed(list(pairwise(works))):
        if work.amount is None and _stretches(work) and _stretches(after):
            work.amount, work.side = after.amount, work.side or after.side


def _into(first: Work, second: Work) -> bool:
    """Make a complex of two lifts, `3 power cleans into front squats`; True where they are."""
    lifts = all(one.known is not None and one.known.reference_kg for one in (first, second))
    if not lifts or second.amount is not None or not isinstance(first.amount, plan.Reps):
        return False
    if first.sets and second.sets:
        return False
    one = plan.Reps(low=1)
    first.parts = [
        Work(part.row, part.start, name=part.name, known=part.known, amount=one)
        for part in (first, second)
    ]
    first.name, first.known = "", None
    first.load, first.bare = first.load or second.load, first.bare or second.bare
    first.notes += second.notes
    return True


def _a_set(work: Work) -> bool:
    """Whether it is a set of a lift that was named before: `5 @ 70`, `4x6 @ 80%`."""
    loaded = work.bare is not None or (
        work.load is not None and not isinstance(work.load, plan.Feel)
    )
    return bool(work.sets and work.amount is not None) or bool(
        isinstance(work.amount, plan.Reps | plan.Scheme | plan.Max) and loaded
    )


def _amount_alone(part: Sequence[Token]) -> bool:
    """Whether a part is the amount of the movement before it: `hip flexors, a minute a side`."""
    kinds = [token.kind for token in part if token.kind != "filler"]
    if not kinds or "movement" in kinds:
        return False
    if kinds == ["pair"]:
        return bool(part[0].value[0] == part[0].value[-1])  # `get-ups, 2/2`
    counts = {"time", "prime", "number", "range", "distance", "by"}
    return kinds[0] in counts and not set(kinds) - counts - {"each side", "max", "calories", "cal"}


def _bare_name(words: str) -> str:
    """Words that may name a movement, or nothing."""
    name = re.sub(r"\s+", " ", re.sub(r"[^\w\s'()/-]", " ", words)).strip()
    said = name.lower().split()
    good = (
        1 <= len(said) <= 5
        and not re.search(r"\d", name)
        and len(name) > 3
        and not (PROSE | NO_MOVES) & set(said)
        and not NO_NAME.match(name.lower())
    )
    return name if good and re.match(r"[A-Za-z]", name) else ""


def _loosens(work: Work) -> bool:
    """Whether a work is for mobility and nothing else."""
    return work.known is not None and work.known.patterns == (Pattern.MOBILITY,)


def _meant(work: Work, part: Sequence[Token], scope: Scope, before: list[Work]) -> bool:
    """Whether a movement is asked for, and not only talked of.

    Work has an amount, a load or sets, or stands in a list among others; in a sentence a movement
    without any of them is talk.
    """
    words = {str(token.value) for token in part if token.kind == "word"} | set(
        re.findall(r"[a-z']+", scope.text[part[0].start : part[-1].end].lower())
    )
    talk = len(words & PROSE)
    says = work.amount or work.load or work.sets or work.bare or work.side
    unknown = sum(token.kind == "word" for token in part)
    if scope.counted and not says and unknown > (scope.counted == 1):
        return False  # Below counted work: `elbows high on the clean`.
    if scope.loose and _leads(work, part):
        return True
    if scope.builds and work.known is not None and work.known.reference_kg:
        return True
    steps = any(isinstance(earlier.amount, plan.Scheme) for earlier in before)
    led = scope.framed and not before and _leads(work, part)
    if work.amount is None and scope.talk and not (scope.names or steps or led):
        return False
    if led and work.known is not None and work.known.reference_kg:
        return True  # `Strength is back squat, 5 sets of 5`
    if talk > 1 and work.amount is not None and not _counted_before(part):
        return False
    loaded = work.load is not None and not isinstance(work.load, plan.Feel)
    if work.amount is not None or loaded or work.sets or work.bare is not None:
        return bool(work.said) or not talk
    loose = [token for token in part if token.kind == "word"]
    if steps and len(loose) <= 1 and not talk:
        # `21-15-9 thrusters, pull-ups`: the scheme is that of both.
        return True
    if not loose and not talk and before and all(map(_loosens, (work, *before))):
        return True  # `march in place 3 min, shoulder rolls, ankle circles`
    if talk or len(loose) > 2 or (before and before[-1].amount is not None and not scope.names):
        return False
    sentence = scope.text.rstrip().endswith(".") and "," not in scope.text
    whole = (
        _leads(work, part)
        and part[0].start <= scope.first
        and not scope.text[part[-1].end :].strip(" .")
    )
    if not before and sentence and not scope.names and not whole:
        return False
    return (
        scope.names
        or scope.listed
        or not before
        or not loose
        or any(work.amount is None for work in before)
    )


def _leads(work: Work, part: Sequence[Token]) -> bool:
    """Whether a part begins with a movement of the library: `then walk till you can talk`."""
    body = [token for token in part if token.kind != "filler"]
    return work.known is not None and bool(body) and body[0].kind == "movement"


def _counted_before(part: Sequence[Token]) -> bool:
    """Whether an amount stands before the movement, or the movement begins the part."""
    body = [token.kind for token in part if token.kind != "filler"]
    at = body.index("movement") if "movement" in body else 0
    return at == 0 or any(kind in AMOUNTS for kind in body[:at])


def _with_details_of(lift: Work, more: Work) -> Work:
    """A set with what was said of its lift before: `tempo deadlift (31X1), 5 x 3`."""
    return replace(
        more,
        tempo=more.tempo or lift.tempo,
        pause_s=more.pause_s or lift.pause_s,
        side=more.side or lift.side,
        one_arm=more.one_arm or lift.one_arm,
        unbroken=more.unbroken or lift.unbroken,
        notes=[*lift.notes, *more.notes],
    )


def _another_set(lift: Work, more: Work, mark: str) -> bool:
    """Whether a part is another set of the lift before it: `60 % x 3, 70 % x 2`."""
    if mark == "open" or isinstance(more.load, plan.Feel | plan.Effort):
        return False
    if more.load is None and more.bare is None:
        return False
    if more.amount is None:
        return False
    return lift.amount is None or lift.load is not None or lift.bare is not None


def _alternatives(part: Sequence[Token], scope: Scope) -> list[Work]:
    """The works that ` or ` parts; the first of them first."""
    out: list[list[Token]] = [[]]
    for at, token in enumerate(part):
        listed = token.kind == "slash" and at and _begins_work(part[at + 1 :])
        listed = listed and part[at - 1].kind == "movement"
        between = (
            token.kind == "slash"
            and 0 < at < len(part) - 1
            and part[at - 1].kind == part[at + 1].kind == "movement"
        )
        if token.kind == "or" or between or listed:
            out.append([])
        else:
            out[-1].append(token)
    read = [one for one in (work_of(tokens, scope) for tokens in out if tokens) if one is not None]
    if not read:
        return []
    first, *others = read
    kept = []
    for other in others:
        if other.named:
            kept.append(other)
        elif other.notes:
            first.notes.append("or " + "; ".join(other.notes))
    if first.amount is None and not first.named and kept:
        return kept
    return [first, *kept]


def _merge(work: Work, more: Work, words: str, scope: Scope) -> None:
    """Add what a part without a movement says to the work before it."""
    took = False
    boxed = work.known is not None and ("box" in work.name or "box" in work.known.kit)
    if more.inches and boxed and work.load is None:
        more.amount, more.load = None, plan.Height(values=more.inches, unit="in")
    steps = work.amount.values if isinstance(work.amount, plan.Scheme) else ()
    if more.percents and len(more.percents) == len(steps) and not work.percents:
        work.percents = more.percents  # `10-8-6-4 (65/70/75/80 %)`
        return
    if more.percents and work.sets[:1] == (len(more.percents),) and not work.percents:
        work.percents = more.percents  # `4 x 5 (65/70/75/80 %)`
        return
    if more.percents:
        work.notes.append(words)  # Of windows, or of nothing that is known here.
        return
    if more.most and isinstance(more.amount, plan.Duration) and work.amount is None:
        work.most, work.measured = True, more.measured  # `bike: max calories in 2 min`
    if more.feet > 5 and work.known is not None and on_foot(work.known):
        more.amount = plan.Distance(metres=(round(0.3048 * more.feet, 3),))
    if more.times and isinstance(more.amount, plan.Reps) and work.amount is not None:
        # `run 400, rest 1 min, x 6`
        more.sets, more.amount = more.sets or (more.amount.low,), None
    if more.aim is not None and isinstance(work.amount, plan.Max):
        work.aim, took = more.aim, True
    for name in ("amount", "load", "tempo", "pause_s", "bare"):
        value = getattr(more, name)
        if value is not None:
            if getattr(work, name) is None:
                setattr(work, name, value)
                took = True
            else:
                work.notes.append(words)
                return
    if (
        more.implement
        and (other := scope.library.find(f"{more.implement} {work.name}")) is not None
    ):
        work.name, work.known = other.name, other
        more.notes = [note for note in more.notes if len(note) > 4]
    if more.sets and not work.sets:
        work.sets, took = more.sets, True
    if more.side and not work.side:
        work.side, took = more.side, True
    if more.one_arm or more.unbroken:
        work.one_arm, work.unbroken, took = (
            work.one_arm or more.one_arm,
            work.unbroken or more.unbroken,
            True,
        )
    way = (
        special(scope.library, more.notes[0].strip().lower(), work.name)
        if len(more.notes) == 1
        else None
    )
    if way:
        work.name, work.known = way, scope.library.find(way)
    elif more.notes:
        work.notes += more.notes if took else [words]
