"""What can be demanded of a geometry, and how it is said that it is not so."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core import Geo, ops
from reticula.core.graph.nesting.contracts import CONDITIONS, condition_text, unmet

BOX = ops.box()
TWO = ops.join(BOX, ops.transform(BOX, move=(3, 0, 0)))


@pytest.mark.parametrize(
    ("condition", "good", "bad", "message"),
    [
        ({"what": "closed"}, BOX, ops.grid(cells=(2, 2)), "it has 8 open border edges; fill closes them"),
        ({"what": "triangles"}, ops.triangulate(BOX), BOX, "6 of 6 faces have not 3 sides; triangulate"),
        ({"what": "quads"}, BOX, ops.triangulate(BOX), "12 of 12 faces have not 4 sides"),
        ({"what": "one piece"}, BOX, TWO, "it has 2 pieces"),
        (
            {"what": "attribute", "kind": "face", "name": "m"},
            ops.group(BOX, name="m", where="index < 2"),
            BOX,
            "there is no face attribute 'm'; there are none",
        ),
        (
            {"what": "least area", "value": 0.5},
            BOX,
            ops.box(size=(1, 1, 0.1)),
            "4 faces are smaller than 0.5 m² (first: face",
        ),
        ({"what": "formula", "formula": "high.y > 0.4"}, BOX, ops.grid(), "'high.y > 0.4' does not hold"),
        ({"what": "formula", "formula": "hihg.y > 0.4"}, None, BOX, "cannot be worked out: there is no 'hihg'"),
        (
            {"what": "keeps points"},
            TWO,
            ops.transform(BOX, move=(0, 1, 0)),
            "4 points of 'geo' are not where they were",
        ),
        ({"what": "other"}, None, BOX, "is not a condition; there are closed"),
    ],
)
def test_conditions(condition: dict[str, Any], good: Geo | None, bad: Geo, message: str) -> None:
    if good is not None:
        assert unmet(condition, good, {"geo": BOX}) is None
    assert message in str(unmet(condition, bad, {"geo": BOX}))


def test_every_condition_has_words() -> None:
    assert {what: bool(condition_text({"what": what, "formula": "x"})) for what in CONDITIONS} == dict.fromkeys(
        CONDITIONS, True
    )
