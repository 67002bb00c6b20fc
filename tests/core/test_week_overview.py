"""Weeks seen together: each movement and pattern counted once a day, nothing of it lost."""

from __future__ import annotations

import datetime as dt

from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.week.balance import day_load
from pine_ladder.core.week.overview import DUE_WEEKS, Season, season

FIRST = dt.date(2031, 3, 3)
SQUATS = "## Strength: 5 sets\n5 front squat @ {} kg"
ENGINE = "## Warm-up: 2 rounds\n5 wall walk\n\n## Conditioning: AMRAP 12:00\n10 burpee\n250 m row"
BOARDS = [ENGINE, SQUATS.format(60), "## Conditioning: for time\n60 pull-up\n60 box jump"]


def of(boards: dict[int, str], saved=(), weeks: int = 4) -> Season:
    """A season of boards by the days they lie from its first Monday."""
    read = {
        FIRST + dt.timedelta(days=n): parse(text, library()).session for n, text in boards.items()
    }
    return season(read, FIRST, weeks, saved, library())


def test_what_came_how_often_and_what_did_not_come_again():
    seen = of({-7: BOARDS[2], 0: ENGINE, 1: SQUATS.format(60), 9: ENGINE, 40: BOARDS[2]})
    assert seen.written == 3
    assert [(one.movement, one.days) for one in seen.often] == [
        ("burpee", 2),
        ("row", 2),
        ("front squat", 1),
    ]
    # A warm-up is not worked at; what comes after the weeks is not in them.
    assert [one.movement for one in seen.gone] == ["box jump", "pull-up"]
    assert seen.gone[0].last == FIRST - dt.timedelta(days=7)


def test_loads_step_up_day_by_day_in_kilograms_whatever_they_are_written_in():
    seen = of({0: SQUATS.format(60), 7: SQUATS.format("62.5"), 14: SQUATS.format(65)})
    (lift,) = seen.lifted
    assert lift.movement == "front squat"
    assert [one.kg for one in lift.points] == [60, 62.5, 65]
    pounds = of({0: "## Strength: 5 sets\n5 front squat @ 135 lb", 7: SQUATS.format(65)})
    assert [one.kg for one in pounds.lifted[0].points] == [61.2, 65]
    assert of({0: SQUATS.format(60)}).lifted == ()


def test_saved_days_are_due_after_eight_weeks():
    end = FIRST + dt.timedelta(weeks=4)
    long_ago = end - dt.timedelta(weeks=DUE_WEEKS, days=1)
    seen = of({}, [("New", None), ("Old", long_ago), ("Fresh", end - dt.timedelta(days=9))])
    assert [(one.title, one.last) for one in seen.due] == [("Old", long_ago), ("New", None)]


@given(st.dictionaries(st.integers(-40, 120), st.sampled_from(BOARDS), max_size=14),
       st.sampled_from([4, 13]))  # fmt: skip
def test_every_day_of_the_weeks_is_counted_once(boards, weeks):
    seen = of(boards, weeks=weeks)
    inside = {n: text for n, text in boards.items() if 0 <= n < 7 * weeks}
    assert seen.written == len(inside)
    for row in seen.patterns:
        loads = [day_load(parse(text, library()).session, library()) for text in inside.values()]
        assert sum(week.some for week in row.weeks) == sum(row.pattern in x.some for x in loads)
        assert sum(week.hard for week in row.weeks) == sum(row.pattern in x.hard for x in loads)
        assert len(row.weeks) == weeks
    assert all(FIRST <= one.last < FIRST + dt.timedelta(weeks=weeks) for one in seen.often)
    assert not {one.movement for one in seen.often} & {one.movement for one in seen.gone}
