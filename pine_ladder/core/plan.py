"""A session as data: the parse of a board, frozen, each record with its line in the text."""

from __future__ import annotations

import datetime as dt
from enum import StrEnum
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

Seconds = int


class Frozen(BaseModel):
    """Base of all plan records: immutable, no unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)


class Placed(Frozen):
    """A record that knows its line in the board (1-based, 0 when made by hand).

    The line is where a thing stands, not what it is: two records that differ in line alone are
    equal, so that `parse(print(plan)) == plan` holds.
    """

    line: int = Field(default=0, repr=False)

    def _content(self) -> dict[str, Any]:
        return {name: value for name, value in self.__dict__.items() if name != "line"}

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Placed)
            and type(other) is type(self)
            and self._content() == other._content()
        )

    def __hash__(self) -> int:
        return hash((type(self), *self._content().values()))


class Reps(Frozen):
    """A count of repetitions; `high` makes it the athlete's choice, `grow` adds each round."""

    kind: Literal["reps"] = "reps"
    low: int
    high: int | None = None
    grow: int = 0


class Max(Frozen):
    """As many as possible; fills its window."""

    kind: Literal["max"] = "max"


class Trips(Frozen):
    """As many trips as possible over a distance in metres."""

    kind: Literal["trips"] = "trips"
    distance_m: float


class Duration(Frozen):
    """Work for a time, up to `high_s` by choice; `grow_s` seconds more each round."""

    kind: Literal["duration"] = "duration"
    seconds: Seconds
    grow_s: Seconds = 0
    high_s: Seconds | None = None


class Distance(Frozen):
    """Metres, one value or one a track; one value may reach up to `high_m` by choice."""

    kind: Literal["distance"] = "distance"
    metres: tuple[float, ...]
    high_m: float | None = None


class Calories(Frozen):
    """Calories on a machine, one value or one a track."""

    kind: Literal["calories"] = "calories"
    calories: tuple[int, ...]


class Scheme(Frozen):
    """The line's own numbers, one a round."""

    kind: Literal["scheme"] = "scheme"
    values: tuple[int, ...]
    unit: Literal["reps", "s", "m", "cal"] = "reps"


Amount = Annotated[
    Reps | Max | Trips | Duration | Distance | Calories | Scheme, Field(discriminator="kind")
]


class Weight(Frozen):
    """A weight, one value or one a track, of `count` implements."""

    kind: Literal["weight"] = "weight"
    values: tuple[float, ...]
    unit: Literal["kg", "lb"] = "kg"
    count: int = 1


class Percent(Frozen):
    """Percent of the athlete's best on the movement's parent lift."""

    kind: Literal["percent"] = "percent"
    low: float
    high: float | None = None


class Bodyweight(Frozen):
    """A multiple of the athlete's bodyweight."""

    kind: Literal["bodyweight"] = "bodyweight"
    factor: float


class Effort(Frozen):
    """Rating of perceived exertion, 1 to 10."""

    kind: Literal["effort"] = "effort"
    rpe: float


class Feel(Frozen):
    """A load told by a word."""

    kind: Literal["feel"] = "feel"
    word: Literal["heavy", "light"]


class Height(Frozen):
    """Height of a box or a hurdle, one value or one a track."""

    kind: Literal["height"] = "height"
    values: tuple[float, ...]
    unit: Literal["cm", "in"] = "cm"


Load = Annotated[
    Weight | Percent | Bodyweight | Effort | Feel | Height, Field(discriminator="kind")
]


class Aim(Frozen):
    """Reps the coach hopes for at a station, from the lower to the higher number."""

    low: int
    high: int


class Side(StrEnum):
    """Which side works. `EACH`: the amount is per side. `ALTERNATING`: it is the total."""

    EACH = "each side"
    ALTERNATING = "alternating"
    LEFT = "left"
    RIGHT = "right"


class Exercise(Frozen):
    """What one person does for one line: amount, movement, details and load.

    `movement` is the library's name, or the words as written when the library has none. A
    bracketed complex has `parts` and an empty `movement`. `amount` is None where the piece's
    scheme or interval gives it.
    """

    amount: Amount | None = None
    movement: str = ""
    parts: tuple[Exercise, ...] = ()
    side: Side | None = None
    one_arm: bool = False
    switch_every: int | None = None
    tempo: str | None = None
    pause_s: float | None = None
    unbroken: bool = False
    sets: int | None = None
    rest_s: Seconds | None = None
    """Rest that follows it each time, before what comes next."""
    aim: Aim | None = None
    load: Load | None = None
    note: str | None = None
    instead: tuple[Exercise, ...] = ()
    """The coach's alternatives for missing kit (`or`)."""

    @property
    def units(self) -> tuple[Exercise, ...]:
        """What is done one after the other: the parts of a complex, each with the load of the
        whole where it has none of its own, or the exercise itself.
        """
        return tuple(
            part if part.load or not self.load else part.model_copy(update={"load": self.load})
            for part in self.parts
        ) or (self,)


