"""Days of a class said at random as coaches say them, each with the exact board it means.

A day draws its habit once (labels, marks of lists, order of count and name, loads, words for times)
and tells every part in it: line by line, in one line a part, in sentences, or as a table. The words
are common practice, no source.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from typing import NamedTuple

from pine_ladder.core.units import clock_text

WAYS = {
    "burpee": ("burpees", "burpee"),
    "push-up": ("push-ups", "pushups", "press-ups"),
    "pull-up": ("pull-ups", "pullups"),
    "toes-to-bar": ("toes to bar", "T2B"),
    "sit-up": ("sit-ups", "situps"),
    "air squat": ("air squats", "squats"),
    "box step-up": ("box step-ups", "step-ups"),
    "wall ball": ("wall balls", "wall ball shots"),
    "kettlebell swing": ("kettlebell swings", "KB swings", "KBS"),
    "thruster": ("thrusters", "thruster"),
    "power clean": ("power cleans", "p. cleans"),
    "goblet squat": ("goblet squats", "goblet sq"),
    "double-under": ("double unders", "DU"),
    "ring row": ("ring rows", "RR"),
    "hanging knee raise": ("hanging knee raises", "HKR"),
}
"""Ways to say a movement; the last may be an abbreviation."""
EASY = ("air squat", "push-up", "ring row", "sit-up", "burpee")
LIFTS = {
    "back squat": ("back squat", "back squats"),
    "front squat": ("front squat", "FS"),
    "deadlift": ("deadlift", "deadlifts"),
    "bench press": ("bench press", "bench"),
    "strict press": ("strict press", "press"),
}
LOADS = {
    "wall ball": (9, 6), "kettlebell swing": (24, 16), "thruster": (43, 30),
    "power clean": (60, 40), "goblet squat": (24, 16),
}  # fmt: skip
"""Kilograms of the heavier and the lighter track."""
NUMBERS = {
    2: "two", 3: "three", 4: "four", 5: "five", 6: "six", 8: "eight", 10: "ten", 12: "twelve",
    15: "fifteen", 20: "twenty",
}  # fmt: skip
STEPS = ("21-15-9", "15-12-9", "27-21-15-9", "10-8-6-4-2")


class Told(NamedTuple):
    """A part as it is told: its role, its heading, its rows, and the exact piece it means."""

    role: str
    head: str
    rows: list[str]
    exact: str


class Habit:
    """The habits of one board: all its parts are told in them."""

    def __init__(self, seed: int) -> None:
        self.draw = random.Random(seed)
        self.in_full = False
        """Movements are never abbreviated: nobody dictates `RR`."""
        self.words = self.draw.random() < 0.2
        self.load = self.of("@ {0}/{1}", "({0}/{1})", "{0}/{1} kg", "({0}/{1} kg)", "@{0}/{1}kg")
        orders = ("{n} {m}", "{n} {m}", "{n}x {m}", "{m} x {n}", "{m} {n}")
        self.count = self.of(*(orders[:2] if self.words else orders))
        self.minutes = self.of("{} min", "{} minutes", "{}min", "{}'")
        self.roles = self.of(
            ("Warm-up", "Strength", "Conditioning"),
            ("WU", "Str", "Metcon"),
            ("warm up", "lift", "workout"),
        )

    def of(self, *some):
        """One of several, drawn."""
        return self.draw.choice(some)

    def number(self, value: int) -> str:
        """A number, in a word where the board is told in words."""
        return NUMBERS.get(value, str(value)) if self.words else str(value)

    def time(self, minutes: int) -> str:
        """Minutes as the board tells them."""
        return f"{self.number(minutes)} minutes" if self.words else self.minutes.format(minutes)

    def work(self, name: str, count: int, *, loaded: bool = True) -> tuple[str, str]:
        """A counted movement as it is told, and exactly."""
        way = WAYS[name][0] if self.in_full else self.of(*WAYS[name])
        text = self.count.format(n=self.number(count), m=way)
        if not loaded or name not in LOADS:
            return text, f"{count} {name}"
        heavier, lighter = LOADS[name]
        load = self.load.format(heavier, lighter)
        return f"{text} {load}", f"{count} {name} @ {heavier}/{lighter} kg"

    def several(self, names: Sequence[str], many: int, *, loaded: bool = True):
        """Several counted movements: how they are told, and exactly."""
        drawn = self.draw.sample(list(names), many)
        made = [self.work(name, self.of(5, 8, 10, 12, 15), loaded=loaded) for name in drawn]
        return [text for text, _ in made], [exact for _, exact in made]


def warm_up(habit: Habit) -> Told:
    """Rounds of easy work."""
    rounds = habit.of(2, 3)
    rows, exact = habit.several(EASY, 3, loaded=False)
    head = habit.of("{} rounds", "{} rds", "{} easy rounds", "{} rounds of").format(
        habit.number(rounds)
    )
    return Told(habit.roles[0], head, rows, f"## Warm-up: {rounds} rounds\n" + "\n".join(exact))


def strength(habit: Habit) -> Told:
    """Sets of a lift, by rest or by the clock."""
    lift, sets, reps = habit.of(*LIFTS), habit.of(4, 5), habit.of(3, 5, 6)
    said, percent, rest = habit.of(*LIFTS[lift]), habit.of(70, 75, 80), habit.of(2, 3)
    time = habit.time(rest)
    effort = habit.of(f"@ {percent}%", f"at {percent}%", f"({percent}%)")
    counted = habit.of(f"{said} {sets}x{reps}", f"{sets} sets of {reps} {said}")
    line = f"{reps} {lift} @ {percent}%"
    if habit.draw.random() < 0.5:
        pause = habit.of(
            f"rest {time}", f"{time} rest", f"rest {time} between", f"with {time} rest"
        )
        row = f"{counted} {effort}, {pause}"
        return Told(habit.roles[1], "", [row], f"## Strength: {sets} sets, rest {rest}:00\n{line}")
    every = habit.of(f"every {time} x {sets}", f"every {time} for {sets} sets")
    row = f"{reps} {said} {effort}"
    return Told(habit.roles[1], every, [row], f"## Strength: every {rest}:00 x {sets}\n{line}")


def conditioning(habit: Habit) -> Told:
    """An AMRAP, rounds for time, a scheme, an EMOM or intervals."""
    form, minutes = habit.of("amrap", "rounds", "steps", "emom", "repeats"), habit.of(8, 10, 12, 15)
    role = habit.roles[2]
    if form == "amrap":
        rows, exact = habit.several(list(WAYS), habit.of(2, 3))
        time = habit.time(minutes)
        head = habit.of(
            f"AMRAP {minutes}", f"{time} AMRAP", f"AMRAP in {time}",
            f"as many rounds as possible in {time}",
        )  # fmt: skip
        return Told(role, head, rows, f"## Conditioning: AMRAP {minutes}:00\n" + "\n".join(exact))
    if form == "rounds":
        rounds = habit.of(3, 4, 5)
        rows, exact = habit.several(list(WAYS), habit.of(2, 3))
        head = habit.of("{} rounds for time", "{} RFT", "for time, {} rounds").format(
            habit.number(rounds)
        )
        head += habit.of(f", cap {minutes}", f", time cap {minutes} min", f" ({minutes} min cap)")
        first = f"## Conditioning: {rounds} rounds for time, cap {minutes}:00\n"
        return Told(role, head, rows, first + "\n".join(exact))
    if form == "steps":
        steps = habit.of(*STEPS)
        names = habit.draw.sample(["burpee", "pull-up", "toes-to-bar", "sit-up", "ring row"], 2)
        head = habit.of(
            steps, f"{steps} for time", f"for time: {steps}", f"{steps} reps for time of"
        )
        rows = [habit.of(*WAYS[name]) for name in names]
        return Told(role, head, rows, f"## Conditioning: {steps} for time\n" + "\n".join(names))
    if form == "emom":
        many = habit.of(2, 3)
        rows, exact = habit.several(list(WAYS), many)
        time = habit.time(many * 4)
        head = habit.of(f"EMOM {many * 4}", f"{time} EMOM", f"every minute for {time}")
        mark = habit.of("min {}: ", "{}) ", "minute {} - ")
        stations = [mark.format(at + 1) + row for at, row in enumerate(rows)]
        lines = [f"{at + 1}) {line}" for at, line in enumerate(exact)]
        first = f"## Conditioning: EMOM {many * 4}:00\n"
        return Told(role, head, stations, first + "\n".join(lines))
    often, metres, way = habit.of(4, 5, 6), habit.of(200, 400, 500), habit.of("run", "row")
    rest = habit.of(1, 2)
    row = habit.of("{0} x {1}m {2}", "{2} {0} x {1}m", "{0} rounds of {1}m {2}").format(
        often, metres, way
    )
    row += habit.of(", rest {}", ", {} rest", ", rest {} between").format(f"{rest} min")
    first = f"## Conditioning: {often} rounds for time, rest {rest}:00\n"
    return Told(role, "", [row], f"{first}{metres} m {way}")


def day(seed: int) -> tuple[str, str]:
    """A day as a coach types it, and the exact board it means."""
    habit = Habit(seed)
    parts = [conditioning(habit)]
    if habit.draw.random() < 0.7:
        parts.insert(0, strength(habit))
    if habit.draw.random() < 0.8:
        parts.insert(0, warm_up(habit))
    label = habit.of("letter", "number", "role", "capitals", "bold", "mark", "framed")
    text = "\n\n".join(
        _in_lines(habit, part, _label(label, part, at), label) for at, part in enumerate(parts)
    )
    title = habit.of("", "Monday\n\n", "WED 14 May\n\n")
    case: Callable[[str], str] = habit.of(str, str, str.lower, str.upper)
    return case(title + text), "\n\n".join(part.exact for part in parts)


def _label(kind: str, part: Told, at: int) -> str:
    """The mark or the role before a part's heading; `role` stands in a row of its own."""
    return {
        "letter": f"{'ABC'[at]}) {part.role}:", "number": f"{at + 1}) {part.role}:",
        "role": part.role, "capitals": part.role.upper(), "bold": f"**{part.role}**",
        "mark": f"## {part.role}", "framed": f"- {part.role} -",
    }[kind]  # fmt: skip


