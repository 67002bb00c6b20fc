"""Places in a class, and the kit it needs."""

from __future__ import annotations

import datetime as dt

from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.day.kit import kit_line, kit_needed
from pine_ladder.core.floor.capacity import TO_DECLINE, decline_until, is_late, moved_up, places
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse

people = st.lists(st.integers(1, 60), unique=True, max_size=30)


@given(people, st.integers(1, 20))
def test_a_place_is_never_given_twice_and_the_first_come_are_in(signed, size):
    found = places(signed, size)
    assert len(found.coming) <= size
    assert [*found.coming, *found.waiting] == signed
    assert not found.waiting or len(found.coming) == size


@given(people.filter(bool), st.integers(1, 20), st.data())
def test_who_leaves_makes_room_for_the_first_in_line_alone(signed, size, data):
    gone = data.draw(st.sampled_from(signed))
    before = places(signed, size)
    after = places([one for one in signed if one != gone], size)
    expected = before.waiting[:1] if gone in before.coming else ()
    assert moved_up(before, after) == expected


@given(people, st.integers(1, 20), st.integers(61, 70))
def test_a_late_comer_never_takes_a_place(signed, size, late):
    before, after = places(signed, size), places([*signed, late], size)
    assert after.coming[: len(before.coming)] == before.coming
    assert after.of(late) == (
        ("coming", len(signed) + 1) if len(signed) < size else ("waiting", len(signed) - size + 1)
    )


def kit(board: str, tier: int = 0, track: int | None = 0) -> tuple[str, ...]:
    return kit_line(parse(board).session, library(), tier, track)


BOARD = """## Conditioning: AMRAP 10:00
10 kettlebell swing @ 24/16 kg | @ 16/12 kg
10 box jump @ 60/50 cm | box step-up @ 50/40 cm
50 double-under | 80 single-under
10 push-up
"""


def test_the_kit_of_a_day_is_that_of_my_version():
    assert kit(BOARD) == ("kettlebell 24 kg", "box 60 cm", "rope")
    assert kit(BOARD, tier=1, track=1) == ("kettlebell 12 kg", "box 40 cm", "rope")
    assert kit(BOARD, track=None)[0] == "kettlebell 24/16 kg"
    assert kit("## Core: 3 rounds\n10 push-up") == ()
    bar = "## Strength: 3 sets\n5 front squat\n\n## Core: 3 rounds\n5 push press @ 40/30 kg"
    assert kit(bar) == ("barbell 40 kg",)


def test_a_class_needs_kit_for_all_at_once_stations_and_turns_share():
    def needs(heading: str, numbered: bool = False) -> dict[str, tuple[int, int | None]]:
        lines = ["10 kettlebell swing @ 24/16 kg", "10 row"]
        marks = [f"{i}) {line}" if numbered else line for i, line in enumerate(lines, 1)]
        board = "\n".join([f"## Conditioning: {heading}", *marks]).replace("10 row", "10 cal row")
        found = kit_needed(
            parse(board).session, library(), 12, {"kettlebell 24 kg": 4, "kettlebell 16 kg": 3}
        )
        return {one.name: (one.need, one.there) for one in found}

    assert needs("AMRAP 10:00") == {"kettlebell": (12, 7), "rower": (12, None)}
    assert needs("EMOM 10:00", numbered=True)["kettlebell"] == (6, 7)
    assert needs("AMRAP 10:00, teams of 2, alternate")["rower"] == (6, None)


@given(people, st.integers(1, 20), people)
def test_who_is_present_has_a_place_and_takes_nobodys(signed, size, present):
    before, found = places(signed, size), places(signed, size, present)
    assert set(found.coming) == {*before.coming, *present}
    assert found.coming[: len(before.coming)] == before.coming
    assert not set(found.coming) & set(found.waiting)
    assert {*found.coming, *found.waiting} == {*signed, *present}
    assert len(found.coming) == len(set(found.coming))


MINUTE = dt.timedelta(minutes=1)
BEGINS = dt.datetime(2026, 3, 29, 18, 0, tzinfo=dt.UTC)


@given(st.integers(1, 2000), st.integers(1, 1440))
def test_a_cancellation_is_late_within_the_limit_alone(before, limit):
    assert is_late(BEGINS, BEGINS - before * MINUTE, limit, None) == (before < limit)
    assert not is_late(BEGINS, BEGINS - before * MINUTE, 0, None)


@given(st.integers(0, 200))
def test_who_moved_up_declines_for_an_hour_without_being_late(minutes):
    up = BEGINS - 240 * MINUTE
    moment = up + minutes * MINUTE
    free = minutes * MINUTE < TO_DECLINE
    assert (decline_until(up, moment) == up + TO_DECLINE) == free
    assert is_late(BEGINS, moment, 1440, up) != free
    assert decline_until(None, moment) is None
