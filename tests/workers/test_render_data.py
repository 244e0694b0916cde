"""Looks that are drawn: edges by kind, groups as bits, uv on the surface and laid out flat; and counts of checks."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.graph import Evaluator
from reticula.workers.buffers import BufferFiles
from reticula.workers.check_counts import CheckCounts
from reticula.workers.result_queries import look
from tests.core.graph.building import graph, node


@pytest.fixture
def buffers(tmp_path: Path) -> BufferFiles:
    return BufferFiles(tmp_path)


def read(buffers: BufferFiles, ref: dict[str, Any]) -> Any:
    dtype = {"u1": "u1"}.get(ref["dtype"], f"<{ref['dtype']}")
    return np.fromfile(buffers.path(ref["digest"]), dtype).reshape(ref["shape"])


def test_edges_of_a_box_are_creases_and_of_a_sheet_borders(buffers: BufferFiles) -> None:
    box = look(ops.box(cells=(2, 2, 2)), {"what": "edges"}, buffers)
    assert (box["border"], box["crease"], box["crowded"]) == (0, 24, 0)
    assert (read(buffers, box["kinds"]) == 2).sum() == 24
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
    kinds = read(buffers, found["kinds"])
    assert fin.topology.edges[kinds == 3].tolist() == [[0, 1]]


def test_groups_are_bits_in_the_order_of_their_names(buffers: BufferFiles) -> None:
    geo = ops.group(ops.grid(cells=(3, 1)), name="low", where="index < 2")
    geo = ops.group(geo, name="high", where="index > 0")
    found = look(geo, {"what": "groups", "kind": "face"}, buffers)
    assert [(one["name"], one["members"]) for one in found["groups"]] == [("low", 2), ("high", 2)]
    assert read(buffers, found["values"]).tolist() == [1, 3, 2]
    assert found["total"] == 3
    with pytest.raises(GeometryError, match="no element kind 'side'"):
        look(geo, {"what": "groups", "kind": "side"}, buffers)


def test_uv_is_given_per_corner_and_laid_out(buffers: BufferFiles) -> None:
    sheet = ops.set_attribute(
        ops.grid(cells=(2, 1)), name="uv", kind="corner", value="vec2(position.x * 2, position.z)"
    )
    uv = look(sheet, {"what": "uv"}, buffers)
    assert uv["low"] == pytest.approx([-1.0, -0.5])
    flat = look(sheet, {"what": "flat"}, buffers)
    place = read(buffers, flat["position"])
    assert np.allclose(place[:, :2], read(buffers, uv["values"]))
    assert np.allclose(place[:, 2], 0)
    assert read(buffers, flat["own_point"]).tolist() == sheet.topology.corner_point.tolist()
    edges = read(buffers, flat["edge"])
    own = read(buffers, flat["own_edge"])
    ends = np.sort(sheet.topology.corner_point[edges], axis=1)
    assert (ends == np.sort(sheet.topology.edges[own], axis=1)).all()
    assert flat["bounds"] == [[-1.0, -0.5, 0.0], [1.0, 1.0, 0.0]]


def test_a_layout_without_uv_says_what_to_do(buffers: BufferFiles) -> None:
    for what in ("uv", "flat"):
        with pytest.raises(GeometryError, match=r"no uv here .* set attribute"):
            look(ops.geodesic_sphere(), {"what": what}, buffers)


def test_each_result_is_checked_once(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[int] = []
    from reticula.workers import check_counts

    real = check_counts.find_defects
    monkeypatch.setattr(check_counts, "find_defects", lambda geo: asked.append(1) or real(geo))
    evaluator, counts = Evaluator(), CheckCounts()
    nodes = {"sheet": node("grid", cells=[4, 4]), "apart": node("unshare", "sheet")}
    first = counts.of(evaluator.evaluate(graph(nodes)), lambda: False)
    assert [(one["name"], one["count"]) for one in first["sheet"]["found"]] == [("open borders", 16)]
    assert {one["name"] for one in first["apart"]["found"]} == {"open borders", "points in one place"}
    nodes["apart"] = node("triangulate", "sheet")
    again = counts.of(evaluator.evaluate(graph(nodes)), lambda: False)
    assert len(asked) == 3
    assert again["sheet"] == first["sheet"]


def test_a_large_result_is_not_checked_unasked(monkeypatch: pytest.MonkeyPatch) -> None:
    from reticula.workers import check_counts

    monkeypatch.setattr(check_counts, "MOST_CORNERS", 10)
    found = CheckCounts().of(Evaluator().evaluate(graph({"sheet": node("grid", cells=[4, 4])})), lambda: False)
    assert found["sheet"]["skipped"]
    assert found["sheet"]["found"] == []
