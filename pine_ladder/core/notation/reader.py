"""Parse trees of headings and tasks, read into plan records."""

from __future__ import annotations

import re
from functools import lru_cache
from importlib import resources
from typing import Any, Literal, NamedTuple

from lark import Lark, Token, Transformer, Tree
from lark.exceptions import UnexpectedInput, VisitError

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import words
from pine_ladder.core.units import clock_seconds

MAX_SECONDS = 24 * 3600
MAX_COUNT = 100_000
MAX_ROUNDS = 500
WHOLE_LINE = 10_000
"""An end past any line: the editor marks up to the end."""


class Slip(Exception):
    """Text that cannot be read: columns are 0-based within the text given."""

    def __init__(
        self,
        message: str,
        start: int = 0,
        end: int | None = None,
        replacement: str | None = None,
        code: str = "syntax",
    ) -> None:
        super().__init__(message)
        self.message = message
        self.start = start
        self.end = start + 1 if end is None else end
        self.replacement = replacement
        self.code = code


class Heading(NamedTuple):
    """Format and modifiers of a piece heading."""

    format: plan.Format
    modifiers: dict[str, Any]


class Reading(NamedTuple):
    """A task line as read: station number if any, tasks (none for a rest), slips not fatal."""

    station: int | None
    tasks: tuple[plan.Task, ...]
    slips: tuple[Slip, ...]


def _grammar(name: str) -> Lark:
    text = (resources.files(__package__) / name).read_text("utf-8")
    return Lark(text, parser="lalr", lexer="contextual", maybe_placeholders=False)


HEADING = _grammar("heading.lark")
TASK = _grammar("task.lark")


@lru_cache(maxsize=4096)
def heading_tree(text: str) -> Tree[Token]:
    """Lark's tree of a heading's format and modifiers."""
    return HEADING.parse(text)


@lru_cache(maxsize=4096)
def task_tree(text: str) -> Tree[Token]:
    """Lark's tree of a task line."""
    return TASK.parse(text)


def _span(token: Token) -> tuple[int, int]:
    start = token.start_pos or 0
    return start, start + len(token)


def _slip(token: Token, message: str, replacement: str | None = None) -> Slip:
    return Slip(message, *_span(token), replacement)


def _seconds(token: Token) -> int:
    text = token.strip().lower()
    if ":" in text:
        try:
            seconds = clock_seconds(text)
        except ValueError as error:
            raise _slip(token, str(error)) from None
    else:
        match = re.match(r"[\d.]+", text)
        assert match is not None
        unit = text[match.end() :].strip()
        seconds = round(float(match[0]) * (60 if unit.startswith("m") else 1))
    if seconds > MAX_SECONDS:
        raise _slip(token, f"{token} is longer than a day")
    return seconds


def _positive_seconds(token: Token) -> int:
    seconds = _seconds(token)
    if seconds == 0:
        raise _slip(token, f"{token} has no length")
    return seconds


def _numbers(token: Token) -> tuple[int, ...]:
    parts = [part.strip() for part in token.split("-")]
    if any("." in part for part in parts):
        raise _slip(token, f"{token}: reps are whole numbers")
    numbers = tuple(int(part) for part in parts)
    if any(n > MAX_COUNT for n in numbers):
        raise _slip(token, f"{token} is more than anyone can do")
    if 0 in numbers:
        raise _slip(token, f"{token}: nothing to do; a number here is at least 1")
    return numbers


def _count(token: Token) -> int:
    numbers = _numbers(token)
    if len(numbers) != 1:
        raise _slip(token, f"one number is meant here, not {token}")
    return numbers[0]


def _rounds(token: Token) -> int:
    count = _count(token)
    if count > MAX_ROUNDS:
        raise _slip(token, f"{token} rounds is more than a class can do")
    return count


def _range(token: Token) -> tuple[int, int | None]:
    numbers = _numbers(token)
    if len(numbers) == 1:
        return numbers[0], None
    if len(numbers) == 2 and numbers[0] < numbers[1]:
        return numbers[0], numbers[1]
    raise _slip(token, f"a number or a rising range such as 3-5 is meant here, not {token}")


