"""Gives freed memory back to the system: what many threads have freed lies in the C allocator.

Each thread that answers requests takes from an arena of its own, and a class of hours scatters what
is in use over all of them: the process grew by a quarter in an hour while its objects stayed as
many. Two arenas, emptied twice a minute, keep it level. glibc alone has them (mallopt(3),
malloc_trim(3)); elsewhere nothing is done.
"""

from __future__ import annotations

import ctypes

from pine_ladder.jobs.loop import Loop

ARENAS = 2
TRIMS_S = 30.0
"""Seconds between two times that memory is given back."""
_M_ARENA_MAX = -8
"""The number of the parameter in malloc.h."""


def _allocator() -> ctypes.CDLL | None:
    """The C library, where its allocator can be told; None elsewhere."""
    library = ctypes.CDLL(None)
    return library if hasattr(library, "malloc_trim") and hasattr(library, "mallopt") else None


def trim() -> bool:
    """Give freed memory back; True where the allocator had some to give."""
    allocator = _allocator()
    return allocator is not None and bool(allocator.malloc_trim(0))


def memory_loop() -> Loop:
    """The loop that gives memory back, with few arenas from now on."""
    allocator = _allocator()
    if allocator is not None:
        allocator.mallopt(_M_ARENA_MAX, ARENAS)
    return Loop("memory", trim, TRIMS_S)