class Task(Frozen):
    """One line's work in as many versions as the coach wrote; the first is as written."""

    versions: tuple[Exercise, ...]

    def version(self, tier: int) -> Exercise:
        """The version of a tier (0 is as written); a missing one repeats the one before it."""
        return self.versions[min(tier, len(self.versions) - 1)]


class Line(Placed):
    """One line of a block: tasks done together, or a rest. A station where windows turn."""

    tasks: tuple[Task, ...] = ()
    """Empty for a rest station."""

    @property
    def is_rest(self) -> bool:
        """True for a station that only rests."""
        return not self.tasks


class Block(Placed):
    """Lines that run all their rounds before the next block begins."""

    lines: tuple[Line, ...] = ()
    numbered: bool = False
    """Lines are stations with a window each (`1)`, `2)`…)."""


class Rounds(Frozen):
    """Rounds for quality, not timed."""

    kind: Literal["rounds"] = "rounds"
    low: int
    high: int | None = None


class Sets(Frozen):
    """Sets of every line in turn."""

    kind: Literal["sets"] = "sets"
    low: int
    high: int | None = None


class Amrap(Frozen):
    """As many rounds and reps as possible; up to `high_s` where the coach leaves it open."""

    kind: Literal["amrap"] = "amrap"
    length_s: Seconds
    high_s: Seconds | None = None


class Every(Frozen):
    """A new window every `interval_s`; `rounds` is None for a ladder that runs until missed.

    `high` rounds where the coach leaves it open: planned are `rounds`, more are possible.
    """

    kind: Literal["every"] = "every"
    interval_s: Seconds
    rounds: int | None
    high: int | None = None
    said: bool = False
    """Whether `rounds` is written out, so that nobody asks whether windows are meant."""


class Emom(Frozen):
    """Windows of a minute through the stations for `length_s` in all, or up to `high_s`."""

    kind: Literal["emom"] = "emom"
    length_s: Seconds
    high_s: Seconds | None = None


class Intervals(Frozen):
    """Work and rest at each station, for `rounds` or up to `high`; the last rest counts."""

    kind: Literal["intervals"] = "intervals"
    work_s: Seconds
    rest_s: Seconds
    rounds: int
    high: int | None = None


class Tabata(Frozen):
    """Eight intervals of 0:20/0:10 in a block, once; up to `high` times by choice."""

    kind: Literal["tabata"] = "tabata"
    high: int | None = None


class ForTime(Frozen):
    """Until done: once, for `rounds`, or down a `scheme` of reps."""

    kind: Literal["for_time"] = "for_time"
    rounds: int | None = None
    scheme: tuple[int, ...] = ()


class Accumulate(Frozen):
    """Reach the amount in as many parts as needed."""

    kind: Literal["accumulate"] = "accumulate"


class Continuous(Frozen):
    """Steady parts one after the other."""

    kind: Literal["continuous"] = "continuous"
    length_s: Seconds


class Rest(Frozen):
    """A rest between pieces."""

    kind: Literal["rest"] = "rest"
    length_s: Seconds


Format = Annotated[
    Rounds
    | Sets
    | Amrap
    | Every
    | Emom
    | Intervals
    | Tabata
    | ForTime
    | Accumulate
    | Continuous
    | Rest,
    Field(discriminator="kind"),
]


class Role(StrEnum):
    """What a piece is for in the session."""

    WARM_UP = "warm-up"
    MOBILITY = "mobility"
    SKILL = "skill"
    POWER = "power"
    STRENGTH = "strength"
    CONDITIONING = "conditioning"
    CORE = "core"
    COOL_DOWN = "cool-down"
    REST = "rest"


class ScoreKind(StrEnum):
    """How a piece is scored."""

    ROUNDS = "rounds"
    TIME = "time"
    TOTAL_REPS = "total reps"
    LOWEST_INTERVAL = "lowest interval"
    LOAD = "load"
    STEP = "step"
    PUT_DOWNS = "put-downs"
    DISTANCE = "distance"
    CALORIES = "calories"
    DONE = "done"


class Span(Frozen):
    """A length of time in seconds, or a range of them."""

    low_s: Seconds
    high_s: Seconds | None = None