def _pair(text: str) -> tuple[float, ...]:
    return tuple(float(part) for part in re.findall(r"\d+(?:\.\d+)?", text))


def _token(items: list[Any], kind: str) -> Token | None:
    return next((i for i in items if isinstance(i, Token) and i.type == kind), None)


def _tokens(items: list[Any], kind: str) -> list[Token]:
    return [i for i in items if isinstance(i, Token) and i.type == kind]


class _HeadingReader(Transformer[Token, Heading]):
    """One method a rule of heading.lark: a format, or a modifier as (token, {field: value})."""

    def start(self, items: list[Any]) -> Heading:
        chosen, *modifiers = items
        merged: dict[str, Any] = {}
        size: int | None = None
        how: str | None = None
        teams_at: Token | None = None
        for token, fields in modifiers:
            for field, value in fields.items():
                if field == "size":
                    size, teams_at = value, token
                elif field == "how":
                    how, teams_at = value, teams_at or token
                elif field in merged:
                    raise _slip(token, f"{token} is given twice")
                else:
                    merged[field] = value
        if teams_at is not None:
            if size is None:
                raise _slip(teams_at, f"{teams_at}: of how many? write teams of 2, {how}")
            if how is None:
                raise _slip(
                    teams_at, f"teams of {size}: do they alternate, share the work, or go together?"
                )
            merged["teams"] = plan.Teams(size=size, how=how)
        return Heading(chosen, merged)

    def rounds(self, items: list[Token]) -> plan.Format:
        low, high = _range(items[0])
        return plan.Rounds(low=low, high=high)

    def rounds_for_time(self, items: list[Token]) -> plan.Format:
        return plan.ForTime(rounds=_rounds(items[0]))

    def sets(self, items: list[Token]) -> plan.Format:
        low, high = _range(items[0])
        return plan.Sets(low=low, high=high)

    def scheme_for_time(self, items: list[Token]) -> plan.Format:
        return plan.ForTime(scheme=_numbers(items[0]))

    def for_time(self, items: list[Token]) -> plan.Format:
        return plan.ForTime()

    def amrap(self, items: list[Token]) -> plan.Format:
        return plan.Amrap(length_s=_positive_seconds(items[1]))

    def every(self, items: list[Token]) -> plan.Format:
        numbers = _token(items, "NUMS")
        rounds = _rounds(numbers) if numbers is not None else None
        return plan.Every(interval_s=_positive_seconds(items[1]), rounds=rounds)

    def emom(self, items: list[Token]) -> plan.Format:
        length_s = _positive_seconds(items[1])
        if length_s % 60:
            raise _slip(items[1], f"an EMOM lasts whole minutes, not {items[1]}")
        return plan.Emom(length_s=length_s)

    def intervals(self, items: list[Token]) -> plan.Format:
        work, rest = _tokens(items, "TIME")
        rounds = _token(items, "NUMS")
        assert rounds is not None
        return plan.Intervals(
            work_s=_positive_seconds(work), rest_s=_seconds(rest), rounds=_rounds(rounds)
        )

    def tabata(self, items: list[Token]) -> plan.Format:
        return plan.Tabata()

    def accumulate(self, items: list[Token]) -> plan.Format:
        return plan.Accumulate()

    def continuous(self, items: list[Token]) -> plan.Format:
        return plan.Continuous(length_s=_positive_seconds(items[1]))

    def rest_piece(self, items: list[Token]) -> plan.Format:
        return plan.Rest(length_s=_positive_seconds(items[0]))

    def rest(self, items: list[Token]) -> Any:
        low, high = items[1], items[2] if len(items) > 2 else None
        low_s, high_s = _positive_seconds(low), _positive_seconds(high) if high else None
        if high is not None and high_s is not None and high_s <= low_s:
            raise _slip(high, f"the longer rest comes second: {high} is not longer than {low}")
        return items[0], {"rest": plan.Span(low_s=low_s, high_s=high_s)}

    def cap(self, items: list[Token]) -> Any:
        return items[0], {"cap_s": _positive_seconds(items[1])}

    def build(self, items: list[Token]) -> Any:
        return items[0], {"build": True}

    def for_quality(self, items: list[Token]) -> Any:
        return items[0], {"for_quality": True}

    def score(self, items: list[Token]) -> Any:
        kind = words.score_named(items[1])
        if kind is None:
            near = words.nearest(items[1].strip(), [k.value for k in plan.ScoreKind])
            known = ", ".join(plan.ScoreKind)
            raise _slip(
                items[1],
                f'"{items[1].strip()}": no such score; '
                + (f"did you mean {near}?" if near else f"one of {known}"),
                near,
            )
        return items[0], {"score": kind}

    def pace(self, items: list[Token]) -> Any:
        word = items[1].strip().lower()
        if word not in ("steady", "hard"):
            near = words.nearest(word, ["steady", "hard"], 0)
            raise _slip(items[1], f'"{word}": pace is steady or hard', near)
        return items[0], {"pace": word}

    def target_count(self, items: list[Token]) -> Any:
        low, high = _range(items[1])
        unit = "rounds" if items[2].lower().startswith("round") else "reps"
        target = plan.Target(unit=unit, low=low, high=low if high is None else high)
        return items[0], {"target": target}

    def target_time(self, items: list[Token]) -> Any:
        low, high = _positive_seconds(items[1]), _positive_seconds(items[2])
        if high <= low:
            raise _slip(
                items[2], f"the later time comes second: {items[2]} is not after {items[1]}"
            )
        return items[0], {"target": plan.Target(unit="time", low=low, high=high)}

    def work(self, items: list[Token]) -> Any:
        return items[0], {"work_s": _positive_seconds(items[1])}

    def grow(self, items: list[Token]) -> Any:
        token = items[0]
        sign = -1 if token.startswith("-") else 1
        number = re.search(r"\d+", token)
        assert number is not None
        if not 0 < int(number[0]) <= MAX_COUNT:
            raise _slip(token, f"{token} changes nothing")
        return token, {"grow_reps": sign * int(number[0])}

    def until_missed(self, items: list[Token]) -> Any:
        return items[0], {"until_missed": True}

    def teams(self, items: list[Token]) -> Any:
        size = _count(items[1])
        if size < 2:
            raise _slip(items[1], "a team has at least two athletes")
        return items[0], {"size": size}

    def how(self, items: list[Token]) -> Any:
        return items[0], {"how": items[0].lower()}

    def heats(self, items: list[Token]) -> Any:
        return items[0], {"heats": _count(items[1])}


