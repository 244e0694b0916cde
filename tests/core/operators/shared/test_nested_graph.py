"""The graph of a node, as its operator sees it."""

import pytest

from reticula.core.context import using
from reticula.core.errors import GeometryError
from reticula.core.operators.shared.nested_graph import LOOP_NAMES, nested_graph


def test_without_a_graph_it_is_an_error() -> None:
    with pytest.raises(GeometryError, match="can only be used in a graph"):
        nested_graph()


def test_it_is_the_one_of_the_context() -> None:
    here = object()
    with using(nested_graph=here):
        assert nested_graph() is here
    with pytest.raises(GeometryError):
        nested_graph()


def test_every_name_of_a_loop_is_explained() -> None:
    assert set(LOOP_NAMES) == {"iteration", "iterations", "part", "parts", "part_value"}
    assert all(LOOP_NAMES.values())
