"""Scores that are measured: time, load, put-downs, distance, calories; and done."""

from __future__ import annotations

import re

from pine_ladder.core import plan
from pine_ladder.core.clock import clock
from pine_ladder.core.plan import ScoreKind, Seconds
from pine_ladder.core.scores.kinds import (
    CAPPED_KEY,
    Refused,
    Rounds,
    Score,
    reps_in_all,
    reps_in_round,
    reps_of_round,
)
from pine_ladder.core.scores.shorthand.counted import partly
from pine_ladder.core.scores.shorthand.parts import (
    FASTEST_M_PER_S,
    MAX_LOAD_KG,
    PUT_DOWN_KEY,
    TIME,
    Context,
    Extras,
    check_fits,
    extra_words,
    extras_of,
    number_of,
    seconds_of,
    split_rounds,
    tie_of,
    times_of,
    told_splits,
)
from pine_ladder.core.units import clock_text, lb_to_kg, number_text

MOST_SETS = 20
"""A number before an x beyond this is a load, not sets (common practice, no source)."""


_TENTHS = re.compile(r"(?<=\d:\d\d)[.,]\d{1,2}(?!\d)")
"""Tenths and hundredths behind a time: places go by whole seconds."""
_FAILED = re.compile(r"(?:f|fail(?:ed)?|miss(?:ed)?|no lift|\d{1,2}x)")
"""A set that was not made: `f`, `miss`, `3x` behind the sets before it."""


def _capped(left: int, at: Context, extras: Extras) -> Score:
    if not at.piece.cap_s:
        raise Refused("this piece has no cap; write the time, as in 12:43")
    whole = reps_in_all(at.piece, at.tier, at.track)
    if whole and left > whole:
        raise Refused(f"{left} reps left, but the whole piece has {whole}")
    extras, tie = tie_of(extras, at.piece, len(extras.splits))
    return Score(
        kind=ScoreKind.TIME,
        value={"capped": True, "reps_left": left, **told_splits(extras)},
        display=(f"cap+{left}" if left else "cap") + extra_words(extras, True),
        order_key=CAPPED_KEY - left + tie,
        total_reps=whole - left if whole else None,
        rounds=split_rounds(extras),
    )


def _got_to(body: str, at: Context) -> tuple[int, int] | None:
    """Full rounds and reps of a piece that was not finished: `1 round + 30 swings`."""
    plain = re.fullmatch(
        r"(\d{1,4})\s*(?:r|rds?|rounds?)\s*(?:\+|,|and)\s*(\d{1,5})(?:\s*reps?)?", body
    )
    return (int(plain[1]), int(plain[2])) if plain else partly(body, at)


def _not_finished(text: str, told: tuple[int, int], at: Context, extras: Extras) -> Score:
    whole = reps_in_all(at.piece, at.tier, at.track)
    full, reps = told
    before = at.piece.model_copy(
        update={"blocks": (plan.Block(lines=at.piece.buy_in),), "grow_reps": None}
    )
    done = reps + reps_in_round(before, 1, at.tier, at.track)
    done += sum(reps_of_round(at.piece, r, at.tier, at.track) for r in range(1, full + 1))
    if whole is None or done >= whole:
        raise Refused(f"“{text}” is all of it: write the time, as in 12:43")
    score = _capped(whole - done, at, extras)
    return score.model_copy(update={"reading": f"{done} of {whole} reps: {score.display}"})


def time(text: str, at: Context) -> Score:
    """A time, or the cap and the reps left: `12:43`, `cap+14`."""
    piece = at.piece
    body, extras = extras_of(text)
    if match := re.fullmatch(r"cap(?:ped)?(?:\s*\+?\s*(\d{1,5}))?(?:\s*(?:reps?|left))*", body):
        return _capped(int(match[1] or 0), at, extras)
    body = re.sub(r"^cap(?:ped)?\s*(?:at\s*|:\s*)?(?=\d+\s*(?:\+|r|rds?\b|rounds?\b))", "", body)
    if piece.cap_s and (bare := re.fullmatch(r"(\d{1,2})\s*\+\s*(\d{1,5})", body)):
        # `2+20`: two rounds and twenty reps of a piece that was not finished.
        body = f"{bare[1]} rounds + {bare[2]}"
    if piece.cap_s and (reps := re.fullmatch(r"(\d{1,5})\s*reps?(?:\s*done)?", body)):
        return _not_finished(text, (0, int(reps[1])), at, extras)
    body = _TENTHS.sub("", body)
    if re.search(r"\d\s*(?:r|rds?|rounds?)\b", body) and (told := _got_to(body, at)):
        return _not_finished(body, told, at, extras)
    parts = _parts_of(body)
    if not body and extras.splits:
        parts = list(extras.splits)
    seconds = sum(parts)
    if len(parts) > 1 and not extras.splits:
        extras = extras._replace(splits=tuple(parts))
    if seconds == 0:
        raise Refused("0:00: nobody is that fast")
    if piece.cap_s and seconds > piece.cap_s:
        raise Refused(
            f"{clock_text(seconds)} is past the cap of {clock_text(piece.cap_s)}: "
            "write cap+ and the reps that were left"
        )
    least = clock(piece).at_least_s
    if least and seconds < least:
        raise Refused(f"{clock_text(least)} of work cannot be gathered in {clock_text(seconds)}")
    whole = reps_in_all(piece, at.tier, at.track)
    if whole:
        check_fits(whole, seconds, body)
    if sum(extras.splits) > seconds:
        raise Refused(
            f"the splits add up to {clock_text(sum(extras.splits))}, more than "
            f"{clock_text(seconds)}"
        )
    extras, _ = tie_of(extras, piece, len(extras.splits))
    reading = None
    if len(parts) > 1:
        reading = " + ".join(map(clock_text, parts)) + f" = {clock_text(seconds)}"
    elif body != clock_text(seconds):
        reading = f"read as {clock_text(seconds)}"
    return Score(
        kind=ScoreKind.TIME,
        value={"seconds": seconds, **told_splits(extras)},
        display=clock_text(seconds) + extra_words(extras, piece.tie_break),
        order_key=-float(seconds),
        total_reps=whole,
        reading=reading,
        rounds=split_rounds(extras),
    )


