"""Cells, cuts, hulls, triangulations and simplification against SciPy, trimesh, shapely and fast-simplification."""

import fast_simplification
import manifold3d
import numpy as np
import pytest
import shapely
import trimesh
from scipy.spatial import ConvexHull, Voronoi

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.planar.convex_hulls import hulls
from reticula.core.spatial import surface_of
from tests.helpers import bumpy, is_closed, volume


def test_cell_volumes_of_a_box_are_those_of_scipys_voronoi_regions() -> None:
    """Centres mirrored in all six sides bound each region of scipy.spatial.Voronoi to the box."""
    rng = np.random.default_rng(8)
    centers = rng.uniform(-0.5, 0.5, (40, 3))
    mirrored = [centers]
    for axis in range(3):
        for side in (-0.5, 0.5):
            copy = centers.copy()
            copy[:, axis] = 2 * side - copy[:, axis]
            mirrored.append(copy)
    regions = Voronoi(np.concatenate(mirrored))
    theirs = [ConvexHull(regions.vertices[regions.regions[regions.point_region[k]]]).volume for k in range(40)]
    made = ops.break_into_cells(ops.box(), Geo.of(centers))
    cell = made.attribute("face", "cell")
    parts = np.einsum("ij,ij->i", measure.area_vectors(made), measure.face_centers(made)) / 3
    assert np.bincount(cell, parts, 40) == pytest.approx(theirs, rel=1e-6)


def test_hulls_are_those_of_qhull() -> None:
    rng = np.random.default_rng(5)
    sets = [rng.normal(size=(n, 3)) for n in (4, 7, 30, 120)]
    start = np.concatenate([[0], np.cumsum([len(s) for s in sets])]).astype(np.int32)
    triangles, owner = hulls(np.concatenate(sets), start)
    for number, points in enumerate(sets):
        mine = triangles[owner == number] - start[number]
        theirs = ConvexHull(points)
        assert volume(Geo.from_faces(points, mine)) == pytest.approx(theirs.volume)
        assert {frozenset(t) for t in mine.tolist()} == {frozenset(t) for t in theirs.simplices.tolist()}


@pytest.mark.parametrize("direction", [(0, 1, 0), (1, 2, -1), (0.2, 0.1, 1)])
def test_slices_of_a_torus_have_the_areas_and_volume_others_find(direction: tuple[float, float, float]) -> None:
    """The open part beside trimesh, the closed one beside manifold3d."""
    torus = ops.triangulate(ops.torus())
    faces = torus.topology.corner_point.reshape(-1, 3)
    mesh = trimesh.Trimesh(torus.positions, faces, process=False)
    solid = manifold3d.Manifold(manifold3d.Mesh64(np.array(torus.positions), faces.astype(np.uint64)))
    place, length = np.array([0.05, 0.02, 0]), np.linalg.norm(direction)
    above, below = ops.slice(torus, direction=direction, through=place)
    assert is_closed(above)
    outside = ~above.group("face", "cap")
    open_part = mesh.slice_plane(place, np.array(direction) / length, cap=False)
    closed = solid.trim_by_plane(direction, float(place @ direction / length))
    area = measure.face_areas(above)
    assert area[outside].sum() == pytest.approx(open_part.area, rel=1e-9)
    assert area.sum() == pytest.approx(closed.surface_area(), rel=1e-6)
    assert volume(above) == pytest.approx(closed.volume(), rel=1e-6)
    assert volume(below) == pytest.approx(solid.volume() - closed.volume(), rel=1e-6)


