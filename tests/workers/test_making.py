"""What is told of one result out of many."""

from __future__ import annotations

from pathlib import Path

import pytest

from reticula.core import ops
from reticula.core.errors import FormulaError, GeometryError, GraphError
from reticula.core.graph import Evaluator
from reticula.core.graph.structure.document import empty_document
from reticula.workers.making import COUNTED, made, number_of


@pytest.mark.parametrize(
    ("wanted", "number"),
    [
        ("points", 8),
        ("edges", 12),
        ("faces", 6),
        ("curves", 0),
        ("instances", 0),
        ("area", 22.0),
        ("volume", 6.0),
        ("defects", 0),
        ("max(geo.points.position.y) * 2", 2.0),
    ],
)
def test_numbers_are_known_by_a_word_or_worked_out(wanted: str, number: float) -> None:
    assert number_of(ops.box(size=(1, 2, 3)), wanted) == pytest.approx(number)
    assert set(COUNTED) >= {"points", "volume"}


def test_numbers_are_those_where_the_shape_stands() -> None:
    standing = ops.set_place(ops.box(size=(1, 2, 3)), scale=(2.0, 2.0, 2.0))
    assert number_of(standing, "area") == pytest.approx(4 * 22.0)


def test_numbers_that_cannot_be_had_say_why() -> None:
    with pytest.raises(GeometryError, match="open borders"):
        number_of(ops.grid(), "volume")
    with pytest.raises(FormulaError, match="cover"):
        number_of(ops.grid(), "max(geo.points.cover)")


def test_a_result_is_told_with_all_that_was_found_on_the_way(tmp_path: Path) -> None:
    nodes = {"tile": {"operator": "grid"}, "broken": {"operator": "extrude", "inputs": {"geo": ["tile"]}}}
    nodes["broken"]["parameters"] = {"where": "no such thing"}
    done = Evaluator().evaluate({**empty_document(), "nodes": nodes})

    def write(geo: object) -> Path:
        return tmp_path / "made.ply"

    told = made(done, "tile", {"faces": "faces", "inside": "volume"}, {"file": write})
    assert told["numbers"] == {"faces": told["counts"]["faces"], "inside": None}
    assert told["paths"] == {"file": str(tmp_path / "made.ply")}
    assert [text.split(":")[0] for text in told["warnings"]] == ["broken", "number 'inside'"]
    with pytest.raises(GraphError, match="broken"):
        made(done, "broken", {})
