"""Plain arrays and back: nothing is lost, and what does not fit together is said."""

from __future__ import annotations

import io

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import GeometryError
from tests.core.formats.shared.samples import full


@pytest.mark.parametrize("seed", range(3))
def test_every_kind_and_type_comes_back(seed: int) -> None:
    geo = full(seed)
    assert Geo.from_arrays(geo.to_arrays()).digest == geo.digest


def test_they_go_through_a_file_of_numpy() -> None:
    with collecting():
        marked = ops.group(ops.box(), name="top", where="index < 1")
        geo = ops.place_instances(ops.scatter(ops.grid(), total=5, seed=1), marked)
    out = io.BytesIO()
    np.savez(out, **geo.to_arrays())
    out.seek(0)
    back = Geo.from_arrays(dict(np.load(out, allow_pickle=False)))
    assert back.digest == geo.digest
    assert back.prototypes[0].group("face", "top").sum() == 1


def test_least_that_is_needed() -> None:
    assert Geo.from_arrays({"point/position": [[0, 0, 0], [1, 2, 3]]}).counts["points"] == 2


@pytest.mark.parametrize(
    ("arrays", "message"),
    [
        ({}, "no array 'point/position'; there are none"),
        ({"point/position": np.zeros((2, 3)), "pixel/a": [1]}, "'pixel/a' is of no kind"),
        ({"point/position": np.zeros((2, 3)), "point/a": [1.0]}, "1 values for 2 points"),
        ({"point/position": np.zeros((1, 3)), "point/a": [1.0], "point/a|start": [0, 2]}, "does not say where"),
        ({"point/position": np.zeros((1, 3)), "instance/a": [1.0]}, "instances need"),
    ],
)
def test_what_does_not_fit_is_said(arrays: dict[str, np.ndarray], message: str) -> None:
    with pytest.raises(GeometryError, match=message):
        Geo.from_arrays(arrays)