def test_an_even_fill_is_delaunay() -> None:
    """The empty-circle property of every inner edge; area and border against shapely."""
    rng = np.random.default_rng(2)
    angle = np.linspace(0, 2 * np.pi, 60, endpoint=False)
    away = 1 + 0.3 * np.sin(3 * angle) + 0.1 * rng.random(60)
    outline = np.stack([away * np.cos(angle), away * np.sin(angle)], axis=1)
    hole = 0.3 * np.stack([np.cos(angle[::4]), np.sin(angle[::4])], axis=1)
    curves = ops.join(_curve(outline), _curve(hole))
    made = ops.fill(curves, what="curve", using="even", across=14)
    flat, shape = made.positions[:, :2], made.topology
    assert measure.face_areas(made).sum() == pytest.approx(shapely.Polygon(outline, [hole]).area)
    assert shape.border_edges.sum() == 75
    inner = np.flatnonzero(shape.corner_across >= 0)
    a, b = flat[shape.corner_point[inner]], flat[shape.corner_point[shape.corner_next[inner]]]
    c = flat[shape.corner_point[shape.corner_previous[inner]]]
    d = flat[shape.corner_point[shape.corner_previous[shape.corner_across[inner]]]]
    rows = np.stack(
        [np.concatenate([p - d, ((p - d) ** 2).sum(axis=1, keepdims=True)], axis=1) for p in (a, b, c)], axis=1
    )
    assert np.linalg.det(rows).max() < 1e-9, "no point lies in the circle of the triangle beside it"


def _curve(flat: np.ndarray) -> Geo:
    from reticula.core.geometry import Topology

    n = len(flat)
    shape = Topology(n, curve_start=[0, n], curve_point=np.arange(n), curve_closed=[True])
    return Geo.of(np.concatenate([flat, np.zeros((n, 1))], axis=1), shape)


def test_simplified_as_well_as_by_fast_simplification() -> None:
    fine = bumpy(4, 24)
    faces = np.array(fine.topology.corner_point.reshape(-1, 3))
    points, tri = fast_simplification.simplify(np.array(fine.positions), faces, 0.9)
    ours = ops.simplify(fine, share=0.1)
    theirs = Geo.from_faces(points.astype(float), tri)
    assert ours.counts["faces"] <= theirs.counts["faces"] * 1.02
    mine, other = (np.sqrt((surface_of(g).closest(fine.positions).distance ** 2).mean()) for g in (ours, theirs))
    assert mine < 1.1 * other


def test_plain_smoothing_is_that_of_trimesh() -> None:
    ball = bumpy(6)
    mesh = trimesh.Trimesh(np.array(ball.positions), ball.topology.corner_point.reshape(-1, 3), process=False)
    trimesh.smoothing.filter_laplacian(mesh, lamb=0.4, iterations=5, volume_constraint=False)
    ours = ops.smooth(ball, iterations=5, strength=0.4, keep="nothing")
    assert ours.positions == pytest.approx(np.asarray(mesh.vertices), abs=1e-12)


def test_resampling_lies_where_shapely_interpolates() -> None:
    rng = np.random.default_rng(3)
    places = np.concatenate([np.cumsum(rng.random((12, 2)), axis=0), np.zeros((12, 1))], axis=1)
    from reticula.core.geometry import Topology

    curve = Geo.of(places, Topology(12, curve_start=[0, 12], curve_point=np.arange(12), curve_closed=[False]))
    made = ops.resample(curve, count=17)
    line = shapely.LineString(places[:, :2])
    theirs = shapely.get_coordinates(shapely.line_interpolate_point(line, np.linspace(0, 1, 18), normalized=True))
    assert made.positions[:, :2] == pytest.approx(theirs)


def test_frames_of_a_helix_turn_back_its_torsion() -> None:
    """A frame without twist turns against the Frenet frame by the integral of the torsion (any textbook on curves):
    c / (r² + c²) per length for the helix (r cos t, r sin t, c t)."""
    r, c, turns, count = 1.0, 0.5, 3.0, 3000
    t = np.linspace(0, turns * 2 * np.pi, count)
    helix = np.stack([r * np.cos(t), r * np.sin(t), c * t], axis=1)
    from reticula.core.geometry import Topology

    geo = Geo.of(helix, Topology(count, curve_start=[0, count], curve_point=np.arange(count), curve_closed=[False]))
    made = ops.frames(geo)
    normal, tangent = made.attribute("point", "normal"), made.attribute("point", "tangent")
    frenet = np.stack([-np.cos(t), -np.sin(t), np.zeros(count)], axis=1)
    side = np.cross(tangent, frenet)
    angle = np.unwrap(np.arctan2(np.einsum("ij,ij->i", normal, side), np.einsum("ij,ij->i", normal, frenet)))
    length = np.sqrt(r * r + c * c) * (t[-1] - t[0])
    assert angle[0] - angle[-1] == pytest.approx(c / (r * r + c * c) * length, rel=2e-3)