class _Spec(NamedTuple):
    """One spec of a task before tiers are resolved: fields given, and whether words were."""

    fields: dict[str, Any]
    named: bool
    counted: bool
    token: Token | None


class _TaskReader(Transformer[Token, Reading]):
    """One method a rule of task.lark."""

    def __init__(self, library: Library) -> None:
        super().__init__()
        self.library = library
        self.slips: list[Slip] = []

    def start(self, items: list[Any]) -> Reading:
        station = _token(items, "STATION")
        number = int(station[:-1]) if station is not None else None
        tasks = tuple(item for item in items if isinstance(item, plan.Task))
        return Reading(number, tasks, tuple(self.slips))

    def task(self, items: list[Any]) -> plan.Task:
        specs = [item for item in items if not isinstance(item, Token)]
        versions: list[plan.Exercise] = []
        for spec, instead, note in specs:
            before = versions[-1] if versions else None
            if not all(one.named for one in instead) or not (before or spec.named):
                raise Slip("a movement is missing, as in 10 push-up", 0, WHOLE_LINE)
            exercise = _inherit(before, spec)
            if instead:
                others = tuple(_inherit(None, other) for other in instead)
                exercise = exercise.model_copy(update={"instead": others})
            if note:
                exercise = exercise.model_copy(update={"note": note})
            versions.append(exercise)
        while len(versions) > 1 and versions[-1] == versions[-2]:
            versions.pop()
        return plan.Task(versions=tuple(versions))

    def version(self, items: list[Any]) -> tuple[_Spec, list[_Spec], str | None]:
        specs = [item for item in items if isinstance(item, _Spec)]
        notes = [spec.fields.pop("note") for spec in specs if "note" in spec.fields]
        token = _token(items, "NOTE")
        if token is not None:
            notes.append(token[1:])
        note = "; ".join(filter(None, (" ".join(n.split()) for n in notes))) or None
        return specs[0], specs[1:], note

    def counted(self, items: list[Any]) -> _Spec:
        amount, *rest = items
        name = rest[0] if len(rest) == 2 else None
        fields = {**(name or {}), **rest[-1], **amount}
        token = fields.pop("token", None)
        return self._with_trailing_details(_Spec(fields, name is not None, True, token))

    def named(self, items: list[Any]) -> _Spec:
        fields = {**items[0], **items[1]}
        token = fields.pop("token", None)
        return self._with_trailing_details(_Spec(fields, True, False, token))

    def loaded(self, items: list[Any]) -> _Spec:
        return _Spec({**items[0], **items[1]}, False, False, None)

    def reps(self, items: list[Token]) -> Any:
        numbers = _numbers(items[0])
        grow = int(items[1][1:]) if len(items) > 1 else 0
        if len(numbers) == 1:
            return {"amount": plan.Reps(low=numbers[0], grow=grow)}
        if grow:
            raise _slip(items[1], "only a single number grows by rounds")
        if len(numbers) == 2 and numbers[0] < numbers[1]:
            return {"amount": plan.Reps(low=numbers[0], high=numbers[1])}
        return {"amount": plan.Scheme(values=numbers)}

    def measured(self, items: list[Token]) -> Any:
        text, unit = items[0], _unit(items[1])
        if "-" in text:
            numbers = _numbers(text)
            if len(numbers) == 2 and numbers[0] < numbers[1]:
                raise _slip(text, f"{text} {items[1]}: write one amount; a range is for reps")
            return {"amount": plan.Scheme(values=numbers, unit=unit)}
        value = float(text)
        if not 0 < value <= MAX_COUNT:
            raise _slip(text, f"{text} {items[1]}: no such amount of work")
        if unit == "cal":
            return {"amount": plan.Calories(calories=(round(value),))}
        if unit == "m" and items[1].lower().startswith("min"):
            return {"amount": plan.Duration(seconds=round(value * 60))}
        if unit == "m":
            factor = 1000 if items[1].lower() == "km" else 1
            return {"amount": plan.Distance(metres=(value * factor,))}
        if round(value) == 0:
            raise _slip(text, f"{text} {items[1]} has no length")
        return {"amount": plan.Duration(seconds=round(value))}

    def pair(self, items: list[Token]) -> Any:
        values = _pair(items[0])
        if len(items) == 1:
            a, b = (f"{v:g}" for v in values)
            if a == b:
                raise _slip(
                    items[0], f"{items[0]}: ten each side is written “{a} …, each side”", f"{a}"
                )
            raise _slip(
                items[0], f"{items[0]} of what? a pair of amounts needs a unit: {a}/{b} cal"
            )
        unit = _unit(items[1])
        if unit == "cal":
            return {"amount": plan.Calories(calories=tuple(round(v) for v in values))}
        if unit == "m" and not items[1].lower().startswith("min"):
            factor = 1000 if items[1].lower() == "km" else 1
            return {"amount": plan.Distance(metres=tuple(v * factor for v in values))}
        raise _slip(items[0], f"{items[0]}: a pair of amounts is in m or cal")

    def duration(self, items: list[Token]) -> Any:
        grow = clock_seconds(items[1][1:]) if len(items) > 1 else 0
        return {"amount": plan.Duration(seconds=_positive_seconds(items[0]), grow_s=grow)}

    def maximum(self, items: list[Token]) -> Any:
        return {"amount": plan.Max()}

    def trips(self, items: list[Token]) -> Any:
        number, unit = _token(items, "NUMS"), _token(items, "UNIT")
        assert number is not None
        assert unit is not None
        if _unit(unit) != "m" or "-" in number or unit.lower().startswith("min"):
            raise _slip(number, "trips are counted over a distance: max x 30 m")
        metres = float(number) * (1000 if unit.lower() == "km" else 1)
        if not 0 < metres <= MAX_COUNT:
            raise _slip(number, "a trip has a length")
        return {"amount": plan.Trips(distance_m=metres)}

    def movement(self, items: list[Token]) -> Any:
        return {"movement": " ".join(items[0].split()), "token": items[0]}

    def complex(self, items: list[Any]) -> Any:
        tasks = [item for item in items if isinstance(item, plan.Task)]
        return {"parts": tuple(task.versions[0] for task in tasks)}

    def tail(self, items: list[dict[str, Any]]) -> dict[str, Any]:
        fields: dict[str, Any] = {}
        for item in items:
            note = "; ".join(filter(None, (fields.get("note"), item.get("note"))))
            fields.update(item)
            if note:
                fields["note"] = note
        return fields

    def detail(self, items: list[Token]) -> dict[str, Any]:
        return self._detail(items[0])

    def _detail(self, token: Token) -> dict[str, Any]:
        number = re.search(r"\d+(\.\d+)?", token)
        match token.type:
            case "EACH_SIDE":
                return {"side": plan.Side.EACH}
            case "ALTERNATING" | "LEFT" | "RIGHT":
                return {"side": plan.Side(token.lower())}
            case "ONE_ARM":
                return {"one_arm": True}
            case "UNBROKEN":
                return {"unbroken": True}
            case "TEMPO":
                return {"tempo": token.split()[-1].upper()}
            case "SWITCH" if number and 0 < int(number[0]) <= MAX_COUNT:
                return {"switch_every": int(number[0])}
            case "PAUSE" if number and float(number[0]) > 0:
                return {"pause_s": float(number[0])}
            case "N_SETS" if number and 0 < int(number[0]) <= MAX_COUNT:
                return {"sets": int(number[0])}
            case "FREE":
                return self._free_words(token)
        raise _slip(token, f"{token}: a number from 1 up is meant here")

    def _free_words(self, token: Token) -> dict[str, Any]:
        text = " ".join(token.split())
        first = text.split()[0].lower()
        if near := words.nearest(first, ("tempo", "pause", "switch"), 75):
            example = {"tempo": "tempo 30X0", "pause": "pause 2 s", "switch": "switch every 5"}
            value = re.search(_DETAIL_VALUES[near], text, re.IGNORECASE)
            word = "switch every" if near == "switch" else near
            mended = f"{word} {value[0]}" if value else None
            raise _slip(token, f'"{text}": write it as {mended or example[near]}', mended)
        if near := words.nearest(text, words.DETAIL_WORDS, 80):
            raise _slip(token, f'"{text}": did you mean {near}?', near)
        return {"note": text}

    def load(self, items: list[Token]) -> dict[str, Any]:
        token = items[0]
        text = " ".join(token.lower().split())
        values = _pair(text)
        match token.type:
            case "WEIGHT":
                counted = re.match(r"(\d+)\s*[x×]\s*(.*)", text)
                count = int(counted[1]) if counted else 1
                values = _pair(counted[2] if counted else text)
                if not 0 < count <= 10 or not all(0 < v <= 2000 for v in values):
                    raise _slip(token, f"{token}: no such load")
                unit: Literal["kg", "lb"] = "kg" if "k" in text else "lb"
                return {"load": plan.Weight(values=values, unit=unit, count=count)}
            case "HEIGHT" if all(v > 0 for v in values):
                height: Literal["cm", "in"] = "cm" if text.endswith("cm") else "in"
                return {"load": plan.Height(values=values, unit=height)}
            case "PERCENT" if all(0 < v <= 200 for v in values):
                high = values[1] if len(values) > 1 else None
                if high is not None and high <= values[0]:
                    raise _slip(token, f"{token}: the higher percentage comes second")
                return {"load": plan.Percent(low=values[0], high=high)}
            case "BODYWEIGHT" if 0 < values[0] <= 10:
                return {"load": plan.Bodyweight(factor=values[0])}
            case "RPE" if 1 <= values[0] <= 10:
                return {"load": plan.Effort(rpe=values[0])}
            case "RPE":
                raise _slip(token, f"{token}: effort runs from RPE 1 to RPE 10")
            case "FEEL":
                feel: Literal["heavy", "light"] = "heavy" if text == "heavy" else "light"
                return {"load": plan.Feel(word=feel)}
        if re.fullmatch(r"[\d./ x×]+", text):
            raise _slip(
                token, f"{token}: in which unit? write {token} kg or {token} lb", f"{token} kg"
            )
        raise _slip(
            token,
            f'"{token}": a load is written 24/16 kg, 2 x 20 kg, 70%, 0.5 bw, RPE 8, heavy, '
            "light, or 60/50 cm for a box",
        )

    def _with_trailing_details(self, spec: _Spec) -> _Spec:
        """Resolve the movement; words such as `each side` may follow it without a comma."""
        token = spec.token
        if token is None:
            return spec
        name, fields = spec.fields["movement"], dict(spec.fields)
        while (movement := self.library.find(name)) is None:
            found = re.search(
                r"\s+((?:each|per|a) side|alternating|left|right|(?:one|single)[ -]arm|unbroken)$",
                name,
                re.IGNORECASE,
            )
            if not found:
                break
            kind = _TRAILING[found[1].lower().replace("-", " ").split()[-1]]
            for field, value in self._detail(Token(kind, found[1])).items():
                fields.setdefault(field, value)
            name = name[: found.start()]
        if movement is not None:
            fields["movement"] = movement.name
        else:
            fields["movement"] = name
            start = token.start_pos or 0
            near = self.library.nearest(name)
            hint = f"; did you mean {near.name}?" if near else "; keep it and add it to the library"
            self.slips.append(
                Slip(
                    f'"{name}": no such movement{hint}',
                    start,
                    start + len(token),
                    near.name if near else None,
                    "unknown-movement",
                )
            )
        return spec._replace(fields=fields)


