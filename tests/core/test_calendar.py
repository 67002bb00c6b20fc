"""The gym's days: at both changes of the clocks, and on either side of the date line."""

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.day.calendar import (
    Slot,
    begins,
    class_nearest,
    classes_text,
    day_of,
    read_classes,
    read_times,
    zone_of,
)

LISBON = zone_of("Europe/Lisbon")
STARTS = (dt.time(6, 30), dt.time(12, 15), dt.time(18, 0))


def utc(*parts: int) -> dt.datetime:
    return dt.datetime(*parts, tzinfo=dt.UTC)


@pytest.mark.parametrize(
    ("zone", "moment", "day"),
    [
        ("Europe/Lisbon", utc(2026, 7, 1, 23, 30), dt.date(2026, 7, 2)),
        ("Europe/Lisbon", utc(2026, 1, 1, 23, 30), dt.date(2026, 1, 1)),
        ("Pacific/Kiritimati", utc(2026, 6, 4, 10, 0), dt.date(2026, 6, 5)),
        ("Pacific/Pago_Pago", utc(2026, 6, 4, 10, 0), dt.date(2026, 6, 3)),
        ("America/St_Johns", utc(2026, 6, 4, 2, 0), dt.date(2026, 6, 3)),
    ],
)
def test_the_day_is_the_gyms_wherever_the_server_stands(zone, moment, day):
    assert day_of(moment, zone_of(zone)) == day


@pytest.mark.parametrize(
    ("date", "hours"),
    [(dt.date(2026, 3, 29), 23), (dt.date(2026, 10, 25), 25), (dt.date(2026, 6, 4), 24)],
)
def test_the_days_the_clocks_change_have_an_hour_less_or_more(date, hours):
    # Europe's clocks change on the last Sundays of March and October (directive 2000/84/EC).
    length = begins(date + dt.timedelta(days=1), LISBON) - begins(date, LISBON)
    assert length == dt.timedelta(hours=hours)


@given(st.dates(dt.date(2000, 1, 2), dt.date(2100, 1, 1)), st.sampled_from(
    ["Europe/Lisbon", "Pacific/Apia", "America/St_Johns", "Asia/Kathmandu", "Pacific/Kiritimati"]
))  # fmt: skip
def test_every_day_begins_on_itself_and_the_moment_before_is_another(date, name):
    zone = zone_of(name)
    start = begins(date, zone)
    if name == "Pacific/Apia" and date == dt.date(2011, 12, 30):
        return  # Samoa crossed the date line: the day never was.
    assert day_of(start, zone) == date
    assert day_of(start - dt.timedelta(seconds=1), zone) < date


@pytest.mark.parametrize(
    ("now", "shown"),
    [
        ((5, 0), (6, 30)),
        ((6, 30), (6, 30)),
        ((7, 29), (6, 30)),
        ((7, 30), (12, 15)),
        ((12, 20), (12, 15)),
        ((17, 40), (18, 0)),
        ((23, 0), (18, 0)),
    ],
)
def test_the_class_that_is_on_else_the_next_else_the_last(now, shown):
    moment = dt.datetime(2026, 1, 7, *now, tzinfo=LISBON).astimezone(dt.UTC)
    assert class_nearest(STARTS, moment, LISBON, 60) == dt.time(*shown)


def test_no_class_is_nearest_where_there_is_none():
    assert class_nearest((), utc(2026, 1, 7), LISBON, 60) is None


def test_a_zone_nobody_has_is_refused_with_a_sentence():
    with pytest.raises(ValueError, match="write one as Europe/Lisbon"):
        zone_of("Skerrow/Harbour")


@pytest.mark.parametrize(
    ("said", "read"),
    [
        ("06:30, 18:00", ["06:30", "18:00"]),
        ("18.00; 6:30", ["06:30", "18:00"]),
        ("6 am and 6 pm", ["06:00", "18:00"]),
        ("12 am, 12:15 pm", ["00:00", "12:15"]),
        ("9", ["09:00"]),
        ("", []),
    ],
)
def test_classes_are_read_as_they_are_written(said, read):
    found = read_times(said)
    assert [f"{start:%H:%M}" for start in found] == read
    assert read_classes(classes_text(read_classes(said))) == read_classes(said)


@pytest.mark.parametrize(
    ("said", "why"),
    [
        ("noon", "noon is no time: write 18:00.*"),
        ("25:00", "25:00 is no time of a day"),
        ("18:75", "18:75 is no time of a day"),
        ("13 pm", "13 pm is no time: write 18:00.*"),
        ("6:30, 06.30", "06:30 stands twice"),
    ],
)
def test_what_is_no_time_is_said(said, why):
    with pytest.raises(ValueError, match=f"^{why}$"):
        read_times(said)


MINUTES = st.times().map(lambda time: time.replace(second=0, microsecond=0))


SLOTS = st.builds(
    Slot,
    MINUTES,
    st.none() | st.integers(10, 240),
    st.none() | st.integers(1, 200),
    st.sampled_from(["", "the shed", "Hall 2", "shed and yard", "at sea"]),
)


@given(st.lists(SLOTS, max_size=24, unique_by=lambda slot: slot.start))
def test_all_classes_of_a_day_come_back_from_their_text(slots):
    assert read_classes(classes_text(slots)) == tuple(sorted(slots, key=lambda one: one.start))


@pytest.mark.parametrize(
    ("said", "read"),
    [
        ("18:00 75 min", Slot(dt.time(18), 75)),
        ("6 pm 8 places", Slot(dt.time(18), None, 8)),
        ("18:00 75 min 8 places in the shed", Slot(dt.time(18), 75, 8, "the shed")),
        ("18.00 at the pool", Slot(dt.time(18), place="the pool")),
    ],
)
def test_a_class_may_have_its_own_length_size_and_place(said, read):
    assert read_classes(said) == (read,)


@pytest.mark.parametrize(
    ("said", "why"),
    [
        ("18:00 5 min", "lasts 10 to 240 minutes"),
        ("18:00 0 places", "1 to 200 places"),
        ("18:00 shed", "is no time"),
        ("18:00 8 places 75 min", "is no time"),
    ],
)
def test_a_class_that_cannot_be_is_said(said, why):
    with pytest.raises(ValueError, match=why):
        read_classes(said)
