"""Geo: immutability, attributes, identity, measures, triangles."""

import pickle

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.geometry import TYPES, Attribute, SourceMap, Weights, carry, measure, triangles


def test_nothing_can_be_written_to(mixed: Geo) -> None:
    with pytest.raises(ValueError, match="read-only"):
        mixed.positions[0] = 1
    with pytest.raises(TypeError):
        mixed.attributes["point"]["x"] = None  # type: ignore[index]


def test_changing_positions_shares_the_topology(cube: Geo) -> None:
    moved = cube.with_positions(cube.positions + 1)
    assert moved.topology is cube.topology
    assert cube.bounds.tolist() == [[-1] * 3, [1] * 3]


def test_a_missing_attribute_says_where_it_is(cube: Geo) -> None:
    with pytest.raises(GeometryError, match="no point attribute 'uv'; it is an attribute of each corner"):
        cube.attribute("point", "uv")
    with pytest.raises(GeometryError, match="has 3 values for 8 points"):
        cube.with_attribute("point", "a", [1, 2, 3])


@pytest.mark.parametrize("type", [name for name, info in TYPES.items() if not info.is_list])
def test_every_type_is_taken_joined_and_filled(type: str) -> None:
    zero = Attribute.filled(type, 2)
    values = np.zeros((3, *zero.info.shape)).astype(zero.info.dtype) if type != "text" else np.array(["a", "bcd", ""])
    some = Attribute.of(values, type, default=None)
    taken = some.take(np.array([2, -1, 0]))
    assert len(taken) == 3
    assert taken.row(1) == zero.row(0)
    assert len(Attribute.concatenate([zero, some])) == 5


def test_list_attributes_keep_their_rows() -> None:
    lists = Attribute.of([[1, 2], [], [3]], "integer list")
    assert [lists.take(np.array([2, 0, -1, 1])).row(i) for i in range(4)] == [[3], [1, 2], [], []]
    with_default = Attribute.of([[1.0]], "number list", default=[7.0])
    assert with_default.take(np.array([-1, 0])).row(0) == [7.0]


def test_wrong_shapes_are_refused() -> None:
    with pytest.raises(GeometryError, match="a vec3 takes 3 per element"):
        Attribute.of(np.zeros((2, 2)), "vec3")
    with pytest.raises(GeometryError, match="no attribute type holds"):
        Attribute.of(np.zeros((2, 7)))


def test_carry_blends_numbers_and_copies_the_rest(cube: Geo) -> None:
    geo = cube.with_attribute("point", "heat", np.arange(8.0)).with_attribute(
        "point", "label", np.array(list("abcdefgh"))
    )
    geo = geo.with_attribute("point", "normal", np.tile([[1.0, 0, 0]], (8, 1)))
    weights = Weights(np.array([0, 2], np.int32), np.array([1, 3], np.int32), np.array([0.25, 0.25]))
    made = carry(
        geo,
        Geo.of([[0, 0, 0]]).topology,
        {
            "point": SourceMap(np.array([3], np.int32), weights),
            "face": SourceMap(np.zeros(0, np.int32)),
            "corner": SourceMap(np.zeros(0, np.int32)),
        },
    )
    assert made.attribute("point", "heat").tolist() == [1.0]
    assert made.attribute("point", "label").tolist() == ["d"]
    assert made.attribute("point", "normal").tolist() == [[1.0, 0, 0]], "blended normals have length 1 again"


def test_carry_refuses_to_lose_attributes_silently(cube: Geo) -> None:
    with pytest.raises(GeometryError, match="no source map for the corner attributes uv"):
        carry(cube, Geo.of(np.zeros((8, 3))).topology, {"point": SourceMap(np.arange(8, dtype=np.int32))})


def test_identity_survives_removal_elsewhere() -> None:
    grid = ops.grid(cells=(6, 6))
    less = ops.remove(grid, where="index < 7")
    assert np.array_equal(less.identity("face"), grid.identity("face")[7:])
    assert np.isin(less.identity("point"), grid.identity("point")).all()
    assert len(np.unique(ops.extrude(grid).identity("point"))) == ops.extrude(grid).topology.point_count


def test_measures_of_a_box() -> None:
    box = ops.box(size=(1, 2, 3))
    assert np.sort(measure.face_areas(box)).tolist() == [2, 2, 3, 3, 6, 6]
    assert np.allclose(np.linalg.norm(measure.point_normals(box), axis=1), 1)
    assert np.einsum("ij,ij->i", measure.face_normals(box), measure.face_centers(box)).min() > 0
    assert measure.edge_lengths(box).sum() == 24
    assert np.sort(measure.face_perimeters(box)).tolist() == [6, 6, 8, 8, 10, 10]


def test_curve_lengths(mixed: Geo) -> None:
    assert measure.curve_lengths(mixed)[0] == 2.0
    assert measure.curve_lengths(mixed)[1] == pytest.approx(1 + 2 * np.hypot(0.5, 1))


def test_a_concave_polygon_is_cut_into_triangles_that_cover_it() -> None:
    star = [
        [np.cos(a) * r, np.sin(a) * r, 0] for a, r in zip(np.linspace(0, 2 * np.pi, 11)[:-1], [1, 0.4] * 5, strict=True)
    ]
    geo = Geo.from_faces(star, [list(range(10))])
    cut = triangles(geo)
    parts = Geo.from_faces(geo.positions, geo.topology.corner_point[cut.corner])
    assert parts.topology.face_count == 8
    assert measure.face_areas(parts).sum() == pytest.approx(measure.face_areas(geo)[0])
    assert (measure.face_normals(parts)[:, 2] > 0).all()


def test_a_concave_quad_is_cut_along_its_inner_diagonal() -> None:
    dart = Geo.from_faces([[0, 0, 0], [2, 1, 0], [0, 2, 0], [0.5, 1, 0]], [[0, 1, 2, 3]])
    parts = Geo.from_faces(dart.positions, dart.topology.corner_point[triangles(dart).corner])
    assert (measure.face_normals(parts)[:, 2] > 0).all()


def test_pickle_and_digest(mixed: Geo) -> None:
    again = pickle.loads(pickle.dumps(mixed))
    assert again.digest == mixed.digest
    assert mixed.with_attribute("point", "a", np.arange(9)).digest != mixed.digest
