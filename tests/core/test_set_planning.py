"""Sets of reps: the compiled loop, by what must hold for everybody whatever they are asked."""

from __future__ import annotations

import numpy as np
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from numba import njit

from pine_ladder.core.pace import set_planning as sets
from pine_ladder.core.pace.set_planning import State, Task, Totals, Wanted, work_through

ROWS = 2
MUSCLES = np.array([0, 1])

shares = st.floats(0.0, 1.0)
athletes = st.lists(
    st.tuples(
        st.one_of(st.just(0.0), st.integers(1, 300).map(float), st.just(np.inf)),  # wanted
        st.floats(0.0, 900.0),  # seconds left
        st.floats(0.3, 30.0),  # seconds a rep
        st.one_of(st.floats(0.25, 80.0), st.just(np.inf)),  # in a row
        shares,  # fatigue
        shares,  # how far the muscles are used up
    ),
    min_size=1,
    max_size=8,
)
tasks = st.builds(
    Task,
    size=st.sampled_from([1.0, 7.5]),
    slow=st.floats(0.0, 1.0),
    tire=st.floats(0.0, 0.01),
    refresh=st.sampled_from([0.0, 0.005]),
    shrink=st.floats(0.0, 0.8),
    again=st.floats(0.1, 0.9),
    freed_most=st.just(0.95),
    local_s=st.floats(5.0, 90.0),
    beside=shares,
    hand_over_s=st.sampled_from([0.0, 1.5]),
    wear=st.floats(0.0, 0.5),
    wear_s=st.floats(60.0, 900.0),
)


class Worked:
    """Some athletes after a task that began 100 s into the clock."""

    def __init__(self, task: Task, asked: list[tuple[float, ...]]) -> None:
        columns = [np.array(column) for column in zip(*asked, strict=True)]
        self.wanted, left, seconds, unbroken, fatigue, used = columns
        count = len(asked)
        self.ends = 100.0 + left
        self.t, self.f, idle = np.full(count, 100.0), fatigue.copy(), np.zeros(count)
        self.used, self.when = np.tile(used, (ROWS, 1)), np.full((ROWS, count), 80.0)
        self.worn = np.zeros((ROWS, count))
        self.work, self.tension, self.paused, self.breaks = np.zeros((4, count))
        self.done = work_through(
            task,
            Wanted(self.wanted, self.ends, seconds, unbroken),
            MUSCLES,
            State(self.t, self.f, idle, self.used, self.worn, self.when),
            Totals(self.work, self.tension, self.paused, self.breaks),
        )


@settings(max_examples=examples(200), deadline=None)
@given(tasks, athletes)
def test_nobody_does_more_than_asked_or_works_past_the_end_and_time_adds_up(task, asked):
    one = Worked(task, asked)
    assert (one.done <= np.ceil(one.wanted)).all()
    assert (one.t <= one.ends + 1e-6).all()
    np.testing.assert_allclose(one.t - 100.0, one.work + one.paused, atol=1e-6)
    assert (one.paused[one.breaks == 0] == 0).all()
    assert ((one.f >= 0) & (one.f <= 1)).all()
    assert ((one.used >= 0) & (one.used <= 1)).all()


@settings(max_examples=examples(200), deadline=None)
@given(tasks, athletes)
def test_everybody_does_beside_others_what_they_would_do_alone(task, asked):
    together = Worked(task, asked)
    for n, one in enumerate(asked):
        alone = Worked(task, [one])
        assert (together.done[n], together.t[n], together.f[n]) == (
            alone.done[0],
            alone.t[0],
            alone.f[0],
        )
        np.testing.assert_array_equal(together.used[:, n], alone.used[:, 0])


@settings(max_examples=examples(200), deadline=None)
@given(tasks, athletes, st.floats(1.0, 300.0))
def test_more_time_is_never_fewer_reps(task, asked, more):
    longer = [(wanted, left + more, *rest) for wanted, left, *rest in asked]
    assert (Worked(task, longer).done >= Worked(task, asked).done).all()


def test_who_is_asked_nothing_is_left_as_they_were():
    one = Worked(
        Task(1.0, 0.3, 0.003, 0.0, 0.3, 0.5, 0.95, 20.0, 0.5, 0.0, 0.1, 400.0),
        [(0, 60, 2, 5, 0.4, 1)],
    )
    assert (one.done[0], one.t[0], one.f[0], one.used[0, 0]) == (0, 100, 0.4, 1)


def test_where_nothing_may_be_kept_it_is_compiled_all_the_same(monkeypatch):
    def refusing(function, cache=False, **options):
        if cache:
            raise RuntimeError("cannot cache function: no locator available")
        return njit(function, **options)

    monkeypatch.setattr(sets, "njit", refusing)
    assert sets.compiled(lambda number: number + 1.0)(2.0) == 3.0
