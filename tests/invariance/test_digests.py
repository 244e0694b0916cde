"""Results stay what they were: every entry of ``digests.json`` is worked out again and compared.

On a machine of the make that wrote the file, to the bit; elsewhere all but the last bits of numbers. A commit that
means to change results writes the file anew with ``python -m tests.invariance.digests`` and says so.
"""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.invariance.digests import STORED, all_digests, machine


@pytest.fixture(scope="module")
def stored() -> dict[str, Any]:
    loaded: dict[str, Any] = json.loads(STORED.read_text())
    return loaded


@pytest.fixture(scope="module")
def made() -> dict[str, Any]:
    worked_out: dict[str, Any] = json.loads(json.dumps(all_digests()))
    return worked_out


def without_last_bits(entry: dict[str, Any]) -> Any:
    """Return what of an entry must be equal on every machine."""
    if "bytes" in entry:
        return None
    outputs = entry.get("outputs", [])
    return {**entry, "outputs": [{"plain": one["plain"], "names": one["names"]} for one in outputs]}


def test_the_same_results_are_known(stored: dict[str, Any], made: dict[str, Any]) -> None:
    assert made.keys() == stored["entries"].keys()


def test_results_are_what_they_were(stored: dict[str, Any], made: dict[str, Any]) -> None:
    exact = stored["machine"] == machine()
    differ = []
    for key, before in stored["entries"].items():
        now = made.get(key, {})
        same = now == before if exact else without_last_bits(now) == without_last_bits(before)
        if not exact:
            for a, b in zip(now.get("outputs", []), before.get("outputs", []), strict=False):
                same = same and a["sums"] == pytest.approx(b["sums"], rel=1e-9, abs=1e-12)
        if not same:
            differ.append(key)
    assert differ == []


def test_scripts_and_graphs_do_run(made: dict[str, Any]) -> None:
    """An error would be compared with itself for ever."""
    assert [
        name
        for name, entry in made.items()
        if name.startswith(("script/vector", "script/compiled", "demo")) and "error" in entry
    ] == []
