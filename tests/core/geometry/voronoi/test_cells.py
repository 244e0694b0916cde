"""Faces broken by cells."""

import numpy as np
import pytest
from scipy.spatial import cKDTree

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.voronoi.cells import fragments
from reticula.core.geometry.voronoi.diagram import diagram_of


@pytest.fixture
def broken(rng: np.random.Generator):  # type: ignore[no-untyped-def]
    geo = ops.box(size=(2, 2, 2), cells=(3, 3, 3))
    centers = rng.random((12, 3)) * 2 - 1
    diagram = diagram_of(centers, *geo.bounds)
    return geo, centers, fragments(geo, diagram, cKDTree(centers).query(geo.positions)[1])


def test_the_parts_cover_the_faces(broken) -> None:  # type: ignore[no-untyped-def]
    geo, _, parts = broken
    rows = [parts.place[a:b] for a, b in zip(parts.start, parts.start[1:], strict=False)]
    made = Geo.from_faces(parts.place, [list(range(a, b)) for a, b in zip(parts.start, parts.start[1:], strict=False)])
    assert len(rows) == len(parts.cell)
    summed = np.bincount(parts.face, measure.face_areas(made), geo.counts["faces"])
    assert np.allclose(summed, measure.face_areas(geo))


def test_every_part_lies_in_its_cell(broken) -> None:  # type: ignore[no-untyped-def]
    _, centers, parts = broken
    middle = np.add.reduceat(parts.place, parts.start[:-1]) / np.diff(parts.start)[:, None]
    assert np.array_equal(cKDTree(centers).query(middle)[1], parts.cell)


def test_equal_names_stand_in_one_place(broken) -> None:  # type: ignore[no-untyped-def]
    _, _, parts = broken
    places: dict[tuple[int, ...], tuple[float, ...]] = {}
    for name, place in zip(map(tuple, parts.name.tolist()), map(tuple, parts.place.tolist()), strict=True):
        assert places.setdefault(name, place) == place
