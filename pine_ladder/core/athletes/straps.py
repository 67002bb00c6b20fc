"""What a heart rate strap says: bytes of the standard Heart Rate Measurement characteristic.

The layout is the Bluetooth SIG's (Heart Rate Service 1.0, characteristic 0x2A37; from memory):
a byte of flags, the rate in one byte or two, then what the flags announce. Straps of a gym share
one stream; each value goes as a frame: the strap's number, the value's length, the value.
"""

from __future__ import annotations

import struct
from collections.abc import Sequence
from typing import NamedTuple

from pine_ladder.core.athletes.heart import FASTEST, SLOWEST

WIDE, TOUCHES, FEELS, SPENT, BETWEEN = 0x01, 0x02, 0x04, 0x08, 0x10
"""Flags: rate in 16 bits; skin contact is felt; contact can be told; energy follows; intervals
between beats follow."""
INTERVALS_A_SECOND = 1024
"""Unit of the intervals between beats: 1/1024 s."""
MOST_STRAPS = 255
LONGEST_VALUE = 20
"""Bytes a characteristic carries at most without a longer transfer agreed on."""


class NotAMeasurement(ValueError):
    """Bytes that are no Heart Rate Measurement; the message says why."""


class Measured(NamedTuple):
    """One value: beats a minute, whether the strap lies on skin (True where it cannot tell), the
    energy spent in kJ or None, intervals between beats in seconds, the oldest first.
    """

    bpm: int
    worn: bool = True
    energy_kj: int | None = None
    intervals_s: tuple[float, ...] = ()

    @property
    def plausible(self) -> bool:
        """Whether this is a heart's: on skin, and no slower or faster than hearts beat."""
        return self.worn and SLOWEST <= self.bpm <= FASTEST


def to_bytes(measured: Measured, tells_contact: bool = True) -> bytes:
    """A value as a strap sends it.

    >>> to_bytes(Measured(142)).hex()
    '068e'
    """
    wide = measured.bpm > 0xFF
    flags = WIDE if wide else 0
    if tells_contact:
        flags |= FEELS | (TOUCHES if measured.worn else 0)
    if measured.energy_kj is not None:
        flags |= SPENT
    if measured.intervals_s:
        flags |= BETWEEN
    found = bytes([flags]) + measured.bpm.to_bytes(2 if wide else 1, "little")
    if measured.energy_kj is not None:
        found += struct.pack("<H", min(measured.energy_kj, 0xFFFF))
    ticks = [min(round(one * INTERVALS_A_SECOND), 0xFFFF) for one in measured.intervals_s]
    return found + struct.pack(f"<{len(ticks)}H", *ticks)


def from_bytes(value: bytes) -> Measured:
    """Read a value; raises NotAMeasurement where it is too short or has an odd end."""
    if not value:
        raise NotAMeasurement("an empty value")
    flags, rest = value[0], value[1:]
    size = 2 if flags & WIDE else 1
    needed = size + (2 if flags & SPENT else 0)
    if len(rest) < needed:
        raise NotAMeasurement(f"{len(value)} bytes where {needed + 1} were announced")
    bpm, rest = int.from_bytes(rest[:size], "little"), rest[size:]
    energy = None
    if flags & SPENT:
        energy, rest = int.from_bytes(rest[:2], "little"), rest[2:]
    if len(rest) % 2 or (rest and not flags & BETWEEN):
        raise NotAMeasurement(f"{len(rest)} bytes over at the end")
    ticks = struct.unpack(f"<{len(rest) // 2}H", rest)
    worn = bool(flags & TOUCHES) if flags & FEELS else True
    return Measured(bpm, worn, energy, tuple(tick / INTERVALS_A_SECOND for tick in ticks))


def frame(strap: int, value: bytes) -> bytes:
    """A value of one strap on the stream that straps share."""
    if not 1 <= strap <= MOST_STRAPS or len(value) > LONGEST_VALUE:
        raise ValueError(f"straps go to {MOST_STRAPS}, values to {LONGEST_VALUE} bytes")
    return bytes([strap, len(value)]) + value


class Frames:
    """Reads the stream as it comes, in pieces of any size."""

    def __init__(self) -> None:
        self._left = b""

    def feed(self, more: bytes) -> Sequence[tuple[int, Measured]]:
        """The values that are whole by now, by strap; a value that is none is passed over.

        Raises NotAMeasurement where the stream has lost its step: it has to be opened anew.
        """
        self._left += more
        found = []
        while len(self._left) >= 2:
            strap, size = self._left[0], self._left[1]
            if strap == 0 or size > LONGEST_VALUE:
                raise NotAMeasurement("the stream has lost its step")
            if len(self._left) < 2 + size:
                break
            value, self._left = self._left[2 : 2 + size], self._left[2 + size :]
            try:
                found.append((strap, from_bytes(value)))
            except NotAMeasurement:
                continue
        return found
