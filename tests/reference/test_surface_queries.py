"""Closest places and rays on the Stanford bunny, against trimesh (with its own closest-point code and Embree through
embreex where installed) and libigl's AABB tree.
"""

import igl
import numpy as np
import pytest
import trimesh

from reticula.core import Geo, ops
from reticula.core.spatial import surface_of


@pytest.fixture(scope="module")
def cloud(bunny: Geo) -> np.ndarray:
    low, high = bunny.bounds
    return np.random.default_rng(5).random((4000, 3)) * (high - low) * 1.4 + low - 0.2 * (high - low)


def triangles_of(geo: Geo) -> np.ndarray:
    return geo.topology.corner_point.reshape(-1, 3).astype(np.int64)


def test_closest_places_agree_with_libigl(bunny: Geo, cloud: np.ndarray) -> None:
    tree = igl.AABB()
    tree.init(bunny.positions, triangles_of(bunny))
    squared, _, position = tree.squared_distance(bunny.positions, triangles_of(bunny), cloud)
    ours = surface_of(bunny).closest(cloud)
    assert np.allclose(ours.distance, np.sqrt(squared), atol=1e-12)
    assert np.allclose(ours.position, position, atol=1e-9)


def test_closest_places_agree_with_trimesh(bunny: Geo, cloud: np.ndarray) -> None:
    mesh = trimesh.Trimesh(bunny.positions, triangles_of(bunny), process=False)
    _, distance, _ = trimesh.proximity.closest_point(mesh, cloud[:500])
    assert np.allclose(surface_of(bunny).closest(cloud[:500]).distance, distance, atol=1e-9)


def test_rays_agree_with_libigl(bunny: Geo, cloud: np.ndarray) -> None:
    directions = np.random.default_rng(6).normal(size=cloud.shape)
    tree = igl.AABB()
    tree.init(bunny.positions, triangles_of(bunny))
    face, far, _ = tree.intersect_ray_first(bunny.positions, triangles_of(bunny), cloud, directions)
    ours = surface_of(bunny).ray(cloud, directions)
    there = face >= 0
    assert there.any()
    assert (ours.found == there).mean() > 0.999, "only rays that graze an edge may differ"
    both = there & ours.found
    assert np.allclose(ours.distance[both], (far * np.linalg.norm(directions, axis=1))[both], rtol=1e-5, atol=1e-5)


def test_rays_agree_with_trimesh(bunny: Geo, cloud: np.ndarray) -> None:
    mesh = trimesh.Trimesh(bunny.positions, triangles_of(bunny), process=False)
    inward = bunny.positions.mean(axis=0) - cloud[:600]
    hit = mesh.ray.intersects_any(cloud[:600], inward)
    assert (surface_of(bunny).ray(cloud[:600], inward).found == hit).mean() > 0.995


def test_transfer_reads_what_the_closest_place_has(bunny: Geo, cloud: np.ndarray) -> None:
    """A field that is linear in space, read at trimesh's closest places, is what our transfer brings."""
    slope = np.array([0.3, -1.0, 2.0])
    source = bunny.with_attribute("point", "field", bunny.positions @ slope)
    mesh = trimesh.Trimesh(bunny.positions, triangles_of(bunny), process=False)
    places, _, _ = trimesh.proximity.closest_point(mesh, cloud[:400])
    made = ops.transfer_attribute(Geo.of(cloud[:400]), source, attributes="field")
    assert np.allclose(made.attribute("point", "field"), places @ slope, atol=1e-7)


def test_areas_and_normals_agree_with_trimesh(bunny: Geo) -> None:
    from reticula.core.geometry import measure

    mesh = trimesh.Trimesh(bunny.positions, triangles_of(bunny), process=False)
    assert np.allclose(measure.face_areas(bunny), mesh.area_faces)
    assert np.allclose(measure.face_normals(bunny), mesh.face_normals, atol=1e-9)
    assert bunny.counts["edges"] == len(mesh.edges_unique)
