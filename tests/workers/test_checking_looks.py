"""Looks that help to look closer: checks, spreading of a choice, strokes, differences."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import GeometryError
from reticula.workers.buffers import BufferFiles
from tests.workers.asking import look
from tests.workers.values import values_of


def test_checks_come_with_their_elements_and_what_mends_them(buffers: BufferFiles) -> None:
    made = look(ops.grid(cells=(2, 1)), {"what": "checks"}, buffers)["checks"]
    assert [(one["name"], one["kind"], one["count"], one["repair"]["operator"]) for one in made] == [
        ("open borders", "edge", 6, "fill")
    ]
    box = look(ops.box(), {"what": "checks"}, buffers)
    assert box["checks"] == []
    assert [one["name"] for one in box["remarks"]] == ["uv overlaps"]


def test_a_choice_grows_shrinks_and_takes_its_piece(buffers: BufferFiles) -> None:
    sheet = ops.join(ops.grid(cells=(3, 3)), ops.transform(ops.grid(cells=(1, 1)), move=(5, 0, 0)))

    def spread(elements: list[int], how: str, kind: str = "face") -> list[int]:
        return look(sheet, {"what": "spread", "kind": kind, "elements": elements, "how": how}, buffers)["elements"]

    assert spread([4], "grow") == [1, 3, 4, 5, 7]
    assert spread([1, 3, 4, 5, 7], "shrink") == [4]
    assert spread([0], "piece") == list(range(9))
    assert spread([9], "piece") == [9]
    with pytest.raises(GeometryError, match="points and faces can grow, not edges"):
        spread([0], "grow", "edge")
    assert len(spread([0], "loop", "edge")) > 1
    with pytest.raises(GeometryError, match="edges have a ring, faces have none"):
        spread([0], "ring")


def test_strokes_show_any_vector(buffers: BufferFiles) -> None:
    geo = ops.set_attribute(ops.grid(cells=(1, 1)), name="flow", value="vec3(index, 0, 0)")
    made = look(geo, {"what": "normals", "kind": "point", "name": "flow"}, buffers)
    np.testing.assert_array_equal(values_of(buffers, made["direction"])[:, 0], [0, 1, 2, 3])
    with pytest.raises(GeometryError, match="there is no point attribute"):
        look(geo, {"what": "normals", "kind": "point", "name": "index"}, buffers)