_DETAIL_VALUES = {"tempo": r"[0-9x]{4}", "pause": r"\d+ ?s", "switch": r"\d+"}
_TRAILING = {
    "side": "EACH_SIDE",
    "alternating": "ALTERNATING",
    "left": "LEFT",
    "right": "RIGHT",
    "arm": "ONE_ARM",
    "unbroken": "UNBROKEN",
}


def _unit(token: Token) -> Literal["s", "m", "cal"]:
    text = token.lower()
    if text.startswith("c"):
        return "cal"
    return "s" if text.startswith("s") else "m"


def _inherit(before: plan.Exercise | None, spec: _Spec) -> plan.Exercise:
    """A tier's version over the one before it.

    With words it is written afresh and keeps amount and side only where it gives no amount;
    with a number or a load alone it changes just that.
    """
    if before is None:
        return plan.Exercise(**spec.fields)
    if not spec.named:
        return before.model_copy(update={**spec.fields, "note": None})
    if spec.counted:
        return plan.Exercise(**spec.fields)
    return plan.Exercise(**{"amount": before.amount, "side": before.side, **spec.fields})


def _run(reader: Transformer[Token, Any], tree: Tree[Token]) -> Any:
    try:
        return reader.transform(tree)
    except VisitError as error:
        if isinstance(error.orig_exc, Slip):
            raise error.orig_exc from None
        raise


