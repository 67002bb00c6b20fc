"""Fitting the pace model to what coaches state and to second opinions; it can be run again.

Unknowns are the global constants and, for the movements that are spoken of, their seconds and how
many of them go in a row. Each is held near its starting value by a width of its own, so that a
fact moves what it is about and little else. SciPy's least squares brings the predicted medians into
the stated ranges and near the opinions, and the spread of the class near theirs.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping, Sequence
from functools import cache
from pathlib import Path
from typing import Literal

import numpy as np
from scipy.optimize import least_squares

from calibration.neighbours import from_neighbours
from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.movements.library import unfitted
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.rep_times import Array, Athletes, Constants, rep_of, sample
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.plan import Frozen

START = Constants(
    fatigue=0.6,
    tire_s=240,
    recover_s=90,
    load=1.5,
    load_reference=0.6,
    unbroken=23,
    hold_s=45,
    shrink=0.4,
    local_s=25,
    again=0.4,
    beside=0.5,
    wear=0.12,
    wear_s=400,
    change_s=5,
    same_change_s=2,
    plates_s=20,
    spread=0.17,
)
FITTED = {
    "fatigue": 0.3,
    "load": 0.3,
    "shrink": 0.3,
    "local_s": 0.2,
    "wear": 0.4,
    "change_s": 0.2,
    "spread": 0.06,
}
"""Constants that are fitted, with the width of what is believed of each (log, judgement)."""
SECONDS_WIDTH, SETS_WIDTH = 0.1, 0.2
"""The same for a movement's seconds and for how many go in a row (judgement)."""
OPINION_WIDTH, SPREAD_WIDTH = 0.12, 0.35
"""How sure the middle of an opinion and its spread are (log; estimates lay within a tenth)."""
FIT_ATHLETES, REPORT_ATHLETES = 60, 400
FOLDS = 5
LEFT_OUT = (
    "push-up",
    "goblet squat",
    "kettlebell swing",
    "burpee",
    "sit-up",
    "box jump",
    "reverse lunge",
    "dumbbell snatch",
    "pull-up",
    "push press",
)
"""Ten movements of ten families, predicted from their neighbours alone."""


class Fact(Frozen):
    """A stated pace: a board, what is measured on it, and the range of the median; of an ordinary
    mixed class, or of those of a `tier` or a `track`. With a `source` it is a published norm.
    """

    says: str
    board: str
    measure: Literal["seconds", "reps", "rounds", "work", "in a row"]
    low: float
    high: float
    station: int = 1
    less: float = 0
    tier: int | None = None
    track: int | None = None
    source: str = ""


class Checked(Frozen):
    """A fact beside what the model predicts for the median of an ordinary class."""

    fact: Fact
    predicted: float
    holds: bool


class Neighbours(Frozen):
    """Seconds of a movement as the library has it, and as its neighbours predict it."""

    name: str
    seconds: float
    predicted: float


class Opinion(Frozen):
    """What others expect of an ordinary class, from memory: [p10, p50, p90] by tier."""

    name: str
    board: str
    what: Literal["seconds", "result", "work"]
    as_written: tuple[float, float, float]
    scaled: tuple[float, float, float] | None = None

    @property
    def tiers(self) -> tuple[tuple[float, float, float], ...]:
        """The expected ranges, as written first."""
        return (self.as_written,) if self.scaled is None else (self.as_written, self.scaled)


class Compared(Frozen):
    """An opinion of a tier beside what the model predicts of it."""

    name: str
    tier: int
    expected: tuple[float, float, float]
    predicted: tuple[float, float, float]

    @property
    def error(self) -> float:
        """Log of the predicted middle over the expected one."""
        return math.log(max(self.predicted[1], 1e-3) / self.expected[1])

    @property
    def spread(self) -> float:
        """How wide the predicted range is beside the expected one, in log."""
        low, _, high = self.predicted
        told = math.log(max(high, 1e-3) / max(low, 1e-3))
        return told / math.log(self.expected[2] / self.expected[0])


FAR = 2.0
"""Whatever is moved by more widths than this is reported with what speaks of it."""


class Moved(Frozen):
    """What the fit moved: from, to, and by how many widths of what was believed.

    `because` names the facts and opinions that speak of a movement which went far.
    """

    name: str
    start: float
    value: float
    widths: float
    because: tuple[str, ...] = ()


