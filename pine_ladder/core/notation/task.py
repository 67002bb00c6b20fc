"""A line of work, read into tasks with their versions."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Any, Literal, NamedTuple

from lark import Token, Transformer, Tree
from lark.exceptions import UnexpectedInput

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import words
from pine_ladder.core.notation.tokens import (
    MAX_COUNT,
    WHOLE_LINE,
    Slip,
    check_digits,
    grammar,
    numbers_of,
    pair_of,
    positive_seconds,
    run,
    seconds_of,
    slip_at,
    token_of,
    where,
)

TASK = grammar("task.lark")
MAX_PAUSE_S = 600
MIN_M, MAX_M = 1.0, 100_000.0


ADD_IT = "keep it and add it to the library: until then the test-run guesses its pace"


class Reading(NamedTuple):
    """A task line as read: station number if any, tasks (none for a rest), slips not fatal."""

    station: int | None
    tasks: tuple[plan.Task, ...]
    slips: tuple[Slip, ...]


@lru_cache(maxsize=4096)
def task_tree(text: str) -> Tree[Token]:
    """Lark's tree of a task line."""
    return TASK.parse(text)


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
        station = token_of(items, "STATION")
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
        token = token_of(items, "NOTE")
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
        numbers = numbers_of(items[0])
        grow = int(items[1][1:]) if len(items) > 1 else 0
        if len(numbers) == 1:
            return {"amount": plan.Reps(low=numbers[0], grow=grow)}
        if grow:
            raise slip_at(items[1], "only a single number grows by rounds")
        if len(numbers) == 2 and numbers[0] < numbers[1]:
            return {"amount": plan.Reps(low=numbers[0], high=numbers[1])}
        return {"amount": plan.Scheme(values=numbers)}

    def measured(self, items: list[Token]) -> Any:
        text, unit = items[0], _unit(items[1])
        if "-" in text:
            numbers = numbers_of(text)
            if len(numbers) == 2 and numbers[0] < numbers[1]:
                return {"amount": _ranged(text, items[1], unit, *numbers)}
            return {"amount": plan.Scheme(values=numbers, unit=unit)}
        value = float(text)
        if not 0 < value <= MAX_COUNT:
            raise slip_at(text, f"{text} {items[1]}: no such amount of work")
        if unit == "cal":
            return {"amount": plan.Calories(calories=(round(value),))}
        if unit == "m" and items[1].lower().startswith("min"):
            return {"amount": plan.Duration(seconds=round(value * 60))}
        if unit == "m":
            factor = 1000 if items[1].lower() == "km" else 1
            return {"amount": _distance(text, (value * factor,))}
        if round(value) == 0:
            raise slip_at(text, f"{text} {items[1]} has no length")
        return {"amount": plan.Duration(seconds=round(value))}

    def pair(self, items: list[Token]) -> Any:
        values = pair_of(items[0])
        if len(items) == 1:
            a, b = (f"{v:g}" for v in values)
            if a == b:
                raise slip_at(
                    items[0],
                    f"{items[0]}: {a} for both tracks, or {a} each side? Write {a} …, "
                    f"or {a} …, each side",
                    f"{a}",
                )
            raise slip_at(items[0], f"{items[0]} of what? a pair needs a unit: {a}/{b} cal")
        unit = _unit(items[1])
        if unit == "cal":
            return {"amount": plan.Calories(calories=tuple(round(v) for v in values))}
        if unit == "m" and not items[1].lower().startswith("min"):
            factor = 1000 if items[1].lower() == "km" else 1
            return {"amount": _distance(items[0], tuple(v * factor for v in values))}
        raise slip_at(items[0], f"{items[0]}: a pair of amounts is in m or cal")

    def duration(self, items: list[Token]) -> Any:
        grow = seconds_of(items[1].update(value=items[1][1:])) if len(items) > 1 else 0
        return {"amount": plan.Duration(seconds=positive_seconds(items[0]), grow_s=grow)}

    def durations(self, items: list[Token]) -> Any:
        token = items[0]
        low, high = (seconds_of(token.update(value=part)) for part in token.split("-"))
        if not 0 < low < high:
            raise slip_at(items[0], f"{items[0]}: the longer time comes second")
        return {"amount": plan.Duration(seconds=low, high_s=high)}

    def maximum(self, items: list[Token]) -> Any:
        return {"amount": plan.Max()}

    def trips(self, items: list[Token]) -> Any:
        number, unit = token_of(items, "NUMS"), token_of(items, "UNIT")
        assert number is not None
        assert unit is not None
        if _unit(unit) != "m" or "-" in number or unit.lower().startswith("min"):
            raise slip_at(number, "trips are counted over a distance: max x 30 m")
        metres = float(number) * (1000 if unit.lower() == "km" else 1)
        if not 0 < metres <= MAX_COUNT:
            raise slip_at(number, "a trip has a length")
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
            case "PAUSE" if number and 0 < float(number[0]) <= MAX_PAUSE_S:
                return {"pause_s": float(number[0])}
            case "N_SETS" if number and 0 < int(number[0]) <= MAX_COUNT:
                return {"sets": int(number[0])}
            case "REST_AFTER":
                said = token[len("rest") :].strip()
                return {"rest_s": positive_seconds(Token(token.type, said, token.start_pos))}
            case "AIM":
                low, *more = (int(part) for part in re.findall(r"\d+", token))
                high = more[0] if more else low
                if not 0 < low <= high <= MAX_COUNT:
                    raise slip_at(token, f"{token}: write the aim as aim 15 or aim 15-20")
                return {"aim": plan.Aim(low=low, high=high)}
            case "FREE":
                return self._free_words(token)
        raise slip_at(token, f"{token}: a number from 1 up is meant here")

    def _free_words(self, token: Token) -> dict[str, Any]:
        text = " ".join(token.split())
        first = text.split()[0].lower()
        if near := words.nearest(first, ("tempo", "pause", "switch"), 75):
            example = {"tempo": "tempo 30X0", "pause": "pause 2 s", "switch": "switch every 5"}
            value = re.search(_DETAIL_VALUES[near], text, re.IGNORECASE)
            word = "switch every" if near == "switch" else near
            mended = f"{word} {value[0]}" if value else None
            raise slip_at(token, f'"{text}": write it as {mended or example[near]}', mended)
        if near := words.nearest(text, words.DETAIL_WORDS, 80):
            raise slip_at(token, f'"{text}": did you mean {near}?', near)
        return {"note": text}

    def load(self, items: list[Token]) -> dict[str, Any]:
        token = items[0]
        text = " ".join(token.lower().split())
        values = pair_of(text)
        match token.type:
            case "WEIGHT":
                counted = re.match(r"(\d+)\s*[x×]\s*(.*)", text)
                count = int(counted[1]) if counted else 1
                values = pair_of(counted[2] if counted else text)
                if not 0 < count <= 10 or not all(0 < v <= 2000 for v in values):
                    raise slip_at(token, f"{token}: no such load")
                unit: Literal["kg", "lb"] = "kg" if "k" in text else "lb"
                return {"load": plan.Weight(values=values, unit=unit, count=count)}
            case "HEIGHT" if all(v > 0 for v in values):
                height: Literal["cm", "in"] = "cm" if text.endswith("cm") else "in"
                return {"load": plan.Height(values=values, unit=height)}
            case "PERCENT" if all(0 < v <= 200 for v in values):
                high = values[1] if len(values) > 1 else None
                if high is not None and high <= values[0]:
                    raise slip_at(token, f"{token}: the higher percentage comes second")
                return {"load": plan.Percent(low=values[0], high=high)}
            case "BODYWEIGHT" if 0 < values[0] <= 10:
                return {"load": plan.Bodyweight(factor=values[0])}
            case "RPE" if 1 <= values[0] <= 10:
                return {"load": plan.Effort(rpe=values[0])}
            case "RPE":
                raise slip_at(token, f"{token}: effort runs from RPE 1 to RPE 10")
            case "FEEL":
                feel: Literal["heavy", "light"] = "heavy" if text == "heavy" else "light"
                return {"load": plan.Feel(word=feel)}
        if re.fullmatch(r"[\d./ x×]+", text):
            raise slip_at(
                token, f"{token}: in which unit? write {token} kg or {token} lb", f"{token} kg"
            )
        raise slip_at(
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
            # A dot or a dash at its end is none of it, as long as it says something at all.
            bare = name.strip(" .,;:-")
            fields["movement"] = bare if re.match(r"[A-Za-z]", bare) else name
            start = token.start_pos or 0
            near, at, end = _nearest_in(name, self.library)
            hint = f"; did you mean {near}?" if near else f"; {ADD_IT}"
            whole = token.index(name) if name in token else 0
            self.slips.append(
                Slip(
                    f'"{name}": no such movement{hint}',
                    start + whole + at,
                    start + whole + end,
                    near,
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


_KEPT = re.compile(
    r"@?[\d/.,x]+(?:kg|lb|cm|in|m|s|%)?|kg|lb|cm|alternating|left|right|each|per|side|leg|arm"
    r"|unbroken|strict|slow|weighted|single|one",
    re.IGNORECASE,
)
"""What may stand beside a misspelt movement and is kept as it is."""


def _nearest_in(name: str, library: Library) -> tuple[str | None, int, int]:
    """The movement that the words of a name mean, and from where to where they say it.

    Numbers and details around a misspelt movement are none of it: they stay as written.
    """
    words = list(re.finditer(r"\S+", name))
    for length in range(len(words), 0, -1):
        for first in range(len(words) - length + 1):
            around = [*words[:first], *words[first + length :]]
            if not all(_KEPT.fullmatch(one[0]) for one in around):
                continue
            start, end = words[first].start(), words[first + length - 1].end()
            if near := library.nearest(name[start:end]):
                return near.name, start, end
    return None, 0, len(name)


def _unit(token: Token) -> Literal["s", "m", "cal"]:
    text = token.lower()
    if text.startswith("c"):
        return "cal"
    return "s" if text.startswith("s") else "m"


def _ranged(text: Token, token: Token, unit: str, low: int, high: int) -> plan.Amount:
    """An amount up to another by the athlete's choice; the lower one is planned."""
    if unit == "cal":
        raise slip_at(text, f"{text} {token}: write one number of calories, or one a track: 12/10")
    if unit == "m" and not token.lower().startswith("min"):
        factor = 1000 if token.lower() == "km" else 1
        _distance(text, (float(high * factor),))
        return _distance(text, (float(low * factor),)).model_copy(
            update={"high_m": float(high * factor)}
        )
    factor = 60 if token.lower().startswith("min") else 1
    return plan.Duration(seconds=low * factor, high_s=high * factor)


def _distance(token: Token, metres: tuple[float, ...]) -> plan.Distance:
    if not all(MIN_M <= metre <= MAX_M for metre in metres):
        raise slip_at(token, f"{token}: a distance here is between 1 m and 100 km")
    return plan.Distance(metres=metres)


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


_SETS = re.compile(r"(\d{1,2})\s*[x×]\s*(\d{1,3})\s+(?=[a-zA-Z])")
"""Sets of a line: `3x10 rows`."""


@lru_cache(maxsize=4096)
def read_task(text: str, library: Library) -> Reading:
    """A task line; raises Slip where the text cannot be read."""
    check_digits(text)
    if many := _SETS.match(text):
        raise Slip(
            f"{many[1]}x{many[2]}: how often is said in the heading, as in ## Strength: {many[1]} "
            f"sets; here write {many[2]}",
            0,
            many.end(),
            f"{many[2]} ",
        )
    try:
        tree = task_tree(text)
    except UnexpectedInput as error:
        raise _task_slip(text, error) from None
    reading: Reading = run(_TaskReader(library), tree)
    return reading


def _task_slip(text: str, error: UnexpectedInput) -> Slip:
    at = min(where(text, error), len(text))
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
