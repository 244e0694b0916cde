"""What holds for every operator, whatever it does: help, defaults, attributes, odd input, no change of the input."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import KINDS, Topology
from reticula.core.operators import OPERATORS

NAMES = [name for name, entry in OPERATORS.items() if entry.family not in ("sources", "operators of your own")]
DROPS = {"dual": {"edge"}, "scatter": {"edge", "curve", "instance"}, "scatter_in_region": {"edge", "curve", "instance"}}
"""Kinds whose attributes an operator is declared to drop, with a warning."""


def three_on_an_edge() -> Geo:
    points = [[0, 0, 0], [0, 1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1]]
    return Geo.from_faces(points, [[0, 1, 2], [0, 1, 3], [0, 1, 4]])


def bow_tie() -> Geo:
    return Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]])


def without_area() -> Geo:
    return Geo.from_faces([[0, 0, 0], [1, 0, 0], [2, 0, 0], [2, 0, 0]], [[0, 1, 2], [0, 2, 3]])


def only_curves() -> Geo:
    shape = Topology(4, curve_start=[0, 3, 7], curve_point=[0, 1, 2, 0, 1, 2, 3], curve_closed=[False, True])
    return Geo.of([[0, 0, 0], [1, 0, 0], [1, 0, 1], [0, 0, 1]], shape)


def labelled() -> Geo:
    """A closed box with something of every type on every kind."""
    geo = ops.box(size=(1, 2, 1), cells=(2, 2, 2))
    for kind in KINDS:
        count = geo.topology.count(kind)
        if kind == "instance":
            continue
        geo = geo.with_attribute(kind, f"{kind}_number", np.linspace(0, 1, count))
        geo = geo.with_attribute(kind, f"{kind}_word", np.array([f"w{i}" for i in range(count)]))
        geo = geo.with_attribute(kind, f"{kind}_mark", np.arange(count) % 2 == 0)
        geo = geo.with_attribute(kind, f"{kind}_list", [[i] for i in range(count)], "integer list")
    return geo


ODD = {
    "empty": Geo.empty,
    "one point": lambda: Geo.of([[1, 2, 3]]),
    "one face": lambda: ops.grid(cells=(1, 1)),
    "three faces on an edge": three_on_an_edge,
    "bow tie": bow_tie,
    "no area": without_area,
    "only curves": only_curves,
    "labelled box": labelled,
}

MOVES = {"dual", "move_attribute", "scatter", "scatter_in_region"}
"""Operators whose result has the attribute on another kind."""
FRESH = {"ray_hits", "scatter_in_volume"}
"""Operators that make new points and say that they carry nothing."""


@pytest.mark.parametrize("name", NAMES)
def test_declared_in_words(name: str) -> None:
    entry = OPERATORS[name]
    assert entry.summary
    assert entry.carries
    assert all(parameter.help for parameter in entry.parameters)
    assert entry.describe()["name"] == name


@pytest.mark.parametrize("odd", ODD)
@pytest.mark.parametrize("name", NAMES)
def test_survives_odd_input(name: str, odd: str, notes: list[Note]) -> None:
    """Defaults give a result or an error in words that says what to do; never a NaN, never a changed input."""
    check(name, ODD[odd](), notes)


@pytest.mark.parametrize("name", NAMES)
def test_survives_mixed_input(name: str, mixed: Geo, notes: list[Note]) -> None:
    check(name, mixed, notes)


def check(name: str, odd: Geo, notes: list[Note]) -> None:
    entry = OPERATORS[name]
    before = Geo(odd.topology, odd.attributes).digest
    try:
        made = entry.run([[odd] if given.many else odd for given in entry.inputs], entry.check({}))
    except (GeometryError, ParameterError) as error:
        assert "give" in str(error) or "takes" in str(error)
        return
    finally:
        assert Geo(odd.topology, odd.attributes).digest == before, f"{name} changed its input"
    for geo in made:
        for kind in KINDS:
            for attribute_name, attribute in geo.attributes[kind].items():
                if attribute.values.dtype.kind == "f":
                    assert np.isfinite(attribute.values).all(), f"{name} made {kind} {attribute_name} not finite"
        for kind, named in odd.attributes.items() if entry.inputs and name not in FRESH else ():
            for attribute_name in named:
                dropped = kind in DROPS.get(name, ()) and any(attribute_name in n.text for n in notes)
                swapped = name in MOVES and any(geo.has(other, attribute_name) for other in KINDS)
                assert geo.has(kind, attribute_name) or dropped or swapped, f"{name} lost {kind} {attribute_name}"