def _in_lines(habit: Habit, part: Told, label: str, kind: str) -> str:
    """A part row by row, or in one row behind its heading."""
    form = habit.of("rows", "rows", "bullets", "indented", "one")
    within = kind in ("letter", "number", "framed")
    if form == "one" and part.head:
        row = f"{part.head}: " + habit.of(", ", "; ").join(part.rows)
        return f"{label} {row}" if within else f"{label}\n{row}"
    bullet = "*" if kind == "framed" else "-"
    lead = {"bullets": f"{bullet} ", "indented": "  "}.get(form, "")
    if not part.head:
        return f"{label} {part.rows[0]}" if within else f"{label}\n{part.rows[0]}"
    head = f"{label} {part.head}" if within else f"{label}\n{part.head}"
    return "\n".join([head, *(f"{lead}{row}" for row in part.rows)])


def sentences(seed: int) -> tuple[str, str]:
    """A day told in sentences, as it is dictated, and the exact board it means."""
    habit = Habit(seed)
    habit.words, habit.count, habit.minutes = habit.draw.random() < 0.5, "{n} {m}", "{} minutes"
    habit.in_full = True
    habit.load = habit.of("at {0}/{1}", "with {0} kilos for the men and {1} for the women")
    rounds, minutes = habit.of(2, 3), habit.of(8, 10, 12, 15)
    easy, first = habit.several(EASY, 3, loaded=False)
    hard, last = habit.several(list(WAYS), 3)
    lift, sets, reps, rest = habit.of(*LIFTS), habit.of(4, 5), habit.of(3, 5), habit.of(2, 3)
    n, every = habit.number, habit.draw.random() < 0.5
    spoken = [
        habit.of(
            f"Warm-up is {n(rounds)} easy rounds: {_list(habit, easy)}.",
            f"We warm up with {n(rounds)} rounds of {_list(habit, easy)}.",
        ),
        habit.of(
            f"Strength is {lift}, {n(sets)} sets of {n(reps)}, one every {n(rest)} minutes.",
            f"Then every {n(rest)} minutes for {n(sets)} sets, {n(reps)} {lift}.",
        )
        if every
        else f"Then {lift}, {n(sets)} sets of {n(reps)}, rest {n(rest)} minutes.",
        habit.of(
            f"Workout is a {n(minutes)} minute AMRAP of {_list(habit, hard)}.",
            f"Workout is {n(minutes)} minutes, as many rounds as possible of {_list(habit, hard)}.",
        ),
    ]
    lifted = f"every {rest}:00 x {sets}" if every else f"{sets} sets, rest {clock_text(60 * rest)}"
    exact = [
        f"## Warm-up: {rounds} rounds\n" + "\n".join(first),
        f"## Strength: {lifted}\n{reps} {lift}",
        f"## Conditioning: AMRAP {minutes}:00\n" + "\n".join(last),
    ]
    text = habit.of(" ", "\n", "\n\n").join(spoken)
    return habit.of(str, str, str.lower)(text), "\n\n".join(exact)


