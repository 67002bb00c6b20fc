"""The heading of a piece: what follows its colon, read into a format and modifiers."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Any, NamedTuple

from lark import Token, Transformer, Tree
from lark.exceptions import UnexpectedInput

from pine_ladder.core import plan
from pine_ladder.core.notation import words
from pine_ladder.core.notation.tokens import (
    MAX_COUNT,
    WHOLE_LINE,
    Slip,
    check_digits,
    count_of,
    grammar,
    numbers_of,
    positive_seconds,
    range_of,
    rounds_of,
    rounds_range,
    run,
    seconds_of,
    slip_at,
    token_of,
    tokens_of,
    where,
)

HEADING = grammar("heading.lark")


class Heading(NamedTuple):
    """Format and modifiers of a piece heading."""

    format: plan.Format
    modifiers: dict[str, Any]


@lru_cache(maxsize=4096)
def heading_tree(text: str) -> Tree[Token]:
    """Lark's tree of a heading's format and modifiers."""
    return HEADING.parse(text)


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
                elif field == "meant":
                    merged[field] = (*merged.get(field, ()), value)
                elif field in merged:
                    raise slip_at(token, f"{token} is given twice")
                else:
                    merged[field] = value
        if merged.get("rest") and merged.get("rest_as_needed"):
            raise Slip("rest is given twice: a time, or as needed", 0, WHOLE_LINE)
        if teams_at is not None:
            if size is None:
                raise slip_at(teams_at, f"{teams_at}: of how many? write teams of 2, {how}")
            if how is None:
                raise slip_at(
                    teams_at, f"teams of {size}: do they alternate, share the work, or go together?"
                )
            merged["teams"] = plan.Teams(size=size, how=how)
        return Heading(chosen, merged)

    def rounds(self, items: list[Token]) -> plan.Format:
        low, high = range_of(items[0])
        return plan.Rounds(low=low, high=high)

    def rounds_for_time(self, items: list[Token]) -> plan.Format:
        return plan.ForTime(rounds=rounds_of(items[0]))

    def sets(self, items: list[Token]) -> plan.Format:
        low, high = range_of(items[0])
        return plan.Sets(low=low, high=high)

    def scheme_for_time(self, items: list[Token]) -> plan.Format:
        return plan.ForTime(scheme=numbers_of(items[0]))

    def for_time(self, items: list[Token]) -> plan.Format:
        return plan.ForTime()

    def amrap(self, items: list[Token]) -> plan.Format:
        length_s, high_s = _lengths(items[1:])
        return plan.Amrap(length_s=length_s, high_s=high_s)

    def every(self, items: list[Token]) -> plan.Format:
        numbers = token_of(items, "NUMS")
        rounds, high = rounds_range(numbers) if numbers is not None else (None, None)
        return plan.Every(
            interval_s=positive_seconds(items[1]),
            rounds=rounds,
            high=high,
            said=token_of(items, "ROUNDS") is not None,
        )

    def emom(self, items: list[Token]) -> plan.Format:
        length_s, high_s = _lengths(items[1:])
        for token, seconds in zip(items[1:], (length_s, high_s), strict=False):
            if seconds and seconds % 60:
                raise slip_at(token, f"an EMOM lasts whole minutes, not {token}")
        return plan.Emom(length_s=length_s, high_s=high_s)

    def intervals(self, items: list[Token]) -> plan.Format:
        work, rest = tokens_of(items, "TIME")
        rounds = token_of(items, "NUMS")
        assert rounds is not None
        low, high = rounds_range(rounds)
        return plan.Intervals(
            work_s=positive_seconds(work), rest_s=seconds_of(rest), rounds=low, high=high
        )

    def tabata(self, items: list[Token]) -> plan.Format:
        numbers = token_of(items, "NUMS")
        if numbers is None:
            return plan.Tabata()
        low, high = range_of(numbers)
        if low != 1 or high is None:
            raise slip_at(numbers, "a Tabata is done once; for more write a block each, or x 1-3")
        return plan.Tabata(high=high)

    def accumulate(self, items: list[Token]) -> plan.Format:
        return plan.Accumulate()

    def continuous(self, items: list[Token]) -> plan.Format:
        return plan.Continuous(length_s=positive_seconds(items[1]))

    def rest_piece(self, items: list[Token]) -> plan.Format:
        return plan.Rest(length_s=positive_seconds(items[0]))

    def rest(self, items: list[Token]) -> Any:
        low, high = items[1], items[2] if len(items) > 2 else None
        low_s, high_s = positive_seconds(low), positive_seconds(high) if high else None
        if high is not None and high_s is not None and high_s <= low_s:
            raise slip_at(high, f"the longer rest comes second: {high} is not longer than {low}")
        return items[0], {"rest": plan.Span(low_s=low_s, high_s=high_s)}

    def rest_as_needed(self, items: list[Token]) -> Any:
        return items[0], {"rest_as_needed": True}

    def cap(self, items: list[Token]) -> Any:
        return items[0], {"cap_s": positive_seconds(items[1])}

    def build(self, items: list[Token]) -> Any:
        return items[0], {"build": True}

    def for_quality(self, items: list[Token]) -> Any:
        return items[0], {"for_quality": True}

    def score(self, items: list[Token]) -> Any:
        kind = words.score_named(items[1])
        if kind is None:
            near = words.nearest(items[1].strip(), [k.value for k in plan.ScoreKind])
            known = ", ".join(plan.ScoreKind)
            raise slip_at(
                items[1],
                f'"{items[1].strip()}": no such score; '
                + (f"did you mean {near}?" if near else f"one of {known}"),
                near,
            )
        return items[0], {"score": kind}

    def tie_break(self, items: list[Token]) -> Any:
        return items[0], {"tie_break": True}

    def pace(self, items: list[Token]) -> Any:
        word = items[1].strip().lower()
        if word not in ("steady", "hard"):
            near = words.nearest(word, ["steady", "hard"], 0)
            raise slip_at(items[1], f'"{word}": pace is steady or hard', near)
        return items[0], {"pace": word}

    def target_count(self, items: list[Token]) -> Any:
        low, high = range_of(items[1])
        unit = "rounds" if items[2].lower().startswith("round") else "reps"
        target = plan.Target(unit=unit, low=low, high=low if high is None else high)
        return items[0], {"target": target}

    def target_time(self, items: list[Token]) -> Any:
        low, high = positive_seconds(items[1]), positive_seconds(items[2])
        if high <= low:
            raise slip_at(items[2], f"the later time comes second, not {items[2]}")
        return items[0], {"target": plan.Target(unit="time", low=low, high=high)}

    def work(self, items: list[Token]) -> Any:
        return items[0], {"work_s": positive_seconds(items[1])}

    def aim(self, items: list[Token]) -> Any:
        return items[0], {"aim_s": positive_seconds(items[1])}

    def grow(self, items: list[Token]) -> Any:
        token = items[0]
        sign = -1 if token.startswith("-") else 1
        number = re.search(r"\d+", token)
        assert number is not None
        if not 0 < int(number[0]) <= MAX_COUNT:
            raise slip_at(token, f"{token} changes nothing")
        return token, {"grow_reps": sign * int(number[0])}

    def until_missed(self, items: list[Token]) -> Any:
        return items[0], {"until_missed": True}

    def teams(self, items: list[Token]) -> Any:
        size = count_of(items[1])
        if size < 2:
            raise slip_at(items[1], "a team has at least two athletes")
        return items[0], {"size": size}

    def how(self, items: list[Token]) -> Any:
        return items[0], {"how": items[0].lower()}

    def heats(self, items: list[Token]) -> Any:
        return items[0], {"heats": count_of(items[1])}

    def purpose(self, items: list[Token]) -> Any:
        word = " ".join(items[0].lower().removeprefix("for").replace(":", " ").split())
        return items[0], {"purpose": plan.Purpose(word)}

    def meant(self, items: list[Token]) -> Any:
        return items[0], {"meant": "-".join(items[1].lower().split())}


def _lengths(tokens: list[Token]) -> tuple[int, int | None]:
    """A length, or the shorter and the longer the coach chooses between; raises Slip."""
    low = positive_seconds(tokens[0])
    if len(tokens) == 1:
        return low, None
    high = positive_seconds(tokens[1])
    if high <= low:
        raise slip_at(tokens[1], f"the longer time comes second: {tokens[1]} is not longer")
    return low, high


@lru_cache(maxsize=4096)
def read_heading(text: str) -> Heading:
    """Format and modifiers of a piece; raises Slip where the text cannot be read."""
    check_digits(text)
    try:
        tree = heading_tree(text)
    except UnexpectedInput as error:
        raise _heading_slip(text, error) from None
    heading: Heading = run(_HeadingReader(), tree)
    return heading


def _heading_slip(text: str, error: UnexpectedInput) -> Slip:
    at = where(text, error)
    first = "," not in text[:at]
    start = text.rfind(",", 0, at) + 1
    start += len(text[start:]) - len(text[start:].lstrip())
    comma = text.find(",", at)
    part = text[start : comma if comma >= 0 else len(text)].strip()
    end = max(start + len(part), start + 1)
    if first and not part:
        return Slip(
            "how is this piece timed? for example 3 rounds, AMRAP 12:00, EMOM 10:00",
            start,
            end,
            ways=(" for time", " AMRAP 12:00", " 3 rounds", " EMOM 10:00"),
        )
    if not part:
        return Slip("a modifier is missing after the comma", start, end)
    if missing := _missing_time(part):
        return Slip(missing[0], start, end, missing[1])
    choices = words.FORMAT_WORDS if first else words.MODIFIER_WORDS
    letters = re.sub(r"[\d:/×-]|\bx\b", " ", part).strip()
    near = words.nearest(" ".join(letters.split()), choices) if letters else None
    replacement = part.replace(letters, near) if near and letters in part else None
    if replacement and not _stands(replacement, first):
        replacement = None
    what = "a format" if first else "a modifier"
    if near and near.lower() in _NEEDS and not replacement:
        return Slip(f'"{part}" is not {what}; {near}: {_NEEDS[near.lower()]}', start, end)
    if near and replacement and replacement.lower() != part.lower():
        return Slip(f'"{part}" is not {what}; did you mean {replacement}?', start, end, replacement)
    known = ", ".join(choices)
    return Slip(f'"{part}" is not {what}; expected one of: {known}', start, end)


def _stands(part: str, is_format: bool) -> bool:
    """Whether a part of a heading would read: only such a part is worth suggesting."""
    try:
        run(_HeadingReader(), heading_tree(part if is_format else f"3 rounds, {part}"))
    except (UnexpectedInput, Slip):
        return False
    return True


_NEEDS = {
    "amrap": "how long? write AMRAP 12:00",
    "emom": "how long? write EMOM 12:00",
    "every": "how often and how many rounds? write every 2:00 x 5",
    "intervals": "write work/rest and the rounds: intervals 0:40/0:20 x 4",
    "interval": "write work/rest and the rounds: intervals 0:40/0:20 x 4",
    "continuous": "how long? write continuous 10:00",
    "rest": "how long? write rest 1:30 or rest 1:30-2:00",
    "cap": "how long? write cap 12:00",
    "work": "after how many seconds of each window does the work end? write work 0:40",
    "aim": "how many seconds of work do you hope for in each window? write aim 0:40",
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
    if found[2] and word in ("rest", "work", "aim"):
        return f"{part}: minutes or seconds? write {found[1]} {found[2]} s", (
            f"{found[1]} {found[2]} s"
        )
    return f"{found[1]}: {_NEEDS[word]}", None
