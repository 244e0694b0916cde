"""A geometry in numbers."""

import numpy as np

from reticula.core import Geo
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


def test_units() -> None:
    assert (unit_of("reef_distance"), unit_of("area"), unit_of("cover")) == ("m", "m²", "")