def _parts_of(body: str) -> list[Seconds]:
    """One time, or the time of each round one after the other."""
    if re.fullmatch(r"\d{1,3} \d{2}", body):
        return [seconds_of(body.replace(" ", ":"))]
    if re.search(r"\d[\s,;+]+\d", body):
        return list(times_of(body.replace("+", " ")))
    return [seconds_of(body)] if body else []


def _one_load(text: str, entry: str) -> tuple[int, str | None, float, float, bool]:
    """Sets, reps, the number as written, kilograms, and whether it was in pounds."""
    turned = re.fullmatch(r"(\d{1,4}(?:[.,]\d{1,2})?)(kgs?|lbs?)?[x×](\d{1,2})", text)
    # What is lifted comes first where it says so, or is too much to be a count of sets.
    if turned and (turned[2] or number_of(turned[1]) > MOST_SETS):
        text = f"{turned[3]}@{turned[1]}{turned[2] or ''}"
    match = re.fullmatch(
        r"(?:(?:(\d{1,2})\s*[x×]\s*)?(\d{1,3})\s*@\s*)?(\d{1,4}(?:[.,]\d{1,2})?)\s*(kg|kgs|lb|lbs)?",
        text,
    )
    if not match:
        raise Refused(f"“{entry}”: write the load, as in 80, 80 kg, 175 lb or 3x5@80")
    value = number_of(match[3])
    pounds = bool(match[4]) and match[4].startswith("l")
    kilograms = lb_to_kg(value) if pounds else value
    if not 0 < kilograms <= MAX_LOAD_KG:
        raise Refused(f"“{entry}”: loads run from above 0 to {MAX_LOAD_KG} kg")
    return int(match[1] or 1), match[2], value, kilograms, pounds


def load(text: str, at: Context) -> Score:
    """A load, or sets of them; the heaviest counts."""
    worded = re.sub(r"(?<=\d)\s*(?:reps?|sets? of)?\s*\b(?:at|with)\b\s*", "@", text)
    worded = re.sub(r"(?<=[\dgb])\s+for\s+(?=\d)", "x", worded)
    joined = re.sub(r"(?<=\d)\s+(?=kg|lb)", "", re.sub(r"\s*([@x×])\s*", r"\1", worded))
    joined = re.sub(r"(?<=x\d)\s*reps?\b|(?<=x\d\d)\s*reps?\b", "", joined)
    # A comma before one or two digits and a unit, or at the end of a lone number, is a decimal.
    lone = re.fullmatch(r"\d{1,3},\d{1,2}(?:kgs?|lbs?)?", joined)
    parts = [joined] if lone else [p for p in re.split(r"[\s;/]+|,(?=\s|\d{2,})", joined) if p]
    made = [part for part in parts if not _FAILED.fullmatch(part)]
    if parts and not made:
        raise Refused(f"“{text}”: no set was made; write the heaviest that was, or dnf")
    sets = [_one_load(part, text) for part in made]
    if not sets:
        raise Refused(f"“{text}”: write the load, as in 80, 80 kg, 175 lb or 3x5@80")
    number, reps, value, kilograms, pounds = max(sets, key=lambda one: one[3])
    shown = f"{number_text(value)} {'lb' if pounds else 'kg'}"
    times = f"{number}x" if number > 1 else ""
    display = f"{times}{reps}@{shown}" if reps else shown
    reading = f"{shown} is {kilograms:.1f} kg" if pounds else None
    if len(sets) > 1:
        reading = f"heaviest of {len(sets)} sets is {shown}"
    numbers = tuple(round(kg, 3) for n, _, _, kg, _ in sets for _ in range(n))
    return Score(
        kind=ScoreKind.LOAD,
        value={
            "kg": round(kilograms, 3),
            "sets": str(number) if number > 1 else None,
            "reps": reps,
            **({"set_kg": list(numbers)} if len(numbers) > 1 else {}),
        },
        display=display,
        order_key=kilograms,
        reading=reading,
        rounds=Rounds(unit="kg", numbers=numbers) if len(numbers) > 1 else None,
    )


