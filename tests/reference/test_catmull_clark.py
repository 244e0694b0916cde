"""Catmull & Clark, "Recursively generated B-spline surfaces on arbitrary topological meshes", Computer-Aided Design
10(6), 1978, pp. 350-355: the rules for face, edge and vertex points, written out here point by point and worked on a
cube; and Euler's formula V - E + F = 2 (Euler 1758) on every result.
"""

import numpy as np
import pytest

from reticula.core import Geo, ops


def by_the_paper(geo: Geo) -> np.ndarray:
    """New points in the order vertex, edge, face, for a closed mesh, straight from the paper's page 352."""
    points = geo.positions
    faces = [list(f) for f in np.split(geo.topology.corner_point, geo.topology.face_start[1:-1])]
    face_points = [points[face].mean(axis=0) for face in faces]
    edge_points, middles = [], {}
    for a, b in geo.topology.edges.tolist():
        touching = [
            face_points[i]
            for i, face in enumerate(faces)
            if a in face and b in face and abs(face.index(a) - face.index(b)) in (1, len(face) - 1)
        ]
        edge_points.append((points[a] + points[b] + sum(touching)) / (2 + len(touching)))
        middles[a, b] = (points[a] + points[b]) / 2
    vertex_points = []
    for v in range(len(points)):
        q = np.mean([face_points[i] for i, face in enumerate(faces) if v in face], axis=0)
        r = np.mean([middle for edge, middle in middles.items() if v in edge], axis=0)
        n = sum(v in edge for edge in middles)
        vertex_points.append(q / n + 2 * r / n + points[v] * (n - 3) / n)
    return np.array([*vertex_points, *edge_points, *face_points])


def test_cube_counts_and_positions() -> None:
    fine = ops.smooth_subdivide(ops.box(size=(2, 2, 2)))
    assert (fine.counts["points"], fine.counts["edges"], fine.counts["faces"]) == (26, 48, 24)
    size = np.sort(np.abs(fine.positions), axis=1)
    assert np.allclose(size[:8], 5 / 9), "Q/3 + 2R/3 with Q = 1/3 and R = 2/3"
    assert np.allclose(size[8:20], [0, 3 / 4, 3 / 4]), "mean of two ends and two face points"
    assert np.allclose(size[20:], [0, 0, 1]), "face points"


@pytest.mark.parametrize("shape", ["cube", "mixed solid", "bunny"])
def test_every_new_point_by_the_rules(shape: str, bunny: Geo) -> None:
    solid = ops.extrude(ops.cylinder(segments=5), where="cap", distance=0.4)
    geo = {"cube": ops.box(cells=(2, 1, 1)), "mixed solid": solid, "bunny": None}[shape]
    if geo is None:
        geo = ops.geodesic_sphere(frequency=2).with_positions(bunny.positions[:42])
    assert np.allclose(ops.smooth_subdivide(geo).positions, by_the_paper(geo), atol=1e-13)


@pytest.mark.parametrize("levels", [1, 2, 3])
def test_euler_and_counts_on_the_bunny(bunny: Geo, levels: int) -> None:
    """The mesh of the package has holes; its Euler characteristic must stay what it is."""
    fine = ops.smooth_subdivide(bunny, levels=levels)
    assert fine.counts["faces"] == 3 * bunny.counts["faces"] * 4 ** (levels - 1)
    assert fine.topology.euler_characteristic == bunny.topology.euler_characteristic
    assert fine.topology.border_edges.sum() == bunny.topology.border_edges.sum() * 2**levels


@pytest.mark.parametrize("make", [ops.box, ops.sphere, ops.geodesic_sphere, ops.cylinder, ops.torus])
def test_euler_formula_through_a_chain(make: object) -> None:
    geo = make()  # type: ignore[operator]
    expected = 0 if geo.topology.euler_characteristic == 0 else 2
    for step in (
        geo,
        ops.extrude(geo, where="index % 5 == 0", together=False, distance=0.05),
        ops.smooth_subdivide(geo),
        ops.smooth_subdivide(ops.extrude(geo, where="index < 4", distance=-0.05), levels=2),
    ):
        counts = step.counts
        assert counts["points"] - counts["edges"] + counts["faces"] == expected
