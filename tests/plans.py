"""Generated plans: every record the parser can produce, for the property tests."""

from __future__ import annotations

from typing import Any

from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.notation.bounds import excess

names = st.sampled_from([movement.name for movement in library().movements])
counts = st.integers(1, 200)
seconds = st.integers(1, 3600)
words = st.sampled_from(["slow", "easy does it", "as the coach says", "same number every round"])
maybe = st.none()


def numbers(low: float, high: float) -> st.SearchStrategy[float]:
    return st.integers(int(low * 2), int(high * 2)).map(lambda n: n / 2)


def pairs(low: float, high: float) -> st.SearchStrategy[tuple[float, ...]]:
    return st.lists(numbers(low, high), min_size=1, max_size=2).map(tuple)


amounts = st.one_of(
    st.builds(plan.Reps, low=counts, grow=st.sampled_from([0, 0, 2])),
    st.tuples(st.integers(1, 50), st.integers(1, 50)).map(
        lambda t: plan.Reps(low=t[0], high=t[0] + t[1])
    ),
    st.just(plan.Max()),
    st.builds(plan.Trips, distance_m=numbers(5, 100)),
    st.builds(plan.Duration, seconds=seconds, grow_s=st.sampled_from([0, 0, 15])),
    st.builds(plan.Duration, seconds=st.integers(1, 50), high_s=st.integers(51, 300)),
    st.builds(plan.Distance, metres=pairs(5, 2000)),
    st.just(plan.Distance(metres=(200.0,), high_m=400.0)),
    st.builds(plan.Calories, calories=st.lists(counts, min_size=1, max_size=2).map(tuple)),
    st.builds(
        plan.Scheme,
        values=st.lists(counts, min_size=3, max_size=6).map(tuple),
        unit=st.sampled_from(["reps", "s", "m", "cal"]),
    ),
)
loads = st.one_of(
    st.builds(
        plan.Weight,
        values=pairs(1, 200),
        unit=st.sampled_from(["kg", "lb"]),
        count=st.sampled_from([1, 1, 2]),
    ),
    st.builds(plan.Height, values=pairs(20, 80), unit=st.sampled_from(["cm", "in"])),
    st.builds(plan.Percent, low=numbers(40, 80), high=st.sampled_from([None, 90.0])),
    st.builds(plan.Bodyweight, factor=numbers(0.5, 2)),
    st.builds(plan.Effort, rpe=numbers(1, 10)),
    st.builds(plan.Feel, word=st.sampled_from(["heavy", "light"])),
)
details = st.fixed_dictionaries(
    {},
    optional={
        "side": st.sampled_from(list(plan.Side)),
        "one_arm": st.just(True),
        "switch_every": st.integers(1, 20),
        "tempo": st.sampled_from(["40X0", "3010", "20X1"]),
        "pause_s": numbers(0.5, 5),
        "unbroken": st.just(True),
        "sets": st.integers(1, 5),
        "aim": st.sampled_from([plan.Aim(low=15, high=20), plan.Aim(low=12, high=12)]),
        "load": loads,
    },
)


@st.composite
def exercises(draw: st.DrawFn, amount: bool = True, nested: bool = True) -> plan.Exercise:
    fields: dict[str, Any] = draw(details)
    if amount:
        fields["amount"] = draw(amounts)
    if nested and draw(st.integers(0, 9)) == 0:
        parts = st.lists(exercises(nested=False), min_size=2, max_size=3)
        return plan.Exercise(parts=tuple(draw(parts)), **fields)
    if nested and draw(st.integers(0, 9)) == 0:
        fields["instead"] = (draw(exercises(nested=False)),)
    if nested and draw(st.booleans()):
        fields["note"] = draw(words)
    return plan.Exercise(movement=draw(names), **fields)


@st.composite
def tasks(draw: st.DrawFn) -> plan.Task:
    versions = [draw(exercises())]
    for _ in range(draw(st.integers(0, 2))):
        before = versions[-1]
        change = draw(st.sampled_from(["load", "amount", "both", "afresh"]))
        update: dict[str, Any] = {"note": None}
        if change in ("load", "both"):
            update["load"] = draw(loads)
        if change in ("amount", "both"):
            update["amount"] = draw(amounts)
        version = draw(exercises()) if change == "afresh" else before.model_copy(update=update)
        if version != before:
            versions.append(version)
    return plan.Task(versions=tuple(versions))


@st.composite
def lines(draw: st.DrawFn, rest: bool = False) -> plan.Line:
    if rest and draw(st.integers(0, 5)) == 0:
        return plan.Line()
    return plan.Line(tasks=tuple(draw(st.lists(tasks(), min_size=1, max_size=2))))