class Fit(Frozen):
    """A fit: constants, what it says of movements, each fact and opinion, and how far it moved."""

    constants: Constants
    seconds: dict[str, float]
    in_a_row: dict[str, float]
    facts: tuple[Checked, ...]
    opinions: tuple[Compared, ...]
    moved: tuple[Moved, ...]
    left_out: tuple[Neighbours, ...]


class Fold(Frozen):
    """Root mean squares of the log errors on the opinions a fit saw and on those it did not."""

    inside: float
    outside: float


def facts() -> tuple[Fact, ...]:
    """The stated facts, common practice without a source; then the published norms."""
    found = []
    for name in ("facts.toml", "norms.toml"):
        text = (Path(__file__).with_name(name)).read_text("utf-8")
        found += [Fact.model_validate(record) for record in tomllib.loads(text)["fact"]]
    return tuple(found)


@cache
def opinions() -> tuple[Opinion, ...]:
    """The second opinions, from memory."""
    text = Path(__file__).with_name("opinions.toml").read_text("utf-8")
    return tuple(Opinion.model_validate(record) for record in tomllib.loads(text)["opinion"])


def _work(done: Run, station: int | None = None) -> Array:
    """Seconds of work in the windows, of those who can do it."""
    held = [w[done.able] for s, _, w, _, _ in done.windows if station in (None, s)]
    return np.concatenate(held)


def _measured(fact: Fact, done: Run) -> Array:
    match fact.measure:
        case "seconds":
            return done.time_s[done.able]
        case "work":
            return _work(done, fact.station)
    return done.result[done.able] - fact.less


@cache
def _piece(board: str, library: Library) -> plan.Piece:
    return parse(board, library).session.pieces[0]


def predict(fact: Fact, library: Library, model: Constants, athletes: Athletes) -> Array:
    """What each athlete who can does on a fact's board."""
    piece = _piece(fact.board, unfitted())
    if fact.measure == "in a row":
        return rep_of(piece.lines[0].tasks[0].version(0), athletes, library, model).unbroken
    return _measured(fact, run(piece, athletes, library, 0, model))


def _told(opinion: Opinion, done: Run) -> Array:
    """What an opinion is about, of those who can do it."""
    if opinion.what == "work":
        return _work(done)
    return (done.time_s if opinion.what == "seconds" else done.result)[done.able]


def compare(
    library: Library, model: Constants, told: Sequence[Opinion] | None = None, count: int = 200
) -> tuple[Compared, ...]:
    """Each opinion beside the ranges of a class of that tier."""
    out = []
    for opinion in opinions() if told is None else told:
        for tier, expected in enumerate(opinion.tiers):
            athletes = sample(count, tier, spread=model.spread)
            done = run(_piece(opinion.board, unfitted()), athletes, library, tier, model)
            low, middle, high = np.quantile(_told(opinion, done), (0.1, 0.5, 0.9))
            predicted = (round(float(low), 2), round(float(middle), 2), round(float(high), 2))
            out.append(
                Compared(name=opinion.name, tier=tier, expected=expected, predicted=predicted)
            )
    return tuple(out)


def root_mean_square(compared: Sequence[Compared]) -> float:
    """Of the log errors of the middles."""
    return float(np.sqrt(np.mean([one.error**2 for one in compared])))


def check_facts(
    library: Library, model: Constants, stated: Sequence[Fact] | None = None
) -> tuple[Checked, ...]:
    """Each fact with the median of an ordinary class."""
    out = []
    for fact in facts() if stated is None else stated:
        athletes = sample(REPORT_ATHLETES, fact.tier, fact.track, spread=model.spread)
        middle = float(np.median(predict(fact, library, model, athletes)))
        holds = fact.low <= middle <= fact.high
        out.append(Checked(fact=fact, predicted=round(middle, 2), holds=holds))
    return tuple(out)


def movements_of(boards: Sequence[str], library: Library) -> list[str]:
    """Movements of some boards, in any version, that take reps or metres."""
    found = {
        part.movement
        for board in boards
        for line in _piece(board, library).lines
        for task in line.tasks
        for version in task.versions
        for part in (version, *version.parts)
    }
    known = (library.find(name) for name in sorted(found))
    return sorted({m.name for m in known if m is not None and m.measure != "time"})


