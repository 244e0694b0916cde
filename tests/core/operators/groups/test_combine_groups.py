"""Combine groups: make a group of two others."""

import numpy as np
import pytest

from reticula.core import Geo, ops


@pytest.mark.parametrize(
    ("how", "expected"),
    [
        ("and", [2]),
        ("or", [0, 1, 2, 3, 4]),
        ("minus", [0, 1]),
        ("either", [0, 1, 3, 4]),
    ],
)
def test_combining(sheet: Geo, how: str, expected: list[int]) -> None:
    made = ops.combine_groups(sheet, first="index < 3", second="1 < index < 5", how=how)
    assert np.flatnonzero(made.group("face", "combined")).tolist() == expected


def test_not(sheet: Geo) -> None:
    assert ops.combine_groups(sheet, first="index < 3", how="not").group("face", "combined").sum() == 22
