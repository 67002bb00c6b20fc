"""Fitting the pace model to what coaches state, so that the facts hold; it can be run again.

Unknowns are the global constants and the seconds of the movements that a fact is about, each held
near its starting value; SciPy's least squares makes the predicted medians fall inside the stated
ranges.
"""

from __future__ import annotations

import math
import tomllib
from collections.abc import Sequence
from importlib import resources
from typing import Literal

import numpy as np
from scipy.optimize import least_squares

from pine_ladder.core.movements import Library
from pine_ladder.core.movements.library import unfitted
from pine_ladder.core.notation import parse
from pine_ladder.core.pace.piece import Run, run
from pine_ladder.core.pace.rep import Array, Athletes, Constants, capacity_of, sample
from pine_ladder.core.plan import Frozen

START = Constants(
    fatigue=0.6,
    tire_s=240,
    recover_s=90,
    load=1.5,
    load_reference=0.6,
    unbroken=22,
    hold_s=38,
    shrink=0.5,
    pause_low_s=6,
    pause_high_s=12,
    change_s=5,
    same_change_s=2,
    spread=0.12,
)
FITTED = {"fatigue": 0.5, "load": 0.4, "unbroken": 0.4, "hold_s": 0.4, "change_s": 0.2}
"""Constants that are fitted, with how far (in log) each may reasonably lie from its start."""
MOVEMENT_SPREAD = 0.15
FIT_ATHLETES, REPORT_ATHLETES = 60, 400
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
    """A stated pace: a board, what is measured on it, and the range of the median."""

    says: str
    board: str
    measure: Literal["seconds", "reps", "rounds", "work"]
    low: float
    high: float
    station: int = 1
    less: float = 0


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


class Fit(Frozen):
    """A fit: constants, seconds of the movements that moved, each fact, each movement left out."""

    constants: Constants
    seconds: dict[str, float]
    facts: tuple[Checked, ...]
    left_out: tuple[Neighbours, ...]


def facts() -> tuple[Fact, ...]:
    """The stated facts, common practice without a source."""
    text = (resources.files("pine_ladder.core") / "pace" / "facts.toml").read_text("utf-8")
    return tuple(Fact.model_validate(record) for record in tomllib.loads(text)["fact"])


def _measured(fact: Fact, done: Run) -> Array:
    match fact.measure:
        case "seconds":
            return done.time_s
        case "work":
            return np.concatenate([w for s, _, w, _, _ in done.windows if s == fact.station])
    return done.result - fact.less


def predict(fact: Fact, library: Library, model: Constants, athletes: Athletes) -> Array:
    """What each athlete does on a fact's board."""
    piece = parse(fact.board, library).session.pieces[0]
    return _measured(fact, run(piece, athletes, library, 0, model))


def check_facts(
    library: Library, model: Constants, stated: Sequence[Fact] | None = None
) -> tuple[Checked, ...]:
    """Each fact with the median of an ordinary class."""
    athletes = sample(REPORT_ATHLETES)
    out = []
    for fact in facts() if stated is None else stated:
        middle = float(np.median(predict(fact, library, model, athletes)))
        holds = fact.low <= middle <= fact.high
        out.append(Checked(fact=fact, predicted=round(middle, 2), holds=holds))
    return tuple(out)


def movements_of(stated: Sequence[Fact], library: Library) -> list[str]:
    """Movements that some fact is about."""
    found = {
        task.versions[0].movement
        for fact in stated
        for line in parse(fact.board, library).session.pieces[0].lines
        for task in line.tasks
    }
    return sorted(n for n in found if (m := library.find(n)) and m.measure != "time")


def fit_library(stated: Sequence[Fact] | None = None) -> Fit:
    """Fit constants and movements to the facts, starting from the library as written by hand."""
    stated = facts() if stated is None else stated
    base = unfitted()
    names, globals_ = movements_of(stated, base), list(FITTED)
    # Factors start at 1, not 0: a relative step of nothing would be no step at all.
    start = np.ones(len(globals_) + len(names))
    loose = np.array([FITTED[name] for name in globals_] + [MOVEMENT_SPREAD] * len(names))
    athletes = sample(FIT_ATHLETES)

    def model_of(x: Array) -> tuple[Constants, Library]:
        factors = np.exp(x - 1)
        values = {
            name: getattr(START, name) * float(factor)
            for name, factor in zip(globals_, factors, strict=False)
        }
        seconds = {
            name: _seconds(base, name) * float(factor)
            for name, factor in zip(names, factors[len(globals_) :], strict=True)
        }
        return START.model_copy(update=values), base.with_seconds(seconds)

    def residuals(x: Array) -> Array:
        model, library = model_of(x)
        out = []
        for fact in stated:
            # The mean of the middle half moves smoothly where the median of counts jumps.
            ordered = np.sort(predict(fact, library, model, athletes))
            middle = float(ordered[len(ordered) // 4 : -len(ordered) // 4].mean())
            width = math.log(fact.high / fact.low) / 6
            out.append(math.log(max(middle, 1e-3) / math.sqrt(fact.low * fact.high)) / width)
        return np.concatenate([out, (x - start) / loose])

    solved = least_squares(residuals, start, diff_step=0.02, max_nfev=20)
    model, library = model_of(solved.x)
    rounded = model.model_copy(
        update={name: float(f"{getattr(model, name):.3g}") for name in globals_}
    )
    seconds = {name: round(_seconds(library, name), 3) for name in names}
    final = base.with_seconds(seconds)
    return Fit(
        constants=rounded,
        seconds=seconds,
        facts=check_facts(final, rounded, stated),
        left_out=tuple(
            Neighbours(
                name=name,
                seconds=_seconds(base, name),
                predicted=round(from_neighbours(name, base), 2),
            )
            for name in LEFT_OUT
        ),
    )


def _seconds(library: Library, name: str) -> float:
    movement = library.find(name)
    assert movement is not None, name
    return movement.seconds


def from_neighbours(name: str, library: Library) -> float:
    """Seconds a rep of a movement as its neighbours would have it, itself left out.

    A mean of log seconds over movements of the same measure: near rungs of its ladder count most,
    then those of its pattern which tire alike.
    """
    own = library.find(name)
    assert own is not None, name
    ladder = library.ladder_of(own.name)
    weights, logs = [], []
    for other in library.movements:
        if other.name == own.name or other.measure != own.measure:
            continue
        weight = 0.0
        if ladder and other.name in ladder.rungs:
            apart = abs(ladder.rungs.index(other.name) - ladder.rungs.index(own.name))
            weight += math.exp(1 - apart)
        if other.patterns[0] == own.patterns[0] and capacity_of(other) == capacity_of(own):
            weight += 0.3 * math.exp(-(((other.demand - own.demand) / 0.15) ** 2))
        if weight:
            weights.append(weight)
            logs.append(math.log(other.seconds))
    return math.exp(float(np.average(logs, weights=weights)))


def toml_of(fit: Fit) -> str:
    """The fit as pace.toml."""
    lines = [
        "# The pace model's constants and the movements' seconds, fitted so that the facts in",
        "# facts.toml hold: `pine-ladder pace fit-library --write`. Seconds unless said otherwise.",
        "",
        "[constants]",
        *(f"{name} = {value:g}" for name, value in fit.constants.model_dump().items()),
        "",
        "[seconds]",
        *(f'"{name}" = {value:g}' for name, value in sorted(fit.seconds.items())),
        "",
    ]
    return "\n".join(lines)
