"""How the tests of value nodes write a formula out of one node, and compute it."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.geometry.pictures import Picture, with_picture
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.language import evaluate
from tests.core.language.studio import reef, sheet


def document(nodes: dict[str, Any]) -> dict[str, Any]:
    return {"format": "reticula graph", "version": 1, "nodes": nodes}


def written(name: str, parameters: dict[str, Any]) -> str:
    """The formula of one value node, after it was computed on each point of a sheet."""
    text = nodes_to_formula(document({"f": {"operator": name, "parameters": parameters}}), "f")
    assert (
        len(
            evaluate(text, sheet(), "point", inputs={"source": with_picture(reef(), Picture(np.ones((1, 1, 1))))}).array
        )
        == 49
    )
    return text
