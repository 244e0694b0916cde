"""Examples of operators: small graphs that can be put into a graph, with the shapes that they need."""

from __future__ import annotations

from flask_openapi3 import APIBlueprint, Tag

from reticula.core.graph.nesting.examples import example_of
from reticula.core.operators import OPERATORS
from reticula.service.answers import Answer
from reticula.service.errors import refuse
from reticula.service.schemas.demos import DemoPath, ExampleState
from reticula.service.schemas.graphs import ErrorState
from reticula.service.shipped.demos import shapes_for

__all__ = ["blueprint"]

blueprint = APIBlueprint("examples", __name__, url_prefix="/api/operators", abp_tags=[Tag(name="catalogue")])


@blueprint.get("/<name>/example", responses={200: ExampleState, 404: ErrorState})
def read_example(path: DemoPath) -> Answer:
    """Read the example of a built-in operator: a graph, the lines that it is written as, and the shapes it needs."""
    entry = OPERATORS.get(path.name)
    if entry is None:
        return refuse(404, "not found", f"There is no built-in operator '{path.name}'.")
    document = example_of(path.name)
    return {"text": entry.example, "document": document, "shapes": shapes_for(document)}
