"""What a small picture is drawn from: few triangles of the same shape, in one file."""

from __future__ import annotations

import json
import zlib
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import triangles
from reticula.workers.drawn import MOST_TRIANGLES, drawn_file, light


def read(data: bytes) -> tuple[dict[str, Any], dict[str, bytes]]:
    head, _, rest = zlib.decompress(data).partition(b"\n")
    told, at, arrays = json.loads(head), 0, {}
    for digest, size in told["arrays"]:
        arrays[digest], at = rest[at : at + size], at + size
    assert at == len(rest)
    return told["look"], arrays


def array(look: dict[str, Any], arrays: dict[str, bytes], name: str) -> np.ndarray:
    ref = look[name]
    return np.frombuffer(arrays[ref["digest"]], f"<{ref['dtype']}").reshape(ref["shape"])


def test_a_small_shape_is_drawn_as_it_is(mixed: Geo) -> None:
    look, arrays = read(drawn_file(mixed))
    np.testing.assert_array_equal(array(look, arrays, "position"), mixed.positions.astype("f4"))
    np.testing.assert_array_equal(array(look, arrays, "loose_point"), [8])
    assert array(look, arrays, "triangle_corner").shape == (6, 3)
    assert array(look, arrays, "segment").shape == (5, 2), "an open curve of two, a closed one of three"


def test_a_large_one_has_few_triangles_and_the_same_size() -> None:
    ball = ops.geodesic_sphere(frequency=60, radius=2.0)
    small = light(ball)
    assert len(triangles(ball).corner) > 8 * MOST_TRIANGLES
    assert len(triangles(small).corner) <= MOST_TRIANGLES
    np.testing.assert_allclose(np.linalg.norm(small.positions, axis=1), 2.0, rtol=0.02)


def test_only_what_is_drawn_travels(cube: Geo) -> None:
    heavy = cube.with_attribute("face", "site", np.zeros(6)).with_attribute("point", "cover", np.zeros(8))
    assert drawn_file(heavy) == drawn_file(cube)


def test_copies_travel_once_with_their_places() -> None:
    fringe = ops.place_instances(ops.grid(cells=(3, 3)), ops.geodesic_sphere(frequency=4))
    look, arrays = read(drawn_file(fringe))
    (placed,) = look["instances"]
    assert array(placed, arrays, "matrix").shape == (16, 4, 4)


def test_nothing_is_drawn_as_nothing() -> None:
    look, _ = read(drawn_file(Geo.empty()))
    assert look["position"]["shape"] == [0, 3]


@pytest.mark.parametrize("frequency", [3, 60])
def test_it_is_the_same_each_time(frequency: int) -> None:
    ball = ops.geodesic_sphere(frequency=frequency)
    assert drawn_file(ball) == drawn_file(ball)