def put_downs(text: str, at: Context) -> Score:
    """Put-downs and the time, in either order."""
    text = re.sub(r"\bput[ -]?down (\d{1,4}) times?\b", r"\1 put-downs", text)
    text = re.sub(r"\b(?:unbroken|ub|no put-?downs?|never put down)\b", "0", text)
    time_first = re.fullmatch(rf"({TIME})[\s,;/]+(?:with\s+)?(\d{{1,4}}(?!\d|\s*s\b).*)", text)
    if time_first:
        text = f"{time_first[2]} {time_first[1]}"
    match = re.fullmatch(
        r"(\d{1,4})(?!\d|[:.]|\s*(?:m|min)\b)\s*(?:put-?downs?|drops?|breaks?)?"
        rf"\s*(?:[,;/@]|in|and)?\s*({TIME})?",
        text,
    )
    if not match:
        raise Refused(f"“{text}”: write the put-downs and the time, as in 3 12:43")
    downs = int(match[1])
    seconds = seconds_of(match[2]) if match[2] else None
    if at.piece.cap_s and seconds and seconds > at.piece.cap_s:
        raise Refused(f"{clock_text(seconds)} is past the cap of {clock_text(at.piece.cap_s)}")
    told = f" {clock_text(seconds)}" if seconds is not None else ""
    # Without a time the slowest is meant, so that a time is never worse than none.
    behind = PUT_DOWN_KEY - 1 if seconds is None else seconds
    return Score(
        kind=ScoreKind.PUT_DOWNS,
        value={"number": downs, "seconds": seconds},
        display=f"{downs} put-down{'' if downs == 1 else 's'}{told}",
        order_key=-float(downs * PUT_DOWN_KEY + behind),
    )


def distance(text: str, at: Context) -> Score:
    """A distance, in metres unless told."""
    # A thousand is often parted from what follows: 1,500 m are no metre and a half.
    text = re.sub(r"^(\d{1,3})[., ](\d{3})(?=\s*(?:m|met(?:re|er)s?)?$)", r"\1\2", text)
    text = re.sub(r"(?<=\d)\s*k$", " km", text)
    match = re.fullmatch(r"(\d{1,6}(?:[.,]\d{1,3})?)\s*(m|metres?|meters?|km|mi|miles?)?", text)
    if not match:
        raise Refused(f"“{text}”: write the distance, as in 1500, 1500 m or 1.5 km")
    unit = match[2] or "m"
    scale = 1000.0 if unit == "km" else 1609.344 if unit.startswith("mi") else 1.0
    metres = number_of(match[1]) * scale
    length = clock(at.piece).total_s
    if length and metres > FASTEST_M_PER_S * length:
        raise Refused(f"“{text}”: {metres:.0f} m in {clock_text(length)} cannot be")
    shown = number_text(round(metres, 1))
    return Score(
        kind=ScoreKind.DISTANCE,
        value={"number": round(metres, 1)},
        display=f"{shown} m",
        order_key=round(metres, 1),
        reading=f"{match[1]} {unit} is {shown} m" if scale != 1 else None,
    )


def calories(text: str, at: Context) -> Score:
    """Calories."""
    parts = re.split(r"\s*(?:[+&]|\band\b)\s*", text)
    told = [re.fullmatch(r"(\d{1,5})\s*(?:cals?|calories)?", part) for part in parts]
    numbers = [int(one[1]) for one in told if one]
    if len(numbers) < len(parts):
        raise Refused(f"“{text}”: write the calories, as in 48")
    length, total = clock(at.piece).total_s, sum(numbers)
    if length:
        check_fits(total, length * (at.piece.teams.size if at.piece.teams else 1), text)
    return Score(
        kind=ScoreKind.CALORIES,
        value={"number": total},
        display=f"{total} cal",
        order_key=float(total),
        reading=" + ".join(map(str, numbers)) + f" = {total}" if len(numbers) > 1 else None,
    )


def done(text: str, at: Context) -> Score:
    """Ticked off."""
    if text not in ("done", "d", "yes", "y", "x", "ok", "✓"):
        raise Refused(f"“{text}”: this piece is only ticked off; write done")
    return Score(kind=ScoreKind.DONE, value={"done": True}, display="done", order_key=1.0)