class Target(Frozen):
    """The coach's intent: rounds, reps or a time in seconds between two bounds."""

    unit: Literal["rounds", "reps", "time"]
    low: int
    high: int


class Teams(Frozen):
    """Athletes who share one score."""

    size: int
    how: Literal["alternate", "share", "together"]


class Purpose(StrEnum):
    """Purpose of a piece, where the coach gives one."""

    POWER = "power"
    STRENGTH = "strength"
    SKILL = "skill"
    HARD_ENGINE = "hard engine"
    EASY_ENGINE = "easy engine"
    GRUNT = "grunt"
    SAME_PATTERN = "same pattern"


class Piece(Placed):
    """One block of the session: a role, a format with its modifiers, and the work."""

    role: Role
    name: str | None = None
    format: Format
    blocks: tuple[Block, ...] = ()
    buy_in: tuple[Line, ...] = ()
    cash_out: tuple[Line, ...] = ()
    rest: Span | None = None
    rest_as_needed: bool = False
    cap_s: Seconds | None = None
    build: bool = False
    for_quality: bool = False
    score: ScoreKind | None = None
    tie_break: bool = False
    """The split at the last full round decides between equal scores."""
    pace: Literal["steady", "hard"] | None = None
    target: Target | None = None
    work_s: Seconds | None = None
    """Closes the work of each window: the rest of it is rest."""
    aim_s: Seconds | None = None
    """Seconds of work in each window the coach hopes for."""
    grow_reps: int | None = None
    until_missed: bool = False
    purpose: Purpose | None = None
    meant: tuple[str, ...] = ()
    """Codes of findings that the coach means as written: they are not told of this piece."""
    teams: Teams | None = None
    heats: int | None = None
    notes: tuple[str, ...] = ()
    unread: bool = False
    """Its heading could not be read: that it is one round is an assumption."""

    @property
    def title(self) -> str:
        """The piece's name, or its role where it has none."""
        return self.name or self.role.value.capitalize()

    @property
    def lines(self) -> tuple[Line, ...]:
        """All lines of all blocks, in order."""
        return tuple(line for block in self.blocks for line in block.lines)


Theme = Literal["build", "deload", "test"]
"""Theme of a week: build on the last one, rest, or test."""


class CycleWeek(Frozen):
    """The cycle of weeks that a day belongs to: its name, and which week of how many (from 1)."""

    name: str
    week: int
    weeks: int


class Session(Frozen):
    """One day's programme: ordered pieces."""

    title: str | None = None
    date: dt.date | None = None
    class_s: Seconds | None = None
    track: str | None = None
    theme: Theme | None = None
    cycle: CycleWeek | None = None
    note: str | None = None
    pieces: tuple[Piece, ...] = ()


class Edit(Frozen):
    """A change of the board's text: replace columns [start, end) of a line (all 1-based).

    `end` may lie past the end of the line; a line past the end of the text is added to it. `text`
    may hold several lines.
    """

    line: int
    start: int
    end: int
    text: str


class Repair(Frozen):
    """What would put a finding right, in a word, and the edits that do it, applied together."""

    label: str
    edits: tuple[Edit, ...]


Severity = Literal["error", "warning", "question", "hint"]
"""A question is honest doubt: its repairs are the readings, the one that is shown first."""


class Finding(Frozen):
    """One thing a check or the parser noticed, at columns [column, end_column) of a line.

    `repairs` are the ways out, the likeliest first; the coach may take none of them, and say with
    `meant` that it stands as written: then it is not told of this piece again.
    """

    code: str
    severity: Severity
    line: int
    column: int = 1
    end_column: int = 1
    message: str
    repairs: tuple[Repair, ...] = ()
    meant: Repair | None = None


def _column(values: tuple[float, ...], track: int | None) -> tuple[float, ...]:
    return values if track is None else (values[min(track, len(values) - 1)],)


def for_track(exercise: Exercise, track: int | None) -> Exercise:
    """The exercise with one track's numbers of every pair; None keeps both."""
    update: dict[str, object] = {}
    load, amount = exercise.load, exercise.amount
    if isinstance(load, Weight | Height):
        update["load"] = load.model_copy(update={"values": _column(load.values, track)})
    if isinstance(amount, Distance):
        update["amount"] = amount.model_copy(update={"metres": _column(amount.metres, track)})
    if isinstance(amount, Calories):
        calories = tuple(int(c) for c in _column(amount.calories, track))
        update["amount"] = Calories(calories=calories)
    return exercise.model_copy(update=update)