def read_heading(text: str) -> Heading:
    """Format and modifiers of a piece; raises Slip where the text cannot be read."""
    try:
        tree = heading_tree(text)
    except UnexpectedInput as error:
        raise _heading_slip(text, error) from None
    heading: Heading = _run(_HeadingReader(), tree)
    return heading


def read_task(text: str, library: Library) -> Reading:
    """A task line; raises Slip where the text cannot be read."""
    try:
        tree = task_tree(text)
    except UnexpectedInput as error:
        raise _task_slip(text, error) from None
    reading: Reading = _run(_TaskReader(library), tree)
    return reading


def _where(text: str, error: UnexpectedInput) -> int:
    position = getattr(error, "pos_in_stream", None)
    token = getattr(error, "token", None)
    if token is not None and token.type != "$END" and token.start_pos is not None:
        return int(token.start_pos)
    if token is not None or position is None or position < 0:
        return len(text.rstrip())
    return int(position)


def _heading_slip(text: str, error: UnexpectedInput) -> Slip:
    at = _where(text, error)
    first = "," not in text[:at]
    start = text.rfind(",", 0, at) + 1
    start += len(text[start:]) - len(text[start:].lstrip())
    comma = text.find(",", at)
    part = text[start : comma if comma >= 0 else len(text)].strip()
    end = max(start + len(part), start + 1)
    if first and not part:
        return Slip(
            "how is this piece timed? for example 3 rounds, AMRAP 12:00, EMOM 10:00", start, end
        )
    if not part:
        return Slip("a modifier is missing after the comma", start, end)
    if missing := _missing_time(part):
        return Slip(missing[0], start, end, missing[1])
    choices = words.FORMAT_WORDS if first else words.MODIFIER_WORDS
    letters = re.sub(r"[\d:/×-]|\bx\b", " ", part).strip()
    near = words.nearest(" ".join(letters.split()), choices) if letters else None
    replacement = part.replace(letters, near) if near and letters in part else None
    what = "a format" if first else "a modifier"
    if near and replacement and replacement.lower() != part.lower():
        return Slip(f'"{part}" is not {what}; did you mean {replacement}?', start, end, replacement)
    known = ", ".join(choices)
    return Slip(f'"{part}" is not {what}; expected one of: {known}', start, end)