class _Unknowns:
    """What is solved for: constants, then seconds, then sets, each as a factor of its start."""

    def __init__(self, base: Library, boards: Sequence[str]) -> None:
        self.base, self.names = base, list(FITTED)
        self.paced = movements_of(boards, base)
        self.rowed = [n for n in self.paced if (m := base.find(n)) and m.in_a_row]
        widths = [FITTED[name] for name in self.names]
        widths += [SECONDS_WIDTH] * len(self.paced) + [SETS_WIDTH] * len(self.rowed)
        self.widths = np.array(widths)

    def constants(self, x: Array) -> Constants:
        """The constants at a point."""
        factors = np.exp(x[: len(self.names)] - 1)
        told = zip(self.names, factors, strict=True)
        return START.model_copy(update={n: float(f"{getattr(START, n) * f:.3g}") for n, f in told})

    def movements(self, x: Array) -> tuple[dict[str, float], dict[str, float]]:
        """Seconds and sets of the movements at a point."""
        start = len(self.names)
        paced = zip(self.paced, np.exp(x[start : start + len(self.paced)] - 1), strict=True)
        rowed = zip(self.rowed, np.exp(x[start + len(self.paced) :] - 1), strict=True)
        seconds = {name: round(_seconds(self.base, name) * float(f), 3) for name, f in paced}
        return seconds, {name: round(_row(self.base, name) * float(f), 2) for name, f in rowed}

    def moved(self, x: Array, speaking: Mapping[str, str]) -> tuple[Moved, ...]:
        """Everything with how far it went, the furthest first; `speaking` are boards by name."""
        model, (seconds, rows) = self.constants(x), self.movements(x)
        told = [(name, getattr(START, name), getattr(model, name)) for name in self.names]
        told += [(f"{n}, seconds", _seconds(self.base, n), v) for n, v in seconds.items()]
        told += [(f"{n}, in a row", _row(self.base, n), v) for n, v in rows.items()]
        out = [
            Moved(
                name=name,
                start=start,
                value=value,
                widths=round(float(widths), 2),
                because=tuple(
                    said
                    for said, board in speaking.items()
                    if abs(widths) > FAR
                    and name.rpartition(", ")[0] in movements_of((board,), self.base)
                ),
            )
            for (name, start, value), widths in zip(told, (x - 1) / self.widths, strict=True)
        ]
        return tuple(sorted(out, key=lambda one: -abs(one.widths)))


class _Boards:
    """Runs of boards, remembered: most steps of the solver touch few of the movements."""

    def __init__(self, unknowns: _Unknowns) -> None:
        self.unknowns = unknowns
        self.kept: dict[object, Run] = {}

    def run(self, board: str, tier: int | None, x: Array, track: int | None = None) -> Run:
        """A board done by a small class at a point."""
        own = set(movements_of((board,), self.unknowns.base))
        seconds, rows = self.unknowns.movements(x)
        model = self.unknowns.constants(x)
        key = (board, tier, track, model, *((n, seconds.get(n), rows.get(n)) for n in sorted(own)))
        if key not in self.kept:
            library = self.unknowns.base.fitted(seconds, rows)
            athletes = sample(FIT_ATHLETES, tier, track, spread=model.spread)
            piece = _piece(board, self.unknowns.base)
            self.kept[key] = run(piece, athletes, library, tier or 0, model)
        return self.kept[key]

    def stated(self, fact: Fact, x: Array) -> Array:
        """What a fact measures, at a point."""
        if fact.measure != "in a row":
            return _measured(fact, self.run(fact.board, fact.tier, x, fact.track))
        model = self.unknowns.constants(x)
        library = self.unknowns.base.fitted(*self.unknowns.movements(x))
        athletes = sample(FIT_ATHLETES, fact.tier, fact.track, spread=model.spread)
        return predict(fact, library, model, athletes)


FACT_WIDTHS, NORM_WIDTHS = 6, 3
"""How many standard deviations a stated range spans; norms are of other people than members."""


