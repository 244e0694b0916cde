"""A geometry in numbers."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.geometry.mesh import attribute
from reticula.core.reports.summary import describe_attribute, describe_geo, element_counts, unit_of


def test_counts_and_attributes_are_told(mixed: Geo) -> None:
    made = mixed.with_attribute("face", "big", [True, False, True]).with_attribute("face", "heat", [1.0, 5.0, 2.0])
    told = describe_geo(made)
    assert told["counts"] == {**element_counts(made), "edges": made.topology.edge_count}
    assert {"name": "big", "type": "flag", "members": 2} in told["attributes"]["face"]
    assert {"name": "heat", "type": "number", "low": [1.0], "high": [5.0]} in told["attributes"]["face"]
    assert told["open_border_edges"] == int(mixed.topology.border_edges.sum())


def test_vectors_are_told_by_component() -> None:
    flat = Geo.of([[0, 1, 2], [3, -1, 2]])
    told = describe_attribute("position", flat.find("point", "position"))
    assert (told["low"], told["high"]) == ([0, -1, 2], [3, 1, 2])


def test_nothing_has_no_range() -> None:
    empty = Geo.empty().with_attribute("face", "heat", np.zeros(0))
    assert "low" not in describe_attribute("heat", empty.find("face", "heat"))
    assert describe_geo(empty)["pieces"] == 0


def test_what_is_no_finite_number_is_passed_over() -> None:
    odd = np.array([[np.nan, 1.0, -np.inf], [2.0, np.inf, 5.0], [-3.0, 4.0, np.nan]])
    told = describe_attribute("odd", Geo.of(np.zeros((3, 3))).with_attribute("point", "odd", odd).find("point", "odd"))
    assert (told["low"], told["high"]) == ([-3.0, 1.0, 5.0], [2.0, 4.0, 5.0])
    none = Geo.of(np.zeros((2, 3))).with_attribute("point", "odd", [[1.0, np.nan], [2.0, np.inf]])
    assert "low" not in describe_attribute("odd", none.find("point", "odd"))
    count = Geo.of(np.zeros((2, 3))).with_attribute("point", "count", np.array([7, -2]))
    assert describe_attribute("count", count.find("point", "count"))["low"] == [-2]


def test_a_range_is_found_once(monkeypatch: pytest.MonkeyPatch) -> None:
    found: list[int] = []
    monkeypatch.setattr(attribute, "range_of_rows", lambda rows: found.append(len(rows)))
    geo = Geo.of(np.zeros((4, 3))).with_attribute("point", "heat", np.ones(4))
    for _ in range(3):
        describe_geo(geo.with_positions(geo.positions + 1.0))
    assert found == [4, 4, 4, 4], "places are others each time, the heat is the same"


def test_units() -> None:
    assert (unit_of("reef_distance"), unit_of("area"), unit_of("cover")) == ("m", "m²", "")
