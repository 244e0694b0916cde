"""Freed memory is kept until it is given back: counted in pages that the system had to clear."""

from __future__ import annotations

import platform
import subprocess
import sys

import pytest

COUNTED = """
import ctypes, resource, sys
import numpy as np
from reticula.core.memory import freed_bytes, give_back, keep_freed_memory

ctypes.CDLL(None).prctl(41, 1, 0, 0, 0)  # PR_SET_THP_DISABLE: pages of one size, whatever else the machine does

def faults():
    before = resource.getrusage(resource.RUSAGE_SELF).ru_minflt
    array = np.empty(200_000_000 // 8)
    array[::512] = 1.0
    del array
    return resource.getrusage(resource.RUSAGE_SELF).ru_minflt - before

if "keep" in sys.argv:
    keep_freed_memory()
first, second, kept = faults(), faults(), freed_bytes()
give_back()
print(first, second, kept, freed_bytes() if "keep" not in sys.argv else faults())
"""


def counted(*said: str) -> list[int]:
    made = subprocess.run([sys.executable, "-c", COUNTED, *said], capture_output=True, text=True, check=True)
    return [int(word) for word in made.stdout.split()]


@pytest.mark.skipif(platform.libc_ver()[0] != "glibc", reason="the pool is that of the GNU C Library")
def test_pages_of_freed_arrays_are_used_again_until_they_are_given_back() -> None:
    first, second, kept, again = counted("keep")
    assert second < first / 10
    assert kept > 190_000_000
    assert again > first / 2, "given back, they are fresh ones"


def test_nothing_changes_where_it_is_not_asked_for() -> None:
    first, second, kept, _ = counted()
    assert second > first / 2
    assert kept < 100_000_000
