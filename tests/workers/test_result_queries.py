"""Looks and buffers: what view and ledger are told."""

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ReticulaError
from reticula.core.geometry import Attribute
from reticula.workers.buffers import BufferFiles
from tests.workers.asking import look
from tests.workers.values import values_of


def test_mesh_of_everything(mixed: Geo, buffers: BufferFiles) -> None:
    told = look(mixed, {"what": "mesh"}, buffers)
    assert values_of(buffers, told["position"]).tolist() == mixed.positions.tolist()
    assert values_of(buffers, told["triangle_face"]).tolist() == [0, 0, 1, 1, 1, 2]
    assert values_of(buffers, told["segment"]).tolist() == mixed.topology.curve_segments[0].tolist()
    assert values_of(buffers, told["loose_point"]).tolist() == [8]
    corners = values_of(buffers, told["triangle_corner"])
    assert set(values_of(buffers, told["corner_point"])[corners].ravel().tolist()) == set(range(8))
    empty = look(Geo.empty(), {"what": "mesh"}, buffers)
    assert empty["bounds"] == [[0, 0, 0], [0, 0, 0]]


def test_attributes_of_every_form(buffers: BufferFiles) -> None:
    sheet = ops.grid(cells=(2, 1)).with_attribute("face", "label", np.array(["sand", "reef"]))
    sheet = sheet.with_attribute("face", "seen", Attribute.of([[1, 2, 3], []], "integer list"))
    sheet = sheet.with_attribute("face", "way", np.array([[1.0, 2, 3], [4, 5, 6]])).with_attribute(
        "face", "far_distance", np.array([0.1, 0.7])
    )

    def told(name: str, kind: str = "face") -> dict[str, Any]:
        return look(sheet, {"what": "attribute", "kind": kind, "name": name}, buffers)

    assert told("label")["words"] == ["reef", "sand"]
    assert values_of(buffers, told("label")["values"]).tolist() == [1, 0]
    assert values_of(buffers, told("seen")["values"]).tolist() == [3, 0]
    assert told("seen")["high"] == [3]
    assert (told("way")["low"], told("way")["high"]) == ([1, 2, 3], [4, 5, 6])
    assert (told("far_distance")["high"], told("far_distance")["unit"]) == ([0.7], "m"), (
        "the real range, not that of 32 bits"
    )
    assert (told("area")["type"], told("area")["low"], told("area")["unit"]) == ("number", [0.5], "m²")
    assert values_of(buffers, told("border", "edge")["values"]).sum() == 6
    assert values_of(buffers, told("count")["values"]).tolist() == [2, 2]
    with pytest.raises(ReticulaError, match="no point attribute 'label'; it is an attribute of each face"):
        told("label", "point")


def test_normals_begin_at_their_elements(cube: Geo, buffers: BufferFiles) -> None:
    told = look(cube, {"what": "normals", "kind": "face"}, buffers)
    assert np.array_equal(values_of(buffers, told["begin"]), values_of(buffers, told["direction"])), "a cube of size 2"
    assert values_of(buffers, look(cube, {"what": "normals", "kind": "point"}, buffers)["begin"]).shape == (8, 3)


def test_summary_counts_pieces_and_borders(mixed: Geo, buffers: BufferFiles) -> None:
    told = look(mixed, {"what": "summary"}, buffers)
    assert (told["pieces"], told["open_border_edges"], told["counts"]["edges"]) == (2, 8, 10)
    assert "normal" in told["built_in"]["face"]
    assert told["attributes"]["point"][0] == {"name": "position", "type": "vec3", "low": [0, 0, 0], "high": [9, 9, 9]}


def test_rows_of_lists_text_and_the_whole(buffers: BufferFiles) -> None:
    sheet = ops.grid(cells=(3, 1)).with_attribute("face", "label", np.array(["b", "c", "a"]))
    sheet = sheet.with_attribute("face", "seen", Attribute.of([[1.0], [], [2.0, 3.0]], "number list")).with_attribute(
        "whole", "title", np.array(["tile"])
    )

    def page(**query: Any) -> dict[str, Any]:
        return look(sheet, {"what": "rows", "kind": "face", **query}, buffers)

    assert page()["rows"][2][:2] == ["a", [2.0, 3.0]]
    assert page(sort="label")["index"] == [2, 0, 1]
    assert page(sort="seen", descending=True)["index"] == [2, 0, 1]
    assert page(where="label != 'a'", sort="label", descending=True)["index"] == [1, 0]
    assert page(offset=2, limit=5)["index"] == [2]
    assert page(kind="whole")["rows"] == [["tile"]]
    assert page(kind="curve")["rows"] == []


def test_a_million_rows_are_paged_and_sorted(buffers: BufferFiles) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(1000, 1000)), name="heat", kind="face", value="random(1)")
    page = look(
        sheet,
        {"what": "rows", "kind": "face", "sort": "heat", "descending": True, "offset": 999_998, "limit": 10},
        buffers,
    )
    assert page["total"] == 1_000_000
    assert len(page["rows"]) == 2
    assert page["rows"][1][0] == sheet.attribute("face", "heat").min()


def test_places_are_held_by_faces(cube: Geo, buffers: BufferFiles) -> None:
    placed = ops.set_place(cube, move=(10, 0, 0))
    top = [
        10 + float(cube.positions[:, 0].mean()),
        float(cube.positions[:, 1].max()),
        float(cube.positions[:, 2].mean()),
    ]
    answer = look(placed, {"what": "anchors", "places": [top]}, buffers)
    ((name, *_),) = answer["anchors"]
    assert int(name, 16) in cube.identity("face").tolist()
    np.testing.assert_allclose(answer["places"], [[top[0] - 10, *top[1:]]], atol=1e-9)
    assert look(placed, {"what": "anchors", "places": []}, buffers)["extent"] > 0