_NEEDS = {
    "amrap": "how long? write AMRAP 12:00",
    "emom": "how long? write EMOM 12:00",
    "every": "how often and how many rounds? write every 2:00 x 5",
    "intervals": "write work/rest and the rounds: intervals 0:40/0:20 x 4",
    "interval": "write work/rest and the rounds: intervals 0:40/0:20 x 4",
    "continuous": "how long? write continuous 10:00",
    "rest": "how long? write rest 1:30 or rest 1:30-2:00",
    "cap": "how long? write cap 12:00",
    "work": "how many seconds of each window? write work 0:40",
    "target": "what is the aim? write target 5-7 rounds or target 12:00-15:00",
    "teams": "how many together? write teams of 2, alternate",
    "heats": "how many heats? write heats 2",
    "score": "scored how? write score total reps",
    "pace": "pace is steady or hard",
}


def _missing_time(part: str) -> tuple[str, str | None] | None:
    found = re.match(r"([a-z]+)\s*(\d+)?$", part, re.IGNORECASE)
    if not found or found[1].lower() not in _NEEDS:
        return None
    word = found[1].lower()
    if found[2] and word in ("amrap", "emom", "continuous", "cap"):
        return f"{part}: minutes or seconds? write {found[1]} {found[2]}:00", (
            f"{found[1]} {found[2]}:00"
        )
    if found[2] and word in ("rest", "work"):
        return f"{part}: minutes or seconds? write {found[1]} {found[2]} s", (
            f"{found[1]} {found[2]} s"
        )
    return f"{found[1]}: {_NEEDS[word]}", None


def _task_slip(text: str, error: UnexpectedInput) -> Slip:
    at = min(_where(text, error), len(text))
    rest = text[at:].strip()
    end = max(at + len(rest), at + 1)
    before = text[:at].rstrip()
    if not rest:
        if before.endswith("@"):
            return Slip("a load is missing after @, as in @ 24/16 kg", at, end)
        if before.endswith("|"):
            return Slip("the next tier's version is missing after |", at, end)
        if before.endswith("+"):
            return Slip("another task is missing after +", at, end)
        if before.endswith(","):
            return Slip("a detail is missing after the comma, as in each side", at, end)
        if "[" in before and "]" not in before:
            return Slip("the complex is not closed: ] is missing", at, end)
        return Slip("a movement is missing here, as in 10 push-up", at, end)
    if rest.startswith("]"):
        return Slip("] closes nothing", at, at + 1)
    return Slip(f'"{rest}" cannot be read here', at, end)
