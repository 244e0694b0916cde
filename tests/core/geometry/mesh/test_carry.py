"""Carrying values to a new topology."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.geometry import SourceMap, Topology, carry, kept


def test_names_follow_the_elements_and_further_children_get_new_ones(cube: Geo) -> None:
    twice = Topology(16)
    made = carry(
        cube,
        twice,
        {kind: kept(np.zeros(0)) for kind in ("face", "corner", "edge")} | {"point": kept(np.arange(16) % 8)},
    )
    assert made.identity("point")[:8].tolist() == cube.identity("point").tolist()
    assert len(np.unique(made.identity("point"))) == 16


def test_maps_made_on_demand_are_not_asked_for_nothing(cube: Geo) -> None:
    def never() -> SourceMap:
        raise AssertionError("no edge has a value")

    assert carry(cube, cube.topology, {"edge": never}).topology is cube.topology


def test_a_map_that_does_not_fit_is_refused_before_it_is_read(cube: Geo) -> None:
    heated = cube.with_attribute("face", "heat", np.arange(6.0))
    with pytest.raises(GeometryError, match="does not fit 6 sources"):
        carry(heated, cube.topology, {"face": kept(np.full(6, 6))})
    with pytest.raises(GeometryError, match="no source map for the point attributes position"):
        carry(heated, ops.grid().topology, {})


def test_values_of_the_whole_stay() -> None:
    geo = ops.box().with_attribute("whole", "mean", [4.5])
    assert carry(geo, geo.topology, {"point": kept(np.arange(8))}).attribute("whole", "mean").tolist() == [4.5]


def test_a_kind_that_is_gone_leaves_no_names(cube: Geo) -> None:
    assert len(cube.identity("face")) == 6
    made = carry(
        cube, Topology(8), {"point": kept(np.arange(8)), "corner": kept(np.zeros(0)), "edge": kept(np.zeros(0))}
    )
    assert len(made.identity("face")) == 0
