"""Freed memory goes back to the system."""

from __future__ import annotations

import sys

import pytest

from pine_ladder.jobs.memory import memory_loop, trim


def resident_kb() -> int:
    with open("/proc/self/status") as status:
        return next(int(line.split()[1]) for line in status if line.startswith("VmRSS"))


@pytest.mark.skipif(not sys.platform.startswith("linux"), reason="glibc's allocator alone")
def test_what_was_freed_between_what_stays_is_given_back():
    """Half of many small blocks freed, one of two pages' worth: the allocator keeps them."""
    run, kept = 64, []
    blocks = [bytearray(700) for _ in range(200_000)]
    for start in range(0, len(blocks), 2 * run):
        kept += blocks[start : start + run]
    full = resident_kb()
    del blocks
    trim()
    assert resident_kb() < full - 30_000
    assert len(kept) > 90_000


def test_the_loop_is_named_as_health_tells_it():
    assert memory_loop().name == "memory"
