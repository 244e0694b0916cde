"""Curves through places that are set by hand."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import ParameterError
from reticula.core.operators import OPERATORS

PLACES = [[0, 0, 0], [1, 0.5, 0], [2, 0, 0.3], [2.5, 1, 0]]


def test_straight_lines_go_from_place_to_place() -> None:
    made = ops.curve_through(places=PLACES)
    assert np.allclose(made.positions, PLACES)
    assert made.counts["curves"] == 1
    assert not made.topology.curve_closed[0]
    assert ops.curve_through(places=PLACES, closed=True).topology.curve_closed[0]


def test_a_smooth_one_passes_every_place() -> None:
    made = ops.curve_through(places=PLACES, between="smooth", segments=10)
    assert made.topology.point_count == 31
    assert np.allclose(made.positions[::10], PLACES)
    ring = ops.curve_through(places=PLACES, between="smooth", segments=10, closed=True)
    assert ring.topology.point_count == 40
    assert np.allclose(ring.positions[::10], PLACES)


def sharpest_turn(segments: int, closed: bool) -> float:
    points = ops.curve_through(places=PLACES, between="smooth", segments=segments, closed=closed).positions
    if closed:
        points = np.concatenate([points, points[:2]])
    ways = np.diff(points, axis=0)
    ways /= np.linalg.norm(ways, axis=1, keepdims=True)
    return float(np.arccos(np.clip((ways[1:] * ways[:-1]).sum(axis=1), -1, 1)).max())


@pytest.mark.parametrize("closed", [False, True])
def test_a_smooth_one_has_no_kinks(closed: bool) -> None:
    """With eight times as many parts the sharpest turn is an eighth, at the places too; at a kink it would stay."""
    assert sharpest_turn(8000, closed) < sharpest_turn(1000, closed) / 6


def test_evenly_spaced_places_on_a_line_stay_on_it() -> None:
    line = [[i * 0.5, i * 0.25, 0] for i in range(5)]
    points = ops.curve_through(places=line, between="smooth", segments=7).positions
    assert np.allclose(points[:, 1], points[:, 0] / 2)
    assert np.allclose(np.diff(points[:, 0]), 0.5 / 7)


def test_places_in_one_spot_do_no_harm() -> None:
    made = ops.curve_through(places=[[0, 0, 0], [0, 0, 0], [1, 0, 0], [1, 0, 0]], between="smooth")
    assert np.isfinite(made.positions).all()


def test_one_place_is_a_point_and_none_is_refused() -> None:
    made = ops.curve_through(places=[[1, 2, 3]], closed=True)
    assert (made.counts["points"], made.counts["curves"]) == (1, 0)
    with pytest.raises(ParameterError, match="places: takes at least 1 places, not 0"):
        ops.curve_through(places=[])
    for bad in ([[1, 2]], [["a", 0, 0]], "abc", [[0, 0, float("nan")]]):
        with pytest.raises(ParameterError, match="places: "):
            ops.curve_through(places=bad)


def test_what_is_dragged_names_parameters_that_are_there() -> None:
    """Every handle stands at siblings that hold places, and on a parameter of three numbers or a list of them."""
    found = 0
    for entry in OPERATORS.values():
        named = {parameter.name: parameter for parameter in entry.parameters}
        for parameter in entry.parameters:
            if parameter.handle is None:
                continue
            found += 1
            assert all(named[name].handle and named[name].handle.shape == "place" for name in parameter.handle.at), (
                entry.name,
                parameter.name,
            )
            flat = np.asarray(parameter.default)
            assert flat.shape[-1] == 3, (entry.name, parameter.name)
            assert (flat.ndim == 2) == (parameter.handle.shape == "places")
            assert parameter.describe()["handle"]["space"] in ("own", "world")
    assert found > 20