def _list(habit: Habit, items: Sequence[str]) -> str:
    """Items as a sentence lists them."""
    *others, last = items
    return ", ".join(others) + habit.of(" and ", ", ", ", then ") + last


def table(seed: int) -> tuple[str, str]:
    """A day as a table with a column for each tier, and the exact board it means."""
    habit = Habit(seed)
    bar = habit.of("\t", " | ", "|")
    tiers = habit.of(("RX", "SC"), ("Rx", "Scaled"), ("L2", "L1"))
    move, minutes = habit.of(*LOADS), habit.of(10, 12, 15)
    heavier, lighter = LOADS[move]
    easier = (round(heavier * 0.7), round(lighter * 0.7))
    lift, sets, reps, count = habit.of(*LIFTS), habit.of(4, 5), habit.of(3, 5), habit.of(6, 8, 10)
    rows = [
        ("Part", "Work", *tiers),
        ("Warm-up", "2 rds: 200m row", "", ""),
        ("", "10 air squats", "", ""),
        (habit.of("Strength", "A"), f"{habit.of(*LIFTS[lift])} {sets}x{reps}", "", ""),
        (habit.of("Metcon", "B"), f"AMRAP {minutes}", "", ""),
        ("", f"{count} {habit.of(*WAYS[move])}", f"{heavier}/{lighter} kg",
         f"{easier[0]}/{easier[1]} kg"),
        ("", "8 pull-ups", "", habit.of(*WAYS["ring row"])),
    ]  # fmt: skip
    exact = (
        "## Warm-up: 2 rounds\n200 m row\n10 air squat\n\n"
        f"## Strength: {sets} sets\n{reps} {lift}\n\n"
        f"## Conditioning: AMRAP {minutes}:00\n"
        f"{count} {move} @ {heavier}/{lighter} kg | @ {easier[0]}/{easier[1]} kg\n"
        "8 pull-up | ring row"
    )
    return "\n".join(bar.join(row) for row in rows), exact
