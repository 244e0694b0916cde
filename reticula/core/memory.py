"""Memory of large arrays, kept by the process when they are freed, so that the next ones need no fresh pages.

Between the steps of a graph arrays of the same sizes come and go. The C library asks the system for each large one and
gives it back; the system clears every page again when it is first touched, which takes about as long as filling it.
Processes that evaluate call :func:`keep_freed_memory` when they start; nothing changes for programs that only import
the library. GNU C Library, manual, section 3.2.3.8, "Malloc Tunable Parameters"; elsewhere nothing happens.
"""

from __future__ import annotations

import ctypes
from contextlib import suppress

__all__ = ["freed_bytes", "give_back", "keep_freed_memory"]

TRIM_THRESHOLD, TOP_PAD, MMAP_MAX, ARENA_MAX = -1, -2, -4, -8
"""Parameters of ``mallopt``, from ``malloc.h``."""
PAD = 64 * 1024**2
LARGEST = 2**31 - 1


class _Totals(ctypes.Structure):
    """``struct mallinfo2``, from ``malloc.h``."""

    _fields_ = [
        (name, ctypes.c_size_t)
        for name in (
            "arena",
            "ordblks",
            "smblks",
            "hblks",
            "hblkhd",
            "usmblks",
            "fsmblks",
            "uordblks",
            "fordblks",
            "keepcost",
        )
    ]


def keep_freed_memory() -> None:
    """Take memory of arrays from one pool from now on, which keeps what is freed until :func:`give_back`."""
    with suppress(OSError, AttributeError):
        library = ctypes.CDLL(None)
        for parameter, value in ((TRIM_THRESHOLD, LARGEST), (TOP_PAD, PAD), (MMAP_MAX, 0), (ARENA_MAX, 1)):
            library.mallopt(parameter, value)


def freed_bytes() -> int:
    """Return how many bytes the pool holds that nobody uses; 0 where that cannot be told."""
    try:
        totals = ctypes.CDLL(None).mallinfo2
    except (OSError, AttributeError):
        return 0
    totals.restype = _Totals
    return int(totals().fordblks)


def give_back() -> None:
    """Return memory that is free to the system."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)
