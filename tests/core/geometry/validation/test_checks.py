"""Checks find what is wrong, at the elements that have it, and nothing where all is well."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import Topology
from reticula.core.geometry.validation.checks import Finding, find_defects, find_remarks
from reticula.core.operators import find_operator


def found(geo: Geo) -> dict[str, Finding]:
    return {one.name: one for one in find_defects(geo)}


@pytest.mark.parametrize(
    "geo", [ops.box(cells=(3, 2, 2)), ops.torus(), ops.geodesic_sphere(), ops.circle(), Geo.empty()]
)
def test_nothing_is_found_where_all_is_well(geo: Geo) -> None:
    assert find_defects(geo) == []


def test_open_borders_are_the_edges_of_a_sheet() -> None:
    sheet = ops.grid(cells=(3, 2))
    assert len(found(sheet)["open borders"].elements) == 10
    assert find_operator(found(sheet)["open borders"].repair[0]).name == "fill"


def test_three_faces_on_an_edge_and_fans_that_meet_at_a_point() -> None:
    fin = Geo.from_faces([[0, 0, 0], [0, 1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1]], [[0, 1, 2], [1, 0, 3], [0, 1, 4]])
    crowded = found(fin)["crowded edges"].elements
    assert fin.topology.edges[crowded].tolist() == [[0, 1]]
    bow = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]])
    assert found(bow)["pinched points"].elements.tolist() == [0]
    assert "pinched points" not in found(ops.grid(cells=(2, 2)))


def test_a_turned_face_is_found_and_reverse_mends_it() -> None:
    box = ops.box(cells=(2, 2, 2))
    turned = ops.reverse(box, where="index == 5")
    assert found(turned)["turned faces"].elements.tolist() == [5]
    assert found(ops.reverse(turned, where="index == 5")) == {}


def test_bent_empty_and_double_faces() -> None:
    bent = Geo.from_faces([[0, 0, 0], [1, 0, 0], [1, 1, 0.3], [0, 1, 0]], [[0, 1, 2, 3]])
    assert found(bent)["bent faces"].elements.tolist() == [0]
    line = Geo.from_faces([[0, 0, 0], [1, 0, 0], [2, 0, 0], [0, 1, 0]], [[0, 1, 2], [0, 1, 3]])
    assert found(line)["faces without area"].elements.tolist() == [0]
    twice = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2], [2, 1, 0], [1, 2, 0]])
    assert found(twice)["double faces"].elements.tolist() == [1, 2]


def test_loose_and_near_points_and_what_is_no_number(notes: list[Note]) -> None:
    loose = ops.join(ops.box(), Geo.of([[5, 5, 5]]))
    assert found(loose)["loose points"].elements.tolist() == [8]
    assert "loose points" not in found(Geo.of([[1, 2, 3]]))
    apart = ops.unshare(ops.box())
    assert len(found(apart)["points in one place"].elements) == 24
    assert "points in one place" not in found(ops.weld(apart))
    bad = ops.box().with_attribute("point", "heat", np.array([0, np.nan, 0, 0, np.inf, 0, 0, 0]))
    assert found(bad)["no numbers in heat"].elements.tolist() == [1, 4]
    assert found(bad)["no numbers in heat"].repair == ("set_attribute", {"kind": "point", "name": "heat"})


def test_every_repair_is_an_operator() -> None:
    sheet = Geo.of(np.zeros((4, 3)), Topology(4, [0, 3], [0, 1, 2]))
    for one in find_defects(sheet):
        assert one.repair is None or find_operator(one.repair[0])


def remarked(geo: Geo) -> dict[str, Finding]:
    return {one.name: one for one in find_remarks(geo)}


def laid_out(uv: str) -> Geo:
    return ops.set_attribute(ops.grid(cells=(8, 8)), name="uv", kind="corner", value=uv)


def test_faces_that_share_a_place_on_the_uv_sheet() -> None:
    assert "uv overlaps" not in remarked(laid_out("vec2(position.x, position.z)"))
    assert "uv overlaps" not in remarked(laid_out("vec2(position.x * 3 + position.z, position.z * 0.01)"))
    folded = laid_out("vec2(abs(position.x), position.z)")
    assert len(remarked(folded)["uv overlaps"].elements) == 64
    part = laid_out("vec2(max(position.x, -0.3), position.z)")
    assert "uv overlaps" not in remarked(part), "faces without area on the sheet lie over nothing"


def test_uv_overlaps_agree_with_exact_intersections() -> None:
    """Against Shapely (BSD), whose GEOS tells the dimension of what two polygons share."""
    shapely = pytest.importorskip("shapely")
    rng = np.random.default_rng(4)
    corners = rng.random((60, 1, 2)) + rng.normal(0, 0.09, (60, 3, 2))
    loose = ops.unshare(Geo.from_faces(np.zeros((180, 3)), np.arange(180).reshape(60, 3)))
    geo = loose.with_attribute("corner", "uv", corners.reshape(-1, 2))
    polygons = shapely.polygons(corners)
    inner = shapely.relate_pattern(polygons[:, None], polygons[None], "2********")
    np.fill_diagonal(inner, False)
    expected = np.flatnonzero(inner.any(axis=1))
    assert 10 < len(expected) < 60
    assert remarked(geo)["uv overlaps"].elements.tolist() == expected.tolist()


def test_sides_of_a_box_repeat_on_the_sheet_which_is_no_trouble() -> None:
    assert len(remarked(ops.box())["uv overlaps"].elements) == 6
    assert found(ops.box()) == {}