def _smooth(values: Array) -> tuple[float, float]:
    """Logs of the middle and the spread of a sample, moving smoothly where counts jump."""
    ordered = np.log(np.maximum(np.sort(values), 1e-3))
    n = len(ordered)
    low, high = ordered[: max(1, n // 5)].mean(), ordered[-max(1, n // 5) :].mean()
    return float(ordered[n // 4 : max(n // 4 + 1, n - n // 4)].mean()), float(high - low)


TAIL = 2.80 / 2.563
"""How much further apart the means of a normal sample's outer fifths lie than its outer tenths."""


def solve(stated: Sequence[Fact], told: Sequence[Opinion]) -> tuple[_Unknowns, Array]:
    """The point at which facts, opinions and what is believed of each unknown agree best."""
    spoken = [one.board for one in stated] + [one.board for one in told]
    unknowns = _Unknowns(unfitted(), spoken)
    boards = _Boards(unknowns)

    def residuals(x: Array) -> Array:
        out = []
        for fact in stated:
            middle, _ = _smooth(boards.stated(fact, x))
            width = math.log(fact.high / fact.low) / (NORM_WIDTHS if fact.source else FACT_WIDTHS)
            out.append((middle - math.log(math.sqrt(fact.low * fact.high))) / width)
        for opinion in told:
            for tier, (low, half, high) in enumerate(opinion.tiers):
                done = boards.run(opinion.board, tier, x)
                middle, wide = _smooth(_told(opinion, done))
                out.append((middle - math.log(half)) / OPINION_WIDTH)
                out.append((wide / TAIL - math.log(high / low)) / SPREAD_WIDTH / 2)
        return np.concatenate([out, (x - 1) / unknowns.widths])

    # Factors start at 1, not 0: a relative step of nothing would be no step at all.
    start = np.ones(len(unknowns.widths))
    solved = least_squares(residuals, start, diff_step=0.03, max_nfev=12, loss="soft_l1")
    return unknowns, solved.x


def fit_library(stated: Sequence[Fact] | None = None, told: Sequence[Opinion] | None = None) -> Fit:
    """Fit constants and movements, starting from the library as written by hand."""
    stated = facts() if stated is None else stated
    told = opinions() if told is None else told
    unknowns, x = solve(stated, told)
    base, model = unknowns.base, unknowns.constants(x)
    seconds, rows = unknowns.movements(x)
    final = base.fitted(seconds, rows)
    return Fit(
        constants=model,
        seconds=seconds,
        in_a_row=rows,
        facts=check_facts(final, model, stated),
        opinions=compare(final, model, told),
        moved=unknowns.moved(
            x, {one.says: one.board for one in stated} | {one.name: one.board for one in told}
        ),
        left_out=tuple(
            Neighbours(
                name=name,
                seconds=_seconds(base, name),
                predicted=round(from_neighbours(name, base), 2),
            )
            for name in LEFT_OUT
        ),
    )


def folds(count: int = FOLDS) -> Fold:
    """Fits that each leave out some of the opinions: the errors inside and outside.

    Every opinion is left out once.
    """
    told = opinions()
    inside: list[Compared] = []
    outside: list[Compared] = []
    for fold in range(count):
        kept = [one for at, one in enumerate(told) if at % count != fold]
        unknowns, x = solve(facts(), kept)
        library, model = unknowns.base.fitted(*unknowns.movements(x)), unknowns.constants(x)
        inside += compare(library, model, kept)
        outside += compare(library, model, [one for one in told if one not in kept])
    return Fold(
        inside=round(root_mean_square(inside), 3), outside=round(root_mean_square(outside), 3)
    )


def _row(library: Library, name: str) -> float:
    movement = library.find(name)
    assert movement is not None, name
    assert movement.in_a_row is not None, name
    return movement.in_a_row


def _seconds(library: Library, name: str) -> float:
    movement = library.find(name)
    assert movement is not None, name
    return movement.seconds


def constants_toml(fit: Fit) -> str:
    """The fitted constants as core/pace/data/constants.toml."""
    lines = [
        "# The pace model's constants, fitted by `make fit`. Seconds unless said otherwise.",
        "",
        "[constants]",
        *(f"{name} = {value:g}" for name, value in fit.constants.model_dump().items()),
        "",
    ]
    return "\n".join(lines)


def movements_toml(fit: Fit) -> str:
    """The fitted seconds and sets as core/movements/fitted.toml."""
    lines = [
        "# Seconds of a rep and reps in a row, fitted by `make fit`: they take the place of those",
        "# written by hand in data/ and sets.toml.",
        "",
        "[seconds]",
        *(f'"{name}" = {value:g}' for name, value in sorted(fit.seconds.items())),
        "",
        "[in_a_row]",
        *(f'"{name}" = {value:g}' for name, value in sorted(fit.in_a_row.items())),
        "",
    ]
    return "\n".join(lines)
