"""Raycast: send a ray from each element and tell what it hits."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from tests.core.operators.attributes.support import texts


def test_rays_read_what_they_hit(source: Geo, notes: list[Note]) -> None:
    dots = Geo.of([[0.1, 1, 0.2], [0.3, 2, -0.1], [9, 1, 0]])
    made = ops.raycast(dots, source, read="heat plot")
    x, _, z = dots.positions[:2].T
    np.testing.assert_allclose(made.attribute("point", "hit_heat")[:2], 3 * x - z + 1, atol=1e-12)
    assert made.group("point", "hit_missed").tolist() == [False, False, True]
    assert made.attribute("point", "hit_face")[2] == -1
    nearest = ops.raycast(dots, source, read="heat", values="nearest").attribute("point", "hit_heat")
    assert round(nearest[0], 9) in set(np.round(source.attribute("point", "heat"), 9))
    with pytest.raises(ParameterError, match="read: there is no attribute 'heet'"):
        ops.raycast(dots, source, read="heet")


def test_rays_from_given_origins_both_ways(source: Geo, notes: list[Note]) -> None:
    below = Geo.of([[0, -0.3, 0]])
    assert not ops.raycast(below, source).group("point", "hit").any()
    both = ops.raycast(below, source, ways="both")
    assert both.attribute("point", "hit_distance")[0] == pytest.approx(0.3)
    moved = ops.raycast(below, source, origin="position + vec3(0, 1, 0)")
    assert moved.attribute("point", "hit_distance")[0] == pytest.approx(0.7)


def test_a_ray_through_an_edge_hits_once(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 2))
    made = ops.raycast(Geo.of([[0, 1, 0], [0, 1, 0.1]]), sheet, hits="all")
    assert made.attribute("point", "hit_count").tolist() == [1, 1]


def test_raycast(notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(radius=1, frequency=30)
    rays = Geo.of([[0, 3, 0], [0.5, 3, 0], [2, 3, 0]])
    made = ops.raycast(rays, ball)
    assert made.group("point", "hit").tolist() == [True, True, False]
    assert made.attribute("point", "hit_distance") == pytest.approx([2, 3 - np.sqrt(0.75), -1], abs=2e-3)
    assert made.attribute("point", "hit_normal")[1] == pytest.approx([0.5, np.sqrt(0.75), 0], abs=0.05)
    assert made.attribute("point", "hit_position")[2].tolist() == [2, 3, 0]
    near = ops.raycast(rays, ball, limit_reach=True, reach=1.0)
    assert not near.group("point", "hit").any()
    assert texts(notes) == [
        "Every ray missed. Check the direction, the reach, and whether both meshes lie where you expect."
    ]


def test_a_surface_does_not_hit_itself(cube: Geo, notes: list[Note]) -> None:
    made = ops.raycast(cube, cube, kind="face", direction="normal")
    assert not made.group("face", "hit").any()
    inside = ops.raycast(cube, cube, kind="face", direction="-normal")
    assert inside.attribute("face", "hit_distance") == pytest.approx([2] * 6)