more = st.sampled_from([None, 9])
formats = st.one_of(
    st.builds(plan.Rounds, low=st.integers(1, 3), high=st.sampled_from([None, 5])),
    st.builds(plan.Sets, low=st.integers(1, 3), high=st.sampled_from([None, 5])),
    st.builds(plan.Amrap, length_s=seconds, high_s=st.sampled_from([None, 7200])),
    st.builds(plan.Every, interval_s=seconds, rounds=st.integers(1, 8), high=more),
    st.builds(
        plan.Emom,
        length_s=st.integers(1, 30).map(lambda n: n * 60),
        high_s=st.sampled_from([None, 2400]),
    ),
    st.builds(
        plan.Intervals,
        work_s=seconds,
        rest_s=st.integers(0, 180),
        rounds=st.integers(1, 8),
        high=more,
    ),
    st.builds(plan.Tabata, high=st.sampled_from([None, 3])),
    st.builds(plan.ForTime, rounds=st.sampled_from([None, 1, 5])),
    st.builds(plan.ForTime, scheme=st.lists(counts, min_size=2, max_size=6).map(tuple)),
    st.just(plan.Accumulate()),
    st.builds(plan.Continuous, length_s=seconds),
)
modifiers = st.fixed_dictionaries(
    {},
    optional={
        "rest": st.builds(
            plan.Span, low_s=st.integers(1, 100), high_s=st.sampled_from([None, 120])
        ),
        "cap_s": seconds,
        "build": st.just(True),
        "for_quality": st.just(True),
        "score": st.sampled_from(list(plan.ScoreKind)),
        "pace": st.sampled_from(["steady", "hard"]),
        "tie_break": st.just(True),
        "target": st.one_of(
            st.builds(
                plan.Target,
                unit=st.sampled_from(["rounds", "reps"]),
                low=st.integers(1, 5),
                high=st.integers(6, 9),
            ),
            st.just(plan.Target(unit="time", low=720, high=900)),
        ),
        "work_s": seconds,
        "grow_reps": st.sampled_from([-2, -1, 1, 2]),
        "until_missed": st.just(True),
        "teams": st.builds(
            plan.Teams,
            size=st.integers(2, 4),
            how=st.sampled_from(["alternate", "share", "together"]),
        ),
        "heats": st.integers(1, 4),
        "purpose": st.sampled_from(plan.Purpose),
        "meant": st.lists(
            st.sampled_from(["power-rest", "overfull"]), min_size=1, max_size=2, unique=True
        ).map(tuple),
        "name": st.sampled_from(["Slack Water", "Sea Wall", "Neap"]),
        "notes": st.lists(words, min_size=1, max_size=2).map(tuple),
    },
)


@st.composite
def pieces(draw: st.DrawFn) -> plan.Piece:
    if draw(st.integers(0, 9)) == 0:
        return plan.Piece(role=plan.Role.REST, format=plan.Rest(length_s=draw(seconds)))
    form = draw(formats)
    windowed = isinstance(form, plan.Every | plan.Emom)
    numbered = windowed and draw(st.booleans())
    rest = numbered or isinstance(form, plan.Intervals)
    block = st.lists(lines(rest=rest), min_size=1, max_size=4).map(
        lambda made: plan.Block(lines=tuple(made), numbered=numbered)
    )
    extra = st.lists(lines(), max_size=1).map(tuple)
    for_time = isinstance(form, plan.ForTime)
    return plan.Piece(
        role=draw(st.sampled_from([r for r in plan.Role if r is not plan.Role.REST])),
        format=form,
        blocks=tuple(draw(st.lists(block, min_size=1, max_size=3))),
        buy_in=draw(extra) if for_time else (),
        cash_out=draw(extra) if for_time else (),
        **draw(modifiers),
    )


@st.composite
def sessions(draw: st.DrawFn) -> plan.Session:
    return plan.Session(
        title=draw(st.sampled_from([None, "Slack Water", "Neap Tide"])),
        date=draw(st.one_of(maybe, st.dates())),
        class_s=draw(st.sampled_from([None, 2700, 3600])),
        track=draw(st.sampled_from([None, "heavier/lighter"])),
        theme=draw(st.sampled_from([None, "build", "deload", "test"])),
        cycle=draw(st.sampled_from([None, plan.CycleWeek(name="Spring", week=3, weeks=8)])),
        note=draw(st.one_of(maybe, words)),
        pieces=tuple(draw(st.lists(pieces().filter(lambda p: not excess(p)), max_size=3))),
    )
