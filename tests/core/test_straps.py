"""What straps say: the standard's bytes, in whatever pieces they come."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pine_ladder.core.athletes.heart import Target, time_in, where
from pine_ladder.core.athletes.straps import (
    Frames,
    Measured,
    NotAMeasurement,
    frame,
    from_bytes,
    to_bytes,
)
from pine_ladder.files.straps import Pulse


@pytest.mark.parametrize(
    ("value", "measured"),
    [
        ("0048", Measured(72)),
        ("0648", Measured(72)),
        ("0400", Measured(0, worn=False)),
        ("012c01", Measured(300)),
        ("08960a00", Measured(150, energy_kj=10)),
        ("106000040002", Measured(96, intervals_s=(1.0, 0.5))),
        ("1e8e64000002", Measured(142, energy_kj=100, intervals_s=(0.5,))),
    ],
)
def test_values_are_read_as_the_standard_lays_them_out(value: str, measured: Measured):
    """Heart Rate Service 1.0, characteristic 0x2A37; layout and values from memory."""
    assert from_bytes(bytes.fromhex(value)) == measured


@pytest.mark.parametrize("value", ["", "00", "0148", "0848", "004800", "1048000400"])
def test_a_value_that_is_cut_or_too_long_is_none(value: str):
    with pytest.raises(NotAMeasurement):
        from_bytes(bytes.fromhex(value))


ticks = st.integers(0, 0xFFFF).map(lambda tick: tick / 1024)
values = st.builds(
    Measured,
    bpm=st.integers(0, 0xFFFF),
    worn=st.booleans(),
    energy_kj=st.none() | st.integers(0, 0xFFFF),
    intervals_s=st.lists(ticks, max_size=4).map(tuple),
)


@given(values)
def test_what_is_written_is_read_as_it_was(measured: Measured):
    assert from_bytes(to_bytes(measured)) == measured


@given(st.lists(st.tuples(st.integers(1, 255), values), max_size=12), st.data())
def test_a_stream_says_the_same_in_whatever_pieces_it_comes(said, data):
    stream, frames, heard = b"".join(frame(n, to_bytes(one)) for n, one in said), Frames(), []
    while stream:
        size = data.draw(st.integers(1, len(stream)))
        heard += frames.feed(stream[:size])
        stream = stream[size:]
    assert heard == said


def test_one_bad_value_is_passed_over_and_a_lost_step_is_told():
    frames = Frames()
    assert frames.feed(frame(3, b"\x01\x48") + frame(4, b"\x00\x48")) == [(4, Measured(72))]
    with pytest.raises(NotAMeasurement):
        frames.feed(b"\x00\x02")
    with pytest.raises(NotAMeasurement):
        Frames().feed(b"\x01\xff")


@given(st.dictionaries(st.integers(25, 240), st.integers(1, 500), min_size=1))
def test_no_second_is_lost_between_below_in_and_above(seconds):
    range_ = Target(effort="easy", low=104, high=138, words="")
    found = time_in(range_, seconds)
    assert found.below + found.within + found.above == sum(seconds.values())
    assert found.within == sum(s for bpm, s in seconds.items() if where(bpm, range_) == "in")


def test_an_easy_part_tells_what_was_over_it_and_a_hard_one_what_was_under():
    seconds = {90: 30, 120: 60, 180: 20}
    easy = Target(effort="easy", low=104, high=138, words="")
    hard = Target(effort="hard", low=104, high=138, words="")
    assert time_in(easy, seconds).words == "in the range for 1:00 of 1:50, above it 0:20"
    assert time_in(hard, seconds).words == "in the range for 1:00 of 1:50, below it 0:30"


def test_a_made_up_heart_rises_with_work_falls_with_rest_and_stays_a_hearts():
    pulse = Pulse(7)
    rates = [pulse.beat(second) for second in range(1200)]
    worn = [one for one in rates if one.worn]
    assert all(one.plausible for one in worn)
    assert len(worn) < len(rates)
    assert max(one.bpm for one in worn) - min(one.bpm for one in worn) > 30
