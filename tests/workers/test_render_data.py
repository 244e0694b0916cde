"""Looks that are drawn: edges by kind, groups as bits, uv on the surface and laid out flat; and counts of checks."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.workers.buffers import BufferFiles
from tests.workers.asking import look
from tests.workers.values import values_of


def test_edges_of_a_box_are_creases_and_of_a_sheet_borders(buffers: BufferFiles) -> None:
    box = look(ops.box(cells=(2, 2, 2)), {"what": "edges"}, buffers)
    assert (box["border"], box["crease"], box["crowded"]) == (0, 24, 0)
    assert (values_of(buffers, box["kinds"]) == 2).sum() == 24
    sheet = look(ops.grid(cells=(2, 2)), {"what": "edges"}, buffers)
    assert (sheet["border"], sheet["crease"]) == (8, 0)
    assert look(ops.geodesic_sphere(), {"what": "edges", "angle": 1}, buffers)["crease"] > 0
    marked = ops.set_attribute(ops.box(), name="crease", kind="edge", value="max(position.y, 0)")
    told = look(marked, {"what": "edges"}, buffers)
    assert told["crease"] == 4
    assert told["creases_are"] == "edges with a crease"


def test_crowded_edges_are_told_from_borders(buffers: BufferFiles) -> None:
    fin = Geo.from_faces([[0, 0, 0], [0, 1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1]], [[0, 1, 2], [1, 0, 3], [0, 1, 4]])
    found = look(fin, {"what": "edges"}, buffers)
    assert (found["border"], found["crowded"]) == (6, 1)
    kinds = values_of(buffers, found["kinds"])
    assert fin.topology.edges[kinds == 3].tolist() == [[0, 1]]


def test_groups_are_bits_in_the_order_of_their_names(buffers: BufferFiles) -> None:
    geo = ops.group(ops.grid(cells=(3, 1)), name="low", where="index < 2")
    geo = ops.group(geo, name="high", where="index > 0")
    found = look(geo, {"what": "groups", "kind": "face"}, buffers)
    assert [(one["name"], one["members"]) for one in found["groups"]] == [("low", 2), ("high", 2)]
    assert values_of(buffers, found["values"]).tolist() == [1, 3, 2]
    assert found["total"] == 3


def test_uv_is_given_per_corner_and_laid_out(buffers: BufferFiles) -> None:
    sheet = ops.set_attribute(
        ops.grid(cells=(2, 1)), name="uv", kind="corner", value="vec2(position.x * 2, position.z)"
    )
    uv = look(sheet, {"what": "uv"}, buffers)
    assert uv["low"] == pytest.approx([-1.0, -0.5])
    flat = look(sheet, {"what": "flat"}, buffers)
    place = values_of(buffers, flat["position"])
    assert np.allclose(place[:, :2], values_of(buffers, uv["values"]))
    assert np.allclose(place[:, 2], 0)
    assert values_of(buffers, flat["own_point"]).tolist() == sheet.topology.corner_point.tolist()
    edges = values_of(buffers, flat["edge"])
    own = values_of(buffers, flat["own_edge"])
    ends = np.sort(sheet.topology.corner_point[edges], axis=1)
    assert (ends == np.sort(sheet.topology.edges[own], axis=1)).all()
    assert flat["bounds"] == [[-1.0, -0.5, 0.0], [1.0, 1.0, 0.0]]


def test_a_layout_without_uv_says_what_to_do(buffers: BufferFiles) -> None:
    for what in ("uv", "flat"):
        with pytest.raises(GeometryError, match=r"no uv here .* set attribute"):
            look(ops.geodesic_sphere(), {"what": what}, buffers)
