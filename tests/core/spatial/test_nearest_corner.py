"""The nearest corner of the face that a place lies on, for operators, queries and both back ends."""

import numpy as np
import pytest

from reticula.core import Geo, ops, run_script
from reticula.core.spatial import surface_of

CORNERS = np.array([[0, 0, 0], [1, 0, 0.1], [1.4, 0, 1.2], [0.2, 0, 0.9]])
QUAD = Geo.from_faces(CORNERS, [[0, 1, 2, 3]])
PLACES = np.random.default_rng(0).uniform([0, 0, 0], [1.4, 0.3, 1.2], (500, 3))


def nearest(places: np.ndarray) -> np.ndarray:
    on = surface_of(QUAD).closest(places).position
    return np.linalg.norm(on[:, None] - CORNERS, axis=2).argmin(axis=1)


def test_the_nearest_of_all_corners_of_a_quad() -> None:
    at = surface_of(QUAD).closest(PLACES)
    assert (surface_of(QUAD).nearest_corner(at) == nearest(PLACES)).all()


@pytest.mark.parametrize("kind", ["point", "corner"])
def test_texts_come_from_the_nearest_corner(kind: str) -> None:
    words = np.array(["a", "b", "c", "d"])
    source = QUAD.with_attribute(kind, "word", words)  # type: ignore[arg-type]
    made = ops.transfer_attribute(Geo.of(PLACES), source, attributes="word")
    assert (made.attribute("point", "word") == words[nearest(PLACES)]).all()


@pytest.mark.parametrize("backend", ["vector", "compiled"])
@pytest.mark.parametrize("kind", ["point", "corner"])
def test_scripts_ask_the_nearest_corner(kind: str, backend: str) -> None:
    source = QUAD.with_attribute(kind, "number", np.arange(4))  # type: ignore[arg-type]
    code = "source: geometry\nhere.found = source.closest(position).number"
    made = run_script(Geo.of(PLACES), code, inputs={"source": source}, backend=backend)
    assert (made.attribute("point", "found") == nearest(PLACES)).all()
