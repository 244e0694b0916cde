"""Group by pattern: name elements by their number: from, to, every nth."""

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from tests.core.operators.groups.support import members


@pytest.mark.parametrize(
    ("parameters", "expected"),
    [
        ({}, [0, 2, 4, 6, 8]),
        ({"every": 3}, [0, 3, 6, 9]),
        ({"every": 3, "shift": 1}, [1, 4, 7]),
        ({"every": 4, "take": 2}, [0, 1, 4, 5, 8, 9]),
        ({"first": 3, "last": 7, "every": 2}, [3, 5, 7]),
        ({"first": -3, "every": 1}, [7, 8, 9]),
        ({"every": 4, "from_end": True}, [1, 5, 9]),
        ({"first": 2, "last": -2, "every": 3, "from_end": True}, [2, 5, 8]),
    ],
)
def test_patterns(strip: Geo, parameters: dict, expected: list[int]) -> None:
    assert members(ops.group_by_pattern(strip, **parameters), "pattern") == expected


def test_a_pattern_beyond_the_count_is_said(strip: Geo, notes: list[Note]) -> None:
    ops.group_by_pattern(strip, first=4, last=40)
    assert "There are only 10 faces, 0 to 9" in notes[0].text
