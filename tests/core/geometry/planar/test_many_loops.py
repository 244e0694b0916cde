"""Many loops cut into triangles at once are what each is by itself."""

import numpy as np

from reticula.core.geometry.planar.delaunay import triangulate_polygon
from reticula.core.geometry.planar.many_loops import triangulate_loops
from reticula.core.geometry.planar.region_fill import project_to_plane


def test_many_are_what_each_is_by_itself() -> None:
    random = np.random.default_rng(2)
    loops, places, normals = [], [], []
    for n in range(30):
        size = 4 + n % 7
        angle = 2 * np.pi * np.arange(size) / size
        star = random.uniform(0.3, 1, size)[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        normal = random.normal(size=3)
        _, axes = project_to_plane(np.zeros((3, 3)), normal)
        loops.append(sum(map(len, places)) + np.arange(size))
        places.append(star @ axes + random.normal(size=3))
        normals.append(normal)
    every = np.concatenate(places)
    made = triangulate_loops(every, loops, np.stack(normals))
    assert made.done.all()
    for n, loop in enumerate(loops):
        flat, _ = project_to_plane(every[loop], normals[n])
        alone = loop[triangulate_polygon(flat, [np.arange(len(loop))])]
        assert {frozenset(t) for t in made.point[made.loop == n].tolist()} == {frozenset(t) for t in alone.tolist()}
    a, b, c = (every[made.point[:, k]] for k in range(3))
    assert (np.einsum("ij,ij->i", np.cross(b - a, c - a), np.stack(normals)[made.loop]) > 0).all()


def test_loops_that_cross_themselves_are_left_and_shared_points_are_no_trouble() -> None:
    places = np.array([[0.0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [2, 0, 0], [2, 1, 0]])
    up = np.array([[0.0, 0, 1]] * 3)
    made = triangulate_loops(places, [np.array([0, 1, 2, 3]), np.array([0, 2, 1, 3]), np.array([1, 4, 5, 2])], up)
    assert made.done.tolist() == [True, False, True]
    assert np.bincount(made.loop).tolist() == [2, 0, 2]
