"""The key of a part names its result: all that changes it, and nothing else."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from reticula.many.part import Part

PART = Part("0" * 32, "tile", {"lift": 0.1, "side": 2}, {"scan": "scan"}, {"scan": "1" * 32}, {"v": "volume"}, "a.glb")


@pytest.mark.parametrize(
    "change",
    [
        {"graph": "2" * 32},
        {"node": "wall"},
        {"values": {"lift": 0.2, "side": 2}},
        {"inputs": {"reef": "scan"}},
        {"shapes": {"scan": "3" * 32}},
        {"numbers": {"v": "area"}},
        {"file_name": "a.ply"},
        {"frame": 2.0},
    ],
)
def test_whatever_changes_the_result_changes_the_key(change: dict[str, Any]) -> None:
    assert replace(PART, **change).key != PART.key


def test_what_does_not_change_the_result_does_not() -> None:
    assert replace(PART, file_name="another.GLB", values={"side": 2, "lift": 0.1}).key == PART.key
